"""Backups of a workshop: made daily, before upgrades, before a restore and on demand; listed; put back.

They lie in the folder `backups` beside the workshop, named `NAME-WHY-YYYYMMDD-HHMMSS.sqlite`. What is made by itself
is rotated; what the maker asked for, and what was made before an upgrade, stays.
"""

from __future__ import annotations

import contextlib
import os
import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from msgspec import Struct

from orvek.errors import CannotWriteError, WorkshopDamagedError

DAILY, ASKED, BEFORE_RESTORE = "daily", "asked", "before-restore"
_KEPT = {DAILY: 14, BEFORE_RESTORE: 6}  # a fortnight of days; the maker may change his mind a few times
_NAME = re.compile(r"-(?P<why>daily|asked|before-restore|\d{4})-(?P<stamp>\d{8}-\d{6})(?:-\d+)?\.sqlite$")
_STAMP = "%Y%m%d-%H%M%S"
_PAGES = 256  # at a time: a deed made meanwhile waits for no more than this


class Backup(Struct, frozen=True):
    """One backup: where, from when (UTC), why, how large, and how many jobs it holds (None: unreadable)."""

    path: Path
    made_at: datetime
    why: str
    size_bytes: int
    jobs: int | None


def back_up(path: Path, why: str) -> Path:
    """Copy a workshop whole, as it is at this moment.

    Returns:
        The copy's path.

    Raises:
        CannotWriteError: there is no room or no permission; no half copy is left behind.
    """
    stamp = datetime.now(UTC).strftime(_STAMP)
    folder = path.parent / "backups"
    copy = next(_free_names(folder, f"{path.stem}-{why}-{stamp}"))
    part = copy.with_suffix(".part")
    try:
        folder.mkdir(mode=0o700, exist_ok=True)
        os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
        with closing(sqlite3.connect(path, timeout=10)) as source, closing(sqlite3.connect(part)) as target:
            target.execute("pragma journal_mode = off")
            source.backup(target, pages=_PAGES, sleep=0.001)
        part.replace(copy)
    except (OSError, sqlite3.Error) as error:
        with contextlib.suppress(OSError):
            part.unlink()
        raise CannotWriteError(copy, f"no backup could be made ({error})") from error
    _rotate(path, why)
    return copy


def daily_backup(path: Path) -> Path | None:
    """Back a workshop up once a day, and only where it has changed since the last backup.

    Raises:
        CannotWriteError: as `back_up`.
    """
    newest = max(_found(path), key=lambda found: found[1], default=None)
    if newest is not None:
        made, today = newest[1], datetime.now(UTC)
        changed = datetime.fromtimestamp(path.stat().st_mtime, UTC)
        if made.date() >= today.date() or changed <= made:
            return None
    return back_up(path, DAILY)


def backups_of(path: Path) -> tuple[Backup, ...]:
    """All backups of the workshop at `path`, newest first."""
    found = sorted(_found(path), key=lambda entry: entry[1], reverse=True)
    return tuple(Backup(copy, made, why, copy.stat().st_size, jobs_in(copy)) for copy, made, why in found)


def jobs_in(path: Path) -> int | None:
    """How many jobs a workshop file holds; None where it cannot be read."""
    try:
        with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as connection:
            return int(connection.execute("select count(*) from job").fetchone()[0])
    except sqlite3.Error:
        return None


def check_whole(path: Path) -> None:
    """Make sure that a backup is a whole workshop file.

    Raises:
        WorkshopDamagedError: it is not; nothing was changed.
    """
    try:
        with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as connection:
            if connection.execute("pragma integrity_check(1)").fetchone()[0] != "ok":
                raise WorkshopDamagedError(path, "it is damaged")
            connection.execute("select version_num from alembic_version").fetchone()
            connection.execute("select count(*) from job").fetchone()
    except sqlite3.Error as error:
        raise WorkshopDamagedError(path, "it is no workshop of Orvek") from error


def put_in_place(path: Path, backup: Path) -> Path:
    """Put a backup where a damaged workshop lies, which is renamed and kept.

    Returns:
        Where the damaged file is now.

    Raises:
        OrvekError: the backup is damaged too, or nothing can be written; nothing was changed.
    """
    check_whole(backup)
    stamp = datetime.now(UTC).strftime(_STAMP)
    aside, part = path.with_name(f"{path.stem}-damaged-{stamp}{path.suffix}"), path.with_name(f".{path.name}.part")
    try:
        part.unlink(missing_ok=True)
        with closing(sqlite3.connect(backup)) as source, closing(sqlite3.connect(part)) as target:
            source.backup(target)
        part.chmod(0o600)
        for ending in ("-journal", "-wal", "-shm"):
            left = path.with_name(path.name + ending)
            if left.exists():
                left.replace(aside.with_name(aside.name + ending))
        path.replace(aside)
        part.replace(path)
    except (OSError, sqlite3.Error) as error:
        raise CannotWriteError(path, f"the backup could not be put there ({error})") from error
    return aside


def _found(path: Path) -> list[tuple[Path, datetime, str]]:
    entries = []
    for copy in (path.parent / "backups").glob(f"{_literal(path.stem)}-*.sqlite"):
        match = _NAME.search(copy.name)
        if match and copy.name[: match.start()] == path.stem:
            made = datetime.strptime(match["stamp"], _STAMP).replace(tzinfo=UTC)
            entries.append((copy, made, match["why"]))
    return entries


def _literal(name: str) -> str:
    return re.sub(r"([*?[])", r"[\1]", name)


def _free_names(folder: Path, name: str) -> Iterator[Path]:
    """Names that are not taken; two backups may be made in one second."""
    if not (folder / f"{name}.sqlite").exists():
        yield folder / f"{name}.sqlite"
    number = 2
    while True:
        if not (folder / f"{name}-{number}.sqlite").exists():
            yield folder / f"{name}-{number}.sqlite"
        number += 1


def _rotate(path: Path, why: str) -> None:
    kept = _KEPT.get(why)
    if kept is None:
        return
    alike = sorted((e for e in _found(path) if e[2] == why), key=lambda entry: (entry[1], entry[0].name), reverse=True)
    for copy, _, _ in alike[kept:]:
        with contextlib.suppress(OSError):
            copy.unlink()
