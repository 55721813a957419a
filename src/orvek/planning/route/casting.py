"""Resin: weighed and mixed, poured, out of the mould. Nothing of it where the bars lie on the bench already."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.pouring import LONGEST_CURE_MIN
from orvek.documents import InsertStep
from orvek.planning.findings import Station
from orvek.planning.folding import listed
from orvek.planning.results import Plan
from orvek.planning.route.making import CURE_MIN, of, operation, span
from orvek.planning.route.results import Operation, Setting, Use, Wait, Word
from orvek.planning.stuff import oily_woods

_COOL: Wait = (60.0, 60.0, 180.0)  # a casting out of its mould is left to cool before it is bored (workshop practice)
_SEAL_MIN = 60.0  # until a sealing coat is tacky (workshop practice)
_SOON_MIN = 10.0  # what is mixed is poured (a choice); where its pot life is shorter, within that


def casting(plan: Plan) -> Iterator[Operation]:
    """The castings, one after another; where the bars lie there already, none but what was written down of them."""
    if plan.bars.in_hand and not _was_cast_here(plan):
        return
    castings = max(1, plan.bars.castings)
    pot = plan.job.pour.bubbles.way == "pressure"
    cure, word = _demould(plan)
    for number in range(1, castings + 1):
        of_all = f" {number} of {castings}" if castings > 1 else ""
        if plan.job.blank.woods and any(isinstance(step, InsertStep) for step in plan.job.blank.steps):
            yield operation(
                plan, f"lay.{number}", "lay", Station.POUR, words=f"Wood into the mould{of_all}", lines=_laid_in(plan),
                wait=span(_SEAL_MIN), wait_words="the seal dries", cautions=("pour.",), field_kind="fill",
            )  # fmt: skip
        yield operation(
            plan, f"weigh.{number}", "weigh", Station.POUR, words=f"Weigh and mix{of_all}",
            minutes=4.0 + 4.0 * len(plan.job.cast.cups), lines=_weighing_lines(plan), cautions=("pour.",),
            settings=_masses(plan), uses=resin_used(plan),
        )  # fmt: skip
        yield operation(
            plan, f"pour.{number}", "pour", Station.POUR, words=f"Pour{of_all}",
            minutes=5.0 + (plan.pace.working_min.value if plan.pace else 10.0), wait=cure, wait_source=word,
            wait_words="the casting hardens", place="pressure pot" if pot else "mould", holds=True,
            soon_min=_soon_min(plan), ready_min=_ready_min(plan), cautions=("pour.", "bubbles."),
            settings=_at_the_pour(plan),
            lines=("Look into each cup: no streaks, sides and bottom scraped.", "Pour at one end, let it run.",
                   *(("Into the pot before it gels; pressure on.",) if pot else ())),
        )  # fmt: skip
        wait, words, source, since = _until_ready(plan, number, cure)
        yield operation(
            plan, f"demould.{number}", "demould", Station.POUR, words=f"Out of the mould{of_all}", wait=wait,
            wait_words=words, wait_source=source, wait_from=since,
            lines=("Press a nail into the overflow: no mark.", "Out of the mould, number the bars, file the edges."),
        )  # fmt: skip


def _laid_in(plan: Plan) -> Iterator[str]:
    """What the wood wants before resin is poured against it."""
    names = listed(oily_woods(plan.job))
    oily = f" {names} is oily: acetone, and pour within the hour." if names else ""
    yield f"Scuff every face that resin shall hold, P80 to P120; brush the dust off, wipe with alcohol.{oily}"
    yield "Seal it with a thin coat of the same resin, end grain twice: what is not sealed breathes bubbles for hours."
    yield "Lay it in dry, where the drawing has it, and pin or weigh it down: wood floats."


def _soon_min(plan: Plan) -> float:
    pot_life = plan.pace.pot_life if plan.pace is not None else None
    return _SOON_MIN if pot_life is None else min(_SOON_MIN, pot_life.value)


def ready_wait(plan: Plan) -> tuple[Wait, Word]:
    """From the pour until it can be worked at the machine: as forecast; else until it can leave the mould."""
    forecast = plan.cure
    if forecast is None or forecast.ready_min is None:
        return _demould(plan)
    band = forecast.ready_min
    low, best, high = (min(minutes, LONGEST_CURE_MIN) for minutes in (band.low, band.best, band.high))
    return (low, best, max(best, high)), "forecast"


def _was_cast_here(plan: Plan) -> bool:
    return any(actual.task.startswith(("weigh.", "pour.", "demould.")) for actual in plan.job.work.actuals)


def resin_used(plan: Plan) -> Iterator[Use]:
    """The resin and the pigments of one casting, in grams."""
    resin, mixture = plan.job.pour.resin, plan.mixture
    if mixture is None or not mixture.cups:
        return
    pigments: dict[str, float] = {}
    for cup, planned in zip(plan.job.cast.cups, mixture.cups, strict=True):
        for dose, amount in zip(cup.pigments, planned.doses, strict=not planned.is_solid):
            pigments[dose.pigment.name] = pigments.get(dose.pigment.name, 0.0) + amount.pigment_g.value
    if resin is not None:
        mass_g = sum(cup.mass_g.value for cup in mixture.wet) - sum(pigments.values())
        yield Use("jar", resin.name, mass_g, "g")
    yield from (Use("jar", name, grams, "g") for name, grams in pigments.items())


def _demould(plan: Plan) -> tuple[Wait, Word]:
    """Until the casting can leave the mould: by the forecast, else by the label, else a day."""
    forecast = plan.cure
    if forecast is not None and forecast.demould_min is not None:
        band = forecast.demould_min
        low, best, high = (min(minutes, LONGEST_CURE_MIN) for minutes in (band.low, band.best, band.high))
        return (low, best, max(best, high)), "forecast"
    resin = plan.job.pour.resin
    label = resin.demould_min if resin is not None else None
    if label is not None:
        return span(label.value), "label"
    return span(CURE_MIN), "generic"


def _ready_min(plan: Plan) -> float | None:
    """When it can be bored, sanded and pressed after it was poured; None where no forecast says so."""
    forecast = plan.cure
    if forecast is None or forecast.ready_min is None:
        return None
    return min(forecast.ready_min.best, LONGEST_CURE_MIN)


def _until_ready(plan: Plan, number: int, cure: Wait) -> tuple[Wait, str, Word, str]:
    """Out of the mould it cools; where it takes longer until it can be bored, it cures on."""
    forecast = plan.cure
    if forecast is None or forecast.ready_min is None:
        return _COOL, "it cools to the shop", "generic", ""
    band = forecast.ready_min
    ready = tuple(min(minutes, LONGEST_CURE_MIN) for minutes in (band.low, band.best, band.high))
    low, best, high = (max(0.0, then - out) for then, out in zip(ready, cure, strict=True))
    if best <= _COOL[1]:
        return _COOL, "it cools to the shop", "generic", ""
    return (low, best, max(best, high)), "not ready to bore", "forecast", f"pour.{number}"


def _weighing_lines(plan: Plan) -> Iterator[str]:
    mixture = plan.mixture
    for cup in mixture.wet if mixture else ():
        parts = [f"{cup.part_a_g.written(plan.units)} of A", f"{cup.part_b_g.written(plan.units)} of B"]
        yield f"{cup.name}: {', '.join(parts)}."


def _masses(plan: Plan) -> Iterator[Setting]:
    for cup in plan.mixture.wet if plan.mixture else ():
        yield from of(cup.name, cup.part_a_g, *(dose.pigment_g for dose in cup.doses), cup.part_b_g)


def _at_the_pour(plan: Plan) -> Iterator[Setting]:
    if plan.mixture is not None:
        yield from of("Mould", plan.mixture.volume_ml)
    if plan.pace is not None:
        yield from of("Resin", plan.pace.pot_life)
    if plan.job.pour.bubbles.way == "pressure" and plan.bubbles is not None:
        yield from of("Pot", plan.bubbles.safe_bar)
