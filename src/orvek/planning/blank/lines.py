"""Lines of the pattern near the barrels' ends, and how wide each inlay shows: read from the field's surface."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

from msgspec import Struct

from orvek.documents import Job, Material, Step, missing_stock
from orvek.documents.photo import is_photo
from orvek.planning.bar import bar_size, laid_barrels
from orvek.planning.layout import Layout
from orvek.workpiece.outline import TurnedBarrel

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    from orvek.workpiece.program import Program


class EndLine(Struct, frozen=True):
    """A line of the pattern near an end of a barrel: how far inside, and of which material."""

    barrel: int
    side: str
    inside_mm: float
    material: str


class Showing(Struct, frozen=True):
    """How wide a let-in material shows along a barrel, over all angles."""

    barrel: int
    material: str
    least_mm: float
    most_mm: float


_WITHIN_MM = 3.0  # of an end: where a line is seen to miss the lip
_STEP_MM = 0.1  # how finely a line is looked for
_ANGLES = 36  # how many sides are looked at
_FINE_MM = 0.05  # how finely a width is measured
# Steps that draw single lines across the bar. Strips and staves cross every end, slices come too close together to
# keep them off, and a casting is an impression.
LINE_KINDS = {"cut", "arc", "stack", "plug"}


def end_lines(job: Job, layout: Layout | None) -> tuple[EndLine, ...]:
    """The line nearest to each end of each barrel, inside it by at most 3 mm; ends without one are left out."""
    steps = job.blank.steps
    if layout is None or missing_stock(steps) or not any(step.kind in LINE_KINDS for step in steps):
        return ()
    found = []
    for number, barrel in enumerate(laid_barrels(job, layout)):
        for side in ("left", "right"):
            line = _nearest(steps, bar_size(layout), job.blank.materials, barrel, side == "left")
            if line is not None:
                found.append(EndLine(number, side, *line))
    return tuple(found)


def showings(job: Job, layout: Layout | None) -> tuple[Showing, ...]:
    """How wide each let-in material shows along each barrel, over all angles; the barrel's own body is left out."""
    steps = job.blank.steps
    if layout is None or missing_stock(steps) or not any(step.kind in LINE_KINDS for step in steps):
        return ()
    found: list[Showing] = []
    for number, barrel in enumerate(laid_barrels(job, layout)):
        found += [
            Showing(number, name, least, most)
            for name, least, most in _widths(steps, bar_size(layout), job.blank.materials, barrel)
        ]
    return tuple(found)


@lru_cache(maxsize=4)
def surface_program(
    steps: tuple[Step, ...], size: tuple[float, float, float, bool], own: tuple[Material, ...]
) -> Program:
    """One program serves all ends of all barrels."""
    from orvek.workpiece.compiling import compiled

    return compiled(steps, *size, own)


def _photo_as_one(program: Program) -> NDArray[np.uint8]:
    """Each material's number, all colours of a photographed bar as one: between them there is no line that chips."""
    import numpy as np

    seen = [n for n, there in enumerate(program.materials) if is_photo(there.key)]
    return np.array([seen[0] if n in seen else n for n in range(len(program.materials))], dtype=np.uint8)


@lru_cache(maxsize=128)
def _nearest(
    steps: tuple[Step, ...],
    size: tuple[float, float, float, bool],
    own: tuple[Material, ...],
    barrel: TurnedBarrel,
    left: bool,
) -> tuple[float, str] | None:
    """Distance of the nearest line inside an end, and the material that begins or ends there."""
    import numpy as np

    from orvek.workpiece.pictures import unrolled_materials
    from orvek.workpiece.reference import evaluate_reference

    program = surface_program(steps, size, own)
    inwards = np.arange(0, _WITHIN_MM, _STEP_MM, dtype=np.float32) + np.float32(_STEP_MM / 2)
    z = barrel.start_mm + inwards if left else barrel.end_mm - inwards
    radius = np.full(z.size, (barrel.left_mm if left else barrel.right_mm) / 2, dtype=np.float32)
    one_body = _photo_as_one(program)
    surface = one_body[unrolled_materials(evaluate_reference, program, z.astype(np.float32), radius, _ANGLES)]
    changes = surface[:, 1:] != surface[:, :-1]
    if not changes.any():
        return None
    column = int(np.argmax(changes.any(axis=0)))
    angle = int(np.argmax(changes[:, column]))
    names = [there.name for there in program.materials]
    glue = [there.look == "glue" for there in program.materials]
    one, other = surface[angle, column], surface[angle, column + 1]
    along = np.linspace(barrel.start_mm, barrel.end_mm, 80, dtype=np.float32)
    whole = one_body[unrolled_materials(evaluate_reference, program, along, np.full(80, radius[0], np.float32), 12)]
    body = np.bincount(whole.ravel()).argmax()
    seen = other if one == body or glue[one] else one
    return float((column + 1) * _STEP_MM), names[seen]


@lru_cache(maxsize=64)
def _widths(
    steps: tuple[Step, ...], size: tuple[float, float, float, bool], own: tuple[Material, ...], barrel: TurnedBarrel
) -> tuple[tuple[str, float, float], ...]:
    import numpy as np

    from orvek.workpiece.outline import outline_mm
    from orvek.workpiece.pictures import unrolled_materials
    from orvek.workpiece.reference import evaluate_reference

    program = surface_program(steps, size, own)
    z = np.arange(barrel.start_mm, barrel.end_mm, _FINE_MM, dtype=np.float32)
    surface = unrolled_materials(evaluate_reference, program, z, outline_mm(z, (barrel,), 1.0), _ANGLES)
    body = np.bincount(surface.ravel()).argmax()
    found = []
    for index, there in enumerate(program.materials):
        if index == body or there.key.startswith("cup ") or is_photo(there.key):
            continue
        runs = [run for row in surface == index for run in _runs(row)]
        if runs:
            found.append((there.name, min(runs) * _FINE_MM, max(runs) * _FINE_MM))
    return tuple(found)


def _runs(row: object) -> list[int]:
    """Lengths of the stretches of True that do not touch the row's ends."""
    import numpy as np

    edges = np.flatnonzero(np.diff(np.concatenate([[0], np.asarray(row, dtype=np.int8), [0]])))
    size = np.asarray(row).size
    pairs = zip(edges[::2], edges[1::2], strict=True)
    return [int(end - start) for start, end in pairs if start > 0 and end < size]
