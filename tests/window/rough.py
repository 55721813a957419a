"""Answers of the background that take no time: `rough_answer` stands in for `Answers._answer`."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from orvek.planning import Slow
from orvek.planning.cure.results import CureQuestion
from orvek.planning.glue_up.results import NestQuestion
from orvek.planning.timetable.results import WeeksQuestion
from orvek.window.answers import Answers
from tests.effort import SKETCH

_WORK_OUT = Answers._answer
_RECORDED: dict[tuple[str, Any], Any] = {}


def rough_answer(self: Answers, slow: Slow, question: Any, tell: Any, early: Any) -> Any:
    """The answer of an earlier time; the first time a forecast roughly, and a timetable of a fifth of a second."""
    if (slow.key, question) not in _RECORDED:
        asked = question
        if isinstance(question, CureQuestion):
            asked = replace(question, effort=SKETCH)
        elif isinstance(question, WeeksQuestion):
            asked = replace(question, effort=0.2)
        elif isinstance(question, NestQuestion):
            asked = replace(question, effort=0.1 * question.effort)
        found = _WORK_OUT(self, slow, asked, tell, early)
        _RECORDED[slow.key, question] = found if asked is question else replace(found, question=question)
    return _RECORDED[slow.key, question]
