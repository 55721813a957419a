"""Reading and writing files so that a maker never finds half of one.

`write_atomically` writes beside the target and renames; `read_text` turns every failure into a sentence;
`safe_name` makes a file's name of anything that a maker calls a thing.
"""

from __future__ import annotations

import contextlib
import errno
import glob
import os
import stat
import tempfile
import time
import unicodedata
from pathlib import Path

from orvek.errors import CannotReadError, CannotWriteError, NotUnderstoodError

JOB_SUFFIX = ".orvek.json"
LARGEST_TEXT_BYTES = 16 * 1024 * 1024
LARGEST_JOB_BYTES = 400 * 1024 * 1024  # a job file carries its pictures, as text a third larger
LONGEST_NAME_BYTES = 120  # leaves room for endings; file systems take 255
_OLD_PART_S = 3600.0

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
    errno.ENAMETOOLONG: "the name is too long",
}


def reason_of(error: OSError) -> str:
    """Say in a few plain words why the operating system refused."""
    return _REASONS.get(error.errno or 0) or (error.strerror or "unknown reason").lower()


def write_atomically(path: Path, content: bytes) -> None:
    """Put `content` at `path`, whole or not at all.

    The bytes go to a new file in the same folder, are flushed to the disk and renamed over the target,
    so a full disk or a killed process leaves the old file as it was. A new file gets the rights that the maker's
    umask says; an old one keeps its own. What is no ordinary file (a printer, a pipe) is written to, not replaced.

    Raises:
        CannotWriteError: with the reason; no partial file is left behind.
    """
    if _is_special(path):
        _write_straight(path, content)
        return
    try:
        _sweep(path)
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".part")
    except (OSError, ValueError) as error:
        raise CannotWriteError(
            path, reason_of(error) if isinstance(error, OSError) else "it is no usable name"
        ) from error
    try:
        with os.fdopen(handle, "wb") as part:
            part.write(content)
            part.flush()
            os.fsync(part.fileno())
        Path(name).chmod(path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask())
        Path(name).replace(path)
    except OSError as error:
        with contextlib.suppress(OSError):
            Path(name).unlink()
        raise CannotWriteError(path, reason_of(error)) from error


def read_text(path: Path, most: int = LARGEST_TEXT_BYTES) -> str:
    """Read a UTF-8 text file of at most `most` bytes.

    Raises:
        CannotReadError: it is missing, a folder, no ordinary file, too large or not UTF-8 text.
    """
    try:
        return read_bytes(path, most).decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise CannotReadError(path, "it is not text (UTF-8)") from error


def read_bytes(path: Path, most: int) -> bytes:
    """Read an ordinary file of at most `most` bytes.

    Raises:
        CannotReadError: it is missing, a folder, a device or pipe, or larger.
    """
    try:
        handle = os.open(path, os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
        with os.fdopen(handle, "rb") as file:
            if not stat.S_ISREG(os.fstat(handle).st_mode):
                raise CannotReadError(path, "it is no ordinary file")
            content = file.read(most + 1)
    except (OSError, ValueError) as error:
        reason = reason_of(error) if isinstance(error, OSError) else "there is no such place"
        raise CannotReadError(path, reason) from error
    if len(content) > most:
        raise CannotReadError(path, "it is far larger than any that Orvek writes")
    return content


def is_private(folder: Path) -> bool:
    """Whether a folder is the maker's own and nobody else may write into it; it is made where there is none."""
    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        there = folder.lstat()
        if stat.S_ISDIR(there.st_mode) and there.st_uid == os.geteuid() and there.st_mode & 0o077:
            folder.chmod(0o700)
            there = folder.lstat()
    except OSError:
        return False
    return stat.S_ISDIR(there.st_mode) and there.st_uid == os.geteuid() and not there.st_mode & 0o077


def ending_of(path: Path, *known: str) -> str:
    """How a file's name ends, in small letters, where something can be written that ends so.

    Raises:
        NotUnderstoodError: it ends otherwise.
    """
    ending = path.suffix.lower()
    if ending not in known:
        raise NotUnderstoodError(path.name, f"a name that ends in {' or '.join(known)}")
    return ending


def safe_name(name: str, otherwise: str = "job") -> str:
    """A maker's name for a thing as a file's name: no folders, no control characters, not hidden, not too long."""
    kept = "".join(letter if letter.isalnum() or letter in " -_.,()'" else "-" for letter in name)
    kept = unicodedata.normalize("NFC", kept).strip(" .")
    while len(kept.encode()) > LONGEST_NAME_BYTES:
        kept = kept[:-1].rstrip(" .")
    return kept if any(letter.isalnum() for letter in kept) else otherwise


def _is_special(path: Path) -> bool:
    try:
        mode = path.stat().st_mode
    except (OSError, ValueError):
        return False
    return not (stat.S_ISREG(mode) or stat.S_ISDIR(mode))


def _write_straight(path: Path, content: bytes) -> None:
    try:
        with os.fdopen(os.open(path, os.O_WRONLY | os.O_NONBLOCK | os.O_CLOEXEC), "wb") as target:
            target.write(content)
    except OSError as error:
        reason = "nobody reads from it" if error.errno == errno.ENXIO else reason_of(error)
        raise CannotWriteError(path, reason) from error


def _sweep(path: Path) -> None:
    """Remove what a killed process left of an earlier try to write this file."""
    now = time.time()
    for part in path.parent.glob(f".{glob.escape(path.name)}.*.part"):
        with contextlib.suppress(OSError):
            if now - part.stat().st_mtime > _OLD_PART_S:
                part.unlink()


def _umask() -> int:
    """The maker's umask; it can only be read by setting it."""
    now = os.umask(0o077)
    os.umask(now)
    return now
