"""How many blanks, bars and castings the pens wanted take."""

from __future__ import annotations

import math

from orvek.craft.counting import bars_for, chance_of
from orvek.craft.laying_out import blanks_in_bar, saw_cuts
from orvek.craft.moulding import BarSection, bar_section, bars_in, section_in_hand
from orvek.craft.packing import Packing, Sawn, packed
from orvek.craft.spoilage import bars_for_learned, chance_learned
from orvek.documents import (
    ArcStep,
    BarInHand,
    Batch,
    Blank,
    CutStep,
    Job,
    LedgerEntry,
    LoafMould,
    Mould,
    PlugStep,
    ReorientStep,
    RipStep,
    SliceStep,
)
from orvek.planning.history import Seen, kind_of_work, seen
from orvek.planning.layout import BarsPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_COUNT = Dimension.COUNT
# Work at a place of its own along the bar: then a bar is sawn into blanks first, and each is worked by itself.
_WORKED_ALONE = (CutStep, ArcStep, SliceStep, RipStep, PlugStep, ReorientStep)


def bars_plan(job: Job, ledger: tuple[LedgerEntry, ...] = (), most_in_bar: int | None = None) -> BarsPlan:
    """Blanks from the pens wanted; bars from the blanks; castings from the mould.

    What spoils is as typed, or as the ledger says of this kind of work.

    Bars in hand go before what a mould would give. Castings are made equally large, so that one card serves them all;
    a loaf is always poured whole. `most_in_bar`: no more blanks from one bar, because of where its tubes lie.
    """
    batch, mould, hand = job.batch, job.pour.mould, job.blank.in_hand
    spoilt = batch.spoilage_pct
    blanks_figure = _learned_figure(job, ledger) if spoilt is None else _blanks_figure(job, spoilt)
    blanks = round(blanks_figure.value)
    packing = _packing(job, blanks, most_in_bar)
    section = _section(job, packing)
    per_bar = min(_blanks_per_bar(section, job), _whole_pens(packing) or blanks, most_in_bar or blanks)
    bars = math.ceil(blanks / per_bar)
    castings, at_once = _castings(mould, bars, job.pour.most_bars_at_once)
    if packing is not None:
        bars = len(packing.sawn)
    return BarsPlan(
        blanks=blanks_figure,
        blanks_per_bar=per_bar,
        bars=_bars_figure(job, blanks, per_bar, bars, packing),
        bars_per_casting=at_once,
        castings=castings,
        section=section,
        packing=packing,
        in_hand=hand,
    )


def to_start(batch: Batch, there: Seen) -> tuple[int, float]:
    """How many blanks to start for the pens that a batch wants, and the chance that these come out.

    What spoils is as typed, or as the record says of this kind of work.
    """
    pens, wanted = batch.pens_wanted, batch.chance_pct / 100
    if batch.spoilage_pct is not None:
        return bars_for(pens, batch.spoilage_pct / 100, wanted)
    return bars_for_learned(pens, there.usual, there.missed, there.of, wanted)


def is_sawn_first(job: Job) -> bool:
    """Whether a long bar is sawn into blanks before it is worked on."""
    return any(isinstance(step, _WORKED_ALONE) for step in job.blank.steps)


def blank_mm(bars: BarsPlan, kerf_mm: float) -> float | None:
    """Length of one blank once the bar is sawn into equal blanks; None without a mould or a bar in hand."""
    if bars.section is None:
        return None
    return (bars.section.length_mm - (bars.blanks_per_bar - 1) * kerf_mm) / bars.blanks_per_bar


def room_mm(bar: BarInHand, kerf_mm: float) -> float:
    """The longest single piece that a bar in hand gives: its lost ends sawn off."""
    return bar.length_mm - 2 * bar.end_loss_mm - saw_cuts(1, bar.end_loss_mm) * kerf_mm


def end_loss_mm(section: BarSection | None, blank: Blank) -> float:
    """What is lost at each end of the bar: its own where it is in hand, else what the job loses of a bar it makes."""
    own = section.end_loss_mm if section else None
    return blank.end_waste_mm if own is None else own


def _packing(job: Job, blanks: int, most_in_bar: int | None) -> Packing | None:
    """The bars in hand, sawn; None without any, or without a pen."""
    if not job.blank.in_hand or job.pen is None:
        return None
    lengths = tuple((bar.length_mm, bar.end_loss_mm) for bar in job.blank.in_hand for _ in range(bar.count))
    pieces = tuple(barrel.piece_mm for barrel in job.pen.barrels)
    return packed(lengths, pieces, job.blank.saw_kerf_mm, blanks, most_in_bar)


