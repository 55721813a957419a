"""Which stretch of the bar: places for the tubes, ranked by what the maker asks for.

The bar's surface is read once a barrel, at its own finished radius; every place is then judged from that. Scores are
in mm or in the share of the circumference, added up with fixed weights; lower is better.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.workpiece.field import Evaluator
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.program import Program

STEP_MM = 0.5
_ANGLES = 72
_APART_MM = 4.0
_UNWANTED = 60.0  # a place that must not show weighs more than all else together


class Wish(Struct, frozen=True):
    """What the maker asks for.

    Attributes:
        feature: key of the material that is looked for; None for all that is not the body of the bar.
        most_of_it: as much of it on the barrels as there can be.
        may_turn: a barrel may be turned about its axis against the one before it, so that the joint is met.
        centre_mm: places along the bar that are to lie in the middle of a barrel; then they are the feature.
        off_mm: stretches of the bar, from and to, that must not come to lie on a barrel.
        band_mm: width of the ring or band between two barrels: a line goes on beneath it.
    """

    feature_centred: bool = True
    no_line_within_mm: float = 1.0
    same_at_both_ends: bool = False
    carried_over_the_joint: bool = False
    feature: str | None = None
    most_of_it: bool = False
    may_turn: bool = False
    band_mm: float = 0.0
    centre_mm: tuple[float, ...] = ()
    off_mm: tuple[tuple[float, float], ...] = ()


class Room(Struct, frozen=True):
    """Where barrels may lie: the sound part of the bar, each barrel's trim, and the saw's kerf. In mm."""

    low_mm: float
    high_mm: float
    trims_mm: tuple[float, ...]
    kerf_mm: float


class Proposal(Struct, frozen=True):
    """A place for every tube, with why it is good.

    Attributes:
        starts_mm: where each tube begins.
        turns_deg: how far each barrel is turned about its axis.
        score: lower is better.
        off_centre_mm: how far the feature lies from the middle of its barrel, on average.
        feature_kept: the share of the feature that ends up on a barrel.
        lines_near_ends: share of all end circumferences with a line within the wished distance.
        ends_differ: share of the circumference in which the two ends of a barrel differ, on average.
        joint_differs: the same for the two faces of each joint, what lies under a band left out; 0 for one barrel.
        covers: share of the barrels' surfaces that is of what is looked for.
        unwanted: how many places that must not show lie on a barrel.
    """

    starts_mm: tuple[float, ...]
    turns_deg: tuple[float, ...]
    score: float
    off_centre_mm: float
    feature_kept: float
    lines_near_ends: float
    ends_differ: float
    joint_differs: float
    covers: float
    unwanted: float = 0.0


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
    starts = _starts(barrels, room)
    if starts.size == 0:
        return ()
    judged, turns = _judged(_Bar(evaluate, program, barrels), barrels, starts, wish)
    score = _score(judged, wish)
    chosen: list[Proposal] = []
    for index in np.argsort(score, kind="stable"):
        place = tuple(float(value) for value in starts[index])
        if all(max(abs(a - b) for a, b in zip(place, c.starts_mm, strict=True)) >= _APART_MM for c in chosen):
            figures = (float(column[index]) for column in judged)
            turned = tuple(float(turn) for turn in turns[index])
            chosen.append(Proposal(place, turned, float(score[index]), *figures))
        if len(chosen) == most:
            break
    return tuple(chosen)


class _Bar:
    """The bar as it is seen at a radius: materials as (columns along the bar, angles)."""

    def __init__(self, evaluate: Evaluator, program: Program, barrels: tuple[TurnedBarrel, ...]) -> None:
        self._evaluate, self._program = evaluate, program
        # The inks of a photo that the eye takes for one colour have one key: a border between them is no line.
        first = {there.key: n for n, there in reversed(list(enumerate(program.materials)))}
        self._same = np.array([first[there.key] for there in program.materials], dtype=np.uint8)
        self._seen: dict[float, NDArray[np.uint8]] = {}
        self.middles = [self.at((barrel.left_mm + barrel.right_mm) / 4) for barrel in barrels]
        self.body = int(np.bincount(np.concatenate([one.ravel() for one in self.middles])).argmax())

    def at(self, radius_mm: float) -> NDArray[np.uint8]:
        """The surface at this radius."""
        if radius_mm not in self._seen:
            z = np.arange(0, self._program.length_mm, STEP_MM, dtype=np.float32) + np.float32(STEP_MM / 2)
            angle = np.arange(_ANGLES) * 2 * np.pi / _ANGLES
            x, y = (np.broadcast_to(radius_mm * f(angle), (z.size, _ANGLES)).ravel() for f in (np.cos, np.sin))
            points = np.stack([x, y, np.repeat(z, _ANGLES)]).astype(np.float32)
            found = self._same[self._evaluate(self._program, points).material]
            self._seen[radius_mm] = found.reshape(z.size, _ANGLES)
        return self._seen[radius_mm]

    def wanted(self, surface: NDArray[np.uint8], feature: str | None) -> NDArray[np.bool_]:
        """Where what is looked for lies on a surface."""
        if feature is None:
            return np.asarray(surface != self.body)
        keys = [n for n, there in enumerate(self._program.materials) if there.key == feature]
        return np.isin(surface, keys)


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
    bar: _Bar, barrels: tuple[TurnedBarrel, ...], starts: NDArray[np.float64], wish: Wish
) -> tuple[tuple[NDArray[np.float64], ...], NDArray[np.float64]]:
    """How every place fares, as columns in the order of a proposal's figures, and how the barrels are turned there."""
    columns = bar.middles[0].shape[0]
    near = max(1, round(wish.no_line_within_mm / STEP_MM))

    def column(z: NDArray[np.float64]) -> NDArray[np.int64]:
        return np.clip((z / STEP_MM).astype(np.int64), 0, columns - 1)

    centred, kept, at_lines, ends, long = (np.zeros(len(starts)) for _ in range(5))
    there = 0.0
    left = [column(starts[:, n]) for n in range(len(barrels))]
    right = [column(starts[:, n] + b.end_mm - b.start_mm - STEP_MM / 2) for n, b in enumerate(barrels)]
    for surface, a, b in zip(bar.middles, left, right, strict=True):
        feature = np.mean(bar.wanted(surface, wish.feature), axis=1)
        weight, moment = (np.concatenate([[0.0], np.cumsum(f)]) for f in (feature, feature * np.arange(columns)))
        changes = np.zeros_like(surface, dtype=bool)
        changes[1:] = surface[1:] != surface[:-1]
        lines = np.stack([np.mean(_any_within(changes, near, side), axis=1) for side in (0, 1)])
        mass = weight[b + 1] - weight[a]
        middle = (moment[b + 1] - moment[a]) / np.maximum(mass, 1e-9)
        centred += mass * np.abs(middle - (a + b) / 2) * STEP_MM
        kept += mass
        long += b + 1 - a
        there = max(there, float(weight[-1]))
        at_lines += lines[0][a] + lines[1][b]
        ends += np.mean(surface[a] != surface[b], axis=1)
    joint, turns = _joints(bar, barrels, (left, right), wish)
    count = len(barrels)
    off_centre, on_barrels, unwanted = _marked(barrels, starts, wish)
    figures = (
        off_centre if wish.centre_mm else centred / np.maximum(kept, 1e-9),
        on_barrels if wish.centre_mm else kept / max(there, 1e-9),
        at_lines / (2 * count),
        ends / count,
        joint / max(1, count - 1),
        kept / np.maximum(long, 1),
        unwanted,
    )
    return figures, turns


