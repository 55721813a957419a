"""A slab's saw list in words: `cut_lines`, `how_measured`; how bars lie to its grain: `grain_words`."""

from __future__ import annotations

import math

from orvek.quantities import Dimension, Units, write
from orvek.workpiece.slab import Slab, SlabBar
from orvek.workpiece.slab_cuts import SlabCut

_SAME_DEG = 0.01
_ALONG_DEG = 20.0  # a bar that lies further from the grain than this is not along it; a choice


def cut_lines(slab: Slab, cuts: tuple[SlabCut, ...], units: Units) -> tuple[str, ...]:
    """Each cut by how it is marked: from a straight edge, beside a cut before it, else from corner to corner."""
    lines = []
    for n, cut in enumerate(cuts):
        stop = " Stop there: another bar lies beyond." if cut.is_short and not cut.is_across else ""
        lines.append(f"{n + 1}  {_where(slab, cuts[:n], cut, units)}: frees {cut.frees}.{stop}")
    return tuple(lines)


def how_measured(slab: Slab) -> str:
    """What the distances of the saw list are from and to."""
    middle = "Distances are to the middle of the kerf."
    if not slab.outline:
        return middle
    return (
        f"{middle} Along and down are from the upper left corner of the photo's frame; 1:1 pages show the same lines."
    )


def grain_words(bars: tuple[SlabBar, ...]) -> str:
    """What a maker should know of bars that do not lie along the slab's length; nothing where they do."""
    across = sum(abs((bar.angle_deg + 90) % 180 - 90) > _ALONG_DEG for bar in bars)
    if not across:
        return ""
    count = "A bar lies" if across == 1 else f"{across} bars lie"
    return (
        f"{count} across the slab's length. In wood that is across the grain: such a bar tears out and breaks sooner."
    )


def _where(slab: Slab, before: tuple[SlabCut, ...], cut: SlabCut, units: Units) -> str:
    (x0, y0), (x1, y1) = cut.parts[0][0], cut.parts[-1][1]
    # Strips are apart already when their ends are sawn: where such a cut begins and ends needs no word.
    stretch = f", from {_mm(x0, units)} to {_mm(x1, units)} along" if cut.is_short and not cut.is_across else ""
    if not slab.outline and abs(y0 - y1) < 0.05:
        return f"Along, {_mm(y0, units)} from the upper edge{stretch}"
    if not slab.outline and abs(x0 - x1) < 0.05:
        return f"Across, {_mm(x0, units)} from the left end{_down(cut, units)}"
    beside = next((n for n, other in enumerate(before) if abs(other.turn_deg - cut.turn_deg) < _SAME_DEG), None)
    if beside is not None:
        off = cut.offset_mm - before[beside].offset_mm
        return f"{_mm(abs(off), units)} {_side(cut.turn_deg, off)} cut {beside + 1}{stretch}"
    return f"From {_mm(x0, units)} along, {_mm(y0, units)} down to {_mm(x1, units)} along, {_mm(y1, units)} down"


def _down(cut: SlabCut, units: Units) -> str:
    """From where to where a cut along a bar runs that lies across the slab, where it must stop."""
    if not cut.is_short or cut.is_across:
        return ""
    return f", from {_mm(cut.parts[0][0][1], units)} to {_mm(cut.parts[-1][1][1], units)} down"


def _side(turn_deg: float, off_mm: float) -> str:
    """On which side a line lies of one beside it, as it is seen from above."""
    right, down = -math.sin(math.radians(turn_deg)) * off_mm, math.cos(math.radians(turn_deg)) * off_mm
    if abs(down) >= abs(right):
        return "below" if down > 0 else "above"
    return "to the right of" if right > 0 else "to the left of"


def _mm(value: float, units: Units) -> str:
    return write(value, Dimension.LENGTH, units)
