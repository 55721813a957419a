"""What is to be done when, without a screen: `orvek today` and `orvek timetable`."""

from __future__ import annotations

import argparse
import sys
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace

from orvek.commands.found import all_jobs, with_answers
from orvek.errors import NothingToDoError
from orvek.files import write_atomically
from orvek.planning import plan

if TYPE_CHECKING:
    from orvek.planning.timetable.results import Weeks


def today(options: argparse.Namespace) -> int:
    """Print what is to be done now, next and later."""
    from orvek.cards.timetable_text import today_text, weeks_json
    from orvek.planning.timetable.words import closing, duties

    weeks, now = _weeks(options, None), datetime.now()
    begun = (plan(job, weeks.question.shop) for job in weeks.question.jobs if job.work.actuals)
    closes = (one for each in begun if each.route is not None for one in closing(each.job, each.route.operations))
    print(weeks_json(weeks) if options.json else today_text(weeks, now, duties(closes, now)))
    return 0


def timetable(options: argparse.Namespace) -> int:
    """Print when tasks are done."""
    from orvek.cards.calendar import timetable_ics
    from orvek.cards.timetable_text import timetable_text, weeks_json

    weeks = _weeks(options, options.job)
    job = next((key for key, name in weeks.names if options.job in {key, name}), None)
    if options.ics:
        write_atomically(Path(options.ics), timetable_ics(weeks, job))
        print(f"Wrote {options.ics}", file=sys.stderr)
    print(weeks_json(weeks, job) if options.json else timetable_text(weeks, job))
    return 0


def _weeks(options: argparse.Namespace, wanted: str | None) -> Weeks:
    """The timetable of all open jobs of the workshop; the one that is wanted, else was open last, is in hand."""
    from orvek.planning.cure.forecast import cured
    from orvek.planning.cure.moved import moved
    from orvek.planning.timetable.weeks import weeks, weeks_question

    found, shop = all_jobs(options, wanted, "A timetable")  # the first is in hand
    jobs = [job for job in found if job.work.is_open]
    if not jobs:
        raise NothingToDoError("A timetable", "a job with a pen")
    whole = plan(jobs[0], shop, tuple(jobs[1:]))
    question = weeks_question(with_answers(whole, ("cure",)))
    if question is None:
        raise NothingToDoError("A timetable", "a job with a pen")
    return weeks(replace(question, effort=max(0.1, min(60.0, options.effort))), plan, moved=moved, cured=cured)
