"""Glue-up: what to cut, at what setting, in which order, and will the lines meet. Four pages."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from orvek.planning import Plan, Station
from orvek.window.session import Session
from orvek.window.stations.glue_up.boards_page import BoardsPage
from orvek.window.stations.glue_up.cuts_page import CutsPage
from orvek.window.stations.glue_up.gluing_page import GluingPage
from orvek.window.stations.glue_up.meet_page import MeetPage
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.tabs import Tabs

GLUE_PAGES = ("cuts", "boards", "gluing", "meet")
_WORDS = ("Cuts", "Boards", "Gluing", "Will it meet?")
_ASKED = {1: "boards", 3: "meet"}  # slow questions of pages, asked while the page is open


class GlueUpStation(QWidget):
    """The station Glue-up. Boards and tolerance are asked in the background, when their page is open."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self.tabs = Tabs(_WORDS)
        self.cuts, self.boards = CutsPage(session), BoardsPage(session)
        self.gluing, self.meeting = GluingPage(session), MeetPage(session, surface)
        self._pages, self._stack = QStackedWidget(), QStackedWidget()
        for page in (self.cuts, self.boards, self.gluing, self.meeting):
            self._pages.addWidget(page)
        self._nothing = Opening(
            "Nothing is sawn.",
            "This blank's steps have no cuts and no glue-ups. Start from a design at the station Blank.",
        )
        to_blank = partial(session.station_wanted.emit, Station.BLANK)
        self._nothing.show_suggestions((Suggestion("Go to Blank", "add a cut, strips or slices there", to_blank),))
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
        self.cuts.chosen.connect(session.choose_cut)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for sawing and gluing."""
        self._stack.setCurrentIndex(0 if plan.cutting is not None else 1)
        if plan.cutting is None:
            self.cuts.show_plan(plan)
            return
        for page in (self.cuts, self.boards, self.gluing, self.meeting):
            page.show_plan(plan)
        self.boards.show_answer(plan.boards)
        self.meeting.show_answer(plan, plan.meet)

    def open_page(self, name: str) -> None:
        """Open a page by its name as it is typed in a command."""
        self.tabs.choose(GLUE_PAGES.index(name))

    def page(self) -> str:
        """The name of the page that is open."""
        return GLUE_PAGES[self.tabs.current()]

    def leave(self) -> None:
        """Another station is open now: nobody looks at the boards, and no cut is in hand."""
        for key in _ASKED.values():
            self._session.want(key, wanted=False)
        self._session.choose_cut(None)

    def _open(self, number: int) -> None:
        self._pages.setCurrentIndex(number)
        for page, key in _ASKED.items():
            self._session.want(key, wanted=page == number)
        self.show_plan(self._session.plan)
