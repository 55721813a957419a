"""The last schedule as bytes, so that it stands there at once when the program starts: `to_bytes`, `from_bytes`.

Only what is looked at before the next schedule comes is kept: times, words and waits, no settings and no pieces.
What is over by then is left out: nobody knows whether it was done.
"""

from __future__ import annotations

from datetime import date, datetime

import msgspec
from msgspec import Struct
from msgspec.structs import replace

from orvek.planning.results import Plan
from orvek.planning.timetable.results import JobTasks, Slot, Timetable, TimetableQuestion, Wait, Weeks, WeeksQuestion
from orvek.planning.timetable.weeks import next_step


class _Job(Struct, frozen=True):
    job: str
    name: str
    promised: date | None
    waiting: tuple[Wait, ...]


class _Kept(Struct, frozen=True):
    jobs: tuple[_Job, ...]
    slots: tuple[Slot, ...]
    more: int


def to_bytes(weeks: Weeks) -> bytes:
    """The schedule, as much of it as is shown before the next one comes."""
    jobs = tuple(_Job(job.job, job.name, job.promised, job.waiting) for job in weeks.table.question.jobs)
    slots = (
        replace(slot, task=replace(slot.task, settings=(), uses=(), takes=(), gives=(), makes=()))
        for slot in weeks.table.slots
    )
    return msgspec.msgpack.encode(_Kept(jobs, tuple(slots), weeks.more))


def from_bytes(content: bytes, plan: Plan, now: datetime) -> Weeks | None:
    """The schedule as it was kept, from `now` on; None where the bytes hold none, or nothing of it is left.

    Args:
        content: what `to_bytes` gave.
        plan: of the job in hand, for the maker's hours.
        now: the moment it is looked at.
    """
    try:
        kept = msgspec.msgpack.decode(content, type=_Kept)
    except msgspec.MsgspecError:
        return None
    begin, hours = next_step(now), plan.shop.hours
    slots = tuple(slot for slot in kept.slots if slot.ends > now)
    jobs = tuple(JobTasks(one.job, one.name, (), one.promised, (), one.waiting) for one in kept.jobs)
    if not slots:
        return None
    asked = WeeksQuestion((), plan.shop, begin, in_hand=plan.job.batch.id)
    table = Timetable(TimetableQuestion(jobs, hours, begin), slots)
    return Weeks(asked, table, tuple((one.job, one.name) for one in kept.jobs), kept.more, is_first_look=True)
