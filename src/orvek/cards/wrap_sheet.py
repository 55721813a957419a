"""The printed sheets 1:1: each with its picture at 360 dots an inch, its cutting line, crop marks and check lines."""

from __future__ import annotations

import io
import math
from datetime import date
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from orvek.cards.sheet import INK, MARGIN, QUIET, STOP, Sheet, job_line
from orvek.craft.rolling_out import flat, on_barrel, outline
from orvek.documents import Shop, WrapStep
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.finish.results import WrapSheet
from orvek.workpiece.artwork import printed

DPI = 360
_TOP, _MARK, _CHECK_MM = 34.0, 4.0, 50.0
_HEAD_MM, _FOOT_MM, _APART_MM = 10.0, 8.0, 6.0


def wrap_sheets(plan: Plan, shop: Shop, today: date) -> bytes:
    """All sheets of a job, to be printed at 100 %.

    Raises:
        NothingToDoError: there is no printed sheet with a picture, or it is larger than the paper.
        CannotReadError: the picture is gone or damaged.
    """
    wrap = plan.finish.wrap if plan.finish else None
    if wrap is None or wrap.step.artwork is None or wrap.step.pattern != "picture":
        raise NothingToDoError("A printed sheet", "a step with a printed sheet and a picture on it")
    sheet = Sheet(shop.preferences.paper, f"{plan.job.batch.name} – printed sheet", "Print at 100 %")
    sheet.text(MARGIN, 18, f"{plan.job.batch.name}: printed sheet", 12, "bold")
    sheet.text(sheet.width_mm - MARGIN, 18, job_line(plan.job.batch.id, today), 8, colour=QUIET, align="right")
    sheet.text(MARGIN, 24, "Print at 100 %, no fitting to the page, on the finest paper setting.", 9)
    y = _check_lines(sheet)
    _place(sheet, y, [_Block.of(one, wrap.step, plan, sheet) for one in wrap.sheets], plan)
    return sheet.bytes()


def _check_lines(sheet: Sheet) -> float:
    """A line along and one across, to be measured. Returns where the next thing goes."""
    right = sheet.width_mm - MARGIN
    sheet.line(MARGIN, 29, MARGIN + _CHECK_MM, 29, 0.2, INK)
    sheet.line(right, 18, right, 18 + _CHECK_MM, 0.2, INK)
    for end in (0.0, _CHECK_MM):
        sheet.line(MARGIN + end, 27.5, MARGIN + end, 30.5, 0.2, INK)
        sheet.line(right - 1.5, 18 + end, right + 1.5, 18 + end, 0.2, INK)
    sheet.text(MARGIN + _CHECK_MM + 2, 30, "this line and the one at the right are 50 mm long, or all is wrong", 8)
    return _TOP + 6


class _Block(NamedTuple):
    """One sheet as it lies on the page: turned where it is too long to lie along it."""

    one: WrapSheet
    png: bytes
    is_turned: bool
    wide_mm: float
    tall_mm: float

    @classmethod
    def of(cls, one: WrapSheet, step: WrapStep, plan: Plan, sheet: Sheet) -> _Block:
        """A sheet laid out for a paper.

        Raises:
            NothingToDoError: it is larger than the paper.
        """
        x_edge, y_edge = outline(one.flat)
        long, wide = float(np.ptp(x_edge)), float(np.ptp(y_edge))
        room = sheet.width_mm - 2 * MARGIN - 12
        is_turned = long > room
        across, down = (wide, long) if is_turned else (long, wide)
        if across > room or down > sheet.height_mm - 70:
            size = f"{plan.units.mm(long)} × {plan.units.mm(wide)}"
            raise NothingToDoError(f"A printed sheet of {size}", "larger paper")
        pixels = sheet_pixels(one, step)
        return cls(one, _png(np.rot90(pixels, -1) if is_turned else pixels), is_turned, across, down)


def _png(pixels: NDArray[np.uint8]) -> bytes:
    from PIL import Image

    png = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(pixels)).save(png, "PNG", dpi=(DPI, DPI))
    return png.getvalue()


