"""What is said of a barrel's hole in a few words."""

from __future__ import annotations

from orvek.documents import Barrel
from orvek.quantities import Dimension, Units, write, write_bit


def hole_words(barrel: Barrel, units: Units) -> str:
    """What lies in a barrel's hole, and what is unusual about it."""
    words: list[str] = [barrel.inside]
    if barrel.hole_depth_mm is not None:
        words.append(f"{write(barrel.hole_depth_mm, Dimension.LENGTH, units)} deep")
    if barrel.wide_bit_mm is not None:
        words.append(f"stepped to {write_bit(barrel.wide_bit_mm, units)}")
    if barrel.bushing_left_mm is not None or barrel.bushing_right_mm is not None:
        words.append("own bushings")
    return ", ".join(words)
