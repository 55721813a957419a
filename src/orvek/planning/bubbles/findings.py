"""What is to be said about bubbles, pots, vacuum, and wood that is laid into resin."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft import woods
from orvek.craft.bubbles import (
    GAUGE_ERROR_KPA,
    HEAD_ROOM,
    SAFE_PART,
    air_kpa,
    boils_below_kpa,
    gas_of_water,
    left_kpa,
    water_vapour_kpa,
)
from orvek.documents import JOB, Insert, InsertStep, Job, path_to, present
from orvek.planning.bubbles.part import bubbles_plan
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station, changes
from orvek.planning.results import Plan
from orvek.planning.stuff import oily_woods
from orvek.planning.vacuum import boiling, vessel
from orvek.quantities import decimal

_DRY_AND_SAFE = 0.5  # of the family's limit
_RISES_MIN = 15.0  # a resin that stays liquid for less keeps its bubbles (workshop practice)
_USUAL_BAR = 2.8  # what most castings are put under (workshop practice)
_DRINKS_PCT = 80.0  # of the possible: such wood gives off much air (a choice)
_SEALED_MOST, _BARE_LEAST = 0.05, 0.05  # of the room that fills (workshop practice, low confidence)


def pressure(plan: Plan) -> Iterator[Finding]:
    """Pressure within the pot's rating, and a pot the mould goes into."""
    units = plan.units
    pour, made = plan.job.pour, plan.bubbles
    if pour.bubbles.way != "pressure" or plan.job.cast_index is None:
        return
    if pour.pot is None or made is None:
        because = "The pot's plate gives the pressure limit; its inside decides which moulds go in."
        remedies = tuple(Remedy(f"Use {pot.name}", (Edit(path_to(JOB.pour.pot), pot),)) for pot in plan.shop.pots[:2])
        yield Finding(Severity.STOP, Station.POUR, "Which pot?", because, remedies)
        return
    safe = SAFE_PART * pour.pot.rated_bar
    held = f"The air in it would hold {decimal(made.stored_kj.value, 1)} kJ." if made.stored_kj else ""
    if pour.bubbles.pressure_bar > safe + 1e-9:
        over = pour.bubbles.pressure_bar > pour.pot.rated_bar
        because = (
            f"{units.bar(pour.bubbles.pressure_bar)} in a pot rated to {units.bar(pour.pot.rated_bar)}: plan for at "
            f"most 80 % of the plate, {units.bar(safe)}. {held}"
        )
        remedy = Remedy(
            f"Pump to {units.bar(round(safe, 2))}", (Edit(path_to(JOB.pour.bubbles.pressure_bar), round(safe, 2)),)
        )
        title = "The pressure is above what the pot is rated for." if over else "The pressure is too near the rating."
        yield Finding(Severity.STOP, Station.POUR, title, because, (remedy,))
    if made.fitting == 0:
        because = (
            f"{units.mm(made.mould_mm[0], 0)} × {units.mm(made.mould_mm[1], 0)} × {units.mm(made.mould_mm[2], 0)} does "
            f"not go into {units.mm(pour.pot.diameter_mm, 0)} across and {units.mm(pour.pot.height_mm, 0)} high with "
            "room to lift it out."
        )
        bigger = [pot for pot in plan.shop.pots if pot.diameter_mm > pour.pot.diameter_mm]
        remedies = tuple(Remedy(f"Use {pot.name}", (Edit(path_to(JOB.pour.pot), pot),)) for pot in bigger[:1])
        yield Finding(Severity.STOP, Station.POUR, "The mould does not go into the pot.", because, remedies)


def vacuum(plan: Plan) -> Iterator[Finding]:
    """Head room, boiling, and gauges that promise more than the air holds."""
    units = plan.units
    pour, resin = plan.job.pour, plan.job.pour.resin
    if pour.bubbles.way != "vacuum" or plan.mixture is None:
        return
    altitude = plan.shop.preferences.altitude_m
    gauge = 100 * pour.bubbles.gauge_bar
    left, air = left_kpa(altitude, gauge), air_kpa(altitude)
    if left <= 0:
        because = (
            f"The air itself has {units.bar(air / 100, 2)} at {decimal(altitude)} m; no gauge can read more. "
            "Check the gauge."
        )
        best = round((air - GAUGE_ERROR_KPA) / 100, 2)
        remedy = Remedy(f"Plan with {units.bar(best, 2)}", (Edit(path_to(JOB.pour.bubbles.gauge_bar), best),))
        yield Finding(Severity.STOP, Station.POUR, "There is not that much air to take away.", because, (remedy,))
        return
    largest = max((cup.volume_ml.value for cup in plan.mixture.wet), default=0.0)
    if largest * HEAD_ROOM > pour.bubbles.vessel_ml:
        because = (
            f"{units.ml(largest)} foam up to four times and more in a vessel of "
            f"{units.ml(pour.bubbles.vessel_ml)} before "
            "they collapse."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "Foam may overflow the vacuum vessel.", because)
    warm = plan.job.batch.shop_temperature_c
    family = plan.shop.family(resin.family) if resin is not None else None
    vapour = family.vapour_kpa_20 if family else None
    told: tuple[Finding, ...] = ()
    if vapour is not None:
        boils_at = boils_below_kpa(vapour.value, warm)
        told = tuple(boiling(plan, Station.POUR, left, boils_at, path_to(JOB.pour.bubbles.gauge_bar)))
        yield from told
    if not told and left < water_vapour_kpa(warm):
        because = (
            f"Only {units.kpa(left)} are left, and water boils at {units.kpa(water_vapour_kpa(warm))}: damp wood or "
            "pigment goes on bubbling for hours. That is not air."
        )
        yield Finding(Severity.NOTE, Station.POUR, "Water boils at this vacuum.", because)
    if left < GAUGE_ERROR_KPA:
        off = units.kpa(GAUGE_ERROR_KPA)
        because = f"{units.kpa(left)} lies within what a dial gauge and the weather may be off, about {off}."
        yield Finding(Severity.NOTE, Station.POUR, "This is within the gauge's error of full vacuum.", because)


