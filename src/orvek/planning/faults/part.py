"""Each fault's place in the wall, its causes, and its ways out."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.faults import fault_kind
from orvek.documents import Barrel, Fault
from orvek.planning.faults.results import FaultPlan, FaultsPlan
from orvek.planning.faults.spot import Spot, flaw
from orvek.planning.faults.together import together
from orvek.planning.faults.ways import ways_out
from orvek.planning.findings import Caution
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


def part(plan: Plan) -> FaultsPlan | None:
    """What follows from the job's faults; None without a pen to put them on."""
    laid = plan.job.laid
    if not laid:
        return None
    found, outside = [], []
    for number, fault in enumerate(plan.job.faults.found):
        if fault.barrel >= len(laid) or fault.at_mm > laid[fault.barrel].tube_length_mm:
            outside.append(number)
        else:
            found.append(_fault(plan, number, fault, laid[fault.barrel]))
    return FaultsPlan(tuple(found), together(plan, tuple(found)), tuple(outside))


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    for one in plan.faults.found if plan.faults else ():
        heading = f"{one.barrel.name}: {one.fault.kind}"
        way = one.chosen
        told = [way.hands_min, way.wait_h, way.chance_pct, *([way.cost] if way.cost else [])] if way else []
        yield heading, [one.still_mm, one.wall_mm, *told]


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt while a blank is saved."""
    offered = {way.key for one in (plan.faults.found if plan.faults else ()) for way in one.open_ways}
    if offered & {"fill", "refill", "reglue"}:
        yield Caution(
            "faults.glue",
            "Thin glue runs where it likes, bonds skin and fumes: glasses, air, lathe off, never cloth. Alcohol and "
            "solvent off the bench before anything gets warm. The safety sheet decides.",
        )
    if "reclaim" in offered:
        yield Caution(
            "faults.heat",
            "A tube that is warmed out of resin gives off fumes that harm and burns: turn the blank off it instead, or "
            "outdoors with gloves, never over a flame.",
        )


def _fault(plan: Plan, number: int, fault: Fault, barrel: Barrel) -> FaultPlan:
    spot, kind = Spot.of(plan, fault, barrel), fault_kind(fault.kind)
    return FaultPlan(
        number=number,
        fault=fault,
        barrel=barrel,
        causes=kind.likely(fault.looks),
        prevention=kind.prevention,
        radius_now_mm=spot.radius_now_mm,
        is_measured=spot.is_measured,
        still_mm=_still(spot),
        wall_mm=_wall(spot),
        ways=ways_out(spot, kind),
        as_it_is=flaw(spot, "air") if kind.is_spot else (),
    )


def _still(spot: Spot) -> Figure:
    terms = (
        Term("r", "radius there now", spot.radius_now_mm, _MM, "measured" if spot.is_measured else "guess"),
        Term("f", "finished there", spot.finished_mm, _MM),
    )
    source = "by your calipers" if spot.is_measured else "by when it came: measure it there"
    return Figure("Still to come off there", spot.still_mm, _MM, "r − f", terms, source, digits=2)


def _wall(spot: Spot) -> Figure:
    terms = (
        Term("r", "radius there now", spot.radius_now_mm, _MM),
        Term("d", "deep", spot.fault.deep_mm, _MM, "measured"),
        Term("h", "radius of the hole", spot.hole_mm, _MM),
    )
    return Figure("Left under the flaw", spot.under_mm, _MM, "r − d − h", terms, "derived", digits=2)
