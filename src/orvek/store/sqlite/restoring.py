"""Putting a backup in the place of a workshop, so that a kill at any moment leaves the old one or the new one.

`overwrite` is for a workshop that is open, `put_in_place` for one that cannot be opened; `beside` tells what lies
there where the workshop itself is gone.
"""

from __future__ import annotations

import contextlib
import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from pathlib import Path

from orvek.errors import CannotWriteError
from orvek.files import reason_of
from orvek.store.sqlite.backups import STAMP, backups_of, check_whole, literal
from orvek.store.sqlite.connections import REFUSALS
from orvek.store.sqlite.leftovers import began_on_nothing
from orvek.store.sqlite.plain_words import plain_reason
from orvek.store.sqlite.upgrading import bring_up_to_date

_JOURNALS = ("-journal", "-wal", "-shm")


def overwrite(path: Path, backup: Path) -> None:
    """Put a backup over the content of an open workshop, in one transaction.

    It is brought up to date and given the workshop's own number first, in a copy: a transaction that is cut off is
    then known to belong to the workshop, whichever page it had come to (see leftovers.py).

    Raises:
        OrvekError: it cannot be written; the workshop is as it was.
    """
    with _copy_of(path, backup) as copy:
        try:
            bring_up_to_date(copy, with_backup=False)
            with closing(sqlite3.connect(path)) as there, closing(sqlite3.connect(copy)) as own:
                own.execute(f"pragma application_id = {there.execute('pragma application_id').fetchone()[0]}")
            with closing(sqlite3.connect(copy)) as source, closing(sqlite3.connect(path)) as target:
                source.backup(target)
        except REFUSALS as error:
            raise CannotWriteError(path, plain_reason(error)) from error


def put_in_place(path: Path, backup: Path) -> Path:
    """Put a backup where a workshop lies that cannot be opened, or is gone. What lies there is kept under another name.

    Returns:
        Where the old file is now.

    Raises:
        OrvekError: the backup is damaged too, or nothing can be written; nothing was changed.
    """
    check_whole(backup)
    stamp = datetime.now(UTC).strftime(STAMP)
    aside = path.with_name(f"{path.stem}-damaged-{stamp}{path.suffix}")
    with _copy_of(path, backup) as copy:
        try:
            if path.exists() and path.stat().st_size:
                _keep_as(path, aside)  # under both names, so that at no moment nothing lies at its own
            for ending in _JOURNALS:
                left = path.with_name(path.name + ending)
                if left.exists():
                    left.replace(aside.with_name(aside.name + ending))
            copy.replace(path)
        except OSError as error:
            raise CannotWriteError(path, f"the backup could not be put there ({reason_of(error)})") from error
    return aside


def beside(path: Path) -> tuple[str, ...]:
    """What lies beside a place where no workshop is, in words; empty where it looks as if there never was one."""
    found = []
    damaged = sorted(path.parent.glob(f"{literal(path.stem)}-damaged-*{literal(path.suffix)}"))
    if damaged:
        found.append(f"a damaged copy ({damaged[-1].name})")
    backups = backups_of(path)
    if backups:
        found.append(f"{len(backups)} backup{'s' if len(backups) > 1 else ''} in the folder backups")
    journal, log = (path.with_name(path.name + ending) for ending in ("-journal", "-wal"))
    if (journal.exists() and not began_on_nothing(journal)) or (log.exists() and log.stat().st_size):
        found.append("a change that was cut off")
    return tuple(found)


def sweep(path: Path) -> None:
    """Remove what killed processes left half made: copies for a restore, for a backup, for a trial."""
    half_made = (
        (path.parent, f".{literal(path.name)}*.part*"),
        (path.parent / "backups", f"{literal(path.stem)}-*.part*"),
        (path.parent, ".orvek-trial-*"),
    )
    for folder, pattern in half_made:
        for left in folder.glob(pattern):
            with contextlib.suppress(OSError):
                shutil.rmtree(left) if left.is_dir() else left.unlink()


@contextmanager
def _copy_of(path: Path, backup: Path) -> Iterator[Path]:
    """A whole copy of a backup beside the workshop, private to the maker; gone at the end, unless it was moved."""
    part = path.with_name(f".{path.name}.restore.part")
    try:
        part.unlink(missing_ok=True)
        os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
        with closing(sqlite3.connect(backup)) as source, closing(sqlite3.connect(part)) as target:
            target.execute("pragma journal_mode = off")
            source.backup(target)
        with part.open("rb") as written:
            os.fsync(written.fileno())
    except (OSError, sqlite3.Error) as error:
        with contextlib.suppress(OSError):
            part.unlink()
        raise CannotWriteError(path, f"the backup could not be copied ({error})") from error
    try:
        yield part
    finally:
        for ending in ("", *_JOURNALS):
            with contextlib.suppress(OSError):
                part.with_name(part.name + ending).unlink()


def _keep_as(path: Path, name: Path) -> None:
    try:
        os.link(path, name)
    except OSError:  # a file system without links
        shutil.copyfile(path, name)
