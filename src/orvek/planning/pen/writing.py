"""Refill, tip and length of the pen as it is to be, after what is cut off its barrels; and what is to be said of it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from orvek.craft import refill
from orvek.craft.turning import TUBE_WALL_MM
from orvek.documents import JOB, Job, Pen, Writing, path_to, present
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.pen.results import WritingPlan
from orvek.planning.results import Plan
from orvek.planning.shortening import lost_mm
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _G = Dimension.LENGTH, Dimension.MASS
_WOOD_G_ML, _RESIN_G_ML = 0.7, 1.15  # where nobody knows better: a guess
_CLOSE_MM = 0.2


def writing_plan(job: Job, pen: Pen) -> WritingPlan:
    """What follows from refill and mechanism; figures without their measurements are None."""
    how, out = pen.writing, pen.writing.out_mm
    lost = sum(lost_mm(job, index, barrel) for index, barrel in enumerate(pen.barrels))
    return WritingPlan(
        lost_mm=lost,
        out_mm=_out(out, lost) if out is not None else None,
        drawn_mm=_drawn(out, how.stroke_mm, lost) if out is not None and how.stroke_mm else None,
        may_lose_mm=_may_lose(out, how.stroke_mm) if out is not None else None,
        play_mm=_play(how),
        other_out_mm=_other(how, lost),
        length_mm=_length(pen, lost),
        mass_g=_mass(job, pen),
    )


def writes(plan: Plan) -> Iterator[Finding]:
    """A tip that stands out too far, stays out, or does not come out; a refill that has no room."""
    pen, told = plan.job.pen, plan.pen.writing if plan.pen is not None else None
    if pen is None or told is None:
        return
    units, how, (least, most) = plan.units, pen.writing, refill.WRITES_MM
    if how.refill_mm is not None and how.refill_mm > told.length_mm.value and how.parts_mm:
        because = f"It is {units.mm(how.refill_mm)}, the whole pen {told.length_mm.written(units)}."
        yield Finding(Severity.STOP, Station.PEN, "The refill is longer than the pen.", because)
    after = f" after {units.mm(told.lost_mm)} are cut off its barrels" if told.lost_mm else ""
    if told.out_mm is not None and told.out_mm.value < least - _CLOSE_MM:
        because = f"It stands out {told.out_mm.written(units)}{after}; {units.mm(least)} to {units.mm(most)} write."
        yield Finding(Severity.CAUTION, Station.PEN, "The tip does not come out far enough.", because)
    elif told.out_mm is not None and told.out_mm.value > most + _CLOSE_MM:
        because = f"It stands out {told.out_mm.written(units)}{after}: it bends. {units.mm(most)} is far enough."
        yield Finding(Severity.CAUTION, Station.PEN, "The tip stands out too far.", because)
    if told.drawn_mm is not None and told.drawn_mm.value > -refill.DRAWN_IN_MM + _CLOSE_MM:
        where = "out" if told.drawn_mm.value > 0 else "inside"
        because = f"Drawn in it is {units.mm(abs(told.drawn_mm.value))} {where}{after}: it writes on the pocket."
        yield Finding(Severity.CAUTION, Station.PEN, "The tip does not draw in far enough.", because)


def allows(plan: Plan) -> Iterator[Finding]:
    """What the refill lets the barrels lose, beside what stands at them."""
    pen, told = plan.job.pen, plan.pen.writing if plan.pen is not None else None
    if pen is None or told is None or told.may_lose_mm is None:
        return
    units, most = plan.units, math.floor(round(10 * max(0.0, told.may_lose_mm.value), 6)) / 10
    wrong = [n for n, one in enumerate(pen.barrels) if one.play_mm is None or one.play_mm > most + _CLOSE_MM]
    if not wrong:
        return
    edits = tuple(Edit(path_to(present(JOB.pen).barrels[n].play_mm), most) for n in wrong)
    remedy = Remedy(f"Let each barrel lose {units.mm(most)}", edits)
    is_more = any(pen.barrels[n].play_mm is not None for n in wrong)
    title = "A barrel may lose less than that." if is_more else f"The refill lets the pen lose {units.mm(most)}."
    because = f"What the barrels lose the tip gains: {told.may_lose_mm.written(units)} for all of them together."
    yield Finding(Severity.CAUTION if is_more else Severity.NOTE, Station.PEN, title, because, (remedy,))


def springs(plan: Plan) -> Iterator[Finding]:
    """Whether a spring belongs in, as far as room and refill were measured and nobody has said it."""
    pen, told = plan.job.pen, plan.pen.writing if plan.pen is not None else None
    if pen is None or told is None or told.play_mm is None or pen.spring != "not known":
        return
    is_needed = told.play_mm.value >= refill.SPRING_PLAY_MM
    said, title = ("needed", "A spring is needed.") if is_needed else ("left out", "The spring is left out.")
    because = f"The refill has {told.play_mm.written(plan.units)} of play in its room."
    remedy = Remedy(f"Spring: {said}", (Edit(path_to(present(JOB.pen).spring), said),))
    yield Finding(Severity.NOTE, Station.PEN, title, because, (remedy,))


def _out(out: float, lost: float) -> Figure:
    terms = (Term("t", "it stands out now", out, _MM, "measured"), Term("c", "cut off the barrels", lost, _MM))
    return Figure("Tip out, writing", out + lost, _MM, "t + c", terms, "what the pen loses the tip gains")


def _drawn(out: float, stroke: float, lost: float) -> Figure:
    terms = (
        Term("t", "it stands out, writing", out, _MM, "measured"),
        Term("c", "cut off the barrels", lost, _MM),
        Term("s", "the mechanism draws it in by", stroke, _MM, "measured"),
    )
    return Figure("Tip, drawn in", out + lost - stroke, _MM, "t + c − s", terms, "below 0: inside")


def _may_lose(out: float, stroke: float) -> Figure:
    terms = (
        Term("t", "it stands out, writing", out, _MM, "measured"),
        Term("m", "it may stand out", refill.WRITES_MM[1], _MM, "practice"),
        Term("s", "the mechanism draws it in by", stroke, _MM, "measured"),
        Term("i", "it is to be inside", refill.DRAWN_IN_MM, _MM, "practice"),
    )
    formula = "min(m − t, s − t − i)" if stroke else "m − t"
    return Figure("All barrels may lose", refill.may_lose_mm(out, stroke), _MM, formula, terms, "geometry")


def _play(how: Writing) -> Figure | None:
    if how.room_mm is None or how.refill_mm is None:
        return None
    out = how.out_mm if how.out_mm is not None else refill.WRITES_MM[0]
    wanted = refill.hole_mm(how.refill_mm, how.spring_mm, out)
    terms = (
        Term("r", "the room, measured", how.room_mm, _MM, "measured"),
        Term("l", "refill", how.refill_mm, _MM, "measured"),
        Term("s", "spring, pressed together", how.spring_mm, _MM),
        Term("t", "tip out", out, _MM),
    )
    words = "below 0.5 mm a spring is left out; below 0 the refill does not go in"
    return Figure("Play of the refill", how.room_mm - wanted, _MM, "r − (l + s − t)", terms, words)


def _other(how: Writing, lost: float) -> Figure | None:
    if how.other_mm is None or how.refill_mm is None or how.out_mm is None:
        return None
    terms = (
        Term("t", "it stands out now", how.out_mm, _MM, "measured"),
        Term("d", "the other one is longer by", how.other_mm - how.refill_mm, _MM),
        Term("c", "cut off the barrels", lost, _MM),
    )
    value = how.out_mm + how.other_mm - how.refill_mm + lost
    return Figure("Tip out with the other refill", value, _MM, "t + d + c", terms, "geometry")


def _length(pen: Pen, lost: float) -> Figure:
    barrels = sum(one.tube_length_mm for one in pen.barrels)
    terms = (
        Term("B", "barrels", barrels, _MM),
        Term("p", "parts add", pen.writing.parts_mm, _MM),
        Term("c", "cut off the barrels", lost, _MM),
    )
    words = "derived" if pen.writing.parts_mm else "the barrels alone: what the parts add was not measured"
    return Figure("Finished pen, long", barrels + pen.writing.parts_mm - lost, _MM, "B + p − c", terms, words)


def _mass(job: Job, pen: Pen) -> Figure:
    known = [job.blank.material(key).density_g_ml.value for key in job.blank.material_keys]
    dense = [value for value in known if value]
    density = sum(dense) / len(dense) if dense else _RESIN_G_ML if job.cast_index is not None else _WOOD_G_ML
    volume = sum(refill.barrel_ml(one.profile, one.bit_diameter_mm, one.tube_length_mm) for one in pen.barrels)
    tubes = sum(refill.tube_g(one.glued_mm, one.tube_diameter_mm, TUBE_WALL_MM) for one in pen.barrels if one.has_tube)
    parts = pen.writing.parts_g or 0.0
    terms = (
        Term("V", "turned barrels", volume, Dimension.VOLUME),
        Term("ρ", "what they are made of, about", density, Dimension.DENSITY, "guess"),
        Term("m", "brass tubes", tubes, _G, "guess"),
        Term("p", "parts", parts, _G, "measured" if parts else "guess"),
    )
    words = "about" if parts else "without its parts: nobody weighed them"
    return Figure("Pen weighs", volume * density + tubes + parts, _G, "V · ρ + m + p", terms, words, digits=0)
