"""What follows for bubbles, pot and vacuum."""

from __future__ import annotations

from msgspec import Struct

from orvek.planning.working import Figure


class BubblesPlan(Struct, frozen=True):
    """What pressure or vacuum does here. What only a pot has is None under vacuum."""

    bubble_pct: Figure
    volume_pct: Figure
    safe_bar: Figure | None
    lid_kn: Figure | None
    stored_kj: Figure | None
    fitting: int
    side_by_side: int
    mould_mm: tuple[float, float, float]
    left_kpa: float | None
