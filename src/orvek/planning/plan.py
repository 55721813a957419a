"""The plan: one immutable job goes in, everything that follows from it comes out.

`plan` is pure and takes a few milliseconds; `apply_remedy` gives the job that a finding's button leads to.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial

from orvek.craft.moulding import bars_in
from orvek.documents import Job, Shop, catalogue
from orvek.documents.deeds import set_value
from orvek.errors import OrvekError
from orvek.planning.bars import bars_plan, blank_mm
from orvek.planning.blank import findings as blank_findings
from orvek.planning.blank import step_findings
from orvek.planning.bubbles import findings as bubble_findings
from orvek.planning.bubbles.part import bubbles_plan
from orvek.planning.colour import part as see_through
from orvek.planning.colour.part import tube_views
from orvek.planning.draft import Draft
from orvek.planning.glue_up import findings as glue_findings
from orvek.planning.glue_up.part import cut_plan
from orvek.planning.guard import Attempts
from orvek.planning.pen import findings as pen_findings
from orvek.planning.pen.part import layout, pen_plan
from orvek.planning.pour import cup_findings
from orvek.planning.pour import findings as pour_findings
from orvek.planning.pour.costs import cost_plan
from orvek.planning.pour.mixture import mixture_plan
from orvek.planning.pour.pace import pace_plan
from orvek.planning.results import BarsPlan, Finding, Layout, Plan, Remedy, Severity, Station
from orvek.planning.sentences import shortened
from orvek.workpiece.lengths import lengths_mm

_ORDER = {Severity.STOP: 0, Severity.CAUTION: 1, Severity.NOTE: 2}


_EQUIPMENT = {
    "pressure": "Pressure pot: only within the rating on its plate, with its relief valve; let the pressure out before "
    "unlatching, never lean over it, change nothing on it. The maker's manual and local rules decide.",
    "vacuum": "Vacuum chambers can implode: look for cracks and crazing, put a cage or cover round it, no plain glass "
    "jars. The equipment's rating decides.",
    "warm": "Warm only what has gelled, never in a food oven; vent outdoors, smoke detector on, no solvents near. "
    "The resin's safety sheet and the oven's rating decide.",
}


def plan(job: Job, shop: Shop) -> Plan:
    """Compute all that follows from a job in this shop.

    A job that lacks a pen, mould or resin gives the parts that can be computed and findings that say what is
    missing. Never raises for a valid job.
    """
    tried = Attempts()
    part = tried.part
    has_bars = job.pour.mould is None or bars_in(job.pour.mould) > 0
    pen = part("the pen", Station.PEN, lambda: pen_plan(job.pen, job.blank) if job.pen else None, None)
    bars = part("the bars", Station.POUR, lambda: bars_plan(job, pen), None) or bars_plan(Job(batch=job.batch), None)
    laid = part("where the tubes lie", Station.PEN, lambda: _laid(job, bars), None)
    is_cast = has_bars and job.cast_index is not None
    mixture = part(
        "the cups", Station.POUR, lambda: mixture_plan(job, bars, shop.vessels_ml) if is_cast else None, None
    )
    pace = part("the time there is to pour", Station.POUR, lambda: pace_plan(job, bars), None)
    bubbles = part("bubbles and the pot", Station.POUR, lambda: bubbles_plan(job, shop), None)
    views = part("whether the tube shows", Station.POUR, lambda: tube_views(job), ())
    cutting = part("the cut list", Station.GLUE_UP, lambda: cut_plan(job, laid, shop), None)
    costs = part("what it costs", Station.POUR, lambda: cost_plan(job, bars, mixture), None)
    cautions = part("the cautions", Station.POUR, lambda: _cautions(job), ())
    findings = _findings(Draft(job, shop, pen, bars, laid, mixture, pace, bubbles, views, cutting), tried)
    return Plan(
        job=job,
        pen=pen,
        bars=bars,
        layout=laid,
        mixture=mixture,
        pace=pace,
        costs=costs,
        bubbles=bubbles,
        cutting=cutting,
        tube_views=views,
        cautions=cautions,
        findings=findings,
        failed=tried.failed,
    )


def _laid(job: Job, bars: BarsPlan) -> Layout | None:
    return layout(job.pen, job.blank, bars.section, _finished_blank_mm(job, bars)) if job.pen else None


def _finished_blank_mm(job: Job, bars: BarsPlan) -> float | None:
    """Length of a blank out of the mould once its steps are done; None without a mould."""
    start = blank_mm(bars, job.blank.saw_kerf_mm)
    return None if start is None else lengths_mm(job.blank.steps, start)[-1]


def apply_remedy(job: Job, remedy: Remedy) -> Job:
    """The job after a remedy, all its edits made in order."""
    for edit in remedy.edits:
        job = set_value(job, edit.path, edit.value)
    return job


def _findings(draft: Draft, tried: Attempts) -> tuple[Finding, ...]:
    rooms = (
        pen_findings,
        blank_findings,
        step_findings,
        pour_findings,
        cup_findings,
        bubble_findings,
        see_through,
        glue_findings,
    )
    checks = [(room, check) for room in rooms for check in room.CHECKS]
    found = [
        _with_possible_remedies(finding, draft.job)
        for room, check in checks
        for finding in tried.findings(_words_of(check), room.STATION, partial(check, draft))
    ]
    found = shortened(found, draft.job, draft.shop)
    return tuple(sorted((*found, *tried.as_findings()), key=lambda finding: _ORDER[finding.severity]))


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


def _words_of(check: Callable[[Draft], Iterator[Finding]]) -> str:
    """What a check looks for, from the first line of its docstring."""
    first = (check.__doc__ or check.__name__).splitlines()[0].rstrip(".")
    return f"{first[:1].lower()}{first[1:]}"


def _cautions(job: Job) -> tuple[str, ...]:
    resin = job.pour.resin
    family = catalogue().family(resin.family) if resin else None
    if resin is None:
        return ()
    extra = tuple(_EQUIPMENT[way] for way in (job.pour.bubbles.way,) if way in _EQUIPMENT)
    if job.pour.conditions.warm_c is not None:
        extra = (*extra, _EQUIPMENT["warm"])
    if family is None:
        words = "Orvek does not know this family of resin: the product's own safety sheet is the only guide."
        return (words, *extra)
    return (*family.cautions, *extra)
