"""Finding a job again: by word, colour, material, pen, customer, cause or date."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orvek.documents import FateEntry, Job, LedgerEntry, LessonEntry, material, material_keys
from orvek.planning.history import kind_of_work, plain
from orvek.quantities import write_date


def words_of(job: Job, ledger: tuple[LedgerEntry, ...]) -> str:
    """All words by which a job is found, in small letters."""
    return " ".join(_words(job, ledger)).lower()


def found(jobs: Sequence[Job], ledger: tuple[LedgerEntry, ...], words: str) -> tuple[Job, ...]:
    """The jobs that all words are found in; all of them where nothing is asked for."""
    wanted = words.lower().split()
    if not wanted:
        return tuple(jobs)
    by_job: dict[str, list[LedgerEntry]] = {}
    for entry in ledger:
        by_job.setdefault(entry.job_id, []).append(entry)
    all_words = ((job, words_of(job, tuple(by_job.get(job.batch.id, ())))) for job in jobs)
    return tuple(job for job, its_words in all_words if all(word in its_words for word in wanted))


def _words(job: Job, ledger: tuple[LedgerEntry, ...]) -> Iterator[str]:
    yield from (job.batch.name, job.batch.id, job.batch.notes, kind_of_work(job), job.blank.piece)
    for order in job.orders:
        yield from (order.customer, order.wishes, order.said)
    if job.pen is not None:
        yield job.pen.name
    if job.pour.resin is not None:
        yield job.pour.resin.name
    for cup in job.cast.cups:
        yield from (cup.name, _colour(cup.colour), *(dose.pigment.name for dose in cup.pigments))
    for step in job.blank.steps:
        keys = material_keys(step)
        yield from (step.title, *keys, *(material(key, job.blank.materials).name for key in keys))
    for fault in job.faults.found:
        yield from (fault.kind, fault.way, fault.note)
    for actual in (*job.work.actuals[:1], *job.work.actuals[-1:]):
        yield write_date(plain(actual.when))
    for entry in ledger:
        if entry.job_id == job.batch.id:
            yield write_date(plain(entry.when))
            if isinstance(entry, FateEntry):
                yield from (entry.fate, entry.cause, entry.stage, entry.place, entry.lots)
            elif isinstance(entry, LessonEntry):
                yield entry.words


def _colour(colour: str) -> str:
    """What the eye calls a colour."""
    import numpy as np

    from orvek.workpiece.eye import colour_name, lab

    return colour_name(lab(np.array([int(colour[n : n + 2], 16) for n in (1, 3, 5)], dtype=np.float64)))
