"""From wood, chamber and oven: the room in the wood, the resin it takes, and the time its core needs."""

from __future__ import annotations

import math

from orvek.craft import bubbles, moisture, soaking, woods
from orvek.craft.drying import Band
from orvek.documents import Job, Shop, WoodInHand
from orvek.documents.shelf.soaked import CORE, UPTAKE
from orvek.planning.soak.results import BathPlan, DryPlan, HeatPlan, WoodPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, decimal

_ML, _G, _MM, _PCT, _MIN = Dimension.VOLUME, Dimension.MASS, Dimension.LENGTH, Dimension.PERCENT, Dimension.DURATION
_UNKNOWN_TAKES = (40.0, 90.0)  # of the possible, where nobody knows the wood: a guess
_SOFT_TAKES = (70.0, 95.0)  # punky and spalted wood (workshop practice)
_PRIOR_READINGS = 2.0
_SOAK_TIMES = 2.0  # at least twice as long after the vacuum as under it (workshop practice)
_CALIPERS_MM, _DISPLACED = 0.1, 0.01  # wood is never truer than that; by displacement one in a hundred (estimates)
_FOIL_TIMES = 1.2  # foil keeps the air off (an estimate)


def volume_of_one_ml(wood: WoodInHand) -> float:
    """The volume of one piece: as measured, else by its shape; of an irregular one its box, which is too much."""
    if wood.volume_ml is not None:
        return wood.volume_ml
    if wood.form in {"round", "hollow round"}:
        hole = min(wood.bore_mm, wood.width_mm - 1) if wood.form == "hollow round" else 0.0
        return math.pi / 4 * (wood.width_mm**2 - hole**2) * wood.length_mm / 1000
    return wood.width_mm * wood.depth_mm * wood.length_mm / 1000


def wood_plan(job: Job, shop: Shop, drying: DryPlan) -> WoodPlan:
    """The room in the wood, from what was weighed and measured, else from tables."""
    wood, bath = job.soak.wood, job.soak.bath
    volume = _volume(wood)
    dry = _dry_mass(job, drying)
    density = _density(job, volume.value, dry)
    void = soaking.void_part(density.value)
    known = (Term("ρ", "oven-dry density", density.value, Dimension.DENSITY),)
    resin = Term("ρr", "the resin's", bath.resin_g_ml, Dimension.DENSITY)
    formula = "U = 100 · ρr · (1/ρ − 1/1.50)"
    most = soaking.most_uptake_pct(density.value, bath.resin_g_ml)
    source = "wood physics; 1.50 g/ml is the cell wall"
    if dry is not None:
        off = 100 * bath.resin_g_ml / density.value * _uncertainty(job, dry.value)
        source = f"{source}; ± {decimal(off, 1)} by calipers and scale"
    takes, takes_source = takes_pct(job, shop)
    return WoodPlan(
        volume_ml=volume,
        dry_g=dry,
        density_g_ml=density,
        void_pct=Figure("Room in it", 100 * void, _PCT, "φ = 1 − ρ / 1.50", known, source, digits=0),
        most_uptake_pct=Figure("Takes up at most", most, _PCT, formula, (*known, resin), source, digits=0),
        takes_pct=takes,
        takes_source=takes_source,
        shrinks_mm=_shrinks(job, drying),
    )


def takes_pct(job: Job, shop: Shop) -> tuple[Band, str]:
    """What such wood takes up of the possible, in %, and where that comes from: the shop's records, else practice."""
    wood = job.soak.wood
    own = woods.wood(wood.species)
    low, high = (own.takes_low_pct, own.takes_high_pct) if own and not wood.is_soft else _UNKNOWN_TAKES
    if wood.is_soft:
        low, high = _SOFT_TAKES
    middle, half = (low + high) / 2, (high - low) / 2
    seen = [one.value for one in shop.soaked if one.seen == UPTAKE and one.species == wood.species and one.value < 105]
    if not seen:
        return Band(low, middle, high), "a guess: common practice, your own records replace it"
    weight = _PRIOR_READINGS + len(seen)
    mean = (_PRIOR_READINGS * middle + sum(seen)) / weight
    wide = half * math.sqrt((_PRIOR_READINGS + 1) / (weight + 1))
    return Band(max(0.0, mean - wide), mean, min(100.0, mean + wide)), f"by {len(seen)} of your own"


