"""What the log of weights and the treatment say, in sentences; screen and card take them from here."""

from __future__ import annotations

import math
from datetime import datetime

from orvek.documents import WEEKDAYS, Job
from orvek.planning.headline import Headline
from orvek.planning.soak.results import DryPlan, SoakPlan
from orvek.quantities import Dimension, Units, decimal, write, write_month_day

_PARTS = ((5, "in the night"), (11, "morning"), (14, "noon"), (18, "afternoon"), (22, "evening"), (24, "night"))


def dry_line(drying: DryPlan, units: Units) -> Headline:
    """When it will be dry, at what weight; or why that cannot be said yet."""
    fit = drying.fit
    if fit is None:
        return Headline("Weigh it now, and again: four weights, ever further apart, say when it will be dry")
    if fit.why_not:
        return Headline(f"Too early: {fit.why_not}")
    grams = write(fit.end_g.best * 1.005, Dimension.MASS, units)
    now, comes_to = drying.hours, f"It comes to {_range(drying, units)}."
    if fit.dry_h.high <= now:
        return Headline("Dry: it weighs what it will weigh, within half a percent", comes_to)
    early, late = drying.at(max(now, fit.dry_h.low)), drying.at(fit.dry_h.high)
    when = day_words(drying.at(max(now, fit.dry_h.best)))
    span = "" if early.date() == late.date() else f" (9 in 10: {_span(early, late)})"
    return Headline(f"Dry at about {grams}, around {when}{span}", comes_to)


def day_words(when: datetime) -> str:
    """A time as one says it: Thursday noon, 26 November."""
    part = next(words for until, words in _PARTS if when.hour < until)
    day = f"{WEEKDAYS[when.weekday()]}" if part != "in the night" else f"the night to {WEEKDAYS[when.weekday()]}"
    said = day if part == "in the night" else f"{day} {part}"
    return f"{said}, {write_month_day(when)}"


def odd_line(what: str, mass: str, when: str) -> str:
    """What is odd about one line of the log."""
    return {
        "out of place": f"{mass} at {when} is far from all others: was it typed rightly?",
        "twice": f"Two weights stand at {when}.",
        "rises": f"{mass} at {when} is more than before: was the scale set to zero, or did it lie in damp air?",
    }[what]


def treatment_lines(soak: SoakPlan, job: Job, units: Units) -> tuple[str, ...]:
    """The treatment step by step."""
    return (
        *_dry_lines(soak, job, units),
        *_dye_lines(soak, units),
        *_bath_lines(soak, job, units),
        *_soft_lines(job),
    )


def _dry_lines(soak: SoakPlan, job: Job, units: Units) -> list[str]:
    if job.soak.route == "nothing":
        return []
    if job.soak.drying.way == "in an oven":
        oven = write(job.soak.drying.oven_c, Dimension.TEMPERATURE, units)
        lines = [
            f"Dry them at {oven}, apart from each other, and weigh them together.",
            str(dry_line(soak.drying, units)),
        ]
        lines.append("Let them cool sealed in a bag: dry wood takes water from the air, warm wood sets resin off.")
    else:
        lines = ["Stack them with air between, ends sealed, out of the sun.", str(dry_line(soak.drying, units))]
    return lines


def _soft_lines(job: Job) -> list[str]:
    if job.soak.route != "soft, not stabilised":
        return []
    return [
        "Leave 0.3 to 0.5 mm more for sanding than for sound wood: it tears before it cuts.",
        "Bore it, then run thin glue into the hole and let it set before the tube; plug the tube: glue foams.",
        "While turning wick in thin glue, slowly, no activator; count passes and grams. Stop when it stays wet.",
    ]


def _dye_lines(soak: SoakPlan, units: Units) -> list[str]:
    lines = []
    for number, dye in enumerate(soak.dyes, 1):
        time = write(dye.dye.soaked_min, Dimension.DURATION, units)
        if number == 1:
            lines.append("Try it on an offcut of the same wood first, and saw that through.")
        lines.append(
            f"Colour {number}, in {dye.dye.carrier}, {dye.dye.way}, {time}: {dye.side_mm.written(units)} deep."
        )
        again = {
            "water": "Dry it to under 2 % before anything else.",
            "alcohol": "Let all alcohol leave, 4 h and more.",
        }
        if dye.dye.carrier in again:
            lines.append(again[dye.dye.carrier])
        if number < len(soak.dyes):
            lines.append("Saw an end off and look before the next colour.")
    return lines


def _bath_lines(soak: SoakPlan, job: Job, units: Units) -> list[str]:
    if soak.bath is None or soak.heat is None:
        return []
    bath, heat = soak.bath, soak.heat
    cover = write(job.soak.bath.cover_mm, Dimension.LENGTH, units)
    oven = write(job.soak.heat.oven_c, Dimension.TEMPERATURE, units)
    vacuum = write(job.soak.bath.vacuum_min, Dimension.DURATION, units)
    return [
        f"Weights on top, resin {cover} over them: {bath.bath_ml.written(units)} in the chamber.",
        f"Vacuum about {vacuum}, until a few beads a minute rise; fine froth from everywhere is boiling, not air.",
        f"Let the air back slowly, and leave them in it {bath.soak_least_min.written(units)} or more.",
        *_pressed(job, units),
        "Let them drip, wipe them, weigh them together.",
        f"Wrapped in foil, apart, into the oven at {oven}: {heat.core_min.written(units)} until the core is there. "
        f"With a probe in one piece start the clock when it is; without, {heat.clock_min.written(units)} in all.",
        "Some resin bleeds out in the oven, 5 to 15 %. Plane or sand them clean and to size.",
    ]


def _pressed(job: Job, units: Units) -> list[str]:
    bar = job.soak.bath.pressed_bar
    if bar is None:
        return []
    return [f"Then {write(bar, Dimension.PRESSURE, units)} of pressure as long as it lay under vacuum, in a rated pot."]


def _range(drying: DryPlan, units: Units) -> str:
    assert drying.fit is not None
    low, high = (write(one, Dimension.MASS, units) for one in (drying.fit.end_g.low, drying.fit.end_g.high))
    return low if low == high else f"{low} to {high}"


def _span(early: datetime, late: datetime) -> str:
    days = (late - early).days
    if days > 90:
        return f"within {decimal(math.ceil(days / 30))} months"
    return f"{write_month_day(early)} to {write_month_day(late)}"
