"""Ways that mend the flaw itself: turned away, filled, glued back, hidden, cut off with the ends, coated over."""

from __future__ import annotations

from orvek.craft.boring_plan import may_lose, may_shorten
from orvek.craft.faults import clear_radius_mm, covered_deg, filled_chance_pct, powder_g, way_kind
from orvek.craft.filling import THICK_MM, Fill, fill_of, glue_g
from orvek.craft.pressing import clip_covers_deg
from orvek.craft.turning import THIN_WALL_MM, WANTED_WALL_MM
from orvek.documents import JOB, OWN_DUST, Fault, OutlinePoint, path_to, present
from orvek.planning.faults.made import Made, cannot
from orvek.planning.faults.spot import Spot, flaw
from orvek.planning.findings import Edit
from orvek.planning.shortening import AT_END_MM, cuts_mm, decided

_DUST_G_ML, _DROP_MG = 1.2, 25.0  # dust of resin or wood with glue; a drop of thin glue is 20 to 30 mg (practice)
_PINCH_G = 0.05
_BARE_MM, _HAIRLINE_MM = 0.1, 0.3
_LIP_MM = 5.0  # parts meet the barrel within (a choice)
_CLIP_SPARE_DEG = 6.0  # a clip is pressed no truer than that (workshop practice)
_SHORTEST_MM = 5.0
_SQUARE = "Square both ends again; measure end to end, and dry fit its parts before you coat it."
_AT_LIP_PCT = 15.0  # a fill there fails more often (a guess)


def turn_on(spot: Spot) -> Made:
    """It goes with what is still to come off."""
    mm = spot.plan.units.mm
    still, deep = mm(spot.still_mm, 2), mm(spot.fault.deep_mm, 2)
    if spot.left_mm < 0:
        guess = "" if spot.is_measured else " Measure it there first: what it stands at now is taken from its moment."
        return Made(can=True, lines=(f"{still} is still to come off the radius there, and it is {deep} deep.{guess}",))
    return cannot(f"{still} is still to come off the radius there; {mm(spot.left_mm, 2)} of it would stay.")


def fill(spot: Spot) -> Made:
    """A fill of glue and dust."""
    if spot.left_mm <= 0:
        return cannot("Turning will remove the fault: nothing to fill.")
    plan, volume, seen = spot.plan, spot.volume_mm3, seen_fill(spot.fault)
    units = plan.units
    dust, glue_mg = powder_g(volume, seen.density_g_ml if seen else _DUST_G_ML), 1000 * glue_g(volume)
    what = seen.key if seen else OWN_DUST
    lines = ["Pick it clean, wash it with alcohol, brush and blow it out, let it dry: dust left in it turns white."]
    if spot.under_mm < _BARE_MM:
        lines.append("It goes down to the brass or the hole: paint that in the barrel's own colour first, or it shows.")
    if spot.fault.wide_mm <= _HAIRLINE_MM:
        lines.append("Thin glue draws into a hairline by itself: one drop at a time, wipe, until no more goes in.")
    else:
        pinch = "a pinch" if dust < _PINCH_G else units.g(dust, 2)
        drops = max(1, round(glue_mg / _DROP_MG))
        lines.append(
            f"About {max(1.0, volume):.0f} mm³: {pinch} of {what}, "
            f"{drops} drop{'s' if drops > 1 else ''} of thin glue. Proud, activator on the outside only."
        )
        if seen:
            lines.append(f"{seen.note[:1].upper()}{seen.note[1:]}. Tool: {seen.tool}.")
    is_thick = spot.left_mm > THICK_MM
    lines.append(f"Wait {'24 h: it is thick' if is_thick else '1 to 2 h'}; turn it flush with light cuts, sharp edge.")
    return Made(
        can=True,
        lines=tuple(lines),
        title=f"with {seen.key}, to be seen" if seen else "",
        uses=f"glue, {what}",
        look=flaw(spot, seen.looks_like if seen else "dark-glue"),
        wait_h=24.0 if is_thick else None,
        chance_pct=filled_chance_pct(volume, way_kind("fill").chance_pct) - (_AT_LIP_PCT if _is_at_lip(spot) else 0.0),
    )


def seen_fill(fault: Fault) -> Fill | None:
    """The fill that is meant to be seen; None for dust of the bar itself."""
    return None if fault.fill == OWN_DUST else fill_of(fault.fill)


def _is_at_lip(spot: Spot) -> bool:
    """Whether it opens at an end, where a fill has nothing behind it and parts press on it."""
    return min(spot.beyond_mm) <= 0.0


