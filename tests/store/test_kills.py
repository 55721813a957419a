"""Processes killed at any moment of what they do to a workshop: nothing is lost, nothing begins anew unsaid."""

from __future__ import annotations

import importlib
import os
import random
import shutil
import signal
import sqlite3
import struct
import time
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import pytest

from orvek.documents import Job, deeds
from orvek.errors import WorkshopGoneError
from orvek.store import Workshop, back_up, demo_shop, open_workshop, put_in_place
from orvek.store.sqlite import restoring
from orvek.store.sqlite.leftovers import JOURNAL_MAGIC
from tests.store.test_earlier import EARLIER, unpacked
from tests.store.test_laid_over import is_whole, spoil, wanted

Act = Callable[[], object]
FEW, MANY = 6, 170


def killed_after(seconds: float, act: Act, has_begun: Callable[[], object] = lambda: True) -> bool:
    """Do something in a process that is killed so long after it began; whether it was killed before it was done."""
    child = os.fork()
    if child == 0:
        try:
            act()
        finally:
            os._exit(0)
    while not has_begun():
        time.sleep(0.002)
    time.sleep(seconds)
    os.kill(child, signal.SIGKILL)
    return os.waitpid(child, 0)[1] == signal.SIGKILL


def lasts_s(act: Act) -> float:
    began = time.monotonic()
    child = os.fork()
    if child == 0:
        try:
            act()
        finally:
            os._exit(0)
    os.waitpid(child, 0)
    return time.monotonic() - began


@pytest.fixture(params=[FEW, pytest.param(MANY, marks=pytest.mark.long)], ids=["few", "many"])
def moments(request: pytest.FixtureRequest) -> list[float]:
    """Parts of the time that something takes."""
    chance = random.Random(11)
    return [chance.uniform(0.02, 1.1) for _ in range(request.param)]


@pytest.fixture
def kept(workshop_path: Path, tideline: Job) -> Path:
    """A workshop of some size, with a backup of another number in which five pens are wanted; now nine are."""
    opened = open_workshop(workshop_path)
    opened.save_shop(demo_shop())
    for pens in (*range(60, 90), 5):
        opened.record(wanted(tideline, pens), f"Want {pens}")
    made = back_up(opened.path, "asked")
    spoil(made, "pragma application_id = 77")
    opened.record(wanted(tideline, 9), "Want 9")
    opened.close()
    whole = workshop_path.parent.with_name("whole")
    shutil.copytree(workshop_path.parent, whole)
    return whole


def laid_out(kept: Path, place: Path) -> tuple[Path, Path]:
    """A fresh copy of the whole folder: the workshop and its backup."""
    shutil.rmtree(place, ignore_errors=True)
    shutil.copytree(kept, place)
    return place / "workshop.sqlite", next((place / "backups").glob("*-asked-*.sqlite"))


def pens_in(path: Path, job: Job) -> int:
    opened = open_workshop(path)
    assert opened.notices == (), "nothing was taken for another copy's"
    assert is_whole(path)
    wants = opened.job(job.batch.id).batch.pens_wanted
    opened.record(wanted(job, 44), "It goes on")
    opened.close()
    beside = {one.name for one in path.parent.iterdir()}
    assert not [name for name in beside if ".part" in name or "trial" in name], "what was half made is swept away"
    return wants


def test_a_restore_is_whole_or_not_at_all(kept: Path, tmp_path: Path, tideline: Job, moments: list[float]) -> None:
    place = tmp_path / "place"

    def restore() -> None:
        path, backup = place / "workshop.sqlite", next((place / "backups").glob("*-asked-*.sqlite"))
        open_workshop(path).restore(backup)

    laid_out(kept, place)
    takes_s = lasts_s(restore)
    assert pens_in(place / "workshop.sqlite", tideline) == 5
    for part in moments:
        path, _ = laid_out(kept, place)
        killed_after(part * takes_s, restore)
        assert pens_in(path, tideline) in {5, 9}


def test_a_backup_is_put_in_place_whole_or_not_at_all(
    kept: Path, tmp_path: Path, tideline: Job, moments: list[float]
) -> None:
    place = tmp_path / "place"

    def begin() -> tuple[Path, Path]:
        path, backup = laid_out(kept, place)
        content = bytearray(path.read_bytes())
        content[4096:20480] = b"\x55" * 16384
        path.write_bytes(content)
        return path, backup

    path, backup = begin()
    takes_s = lasts_s(lambda: put_in_place(path, backup))
    for part in moments:
        path, backup = begin()
        damaged = path.read_bytes()
        killed_after(part * takes_s, lambda: put_in_place(path, backup))  # noqa: B023
        there = [one.read_bytes() for one in (path, *path.parent.glob("workshop-damaged-*"))]
        assert damaged in there, "the damaged file is kept"
        if path.read_bytes() != damaged:
            assert pens_in(path, tideline) == 5


