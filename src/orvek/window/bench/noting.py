"""What is measured at the bench counts at its station from now on: `note`."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from orvek.documents import Weighing, deeds
from orvek.errors import OrvekError
from orvek.planning import Plan, plan
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import BenchStep
from orvek.planning.soak.words import dry_line
from orvek.window.session import Session


def note(session: Session, task: Operation, step: BenchStep, value: float | None, when: datetime) -> None:
    """Keep a size, a hole or the weight of wood where it is reckoned with.

    `value` is in mm or g; None where nothing was read.
    """
    if value is None:
        return
    if step.place is not None:
        barrel, place = step.place
        deed = partial(deeds.set_sized, barrel=barrel, name=f"now_{place}_mm", value=value)
        session.attempt("It measures now", deed)
    elif step.hole is not None and step.kind == "measure" and task.kind == "bore" and value:
        hole = session.job.bore.hole(step.hole).with_(measured_mm=value)
        session.edit(("bore",), session.job.bore.with_hole(step.hole, hole), "The hole measures")
    elif step.into == "log":
        weighing = Weighing(when=when, mass_g=value)
        session.edit(("soak", "drying", "log"), (*session.job.soak.drying.log, weighing), "Weigh the wood")
    elif step.into == "after":
        session.edit(("soak", "bath", "after_g"), value, "Weigh it after the bath")


def told_by(found: Plan, mass_g: float, when: datetime) -> str:
    """What the log of weights would say with one more."""
    try:
        drying = found.job.soak.drying
        log = (*drying.log, Weighing(when=when, mass_g=mass_g))
        soak = found.job.soak.with_(drying=drying.with_(log=log))
        answered = plan(found.job.with_(soak=soak), found.shop).soak
    except OrvekError as error:
        return str(error)
    return dry_line(answered.drying, found.units) if answered is not None else ""
