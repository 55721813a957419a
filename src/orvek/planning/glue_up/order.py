"""Saw all first, and assemble after: the second order of work beside cut, glue, cut.

It goes where no two cuts cross: then every place is marked on the bar as it is before the first cut, and all sheets
are let in at once.
"""

from __future__ import annotations

import math
from itertools import combinations

from msgspec import Struct

from orvek.documents import CutStep, Job, Step
from orvek.planning.bar import narrowed
from orvek.workpiece.lengths import lengths_mm, reach_mm

SAW_ALL_FIRST = "saw all, then glue"


class Uncut(Struct, frozen=True):
    """A cut as it lies on the bar before any is sawn: its step, and where its middle meets the axis."""

    index: int
    step: CutStep


def uncut(steps: tuple[Step, ...]) -> tuple[Uncut, ...]:
    """All cuts on the bar before the first of them, from its right end to its left, as they are then sawn.

    A cut's place is told on the bar as it is at its step: what earlier cuts to its left have given or taken there is
    taken off again.
    """
    cuts = [(n, step) for n, step in enumerate(steps) if isinstance(step, CutStep)]
    found = []
    for place, (index, step) in enumerate(cuts):
        moved = sum(_gained_mm(other) for _, other in cuts[:place] if other.centre_mm < step.centre_mm)
        found.append(Uncut(index, step.with_(centre_mm=step.centre_mm - moved)))
    return tuple(sorted(found, key=lambda one: -one.step.centre_mm))


def sawn_first(job: Job, raw: tuple[float, float, bool]) -> tuple[int, ...]:
    """The steps whose cuts are all sawn before any is glued, as they are sawn; none where each is glued at once."""
    cuts = uncut(job.blank.steps)
    if job.glue_up.order != SAW_ALL_FIRST or len(cuts) < 2 or hindered(job.blank.steps, raw) is not None:
        return ()
    return tuple(one.index for one in cuts)


def hindered(steps: tuple[Step, ...], raw: tuple[float, float, bool]) -> tuple[int, int] | None:
    """The numbers of two steps that cannot be sawn before they are glued; None where all can.

    Two cuts cross, one leaves a tab, or another kind of work lies between them. `raw` is the bar's section before any
    step.
    """
    cuts = uncut(steps)
    numbers = [one.index for one in cuts]
    for index in range(min(numbers, default=0), max(numbers, default=0)):
        if index not in numbers:
            return index + 1, index + 2
    for one in cuts:
        if one.step.tab_mm > 0 or one.step.register_by == "normal":
            return one.index + 1, one.index + 1
    size = narrowed(steps[: min(numbers, default=0)], raw)
    for left, right in combinations(reversed(cuts), 2):
        if _meet(left.step, right.step, size):
            first, second = sorted((left.index + 1, right.index + 1))
            return first, second
    return None


def _gained_mm(step: CutStep) -> float:
    return lengths_mm((step,), 1000.0)[0] - 1000.0


def _meet(left: CutStep, right: CutStep, size: tuple[float, float, bool]) -> bool:
    """Whether two kerfs have wood in common, or leave a point between them."""
    apart = right.centre_mm - left.centre_mm
    kerf = sum(step.kerf_mm / 2 / math.sin(math.radians(step.angle_deg)) for step in (left, right))
    if (left.angle_deg, left.azimuth_deg % 360) == (right.angle_deg, right.azimuth_deg % 360):
        return apart < kerf
    return apart < kerf + sum(_reach_mm(step, size) for step in (left, right))


def _reach_mm(step: CutStep, size: tuple[float, float, bool]) -> float:
    """How far along the axis a cut's middle goes from where it meets it, on the bar's outside."""
    width, depth, is_round = size
    return reach_mm(width, depth, step.azimuth_deg, is_round=is_round) / math.tan(math.radians(step.angle_deg))
