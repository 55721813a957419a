"""The traveller: the whole route of a job on paper, from the first stock to the pressed pen, to go along with the work.

A cover with the picture of what it becomes; then every operation with a box to tick, its settings large enough to read
at the machine, its steps, its wait, what can hurt, and room for what really happened.
"""

from __future__ import annotations

import io
from collections.abc import Iterator
from datetime import date

from reportlab.platypus import Flowable, KeepTogether

from orvek.cards.bench_card import bench_card, stops
from orvek.cards.picture_file import picture_png
from orvek.cards.sheet import QUIET
from orvek.cards.story import Cell, Drawing, blank_line, gap, heading, table, tick_box, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.planning.route.pieces import lines_of, taken
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import steps_of
from orvek.planning.route.words import settings_lines, wait_words
from orvek.planning.words import counted
from orvek.quantities import Dimension, Units, write, write_date
from orvek.workpiece.reference import evaluate_reference

_PICTURE_PX, _PICTURE_MM = 480, 26.0
_ACTUAL_MM, _BOX_MM, _GAP_MM = 42.0, 8.0, 5.0
_SETTING_PT, _MOST_STEPS = 12.5, 14


def traveller(plan: Plan, shop: Shop, today: date) -> bytes:
    """The whole route as PDF.

    Raises:
        NothingToDoError: nothing is decided yet.
    """
    route, units = plan.route, shop.preferences.units
    if route is None or not route.operations:
        raise NothingToDoError("A traveller", "a pen, and what its blank is made of")
    story = bench_card(plan, shop, "Traveller", _line(plan), today)
    stops(story, plan)
    if plan.layout is not None:
        story.add(_picture(plan, story.wide_mm), gap(3))
    story.add(heading(f"{len(route.operations)} operations, {_hands(plan, units)} of hands"))
    for number, one in enumerate(route.operations, 1):
        story.add(_operation(plan, one, number, story.wide_mm, units))
    return story.pdf()


def _line(plan: Plan) -> str:
    """For whom, what and when."""
    job = plan.job
    pens = f"{job.batch.pens_wanted} × {job.pen.name}" if job.pen is not None else "no pen yet"
    blanks = round(plan.bars.blanks.value)
    promised = f", promised for {write_date(job.promised)}" if job.promised else ""
    return f"{pens}, {counted(blanks, 'blank')} to start with{promised}"


def _hands(plan: Plan, units: Units) -> str:
    return write(plan.route.hands_min if plan.route else 0.0, Dimension.DURATION, units)


def _picture(plan: Plan, wide_mm: float) -> Drawing:
    """What it becomes, turned."""
    png = picture_png(plan, evaluate_reference, "turned", _PICTURE_PX)
    from PIL import Image

    with Image.open(io.BytesIO(png)) as found:
        wide, tall = found.size
    long = min(wide_mm, _PICTURE_MM * wide / tall)
    return Drawing(long, long * tall / wide, lambda ink: ink.picture(0, 0, long, long * tall / wide, io.BytesIO(png)))


def _operation(plan: Plan, one: Operation, number: int, wide_mm: float, units: Units) -> Flowable:
    """One operation: box, words and settings at the left, room for what happened at the right."""
    is_done = plan.route is not None and one.key in plan.route.done
    told: list[Cell] = [words(f"{number}. {one.words}{' (done)' if is_done else ''}", 12, "bold", after_mm=0.6)]
    if one.takes:
        told.append(words(f"Take {'; '.join(lines_of(taken(one), plan))}.", 8.5, colour=QUIET))
    told += [words(line, _SETTING_PT, "medium") for line in settings_lines(one, units)]
    told += [words(line, 9.5) for line in _steps(plan, one)]
    if one.soon_min is not None:
        within = write(one.soon_min, Dimension.DURATION, units)
        told.append(words(f"Begin within {within} of what comes before.", 9.5, "medium"))
    if one.wait_min[2]:
        told.append(words(f"Then wait {wait_words(one, units)}.", 9.5, "medium"))
    told += [words(f"Caution: {caution}", 8, "medium") for caution in plan.cautions_of(one.cautions)]
    row: list[Cell] = [tick_box(4.0), told, "", _actuals(one)]
    wide = wide_mm - _BOX_MM - _GAP_MM - _ACTUAL_MM
    return KeepTogether([table([row], (_BOX_MM, wide, _GAP_MM, _ACTUAL_MM), pad_mm=1.4)])


def _steps(plan: Plan, one: Operation) -> Iterator[str]:
    """What the bench shows, but for what stands among the settings already; what it counts is said in a line each."""
    steps = [step.words for step in steps_of(plan, one) if step.kind in {"do", "temperature"}]
    steps = steps or ([] if one.settings and one.kind != "coat" else list(one.lines))
    yield from (f"– {step}" for step in steps[:_MOST_STEPS])
    if len(steps) > _MOST_STEPS:
        yield f"– and {len(steps) - _MOST_STEPS} more, at the bench"


def _actuals(one: Operation) -> list[Cell]:
    """Room for day, times and what was measured."""
    asked = ["day, from", "until", *(["measured"] if one.settings else [])]
    cells: list[Cell] = []
    for label in asked:
        cells += [words(label, 7.5, colour=QUIET), blank_line(_ACTUAL_MM - 2)]
    return cells
