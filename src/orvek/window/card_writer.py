"""What leaves the program from the window's menu: every card and template, by one table."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import NamedTuple

from PySide6.QtWidgets import QFileDialog, QWidget

from orvek.errors import NothingToDoError, OrvekError
from orvek.files import safe_name
from orvek.planning import Plan, Station
from orvek.planning.route.stations import rare_pages, stations_of
from orvek.window.session import Session


class Card(NamedTuple):
    """A card as the menus offer it; `station` is where its operations are decided, None for one of the whole job."""

    words: str
    kind: str
    suffix: str = ".pdf"
    station: Station | None = None


CARDS = (
    Card("traveller", "traveller"),
    Card("soak card", "soak", station=Station.SOAK),
    Card("pour card", "pour", station=Station.POUR),
    Card("cure card", "cure", station=Station.POUR),
    Card("cut list", "cuts", station=Station.GLUE_UP),
    Card("settings card", "settings", station=Station.GLUE_UP),
    Card("glue-up card", "glue-up", station=Station.GLUE_UP),
    Card("cut list", "csv", ".csv", station=Station.GLUE_UP),
    *(Card("template of this cut", "template", suffix, Station.GLUE_UP) for suffix in (".pdf", ".svg", ".dxf")),
    Card("boring card", "bore", station=Station.BORE),
    Card("marking strip", "strip", station=Station.BORE),
    Card("printed sheet 1:1", "wrap", station=Station.FINISH),
    Card("finish and press card", "finish", station=Station.FINISH),
    Card("week's card", "week", station=Station.BATCH),
)
PRINTED = {card.kind: card.words for card in CARDS if card.suffix == ".pdf"} | {"report": "report"}


def cards_of(plan: Plan) -> tuple[Card, ...]:
    """The cards that a job has, in the order of its route, those of the whole job first."""
    order, rare = [None, *stations_of(plan)], rare_pages(plan)
    own = [card for card in CARDS if card.station in order and card.kind not in rare]
    return tuple(sorted(own, key=lambda card: order.index(card.station)))


class CardWriter:
    """Writes cards of the job in hand."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self._session, self._parent = session, parent

    def ask(self, words: str, kind: str, suffix: str) -> None:
        """Ask where a card goes, then write it there."""
        suggested = f"{safe_name(self._session.job.batch.name)} {words}{suffix}"
        filters = f"{suffix[1:].upper()} (*{suffix})"
        found, _ = QFileDialog.getSaveFileName(self._parent, words.capitalize(), suggested, filters)
        if found:
            self.write(kind, Path(found if found.lower().endswith(suffix) else found + suffix))

    def print(self, kind: str) -> None:
        """Show how a card comes out of the printer, from where the system's print dialog opens."""
        from orvek.window.printing import CardPreview

        try:
            content = self._template(Path("template.pdf")) if kind == "template" else self._card(kind)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        CardPreview(self._parent, f"{self._session.job.batch.name}, {PRINTED[kind]}", content).exec()

    def write(self, kind: str, path: Path) -> None:
        """Write a card, or say why there is none."""
        try:
            content = self._template(path) if kind == "template" else self._card(kind, path.suffix)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.write_file(path, content)

    def _report(self, suffix: str) -> bytes:
        from orvek.cards.every import report_text
        from orvek.cards.report_pages import report_html, report_pdf

        plan, preferences = self._session.plan, self._session.shop.preferences
        if suffix == ".pdf":
            return report_pdf(plan, preferences.units, preferences.paper)
        return (report_html if suffix == ".html" else report_text)(plan, preferences.units).encode()

    def _card(self, kind: str, suffix: str = ".pdf") -> bytes:
        from orvek.cards import every as cards

        if kind == "report":
            return self._report(suffix)
        plan, shop, today = self._session.plan, self._session.shop, date.today()
        if kind == "csv":
            return cards.cut_list_csv(plan)
        if kind == "cure":
            forecast = plan.cure
            if forecast is None:
                raise NothingToDoError("A cure card", "the forecast of the page Cure, which is not there yet")
            return cards.cure_card(plan, forecast, shop, today)
        return cards.CARDS[kind](plan, shop, today)

    def _template(self, path: Path) -> bytes:
        from orvek.cards.template import template, template_dxf, template_pdf, template_svg

        cut = self._session.cut_in_hand
        if cut is None:
            raise NothingToDoError("A template", "a cut at the station Glue-up")
        drawing = template(cut, self._session.units)
        if path.suffix.lower() == ".dxf":
            return template_dxf(drawing)
        if path.suffix.lower() == ".svg":
            return template_svg(drawing)
        return template_pdf(drawing, self._session.shop.preferences.paper)