def _marked(
    barrels: tuple[TurnedBarrel, ...], starts: NDArray[np.float64], wish: Wish
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """How far places that are to be centred lie from the middle of the nearest barrel, the share of them that is on
    one, and how many places that must not show are."""
    ends = starts + np.array([barrel.end_mm - barrel.start_mm for barrel in barrels])
    off, kept, unwanted = (np.zeros(len(starts)) for _ in range(3))
    for place in wish.centre_mm:
        off += np.abs((starts + ends) / 2 - place).min(axis=1) / len(wish.centre_mm)
        kept += ((starts <= place) & (place <= ends)).any(axis=1) / len(wish.centre_mm)
    for low, high in wish.off_mm:
        unwanted += ((starts < high) & (low < ends)).any(axis=1)
    return off, kept, unwanted


def _joints(
    bar: _Bar,
    barrels: tuple[TurnedBarrel, ...],
    at: tuple[list[NDArray[np.int64]], list[NDArray[np.int64]]],
    wish: Wish,
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """How much the faces of the joints differ, each at its own radius, and the turn of each barrel that meets best.

    Under a band the pattern goes on unseen: what must meet the next barrel is what the bar shows that much further.
    """
    left, right = at
    joint, turns = np.zeros(len(left[0])), np.zeros((len(left[0]), len(barrels)))
    for n in range(len(barrels) - 1):
        before, after = bar.at(barrels[n].right_mm / 2), bar.at(barrels[n + 1].left_mm / 2)
        under = np.clip(right[n] + round(wish.band_mm / STEP_MM), 0, len(before) - 1)
        one, other = before[under], after[left[n + 1]]
        ways = range(_ANGLES) if wish.may_turn else range(1)
        # A barrel turned by t shows at an angle what lies t further round.
        differ = np.stack([np.mean(one != np.roll(other, way, axis=1), axis=1) for way in ways])
        best = differ.argmin(axis=0)
        joint += differ[best, np.arange(len(best))]
        turned = turns[:, n] - best * 360 / _ANGLES
        turns[:, n + 1] = (turned + 180) % 360 - 180
    return joint, turns


def _any_within(changes: NDArray[np.bool_], near: int, side: int) -> NDArray[np.bool_]:
    """Whether a line crosses within `near` columns inside an end: after a left end (0), before a right one (1)."""
    found = np.zeros_like(changes)
    for step in range(-1, near + 1):
        shifted = np.roll(changes, -step if side == 0 else step, axis=0)
        found |= shifted
    return found


def _score(judged: tuple[NDArray[np.float64], ...], wish: Wish) -> NDArray[np.float64]:
    """A millimetre off centre weighs as much as a tenth of a circumference of lines or of difference, and as a
    twentieth of the feature that is sawn away; a fortieth of the surface that might show it weighs as much.
    """
    centred, kept, lines, ends, joint, covers, unwanted = judged
    score = 10.0 * lines if wish.no_line_within_mm > 0 else np.zeros_like(lines)
    if wish.feature_centred or wish.centre_mm:
        score = score + centred + 20.0 * (1 - kept)
    score = score + _UNWANTED * unwanted
    if wish.most_of_it:
        score = score + 40.0 * (1 - covers)
    if wish.same_at_both_ends:
        score = score + 10.0 * ends
    if wish.carried_over_the_joint:
        score = score + 10.0 * joint
    return score
