"""Planned against actual: every figure of a job that has both, with the difference and what the plan allowed."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from orvek.documents import Actual
from orvek.errors import NothingToDoError
from orvek.planning.history import fates_of, is_missed, plain, took_min
from orvek.planning.results import Plan
from orvek.planning.route.blanks import of_blank
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import steps_of
from orvek.planning.soak.records import observations
from orvek.quantities import Dimension, Units, minutes_between, write

MASS_PART, SIZE_MM, SEEN_PART = 0.02, 0.1, 0.25  # what is near enough: of a mass, of a size, of what was calculated
WARM_K = 3.0  # a temperature that is so near is as planned (a choice)


class Compared(Struct, frozen=True):
    """One figure: what was planned and what came of it, in the program's unit of `dimension`.

    Attributes:
        words: which.
        planned: as the plan said.
        actual: as it was.
        dimension: what both are.
        low: the least that the plan allowed.
        high: the most that it allowed.
        task: the key of the task it was seen at; nothing for the batch as a whole.
        source: where the allowance comes from.
    """

    words: str
    planned: float
    actual: float
    dimension: Dimension
    low: float
    high: float
    task: str = ""
    source: str = ""

    @property
    def is_within(self) -> bool:
        """Whether it is within what the plan allowed."""
        return self.low - 1e-9 <= self.actual <= self.high + 1e-9

    @property
    def off_pct(self) -> float:
        """How far it was off, as a part of what was planned; 0 where nothing was planned."""
        return 100 * (self.actual / self.planned - 1) if self.planned else 0.0

    def written(self, units: Units) -> tuple[str, str, str]:
        """Planned, actual and the difference, as makers read them."""
        digits = {Dimension.MASS: 2, Dimension.LENGTH: 2, Dimension.TEMPERATURE: 1}.get(self.dimension)
        planned, actual = (write(value, self.dimension, units, digits) for value in (self.planned, self.actual))
        off = self.actual - self.planned
        if self.dimension is Dimension.TEMPERATURE:
            return planned, actual, f"{off * (1.8 if units.temperature == '°F' else 1.0):+.1f} {units.temperature}"
        sign = "+" if off > 0 else "−" if off < 0 else ""
        return planned, actual, f"{sign}{write(abs(off), self.dimension, units, digits)}"


def compared(plan: Plan) -> tuple[Compared, ...]:
    """All of a job that has both, in the order of the work; what the batch came to stands first."""
    if plan.route is None:
        return tuple(_batch(plan))
    return (
        *_batch(plan),
        *_soaked(plan),
        *_sawn(plan),
        *(row for task in plan.route.operations for row in _task(plan, task)),
    )


def _batch(plan: Plan) -> Iterator[Compared]:
    fates = fates_of(plan.shop.ledger, plan.job.batch.id)
    if not fates:
        return
    begun, wanted = plan.bars.blanks.value, plan.job.batch.pens_wanted
    good = sum(not is_missed(fate) for fate in fates.values())
    count, is_over = Dimension.COUNT, len(fates) >= begun  # while blanks are in work nothing is wrong with the rest
    least = (begun, wanted) if is_over else (0.0, 0.0)
    yield Compared("Blanks decided", begun, len(fates), count, least[0], begun, source="as many as were started")
    yield Compared("Good ones", wanted, good, count, least[1], begun, source="as many as were wanted, or more")


def _soaked(plan: Plan) -> Iterator[Compared]:
    """What was seen of the wood beside what was calculated."""
    try:
        seen = observations(plan)
    except NothingToDoError:
        return
    for one in seen:
        low, high = ((1 + side * SEEN_PART) * one.expected for side in (-1, 1))
        words = f"Wood: {one.seen}"
        yield Compared(words, one.expected, one.value, Dimension.RATIO, low, high, source="within a quarter, a choice")


def _sawn(plan: Plan) -> Iterator[Compared]:
    """The kerf by the calipers beside the saw's own."""
    how, within = plan.job.glue_up, plan.shop.accuracy.kerf_mm
    if how.machine is not None and how.kerf_readings_mm:
        kerf, seen = how.machine.kerf_mm, sum(how.kerf_readings_mm) / len(how.kerf_readings_mm)
        source = "your accuracy of kerfs, twice"
        yield Compared("Kerf", kerf, seen, Dimension.LENGTH, kerf - 2 * within, kerf + 2 * within, source=source)


def _task(plan: Plan, task: Operation) -> Iterator[Compared]:
    yield from _hands(plan, task)
    words = {step.key: step.words for step in steps_of(plan, task)}
    own = [actual for actual in plan.job.work.actuals if actual.step in words]
    for actual in own:
        told = words[actual.step]
        row = _reading(actual, of_blank(actual.blank, told) if actual.blank else told)
        if row is not None:
            yield row
    counted = {actual.step for actual in own if actual.what == "counted"}
    to_count = [step for step in steps_of(plan, task) if step.kind == "count"]
    if counted:
        planned = float(len(to_count))
        yield Compared(
            f"{task.words}: counted", planned, len(counted), Dimension.COUNT, planned, planned, task.key, "each of them"
        )


def _hands(plan: Plan, task: Operation) -> Iterator[Compared]:
    """How long the hands took, and how long was waited after them."""
    minutes, done = took_min(plan.job, task.key, task.hands_min), plan.job.work.when(task.key, "done")
    if minutes is not None:
        yield Compared(
            f"{task.words}: hands", task.hands_min, minutes, Dimension.DURATION, *task.hands_span_min, task.key,
            f"nine in ten, {f'yours, {task.readings} times' if task.readings else 'generic'}",
        )  # fmt: skip
    after = next((one for one in plan.route.operations if task.key in one.after), None) if plan.route else None
    begun = plan.job.work.when(after.key, "began") if after is not None else None
    if done is None or after is None or begun is None or not (task.wait_min[1] or after.soon_min):
        return
    waited = minutes_between(plain(done), plain(begun))
    if waited >= 0:
        most = after.soon_min if after.soon_min is not None else float("inf")
        words = f"{task.words}: {task.wait_words or 'until the next task'}"
        source = "at least as long as it takes" if after.soon_min is None else "soon after it"
        planned = task.wait_min[1] or most
        yield Compared(words, planned, waited, Dimension.DURATION, task.wait_min[0], most, task.key, source)


def _reading(actual: Actual, words: str) -> Compared | None:
    """A weighing, a size or a temperature."""
    if actual.value is None or actual.planned is None:
        return None
    told = words.split(", then")[0].split(". ")[0].rstrip(".")
    if actual.what == "weighed":
        near, dimension, source = MASS_PART * actual.planned, Dimension.MASS, "within 2 %, a choice"
    elif actual.what != "measured":
        return None
    elif actual.unit == "°C":
        near, dimension, source = WARM_K, Dimension.TEMPERATURE, "within three degrees, a choice"
    else:
        near, dimension, source = SIZE_MM, Dimension.LENGTH, "within a tenth of a millimetre, a choice"
    low, high = actual.planned - near, actual.planned + near
    return Compared(told, actual.planned, actual.value, dimension, low, high, actual.task, source)
