"""Glue-up: what to cut, at what setting, in which order, and will the lines meet. Four pages."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.glue_up.meeting import meet, meet_question
from orvek.window.forecasting import Forecaster, layout
from orvek.window.session import Session
from orvek.window.stations.glue_up.boards_page import BoardsPage, nest_question
from orvek.window.stations.glue_up.cuts_page import CutsPage
from orvek.window.stations.glue_up.gluing_page import GluingPage
from orvek.window.stations.glue_up.meet_page import MeetPage
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening
from orvek.window.widgets.tabs import Tabs

GLUE_PAGES = ("cuts", "boards", "gluing", "meet")
_WORDS = ("Cuts", "Boards", "Gluing", "Will it meet?")
_BOARDS, _MEET = 1, 3


class GlueUpStation(QWidget):
    """The station Glue-up. Boards and tolerance are asked in the background, when their page is open."""

    cut_chosen = Signal(object)

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self.tabs = Tabs(_WORDS)
        self.cuts, self.boards = CutsPage(session), BoardsPage(session)
        self.gluing, self.meeting = GluingPage(session), MeetPage(session, surface)
        self.nesting = Forecaster(layout)
        self.runs = Forecaster(lambda question, tell, _early: meet(question, surface.evaluator(), tell))
        self._pages, self._stack = QStackedWidget(), QStackedWidget()
        for page in (self.cuts, self.boards, self.gluing, self.meeting):
            self._pages.addWidget(page)
        self._nothing = Opening(
            "Nothing is sawn.",
            "This blank's steps have no cuts and no glue-ups. Begin from a design at the station Blank.",
        )
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.tabs)
        column.addWidget(self._pages, 1)
        for page in (whole, self._nothing):
            self._stack.addWidget(page)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self._stack)
        self.tabs.chosen.connect(self._open)
        self.cuts.chosen.connect(self.cut_chosen)
        self.nesting.arrived.connect(lambda _: self.show_plan(session.plan))
        self.runs.arrived.connect(lambda _: self.show_plan(session.plan))
        self.runs.progressed.connect(self.meeting.show_progress)
        self.nesting.failed.connect(session.said)
        self.runs.failed.connect(session.said)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for sawing and gluing."""
        self._stack.setCurrentIndex(0 if plan.cutting is not None else 1)
        if plan.cutting is None:
            self.cuts.show_plan(plan)
            return
        for page in (self.cuts, self.boards, self.gluing, self.meeting):
            page.show_plan(plan)
        if self._pages.currentIndex() == _BOARDS:
            self.nesting.ask(nest_question(plan, self._session.shop.boards))
            self.boards.show_answer(self.nesting.answer())
        if self._pages.currentIndex() == _MEET and self._surface.evaluator() is not None:
            self.runs.ask(meet_question(plan, self._session.shop))
            self.meeting.show_answer(plan, self.runs.answer())

    def is_busy(self) -> bool:
        """Whether a layout or a run is being made."""
        return self.nesting.is_busy() or self.runs.is_busy()

    def close_work(self) -> bool:
        """Give up what is being made; whether it has ended."""
        ended = self.nesting.close()
        return self.runs.close() and ended

    def _open(self, number: int) -> None:
        self._pages.setCurrentIndex(number)
        self.show_plan(self._session.plan)
