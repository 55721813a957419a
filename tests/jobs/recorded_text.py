"""What the program says, written down and held to: `hold(name, lines)`; with ORVEK_RECORD set it is written anew.

Of a sentence its figures are kept, with their units, and which one it is among those of its file (`~7`: the seventh
that came up): another figure or another sentence shows, another word does not. Only findings have their words written
down, each once, in `recorded/findings.txt`; delete that file before all is recorded anew, and none is left that is not
said any more.
"""

from __future__ import annotations

import fcntl
import os
import re
from collections.abc import Iterable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import BaseModel

from orvek.planning import Finding

RECORDED = Path(__file__).parent / "recorded"
_FINDINGS = RECORDED / "findings.txt"
_LONG = re.compile(r"-?\d+\.\d{8,}(?:e[+-]?\d+)?")
_PROSE = re.compile("\x1f([^\x1f]*)\x1f")
_UNITS = "mm³|mm|cm²|ml|kg|mg|g|min|°C|°|%|bar|psi|kPa|rpm|h|s|days?"
_FIGURE = re.compile(rf"[−-]?\d[\d.,:/]*(?:e[+-]?\d+)?(?: ?(?:{_UNITS})\b)?")
_SEVERITY = "! "
_WIDE = 118


def prose(words: object) -> str:
    """A sentence within a line, between marks."""
    return f"\x1f{str(words).replace(chr(31), ' ')}\x1f"


def sentences(lines: Iterable[object]) -> Iterator[str]:
    """Lines that are read by a maker."""
    yield from (prose(line) for line in lines if str(line).strip())


def hold(name: str, lines: Iterable[str]) -> None:
    """Compare figures and keys with what was written down under a name."""
    said, file = [line for line in lines if line.strip()], RECORDED / f"{name}.txt"
    assert said, "nothing is held to"
    now = _LONG.sub(_shorter, "\n".join(_folded(_kept(said))) + "\n")
    words = {entry for line in said for entry in _words_of(line)}
    if os.environ.get("ORVEK_RECORD"):
        file.write_text(now, encoding="utf-8")
        _add_findings(words)
    else:
        assert words <= set(_FINDINGS.read_text(encoding="utf-8").splitlines())
    assert now == file.read_text(encoding="utf-8")


def _add_findings(words: set[str]) -> None:
    with _FINDINGS.open("a+", encoding="utf-8") as kept:
        fcntl.flock(kept, fcntl.LOCK_EX)  # tests run beside each other
        kept.seek(0)
        known = set(kept.read().splitlines())
        kept.truncate(0)
        kept.write("\n".join(sorted(known | words)) + "\n")


def _kept(lines: Iterable[str]) -> Iterator[str]:
    """Lines with the number and the figures of a sentence in the place of its words.

    Sentences are numbered apart for each kind of line, by its first word: a new one moves few of the others.
    """
    known: dict[str, dict[str, int]] = {}
    for line in lines:
        own = known.setdefault("" if line.startswith("\x1f") else line.split(maxsplit=1)[0], {})
        yield _PROSE.sub(partial(_numbered, own), line.replace("\n", " "))


def _numbered(known: dict[str, int], found: re.Match[str]) -> str:
    template = _FIGURE.sub("#", found.group(1))
    return " ".join([f"~{known.setdefault(template, len(known) + 1)}", *_FIGURE.findall(found.group(1))])


def _folded(lines: Iterable[str]) -> Iterator[str]:
    """Several short lines in one, findings apart."""
    row = ""
    for line in lines:
        is_apart = line.startswith(_SEVERITY) or row.startswith(_SEVERITY)
        if row and (is_apart or len(row) + len(line) > _WIDE):
            yield row
            row = ""
        row = f"{row} | {line.strip()}" if row else line
    if row:
        yield row


def _words_of(line: str) -> Iterator[str]:
    """The words of a finding under its key, figures aside."""
    if line.startswith(_SEVERITY):
        key = line.removeprefix(_SEVERITY).split()[1]
        yield from (f"{key}: {_FIGURE.sub('#', words)}" for words in _PROSE.findall(line)[:1])


def said_of(finding: Finding) -> str:
    """A finding in a line: severity, key, place, its sentences, and what its remedies put where."""
    puts = " / ".join(str([put(edit.value) for edit in remedy.edits]) for remedy in finding.remedies)
    place = f"@{finding.place}" if finding.place else ""
    return (
        f"{_SEVERITY}{finding.severity.name} {finding.key} {place} {prose(f'{finding.title} {finding.because}')} {puts}"
    )


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
