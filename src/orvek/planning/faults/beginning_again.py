"""Ways that make something else of the blank: another pen, a new casting round it, its tube saved, or a new one."""

from __future__ import annotations

import math
from collections.abc import Iterator

from orvek.craft.faults import way_kind
from orvek.craft.pouring import LONGEST_CURE_MIN
from orvek.documents import JOB, Barrel, Pen, path_to
from orvek.planning.faults.made import Made, cannot
from orvek.planning.faults.spot import Spot
from orvek.planning.findings import Edit
from orvek.planning.history import expected_pct
from orvek.planning.results import Plan

_SAME_TUBE_MM = 0.05
_BEFORE_TUBE = ("sawing", "boring")
_MOST_PENS = 2
_USUAL_G_ML = 1.1


def another_pen(spot: Spot) -> Made:
    """A slimmer or shorter barrel out of what is left."""
    units = spot.plan.units
    fits = list(_fits(spot))[:_MOST_PENS]
    if not fits:
        tube = f"a tube of {units.mm(spot.barrel.tube_diameter_mm, 2)}"
        sizes = f"no longer than {units.mm(spot.barrel.tube_length_mm)} and {units.mm(2 * spot.radius_now_mm, 2)} thick"
        return cannot(f"No pen on your shelf has {tube}, {sizes}, that leaves the flaw out.")
    lines = [
        f"{pen.name}, {other.name}: cut it to {units.mm(other.tube_length_mm)}, from {units.mm(start)} on; turn it to "
        f"{units.mm(other.finished_left_mm, 2)} and {units.mm(other.finished_right_mm, 2)}."
        for pen, other, start in fits
    ]
    pen, other, start = fits[0]
    begins = max(-1000.0, min(1000.0, spot.start_mm + start))
    look = (
        Edit(path_to(JOB.pen), Pen(name=pen.name, barrels=(other,))),
        Edit(path_to(JOB.blank.tube_starts_mm), (begins,)),
        Edit(path_to(JOB.blank.tube_turns_deg), ()),
        Edit(path_to(JOB.blank.tube_flips), ()),
    )
    return Made(can=True, lines=tuple(lines), title=pen.name, look=look)


def _fits(spot: Spot) -> Iterator[tuple[Pen, Barrel, float]]:
    """Pens of the shelf with a barrel for which what is left will do, and where it would begin."""
    own = spot.plan.job.pen
    for pen in spot.plan.shop.pens:
        for other in pen.barrels:
            if own is not None and other in own.barrels:
                continue
            start = _start_of(spot, other)
            if start is not None:
                yield pen, other, start
                break


def _start_of(spot: Spot, other: Barrel) -> float | None:
    """Where another barrel may begin in this one; None where it does not go in."""
    spare = spot.barrel.tube_length_mm - other.tube_length_mm
    if spare < 0 or not _takes_tube(spot, other):
        return None
    return next((start for start in (0.0, spare, spare / 2) if _clear(spot, other, start)), None)


def _takes_tube(spot: Spot, other: Barrel) -> bool:
    if spot.fault.moment == "sawing":
        return True
    if spot.fault.moment == "boring":
        return other.bit_diameter_mm >= 2 * spot.hole_mm - _SAME_TUBE_MM
    same = abs(other.tube_diameter_mm - spot.barrel.tube_diameter_mm) <= _SAME_TUBE_MM
    return same and other.inside == spot.barrel.inside


def _clear(spot: Spot, other: Barrel, start_mm: float) -> bool:
    """Whether the other barrel lies within what is left now, and the flaw outside it or turned away."""
    more = spot.radius_now_mm - spot.finished_mm
    for number in range(9):
        at = start_mm + other.tube_length_mm * number / 8
        now = spot.barrel.finished_mm(min(1.0, at / spot.barrel.tube_length_mm)) / 2 + more
        if other.finished_mm(number / 8) / 2 > now + 1e-9:
            return False
    half = spot.fault.long_mm / 2
    first, last = spot.fault.at_mm - half - start_mm, spot.fault.at_mm + half - start_mm
    if last <= 0 or first >= other.tube_length_mm:
        return True
    middle = min(1.0, max(0.0, (first + last) / 2 / other.tube_length_mm))
    return other.finished_mm(middle) / 2 <= spot.radius_now_mm - spot.fault.deep_mm


