"""Bore: where, with which bit, how deep at a time, from which end, what may go wrong; and the tubes glued in."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from orvek.planning import Plan, Station
from orvek.window.session import Session
from orvek.window.stations.bore.hole_page import HolePage
from orvek.window.stations.bore.pattern_page import PatternPage
from orvek.window.stations.bore.tubes_page import TubesPage
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.tabs import Tabs

BORE_PAGES = ("holes", "tubes", "pattern")


class BoreStation(QWidget):
    """The station Bore."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self.tabs = Tabs(tuple(page.capitalize() for page in BORE_PAGES))
        self.holes, self.tubes, self.pattern = (
            HolePage(session, surface),
            TubesPage(session),
            PatternPage(session, surface),
        )
        self._pages, self._stack = QStackedWidget(), QStackedWidget()
        for page in (self.holes, self.tubes, self.pattern):
            self._pages.addWidget(page)
        self._nothing = Opening("Nothing to bore yet.", "The pen says which tubes go in, and how long they are.")
        to_pen = partial(session.station_wanted.emit, Station.PEN)
        self._nothing.show_suggestions((Suggestion("Go to Pen", "choose one, or type its tubes", to_pen),))
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.tabs)
        column.addWidget(self._pages, 1)
        self._stack.addWidget(whole)
        self._stack.addWidget(self._nothing)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self._stack)
        self.tabs.chosen.connect(self._open)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for boring."""
        self._stack.setCurrentIndex(0 if plan.bore is not None else 1)
        if plan.bore is not None:
            (self.holes, self.tubes, self.pattern)[self.tabs.current()].show_plan(plan)  # the others when they open

    def open_page(self, name: str) -> None:
        """Open a page by its name as it is typed in a command."""
        self.tabs.choose(BORE_PAGES.index(name))

    def _open(self, number: int) -> None:
        self._pages.setCurrentIndex(number)
        self.show_plan(self._session.plan)

    def page(self) -> str:
        """The name of the page that is open."""
        return BORE_PAGES[self.tabs.current()]
