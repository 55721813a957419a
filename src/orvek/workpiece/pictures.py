"""Pictures of a blank as arrays: the unrolled surface, the turned barrel, the faces of the bar, sections.

All of them ask the same field. Colours come from the materials and the tone along the grain; a clear resin is
looked into, down to the tube. Arrays are (rows, columns, 3) uint8, read-only, rows from the top.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.documents import Material
from orvek.workpiece import columns as col
from orvek.workpiece.field import Evaluator
from orvek.workpiece.lengths import reach_mm
from orvek.workpiece.lustre import angle_bins, gain_table, shimmer
from orvek.workpiece.outline import SEEN_FROM_DEG, TurnedBarrel, outline_mm
from orvek.workpiece.program import Kind, Program, Sample

Pixels = NDArray[np.uint8]
BRASS_RGB = (181.0, 138.0, 58.0)
LOOK_INTO = 5  # how many depths are sampled in a clear resin
_MOST_AT_ONCE = 1 << 20  # points
_LIGHT_FROM = -0.62  # angle of the key light on the barrel, in radians above the middle
_LUSTRE = gain_table(_LIGHT_FROM)


class Turning(Struct, frozen=True):
    """Where each pixel of a turned barrel's picture lies on the unrolled surface, and how it is lit.

    Attributes:
        turn: (rows, columns) float32, angle as a fraction of the circumference.
        gain: (rows, columns, 1) uint16, factor on the colour in 256ths.
        add: (rows, columns, 3) uint16, highlight, and ground where the barrel is not.
        cover: (rows, columns) float32, how much of the pixel is on the barrel, 0 to 1.
        bins: (rows, columns) uint16, the angle as the lustre's table has it.
    """

    turn: NDArray[np.float32]
    gain: NDArray[np.uint16]
    add: NDArray[np.uint16]
    cover: NDArray[np.float32]
    bins: NDArray[np.uint16]

    def part(self, first: int, last: int) -> Turning:
        """A stretch of columns."""
        columns = slice(first, last)
        here = (slice(None), columns)
        return Turning(self.turn[here], self.gain[here], self.add[here], self.cover[here], self.bins[here])


def coloured(program: Program, sample: Sample) -> NDArray[np.float32]:
    """Colours (n, 3) of a sample, 0 to 255."""
    base, swing = _palettes(program.materials)
    # `take` that need not look for numbers out of range is three times as fast as indexing
    colours: NDArray[np.float32] = swing.take(sample.material, axis=0, mode="clip")
    colours *= sample.tone[:, None]
    colours += base.take(sample.material, axis=0, mode="clip")
    return colours


def unrolled(
    evaluate: Evaluator,
    program: Program,
    z_mm: NDArray[np.float32],
    radius_mm: NDArray[np.float32],
    rows: int,
    hole_radius_mm: float = 0.0,
    behind: tuple[float, float, float] = BRASS_RGB,
    depths: int = LOOK_INTO,
) -> Pixels:
    """The surface at a radius, rolled out: row 0 is azimuth 0, counted towards +y.

    Args:
        evaluate: kernel or reference.
        program: the blank.
        z_mm: (columns,) places along the bar.
        radius_mm: (columns,) radius of the surface there.
        rows: how many angles.
        hole_radius_mm: where a clear resin ends in front of the tube.
        behind: the colour there, 0 to 255: brass, or the paint in the hole or on the tube.
        depths: at how many depths a clear resin is looked into.
    """
    floor_mm = max(hole_radius_mm, _sheet_radius_mm(program))
    angle = (np.arange(rows, dtype=np.float32) + 0.5) * np.float32(2 * np.pi / rows)
    direction = np.stack([np.cos(angle), np.sin(angle)])

    def points(depth_mm: float) -> NDArray[np.float32]:
        radius = np.minimum(np.maximum(radius_mm - depth_mm, floor_mm), radius_mm)
        x, y = direction[:, :, None] * radius[None, None, :]
        return np.stack([x.ravel(), y.ravel(), np.broadcast_to(z_mm, x.shape).ravel()]).astype(np.float32)

    surface = points(0.0)
    sample = evaluate(program, surface)
    colours = coloured(program, sample)
    clear = np.array([there.clearness_per_mm for there in program.materials], dtype=np.float32)[sample.material]
    if clear.any():
        wall = max(0.0, float(np.max(radius_mm)) - floor_mm)
        _look_into(evaluate, program, colours, clear, points, wall, behind, depths)
    return _pixels(colours, (rows, z_mm.size))


def unrolled_materials(
    evaluate: Evaluator, program: Program, z_mm: NDArray[np.float32], radius_mm: NDArray[np.float32], rows: int
) -> NDArray[np.uint8]:
    """Which material is where on the unrolled surface: (rows, columns) indices, as `unrolled` would colour them."""
    angle = (np.arange(rows, dtype=np.float32) + 0.5) * np.float32(2 * np.pi / rows)
    x, y = np.cos(angle)[:, None] * radius_mm, np.sin(angle)[:, None] * radius_mm
    points = np.stack([x.ravel(), y.ravel(), np.broadcast_to(z_mm, x.shape).ravel()]).astype(np.float32)
    return evaluate(program, points).material.reshape(rows, z_mm.size)


def face(evaluate: Evaluator, program: Program, z_mm: NDArray[np.float32], rows: int, azimuth_deg: float) -> Pixels:
    """The bar seen from the side, from the direction of an azimuth: its outer face, as high as that face is.

    A round bar is seen as it is, its surface falling away to both edges.
    """
    turn = np.deg2rad(azimuth_deg)
    across = 2 * reach_mm(program.width_mm, program.depth_mm, azimuth_deg + 90, is_round=program.is_round)
    w = ((np.arange(rows, dtype=np.float32) + 0.5) / rows - 0.5) * across
    near = reach_mm(program.width_mm, program.depth_mm, azimuth_deg, is_round=program.is_round)
    out = np.sqrt(np.maximum(near**2 - w**2, 0)) if program.is_round else np.full_like(w, near)
    x = np.cos(turn) * out - np.sin(turn) * w
    y = np.sin(turn) * out + np.cos(turn) * w
    return _grid(evaluate, program, x[:, None] * (1 - 1e-4), y[:, None] * (1 - 1e-4), z_mm[None, :])


def block_from_above(evaluate: Evaluator, program: Program, size_mm: tuple[float, float], px_per_mm: float) -> Pixels:
    """What lies around the bar, as high as the bar's upper face (azimuth 90): length and width about its middle.

    The field goes on beyond the bar: so a bigger casting with the same figure is seen before a bar is taken out.
    """
    length, width = size_mm
    columns, rows = (max(1, round(side * px_per_mm)) for side in size_mm)
    z = ((np.arange(columns, dtype=np.float32) + 0.5) / columns - 0.5) * length + program.length_mm / 2
    x = (0.5 - (np.arange(rows, dtype=np.float32) + 0.5) / rows) * width
    top = np.full((1, 1), program.depth_mm / 2 * (1 - 1e-4), dtype=np.float32)
    return _grid(evaluate, program, x[:, None], top, z[None, :])


def section(evaluate: Evaluator, program: Program, z_mm: NDArray[np.float32], rows: int, azimuth_deg: float) -> Pixels:
    """The bar cut open along its axis, the cut turned by an azimuth: the row's place is the distance from the axis."""
    turn = np.deg2rad(azimuth_deg)
    across = 2 * reach_mm(program.width_mm, program.depth_mm, azimuth_deg, is_round=program.is_round)
    w = (0.5 - (np.arange(rows, dtype=np.float32) + 0.5) / rows) * across
    return _grid(evaluate, program, (np.cos(turn) * w)[:, None], (np.sin(turn) * w)[:, None], z_mm[None, :])


