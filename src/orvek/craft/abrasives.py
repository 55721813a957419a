"""Abrasives by the size of their grain, whatever they are called; and the ladder through those that are at hand."""

from __future__ import annotations

import json
from collections.abc import Sequence
from functools import cache
from importlib import resources

from msgspec import Struct

STEP = 1.6  # times as fine from one to the next (workshop practice)
GAP, WIDE_GAP = 1.62, 2.2  # above the one sand twice as long, above the other its scratches stay (practice)
REMOVES = 0.3  # of the grain before it, in depth: so much the next one takes to be rid of its scratches (0.2 to 0.5)
COARSE_UM_MIN = 12.0  # the coarsest paper takes off the radius in a minute: an estimate
_UM_MIN = {
    "paper": COARSE_UM_MIN,
    "film": 8.0,
    "pad": 4.0,
    "paste": 3.0,
    "bar": 2.0,
    "polish": 1.5,
}  # a minute: estimates


class Abrasive(Struct, frozen=True):
    """One abrasive: its grain as it begins and, where it breaks down, as it ends, in µm."""

    name: str
    kind: str
    start_um: float
    end_um: float


class Rung(Struct, frozen=True):
    """One step of a ladder.

    Attributes:
        abrasive: what is used.
        ratio: how many times finer than what was used before it; 1 for the first.
        removes_um: in depth, to be rid of the scratches before it; 0 for the first.
        minutes: roughly how long.
    """

    abrasive: Abrasive
    ratio: float
    removes_um: float
    minutes: float


@cache
def abrasives() -> tuple[Abrasive, ...]:
    """All that ship, the coarsest of each kind first (data/abrasives.json)."""
    text = resources.files("orvek.data").joinpath("abrasives.json").read_text(encoding="utf-8")
    return tuple(Abrasive(**one) for one in json.loads(text)["abrasives"])


def ladder(drawer: Sequence[Abrasive], start_um: float, end_um: float, step: float = STEP) -> tuple[Rung, ...]:
    """From the coarsest that is no coarser than `start_um` to the finest that is no finer than `end_um`.

    Each time the finest that is at most `step` times as fine; where the drawer has none, the next one there is.
    Empty where the drawer has nothing between.

    >>> papers = [one for one in abrasives() if one.kind == "paper"]
    >>> [rung.abrasive.name for rung in ladder(papers, 100, 25.8)]
    ['P150', 'P220', 'P320', 'P500', 'P600']
    """
    between = sorted(
        (one for one in drawer if end_um - 1e-9 <= one.end_um and one.start_um <= start_um + 1e-9),
        key=lambda one: -one.start_um,
    )
    if not between:
        return ()
    found = [Rung(between[0], 1.0, 0.0, 0.0)]
    while True:
        now = found[-1].abrasive.end_um
        finer = [one for one in between if one.start_um < now - 1e-9]
        if not finer:
            return tuple(found)
        near = [one for one in finer if now / one.start_um <= step + 1e-9]
        following = min(near, key=lambda one: one.start_um) if near else finer[0]
        removes = REMOVES * now
        minutes = removes / _UM_MIN.get(following.kind, 4.0)
        found.append(Rung(following, now / following.start_um, removes, minutes))


def removed_um(rungs: Sequence[Rung]) -> float:
    """What a ladder takes off in depth in all."""
    return sum(rung.removes_um for rung in rungs)
