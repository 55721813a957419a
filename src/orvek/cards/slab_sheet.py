"""The saw list of a slab on paper: a picture with every line, the cuts to tick, then all lines at 1:1, page by page."""

from __future__ import annotations

import io
import math

import numpy as np

from orvek.cards.sheet import FOOT_MM, INK, MARGIN, QUIET, STOP, Ink, Sheet
from orvek.documents import FACES, PhotoStep, Preferences
from orvek.errors import NothingToDoError
from orvek.planning.slabs import cut_lines, how_measured
from orvek.quantities import Dimension, write
from orvek.workpiece.photo import face_of
from orvek.workpiece.slab import Slab, SlabBar
from orvek.workpiece.slab_cuts import SlabCut, cuts

_TOP_MM, _ROW_MM, _PICTURE_MM, _OVERLAP_MM = 34.0, 6.0, 110.0, 6.0
_MOST_TILES = 30  # more paper than this is no help at the saw; a choice
_PX_PER_MM = 4.0


def slab_sheet(
    name: str, album: PhotoStep, slab: Slab, bars: tuple[SlabBar, ...], kerf_mm: float, preferences: Preferences
) -> bytes:
    """A PDF: the list first, then the lines at 1:1 where they go on few enough pages.

    Raises:
        NothingToDoError: no bar is laid.
    """
    if not bars:
        raise NothingToDoError("A saw list", "a bar that lies on the slab")
    lines, units = cuts(slab, bars, kerf_mm), preferences.units
    sheet = Sheet(preferences.paper, f"Saw list of {name}", "Print at 100 %")
    wide = sheet.width_mm - 2 * MARGIN
    sheet.fitted(MARGIN, 20, f"Saw list of {name}", wide, 13, "bold")
    count = f"{len(bars)} bar{'' if len(bars) == 1 else 's'} of {write(bars[0].length_mm, Dimension.LENGTH, units)}"
    size = f"{count} × {write(bars[0].width_mm, Dimension.LENGTH, units)}"
    sheet.text(MARGIN, 26, f"{size}, kerf {write(kerf_mm, Dimension.LENGTH, units)}.", 9, colour=QUIET)
    sheet.fitted(MARGIN, 30, how_measured(slab), wide, 8, colour=QUIET)
    scale = min(wide / slab.length_mm, _PICTURE_MM / slab.width_mm)
    _picture(sheet, album, slab, scale)
    draw(sheet, slab, bars, lines, (MARGIN, _TOP_MM), scale)
    y = _TOP_MM + slab.width_mm * scale + 12
    for words in cut_lines(slab, lines, units):
        y = sheet.room_for(y, _ROW_MM)
        sheet.tick_box(MARGIN, y)
        y = max(y + _ROW_MM, sheet.paragraph(MARGIN + 6, y, words, wide - 6, 9) + 1.5)
    _tiles(sheet, slab, bars, lines, y)
    return sheet.bytes()


def draw(
    ink: Ink,
    slab: Slab,
    bars: tuple[SlabBar, ...],
    lines: tuple[SlabCut, ...],
    origin: tuple[float, float],
    scale: float,
    window: tuple[float, float, float, float] | None = None,
) -> None:
    """The slab's edge, its bad places, the bars and the saw lines with their numbers.

    `window` is what of the slab is drawn, in mm: from x, y to x, y; the rest is left out.
    """

    def stroke(begin: tuple[float, float], end: tuple[float, float], width: float, colour: str) -> None:
        part = _within(begin, end, window)
        if part is not None:
            (x0, y0), (x1, y1) = part
            ink.line(*_at(origin, scale, x0, y0), *_at(origin, scale, x1, y1), width, colour)

    def ring(points: list[tuple[float, float]], width: float, colour: str) -> None:
        for begin, end in zip(points, (*points[1:], points[0]), strict=True):
            stroke(begin, end, width, colour)

    ring(list(slab.edge), 0.4, INK)
    for x, y, size in slab.bad:
        angles = np.linspace(0, 2 * math.pi, 24, endpoint=False)
        ring([(x + size / 2 * math.cos(a), y + size / 2 * math.sin(a)) for a in angles.tolist()], 0.3, INK)
    for x0, y0, x1, y1, _ in slab.cracks:
        stroke((x0, y0), (x1, y1), 0.5, INK)
    for number, bar in enumerate(bars, 1):
        ring([(float(x), float(y)) for x, y in bar.corners()], 0.15, QUIET)
        if window is None or (window[0] <= bar.x_mm <= window[2] and window[1] <= bar.y_mm <= window[3]):
            x, y = _at(origin, scale, bar.x_mm, bar.y_mm)
            ink.box(x - 3.5, y - 3, 7, 4.6, fill="#ffffff", colour=None)
            ink.text(x, y + 0.6, str(number), 9, "bold", align="centre")
    for number, line in enumerate(lines, 1):
        for ends in line.parts:
            stroke(*ends, 0.25, STOP)
            part = _within(*ends, window)
            if part is not None:
                x, y = _at(origin, scale, *part[0])
                ink.box(x - 2.6, y - 2, 5.2, 4, fill="#ffffff", colour=STOP)
                ink.text(x, y + 1.1, str(number), 8, "bold", STOP, align="centre")