def oblique(
    evaluate: Evaluator,
    program: Program,
    plane: tuple[float, float, float],
    size: tuple[int, int],
    ground: tuple[int, int, int],
) -> Pixels:
    """The bar cut open on any plane, seen square on.

    Args:
        evaluate: kernel or reference.
        program: the blank.
        plane: angle to the axis and azimuth in degrees, and where it meets the axis in mm: at 0° the plane holds the
            axis, at 90° it lies straight across.
        size: rows and columns; the columns take in the whole cut, up to the bar's length.
        ground: the colour beside the bar.
    """
    angle, azimuth = np.deg2rad(plane[0]), np.deg2rad(plane[1])
    rows, columns = size
    across = float(np.hypot(program.width_mm, program.depth_mm))
    long = min(program.length_mm, across / max(float(np.sin(angle)), 1e-6)) if angle > 0 else program.length_mm
    # At 0° the middle of the bar stands in the middle of the picture, else the place where the plane meets the axis.
    middle = program.length_mm / 2 if angle == 0 else plane[2]
    v = ((np.arange(columns, dtype=np.float32) + 0.5) / columns - 0.5)[None, :] * np.float32(long)
    u = (0.5 - (np.arange(rows, dtype=np.float32) + 0.5) / rows)[:, None] * np.float32(long * rows / columns)
    x = -np.sin(azimuth) * u - np.sin(angle) * np.cos(azimuth) * v
    y = np.cos(azimuth) * u - np.sin(angle) * np.sin(azimuth) * v
    z = np.broadcast_to(middle + np.cos(angle) * v, x.shape)
    made = _grid(evaluate, program, x, y, z).copy()
    beside = (np.abs(x) > program.width_mm / 2) | (np.abs(y) > program.depth_mm / 2)
    if program.is_round:
        beside = np.hypot(x, y) > program.width_mm / 2
    made[beside | (z < 0) | (z > program.length_mm)] = ground
    made.setflags(write=False)
    return made


