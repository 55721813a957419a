"""Opening a workshop file: its lock, what a killed process left beside it, its upgrades.

The file keeps a rollback journal (not a write-ahead log): between two deeds there is one file and nothing beside it,
so that a copy of it is whole, and a copy laid over it is too.
"""

from __future__ import annotations

import shutil
from pathlib import Path

from orvek.errors import (
    CannotWriteError,
    OrvekError,
    WorkshopBusyError,
    WorkshopDamagedError,
    WorkshopGoneError,
    WorkshopReadOnlyError,
)
from orvek.files import reason_of
from orvek.store.sqlite.backups import backups_of
from orvek.store.sqlite.connections import REFUSALS, changed, engine_of
from orvek.store.sqlite.file import WorkshopFile
from orvek.store.sqlite.leftovers import ID, MAGIC, set_foreign_aside
from orvek.store.sqlite.lock import WriteLock
from orvek.store.sqlite.plain_words import plain_reason
from orvek.store.sqlite.restoring import beside, sweep
from orvek.store.sqlite.upgrading import bring_up_to_date, new_number, version_of


def open_workshop(path: Path, *, anew: bool = False) -> WorkshopFile:
    """Open the workshop at `path`, making it where there is none.

    Where none is but files of one lie beside it, it is made only when the maker says so (`anew`).

    Where another window has it, or the place does not let us write, it is opened for reading and
    `why_read_only` says so. What was found and put right on the way stands in `notices`.

    Raises:
        WorkshopDamagedError: what stands there is no workshop; it is left alone.
        WorkshopVersionError: it was written by a newer Orvek, or by none that is known; it is left alone.
        WorkshopGoneError: it is not there any more, but something of it is.
        WorkshopReadOnlyError: nothing is there, and nothing can be put there.
    """
    try:
        path = path.resolve()
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    except (OSError, RuntimeError) as error:
        raise WorkshopReadOnlyError(
            path, reason_of(error) if isinstance(error, OSError) else "it leads in a circle"
        ) from error
    if not anew:
        _is_never_begun_silently(path)
    lock = WriteLock(path)
    try:
        lock.take()
    except (WorkshopBusyError, WorkshopReadOnlyError) as refused:
        return _open_for_reading(path, refused)
    try:
        return _open_for_writing(path, lock)
    except REFUSALS as error:
        lock.release()
        raise WorkshopDamagedError(path, plain_reason(error)) from error
    except OSError as error:  # what a killed process left could not be looked at or moved
        lock.release()
        raise WorkshopReadOnlyError(path, reason_of(error)) from error
    except OrvekError:
        lock.release()
        raise


def take_over(looking: WorkshopFile) -> WorkshopFile | None:
    """Open a workshop for writing that was open for reading, once the window that had it is gone.

    Returns:
        The workshop to go on with; None while the other window still has it.

    Raises:
        OrvekError: as `open_workshop`.
    """
    lock = WriteLock(looking.path)
    try:
        lock.take()
    except (WorkshopBusyError, WorkshopReadOnlyError):
        return None
    lock.release()
    opened = open_workshop(looking.path)
    if opened.is_writable:
        return opened
    opened.close()
    return None


def saved_elsewhere(lost: WorkshopFile, path: Path) -> WorkshopFile:
    """Make a new workshop of one whose file was deleted or replaced: from what can still be read of it, else from
    its newest backup, else an empty one.

    Raises:
        OrvekError: the new file cannot be written, or stands there already.
    """
    if path.exists() and path.stat().st_size:
        raise CannotWriteError(path, "there is a file of that name; take another")
    part = path.with_name(f".{path.name}.part")
    try:
        part.unlink(missing_ok=True)
        if lost.is_whole_elsewhere():
            lost.save_copy(part)
        else:
            newest = next((backup for backup in backups_of(lost.path) if backup.jobs is not None), None)
            if newest is not None:
                shutil.copyfile(newest.path, part)
        if part.exists():
            part.replace(path)
    except OSError as error:
        raise CannotWriteError(path, reason_of(error)) from error
    return open_workshop(path, anew=True)


def _open_for_writing(path: Path, lock: WriteLock) -> WorkshopFile:
    head = lock.head()
    if head and not head.startswith(MAGIC):
        raise WorkshopDamagedError(path, "it holds something else")
    sweep(path)
    notices = set_foreign_aside(path)
    bring_up_to_date(path)
    if lock.head()[ID] == bytes(4):
        _mark(path)
    engine = engine_of(path, writing=True)
    with engine.connect():
        pass  # a workshop of an older Orvek changes its journal here, before its state is remembered
    return WorkshopFile(path, engine, lock, None, (notices,) if notices else ())


def _is_never_begun_silently(path: Path) -> None:
    try:
        is_there = path.exists() and path.stat().st_size > 0
        found = () if is_there else beside(path)
    except OSError:
        return  # what is wrong with the place is said when it is locked
    if found:
        raise WorkshopGoneError(path, " and ".join(found))


def _mark(path: Path) -> None:
    """Give a file of the first Orveks its number."""
    with changed(path) as connection:
        connection.exec_driver_sql(f"pragma application_id = {new_number()}")


def _open_for_reading(path: Path, refused: OrvekError) -> WorkshopFile:
    try:
        if version_of(path) is None:
            raise refused
    except REFUSALS as error:
        raise WorkshopDamagedError(path, plain_reason(error)) from error
    return WorkshopFile(path, engine_of(path, writing=False), None, str(refused))
