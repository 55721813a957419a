"""Reading and writing files so that a maker never finds half of one.

`write_atomically` writes beside the target and renames; `read_text` turns every failure into a sentence.
"""

from __future__ import annotations

import contextlib
import errno
import os
import tempfile
from pathlib import Path

from orvek.errors import CannotReadError, CannotWriteError

LARGEST_TEXT_BYTES = 16 * 1024 * 1024

_REASONS = {
    errno.ENOSPC: "the disk is full",
    errno.EDQUOT: "your disk quota is used up",
    errno.EFBIG: "the file would be larger than is allowed here",
    errno.EROFS: "the disk is read-only",
    errno.EACCES: "this place does not let you in",
    errno.EPERM: "this place does not let you write",
    errno.ENOENT: "there is no such place",
    errno.ENOTDIR: "part of its path is a file, not a folder",
    errno.EISDIR: "it is a folder",
    errno.EIO: "the disk reports an error",
}


def reason_of(error: OSError) -> str:
    """Say in a few plain words why the operating system refused."""
    return _REASONS.get(error.errno or 0) or (error.strerror or "unknown reason").lower()


def write_atomically(path: Path, content: bytes) -> None:
    """Put `content` at `path`, whole or not at all.

    The bytes go to a new file in the same folder, are flushed to the disk and renamed over the target,
    so a full disk or a killed process leaves the old file as it was.

    Raises:
        CannotWriteError: with the reason; no partial file is left behind.
    """
    try:
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".part")
    except OSError as error:
        raise CannotWriteError(path, reason_of(error)) from error
    try:
        with os.fdopen(handle, "wb") as part:
            part.write(content)
            part.flush()
            os.fsync(part.fileno())
        Path(name).chmod(path.stat().st_mode & 0o777 if path.exists() else 0o644)
        Path(name).replace(path)
    except OSError as error:
        with contextlib.suppress(OSError):
            Path(name).unlink()
        raise CannotWriteError(path, reason_of(error)) from error


def read_text(path: Path) -> str:
    """Read a UTF-8 text file of at most 16 MiB.

    Raises:
        CannotReadError: it is missing, a folder, too large or not UTF-8 text.
    """
    try:
        if path.stat().st_size > LARGEST_TEXT_BYTES:
            raise CannotReadError(path, "it is far larger than any job")
        return path.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError as error:
        raise CannotReadError(path, "it is not text (UTF-8)") from error
    except OSError as error:
        raise CannotReadError(path, reason_of(error)) from error
