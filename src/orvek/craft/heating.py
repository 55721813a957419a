"""Heat in the section of a bar with its mould, and in a cup, while the resin cures.

Finite volumes on a rectangle of cells with series of half-cell conductances; time by `solve_ivp` BDF with the sparse
pattern of the Jacobian. `bar_mesh` and `cup_mesh` make sections, `cure` runs one. Lengths in mm, times in s.

Not modelled: a lid, air that warms in a pot, evaporation, an inhibitor's delay. What the ends
of a bar lose is spread along it, so that its very middle is a little hotter than is said.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from orvek.craft.curing import Kinetics

Floats = NDArray[np.float64]
Ambient = Callable[[float], float]  # °C at a time in s
Progress = Callable[[float], None]  # told the time in s; raises to cancel

# Film coefficients in W/(m2 K), still air, estimates.
SIDE, BOTTOM, TOP = 10.0, 6.0, 10.0
CUP_SIDE, CUP_BOTTOM, CUP_TOP = 8.0, 6.0, 10.0
CUP_DEPTH = 0.7  # of its diameter
CUP_WALL_MM, CUP_WALL_K = 0.8, 0.2
MOST_IN_A_ROW = 6  # further bars are too far from one another to matter while they cure


class Stuff(Struct, frozen=True):
    """What a wall, a floor or an insert is made of: W/(m K), g/ml, J/(g K)."""

    conductivity: float
    density: float
    heat_capacity: float


SILICONE, HDPE, PP = Stuff(0.22, 1.15, 1.40), Stuff(0.45, 0.955, 2.00), Stuff(0.20, 0.905, 1.90)
WOOD_CORE, BRASS_CORE = Stuff(0.16, 0.65, 1.65), Stuff(115.0, 8.5, 0.38)


class Section(Struct, frozen=True):
    """Cells, rows from the bottom, flattened row by row; per mm of bar, or a whole cup.

    Attributes:
        shape: rows and columns.
        x_mm, y_mm: the cells' middles.
        capacity: heat capacity of each cell in J/K, its resin included.
        resin_g: mass of resin in each cell, 0 elsewhere.
        links: (n, n) sparse, W/K between cells, rows adding up to zero.
        outside: W/K from each cell to the air.
        bars: the columns of each bar in a row, from the middle of the row outwards; none in a cup.
    """

    shape: tuple[int, int]
    x_mm: Floats
    y_mm: Floats
    capacity: Floats
    resin_g: Floats
    links: Any
    outside: Floats
    bars: tuple[slice, ...] = ()

    @property
    def is_resin(self) -> NDArray[np.bool_]:
        """Which cells hold resin."""
        return np.asarray(self.resin_g > 0)


class Moment(Struct, frozen=True):
    """The resin at one time: (cells,) temperatures, degrees of cure and shares."""

    temperature_c: Floats
    cure: Floats
    weight: Floats

    @property
    def hottest_c(self) -> float:
        """The hottest point."""
        return float(self.temperature_c.max())

    @property
    def mean_cure(self) -> float:
        """The mean degree of cure."""
        return float(self.cure @ self.weight)

    @property
    def most_cure(self) -> float:
        """The degree of cure that all but 5 % of the resin has passed."""
        order = np.argsort(self.cure)
        return float(self.cure[order][(np.cumsum(self.weight[order]) >= 0.05).argmax()])


class Run(Struct, frozen=True):
    """What a cure did, at the solver's own steps.

    Attributes:
        time_s: (steps,).
        temperature_c: (steps, cells).
        cure: (steps, resin cells).
        temperature_slope, cure_slope: their rates at the same steps.
        weight: (resin cells,) share of the resin.
    """

    section: Section
    time_s: Floats
    temperature_c: Floats
    cure: Floats
    temperature_slope: Floats
    cure_slope: Floats
    weight: Floats

    @property
    def mean_cure(self) -> Floats:
        """Mean degree of cure at each step."""
        return np.asarray(self.cure @ self.weight)

    def resin_c(self) -> Floats:
        """Temperatures of the resin's cells, (steps, resin cells)."""
        return np.asarray(self.temperature_c[:, self.section.is_resin])

    def reached_s(self, cure: float, of: str = "mean") -> float | None:
        """When the resin has reached a degree of cure: its mean, its first point, or all but 5 % of it."""
        values, slopes = self._cure_of(of)
        return crossing(self.time_s, values, slopes, cure)

    def _cure_of(self, of: str) -> tuple[Floats, Floats]:
        if of == "mean":
            return self.mean_cure, self.cure_slope @ self.weight
        if of == "first":
            place = self.cure.argmax(axis=1)
        else:
            order = np.argsort(self.cure, axis=1)
            passed = np.cumsum(self.weight[order], axis=1)
            place = order[np.arange(len(order)), (passed >= 0.05).argmax(axis=1)]
        steps = np.arange(len(self.cure))
        return self.cure[steps, place], self.cure_slope[steps, place]

    def bars(self) -> tuple[Run, ...]:
        """The same run seen by each bar of a row alone, from the middle of the row outwards."""
        if len(self.section.bars) < 2:
            return (self,)
        rows, columns = self.section.shape
        column = np.tile(np.arange(columns), rows)
        found = []
        for span in self.section.bars:
            here = self.section.is_resin & (column >= span.start) & (column < span.stop)
            kept = here[self.section.is_resin]
            own = replace(self.section, resin_g=np.where(here, self.section.resin_g, 0.0), bars=(span,))
            weight = self.weight[kept] / self.weight[kept].sum()
            found.append(
                replace(self, section=own, cure=self.cure[:, kept], cure_slope=self.cure_slope[:, kept], weight=weight)
            )
        return tuple(found)

    def first_s(self, holds: Callable[[Moment], bool]) -> float | None:
        """When something holds for the first time, to a second, by the cubics between the steps; None for never."""
        step = next((n for n in range(len(self.time_s)) if holds(self._at_step(n))), None)
        if step is None or step == 0:
            return None if step is None else float(self.time_s[0])
        low, high = float(self.time_s[step - 1]), float(self.time_s[step])
        while high - low > 1.0:
            middle = (low + high) / 2
            low, high = (low, middle) if holds(self._between(step - 1, middle)) else (middle, high)
        return high

    def _at_step(self, n: int) -> Moment:
        return Moment(self.temperature_c[n][self.section.is_resin], self.cure[n], self.weight)

    def _between(self, n: int, t: float) -> Moment:
        resin = self.section.is_resin
        temperature = _cubic(self.time_s, self.temperature_c[:, resin], self.temperature_slope[:, resin], n, t)
        return Moment(temperature, _cubic(self.time_s, self.cure, self.cure_slope, n, t), self.weight)

    def peak(self) -> tuple[float, float]:
        """The highest temperature in the resin and when, between the steps by their slopes."""
        resin = self.section.is_resin
        temperature, slope = self.temperature_c[:, resin], self.temperature_slope[:, resin]
        cell = int(np.unravel_index(temperature.argmax(), temperature.shape)[1])
        return summit(self.time_s, temperature[:, cell], slope[:, cell])