def chamber(plan: Plan) -> Iterator[Finding]:
    """A vessel under vacuum that implodes."""
    bubbles = plan.job.pour.bubbles
    if bubbles.way == "vacuum" and plan.mixture is not None:
        yield from vessel(Station.POUR, bubbles.vessel, path_to(JOB.pour.bubbles.vessel))


def untreated(plan: Plan) -> Iterator[Finding]:
    """A resin that sets before its bubbles can rise, with nothing done about them."""
    units = plan.units
    pour, resin = plan.job.pour, plan.job.pour.resin
    if resin is None or plan.mixture is None or pour.bubbles.way != "none" or resin.pot_life_min is None:
        return
    life, family = resin.pot_life_min.value, plan.shop.family(resin.family)
    if life > _RISES_MIN:
        return
    foams = " Every trace of water makes more of them." if family is not None and family.foams_with_water else ""
    because = (
        f"The pot life is {units.minutes(life)}, too short for bubbles to rise.{foams} Pressure until it has gelled "
        "makes them too small to see; or take a slow resin."
    )
    title = "Bubbles will stay in this casting."
    yield Finding(Severity.CAUTION, Station.POUR, title, because, tuple(_under_pressure(plan)))


def _under_pressure(plan: Plan) -> Iterator[Remedy]:
    """A pot of the shelf that takes the mould, at a pressure well within its rating."""
    for pot in plan.shop.pots:
        bar = round(min(_USUAL_BAR, SAFE_PART * pot.rated_bar), 1)
        bubbles = plan.job.pour.bubbles.with_(way="pressure", pressure_bar=bar)
        job = plan.job.with_(pour=plan.job.pour.with_(pot=pot, bubbles=bubbles))
        found = bubbles_plan(job, plan.shop)
        if found is not None and found.fitting > 0:
            edits = (
                Edit(path_to(JOB.pour.pot), pot),
                *changes(path_to(JOB.pour.bubbles), plan.job.pour.bubbles, bubbles),
            )
            yield Remedy(f"{plan.units.bar(bar)} in {pot.name}", edits)
            return


def sealing(plan: Plan) -> Iterator[Finding]:
    """Wood that is laid into resin with faces of which nobody said that they are sealed."""
    pour, names = plan.job.pour, _laid_woods(plan)
    faces = pour.insert.faces if pour.insert is not None else "not said"
    is_full = plan.job.soak.route == "stabilised"
    if plan.mixture is None or not names or faces != "not said" or is_full or pour.bubbles.way == "pressure":
        return
    porous = [key for key in names if _is_porous(plan.job, key)]
    because = (
        "Bare pores give off air for as long as the resin is liquid, and drink it. A thin coat of the same resin or "
        "thin glue on every face, undersides too, left to gel, keeps the air in."
    )
    sealed = (pour.insert or Insert()).with_(faces="sealed")
    remedies = (Remedy("Mark the faces as sealed", (Edit(path_to(JOB.pour.insert), sealed),)), *_under_pressure(plan))
    title = f"Seal the {', '.join(plan.job.blank.material(key).name.lower() for key in names)} before the pour."
    yield Finding(Severity.CAUTION if porous else Severity.NOTE, Station.POUR, title, because, remedies)


def _laid_woods(plan: Plan) -> list[str]:
    """Keys of the woods that are laid into the mould."""
    laid = (step.material for step in plan.job.blank.steps if isinstance(step, InsertStep))
    return [key for key in dict.fromkeys(laid) if plan.job.blank.material(key).look == "wood"]


