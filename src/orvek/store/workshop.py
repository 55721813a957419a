"""The workshop as the program uses it, wherever it is kept: jobs with their histories, shelves, albums, preferences.

Every deed is committed as it is made, so there is no save to forget; a killed process loses at most the deed in
hand. Undo and redo move along the committed history and outlive the window. Where and how it is kept is a kind of
its own (`sqlite/`): it gives connections to read and to write by, and the sentences where they fail.
"""

from __future__ import annotations

import json
from abc import ABC, abstractmethod
from collections.abc import Callable
from contextlib import AbstractContextManager
from datetime import UTC, datetime
from pathlib import Path

from msgspec import Struct
from sqlalchemy import Connection, delete, insert, select, update

from orvek.documents import Contents, Job, PhotoStep, Shop, from_text, to_text
from orvek.errors import NothingToDoError, OrvekError, WorkshopDamagedError
from orvek.store.contents import drop_old_albums, drop_unnamed, read_album, read_contents, write_album, write_contents
from orvek.store.shop_rows import ShopFound, put_setting, read_shop, write_shop
from orvek.store.tables import JOB, JOB_VERSION, SETTING


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


class Workshop(ABC):
    """An open workshop.

    Attributes:
        path: where it lies.
        why_read_only: why nothing can be recorded here; None where it can.
        notices: what was found and put right when it was opened.
    """

    path: Path
    why_read_only: str | None
    notices: tuple[str, ...]

    @abstractmethod
    def _reading(self) -> AbstractContextManager[Connection]:
        """A connection whose reads are of one moment.

        Raises:
            WorkshopDamagedError: it cannot be read.
        """

    @abstractmethod
    def _writing(self) -> AbstractContextManager[Connection]:
        """A connection whose changes are committed together at the end, or not at all.

        Raises:
            CannotWriteError: with the reason; the workshop holds what it held.
        """

    @abstractmethod
    def change_count(self) -> int:
        """A number that changes when another window has written to the workshop."""

    @abstractmethod
    def close(self) -> None:
        """Let it go, and let another window write."""

    @property
    def is_writable(self) -> bool:
        """Whether deeds can be recorded here."""
        return self.why_read_only is None

    # -- jobs ------------------------------------------------------------------------------------------------

    def jobs(self) -> tuple[JobEntry, ...]:
        """All jobs, the one changed last first."""
        entries = select(JOB.c.id, JOB.c.name, JOB.c.changed_at).order_by(JOB.c.changed_at.desc(), JOB.c.id)
        with self._reading() as connection:
            return tuple(JobEntry(*row) for row in connection.execute(entries))

    def job(self, job_id: str, *, pictures: bool = True) -> Job:
        """The job as it stands now; without `pictures` its pictures are empty: enough to plan it in time.

        Raises:
            NothingToDoError: there is no such job here.
        """
        with self._reading() as connection:
            return self._version(connection, job_id, _now(connection, job_id), pictures=pictures)

    def open_job(self, job_id: str, usable: Callable[[Job], bool] = lambda _: True) -> OpenedJob:
        """The job as it stands now, or the last version of it that can be read and used.

        Raises:
            NothingToDoError: there is no such job here.
            WorkshopDamagedError: no version of it can be read.
        """
        with self._reading() as connection:
            now = _now(connection, job_id)
            name = str(connection.scalar(select(JOB.c.name).where(JOB.c.id == job_id)))
            for number in _numbers(connection, job_id, now):
                job = self._readable(connection, job_id, number)
                if job is not None and usable(job):
                    return OpenedJob(job, _older_words(name, now - number) if number != now else None)
        raise WorkshopDamagedError(self.path, f"no version of “{name[:60]}” can be read")

    def record(self, job: Job, deed: str) -> None:
        """Commit a job as the newest version of itself; versions that were undone are dropped.

        Raises:
            CannotWriteError: with the reason; the workshop still holds what it held.
        """
        job_id, at, contents = job.batch.id, _stamp(), Contents()
        body = to_text(job, contents)
        with self._writing() as connection:
            now = connection.scalar(select(JOB.c.version_now).where(JOB.c.id == job_id))
            number = 0 if now is None else now + 1
            if now is None:
                connection.execute(insert(JOB).values(id=job_id, name=job.batch.name, version_now=0, changed_at=at))
            undone = JOB_VERSION.c.job_id == job_id, JOB_VERSION.c.number >= number
            connection.execute(delete(JOB_VERSION).where(*undone))
            write_contents(connection, contents)
            version = {"job_id": job_id, "number": number, "deed": deed[:120], "body": body, "made_at": at}
            connection.execute(insert(JOB_VERSION).values(version))
            _set_now(connection, job, number)

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
            now = _now(connection, job_id)
            undo = _deed(connection, job_id, now) if now > 0 else None
            return HistoryState(undo, _deed(connection, job_id, now + 1))

    def remove_job(self, job_id: str) -> None:
        """Take a job and its history out of the workshop."""
        with self._writing() as connection:
            connection.execute(delete(JOB).where(JOB.c.id == job_id))
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
            CannotWriteError: with the reason; the workshop still holds what it held.
        """
        with self._writing() as connection:
            write_shop(connection, shop)

    def keep_album(self, album: PhotoStep) -> str:
        """Keep a piece's photos as they are; returns the name under which they are found.

        Raises:
            CannotWriteError: with the reason; the workshop still holds what it held.
        """
        with self._writing() as connection:
            return write_album(connection, album)

    def album(self, name: str) -> PhotoStep | None:
        """A piece's photos by their name; None where there are none."""
        if not name:
            return None
        with self._reading() as connection:
            return read_album(connection, name)

    def let_go(self) -> None:
        """Let go of photos that no piece on the shelf has any more, as the window closes.

        Raises:
            CannotWriteError: with the reason; the workshop still holds what it held.
        """
        with self._writing() as connection:
            drop_old_albums(connection)

    def last_open(self) -> str | None:
        """The id of the job that was open last, if it is still here."""
        with self._reading() as connection:
            body = connection.scalar(select(SETTING.c.body).where(SETTING.c.key == "last_open"))
            try:
                job_id = str(json.loads(body)) if body else None
            except ValueError:
                return None
            return connection.scalar(select(JOB.c.id).where(JOB.c.id == job_id))

    def set_last_open(self, job_id: str) -> None:
        """Remember which job was open last."""
        with self._writing() as connection:
            put_setting(connection, "last_open", job_id)

    # -- versions --------------------------------------------------------------------------------------------

    def _step(self, job_id: str, by: int, verb: str) -> Job:
        """One version on in a direction; versions that cannot be read are passed over."""
        with self._writing() as connection:
            number = _now(connection, job_id) + by
            while number >= 0 and _deed(connection, job_id, number) is not None:
                job = self._readable(connection, job_id, number)
                if job is not None:
                    _set_now(connection, job, number)
                    return job
                number += by
        raise NothingToDoError(verb, "a change")

    def _readable(self, connection: Connection, job_id: str, number: int) -> Job | None:
        try:
            job = self._version(connection, job_id, number)
        except OrvekError:
            return None
        return job if job.batch.id == job_id else None

    def _version(self, connection: Connection, job_id: str, number: int, *, pictures: bool = True) -> Job:
        row = _version_row(connection, job_id, number)
        if row is None:
            raise WorkshopDamagedError(self.path, f"version {number} of a job is missing")
        _, body = row
        return from_text(body, self.path.name, read_contents(connection, body) if pictures else Contents())


