"""Pictures of a blank as arrays: the unrolled surface, the turned barrel, the faces of the bar, sections.

All of them ask the same field. Colours come from the materials and the tone along the grain; a clear resin is
looked into, down to the tube. Arrays are (rows, columns, 3) uint8, read-only, rows from the top.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Material
from orvek.workpiece.field import Evaluator
from orvek.workpiece.program import Program, Sample

Pixels = NDArray[np.uint8]
BRASS = np.array([181, 138, 58], dtype=np.float32)
_LOOK_INTO = 5  # how many depths are sampled in a clear resin
_LIGHT_FROM = -0.62  # angle of the key light on the barrel, in radians above the middle


@dataclass(frozen=True, slots=True)
class Turning:
    """Where each pixel of a turned barrel's picture lies on the unrolled surface, and how it is lit.

    Attributes:
        turn: (rows, columns) float32, angle as a fraction of the circumference.
        gain: (rows, columns, 1) uint16, factor on the colour in 256ths.
        add: (rows, columns, 3) uint16, highlight, and ground where the barrel is not.
        cover: (rows, columns) float32, how much of the pixel is on the barrel, 0 to 1.
    """

    turn: NDArray[np.float32]
    gain: NDArray[np.uint16]
    add: NDArray[np.uint16]
    cover: NDArray[np.float32]

    def part(self, first: int, last: int) -> Turning:
        """A stretch of columns."""
        columns = slice(first, last)
        return Turning(self.turn[:, columns], self.gain[:, columns], self.add[:, columns], self.cover[:, columns])


def coloured(program: Program, sample: Sample) -> NDArray[np.float32]:
    """Colours (n, 3) of a sample, 0 to 255."""
    base, swing = _palettes(program.materials)
    colours: NDArray[np.float32] = base[sample.material] + sample.tone[:, None] * swing[sample.material]
    return colours


def unrolled(
    evaluate: Evaluator,
    program: Program,
    z_mm: NDArray[np.float32],
    radius_mm: NDArray[np.float32],
    rows: int,
    hole_radius_mm: float = 0.0,
) -> Pixels:
    """The surface at a radius, rolled out: row 0 is azimuth 0, counted towards +y.

    Args:
        evaluate: kernel or reference.
        program: the blank.
        z_mm: (columns,) places along the bar.
        radius_mm: (columns,) radius of the surface there.
        rows: how many angles.
        hole_radius_mm: where a clear resin ends in front of the tube.
    """
    angle = (np.arange(rows, dtype=np.float32) + 0.5) * np.float32(2 * np.pi / rows)
    direction = np.stack([np.cos(angle), np.sin(angle)])

    def points(depth_mm: float) -> NDArray[np.float32]:
        radius = np.maximum(radius_mm - depth_mm, hole_radius_mm)
        x, y = direction[:, :, None] * radius[None, None, :]
        return np.stack([x.ravel(), y.ravel(), np.broadcast_to(z_mm, x.shape).ravel()]).astype(np.float32)

    surface = points(0.0)
    sample = evaluate(program, surface)
    colours = coloured(program, sample)
    clear = np.array([there.clearness_per_mm for there in program.materials], dtype=np.float32)[sample.material]
    if clear.any():
        wall = float(np.max(radius_mm)) - hole_radius_mm
        _look_into(evaluate, program, colours, clear, points, wall)
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
    """The bar seen from the side, from the direction of an azimuth: its outer face, flat."""
    turn = np.deg2rad(azimuth_deg)
    half, across = program.width_mm / 2, program.depth_mm
    w = ((np.arange(rows, dtype=np.float32) + 0.5) / rows - 0.5) * across
    x = np.cos(turn) * half - np.sin(turn) * w
    y = np.sin(turn) * half + np.cos(turn) * w
    return _grid(evaluate, program, x[:, None] * (1 - 1e-4), y[:, None] * (1 - 1e-4), z_mm[None, :])


def section(evaluate: Evaluator, program: Program, z_mm: NDArray[np.float32], rows: int, azimuth_deg: float) -> Pixels:
    """The bar cut open along its axis, the cut turned by an azimuth: the row's place is the distance from the axis."""
    turn = np.deg2rad(azimuth_deg)
    w = (0.5 - (np.arange(rows, dtype=np.float32) + 0.5) / rows) * program.depth_mm
    return _grid(evaluate, program, (np.cos(turn) * w)[:, None], (np.sin(turn) * w)[:, None], z_mm[None, :])


