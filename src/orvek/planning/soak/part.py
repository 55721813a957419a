"""From the wood, the log of weights, the chamber and the oven: the whole treatment."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec.structs import replace

from orvek.documents import DyeStep
from orvek.planning.findings import Caution
from orvek.planning.results import Plan
from orvek.planning.soak.bath import bath_plan, vacuum_plan
from orvek.planning.soak.drying import dry_plan
from orvek.planning.soak.dyes import dye_plans
from orvek.planning.soak.oven import heat_plan
from orvek.planning.soak.results import BathPlan, DryPlan, DyePlan, HeatPlan, SoakPlan, Stage, WoodPlan
from orvek.planning.soak.room import wood_plan
from orvek.planning.working import Figure

_CHAMBER = "vacuum chamber"  # what is left in the resin stands in it
# Sealed until cold; over the bath; weighing and wiping; letting the air back slowly (estimates).
_COOL_MIN, _DRIP_MIN, _HANDS_MIN, _AIR_MIN = 90.0, 30.0, 15.0, 5.0
_RE_DRY_MIN = {"water": 1440.0, "alcohol": 240.0, "resin": 0.0}  # before the next colour (workshop practice)


def part(plan: Plan) -> SoakPlan | None:
    """The treatment; None while nothing is to be done to the wood."""
    job, shop = plan.job, plan.shop
    has_dye = any(isinstance(step, DyeStep) for step in job.blank.steps)
    if job.soak.route == "nothing" and not has_dye:
        return None
    drying = dry_plan(job, shop)
    wood = wood_plan(job, shop, drying)
    is_stabilised = job.soak.route == "stabilised"
    bath = bath_plan(job, wood) if is_stabilised else None
    heat = heat_plan(job, shop) if is_stabilised else None
    dyes = tuple(dye_plans(plan))
    under_vacuum = is_stabilised or any(dye.dye.way == "under vacuum" for dye in dyes)
    vacuum = vacuum_plan(job, shop) if under_vacuum else None
    return SoakPlan(drying, wood, vacuum, bath, heat, dyes, tuple(_stages(plan, drying, dyes, bath, heat)))


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with a route; complete when it is dry, or weighed after the bath, or its colour seen."""
    if plan.soak is None:
        return False, False
    match plan.job.soak.route:
        case "stabilised":
            return True, plan.job.soak.bath.after_g is not None
        case "dried":
            told = plan.soak.drying.told
            return True, told is not None and plan.soak.drying.hours >= told.dry_h.best
        case _:
            return True, bool(plan.soak.dyes) and all(dye.is_seen for dye in plan.soak.dyes)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    soak = plan.soak
    if soak is None:
        return
    drying = soak.drying
    told = (drying.equilibrium_pct, drying.end_g, drying.moisture_pct, drying.dry_rate_pct, drying.weigh_apart)
    yield "Drying", [one for one in told if one is not None]
    wood = soak.wood
    room = (wood.volume_ml, wood.dry_g, wood.density_g_ml, wood.void_pct, wood.most_uptake_pct, wood.shrinks_mm)
    yield "Room in the wood", [one for one in room if one is not None]
    if soak.bath is not None:
        bath = soak.bath
        taken = (bath.taken_pct,) if bath.taken_pct else ()
        chamber = (bath.bath_ml, bath.buy_ml, bath.buy_g, bath.head_mm)
        yield "Soaking", [bath.takes_ml, *chamber, bath.soak_least_min, *taken]
    if soak.vacuum is not None:
        yield "Vacuum", [soak.vacuum.dial_most]
    if soak.heat is not None:
        yield "In the oven", [soak.heat.core_min, soak.heat.clock_min]
    for dye in soak.dyes:
        yield f"Dye, step {dye.step + 1}", [one for one in (dye.side_mm, dye.end_mm, dye.needed_mm) if one is not None]


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt."""
    soak, job = plan.soak, plan.job
    if soak is None:
        return
    if soak.vacuum is not None:
        yield Caution(
            "soak.vacuum",
            "A chamber under vacuum can implode: only one that is rated for it, caged, looked over for crazing before "
            "every use; never a plain glass jar. Its maker's rating decides.",
        )
    if soak.bath is not None:
        yield Caution(
            "soak.resin",
            "Stabilising resin irritates and sensitises: nitrile gloves, glasses, air. Cool the wood first: warm wood "
            "sets the bath off. The product's safety sheet decides.",
        )
    if soak.heat is not None or (job.soak.route != "nothing" and job.soak.drying.way == "in an oven"):
        yield Caution(
            "soak.oven",
            "No oven that cooks food; vent it outdoors, a smoke detector on, and stay near. Solvents must have left "
            "before: their vapour catches fire. The oven's manual decides.",
        )
    if any(dye.dye.carrier == "alcohol" for dye in soak.dyes):
        yield Caution(
            "soak.alcohol",
            "Alcohol burns, and its vapour travels: no flame or spark, good air, rags dried flat outside.",
        )
    if job.soak.route == "soft, not stabilised":
        yield Caution(
            "soak.wicking",
            "Thin cyanoacrylate on soft wood or fibre heats up and smokes, with cotton and paper too: small drops, "
            "air, glasses, let it cool between.",
        )


def _stages(
    plan: Plan, drying: DryPlan, dyes: tuple[DyePlan, ...], bath: BathPlan | None, heat: HeatPlan | None
) -> Iterator[Stage]:
    """What follows on what, with the time each takes."""
    job = plan.job
    if job.soak.route != "nothing":
        hours = drying.told.dry_h.best if drying.told is not None else _dry_guess_h(job.soak.drying.way)
        yield from _drying_out(60 * hours, in_oven=job.soak.drying.way == "in an oven")
    yield from _dyeing(dyes)
    if bath is not None and heat is not None:
        yield from _bathing(plan, bath, heat)


def _drying_out(minutes: float, *, in_oven: bool) -> Iterator[Stage]:
    if in_oven:
        line = "Into the oven, apart from each other, weighed together."
        yield replace(_hands("into the oven", line, "soak.oven", kind="dry"), weighs="log")
        yield Stage("dry", minutes, place="oven")
        yield Stage("cool in a sealed bag", _COOL_MIN)
    else:
        line = "Ends sealed, stacked with air between, out of the sun."
        yield replace(_hands("stacked to dry", line, kind="dry"), weighs="log")
        yield Stage("dry", minutes)
    yield replace(_hands("weigh and measure", kind="weigh_wood"), weighs="log")


def _dyeing(dyes: tuple[DyePlan, ...]) -> Iterator[Stage]:
    for number, dye in enumerate(dyes, 1):
        carrier = dye.dye.carrier
        burns = ("soak.alcohol",) if carrier == "alcohol" else ()
        pulled = ("soak.vacuum",) if dye.dye.way == "under vacuum" else ()
        line = f"Into colour {number}, in {carrier}, {dye.dye.way}."
        yield _hands(f"into colour {number}", line, *pulled, *burns, key=f"colour.{number}", kind="dye")
        yield Stage(f"colour {number} soaks in", dye.dye.soaked_min)
        yield _hands("out, wipe", "Out of the colour, wipe.", *burns, key=f"wipe.{number}", kind="dye")
        yield Stage("dry it again", _RE_DRY_MIN[carrier])
        if number < len(dyes):
            yield _hands("saw an end off and look", "", "glue_up.saw", kind="dye")


def _bathing(plan: Plan, bath: BathPlan, heat: HeatPlan) -> Iterator[Stage]:
    """Somebody has to be there to let the air back: it is the air that presses the resin in."""
    how = plan.job.soak.bath
    line = "Into the chamber, weights on top, resin over them, pump on."
    yield _hands("into the chamber", line, "soak.vacuum", "soak.resin", key="chamber")
    yield Stage("vacuum", how.vacuum_min, place=_CHAMBER)
    line = "Where few beads rise: pump off, let the air back slowly. It presses the resin in."
    yield replace(_hands("air back in", line, "soak.vacuum", key="air"), minutes=_AIR_MIN)
    yield Stage("left in the resin", max(how.soaked_min, bath.soak_least_min.value), place=_CHAMBER)
    line = "Out of the resin: drip, wipe, weigh; then into the oven."
    drip = _hands("drip, wipe, weigh", line, "soak.resin", "soak.oven")
    yield replace(drip, minutes=_DRIP_MIN, weighs="after")
    yield Stage("oven", heat.clock_min.value, place="oven")
    yield Stage("cool", _COOL_MIN)
    yield _hands("clean up to size", "", "soak.resin", key="clean")


def _hands(words: str, line: str = "", *cautions: str, key: str = "", kind: str = "stabilise") -> Stage:
    return Stage(words, _HANDS_MIN, is_hands=True, key=key, cautions=cautions, line=line, kind=kind)


def _dry_guess_h(way: str) -> float:
    """How long drying usually takes, where no log says so: a day in the oven, six weeks in the air (practice)."""
    return 24.0 if way == "in an oven" else 1000.0


__all__ = [
    "BathPlan", "DryPlan", "DyePlan", "HeatPlan", "SoakPlan", "Stage", "WoodPlan", "cautions", "part", "progress",
    "sections",
]  # fmt: skip
