"""The log: what went wrong inside Orvek, kept in a file of the maker's own, rotated, never sent anywhere."""

from __future__ import annotations

import atexit
import contextlib
import logging
import math
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


def watch_for_crashes() -> str:
    """Keep a mark while the program runs, and write where it was if the interpreter itself should crash.

    Returns:
        A sentence where the last run left its mark behind, so was killed or crashed; else an empty one.
    """
    import faulthandler

    path = log_path()
    mark, crash = path.with_name(f"running-{os.getpid()}"), path.with_name("crash.log")
    with contextlib.suppress(OSError):
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        left = [one for one in path.parent.glob("running-*") if not _is_alive(one.name.partition("-")[2])]
        begun_s = max((one.stat().st_mtime for one in left), default=math.inf)
        for one in left:
            one.unlink(missing_ok=True)
        mark.touch(mode=0o600)
        atexit.register(end_well)
        told = crash.exists() and crash.stat().st_mtime >= begun_s
        faulthandler.enable(crash.open("a", encoding="utf-8"))
        if left:
            where = f"What happened is in {crash}." if told else f"The log is in {path.parent}."
            return f"Orvek did not end as it should the last time. Nothing that you changed was lost. {where}"
    return ""


def end_well() -> None:
    """The program ends as it should: take the mark away, even where the interpreter is left in a hurry."""
    with contextlib.suppress(OSError):
        log_path().with_name(f"running-{os.getpid()}").unlink(missing_ok=True)


def _is_alive(pid: str) -> bool:
    """Whether a process of this number runs; another that got the same number by chance counts too."""
    return pid.isdecimal() and Path(f"/proc/{pid}").exists()


def log_tail(most_bytes: int = 30_000) -> str:
    """The end of the log, as text; empty where there is none."""
    try:
        content = log_path().read_bytes()
    except OSError:
        return ""
    return content[-most_bytes:].decode("utf-8", "replace")