def _place(sheet: Sheet, y: float, blocks: list[_Block], plan: Plan) -> None:
    """A sheet for each blank, or each bar that is cast over, beside each other as long as they go on the page."""
    x, row_mm, right = MARGIN + 6, 0.0, sheet.width_mm - MARGIN - 6
    for block in blocks:
        many = plan.bars.bars if block.one.number is None else plan.bars.blanks
        for copy in range(1, max(1, round(many.value)) + 1):
            if x > MARGIN + 6 and x + block.wide_mm > right:
                x, y, row_mm = MARGIN + 6, y + row_mm, 0.0
            if x == MARGIN + 6:
                y = sheet.room_for(y, block.tall_mm + _HEAD_MM + _FOOT_MM)
            _sheet(sheet, x, y, block, f"{block.one.name} {copy}, {plan.units.mm(block.one.long_mm)}")
            x += block.wide_mm + _APART_MM
            row_mm = max(row_mm, block.tall_mm + _HEAD_MM + _FOOT_MM)


def _sheet(sheet: Sheet, x_mm: float, y: float, block: _Block, words: str) -> None:
    """One sheet with its marks and its name above it."""
    one, is_turned, across, down = block.one, block.is_turned, block.wide_mm, block.tall_mm
    x_edge, y_edge = outline(one.flat)
    left, top = float(x_edge.min()), float(y_edge.min())
    wide = float(np.ptp(y_edge))
    sheet.fitted(x_mm, y + 3, words, max(across, 20.0), 8, "medium")
    y += _HEAD_MM
    sheet.picture(x_mm, y, across, down, io.BytesIO(block.png))

    def place(px: float, py: float) -> tuple[float, float]:
        if is_turned:
            return x_mm + (wide - (py - top)), y + (px - left)
        return x_mm + (px - left), y + (py - top)

    edge = [place(float(px), float(py)) for px, py in zip(x_edge, y_edge, strict=True)]
    for (x0, y0), (x1, y1) in zip(edge, [*edge[1:], edge[0]], strict=True):
        sheet.line(x0, y0, x1, y1, 0.12, QUIET)
    _end_lines(sheet, one, place)
    for cx in (x_mm, x_mm + across):
        for cy, way in ((y, -1), (y + down, 1)):
            sheet.line(cx, cy + way, cx, cy + way * (_MARK + 1), 0.12, INK)


def _end_lines(sheet: Sheet, one: WrapSheet, place) -> None:  # type: ignore[no-untyped-def]
    """Where the barrel's own ends lie, beside the sheet, in red: what lies beyond them is sanded off."""
    for along in (0.0, one.flat.slant_mm):
        for theta in (0.0, one.flat.turn):
            px, py = flat(one.flat, np.array([along]), np.array([theta]))
            x, y = place(float(px[0]), float(py[0]))
            sheet.disc(x, y, 0.8, STOP)


def sheet_pixels(one: WrapSheet, step: WrapStep, dpi: float = DPI) -> NDArray[np.uint8]:
    """The sheet's picture on the flat, white where it is cut away: (rows, columns, 3), rows from the top.

    Raises:
        CannotReadError: the picture is gone or damaged.
    """
    x_edge, y_edge = outline(one.flat)
    scale = dpi / 25.4
    columns, rows = (max(2, math.ceil(float(np.ptp(edge)) * scale)) for edge in (x_edge, y_edge))
    x = float(x_edge.min()) + (np.arange(columns) + 0.5) / columns * float(np.ptp(x_edge))
    y = float(y_edge.min()) + (np.arange(rows) + 0.5) / rows * float(np.ptp(y_edge))
    along, theta = on_barrel(one.flat, *np.meshgrid(x, y))
    z = one.begins_mm + along / one.flat.slant_mm * one.length_mm
    found = printed(step, z, theta / (2 * np.pi) + step.seam_deg / 360)
    bleed = one.flat.bleed_mm
    outside = (along < -bleed) | (along > one.flat.slant_mm + bleed) | (theta < 0) | (theta > one.flat.turn)
    found[outside] = 255
    return found
