"""The workshop: one SQLite file with the maker's shelves, preferences, jobs and every job's history.

Every deed is committed as it is made, so there is no save to forget; a killed process loses at most the deed in
hand. Undo and redo move along the committed history and outlive the window. One window writes; a second one
reads.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, delete, event, insert, select, text, update
from sqlalchemy.exc import DatabaseError, SQLAlchemyError

from orvek.documents import Job, Shop, checked, first_shop, from_text, to_text
from orvek.errors import (
    CannotWriteError,
    NothingToDoError,
    OrvekError,
    WorkshopBusyError,
    WorkshopDamagedError,
    WorkshopReadOnlyError,
)
from orvek.files import reason_of
from orvek.shop import tables
from orvek.shop.lock import WriteLock
from orvek.shop.upgrading import bring_up_to_date, version_of

_FIRST_SHELVES = ("pens", "moulds", "resins", "pigments", "scales")  # before each file said which it holds
_SETTINGS = ("vessels_ml", "preferences", "accuracy")
_SHELVES = tuple(name for name in Shop.model_fields if name not in _SETTINGS)


@dataclass(frozen=True, slots=True)
class JobEntry:
    """A job in the list."""

    id: str
    name: str
    changed_at: str


@dataclass(frozen=True, slots=True)
class HistoryState:
    """What undo and redo would do now; None where there is nothing."""

    undo: str | None
    redo: str | None


class Workshop:
    """An open workshop file. Make one with `open_workshop`."""

    def __init__(self, path: Path, engine: Engine, lock: WriteLock | None, why_read_only: str | None) -> None:
        self.path = path
        self.why_read_only = why_read_only
        self._engine = engine
        self._lock = lock

    @property
    def is_writable(self) -> bool:
        """Whether deeds can be recorded here."""
        return self.why_read_only is None

    # -- jobs ------------------------------------------------------------------------------------------------

    def jobs(self) -> tuple[JobEntry, ...]:
        """All jobs, the one changed last first."""
        with self._reading() as connection:
            rows = connection.execute(select(tables.job).order_by(tables.job.c.changed_at.desc(), tables.job.c.id))
            return tuple(JobEntry(row.id, row.name, row.changed_at) for row in rows)

    def job(self, job_id: str) -> Job:
        """The job as it stands now.

        Raises:
            NothingToDoError: there is no such job here.
        """
        with self._reading() as connection:
            return self._version(connection, job_id, self._now(connection, job_id))

    def record(self, job: Job, deed: str) -> None:
        """Commit a job as the newest version of itself; versions that were undone are dropped.

        Raises:
            CannotWriteError: with the reason; the file still holds what it held.
        """
        with self._writing() as connection:
            row = connection.execute(select(tables.job).where(tables.job.c.id == job.batch.id)).first()
            number = row.version_now + 1 if row else 0
            if row is None:
                values = {"id": job.batch.id, "name": job.batch.name, "version_now": 0, "changed_at": _stamp()}
                connection.execute(insert(tables.job).values(**values))
            versions = tables.job_version
            undone = (versions.c.job_id == job.batch.id) & (versions.c.number >= number)
            connection.execute(delete(versions).where(undone))
            connection.execute(
                insert(versions).values(
                    job_id=job.batch.id, number=number, deed=deed[:120], body=to_text(job), made_at=_stamp()
                )
            )
            self._set_now(connection, job, number)

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
            connection.execute(delete(tables.job).where(tables.job.c.id == job_id))

    # -- shop ------------------------------------------------------------------------------------------------

    def shop(self) -> Shop:
        """The maker's shelves and preferences; the generic ones where nothing was kept yet."""
        with self._reading() as connection:
            rows = connection.execute(select(tables.shelf).order_by(tables.shelf.c.kind, tables.shelf.c.position)).all()
            settings = {row.key: json.loads(row.body) for row in connection.execute(select(tables.setting))}
        if "vessels_ml" not in settings:
            return first_shop()
        # What an older Orvek did not know of is as in a first shop, not empty.
        kept = settings.get("shelves", _FIRST_SHELVES)
        shelves: dict[str, Any] = {kind: [json.loads(r.body) for r in rows if r.kind == kind] for kind in kept}
        return checked(Shop, {**shelves, **{key: settings[key] for key in _SETTINGS if key in settings}})

    def save_shop(self, shop: Shop) -> None:
        """Commit shelves and preferences.

        Raises:
            CannotWriteError: with the reason; the file still holds what it held.
        """
        content = shop.model_dump(mode="json")
        with self._writing() as connection:
            connection.execute(delete(tables.shelf))
            for kind in _SHELVES:
                for position, item in enumerate(content[kind]):
                    row = {"kind": kind, "position": position, "body": json.dumps(item, ensure_ascii=False)}
                    connection.execute(insert(tables.shelf).values(**row))
            for key in _SETTINGS:
                self._set(connection, key, content[key])
            self._set(connection, "shelves", list(_SHELVES))

    def last_open(self) -> str | None:
        """The id of the job that was open last, if it is still here."""
        with self._reading() as connection:
            row = connection.execute(select(tables.setting.c.body).where(tables.setting.c.key == "last_open")).first()
            job_id = json.loads(row.body) if row else None
            known = connection.execute(select(tables.job.c.id).where(tables.job.c.id == job_id)).first()
            return str(job_id) if known else None

    def set_last_open(self, job_id: str) -> None:
        """Remember which job was open last."""
        with self._writing() as connection:
            self._set(connection, "last_open", job_id)

    # -- the file --------------------------------------------------------------------------------------------

    def change_count(self) -> int:
        """A number that changes when another window has written to the file."""
        with self._reading() as connection:
            return int(connection.execute(text("pragma data_version")).scalar_one())

    def close(self) -> None:
        """Close the file and let another window write."""
        self._engine.dispose()
        if self._lock is not None:
            self._lock.release()

    @contextmanager
    def _reading(self) -> Iterator[Connection]:
        try:
            with self._engine.connect() as connection:
                yield connection
        except DatabaseError as error:
            raise WorkshopDamagedError(self.path, _plain(error)) from error

    @contextmanager
    def _writing(self) -> Iterator[Connection]:
        if self.why_read_only is not None:
            raise CannotWriteError(self.path, "it is open for reading only")
        try:
            with self._engine.begin() as connection:
                yield connection
        except SQLAlchemyError as error:
            raise CannotWriteError(self.path, _plain(error)) from error

    def _step(self, job_id: str, by: int, verb: str) -> Job:
        with self._writing() as connection:
            number = self._now(connection, job_id) + by
            if number < 0 or self._deed(connection, job_id, number) is None:
                raise NothingToDoError(verb, "a deed")
            job = self._version(connection, job_id, number)
            self._set_now(connection, job, number)
            return job

    def _now(self, connection: Connection, job_id: str) -> int:
        row = connection.execute(select(tables.job.c.version_now).where(tables.job.c.id == job_id)).first()
        if row is None:
            raise NothingToDoError("Opening it", "a job of that name in this workshop")
        return int(row.version_now)

    def _version(self, connection: Connection, job_id: str, number: int) -> Job:
        body = self._cell(connection, job_id, number, "body")
        if body is None:
            raise WorkshopDamagedError(self.path, f"version {number} of a job is missing")
        return from_text(body, self.path.name)

    def _deed(self, connection: Connection, job_id: str, number: int) -> str | None:
        return self._cell(connection, job_id, number, "deed")

    def _cell(self, connection: Connection, job_id: str, number: int, column: str) -> str | None:
        versions = tables.job_version
        wanted = select(versions.c[column]).where(versions.c.job_id == job_id, versions.c.number == number)
        row = connection.execute(wanted).first()
        return str(row[0]) if row else None

    def _set_now(self, connection: Connection, job: Job, number: int) -> None:
        values = {"version_now": number, "name": job.batch.name, "changed_at": _stamp()}
        connection.execute(update(tables.job).where(tables.job.c.id == job.batch.id).values(**values))

    def _set(self, connection: Connection, key: str, content: Any) -> None:
        connection.execute(delete(tables.setting).where(tables.setting.c.key == key))
        connection.execute(insert(tables.setting).values(key=key, body=json.dumps(content, ensure_ascii=False)))


