"""From the log of weights: what is odd in it, when it will be dry, how much water is in it now."""

from __future__ import annotations

import statistics
from itertools import pairwise

from orvek.craft import moisture
from orvek.craft.air import USUAL_HUMIDITY_PCT
from orvek.craft.drying import AIR_M2_S, DRY_PART, OVEN_M2_S, DryingFit, rises_g, tail_h
from orvek.craft.learning import times_the_guess
from orvek.documents import Job, Shop, Weighing, WoodInHand
from orvek.documents.shelf.soaked import DRYING
from orvek.planning.soak.results import DryPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_PCT, _G = Dimension.PERCENT, Dimension.MASS
_TOLD = 3.0  # times as likely as another: a shape that the maker told (a choice)
_OUT_OF_PLACE = 2.5  # times its neighbours, and a weight was typed wrongly: 400 g for 40.0 (a choice)


def dry_plan(job: Job, shop: Shop) -> DryPlan:
    """What follows from the log, from the section and from the shop's air."""
    drying, log = job.soak.drying, job.soak.drying.in_order
    step_g = job.pour.scale.resolution_g
    usual = usual_tail_h(job, shop)
    fit = _fit(log, step_g, usual, _odds(job.soak.wood))
    told = fit is not None and not fit.why_not
    equilibrium = _equilibrium(job)
    tail = fit.tail_h if fit is not None and told else usual
    rate = DRY_PART / ((1 + DRY_PART) * tail)
    rate_figure = Figure(
        "Dry when an hour costs less than",
        100 * rate,
        _PCT,
        "r = 0.5 % / (1.005 · τ)",
        (Term("τ", "hours, the late time constant", tail, Dimension.RATIO, None if told else "guess"),),
        "derived: 0.1 % an hour alone is not dry where τ is long",
        digits=3,
    )
    end = _end(fit) if fit is not None and told else None
    return DryPlan(
        log=log,
        fit=fit,
        equilibrium_pct=equilibrium,
        moisture_pct=_now(drying.way, log, fit, equilibrium.value) if fit is not None and told else None,
        end_g=end,
        dry_rate_pct=rate_figure,
        weigh_apart=_apart(step_g, log[-1].mass_g, rate) if log else None,
        odd=tuple(_odd(job)),
    )


def usual_tail_h(job: Job, shop: Shop) -> float:
    """The late time constant that section, oven or air suggest, in hours: a guess, held to what the shop saw."""
    same = (one for one in shop.soaked if one.seen == DRYING and one.species == job.treated_wood)
    return guessed_tail_h(job) * times_the_guess((one.value, one.expected) for one in same)


def guessed_tail_h(job: Job) -> float:
    """The late time constant by the section alone, in hours."""
    drying, wood = job.soak.drying, job.soak.wood
    diffuses = OVEN_M2_S if drying.way == "in an oven" else AIR_M2_S
    return tail_h(diffuses, _sides_mm(wood))


def _sides_mm(wood: WoodInHand) -> tuple[float, float]:
    if wood.form == "hollow round":
        wall = max(1.0, (wood.width_mm - wood.bore_mm) / 2)
        return wall, wood.length_mm
    if wood.form == "round":
        return wood.width_mm * 0.87, wood.width_mm * 0.87  # a cylinder dries like a square of 0.87 its diameter
    return wood.width_mm, wood.depth_mm


def _odds(wood: WoodInHand) -> tuple[float, float, float]:
    """How likely a piece dries like a slab, a cylinder, a square bar: three to one as its shape says."""
    thin, wide = sorted((wood.width_mm, wood.depth_mm))
    match wood.form:
        case "round":
            return 1.0, _TOLD, 1.0
        case "hollow round":
            return _TOLD, 1.0, 1.0
        case "rectangular":
            return (_TOLD, 1.0, 1.0) if thin < wide / 2 else (1.0, 1.0, _TOLD)
    return 1.0, 1.0, 1.0