def refill(spot: Spot) -> Made:
    """A fill that turned white, picked out and filled again."""
    lines = (
        "Pick it out with a pin and solvent on a brush until no white is left; blow it out, let it dry.",
        "Thin glue with dark dust for dark wood; no activator at all: the haze comes from it.",
        "Leave it a day, then light cuts.",
    )
    return Made(can=True, lines=lines, look=flaw(spot, "dark-glue"))


def reglue(spot: Spot) -> Made:
    """The piece, or what has come loose, glued again."""
    if spot.fault.piece == "lost" and spot.fault.kind in {"chip at an end", "blow-out"}:
        return cannot("The piece is lost: look for it on the floor and in the chips before you sweep.")
    lines = (
        "Take the barrel off, bushings out, or they are glued in too. Clean both faces, no dust, no oil.",
        "Thin glue into a crack, slow epoxy under a piece that lifts: all round and under it, wipe what comes out.",
        "Clamp lightly with tape or a band, in its place to a hair; leave it 24 h.",
        "Then light cuts; at an end trim towards the bushing, away from the flaw.",
    )
    return Made(can=True, lines=lines, is_drawn=True)


def hide(spot: Spot) -> Made:
    """The clip over it."""
    plan, finish = spot.plan, spot.plan.job.finish
    units = plan.units
    pen = plan.job.pen
    if pen is None or spot.fault.barrel != len(pen.barrels) - 1:
        return cannot("The clip sits on the last barrel.")
    diameter = 2 * spot.finished_mm
    clip, wide = clip_covers_deg(finish.clip_mm, diameter), covered_deg(spot.fault.wide_mm, diameter)
    # A barrel that lies end for end has its clip at the left.
    from_end = spot.beyond_mm[0 if plan.job.blank.is_flipped(spot.fault.barrel) else 1] + spot.fault.long_mm
    if wide > clip:
        return cannot(f"It is {wide:.0f}° wide, and the clip covers {clip:.0f}°.")
    if from_end > finish.clip_long_mm:
        return cannot(
            f"It reaches {units.mm(from_end)} from the clip's end; the clip is {units.mm(finish.clip_long_mm)}."
        )
    spare = (clip - wide) / 2
    truth = f"{spare:.0f}° on either side" if spare >= _CLIP_SPARE_DEG else f"only {spare:.0f}° to spare: press it true"
    lines = (
        f"Press the clip with its middle over {spot.fault.azimuth_deg % 360:.0f}°: it covers {clip:.0f}°, the flaw is "
        f"{wide:.0f}° wide, {truth}.",
        "A flaw that is open is filled all the same, or it frays under the clip.",
    )
    return Made(can=True, lines=lines, look=flaw(spot, "air"), chance_pct=95.0 if spare >= _CLIP_SPARE_DEG else 75.0)


def shorten(spot: Spot) -> Made:
    """Both ends cut off evenly, as far as the pen lets the barrel lose."""
    plan, barrel = spot.plan, spot.barrel
    units = plan.units
    nearer = min(spot.beyond_mm)
    if nearer > AT_END_MM:
        return cannot(f"It begins {units.mm(nearer)} from the end.")
    own = spot.fault
    others = [fault for fault in decided(plan.job, own.barrel, own.blank_no) if fault is not own]
    left, right = cuts_mm((own, *others), barrel)
    cut = max(left, right)
    long = barrel.tube_length_mm
    if long - 2 * cut < _SHORTEST_MM:
        return cannot(f"It would take {units.mm(cut)} off both ends: nothing would be left.")
    if barrel.play_mm is None:
        return cannot(
            f"It would take {units.mm(cut)} off both ends. How much this pen lets the barrel lose is not known: try "
            "its parts together, and type it at Pen, “May become shorter by”."
        )
    at_once = f" One cut at each end clears all {len(others) + 1} flaws." if others else ""
    allowed = f"The pen lets it lose {units.mm(barrel.play_mm)}, 0.5 mm of it is kept.{at_once}"
    if may_shorten(cut, barrel.play_mm):
        words = (
            f"Mill {units.mm(cut)} off both ends, tube and all: {units.mm(long - 2 * cut)} is left, and the pattern "
            f"stays in the middle. {allowed}"
        )
        return Made(can=True, lines=(words, _SQUARE), title=f"by {units.mm(cut)} each", look=_shorter(spot, cut, cut))
    if may_lose(left, right, barrel.play_mm):
        return _unevenly(spot, left, right, allowed)
    with_others = " with what was decided for it already" if others else ""
    return cannot(
        f"It takes {units.mm(left + right)} off its ends{with_others}; the pen lets the barrel lose "
        f"{units.mm(barrel.play_mm)}, and 0.5 mm of it is kept."
    )


