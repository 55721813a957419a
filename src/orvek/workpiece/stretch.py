"""Which stretch of the bar: places for the tubes, ranked by what the maker asks for.

The bar's surface is read once, at the finished radius; every place is then judged from that. Scores are in mm or in
the share of the circumference, added up with fixed weights; lower is better.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orvek.workpiece.field import Evaluator
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.program import Program

STEP_MM = 0.5
_ANGLES = 72
_APART_MM = 4.0


@dataclass(frozen=True, slots=True)
class Wish:
    """What the maker asks for."""

    feature_centred: bool = True
    no_line_within_mm: float = 1.0
    same_at_both_ends: bool = False
    carried_over_the_joint: bool = False


@dataclass(frozen=True, slots=True)
class Room:
    """Where barrels may lie: the sound part of the bar, each barrel's trim, and the saw's kerf. In mm."""

    low_mm: float
    high_mm: float
    trims_mm: tuple[float, ...]
    kerf_mm: float


@dataclass(frozen=True, slots=True)
class Proposal:
    """A place for every tube, with why it is good.

    Attributes:
        starts_mm: where each tube begins.
        score: lower is better.
        off_centre_mm: how far the feature lies from the middle of its barrel, on average.
        feature_kept: the share of the feature that ends up on a barrel.
        lines_near_ends: share of all end circumferences with a line within the wished distance.
        ends_differ: share of the circumference in which the two ends of a barrel differ, on average.
        joint_differs: the same for the two faces of each joint; 0 for one barrel.
    """

    starts_mm: tuple[float, ...]
    score: float
    off_centre_mm: float
    feature_kept: float
    lines_near_ends: float
    ends_differ: float
    joint_differs: float


def proposals(
    evaluate: Evaluator,
    program: Program,
    barrels: tuple[TurnedBarrel, ...],
    room: Room,
    wish: Wish,
    most: int = 6,
) -> tuple[Proposal, ...]:
    """The best places, at least 4 mm apart, best first; none where the barrels do not fit the sound bar.

    Barrels stay in their order; the first one's place and the gaps between them are varied in steps of half a
    millimetre.
    """
    surface = _surface(evaluate, program, barrels)
    starts = _starts(barrels, room)
    if starts.size == 0:
        return ()
    judged = _judged(surface, barrels, starts, wish)
    score = _score(judged, wish)
    chosen: list[Proposal] = []
    for index in np.argsort(score, kind="stable"):
        place = tuple(float(value) for value in starts[index])
        if all(max(abs(a - b) for a, b in zip(place, c.starts_mm, strict=True)) >= _APART_MM for c in chosen):
            chosen.append(Proposal(place, float(score[index]), *(float(column[index]) for column in judged)))
        if len(chosen) == most:
            break
    return tuple(chosen)


def _surface(evaluate: Evaluator, program: Program, barrels: tuple[TurnedBarrel, ...]) -> NDArray[np.uint8]:
    """Materials on the surface at the mean finished radius: (columns along the bar, angles)."""
    radius = float(np.mean([(barrel.left_mm + barrel.right_mm) / 4 for barrel in barrels]))
    z = np.arange(0, program.length_mm, STEP_MM, dtype=np.float32) + np.float32(STEP_MM / 2)
    angle = np.arange(_ANGLES) * 2 * np.pi / _ANGLES
    points = np.stack(
        [
            np.broadcast_to(radius * np.cos(angle), (z.size, _ANGLES)).ravel(),
            np.broadcast_to(radius * np.sin(angle), (z.size, _ANGLES)).ravel(),
            np.repeat(z, _ANGLES),
        ]
    )
    return evaluate(program, points.astype(np.float32)).material.reshape(z.size, _ANGLES)


def _starts(barrels: tuple[TurnedBarrel, ...], room: Room) -> NDArray[np.float64]:
    """All places to judge: (n, barrels). Slack is given to the first place and to the gaps, in whole steps."""
    lengths = [barrel.end_mm - barrel.start_mm for barrel in barrels]
    pieces = [length + 2 * trim for length, trim in zip(lengths, room.trims_mm, strict=True)]
    taken = sum(pieces) + room.kerf_mm * (len(pieces) + 1)
    slack = room.high_mm - room.low_mm - taken
    if slack < -1e-6:
        return np.empty((0, len(barrels)))
    count = int(slack / STEP_MM) + 1
    steps = np.arange(count) * STEP_MM
    if len(barrels) == 1:
        shifts = steps[:, None]
    else:
        # The first place and the first gap vary freely; further gaps stay one kerf wide.
        first, gap = np.meshgrid(steps[:: max(1, count // 90)], steps[:: max(1, count // 90)], indexing="ij")
        fits = first + gap <= slack + 1e-9
        shifts = np.stack([first[fits], *[(first + gap)[fits]] * (len(barrels) - 1)], axis=1)
    before = np.cumsum([0.0, *pieces[:-1]]) + room.kerf_mm * np.arange(1, len(pieces) + 1)
    return np.asarray(room.low_mm + before + np.asarray(room.trims_mm) + shifts)


def _judged(
    surface: NDArray[np.uint8], barrels: tuple[TurnedBarrel, ...], starts: NDArray[np.float64], wish: Wish
) -> tuple[NDArray[np.float64], ...]:
    columns = surface.shape[0]
    body = np.bincount(surface.ravel()).argmax()
    feature = np.mean(surface != body, axis=1)
    weight, moment = (np.concatenate([[0.0], np.cumsum(f)]) for f in (feature, feature * np.arange(columns)))
    changes = np.zeros_like(surface, dtype=bool)
    changes[1:] = surface[1:] != surface[:-1]
    near = max(1, round(wish.no_line_within_mm / STEP_MM))
    lines = np.stack([np.mean(_any_within(changes, near, c), axis=1) for c in (0, 1)])

    def column(z: NDArray[np.float64]) -> NDArray[np.int64]:
        return np.clip((z / STEP_MM).astype(np.int64), 0, columns - 1)

    centred, kept, at_lines, ends = (np.zeros(len(starts)) for _ in range(4))
    left = [column(starts[:, n]) for n in range(len(barrels))]
    right = [column(starts[:, n] + b.end_mm - b.start_mm - STEP_MM / 2) for n, b in enumerate(barrels)]
    for a, b in zip(left, right, strict=True):
        mass = weight[b + 1] - weight[a]
        middle = (moment[b + 1] - moment[a]) / np.maximum(mass, 1e-9)
        centred += mass * np.abs(middle - (a + b) / 2) * STEP_MM
        kept += mass
        at_lines += lines[0][a] + lines[1][b]
        ends += np.mean(surface[a] != surface[b], axis=1)
    joint = np.zeros(len(starts))
    for b, a in zip(right[:-1], left[1:], strict=True):
        joint += np.mean(surface[b] != surface[a], axis=1)
    count = len(barrels)
    centred /= np.maximum(kept, 1e-9)
    return centred, kept / max(weight[-1], 1e-9), at_lines / (2 * count), ends / count, joint / max(1, count - 1)


def _any_within(changes: NDArray[np.bool_], near: int, side: int) -> NDArray[np.bool_]:
    """Whether a line crosses within `near` columns inside an end: after a left end (0), before a right one (1)."""
    found = np.zeros_like(changes)
    for step in range(-1, near + 1):
        shifted = np.roll(changes, -step if side == 0 else step, axis=0)
        found |= shifted
    return found


def _score(judged: tuple[NDArray[np.float64], ...], wish: Wish) -> NDArray[np.float64]:
    """A millimetre off centre weighs as much as a tenth of a circumference of lines or of difference, and as a
    twentieth of the feature that is sawn away.
    """
    centred, kept, lines, ends, joint = judged
    score = 10.0 * lines if wish.no_line_within_mm > 0 else np.zeros_like(lines)
    if wish.feature_centred:
        score = score + centred + 20.0 * (1 - kept)
    if wish.same_at_both_ends:
        score = score + 10.0 * ends
    if wish.carried_over_the_joint:
        score = score + 10.0 * joint
    return score
