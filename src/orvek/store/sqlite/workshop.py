"""The workshop: one SQLite file with the maker's shelves, preferences, jobs and every job's history.

Every deed is committed as it is made, so there is no save to forget; a killed process loses at most the deed in
hand. Undo and redo move along the committed history and outlive the window. One window writes; a second one
reads. Open one with `open_workshop`.
"""

from __future__ import annotations

import json
import sqlite3
import struct
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from pathlib import Path

from msgspec import Struct

from orvek.documents import Contents, Job, PhotoStep, Shop, from_text, to_text
from orvek.errors import (
    CannotWriteError,
    NothingToDoError,
    OrvekError,
    WorkshopDamagedError,
    WorkshopReplacedError,
)
from orvek.store.contents import drop_unnamed, read_album, read_contents, write_album, write_contents
from orvek.store.shop_rows import ShopFound, put_setting, read_shop, write_shop
from orvek.store.sqlite.backups import BEFORE_RESTORE, back_up, check_whole
from orvek.store.sqlite.connections import Connections
from orvek.store.sqlite.lock import WriteLock
from orvek.store.sqlite.plain_words import plain_reason
from orvek.store.sqlite.restoring import overwrite
from orvek.store.sqlite.upgrading import check_version

_COUNTER = slice(24, 28)  # the file change counter of the SQLite header; every transaction raises it by one


class JobEntry(Struct, frozen=True):
    """A job in the list."""

    id: str
    name: str
    changed_at: str


class HistoryState(Struct, frozen=True):
    """What undo and redo would do now; None where there is nothing."""

    undo: str | None
    redo: str | None


class OpenedJob(Struct, frozen=True):
    """A job, and a sentence where it is not the version that was kept last."""

    job: Job
    note: str | None = None


