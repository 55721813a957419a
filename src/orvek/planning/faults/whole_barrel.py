"""Ways that treat the whole barrel or its hole: sanded again, ringed, mounted on its hole, packed, warmed."""

from __future__ import annotations

from orvek.craft.abrasives import COARSE_UM_MIN
from orvek.craft.faults import clear_radius_mm
from orvek.craft.turning import THIN_WALL_MM
from orvek.planning.faults.made import Made, cannot
from orvek.planning.faults.spot import Spot

_RING_FROM_END_MM = 6.0  # further in a ring looks like a repair (a choice)
_WARMER_C = 20.0


def resand(spot: Spot) -> Made:
    """Back to a grit that takes the marks, and on."""
    plan, finish = spot.plan, spot.plan.finish
    units = plan.units
    if finish is None or not finish.bare:
        return cannot("There is no ladder of grits to go back to.")
    coarse_min = 1000 * spot.fault.deep_mm / COARSE_UM_MIN
    coarsest = finish.bare[0].abrasive
    lines = (
        f"Marks {units.mm(spot.fault.deep_mm, 2)} deep take {units.mm(2 * spot.fault.deep_mm, 2)} off the diameter: "
        f"from {coarsest.name}, about {coarse_min:.0f} min, or a light cut with a fresh edge first.",
        "Then through the whole ladder; at each stop the lathe and sand along the barrel.",
    )
    return Made(can=True, lines=lines, hands_min=5 + coarse_min + finish.sanding_min.value)


def ring(spot: Spot) -> Made:
    """A recess over a broken lip, and a ring in it."""
    units = spot.plan.units
    if min(spot.beyond_mm) > _RING_FROM_END_MM:
        return cannot("It lies too far from the end for a ring.")
    wide = max(0.0, min(spot.beyond_mm)) + spot.fault.long_mm
    floor = clear_radius_mm(spot.radius_now_mm, spot.fault.deep_mm)
    if spot.barrel.has_tube and floor < spot.hole_mm:
        floor = spot.barrel.tube_diameter_mm / 2
    if floor < spot.barrel.tube_diameter_mm / 2:
        return cannot("The recess would cut the tube.")
    lines = (
        f"Turn a recess {units.mm(wide + 0.5)} wide at that end down to {units.mm(2 * floor, 2)}, its shoulder square.",
        f"A ring bored to {units.mm(2 * floor + 0.1, 2)}, slow epoxy, 12 h; turn it flush, square the end again.",
        "Press with a pilot by hand, the lip backed by the ring now.",
    )
    return Made(can=True, lines=lines, title=f"{units.mm(wide + 0.5)} wide", is_drawn=False)


def remount(spot: Spot) -> Made:
    """Turned about the hole."""
    plan = spot.plan
    units = plan.units
    holes = plan.bore.holes if plan.bore else ()
    hole = next((one for one in holes if one.number == spot.fault.barrel), None)
    if hole is None or hole.cleans_to_mm is None:
        return cannot("Measure where the hole lies at both ends, and type it at Bore, page Holes.")
    widest = spot.barrel.widest_mm
    if hole.cleans_to_mm < THIN_WALL_MM * 2 + 2 * spot.hole_mm:
        return cannot(f"Turned on its hole the bar is round at {units.mm(hole.cleans_to_mm)}: no wall is left.")
    lines = [f"On a mandrel through the hole it comes round at {units.mm(hole.cleans_to_mm)}."]
    if hole.cleans_to_mm >= widest:
        lines.append(f"{units.mm(widest, 2)} is wanted: it cleans up. The pattern stays off by what the hole is off.")
        return Made(can=True, lines=tuple(lines))
    lines.append(f"{units.mm(widest, 2)} is wanted: a flat stays, or the barrel becomes slimmer than its parts.")
    return cannot(*lines)


def pack(spot: Spot) -> Made:
    """A tube that is loose, packed round."""
    plan = spot.plan
    units = plan.units
    holes = plan.bore.holes if plan.bore else ()
    hole = next((one for one in holes if one.number == spot.fault.barrel and one.tube is not None), None)
    if hole is None or hole.tube is None:
        return cannot("Nothing is glued into this barrel.")
    room = hole.tube.gap_mm.value
    lines = (
        f"{units.mm(room, 2)} of room round the tube. Roughen a burnished hole with coarse paper round a dowel.",
        "Up to 0.4 mm: thick epoxy, the tube turned until it is wet all round, stood upright. More: a sleeve, or thin "
        "paper wound on with epoxy until it slides in snugly.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def warm(spot: Spot) -> Made:
    """Cured on in the warm."""
    plan = spot.plan
    units = plan.units
    warm_c = plan.job.batch.shop_temperature_c + _WARMER_C
    lines = (
        f"{units.degrees_c(warm_c)} for half a day, no warmer than its mould and its label bear; vent, no food oven.",
        "Soft after that, it had too little hardener: no more hardener brings it back. Scrape it off and cast again.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def true_up(spot: Spot) -> Made:
    """Held true again, and cut round, as far as it cleans up."""
    true = spot.plan.finish.trues[spot.fault.barrel] if spot.plan.finish is not None else None
    if true is not None and true.clean_mm is not None and true.clean_mm.value < 0:
        return cannot("As it is held it does not clean up: Finish, True, says whose fault it is.")
    lines = (
        "Finish, True: four readings at both ends, or a nail at the bushing; put right what is at fault.",
        "Then the lightest cut that goes all round, from the middle to the ends, and the whole ladder again.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def wick_in(spot: Spot) -> Made:
    """Thin glue drawn in round a tube that has come loose."""
    if not spot.barrel.has_tube:
        return cannot("There is no tube in this barrel.")
    lines = (
        "Stand it upright; thin glue drop by drop round the tube, a minute, then the other end up; bushings out.",
        "Leave it a day, clear the ends, and see that it still runs true. If it knocks yet, pack it.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def buff_off(_spot: Spot) -> Made:
    """Polish that never dried, or dried to chalk."""
    lines = (
        "Wipe it off with the polish's own thinner on a cloth, lathe off; let the coat under it harden a day.",
        "Then half as much, at 800 rpm, a clean side of the cloth every few seconds. Fingers off: polish heats.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def flood(_spot: Spot) -> Made:
    """Hairlines filled from outside, while nothing under them moves any more."""
    lines = (
        "Thin glue over all of it, slowly turning, until nothing is drawn in; no activator. A day in a dry place.",
        "Level it, and look again under a lamp: lines that come back come from below, and only new coats are left.",
    )
    return Made(can=True, lines=lines, is_drawn=False)


def press_turned(spot: Spot) -> Made:
    """One part pressed so far turned back that the pattern meets when the thread is home."""
    if len(spot.plan.job.laid) < 2:
        return cannot("There is but one barrel: nothing has to meet.")
    lines = (
        "Screw it together dry, mark across the joint; see by which angle the pattern is off.",
        "Press the threaded part turned back by that angle; a part that is in: out again with a punch, slowly.",
    )
    return Made(can=True, lines=lines, is_drawn=False)
