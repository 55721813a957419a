"""Every way out of a fault, worked out for this blank, those that can work first."""

from __future__ import annotations

from collections.abc import Callable

from orvek.craft.faults import FaultKind, WayKind, way_kind
from orvek.planning.faults import beginning_again as anew
from orvek.planning.faults import mending, whole_barrel
from orvek.planning.faults.made import Made
from orvek.planning.faults.results import WayOut
from orvek.planning.faults.spot import Spot
from orvek.planning.working import Figure
from orvek.quantities import Dimension

_MAKERS: dict[str, Callable[[Spot], Made]] = {
    "turn on": mending.turn_on,
    "fill": mending.fill,
    "refill": mending.refill,
    "reglue": mending.reglue,
    "hide": mending.hide,
    "shorten": mending.shorten,
    "slimmer": mending.slimmer,
    "recoat": mending.recoat,
    "strip": mending.strip,
    "another pen": anew.another_pen,
    "recast": anew.recast,
    "reclaim": anew.reclaim,
    "show": anew.show,
    "again": anew.again,
    "resand": whole_barrel.resand,
    "ring": whole_barrel.ring,
    "remount": whole_barrel.remount,
    "pack": whole_barrel.pack,
    "warm": whole_barrel.warm,
    "true up": whole_barrel.true_up,
    "wick in": whole_barrel.wick_in,
    "buff off": whole_barrel.buff_off,
    "flood": whole_barrel.flood,
    "press turned back": whole_barrel.press_turned,
}


def ways_out(spot: Spot, kind: FaultKind) -> tuple[WayOut, ...]:
    """The ways for a kind of fault in its order of preference; those that cannot work here stand last."""
    made = [_way(way_kind(key), _MAKERS[key](spot)) for key in kind.ways]
    return tuple(sorted(made, key=lambda way: not way.can))


def _way(usual: WayKind, made: Made) -> WayOut:
    hands = made.hands_min if made.hands_min is not None else usual.hands_min
    wait = made.wait_h if made.wait_h is not None else usual.wait_h
    chance = made.chance_pct if made.chance_pct is not None else usual.chance_pct
    source = "a guess from workshop practice, until your own records say better"
    return WayOut(
        key=usual.key,
        title=f"{usual.title}: {made.title}" if made.title else usual.title,
        can=made.can,
        lines=made.lines,
        hands_min=Figure("Hands", hands, Dimension.DURATION, "as it usually takes", (), source),
        wait_h=Figure("Wait", 60 * wait, Dimension.DURATION, "as it usually takes", (), source),
        chance_pct=Figure(
            "Chance of success, about", chance, Dimension.PERCENT, "as it usually goes", (), source, digits=0
        ),
        cost=_cost(made),
        uses=made.uses or usual.uses,
        look=made.look,
        is_drawn=made.is_drawn,
    )


def _cost(made: Made) -> Figure | None:
    if made.cost is None:
        return None
    return Figure(
        "Materials", made.cost, Dimension.MONEY, "Σ mass · price", (), "by the prices on your shelf", digits=2
    )
