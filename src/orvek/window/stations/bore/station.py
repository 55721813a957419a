"""Bore: where, with which bit, how deep at a time, from which end, what may go wrong; and the tubes glued in."""

from __future__ import annotations

from functools import partial

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.bore.hole_page import HolePage
from orvek.window.stations.bore.pattern_page import PatternPage
from orvek.window.stations.bore.tubes_page import TubesPage
from orvek.window.stations.paged import Paged
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion


class BoreStation(Paged):
    """The station Bore; only the page that is open is shown a plan."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.holes, self.tubes = HolePage(session, surface), TubesPage(session)
        self.pattern = PatternPage(session, surface)
        self._nothing = Opening("Nothing to bore yet.", "The pen says which tubes go in, and how long they are.")
        to_pen = partial(session.station_wanted.emit, Station.PEN)
        self._nothing.show_suggestions((Suggestion("Go to Pen", "choose one, or type its tubes", to_pen),))
        super().__init__(session, Station.BORE, (self.holes, self.tubes, self.pattern), self._nothing)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for boring."""
        self.show_open(plan, self._nothing if plan.bore is None else None)
