"""Wood before anything else: dried, dyed, soaked, baked."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from orvek.planning.findings import Station
from orvek.planning.results import Plan
from orvek.planning.route.making import operation, span
from orvek.planning.route.results import NO_WAIT, Operation, Wait, Word
from orvek.planning.soak.results import Stage

DRYING = "soak.1"  # the key of the operation by which wood begins to dry


def treating(plan: Plan) -> Iterator[Operation]:
    """A stretch of the hands and the wait after it make an operation; a log's fit says how long wood dries."""
    for key, hands, waits in _keyed(plan):
        place = next((wait.place for wait in waits if wait.place), "")
        wait, source = _wait(plan, key, waits)
        yield operation(
            plan, key, "soak", Station.SOAK, minutes=hands.minutes,
            words=f"{hands.words[:1].upper()}{hands.words[1:60]}", wait=wait, wait_source=source,
            wait_words=", ".join(wait.words for wait in waits), place=place, holds=bool(place), cautions=hands.cautions,
            lines=(hands.line,) if hands.line else (), field_kind=hands.kind,
        )  # fmt: skip


def stage_of(plan: Plan, key: str) -> Stage | None:
    """The stage that an operation on the wood is about."""
    return next((hands for own, hands, _ in _keyed(plan) if own == key), None)


def _keyed(plan: Plan) -> Iterator[tuple[str, Stage, list[Stage]]]:
    """Each stretch of the hands under the key of its operation, with the waits after it."""
    stages = plan.soak.stages if plan.soak and plan.job.soak.route != "nothing" else ()
    number = 0
    for hands, waits in _stretches(stages):
        number += not hands.key
        yield f"soak.{hands.key or number}", hands, waits


def _wait(plan: Plan, key: str, waits: list[Stage]) -> tuple[Wait, Word]:
    minutes = sum(wait.minutes for wait in waits)
    fit = plan.soak.drying.told if plan.soak is not None else None
    if key == DRYING and fit is not None:
        beside = minutes - 60 * fit.dry_h.best  # what is waited for besides drying
        low, best, high = (60 * hours + beside for hours in (fit.dry_h.low, fit.dry_h.best, fit.dry_h.high))
        return (low, best, max(best, high)), "log"
    return (span(minutes) if minutes else NO_WAIT), "generic"


def _stretches(stages: Iterable[Stage]) -> Iterator[tuple[Stage, list[Stage]]]:
    """What the hands do, each with what is waited for after it."""
    hands: Stage | None = None
    waits: list[Stage] = []
    for stage in stages:
        if not stage.is_hands:
            waits.append(stage)
            continue
        if hands is not None:
            yield hands, waits
        hands, waits = stage, []
    if hands is not None:
        yield hands, waits
