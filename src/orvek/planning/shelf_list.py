"""What the shelf lists: pieces with what is left of them, those that the work has just made among them."""

from __future__ import annotations

from msgspec import Struct

from orvek.documents import Job, Pen, Piece, Shop
from orvek.planning import Plan
from orvek.planning.bar import SAWN
from orvek.planning.becoming import fit_of
from orvek.planning.folding import listed
from orvek.planning.plan import plan as plan_of
from orvek.planning.stock import Held, born, held
from orvek.quantities import Dimension, Units, write, write_day, write_sizes


class Entry(Struct, frozen=True):
    """One line of the shelf; a new one was made by the work, and nobody has put it away yet."""

    piece: Piece
    left: float
    is_new: bool = False
    used: str = ""
    reserved_for: tuple[str, ...] = ()  # names of the jobs that begin with it and have not sawn it yet

    @property
    def is_taken(self) -> bool:
        """Whether each of its pieces has its job."""
        return bool(self.reserved_for) and self.left <= len(self.reserved_for)

    @property
    def search(self) -> str:
        """All words by which it is found."""
        piece = self.piece
        words = (
            piece.name, piece.code, piece.kind, piece.place, piece.fits, piece.recipe, piece.lot,
            piece.seller, piece.state,
        )  # fmt: skip
        return " ".join((*words, *self.reserved_for, piece.notes)).lower()


class ShelfStock:
    """Puts entries together from the shop and from the work on all jobs; plans of other jobs are kept."""

    def __init__(self) -> None:
        self._plans: dict[str, tuple[Job, Plan]] = {}
        self._kept: tuple[tuple[object, ...], tuple[Entry, ...], tuple[Held, ...]] | None = None

    def entries(self, plan: Plan, others: tuple[Job, ...]) -> tuple[tuple[Entry, ...], tuple[Held, ...]]:
        """What is on the shelf now: what the work has made first, then pieces as they were put there.

        `others` are all jobs of the workshop beside the plan's own.
        """
        plans = [plan, *self.others(plan, others)]
        jobs = (plan.job, *others)
        key = (plan.shop.pieces, jobs)
        if self._kept is None or not _same(self._kept[0], key):
            self._kept = (key, *_entries(plan, plans, _reserved(jobs)))
        return self._kept[1], self._kept[2]

    def others(self, plan: Plan, others: tuple[Job, ...]) -> list[Plan]:
        """The plans of all other jobs of which something is done."""
        return [self.plan_of(job, plan.shop) for job in others if job.work.done()]

    def plan_of(self, job: Job, shop: Shop) -> Plan:
        """The plan of another job, worked out once as long as it stays as it is."""
        kept = self._plans.get(job.batch.id)
        if kept is None or kept[0] is not job:
            kept = self._plans[job.batch.id] = (job, plan_of(job, shop))
        return kept[1]


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    pieces, jobs = one[0] is other[0], one[1]
    assert isinstance(jobs, tuple)
    assert isinstance(other[1], tuple)
    return pieces and len(jobs) == len(other[1]) and all(a is b for a, b in zip(jobs, other[1], strict=True))


def _reserved(jobs: tuple[Job, ...]) -> dict[str, tuple[str, ...]]:
    """By the code of a piece the jobs that begin with it: until it is sawn to length, or the job goes."""
    found: dict[str, tuple[str, ...]] = {}
    for job in jobs:
        if job.blank.piece and SAWN not in job.work.done():
            found[job.blank.piece] = (*found.get(job.blank.piece, ()), job.batch.name)
    return found


def _entries(
    plan: Plan, plans: list[Plan], reserved: dict[str, tuple[str, ...]]
) -> tuple[tuple[Entry, ...], tuple[Held, ...]]:
    pieces = plan.shop.pieces
    known = frozenset(piece.born for piece in pieces if piece.born)
    new = [Entry(piece, piece.amount, is_new=True) for each in plans for piece in born(each, known)]
    stock = held(pieces, plans)
    there = [Entry(one.piece, one.left, False, _used(one), reserved.get(one.piece.code, ())) for one in stock]
    there.sort(key=lambda entry: not entry.piece.is_solid)  # what has a look comes first
    return (*new, *there), stock


def _used(one: Held) -> str:
    return ", ".join(dict.fromkeys(use.job for use in one.used))


def matching(entries: tuple[Entry, ...], words: str, kind: str) -> tuple[Entry, ...]:
    """The entries that all words are found in, of a kind, or of any; what is gone is shown where it is asked for."""
    wanted = words.lower().split()
    return tuple(
        entry
        for entry in entries
        if (not kind or entry.piece.kind == kind)
        and all(word in entry.search for word in wanted)
        and (wanted or entry.piece.state not in {"used up", "lost"})
    )


def fitting(entries: tuple[Entry, ...], pen: Pen, kerf_mm: float, units: Units) -> tuple[Entry, ...]:
    """Those that a pen fits, the one that wastes least first."""
    there = (entry for entry in entries if entry.piece.is_solid and entry.left > 0)
    told = [(entry, fit_of(entry.piece, pen, kerf_mm, units)) for entry in there]
    return tuple(entry for entry, fit in sorted(told, key=lambda one: one[1].left_mm) if fit.pens)


def piece_size(piece: Piece, units: Units) -> str:
    """A piece's size in a few words; what it fits where it is no bar."""
    if not piece.is_solid:
        return f"for {piece.fits}" if piece.pen else piece.recipe
    if piece.form == "round":
        return f"{write(piece.length_mm, Dimension.LENGTH, units)} × ⌀ {write(piece.width_mm, Dimension.LENGTH, units)}"
    return write_sizes((piece.length_mm, piece.width_mm, piece.depth_mm), units)


def amount_line(entry: Entry) -> str:
    """How much is left, in a few words."""
    piece = entry.piece
    if piece.grams is not None:
        return f"{entry.left:.1f} g"
    return "" if piece.is_solid and entry.left == 1 else f"{entry.left:.0f} ×"


def counted_line(entry: Entry) -> str:
    """Where the number comes from: how many were counted when, less what was used since."""
    piece = entry.piece
    when = f" {write_day(piece.counted_at.date())}" if piece.counted_at is not None else ""
    counted = f"{piece.amount:g}{' g' if piece.grams is not None else ''} counted{when}"
    return f"{counted}, {piece.amount - entry.left:g} used since for {entry.used}" if entry.used else counted


def state_line(entry: Entry) -> str:
    """What there is to say beside its size: where it lies, that it is new, that it was used."""
    piece = entry.piece
    if entry.left < 0:
        return f"more used than counted ({entry.used}): count it"
    if entry.left == 0 and entry.used:
        return f"used for {entry.used}"
    if entry.is_new:
        return "made by the work, not put away yet"
    words = [piece.place] if piece.place else []
    if entry.reserved_for:
        words.append(f"reserved for {listed(entry.reserved_for)}")
    elif piece.state != "free":
        words.append(piece.state)
    return " · ".join(words)
