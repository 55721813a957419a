"""Soak: what is said of a log of weights, of the chamber, of what was taken up, of the oven and of each colour."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from orvek.documents import (
    Bath,
    Drying,
    DyeStep,
    Heat,
    Insert,
    Job,
    Known,
    Material,
    Observation,
    Pot,
    RoundStep,
    Shop,
    Soak,
    SolidStep,
    Weighing,
    WoodInHand,
    deeds,
)
from orvek.documents.deeds import set_value
from orvek.errors import BadFieldError, NothingToDoError
from orvek.planning import Finding, Severity, Station, StationState, apply_remedy, plan
from orvek.planning.soak.dye_findings import survives
from orvek.planning.soak.part import SoakPlan
from orvek.planning.soak.records import observations
from orvek.planning.soak.words import day_words, dry_line, treatment_lines
from orvek.planning.timetable.question import job_tasks
from orvek.quantities import Units

BEGAN = datetime(2026, 11, 24, 18, 30)
HOURS = (0, 2, 4, 8, 12.5, 15, 20, 24.5)


def log(end_g: float = 181.0, loss_g: float = 21.5, tail_h: float = 9.0, hours: tuple[float, ...] = HOURS) -> Drying:
    """Weights that fall to an end, as a scale of 0.1 g shows them."""
    lines = (
        Weighing(when=BEGAN + timedelta(hours=hour), mass_g=round(end_g + loss_g * math.exp(-hour / tail_h), 1))
        for hour in hours
    )
    return Drying(log=tuple(lines))


SIX = WoodInHand(species="bigleaf-maple", count=6, length_mm=140, width_mm=22, depth_mm=22)
STABILISED = Soak(route="stabilised", wood=SIX, drying=log(), bath=Bath(chamber="steel"))
Change = Callable[[Soak], Soak]


def soaked(job: Job, soak: Soak = STABILISED, *steps: object) -> Job:
    return deeds.set_steps(job.with_(soak=soak), (SolidStep(material="bigleaf-maple"), *steps))  # type: ignore[arg-type]


def found(job: Job, shop: Shop) -> SoakPlan:
    soak = plan(job, shop).soak
    assert soak is not None
    return soak


def told(job: Job, shop: Shop, title: str) -> Finding | None:
    return next((one for one in plan(job, shop).findings if one.title == title), None)


def bath(**changed: object) -> Change:
    return lambda soak: soak.with_(bath=soak.bath.with_(**changed))


def heat(**changed: object) -> Change:
    return lambda soak: soak.with_(heat=soak.heat.with_(**changed))


def drying(**changed: object) -> Change:
    return lambda soak: soak.with_(drying=soak.drying.with_(**changed))


def wood(**changed: object) -> Change:
    return lambda soak: soak.with_(wood=soak.wood.with_(**changed))


CASES: list[tuple[str, Severity, Change]] = [
    ("Never pull a vacuum on plain glass.", Severity.STOP, bath(chamber="plain glass")),
    ("What is the chamber made of?", Severity.CAUTION, bath(chamber="not known")),
    ("Look the acrylic over for crazing.", Severity.NOTE, bath(chamber="thick acrylic, rated")),
    ("They do not fit into the chamber.", Severity.CAUTION, bath(chamber_high_mm=120)),
    ("They do not fit into the chamber.", Severity.CAUTION, bath(stands="lying", chamber_mm=100)),
    ("They do not fit into the chamber.", Severity.CAUTION, bath(chamber_mm=40)),
    ("The froth may reach the lid.", Severity.NOTE, bath(chamber_high_mm=200)),
    ("The dial shows more than there is.", Severity.NOTE, bath(gauge_bar=1.1)),
    ("Froth may be boiling, not air.", Severity.NOTE, bath(gauge_bar=0.99)),
    ("The resin itself boils.", Severity.CAUTION, bath(gauge_bar=0.98, boils_kpa=4.0)),
    ("The resin itself may boil.", Severity.NOTE, bath(gauge_bar=0.95, boils_kpa=4.0)),
    ("They come out of the resin too soon.", Severity.NOTE, bath(soaked_min=60)),
    ("They took up little.", Severity.CAUTION, bath(after_g=250)),
    ("They took up enough.", Severity.NOTE, bath(after_g=420)),
    ("They took up more than there is room for.", Severity.CAUTION, bath(after_g=520)),
    ("The core never gets that warm.", Severity.CAUTION, heat(core_c=97)),
    ("The oven is hot for stabilising resin.", Severity.CAUTION, heat(oven_c=120)),
    ("Lay them apart in the oven.", Severity.NOTE, heat(wide=3)),
    ("The oven is too hot for wood.", Severity.CAUTION, drying(oven_c=130)),
    ("It will not become oven-dry.", Severity.NOTE, drying(oven_c=45)),
    ("Nothing dries in this air.", Severity.CAUTION, drying(humidity_pct=99)),
    ("Such wood does not grow.", Severity.CAUTION, wood(dry_g=700)),
    ("It is not dry yet.", Severity.CAUTION, drying(log=log(hours=HOURS[:6]).log)),
]


@pytest.mark.parametrize(("title", "severity", "change"), CASES, ids=[f"{n} {case[0]}" for n, case in enumerate(CASES)])
def test_it_is_said_and_its_remedies_take_it_away(
    title: str, severity: Severity, change: Change, tideline: Job, shop: Shop
) -> None:
    roomy = bath(chamber_high_mm=500)(STABILISED)
    assert told(soaked(tideline, roomy), shop, title) is None
    job = soaked(tideline, change(roomy))
    finding = told(job, shop, title)
    assert finding is not None
    assert finding.severity is severity
    assert finding.station is Station.SOAK
    for remedy in finding.remedies:
        assert told(apply_remedy(job, remedy), shop, title) is None, remedy.label


def test_a_vacuum_is_judged_whatever_goes_under_it(tideline: Job, shop: Shop) -> None:
    """A dye alone, on wood that is not stabilised, is enough to burst a jar."""
    dye = DyeStep(way="under vacuum", carrier="water")
    glass = Bath(chamber="plain glass", gauge_bar=0.99)
    for route in ("nothing", "dried", "soft, not stabilised"):
        job = soaked(tideline, Soak(route=route, bath=glass), dye)
        keys = {one.key: one.severity for one in plan(job, shop).findings}
        assert keys["soak.chamber"] is Severity.STOP
        assert keys["soak.dial"] is Severity.NOTE
        assert plan(job, shop).caution("soak.vacuum")
        colour = next(one for one in found(job, shop).stages if one.key == "colour.1")
        assert "soak.vacuum" in colour.cautions
        dipped = set_value(job, ("blank", "steps", 1, "way"), "dipped")
        assert "soak.chamber" not in {one.key for one in plan(dipped, shop).findings}


def test_a_resin_may_boil_as_far_as_the_gauge_is_off(tideline: Job, shop: Shop) -> None:
    """At 3,000 m the air has 70.1 kPa: a dial at 0.60 bar leaves 10.1, within 3 kPa of where this resin boils."""
    high = shop.with_(preferences=shop.preferences.with_(altitude_m=3000.0))
    at = tideline.with_(batch=tideline.batch.with_(shop_temperature_c=20.0))
    job = soaked(at, bath(gauge_bar=0.60, boils_kpa=9.5)(STABILISED))
    assert told(job, high, "The resin itself may boil.") is not None
    clear = soaked(at, bath(gauge_bar=0.57, boils_kpa=9.5)(STABILISED))
    assert told(clear, high, "The resin itself may boil.") is None


def test_the_log_says_when_it_is_dry_and_at_what_weight(tideline: Job, shop: Shop) -> None:
    soak = found(soaked(tideline), shop)
    line = str(dry_line(soak.drying, Units()))
    assert line.startswith("Dry at about 181.9 g, around Wednesday night, 25 November. It comes to 180.8 g to ")
    assert soak.drying.end_g is not None
    assert soak.drying.end_g.value == pytest.approx(181, abs=0.3)
    assert soak.drying.moisture_pct is not None
    assert 0.4 < soak.drying.moisture_pct.value < 1.2
    assert soak.drying.dry_rate_pct.value == pytest.approx(0.5 / (1.005 * 9), rel=0.15)
    longer = log(hours=(*HOURS, 40, 60))
    assert dry_line(found(soaked(tideline, STABILISED.with_(drying=longer)), shop).drying, Units()).words.startswith(
        "Dry: "
    )
    early = plan(soaked(tideline, STABILISED.with_(drying=log(hours=(0, 1, 2)))), shop)
    assert early.soak is not None
    assert dry_line(early.soak.drying, Units()).words.startswith("Too early: 3 of the 4 weights")
    assert "It is too early to say when it is dry." in [one.title for one in early.findings]


def test_what_cannot_be_right_stays_in_the_log_and_is_left_out_when_told(tideline: Job, shop: Shop) -> None:
    lines = list(log().log)
    wrong = lines[3].with_(mass_g=1898.0)  # the point was forgotten
    risen, twice = lines[5].with_(mass_g=199.0), lines[6].with_(when=lines[5].when)
    job = soaked(tideline, STABILISED.with_(drying=Drying(log=(*lines[:3], wrong, lines[4], risen, twice, lines[7]))))
    said = [one for one in plan(job, shop).findings if one.key == "soak.log_odd"]
    assert [one.remedies[0].label for one in said][:1] == ["Leave 1898.0 g out of the forecast"]
    assert len(said) == 3
    assert [what for _, what in found(job, shop).drying.odd] == ["out of place", "rises", "twice"]
    assert found(job, shop).drying.fit is not None
    while odd := found(job, shop).drying.odd:
        job = set_value(job, ("soak", "drying", "log", odd[0][0], "is_left_out"), True)
    assert len(job.soak.drying.log) == 8
    fit = found(job, shop).drying.fit
    assert fit is not None
    assert fit.why_not == ""
    assert fit.end_g.low <= 181.05 <= fit.end_g.high + 1


def test_bad_values_get_a_sentence() -> None:
    for content in ({"when": "never", "mass_g": 1}, {"when": "1812-01-01 10:00", "mass_g": 1}):
        with pytest.raises(BadFieldError):
            log().with_(log=(content,))
    with pytest.raises(BadFieldError):
        Drying().with_(humidity_pct=120)
    with pytest.raises(BadFieldError):
        Weighing(when=BEGAN, mass_g=10).with_(mass_g=-4)


def test_the_room_in_the_wood_goes_by_what_was_weighed_before_any_table(tideline: Job, shop: Shop) -> None:
    unweighed = STABILISED.with_(drying=Drying())
    table = found(soaked(tideline, unweighed), shop).wood
    assert table.density_g_ml.value == pytest.approx(0.498, abs=0.001)
    assert table.dry_g is None
    own = found(soaked(tideline, wood(dry_g=150)(unweighed)), shop).wood
    assert own.density_g_ml.value == pytest.approx(150 / (6 * 140 * 22 * 22 / 1000))
    assert own.void_pct.value > table.void_pct.value
    assert own.density_g_ml.source == "yours, ± 0.6 %"
    driftwood = Material(
        key="own-drift", name="Drift", look="wood", colour="#998877", second="#665544",
        density_g_ml=Known(value=0.37, standing="measured"),
    )  # fmt: skip
    mine = set_value(soaked(tideline, wood(species="own-drift")(unweighed)), ("blank", "materials"), (driftwood,))
    density = found(mine, shop).wood.density_g_ml
    assert (density.value, density.source) == (0.37, "yours, as measured")
    volumes = {
        form: found(soaked(tideline, wood(form=form, bore_mm=10)(unweighed)), shop).wood.volume_ml.value
        for form in ("rectangular", "round", "hollow round")
    }
    assert volumes["hollow round"] < volumes["round"] < volumes["rectangular"]
    measured = found(soaked(tideline, wood(form="irregular", volume_ml=55)(unweighed)), shop).wood
    assert measured.volume_ml.value == 330
    in_air = found(soaked(tideline, drying(way="in the air")(STABILISED)), shop)
    assert in_air.wood.dry_g is not None
    assert in_air.drying.end_g is not None
    assert in_air.wood.dry_g.value == pytest.approx(
        in_air.drying.end_g.value / (1 + in_air.drying.equilibrium_pct.value / 100)
    )


def test_a_probe_and_the_shops_records_replace_the_guesses(tideline: Job, shop: Shop) -> None:
    plain = found(soaked(tideline), shop)
    assert plain.heat is not None
    probed = found(soaked(tideline, heat(core_min=50)(STABILISED)), shop)
    assert probed.heat is not None
    assert probed.heat.clock_min.value == 50 + 45
    assert plain.heat.clock_min.value == pytest.approx(1.8 * plain.heat.core_min.value + 45)
    seen = tuple(Observation(name=f"Batch {n}", species="bigleaf-maple", value=60, expected=100) for n in range(6))
    learned = found(soaked(tideline), shop.with_(soaked=seen)).wood
    assert learned.takes_source == "by 6 of your own"
    assert abs(learned.takes_pct.best - 60) < abs(plain.wood.takes_pct.best - 60)
    assert learned.takes_pct.high - learned.takes_pct.low < plain.wood.takes_pct.high - plain.wood.takes_pct.low


def test_what_was_seen_is_written_down_once(tideline: Job, shop: Shop) -> None:
    with pytest.raises(NothingToDoError):
        observations(plan(soaked(tideline, STABILISED.with_(drying=Drying())), shop))
    dye = DyeStep(seen_mm=3.0, seen_end_mm=30.0)
    job = soaked(tideline, heat(core_min=50)(bath(after_g=420)(STABILISED)), dye)
    seen = observations(plan(job, shop))
    assert [one.seen for one in seen] == [
        "drying, hours", "uptake, % of the possible", "core, min", "dye at the side, mm", "dye at the end, mm",
    ]  # fmt: skip
    with pytest.raises(NothingToDoError):
        observations(plan(job, shop.with_(soaked=seen)))


# -- colours -----------------------------------------------------------------------------------------------------


def test_a_colour_that_the_lathe_takes_away_is_said_before_boring(tideline: Job, shop: Shop) -> None:
    job = soaked(tideline, Soak(), DyeStep(depth_mm=60))
    finding = told(job, shop, "Colour 1 may be removed in turning.")
    assert finding is not None
    assert finding.severity is Severity.CAUTION
    assert finding.remedies[0].label.startswith(("Dye", "Leave it in"))
    for remedy in finding.remedies[:1]:
        assert told(apply_remedy(job, remedy), shop, "Colour 1 may be removed in turning.") is None
    longer = next(remedy for remedy in finding.remedies if remedy.label.startswith("Leave it in"))
    assert longer.label.removeprefix("Leave it in ") in finding.because, "button and sentence say the same time"
    brushed = soaked(tideline, Soak(), DyeStep(way="brushed on", soaked_min=3))
    finding = told(brushed, shop, "Colour 1 may be removed in turning.")
    assert finding is not None
    assert finding.remedies[0].label.startswith("Dip it for"), "what is brushed on is not left in anything"
    assert told(apply_remedy(brushed, finding.remedies[0]), shop, "Colour 1 may be removed in turning.") is None
    seen = soaked(tideline, Soak(), DyeStep(seen_mm=1.0))
    sure = told(seen, shop, "Colour 1 is removed in turning.")
    assert sure is not None
    assert [one.label for one in sure.remedies] == ["Draw it 1.0 mm deep"]
    first_round = soaked(tideline, Soak(), RoundStep(diameter_mm=13.2), DyeStep(depth_mm=1.7, seen_mm=1.7))
    assert not [one for one in plan(first_round, shop).findings if one.key.startswith("soak.")]
    deep = soaked(tideline, Soak(), DyeStep(depth_mm=60, seen_mm=6.0))
    drawn = told(deep, shop, "Colour 1 is drawn otherwise.")
    assert drawn is not None
    assert told(apply_remedy(deep, drawn.remedies[0]), shop, drawn.title) is None


def test_two_colours_are_dried_and_looked_at_in_between(tideline: Job, shop: Shop) -> None:
    job = soaked(tideline, STABILISED, DyeStep(), DyeStep(carrier="alcohol"))
    planned = plan(job, shop)
    assert planned.soak is not None
    lines = treatment_lines(planned.soak, job, Units())
    first, second = (next(n for n, line in enumerate(lines) if line.startswith(f"Colour {k}")) for k in (1, 2))
    assert any("Dry it to under 2 %" in line for line in lines[first:second])
    assert any("Saw an end off" in line for line in lines[first:second])
    assert any("Try it on an offcut" in line for line in lines[:first])
    assert told(job, shop, "Alcohol dye bleeds.") is not None
    assert any("Alcohol burns" in one.words for one in planned.cautions)
    assert [stage.words for stage in planned.soak.stages if stage.is_hands] == [
        "into the oven", "weigh and measure", "into colour 1", "out, wipe", "saw an end off and look",
        "into colour 2", "out, wipe", "into the chamber", "air back in", "drip, wipe, weigh", "clean up to size",
    ]  # fmt: skip


def test_somebody_is_there_when_the_air_comes_back_and_the_oven_is_taken(tideline: Job, shop: Shop) -> None:
    """Every wait of a treatment begins with hands; what can hurt stands at each task; old names stay."""
    planned = plan(soaked(tideline, STABILISED, DyeStep()), shop)
    assert planned.route is not None
    tasks = {task.key: task for task in planned.route.operations if task.kind == "soak"}
    assert list(tasks) == [
        "soak.1", "soak.2", "soak.colour.1", "soak.wipe.1", "soak.chamber", "soak.air", "soak.3", "soak.clean",
    ]  # fmt: skip
    assert [key for key, task in tasks.items() if task.place == "oven" and task.holds] == ["soak.1", "soak.3"]
    chamber = [key for key, task in tasks.items() if task.place == "vacuum chamber" and task.holds]
    assert chamber == ["soak.chamber", "soak.air"]
    assert tasks["soak.1"].wait_words == "dry, cool in a sealed bag"
    assert tasks["soak.chamber"].wait_min[1] == pytest.approx(planned.job.soak.bath.vacuum_min)
    cautions = {key: " ".join(planned.cautions_of(task.cautions)) for key, task in tasks.items() if task.cautions}
    assert set(cautions) == {"soak.1", "soak.chamber", "soak.air", "soak.3", "soak.clean"}
    assert "implode" in cautions["soak.air"]
    assert "sets the bath off" in cautions["soak.chamber"]
    assert "sets the bath off" in cautions["soak.3"]
    assert "No oven that cooks food" in cautions["soak.3"], "what drips goes into the oven next"


def test_wood_that_was_weighed_dries_since_then(tideline: Job, shop: Shop) -> None:
    """Nobody is told to put into the oven what a log shows to be there; its wait counts from the first weighing."""
    began = datetime(2026, 11, 20, 18, 0)
    weighings = tuple(Weighing(when=began + timedelta(hours=4 * n), mass_g=g) for n, g in enumerate((60, 57, 56, 55.6)))
    fresh = plan(soaked(tideline, STABILISED.with_(drying=Drying()), DyeStep()), shop).route
    made = plan(soaked(tideline, STABILISED.with_(drying=Drying(log=weighings)), DyeStep()), shop)
    assert fresh is not None
    assert made.route is not None
    assert (fresh.open[0].key, made.route.open[0].key) == ("soak.1", "soak.2")
    (wait,) = job_tasks(made.job, made.route, shop.hours, began + timedelta(days=5)).waiting
    assert wait.ends == began + timedelta(minutes=made.route.operations[0].wait_min[2])


def test_what_comes_before_a_ticked_part_of_a_treatment_is_done(tideline: Job, shop: Shop) -> None:
    """A job that an earlier Orvek took as far as dripping is not sent back into the chamber."""
    job = deeds.finish_task(soaked(tideline, STABILISED), "soak.3", datetime(2026, 11, 20, 18, 0))
    made = plan(job, shop).route
    assert made is not None
    assert [task.key for task in made.open if task.kind == "soak"] == ["soak.clean"]


def test_alcohol_never_stands_under_vacuum_and_no_remedy_leads_there(tideline: Job, shop: Shop) -> None:
    job = soaked(tideline, Soak(), DyeStep(carrier="alcohol", way="under vacuum"))
    finding = told(job, shop, "No alcohol under vacuum.")
    assert finding is not None
    assert finding.severity is Severity.STOP
    for remedy in finding.remedies:
        assert told(apply_remedy(job, remedy), shop, finding.title) is None
    for carrier in ("water", "alcohol", "resin"):
        for way in ("brushed on", "dipped", "under vacuum"):
            planned = plan(soaked(tideline, Soak(), DyeStep(carrier=carrier, way=way, soaked_min=30)), shop)
            for remedy in (remedy for one in planned.findings for remedy in one.remedies):
                after = apply_remedy(planned.job, remedy).blank.steps[1]
                assert isinstance(after, DyeStep)
                if way != "under vacuum" or carrier != "alcohol":
                    assert (after.carrier, after.way) != ("alcohol", "under vacuum"), remedy.label


def test_a_pot_is_never_pressed_beyond_its_plate(tideline: Job, shop: Shop) -> None:
    pressed = soaked(tideline, bath(pressed_bar=5)(STABILISED))
    unknown = told(set_value(pressed, ("pour", "pot"), None), shop, "Is the pot rated for this pressure?")
    assert unknown is not None
    job = set_value(pressed, ("pour", "pot"), Pot(rated_bar=4))
    finding = told(job, shop, "The pot is not rated for this.")
    assert finding is not None
    assert finding.severity is Severity.STOP
    for remedy in finding.remedies:
        assert told(apply_remedy(job, remedy), shop, finding.title) is None


def test_wood_that_stays_soft_is_bored_gently_and_wicked(tideline: Job, shop: Shop) -> None:
    job = soaked(tideline, Soak(route="soft, not stabilised", wood=SIX.with_(is_soft=True)))
    planned = plan(job, shop)
    assert planned.bore is not None
    assert planned.soak is not None
    assert planned.bore.stuff.key == "burl"
    assert any("wick in thin glue" in line for line in treatment_lines(planned.soak, job, Units()))
    assert any(one.key == "soak.wicking" for one in planned.cautions)
    more = told(job, shop, "Leave more for soft wood.")
    assert more is not None
    assert told(apply_remedy(job, more.remedies[0]), shop, more.title) is None
    typed = set_value(job, ("bore", "stuff"), "wood")
    finding = told(typed, shop, "Soft wood is bored gently.")
    assert finding is not None
    assert told(apply_remedy(typed, finding.remedies[0]), shop, finding.title) is None
    assert plan(soaked(tideline), shop).bore.stuff.key == "stabilised"  # type: ignore[union-attr]


def test_what_was_measured_goes_to_the_pour(tideline: Job, shop: Shop) -> None:
    job = set_value(soaked(tideline), ("pour", "insert"), Insert(void_fraction=0.4))
    room = told(job, shop, "The pour has another figure for the room in it.")
    wet = told(job, shop, "Tell the pour how wet the wood is.")
    assert room is not None
    assert wet is not None
    after = apply_remedy(apply_remedy(job, room.remedies[0]), wet.remedies[0])
    assert after.pour.insert is not None
    assert after.pour.insert.void_fraction == pytest.approx(0.7, abs=0.02)
    assert after.pour.insert.moisture_pct == pytest.approx(0.7, abs=0.3)
    assert told(after, shop, room.title) is None
    assert told(after, shop, wet.title) is None


def test_the_stations_mark_follows_the_work(tideline: Job, shop: Shop) -> None:
    assert plan(tideline, shop).state(Station.SOAK) is StationState.EMPTY
    assert plan(soaked(tideline), shop).state(Station.SOAK) is not StationState.READY
    done = soaked(tideline, bath(chamber_high_mm=500, after_g=420)(STABILISED))
    assert plan(done, shop).state(Station.SOAK) is StationState.READY


@pytest.mark.parametrize(
    ("when", "words"),
    [
        (datetime(2026, 11, 26, 12, 30), "Thursday noon, 26 November"),
        (datetime(2026, 11, 26, 8, 0), "Thursday morning, 26 November"),
        (datetime(2026, 11, 26, 3, 0), "the night to Thursday, 26 November"),
        (datetime(2026, 11, 26, 23, 0), "Thursday night, 26 November"),
    ],
)
def test_a_time_is_said_as_one_says_it(when: datetime, words: str) -> None:
    assert day_words(when) == words


@given(
    end=st.floats(5, 500), loss=st.floats(0.01, 300), tail=st.floats(0.5, 400), count=st.integers(0, 12),
    step=st.sampled_from([0.01, 0.1, 1.0]), heat_c=st.floats(40, 150), core_c=st.floats(35, 145),
)  # fmt: skip
def test_any_log_gives_a_plan_and_a_sentence(
    end: float, loss: float, tail: float, count: int, step: float, heat_c: float, core_c: float
) -> None:
    from orvek.documents import first_shop
    from orvek.store import demo_job

    shown = log(end, loss, tail, tuple(n * tail / 4 for n in range(count)))
    soak = Soak(route="stabilised", drying=shown, heat=Heat(oven_c=heat_c, core_c=core_c))
    job = set_value(soaked(demo_job(), soak), ("pour", "scale", "resolution_g"), step)
    planned = plan(job, first_shop())
    assert planned.failed == ()
    assert planned.soak is not None
    fit = planned.soak.drying.fit
    assert str(dry_line(planned.soak.drying, Units())).endswith(".")
    if fit is not None and not fit.why_not:
        assert 0 < fit.end_g.low <= fit.end_g.best <= fit.end_g.high
        assert fit.dry_h.low <= fit.dry_h.best <= fit.dry_h.high


def test_wood_that_is_full_of_resin_drinks_no_more_of_the_pour(tideline: Job, shop: Shop) -> None:
    full = set_value(soaked(tideline, bath(after_g=420)(STABILISED)), ("pour", "insert"), Insert(void_fraction=0.6))
    room = told(full, shop, "The pour has another figure for the room in it.")
    assert room is not None
    assert "% left" in room.because
    after = apply_remedy(full, room.remedies[0])
    assert after.pour.insert is not None
    assert after.pour.insert.void_fraction < 0.2


@pytest.mark.parametrize("seen", [True, False])
def test_a_guess_must_be_clearly_deeper_than_what_was_seen(tideline: Job, shop: Shop, seen: bool) -> None:
    """What was seen is enough where it is enough; a guess that is hardly deeper is doubted."""
    dye = plan(soaked(tideline, Soak(), DyeStep(seen_mm=1.0)), shop).soak
    assert dye is not None
    needed = dye.dyes[0].needed_mm
    assert needed is not None
    little_over = type(dye.dyes[0].side)(low=0.5 * needed.value, best=1.1 * needed.value, high=2.0 * needed.value)
    there = replace(dye.dyes[0], side=little_over, is_seen=seen)
    made = replace(plan(tideline, shop), soak=replace(dye, dyes=(there,)))
    assert bool(list(survives(made))) is not seen