def bath_plan(job: Job, shop: Shop, wood: WoodPlan) -> BathPlan:
    """The chamber, the resin and the vacuum, for one bath."""
    bath, pieces = job.soak.bath, job.soak.wood
    dry_g = wood.dry_g.value if wood.dry_g else wood.density_g_ml.value * wood.volume_ml.value
    takes_ml = wood.takes_pct.best / 100 * wood.most_uptake_pct.value / 100 * dry_g / bath.resin_g_ml
    takes = Figure(
        "Goes into the wood",
        takes_ml,
        _ML,
        "V = f · U · m dry / ρr",
        (
            Term("f", "taken up of the possible", wood.takes_pct.best, _PCT, None, wood.takes_source),
            Term("U", "at most, of the dry mass", wood.most_uptake_pct.value, _PCT),
            Term("m dry", "all pieces", dry_g, _G),
        ),
        "derived",
        digits=0,
    )
    stack = pieces.length_mm if bath.stands == "upright" else _lying_mm(job)
    floor = math.pi / 4 * bath.chamber_mm**2
    standing = soaking.bath_ml(wood.volume_ml.value, floor, stack, bath.cover_mm)
    bath_figure = Figure(
        "In the chamber, over and round them",
        standing,
        _ML,
        "V = A · (h + cover) − V wood",
        (
            Term("D", "chamber, inside", bath.chamber_mm, _MM),
            Term("h", "pieces stand high", stack, _MM),
            Term("cover", "over them", bath.cover_mm, _MM),
            Term("V wood", "all pieces", wood.volume_ml.value, _ML),
        ),
        "derived; what is left goes back into the bottle, filtered",
        digits=0,
    )
    buy = soaking.buy_ml(standing, takes_ml, bath.reserve_pct) * bath.baths
    terms = (
        Term("bath", "in the chamber", standing, _ML),
        Term("into", "the wood", takes_ml, _ML),
        Term("reserve", "at hand", bath.reserve_pct, _PCT),
        Term("n", "baths", bath.baths, Dimension.COUNT),
    )
    formula = "V = n · (bath + into) · (1 + reserve)"
    return BathPlan(
        takes_ml=takes,
        bath_ml=bath_figure,
        buy_ml=Figure("Resin to have at hand", buy, _ML, formula, terms, "derived", digits=0),
        buy_g=Figure(
            "Resin at hand, by weight", buy * bath.resin_g_ml, _G, f"{formula} · ρr", terms, "derived", digits=0
        ),
        head_mm=_head(job, stack),
        dial_most=_dial(shop),
        left_kpa=None
        if bath.gauge_bar is None
        else bubbles.left_kpa(shop.preferences.altitude_m, 100 * bath.gauge_bar),
        soak_least_min=_soak(job),
        taken_pct=_taken(job, wood),
    )


def heat_plan(job: Job, shop: Shop) -> HeatPlan:
    """How long the core needs, and when the clock may be stopped."""
    heat, wood = job.soak.heat, job.soak.wood
    sides = (wood.width_mm * heat.wide, wood.thick_mm * heat.high)
    film = soaking.FAN_W_M2K if heat.has_fan else soaking.STILL_W_M2K
    minutes = soaking.core_min(sides, film, heat.begin_c, heat.oven_c, heat.core_c)
    minutes *= _FOIL_TIMES if heat.is_wrapped else 1.0
    ratios = [one.value / one.expected for one in shop.soaked if one.seen == CORE]
    learned = math.exp(sum(math.log(one) for one in ratios) / len(ratios)) if ratios else 1.0
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
        times = 1.0 if len(ratios) >= 2 else soaking.SURE_TIMES
    clock_terms = (
        Term("core", words, known, _MIN, "measured" if heat.core_min is not None else "guess"),
        Term("sure", "times, where no probe said so", times, Dimension.RATIO),
        Term("hold", "held there", heat.hold_min, _MIN),
    )
    clock = known * times + heat.hold_min
    source = "a probe in the core of one piece is better than any sum"
    return HeatPlan(core, Figure("From closing the door", clock, _MIN, "t = core · sure + hold", clock_terms, source))


def _volume(wood: WoodInHand) -> Figure:
    each = volume_of_one_ml(wood)
    how = "measured" if wood.volume_ml is not None else "by its shape"
    terms = (Term("V", f"of one, {how}", each, _ML), Term("n", "pieces", wood.count, Dimension.COUNT))
    return Figure("Wood, all pieces", each * wood.count, _ML, "n · V", terms, how)


def _dry_mass(job: Job, drying: DryPlan) -> Figure | None:
    typed = job.soak.wood.dry_g
    if typed is not None:
        weighed = (Term("m", "weighed", typed, _G, "measured"),)
        return Figure("Oven-dry, all pieces", typed, _G, "m", weighed, "weighed")
    if drying.end_g is None:
        return None
    if job.soak.drying.way == "in an oven":
        return Figure("Oven-dry, all pieces", drying.end_g.value, _G, "m end", drying.end_g.terms, "by the forecast")
    dry = drying.end_g.value / (1 + drying.equilibrium_pct.value / 100)
    terms = (
        Term("m end", "in the air, by the forecast", drying.end_g.value, _G),
        Term("E", "moisture the air leaves", drying.equilibrium_pct.value, _PCT),
    )
    return Figure("Oven-dry, all pieces", dry, _G, "m end / (1 + E)", terms, "by the forecast")


