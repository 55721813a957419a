"""What the records say at a job: what spoils by the maker's own record, and what was written for next time."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.documents import JOB, LessonEntry, path_to
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.history import kind_of_work, plain, seen
from orvek.planning.results import Plan
from orvek.quantities import write_day

_ENOUGH = 6  # blanks that say something of a rate (a choice)
_MOST_TOLD, _MOST_LESSONS = 2, 5  # lessons of one task, and of a job: more would be noise (choices)


def own_rate(plan: Plan) -> Iterator[Finding]:
    """A share expected to spoil that the maker's own record speaks against."""
    typed = plan.job.batch.spoilage_pct
    there = seen(plan.shop.ledger, kind_of_work(plan.job))
    if there.of < _ENOUGH or typed is None or plan.job.pen is None:
        return
    rate = there.rate
    if rate.low <= typed / 100 <= rate.high:
        return
    more = "more" if rate.mean > typed / 100 else "less"
    because = (
        f"Of your last {there.of} of {there.work}, {there.missed} gave no good pen: {100 * rate.low:.0f} to "
        f"{100 * rate.high:.0f} % by that, and {typed:g} % is typed."
    )
    remedy = Remedy("Use the rate from your records", (Edit(path_to(JOB.batch.spoilage_pct), None),))
    yield Finding(Severity.NOTE, Station.PEN, f"Your records say {more} will be scrapped.", because, (remedy,))


_LONGEST = 60  # letters of a lesson that stand in its title


def lessons(plan: Plan) -> Iterator[Finding]:
    """What was written for the next time the same kind of task is done."""
    work, told = kind_of_work(plan.job), [one for one in plan.shop.ledger if isinstance(one, LessonEntry)]
    if not told or plan.route is None:
        return
    newest = [one for one in reversed(told) if one.job_id != plan.job.batch.id]
    newest.sort(key=lambda one: one.work != work)  # of the same work first
    tasks = {task.kind: task for task in plan.route.open}
    there = [one for one in newest if one.task in tasks][:_MOST_LESSONS]
    for kind, task in tasks.items():
        for lesson in [one for one in there if one.task == kind][:_MOST_TOLD]:
            words, day = lesson.words.rstrip("."), write_day(plain(lesson.when).date())
            short = words if len(words) <= _LONGEST else f"{words[:_LONGEST].rpartition(' ')[0]} …"
            title = f"{'Repeat' if lesson.again == 'do again' else 'Avoid'}: {short[:1].lower()}{short[1:]}"
            because = f"{words}. " if short != words else ""
            because += f"From {lesson.job}, {day}, for: {task.words.lower()}."
            yield Finding(Severity.NOTE, task.station, title.rstrip(".") + ".", because, place=task.words)


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (own_rate, lessons)
