"""Kinds of work from the first decision to what leaves the program, as far as the stations carry them today."""

from __future__ import annotations

import io
from datetime import date
from pathlib import Path

import pytest
from msgspec.structs import replace
from PIL import Image

from orvek.cards.every import cure_rows, cut_list_card, cut_list_csv, glue_up_card, pour_card, report_json, report_text
from orvek.cards.picture_file import VIEWS, picture_png, unrolled_svg
from orvek.documents import (
    BadSpot,
    BarMould,
    Barrel,
    Board,
    CastStep,
    CutStep,
    DyeStep,
    Insert,
    InsertStep,
    Job,
    LaminateStep,
    Layer,
    LoafMould,
    Paint,
    Pen,
    PlugStep,
    ReorientStep,
    RipStep,
    RoundStep,
    Shop,
    SliceStep,
    SolidStep,
    Step,
    WrapStep,
    deeds,
    designs,
    from_text,
    to_text,
)
from orvek.documents.deeds import set_value
from orvek.planning import Plan, Severity, apply_remedy, plan, with_answer
from orvek.planning.bar import bar_size
from orvek.planning.blank.lines import showings
from orvek.planning.colour.part import behind_colour
from orvek.planning.cure.forecast import cure_forecast
from orvek.planning.cure.question import cure_question
from orvek.planning.glue_up.nesting import nest
from orvek.planning.glue_up.results import NestQuestion
from orvek.store import open_workshop
from orvek.workpiece.compiling import compiled
from orvek.workpiece.measures import amounts
from orvek.workpiece.reference import evaluate_reference
from tests.effort import SKETCH


def carried(job: Job, shop: Shop, tmp_path: Path) -> Plan:
    """Plan a job and take it through everything that leaves the program."""
    planned = plan(job, shop)
    assert from_text(to_text(job)) == job
    workshop = open_workshop(tmp_path / f"{job.batch.id}.sqlite")
    workshop.record(job, "Keep")
    assert workshop.job(job.batch.id) == job
    workshop.close()
    units = shop.preferences.units
    assert job.batch.name in report_text(planned, units)
    if planned.glue_up is not None and planned.glue_up.joints:
        assert cut_list_card(planned, shop, date(2026, 11, 23))[:4] == b"%PDF"
        assert glue_up_card(planned, shop, date(2026, 11, 23))[:4] == b"%PDF"
        assert len(cut_list_csv(planned).splitlines()) > len(planned.glue_up.cuts)
    assert report_json(planned, units).startswith("{")
    for view in VIEWS:
        png = picture_png(planned, evaluate_reference, view, 160)
        with Image.open(io.BytesIO(png)) as image:
            assert image.width >= 160
    assert unrolled_svg(planned, evaluate_reference, 160).startswith(b"<svg")
    if planned.mixture and planned.mixture.cups:
        assert pour_card(planned, shop, date(2026, 11, 23)).startswith(b"%PDF")
    return planned


def with_steps(job: Job, *steps: Step) -> Job:
    return deeds.set_steps(job, steps)


def titles(planned: Plan, severity: Severity | None = None) -> list[str]:
    return [f.title for f in planned.findings if severity is None or f.severity is severity]


def share(planned: Plan, key: str) -> float:
    """A material's share of the bar."""
    program = compiled(planned.job.blank.steps, *bar_size(planned.layout))
    found = amounts(evaluate_reference, program, 0, program.length_mm, points=40_000)
    return sum(a.volume_ml for a in found if a.material.key == key) / sum(a.volume_ml for a in found)


