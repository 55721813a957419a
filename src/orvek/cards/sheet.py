"""Ink on paper: lines, boxes, words in the shipped font, a QR code; and a `Sheet` that is drawn from corner to corner.

All lengths are in mm from the top left corner; ReportLab's own points stay in here. What flows on to more pages is a
`Story`.
"""

from __future__ import annotations

import io
from datetime import date
from importlib import resources

import segno
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from orvek.quantities import write_date

INK, QUIET, HAIRLINE, BRASS, STOP = "#23272C", "#5F6266", "#B9B3A6", "#B58A3A", "#B3261E"
FONTS = {"regular": "OrvekSans-Regular", "medium": "OrvekSans-Medium", "bold": "OrvekSans-SemiBold"}


CHECK_MM, CHECK_WORDS = 100.0, "this line is 100 mm long, or the print is not 1:1"
MARGIN, FOOT_MM = 15.0, 12.0  # at the sides; nothing is written lower


def register_fonts() -> None:
    """Make the shipped fonts known to ReportLab, once."""
    for name in FONTS.values():
        if name not in pdfmetrics.getRegisteredFontNames():
            data = resources.files("orvek.data").joinpath("fonts", f"{name}.ttf").read_bytes()
            pdfmetrics.registerFont(TTFont(name, io.BytesIO(data)))


_PAPERS = {"A4": A4, "label roll": (62 * mm, 29 * mm)}


LEAST_PT = 8.0  # what can be read at a machine


def job_line(job_id: str, today: date, words: str = "") -> str:
    """Whose a card is and of which day; `words` in place of the job's code."""
    return f"{words or f'Job {job_id}'} · {write_date(today)}"


def page_size(paper: str) -> tuple[float, float]:
    """Width and height in points."""
    width, height = _PAPERS.get(paper, LETTER)
    return float(width), float(height)