def _now(connection: Connection, job_id: str) -> int:
    """The place in a job's history."""
    now = connection.scalar(select(JOB.c.version_now).where(JOB.c.id == job_id))
    if now is None:
        raise NothingToDoError("Opening it", "a job of that name in this workshop")
    return int(now)


def _set_now(connection: Connection, job: Job, number: int) -> None:
    values = {"version_now": number, "name": job.batch.name, "changed_at": _stamp()}
    connection.execute(update(JOB).where(JOB.c.id == job.batch.id).values(values))


def _numbers(connection: Connection, job_id: str, now: int) -> list[int]:
    """Numbers of the versions kept, the present one first, then older ones, then those that were undone."""
    kept = sorted(connection.scalars(select(JOB_VERSION.c.number).where(JOB_VERSION.c.job_id == job_id)), reverse=True)
    return [n for n in kept if n <= now] + [n for n in reversed(kept) if n > now]


def _deed(connection: Connection, job_id: str, number: int) -> str | None:
    row = _version_row(connection, job_id, number)
    return row[0] if row else None


def _version_row(connection: Connection, job_id: str, number: int) -> tuple[str, str] | None:
    of_it = JOB_VERSION.c.job_id == job_id, JOB_VERSION.c.number == number
    row = connection.execute(select(JOB_VERSION.c.deed, JOB_VERSION.c.body).where(*of_it)).one_or_none()
    return None if row is None else (str(row.deed), str(row.body))


def _older_words(name: str, back: int) -> str:
    shown = name if len(name) <= 60 else name[:59] + "…"
    steps = "the last change" if back == 1 else f"the last {back} changes"
    if back < 0:
        steps = "what was kept last"
    return f"“{shown}” is open as it was before {steps}, which could not be read. Nothing was removed from the file."


def _stamp() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")
