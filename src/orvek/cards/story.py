"""Cards that flow: paragraphs, tables and drawings one after another, on as many pages as they need.

`Story` collects them and `pdf()` lays them out with ReportLab's Platypus: the first page under its head, later ones
under the title and their number. Headings are never alone at a foot, heads of tables stand on every page.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Iterable, Sequence
from html import escape
from typing import Any

from reportlab.lib.colors import HexColor
from reportlab.lib.enums import TA_CENTER, TA_LEFT, TA_RIGHT
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    KeepTogether,
    NextPageTemplate,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
)

from orvek.cards.sheet import FONTS, FOOT_MM, HAIRLINE, INK, MARGIN, Ink, page_size, register_fonts

_LATER_MM = 21.0  # where later pages begin, under their head
_ALIGNED = {"left": TA_LEFT, "right": TA_RIGHT, "centre": TA_CENTER}
_LEADING = 1.3

Cell = Any  # a flowable, several one under another, or plain words
Paint = Callable[[Ink], None]


class Story:
    """What stands on a card, in its order. Lengths are in mm."""

    def __init__(
        self, paper: str, title: str, subject: str, head_mm: float = MARGIN, head: Paint | None = None
    ) -> None:
        register_fonts()
        self._size, self._title, self._subject = page_size(paper), title, subject
        self._head_mm, self._head = head_mm, head
        self._parts: list[Flowable] = [NextPageTemplate("later")]
        self.wide_mm = self._size[0] / mm - 2 * MARGIN
        self.pages = 0

    def add(self, *parts: Flowable) -> None:
        """Put these under what is there."""
        self._parts += parts

    def pdf(self) -> bytes:
        """The finished PDF; `pages` says then how many it has. A story is laid out once."""
        buffer = io.BytesIO()
        made = BaseDocTemplate(buffer, pagesize=self._size, title=self._title, subject=self._subject, creator="Orvek")
        made.addPageTemplates(
            [
                PageTemplate("first", [self._frame(self._head_mm)], onPage=self._on_first),
                PageTemplate("later", [self._frame(_LATER_MM)], onPage=self._on_later),
            ]
        )
        made.build(self._parts)
        self.pages = made.page
        return buffer.getvalue()

    def _frame(self, head_mm: float) -> Frame:
        width, height = self._size
        none = dict.fromkeys(("leftPadding", "rightPadding", "topPadding", "bottomPadding"), 0)
        tall = height - (head_mm + FOOT_MM) * mm
        return Frame(MARGIN * mm, FOOT_MM * mm, width - 2 * MARGIN * mm, tall, **none)

    def _on_first(self, canvas: Canvas, _made: Any) -> None:
        if self._head is not None:
            self._head(Ink(canvas, self._size[1]))

    def _on_later(self, canvas: Canvas, _made: Any) -> None:
        Ink(canvas, self._size[1]).page_head(self._title, canvas.getPageNumber(), self._size[0] / mm)


def words(
    text: str,
    size: float = 9.5,
    weight: str = "regular",
    colour: str = INK,
    align: str = "left",
    after_mm: float = 0.0,
    *,
    stays_with_next: bool = False,
) -> Paragraph:
    """A paragraph; `size` in points."""
    style = ParagraphStyle(
        "words", fontName=FONTS[weight], fontSize=size, leading=size * _LEADING, textColor=HexColor(colour),
        alignment=_ALIGNED[align], spaceAfter=after_mm * mm, keepWithNext=int(stays_with_next),
    )  # fmt: skip
    return Paragraph(escape(text), style)


def line_mm(size: float) -> float:
    """How high a line of words of so many points is."""
    return float(size * _LEADING / mm)


def heading(text: str) -> Paragraph:
    """The words above a part of a card."""
    return words(text, 11, "bold", after_mm=1.5, stays_with_next=True)


def gap(tall_mm: float) -> Spacer:
    """Nothing, so high."""
    return Spacer(1, tall_mm * mm)


def together(*parts: Flowable) -> KeepTogether:
    """Parts that go on to another page all together, where one page has room for them."""
    return KeepTogether(list(parts))


class Drawing(Flowable):  # type: ignore[misc]  # ReportLab has no types
    """Something that is painted, with its top left corner at 0, 0."""

    def __init__(self, wide_mm: float, tall_mm: float, paint: Paint) -> None:
        super().__init__()
        self.width, self.height, self._paint = wide_mm * mm, tall_mm * mm, paint

    def draw(self) -> None:
        """Called by Platypus with the canvas's origin at the lower left corner."""
        self._paint(Ink(self.canv, self.height))


def tick_box(size_mm: float = 3.0) -> Drawing:
    """An empty box to tick."""
    return Drawing(size_mm, size_mm + 0.4, lambda ink: ink.box(0, 0.4, size_mm, size_mm))


def blank_line(wide_mm: float) -> Drawing:
    """A line to write on, as high as a line of words."""
    return Drawing(wide_mm, 4.4, lambda ink: ink.line(0, 4.2, wide_mm, 4.2, 0.15))


def table(
    rows: Sequence[Sequence[Cell]],
    wide_mm: Sequence[float],
    *,
    heads: int = 0,
    ruled: bool = True,
    pad_mm: float = 0.6,
    valign: str = "TOP",
    style: Sequence[tuple[Any, ...]] = (),
) -> Table:
    """Rows of cells; the first `heads` of them stand on every page.

    Args:
        rows: of as many cells each as there are widths.
        wide_mm: of each column.
        heads: rows that are repeated.
        ruled: a hairline under each row.
        pad_mm: room above and below each cell.
        valign: where cells stand that are lower than their row: "TOP", "MIDDLE" or "BOTTOM".
        style: more commands of Platypus, after these.
    """
    commands: list[tuple[Any, ...]] = [
        ("LEFTPADDING", (0, 0), (-1, -1), 0),
        ("RIGHTPADDING", (0, 0), (-1, -1), 0),
        ("TOPPADDING", (0, 0), (-1, -1), pad_mm * mm),
        ("BOTTOMPADDING", (0, 0), (-1, -1), pad_mm * mm),
        ("VALIGN", (0, 0), (-1, -1), valign),
    ]
    if ruled:
        commands.append(("LINEBELOW", (0, 0), (-1, -1), 0.15 * mm, HexColor(HAIRLINE)))
    made = Table(
        [[list(cell) if isinstance(cell, list | tuple) else cell for cell in row] for row in rows],
        colWidths=[wide * mm for wide in wide_mm],
        repeatRows=heads,
        hAlign="LEFT",
    )
    made.setStyle([*commands, *style])
    return made


def ticked(story: Story, title: str, lines: Iterable[str]) -> None:
    """Steps with a box each, under a title that stands on every page they need."""
    wide = story.wide_mm
    rows: list[list[Cell]] = [[heading(title), ""], *([tick_box(), words(line)] for line in lines)]
    style = [("SPAN", (0, 0), (-1, 0))]
    story.add(table(rows, (6, wide - 6), heads=1, ruled=False, pad_mm=0.4, style=style), gap(2.5))
