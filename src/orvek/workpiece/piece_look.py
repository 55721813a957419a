"""What a piece on the shelf looks like from the side, and how alike two pieces are to the eye."""

from __future__ import annotations

import io

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.documents import FACES, Artwork, Material, PhotoStep, PhotoView, Piece, Step
from orvek.workpiece.compiling import compiled
from orvek.workpiece.eye import lab
from orvek.workpiece.field import Evaluator
from orvek.workpiece.pictures import Pixels, face
from orvek.workpiece.program import Program

_QUANTILES = np.linspace(0.02, 0.98, 25)
_STRETCHES_MM = (1.0, 3.0, 9.0)  # at which a pattern is fine, middling or coarse
_PATTERN = 1.5  # how much the pattern counts beside colours (a choice)


class PieceBar(Struct, frozen=True):
    """The bar that a piece is, or is a part of: its steps, its size (width, depth, length, roundness), where on it."""

    steps: tuple[Step, ...]
    size: tuple[float, float, float, bool]
    materials: tuple[Material, ...] = ()
    begins_mm: float = 0.0

    def program(self) -> Program:
        """Its field."""
        return compiled(self.steps, *self.size, self.materials)


def bar_of(piece: Piece, album: PhotoStep | None = None) -> PieceBar:
    """A piece's bar: by its photos where it has some, else by the steps that made it, else a grey one."""
    if album is None and piece.look is not None:
        made = piece.look
        size = made.width_mm, made.depth_mm, made.length_mm, made.is_round
        return PieceBar(made.steps, size, made.materials, made.from_mm)
    step = piece.as_bar(album)
    return PieceBar((step,), (step.width_mm, step.depth_mm, step.length_mm, step.form == "round"))


def piece_face(
    evaluate: Evaluator, piece: Piece, album: PhotoStep | None, columns: int, rows: int, azimuth_deg: float = 90.0
) -> Pixels:
    """The piece from the side: (rows, columns, 3)."""
    bar = bar_of(piece, album)
    program = bar.program()
    z = bar.begins_mm + (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(piece.length_mm / columns)
    return face(evaluate, program, np.minimum(z, np.float32(program.length_mm - 1e-3)), rows, azimuth_deg)


def rendered(evaluate: Evaluator, piece: Piece, px_per_mm: float = 6.0) -> PhotoStep:
    """A piece's computed look as if it had been photographed on all four faces, so that a blank can begin with it."""
    step = piece.as_bar()
    views = []
    for letter, azimuth in FACES.items():
        size = round(piece.length_mm * px_per_mm), max(2, round(step.across_mm(azimuth) * px_per_mm))
        pixels = piece_face(evaluate, piece, None, *size, azimuth)
        artwork = Artwork(name=f"As computed, face {letter}", content=_png(pixels))
        views.append(PhotoView(artwork=artwork, azimuth_deg=azimuth))
    return step.with_(views=tuple(views))


def apart(one: Pixels, other: Pixels, mm: tuple[float, float]) -> float:
    """How unlike two pieces are to the eye, about in steps of L*a*b*: 0 alike, 5 hardly told apart, 30 another thing.

    The colours' quantiles side by side, and how much each changes along it within short, middling and long stretches.
    A guess at what an eye weighs: pictures are shown beside it.

    Args:
        one, other: faces, (rows, columns, 3).
        mm: how long each of them is.
    """
    labs = [lab(pixels.reshape(-1, 3).astype(float)) for pixels in (one, other)]
    quantiles = [np.quantile(found, _QUANTILES, axis=0) for found in labs]
    colours = float(np.linalg.norm(quantiles[0] - quantiles[1], axis=1).mean())
    changes = [_changes(pixels, long) for pixels, long in zip((one, other), mm, strict=True)]
    return colours + _PATTERN * float(np.abs(changes[0] - changes[1]).mean())


def _changes(pixels: Pixels, long_mm: float) -> NDArray[np.float64]:
    """How much lightness changes along a face, on average, over each of the stretches."""
    light = lab(pixels.astype(float))[..., 0]
    per_mm = pixels.shape[1] / long_mm
    found = []
    for stretch in _STRETCHES_MM:
        step = min(max(1, round(stretch * per_mm)), pixels.shape[1] - 1)
        found.append(np.abs(light[:, step:] - light[:, :-step]).mean() if step else 0.0)
    return np.array(found)


def _png(pixels: Pixels) -> bytes:
    from PIL import Image

    out = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(pixels)).save(out, "PNG")
    return out.getvalue()
