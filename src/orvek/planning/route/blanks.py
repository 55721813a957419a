"""Several blanks at the bench: an operation's steps for all of them together, or blank by blank.

Together, a step stands once for all; only what is measured is measured on each. Blank by blank, all steps of a barrel
are done to one blank, then to the next; what makes the lathe ready is done once.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator
from itertools import groupby

from msgspec.structs import replace

from orvek.planning.history import fates_of
from orvek.planning.results import Plan
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import BenchStep, base_of, steps_of

ONE_BY_ONE = frozenset({"turn", "press"})  # as most hands do it
_OF_BLANKS = ONE_BY_ONE | {
    "length",
    "bore",
    "open_up",
    "paint",
    "scuff",
    "tube",
    "square",
    "sand",
    "end_piece",
    "inspect",
    "seal",
    "coat",
    "level",
    "polish",
    "recess",
    "part_off",
    "thread",
}


def blanks_in_hand(plan: Plan, task: Operation) -> tuple[int, ...]:
    """The numbers of the blanks that go through an operation; none where it is no matter of blanks, or of one only.

    One whose outcome is written down has fallen out.
    """
    if task.kind not in _OF_BLANKS:
        return ()
    known = fates_of(plan.shop.ledger, plan.job.batch.id)
    begun = round(plan.bars.blanks.value)
    return tuple(number for number in range(1, begun + 1) if number not in known) if begun > 1 else ()


def bench_steps(plan: Plan, task: Operation, *, one_by_one: bool) -> tuple[BenchStep, ...]:
    """All steps of an operation as the hands do them."""
    steps, blanks = steps_of(plan, task), blanks_in_hand(plan, task)
    if not blanks:
        return steps
    return tuple(_one_by_one(task, steps, blanks) if one_by_one else _together(steps, blanks))


def is_written(step: BenchStep, written: Collection[str], blanks: tuple[int, ...]) -> bool:
    """Whether a step is done by what is written down: for itself, for all blanks at once, or for each of them."""
    if step.key in written or base_of(step) in written:
        return True
    return not step.blank and bool(blanks) and all(f"{step.key}#{number}" in written for number in blanks)


def _together(steps: tuple[BenchStep, ...], blanks: tuple[int, ...]) -> Iterator[BenchStep]:
    for step in steps:
        if step.kind == "measure":
            yield from (_for(step, number) for number in blanks)
        else:
            yield step


def _one_by_one(task: Operation, steps: tuple[BenchStep, ...], blanks: tuple[int, ...]) -> Iterator[BenchStep]:
    """Barrel by barrel, since bit, stop and bushings are changed between them."""
    for barrel, own in groupby(steps, key=_barrel):
        group = tuple(own)
        if barrel is None and task.kind in {"turn", "tube"}:
            yield from group
        else:
            yield from (_for(step, number) for number in blanks for step in group)


def _barrel(step: BenchStep) -> int | None:
    return step.place[0] if step.place is not None else step.hole


def of_blank(number: int, words: str) -> str:
    """What is done to one of several blanks."""
    return f"Blank {number}, {words}"


def _for(step: BenchStep, number: int) -> BenchStep:
    return replace(step, key=f"{step.key}#{number}", words=of_blank(number, step.words), blank=number)
