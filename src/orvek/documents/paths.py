"""The place of a value in a job, written so that a misspelt field is found before the program runs.

>>> path_to(JOB.pour.conditions.room_c)
('pour', 'conditions', 'room_c')
>>> path_to(present(JOB.pen).barrels[1].trim_mm)
('pen', 'barrels', 1, 'trim_mm')

`JOB` stands for any job. A type checker takes it for one, so that it knows every field; it holds only the way there.
"""

from __future__ import annotations

from typing import TypeVar, cast

from orvek.documents.job.job import Job

T = TypeVar("T")
FieldPath = tuple[str | int, ...]


class _Place:
    """What remembers by which fields and indices it was reached."""

    __slots__ = ("_path",)

    def __init__(self, path: FieldPath = ()) -> None:
        self._path = path

    def __getattr__(self, name: str) -> _Place:
        if name.startswith("__"):
            raise AttributeError(name)
        return _Place((*self._path, name))

    def __getitem__(self, index: int) -> _Place:
        return _Place((*self._path, index))


JOB = cast(Job, _Place())


def path_to(place: object) -> FieldPath:
    """The path of a place that was reached from `JOB`."""
    assert isinstance(place, _Place)
    return place._path


def present(place: T | None) -> T:
    """A place that may be empty in a job, where it is not."""
    return cast(T, place)


def as_kind(kind: type[T], place: object) -> T:  # noqa: ARG001 - what a type checker takes it for
    """A step's place, where the step is of that kind."""
    return cast(T, place)
