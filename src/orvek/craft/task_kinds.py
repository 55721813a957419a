"""Kinds of tasks at the bench: how long the hands take, at which machine, whether it is loud."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from msgspec import Struct


class TaskKind(Struct, frozen=True):
    """One kind: minutes a piece, or a batch where `each` is false; its machine, "" for the bench."""

    key: str
    words: str
    minutes: float
    each: bool
    place: str = ""
    loud: bool = False


@cache
def task_kinds() -> tuple[TaskKind, ...]:
    """All that ship (data/tasks.json)."""
    text = resources.files("orvek.data").joinpath("tasks.json").read_text(encoding="utf-8")
    return tuple(TaskKind(**one) for one in json.loads(text)["kinds"])


def task_kind(key: str) -> TaskKind:
    """The kind of this key.

    Raises:
        StopIteration: there is none.
    """
    return next(one for one in task_kinds() if one.key == key)