class Ink:
    """What is drawn on a canvas that begins at its top left corner and is so many points high."""

    def __init__(self, canvas: Canvas, height: float) -> None:
        self._canvas, self._height = canvas, height

    def page_head(self, title: str, page: int, width_mm: float) -> None:
        """What stands above a page that is not the first: the title and the page's number."""
        right = width_mm - MARGIN
        self.text(MARGIN, 15, title, 9, "medium", QUIET)
        self.text(right, 15, f"page {page}", 9, colour=QUIET, align="right")
        self.line(MARGIN, 18, right, 18)

    def text(
        self,
        x: float,
        y: float,
        words: str,
        size: float = 9,
        weight: str = "regular",
        colour: str = INK,
        align: str = "left",
    ) -> None:
        """Write one line with its baseline at y; `align` says what x is: left, right or centre."""
        self._canvas.setFont(FONTS[weight], size)
        self._canvas.setFillColor(HexColor(colour))
        draw = {
            "left": self._canvas.drawString,
            "right": self._canvas.drawRightString,
            "centre": self._canvas.drawCentredString,
        }[align]
        draw(x * mm, self._height - y * mm, words)

    def fitted(
        self,
        x: float,
        y: float,
        words: str,
        width: float,
        size: float = 9,
        weight: str = "regular",
        colour: str = INK,
        least: float = LEAST_PT,
    ) -> None:
        """Write one line, made smaller where it would be wider than `width` mm; what is too long even then is cut."""

        def wide(line: str, points: float) -> float:
            return float(pdfmetrics.stringWidth(line, FONTS[weight], points)) / float(mm)

        fits = size * min(1.0, width / (wide(words, size) or width))
        if fits < least:
            fits = least
            cut = next((n for n in range(len(words), 0, -1) if wide(f"{words[:n].rstrip()}…", least) <= width), 0)
            words = f"{words[:cut].rstrip()}…"
        self.text(x, y, words, fits, weight, colour)

    def paragraph(
        self, x: float, y: float, words: str, width: float, size: float = 9, weight: str = "regular", colour: str = INK
    ) -> float:
        """Write lines wrapped to `width` mm, the first baseline at y. Returns the next baseline."""
        for line in simpleSplit(words, FONTS[weight], size, width * mm):
            self.text(x, y, line, size, weight, colour)
            y += size * 0.46
        return y

    def line(self, x0: float, y0: float, x1: float, y1: float, width: float = 0.2, colour: str = HAIRLINE) -> None:
        """Draw a line; `width` in mm."""
        self._canvas.setStrokeColor(HexColor(colour))
        self._canvas.setLineWidth(width * mm)
        self._canvas.line(x0 * mm, self._height - y0 * mm, x1 * mm, self._height - y1 * mm)

    def box(
        self, x: float, y: float, width: float, height: float, fill: str | None = None, colour: str | None = INK
    ) -> None:
        """Draw a rectangle from its top left corner."""
        if fill:
            self._canvas.setFillColor(HexColor(fill))
        if colour:
            self._canvas.setStrokeColor(HexColor(colour))
            self._canvas.setLineWidth(0.2 * mm)
        bottom = self._height - (y + height) * mm
        self._canvas.rect(x * mm, bottom, width * mm, height * mm, stroke=int(bool(colour)), fill=int(bool(fill)))

    def picture(self, x: float, y: float, width: float, height: float, png: io.BytesIO) -> None:
        """Put a PNG into a rectangle, from its top left corner."""
        bottom = self._height - (y + height) * mm
        self._canvas.drawImage(ImageReader(png), x * mm, bottom, width * mm, height * mm)

    def check_line(self, x: float, y: float) -> None:
        """A line of 100 mm to measure, with what it is for beside it."""
        self.line(x, y, x + CHECK_MM, y, 0.3, INK)
        for end in (x, x + CHECK_MM):
            self.line(end, y - 1.75, end, y + 1.75, 0.3, INK)
        self.text(x + CHECK_MM + 3, y + 1, CHECK_WORDS, 8, colour=QUIET)

    def disc(self, x: float, y: float, diameter: float, fill: str) -> None:
        """Draw a filled circle about its centre."""
        self._canvas.setFillColor(HexColor(fill))
        self._canvas.setStrokeColor(HexColor(INK))
        self._canvas.setLineWidth(0.15 * mm)
        self._canvas.circle(x * mm, self._height - y * mm, diameter / 2 * mm, stroke=1, fill=1)

    def tick_box(self, x: float, baseline: float, size: float = 3.0) -> None:
        """An empty box to tick, standing on the baseline."""
        self.box(x, baseline - size + 0.4, size, size, colour=INK)

    def qr(self, x: float, y: float, size: float, content: str) -> None:
        """A QR code of `content` in a square of `size` mm."""
        matrix = segno.make(content, error="m", micro=False).matrix
        step = size / len(matrix)
        for row, cells in enumerate(matrix):
            for column, dark in enumerate(cells):
                if dark:
                    self.box(x + column * step, y + row * step, step, step, fill="#000000", colour=None)


class Sheet(Ink):
    """Pages under one title, most often one. `paper` is "A4", "Letter" or "label roll"."""

    def __init__(self, paper: str, title: str, subject: str) -> None:
        self._title, self._pages = title, 1
        width, height = page_size(paper)
        self._buffer = io.BytesIO()
        super().__init__(Canvas(self._buffer, pagesize=(width, height), pageCompression=1), height)
        self._canvas.setTitle(title)
        self._canvas.setSubject(subject)
        self._canvas.setCreator("Orvek")
        self.width_mm, self.height_mm = width / mm, height / mm
        register_fonts()

    def bytes(self) -> bytes:
        """The finished PDF."""
        self._canvas.showPage()
        self._canvas.save()
        return self._buffer.getvalue()

    def blank_page(self) -> None:
        """Another page, with nothing on it yet."""
        self._canvas.showPage()

    def room_for(self, y: float, needed: float) -> float:
        """Where something `needed` mm high goes: at y, or at the top of another page where it would not fit."""
        return y if y + needed <= self.height_mm - FOOT_MM else self.turn()

    def turn(self) -> float:
        """Begin another page under the title and its number. Returns where its first line goes."""
        self._canvas.showPage()
        self._pages += 1
        self.page_head(self._title, self._pages, self.width_mm)
        return 24.0
