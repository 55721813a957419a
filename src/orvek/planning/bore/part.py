"""From the bar and the tubes: how each hole is bored and each tube glued in."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.boring_plan import holds_after_min
from orvek.craft.wander import fitted
from orvek.documents import AS_THE_STEPS_SAY, Glue, Press
from orvek.planning.bore.drilling import Drilling
from orvek.planning.bore.results import BorePlan, HolePlan, TubePlan, WideHole
from orvek.planning.bore.tubing import PAINT_MM, glue_plan
from orvek.planning.drift import shop_wander
from orvek.planning.exits import exit_of
from orvek.planning.findings import Caution
from orvek.planning.results import Plan
from orvek.planning.stuff import SOLVENT, stuff_of
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_SMALLEST = "the smallest for all, then opened up"
_LONG_MIN, _QUARTER_MIN = 120.0, 15.0


def part(plan: Plan) -> BorePlan | None:
    """The boring plan; None while there is no pen or no bar."""
    job, shop, layout = plan.job, plan.shop, plan.layout
    if job.pen is None or layout is None or job.makes_bars:
        return None
    bore = job.bore
    press = bore.press or (shop.presses[0] if shop.presses else Press())
    glue = shop.glue(bore.glue) or shop.all_glues[0]  # an unknown one is said by a finding
    stuff = stuff_of(job)
    learned = shop_wander(shop)
    is_own = bore.press is not None or shop.presses not in {(), (Press(),)}
    drilling = Drilling(
        job, shop, layout, press=press, is_own_press=is_own, stuff=stuff, wander=learned, exit=exit_of(job, shop)
    )
    holes = tuple(drilling.hole(number) for number in range(len(job.pen.barrels)))
    return BorePlan(
        holes=holes,
        press=press,
        is_own_press=is_own,
        stuff=stuff,
        glue=glue,
        wait_min=_wait(glue, job.batch.shop_temperature_c),
        mixed=glue_plan(holes, glue, max(1, round(plan.bars.blanks.value))),
        wander=learned,
        log=fitted(hole.off_mm for hole in shop.bored),
        small_mm=_small_mm(holes) if bore.bits == _SMALLEST else None,
    )


def _small_mm(holes: tuple[HolePlan, ...]) -> float | None:
    """The smallest bit, where the holes are not all of one size."""
    sizes = {hole.bored_mm for hole in holes}
    return min(sizes) if len(sizes) > 1 else None


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with the pen and the bar; complete when every hole was bored and measured."""
    if plan.bore is None:
        return False, False
    return True, all(hole.hole.offsets_mm is not None or hole.hole.measured_mm is not None for hole in plan.bore.holes)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    for hole in plan.bore.holes if plan.bore else ():
        yield f"Bore {hole.name}", list(hole.figures)
    if plan.bore and any(hole.tube for hole in plan.bore.holes):
        yield "Glue in", [plan.bore.wait_min]


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt."""
    if plan.bore is None:
        return
    yield Caution(
        "bore.press",
        "Clamp the bar, never hold it: a bit that grabs spins it. Key out, no gloves, eye protection; back off to "
        "clear chips. The press's manual decides.",
    )
    if plan.bore.stuff.cool_s:
        yield Caution(
            "bore.dust", "Resin chips and dust irritate: a mask rated for it, and the product's safety sheet."
        )
    if any(hole.hole.tube == "reclaimed" for hole in plan.bore.holes):
        yield Caution(
            "bore.reclaimed",
            "Old glue and resin smoke when a tube is warmed free: outside or under extraction, never in a flame, "
            "tongs, and let it cool. The glue's safety sheet decides.",
        )
    if any(hole.tube for hole in plan.bore.holes):
        yield Caution("bore.glue", plan.bore.glue.can_hurt)
        yield Caution("bore.solvent", SOLVENT)


def _wait(glue: Glue, shop_c: float) -> Figure:
    """How long the glue is left before the ends are squared, in this shop."""
    terms = (
        Term("t20", f"{glue.key} holds after, at 20 °C", glue.handle_min, Dimension.DURATION, "practice"),
        Term("T", "the shop", shop_c, Dimension.TEMPERATURE),
    )
    by_warmth = not glue.activator
    formula = "t = t20 · 2^((20 °C − T) / 10 K)" if by_warmth else "t = t20; it sets by the air's moisture"
    source = "workshop rule: twice as fast for every 10 K; its own label goes before it"
    minutes = holds_after_min(glue.handle_min, shop_c) if by_warmth else glue.handle_min
    if minutes >= _LONG_MIN:
        minutes = round(minutes / _QUARTER_MIN) * _QUARTER_MIN  # a rule of thumb has no minutes
    return Figure("Leave it before squaring", minutes, Dimension.DURATION, formula, terms, source)


__all__ = [
    "AS_THE_STEPS_SAY", "PAINT_MM", "BorePlan", "HolePlan", "TubePlan", "WideHole", "cautions", "part", "progress",
    "sections",
]  # fmt: skip
