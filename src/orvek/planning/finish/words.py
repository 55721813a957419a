"""What is read at the lathe, in sentences; screen and card take them from here."""

from __future__ import annotations

from collections.abc import Iterable

from orvek.craft.abrasives import GAP, WIDE_GAP, Rung
from orvek.documents import Finish
from orvek.planning.finish.results import PLACES, FinishPlan, SizePlan
from orvek.quantities import Dimension, Units, write

_CLOSE_MM = 0.03  # nearer than that nobody measures on a lathe


def still_lines(size: SizePlan, units: Units) -> tuple[str, ...]:
    """What a caliper reading is answered with: how much is still to come off, and where."""
    found = []
    for place, still in zip(PLACES, size.still_mm, strict=True):
        if still is None:
            continue
        where = "in the middle" if place == "middle" else f"at the {place}"
        if abs(still) < _CLOSE_MM:
            found.append(f"{size.barrel.name}: right {where}.")
        elif still > 0:
            found.append(f"{size.barrel.name}: {write(still, Dimension.LENGTH, units, 2)} more {where}.")
        else:
            found.append(f"{size.barrel.name}: {write(-still, Dimension.LENGTH, units, 2)} too small {where}.")
    return tuple(found)


def along_lines(sizes: Iterable[SizePlan], units: Units) -> tuple[str, ...]:
    """What to turn to at the points of an outline between the ends."""
    found = []
    for size in sizes:
        places = [f"{figure.written(units)} at {write(at, Dimension.LENGTH, units)}" for at, figure in size.along]
        if places:
            found.append(f"{size.barrel.name}, from its left end: {', '.join(places)}.")
    return tuple(found)


def rung_words(rung: Rung) -> str:
    """One step of the ladder: its name, and what is to be said of the gap before it."""
    if rung.ratio > WIDE_GAP:
        return f"{rung.abrasive.name}: a wide gap"
    return f"{rung.abrasive.name}: twice as long" if rung.ratio > GAP else rung.abrasive.name


def is_wet(rung: Rung, how: Finish) -> bool:
    """Whether a step is sanded wet."""
    return how.wet == "wet throughout" or (how.wet != "dry" and rung.abrasive.start_um < _WET_BELOW_UM)


def finish_lines(finish: FinishPlan, how: Finish, units: Units) -> tuple[str, ...]:
    """The finish step by step."""
    return (*_sanding_lines(finish, how), *_sealing_lines(finish), *_coat_lines(finish, how, units))


def _sanding_lines(finish: FinishPlan, how: Finish) -> list[str]:
    lines = ["Speed 800 to 1500 rpm while you sand, never so long in one place that it gets warm."]
    if finish.bare:
        names = ", ".join(rung_words(rung) for rung in finish.bare)
        lines.append(f"Sand through {names}; at each stop the lathe and sand along the barrel until no ring is left.")
    if how.wet != "dry":
        lines.append(f"Sanded {how.wet}: on resin and coats only, never water on bare wood; keep slurry out of joints.")
    return lines


def _sealing_lines(finish: FinishPlan) -> list[str]:
    """A hybrid: its wood is sealed first, then all of it is finished like resin."""
    if not finish.is_hybrid:
        return []
    return [
        "Blow the wood's pores clean of resin dust, or they stay pale. Seal the wood, not the resin: thin glue or "
        "sealer on a brush, two goes, dry; de-nib with the last grit.",
        "Keep dark slurry out of light wood and open joints: wipe after each grit, sand along, dry until it is sealed.",
    ]


def _coat_lines(finish: FinishPlan, how: Finish, units: Units) -> list[str]:
    school = finish.school
    speed = f"{school.slowest_rpm} to {school.fastest_rpm} rpm"
    if not how.thin_coats + how.medium_coats:
        names = ", ".join(rung.abrasive.name for rung in finish.level)
        if names:
            return [f"Then {names}. Wipe between; a polish last."]
        return [f"At {speed}: a little on paper, pressed until it is warm; let it harden, once more."]
    build = write(finish.coats_mm.value, Dimension.LENGTH, units, 3)
    waits = [write(wait, Dimension.DURATION, units) for wait in (how.thin_wait_min, how.medium_wait_min)]
    many = _COATS[how.order].format(thin=how.thin_coats, medium=how.medium_coats)
    lines = [
        "Swap to bushings that glue does not stick to; wipe the barrel, let it dry.",
        f"At {speed}: {many}, {build} in all; until one is dry wait {waits[0]} for a thin one, {waits[1]} for a medium "
        "one.",
    ]
    if drops := _drop_words(how):
        lines.append(drops)
    if how.oil_coats:
        which = "each thin coat" if how.oil_coats == how.thin_coats else f"the last {how.oil_coats} thin coats"
        lines.append(f"A drop of oil on the paper with {which}; wipe on in one go, never back over it.")
    if how.activator != "none":
        lines.append(f"Activator, {how.activator}: from a hand's width away; too much turns the coat white.")
    lines.append("Part the bushings off with a knife before you level, so that no coat is torn from the ends.")
    if finish.level:
        names = ", ".join(rung.abrasive.name for rung in finish.level)
        lines.append(f"Level and polish: {names}. A shiny ring in a dull barrel is low; a dull spot is through.")
    return lines


_WET_BELOW_UM = 36.0  # P400 and finer
_COATS = {
    "thin first": "{thin} thin, then {medium} medium coats",
    "medium first": "{medium} medium, then {thin} thin coats",
    "in turn": "{thin} thin and {medium} medium coats in turn",
}


def _drop_words(how: Finish) -> str:
    kinds = (("thin", how.thin_drops, how.thin_coats), ("medium", how.medium_drops, how.medium_coats))
    counted = [f"{drops:g} drops a {kind} coat" for kind, drops, coats in kinds if drops is not None and coats]
    return f"{', '.join(counted).capitalize()}, spread in one go." if counted else ""
