"""A value put at its place in a job."""

from typing import Any

from orvek.documents.base import Document
from orvek.documents.job.job import Job
from orvek.documents.paths import FieldPath
from orvek.errors import BadFieldError


def set_value(job: Job, path: FieldPath, value: Any) -> Job:
    """Put a value at a path. Everything on the way is validated and made anew.

    Raises:
        BadFieldError: the value is not allowed there, or there is no such place.
    """
    changed = _replaced(job, path, value)
    assert isinstance(changed, Job)
    return changed


def is_set(job: Job, path: FieldPath) -> bool:
    """Whether a job holds a value of its own at a path, another than a new one begins with."""
    found: Any = job
    for piece in path[:-1]:
        if found is None or (isinstance(piece, int) and piece >= len(found)):
            return False
        found = found[piece] if isinstance(piece, int) else getattr(found, piece)
    name = path[-1]
    if not isinstance(found, Document) or not isinstance(name, str):
        return False
    return not found.is_usual(name)


def _replaced(found: Any, path: FieldPath, value: Any) -> Any:
    if not path:
        return value
    here, rest = path[0], path[1:]
    if isinstance(here, int) and isinstance(found, tuple) and 0 <= here < len(found):
        return (*found[:here], _replaced(found[here], rest, value), *found[here + 1 :])
    if isinstance(here, str) and isinstance(found, Document) and here in type(found).model_fields:
        return found.with_(**{here: _replaced(getattr(found, here), rest, value)})
    raise BadFieldError(str(here), "is not a place in a job")
