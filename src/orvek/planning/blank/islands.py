"""Parts of a finished shell that hang on their bond alone, found by joining neighbouring points of one material."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Any

from msgspec import Struct

from orvek.documents import Job, Material, Step, missing_stock
from orvek.planning.bar import bar_size, laid_barrels
from orvek.planning.layout import Layout
from orvek.workpiece.outline import TurnedBarrel

_DEEP, _ROUND, _STEP_MM = 3, 36, 1.0  # points through the wall, round it, and along it


class Island(Struct, frozen=True):
    """A loose part: on which barrel, of what, where its middle lies along the bar, how large."""

    barrel: int
    material: str
    at_mm: float
    volume_ml: float


def islands(job: Job, layout: Layout) -> tuple[Island, ...]:
    """All parts of a barrel's shell but the largest of each material, the largest first."""
    steps = job.blank.steps
    if missing_stock(steps):
        return ()
    found: list[Island] = []
    for number, barrel in enumerate(laid_barrels(job, layout)):
        parts = _parts(steps, bar_size(layout), job.blank.materials, barrel)
        found += [Island(number, name, at, volume) for name, at, volume in parts]
    return tuple(sorted(found, key=lambda one: -one.volume_ml))


@lru_cache(maxsize=32)
def _parts(
    steps: tuple[Step, ...],
    size: tuple[float, float, float, bool],
    own: tuple[Material, ...],
    barrel: TurnedBarrel,
) -> tuple[tuple[str, float, float], ...]:
    import numpy as np

    from orvek.workpiece.compiling import compiled
    from orvek.workpiece.outline import outline_mm
    from orvek.workpiece.reference import evaluate_reference

    program = compiled(steps, *size, own=own)
    z = np.arange(barrel.start_mm + _STEP_MM / 2, barrel.end_mm, _STEP_MM, dtype=np.float32)
    outer, hole = outline_mm(z, (barrel,), 1.0), barrel.hole_mm / 2
    part = (np.arange(_DEEP) + 0.5) / _DEEP
    radius = hole + part[:, None, None] * (outer[None, None, :] - hole)
    angle = (np.arange(_ROUND) * 2 * np.pi / _ROUND)[None, :, None]
    x, y = radius * np.cos(angle), radius * np.sin(angle)
    points = np.stack([v.ravel() for v in (x, y, np.broadcast_to(z, x.shape))]).astype(np.float32)
    material = evaluate_reference(program, points).material.reshape(x.shape)
    cell_ml = radius * (outer - hole) / _DEEP * (2 * np.pi / _ROUND) * _STEP_MM / 1000
    cell_ml = np.broadcast_to(cell_ml, material.shape)
    return tuple(_smaller(program.materials, material, _labels(material), cell_ml, z))


def _labels(material: Any) -> Any:
    """One number for all points, (deep, round, along), that neighbours of the same material join."""
    import numpy as np

    label = np.arange(material.size).reshape(material.shape)
    while True:
        before = label.copy()
        for axis in range(3):
            for way in (1, -1):
                beside, there = np.roll(label, way, axis), np.roll(material, way, axis)
                if axis != 1:  # the wall has an inside and an outside, the barrel two ends; only round it does it close
                    edge = [slice(None)] * 3
                    edge[axis] = slice(0, 1) if way == 1 else slice(-1, None)
                    beside[tuple(edge)] = label[tuple(edge)]
                    there[tuple(edge)] = material[tuple(edge)]
                label = np.where(there == material, np.minimum(label, beside), label)
        label = label.ravel()[label.ravel()].reshape(label.shape)  # a long way in few rounds
        if (label == before).all():
            break
    return label


def _smaller(
    materials: tuple[Material, ...], material: Any, label: Any, cell_ml: Any, z: Any
) -> Iterator[tuple[str, float, float]]:
    """Of each material the parts that are not its largest, as (name, place, volume)."""
    import numpy as np

    for index in np.unique(material):
        here = material == index
        names, place = np.unique(label[here], return_inverse=True)
        volume = np.bincount(place, cell_ml[here])
        along = np.bincount(place, (cell_ml * z)[here]) / volume
        for n in range(len(names)):
            if n != int(volume.argmax()):
                yield materials[index].name, float(along[n]), float(volume[n])
