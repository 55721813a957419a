"""An artwork as the field can show it: dots in few enough colours, none of them lost to the eye."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.documents import Artwork, WrapStep
from orvek.documents.job.printing import picture_of
from orvek.errors import CannotReadError

# A barrel of 130 mm at 200 dots an inch; more than a screen shows. A program has 254 materials for everything.
MOST_ALONG, MOST_AROUND, MOST_COLOURS = 1024, 512, 160


class Proof(Struct, frozen=True, eq=False):
    """A picture in dots.

    Attributes:
        colours: "#rrggbb", the most used first.
        dots: (rows, columns) uint8, places among the colours; columns run along the bar, rows round it.
    """

    colours: tuple[str, ...]
    dots: NDArray[np.uint8]


@lru_cache(maxsize=6)
def proof(artwork: Artwork) -> Proof | None:
    """The artwork in at most `MOST_COLOURS`, scaled down to what a screen shows; None where it cannot be read."""
    from PIL import Image

    try:
        picture = picture_of(artwork, (2 * MOST_ALONG, 2 * MOST_AROUND))
    except CannotReadError:
        return None
    picture.thumbnail((MOST_ALONG, MOST_AROUND), Image.Resampling.LANCZOS)
    found = picture.quantize(MOST_COLOURS, dither=Image.Dither.FLOYDSTEINBERG)
    dots = np.frombuffer(found.tobytes(), dtype=np.uint8).reshape(found.height, found.width)
    used, place = np.unique(dots, return_inverse=True)
    palette = np.array(found.getpalette() or [], dtype=np.uint8).reshape(-1, 3)
    colours = tuple("#" + bytes(palette[index]).hex() for index in used)
    shown = place.reshape(dots.shape).astype(np.uint8)
    shown.setflags(write=False)
    return Proof(colours, shown)


def printed(step: WrapStep, z_mm: NDArray[np.float64], turns: NDArray[np.float64]) -> NDArray[np.uint8]:
    """The picture of a wrap at full fineness: colours (…, 3) at places on the bar and parts of the circle.

    It lies where the field has it; beyond a picture that is printed once, and without one, it is white.

    Raises:
        CannotReadError: the picture is gone or damaged.
    """
    assert step.artwork is not None
    picture = np.asarray(picture_of(step.artwork))
    if step.stands == "round the bar":
        picture = np.rot90(picture)
    rows, columns, _ = picture.shape
    around = (turns - step.seam_deg / 360) * step.around
    along = (z_mm - step.shift_mm) / step.pitch_mm
    row = np.minimum((around - np.floor(around)) * rows, rows - 1).astype(int)
    column = np.minimum((along - np.floor(along)) * columns, columns - 1).astype(int)
    found: NDArray[np.uint8] = picture[row, column].copy()
    if step.times == "once":
        found[(along < 0) | (along >= 1)] = 255
    return found
