"""How long the core needs in the oven, and when the clock may be stopped."""

from __future__ import annotations

from orvek.craft import soaking
from orvek.craft.learning import times_the_guess
from orvek.documents import Job, Shop
from orvek.documents.shelf.soaked import CORE
from orvek.planning.soak.results import HeatPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _MIN = Dimension.LENGTH, Dimension.DURATION
_FOIL_TIMES = 1.2  # foil keeps the air off (an estimate)
_SURE_PROBES = 2  # after so many the calculation is held to this oven


def heat_plan(job: Job, shop: Shop) -> HeatPlan:
    """How long the core needs, and when the clock may be stopped."""
    heat, wood = job.soak.heat, job.soak.wood
    sides = (wood.width_mm * heat.wide, wood.thick_mm * heat.high)
    film = soaking.FAN_W_M2K if heat.has_fan else soaking.STILL_W_M2K
    minutes = soaking.core_min(sides, film, heat.begin_c, heat.oven_c, heat.core_c)
    minutes *= _FOIL_TIMES if heat.is_wrapped else 1.0
    probes = [(one.value, one.expected) for one in shop.soaked if one.seen == CORE]
    learned = times_the_guess(probes, 0.0)  # a probe knows this oven, the calculation none
    terms = (
        Term("a", "section, touching pieces as one", sides[0], _MM),
        Term("b", "and the other way", sides[1], _MM),
        Term("h", "film in W/m²K", film, Dimension.RATIO, "guess"),
        Term("foil", "times as long", _FOIL_TIMES if heat.is_wrapped else 1.0, Dimension.RATIO, "guess"),
        Term("oven", "", heat.oven_c, Dimension.TEMPERATURE),
        Term("core", "", heat.core_c, Dimension.TEMPERATURE),
        Term("own", "times as long, by your probes", learned, Dimension.RATIO),
    )
    formula = "Π Σ C exp(−z² Fo) = (oven − core) / (oven − begin)"
    source = "textbook series; its properties are estimates"
    core = Figure("Until the core is there", minutes * learned, _MIN, formula, terms, source)
    if heat.core_min is not None:
        known, words, times = heat.core_min, "a probe took", 1.0
    else:
        known, words = minutes * learned, "calculated"
        times = 1.0 if len(probes) >= _SURE_PROBES else soaking.SURE_TIMES
    clock_terms = (
        Term("core", words, known, _MIN, "measured" if heat.core_min is not None else "guess"),
        Term("sure", "times, where no probe said so", times, Dimension.RATIO),
        Term("hold", "held there", heat.hold_min, _MIN),
    )
    clock = known * times + heat.hold_min
    source = "a probe in the core of one piece is better than any sum"
    return HeatPlan(core, Figure("From closing the door", clock, _MIN, "t = core · sure + hold", clock_terms, source))
