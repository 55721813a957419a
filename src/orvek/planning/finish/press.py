"""How a pen is put together, from its parts in their order; and where its clip lies."""

from __future__ import annotations

import math
from collections.abc import Iterator

from msgspec import Struct

from orvek.craft.faults import covered_deg
from orvek.craft.pressing import apart_deg, clip_covers_deg, up_from_clip_deg
from orvek.documents import Barrel, Job, Pen, PenPart
from orvek.planning.bar import clip_from_to_mm
from orvek.planning.finish.results import ClipFlaw, ClipPlan
from orvek.planning.headline import Headline
from orvek.planning.pressing import PRESS, WITHOUT_A_PRESS
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, Units, write

_MM, _DEG = Dimension.LENGTH, Dimension.ANGLE
FIRST_PART = 3  # the number of the first part among the lines: what comes before it is done to all of them
_STOP_BEFORE_MM = 1.0  # from there on bit by bit, writing in between: within its window 1 mm makes or breaks it
_NEAR_DEG = 5.0  # a clip is pressed no truer than that (workshop practice)


class DepthWindow(Struct, frozen=True):
    """How deep a mechanism goes in: its part, at least and at most (either may be unknown), how far it is in; mm."""

    part: PenPart
    low_mm: float | None
    high_mm: float | None
    now_mm: float | None

    @property
    def is_too_deep(self) -> bool:
        """Whether it was pressed in beyond its limit."""
        return self.now_mm is not None and self.high_mm is not None and self.now_mm > self.high_mm

    def span(self, units: Units) -> str:
        """The limits in words: "22.0 mm to 23.5 mm", "at least 30.0 mm", "at most 30.0 mm"."""
        return _span(self.part, units)


def depth_window(job: Job) -> DepthWindow | None:
    """The first part of a pen that must go in by so much and no more; None where none does."""
    parts = job.pen.parts if job.pen else ()
    part = next((one for one in parts if one.depth_low_mm is not None or one.depth_high_mm is not None), None)
    if part is None:
        return None
    return DepthWindow(part, part.depth_low_mm, part.depth_high_mm, job.finish.in_mm)


def depth_words(window: DepthWindow, units: Units) -> Headline:
    """What is said of how far a mechanism is in: within its limits it is left, for it cannot be drawn out again."""
    name, span, now = window.part.name, window.span(units), window.now_mm
    if now is None:
        return Headline(f"{name}: {span} deep", "Measure how far it is in, and type it.")
    if window.high_mm is not None and now > window.high_mm:
        over = write(now - window.high_mm, _MM, units)
        return Headline(
            f"{name}: {over} too deep", "Try it; a washer in the barrel, or the tube cut back, may save it."
        )
    if window.low_mm is None or now >= window.low_mm:
        return Headline(f"{name}: leave it", f"{write(now, _MM, units)} is within its limits ({span}). Write with it.")
    left = write(window.low_mm - now, _MM, units)
    if window.low_mm - now <= _STOP_BEFORE_MM:
        return Headline(f"{name}: {left} to go", "A quarter turn of the press at a time, write in between.")
    return Headline(f"{name}: {left} to go until it is {write(window.low_mm, _MM, units)} deep")


def out_of_order(pen: Pen) -> tuple[PenPart, PenPart] | None:
    """A part that closes a place and one that needs it later; None where each part finds its place open.

    What is pressed or glued in closes its end of its barrel, and what lies under it. What goes into another part, and
    on no barrel's end, is not judged.
    """
    for number, part in enumerate(pen.parts):
        if part.how in {"pressed in", "glued in"}:
            for later in pen.parts[number + 1 :]:
                if _is_same_end(part, later) or _is_under(later, part):
                    return part, later
    return None


def _is_same_end(part: PenPart, later: PenPart) -> bool:
    return part.barrel_no is not None and (later.barrel_no, later.end) == (part.barrel_no, part.end)


def _is_under(later: PenPart, part: PenPart) -> bool:
    """Whether a part goes under another, as its words say: "under the mechanism's rim"."""
    into = later.into.lower()
    return into.startswith("under ") and any(word in into for word in part.name.lower().split() if len(word) > 3)


class PressStep(Struct, frozen=True):
    """One step of putting a pen together: its name, all of it in words, and which part it is about, if any."""

    name: str
    words: str
    part: int | None = None


def press_lines(pen: Pen, units: Units, pressed_in: str = PRESS) -> tuple[str, ...]:
    """Putting it together, step by step."""
    return tuple(step.words for step in press_steps(pen, units, pressed_in))


def press_steps(pen: Pen, units: Units, pressed_in: str = PRESS) -> tuple[PressStep, ...]:
    """Putting it together, step by step; the parts begin with the step of the number `FIRST_PART`."""
    if not pen.parts:
        first = "This pen's parts are not listed yet: first what hides or would tilt the others."
        return PressStep("Parts not listed yet", first), _square(pressed_in), *_general(pen)
    first = "Clear glue out of the tube ends with a reamer. Dry fit all of them and lay them out in this order."
    parts = (PressStep(part.name, _part_line(part, units), number) for number, part in enumerate(pen.parts))
    steps = [PressStep("Clear the tube ends, dry fit", first), _square(pressed_in), *parts]
    if pen.spring != "not known":
        steps.append(PressStep("Spring", f"The spring is {pen.spring}."))
    if pen.refill:
        steps.append(PressStep("Refill", f"Refill: {pen.refill}."))
    return (*steps, *_general(pen))


