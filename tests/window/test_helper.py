"""Slow questions in a process of their own: answered, given up, begun again after it was killed."""

from __future__ import annotations

import os
import signal
from collections.abc import Iterator
from datetime import datetime

import pytest
from msgspec.structs import replace

from orvek.documents import Job, Shop
from orvek.planning import plan
from orvek.planning.timetable.results import Weeks, WeeksQuestion
from orvek.planning.timetable.weeks import weeks, weeks_question
from orvek.window.helper import Helper, NotAnsweredError


class LeftError(Exception):
    """Nobody waits any more."""


@pytest.fixture
def helper() -> Iterator[Helper]:
    made = Helper("weeks")
    yield made
    made.close()


@pytest.fixture
def question(tideline: Job, shop: Shop) -> WeeksQuestion:
    asked = weeks_question(plan(tideline, shop))
    assert asked is not None
    return replace(asked, begin=datetime(2026, 11, 26, 9, 0), effort=0.2)


def no_matter(_told: object) -> None:
    return


def test_it_answers_what_the_window_would_have(helper: Helper, question: WeeksQuestion) -> None:
    parts: list[float] = []
    found = helper.answer(question, parts.append, no_matter)
    assert isinstance(found, Weeks)
    assert found == weeks(question, plan)
    assert max(parts) > 0.5
    assert helper.answer(question, no_matter, no_matter) == found


def test_what_is_given_up_leaves_the_next_question_free(helper: Helper, question: WeeksQuestion) -> None:
    def leave(_part: float) -> None:
        raise LeftError

    for _ in range(2):
        with pytest.raises(LeftError):
            helper.answer(question, leave, no_matter)
    assert helper.answer(question, no_matter, no_matter).table.slots


def test_a_process_that_was_killed_is_said_and_begun_again(helper: Helper, question: WeeksQuestion) -> None:
    def kill(_part: float) -> None:
        there = helper._process
        assert there is not None
        os.kill(there.process.pid, signal.SIGKILL)

    with pytest.raises(NotAnsweredError):
        helper.answer(question, kill, no_matter)
    assert helper.answer(question, no_matter, no_matter).table.slots
    with pytest.raises(NotAnsweredError, match="could not work this out"):
        helper.answer(replace(question, shop=None), no_matter, no_matter)
    helper.close()
    with pytest.raises(NotAnsweredError, match="closing"):
        helper.answer(question, no_matter, no_matter)
