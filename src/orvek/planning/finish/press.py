"""How a pen is put together, from its parts in their order; and where its clip lies."""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.craft.faults import covered_deg
from orvek.craft.pressing import apart_deg, up_from_clip_deg
from orvek.documents import Job, Pen, PenPart
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, Units, write

_MM, _DEG = Dimension.LENGTH, Dimension.ANGLE
FIRST_PART = 3  # the number of the first part among the lines: what comes before it is done to all of them
_STOP_BEFORE_MM = 1.0  # from there on bit by bit, writing in between: within its window 1 mm makes or breaks it
_NEAR_DEG = 5.0  # a clip is pressed no truer than that (workshop practice)


class DepthWindow(Struct, frozen=True):
    """How deep a mechanism goes in: its part and end, from and to in mm, and how far it is in."""

    part: PenPart
    low_mm: float
    high_mm: float
    now_mm: float | None


class ClipPlan(Struct, frozen=True):
    """Where the clip lies on the last barrel, what it covers, what lies up on a desk."""

    covers_deg: Figure
    up_deg: Figure  # from the clip to the side that lies up, to either hand
    lines: tuple[str, ...]
    flaws_deg: tuple[tuple[float, float], ...]  # azimuths of flaws on that barrel and how wide they are


def depth_window(job: Job) -> DepthWindow | None:
    """The first part of a pen that must go in by so much and no more; None where none does."""
    parts = job.pen.parts if job.pen else ()
    part = next((one for one in parts if one.depth_low_mm is not None or one.depth_high_mm is not None), None)
    if part is None:
        return None
    low = part.depth_low_mm if part.depth_low_mm is not None else part.depth_high_mm
    high = part.depth_high_mm if part.depth_high_mm is not None else part.depth_low_mm
    assert low is not None
    assert high is not None
    return DepthWindow(part, low, high, job.finish.in_mm)


def depth_words(window: DepthWindow, units: Units) -> str:
    """What is said of how far a mechanism is in."""
    low, high = write(window.low_mm, _MM, units), write(window.high_mm, _MM, units)
    span = low if window.low_mm == window.high_mm else f"{low} to {high}"
    if window.now_mm is None:
        return f"{window.part.name}: {span} deep. Measure how far it is in, and type it."
    if window.now_mm > window.high_mm:
        over = write(window.now_mm - window.high_mm, _MM, units)
        return (
            f"{window.part.name}: {over} too deep. Try it; a washer in the barrel, or the tube cut back, may save it."
        )
    if window.now_mm >= window.low_mm:
        return f"{window.part.name}: it is within {span}. Write with it; stop where it writes well."
    left = write(window.low_mm - window.now_mm, _MM, units)
    if window.low_mm - window.now_mm <= _STOP_BEFORE_MM:
        return f"{window.part.name}: {left} to go. A quarter turn of the press at a time, write in between."
    return f"{window.part.name}: {left} to go until it is {low} deep."


def press_lines(pen: Pen, units: Units) -> tuple[str, ...]:
    """Putting it together, step by step."""
    if not pen.parts:
        return (
            "This pen's parts are not listed yet: first what hides or would tilt the others.",
            _SQUARE,
            *_GENERAL,
        )
    lines = [
        "Clear glue out of the tubes' ends with a reamer; dry fit every part by hand, and lay them out in this order.",
        _SQUARE,
        *(_part_line(part, units) for part in pen.parts),
    ]
    if pen.spring != "not known":
        lines.append(f"The spring is {pen.spring}.")
    if pen.refill:
        lines.append(f"Refill: {pen.refill}.")
    return (*lines, *_GENERAL)


def _part_line(part: PenPart, units: Units) -> str:
    words = f"{part.line}."
    deep = [write(size, _MM, units) for size in (part.depth_low_mm, part.depth_high_mm) if size is not None]
    if deep:
        stop = write(max(0.0, (part.depth_low_mm or part.depth_high_mm or 0) - _STOP_BEFORE_MM), _MM, units)
        words += f" {' to '.join(dict.fromkeys(deep))} deep: stop at {stop}, write, then bit by bit."
    if part.look_for:
        words += f" Look: {part.look_for}."
    if part.is_final:
        words += " No way back."
    return words


