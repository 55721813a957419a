"""Will the lines meet: the same blank made many times with the shop's own errors, each time a little different.

Every value that is set (angle, stop, kerf, sheet, face, centre, bit) is moved by its error in a Sobol sequence.
Errors are small, so a program's rows are moved along their slopes instead of compiling each draw anew.
Mismatch = area where the material differs from the ideal / length of the ideal boundaries, in mm.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from orvek.documents import Accuracy, Layer, Material, Step
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator
from orvek.workpiece.kinds.table import KINDS
from orvek.workpiece.outline import TurnedBarrel, outline_mm
from orvek.workpiece.program import Program

Floats = NDArray[np.float64]
ANGLES = 96
STEP_MM = 0.3
MOST_POINTS = 3600
GROUPS = ("angle", "stop", "kerf", "sheet", "index", "slip", "centring", "boring")
SLIPS_MM = (0.2, 0.4, 0.8)  # shown one by one: a joint that is pinned, pressed, and left to itself
_REACH_MM = 1.5
_NUDGE = 0.05  # how far a value is moved to find the slope of the rows: mm or degrees
_ALONE = 64  # draws of one cause at a time
_BETTER = 3.0  # how much closer the worst cause is set, to see what it would bring
_BLUR = 4


class Cause(Struct, frozen=True):
    """One value that is set: its group, its standard deviation, and how rows and aux move with it."""

    group: str
    sd: float
    rows: NDArray[np.float32]
    aux: NDArray[np.float32]


class Draw(Struct, frozen=True):
    """One blank as it may come out: its program, and the hole's offset and tilt across (mm, mm/mm)."""

    program: Program
    hole: tuple[float, float, float, float]


class ToleranceRun(Struct, frozen=True):
    """What comes of the shop's errors.

    Attributes:
        median_mm, low_mm, high_mm: mismatch: half of the blanks, and 5 and 95 %.
        shares: group and its share of the variance, the largest first.
        better: the first group set three times as closely: group, its new error, the median then.
        often: (angles, places) how often the material differs, 0 to 1.
        z_mm: places along the bar.
        worst: place in mm and angle in degrees where it differs most.
        boundary_mm: length of the ideal boundaries.
        typical, unlucky: the draws at the median and at 95 %.
        slipped: every joint slipped by `SLIPS_MM` and nothing else wrong: (slip, mismatch, the draw); none without one.
    """

    median_mm: float
    low_mm: float
    high_mm: float
    shares: tuple[tuple[str, float], ...]
    better: tuple[str, float, float] | None
    often: NDArray[np.float32]
    z_mm: NDArray[np.float32]
    worst: tuple[float, float]
    boundary_mm: float
    typical: Draw
    unlucky: Draw
    slipped: tuple[tuple[float, float, Draw], ...] = ()