def test_a_batch_of_swirl_castings(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    planned = carried(tideline, shop, tmp_path)
    assert not planned.has_stop
    assert share(planned, "cup Slack water") == pytest.approx(0.64, abs=0.01)
    assert sum(span.length_mm for span in (planned.layout.waste if planned.layout else ())) > 25


def test_a_live_edge_hybrid_measured_three_ways(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    slab = InsertStep(material="bigleaf-maple", rough_mm=3, middle_mm=1, seed=4)
    job = deeds.add_step(tideline, slab, 0)
    planned = carried(job, shop, tmp_path)
    assert planned.mixture is not None
    assert planned.mixture.insert is not None
    by_shape = planned.mixture.insert.volume_ml.value
    assert share(planned, "bigleaf-maple") * 52.8 == pytest.approx(by_shape, rel=0.01)
    weighed = Insert(volume_ml=round(by_shape, 1), mass_g=round(by_shape * 0.5, 1), density_g_ml=0.5)
    assert "The insert's volumes disagree." not in titles(plan(set_value(job, ("pour", "insert"), weighed), shop))
    wrong = weighed.with_(mass_g=2 * by_shape * 0.5)
    assert "The insert's volumes disagree." in titles(plan(set_value(job, ("pour", "insert"), wrong), shop))


def test_a_herringbone(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    strips = (Layer(material="holly", thickness_mm=4), Layer(material="black-walnut", thickness_mm=4))
    job = with_steps(tideline, LaminateStep(strips=strips, angle_deg=45), RipStep(azimuth_deg=90, flip="end for end"))
    planned = carried(job, shop, tmp_path)
    assert planned.mixture is None
    assert share(planned, "holly") == pytest.approx(0.49, abs=0.03)
    program = compiled(job.blank.steps, *bar_size(planned.layout))
    # A V: the same distance above and below the joint shows the same strip at mirrored places along the bar.
    above = evaluate_reference(program, points(3, 5.0))
    below = evaluate_reference(program, points(3, -5.0))
    assert (above.material != below.material).any()


def points(x: float, y: float):  # type: ignore[no-untyped-def]
    import numpy as np

    z = np.linspace(20, 110, 400)
    return np.stack([np.full(400, x), np.full(400, y), z])


def test_a_four_cut_knot_with_a_tab(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    job = deeds.take_design(tideline, designs()[1].steps)
    planned = carried(job, shop, tmp_path)
    assert not planned.has_stop
    wide = {s.material: s for s in showings(job, planned.layout) if s.barrel == 0}
    # Looked at from every side: where two bands cross, little of one is left beside the other.
    assert wide["Holly"].least_mm == pytest.approx(0.45, abs=0.1)
    tabbed = job
    for index in range(1, 5):
        tabbed = set_value(tabbed, ("blank", "steps", index, "tab_mm"), 2.5)
        tabbed = set_value(tabbed, ("blank", "steps", index, "kerf_mm"), 2.05)
    judged = plan(tabbed, shop)
    (told,) = [f for f in judged.findings if f.severity is Severity.STOP]
    assert told.title == "The sheets of steps 2, 3, 4 and 5 do not fit their kerfs.", "one subject, one finding"
    mended = apply_remedy(tabbed, told.remedies[0])
    assert not plan(mended, shop).has_stop


def test_scallops_and_a_dyed_bar_and_dowels(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    for number in (9, 10, 11):
        planned = carried(deeds.take_design(tideline, designs()[number].steps), shop, tmp_path)
        assert not planned.has_stop
    job = with_steps(tideline, SolidStep(material="yellow-buckeye"), DyeStep(depth_mm=3), PlugStep())
    planned = carried(job, shop, tmp_path)
    # 3 mm from every face of 20 x 20 x 132: what stays undyed is 14 x 14 x 126, less the dowel of brass.
    assert share(planned, "yellow-buckeye") == pytest.approx(14 * 14 * 126 / 52800, abs=0.01)
    assert share(planned, "brass") == pytest.approx(3.1416 * 4 * 20 / 52800, abs=0.001)


def test_a_printed_sheet_on_a_barrel(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    planned = carried(with_steps(tideline, WrapStep(core_mm=11, pattern="checks")), shop, tmp_path)
    assert share(planned, "hard-maple") == pytest.approx(3.1416 * 5.5**2 / 400, abs=0.005)


def test_a_striped_round_bar(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    strips = tuple(Layer(material=m, thickness_mm=4) for m in ("red-composite", "white-composite") * 2)
    job = with_steps(
        tideline, LaminateStep(strips=strips), SliceStep(turn="90", pitch_mm=30), RoundStep(diameter_mm=18)
    )
    planned = carried(job, shop, tmp_path)
    assert planned.layout is not None
    assert (planned.layout.width_mm, planned.layout.is_round) == (18, True)
    assert share(planned, "red-composite") == pytest.approx(0.5, abs=0.02)


def test_a_bar_cut_from_a_bigger_casting(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    along = carried(tideline, shop, tmp_path)
    across = carried(deeds.add_step(tideline, ReorientStep(angle_deg=90)), shop, tmp_path)
    one, other = (picture_png(p, evaluate_reference, "unrolled", 200) for p in (along, across))
    assert one != other


def test_an_oblong_bar_in_an_own_mould_with_two_tubes(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    assert tideline.pen is not None
    thick = tideline.pen.barrels[1].with_(tube_diameter_mm=11.9, bit_diameter_mm=12.0, finished_left_mm=16.5)
    pen = tideline.pen.with_(barrels=(tideline.pen.barrels[0], thick.with_(finished_right_mm=16)))
    oblong = BarMould(name="Own oblong", cavities=3, length_mm=125, width_mm=22, depth_mm=17)
    job = deeds.choose_mould(deeds.choose_pen(tideline, pen), oblong)
    planned = carried(job, shop, tmp_path)
    # 17 mm across against 16.5 finished: a quarter of a millimetre off centre at most.
    assert "The bar may keep a flat." in titles(planned, Severity.CAUTION)
    assert planned.bars.castings == 2
    thicker = set_value(job, ("pour", "mould"), oblong.with_(depth_mm=19.0))
    assert "The bar may keep a flat." not in titles(plan(thicker, shop))


def test_one_long_barrel_from_a_loaf(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    long = Barrel(
        name="Long",
        tube_length_mm=96,
        tube_diameter_mm=9.9,
        bit_diameter_mm=10.0,
        finished_left_mm=13.5,
        finished_right_mm=14.5,
        trim_mm=2,
    )
    loaf = LoafMould(name="Loaf", length_mm=240, width_mm=66, depth_mm=44, bar_width_mm=20, bar_depth_mm=20)
    job = deeds.choose_mould(deeds.choose_pen(tideline, Pen(name="Long reach", barrels=(long,))), loaf)
    planned = carried(job, shop, tmp_path)
    # 3 across, 2 layers; 240 mm holds two blanks of 100 + 2 cuts + 8: twelve blanks from one loaf of six bars.
    assert planned.bars.bars_per_casting == 6
    assert planned.bars.blanks_per_bar == 2
    assert planned.bars.castings == 1
    assert planned.mixture is not None
    assert planned.mixture.mould_ml.value == pytest.approx(240 * 66 * 44 / 1000)


def test_a_two_barrel_hybrid_keeps_its_grain_over_the_joint(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    sheet = (Layer(material="brass", thickness_mm=1),)
    cut = CutStep(angle_deg=90, centre_mm=42, kerf_mm=1, sheet=sheet)
    job = with_steps(
        tideline, InsertStep(form="core", diameter_mm=11, material="teak"), CastStep(cups=tideline.cast.cups), cut
    )
    planned = carried(job, shop, tmp_path)
    assert planned.mixture is not None
    assert planned.mixture.insert is not None
    assert planned.mixture.insert.volume_ml.value == pytest.approx(3.1416 * 5.5**2 * 132 / 1000, rel=0.01)
    turned = deeds.turn_tube(job, 1, 90)
    assert picture_png(plan(turned, shop), evaluate_reference, "section", 100) == picture_png(
        planned, evaluate_reference, "section", 100
    )


def test_a_used_board_with_holes_and_a_crack(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    """Strips from a used board: laid round what is spoilt, glued up, and no piece too short for the saw."""
    tideline = set_value(tideline, ("batch", "pens_wanted"), 1)
    strips = (Layer(material="beech", thickness_mm=4), Layer(material="veneer-black", thickness_mm=0.6))
    planned = carried(with_steps(tideline, LaminateStep(strips=strips, glue_mm=0.1)), shop, tmp_path)
    assert planned.glue_up is not None
    beech = next(stock for stock in planned.glue_up.stock if stock.material == "beech")
    hole = BadSpot(x_mm=150, y_mm=0, length_mm=12, width_mm=12)
    crack = BadSpot(x_mm=300, y_mm=30, length_mm=90, width_mm=4)
    board = Board(material="beech", length_mm=640, width_mm=70, thickness_mm=21, bad=(hole, crack))
    answer = nest(NestQuestion((beech,), (board,), planned.glue_up.machine.kerf_mm))
    assert answer.missing == ()
    assert not any("too short to hold" in finding.title for finding in planned.findings)
    small = nest(NestQuestion((beech,), (board.with_(length_mm=170),), 2.0))
    assert small.missing


def test_a_bar_for_friday_is_poured_cured_and_drilled(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    """From the conditions of the shop to the times on the card, and to a way that makes it possible."""
    job = set_value(
        tideline,
        ("pour", "conditions"),
        tideline.pour.conditions.with_(poured_on=date(2026, 11, 27), drill_on=date(2026, 11, 28), drill_h=12),
    )
    planned = carried(job, shop, tmp_path)
    question = cure_question(planned)
    assert question is not None
    forecast = cure_forecast(replace(question, effort=SKETCH))
    late = [f for f in with_answer(planned, "cure", forecast).findings if "ready to drill" in f.title]
    assert late
    assert any("Warm to" in remedy.label for remedy in late[0].remedies)
    rows = cure_rows(planned, forecast, shop.preferences.units)
    assert rows[0].what == "Pour"
    assert [row.what.split(",")[0] for row in rows].index("Pressure on") < len(rows) - 1
    warmed = apply_remedy(job, next(r for r in late[0].remedies if "Warm to" in r.label))
    again = cure_question(plan(warmed, shop))
    assert again is not None
    after = cure_forecast(replace(again, effort=SKETCH))
    assert after.ready_min is not None
    assert forecast.ready_min is not None
    assert after.ready_min.best < forecast.ready_min.best


def test_a_tube_that_would_show_is_painted_or_loaded(tideline: Job, shop: Shop, tmp_path: Path) -> None:
    """Thin walls over brass: the picture is looked through to the paint, and the finding goes."""
    clear = tideline.cast.cups[1].with_(pigments=())
    job = deeds.set_cup(tideline, 1, clear)
    bare = carried(job, shop, tmp_path)
    paints = tuple(Paint(where="hole") for _ in range(2))
    painted = plan(set_value(job, ("blank", "paints"), paints), shop)
    assert behind_colour(bare) != behind_colour(painted)
    pictures = [picture_png(one, evaluate_reference, "turned", 200) for one in (bare, painted)]
    assert pictures[0] != pictures[1], "clear resin shows the paint instead of brass"
    assert not [f for f in painted.findings if "shows through" in f.title]
