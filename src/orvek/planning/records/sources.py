"""Scrap by what it was made of: lot, seller, wood, resin; which is worse by more than luck, and how many would tell."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from msgspec import Struct

from orvek.craft.luck import RARE, more_to_know, worse_by_luck
from orvek.craft.spoilage import Rate, spoil_rate
from orvek.documents import FateEntry, Job, Piece, Shop
from orvek.planning.history import fates_of, is_missed

KINDS = ("lot", "seller", "wood", "resin")


class Source(Struct, frozen=True):
    """One thing that blanks were made of.

    Attributes:
        kind: one of `KINDS`.
        name: which.
        scrapped, of: blanks that gave no good pen, of all whose outcome is known.
        others_scrapped, others: the same of the blanks of those kinds of work that it is compared with.
        rate: the share, and from where to where it lies nine times in ten.
        luck: the chance of so many if it were as good as the others of its kind.
        more: how many more of it would tell; None where it is no worse.
    """

    kind: str
    name: str
    scrapped: int
    of: int
    others_scrapped: int
    others: int
    rate: Rate
    luck: float
    more: int | None

    @property
    def is_worse(self) -> bool:
        """Whether it is scrapped more often than the others by more than luck."""
        return self.luck < RARE

    @property
    def verdict(self) -> str:
        """What is to be made of it, in words."""
        if self.is_worse:
            return f"worse than the others; by luck alone once in {1 / self.luck:.0f}"
        if not self.others:
            return "nothing to compare it with"
        if self.more is None:
            return "no worse than the others"
        return f"not known: {self.more} more blanks would tell"


def sources(jobs: Iterable[Job], shop: Shop) -> tuple[Source, ...]:
    """Every lot, seller, wood and resin of which an outcome is known, the worst first; alone of its kind none is worse.

    What a job was made of is known while there is the job; its lots stand with each outcome.
    """
    sellers = _sellers(shop)
    known, told = {job.batch.id: job for job in jobs}, []
    for job_id in dict.fromkeys(entry.job_id for entry in shop.ledger if isinstance(entry, FateEntry)):
        made_of = tuple(_of_job(known[job_id])) if job_id in known else ()
        for fate in fates_of(shop.ledger, job_id).values():
            told.append(_Told(fate.work, is_missed(fate), frozenset((*made_of, *_of_fate(fate, sellers)))))
    every = dict.fromkeys(key for one in told for key in sorted(one.made_of))
    found = (_source(key, told) for key in every)
    return tuple(sorted(found, key=lambda one: (one.luck, KINDS.index(one.kind), one.name)))


def _sellers(shop: Shop) -> dict[str, str]:
    """By lot and code who sold it; two sellers of one lot's name say nothing."""
    found: dict[str, set[str]] = {}
    for piece in shop.pieces:
        for word in _called(piece) if piece.seller else ():
            found.setdefault(word, set()).add(piece.seller)
    return {word: next(iter(names)) for word, names in found.items() if len(names) == 1}


class _Told(NamedTuple):
    """An outcome: of which kind of work, whether the blank was lost, what it was made of."""

    work: str
    is_lost: bool
    made_of: frozenset[tuple[str, str]]


def _source(key: tuple[str, str], told: Sequence[_Told]) -> Source:
    """Beside other blanks of the same kinds of work that are of another such thing: fibre is no worse than resin."""
    own = [one for one in told if key in one.made_of]
    works = {one.work for one in own}
    others = [
        one
        for one in told
        if one.work in works and key not in one.made_of and any(kind == key[0] for kind, _ in one.made_of)
    ]
    lost, others_lost = sum(one.is_lost for one in own), sum(one.is_lost for one in others)
    four = (lost, len(own) - lost, others_lost, len(others) - others_lost)
    overall = (lost + others_lost) / (len(own) + len(others))
    luck = worse_by_luck(*four) if others else 1.0
    rate = spoil_rate(overall or 0.1, lost, len(own))
    return Source(*key, lost, len(own), others_lost, len(others), rate, luck, more_to_know(*four))


def _called(piece: Piece) -> Iterator[str]:
    yield from (word for word in (piece.lot, piece.code) if word)


def _of_job(job: Job) -> Iterator[tuple[str, str]]:
    for key in job.blank.woods:
        yield "wood", job.blank.material(key).name
    if job.pour.resin is not None and job.cast_index is not None:
        yield "resin", job.pour.resin.name


def _of_fate(fate: FateEntry, sellers: Mapping[str, str]) -> Iterator[tuple[str, str]]:
    for word in (part.strip() for part in fate.lots.split(",")):
        if word:
            yield "lot", word
            if word in sellers:
                yield "seller", sellers[word]
