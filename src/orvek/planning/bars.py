"""How many blanks, bars and castings the pens wanted take."""

from __future__ import annotations

import math

from orvek.craft.laying_out import blank_length_mm, blanks_for, pieces
from orvek.craft.moulding import BarSection, bar_section, bars_in
from orvek.documents import Job, LoafMould, Mould
from orvek.planning.results import BarsPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_COUNT = Dimension.COUNT


def bars_plan(job: Job) -> BarsPlan:
    """Blanks from the pens wanted; bars from the blanks; castings from the mould.

    Castings are made equally large, so that one card serves them all; a loaf is always poured whole.
    """
    batch, mould = job.batch, job.pour.mould
    section = bar_section(mould) if mould else None
    blanks = blanks_for(batch.pens_wanted, batch.spoilage_pct / 100)
    per_bar = _blanks_per_bar(section, job)
    bars = math.ceil(blanks / per_bar)
    castings, at_once = _castings(mould, bars, job.pour.most_bars_at_once)
    return BarsPlan(
        blanks=_blanks_figure(job, blanks),
        blanks_per_bar=per_bar,
        bars=_bars_figure(blanks, per_bar, bars),
        bars_per_casting=at_once,
        castings=castings,
        section=section,
    )


def blank_mm(bars: BarsPlan, kerf_mm: float) -> float | None:
    """Length of one blank once the bar is sawn into equal blanks; None without a mould."""
    if bars.section is None:
        return None
    return (bars.section.length_mm - (bars.blanks_per_bar - 1) * kerf_mm) / bars.blanks_per_bar


def _castings(mould: Mould | None, bars: int, most: int | None) -> tuple[int, int]:
    """How many castings, and bars in each; (0, 0) for a mould that gives no bar."""
    in_mould = bars_in(mould) if mould else bars
    if in_mould == 0:
        return 0, 0
    if isinstance(mould, LoafMould):
        return math.ceil(bars / in_mould), in_mould
    castings = math.ceil(bars / min(in_mould, most or bars))
    return castings, math.ceil(bars / castings)


def _blanks_per_bar(section: BarSection | None, job: Job) -> int:
    if section is None or job.pen is None:
        return 1
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in job.pen.barrels)
    needed = blank_length_mm(tubes, job.blank.saw_kerf_mm, job.blank.end_waste_mm)
    count, _ = pieces(section.length_mm, needed, job.blank.saw_kerf_mm)
    return max(1, count)


def _blanks_figure(job: Job, blanks: int) -> Figure:
    return Figure(
        "Blanks to start with",
        blanks,
        _COUNT,
        "blanks = ⌈ pens / (1 − spoilt) ⌉",
        (
            Term("pens", "good pens wanted", job.batch.pens_wanted, _COUNT),
            Term("spoilt", "expected to spoil", job.batch.spoilage_pct, Dimension.PERCENT),
        ),
        "so that the pens wanted are what can be expected to come out good",
    )


def _bars_figure(blanks: int, per_bar: int, bars: int) -> Figure:
    return Figure(
        "Bars to cast",
        bars,
        _COUNT,
        "bars = ⌈ blanks / blanks in a bar ⌉",
        (
            Term("blanks", "blanks to start with", blanks, _COUNT),
            Term("in a bar", "blanks in a bar", per_bar, _COUNT),
        ),
        "blanks in a bar = ⌊ (L + kerf) / (blank + kerf) ⌋",
    )
