"""What the shop has learned: each default with its range, and whether it is generic or the maker's own."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

from msgspec import Struct
from msgspec.structs import replace

from orvek.craft.boring_plan import stuffs
from orvek.craft.durations import lasting
from orvek.craft.learning import narrowed, times_the_guess
from orvek.craft.spoilage import work_kinds
from orvek.craft.task_kinds import task_kinds
from orvek.craft.wander import fitted
from orvek.documents import Job, Shop
from orvek.documents.base import Document
from orvek.documents.deeds.records import last_series
from orvek.documents.shelf.soaked import CORE, DRYING, DYE_END, DYE_SIDE, UPTAKE
from orvek.planning.coating import finishing_of
from orvek.planning.exits import torn_of, worst_torn_mm
from orvek.planning.history import SPOILAGE, seen
from orvek.quantities import Dimension, Units, write

_MM, _PCT = Dimension.LENGTH, Dimension.PERCENT
_NINE_IN_TEN, _RATIO_SPREAD = 1.645, 0.25  # of ln of what is seen over what was calculated (a choice)
_WHOLE_MIN = 2.0  # longer times are told in whole minutes
_MEAN = math.sqrt(math.pi / 2)  # of a Rayleigh distribution, in its scatters


class Learned(Struct, frozen=True):
    """One default as it stands now.

    Attributes:
        group: what it is about.
        words: which default.
        value: in the program's unit of `dimension`.
        low: nine times in ten it is more.
        high: nine times in ten it is less.
        count: of how many times of the maker's own; 0: generic.
        shelf: the log it is in; nothing where it is in the ledger.
        items: what of that log it comes from.
        set_aside: how many were set aside by a new series, and can be taken up again.
    """

    group: str
    words: str
    value: float
    dimension: Dimension
    low: float
    high: float
    count: int
    shelf: str = ""
    items: tuple[Document, ...] = ()
    set_aside: int = 0
    digits: int | None = None

    @property
    def key(self) -> str:
        """What a series of it is called by."""
        return f"{SPOILAGE}{self.words}" if self.group == "Spoilage" else f"{self.group.lower()}: {self.words}"

    @property
    def can_be_set_back(self) -> bool:
        """Whether a new series of it can begin: what the jobs themselves hold stays with them."""
        return self.count > 0 and (bool(self.shelf) or self.group == "Spoilage")

    @property
    def source(self) -> str:
        """Whose it is."""
        return f"yours, {self.count} time{'' if self.count == 1 else 's'}" if self.count else "generic"

    def written(self, units: Units) -> tuple[str, str]:
        """The value, and its range."""
        is_time = self.dimension is Dimension.DURATION
        numbers = [round(one) if is_time and one >= _WHOLE_MIN else one for one in (self.value, self.low, self.high)]
        value, low, high = (write(one, self.dimension, units, self.digits) for one in numbers)
        return value, f"{low} to {high}" if self.high > self.low else ""


def learned(shop: Shop, jobs: Iterable[Job] = ()) -> tuple[Learned, ...]:
    """All defaults that the shop's own records can move, those of one group together."""
    rows = (*_spoilage(shop), *_durations(shop), *_torn(shop), *_drift(shop), *_wood(shop), *_cure(shop))
    worked = tuple(jobs)
    rows = (*rows, *_coats(worked, shop), *_scales(worked), *_saws(worked))
    return tuple(_with_series(row, shop) for row in rows)


def _with_series(row: Learned, shop: Shop) -> Learned:
    last = last_series(shop.ledger, row.key) if row.shelf else None
    return replace(row, set_aside=len(last.items)) if last is not None else row


def _spoilage(shop: Shop) -> Iterator[Learned]:
    for kind in work_kinds():
        there = seen(shop.ledger, kind.key)
        rate = there.rate
        low, high = 100 * rate.low, 100 * rate.high
        yield Learned(
            "Spoilage", kind.key, 100 * rate.mean, _PCT, low, high, there.of, set_aside=there.set_aside, digits=0
        )


def _durations(shop: Shop) -> Iterator[Learned]:
    for kind in task_kinds():
        own = tuple(one for one in shop.durations if one.kind == kind.key)
        minutes = [one.minutes / (one.pieces if kind.each else 1) for one in own]
        told = lasting(kind.minutes, minutes)
        words = f"{kind.words}{', a piece' if kind.each else ''}"
        yield Learned(
            "Time", words, told.median_min, Dimension.DURATION, told.low_min, told.high_min, len(own), "durations", own
        )