def _fit(log: tuple[Weighing, ...], step_g: float, usual: float, odds: tuple[float, float, float]) -> DryingFit | None:
    if not log:
        return None
    from orvek.craft.drying_fit import fitted_drying  # it needs NumPy, which no job without a log does

    hours = tuple((one.when - log[0].when).total_seconds() / 3600 for one in log)
    return fitted_drying(hours, tuple(one.mass_g for one in log), step_g, usual, odds)


def _equilibrium(job: Job) -> Figure:
    humidity = job.soak.drying.humidity_pct
    percent = min(humidity or USUAL_HUMIDITY_PCT, moisture.MOST_HUMIDITY_PCT)
    air = min(50.0, max(0.0, job.batch.shop_temperature_c))
    terms = (
        Term("T", "the shop", air, Dimension.TEMPERATURE),
        Term("H", "shop humidity", percent, _PCT, "measured" if humidity is not None else "guess"),
    )
    formula, source = "Hailwood and Horrobin's equation", "USDA Wood Handbook, eq. 4-5; ± 1 to 2 % by species"
    value = moisture.equilibrium_pct(air, percent)
    return Figure("Moisture the shop's air leaves", value, _PCT, formula, terms, source, digits=1)


def _end(fit: DryingFit) -> Figure:
    band = fit.end_g
    terms = (
        Term("low", "9 in 10 above", band.low, _G),
        Term("high", "and below", band.high, _G),
    )
    source = "least squares over courses of diffusion with and without a film of air, each with its weight"
    return Figure("It will come to", band.best, _G, "m(t) = m end + loss · left(t / τ)", terms, source)


def _now(way: str, log: tuple[Weighing, ...], fit: DryingFit, equilibrium: float) -> Figure:
    dry = fit.end_g.best if way == "in an oven" else fit.end_g.best / (1 + equilibrium / 100)
    terms = (
        Term("m", "the last weight", log[-1].mass_g, _G, "measured"),
        Term("m dry", "oven-dry, by the forecast", dry, _G),
    )
    value, source = max(0.0, moisture.moisture_pct(log[-1].mass_g, dry)), "ISO 13061-1, ASTM D4442"
    return Figure("Moisture now", value, _PCT, "M = 100 · (m − m dry) / m dry", terms, source, digits=1)


def _apart(step_g: float, mass_g: float, rate: float) -> Figure:
    hours = moisture.weigh_apart_h(step_g, mass_g, rate)
    terms = (
        Term("d", "step of the scale", step_g, _G),
        Term("r", "an hour, when it counts as dry", 100 * rate, _PCT),
        Term("m", "what is weighed", mass_g, _G),
    )
    source = "derived; several pieces weighed together need less"
    return Figure("Weigh at least this far apart", 60 * hours, Dimension.DURATION, "t = 2 d / (r · m)", terms, source)


def _odd(job: Job) -> list[tuple[int, str]]:
    """Lines of the log that cannot be right, by their place in it."""
    log = job.soak.drying.log
    kept = sorted((n for n, one in enumerate(log) if not one.is_left_out), key=lambda n: log[n].when)
    found: dict[int, str] = {}
    middle = statistics.median(log[n].mass_g for n in kept) if kept else 0.0
    for n in kept:
        if len(kept) > 2 and not middle / _OUT_OF_PLACE < log[n].mass_g < middle * _OUT_OF_PLACE:
            found[n] = "out of place"
    kept = [n for n in kept if n not in found]
    step = job.pour.scale.resolution_g
    lost = log[kept[0]].mass_g - log[kept[-1]].mass_g if kept else 0.0
    for before, after in pairwise(kept):
        if log[before].when == log[after].when:
            found[after] = "twice"
        elif log[after].mass_g - log[before].mass_g > rises_g(lost, step):
            found[after] = "rises"
    return sorted(found.items())
