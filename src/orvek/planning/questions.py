"""The slow questions of a plan, in one table: what is asked, how it is answered, what the answer adds.

Whoever shows or prints a plan asks them by this table, so that the screen and the command line tell the same.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from orvek.planning.cure.findings import forecast_findings
from orvek.planning.cure.question import cure_question
from orvek.planning.findings import Finding, Station
from orvek.planning.glue_up.meeting import meet_question
from orvek.planning.glue_up.nesting import nest_question
from orvek.planning.glue_up.results import NestQuestion
from orvek.planning.results import Plan
from orvek.planning.timetable.findings import weeks_findings
from orvek.planning.timetable.results import WeeksQuestion
from orvek.planning.timetable.weeks import weeks_question

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

Tell = Callable[[float], None]
Early = Callable[[Any], None]


class Slow(Struct, frozen=True):
    """One slow question.

    Attributes:
        key: the field of `Plan` that holds the answer.
        station: where it is shown.
        words: what it is called where it cannot be worked out.
        question: the frozen question of a plan; None where there is nothing to ask.
        answer: answers it: question, evaluator of the field, how far (0 to 1), an early answer.
        findings: what the answer adds to what is to be said.
        holds: whether working it out holds the interpreter, so that it is done in a process of its own.
        rests_on: keys of questions whose answers this one is asked with; it is asked again when they come.
        sketched: the same question with little effort, while what it rests on is still being worked out.
        further: the same question, looked at for longer; None where that is not offered.
        is_always_asked: whether it is asked with every plan; else only while its page is open.
    """

    key: str
    station: Station
    words: str
    question: Callable[[Plan], Hashable | None]
    answer: Callable[[Any, Evaluator, Tell, Early], Any]
    findings: Callable[[Plan], Iterator[Finding]] | None = None
    is_always_asked: bool = False
    holds: bool = False
    further: Callable[[Any], Hashable] | None = None
    rests_on: tuple[str, ...] = ()
    sketched: Callable[[Any], Hashable] | None = None


def _cure(question: Any, _evaluate: Evaluator, tell: Tell, early: Early) -> Any:
    from orvek.planning.cure.forecast import cure_forecast

    return cure_forecast(question, tell, early)


def _boards(question: Any, _evaluate: Evaluator, tell: Tell, early: Early) -> Any:
    from orvek.planning.glue_up.nesting import nest

    return nest(question, tell, early)


def _meet(question: Any, evaluate: Evaluator, tell: Tell, _early: Early) -> Any:
    from orvek.planning.glue_up.meeting import meet

    return meet(question, evaluate, tell)


def _weeks(question: Any, _evaluate: Evaluator, tell: Tell, early: Early) -> Any:
    from orvek.planning.cure.forecast import cured
    from orvek.planning.cure.moved import moved
    from orvek.planning.plan import plan
    from orvek.planning.timetable.weeks import weeks

    return weeks(question, plan, tell, moved, cured, early)


QUESTIONS = (
    Slow("cure", Station.POUR, "the cure", cure_question, _cure, forecast_findings, is_always_asked=True, holds=True),
    Slow(
        "boards",
        Station.GLUE_UP,
        "the layout of the boards",
        nest_question,
        _boards,
        further=NestQuestion.further,
    ),
    Slow("meet", Station.GLUE_UP, "whether the lines meet", meet_question, _meet),
    Slow(
        "weeks",
        Station.TIMETABLE,
        "the timetable",
        weeks_question,
        _weeks,
        weeks_findings,
        holds=True,
        rests_on=("cure",),
        sketched=WeeksQuestion.sketched,
    ),
)
