"""What the ledger says: the kind of work a job is, each blank's fate, what was spoilt of how many, by which cause.

Only entries since the last new series of a kind of work count for its rates; all stay in sight.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from datetime import datetime

from msgspec import Struct

from orvek.craft.spoilage import Rate, spoil_rate, usual_rate
from orvek.documents import ClosedEntry, FateEntry, InsertStep, Job, LedgerEntry
from orvek.documents.deeds.records import last_series
from orvek.planning.stuff import tears
from orvek.quantities import minutes_between

_GLUED = frozenset({"laminate", "stack", "staves", "slice", "cut", "arc", "rip"})
_LEFT_ALONE, _LEFT_ALONE_MIN = 4.0, 60.0  # a task that took so many times its time was left alone (a choice)
SPOILAGE = "spoilage: "  # what a series of a kind of work is called by begins with


def kind_of_work(job: Job) -> str:
    """Which kind of work a job is, as far as it matters for what spoils: by its wood, its steps, what is laid in."""
    steps = job.blank.steps
    kinds = {step.kind for step in steps}
    inserts = [step for step in steps if isinstance(step, InsertStep)]
    if tears(job) and ("cast" not in kinds or job.soak.route == "soft, not stabilised"):
        return "fibre and punky wood"
    if any(insert.form in {"core", "rods"} for insert in inserts):
        return "picture blank"
    if kinds & _GLUED:
        return "segmented"
    if "cast" in kinds:
        return "hybrid" if inserts else "cast resin"
    return "stabilised" if job.soak.route == "stabilised" else "plain wood"


class Seen(Struct, frozen=True):
    """What was seen of a kind of work since its last new series.

    Attributes:
        work: which kind.
        of: blanks begun in the jobs of which a fate is known.
        missed: those of them that gave no good pen of this size: spoilt, or made smaller.
        causes: why, with how often, the most frequent first.
        stages: where in the work, with how often.
        set_aside: blanks from before that series.
    """

    work: str
    of: int = 0
    missed: int = 0
    causes: tuple[tuple[str, int], ...] = ()
    stages: tuple[tuple[str, int], ...] = ()
    set_aside: int = 0

    @property
    def usual(self) -> float:
        """The share of it that usually spoils."""
        return usual_rate(self.work)

    @property
    def rate(self) -> Rate:
        """What spoils of it, with its range: the usual rate, moved by the record."""
        return spoil_rate(self.usual, self.missed, self.of)

    @property
    def source(self) -> str:
        """Where that comes from, in a few words."""
        return f"yours, {self.missed} of {self.of}" if self.of else "generic, a guess"


def expected_pct(job: Job, ledger: tuple[LedgerEntry, ...]) -> float:
    """What of a job is expected to spoil, in percent: as typed, or as the record says."""
    typed = job.batch.spoilage_pct
    if typed is not None:
        return typed
    return 100 * seen(ledger, kind_of_work(job)).rate.mean


def last_fates(ledger: tuple[LedgerEntry, ...]) -> tuple[FateEntry, ...]:
    """The fate of each blank as it was written last, in the order of first writing; those in work again left out."""
    kept = _folded[0]
    if kept[0] is not ledger:
        kept = _folded[0] = (ledger, _fold(ledger))  # as one: plans are made in the background, too
    return kept[1]


# The newest ledger and its fates: thousands of entries are asked for again with every edit of a job.
_folded: list[tuple[tuple[LedgerEntry, ...], tuple[FateEntry, ...]]] = [((), ())]


def _fold(ledger: tuple[LedgerEntry, ...]) -> tuple[FateEntry, ...]:
    found: dict[tuple[str, int], FateEntry] = {}
    for entry in ledger:
        if isinstance(entry, FateEntry):
            found[entry.job_id, entry.blank_no] = entry
    return tuple(entry for entry in found.values() if not entry.is_open_again)


def fates_of(ledger: tuple[LedgerEntry, ...], job_id: str) -> dict[int, FateEntry]:
    """The fates of a job's blanks by their numbers."""
    return {entry.blank_no: entry for entry in last_fates(ledger) if entry.job_id == job_id}


def seen(ledger: tuple[LedgerEntry, ...], work: str) -> Seen:
    """What was seen of a kind of work."""
    series, own = last_series(ledger, f"{SPOILAGE}{work}"), [one for one in last_fates(ledger) if one.work == work]
    fates = [one for one in own if series is None or plain(one.when) > plain(series.when)]
    missed = [one for one in fates if is_missed(one)]
    return Seen(
        work=work,
        of=begun(fates),
        missed=len(missed),
        causes=_ranked(one.cause or "not said" for one in missed),
        stages=_ranked(one.stage for one in missed),
        set_aside=len(own) - len(fates),
    )


def begun(fates: Sequence[FateEntry]) -> int:
    """How many blanks the jobs of these fates had begun: as written with them, and never fewer than have a fate."""
    told = Counter(one.job_id for one in fates)
    for one in fates:
        told[one.job_id] = max(told[one.job_id], one.begun)
    return told.total()


def works_seen(ledger: tuple[LedgerEntry, ...]) -> tuple[str, ...]:
    """The kinds of work that any fate was written of, the one that was done most first."""
    return tuple(work for work, _ in Counter(one.work for one in last_fates(ledger)).most_common())


def closed_batches(ledger: tuple[LedgerEntry, ...]) -> tuple[ClosedEntry, ...]:
    """The batches that are finished, each as it was written down last."""
    found = {one.job_id: one for one in ledger if isinstance(one, ClosedEntry)}
    return tuple(sorted(found.values(), key=lambda one: plain(one.when)))


def took_min(job: Job, task: str, planned_min: float) -> float | None:
    """How long the hands really took over a task; None where that was not seen, or where it was left alone between."""
    began, done = (job.work.when(task, what) for what in ("began", "done"))
    if began is None or done is None:
        return None
    minutes = minutes_between(plain(began), plain(done))
    return minutes if 0 < minutes <= max(_LEFT_ALONE * planned_min, _LEFT_ALONE_MIN) else None


def ranked_causes(fates: Sequence[FateEntry]) -> list[tuple[str, int, str]]:
    """Causes with how often they came and the stage at which they mostly did, the most frequent first."""
    found = []
    for cause in dict.fromkeys(one.cause or "not said" for one in fates if is_missed(one)):
        own = [one.stage for one in fates if is_missed(one) and (one.cause or "not said") == cause]
        found.append((cause, len(own), max(sorted(set(own)), key=own.count)))
    return sorted(found, key=lambda one: -one[1])


def is_missed(fate: FateEntry) -> bool:
    """Whether a blank gave no good pen of the size that was wanted."""
    return fate.fate in {"spoilt", "made smaller"}


def plain(moment: datetime) -> datetime:
    """A moment as the shop's clock shows it."""
    return moment.replace(tzinfo=None)


def _ranked(words: Iterator[str]) -> tuple[tuple[str, int], ...]:
    return tuple(Counter(words).most_common())
