"""The way through an operation: its steps, which of them is in hand, and whether it goes blank by blank."""

from __future__ import annotations

from orvek.planning.route.blanks import ONE_BY_ONE, bench_steps, blanks_in_hand, is_written
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import BenchStep
from orvek.window import places
from orvek.window.session import Session


class Walk:
    """`place` is the number of the step in hand; it begins at the first one that is not written down."""

    def __init__(self, session: Session, task: Operation) -> None:
        self._session, self._task = session, task
        self.place = 0
        self.steps: tuple[BenchStep, ...] = ()
        self._find()

    @property
    def step(self) -> BenchStep:
        """The step in hand."""
        return self.steps[self.place]

    @property
    def before(self) -> BenchStep | None:
        """The step before it."""
        return self.steps[self.place - 1] if self.place else None

    @property
    def left(self) -> int:
        """How many steps are left, with the one in hand."""
        return len(self.steps) - self.place

    def words(self) -> str:
        """How far it is, and for how many blanks the step counts."""
        blanks = len(blanks_in_hand(self._session.plan, self._task))
        of = f"step {self.place + 1} of {len(self.steps)}"
        return f"{of}, for all {blanks} blanks" if blanks > 1 and not self.step.blank else of

    def weighed(self) -> dict[str, float]:
        """What was weighed so far, in g by the key of its step."""
        return {a.task: a.value for a in self._session.job.work.actuals if a.what == "weighed" and a.value is not None}

    def go_on(self) -> bool:
        """The next step; whether there is one. What a dial said may ask for more of them."""
        if self.step.reads is not None:
            here = self.step
            self.steps = bench_steps(self._session.plan, self._task, one_by_one=False)
            self.place = self.steps.index(here)
        if self.left < 2:
            return False
        self.place += 1
        return True

    def go_back(self) -> None:
        """The step before it is in hand again, and what was written of it is taken back."""
        self.place -= 1
        key = self.step.key
        kept = tuple(one for one in self._session.job.work.actuals if one.task != key)
        self._session.attempt("Back at the bench", lambda job: job.with_(work=job.work.with_(actuals=kept)))

    def take_turns(self) -> None:
        """Blank by blank, or each step for all of them: the other way from now on, for this kind of work."""
        if blanks_in_hand(self._session.plan, self._task):
            places.set_one_by_one(self._task.kind, not self._is_one_by_one())
            self.look_again()

    def look_again(self) -> None:
        """The steps for the blanks that are in hand now: one may have fallen out. What is done stays done."""
        here = self.step
        self._find()
        if here in self.steps:
            self.place = self.steps.index(here)

    def _find(self) -> None:
        self.steps = bench_steps(self._session.plan, self._task, one_by_one=self._is_one_by_one())
        written = {actual.task for actual in self._session.job.work.actuals if actual.what != "began"}
        blanks, self.place = blanks_in_hand(self._session.plan, self._task), 0
        while self.left > 1 and is_written(self.step, written, blanks):
            self.place += 1

    def _is_one_by_one(self) -> bool:
        chosen = places.one_by_one(self._task.kind)
        return self._task.kind in ONE_BY_ONE if chosen is None else chosen