def end_face(evaluate: Evaluator, program: Program, z_mm: float, size: int) -> Pixels:
    """The bar cut across at a place, seen from its left end."""
    step = (np.arange(size, dtype=np.float32) + 0.5) / size - 0.5
    x, y = step[None, :] * program.width_mm, -step[:, None] * program.depth_mm
    return _grid(evaluate, program, x, y, np.full((1, 1), z_mm, dtype=np.float32))


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
    return Turning(angle / np.float32(2 * np.pi), gain, add, cover)


def turned(surface: Pixels, prepared: Turning, rotation_deg: float) -> Pixels:
    """The barrel seen from the side at a rotation: the unrolled surface looked up and lit. A few milliseconds."""
    rows, columns, _ = surface.shape
    index = (prepared.turn * np.float32(rows) + np.float32(rotation_deg / 360.0 * rows)).astype(np.int32)
    index %= rows
    index *= columns
    index += np.arange(columns, dtype=np.int32)
    lit = (
        np.ascontiguousarray(surface)
        .reshape(-1, 3)
        .take(index.ravel(), axis=0)
        .reshape(*index.shape, 3)
        .astype(np.uint16)
    )
    lit *= prepared.gain
    lit >>= 8
    lit += prepared.add
    made: Pixels = lit.astype(np.uint8)
    made.setflags(write=False)
    return made


def _palettes(materials: tuple[Material, ...]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """Middle colour and half the way between the two colours, of each material."""
    pairs = np.array([[_rgb(there.colour), _rgb(there.second)] for there in materials], dtype=np.float32)
    swing: NDArray[np.float32] = ((pairs[:, 0] - pairs[:, 1]) / 2).astype(np.float32)
    return pairs.mean(axis=1).astype(np.float32), swing


def _look_into(evaluate, program, colours, clear, points, wall_mm: float) -> None:  # type: ignore[no-untyped-def]
    """March inwards from clear points, each depth dimmed by what lies before it; the tube is at the end."""
    where = np.flatnonzero(clear > 0)
    through = clear[where] ** (wall_mm / _LOOK_INTO)
    seen = colours[where] * (1 - through[:, None])
    weight = through
    clearness = np.array([there.clearness_per_mm for there in program.materials], dtype=np.float32)
    for step in range(1, _LOOK_INTO):
        sample = evaluate(program, points(wall_mm * step / _LOOK_INTO)[:, where])
        passes = clearness[sample.material] ** (wall_mm / _LOOK_INTO)
        seen += weight[:, None] * (1 - passes[:, None]) * coloured(program, sample)
        weight = weight * passes
    colours[where] = seen + weight[:, None] * BRASS


def _grid(
    evaluate: Evaluator,
    program: Program,
    x: NDArray[np.floating],
    y: NDArray[np.floating],
    z: NDArray[np.floating],
) -> Pixels:
    x, y, z = np.broadcast_arrays(x, y, z)
    points = np.stack([x.ravel(), y.ravel(), z.ravel()]).astype(np.float32)
    return _pixels(coloured(program, evaluate(program, points)), x.shape)


def _pixels(colours: NDArray[np.floating], shape: tuple[int, ...]) -> Pixels:
    made: Pixels = np.clip(colours, 0, 255).astype(np.uint8).reshape(*shape, 3)
    made.setflags(write=False)
    return made


def _rgb(colour: str) -> list[int]:
    return [int(colour[n : n + 2], 16) for n in (1, 3, 5)]