_SQUARE = (
    "Start each by hand, square; press slowly, look after the first millimetre. Askew it cracks the lip: back off, "
    "turn it half round, again."
)
_GENERAL = (
    "A mechanism goes in bit by bit: write with it before the last millimetre; it cannot be drawn out again.",
    "Turn the barrels until the pattern runs on over the joint, then press the clip where it is to lie.",
    "Wipe off glue that squeezes out before it holds; scrape it off with a plastic edge after.",
)


def clip_plan(job: Job) -> ClipPlan | None:
    """What follows for the clip; None without a pen."""
    if job.pen is None:
        return None
    finish, last = job.finish, job.pen.barrels[-1]
    covers = covered_deg(finish.clip_mm, last.widest_mm)
    flaws = tuple(
        (fault.azimuth_deg % 360, covered_deg(fault.wide_mm, last.widest_mm))
        for fault in job.faults.found
        if fault.barrel == len(job.pen.barrels) - 1 and fault.way not in {"turn on", "again", "reclaim"}
    )
    up = up_from_clip_deg(last.widest_mm / 2, finish.clip_off_mm)
    return ClipPlan(_covers(job, covers), _up(job, up), _clip_lines(job, covers, up, flaws), flaws)


def _clip_lines(job: Job, covers_deg: float, up_deg: float, flaws: tuple[tuple[float, float], ...]) -> tuple[str, ...]:
    finish, lines = job.finish, []
    for azimuth, wide in flaws:
        off = apart_deg(azimuth, finish.clip_deg)
        if off + wide / 2 <= covers_deg / 2:
            lines.append("The flaw is under the clip.")
        elif off - wide / 2 < covers_deg / 2:
            lines.append(f"The flaw is half under the clip: {off + wide / 2 - covers_deg / 2:.0f}° of it look out.")
        else:
            lines.append(f"The flaw lies {off:.0f}° from the clip.")
    if finish.best_deg is not None:
        off = apart_deg(finish.best_deg, finish.clip_deg)
        if off <= covers_deg / 2:
            lines.append("The clip hides the best side.")
        elif abs(off - up_deg) <= _NEAR_DEG:
            lines.append("On a desk the best side lies up.")
        else:
            lines.append(f"The best side lies {off:.0f}° from the clip; at {up_deg:.0f}° it would lie up on a desk.")
    return tuple(lines)


def _covers(job: Job, covers_deg: float) -> Figure:
    assert job.pen is not None
    last = job.pen.barrels[-1]
    terms = (
        Term("w", "the clip", job.finish.clip_mm, _MM),
        Term("D", f"{last.name}, where it is widest", last.widest_mm, _MM),
    )
    return Figure("The clip covers", covers_deg, _DEG, "w / (π D) · 360°", terms, "geometry", digits=0)


def _up(job: Job, up_deg: float) -> Figure:
    assert job.pen is not None
    terms = (
        Term("r", "barrel, half of it", job.pen.barrels[-1].widest_mm / 2, _MM),
        Term("h", "the clip stands off", job.finish.clip_off_mm, _MM, "guess"),
    )
    formula = "180° − acos(r / (r + h))"
    return Figure("Up on a desk, from the clip", up_deg, _DEG, formula, terms, "geometry, to either hand", digits=0)


def snapped_deg(job: Job, where: str) -> float | None:
    """The clip's azimuth for a wish: "over the flaw", "over the best side", "best side up", "opposite the best side".

    None where there is no flaw or no best side.
    """
    plan = clip_plan(job)
    if plan is None:
        return None
    if where == "over the flaw":
        return max(plan.flaws_deg, key=lambda flaw: flaw[1])[0] if plan.flaws_deg else None
    best = job.finish.best_deg
    if best is None:
        return None
    turn = {"over the best side": 0.0, "best side up": plan.up_deg.value, "opposite the best side": 180.0}[where]
    return math.fmod(best + turn + 720.0, 360.0)
