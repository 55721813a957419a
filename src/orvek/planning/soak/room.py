"""How much room there is in the wood, from what was weighed and measured, else from tables."""

from __future__ import annotations

import math

from orvek.craft import moisture, soaking, woods
from orvek.craft.drying import Band
from orvek.craft.learning import GUESS_WORTH, narrowed
from orvek.documents import Job, Shop, WoodInHand
from orvek.documents.shelf.soaked import UPTAKE
from orvek.planning.soak.results import DryPlan, WoodPlan
from orvek.planning.stuff import FIBRE
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, decimal

_ML, _G, _MM, _PCT = Dimension.VOLUME, Dimension.MASS, Dimension.LENGTH, Dimension.PERCENT
_UNKNOWN_TAKES = (40.0, 90.0)  # of the possible, where nobody knows the wood: a guess
_SOFT_TAKES = (70.0, 95.0)  # punky and spalted wood (workshop practice)
TOO_MUCH_PCT = 105.0  # more was weighed wrongly, or wet: it teaches nothing
_CALIPERS_MM, _DISPLACED = 0.1, 0.01  # wood is never truer than that; by displacement one in a hundred (estimates)


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
    own = woods.wood(job.treated_wood)
    low, high = (own.takes_low_pct, own.takes_high_pct) if own else _UNKNOWN_TAKES
    if is_soft(job):
        low, high = _SOFT_TAKES
    middle, half = (low + high) / 2, (high - low) / 2
    same = (one.value for one in shop.soaked if one.seen == UPTAKE and one.species == job.treated_wood)
    seen = [value for value in same if value < TOO_MUCH_PCT]
    if not seen:
        return Band(low, middle, high), "a guess: common practice, your own records replace it"
    mean = (GUESS_WORTH * middle + sum(seen)) / (GUESS_WORTH + len(seen))
    wide = half * narrowed(len(seen))
    return Band(max(0.0, mean - wide), mean, min(100.0, mean + wide)), f"by {len(seen)} of your own"


def is_soft(job: Job) -> bool:
    """Whether the piece drinks like punky wood: as the maker says, or because it is fibre."""
    return job.soak.wood.is_soft or job.blank.material(job.treated_wood).grain == FIBRE


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
    own = woods.wood(job.treated_wood)
    if own is not None:
        value = moisture.dry_density_g_ml(own.basic_g_ml, own.volume_pct)
        terms = (
            Term("G", "basic density", own.basic_g_ml, Dimension.DENSITY, "textbook"),
            Term("S", "shrinkage in volume", own.volume_pct, _PCT, "textbook"),
        )
        source = "a table; punky wood may have a third of it: weigh and measure"
        return Figure("Oven-dry density", value, Dimension.DENSITY, "ρ = G / (1 − S)", terms, source, digits=2)
    known = job.blank.material(job.treated_wood).density_g_ml
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
    own = woods.wood(job.treated_wood)
    if own is None or drying.moisture_pct is None:
        return None
    now, wide = min(moisture.FIBRE_SATURATION_PCT, drying.moisture_pct.value), job.soak.wood.width_mm
    value = wide * moisture.shrunk_pct(own.tangential_pct, 0.0) / 100 * now / moisture.FIBRE_SATURATION_PCT
    least = wide * moisture.shrunk_pct(own.radial_pct, 0.0) / 100 * now / moisture.FIBRE_SATURATION_PCT
    terms = (
        Term("w", "width", wide, _MM),
        Term("S", "tangential shrinkage, green to dry: along the rings", own.tangential_pct, _PCT, "textbook"),
        Term("Sr", f"radial: a quarter-sawn face loses only {least:.2f} mm", own.radial_pct, _PCT, "textbook"),
        Term("M", "moisture now", now, _PCT),
    )
    formula = "w · S · M / 30 %"
    return Figure("Still shrinks, at most", value, _MM, formula, terms, "USDA Wood Handbook, eq. 4-7", digits=2)