def bar_mesh(
    kinetics: Kinetics,
    width_mm: float,
    depth_mm: float,
    wall: Stuff = SILICONE,
    wall_mm: float = 8.0,
    floor_mm: float = 8.0,
    *,
    core: tuple[Stuff, float] | None = None,
    row: int = 1,
    length_mm: float | None = None,
    film: float = 1.0,
    cells: tuple[int, int] = (20, 10),
) -> Section:
    """The section of a row of bars in an open mould, 1 mm long, from the middle of the row to its outer wall.

    Args:
        kinetics: the resin.
        width_mm, depth_mm: a bar.
        wall, wall_mm, floor_mm: the mould; one wall stands between two bars.
        core: what lies in the middle of each, and the share of its section; its cells are cut to that share exactly.
        length_mm: of the bars; what leaves through their two ends is spread along them. None: endless bars.
        row: how many bars stand side by side; more than `MOST_IN_A_ROW` cure like so many.
        film: factor on all film coefficients.
        cells: rows and columns in half the width of a bar; wall and floor have as many as they need.
    """
    rows, columns = cells
    side = math.sqrt(min(core[1], 0.98)) if core is not None and core[1] > 0 else 0.0
    half = _spans(((1 - side) * width_mm / 2, columns), (side * width_mm / 2, columns))
    band = _spans(((1 - side) * depth_mm / 2, rows), (side * depth_mm, rows), ((1 - side) * depth_mm / 2, rows))
    between, floor = _wall(wall_mm, width_mm / 2 / columns), _wall(floor_mm, depth_mm / rows)
    row = min(row, MOST_IN_A_ROW)
    widths, starts, at = _half_row(row, width_mm, wall_mm, [*half, *half[::-1]], between)
    x_edges = np.concatenate([[0.0], np.cumsum(widths)])
    y_edges = np.concatenate([[0.0], np.cumsum([*floor, *band])])
    x, y = _middles(x_edges), _middles(y_edges) - floor_mm - depth_mm / 2
    stuff = np.ones((len(y), len(x)), dtype=int)  # 0 resin, 1 wall, 2 core
    for middle in at:
        off = np.abs(x - middle)
        stuff[np.ix_(y > -depth_mm / 2, off < width_mm / 2)] = 0
        stuff[np.ix_(np.abs(y) < side * depth_mm / 2, off < side * width_mm / 2)] = 2
    resin = Stuff(kinetics.conductivity, kinetics.density, kinetics.heat_capacity)
    made = _section(
        x_edges,
        y_edges,
        stuff,
        (resin, wall, core[0] if core else wall),
        (0.0, 1000 / (SIDE * film), 1000 / (BOTTOM * film), 1000 / (TOP * film)),
        is_round=False,
    )
    if length_mm is None:
        return replace(made, bars=tuple(starts))
    through = 1 / (1 / (SIDE * film) + wall_mm / 1000 / wall.conductivity)  # W/(m2 K), film and wall in series
    area_mm2 = (np.diff(y_edges)[:, None] * np.diff(x_edges)[None, :]).ravel()
    ends = 2 * through * area_mm2 * 1e-6 / length_mm
    return replace(made, bars=tuple(starts), outside=made.outside + ends)


