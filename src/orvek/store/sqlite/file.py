"""The workshop as one SQLite file on this machine: one window writes, a second one reads.

Open one with `open_workshop`.
"""

from __future__ import annotations

import sqlite3
import struct
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from sqlalchemy import Connection, Engine

from orvek.errors import CannotWriteError, WorkshopDamagedError, WorkshopReplacedError
from orvek.store.sqlite.backups import BEFORE_RESTORE, back_up, check_whole
from orvek.store.sqlite.connections import REFUSALS
from orvek.store.sqlite.leftovers import COUNTER
from orvek.store.sqlite.lock import WriteLock
from orvek.store.sqlite.plain_words import plain_reason
from orvek.store.sqlite.restoring import overwrite
from orvek.store.sqlite.upgrading import check_version
from orvek.store.workshop import Workshop


class WorkshopFile(Workshop):
    """An open workshop file. Make one with `open_workshop`."""

    def __init__(
        self,
        path: Path,
        engine: Engine,
        lock: WriteLock | None,
        why_read_only: str | None,
        notices: tuple[str, ...] = (),
    ) -> None:
        self.path = path
        self.why_read_only = why_read_only
        self.notices = notices
        self._engine = engine
        self._lock = lock
        self._counter = self._counter_now()

    def change_count(self) -> int:
        with self._reading() as connection:
            return int(connection.exec_driver_sql("pragma data_version").scalar_one())

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
            with self._engine.connect() as source, closing(sqlite3.connect(path)) as target:
                own: sqlite3.Connection = source.connection.driver_connection  # type: ignore[assignment]
                own.backup(target)
            path.chmod(0o600)
        except (OSError, *REFUSALS) as error:
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
            self._engine.dispose()
            with self._reading():
                pass  # a backup of an older Orvek changes its journal here
            self._counter = self._counter_now()
        return before

    def close(self) -> None:
        self._engine.dispose()
        if self._lock is not None:
            self._lock.release()
            self._lock = None

    @contextmanager
    def _reading(self) -> Iterator[Connection]:
        try:
            with self._engine.connect() as connection:
                yield connection
        except REFUSALS as error:
            raise WorkshopDamagedError(self.path, plain_reason(error)) from error

    @contextmanager
    def _writing(self) -> Iterator[Connection]:
        if self.why_read_only is not None:
            raise CannotWriteError(self.path, "it is open for reading only")
        self.check_file()
        try:
            with self._engine.begin() as connection:
                yield connection
        except REFUSALS as error:
            raise CannotWriteError(self.path, plain_reason(error)) from error
        finally:
            self._counter = self._counter_now()

    def _counter_now(self) -> int | None:
        head = self._lock.head() if self._lock is not None else b""
        return int(struct.unpack(">I", head[COUNTER])[0]) if len(head) >= 28 else None
