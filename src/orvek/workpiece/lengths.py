"""How long the bar is before and after each step: the saw takes a kerf, a sheet or a glue line gives some back.

`lengths_mm` goes forward from a bar as it is cast, sawn or glued; `starts_mm` goes back from the bar that is wanted.
Lengths in mm along the axis.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from orvek.documents import ArcStep, CutStep, RipStep, SliceStep, StavesStep, Step

SHORTEST_MM = 1.0  # what is left of a bar that the saw has eaten up, so that it can still be drawn


def lengths_mm(steps: Sequence[Step], start_mm: float) -> tuple[float, ...]:
    """Length after each step of a bar that begins `start_mm` long.

    >>> lengths_mm((SliceStep(pitch_mm=8, kerf_mm=2, glue_mm=0),), 58)  # six slices of 8, five cuts
    (48.0,)
    """
    length, found = start_mm, []
    for step in steps:
        length = max(SHORTEST_MM, length + _gained_mm(step, _cuts(step, length, _kerf_mm(step))))
        found.append(length)
    return tuple(found)


def starts_mm(steps: Sequence[Step], end_mm: float) -> tuple[float, ...]:
    """Length before each step of a bar that ends `end_mm` long: how much to begin with.

    >>> starts_mm((SliceStep(pitch_mm=8, kerf_mm=2, glue_mm=0),), 48)
    (58.0,)
    """
    length, found = end_mm, []
    for step in reversed(steps):
        gained = _gained_mm(step, _cuts(step, length, _glue_mm(step)))
        length = max(SHORTEST_MM, length - gained)
        found.append(length)
    return tuple(reversed(found))


def _cuts(step: Step, length_mm: float, between_mm: float) -> int:
    """Saw cuts of slices in a bar where `between_mm` lies between two of them."""
    if not isinstance(step, SliceStep):
        return 0
    return max(0, math.ceil(length_mm / (step.pitch_mm + between_mm) - 1e-6) - 1)


def _kerf_mm(step: Step) -> float:
    return step.kerf_mm / math.sin(math.radians(step.angle_deg)) if isinstance(step, SliceStep) else 0.0


def _glue_mm(step: Step) -> float:
    return step.glue_mm / math.sin(math.radians(step.angle_deg)) if isinstance(step, SliceStep) else 0.0


def _gained_mm(step: Step, cuts: int) -> float:
    match step:
        case SliceStep():
            return cuts * (_glue_mm(step) - _kerf_mm(step))
        case CutStep() if step.tab_mm == 0:
            grows, sine = sheet_mm(step) - step.kerf_mm, math.sin(math.radians(step.angle_deg))
            return grows * sine if step.register_by == "normal" else grows / sine
        case RipStep():
            return -abs(step.shift_mm)
        case ArcStep():
            return 2 * (sheet_mm(step) - step.kerf_mm)
        case _:
            return 0.0


def sheet_mm(step: CutStep | ArcStep) -> float:
    """Thickness of what is let into a cut, with the glue on both its faces; 0 where nothing is."""
    return bare_sheet_mm(step) + sheet_joints(step) * step.glue_mm


def bare_sheet_mm(step: CutStep | ArcStep) -> float:
    """Thickness of what is let into a cut as calipers read it, before any glue."""
    return sum(layer.thickness_mm for layer in step.sheet)


def sheet_joints(step: CutStep | ArcStep) -> int:
    """Glue lines that a sheet takes: two for a bonded one, one more than its layers for single ones."""
    if not step.sheet:
        return 0
    return 2 if step.sheet_form == "one bonded sheet" else len(step.sheet) + 1


def reach_mm(width_mm: float, depth_mm: float, azimuth_deg: float, *, is_round: bool = False) -> float:
    """How far a bar reaches from its axis towards an azimuth: to a face, or to the corner that lies that way."""
    if is_round:
        return width_mm / 2
    azimuth = math.radians(azimuth_deg)
    return abs(math.cos(azimuth)) * width_mm / 2 + abs(math.sin(azimuth)) * depth_mm / 2


def staves_hole_mm(step: StavesStep, across_mm: float) -> float:
    """From the axis to the flat inside of a stave in the middle of the bar; 0 where the staves meet."""
    return max(0.0, across_mm / 2 - step.thickness_mm) if step.thickness_mm > 0 else 0.0
