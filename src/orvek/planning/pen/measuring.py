"""A pen that was never made before: what to measure, in which order, and what each is for."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import Barrel, Pen
from orvek.quantities import Dimension, Units, write

_MM = Dimension.LENGTH
_OPEN = "not yet"


def measuring_lines(pen: Pen, units: Units) -> Iterator[str]:
    """What to measure of a pen's parts, each with what the job has of it now."""
    for one in pen.barrels:
        if one.has_tube:
            across, long = write(one.tube_diameter_mm, _MM, units, 2), write(one.tube_length_mm, _MM, units)
            yield f"{one.name}, tube: outside and length, by calipers, for bit and bar. Now {across}, {long}."
        bit = write(one.bit_diameter_mm, _MM, units, 2)
        yield f"{one.name}, bit: the smallest that the tube slides into by hand, tried in an offcut. Now {bit}."
    for one in pen.barrels:
        ends = " and ".join(write(size, _MM, units, 2) for size in (one.finished_left_mm, one.finished_right_mm))
        yield f"{one.name}, the parts that meet its ends: outside, by calipers, for its finished sizes. Now {ends}."
        yield f"{one.name}, bushings: outside at both ends; worn ones lie. Now {_bushings(one, units)}."
    pilots = ", ".join(dict.fromkeys(_or_open(one.pilot_mm, units) for one in pen.barrels))
    yield f"End mill's pilot: it goes into the tube without play, for square ends. Now {pilots}."
    deep = [part for part in pen.parts if part.depth_low_mm is not None or part.depth_high_mm is not None]
    listed = f"{len(pen.parts)} parts, {len(deep)} with a depth" if pen.parts else _OPEN
    yield f"Parts: their order, against what each is pressed, how deep a mechanism goes in. Now {listed}."
    tip = _or_open(pen.writing.out_mm, units)
    yield f"Refill, put together dry: how far the tip stands out, for what a barrel may lose. Now {tip}."


def _bushings(one: Barrel, units: Units) -> str:
    return " and ".join(dict.fromkeys(_or_open(size, units) for size in (one.bushing_left_mm, one.bushing_right_mm)))


def _or_open(value: float | None, units: Units) -> str:
    return _OPEN if value is None else write(value, _MM, units, 2)
