"""Findings: each mistake is found, said with its because, and its remedy takes it away."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from hypothesis import given, settings

from orvek.documents import (
    ArcStep,
    BarInHand,
    Barrel,
    Bubbles,
    CutStep,
    Insert,
    Job,
    Layer,
    LoafMould,
    Pen,
    Pot,
    Scale,
    Shop,
    SliceStep,
    SolidStep,
    StavesStep,
    Step,
    WrapStep,
    deeds,
    first_shop,
)
from orvek.documents.deeds import set_value
from orvek.planning import Finding, Severity, apply_remedy, plan
from orvek.planning.answered import with_answer
from orvek.planning.cure.findings import cup_ages
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.results import Band, CureForecast
from orvek.planning.findings import NO_BUTTON
from orvek.planning.haste import HASTE
from orvek.store import demo_job
from tests.strategies import jobs

Change = Callable[[Job], Job]


def put(*path: str | int, value: object) -> Change:
    return lambda job: set_value(job, path, value)


def shorten_mould(job: Job) -> Job:
    assert job.pour.mould is not None
    return deeds.choose_mould(job, job.pour.mould.with_(length_mm=100.0, name="Short tray"))


def tiny(job: Job) -> Job:
    assert job.pour.mould is not None
    small = job.pour.mould.with_(width_mm=14.0, depth_mm=5.0)
    return set_value(deeds.choose_mould(job, small), ("batch", "pens_wanted"), 1)


def crumb_of_a_loaf(job: Job) -> Job:
    loaf = LoafMould(name="Crumb", length_mm=130, width_mm=15, depth_mm=15, bar_width_mm=20, bar_depth_mm=20)
    return deeds.choose_mould(job, loaf)


COARSE = Scale(name="Kitchen scale", resolution_g=1, capacity_g=3000)
LIGHT = Scale(name="Letter scale", resolution_g=0.1, capacity_g=50)
LYING = Insert(volume_ml=20, mass_g=18, density_g_ml=0.6)
CUPS = ("blank", "steps", 0, "cups")

BLANK = ("blank", "steps")
SHOP_C = ("batch", "shop_temperature_c")
BUBBLES = ("pour", "bubbles")
BRASS = (Layer(material="brass", thickness_mm=2.0),)


def unknown(job: Job) -> Job:
    assert job.pour.resin is not None
    return deeds.choose_resin(job, job.pour.resin.with_(family="something of one's own"))


def potted(bar: float, diameter_mm: float = 400) -> Change:
    pot = Pot(diameter_mm=diameter_mm)
    return lambda job: put("pour", "pot", value=pot)(
        put(*BUBBLES, value=Bubbles(way="pressure", pressure_bar=bar))(job)
    )


def boiling(job: Job) -> Job:
    polyester = next(resin for resin in first_shop().resins if "polyester" in resin.family)
    return put(*BUBBLES, value=Bubbles(way="vacuum", gauge_bar=1.009))(deeds.choose_resin(job, polyester))


def damp(family: str, moisture_pct: float | None) -> Change:
    resin = next(resin for resin in first_shop().resins if resin.family == family)
    insert = Insert(mass_g=9, density_g_ml=1.4, moisture_pct=moisture_pct)
    return lambda job: put("pour", "insert", value=insert)(deeds.choose_resin(job, resin))


def steps(*later: Step) -> Change:
    return lambda job: set_value(job, BLANK, (SolidStep(), *later))


CASES: list[tuple[str, Severity, Change]] = [
    ("The nib tube will not go in.", Severity.STOP, put("pen", "barrels", 0, "bit_diameter_mm", value=8.0)),
    ("hardly any room for glue", Severity.CAUTION, put("pen", "barrels", 0, "bit_diameter_mm", value=8.17)),
    ("is loose in its hole", Severity.CAUTION, put("pen", "barrels", 0, "bit_diameter_mm", value=8.8)),
    ("is removed in turning", Severity.STOP, put("pen", "barrels", 0, "finished_left_mm", value=8.0)),
    ("too thin to turn", Severity.STOP, put("pen", "barrels", 0, "finished_left_mm", value=8.9)),
    ("The bar is 9.5 mm too short.", Severity.STOP, shorten_mould),
    ("The nib barrel reaches into a lost end", Severity.CAUTION, put("blank", "tube_starts_mm", value=(3.0, 70.45))),
    ("The cap tube lies off the bar", Severity.STOP, put("blank", "tube_starts_mm", value=(18.35, 95.0))),
    ("leave no room for the saw", Severity.STOP, put("blank", "tube_starts_mm", value=(18.35, 60.0))),
    ("thinner than the barrel", Severity.STOP, put("pen", "barrels", 0, "finished_left_mm", value=20.5)),
    ("may keep a flat", Severity.CAUTION, put("pen", "barrels", 0, "finished_left_mm", value=19.4)),
    ("gives no bar", Severity.STOP, crumb_of_a_loaf),
    ("Step 2 does not meet the bar", Severity.CAUTION, steps(CutStep(centre_mm=400, sheet=BRASS))),
    ("Step 2 does not meet the bar", Severity.CAUTION, steps(ArcStep(centre_mm=400, sheet=BRASS))),
    ("Step 2 does not meet the bar", Severity.CAUTION, steps(ArcStep(distance_mm=60, radius_mm=20, sheet=BRASS))),
    ("Step 2 does not meet the bar", Severity.CAUTION, steps(ArcStep(distance_mm=22, radius_mm=5, sheet=BRASS))),
    ("arc of step 2 is inside the bar", Severity.CAUTION, steps(ArcStep(distance_mm=9, radius_mm=8, sheet=BRASS))),
    ("arc of step 2 reaches the tube", Severity.NOTE, steps(ArcStep(distance_mm=30, radius_mm=28, sheet=BRASS))),
    (
        "leave a hole wider than the bore",
        Severity.STOP,
        put(*BLANK, value=(StavesStep(thickness_mm=3, taper_deg=1),)),
    ),
    ("has no picture yet", Severity.NOTE, put(*BLANK, value=(WrapStep(pattern="picture"),))),
    ("The saw shortens the bar", Severity.NOTE, steps(SliceStep())),
    ("It takes 2 castings.", Severity.NOTE, put("batch", "pens_wanted", value=7)),
    ("The insert fills the cavity.", Severity.STOP, put("pour", "insert", value=Insert(volume_ml=60))),
    ("insert's volumes disagree", Severity.CAUTION, put("pour", "insert", value=LYING)),
    ("does not set in a mould", Severity.STOP, put("pour", "resin", value=first_shop().resins[4])),
    ("It will set in the cups.", Severity.STOP, put("pour", "resin", "pot_life_min", value={"value": 5})),
    ("little time to spare", Severity.CAUTION, put("pour", "resin", "pot_life_min", value={"value": 9})),
    ("densities of the resin contradict", Severity.CAUTION, put("pour", "resin", "density_mix", value={"value": 1.4})),
    ("The shares make 136 %.", Severity.CAUTION, put(*CUPS, 0, "share", value=100)),
    ("Slack water runs over its cup", Severity.STOP, put(*CUPS, 0, "vessel_ml", value=120)),
    ("leaves little room to stir", Severity.CAUTION, put(*CUPS, 0, "vessel_ml", value=250)),
    ("More slack-water blue than usual", Severity.NOTE, put(*CUPS, 0, "pigments", 0, "load_pct", value=3.4)),
    ("This resin shrinks", Severity.NOTE, lambda job: deeds.choose_resin(job, first_shop().resins[3])),
    ("Much slack-water blue", Severity.CAUTION, put(*CUPS, 0, "pigments", 0, "load_pct", value=9)),
    ("The stock is too weak", Severity.STOP, put(*CUPS, 0, "pigments", 0, "stock_pct", value=2.05)),
    ("is a small cup for this scale", Severity.STOP, lambda job: put("pour", "scale", value=COARSE)(tiny(job))),
    ("is too heavy for the scale", Severity.STOP, put("pour", "scale", value=LIGHT)),
    ("The shop is cold", Severity.CAUTION, lambda job: put(*SHOP_C, value=10)(unknown(tiny(job)))),
    ("pot life will be shorter", Severity.CAUTION, lambda job: unknown(job)),
    ("Which pot?", Severity.STOP, put("pour", "pot", value=None)),
    ("too near the rating", Severity.STOP, potted(3.6)),
    ("above what the pot is rated for", Severity.STOP, potted(5)),
    ("mould does not go into the pot", Severity.STOP, potted(2, 120)),
    ("pull a vacuum on plain glass", Severity.STOP, put(*BUBBLES, value=Bubbles(way="vacuum", vessel="plain glass"))),
    ("What is the chamber made of?", Severity.CAUTION, put(*BUBBLES, value=Bubbles(way="vacuum"))),
    ("not that much air", Severity.STOP, put(*BUBBLES, value=Bubbles(way="vacuum", gauge_bar=1.05))),
    ("may overflow the vacuum vessel", Severity.CAUTION, put(*BUBBLES, value=Bubbles(way="vacuum", vessel_ml=400))),
    ("gauge's error of full vacuum", Severity.NOTE, put(*BUBBLES, value=Bubbles(way="vacuum", gauge_bar=1.0))),
    ("Water boils at this vacuum", Severity.NOTE, put(*BUBBLES, value=Bubbles(way="vacuum", gauge_bar=1.0))),
    ("resin itself boils", Severity.CAUTION, boiling),
    ("too damp", Severity.STOP, damp("fast polyurethane", 14)),
    ("too damp", Severity.CAUTION, damp("quick coating epoxy", 14)),
    ("How wet is the wood?", Severity.CAUTION, damp("fast polyurethane", None)),
    ("Sealed wood soaks up less", Severity.NOTE, put("pour", "insert", value=Insert(faces="sealed", soak_fraction=1))),
    ("Bare wood soaks up more", Severity.NOTE, put("pour", "insert", value=Insert(faces="bare and warm"))),
    ("Hold the insert down", Severity.NOTE, put("pour", "insert", value=Insert(mass_g=9, density_g_ml=0.6))),
]  # fmt: skip


def found(job: Job, shop: Shop, words: str) -> Finding | None:
    return next((finding for finding in plan(job, shop).findings if words in finding.title), None)


@pytest.mark.parametrize(("words", "severity", "change"), CASES, ids=[case[0] for case in CASES])
def test_a_mistake_is_found_and_its_remedies_take_it_away(
    words: str, severity: Severity, change: Change, tideline: Job, shop: Shop
) -> None:
    assert found(tideline, shop, words) is None
    job = change(tideline)
    finding = found(job, shop, words)
    assert finding is not None
    assert finding.severity is severity
    assert finding.because.endswith(".")
    for remedy in finding.remedies:
        assert found(apply_remedy(job, remedy), shop, words) is None, remedy.label


def test_most_mistakes_have_a_remedy(tideline: Job, shop: Shop) -> None:
    without = [w for w, severity, change in CASES if not found(change(tideline), shop, w).remedies]  # type: ignore[union-attr]
    assert len(without) <= len(CASES) / 2


def test_a_hardener_that_the_scale_cannot_see_is_a_stop(shop: Shop) -> None:
    job = set_value(demo_job(), ("pour", "resin"), first_shop().resins[3])
    job = set_value(job, ("pour", "scale"), Scale(name="Bathroom scale", resolution_g=100, capacity_g=100000))
    assert found(job, shop, "cannot weigh the hardener") is not None


def test_sentences_are_in_the_makers_units(tideline: Job, shop: Shop) -> None:
    inches = shop.with_(preferences=shop.preferences.with_(length="inch fraction", temperature="°F"))
    because = " ".join(finding.because for finding in plan(tideline, inches).findings)
    assert "mm" not in because.replace("a 9.5 mm hole", "")  # a metric bit keeps the name that is stamped on it
    assert " in " in because
    cold = unknown(set_value(tiny(tideline), ("batch", "shop_temperature_c"), 10))
    assert "50 °F" in " ".join(finding.because for finding in plan(cold, inches).findings)


@given(jobs)
@settings(max_examples=12)  # each plans a job and what every one of its remedies makes of it
def test_any_job_has_a_plan_and_every_remedy_can_be_made(job: Job) -> None:
    shop = first_shop()
    planned = plan(job, shop)
    for finding in planned.findings:
        for remedy in finding.remedies:
            plan(apply_remedy(job, remedy), shop)
    if planned.mixture and planned.mixture.cups:
        shares = [cup.share_pct.value for cup in planned.mixture.cups]
        assert sum(shares) == pytest.approx(100)
    if planned.layout:
        assert all(span.length_mm > 0 for span in (*planned.layout.kerfs, *planned.layout.waste))


@given(jobs)
def test_the_parts_of_a_casting_add_up(job: Job) -> None:
    mixture = plan(job, first_shop()).mixture
    if mixture is None or not mixture.cups:
        return
    for cup in mixture.wet:
        carried = sum(dose.weighed_g for dose in cup.doses)
        assert cup.part_a_g.value + cup.part_b_g.value + carried == pytest.approx(cup.mass_g.value, rel=1e-6)
    if mixture.volume_ml.value <= 0 and not job.blank.in_hand:
        assert plan(job, first_shop()).has_stop, "what is laid in leaves no room for resin"
        return
    if not all(cup.mass_g.value for cup in mixture.wet):
        return  # a share of nothing
    poured = sum(
        (cup.mass_g.value - job.pour.cup_residue_g) / cup.mass_g.value * cup.volume_ml.value for cup in mixture.wet
    )
    assert poured == pytest.approx(mixture.volume_ml.value, rel=1e-6)


def test_a_stop_has_a_way_out_or_says_that_there_is_none(tideline: Job, shop: Shop) -> None:
    stopped = [change(tideline) for _, severity, change in CASES if severity is Severity.STOP]
    told = [one for job in stopped for one in plan(job, shop).findings if one.severity is Severity.STOP]
    assert len(told) >= len(stopped)
    for finding in told:
        assert bool(finding.remedies) != finding.because.endswith(NO_BUTTON), finding.title


@pytest.mark.parametrize(("length_mm", "loss_mm"), [(58.9, 0.0), (66.0, 4.0)])
def test_a_bar_that_is_long_enough_with_less_trim_is_no_dead_end(shop: Shop, length_mm: float, loss_mm: float) -> None:
    """A tube of 56.5 with 1.5 mm of trim wants 59.5; a bar of 58.9 does with 1.2, and is drawn 58.9 long."""
    barrel = Barrel(
        name="Barrel", tube_length_mm=56.5, tube_diameter_mm=9.5, bit_diameter_mm=9.6, finished_left_mm=13,
        finished_right_mm=13, trim_mm=1.5,
    )  # fmt: skip
    bars = (BarInHand(length_mm=length_mm, end_loss_mm=loss_mm),)
    job = deeds.set_bars(Job(pen=Pen(name="Curlew", barrels=(barrel,))), bars)
    planned = plan(job, shop)
    finding = found(job, shop, "No bar is long enough")
    assert finding is not None
    assert planned.layout is not None
    assert planned.layout.length_mm == length_mm
    for remedy in finding.remedies:
        assert found(apply_remedy(job, remedy), shop, "No bar is long enough") is None, remedy.label
    if not loss_mm:
        trimmed = apply_remedy(job, finding.remedies[0])
        assert trimmed.pen is not None
        assert trimmed.pen.barrels[0].trim_mm == 1.2


def test_shares_that_do_not_add_up_may_be_what_the_others_leave(tideline: Job, shop: Shop) -> None:
    assert len(tideline.cast.cups) == 2
    job = put(*CUPS, 1, "share", value=50)(put(*CUPS, 0, "share", value=62)(tideline))
    finding = found(job, shop, "The shares make 112 %.")
    assert finding is not None
    made = [[cup.share for cup in apply_remedy(job, remedy).cast.cups] for remedy in finding.remedies]
    assert made == [[62, 38], [50, 50], [pytest.approx(55.4, abs=0.05), pytest.approx(44.6, abs=0.05)]]


@pytest.mark.parametrize(("minutes", "hurry"), [(1.4, 0.03), (4.0, 3.0)])
def test_what_is_stirred_so_quickly_is_not_to_be_stirred_so_quickly(
    tideline: Job, shop: Shop, minutes: float, hurry: float
) -> None:
    made = plan(set_value(tideline, ("pour", "mix_min_per_cup"), minutes), shop)
    question = cure_question(made)
    assert question is not None
    low = (max(cup_ages(made)) - hurry) / HASTE
    short = CureForecast(question, cup_lives_min=(Band(low, low + 1, low + 2),) * 2)
    told = [one for one in with_answer(made, "cure", short).findings if one.key == "cure.lives"]
    assert told
    labels = [remedy.label for one in told for remedy in one.remedies]
    assert any(label.startswith("Stir each cup in") for label in labels) == (hurry > 1)
