"""Only one window writes to a workshop: a lock that the operating system lets go when a process dies."""

from __future__ import annotations

import errno
import fcntl
import os
from pathlib import Path

from orvek.errors import WorkshopBusyError, WorkshopReadOnlyError
from orvek.files import reason_of


class WriteLock:
    """Held from `take` to `release`; the file beside the workshop stays, empty and harmless."""

    def __init__(self, path: Path) -> None:
        self._workshop = path
        self._path = path.with_name(path.name + ".lock")
        self._handle: int | None = None

    def take(self) -> None:
        """Take the lock.

        Raises:
            WorkshopBusyError: another window has it.
            WorkshopReadOnlyError: no lock can be put there.
        """
        try:
            handle = os.open(self._path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o644)
        except OSError as error:
            raise WorkshopReadOnlyError(self._workshop, reason_of(error)) from error
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            os.close(handle)
            if error.errno in {errno.EWOULDBLOCK, errno.EACCES}:
                raise WorkshopBusyError(self._workshop) from error
            raise WorkshopReadOnlyError(self._workshop, reason_of(error)) from error
        self._handle = handle

    def release(self) -> None:
        """Let another window write."""
        if self._handle is not None:
            os.close(self._handle)
            self._handle = None
