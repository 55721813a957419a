"""What the bench answers: how long a cup stays liquid, what a weight or a size asks for now."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Literal

from msgspec import Struct

from orvek.craft.pouring import pot_life_min
from orvek.documents import Actual, deeds
from orvek.errors import OrvekError
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import GLUE_READY, BenchStep, base_of, glue_of
from orvek.planning.soak.drying import dry_plan
from orvek.planning.soak.words import dry_line
from orvek.quantities import Dimension, Units, later, minutes_between, write

_WRITTEN: dict[str, Literal["weighed", "measured", "counted", "waited"]] = {
    "weigh": "weighed", "measure": "measured", "temperature": "measured", "count": "counted", "do": "waited",
}  # fmt: skip
_TOO_MUCH = 1.05  # more of a pigment than that is seen (a choice)
_FAR_TOO_MUCH = 2.0  # nobody makes a cup twice as large to save a pigment
_FAR = {"measure": 2.0, "temperature": 15.0}  # mm, K off the plan: then another thing was measured (a choice)
_LEAST_WEIGHED = 0.5  # of what was to be weighed (a choice)
_READ_AS = {"weigh": Dimension.MASS, "measure": Dimension.LENGTH, "temperature": Dimension.TEMPERATURE}
_CLOSE_MM = 0.03  # nearer than that nobody measures on a lathe


class Mixed(Struct, frozen=True):
    """A cup or a glue whose time runs: since when, how long it can be used, and what is said when that is over."""

    name: str
    since: datetime
    life_min: float
    over: str = "may gel now. A cup that gets hot goes outdoors, on stone"

    def left_min(self, now: datetime) -> float:
        """Minutes until it may gel; a clock that was set back gives no more than all of it."""
        return min(self.life_min, self.life_min - minutes_between(self.since, now))


def mixed(plan: Plan, task: Operation) -> tuple[Mixed, ...]:
    """The cups of one casting whose time runs while it is weighed and poured, the one that gels first at first."""
    kind, _, number = task.key.partition(".")
    work = plan.job.work
    if task.kind in {"join", "tube"}:
        return _glue_open(plan, task)
    if kind not in {"weigh", "pour"} or f"pour.{number}" in work.done() or plan.mixture is None:
        return ()
    found = []
    for place, cup in enumerate(plan.mixture.wet):
        since, life = work.when(f"weigh.{number}:{place + 1}.B", "began"), cup_life_min(plan, place)
        if since is not None and life is not None:
            found.append(Mixed(cup.name, since.replace(tzinfo=None), life))
    return tuple(sorted(found, key=lambda one: later(one.since, one.life_min)))


def _glue_open(plan: Plan, task: Operation) -> tuple[Mixed, ...]:
    """The glue that was made ready for the joints or the tubes, while it can still be spread."""
    since, glue = plan.job.work.when(f"{task.key}:{GLUE_READY}", "waited"), glue_of(plan, task)
    if since is None or glue is None or task.key in plan.job.work.done():
        return ()
    over = "skins over: wipe it off both faces and spread it again"
    return (Mixed(glue[0].capitalize(), since.replace(tzinfo=None), glue[1], over),)


def cup_life_min(plan: Plan, place: int) -> float | None:
    """How long a cup stays liquid: by the forecast at its mass and warmth, else by the label at its mass."""
    if plan.cure is not None and place < len(plan.cure.cup_lives_min):
        return plan.cure.cup_lives_min[place].best
    resin = plan.job.pour.resin
    if resin is None or resin.pot_life_min is None or plan.mixture is None:
        return None
    return pot_life_min(resin.pot_life_min.value, resin.pot_life_mass_g, plan.mixture.wet[place].mass_g.value)


def pigment_words(plan: Plan, step: BenchStep, mass_g: float) -> str:
    """What a cup needs to be right after too much of a pigment went in; nothing where it is right.

    As much more of A and B as makes the load what it was to be; where the cup cannot hold that, it is said.
    """
    if step.pigment_of is None or not step.target_g or plan.mixture is None or mass_g <= step.target_g * _TOO_MUCH:
        return ""
    cup = plan.mixture.wet[step.pigment_of]
    factor = mass_g / step.target_g
    if factor > _FAR_TOO_MUCH:
        return "Far too much of it, more than twice. Weigh this cup again."
    if cup.volume_ml.value * factor > cup.vessel_ml:
        return f"Too much by {100 * (factor - 1):.0f} %, and the cup is too small to make up for it. Weigh again."
    more_a, more_b = (mass * (factor - 1) for mass in (cup.weighed_a_g, cup.weighed_b_g))
    more = f"{plan.units.g(more_a, 1)} more A and {plan.units.g(more_b, 1)} more B"
    return f"Too much by {100 * (factor - 1):.0f} %: it is right with {more}."


def still_words(step: BenchStep, measured_mm: float, plan: Plan) -> str:
    """What a caliper reading is answered with: a size and a length still lose something, a hole is as it is."""
    off = measured_mm - (step.target_mm or 0.0)
    if abs(off) < _CLOSE_MM:
        return "That is it."
    if base_of(step).endswith(".measured"):
        return f"{plan.units.mm(abs(off), 2)} {'wider' if off > 0 else 'narrower'} than its bit."
    under = "small" if step.place is not None else "short"
    return f"{plan.units.mm(off, 2)} still to come off." if off > 0 else f"{plan.units.mm(-off, 2)} too {under}."


def odd_words(step: BenchStep, value: float | None, weighed: Mapping[str, float], units: Units) -> str:
    """What is asked of a reading that can hardly be of this step; nothing where it can.

    Calipers that are plugged in say something all the time, of whatever lies between their jaws. `value` is in the
    step's own unit.
    """
    target = _target(step, weighed)
    if value is None or not target or step.kind not in _READ_AS:
        return ""
    is_odd = value < _LEAST_WEIGHED * target if step.kind == "weigh" else abs(value - target) > _FAR[step.kind]
    if not is_odd:
        return ""
    seen, planned = (write(one, _READ_AS[step.kind], units, 2) for one in (value, target))
    return f"{seen} is far from {planned}. Space takes it all the same; Delete forgets it, then measure again."


def _target(step: BenchStep, weighed: Mapping[str, float]) -> float | None:
    """What was planned of a step, in its own unit."""
    targets = {"measure": step.target_mm, "temperature": step.target_c}
    return targets[step.kind] if step.kind in targets else wanted_g(step, weighed)


def in_the_cup(steps: Sequence[BenchStep], step: BenchStep, weighed: Mapping[str, float]) -> tuple[float, float]:
    """What the cup of a weighing holds by those before it, and what all of it is to make, in g."""
    stem = step.key.rpartition(".")[0]
    own = [one for one in steps if one.kind == "weigh" and one.key.rpartition(".")[0] == stem]
    before = sum(weighed.get(one.key, 0.0) for one in own[: own.index(step)])
    return before, sum(one.target_g or 0.0 for one in own)


def actual_of(step: BenchStep, value: float | None, weighed: Mapping[str, float], when: datetime) -> Actual | None:
    """What is written down of a step that is over, beside what was planned; None of a blank's fate, which is no task's.

    `value` is in the step's own unit: g, mm or °C; None where nothing was read.
    """
    what = _WRITTEN.get(step.kind)
    if what is None:
        return None
    target = _target(step, weighed)
    unit = {"weigh": "g", "measure": "mm", "temperature": "°C"}.get(step.kind, "")
    return Actual(task=step.key, what=what, value=value, planned=target, unit=unit, when=when)


def said_with(plan: Plan, mass_g: float, when: datetime) -> str:
    """What the log of the drying wood says with one more weight; or why that is none."""
    try:
        job = deeds.add_weighing(plan.job, when, mass_g)
    except OrvekError as error:
        return str(error)
    return str(dry_line(dry_plan(job, plan.shop), plan.units))


def wanted_g(step: BenchStep, weighed: Mapping[str, float]) -> float | None:
    """What the scale shall show at a step now that others have come out as they did.

    >>> wanted_g(BenchStep("1.B", "B", "weigh", 10.0, ("1.A", 0.5)), {"1.A": 22.0})
    11.0
    """
    if step.of is not None and step.of[0] in weighed:
        return weighed[step.of[0]] * step.of[1]
    return step.target_g
