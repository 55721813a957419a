"""What is said of a barrel's hole and of a pen's parts in a few words."""

from __future__ import annotations

from orvek.documents import Barrel, PenPart
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


def part_line(number: int, part: PenPart) -> str:
    """One part as it goes in: its number, its name, how, where, against what."""
    how = f"{part.how}to {part.into}" if part.into else part.how
    against = f", against {part.against}" if part.against else ""
    return f"{number}  {part.name}: {how}{against}"
