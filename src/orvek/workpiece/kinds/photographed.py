"""A bar as photographed: a point has the colour of the face nearest to it, paler the deeper it lies."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from orvek.documents import Material, PhotoStep, material
from orvek.documents.photo import SEEN, UNSEEN
from orvek.workpiece import columns as col
from orvek.workpiece.kinds.parts import Case, StepKind
from orvek.workpiece.photo import SHADES, seen
from orvek.workpiece.program import Kind
from orvek.workpiece.rows import Compiler
from orvek.workpiece.state import Floats, State

_VIEW = 5  # cosine, sine, where its dots begin, rows, columns
# Of a round bar nothing is taken nearer to the edge of a view: there the photo sees it edge on.
ROUND_EDGE = 0.97


def _photo_rows(compiler: Compiler, step: PhotoStep) -> None:
    shown = seen(step)
    if shown is None:
        compiler.row(Kind.SOLID, compiler.own(_unseen()), 1.0, 0.0)
        return
    count = len(shown.names)
    wanted = [_ink(colour, shown.names[n % count]) for n, colour in enumerate(shown.colours)]
    inks = bytes(int(ink) for ink in compiler.inks(wanted))
    views = []
    for n, (view, dots) in enumerate(zip(step.views, shown.dots, strict=True)):
        if dots.size == 1:
            continue  # a photo that is gone
        turn = math.radians(view.azimuth_deg)
        start = compiler.put_dots(_shaded(step, n, inks))
        views.append((math.cos(turn), math.sin(turn), start, float(dots.shape[0]), float(dots.shape[1])))
    start = compiler.put(views)
    is_round = 1.0 if step.form == "round" else 0.0
    half = (step.width_mm / 2, (step.width_mm if is_round else step.depth_mm) / 2)
    compiler.row(Kind.PHOTO, start, float(len(views)), *half, step.length_mm, is_round, float(SHADES))


@lru_cache(maxsize=24)
def _shaded(step: PhotoStep, view: int, inks: bytes) -> NDArray[np.uint8]:
    """A face's dots as materials of a program, one shade after the other."""
    shown = seen(step)
    assert shown is not None
    count, place = len(shown.names), np.frombuffer(inks, dtype=np.uint8)
    shades = [place[shown.dots[view] + np.uint8(count * shade)] for shade in range(SHADES)]
    made: NDArray[np.uint8] = np.concatenate(shades)
    return made


@lru_cache(maxsize=1)
def _unseen() -> Material:
    return material("paper").with_(key=UNSEEN, name="Not photographed yet", colour="#d9d4c8", second="#d9d4c8")


@lru_cache(maxsize=4096)
def _ink(colour: str, name: str) -> Material:
    """A colour of the bar; what it is made of nobody knows, so that its density is a guess."""
    paper = material("paper")
    return paper.with_(key=f"{SEEN}{name}", name=name[:1].upper() + name[1:], colour=colour, second=colour)


# -- the reference: the points of a finished blank carried back ------------------------------------------------


def _photo_case(s: State, r: Floats, aux: Floats, _i: int) -> None:
    views = aux[int(r[col.PHOTO_START]) :][: _VIEW * int(r[col.PHOTO_VIEWS])].reshape(-1, _VIEW)
    half = r[col.PHOTO_HALF_WIDTH], r[col.PHOTO_HALF_DEPTH]
    is_round = bool(r[col.PHOTO_ROUND])
    radius = np.maximum(np.hypot(s.x, s.y), 1e-6)
    best = np.full(s.x.shape, np.inf)
    found = np.zeros(s.x.shape)
    for cosine, sine, start, rows, columns in views:
        out, down = s.x * cosine + s.y * sine, -s.x * sine + s.y * cosine
        if is_round:
            near = reach = half[0]
            depth = half[0] - radius + half[0] * (1 - out / radius)
            down = np.clip(down / radius, -ROUND_EDGE, ROUND_EDGE) * half[0]
        else:
            near = half[0] * abs(cosine) + half[1] * abs(sine)
            reach = half[0] * abs(sine) + half[1] * abs(cosine)
            depth = near - out
        row = np.clip(np.floor((down / reach + 1) / 2 * rows), 0, rows - 1)
        column = np.clip(np.floor(s.z / r[col.PHOTO_LENGTH] * columns), 0, columns - 1)
        shade = np.clip(np.floor(depth / near * r[col.PHOTO_SHADES]), 0, r[col.PHOTO_SHADES] - 1)
        dot = start + shade * rows * columns + row * columns + column
        nearer = depth < best
        best, found = np.where(nearer, depth, best), np.where(nearer, dot, found)
    s.decide(s.open, s.dots[found.astype(int)], 0.0)


KINDS: dict[type, StepKind] = {
    PhotoStep: StepKind(_photo_rows),
}
CASES: dict[Kind, Case] = {
    Kind.PHOTO: _photo_case,
}
