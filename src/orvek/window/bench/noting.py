"""What is measured at the bench counts at its station from now on: `note`; what a weight would say: `LogAnswer`."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from orvek.documents import JOB, deeds, path_to
from orvek.errors import OrvekError
from orvek.planning.finish.edges import edge_of, tool_of
from orvek.planning.route.bench import said_with
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import BenchStep, base_of
from orvek.window.session import Session


def note(session: Session, task: Operation, step: BenchStep, value: float | None, when: datetime) -> bool:
    """Keep a size, a hole or the weight of wood where it is reckoned with; whether a weight was one.

    `value` is in mm or g; None where nothing was read.
    """
    if value is None:
        return True
    if step.place is not None:
        barrel, place = step.place
        session.attempt("It measures now", partial(deeds.set_sized, barrel=barrel, name=f"now_{place}_mm", value=value))
    elif step.reads is not None:
        barrel, which, angle = step.reads
        session.attempt(
            "Read it round", partial(deeds.read_round, barrel=barrel, which=which, angle=angle, value=value)
        )
    elif step.hole is not None and step.kind == "measure" and task.kind in {"bore", "open_up"} and value:
        seen = [one.value for one in session.job.work.actuals if one.step == base_of(step) and one.value is not None]
        widest = max(value, *seen) if step.blank and seen else value  # of all blanks: the tube's gap goes by it
        session.attempt(
            "The hole measures", partial(deeds.set_hole, barrel=step.hole, name="measured_mm", value=widest)
        )
    elif step.into:
        return _weighed(session, step, value, when)
    return True


def fresh_edge(session: Session, when: datetime) -> str:
    """The tool of this job was sharpened: barrels are counted anew; a sentence that says so."""
    tool = tool_of(session.job)
    if not session.write_down(lambda shop: deeds.records.begin_series(shop, edge_of(tool), when)):
        return ""
    return f"A fresh edge on the {tool}: its barrels count from 0."


def _weighed(session: Session, step: BenchStep, mass_g: float, when: datetime) -> bool:
    """Keep a weight of the wood; what is none is said, and the step stays."""
    try:
        if step.into == "log":
            job = deeds.add_weighing(session.job, when, mass_g)
        else:
            job = deeds.set_value(session.job, path_to(JOB.soak.bath.after_g), mass_g)
    except OrvekError as error:
        session.said.emit(str(error))
        return False
    session.do("Weigh the wood", job)
    return True


class LogAnswer:
    """What the log of weights says with one more: worked out once a weight, however often the scale tells it."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._known: tuple[float, str] | None = None

    def with_weight(self, mass_g: float, when: datetime) -> str:
        """The sentence for a weight."""
        if self._known is None or self._known[0] != mass_g:
            self._known = (mass_g, said_with(self._session.plan, mass_g, when))
        return self._known[1]