class Trial:
    """A blank ready to be made many times: ideal picture, points on the finished barrels, causes of error.

    `finer` divides the cells along and around; one draw is then good to a part of its 0.02 mm.
    """

    def __init__(
        self,
        evaluate: Evaluator,
        steps: tuple[Step, ...],
        size: tuple[float, float, float, bool],
        barrels: tuple[TurnedBarrel, ...],
        accuracy: Accuracy,
        finer: int = 1,
        own: tuple[Material, ...] = (),
    ) -> None:
        step, self.angles = STEP_MM / finer, ANGLES * finer
        self.evaluate, self.program = evaluate, compiled(steps, *size, own)
        self.causes = _causes(steps, (*size, own), self.program, accuracy)
        self.hole_sd = np.array([accuracy.centring_mm, accuracy.centring_mm, accuracy.boring_mm, accuracy.boring_mm])
        self.length_mm = size[2]
        z = np.concatenate([np.arange(b.start_mm + step / 2, b.end_mm, step) for b in sorted(barrels)])
        self.z_mm = z.astype(np.float32)
        radius = outline_mm(self.z_mm, barrels, min(size[0], size[1]) * 0.3)
        turn, place = _scattered(self.z_mm, step, self.angles)
        x, y = np.cos(turn) * radius, np.sin(turn) * radius
        every = np.stack([x.ravel(), y.ravel(), place.ravel()]).astype(np.float32)
        ideal = evaluate(self.program, every).material
        # Only points near a line can ever differ; of many lines a part stands for all.
        near = np.flatnonzero(_near_a_line(ideal.reshape(turn.shape), step))
        self.kept = np.random.default_rng(3).permutation(near)[: MOST_POINTS * finer**2]
        stands_for = near.size / max(1, self.kept.size)
        self.points, self.ideal = np.ascontiguousarray(every[:, self.kept]), ideal[self.kept]
        cell = step * 2 * np.pi / self.angles * np.broadcast_to(radius, turn.shape)
        self.area = (cell.ravel()[self.kept] * stands_for).astype(np.float32)
        self.boundary_mm = _boundary_mm(evaluate, self.program, barrels, radius)
        self._along = (self.points[2] / np.float32(self.length_mm)).copy()
        self._moved = np.empty_like(self.points)

    @property
    def values(self) -> int:
        """How many values are drawn: one a cause, and four of the hole."""
        return len(self.causes) + 4

    def scales(self, only: str | None = None, closer: str | None = None) -> Floats:
        """Standard deviations of all values, of one group only, or with one group set more closely."""
        groups = [cause.group for cause in self.causes] + ["centring", "centring", "boring", "boring"]
        sds = np.array([*(cause.sd for cause in self.causes), *self.hole_sd])
        keep = np.array([only is None or group == only for group in groups])
        better = np.array([1 / _BETTER if group == closer else 1.0 for group in groups])
        return np.asarray(sds * keep * better)

    def draw(self, moves: Floats) -> Draw:
        """The blank with its values moved (values,) from the ideal."""
        rows, aux = self.program.rows.copy(), self.program.aux.copy()
        for cause, move in zip(self.causes, moves, strict=False):
            if move:
                rows += np.float32(move) * cause.rows
                aux += np.float32(move) * cause.aux
        x, y, tilt_x, tilt_y = (float(value) for value in moves[-4:])
        return Draw(replace(self.program, rows=rows, aux=aux), (x, y, tilt_x, tilt_y))

    def differs(self, draw: Draw) -> NDArray[np.bool_]:
        """Where a blank's material differs from the ideal, over the points."""
        x, y, tilt_x, tilt_y = draw.hole
        np.multiply(self._along, np.float32(tilt_x), out=self._moved[0])
        np.multiply(self._along, np.float32(tilt_y), out=self._moved[1])
        self._moved[0] += self.points[0] + np.float32(x)
        self._moved[1] += self.points[1] + np.float32(y)
        self._moved[2] = self.points[2]
        return np.asarray(self.evaluate(draw.program, self._moved).material != self.ideal)

    def mismatches(self, moves: Floats, often: Floats | None = None) -> Floats:
        """Mismatch of each draw (draws, values); counts where they differ into `often`."""
        found = np.empty(len(moves))
        rows = np.tensordot(moves[:, : len(self.causes)], self._row_slopes(), axes=1).astype(np.float32)
        aux = (moves[:, : len(self.causes)] @ self._aux_slopes()).astype(np.float32)
        for n in range(len(moves)):
            program = replace(self.program, rows=self.program.rows + rows[n], aux=self.program.aux + aux[n])
            differs = self.differs(Draw(program, tuple(moves[n, -4:])))
            found[n] = self.area @ differs
            if often is not None:
                often += differs
        return found / max(self.boundary_mm, 1e-6)

    def _row_slopes(self) -> Floats:
        return np.array([cause.rows for cause in self.causes]).reshape(len(self.causes), *self.program.rows.shape)

    def _aux_slopes(self) -> Floats:
        return np.array([cause.aux for cause in self.causes]).reshape(len(self.causes), self.program.aux.size)


