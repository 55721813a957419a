"""What was shown last of a workshop, for the next start to begin with: `keep`, `kept`.

It stands beside what else the machine can make anew. Nothing is lost with it: where it cannot be written or read, the
next start does without.
"""

from __future__ import annotations

import hashlib
import logging
from pathlib import Path
from typing import Literal

from orvek.errors import OrvekError
from orvek.files import read_bytes, write_atomically

What = Literal["weeks", "looks"]
_MOST_BYTES = 8_000_000
_LOG = logging.getLogger(__name__)


def keep(workshop: Path, what: What, content: bytes) -> None:
    """Keep something of a workshop for the next start."""
    file = _file(workshop, what)
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        write_atomically(file, content)
    except (OSError, OrvekError):
        _LOG.warning("%s could not be kept for the next start", what, exc_info=True)


def kept(workshop: Path, what: What) -> bytes:
    """What was kept last; nothing where there is none that can be read."""
    try:
        return read_bytes(_file(workshop, what), _MOST_BYTES)
    except OrvekError:
        return b""


def _file(workshop: Path, what: What) -> Path:
    import platformdirs

    name = hashlib.sha256(str(workshop.resolve()).encode()).hexdigest()[:20]
    return platformdirs.user_cache_path("orvek", appauthor=False) / "last" / f"{name}.{what}"
