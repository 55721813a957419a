"""Photos of bars as a maker would take them: a known texture, tilted, unevenly lit, with noise, on a bench."""

from __future__ import annotations

import io
from functools import cache

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from orvek.documents import Artwork, Corners, PhotoView

Pixels = NDArray[np.uint8]
SIZE = (1200, 800)  # width and height of a photo, in pixels
# Upper left, upper right, lower right, lower left: held a little askew and not straight above.
ASKEW: Corners = ((0.11, 0.42), (0.93, 0.36), (0.95, 0.53), (0.09, 0.60))


def artwork_of(picture: Pixels, name: str = "Photo") -> Artwork:
    """A picture as the file a maker would choose."""
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG")
    return Artwork(name=name, content=out.getvalue())


@cache
def view_of(azimuth_deg: float, seed: int) -> PhotoView:
    """A small photo of nothing in particular, the bar filling it."""
    rng = np.random.default_rng(seed)
    dots = rng.integers(0, 256, (6, 16, 3)).astype(np.uint8)
    return PhotoView(artwork=artwork_of(dots), azimuth_deg=azimuth_deg)


def photographed(
    texture: Pixels,
    corners: Corners = ASKEW,
    *,
    noise: float = 4.0,
    falloff: float = 0.08,
    cast: tuple[float, float, float] = (1.0, 1.0, 1.0),
    bench: tuple[int, int, int] = (176, 168, 156),
    seed: int = 1,
) -> Pixels:
    """A photo of a face with this texture lying on a bench, with the light falling off to one side."""
    wide, tall = SIZE
    rows, columns, _ = texture.shape
    at = np.array(corners, dtype=np.float32) * np.float32((wide, tall)) - np.float32(0.5)
    face = np.array([(-0.5, -0.5), (columns - 0.5, -0.5), (columns - 0.5, rows - 0.5), (-0.5, rows - 0.5)], np.float32)
    matrix = cv2.getPerspectiveTransform(face, at)
    bar = cv2.warpPerspective(texture, matrix, SIZE, flags=cv2.INTER_AREA)
    there = cv2.warpPerspective(np.full((rows, columns), 255, np.uint8), matrix, SIZE, flags=cv2.INTER_LINEAR)
    part = there[..., None] / 255.0
    picture = bar * part + np.array(bench, dtype=float) * (1 - part)
    light = 1 - falloff * np.linspace(0, 1, wide)[None, :, None]
    picture = picture * light * np.array(cast)
    rng = np.random.default_rng(seed)
    picture += rng.normal(0, noise, picture.shape)
    made: Pixels = np.clip(picture, 0, 255).astype(np.uint8)
    return made
