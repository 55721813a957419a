"""The plan: one immutable job goes in, everything that follows from it comes out.

`plan` is pure and takes a few milliseconds; `apply_remedy` gives the job that a finding's button leads to.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace

from orvek.documents import Job, Shop
from orvek.documents.deeds import set_value
from orvek.errors import OrvekError
from orvek.planning.bars import bars_plan
from orvek.planning.findings import Caution, Finding, Remedy, Severity, Station, with_a_way_out
from orvek.planning.folding import folded
from orvek.planning.guard import Attempts
from orvek.planning.laying import laid_out
from orvek.planning.layout import BarsPlan
from orvek.planning.results import Plan
from orvek.planning.sentences import shortened
from orvek.planning.topics import TOPICS, Check, Topic
from orvek.planning.working import Figure

if TYPE_CHECKING:
    from orvek.planning.cure.results import CureForecast

# Of bars that lie on the bench only this is still to be said about their casting.
_CASTING = ("pour.", "bubbles.", "cure.")
_SAID_OF_CAST = {"pour.bars_are_there", "pour.section", "pour.what_is_missing"}
ORDER = {Severity.STOP: 0, Severity.CAUTION: 1, Severity.NOTE: 2}


def plan(job: Job, shop: Shop, others: tuple[Job, ...] = (), cure: CureForecast | None = None) -> Plan:
    """Compute all that follows from a job in this shop; `others` are the jobs that share the maker's hours.

    The route waits for a `cure` as it was forecast, where it is known already.

    A job that lacks a pen, mould or resin gives the parts that can be computed and findings that say what is
    missing. Never raises for a valid job: a part that breaks off becomes a finding.
    """
    tried = Attempts()
    counted = tried.part("the bars", Station.POUR, partial(bars_plan, job, shop.ledger), None)
    bars = counted or bars_plan(Job(batch=job.batch))
    made = Plan(job, shop, bars, others=others, cure=cure)
    made = replace(
        made, layout=tried.part("where the tubes lie", Station.PEN, partial(laid_out, job, shop, bars), None)
    )
    made = replace(made, bars=tried.part("the bars", Station.POUR, partial(_counted_as_laid, made), bars))
    for topic in TOPICS:
        if topic.part is not None:
            nothing = getattr(made, topic.key)
            found = tried.part(topic.words, topic.station, partial(topic.part, made), nothing)
            made = made.with_part(topic.key, found)
    cautions = tried.part("the cautions", Station.POUR, lambda: tuple(_cautions(made)), ())
    begun = tried.part("the stations' marks", Station.PEN, lambda: tuple(_progress(made)), ())
    made = replace(made, cautions=cautions, progress=begun)
    return replace(made, findings=_findings(made, tried), failed=tried.failed)


def report_sections(made: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of all topics, by their headings, in the order of the work."""
    for topic in TOPICS:
        if topic.sections is not None:
            yield from topic.sections(made)
        if topic.key == "pen":
            yield "Bars", [made.bars.blanks, made.bars.bars]


def apply_remedy(job: Job, remedy: Remedy) -> Job:
    """The job after a remedy, all its edits made in order."""
    for edit in remedy.edits:
        job = set_value(job, edit.path, edit.value)
    return job


def in_order(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings, the worst first."""
    return tuple(sorted(findings, key=lambda finding: ORDER[finding.severity]))


def _counted_as_laid(made: Plan) -> BarsPlan:
    """The bars as they are counted once it is known where the tubes lie on them."""
    if made.layout is None or not made.layout.is_fuller_side_by_side:
        return made.bars
    return bars_plan(made.job, made.shop.ledger, made.layout.blanks)


def _findings(made: Plan, tried: Attempts) -> tuple[Finding, ...]:
    found = [
        _with_possible_remedies(finding, made.job)
        for topic in TOPICS
        for check in topic.checks
        for finding in _keyed(topic, check, made, tried)
    ]
    told = shortened(folded(still_to_be_said(made, found)), made.job, made.shop)
    return in_order((*map(with_a_way_out, told), *tried.as_findings()))


def still_to_be_said(made: Plan, findings: list[Finding]) -> list[Finding]:
    """Findings without those about weighing, pouring and curing of bars that are cast already."""
    if not made.bars.in_hand or made.job.cast_index is None:
        return findings
    return [one for one in findings if one.key in _SAID_OF_CAST or not one.key.startswith(_CASTING)]


def _keyed(topic: Topic, check: Check, made: Plan, tried: Attempts) -> Iterator[Finding]:
    name = getattr(check, "__name__", "check")
    for finding in tried.findings(_words_of(check), topic.station, partial(check, made)):
        yield finding if finding.key else replace(finding, key=f"{topic.key}.{name}")


def _progress(made: Plan) -> Iterator[tuple[Station, tuple[bool, bool]]]:
    for topic in TOPICS:
        if topic.progress is not None:
            yield topic.station, topic.progress(made)


def _cautions(made: Plan) -> Iterator[Caution]:
    for topic in TOPICS:
        if topic.cautions is not None:
            yield from topic.cautions(made)


def _with_possible_remedies(finding: Finding, job: Job) -> Finding:
    """A finding without the remedies that would take a value out of its bounds."""
    possible = tuple(remedy for remedy in finding.remedies if _can_be_made(remedy, job))
    return finding if len(possible) == len(finding.remedies) else replace(finding, remedies=possible)


def _can_be_made(remedy: Remedy, job: Job) -> bool:
    try:
        apply_remedy(job, remedy)
    except OrvekError:
        return False
    return True


def _words_of(check: Check) -> str:
    """What a check looks for, from the first line of its docstring."""
    first = (check.__doc__ or "a check").splitlines()[0].rstrip(".")
    return f"{first[:1].lower()}{first[1:]}"
