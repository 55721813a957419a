"""Batch: the whole route of the job, what became of its blanks, what a good pen costs, and for whom it is."""

from __future__ import annotations

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.batch.blanks_page import BlanksPage
from orvek.window.stations.batch.cost_page import CostPage
from orvek.window.stations.batch.route_page import RoutePage
from orvek.window.stations.paged import Paged
from orvek.window.surface import Surface


class BatchStation(Paged):
    """The station Batch; only the page that is open is shown a plan."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.route, self.blanks, self.cost = (
            RoutePage(session, surface),
            BlanksPage(session),
            CostPage(session, surface),
        )
        super().__init__(session, Station.BATCH, (self.route, self.blanks, self.cost))

    def show_plan(self, plan: Plan) -> None:
        """Show what the page that is open says; nothing of it changes while something is dragged."""
        if not self._session.is_previewing:
            self.show_open(plan)
