"""Glue-up: what to cut, at what setting, in which order, and will the lines meet. Four pages."""

from __future__ import annotations

from functools import partial

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.glue_up.boards_page import BoardsPage
from orvek.window.stations.glue_up.cuts_page import CutsPage
from orvek.window.stations.glue_up.gluing_page import GluingPage
from orvek.window.stations.glue_up.meet_page import MeetPage
from orvek.window.stations.paged import Paged
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion

_ASKED = {1: "boards", 3: "meet"}  # slow questions of pages, asked while the page is open


class GlueUpStation(Paged):
    """The station Glue-up. Boards and tolerance are asked in the background, when their page is open."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.cuts, self.boards = CutsPage(session), BoardsPage(session)
        self.gluing, self.meeting = GluingPage(session), MeetPage(session, surface)
        self._nothing = Opening(
            "Nothing is sawn.",
            "This blank's steps have no cuts and no glue-ups. Start from a design at the station Blank.",
        )
        to_blank = partial(session.station_wanted.emit, Station.BLANK)
        self._nothing.show_suggestions((Suggestion("Go to Blank", "add a cut, strips or slices there", to_blank),))
        pages = (self.cuts, self.boards, self.gluing, self.meeting)
        super().__init__(session, Station.GLUE_UP, pages, self._nothing)
        self.cuts.chosen.connect(session.choose_cut)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for sawing and gluing."""
        self.show_open(plan, self._nothing if plan.glue_up is None else None)
        if plan.glue_up is None or self.page() != "cuts":
            self.cuts.show_plan(plan)  # the strip marks the cut in hand, whichever page is open

    def leave(self) -> None:
        """Another station is open now: nobody looks at the boards, and no cut is in hand."""
        for key in _ASKED.values():
            self._session.want(key, wanted=False)
        self._session.choose_cut(None)

    def opened(self, number: int) -> None:
        """Ask the slow question of the page that is open, and no other."""
        for page, key in _ASKED.items():
            self._session.want(key, wanted=page == number)
        super().opened(number)
