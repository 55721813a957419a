"""What is to be said of the log of weights and of the wood's moisture."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft.moisture import MOST_HUMIDITY_PCT
from orvek.documents import JOB, path_to, present
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan
from orvek.planning.soak.words import dry_line, odd_line
from orvek.quantities import Dimension, write, write_moment

_SCORCH_C, _SLOW_C = 110.0, 60.0  # wood browns beyond, and hardly dries below (workshop practice)
_MOST_DENSE_G_ML = 1.35  # oven-dry: nothing that grows is denser
_DRY_PCT = 2.0  # wetter than that, water is in resin's way (workshop practice)
_WORTH_A_WORD = 0.08  # of the room in the wood


def log_odd(plan: Plan) -> Iterator[Finding]:
    """Lines of the log that cannot be right: they stay as typed, and can be left out of the forecast."""
    if plan.soak is None:
        return
    log = plan.job.soak.drying.log
    for place, what in plan.soak.drying.odd:
        line = log[place]
        said = odd_line(what, plan.units.g(line.mass_g), write_moment(line.when))
        edit = Edit(path_to(JOB.soak.drying.log[place].is_left_out), True)
        because = "It stays in the log as it was typed; left out, the forecast goes by the others."
        remedy = Remedy(f"Leave {plan.units.g(line.mass_g)} out of the forecast", (edit,))
        yield Finding(Severity.CAUTION, Station.SOAK, said, because, (remedy,))


def too_early(plan: Plan) -> Iterator[Finding]:
    """A log that cannot say yet when it will be dry."""
    drying = plan.soak.drying if plan.soak else None
    if drying is None or drying.fit is None or not drying.fit.why_not or drying.odd:
        return
    apart = (
        f" Weigh at least {drying.weigh_apart.written(plan.units)} apart with this scale." if drying.weigh_apart else ""
    )
    because = f"{dry_line(drying, plan.units)}{apart}"
    yield Finding(Severity.NOTE, Station.SOAK, "It is too early to say when it is dry.", because)


def humid(plan: Plan) -> Iterator[Finding]:
    """Air in which wood never comes to rest."""
    percent = plan.job.soak.drying.humidity_pct
    if plan.soak is not None and percent is not None and percent > MOST_HUMIDITY_PCT:
        because = f"At {percent:g} % humidity wood stays wet; the calculation goes up to {MOST_HUMIDITY_PCT:g} %."
        yield Finding(Severity.CAUTION, Station.SOAK, "Nothing dries in this air.", because)


def oven(plan: Plan) -> Iterator[Finding]:
    """An oven that browns the wood, or hardly dries it."""
    units = plan.units
    soak = plan.job.soak
    if plan.soak is None or soak.route == "nothing" or soak.drying.way != "in an oven":
        return
    path = path_to(JOB.soak.drying.oven_c)
    if soak.drying.oven_c > _SCORCH_C:
        because = f"Beyond {units.degrees_c(_SCORCH_C)} wood and fibre brown and turn brittle; dyes go sooner."
        remedy = Remedy(f"Dry at {units.degrees_c(103)}", (Edit(path, 103.0),))
        yield Finding(Severity.CAUTION, Station.SOAK, "The oven is too hot for wood.", because, (remedy,))
    elif soak.drying.oven_c < _SLOW_C:
        because = f"Below {units.degrees_c(_SLOW_C)} it dries, but not to the end; 100 to 105 °C is oven-dry."
        remedy = Remedy(f"Dry at {units.degrees_c(103)}", (Edit(path, 103.0),))
        yield Finding(Severity.NOTE, Station.SOAK, "It will not become oven-dry.", because, (remedy,))


def density(plan: Plan) -> Iterator[Finding]:
    """A density that no wood has: a size or a weight was typed wrongly."""
    if plan.soak is None:
        return
    value = plan.soak.wood.density_g_ml
    if value.value > _MOST_DENSE_G_ML:
        because = (
            f"{value.written(plan.units)}: no wood is denser than {_MOST_DENSE_G_ML} g/ml. Look at sizes and weight."
        )
        yield Finding(Severity.CAUTION, Station.SOAK, "Such wood does not grow.", because)


def wet(plan: Plan) -> Iterator[Finding]:
    """Wood that is to be stabilised and holds water."""
    soak = plan.soak
    if soak is None or soak.bath is None or soak.drying.moisture_pct is None:
        return
    now = soak.drying.moisture_pct
    if now.value > _DRY_PCT and plan.job.soak.bath.after_g is None:
        because = (
            f"{now.written(plan.units)} of water fills the pores that resin is to fill, boils under vacuum for hours, "
            "and keeps the core cool in the oven. "
        )
        in_air = plan.job.soak.drying.way == "in the air"
        because += "The air never takes more: finish it in the oven." if in_air else "Go on drying."
        yield Finding(Severity.CAUTION, Station.SOAK, "It is not dry yet.", because)


def to_the_resin(plan: Plan) -> Iterator[Finding]:
    """What was measured of the wood goes to the pour, in place of what was typed there."""
    soak, insert = plan.soak, plan.job.pour.insert
    if soak is None or insert is None or soak.wood.dry_g is None:
        return
    taken = soak.bath.taken_pct if soak.bath else None
    filled = min(1.0, taken.value / 100) if taken else 0.0  # what is full of resin takes up no more
    void = round(soak.wood.void_pct.value / 100 * (1 - filled), 2)
    if abs(void - insert.void_fraction) > _WORTH_A_WORD:
        has = f"{100 * void:.0f} %{' left' if filled else ''}"
        because = f"Weighed and measured it has {has}; the pour goes by {100 * insert.void_fraction:.0f} %."
        remedy = Remedy(f"Pour by {100 * void:.0f} %", (Edit(path_to(present(JOB.pour.insert).void_fraction), void),))
        yield Finding(
            Severity.NOTE, Station.SOAK, "The pour has another figure for the room in it.", because, (remedy,)
        )
    now = soak.drying.moisture_pct
    if now is not None and insert.moisture_pct is None:
        value = round(now.value, 1)
        because = f"The log of weights says {now.written(plan.units)}; the pour does not know yet."
        words = f"Pour with {write(value, Dimension.PERCENT, plan.units)} of moisture"
        remedy = Remedy(words, (Edit(path_to(present(JOB.pour.insert).moisture_pct), value),))
        yield Finding(Severity.NOTE, Station.SOAK, "Tell the pour how wet the wood is.", because, (remedy,))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (log_odd, too_early, humid, oven, density, wet, to_the_resin)
