"""Pour: which mould, resin and colours; how much of everything, and when it is cured. Four pages."""

from __future__ import annotations

from functools import partial

from orvek.documents import CastStep, Mould, Resin, catalogue, deeds
from orvek.planning import Plan
from orvek.planning.words import mould_size, pot_life_line, ratio_line
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.bubbles.page import BubblesPage
from orvek.window.stations.colour.page import ColourPage
from orvek.window.stations.cure.page import CurePage
from orvek.window.stations.paged import Paged
from orvek.window.stations.pour.menus import PourMenus
from orvek.window.stations.pour.weigh_page import WeighPage
from orvek.window.surface import Surface
from orvek.window.widgets.opening import Drawing, Opening, Suggestion, colour_drawing, mould_drawing, parts_drawing


class PourStation(Paged):
    """The station Pour: its first decisions one after the other, then its pages."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self._mould_opening = Opening("Which mould do you pour into?", "The cavities give the bars and their volume.")
        self._resin_opening = Opening("Which resin?", "Ratio and densities turn the volume into weights.")
        self._colours_opening = Opening(
            "Which colours?", "A cup for each: take the first now and add others beside it. Every cup can be changed."
        )
        self._not_cast = Opening(
            "Nothing is cast.", "This blank's steps have no casting; the station Blank can add one."
        )
        pour = partial(session.attempt, "Pour a casting", lambda job: deeds.replace_stock(job, CastStep()))
        to_blank = partial(session.station_wanted.emit, Station.BLANK)
        self._not_cast.show_suggestions(
            (
                Suggestion("Pour a casting", "in place of what the steps begin with; undo brings it back", pour),
                Suggestion("Go to Blank", "see what the bar is made of", to_blank),
            )
        )
        self._menus = PourMenus(session, self)
        self.weigh = WeighPage(session, surface, self._menus)
        self.cure, self.bubbles, self.colour = CurePage(session), BubblesPage(session), ColourPage(session)
        pages = (self.weigh, self.cure, self.bubbles, self.colour)
        openings = (self._mould_opening, self._resin_opening, self._colours_opening, self._not_cast)
        super().__init__(session, Station.POUR, pages, *openings)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the pour, or the next of its first decisions."""
        self.show_open(plan, self._opening(plan))

    def _opening(self, plan: Plan) -> Opening | None:
        job = plan.job
        if job.cast_index is None:
            return self._not_cast
        if job.pour.mould is None:
            self._mould_opening.show_suggestions(self._mould_suggestions())
            return self._mould_opening
        if job.pour.resin is None:
            self._resin_opening.show_suggestions(self._resin_suggestions())
            return self._resin_opening
        if not job.cast.cups:
            self._colours_opening.show_suggestions(self._colour_suggestions())
            return self._colours_opening
        return None

    # -- the first decisions -----------------------------------------------------------------------------------

    def _mould_suggestions(self) -> tuple[Suggestion, ...]:
        units, menus = self._session.units, self._menus
        moulds: tuple[Mould, ...] = (*self._session.shop.moulds, *catalogue().moulds)
        return tuple(
            Suggestion(m.name, mould_size(m, units), partial(menus.take_mould, m), mould_drawing(m)) for m in moulds
        )

    def _resin_suggestions(self) -> tuple[Suggestion, ...]:
        units, menus = self._session.units, self._menus
        resins: tuple[Resin, ...] = tuple(
            r
            for r in self._session.shop.resins
            if (f := self._session.shop.family(r.family)) is None or f.sets_when_mixed
        )
        return tuple(
            Suggestion(
                r.name,
                f"{ratio_line(r)}, {pot_life_line(r, units)}",
                partial(menus.take_resin, r),
                _ratio_drawing(r),
            )
            for r in resins
        )

    def _colour_suggestions(self) -> tuple[Suggestion, ...]:
        kinds = {kind.key: kind.name.lower() for kind in catalogue().kinds}
        pigments = self._session.shop.pigments[:8]
        menus = self._menus
        clear = Suggestion("Clear", "no pigment", lambda: menus.add_colour(None))
        return (
            *(
                Suggestion(p.name, kinds.get(p.kind, p.kind), partial(menus.add_colour, p), colour_drawing(p.colour))
                for p in pigments
            ),
            clear,
        )


def _ratio_drawing(resin: Resin) -> Drawing:
    by_mass = resin.ratio_by == "mass"
    part_a = resin.ratio_a / (resin.density_a.value if by_mass else 1)
    return parts_drawing(part_a, resin.ratio_b / (resin.density_b.value if by_mass else 1))
