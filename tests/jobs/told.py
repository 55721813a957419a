"""Results as text: `told(value)` writes whatever a result holds, figures to four digits, so that a change shows."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from datetime import date
from enum import Enum
from typing import Any

import numpy as np
from msgspec import Struct
from pydantic import BaseModel

from orvek.planning import Plan
from orvek.planning.working import Figure

_LEFT_OUT = {"plan", "job", "shop", "planner", "question"}  # what was asked; it is the same for all answers
_DEEP = 7


def told(value: object, name: str = "", depth: int = 0) -> Iterator[str]:
    """A line for each plain value, under the names that lead to it."""
    indent = "  " * depth
    head = f"{indent}{name}: " if name else indent
    match value:
        case Figure():
            yield f"{head}{value.label} = {_number(value.value)} [{value.formula}] {value.source}".rstrip()
            terms = (f"{term.symbol} {_number(term.value)} {term.words} {term.source}" for term in value.terms)
            yield from (f"{indent}  {line}".rstrip() for line in terms)
        case Plan():
            return
        case float() | int() | bool():
            yield f"{head}{_number(value)}"
        case None | str() | date() | Enum():
            yield f"{head}{value.value if isinstance(value, Enum) else value}"
        case np.ndarray():
            least, mean, most = (_number(float(of(value))) for of in (np.nanmin, np.nanmean, np.nanmax))
            yield f"{head}{value.shape} {least} to {most}, on average {mean}"
        case _ if depth < _DEEP:
            parts = list(_parts(value))
            if parts or not callable(value):
                yield f"{head}{type(value).__name__}"
            for part, inner in parts:
                yield from told(inner, part, depth + 1)


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
    return f"{value:.4g}"
