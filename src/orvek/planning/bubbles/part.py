"""Pressure and vacuum for this pour: what becomes of a bubble, what the lid holds, how many moulds go in."""

from __future__ import annotations

import math
from collections.abc import Iterator

from orvek.craft.bubbles import (
    SAFE_PART,
    air_kpa,
    bubble_left,
    climb_mm,
    left_kpa,
    lid_force_kn,
    moulds_in_pot,
    stored_kj,
    vacuum_growth,
)
from orvek.documents import Job, LoafMould, Mould, Resin, RoundMould, Shop
from orvek.planning.bubbles.results import BubblesPlan
from orvek.planning.findings import Caution
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_TENSION_N_M, _WETS_DEG = 0.035, 20.0  # typical of mixed resins on a mould: guesses


def part(plan: Plan) -> BubblesPlan | None:
    """What pressure or vacuum does here."""
    return bubbles_plan(plan.job, plan.shop)


def cautions(plan: Plan) -> Iterator[Caution]:
    """What a pot or a chamber asks for."""
    way = plan.job.pour.bubbles.way
    if plan.job.pour.resin is not None and way in _CAUTIONS:
        yield Caution(f"bubbles.{way}", _CAUTIONS[way])


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    if plan.bubbles:
        own = (plan.bubbles.safe_bar, plan.bubbles.lid_kn, plan.bubbles.stored_kj)
        yield "Bubbles", [plan.bubbles.bubble_pct, plan.bubbles.volume_pct, *(figure for figure in own if figure)]
    rise = climb(plan.job.pour.resin)
    if rise and plan.job.pour.mould:
        yield "At the mould's walls", [rise]


_CAUTIONS = {
    "pressure": "Pressure pot: only within the rating on its plate, with its relief valve; let the pressure out before "
    "unlatching, never lean over it, change nothing on it. The maker's manual and local rules decide.",
    "vacuum": "Vacuum chambers can implode: look for cracks and crazing, put a cage or cover round it, no plain glass "
    "jars. The equipment's rating decides.",
}


def mould_size_mm(mould: Mould) -> tuple[float, float, float]:
    """Outside of a mould: length, width, height."""
    count = 1 if isinstance(mould, LoafMould) else mould.cavities
    across = mould.diameter_mm if isinstance(mould, RoundMould) else mould.width_mm
    deep = mould.diameter_mm if isinstance(mould, RoundMould) else mould.depth_mm
    return (
        mould.length_mm + 2 * mould.wall_mm,
        count * (across + mould.wall_mm) + mould.wall_mm,
        deep + mould.floor_mm,
    )


def bubbles_plan(job: Job, shop: Shop) -> BubblesPlan | None:
    """What pressure or vacuum does in this shop; None when neither is used, or no pot is chosen."""
    pour, mould = job.pour, job.pour.mould
    air = air_kpa(shop.preferences.altitude_m) / 100
    if mould is None or pour.bubbles.way == "none":
        return None
    if pour.bubbles.way == "vacuum":
        return _vacuum(job, shop)
    if pour.pot is None:
        return None
    bar, pot, size = pour.bubbles.pressure_bar, pour.pot, mould_size_mm(mould)
    volume, across = bubble_left(bar, air)
    side_by_side, layers = moulds_in_pot(size[:2], size[2], (pot.diameter_mm, pot.height_mm))
    gauge = Term("p", "pressure, gauge", bar, Dimension.PRESSURE)
    local = Term("p₀", "the air", air, Dimension.PRESSURE)
    litres = math.pi / 4 * pot.diameter_mm**2 * pot.height_mm / 1e6
    return BubblesPlan(
        bubble_pct=Figure(
            "A bubble keeps, across", 100 * across, Dimension.PERCENT, "∛(p₀ / (p₀ + p))", (local, gauge), "Boyle", 0
        ),
        volume_pct=Figure(
            "… and of its volume", 100 * volume, Dimension.PERCENT, "p₀ / (p₀ + p)", (local, gauge), "Boyle", 0
        ),
        safe_bar=Figure(
            "At most",
            SAFE_PART * pot.rated_bar,
            Dimension.PRESSURE,
            "0.8 · rating",
            (Term("rating", "on its plate", pot.rated_bar, Dimension.PRESSURE, "label"),),
            "workshop practice; the plate itself is never exceeded",
        ),
        lid_kn=Figure(
            "The lid holds",
            lid_force_kn(bar, pot.diameter_mm),
            Dimension.FORCE,
            "F = p · π · D² / 4",
            (gauge, Term("D", "inside diameter", pot.diameter_mm, Dimension.LENGTH)),
            "mechanics",
            1,
        ),
        stored_kj=Figure(
            "Energy in it", stored_kj(bar, litres), Dimension.ENERGY, "E = p · V / (γ − 1)", (gauge,), "Brode", 1
        ),
        fitting=side_by_side * layers,
        side_by_side=side_by_side,
        mould_mm=size,
        left_kpa=None,
    )


def climb(resin: Resin | None) -> Figure | None:
    """How far the resin climbs the mould's wall, which is lost with the edge."""
    if resin is None:
        return None
    density = resin.density_mix.value
    return Figure(
        "Creep up the walls",
        climb_mm(_TENSION_N_M, 1000 * density, _WETS_DEG),
        Dimension.LENGTH,
        "h = √(γ / ρ g) · √(2 (1 − sin θ))",
        (
            Term("γ", "surface tension in N/m, typical", _TENSION_N_M, Dimension.RATIO, "guess"),
            Term("ρ", "density mixed", density, Dimension.DENSITY),
            Term("θ", "how it meets the wall", _WETS_DEG, Dimension.ANGLE, "guess"),
        ),
        "textbook; overfill 3 to 5 mm and trim as much at the ends (workshop practice)",
    )


def _vacuum(job: Job, shop: Shop) -> BubblesPlan | None:
    altitude, mould = shop.preferences.altitude_m, job.pour.mould
    left = left_kpa(altitude, 100 * job.pour.bubbles.gauge_bar)
    if left <= 0 or mould is None:
        return None
    air = air_kpa(altitude)
    volume, across = vacuum_growth(left, air)
    local = Term("p₀", "the air", air / 100, Dimension.PRESSURE)
    rest = Term("p", "what is left", left / 100, Dimension.PRESSURE)
    return BubblesPlan(
        bubble_pct=Figure(
            "A bubble grows, across, to", 100 * across, Dimension.PERCENT, "∛(p₀ / p)", (local, rest), "Boyle", 0
        ),
        volume_pct=Figure("… and its volume to", 100 * volume, Dimension.PERCENT, "p₀ / p", (local, rest), "Boyle", 0),
        safe_bar=None,
        lid_kn=None,
        stored_kj=None,
        fitting=1,
        side_by_side=1,
        mould_mm=mould_size_mm(mould),
        left_kpa=left,
    )
