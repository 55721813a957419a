"""What the cards of the bench share: their head, steps to be ticked, and what to take care of."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from orvek.cards.sheet import QUIET, Sheet
from orvek.documents import Shop
from orvek.planning import Plan
from orvek.planning.results import Caution

MARGIN = 15.0
_QR = 24.0


def bench_card(plan: Plan, shop: Shop, kind: str, line: str, today: date) -> Sheet:
    """A sheet with its kind, the job's name, a line on it and the job's code; what follows begins below 42 mm."""
    batch = plan.job.batch
    sheet = Sheet(shop.preferences.paper, f"{batch.name} – {kind.lower()}", f"Orvek job {batch.id}")
    right = sheet.width_mm - MARGIN
    wide = right - MARGIN - _QR - 8
    sheet.text(MARGIN, 19, kind, 9, "medium", QUIET)
    sheet.fitted(MARGIN, 27.5, batch.name, wide, 22, "bold")
    sheet.fitted(MARGIN, 33.5, f"{line} · {today:%d %B %Y}", wide, 9.5)
    sheet.qr(right - _QR, 14, _QR, f"orvek:job:{batch.id}")
    return sheet


def ticked(sheet: Sheet, y: float, title: str, lines: Iterable[str]) -> float:
    """Steps with a box each. Returns where the next line goes."""
    wide = sheet.width_mm - 2 * MARGIN - 6
    y = sheet.room_for(y, 14)
    sheet.text(MARGIN, y + 4, title, 11, "bold")
    y += 9.5
    for words in lines:
        y = sheet.room_for(y, sheet.lines(words, wide, 9.5) * 4.4)
        sheet.tick_box(MARGIN, y)
        y = sheet.paragraph(MARGIN + 6, y, words, wide, 9.5) + 1
    return y


def take_care(sheet: Sheet, y: float, cautions: Iterable[Caution]) -> float:
    """What can hurt, all of it on one page. Returns where the next line goes."""
    wide = sheet.width_mm - 2 * MARGIN - 4
    told = [caution.words for caution in cautions]
    y = sheet.room_for(y, 9 + sum(sheet.lines(words, wide, 8.5) * 3.91 + 0.7 for words in told))
    sheet.text(MARGIN, y + 4, "Take care", 11, "bold")
    y += 9
    for words in told:
        sheet.text(MARGIN, y, "–", 8.5)
        y = sheet.paragraph(MARGIN + 3.5, y, words, wide, 8.5) + 0.7
    return y


def cautions_at(plan: Plan, station: str) -> list[Caution]:
    """The cautions of one station, by their keys."""
    return [caution for caution in plan.cautions if caution.key.startswith(f"{station}.")]
