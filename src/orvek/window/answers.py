"""The slow answers of the session: which questions are asked now, and a plan with the answers that are there."""

from __future__ import annotations

import logging
from collections.abc import Callable, Sequence
from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from orvek.planning import QUESTIONS, Plan, Slow, answered
from orvek.window.forecasting import Forecaster
from orvek.window.helper import Helper

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_LOG = logging.getLogger(__name__)


class Answers(QObject):
    """A forecaster for each slow question of `planning.questions`; those of a page rest until it opens."""

    arrived = Signal()
    failed = Signal(str)
    took = Signal(str, float)  # what was worked out, and how many seconds that took

    def __init__(self) -> None:
        super().__init__()
        self._evaluator: Callable[[], Evaluator | None] = lambda: None
        self._asked: set[str] = set()
        self._last: dict[str, Any] = {}  # answers that stand while a question is asked again for the same plan
        self._known: dict[str, Any] = {}  # answers of the last time, until the first of this time comes
        self._further: dict[str, tuple[Any, Any]] = {}  # a question, and the same looked at for longer
        self._helpers = {slow.key: Helper(slow.key) for slow in QUESTIONS if slow.holds}
        self.forecasters = {slow.key: Forecaster(partial(self._answer, slow)) for slow in QUESTIONS}
        for forecaster in self.forecasters.values():
            forecaster.left_open.connect(self.arrived)  # what rests on it goes on without it
            forecaster.failed.connect(self.failed)
        for slow in QUESTIONS:
            self.forecasters[slow.key].took.connect(partial(self.took.emit, slow.words))
            self.forecasters[slow.key].arrived.connect(partial(self._arrived, slow.key))

    def begin(self, evaluator: Callable[[], Evaluator | None]) -> None:
        """Ask from now on what is always asked; `evaluator` gives what reads the field, once it is there."""
        self._evaluator = evaluator
        self._asked |= {slow.key for slow in QUESTIONS if slow.is_always_asked}

    def know(self, key: str, answer: Any) -> None:
        """Let an answer of the last time stand until the first of this time comes; None: there is none."""
        self._known.pop(key, None)
        if answer is not None:
            self._known[key] = answer

    def _arrived(self, key: str, _answer: Any) -> None:
        self._known.pop(key, None)
        self.arrived.emit()

    def want(self, key: str, *, wanted: bool) -> bool:
        """Ask a question, or no more; whether it is one that was not asked before."""
        is_new = wanted and key not in self._asked
        if wanted:
            self._asked.add(key)
        else:
            self._asked.discard(key)
        return is_new

    def is_wanted(self, key: str) -> bool:
        """Whether somebody looks at the answer."""
        return key in self._asked

    def ask(self, plan: Plan) -> None:
        """Put the questions of this plan; whatever was being worked out for another is given up."""
        self._last.clear()
        self._put(plan, QUESTIONS)

    def _put(self, plan: Plan, some: Sequence[Slow]) -> None:
        for slow in some:
            if slow.key in self._asked:
                question = _question(slow, self._with_what_it_rests_on(plan, slow))
                if slow.sketched is not None and question is not None and self._is_awaited(slow):
                    question = slow.sketched(question)
                as_put, further = self._further.get(slow.key, (None, None))
                self.forecasters[slow.key].ask(further if question is not None and question == as_put else question)

    def ask_again(self, plan: Plan) -> None:
        """Put the questions anew that rest on answers which have come; until then their last answers stand."""
        some = [slow for slow in QUESTIONS if slow.rests_on and slow.key in self._asked]
        for slow in some:
            self._last[slow.key] = self.forecasters[slow.key].answer() or self._last.get(slow.key)
        self._put(plan, some)

    def _is_awaited(self, slow: Slow) -> bool:
        """Whether something that it rests on is still being worked out: then it is asked again soon."""
        return any(self.forecasters[key].is_awaited() for key in slow.rests_on)

    def _with_what_it_rests_on(self, plan: Plan, slow: Slow) -> Plan:
        for other in QUESTIONS:
            answer = self.forecasters[other.key].answer() if other.key in slow.rests_on else None
            if answer is not None:
                plan = answered(plan, other, answer)
        return plan

    def look_on(self, key: str, plan: Plan) -> None:
        """Look longer for a better answer than the one that is there; the same question keeps what is found."""
        slow = next(slow for slow in QUESTIONS if slow.key == key)
        question = _question(slow, plan)
        if slow.further is not None and question is not None:
            as_put, before = self._further.get(key, (None, None))
            self._further[key] = (question, slow.further(before if as_put == question else question))
            self.ask(plan)

    def folded_into(self, plan: Plan) -> Plan:
        """The plan with the answers that are there."""
        for slow in QUESTIONS:
            answer = self.forecasters[slow.key].answer() or self._last.get(slow.key) or self._known.get(slow.key)
            if slow.key in self._asked and answer is not None:
                plan = answered(plan, slow, answer)
        return plan

    def is_busy(self) -> bool:
        """Whether an answer is being worked out or about to be."""
        return any(forecaster.is_busy() for forecaster in self.forecasters.values())

    def close(self) -> bool:
        """Give up all slow work; whether it has ended."""
        for helper in self._helpers.values():
            helper.close()
        ended = [forecaster.close() for forecaster in self.forecasters.values()]
        return all(ended)

    def _answer(self, slow: Slow, question: Any, tell: Any, early: Any) -> Any:
        from orvek.workpiece.reference import evaluate_reference

        if slow.holds:
            return self._helpers[slow.key].answer(question, tell, early)
        return slow.answer(question, self._evaluator() or evaluate_reference, tell, early)


def _question(slow: Slow, plan: Plan) -> Any:
    try:
        return slow.question(plan)
    except Exception:  # the quick parts of the plan stand without it
        _LOG.exception("a question could not be put")
        return None