def _part_line(part: PenPart, units: Units) -> str:
    words = f"{part.line}."
    if part.depth_low_mm is not None or part.depth_high_mm is not None:
        span = _span(part, units)
        words += f" {span[:1].upper()}{span[1:]} deep: {_until(part, units)}"
    if part.look_for:
        words += f" Look: {part.look_for}."
    if part.is_final:
        words += " Cannot be undone."
    return words


def depth_span(part: PenPart, units: Units) -> str:
    """How deep a part goes in, in words: "22.0 mm to 23.5 mm"; empty where its sheet does not say."""
    return "" if part.depth_low_mm is None and part.depth_high_mm is None else _span(part, units)


def _span(part: PenPart, units: Units) -> str:
    low, high = (None if mm is None else write(mm, _MM, units) for mm in (part.depth_low_mm, part.depth_high_mm))
    if low is None or high is None:
        return f"at most {high}" if low is None else f"at least {low}"
    return low if low == high else f"{low} to {high}"


def _until(part: PenPart, units: Units) -> str:
    """Where to stop pressing and go on bit by bit: before the least depth, or well before the most."""
    if part.depth_low_mm is None and part.depth_high_mm is not None:
        half = write(part.depth_high_mm / 2, _MM, units)
        return f"from {half} on bit by bit, write in between, and leave it where it writes well."
    stop = write(max(0.0, (part.depth_low_mm or 0.0) - _STOP_BEFORE_MM), _MM, units)
    return f"stop at {stop}, write, then bit by bit."


_SQUARE = PressStep(
    "Start square, press slowly",
    "Start each by hand, square; press slowly, look after the first millimetre. Askew it cracks the lip: back off, "
    "turn it half round, again.",
)


def _square(pressed_in: str) -> PressStep:
    """How it is begun; without a press first how its forces are kept in line."""
    before = WITHOUT_A_PRESS.get(pressed_in, "")
    return PressStep(_SQUARE.name, f"{before} {_SQUARE.words}".strip())


def _general(pen: Pen) -> Iterator[PressStep]:
    """What holds for every pen of this build."""
    if any(part.depth_low_mm is not None or part.depth_high_mm is not None for part in pen.parts):
        yield PressStep(
            "Write before the last millimetre",
            "A mechanism goes in bit by bit: write with it before the last millimetre; it cannot be drawn out again.",
        )
    if len(pen.barrels) > 1:
        yield PressStep(
            "Turn the barrels, then the clip",
            "Turn the barrels until the pattern runs on over the joint, then press the clip where it is to lie.",
        )
    yield PressStep(
        "Wipe off glue", "Wipe off glue that squeezes out before it holds; scrape it off with a plastic edge after."
    )


def clip_plan(job: Job, units: Units) -> ClipPlan | None:
    """What follows for the clip; None without a pen."""
    if job.pen is None:
        return None
    finish, last = job.finish, job.pen.barrels[-1]
    covers = clip_covers_deg(finish.clip_mm, last.widest_mm)
    flaws = tuple(_clip_flaws(job, last))
    up = up_from_clip_deg(last.widest_mm / 2, finish.clip_off_mm)
    return ClipPlan(_covers(job, covers), _up(job, up), tuple(_clip_lines(job, covers, up, flaws, units)), flaws)


def _clip_flaws(job: Job, last: Barrel) -> Iterator[ClipFlaw]:
    """The flaws on the clip's barrel, each with where it lies from the clip along it."""
    number = len(job.laid) - 1
    first, end = clip_from_to_mm(job)
    for fault in job.faults.found:
        if fault.barrel == number and fault.way not in {"turn on", "again", "reclaim"}:
            half, long = fault.long_mm / 2, last.tube_length_mm
            low, high = min(max(0.0, fault.at_mm - half), long), min(long, fault.at_mm + half)
            off = max(first - high, low - end)
            beyond = max(0.0, first - low) + max(0.0, high - end) if off < 0 else high - low
            wide = covered_deg(fault.wide_mm, last.widest_mm)
            yield ClipFlaw(fault.azimuth_deg % 360, wide, off, round(beyond, 6))


def _clip_lines(job: Job, covers_deg: float, up_deg: float, flaws: tuple[ClipFlaw, ...], units: Units) -> list[str]:
    finish, lines = job.finish, []
    for flaw in flaws:
        off, wide = apart_deg(flaw.azimuth_deg, finish.clip_deg), flaw.wide_deg
        if flaw.off_mm >= 0:
            lines.append(f"The flaw lies {write(flaw.off_mm, _MM, units)} from the clip along the barrel.")
        elif off <= (covers_deg + wide) / 2 and not flaw.is_in_reach:
            lines.append(f"The flaw reaches {write(flaw.beyond_mm, _MM, units)} out beyond the clip's end.")
        elif off + wide / 2 <= covers_deg / 2:
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
    return lines


def _covers(job: Job, covers_deg: float) -> Figure:
    assert job.pen is not None
    last = job.pen.barrels[-1]
    terms = (
        Term("w", "the clip", job.finish.clip_mm, _MM),
        Term("D", f"{last.name}, where it is widest", last.widest_mm, _MM),
    )
    return Figure("The clip covers", covers_deg, _DEG, "2 asin(w / D)", terms, "geometry", digits=0)


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

    None where there is no flaw that the clip reaches, or no best side.
    """
    plan = clip_plan(job, Units())
    if plan is None:
        return None
    if where == "over the flaw":
        reached = [flaw for flaw in plan.flaws if flaw.is_in_reach]
        return max(reached, key=lambda flaw: flaw.wide_deg).azimuth_deg if reached else None
    best = job.finish.best_deg
    if best is None:
        return None
    turn = {"over the best side": 0.0, "best side up": plan.up_deg.value, "opposite the best side": 180.0}[where]
    return math.fmod(best + turn + 720.0, 360.0)
