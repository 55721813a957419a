"""The session against a list of jobs: whatever is done in whatever order, undo and redo walk the same list."""

from __future__ import annotations

import tempfile
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from orvek.documents import Job, deeds
from orvek.planning import apply_remedy
from orvek.store import fill_with_demo, open_workshop
from orvek.window.session import Session


class SessionMachine(RuleBasedStateMachine):
    """A model of history: a list of jobs and a place in it."""

    @initialize()
    def open(self) -> None:
        self.folder = tempfile.TemporaryDirectory()
        self.path = Path(self.folder.name) / "workshop.sqlite"
        workshop = open_workshop(self.path)
        fill_with_demo(workshop)
        self.session = Session(workshop)
        self.past: list[Job] = [self.session.job]
        self.place = 0

    def did(self, job: Job) -> None:
        if job != self.past[self.place]:
            self.past = [*self.past[: self.place + 1], job]
            self.place += 1

    @rule(pens=st.integers(-5, 60))
    def want(self, pens: int) -> None:
        self.session.edit(("batch", "pens_wanted"), pens, "Good pens wanted")
        if pens >= 1:
            self.did(deeds.set_value(self.past[self.place], ("batch", "pens_wanted"), pens))

    @rule(starts=st.lists(st.floats(-20, 150), min_size=1, max_size=4), finish=st.booleans())
    def drag(self, starts: list[float], finish: bool) -> None:
        for start in starts:
            layout = self.session.plan.layout
            assert layout is not None
            self.session.preview(deeds.move_tube(self.session.job, layout.starts_mm, 0, start))
        dragged = self.session.plan.job
        if finish:
            self.session.finish("Slide Nib")
            self.did(dragged)
        else:
            self.session.do("Let go", self.session.job)

    @precondition(lambda self: self.session.plan.findings)
    @rule(data=st.data())
    def take_a_remedy(self, data: st.DataObject) -> None:
        remedies = [remedy for finding in self.session.plan.findings for remedy in finding.remedies]
        if remedies:
            remedy = data.draw(st.sampled_from(remedies))
            after = apply_remedy(self.session.job, remedy)
            self.session.remedy(remedy)
            self.did(after)

    @rule()
    def undo(self) -> None:
        self.session.undo()
        self.place = max(0, self.place - 1)

    @rule()
    def redo(self) -> None:
        self.session.redo()
        self.place = min(len(self.past) - 1, self.place + 1)

    @rule()
    def close_and_open(self) -> None:
        self.session.workshop.close()
        self.session = Session(open_workshop(self.path))

    @invariant()
    def the_job_in_hand_is_the_one_in_the_list(self) -> None:
        if hasattr(self, "session"):
            assert self.session.job == self.past[self.place]
            assert self.session.plan.job == self.session.job

    def teardown(self) -> None:
        if hasattr(self, "session"):
            self.session.workshop.close()
            self.folder.cleanup()


TestSession = SessionMachine.TestCase
TestSession.settings = settings(max_examples=9, stateful_step_count=25, deadline=None)
