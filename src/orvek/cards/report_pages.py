"""The report as a page of HTML and as a PDF: the same lines as the text, with headings and columns.

`report_html(plan, units)` is one file without anything outside it; `report_pdf(plan, units, paper)` goes on to as many
pages as it needs.
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterator
from dataclasses import dataclass
from html import escape
from typing import Any

from orvek.cards.report import report_text
from orvek.planning import Plan
from orvek.quantities import Units

_TWO_COLUMNS = re.compile(r" +(\S.*?) {2,}(\S.*)")
_STYLE = (
    "body{font:15px/1.45 sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#23272C}"
    "h1{font-size:1.6rem}h2{font-size:1.1rem;margin:1.6rem 0 .3rem}"
    "table{border-collapse:collapse;width:100%}td{padding:.15rem 0;border-bottom:1px solid #DAD4C7}"
    "td+td{text-align:right;font-weight:600}p{margin:.3rem 0}"
)


@dataclass(frozen=True, slots=True)
class Line:
    """One line of the report: a heading, words, or a label with its value."""

    kind: str  # title, heading, words, row
    words: str
    value: str = ""


def report_lines(plan: Plan, units: Units) -> Iterator[Line]:
    """The lines of the text, by what they are."""
    text = report_text(plan, units).splitlines()
    yield Line("title", text[0])
    for line, following in zip(text[2:], [*text[3:], ""], strict=True):
        columns = _TWO_COLUMNS.fullmatch(line)
        if not line.strip():
            continue
        if columns is not None:
            yield Line("row", columns[1], columns[2])
        elif not line.startswith(" ") and following.startswith(" "):
            yield Line("heading", line.rstrip(":"))
        else:
            yield Line("words", line.strip())


def report_html(plan: Plan, units: Units) -> str:
    """The report as one file of HTML."""
    body, in_table = [], False
    tags = {"title": "h1", "heading": "h2", "words": "p"}
    for line in report_lines(plan, units):
        if (line.kind == "row") != in_table:
            in_table = not in_table
            body.append("<table>" if in_table else "</table>")
        if in_table:
            body.append(f"<tr><td>{escape(line.words)}</td><td>{escape(line.value)}</td></tr>")
        else:
            body.append(f"<{tags[line.kind]}>{escape(line.words)}</{tags[line.kind]}>")
    if in_table:
        body.append("</table>")
    name = escape(plan.job.batch.name)
    head = f'<meta charset="utf-8"><title>{name}</title><style>{_STYLE}</style>'
    return f'<!doctype html>\n<html lang="en"><head>{head}</head>\n<body>\n' + "\n".join(body) + "\n</body></html>\n"


def report_pdf(plan: Plan, units: Units, paper: str) -> bytes:
    """The report as a PDF on A4 or Letter; a heading never stands alone at the foot of a page."""
    from reportlab.lib.pagesizes import A4, LETTER
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas
    from reportlab.platypus import SimpleDocTemplate

    name, buffer = plan.job.batch.name, io.BytesIO()
    margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), 18 * mm)
    made = SimpleDocTemplate(
        buffer, pagesize=A4 if paper == "A4" else LETTER, title=f"{name} – report", creator="Orvek", **margins
    )

    def foot(canvas: Canvas, _made: Any) -> None:
        canvas.setFont("OrvekSans-Regular", 8)
        canvas.drawString(18 * mm, 11 * mm, name[:90])
        canvas.drawRightString(made.pagesize[0] - 18 * mm, 11 * mm, f"page {canvas.getPageNumber()}")

    made.build(_flow(tuple(report_lines(plan, units)), made.width - 12), onFirstPage=foot, onLaterPages=foot)
    return buffer.getvalue()


def _flow(lines: tuple[Line, ...], width: float) -> list[Any]:
    from reportlab.lib.colors import HexColor
    from reportlab.lib.enums import TA_RIGHT
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.platypus import Paragraph, Table, TableStyle

    from orvek.cards.sheet import register_fonts

    register_fonts()
    words = ParagraphStyle("words", fontName="OrvekSans-Regular", fontSize=9.5, leading=13)
    styles = {
        "title": ParagraphStyle("title", words, fontName="OrvekSans-SemiBold", fontSize=20, leading=26, spaceAfter=6),
        "heading": ParagraphStyle(
            "heading", words, fontName="OrvekSans-SemiBold", fontSize=11.5, spaceBefore=10, spaceAfter=3, keepWithNext=1
        ),
        "words": words,
    }
    value = ParagraphStyle("value", words, fontName="OrvekSans-Medium", alignment=TA_RIGHT)
    rule = TableStyle(
        [
            ("LINEBELOW", (0, 0), (-1, -1), 0.3, HexColor("#B9B3A6")),
            ("TOPPADDING", (0, 0), (-1, -1), 1),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("RIGHTPADDING", (0, 0), (-1, -1), 0),
        ]
    )
    made: list[Any] = []
    for line in lines:
        if line.kind == "row":
            cells = [Paragraph(escape(line.words), words), Paragraph(escape(line.value), value)]
            made.append(Table([cells], colWidths=[0.62 * width, 0.38 * width], style=rule))
        else:
            made.append(Paragraph(escape(line.words), styles[line.kind]))
    return made
