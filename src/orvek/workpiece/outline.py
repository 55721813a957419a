"""The finished outline: barrels on the bar and the radius of what is turned, without loading NumPy until asked."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct

from orvek.documents import Barrel

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

SEEN_FROM_DEG = 20.0  # the azimuth in the middle of a picture of a barrel that is not turned


class TurnedBarrel(Struct, frozen=True, order=True):
    """One barrel as it lies on the bar: where its tube begins and ends, finished diameters, and its hole, in mm;
    how far it is turned about its axis.
    """

    start_mm: float
    end_mm: float
    left_mm: float
    right_mm: float
    hole_mm: float
    turned_deg: float = 0.0
    between: tuple[tuple[float, float], ...] = ()  # parts of the length from the left, and the diameters there

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """The outline from end to end: parts of the length with their diameters."""
        return ((0.0, self.left_mm), *self.between, (1.0, self.right_mm))

    @property
    def widest_mm(self) -> float:
        """The largest diameter."""
        return max(diameter for _, diameter in self.profile)


def barrel_at(barrel: Barrel, start_mm: float, turned_deg: float = 0.0) -> TurnedBarrel:
    """A pen's barrel with its tube beginning at a place on the bar."""
    return TurnedBarrel(
        start_mm,
        start_mm + barrel.tube_length_mm,
        barrel.finished_left_mm,
        barrel.finished_right_mm,
        barrel.bit_diameter_mm,
        turned_deg,
        barrel.profile[1:-1],
    )


def outline_mm(z_mm: NDArray[np.float32], barrels: tuple[TurnedBarrel, ...], between_mm: float) -> NDArray[np.float32]:
    """Radius of the finished surface at places along the bar.

    Args:
        z_mm: (n,) places.
        barrels: what is turned; straight from point to point of their profiles.
        between_mm: the radius where nothing is turned.
    """
    import numpy as np

    radius = np.full(z_mm.size, between_mm, dtype=np.float32)
    for barrel in barrels:
        here = (z_mm >= barrel.start_mm) & (z_mm <= barrel.end_mm)
        along = (z_mm[here] - barrel.start_mm) / max(barrel.end_mm - barrel.start_mm, 1e-6)
        places, diameters = zip(*barrel.profile, strict=True)
        radius[here] = np.interp(along, places, diameters) / 2
    return radius