def _is_porous(job: Job, key: str) -> bool:
    """Whether a wood calls for sealing: it drinks much, or its fibres are loose, or it is punky."""
    own = woods.wood(key)
    drinks = own is None or own.takes_high_pct >= _DRINKS_PCT
    return drinks or job.soak.wood.is_soft or job.blank.material(key).grain != "sound"


def oily(plan: Plan) -> Iterator[Finding]:
    """Oily wood in resin, which may stay soft against it."""
    laid = {plan.job.blank.material(key).name for key in _laid_woods(plan)}
    names = [name for name in oily_woods(plan.job) if name in laid]
    if plan.mixture is not None and names:
        because = (
            f"The oil of {', '.join(names).lower()} keeps resin from curing where they meet. Wipe its faces with "
            "alcohol or acetone, let it flash off, seal them, and try the resin on an offcut first."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "Resin may stay soft against oily wood.", because)


def wood(plan: Plan) -> Iterator[Finding]:
    """Wood in resin: dry enough for the family, held down where it floats, faces made ready."""
    job, resin = plan.job, plan.job.pour.resin
    insert = job.pour.insert
    laid = next((n for n, step in enumerate(job.blank.steps) if isinstance(step, InsertStep)), None)
    if resin is None or plan.mixture is None or (insert is None and laid is None):
        return
    family = plan.shop.family(resin.family)
    limit = family.most_moisture_pct.value if family and family.most_moisture_pct else 12.0
    moisture = insert.moisture_pct if insert else None
    if moisture is not None and moisture > limit:
        mass = insert.mass_g if insert and insert.mass_g else 10.0
        water = mass * (moisture - limit) / (100 + moisture)
        gas = gas_of_water(water)[0]
        foaming = family is None or family.foams_with_water  # of a family that is not known, the worse is thought
        foams = (
            f" The {decimal(water, 2)} g of water over it could make {gas:.0f} ml of gas in it."
            if foaming
            else " It shrinks later and parts."
        )
        because = (
            f"{decimal(moisture)} % against at most {decimal(limit)} % for this family.{foams} Dry it first, and "
            "let it cool in a bag."
        )
        severity = Severity.STOP if foaming and family is not None and moisture > limit + 2 else Severity.CAUTION
        yield Finding(severity, Station.POUR, "The wood is too damp for this resin.", because)
    if moisture is None and family is not None and family.foams_with_water:
        because = (
            f"Water makes this resin foam: 0.1 g of it gives {gas_of_water(0.1)[0]:.0f} ml of gas. Type its moisture, "
            f"by meter or oven, with the insert: at most {decimal(limit)} %. Soak says it from a log of weights."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "How wet is the wood?", because)
    if insert is not None:
        yield from _faces(insert)
    lying = plan.mixture.insert
    density = insert.density_g_ml if insert else None
    if lying is not None and density is None and insert and insert.mass_g and lying.volume_ml.value > 0:
        density = insert.mass_g / lying.volume_ml.value
    if density is None and laid is not None:
        density = _laid_density(plan)
    if density is not None and density < resin.density_mix.value:
        because = (
            f"{decimal(density, 2)} g/ml in a resin of {decimal(resin.density_mix.value, 2)}: it floats up as soon as "
            "the resin is in. A drop of glue, a pin or a weight across the mould keeps it down. Scuff, wipe and seal "
            "its faces first, undersides too."
        )
        yield Finding(Severity.NOTE, Station.POUR, "Hold the insert down.", because)


def _faces(insert: Insert) -> Iterator[Finding]:
    """Faces that drink otherwise than was typed: sealed ones take up next to nothing, bare ones some."""
    path = path_to(present(JOB.pour.insert).soak_fraction)
    if insert.faces in {"sealed", "stabilised"} and insert.soak_fraction > _SEALED_MOST:
        because = f"{insert.faces.capitalize()} wood takes up 0 to 2 % of its room; the pour goes by "
        because += f"{100 * insert.soak_fraction:.0f} %."
        remedy = Remedy("Pour by 2 %", (Edit(path, 0.02),))
        yield Finding(Severity.NOTE, Station.POUR, "Sealed wood soaks up less.", because, (remedy,))
    elif insert.faces == "bare and warm" and insert.soak_fraction < _BARE_LEAST:
        because = (
            f"Bare wood takes up 5 to 15 % of its room; the pour goes by {100 * insert.soak_fraction:.0f} %. It "
            "goes on giving off air while it cools: under pressure, or sealed, there are no bubbles."
        )
        remedy = Remedy("Pour by 10 %", (Edit(path, 0.1),))
        yield Finding(Severity.NOTE, Station.POUR, "Bare wood soaks up more.", because, (remedy,))


STATION = Station.POUR
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (pressure, chamber, vacuum, untreated, sealing, oily, wood)


def _laid_density(plan: Plan) -> float | None:
    """Density of what the first step lays into the mould, from its material."""
    laid = next((step for step in plan.job.blank.steps if isinstance(step, InsertStep)), None)
    return plan.job.blank.material(laid.material).density_g_ml.value if laid else None
