"""What is read at the lathe, in sentences; screen and card take them from here."""

from __future__ import annotations

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


def rung_words(rung: Rung) -> str:
    """One step of the ladder: its name, and what is to be said of the gap before it."""
    if rung.ratio > WIDE_GAP:
        return f"{rung.abrasive.name}: a wide gap"
    return f"{rung.abrasive.name}: twice as long" if rung.ratio > GAP else rung.abrasive.name


def finish_lines(finish: FinishPlan, how: Finish, units: Units) -> tuple[str, ...]:
    """The finish step by step."""
    return (*_sanding_lines(finish, how), *_coat_lines(finish, how, units))


def _sanding_lines(finish: FinishPlan, how: Finish) -> list[str]:
    lines = ["Speed 800 to 1500 rpm while you sand, never so long in one place that it gets warm."]
    if finish.bare:
        names = ", ".join(rung.abrasive.name for rung in finish.bare)
        lines.append(f"Sand through {names}; at each stop the lathe and sand along the barrel until no ring is left.")
    if how.wet != "dry":
        lines.append(f"Sanded {how.wet}: on resin and coats only, never water on bare wood; keep slurry out of joints.")
    return lines


def _coat_lines(finish: FinishPlan, how: Finish, units: Units) -> list[str]:
    if not how.thin + how.medium:
        if not finish.level:
            return []
        names = ", ".join(rung.abrasive.name for rung in finish.level)
        return [f"Then {names}. Wipe between; a polish last."]
    build = write(finish.coats_mm.value, Dimension.LENGTH, units, 3)
    lines = [
        "Swap to bushings that glue does not stick to; wipe the barrel, let it dry.",
        f"At 300 to 600 rpm: {how.thin} thin and {how.medium} medium coats, {build} in all; until one is dry wait "
        "1 min for a thin one, 3 for a medium one.",
    ]
    if how.activator != "none":
        lines.append(f"Activator, {how.activator}: from a hand's width away; too much turns the coat white.")
    lines.append("Part the bushings off with a knife before you level, so that no coat is torn from the ends.")
    if finish.level:
        names = ", ".join(rung.abrasive.name for rung in finish.level)
        lines.append(f"Level and polish: {names}. A shiny ring in a dull barrel is low; a dull spot is through.")
    return lines
