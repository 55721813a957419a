"""Moulds: the volume of a cavity, how many bars a casting gives, and what section the bars have."""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.craft.laying_out import pieces
from orvek.documents import BarInHand, BarMould, LoafMould, RoundMould

AnyMould = BarMould | RoundMould | LoafMould


class BarSection(Struct, frozen=True):
    """A bar: width and depth across, length along; a round one has both the same.

    `end_loss_mm` is what a bar in hand loses at each end; None where the job says it, as for a bar from a mould.
    """

    width_mm: float
    depth_mm: float
    length_mm: float
    is_round: bool
    end_loss_mm: float | None = None

    @property
    def smallest_mm(self) -> float:
        """The largest diameter that could be turned from it if everything were centred."""
        return min(self.width_mm, self.depth_mm)


def cavity_ml(mould: AnyMould) -> float:
    """Volume of one cavity (of the whole loaf): w·d·l, or π/4·D²·l."""
    if isinstance(mould, RoundMould):
        return math.pi / 4 * mould.diameter_mm**2 * mould.length_mm / 1000
    return mould.width_mm * mould.depth_mm * mould.length_mm / 1000


def shrunk_mm(across_mm: float, volume_pct: float) -> float:
    """How much smaller a casting comes out across, having lost so much of its volume: w · (1 − ∛(1 − s)). Derived.

    >>> round(shrunk_mm(20, 6.5), 2)
    0.44
    """
    return float(across_mm * (1 - (1 - volume_pct / 100) ** (1 / 3)))


def section_in_hand(bar: BarInHand) -> BarSection:
    """A bar on the bench: a round one by its diameter, an irregular one by the smallest section it has."""
    if bar.form == "round":
        return BarSection(bar.width_mm, bar.width_mm, bar.length_mm, True, bar.end_loss_mm)
    if bar.form == "irregular":
        least = min(bar.width_mm, bar.depth_mm)
        return BarSection(least, least, bar.length_mm, False, bar.end_loss_mm)
    return BarSection(bar.width_mm, bar.depth_mm, bar.length_mm, False, bar.end_loss_mm)


def bar_section(mould: AnyMould) -> BarSection:
    """The bar as it comes out of the mould, or off the saw for a loaf."""
    if isinstance(mould, RoundMould):
        return BarSection(mould.diameter_mm, mould.diameter_mm, mould.length_mm, True)
    if isinstance(mould, LoafMould):
        return BarSection(mould.bar_width_mm, mould.bar_depth_mm, mould.length_mm, False)
    return BarSection(mould.width_mm, mould.depth_mm, mould.length_mm, False)


def loaf_grid(mould: LoafMould) -> tuple[int, int]:
    """How many bars a loaf gives across its width and across its depth."""
    across, _ = pieces(mould.width_mm, mould.bar_width_mm, mould.kerf_mm)
    layers, _ = pieces(mould.depth_mm, mould.bar_depth_mm, mould.kerf_mm)
    return across, layers


def bars_in(mould: AnyMould) -> int:
    """Bars from one full casting; 0 when a loaf is smaller than one bar."""
    if isinstance(mould, LoafMould):
        across, layers = loaf_grid(mould)
        return across * layers
    return mould.cavities
