"""Pearl has a direction: its platelets lie as the resin flowed, and shine when their lean sends the light on.

The lean follows the flow's own stripes (the tone), so it is part of the impression, not a measurement. Source of the
form: a mirror turned by an angle shines where the barrel is turned back by as much; the strength is drawn to please.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orvek.workpiece.field import Evaluator
from orvek.workpiece.program import Program

NONE = 0  # in a lean map: not pearl
_BINS = 64  # angles on the visible half, for the table
_MOST_LEAN = 0.9  # radians to either side
_WIDE, _DIM, _BRIGHT = 0.38, 0.80, 0.75  # how wide pearl shines, its darkest and what the shine adds


def lean_map(
    evaluate: Evaluator, program: Program, z_mm: NDArray[np.float32], radius_mm: NDArray[np.float32], rows: int
) -> NDArray[np.uint8] | None:
    """How the pearl leans on the unrolled surface: (rows, columns), 0 where there is none, else 1 to 255.

    None when the blank has no pearl at all.
    """
    pearl = np.array([there.look == "pearl" for there in program.materials])
    if not pearl.any():
        return None
    angle = (np.arange(rows, dtype=np.float32) + 0.5) * np.float32(2 * np.pi / rows)
    x, y = np.cos(angle)[:, None] * radius_mm, np.sin(angle)[:, None] * radius_mm
    sample = evaluate(
        program, np.stack([x.ravel(), y.ravel(), np.broadcast_to(z_mm, x.shape).ravel()]).astype(np.float32)
    )
    leaning = np.clip(128 + 127 * sample.tone, 1, 255).astype(np.uint8)
    made: NDArray[np.uint8] = np.where(pearl[sample.material], leaning, np.uint8(NONE)).reshape(rows, z_mm.size)
    made.setflags(write=False)
    return made


def angle_bins(turn: NDArray[np.float32]) -> NDArray[np.uint16]:
    """The table's column for each pixel of a turned barrel, from its turn as a fraction of the circumference."""
    return np.asarray(np.clip((turn * 2 + 0.5) * _BINS, 0, _BINS - 1), dtype=np.uint16)


def gain_table(light_from_rad: float) -> NDArray[np.uint16]:
    """(256 leans x 64 angles) factors in 128ths; 128 where there is no pearl."""
    lean = (np.arange(256) - 128) / 127 * _MOST_LEAN
    angle = ((np.arange(_BINS) + 0.5) / _BINS - 0.5) * np.pi
    off = angle[None, :] + lean[:, None] + light_from_rad
    table = 128 * (_DIM + _BRIGHT * np.exp(-((off / _WIDE) ** 2)))
    table[NONE] = 128
    return np.asarray(table, dtype=np.uint16).ravel()


def shimmer(
    lit: NDArray[np.uint16], lean: NDArray[np.uint8], bins: NDArray[np.uint16], table: NDArray[np.uint16]
) -> None:
    """Dim and brighten lit colours (n, 3) in place by how the pearl leans (n,) at its angle (n,)."""
    gain = table.take(lean.astype(np.uint16) * np.uint16(_BINS) + bins)
    lit *= gain[:, None]
    lit >>= 7
    np.minimum(lit, 255, out=lit)
