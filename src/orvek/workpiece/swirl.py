"""An impression of a swirled casting: seeded, repeatable, with each cup's colour in its right share.

It is a drawing, not a forecast: nobody knows how the colours will run. What is exact is the share of the area
that each cup takes. `swirl_field` makes the pattern once; `swirl_picture` colours it, which is quick enough
for a drag.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.workpiece.waves import swirl_pattern, swirl_waves

_BLEND = 0.05  # how softly two colours meet, as a fraction of the pattern's range
_SHIMMER = 9.0  # grey levels of pearl


class SwirlField(Struct, frozen=True):
    """A pattern on a grid.

    Attributes:
        level: (rows, columns) float32, uniformly distributed over 0..1, read-only; a cup takes the band of
            levels that its share is wide.
        shimmer: (rows, columns) float32, -1..1, read-only: light on pearl.
    """

    level: NDArray[np.float32]
    shimmer: NDArray[np.float32]


def swirl_field(
    length_mm: float,
    across_mm: float,
    rows: int,
    columns: int,
    seed: int,
    scale: float = 1.0,
    stretch: float = 1.0,
    contrast: float = 1.0,
) -> SwirlField:
    """A swirl on a rectangle of `length_mm` along by `across_mm` across, sampled on rows x columns points.

    A sum of a few waves, bent by two others, ranked so that every level is equally common. The same seed and
    size give the same pattern, whatever the number of points, to within the sampling.
    """
    z = np.linspace(0, length_mm, columns)[None, :]
    x = np.linspace(0, across_mm, rows)[:, None]
    pattern = swirl_pattern(swirl_waves(seed, scale, stretch, contrast), x, np.zeros((1, 1)), z)
    order = np.argsort(pattern, axis=None)
    level = np.empty(pattern.size, dtype=np.float32)
    level[order] = np.linspace(0, 1, pattern.size, dtype=np.float32)
    shimmer = np.sin(7.0 * pattern).astype(np.float32)
    field = SwirlField(level.reshape(pattern.shape), shimmer)
    field.level.setflags(write=False)
    field.shimmer.setflags(write=False)
    return field


def swirl_picture(
    field: SwirlField, colours: tuple[tuple[int, int, int], ...], shares: tuple[float, ...]
) -> NDArray[np.uint8]:
    """Colour a pattern.

    Args:
        field: from `swirl_field`.
        colours: (red, green, blue) 0..255 of each cup.
        shares: of each cup, any positive numbers.

    Returns:
        (rows, columns, 3) uint8, read-only; each colour covers its share of the area to within the blending
        at the borders. No cups give a neutral grey.
    """
    if not colours:
        colours, shares = ((214, 208, 196),), (1.0,)
    palette = np.asarray(colours, dtype=np.float32)
    borders = np.cumsum(np.asarray(shares, dtype=np.float64) / sum(shares))[:-1].astype(np.float32)
    picture = np.broadcast_to(palette[0], (*field.level.shape, 3)).astype(np.float32)
    for border, colour in zip(borders, palette[1:], strict=True):
        mix = np.clip((field.level - border) / _BLEND + 0.5, 0, 1)[..., None]
        picture += mix * (colour - picture)
    picture += _SHIMMER * field.shimmer[..., None]
    result = np.clip(picture, 0, 255).astype(np.uint8)
    result.setflags(write=False)
    return result
