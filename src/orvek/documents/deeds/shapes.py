"""Shapes of barrels: a few in one step, which keep what is finished at the ends, or points as they are typed."""

import re
from collections.abc import Callable

from orvek.documents.base import declared
from orvek.documents.job.job import Job
from orvek.documents.shelf.pen import MOST_POINTS, Barrel, OutlinePoint
from orvek.errors import NothingToDoError, NotUnderstoodError, OutOfBoundsError
from orvek.quantities import Dimension, Units, read, write

POINTS_WANTED = "places from the tube's left end with the diameter there, like 12 mm: 13.4 mm; 30 mm: 14 mm"

_SWELL_MM, _WAIST_MM, _SHOULDER_MM, _RECESS_MM = 1.4, -0.8, 1.2, 1.0
_PLACES = tuple(n / 8 for n in range(1, 8))
_STEP = 0.002  # of the length: a shoulder is as hard as it can be turned

Shape = Callable[[Barrel], tuple[OutlinePoint, ...]]


def straight_mm(barrel: Barrel, at: float) -> float:
    """The diameter at a place of a barrel that goes straight from end to end."""
    return barrel.finished_left_mm + (barrel.finished_right_mm - barrel.finished_left_mm) * at


def _curved(by_mm: float) -> Shape:
    """Straight, and so much more in the middle, in a parabola."""
    return lambda barrel: tuple(
        OutlinePoint(at=at, diameter_mm=round(straight_mm(barrel, at) + by_mm * (1 - (2 * at - 1) ** 2), 2))
        for at in _PLACES
    )


def _shoulder(barrel: Barrel) -> tuple[OutlinePoint, ...]:
    """A slim neck over the first fifth, then a hard step."""
    place, neck = 0.2, straight_mm(barrel, 0.2)
    return (
        OutlinePoint(at=place, diameter_mm=round(neck, 2)),
        OutlinePoint(at=place + _STEP, diameter_mm=round(neck + _SHOULDER_MM, 2)),
    )


def _recess(barrel: Barrel) -> tuple[OutlinePoint, ...]:
    """A groove for a ring near the right end."""
    places = (0.9, 0.9 + _STEP, 0.95, 0.95 + _STEP)
    depths = (0.0, _RECESS_MM, _RECESS_MM, 0.0)
    return tuple(
        OutlinePoint(at=at, diameter_mm=round(straight_mm(barrel, at) - deep, 2))
        for at, deep in zip(places, depths, strict=True)
    )


SHAPES: dict[str, Shape] = {
    "straight": lambda _barrel: (),
    "swelling": _curved(_SWELL_MM),
    "waisted": _curved(_WAIST_MM),
    "hard shoulder": _shoulder,
    "ring recess": _recess,
}


def shape_of(barrel: Barrel) -> str:
    """What a barrel's shape is called: one of `SHAPES`, else "by points"."""
    return next((name for name, shape in SHAPES.items() if shape(barrel) == barrel.outline), "by points")


def shape_barrel(job: Job, index: int, shape: str) -> Job:
    """Give a barrel one of the shapes.

    Raises:
        NothingToDoError: there is no such barrel.
    """
    barrel = _barrel(job, index)
    return set_outline(job, index, SHAPES[shape](barrel))


def set_outline(job: Job, index: int, outline: tuple[OutlinePoint, ...]) -> Job:
    """Give a barrel an outline by points."""
    barrel = _barrel(job, index)
    assert job.pen is not None
    barrels = [barrel.with_(outline=outline) if n == index else one for n, one in enumerate(job.pen.barrels)]
    return job.with_(pen=job.pen.with_(barrels=tuple(barrels)))


def written_points(barrel: Barrel, units: Units) -> str:
    """A barrel's points as they are typed."""
    pairs = ((point.at * barrel.tube_length_mm, point.diameter_mm) for point in barrel.outline)
    return "; ".join(": ".join(write(value, Dimension.LENGTH, units, 2) for value in pair) for pair in pairs)


def read_points(text: str, barrel: Barrel, units: Units) -> tuple[OutlinePoint, ...]:
    """Points as they were typed, in any order; nothing makes the barrel straight.

    Raises:
        NotUnderstoodError, OutOfBoundsError: something else stands there, or a point lies beside the tube.
    """
    found: list[OutlinePoint] = []
    bounds = declared(OutlinePoint, "diameter_mm")
    for part in filter(None, (piece.strip() for piece in text.split(";"))):
        pair = re.split(r"\s*:\s*", part)
        if len(pair) != 2:
            raise NotUnderstoodError(part, POINTS_WANTED)
        place, diameter = (read(one, Dimension.LENGTH, units) for one in pair)
        if not 0 < place < barrel.tube_length_mm:
            length = write(barrel.tube_length_mm, Dimension.LENGTH, units)
            raise OutOfBoundsError("A place on the outline", pair[0], f"between the ends of the tube, 0 and {length}")
        if not bounds.low <= diameter <= bounds.high:
            raise OutOfBoundsError("A diameter of the outline", pair[1], bounds.limit(units))
        found.append(OutlinePoint(at=place / barrel.tube_length_mm, diameter_mm=diameter))
    if len(found) > MOST_POINTS:
        raise OutOfBoundsError("The outline", f"{len(found)} points", f"at most {MOST_POINTS} points")
    return tuple(sorted(found, key=lambda point: point.at))


def _barrel(job: Job, index: int) -> Barrel:
    if job.pen is None or not 0 <= index < len(job.pen.barrels):
        raise NothingToDoError("Shaping a barrel", "a pen with that barrel")
    return job.pen.barrels[index]