def tolerance_run(trial: Trial, draws: int = 1000, progress: Callable[[float], None] | None = None) -> ToleranceRun:
    """Make the blank `draws` times.

    `progress` is told a part from 0 to 1 and may raise to end the work.
    """
    tell = progress or (lambda _part: None)
    even = sobol_normal(draws, trial.values)
    often = np.zeros(trial.ideal.size)
    found = np.empty(draws)
    moves = even * trial.scales()
    for start in range(0, draws, 100):
        tell(0.6 * start / draws)
        found[start : start + 100] = trial.mismatches(moves[start : start + 100], often)
    shares = _shares(trial, even, tell)
    order = np.argsort(found)
    low, median, high = (float(np.quantile(found, part)) for part in (0.05, 0.5, 0.95))
    better = None
    if shares and shares[0][1] > 0:
        tell(0.95)
        top = shares[0][0]
        closer = float(np.median(trial.mismatches(even[: 2 * _ALONE] * trial.scales(closer=top))))
        better = (top, _error_of(trial, top) / _BETTER, closer)
    counted = np.zeros(trial.angles * trial.z_mm.size, dtype=np.float32)
    counted[trial.kept] = often / draws
    there = np.zeros_like(counted)
    there[trial.kept] = 1
    # Points that stand for others speak for the cells around them.
    shape = (trial.angles, trial.z_mm.size)
    weight = _blurred(there.reshape(shape), 1)
    grid = np.divide(_blurred(counted.reshape(shape), 1), weight, out=np.zeros(shape, np.float32), where=weight > 0)
    place = np.unravel_index(_blurred(grid, _BLUR).argmax(), grid.shape)
    return ToleranceRun(
        median,
        low,
        high,
        shares,
        better,
        grid,
        trial.z_mm,
        (float(trial.z_mm[place[1]]), float((place[0] + 0.5) * 360 / trial.angles)),
        trial.boundary_mm,
        trial.draw(moves[order[draws // 2]]),
        trial.draw(moves[order[int(0.95 * (draws - 1))]]),
        tuple(_slipped(trial)),
    )


def _slipped(trial: Trial) -> Iterator[tuple[float, float, Draw]]:
    """Every joint slipped by the same, the same way."""
    joints = np.array([cause.group == "slip" for cause in trial.causes] + [False] * 4)
    for slip_mm in SLIPS_MM if joints.any() else ():
        moves = np.where(joints, slip_mm, 0.0)
        yield slip_mm, float(trial.mismatches(moves[None, :])[0]), trial.draw(moves)


def sobol_normal(draws: int, values: int) -> Floats:
    """Evenly spread standard normal draws (draws, values), the same ones every time."""
    from scipy.stats import norm, qmc

    count = 1 << max(0, (draws - 1).bit_length())
    even = qmc.Sobol(max(1, values), seed=11).random(count)[:draws, :values]
    return np.asarray(norm.ppf(np.clip(even, 1e-4, 1 - 1e-4)))


def _scattered(
    z_mm: NDArray[np.float32], step_mm: float, angles: int
) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """Angles and places of the points, (angles, places): one somewhere in each cell of a grid, the same every time.

    On a plain grid a line that runs along it would be met everywhere at once or nowhere.
    """
    shape = (angles, z_mm.size)
    random = np.random.default_rng(5)
    turn = (np.arange(angles)[:, None] + random.random(shape)) * 2 * np.pi / angles
    place = z_mm[None, :] + (random.random(shape) - 0.5) * step_mm
    return turn.astype(np.float32), place.astype(np.float32)


def _near_a_line(index: NDArray[np.uint8], step_mm: float) -> NDArray[np.bool_]:
    """Cells within about 1.5 mm of another material; the grid closes round the barrel."""
    edge = (index != np.roll(index, 1, axis=0)) | (index != np.roll(index, -1, axis=0))
    edge[:, 1:] |= index[:, 1:] != index[:, :-1]
    edge[:, :-1] |= index[:, 1:] != index[:, :-1]
    near = edge.copy()
    for n in range(1, round(_REACH_MM / step_mm) + 1):
        near[:, n:] |= edge[:, :-n]
        near[:, :-n] |= edge[:, n:]
    wide: NDArray[np.bool_] = near.copy()
    for n in range(1, 4):
        wide |= np.roll(near, n, axis=0) | np.roll(near, -n, axis=0)
    return wide


def _shares(trial: Trial, even: Floats, tell: Callable[[float], None]) -> tuple[tuple[str, float], ...]:
    """Each group alone: its mean square mismatch as a part of all of them."""
    squares: dict[str, float] = {}
    for n, group in enumerate(GROUPS):
        tell(0.6 + 0.05 * n)
        scales = trial.scales(only=group)
        squares[group] = float(np.mean(trial.mismatches(even[:_ALONE] * scales) ** 2)) if scales.any() else 0.0
    total = sum(squares.values())
    parts = ((group, square / total) for group, square in squares.items() if total > 0 and square > 0)
    return tuple(sorted(parts, key=lambda part: -part[1]))


def _error_of(trial: Trial, group: str) -> float:
    if group in {"centring", "boring"}:
        return float(trial.hole_sd[0 if group == "centring" else 2])
    return max(cause.sd for cause in trial.causes if cause.group == group)


def _blurred(grid: NDArray[np.float32], reach: int) -> NDArray[np.float32]:
    """Sums over neighbours; the grid closes round the barrel and is taken to go on beyond its ends."""
    wide = sum(np.roll(grid, n, axis=1) for n in range(-reach, reach + 1))
    return np.asarray(sum(np.roll(wide, n, axis=0) for n in range(-reach, reach + 1)), dtype=np.float32)


def _boundary_mm(
    evaluate: Evaluator, program: Program, barrels: tuple[TurnedBarrel, ...], radius: NDArray[np.float32]
) -> float:
    """Length of the boundaries between materials on the finished barrels, from smoothed contours of a finer picture."""
    import contourpy

    mean_radius, total = float(radius.mean()), 0.0
    turn = (np.arange(256) + 0.5) * 2 * np.pi / 256
    down = turn * mean_radius
    for barrel in barrels:
        z = np.arange(barrel.start_mm, barrel.end_mm, down[1] - down[0])
        at = outline_mm(z.astype(np.float32), (barrel,), mean_radius)
        x, y = np.cos(turn)[:, None] * at, np.sin(turn)[:, None] * at
        points = np.stack([x.ravel(), y.ravel(), np.broadcast_to(z, x.shape).ravel()]).astype(np.float32)
        index = evaluate(program, points).material.reshape(x.shape)
        for number in np.unique(index)[: len(program.materials)]:
            soft = _softened((index == number).astype(float))
            for line in contourpy.contour_generator(z, down, soft, line_type="Separate").lines(0.5):
                total += float(np.hypot(*np.diff(np.asarray(line), axis=0).T).sum())
    return total / 2  # every boundary belongs to two materials


def _softened(mask: Floats) -> Floats:
    """A box of 3 x 3 over the picture, so that its contours are no staircase; it closes round the barrel."""
    round_it = sum(np.roll(mask, n, axis=0) for n in (-1, 0, 1)) / 3
    padded = np.pad(round_it, ((0, 0), (1, 1)), mode="edge")
    return np.asarray((padded[:, :-2] + padded[:, 1:-1] + padded[:, 2:]) / 3)


def _causes(
    steps: tuple[Step, ...],
    size: tuple[float, float, float, bool, tuple[Material, ...]],
    ideal: Program,
    accuracy: Accuracy,
) -> list[Cause]:
    found = []
    for index, step in enumerate(steps):
        for group, sd, moved in _moves(step, accuracy):
            if sd <= 0 and group != "slip":  # what a slip would do is shown whatever the shop's is
                continue
            nudged = compiled((*steps[:index], moved, *steps[index + 1 :]), *size)
            if nudged.rows.shape != ideal.rows.shape or nudged.aux.shape != ideal.aux.shape:
                continue
            finite = np.where(np.isfinite(ideal.rows), ideal.rows, 0.0)
            rows = (np.where(np.isfinite(nudged.rows), nudged.rows, 0.0) - finite) / _NUDGE
            if group == "slip" and not rows.any():
                continue  # a tab holds the joint
            found.append(Cause(group, sd, rows.astype(np.float32), ((nudged.aux - ideal.aux) / _NUDGE)))
    return found


def _moves(step: Step, accuracy: Accuracy) -> list[tuple[str, float, Step]]:
    """The step with each of its values nudged."""

    def nudged(field: str) -> Step:
        # Not validated: a value at its bound may be nudged past it, where no maker could set it.
        return step.model_copy(update={field: getattr(step, field) + _NUDGE})

    kind = KINDS[type(step)]
    errors = {
        "angle": accuracy.angle_deg, "stop": accuracy.stop_mm, "kerf": accuracy.kerf_mm, "index": accuracy.index_deg,
        "slip": accuracy.slip_mm,
    }  # fmt: skip
    found = [(group, errors[group], nudged(field)) for group, field in kind.set_by]
    return [*found, *_thicker(step, kind.layers, accuracy)] if kind.layers else found


def _thicker(step: Step, field: str, accuracy: Accuracy) -> list[tuple[str, float, Step]]:
    """Every layer a little thicker, one at a time."""
    layers: tuple[Layer, ...] = getattr(step, field)
    found: list[tuple[str, float, Step]] = []
    for n, layer in enumerate(layers):
        thick = layer.model_copy(update={"thickness_mm": layer.thickness_mm + _NUDGE})
        moved = step.model_copy(update={field: (*layers[:n], thick, *layers[n + 1 :])})
        found.append(("sheet", accuracy.sheet_mm, moved))
    return found
