"""The timetable without a screen: as text and as JSON."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import datetime

from orvek.planning.timetable.reasons import chain
from orvek.planning.timetable.results import Weeks
from orvek.planning.timetable.words import Closing, duty_line, now_of, slot_line, waiting_line, week_lines
from orvek.quantities import write_moment


def today_text(weeks: Weeks, now: datetime, due: Sequence[Closing] = ()) -> str:
    """What is bound to a time first, then what needs the hands next, then what is waited for."""
    if weeks.table.problem:
        return weeks.table.problem
    at = now_of(weeks, now)
    first = ["Now, for it cannot wait", *(f"  {duty_line(one, now)}" for one in due)] if due else []
    lines = [*first, "Next", *(f"  {slot_line(slot, weeks)}" for slot in at.next), "Waiting"]
    lines += [f"  {waiting_line(wait, weeks)}" for wait in at.waiting]
    return "\n".join(lines)


def timetable_text(weeks: Weeks, job: str | None) -> str:
    """All slots of one job or of all, when each job is ready, and what that hangs on."""
    if weeks.table.problem:
        return weeks.table.problem
    lines: list[str] = []
    for key, name in weeks.names:
        ready = weeks.table.ready(key)
        if job not in {None, key} or ready is None:
            continue
        lines += [f"{name}: ready {write_moment(ready)}", *(f"  {line}" for line in week_lines(weeks, key))]
        lines += [f"  ! {line}" for line in chain(weeks.table, key)]
    lines += [weeks.more_words] if weeks.more_words and job is None else []
    return "\n".join(lines) or "Nothing is left to do."


def weeks_json(weeks: Weeks, job: str | None = None) -> str:
    """The slots as JSON, times as ISO 8601 in the shop's own time."""
    slots = [
        {
            "job": slot.job,
            "name": weeks.name(slot.job),
            "task": slot.task.key,
            "words": slot.task.words,
            "begins": slot.begins.isoformat(),
            "ends": slot.ends.isoformat(),
            "ready": slot.ready.isoformat(),
            "place": slot.task.place,
            "pinned": slot.is_pinned,
            "why": slot.why,
        }
        for slot in weeks.table.slots
        if job in {None, slot.job}
    ]
    late = [{"job": key, "days": days} for key, days in weeks.table.late]
    content = {"problem": weeks.table.problem, "best": weeks.table.is_best, "late": late, "more": weeks.more}
    content["slots"] = slots
    return json.dumps(content, indent=2, ensure_ascii=False)
