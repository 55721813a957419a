"""Pictures of a blank as files: PNG of any view, SVG of the unrolled surface with its boundaries as paths."""

from __future__ import annotations

import io
from typing import Literal
from xml.sax.saxutils import escape

import contourpy
import numpy as np
from PIL import Image

from orvek.errors import OutOfBoundsError
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.colour.part import behind_colour
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator
from orvek.workpiece.lengths import reach_mm
from orvek.workpiece.lustre import lean_map
from orvek.workpiece.outline import outline_mm
from orvek.workpiece.pictures import (
    Pixels,
    end_face,
    face,
    oblique,
    section,
    turned,
    turning,
    unrolled,
    unrolled_materials,
)
from orvek.workpiece.program import Program

View = Literal["bar", "unrolled", "turned", "section"]
VIEWS: tuple[View, ...] = ("bar", "unrolled", "turned", "section")
_PAPER = (245, 242, 235)
_ANGLES = 360
MOST_PIXELS = 40_000_000  # 120 MB while it is drawn; a bar at 8,000 pixels takes about 20 million


def cut_open_png(plan: Plan, evaluate: Evaluator, width: int, plane: tuple[float, float, float]) -> bytes:
    """The bar cut open on any plane (angle, azimuth, place on the axis), `width` pixels wide, as PNG.

    Raises:
        NothingToDoError: the steps make no bar.
    """
    program = compiled(plan.job.blank.steps, *bar_size(plan.layout), plan.job.blank.materials)
    return _png(oblique(evaluate, program, plane, (max(2, width // 3), width), _PAPER))


def picture_png(plan: Plan, evaluate: Evaluator, view: View, width: int, rotation_deg: float = 20.0) -> bytes:
    """A view of the blank, `width` pixels wide, as PNG.

    Raises:
        NothingToDoError: the steps make no bar.
    """
    program = compiled(plan.job.blank.steps, *bar_size(plan.layout), plan.job.blank.materials)
    z = (np.arange(width, dtype=np.float32) + 0.5) * np.float32(program.length_mm / width)
    pixels = {"bar": _bar, "unrolled": _unrolled, "turned": _turned, "section": _section}[view](
        plan, evaluate, program, z, rotation_deg
    )
    return _png(pixels)


def unrolled_svg(plan: Plan, evaluate: Evaluator, width: int) -> bytes:
    """The unrolled surface in mm: every material's area as a path, the barrels' ends as lines.

    Raises:
        NothingToDoError: the steps make no bar.
    """
    program = compiled(plan.job.blank.steps, *bar_size(plan.layout), plan.job.blank.materials)
    barrels = barrels_of(plan)
    z = (np.arange(width, dtype=np.float32) + 0.5) * np.float32(program.length_mm / width)
    radius = outline_mm(z, barrels, _between(program))
    index = unrolled_materials(evaluate, program, z, radius, _ANGLES)
    round_mm = float(2 * np.pi * max(barrel.widest_mm for barrel in barrels) / 2)
    down = (np.arange(_ANGLES) + 0.5) * round_mm / _ANGLES
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{program.length_mm:g}mm" height="{round_mm:.3f}mm" '
        f'viewBox="0 0 {program.length_mm:g} {round_mm:.3f}">',
        f"<title>{escape(plan.job.batch.name)}, rolled out</title>",
    ]
    for number, there in enumerate(program.materials):
        paths = _paths(index == number, z, down)
        if paths:
            name = f"<title>{escape(there.name)}</title>"
            parts.append(f'<path d="{paths}" fill="{there.colour}" fill-rule="evenodd">{name}</path>')
    for barrel in barrels:
        for place in (barrel.start_mm, barrel.end_mm):
            parts.append(f'<path d="M{place:.3f} 0V{round_mm:.3f}" stroke="#b58a3a" stroke-width="0.2" fill="none"/>')
    return "\n".join([*parts, "</svg>", ""]).encode()


def _png(pixels: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG", optimize=True)
    return out.getvalue()


def _bounded(tall: int, wide: int) -> None:
    """Refuse a picture that would take more memory than it is worth.

    Raises:
        OutOfBoundsError: with how many pixels it would have.
    """
    if tall * wide > MOST_PIXELS:
        size = f"{wide} × {tall} pixels"
        raise OutOfBoundsError("A picture", size, f"of at most {MOST_PIXELS // 1_000_000} million pixels")


def _paths(mask: np.ndarray, z_mm: np.ndarray, down_mm: np.ndarray) -> str:
    """The outlines of an area, as the data of one SVG path."""
    if not mask.any():
        return ""
    padded = np.pad(mask.astype(float), 1)
    x = np.concatenate([[z_mm[0] - (z_mm[1] - z_mm[0])], z_mm, [2 * z_mm[-1] - z_mm[-2]]])
    y = np.concatenate([[2 * down_mm[0] - down_mm[1]], down_mm, [2 * down_mm[-1] - down_mm[-2]]])
    lines = contourpy.contour_generator(x, y, padded, line_type="Separate").lines(0.5)
    return "".join("M" + "L".join(f"{px:.3f} {py:.3f}" for px, py in np.asarray(line)) + "Z" for line in lines)


def _between(program: Program) -> float:
    return min(program.width_mm, program.depth_mm) * 0.3


def _surface(plan: Plan, evaluate: Evaluator, program: Program, z: np.ndarray) -> Pixels:
    barrels = barrels_of(plan)
    hole = min(barrel.hole_mm for barrel in barrels) / 2
    outline = outline_mm(z, barrels, _between(program))
    return unrolled(evaluate, program, z, outline, _ANGLES, hole, behind_colour(plan))


def _bar(_plan: Plan, evaluate: Evaluator, program: Program, z: np.ndarray, _rotation: float) -> Pixels:
    """Top, front and the left end, as a maker lays a bar down to look at it."""
    scale = z.size / program.length_mm
    # From above the bar is as high as it is wide, from the front as it is deep.
    above, tall = (max(2, round(side * scale)) for side in (program.width_mm, program.depth_mm))
    gap = max(2, tall // 8)
    _bounded(above + tall + gap, z.size + gap + above)
    sheet = np.empty((above + tall + gap, z.size + gap + above, 3), dtype=np.uint8)
    sheet[:] = _PAPER
    sheet[:above, : z.size] = face(evaluate, program, z, above, 90)
    sheet[above + gap :, : z.size] = face(evaluate, program, z, tall, 0)
    sheet[above + gap :, z.size + gap :] = end_face(evaluate, program, 0.0, (tall, above), _PAPER)
    return sheet


def _unrolled(plan: Plan, evaluate: Evaluator, program: Program, z: np.ndarray, _rotation: float) -> Pixels:
    return _surface(plan, evaluate, program, z)


def _turned(plan: Plan, evaluate: Evaluator, program: Program, z: np.ndarray, rotation: float) -> Pixels:
    barrels, scale = barrels_of(plan), z.size / program.length_mm
    radius = outline_mm(z, barrels, 0.0) * np.float32(scale)
    rows = round(max(barrel.widest_mm for barrel in barrels) * scale) + 5
    _bounded(rows, z.size)
    lean = lean_map(evaluate, program, z, outline_mm(z, barrels, _between(program)), _ANGLES)
    return turned(_surface(plan, evaluate, program, z), turning(radius, rows, _PAPER), rotation, lean)


def _section(_plan: Plan, evaluate: Evaluator, program: Program, z: np.ndarray, rotation: float) -> Pixels:
    across = 2 * reach_mm(program.width_mm, program.depth_mm, rotation, is_round=program.is_round)
    tall = max(2, round(across * z.size / program.length_mm))
    _bounded(tall, z.size)
    return section(evaluate, program, z, tall, rotation)
