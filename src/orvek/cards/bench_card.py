"""What the cards of the bench share: their head, what forbids the work, and what to take care of."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from reportlab.lib.units import mm

from orvek.cards.sheet import MARGIN, QUIET, STOP, Ink, job_line, page_size
from orvek.cards.story import Story, gap, heading, table, together, words
from orvek.documents import Shop
from orvek.planning import Plan, Severity, Station
from orvek.planning.findings import Caution

_QR = 24.0
_MOST_STOPS = 3


def bench_card(plan: Plan, shop: Shop, kind: str, line: str, today: date, small: str = "") -> Story:
    """A card with its kind, the job's name, a line on it, a small one, and the job's code."""
    batch, paper = plan.job.batch, shop.preferences.paper
    right = page_size(paper)[0] / mm - MARGIN
    wide = right - MARGIN - _QR - 8

    def head(ink: Ink) -> None:
        ink.text(MARGIN, 19, kind, 9, "medium", QUIET)
        ink.fitted(MARGIN, 27.5, batch.name, wide, 22, "bold")
        ink.fitted(MARGIN, 33.5, line, wide, 9.5)
        ink.text(MARGIN, 38.5, job_line(batch.id, today, small), 8, colour=QUIET)
        ink.qr(right - _QR, 14, _QR, f"orvek:job:{batch.id}")

    return Story(paper, f"{batch.name} – {kind.lower()}", f"Orvek job {batch.id}", 42.0, head)


def stops(story: Story, plan: Plan, station: Station | None = None) -> None:
    """What forbids the work stands above everything else; at one station, or at any."""
    there = [one for one in plan.findings if one.severity is Severity.STOP and station in (None, one.station)]
    for finding in there[:_MOST_STOPS]:
        told = words(f"{finding.severity.words}. {finding.title} {finding.because}", 9, "medium", STOP)
        bar = [("LINEBEFORE", (0, 0), (0, -1), 0.8 * mm, STOP), ("LEFTPADDING", (0, 0), (0, -1), 8)]
        story.add(table([[told]], (story.wide_mm,), ruled=False, style=bar), gap(1.5))


def take_care(story: Story, cautions: Iterable[Caution]) -> None:
    """What can hurt, all of it on one page."""
    rows = [[words("–", 8.5), words(caution.words, 8.5)] for caution in cautions]
    if rows:
        listed = table(rows, (3.5, story.wide_mm - 3.5), ruled=False, pad_mm=0.25)
        story.add(together(heading("Take care"), listed))


def cautions_at(plan: Plan, station: str) -> list[Caution]:
    """The cautions of one station, by their keys."""
    return [caution for caution in plan.cautions if caution.key.startswith(f"{station}.")]
