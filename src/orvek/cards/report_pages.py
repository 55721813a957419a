"""The report as a page of HTML and as a PDF: the same lines as the text, with headings and columns.

`report_html(plan, units)` is one file without anything outside it; `report_pdf(plan, units, paper)` goes on to as many
pages as it needs.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from html import escape
from itertools import groupby

from msgspec import Struct

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


class Line(Struct, frozen=True):
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
    from orvek.cards.story import Story, gap, table, words

    story = Story(paper, f"{plan.job.batch.name} – report", f"Orvek job {plan.job.batch.id}")
    for kind, found in groupby(report_lines(plan, units), key=lambda line: line.kind):
        lines = list(found)
        if kind == "row":
            rows = [[words(line.words), words(line.value, 9.5, "medium", align="right")] for line in lines]
            story.add(table(rows, (0.62 * story.wide_mm, 0.38 * story.wide_mm), pad_mm=0.5))
        elif kind == "title":
            story.add(*(words(line.words, 20, "bold", after_mm=2) for line in lines))
        elif kind == "heading":
            story.add(gap(3), *(words(line.words, 11.5, "bold", after_mm=1, stays_with_next=True) for line in lines))
        else:
            story.add(*(words(line.words, after_mm=0.6) for line in lines))
    return story.pdf()
