"""The topics of a plan, in the order in which their parts are worked out, in one table.

A topic is one subject of the work in one folder of the same name here, at the stations and among the cards: its part
of the plan, its checks, what it says of its station's state, its sections of a report, its cautions. A topic never
imports another; what two need stands in `bar.py` or one room down.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from msgspec import Struct

from orvek.planning.blank import findings as blank_findings
from orvek.planning.blank import hidden, kept, photo_findings, step_findings
from orvek.planning.blank import part as blank
from orvek.planning.bore import findings as bore_findings
from orvek.planning.bore import part as bore
from orvek.planning.bore import tube_findings
from orvek.planning.bubbles import findings as bubble_findings
from orvek.planning.bubbles import part as bubbles
from orvek.planning.colour import findings as colour_findings
from orvek.planning.colour import part as colour
from orvek.planning.cure import part as cure
from orvek.planning.faults import findings as fault_findings
from orvek.planning.faults import part as faults
from orvek.planning.findings import Caution, Finding, Station
from orvek.planning.finish import findings as finish_findings
from orvek.planning.finish import part as finish
from orvek.planning.glue_up import findings as glue_findings
from orvek.planning.glue_up import part as glue_up
from orvek.planning.pen import findings as pen_findings
from orvek.planning.pen import part as pen
from orvek.planning.pour import cup_findings
from orvek.planning.pour import findings as pour_findings
from orvek.planning.pour import part as pour
from orvek.planning.records import findings as record_findings
from orvek.planning.results import Plan
from orvek.planning.route import part as route
from orvek.planning.soak import bath_findings, dye_findings
from orvek.planning.soak import findings as soak_findings
from orvek.planning.soak import part as soak
from orvek.planning.timetable import findings as timetable_findings
from orvek.planning.working import Figure

Check = Callable[[Plan], Iterator[Finding]]


class Topic(Struct, frozen=True):
    """One subject of the plan.

    Attributes:
        key: the folder's name, the field of `Plan`, and the beginning of the keys of its findings and cautions.
        station: where the maker decides about it.
        words: what it is called where it could not be worked out.
        part: its part of the plan, made from the parts before it; None for a topic that is only judged.
        checks: what is to be said about it.
        progress: whether it has begun and whether it is complete; None where the station's state is another's to tell.
        sections: the figures of a report, by their headings.
        cautions: what can hurt.
    """

    key: str
    station: Station
    words: str
    part: Callable[[Plan], object] | None = None
    checks: tuple[Check, ...] = ()
    progress: Callable[[Plan], tuple[bool, bool]] | None = None
    sections: Callable[[Plan], Iterator[tuple[str, list[Figure]]]] | None = None
    cautions: Callable[[Plan], Iterator[Caution]] | None = None


TOPICS = (
    Topic("pen", Station.PEN, "the pen", pen.part, pen_findings.CHECKS, pen.progress, pen.sections),
    Topic(
        "blank",
        Station.BLANK,
        "the blank",
        checks=(*blank_findings.CHECKS, *step_findings.CHECKS, *photo_findings.CHECKS, *kept.CHECKS, *hidden.CHECKS),
        progress=blank.progress,
        cautions=blank.cautions,
    ),
    Topic(
        "soak",
        Station.SOAK,
        "drying and soaking",
        soak.part,
        (*soak_findings.CHECKS, *bath_findings.CHECKS, *dye_findings.CHECKS),
        soak.progress,
        soak.sections,
        soak.cautions,
    ),
    Topic(
        "pour",
        Station.POUR,
        "what is mixed and poured",
        pour.part,
        (*pour_findings.CHECKS, *cup_findings.CHECKS),
        pour.progress,
        pour.sections,
        pour.cautions,
    ),
    Topic(
        "bubbles",
        Station.POUR,
        "bubbles and the pot",
        bubbles.part,
        bubble_findings.CHECKS,
        sections=bubbles.sections,
        cautions=bubbles.cautions,
    ),
    Topic("colour", Station.POUR, "whether the tube shows", colour.part, colour_findings.CHECKS),
    Topic("cure", Station.POUR, "the cure", cautions=cure.cautions),
    Topic(
        "glue_up",
        Station.GLUE_UP,
        "the cut list",
        glue_up.part,
        glue_findings.CHECKS,
        glue_up.progress,
        glue_up.sections,
        glue_up.cautions,
    ),
    Topic(
        "bore",
        Station.BORE,
        "the boring plan",
        bore.part,
        (*bore_findings.CHECKS, *tube_findings.CHECKS),
        bore.progress,
        bore.sections,
        bore.cautions,
    ),
    Topic(
        "finish",
        Station.FINISH,
        "sizes, grits and coats",
        finish.part,
        finish_findings.CHECKS,
        finish.progress,
        finish.sections,
        finish.cautions,
    ),
    Topic(
        "faults",
        Station.FINISH,
        "what went wrong",
        faults.part,
        fault_findings.CHECKS,
        sections=faults.sections,
        cautions=faults.cautions,
    ),
    Topic(
        "route",
        Station.BATCH,
        "the route",
        route.part,
        timetable_findings.CHECKS,
        route.progress,
        route.sections,
    ),
    Topic("records", Station.BATCH, "what the records say", checks=record_findings.CHECKS),
)