def _density(job: Job, volume: float, dry: Figure | None) -> Figure:
    if dry is not None and volume > 0:
        sure = 100 * _uncertainty(job, dry.value)
        weighed = (
            Term("m", dry.source, dry.value, _G),
            Term("V", "all pieces", volume, _ML),
            Term("±", "by calipers and scale", sure, _PCT),
        )
        source = f"yours, ± {decimal(sure, 1)} %"
        return Figure("Oven-dry density", dry.value / volume, Dimension.DENSITY, "ρ = m / V", weighed, source, digits=2)
    own = woods.wood(job.soak.wood.species)
    if own is not None:
        value = moisture.dry_density_g_ml(own.basic_g_ml, own.volume_pct)
        terms = (
            Term("G", "basic density", own.basic_g_ml, Dimension.DENSITY, "textbook"),
            Term("S", "shrinkage in volume", own.volume_pct, _PCT, "textbook"),
        )
        source = "a table; punky wood may have a third of it: weigh and measure"
        return Figure("Oven-dry density", value, Dimension.DENSITY, "ρ = G / (1 − S)", terms, source, digits=2)
    known = job.blank.material(job.soak.wood.species).density_g_ml
    told = (Term("ρ", "as the material says", known.value, Dimension.DENSITY, known.standing, known.source),)
    source = "yours, as measured" if known.standing == "measured" else "as the material says: weigh and measure"
    return Figure("Oven-dry density", known.value, Dimension.DENSITY, "ρ", told, source, digits=2)


def _uncertainty(job: Job, dry_g: float) -> float:
    """How far the density may be off, as a part of itself: the calipers on each side, the scale. GUM, textbook."""
    wood, step_g = job.soak.wood, job.pour.scale.resolution_g
    scale = step_g / math.sqrt(12) / dry_g
    if wood.volume_ml is not None:
        return math.hypot(scale, _DISPLACED)
    sides = (wood.length_mm, wood.width_mm, wood.thick_mm)
    return math.hypot(scale, *(_CALIPERS_MM / side for side in sides))


def _shrinks(job: Job, drying: DryPlan) -> Figure | None:
    own = woods.wood(job.soak.wood.species)
    if own is None or drying.moisture_pct is None:
        return None
    now, wide = min(moisture.FIBRE_SATURATION_PCT, drying.moisture_pct.value), job.soak.wood.width_mm
    value = wide * moisture.shrunk_pct(own.tangential_pct, 0.0) / 100 * now / moisture.FIBRE_SATURATION_PCT
    terms = (
        Term("w", "width", wide, _MM),
        Term("S", "tangential shrinkage, green to dry", own.tangential_pct, _PCT, "textbook"),
        Term("M", "moisture now", now, _PCT),
    )
    formula = "w · S · M / 30 %"
    return Figure("Still shrinks, at most", value, _MM, formula, terms, "USDA Wood Handbook, eq. 4-7", digits=2)


def _lying_mm(job: Job) -> float:
    """How high lying pieces stand: as many side by side as the chamber's width takes."""
    wood, bath = job.soak.wood, job.soak.bath
    beside = max(1, int(bath.chamber_mm / (wood.width_mm * 1.1)))
    return math.ceil(wood.count / beside) * wood.thick_mm


def _head(job: Job, stack: float) -> Figure:
    bath = job.soak.bath
    terms = (
        Term("H", "chamber, high", bath.chamber_high_mm, _MM),
        Term("h", "pieces", stack, _MM),
        Term("cover", "over them", bath.cover_mm, _MM),
    )
    source = "at least as much as the liquid stands high: it foams (workshop practice)"
    head = bath.chamber_high_mm - stack - bath.cover_mm
    return Figure("Free above the resin", head, _MM, "H − h − cover", terms, source, digits=0)


def _dial(shop: Shop) -> Figure:
    altitude = shop.preferences.altitude_m
    value = bubbles.air_kpa(altitude) / 100
    terms = (Term("h", "above the sea", altitude, Dimension.ALTITUDE),)
    source = "ISO 2533; the weather adds ± 0.03 bar"
    return Figure("The dial can say at most", value, Dimension.PRESSURE, "p(h)", terms, source, digits=2)


def _soak(job: Job) -> Figure:
    bath = job.soak.bath
    terms = (Term("vacuum", "under it", bath.vacuum_min, _MIN),)
    source = "workshop practice: the air's pressure drives it in once it is let back"
    return Figure("Leave it in the resin at least", _SOAK_TIMES * bath.vacuum_min, _MIN, "2 · vacuum", terms, source)


def _taken(job: Job, wood: WoodPlan) -> Figure | None:
    after = job.soak.bath.after_g
    if after is None or wood.dry_g is None:
        return None
    value = soaking.of_possible_pct(wood.dry_g.value, after, wood.most_uptake_pct.value)
    terms = (
        Term("m after", "out of the bath, wiped", after, _G, "measured"),
        Term("m dry", wood.dry_g.source, wood.dry_g.value, _G),
        Term("U", "the most", wood.most_uptake_pct.value, _PCT),
    )
    formula = "100 · (m after − m dry) / (U · m dry)"
    return Figure("Taken up, of the possible", value, _PCT, formula, terms, "yours", digits=0)
