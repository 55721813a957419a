"""The chamber, the resin that goes into it, the vacuum, and what the wood took up."""

from __future__ import annotations

import math

from orvek.craft import bubbles, soaking
from orvek.documents import Job, Shop
from orvek.planning.soak.results import BathPlan, VacuumPlan, WoodPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_ML, _G, _MM, _PCT, _MIN = Dimension.VOLUME, Dimension.MASS, Dimension.LENGTH, Dimension.PERCENT, Dimension.DURATION
_SOAK_TIMES = 2.0  # at least twice as long after the vacuum as under it (workshop practice)


def vacuum_plan(job: Job, shop: Shop) -> VacuumPlan:
    """What the dial can say, and what it leaves."""
    gauge = job.soak.bath.gauge_bar
    left = None if gauge is None else bubbles.left_kpa(shop.preferences.altitude_m, 100 * gauge)
    return VacuumPlan(_dial(shop), left)


def bath_plan(job: Job, wood: WoodPlan) -> BathPlan:
    """The chamber, the resin and the vacuum, for one bath."""
    bath, pieces = job.soak.bath, job.soak.wood
    dry_g = wood.dry_g.value if wood.dry_g else wood.density_g_ml.value * wood.volume_ml.value
    takes_ml = wood.takes_pct.best / 100 * wood.most_uptake_pct.value / 100 * dry_g / bath.resin_g_ml
    stack = pieces.length_mm if bath.stands == "upright" else _lying_mm(job)
    floor = math.pi / 4 * bath.chamber_mm**2
    standing = soaking.bath_ml(wood.volume_ml.value, floor, stack, bath.cover_mm)
    buy = soaking.buy_ml(standing, takes_ml, bath.reserve_pct) * bath.baths
    terms = (
        Term("bath", "in the chamber", standing, _ML),
        Term("into", "the wood", takes_ml, _ML),
        Term("reserve", "at hand", bath.reserve_pct, _PCT),
        Term("n", "baths", bath.baths, Dimension.COUNT),
    )
    formula = "V = n · (bath + into) · (1 + reserve)"
    return BathPlan(
        takes_ml=_takes(wood, dry_g, takes_ml),
        bath_ml=_standing(job, wood, stack, standing),
        buy_ml=Figure("Resin to have at hand", buy, _ML, formula, terms, "derived", digits=0),
        buy_g=Figure(
            "Resin at hand, by weight", buy * bath.resin_g_ml, _G, f"{formula} · ρr", terms, "derived", digits=0
        ),
        head_mm=_head(job, stack),
        soak_least_min=_soak(job),
        taken_pct=_taken(job, wood),
    )


def _takes(wood: WoodPlan, dry_g: float, takes_ml: float) -> Figure:
    terms = (
        Term("f", "taken up of the possible", wood.takes_pct.best, _PCT, None, wood.takes_source),
        Term("U", "at most, of the dry mass", wood.most_uptake_pct.value, _PCT),
        Term("m dry", "all pieces", dry_g, _G),
    )
    return Figure("Goes into the wood", takes_ml, _ML, "V = f · U · m dry / ρr", terms, "derived", digits=0)


def _standing(job: Job, wood: WoodPlan, stack: float, standing: float) -> Figure:
    terms = (
        Term("D", "chamber, inside", job.soak.bath.chamber_mm, _MM),
        Term("h", "pieces stand high", stack, _MM),
        Term("cover", "over them", job.soak.bath.cover_mm, _MM),
        Term("V wood", "all pieces", wood.volume_ml.value, _ML),
    )
    label, source = "In the chamber, over and round them", "derived; what is left goes back into the bottle, filtered"
    return Figure(label, standing, _ML, "V = A · (h + cover) − V wood", terms, source, digits=0)


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
