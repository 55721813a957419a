"""Backups: made, listed, rotated, put back, and a restore that can be undone."""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from orvek.documents import Job, PhotoStep, Piece, Shop
from orvek.errors import CannotWriteError, UnknownVersionError, WorkshopDamagedError
from orvek.store import Workshop, back_up, backups_of, daily_backup, demo_shop, open_workshop, put_in_place
from tests.photos import view_of
from tests.store.test_laid_over import is_whole, spoil, wanted


@pytest.fixture
def filled(workshop: Workshop, tideline: Job) -> Workshop:
    workshop.record(tideline, "Begin")
    return workshop


def test_a_restore_puts_everything_back_and_can_be_undone(filled: Workshop, tideline: Job) -> None:
    made = back_up(filled.path, "asked")
    filled.record(wanted(tideline, 77), "Want 77")
    filled.save_shop(demo_shop())
    before = filled.restore(made)
    assert filled.job(tideline.batch.id) == tideline
    assert not filled.shop().moulds
    filled.restore(before)
    assert filled.job(tideline.batch.id).batch.pens_wanted == 77
    assert filled.shop() == demo_shop()
    filled.record(wanted(tideline, 78), "Want 78")  # the window goes on
    assert is_whole(filled.path)
    listed = backups_of(filled.path)
    assert {(backup.why, backup.jobs) for backup in listed} == {("asked", 1), ("before-restore", 1)}
    assert all(backup.path.stat().st_mode & 0o077 == 0 and backup.size_bytes > 1000 for backup in listed)


def test_what_is_no_whole_backup_is_refused_and_nothing_changes(
    filled: Workshop, tmp_path: Path, tideline: Job
) -> None:
    made = back_up(filled.path, "asked")
    half = tmp_path / "half.sqlite"
    half.write_bytes(made.read_bytes()[:5000])
    other = tmp_path / "other.sqlite"
    other.write_bytes(b"words")
    for path in (half, other):
        with pytest.raises(WorkshopDamagedError):
            filled.restore(path)
    spoil(made, "update alembic_version set version_num = '9001'")
    with pytest.raises(UnknownVersionError):
        filled.restore(made)
    assert filled.job(tideline.batch.id) == tideline


def test_daily_backups_are_made_once_a_day_after_changes_and_rotated(filled: Workshop, tideline: Job) -> None:
    assert daily_backup(filled.path) is not None
    assert daily_backup(filled.path) is None
    folder = filled.path.parent / "backups"
    now = datetime.now(UTC)
    for path in folder.iterdir():
        path.unlink()
    for days in range(30, 0, -1):
        made = back_up(filled.path, "daily")
        stamp = (now - timedelta(days=days)).strftime("%Y%m%d-%H%M%S")
        made.rename(folder / f"workshop-daily-{stamp}.sqlite")
    os.utime(filled.path, ((now - timedelta(days=2)).timestamp(),) * 2)
    assert daily_backup(filled.path) is None  # nothing has changed since yesterday's
    filled.record(wanted(tideline, 3), "Want 3")
    assert daily_backup(filled.path) is not None
    assert len(backups_of(filled.path)) == 14


def test_a_backup_that_cannot_be_made_leaves_no_half_file(filled: Workshop) -> None:
    (filled.path.parent / "backups").write_text("a file where the folder should be")
    with pytest.raises(CannotWriteError, match="no backup"):
        back_up(filled.path, "asked")


def test_a_damaged_workshop_gives_way_to_its_backup_and_is_kept(filled: Workshop, tideline: Job) -> None:
    made = back_up(filled.path, "asked")
    filled.close()
    content = bytearray(filled.path.read_bytes())
    content[4096:12288] = b"\x55" * 8192
    filled.path.write_bytes(content)
    aside = put_in_place(filled.path, made)
    assert aside.read_bytes() == bytes(content)
    again = open_workshop(filled.path)
    assert again.job(tideline.batch.id) == tideline
    again.close()


def test_photos_that_no_piece_has_any_more_are_let_go(filled: Workshop) -> None:
    """An album that a piece names stays, with all its pictures; one that none names goes, and what only it named."""
    kept, gone = (PhotoStep(length_mm=90 + n, views=(view_of(90.0, n),)) for n in (1, 2))
    names = [filled.keep_album(album) for album in (kept, gone)]
    filled.save_shop(Shop(pieces=(Piece(name="Sandbar", album=names[0]),)))
    before = sizes(filled.path)
    filled.let_go()
    assert filled.album(names[0]) == kept
    assert filled.album(names[1]) is None
    assert before - sizes(filled.path) == 2  # the list of its photos, and the photo
    filled.let_go()
    assert filled.album(names[0]) == kept


def sizes(path: Path) -> int:
    with closing(sqlite3.connect(path)) as connection:
        return int(connection.execute("select count(*) from content").fetchone()[0])