def _section(job: Job, packing: Packing | None) -> BarSection | None:
    """The bar that is drawn: the one in hand that gives most whole pens, else the first, else the mould's."""
    hand = job.blank.in_hand
    if not hand:
        return bar_section(job.pour.mould) if job.pour.mould else None
    each = [bar for bar in hand for _ in range(bar.count)]
    fullest = _fullest(packing)
    return section_in_hand(each[fullest.bar] if fullest else hand[0])


def _fullest(packing: Packing | None) -> Sawn | None:
    """The bar in hand that gives most whole pens; None where none takes one."""
    whole = [one for one in (packing.sawn if packing else ()) if all(one.pieces)]
    return max(whole, key=lambda one: min(one.pieces), default=None)


def _whole_pens(packing: Packing | None) -> int:
    """Whole pens from the bar that is drawn; 0 without bars in hand, or where none takes a whole pen."""
    fullest = _fullest(packing)
    return min(fullest.pieces) if fullest else 0


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
    if section is None or job.pen is None or job.blank.joint_mm is not None:
        return 1  # a two-in-one bar makes one pen
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in job.pen.barrels)
    return max(1, blanks_in_bar(section.length_mm, tubes, job.blank.saw_kerf_mm, end_loss_mm(section, job.blank)))


def _blanks_figure(job: Job, spoilt_pct: float) -> Figure:
    batch = job.batch
    blanks, chance = to_start(batch, Seen(kind_of_work(job)))
    fewer = chance_of(blanks - 1, batch.pens_wanted, spoilt_pct / 100)
    less = f"; one fewer: {_times(fewer)}" if blanks > batch.pens_wanted else ""
    return Figure(
        "Blanks to start with",
        blanks,
        _COUNT,
        "smallest n with P(binomial(n, 1 − s) ≥ pens) ≥ chance",
        (
            Term("pens", "good pens wanted", batch.pens_wanted, _COUNT),
            Term("s", "scrap rate", spoilt_pct, Dimension.PERCENT),
            Term("chance", "wanted", batch.chance_pct, Dimension.PERCENT),
        ),
        f"enough good ones {_times(chance)}{less}",
    )


def _learned_figure(job: Job, ledger: tuple[LedgerEntry, ...]) -> Figure:
    """As many as the record of this kind of work asks for."""
    batch, there = job.batch, seen(ledger, kind_of_work(job))
    blanks, chance = to_start(batch, there)
    fewer = chance_learned(blanks - 1, batch.pens_wanted, there.usual, there.missed, there.of)
    less = f"; one fewer: {_times(fewer)}" if blanks > batch.pens_wanted else ""
    return Figure(
        "Blanks to start with",
        blanks,
        _COUNT,
        "smallest n with P(beta-binomial(n, 4 (1 − r) + n₀ − k, 4 r + k) ≥ pens) ≥ chance",
        (
            Term("pens", "good pens wanted", batch.pens_wanted, _COUNT),
            Term("r", f"typical scrap rate: {there.work}", 100 * there.usual, Dimension.PERCENT, "guess"),
            Term("k", "scrapped, from your records", there.missed, _COUNT),
            Term("n₀", "blanks in your records", there.of, _COUNT),
            Term("chance", "wanted", batch.chance_pct, Dimension.PERCENT),
        ),
        f"{there.source}; enough good ones {_times(chance)}{less}",
    )


def _times(chance: float) -> str:
    """A chance as makers say it."""
    return f"{round(10 * chance)} times in 10" if chance < 0.95 else f"{100 * chance:.0f} times in 100"


def _bars_figure(job: Job, blanks: int, per_bar: int, bars: int, packing: Packing | None) -> Figure:
    if packing is not None:
        terms = (Term("pens", "pens that come of them", packing.pens, _COUNT),)
        return Figure("Bars to saw", bars, _COUNT, "pieces packed into the bars in hand", terms, "fewest bars first")
    cast = job.cast_index is not None
    return Figure(
        "Bars to cast" if cast else "Bars to make",
        bars,
        _COUNT,
        "bars = ⌈ blanks / blanks in a bar ⌉",
        (
            Term("blanks", "blanks to start with", blanks, _COUNT),
            Term("in a bar", "blanks in a bar", per_bar, _COUNT),
        ),
        "blanks in a bar = ⌊ (L − 2 · waste ∓ kerf) / Σ (piece + kerf) ⌋: an end is lost, and sawn off, once a bar",
    )
