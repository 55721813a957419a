"""The log: what went wrong inside Orvek, kept in a file of the maker's own, rotated, never sent anywhere."""

from __future__ import annotations

import contextlib
import logging
import os
from logging.handlers import RotatingFileHandler
from pathlib import Path

_MOST_BYTES, _KEPT = 256 * 1024, 3


def log_path() -> Path:
    """Where the log lies: in the XDG state folder."""
    import platformdirs

    return platformdirs.user_log_path("orvek", appauthor=False) / "orvek.log"


def keep_log() -> None:
    """Write warnings and errors of Orvek to the log from now on; where it cannot be written, go without."""
    logger = logging.getLogger("orvek")
    if logger.handlers:
        return
    path = log_path()
    with contextlib.suppress(OSError):
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        os.close(os.open(path, os.O_CREAT | os.O_APPEND | os.O_WRONLY, 0o600))
        handler = RotatingFileHandler(path, maxBytes=_MOST_BYTES, backupCount=_KEPT, encoding="utf-8", delay=True)
        handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(name)s: %(message)s"))
        logger.addHandler(handler)
    logger.addHandler(logging.NullHandler())  # a log that cannot be written never speaks on the terminal instead
    logging.raiseExceptions = False


def log_tail(most_bytes: int = 30_000) -> str:
    """The end of the log, as text; empty where there is none."""
    try:
        content = log_path().read_bytes()
    except OSError:
        return ""
    return content[-most_bytes:].decode("utf-8", "replace")
