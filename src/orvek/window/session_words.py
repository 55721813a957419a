"""What the session says of the file it writes to, and the names it gives."""

from __future__ import annotations

from collections.abc import Collection
from pathlib import Path

from orvek.errors import CannotWriteError, WorkshopReplacedError


def unsaved_words(count: int, error: CannotWriteError) -> str:
    """That so many changes are not written yet, and why."""
    changes = "Your last change is" if count == 1 else f"Your last {count} changes are"
    return f"{changes} not kept yet: {error.reason}. Nothing is lost while this window stays open."


def lost_words(path: Path, error: WorkshopReplacedError) -> str:
    """That the workshop's file is gone or another one, and what to do."""
    return (
        f"{path.name}: {error.reason}. Nothing more is written to it. What is in this window is kept "
        "here: save it under a new name."
    )


def free_name(wanted: str, taken: Collection[str]) -> str:
    """A name that nothing else has: the one that is wanted, or with a number behind it.

    >>> free_name("New job", {"New job", "New job 2"})
    'New job 3'
    """
    names = (wanted, *(f"{wanted} {number}" for number in range(2, len(taken) + 3)))
    return next(one for one in names if one not in taken)
