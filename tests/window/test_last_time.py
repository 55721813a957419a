"""What was shown last is there at once at the next start: the schedule, the jobs' pictures, what is next in each."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from orvek.errors import WorkshopReplacedError
from orvek.planning import Station
from orvek.store import JobEntry, open_workshop
from orvek.window import last_time
from orvek.window.job_looks import JobLooks
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
from tests.window.conftest import Opener

MINUTE_MS = 120_000


def looked_at(open_window: Opener, qtbot: QtBot) -> MainWindow:
    """A window whose schedule was made and whose jobs were drawn, closed again."""
    window = open_window(demo=True)
    window.open_station(Station.TODAY)
    session = window.session
    qtbot.waitUntil(lambda: session.plan.weeks is not None and not session.plan.weeks.is_first_look, timeout=MINUTE_MS)
    window.surface.wait()
    qtbot.waitUntil(lambda: all(window.looks.look(entry) for entry in session.jobs()), timeout=MINUTE_MS)
    window.frame.close()
    return window


def test_the_last_schedule_stands_there_until_the_new_one_comes(
    open_window: Opener, qtbot: QtBot, tmp_path: Path
) -> None:
    window = looked_at(open_window, qtbot)
    made = window.session.plan.weeks
    assert made is not None
    again = Session(open_workshop(window.session.workshop.path))
    quick = again.plan
    again.answers.want("weeks", wanted=True)
    known = again.answers.folded_into(quick)
    assert known.weeks is not None
    assert [(slot.job, slot.task.key, slot.begins) for slot in known.weeks.table.slots] == [
        (slot.job, slot.task.key, slot.begins) for slot in made.table.slots
    ]
    assert known.findings == quick.findings, "nothing is judged by it"
    assert again.open_workshop(tmp_path / "other.sqlite")
    assert again.answers.folded_into(again.plan).weeks is None, "another workshop has another"
    again.workshop.close()


def test_jobs_look_as_the_last_time_until_they_are_drawn(open_window: Opener, qtbot: QtBot) -> None:
    window = looked_at(open_window, qtbot)
    entries, now = window.session.jobs(), datetime.now()
    before = {entry.id: window.looks.look(entry) for entry in entries}
    again = Session(open_workshop(window.session.workshop.path))
    looks = JobLooks(again, window.surface)
    looks.want(entries)
    looks.stop()
    for entry in entries:
        known, made = looks.look(entry), before[entry.id]
        assert known is not None
        assert made is not None
        assert (known.worst, known.next_words(now)) == (made.worst, made.next_words(now))
        assert known.picture is not None
        assert known.picture == made.picture.convertToFormat(known.picture.format())  # type: ignore[union-attr]
    assert {need.entry.id for need in looks.needing() or ()} == {need.entry.id for need in window.looks.needing() or ()}
    again.workshop.close()


def test_what_cannot_be_read_is_done_without(open_window: Opener, qtbot: QtBot) -> None:
    window = looked_at(open_window, qtbot)
    path = window.session.workshop.path
    for what in ("weeks", "looks"):
        last_time.keep(path, what, b"\x93 half of it")  # type: ignore[arg-type]
    again = Session(open_workshop(path))
    looks = JobLooks(again, window.surface)
    looks.want(window.session.jobs())
    looks.stop()
    assert looks.needing() is None
    again.answers.want("weeks", wanted=True)
    assert again.answers.folded_into(again.plan).weeks is None
    again.workshop.close()


def test_a_workshop_that_cannot_be_read_any_more_keeps_nobody_from_leaving(
    open_window: Opener, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window(demo=True)
    window.open_station(Station.TODAY)
    session = window.session
    qtbot.waitUntil(lambda: session.answers.forecasters["weeks"].answer() is not None, timeout=MINUTE_MS)

    def lost() -> tuple[JobEntry, ...]:
        raise WorkshopReplacedError(session.workshop.path, "was moved or deleted")

    monkeypatch.setattr(session.workshop, "jobs", lost)
    session.keep_last()
    assert last_time.kept(session.workshop.path, "weeks") == b"", "nothing is known of whose jobs these are"