def _torn(shop: Shop) -> Iterator[Learned]:
    """The worst of twenty tear-outs of each kind of stuff."""
    for stuff in stuffs():
        own, words = torn_of(shop, stuff.key), f"Left for the exit: {stuff.name}"
        worst = worst_torn_mm(own)
        if worst is None:
            yield Learned("Boring", words, stuff.exit_mm, _MM, stuff.exit_mm, stuff.exit_mm, 0)
            continue
        torn = [one.torn_mm for one in own if one.torn_mm is not None]
        yield Learned("Boring", words, worst, _MM, min(torn), max(torn), len(own), "bored", own)


def _drift(shop: Shop) -> Iterator[Learned]:
    """How far holes of each bit come out off centre, most often."""
    for bit in sorted({one.bit_mm for one in shop.bored}):
        own = tuple(one for one in shop.bored if one.bit_mm == bit)
        fit = fitted(one.off_mm for one in own)
        if fit is not None:
            most_often, low, high = (_MEAN * sigma for sigma in (fit.sigma_mm, fit.low_mm, fit.high_mm))
            words = f"Off centre at the far end: a bit of {bit:g} mm"
            yield Learned("Boring", words, most_often, _MM, low, high, len(own), "bored", own, digits=2)


def _wood(shop: Shop) -> Iterator[Learned]:
    """What each wood took up, how it dried, was heated and dyed, beside what was calculated."""
    told = {
        UPTAKE: "takes up, of the possible", DRYING: "dries, beside the calculation", CORE: "core is warm after",
        DYE_SIDE: "dye goes in at the side", DYE_END: "dye goes in at the end",
    }  # fmt: skip
    for species, what in dict.fromkeys((one.species, one.seen) for one in shop.soaked):
        own = tuple(one for one in shop.soaked if (one.species, one.seen) == (species, what))
        factor = times_the_guess((one.value, one.expected) for one in own)
        spread = math.exp(_NINE_IN_TEN * _RATIO_SPREAD * narrowed(len(own)))
        words = f"{species}: {told[what]}"
        yield Learned(
            "Wood", words, 100 * factor, _PCT, 100 * factor / spread, 100 * factor * spread, len(own), "soaked", own,
            digits=0,
        )  # fmt: skip


def _cure(shop: Shop) -> Iterator[Learned]:
    for resin in dict.fromkeys(one.resin for one in shop.cure_log):
        own = tuple(one for one in shop.cure_log if one.resin == resin)
        gel = [one.gel_min for one in own]
        yield Learned(
            "Cure", f"{resin}: a cup gels after", gel[-1], Dimension.DURATION, min(gel), max(gel), len(own), "cure_log",
            own,
        )  # fmt: skip


def _coats(jobs: Sequence[Job], shop: Shop) -> Iterator[Learned]:
    """How many coats were put on, of those that were planned, where they were counted."""
    shares = []
    for job in jobs:
        counted = {one.step.partition(":")[2] for one in job.work.actuals if one.what == "counted"}
        put_on = sum(one.startswith(("thin.", "medium.")) for one in counted)
        how = finishing_of(job, shop) if put_on else None
        if how is not None and (planned := how.thin_coats + how.medium_coats):
            shares.append(100 * put_on / planned)
    if shares:
        middle = sum(shares) / len(shares)
        words = "Coats put on, of those planned"
        yield Learned("Coats", words, middle, _PCT, min(shares), max(shares), len(shares), digits=0)


def _saws(jobs: Sequence[Job]) -> Iterator[Learned]:
    """The kerf of each saw by the calipers, all jobs together."""
    found: dict[str, list[float]] = {}
    for job in jobs:
        if job.glue_up.machine is not None and job.glue_up.kerf_readings_mm:
            found.setdefault(job.glue_up.machine.name, []).extend(job.glue_up.kerf_readings_mm)
    for name, kerfs in found.items():
        middle = sum(kerfs) / len(kerfs)
        reach = _NINE_IN_TEN * math.sqrt(sum((one - middle) ** 2 for one in kerfs) / max(1, len(kerfs) - 1))
        words = f"Kerf of {name}"
        yield Learned("Accuracy", words, middle, _MM, middle - reach, middle + reach, len(kerfs), digits=2)


def _scales(jobs: Sequence[Job]) -> Iterator[Learned]:
    """How near weighings came to what was asked."""
    off = [
        100 * (actual.value - actual.planned) / actual.planned
        for job in jobs
        for actual in job.work.actuals
        if actual.what == "weighed" and actual.value is not None and actual.planned
    ]
    if off:
        root = math.sqrt(sum(one * one for one in off) / len(off))
        reach = _NINE_IN_TEN / math.sqrt(2 * len(off))
        low, high = root * max(0.0, 1 - reach), root * (1 + reach)
        yield Learned("Accuracy", "Weighed beside what was asked", root, _PCT, low, high, len(off), digits=1)
