"""Backups of a workshop: made daily, before upgrades, before a restore and on demand; listed.

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
from itertools import count
from pathlib import Path

from msgspec import Struct
from sqlalchemy import func, select

from orvek.errors import CannotWriteError, WorkshopDamagedError
from orvek.store.sqlite.connections import REFUSALS, looked_into
from orvek.store.tables import ALEMBIC_VERSION, JOB, VERSIONS

DAILY, ASKED, BEFORE_RESTORE = "daily", "asked", "before-restore"
_KEPT = {DAILY: 14, BEFORE_RESTORE: 6}  # a fortnight of days; the maker may change his mind a few times
_NAME = re.compile(r"-(?P<why>daily|asked|before-restore|\d{4})-(?P<stamp>\d{8}-\d{6})(?:-\d+)?\.sqlite$")
STAMP = "%Y%m%d-%H%M%S"
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
    stamp = datetime.now(UTC).strftime(STAMP)
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
    today = datetime.now(UTC)
    # A clock that was wrong for a day makes a backup of the future: it keeps nobody from making today's.
    past = (found for found in _found(path) if found[1] <= today)
    newest = max(past, key=lambda found: found[1], default=None)
    if newest is not None:
        made = newest[1]
        changed = datetime.fromtimestamp(path.stat().st_mtime, UTC)
        if made.date() >= today.date() or changed <= made:
            return None
    return back_up(path, DAILY)


def backups_of(path: Path) -> tuple[Backup, ...]:
    """All backups of the workshop at `path`, newest first."""
    found = sorted(_found(path), key=lambda entry: entry[1], reverse=True)
    return tuple(Backup(copy, made, why, copy.stat().st_size, jobs_in(copy)) for copy, made, why in found)


def newest_usable(path: Path) -> Backup | None:
    """The newest backup that this Orvek can open; None where there is none."""
    return next((backup for backup in backups_of(path) if backup.jobs is not None and _is_known(backup.path)), None)


def jobs_in(path: Path) -> int | None:
    """How many jobs a workshop file holds; None where it cannot be read."""
    try:
        with looked_into(path) as connection:
            return connection.scalar(select(func.count()).select_from(JOB))
    except REFUSALS:
        return None


def check_whole(path: Path) -> None:
    """Make sure that a backup is a whole workshop file.

    Raises:
        WorkshopDamagedError: it is not; nothing was changed.
    """
    try:
        with looked_into(path) as connection:
            if connection.exec_driver_sql("pragma integrity_check(1)").scalar() != "ok":
                raise WorkshopDamagedError(path, "it is damaged")
            connection.execute(select(ALEMBIC_VERSION))
            connection.execute(select(JOB.c.id).limit(1))
    except REFUSALS as error:
        raise WorkshopDamagedError(path, "it is no workshop of Orvek") from error


def _is_known(path: Path) -> bool:
    try:
        with looked_into(path) as connection:
            return connection.scalar(select(ALEMBIC_VERSION)) in VERSIONS
    except REFUSALS:
        return False


def _found(path: Path) -> list[tuple[Path, datetime, str]]:
    entries = []
    for copy in (path.parent / "backups").glob(f"{literal(path.stem)}-*.sqlite"):
        match = _NAME.search(copy.name)
        if match and copy.name[: match.start()] == path.stem:
            made = datetime.strptime(match["stamp"], STAMP).replace(tzinfo=UTC)
            entries.append((copy, made, match["why"]))
    return entries


def literal(name: str) -> str:
    """A name as a pattern of files that only it fits."""
    return re.sub(r"([*?[])", r"[\1]", name)


def _free_names(folder: Path, name: str) -> Iterator[Path]:
    """Names that are not taken; two backups may be made in one second, and a killed one leaves its half."""
    for number in count(1):
        copy = folder / (f"{name}-{number}.sqlite" if number > 1 else f"{name}.sqlite")
        if not copy.exists() and not copy.with_suffix(".part").exists():
            yield copy


def _rotate(path: Path, why: str) -> None:
    kept = _KEPT.get(why)
    if kept is None:
        return
    alike = sorted((e for e in _found(path) if e[2] == why), key=lambda entry: (entry[1], entry[0].name), reverse=True)
    for copy, _, _ in alike[kept:]:
        with contextlib.suppress(OSError):
            copy.unlink()
