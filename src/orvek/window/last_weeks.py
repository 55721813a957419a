"""The last schedule of a workshop, kept beside what else the machine can make anew: `keep_weeks`, `last_weeks`."""

from __future__ import annotations

import hashlib
import logging
from datetime import datetime
from pathlib import Path

from orvek.files import read_bytes, write_atomically
from orvek.planning import Plan
from orvek.planning.timetable.last_known import from_bytes, to_bytes
from orvek.planning.timetable.weeks import Weeks

_MOST_BYTES = 4_000_000
_LOG = logging.getLogger(__name__)


def keep_weeks(workshop: Path, weeks: Weeks) -> None:
    """Keep a workshop's schedule for the next start; where that cannot be, the next start does without."""
    try:
        file = _file(workshop)
        file.parent.mkdir(parents=True, exist_ok=True)
        write_atomically(file, to_bytes(weeks))
    except Exception:
        _LOG.warning("the schedule could not be kept for the next start", exc_info=True)


def last_weeks(workshop: Path, plan: Plan) -> Weeks | None:
    """The schedule that was kept last, from now on; None where there is none that can be read."""
    try:
        return from_bytes(read_bytes(_file(workshop), _MOST_BYTES), plan, datetime.now())
    except Exception:  # it is no more than a first look
        return None


def _file(workshop: Path) -> Path:
    import platformdirs

    name = hashlib.sha256(str(workshop.resolve()).encode()).hexdigest()[:20]
    return platformdirs.user_cache_path("orvek", appauthor=False) / "weeks" / name