def recast(spot: Spot) -> Made:
    """The barrel stood in the mould again."""
    plan, layout = spot.plan, spot.plan.layout
    units = plan.units
    if layout is None:
        return cannot("Without a bar there is nothing to cast it in.")
    if spot.left_mm < 0:
        return cannot("Turning will remove the fault.")
    width, depth, is_round = layout.raw
    section = math.pi / 4 * width * depth if is_round else width * depth
    length = spot.barrel.piece_mm
    volume_ml = max(0.0, (section - math.pi * spot.radius_now_mm**2) * length / 1000)
    resin = plan.job.pour.resin
    lines = (
        "Scuff all of it dull: resin lets go of a polished face. Plug both ends of the tube.",
        f"Cast round it again: {units.ml(volume_ml)} of resin for a bar of {units.mm(width)} × {units.mm(depth)} × "
        f"{units.mm(length)}. The flaw fills with it; turn it to the same size.",
    )
    price = resin.price_per_kg.value if resin is not None and resin.price_per_kg else None
    density = resin.density_mix.value if resin is not None else _USUAL_G_ML
    cost = volume_ml * density / 1000 * price if price is not None else None
    used = f"{units.ml(volume_ml)} of resin"
    return Made(can=True, lines=lines, is_drawn=False, cost=cost, uses=used, wait_h=_cured_h(plan))


def _cured_h(plan: Plan) -> float:
    """How long a casting waits until it can be turned: as forecast, else by its label; a day where nothing says so."""
    if plan.cure is not None and plan.cure.ready_min is not None:
        return min(plan.cure.ready_min.best, LONGEST_CURE_MIN) / 60
    resin = plan.job.pour.resin
    label = resin.demould_min if resin is not None else None
    return label.value / 60 if label is not None else way_kind("recast").wait_h


def reclaim(spot: Spot) -> Made:
    """The tube out of the lost blank."""
    if not spot.barrel.has_tube or spot.fault.moment in _BEFORE_TUBE:
        return cannot("There is no tube in it.")
    mm = spot.plan.units.mm
    lines = (
        "Turn the blank off down to the glue, the last of it with coarse paper; the brass stays round on its mandrel.",
        f"Measure it: {mm(spot.barrel.tube_diameter_mm, 2)} outside, {mm(spot.barrel.tube_length_mm)} long; scrape "
        "the old glue out of its ends. At Bore say that the tube is reclaimed.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def show(spot: Spot) -> Made:
    """Nothing done, and it is said to whoever gets the pen."""
    lines = (
        f"It is {spot.plan.units.mm(spot.fault.deep_mm, 2)} deep. Feel with a nail: nothing may catch. Seal it so that "
        "nothing creeps in; write down who decided it.",
        "Wood with a flaw that is sound is still wood; a crack that can run is not to be left.",
    )
    return Made(can=True, lines=lines)


def again(spot: Spot) -> Made:
    """Another blank from the beginning."""
    plan = spot.plan
    batch = plan.job.batch
    wait = plan.bore.wait_min.value / 60 if plan.bore else 0.0
    if plan.job.cast_index is not None:
        wait += _cured_h(plan)
    cost = None
    if plan.costs is not None and not plan.costs.without_price:
        cost = plan.costs.total.value / max(1.0, plan.bars.blanks.value)
    lines = (
        f"Of {batch.pens_wanted} wanted and {plan.bars.blanks.value:.0f} started: check first whether a spare is left.",
        "Write down what caused it before you begin: the same way gives the same fault.",
    )
    return Made(
        can=True, lines=lines, wait_h=wait, chance_pct=100 - expected_pct(plan.job, plan.shop.ledger), cost=cost
    )