def open_workshop(path: Path) -> Workshop:
    """Open the workshop at `path`, making it where there is none.

    Where another window has it, or the place does not let us write, it is opened for reading and
    `why_read_only` says so.

    Raises:
        WorkshopDamagedError: what stands there is no workshop; it is left alone.
        UnknownVersionError: it was written by a newer Orvek; it is left alone.
        WorkshopReadOnlyError: nothing is there, and nothing can be put there.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise WorkshopReadOnlyError(path, reason_of(error)) from error
    lock = WriteLock(path)
    try:
        lock.take()
    except (WorkshopBusyError, WorkshopReadOnlyError) as refused:
        return _open_for_reading(path, refused)
    try:
        engine = _engine(path, writing=True)
        bring_up_to_date(path, engine)
        return Workshop(path, engine, lock, None)
    except (sqlite3.Error, SQLAlchemyError) as error:
        lock.release()
        raise WorkshopDamagedError(path, _plain(error)) from error
    except OrvekError:
        lock.release()
        raise


def _open_for_reading(path: Path, refused: OrvekError) -> Workshop:
    try:
        if version_of(path) is None:
            raise refused
    except sqlite3.Error as error:
        raise WorkshopDamagedError(path, _plain(error)) from error
    return Workshop(path, _engine(path, writing=False), None, str(refused))


def _engine(path: Path, *, writing: bool) -> Engine:
    address = f"{path.absolute().as_uri()}?mode={'rwc' if writing else 'ro'}&uri=true"
    engine = create_engine(f"sqlite+pysqlite:///{address}", connect_args={"timeout": 5.0})

    def prepare(connection: sqlite3.Connection, _record: object) -> None:
        connection.execute("pragma foreign_keys = on")
        if writing:
            connection.execute("pragma journal_mode = wal")
            connection.execute("pragma synchronous = full")

    event.listen(engine, "connect", prepare)
    return engine


def _plain(error: Exception) -> str:
    """What SQLite means, in a maker's words."""
    origin = str(getattr(error, "orig", None) or error)
    for sign, words in {
        "disk is full": "the disk is full",
        "readonly": "this place does not let you write",
        "disk I/O": "the disk reports an error",
        "not a database": "it holds something else",
        "another program": "it belongs to another program",
        "malformed": "it is damaged",
        "locked": "another program holds on to it",
        "unable to open": "it cannot be opened",
    }.items():
        if sign in origin:
            return words
    return origin.splitlines()[0][:120]


def _stamp() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")