def end_face(
    evaluate: Evaluator, program: Program, z_mm: float, size: tuple[int, int], ground: tuple[int, int, int]
) -> Pixels:
    """The bar cut across at a place, seen from its left end, in `size` rows and columns; what is not bar is ground."""
    v, u = ((np.arange(count, dtype=np.float32) + 0.5) / count - 0.5 for count in size)
    x, y = u[None, :] * program.width_mm, -v[:, None] * program.depth_mm
    made = _grid(evaluate, program, x, y, np.full((1, 1), z_mm, dtype=np.float32)).copy()
    if program.is_round:
        made[np.hypot(*np.broadcast_arrays(x, y)) > program.width_mm / 2] = ground
    made.setflags(write=False)
    return made


def turning(radius_px: NDArray[np.float32], rows: int, ground: tuple[int, int, int]) -> Turning:
    """Prepare the picture of a barrel of these radii: (columns,) in pixels, 0 where there is none.

    Seen from the side, a pixel at distance y from the axis lies at asin(y / r) on the surface. A soft key light
    from above, a narrow highlight, a darker limb; `ground` lies behind.
    """
    y = (rows / 2 - np.arange(rows, dtype=np.float32) - 0.5)[:, None]
    radius = np.maximum(radius_px, 1e-3)[None, :]
    angle = np.arcsin(np.clip(y / radius, -1, 1)).astype(np.float32)
    cover = np.clip(radius_px[None, :] - np.abs(y) + 0.5, 0, 1).astype(np.float32)
    off = angle + _LIGHT_FROM
    light = (0.42 + 0.62 * np.clip(np.cos(off), 0, 1)) * (0.72 + 0.28 * np.clip(np.cos(angle), 0, 1) ** 0.6)
    shine = 0.55 * np.exp(-((off / 0.10) ** 2)) + 0.10 * np.exp(-((off / 0.4) ** 2))
    gain = (256 * np.minimum(light, 1) * (1 - shine) * cover).astype(np.uint16)[..., None]
    back = (1 - cover)[..., None] * np.asarray(ground, dtype=np.float32)
    add = (255 * (shine * cover)[..., None] + back).astype(np.uint16)
    turn = angle / np.float32(2 * np.pi)
    return Turning(turn, gain, add, cover, angle_bins(turn))


def turned(surface: Pixels, prepared: Turning, rotation_deg: float, lean: NDArray[np.uint8] | None = None) -> Pixels:
    """The barrel seen from the side at a rotation: the unrolled surface looked up and lit. A few milliseconds.

    `lean` is the surface's `lean_map`, where it has pearl.
    """
    rows, columns, _ = surface.shape
    index = (prepared.turn * np.float32(rows) + np.float32(rotation_deg / 360.0 * rows)).astype(np.int32)
    index %= rows
    index *= columns
    index += np.arange(columns, dtype=np.int32)
    flat = np.ascontiguousarray(surface).reshape(-1, 3).take(index.ravel(), axis=0).astype(np.uint16)
    if lean is not None:
        shimmer(flat, np.ascontiguousarray(lean).ravel().take(index.ravel()), prepared.bins.ravel(), _LUSTRE)
    lit = flat.reshape(*index.shape, 3)
    lit *= prepared.gain
    lit >>= 8
    lit += prepared.add
    made: Pixels = lit.astype(np.uint8)
    made.setflags(write=False)
    return made


