"""Records: what to change next time, and what was learned."""

from __future__ import annotations

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.paged import Paged
from orvek.window.stations.records.learned_page import LearnedPage
from orvek.window.stations.records.next_page import NextPage
from orvek.window.stations.records.sources_page import SourcesPage
from orvek.window.surface import Surface


class RecordsStation(Paged):
    """The station Records; only the page that is open is shown a plan."""

    def __init__(self, session: Session, _surface: Surface) -> None:
        self.next = NextPage(session, lambda: session.station_wanted.emit(Station.BATCH))
        self.learned = LearnedPage(session)
        self.lots = SourcesPage(session)
        super().__init__(session, Station.RECORDS, (self.next, self.learned, self.lots))

    def show_plan(self, plan: Plan) -> None:
        """Show what the records say at the page that is open; nothing of it changes while something is dragged."""
        if not self._session.is_previewing:
            self.show_open(plan)