def _picture(sheet: Sheet, album: PhotoStep, slab: Slab, scale: float) -> None:
    """The slab's upper face, as it was photographed."""
    from PIL import Image

    view = next((view for view in album.views if view.azimuth_deg == FACES["A"]), None)
    flat = face_of(view, slab.length_mm, slab.width_mm, min(_PX_PER_MM, 1600 / slab.length_mm)) if view else None
    if flat is None:
        return
    png = io.BytesIO()
    pale = (255 - (255 - flat.astype(np.uint16)) * 11 // 20).astype(np.uint8)  # lines and numbers are read on it
    Image.fromarray(pale).save(png, "PNG")
    png.seek(0)
    sheet.picture(MARGIN, _TOP_MM, slab.length_mm * scale, slab.width_mm * scale, png)


def _tiles(sheet: Sheet, slab: Slab, bars: tuple[SlabBar, ...], lines: tuple[SlabCut, ...], y: float) -> None:
    """All lines at 1:1, on pages that lie beside each other with a little overlap."""
    room = sheet.width_mm - 2 * MARGIN, sheet.height_mm - _TOP_MM - FOOT_MM - 8
    step = room[0] - _OVERLAP_MM, room[1] - _OVERLAP_MM
    columns, rows = (max(1, math.ceil((size - _OVERLAP_MM) / one)) for size, one in zip(
        (slab.length_mm, slab.width_mm), step, strict=True
    ))  # fmt: skip
    if columns * rows > _MOST_TILES:
        y = sheet.room_for(y + 4, 8)
        told = f"The lines at 1:1 would take {columns * rows} pages of this paper: mark them by the list."
        sheet.text(MARGIN, y, told, 9, colour=QUIET)
        return
    for row in range(rows):
        for column in range(columns):
            sheet.turn()
            x0, y0 = column * step[0], row * step[1]
            x1, y1 = min(slab.length_mm, x0 + room[0]), min(slab.width_mm, y0 + room[1])
            place = f"1:1, row {row + 1} of {rows}, page {column + 1} of {columns} from the left."
            sheet.text(MARGIN, 24, f"{place} Lay the corner marks of two pages on each other and tape them.", 9)
            sheet.check_line(MARGIN, 29)
            origin = MARGIN - x0, _TOP_MM - y0
            draw(sheet, slab, bars, lines, origin, 1.0, (x0, y0, x1, y1))
            for x in (x0 + _OVERLAP_MM / 2, x1 - _OVERLAP_MM / 2):
                for down in (y0 + _OVERLAP_MM / 2, y1 - _OVERLAP_MM / 2):
                    _cross(sheet, *_at(origin, 1.0, x, down))


def _cross(ink: Ink, x: float, y: float) -> None:
    ink.line(x - 2, y, x + 2, y, 0.15, INK)
    ink.line(x, y - 2, x, y + 2, 0.15, INK)


def _at(origin: tuple[float, float], scale: float, x: float, y: float) -> tuple[float, float]:
    return origin[0] + x * scale, origin[1] + y * scale


def _within(
    begin: tuple[float, float], end: tuple[float, float], window: tuple[float, float, float, float] | None
) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """What of a line lies in a window; None where nothing does (Liang and Barsky 1984)."""
    if window is None:
        return begin, end
    (x0, y0), (x1, y1) = begin, end
    low, high = 0.0, 1.0
    for run, start, least, most in ((x1 - x0, x0, window[0], window[2]), (y1 - y0, y0, window[1], window[3])):
        if abs(run) < 1e-12:
            if not least <= start <= most:
                return None
            continue
        first, last = sorted(((least - start) / run, (most - start) / run))
        low, high = max(low, first), min(high, last)
    if low > high:
        return None
    return (x0 + low * (x1 - x0), y0 + low * (y1 - y0)), (x0 + high * (x1 - x0), y0 + high * (y1 - y0))
