"""What SQLite means when it refuses, in a maker's words."""

from __future__ import annotations

_SIGNS = {
    "disk is full": "the disk is full",
    "readonly": "this place does not let you write",
    "disk I/O": "the disk reports an error",
    "not a database": "it holds something else",
    "another program": "it belongs to another program",
    "malformed": "it is damaged",
    "locked": "another program holds on to it",
    "unable to open": "it cannot be opened",
}


def plain_reason(error: Exception) -> str:
    """Why it could not be done, in a few words."""
    origin = str(getattr(error, "orig", None) or error)
    found = next((words for sign, words in _SIGNS.items() if sign in origin), None)
    return found or (origin.splitlines() or ["unknown reason"])[0][:120]
