"""Whether a tube shows through."""

from __future__ import annotations

from msgspec import Struct


class TubeView(Struct, frozen=True):
    """What is seen of a tube through one colour at one end: contrast ratio and verdict (hidden, borderline, shows)."""

    barrel: int
    barrel_name: str
    cup: str
    side: str
    wall_mm: float
    ratio: float
    verdict: str
    measured: bool
    strength: float = 1.0  # how many times as strong as calculated the light tests say the colour is
