"""Results as figures and keys: `told(value)` gives a line for each part of a result, figures to four digits.

Sentences in it stand between marks (`prose`), so that `hold` keeps their figures and not their words.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from enum import Enum
from typing import Any

import numpy as np
from msgspec import Struct
from pydantic import BaseModel

from orvek.planning import Plan
from orvek.planning.working import Figure
from tests.jobs.recorded_text import prose

_LEFT_OUT = {"plan", "job", "shop", "planner", "question"}  # what was asked; it is the same for all answers
_UNITS = {"mm", "g", "ml", "c", "min", "h", "pct", "deg", "bar", "s", "kpa"}
_DEEP, _MANY, _KEY_WORDS = 7, 12, 3


def told(value: object, name: str = "") -> Iterator[str]:
    """What each part of a result holds itself in a line of its own, the parts within it after it."""
    yield from _told(value, name, 0)


def _told(value: object, name: str, depth: int) -> Iterator[str]:
    if isinstance(value, Plan) or depth > _DEEP:
        return
    if _is_plain(value):
        yield f"{name} {_plain(value, name)}".strip()
        return
    parts = list(_parts(value))
    own = [_plain(inner, part) for part, inner in parts if _is_plain(inner)]
    if own or not callable(value):
        head = type(value).__name__ if isinstance(value, Struct | BaseModel) else name
        yield " ".join([head, *own]).strip()
    for part, inner in parts:
        if not _is_plain(inner):
            yield from _told(inner, part, depth + 1)


def _is_plain(value: object) -> bool:
    if isinstance(value, tuple | list | frozenset):
        return all(isinstance(one, float | int | str | None) for one in value)
    return value is None or isinstance(value, float | int | str | date | Enum | Figure | np.ndarray)


def _plain(value: object, name: str) -> str:
    match value:
        case Figure():
            return " ".join([_number(value.value), *(_number(term.value) for term in value.terms)])
        case bool() | None | Enum() | date():
            return str(value.value if isinstance(value, Enum) else value)
        case float() | int():
            unit = name.rsplit("_", 1)[-1]
            return f"{_number(value)} {unit}" if unit in _UNITS and "_" in name else _number(value)
        case str():
            is_key = value[:1].islower() and len(value.split()) <= _KEY_WORDS and value[-1:].isalnum()
            return value if is_key else prose(value)
        case np.ndarray():
            return f"{value.shape} {_summed(value)}"
        case tuple() | list() | frozenset():
            return _sequence(sorted(value, key=str) if isinstance(value, frozenset) else value)
    raise TypeError(value)


def _sequence(values: Iterable[Any]) -> str:
    found = list(values)
    if len(found) > _MANY and all(isinstance(one, float | int) for one in found):
        return f"({len(found)}) {_summed(np.array(found, float))}"
    return f"({', '.join(_plain(one, '') for one in found)})"


def _summed(values: Any) -> str:
    return " ".join(_number(float(of(values))) for of in (np.nanmin, np.nanmean, np.nanmax)) if values.size else "-"


def _parts(value: Any) -> Iterator[tuple[str, Any]]:
    if isinstance(value, BaseModel):
        yield from ((key, inner) for key, inner in value if inner != type(value).model_fields[key].default)
    elif isinstance(value, Struct):
        yield from ((name, getattr(value, name)) for name in value.__struct_fields__ if name not in _LEFT_OUT)
        yield from ((name, getattr(value, name)) for name in _properties(type(value)) if name not in _LEFT_OUT)
    elif isinstance(value, Mapping):
        yield from ((str(key), inner) for key, inner in value.items())
    elif isinstance(value, tuple | list | frozenset):
        listed = sorted(value, key=str) if isinstance(value, frozenset) else value
        yield from ((str(number), inner) for number, inner in enumerate(listed))


def _properties(kind: type) -> Iterator[str]:
    """What a result works out from what it holds; shown figures are told elsewhere."""
    for name, value in vars(kind).items():
        if isinstance(value, property) and not name.startswith("_"):
            yield name


def _number(value: float) -> str:
    if isinstance(value, bool) or not math.isfinite(value):
        return str(value)
    return f"{value:.4g}" if abs(value) > 1e-9 else "0"