def _unevenly(spot: Spot, left_mm: float, right_mm: float, allowed: str) -> Made:
    """Each end cut off as far as its own flaws reach."""
    mm, look = spot.plan.units.mm, _shorter(spot, left_mm, right_mm)
    moved = mm(abs(left_mm - right_mm) / 2)
    if left_mm and right_mm:
        words = f"Mill {mm(left_mm)} off the left end and {mm(right_mm)} off the right one, tube and all."
        title = f"by {mm(left_mm)} and {mm(right_mm)}"
    else:
        side = "left" if left_mm else "right"
        words = f"Both ends would be too much: mill {mm(left_mm + right_mm)} off the {side} end alone, tube and all."
        title = f"at the {side} by {mm(left_mm + right_mm)}"
    return Made(can=True, lines=(f"{words} The pattern moves by {moved}. {allowed}", _SQUARE), title=title, look=look)


def _shorter(spot: Spot, left_mm: float, right_mm: float) -> tuple[Edit, ...]:
    """The job's barrel shorter by so much at its ends."""
    number, plan = spot.fault.barrel, spot.plan
    if plan.layout is None:
        return ()
    starts = [*plan.layout.starts_mm]
    starts[number] = max(-1000.0, min(1000.0, starts[number] + left_mm))
    length = spot.barrel.tube_length_mm - left_mm - right_mm
    return (
        *flaw(spot, "air"),
        Edit(path_to(present(JOB.pen).barrels[number].tube_length_mm), length),
        Edit(path_to(JOB.blank.tube_starts_mm), tuple(starts)),
    )


def slimmer(spot: Spot) -> Made:
    """The barrel slimmer there, as far as its wall allows."""
    plan, barrel = spot.plan, spot.barrel
    units = plan.units
    if spot.left_mm <= 0:
        return cannot("Turning will remove the fault.")
    radius = clear_radius_mm(spot.radius_now_mm, spot.fault.deep_mm)
    wall = radius - spot.hole_mm
    if min(spot.beyond_mm) < _LIP_MM:
        return cannot("So near an end its part would stand proud of it.")
    if wall < THIN_WALL_MM:
        return cannot(f"Only {units.mm(max(0.0, wall), 2)} of wall would be left over the hole.")
    lines = (
        f"Turn a long, even waist to {units.mm(2 * radius, 2)} at {units.mm(spot.fault.at_mm)} from its left end: "
        f"{units.mm(wall, 2)} of wall is left. A waist looks meant when it runs over half the barrel, and when "
        "the other barrel has one too.",
    )
    part = min(0.99, max(0.01, spot.fault.at_mm / barrel.tube_length_mm))
    return Made(
        can=True,
        lines=lines,
        title=f"to {units.mm(2 * radius, 2)}",
        look=_waist(spot, part, 2 * radius),
        chance_pct=None if wall >= WANTED_WALL_MM else 60.0,
    )


def _waist(spot: Spot, part: float, diameter_mm: float) -> tuple[Edit, ...]:
    """The barrel's outline with a waist at a part of its length."""
    number = spot.fault.barrel
    if spot.plan.job.blank.is_flipped(number):
        part = 1 - part
    point = OutlinePoint(at=part, diameter_mm=max(3.0, diameter_mm))
    pen = spot.plan.job.pen
    kept = [one for one in (pen.barrels[number].outline if pen else ()) if abs(one.at - part) > 0.15][:15]
    return (
        Edit(path_to(present(JOB.pen).barrels[number].outline), tuple(sorted((*kept, point), key=lambda one: one.at))),
    )


def recoat(spot: Spot) -> Made:
    """More coats over all of it."""
    plan, how = spot.plan, spot.plan.finishing
    total = how.thin_coats + how.medium_coats
    if not total or plan.finish is None:
        return cannot("There are no coats on it.")
    more = max(2, (plan.finish.coats_wanted or total) - total // 2)
    lines = (
        f"Feather its edge with {how.level_from}, wipe, let it dry.",
        f"{more} more coats over the whole barrel, so that it is one size all along; {more * 3} to {more * 5} min.",
        "Level from one grit finer than before; the ends last and lightly.",
    )
    return Made(can=True, lines=lines, hands_min=15.0 + 4 * more)


def strip(spot: Spot) -> Made:
    """All coats off, and anew."""
    how = spot.plan.finishing
    total = how.thin_coats + how.medium_coats
    if not total:
        return cannot("There are no coats on it.")
    lines = (
        f"Sand or scrape all coats off with {how.level_from}; watch the size: bare, it must not fall below its parts.",
        f"Wipe, dry, warm the shop; {total} new coats, thin, each dry before the next; activator none or far away.",
    )
    return Made(can=True, lines=lines, hands_min=20.0 + 4 * total)
