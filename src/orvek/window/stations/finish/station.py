"""Finish: down to which size, through which grits and coats, pressed in which order; what now, when it went wrong."""

from __future__ import annotations

from functools import partial

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.finish.press_page import PressPage
from orvek.window.stations.finish.sanding_page import SandingPage
from orvek.window.stations.finish.size_page import SizePage
from orvek.window.stations.finish.true_page import TruePage
from orvek.window.stations.finish.voids_page import VoidsPage
from orvek.window.stations.finish.what_now_page import WhatNowPage
from orvek.window.stations.finish.wrap_page import WrapPage
from orvek.window.stations.paged import Paged
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion


class FinishStation(Paged):
    """The station Finish; only the page that is open is shown a plan."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.true = TruePage(session)
        self.sizes, self.sanding, self.press = (
            SizePage(session, surface),
            SandingPage(session),
            PressPage(session, surface),
        )
        self.wrap = WrapPage(session, surface)
        self.voids = VoidsPage(session)
        self.what_now = WhatNowPage(session, surface)
        self._nothing = Opening("Nothing to finish yet.", "The pen says down to which size its barrels are turned.")
        to_pen = partial(session.station_wanted.emit, Station.PEN)
        self._nothing.show_suggestions((Suggestion("Go to Pen", "choose one, or type its sizes", to_pen),))
        pages = (self.true, self.sizes, self.wrap, self.voids, self.sanding, self.press, self.what_now)
        super().__init__(session, Station.FINISH, pages, self._nothing, first=pages.index(self.sizes))

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for finishing."""
        self.show_open(plan, self._nothing if plan.finish is None else None)
