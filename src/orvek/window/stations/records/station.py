"""Records: what to change next time, what was learned; and every job found again."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.paged import Paged
from orvek.window.stations.records.jobs_page import JobsPage
from orvek.window.stations.records.learned_page import LearnedPage
from orvek.window.stations.records.next_page import NextPage
from orvek.window.surface import Surface

if TYPE_CHECKING:
    from orvek.window.stations.records.charts_page import ChartsPage


class RecordsStation(Paged):
    """The station Records; only the page that is open is shown a plan."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.next = NextPage(session, lambda: session.station_wanted.emit(Station.BATCH))
        self.learned, self.jobs = LearnedPage(session), JobsPage(session, surface)
        self.charts = LaterCharts(session)
        pages = (self.next, self.learned, self.jobs, self.charts)
        super().__init__(session, Station.RECORDS, pages)

    def show_plan(self, plan: Plan) -> None:
        """Show what the records say at the page that is open; nothing of it changes while something is dragged."""
        if not self._session.is_previewing:
            self.show_open(plan)

    def leave(self) -> None:
        """Nobody looks any more: what is still being written or drawn ends."""
        self.jobs.leave()


class LaterCharts(QWidget):
    """The charts need a library that takes a while to load: they are built when they are first looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.page: ChartsPage | None = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)

    def show_plan(self, plan: Plan) -> None:
        """Draw what the records hold."""
        if self.page is None:
            from orvek.window.stations.records.charts_page import ChartsPage

            self.page = ChartsPage(self._session)
            self._column.addWidget(self.page)
        self.page.show_plan(plan)
