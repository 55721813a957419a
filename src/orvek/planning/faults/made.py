"""What one way out comes to, before its times, chance and cost are put beside it."""

from __future__ import annotations

from msgspec import Struct

from orvek.planning.findings import Edit


class Made(Struct, frozen=True):
    """Whether a way can work here and what to do; what is None is as usual for that way."""

    can: bool
    lines: tuple[str, ...]
    title: str = ""  # more than its usual name
    look: tuple[Edit, ...] = ()
    is_drawn: bool = True
    hands_min: float | None = None
    wait_h: float | None = None
    chance_pct: float | None = None
    cost: float | None = None
    uses: str = ""


def cannot(*lines: str) -> Made:
    """A way that does not work here, and why."""
    return Made(can=False, lines=lines, is_drawn=False)
