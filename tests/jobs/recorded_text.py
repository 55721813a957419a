"""Texts that are written down and held to: `hold(name, lines)`; where ORVEK_RECORD is set they are made anew."""

from __future__ import annotations

import os
import re
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import BaseModel

from orvek.planning import Finding

RECORDED = Path(__file__).parent / "recorded"
_LONG = re.compile(r"-?\d+\.\d{8,}(?:e[+-]?\d+)?")


def hold(name: str, lines: Iterable[str]) -> None:
    """Compare what is said now with what was written down under a name."""
    now, file = _LONG.sub(_shorter, "\n".join(lines) + "\n"), RECORDED / f"{name}.txt"
    if os.environ.get("ORVEK_RECORD"):
        file.write_text(now, encoding="utf-8")
    assert now == file.read_text(encoding="utf-8")


def _shorter(number: re.Match[str]) -> str:
    """A number without what another processor may round otherwise."""
    value = float(number.group())
    return f"{value:.6g}" if abs(value) > 1e-9 else "0"


class New:
    """Lines that were not there yet: what a change makes of a result, and not all of the result again."""

    def __init__(self) -> None:
        self._seen: set[str] = set()

    def among(self, lines: Iterable[str]) -> Iterator[str]:
        """Those of some lines that are seen for the first time."""
        for line in lines:
            if line not in self._seen:
                self._seen.add(line)
                yield line


def said_of(finding: Finding) -> str:
    """A finding in a line, with what its remedies are called and put."""
    remedies = " / ".join(
        f"{remedy.label} {[put(edit.value) for edit in remedy.edits] or ''}".rstrip() for remedy in finding.remedies
    )
    place = f" at {finding.place}" if finding.place else ""
    return f"{finding.severity.value}, {finding.key}{place}: {finding.title} {finding.because} {remedies}".rstrip()


def flat(found: Any) -> list[Any]:
    """All fields of a result, in their order."""
    return [getattr(found, name) for name in found.__struct_fields__]


def put(value: object) -> str:
    """What a remedy puts somewhere; of a document what it says beyond its defaults."""
    found = value.model_dump(exclude_defaults=True) if isinstance(value, BaseModel) else value
    return str(found)[:160]


def blocks(picture: Any, down: int = 2, along: int = 4) -> str:
    """A picture as the mean of its blocks: red, green and blue of each."""
    rows = (block for row in np.array_split(np.asarray(picture), down) for block in np.array_split(row, along, axis=1))
    means = (block.reshape(-1, block.shape[-1] if block.ndim == 3 else 1).mean(axis=0) for block in rows)
    return " ".join(",".join(f"{value:.1f}" for value in mean) for mean in means)