def test_between_two_names_there_is_no_moment_without_a_workshop(kept: Path, tmp_path: Path) -> None:
    """Killed right after the file got its second name: it still lies under its own."""
    path, backup = laid_out(kept, tmp_path / "place")

    def put() -> None:
        real = Path.replace
        Path.replace = lambda self, target: os.kill(os.getpid(), signal.SIGKILL) or real(self, target)  # type: ignore
        put_in_place(path, backup)

    before, child = path.read_bytes(), os.fork()
    if child == 0:
        put()
        os._exit(0)
    assert os.waitpid(child, 0)[1] == signal.SIGKILL
    assert path.read_bytes() == before


@pytest.mark.parametrize("left", ["damaged", "backups", "journal"])
def test_where_one_was_none_is_begun_unsaid(kept: Path, tmp_path: Path, left: str) -> None:
    path, _ = laid_out(kept, tmp_path / "place")
    if left == "damaged":
        path.rename(path.with_name("workshop-damaged-20261130-120000.sqlite"))
    else:
        path.unlink()
    if left != "backups":
        shutil.rmtree(path.parent / "backups")
    if left == "journal":
        path.with_name(path.name + "-journal").write_bytes(JOURNAL_MAGIC + struct.pack(">3I", 1, 2, 3))
    for _ in range(2):
        with pytest.raises(WorkshopGoneError):
            open_workshop(path)
        assert not path.exists()
    path.touch()  # as a killed first start, or a file manager, leaves it
    with pytest.raises(WorkshopGoneError):
        open_workshop(path)
    opened = open_workshop(path, anew=True)
    assert opened.jobs() == ()
    opened.close()


def test_an_upgrade_is_whole_or_not_at_all(tmp_path: Path, moments: list[float]) -> None:
    importlib.import_module("alembic.command")  # else each process loads it
    place = tmp_path / "place"
    place.mkdir()
    path = unpacked(EARLIER[0], place)
    whole = path.read_bytes()
    with closing(sqlite3.connect(path)) as connection:
        jobs = connection.execute("select count(*) from job").fetchone()[0]
    takes_s = lasts_s(lambda: open_workshop(path))
    for part in moments:
        for one in place.iterdir():
            shutil.rmtree(one) if one.is_dir() else one.unlink()
        path.write_bytes(whole)
        killed_after(part * takes_s, lambda: open_workshop(path))
        opened = open_workshop(path)
        assert opened.notices == ()
        assert len(opened.jobs()) == jobs
        assert is_whole(path)
        opened.close()


def test_a_start_in_the_second_of_a_killed_upgrade_opens(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = unpacked(EARLIER[0], tmp_path)
    (tmp_path / "backups").mkdir()
    monkeypatch.setattr("orvek.store.sqlite.backups.STAMP", "20261201-101010")
    monkeypatch.setattr(restoring, "sweep", lambda _: None)
    with closing(sqlite3.connect(path)) as connection:
        version = connection.execute("select version_num from alembic_version").fetchone()[0]
    (tmp_path / "backups" / f"{path.stem}-{version}-20261201-101010.part").touch()
    open_workshop(path).close()


def test_told_deeds_are_there(workshop: Workshop, tideline: Job, tmp_path: Path, moments: list[float]) -> None:
    workshop.record(tideline, "Begin")
    workshop.close()
    told = tmp_path / "told"

    def record(first: int) -> None:
        writing = open_workshop(workshop.path)
        with told.open("a") as done:
            for number in range(first, first + 10_000):
                writing.record(deeds.set_value(tideline, ("batch", "spoilage_pct"), number / 1000), "Deed")
                print(number, file=done, flush=True)

    told.touch()
    last = 0
    for part in moments:
        before = told.stat().st_size
        killed_after(0.1 * part, lambda: record(last + 1), lambda: told.stat().st_size > before)  # noqa: B023
        said = max([last, *(int(line) for line in told.read_text().split("\n")[:-1])])
        opened = open_workshop(workshop.path)
        assert opened.notices == ()
        last = round(1000 * (opened.job(tideline.batch.id).batch.spoilage_pct or 0))
        opened.close()
        assert said <= last <= said + 1
    assert last > 0


def test_a_first_start_is_never_called_another_copys(tmp_path: Path, moments: list[float]) -> None:
    takes_s = lasts_s(lambda: open_workshop(tmp_path / "first" / "workshop.sqlite"))
    for number, part in enumerate(moments):
        path = tmp_path / str(number) / "workshop.sqlite"
        killed_after(part * takes_s, lambda: open_workshop(path))  # noqa: B023
        opened = open_workshop(path)
        assert opened.notices == ()
        assert opened.is_writable
        opened.close()
