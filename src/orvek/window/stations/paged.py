"""A station of several pages under their words, and what it says while it has nothing to show."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol, runtime_checkable

from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.route.stations import rare_pages
from orvek.stations import Station, row_of
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.widgets.opening import Opening
from orvek.window.widgets.pages import Pages
from orvek.window.widgets.tabs import Tabs


@runtime_checkable
class PlanPage(Protocol):
    """A page that shows a plan."""

    def show_plan(self, plan: Plan) -> None:
        """Show what follows from it."""


class Paged(StationWidget):
    """The pages of a station's row, or one of its openings; only the page that is open is shown a plan."""

    def __init__(
        self, session: Session, station: Station, pages: Sequence[QWidget], *openings: Opening, first: int = 0
    ) -> None:
        """`first` is the number of the page that is open before anybody chooses one."""
        super().__init__()
        row = row_of(station)
        self._session = session
        self._names = tuple(page.name for page in row.pages)
        self.tabs = Tabs(tuple(page.words for page in row.pages))
        self._stack, self._whole, self._pages = Pages(), QWidget(), Pages()
        column, outer = QVBoxLayout(self._whole), QVBoxLayout(self)
        for layout in (column, outer):
            layout.setContentsMargins(0, 0, 0, 0)
            layout.setSpacing(0)
        # From without to within: wherever a widget is put, everything in it gets its style once more.
        outer.addWidget(self._stack)
        for one in (self._whole, *openings):
            self._stack.addWidget(one)
        column.addWidget(self.tabs)
        column.addWidget(self._pages, 1)
        for page in pages:
            self._pages.addWidget(page)
        self._pages.setCurrentIndex(first)
        self.tabs.choose(first)
        self.tabs.chosen.connect(self._open)

    def open_page(self, name: str) -> None:
        """Open a page by its name."""
        self.tabs.choose(self._names.index(name))

    def page(self) -> str:
        """The name of the page that is open."""
        return self._names[self.tabs.current()]

    def opened(self, number: int) -> None:
        """A page was opened: it is shown the plan."""
        del number
        self.show_plan(self._session.plan)

    def show_open(self, plan: Plan, opening: Opening | None = None) -> None:
        """Show a plan at the page that is open, or what is said instead of the pages."""
        self._stack.setCurrentWidget(opening or self._whole)
        rare = rare_pages(plan)
        self.tabs.show_only(number for number, name in enumerate(self._names) if name not in rare)
        page = self._pages.currentWidget()
        if opening is None and isinstance(page, PlanPage):
            page.show_plan(plan)

    def _open(self, number: int) -> None:
        self._pages.setCurrentIndex(number)
        self.opened(number)
