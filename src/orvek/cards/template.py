"""1:1 templates of a cut: the bar with its kerf and stop, the wedge that holds it, a line of 100 mm to check the print.

`template(cut)` is the drawing in mm; `template_pdf`, `template_svg` and `template_dxf` write it.
"""

from __future__ import annotations

import io
import math
from xml.sax.saxutils import escape

from msgspec import Struct

from orvek.cards.sheet import BRASS, CHECK_MM, CHECK_WORDS, INK, QUIET, STOP, Sheet
from orvek.errors import NothingToDoError
from orvek.planning.glue_up.saw import SawCut
from orvek.quantities import Dimension, Units, write

Point = tuple[float, float]
_WEDGE_MM = 100.0
_GAP = 14.0
_COLOURS = {"bar": INK, "blade": STOP, "wedge": BRASS, "check": QUIET}
_DXF_COLOURS = {"bar": 7, "blade": 1, "wedge": 30, "check": 8}


class Line(Struct, frozen=True):
    """A polyline on a layer: bar, blade, wedge or check; y runs down the page."""

    layer: str
    points: tuple[Point, ...]


class Words(Struct, frozen=True):
    """A line of text."""

    x: float
    y: float
    words: str


class Template(Struct, frozen=True):
    """A drawing in mm, from its upper left corner."""

    title: str
    width_mm: float
    height_mm: float
    lines: tuple[Line, ...]
    words: tuple[Words, ...]


def template(cut: SawCut, units: Units | None = None) -> Template:
    """The template of a cut across the bar.

    Raises:
        NothingToDoError: the cut runs along the bar or follows an arc; it is set by the fence or a jig.
    """
    if cut.stop_mm is None or cut.radius_mm is not None:
        raise NothingToDoError("A template", "a straight cut across the bar")
    long, wide = cut.length_mm, cut.across_mm
    slope = 1 / math.tan(math.radians(cut.angle_deg)) if cut.angle_deg < 90 else 0.0
    kerf = cut.kerf_mm / math.sin(math.radians(cut.angle_deg))
    foot = wide if cut.depth_mm is None else cut.depth_mm
    # The fence lies along the lower edge; a tab stays at the edge beyond the blade's reach.
    low, high = (cut.stop_mm, wide), (cut.stop_mm - slope * wide, 0.0)
    end = (cut.stop_mm - slope * (wide - foot), foot) if cut.depth_mm is not None else low
    lines = [
        Line("bar", ((0, 0), (long, 0), (long, wide), (0, wide), (0, 0))),
        Line("blade", (high, end)),
        Line("blade", ((high[0] + kerf, 0.0), (end[0] + kerf, end[1]))),
        Line("blade", (end, (end[0] + kerf, end[1]))),
    ]
    words = [
        Words(
            2,
            wide + 5,
            f"stop {write(cut.stop_mm, Dimension.LENGTH, units)} along this edge, face {cut.face_fence} at the fence",
        ),
        Words(2, -2, f"face {cut.face_down} down · {write(cut.set_deg, Dimension.ANGLE, units)} from square"),
    ]
    top = wide + _GAP
    turn = math.radians(cut.set_deg)
    if cut.set_deg > 0:
        corner = (_WEDGE_MM * math.cos(turn), _WEDGE_MM * math.sin(turn))
        lines.append(Line("wedge", ((0, top), (corner[0], top), (0, top + corner[1]), (0, top))))
        words.append(
            Words(
                corner[0] + 3, top + 5, f"wedge of {write(cut.set_deg, Dimension.ANGLE, units)}, its long side 100 mm"
            )
        )
        top += corner[1] + _GAP
    lines.append(Line("check", ((0, top), (CHECK_MM, top))))
    lines += [Line("check", ((x, top - 2), (x, top + 2))) for x in (0.0, CHECK_MM)]
    words.append(Words(CHECK_MM + 3, top + 1, CHECK_WORDS))
    return Template(cut.title, max(long, 150.0), top + 6, tuple(lines), tuple(words))


def template_pdf(drawing: Template, paper: str) -> bytes:
    """The template on one page, 1:1.

    Raises:
        NothingToDoError: it is longer than the paper.
    """
    sheet = Sheet(paper, drawing.title, "Orvek template, print at 100 %")
    left, top = 15.0, 36.0
    if drawing.width_mm > sheet.width_mm - 2 * left + 10 or drawing.height_mm > sheet.height_mm - top - 10:
        raise NothingToDoError("This template at 1:1", "larger paper; write it as SVG or DXF")
    sheet.text(left, 20, drawing.title, 13, "bold")
    sheet.text(left, 26, "Print at 100 %, no fitting to the page.", 8, colour=QUIET)
    for line in drawing.lines:
        for (x0, y0), (x1, y1) in zip(line.points, line.points[1:], strict=False):
            sheet.line(left + x0, top + y0, left + x1, top + y1, 0.15, _COLOURS[line.layer])
    for word in drawing.words:
        sheet.text(left + word.x, top + word.y, word.words, 8, colour=QUIET)
    return sheet.bytes()


def template_svg(drawing: Template) -> bytes:
    """The template as SVG in mm."""
    margin = 10.0
    width, height = drawing.width_mm + 2 * margin, drawing.height_mm + 2 * margin
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" '
        f'viewBox="{-margin} {-margin} {width:.3f} {height:.3f}">',
        f"<title>{escape(drawing.title)}</title>",
    ]
    for line in drawing.lines:
        points = " ".join(f"{x:.3f},{y:.3f}" for x, y in line.points)
        parts.append(
            f'<polyline class="{line.layer}" points="{points}" fill="none" stroke="{_COLOURS[line.layer]}" '
            'stroke-width="0.15"/>'
        )
    for word in drawing.words:
        parts.append(
            f'<text x="{word.x:.2f}" y="{word.y:.2f}" font-size="3" fill="{QUIET}">{escape(word.words)}</text>'
        )
    return "\n".join([*parts, "</svg>", ""]).encode()


def template_dxf(drawing: Template) -> bytes:
    """The template as DXF in mm, a layer each for bar, blade, wedge and check line; y runs up as drawings have it."""
    import ezdxf
    from ezdxf import units as dxf_units

    document = ezdxf.new("R2010")  # type: ignore[attr-defined]
    document.units = dxf_units.MM
    for layer, colour in _DXF_COLOURS.items():
        document.layers.add(layer, color=colour)
    space = document.modelspace()
    for line in drawing.lines:
        space.add_lwpolyline([(x, -y) for x, y in line.points], dxfattribs={"layer": line.layer})
    for word in drawing.words:
        text = space.add_text(word.words, height=2.5, dxfattribs={"layer": "check"})
        text.set_placement((word.x, -word.y))
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()
