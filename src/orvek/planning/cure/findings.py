"""What is to be said once the cure has been forecast: too hot, too late, too short a time, and what would help."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from msgspec.structs import replace

from orvek.craft.air import USUAL_HUMIDITY_PCT, dew_point_c
from orvek.craft.pouring import cup_ages_min
from orvek.documents import JOB, Pour, declared, path_to
from orvek.planning.cure.question import READY_CURE, clock
from orvek.planning.cure.results import Band, CureForecast
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.haste import HASTE
from orvek.planning.headline import Headline
from orvek.planning.results import Plan
from orvek.quantities import Dimension, decimal, write

_ROUGH_MIN = 360.0  # a wider range than this is told to the hour, a narrower one to ten minutes
_IN_MINUTES = 120.0  # times of fast resins are told in minutes, by a bench timer
_SAME_MIN = 0.05  # of stirring: less is the same
_EDGE_K = 25.0  # estimate: a band of peaks this wide straddles a run-away
_ABOVE_DEW_K = 2.0  # thermometers and hygrometers of a shop are no better
_NO_FORECAST = "The cure cannot be forecast"


def forecast_findings(plan: Plan) -> Iterator[Finding]:
    """What a forecast that is in the plan adds to what is to be said."""
    forecast = plan.cure
    if forecast is None:
        return
    if forecast.problem:
        because = f"{forecast.problem} Put in what your label says, or what you have seen yourself."
        yield Finding(Severity.CAUTION, Station.POUR, f"{_NO_FORECAST}.", because, key="cure.problem")
        return
    for check in _CHECKS:
        for finding in check(plan, forecast):
            yield replace(finding, key=f"cure.{check.__name__.strip('_')}")


def answer(forecast: CureForecast) -> Headline:
    """When it may be drilled, then when it gels and leaves the mould, with ranges; or why that is not known."""
    there = forecast.question.conditions
    gel, demould, ready = forecast.gel_min, forecast.demould_min, forecast.ready_min
    if gel is None or demould is None or ready is None:
        return Headline(_NO_FORECAST, forecast.problem)
    course = f"It gels {_when(forecast, gel)} and can leave the mould {_when(forecast, demould)}."
    if there.drill_after_h is None:
        return Headline(f"It is {_ready(forecast, ready, ' to drill')}", course)
    wanted = there.drill_after_h * 60
    verdict = "Yes" if ready.high <= wanted else "Perhaps" if ready.best <= wanted else "No"
    want = f"you want to drill on {clock(there, wanted)}"
    return Headline(f"{verdict}: {want}, and it is {_ready(forecast, ready)}", course)


def _ready(forecast: CureForecast, band: Band, to: str = "") -> str:
    if math.isinf(band.low):
        return f"not ready{to} within a week"
    return f"ready{to} {_when(forecast, band)}"


def _when(forecast: CureForecast, band: Band) -> str:
    """A time with its range: fast resins in minutes from the pour, slow ones by the clock, slower ones by half days."""
    there = forecast.question.conditions
    if math.isinf(band.low):
        return "not within a week"
    if math.isinf(band.best):
        return f"{clock(there, band.low, 60)} at the earliest"
    if band.best < _IN_MINUTES and band.high < 2 * _IN_MINUTES:
        return f"after {band.best:.0f} min ({band.low:.0f} to {band.high:.0f})"
    step = 60 if band.high - band.low > _ROUGH_MIN else 10
    low, best = clock(there, band.low, step), clock(there, band.best, step)
    if math.isinf(band.high):
        return f"{best} ({low} at the earliest; it may take more than a week)"
    return f"{best} ({low} to {clock(there, band.high, step)})"


def _heat(plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    peak, limit = forecast.peak_c, forecast.question.hottest_c
    if peak is None or peak.high <= limit:
        return
    words = _degrees(plan, peak)
    above = write(limit, Dimension.TEMPERATURE, plan.units, 0)
    edge = peak.low <= limit - _EDGE_K
    hot = peak.best > limit
    seen = bool(forecast.question.log)  # a label alone never stops a maker; what he saw himself may
    will = "This pour will overheat." if seen else "This pour may overheat."
    title = will if hot else "This pour may run too hot." if edge else "This pour may become too hot."
    because = (
        f"The hottest point reaches {words}; above {above} it yellows, cracks or harms the mould (an estimate). "
        "A label alone says little about the peak so close to a runaway: the gel time and peak you saw in your own "
        "mould say more."
    )
    severity = Severity.STOP if hot and seen else Severity.CAUTION
    yield Finding(severity, Station.POUR, title, because, forecast.cooler)


def _late(_plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    there, ready = forecast.question.conditions, forecast.ready_min
    if ready is None or there.drill_after_h is None:
        return
    wanted = there.drill_after_h * 60
    if ready.high <= wanted:
        return
    then = forecast.cure_when_drilled
    cured = f" By then it is {100 * then.low:.0f} to {100 * then.high:.0f} % cured." if then else ""
    because = f"It is {_ready(forecast, ready)}; you want to drill on {clock(there, wanted)}.{cured}"
    late = ready.best > wanted
    title = "It is not ready to drill by then." if late else "It may not be ready to drill by then."
    yield Finding(Severity.STOP if late else Severity.CAUTION, Station.POUR, title, because, forecast.remedies)


def _lives(plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    """Each cup against its own time: from its hardener until it is poured out."""
    if plan.mixture is None or not forecast.cup_lives_min:
        return
    ages = cup_ages(plan)
    for cup, age, life in zip(plan.mixture.wet, ages, forecast.cup_lives_min, strict=True):
        if age <= HASTE * life.low:
            continue
        late = age > life.best
        title = f"{cup.name} sets in its cup." if late else f"{cup.name} leaves little time."
        because = (
            f"Its {cup.mass_g.written(plan.units)} stay liquid for {plan.units.minutes(life.low)} to "
            f"{plan.units.minutes(life.high)} from its own hardener; it is poured out after {plan.units.minutes(age)}."
        )
        remedies = tuple(_fewer(plan, age, life, len(ages)))
        yield Finding(Severity.STOP if late else Severity.CAUTION, Station.POUR, title, because, remedies)
        return


def cup_ages(plan: Plan) -> tuple[float, ...]:
    """How old each cup of the plan is, in min from its own hardener, when the last bar is filled."""
    pour = plan.job.pour
    return cup_ages_min(len(plan.job.cast.wet), pour.mix_min_per_cup, plan.bars.bars_per_casting, pour.pour_s_per_bar)


def _fewer(plan: Plan, age_min: float, life: Band, cups: int) -> Iterator[Remedy]:
    pour, bars = plan.job.pour, plan.bars.bars_per_casting
    spare = HASTE * life.low - (age_min - bars * pour.pour_s_per_bar / 60)
    fewer = int(spare * 60 / pour.pour_s_per_bar)
    most = declared(Pour, "most_bars_at_once").high
    if 1 <= fewer < bars and fewer <= most:
        yield Remedy(f"Cast at most {fewer} at a time", (Edit(path_to(JOB.pour.most_bars_at_once), fewer),))
    quicker = round((HASTE * life.low - bars * pour.pour_s_per_bar / 60) / cups, 1)
    if 1 <= quicker < pour.mix_min_per_cup - _SAME_MIN:
        words = f"Stir each cup in {decimal(quicker)} min"
        yield Remedy(words, (Edit(path_to(JOB.pour.mix_min_per_cup), quicker),))
    shop = plan.job.batch.shop_temperature_c
    # Never below the shop's dew point: wet parts foam in isocyanates and cloud everything else.
    cool = math.ceil(
        max(8.0, shop - 8, dew_point_c(shop, pour.conditions.humidity_pct or USUAL_HUMIDITY_PCT) + _ABOVE_DEW_K)
    )
    if (pour.conditions.parts_c or plan.job.batch.shop_temperature_c) > cool + 2:
        edit = Edit(path_to(JOB.pour.conditions.parts_c), float(cool))
        yield Remedy(f"Cool the parts to {plan.units.degrees_c(cool)}", (edit,))


def _stalls(plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    end = forecast.cure_at_end
    if end is None or end.best >= READY_CURE:
        return
    shop = write(forecast.question.shop_c, Dimension.TEMPERATURE, plan.units, 0)
    because = (
        f"After a week at {shop} it is {100 * end.low:.0f} to {100 * end.high:.0f} % cured: in the cold its own glass "
        "stops it. Warming it afterwards takes it further; waiting does not."
    )
    yield Finding(Severity.CAUTION, Station.POUR, "The cure stalls in the cold.", because, forecast.remedies[:1])


def _label(plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    """The label's own time in the mould against the pot life and the forecast."""
    units = plan.units
    resin = plan.job.pour.resin
    if resin is None or resin.demould_min is None or resin.pot_life_min is None:
        return
    if resin.demould_min.value <= resin.pot_life_min.value:
        because = (
            f"It gives {units.minutes(resin.pot_life_min.value)} of pot life and "
            f"{units.minutes(resin.demould_min.value)} "
            "to the mould's opening: it cannot leave the mould before it gels. Read the label again."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "The label contradicts itself.", because)
    elif forecast.demould_min and resin.demould_min.value < forecast.demould_min.low:
        because = (
            f"It says {units.minutes(resin.demould_min.value)}, the forecast "
            f"{units.minutes(forecast.demould_min.low)} at "
            "the earliest. Thin castings of fast resins often set sooner than this calculation has it."
        )
        yield Finding(Severity.NOTE, Station.POUR, "The label opens the mould sooner.", because)


