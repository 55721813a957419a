"""Soak: is it dry, how much will it take up, how long in the oven, will the colour still be there. Three pages."""

from __future__ import annotations

from functools import partial

from orvek.documents import deeds
from orvek.planning import Plan
from orvek.planning.bar import raw_size_mm
from orvek.planning.soak.dyes import with_colour
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.paged import Paged
from orvek.window.stations.soak.drying_page import DryingPage
from orvek.window.stations.soak.dyes_page import DyesPage
from orvek.window.stations.soak.resin_page import ResinPage
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Opening, Suggestion

_ROUTES = (
    ("Dry it", "dried", "weights say when: oven or air, one piece or a batch"),
    ("Stabilise it", "stabilised", "dry, resin under vacuum, oven"),
    ("Soft, and it stays so", "soft, not stabilised", "cobs, fibre, punky wood: thin glue while it is turned"),
)


class SoakStation(Paged):
    """The station Soak; only the page that is open is shown a plan."""

    def __init__(self, session: Session, surface: Surface) -> None:
        del surface  # it paints no pattern
        self.drying, self.resin, self.dyes = DryingPage(session), ResinPage(session), DyesPage(session)
        self._nothing = Opening(
            "What is done to the wood?", "Dried, stabilised, dyed; a casting alone needs none of it."
        )
        routes = [Suggestion(name, line, partial(self._begin, route, name)) for name, route, line in _ROUTES]
        add = partial(session.attempt, "Add a colour", lambda job: with_colour(job, session.shop))
        dye = Suggestion("Dye it", "in water, alcohol or resin", add)
        self._nothing.show_suggestions((*routes, dye))
        super().__init__(session, Station.SOAK, (self.drying, self.resin, self.dyes), self._nothing)

    def _begin(self, route: str, words: str) -> None:
        """Choose a route; wood and sizes begin as the blank's bars are."""
        plan = self._session.plan
        count = max(1, round(plan.bars.bars.value))
        begin = partial(deeds.begin_soak, route=route, size_mm=raw_size_mm(plan.layout), count=count)
        self._session.attempt(words, begin)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for drying, soaking and dyeing."""
        self.show_open(plan, self._nothing if plan.soak is None else None)
