"""How a pen is put together, from its parts in their order."""

from __future__ import annotations

from orvek.documents import Pen


def press_lines(pen: Pen) -> tuple[str, ...]:
    """Putting it together, step by step."""
    if not pen.parts:
        return (
            "This pen's parts are not listed yet: first what hides or would tilt the others.",
            _SQUARE,
            *_GENERAL,
        )
    lines = [
        "Clear glue out of the tubes' ends with a reamer; dry fit every part by hand, and lay them out in this order.",
        _SQUARE,
    ]
    return (*lines, *(f"{part.line}." for part in pen.parts), *_GENERAL)


_SQUARE = (
    "Start each by hand, square; press slowly, look after the first millimetre. Askew it cracks the lip: back off, "
    "turn it half round, again."
)
_GENERAL = (
    "A mechanism goes in bit by bit: write with it before the last millimetre; it cannot be drawn out again.",
    "Turn the barrels until the pattern runs on over the joint, then press the clip where it is to lie.",
)