def _far(plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    units = plan.units
    for one in forecast.far[:1]:
        because = (
            f"{units.g(one.mass_g, 0)} at {write(one.temperature_c, Dimension.TEMPERATURE, units)} gelled after "
            f"{units.minutes(one.gel_min)} lies more than three standard deviations from everything else. "
            "Was it another unit, another ratio, another cup? The forecast leans on it all the same."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "One entry of the cure log lies far outside.", because)


def _layers(_plan: Plan, forecast: CureForecast) -> Iterator[Finding]:
    there = forecast.question.conditions
    if there.layers == 1 or forecast.gelled_min is None:
        return
    start, end = clock(there, forecast.gelled_min.best), clock(there, forecast.tack_ends_min)
    because = (
        f"A layer takes the next one by itself from its gel, {start}, until it is no longer tacky, about {end} (an "
        "estimate). Later than that, scuff it, wipe it and pour on."
    )
    title = f"Pour the next of {there.layers} layers in its window."
    yield Finding(Severity.NOTE, Station.POUR, title, because)


def _degrees(plan: Plan, band: Band) -> str:
    low, best, high = (write(value, Dimension.TEMPERATURE, plan.units, 0) for value in (band.low, band.best, band.high))
    return f"{best} ({low} to {high})"


_CHECKS: tuple[Callable[[Plan, CureForecast], Iterator[Finding]], ...] = (
    _heat,
    _late,
    _lives,
    _stalls,
    _label,
    _far,
    _layers,
)