def turned_alone(
    surface: Pixels,
    bar_mm: float,
    barrel: TurnedBarrel,
    scale: float,
    ground: tuple[int, int, int],
    *,
    is_flipped: bool,
) -> Pixels:
    """One barrel seen from the side, cut out of the unrolled surface (rows, columns, 3) of a bar `bar_mm` long.

    `scale` is in pixels a millimetre across. Its nib side is at the left, also where it lies end for end on the bar.
    """
    rows, columns, _ = surface.shape
    first, last = (round(end / bar_mm * columns) for end in (barrel.start_mm, barrel.end_mm))
    part = np.roll(surface[:, max(0, first) : last], -round(barrel.turned_deg / 360 * rows), axis=0)
    z = (np.arange(part.shape[1], dtype=np.float32) + 0.5 + max(0, first)) * np.float32(bar_mm / columns)
    radius = outline_mm(z, (barrel,), 0.0) * np.float32(scale)
    if is_flipped:
        part, radius = part[::-1, ::-1], radius[::-1]
    tall = 2 * int(barrel.widest_mm * scale / 2 + 2)
    return turned(part, turning(radius, tall, ground), SEEN_FROM_DEG)


def _palettes(materials: tuple[Material, ...]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """Middle colour and half the way between the two colours, of each material."""
    pairs = np.array([[_rgb(there.colour), _rgb(there.second)] for there in materials], dtype=np.float32)
    swing: NDArray[np.float32] = ((pairs[:, 0] - pairs[:, 1]) / 2).astype(np.float32)
    return pairs.mean(axis=1).astype(np.float32), swing


def _sheet_radius_mm(program: Program) -> float:
    """Where a wrapped sheet lies, which a clear resin over it is looked through to; 0 without one."""
    sheets = program.rows[program.kinds == Kind.WRAP]
    return float((sheets[:, col.WRAP_CORE] + sheets[:, col.WRAP_OUTER]).max() / 2) if sheets.size else 0.0


def _look_into(evaluate, program, colours, clear, points, wall_mm, behind, depths) -> None:  # type: ignore[no-untyped-def]
    """March inwards from clear points, each depth dimmed by what lies before it; what ends the wall is behind all.

    That is whatever is not clear there (a sheet, a core), else the tube or its paint.
    """
    where = np.flatnonzero(clear > 0)
    through = clear[where] ** (wall_mm / depths)
    seen = colours[where] * (1 - through[:, None])
    weight = through
    clearness = np.array([there.clearness_per_mm for there in program.materials], dtype=np.float32)
    for step in range(1, depths):
        sample = evaluate(program, points(wall_mm * step / depths)[:, where])
        passes = clearness[sample.material] ** (wall_mm / depths)
        seen += weight[:, None] * (1 - passes[:, None]) * coloured(program, sample)
        weight = weight * passes
    last = evaluate(program, points(wall_mm)[:, where])
    opaque = clearness[last.material] == 0
    ground = np.where(opaque[:, None], coloured(program, last), np.asarray(behind, dtype=np.float32))
    colours[where] = seen + weight[:, None] * ground


def _grid(
    evaluate: Evaluator,
    program: Program,
    x: NDArray[np.floating],
    y: NDArray[np.floating],
    z: NDArray[np.floating],
) -> Pixels:
    """Where each pixel lies in the field, in bands of rows: a large picture takes no more memory than a small one."""
    x, y, z = np.broadcast_arrays(x, y, z)
    made = np.empty((*x.shape, 3), dtype=np.uint8)
    band = max(1, _MOST_AT_ONCE // x.shape[1])
    for top in range(0, x.shape[0], band):
        rows = slice(top, top + band)
        points = np.stack([part[rows].ravel() for part in (x, y, z)]).astype(np.float32)
        made[rows] = _pixels(coloured(program, evaluate(program, points)), x[rows].shape)
    made.setflags(write=False)
    return made


def _pixels(colours: NDArray[np.floating], shape: tuple[int, ...]) -> Pixels:
    made: Pixels = np.clip(colours, 0, 255).astype(np.uint8).reshape(*shape, 3)
    made.setflags(write=False)
    return made


def _rgb(colour: str) -> list[int]:
    return [int(colour[n : n + 2], 16) for n in (1, 3, 5)]
