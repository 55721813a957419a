"""Only one window writes to a workshop: locks that the operating system lets go when a process dies.

Two files are locked: a small one beside the workshop, and the workshop itself, so that neither a second name of the
file (a link) nor a removed lock file lets a second window write.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import os
import stat
from pathlib import Path

from orvek.errors import WorkshopBusyError, WorkshopReadOnlyError
from orvek.files import reason_of

_PRIVATE = 0o600


class WriteLock:
    """Held from `take` to `release`; the file beside the workshop stays, empty and harmless.

    The handle of the workshop stays open as long as the lock is held: closing any handle of a file lets go SQLite's
    own locks on it, and `head` must be able to read without opening it again.
    """

    def __init__(self, path: Path) -> None:
        self._workshop = path
        self._handles: list[int] = []

    def take(self) -> None:
        """Take the lock, making an empty workshop file, private to the maker, where there is none.

        Raises:
            WorkshopBusyError: another window has it.
            WorkshopReadOnlyError: no lock can be put there.
        """
        try:
            for path in (self._workshop.with_name(self._workshop.name + ".lock"), self._workshop):
                self._handles.append(self._locked(path))
        except (WorkshopBusyError, WorkshopReadOnlyError):
            self.release()
            raise
        _keep_private(self._handles[-1])

    def release(self) -> None:
        """Let another window write."""
        while self._handles:
            os.close(self._handles.pop())

    def head(self) -> bytes:
        """The first 100 bytes of the workshop file that was locked, as they are now."""
        return os.pread(self._handles[-1], 100, 0)

    def is_still(self, path: Path) -> bool:
        """Whether the file at `path` is still the one that was locked."""
        try:
            there = path.stat()
        except OSError:
            return False
        return os.path.samestat(there, os.fstat(self._handles[-1]))

    def _locked(self, path: Path) -> int:
        try:
            handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC | os.O_NONBLOCK, _PRIVATE)
        except OSError as error:
            raise WorkshopReadOnlyError(self._workshop, reason_of(error)) from error
        try:
            if not stat.S_ISREG(os.fstat(handle).st_mode):
                raise WorkshopReadOnlyError(self._workshop, "it is no ordinary file")
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            os.close(handle)
            if error.errno in {errno.EWOULDBLOCK, errno.EACCES}:
                raise WorkshopBusyError(self._workshop) from error
            raise WorkshopReadOnlyError(self._workshop, reason_of(error)) from error
        except WorkshopReadOnlyError:
            os.close(handle)
            raise
        return handle


def _keep_private(handle: int) -> None:
    """Take the rights of others away from a workshop of the maker's own, unless a group was let in on purpose."""
    now = os.fstat(handle)
    if now.st_uid == os.geteuid() and not now.st_mode & stat.S_IWGRP and now.st_mode & 0o077:
        with contextlib.suppress(OSError):
            os.fchmod(handle, _PRIVATE)