def _half_row(
    row: int, width_mm: float, wall_mm: float, bar: list[float], wall: list[float]
) -> tuple[list[float], list[slice], list[float]]:
    """Widths of the cells from the middle of a row outwards, each bar's columns, and where the bars' middles lie.

    A row of an odd number begins in the middle of a bar, one of an even number in the middle of a wall.
    """
    widths: list[float] = []
    found, at = [], []
    for n in range(math.ceil(row / 2)):
        if n == 0 and row % 2 == 1:
            own, before = bar[len(bar) // 2 :], []
        elif n == 0:
            own, before = bar, _wall(wall_mm / 2, 2 * wall[0] if wall else 1.0)
        else:
            own, before = bar, wall
        widths += before
        found.append(slice(len(widths), len(widths) + len(own)))
        at.append(sum(widths) + (width_mm / 2 if len(own) == len(bar) else 0.0))
        widths += own
    return [*widths, *wall], found, at


def cup_mesh(kinetics: Kinetics, mass_g: float, *, film: float = 1.0, cells: tuple[int, int] = (14, 10)) -> Section:
    """A cup of mixed resin: a cylinder, its depth 0.7 of its diameter, in a thin plastic wall."""
    volume_mm3 = 1000 * mass_g / kinetics.density
    diameter = (volume_mm3 / (np.pi / 4 * CUP_DEPTH)) ** (1 / 3)
    x_edges = np.linspace(0, diameter / 2, cells[1] + 1)
    y_edges = np.linspace(0, CUP_DEPTH * diameter, cells[0] + 1)
    resin = Stuff(kinetics.conductivity, kinetics.density, kinetics.heat_capacity)
    plastic = CUP_WALL_MM / CUP_WALL_K  # mm / (W / m K): the same unit as 1000 / film
    sides = (0.0, plastic + 1000 / (CUP_SIDE * film), plastic + 1000 / (CUP_BOTTOM * film), 1000 / (CUP_TOP * film))
    stuff = np.zeros((cells[0], cells[1]), dtype=int)
    return _section(x_edges, y_edges, stuff, (resin,), sides, is_round=True)


def cure(
    section: Section,
    kinetics: Kinetics,
    ambient: Ambient,
    start_c: tuple[float, float],
    end_s: float,
    *,
    until_gel: bool = False,
    longest_step_s: float = np.inf,
    progress: Progress | None = None,
    tolerance: float = 1e-5,
) -> Run:
    """Let a section cure.

    Args:
        section, kinetics: what cures.
        ambient: the air, over time.
        start_c: temperature of the resin as poured, and of the mould.
        end_s: how long.
        until_gel: stop when the first point gels.
        longest_step_s: for an ambient that changes.
        progress: told where it is; what it raises ends the run.
        tolerance: of the solver, relative; the degree of cure to a tenth of it.

    Returns:
        A `Run` at the solver's steps.
    """
    from scipy.integrate import solve_ivp

    resin, count = section.is_resin, section.capacity.size
    grams = section.resin_g[resin]
    slope = _slope(section, kinetics, ambient, progress)
    start = np.where(resin, start_c[0], start_c[1])
    gelled = _gelled(count, kinetics.gel) if until_gel else None
    # The solver begins with a row of its differences unset and overwrites it before it is used.
    with np.errstate(invalid="ignore", over="ignore"):
        found = solve_ivp(
            slope,
            (0.0, end_s),
            np.concatenate([start, np.zeros(grams.size)]),
            method="BDF",
            jac_sparsity=_pattern(section.links, resin),
            rtol=tolerance,
            atol=np.concatenate([np.full(count, 10 * tolerance), np.full(grams.size, tolerance / 10)]),
            max_step=longest_step_s,
            first_step=min(1.0, end_s / 10),
            events=gelled,
        )
    states = found.y.T
    slopes = np.array([slope(t, state) for t, state in zip(found.t, states, strict=True)])
    return Run(
        section,
        found.t,
        states[:, :count],
        np.clip(states[:, count:], 0, 1),
        slopes[:, :count],
        slopes[:, count:],
        grams / grams.sum(),
    )


def _slope(
    section: Section, kinetics: Kinetics, ambient: Ambient, progress: Progress | None
) -> Callable[[float, Floats], Floats]:
    """How fast temperatures (all cells) and degrees of cure (resin cells) change, as the solver asks for it."""
    resin, count = section.is_resin, section.capacity.size
    heat = section.resin_g[resin] * kinetics.heat_j_g
    inverse, links = 1 / section.capacity, section.links

    def slope(t: float, state: Floats) -> Floats:
        temperature, degree = state[:count], state[count:]
        rate = kinetics.rate(temperature[resin], degree)
        flow = links @ temperature + section.outside * (ambient(t) - temperature)
        flow[resin] += heat * rate
        if progress is not None:
            progress(t)
        return np.concatenate([flow * inverse, rate])

    return slope


def crossing(time: Floats, values: Floats, slopes: Floats, level: float) -> float | None:
    """When a rising curve first reaches a level, by the cubic through values and slopes; None if it never does."""
    from scipy.optimize import brentq

    above = np.flatnonzero(values >= level)
    if above.size == 0:
        return None
    n = int(above[0])
    if n == 0:
        return float(time[0])
    return float(brentq(lambda t: _hermite(time, values, slopes, n - 1, t) - level, time[n - 1], time[n]))


def summit(time: Floats, values: Floats, slopes: Floats) -> tuple[float, float]:
    """The highest value and when, by the cubics beside the highest step."""
    n = int(values.argmax())
    best = (float(values[n]), float(time[n]))
    for low in (n - 1, n):
        if 0 <= low < len(time) - 1:
            t = np.linspace(time[low], time[low + 1], 201)
            found = [_hermite(time, values, slopes, low, place) for place in t]
            place = int(np.argmax(found))
            best = max(best, (float(found[place]), float(t[place])))
    return best


def _hermite(time: Floats, values: Floats, slopes: Floats, n: int, t: float) -> float:
    return float(_cubic(time, values, slopes, n, t))


def _cubic(time: Floats, values: Floats, slopes: Floats, n: int, t: float) -> Floats:
    """Between two steps of the solver, by values and slopes: (steps, …) to (…)."""
    step = time[n + 1] - time[n]
    u = (t - time[n]) / step
    return np.asarray(
        (1 + 2 * u) * (1 - u) ** 2 * values[n]
        + u * (1 - u) ** 2 * step * slopes[n]
        + u * u * (3 - 2 * u) * values[n + 1]
        + u * u * (u - 1) * step * slopes[n + 1]
    )


def _gelled(count: int, gel: float) -> Callable[[float, Floats], float]:
    def event(_t: float, state: Floats) -> float:
        return float(state[count:].max() - gel)

    event.terminal = True  # type: ignore[attr-defined]
    return event


def _spans(*spans: tuple[float, int]) -> list[float]:
    """Widths of even cells over spans that lie side by side, as (mm, cells of the whole); at least two in each."""
    whole = sum(length for length, _ in spans)
    found: list[float] = []
    for length, cells in spans:
        count = max(2, round(cells * length / whole)) if length < whole else cells
        found += [length / count] * (count if length > 0 else 0)
    return found


def _wall(thickness_mm: float, cell_mm: float) -> list[float]:
    """Widths of the cells in a wall, about twice as wide as those beside it, at least three."""
    count = max(3, round(thickness_mm / (2 * cell_mm))) if thickness_mm > 0 else 0
    return [thickness_mm / max(count, 1)] * count


def _middles(edges: Floats) -> Floats:
    return np.asarray((edges[1:] + edges[:-1]) / 2)


def _section(
    x_edges: Floats,
    y_edges: Floats,
    stuff: NDArray[np.int_],
    kinds: tuple[Stuff, ...],
    sides: tuple[float, float, float, float],
    *,
    is_round: bool,
) -> Section:
    """Volumes, conductances and films of a rectangle of cells.

    `sides` are the resistances of film and wall at left, right, bottom and top in mm·K·m/W, which is 1000/h; 0 lets
    nothing through. Round: x is the radius.
    """
    from scipy.sparse import coo_matrix

    rows, columns = stuff.shape
    dx, dy = np.diff(x_edges), np.diff(y_edges)
    across = np.pi * np.diff(x_edges**2) if is_round else dx  # area of a cell's foot, per mm of bar
    k = np.array([kind.conductivity for kind in kinds])[stuff]
    heat = np.array([kind.density * kind.heat_capacity for kind in kinds])[stuff]
    volume_mm3 = across[None, :] * dy[:, None]
    number = np.arange(stuff.size).reshape(stuff.shape)
    # Between neighbours: area over the two half cells in series; W/(m K) times mm is mW/K.
    face = (2 * np.pi * x_edges[1:-1] if is_round else np.ones(columns - 1))[None, :] * dy[:, None]
    sideways = face / (dx[:-1] / 2 / k[:, :-1] + dx[1:] / 2 / k[:, 1:]) / 1000
    upwards = across[None, :] / (dy[:-1, None] / 2 / k[:-1] + dy[1:, None] / 2 / k[1:]) / 1000
    one = np.concatenate([number[:, :-1].ravel(), number[:-1].ravel()])
    other = np.concatenate([number[:, 1:].ravel(), number[1:].ravel()])
    through = np.concatenate([sideways.ravel(), upwards.ravel()])
    total = np.bincount(one, through, stuff.size) + np.bincount(other, through, stuff.size)
    every = np.arange(stuff.size)
    links = coo_matrix(
        (
            np.concatenate([through, through, -total]),
            (np.concatenate([one, other, every]), np.concatenate([other, one, every])),
        )
    )
    outside = np.zeros(stuff.shape)
    _left, right, bottom, top = sides
    if right > 0:
        area = (2 * np.pi * x_edges[-1] if is_round else 1.0) * dy
        outside[:, -1] += area / (dx[-1] / 2 / k[:, -1] + right) / 1000
    if bottom > 0:
        outside[0] += across / (dy[0] / 2 / k[0] + bottom) / 1000
    if top > 0:
        outside[-1] += across / (dy[-1] / 2 / k[-1] + top) / 1000
    grams = np.where(stuff == 0, volume_mm3 * kinds[0].density / 1000, 0.0)
    return Section(
        (rows, columns),
        _middles(x_edges),
        _middles(y_edges),
        (volume_mm3 * heat / 1000).ravel(),
        grams.ravel(),
        links.tocsr(),
        outside.ravel(),
    )


def _pattern(links: Any, resin: NDArray[np.bool_]) -> object:
    """Which slopes depend on which states."""
    from scipy.sparse import bmat, csr_matrix, identity

    here = csr_matrix(identity(resin.size, format="csr"))[resin]
    return bmat([[abs(links) + identity(resin.size), here.T], [here, identity(int(resin.sum()))]], format="csr")