class Workshop:
    """An open workshop file. Make one with `open_workshop`."""

    def __init__(
        self,
        path: Path,
        connections: Connections,
        lock: WriteLock | None,
        why_read_only: str | None,
        notices: tuple[str, ...] = (),
    ) -> None:
        self.path = path
        self.why_read_only = why_read_only
        self.notices = notices
        self._connections = connections
        self._lock = lock
        self._counter = self._counter_now()

    @property
    def is_writable(self) -> bool:
        """Whether deeds can be recorded here."""
        return self.why_read_only is None

    # -- jobs ------------------------------------------------------------------------------------------------

    def jobs(self) -> tuple[JobEntry, ...]:
        """All jobs, the one changed last first."""
        with self._reading() as connection:
            rows = connection.execute("select id, name, changed_at from job order by changed_at desc, id")
            return tuple(JobEntry(*row) for row in rows)

    def job(self, job_id: str, *, pictures: bool = True) -> Job:
        """The job as it stands now; without `pictures` its pictures are empty: enough to plan it in time.

        Raises:
            NothingToDoError: there is no such job here.
        """
        with self._reading() as connection:
            return self._version(connection, job_id, self._now(connection, job_id), pictures=pictures)

    def open_job(self, job_id: str, usable: Callable[[Job], bool] = lambda _: True) -> OpenedJob:
        """The job as it stands now, or the last version of it that can be read and used.

        Raises:
            NothingToDoError: there is no such job here.
            WorkshopDamagedError: no version of it can be read.
        """
        with self._reading() as connection:
            row = connection.execute("select name, version_now from job where id = ?", (job_id,)).fetchone()
            if row is None:
                raise NothingToDoError("Opening it", "a job of that name in this workshop")
            name, now = str(row["name"]), int(row["version_now"])
            for number in self._numbers(connection, job_id, now):
                job = self._readable(connection, job_id, number)
                if job is not None and usable(job):
                    return OpenedJob(job, _older_words(name, now - number) if number != now else None)
        raise WorkshopDamagedError(self.path, f"no version of “{name[:60]}” can be read")

    def record(self, job: Job, deed: str) -> None:
        """Commit a job as the newest version of itself; versions that were undone are dropped.

        Raises:
            CannotWriteError: with the reason; the file still holds what it held.
        """
        with self._writing() as connection:
            job_id = job.batch.id
            row = connection.execute("select version_now from job where id = ?", (job_id,)).fetchone()
            number = row["version_now"] + 1 if row else 0
            if row is None:
                connection.execute(
                    "insert into job (id, name, version_now, changed_at) values (?, ?, 0, ?)",
                    (job_id, job.batch.name, _stamp()),
                )
            connection.execute("delete from job_version where job_id = ? and number >= ?", (job_id, number))
            contents = Contents()
            body = to_text(job, contents)
            write_contents(connection, contents)
            connection.execute(
                "insert into job_version (job_id, number, deed, body, made_at) values (?, ?, ?, ?, ?)",
                (job_id, number, deed[:120], body, _stamp()),
            )
            self._set_now(connection, job, number)

    def begin(self, job: Job, deed: str) -> None:
        """Commit a job that is taken in hand: as `record`, and it is the one that was open last."""
        self.record(job, deed)
        self.set_last_open(job.batch.id)

    def undo(self, job_id: str) -> Job:
        """Step back in the job's history and give the job as it was.

        Raises:
            NothingToDoError: there is nothing to undo.
        """
        return self._step(job_id, -1, "Undo")

    def redo(self, job_id: str) -> Job:
        """Step forward again.

        Raises:
            NothingToDoError: there is nothing to redo.
        """
        return self._step(job_id, +1, "Redo")

    def history(self, job_id: str) -> HistoryState:
        """The names of the deeds that undo and redo would take back or make again."""
        with self._reading() as connection:
            now = self._now(connection, job_id)
            undo = self._deed(connection, job_id, now) if now > 0 else None
            return HistoryState(undo, self._deed(connection, job_id, now + 1))

    def remove_job(self, job_id: str) -> None:
        """Take a job and its history out of the workshop."""
        with self._writing() as connection:
            connection.execute("delete from job where id = ?", (job_id,))
            drop_unnamed(connection)

    # -- shop ------------------------------------------------------------------------------------------------

    def shop(self) -> Shop:
        """The maker's shelves and preferences, as far as they can be read; generic ones where nothing was kept yet."""
        return self.shop_found().shop

    def shop_found(self) -> ShopFound:
        """The shop, with a sentence for each thing in it that could not be read."""
        with self._reading() as connection:
            return read_shop(connection)

    def save_shop(self, shop: Shop) -> None:
        """Commit shelves and preferences.

        Raises:
            CannotWriteError: with the reason; the file still holds what it held.
        """
        with self._writing() as connection:
            write_shop(connection, shop)

    def keep_album(self, album: PhotoStep) -> str:
        """Keep a piece's photos as they are; returns the name under which they are found.

        Raises:
            CannotWriteError: with the reason; the file still holds what it held.
        """
        with self._writing() as connection:
            return write_album(connection, album)

    def album(self, name: str) -> PhotoStep | None:
        """A piece's photos by their name; None where there are none."""
        if not name:
            return None
        with self._reading() as connection:
            return read_album(connection, name)

    def last_open(self) -> str | None:
        """The id of the job that was open last, if it is still here."""
        with self._reading() as connection:
            row = connection.execute("select body from setting where key = 'last_open'").fetchone()
            try:
                job_id = str(json.loads(row["body"])) if row else None
            except ValueError:
                return None
            known = connection.execute("select 1 from job where id = ?", (job_id,)).fetchone()
            return job_id if known else None

    def set_last_open(self, job_id: str) -> None:
        """Remember which job was open last."""
        with self._writing() as connection:
            put_setting(connection, "last_open", job_id)

    # -- the file --------------------------------------------------------------------------------------------

    def change_count(self) -> int:
        """A number that changes when another window has written to the file."""
        with self._reading() as connection:
            return int(connection.execute("pragma data_version").fetchone()[0])

    def check_file(self) -> None:
        """Make sure that the file is still the one that was opened, as this window left it.

        Raises:
            WorkshopReplacedError: it was deleted, or another copy lies in its place.
        """
        if self._lock is None:
            return
        if not self.path.exists():
            raise WorkshopReplacedError(self.path, "was moved or deleted")
        if not self._lock.is_still(self.path):
            raise WorkshopReplacedError(self.path, "was replaced by another file")
        if self._counter_now() != self._counter:
            raise WorkshopReplacedError(self.path, "was overwritten by another copy or changed by another program")

    def save_copy(self, path: Path) -> None:
        """Write everything that this window still has of the workshop to a new file.

        The file that was opened can be read to the end even where its name is gone.

        Raises:
            CannotWriteError: with the reason.
        """
        try:
            with self._connections.in_hand() as source, closing(sqlite3.connect(path)) as target:
                source.backup(target)
            path.chmod(0o600)
        except (OSError, sqlite3.Error) as error:
            raise CannotWriteError(path, plain_reason(error)) from error

    def is_whole_elsewhere(self) -> bool:
        """Whether the content that was opened can still be read though its name is gone or another file has it."""
        return self._lock is not None and not self._lock.is_still(self.path) and self._counter_now() == self._counter

    def restore(self, backup: Path) -> Path:
        """Put a backup in the place of everything in the workshop, whole or not at all.

        Returns:
            A backup of what stood there before; restoring that one undoes this.

        Raises:
            OrvekError: the backup is no whole workshop, or nothing can be written; nothing was changed.
        """
        check_whole(backup)
        check_version(backup)
        with self._writing():
            pass
        before = back_up(self.path, BEFORE_RESTORE)
        try:
            overwrite(self.path, backup)
        finally:
            self._connections.close()
            with self._reading():
                pass  # a backup of an older Orvek changes its journal here
            self._counter = self._counter_now()
        return before

    def close(self) -> None:
        """Close the file and let another window write."""
        self._connections.close()
        if self._lock is not None:
            self._lock.release()
            self._lock = None

    @contextmanager
    def _reading(self) -> Iterator[sqlite3.Connection]:
        try:
            with self._connections.in_hand() as connection:
                yield connection
        except sqlite3.Error as error:
            raise WorkshopDamagedError(self.path, plain_reason(error)) from error

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        if self.why_read_only is not None:
            raise CannotWriteError(self.path, "it is open for reading only")
        self.check_file()
        try:
            with self._connections.changing() as connection:
                yield connection
        except sqlite3.Error as error:
            raise CannotWriteError(self.path, plain_reason(error)) from error
        finally:
            self._counter = self._counter_now()

    def _counter_now(self) -> int | None:
        head = self._lock.head() if self._lock is not None else b""
        return int(struct.unpack(">I", head[_COUNTER])[0]) if len(head) >= 28 else None

    def _step(self, job_id: str, by: int, verb: str) -> Job:
        """One version on in a direction; versions that cannot be read are passed over."""
        with self._writing() as connection:
            number = self._now(connection, job_id) + by
            while number >= 0 and self._deed(connection, job_id, number) is not None:
                job = self._readable(connection, job_id, number)
                if job is not None:
                    self._set_now(connection, job, number)
                    return job
                number += by
        raise NothingToDoError(verb, "a change")

    def _numbers(self, connection: sqlite3.Connection, job_id: str, now: int) -> list[int]:
        """Numbers of the versions kept, the present one first, then older ones, then those that were undone."""
        rows = connection.execute("select number from job_version where job_id = ?", (job_id,))
        kept = sorted((int(row["number"]) for row in rows), reverse=True)
        return [n for n in kept if n <= now] + [n for n in reversed(kept) if n > now]

    def _readable(self, connection: sqlite3.Connection, job_id: str, number: int) -> Job | None:
        try:
            job = self._version(connection, job_id, number)
        except OrvekError:
            return None
        return job if job.batch.id == job_id else None

    def _now(self, connection: sqlite3.Connection, job_id: str) -> int:
        row = connection.execute("select version_now from job where id = ?", (job_id,)).fetchone()
        if row is None:
            raise NothingToDoError("Opening it", "a job of that name in this workshop")
        return int(row["version_now"])

    def _version(self, connection: sqlite3.Connection, job_id: str, number: int, *, pictures: bool = True) -> Job:
        row = _version_row(connection, job_id, number)
        if row is None:
            raise WorkshopDamagedError(self.path, f"version {number} of a job is missing")
        body = str(row["body"])
        return from_text(body, self.path.name, read_contents(connection, body) if pictures else Contents())

    def _deed(self, connection: sqlite3.Connection, job_id: str, number: int) -> str | None:
        row = _version_row(connection, job_id, number)
        return str(row["deed"]) if row else None

    def _set_now(self, connection: sqlite3.Connection, job: Job, number: int) -> None:
        values = (number, job.batch.name, _stamp(), job.batch.id)
        connection.execute("update job set version_now = ?, name = ?, changed_at = ? where id = ?", values)


def _version_row(connection: sqlite3.Connection, job_id: str, number: int) -> sqlite3.Row | None:
    found = connection.execute(
        "select deed, body from job_version where job_id = ? and number = ?", (job_id, number)
    ).fetchone()
    return found if isinstance(found, sqlite3.Row) else None


def _older_words(name: str, back: int) -> str:
    shown = name if len(name) <= 60 else name[:59] + "…"
    steps = "the last change" if back == 1 else f"the last {back} changes"
    if back < 0:
        steps = "what was kept last"
    return f"“{shown}” is open as it was before {steps}, which could not be read. Nothing was removed from the file."


def _stamp() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")
