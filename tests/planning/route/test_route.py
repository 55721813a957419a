"""The route: the order of the steps is the order of the work; every operation begins with what those before it gave."""

from __future__ import annotations

import itertools
import json
import random
from datetime import datetime, timedelta

import pytest
from msgspec.structs import replace

from orvek.cards.route_text import kind_of, route_json, route_text
from orvek.documents import (
    CONSUMABLES,
    BarInHand,
    CastStep,
    CutStep,
    DurationSeen,
    Fault,
    Faults,
    InsertStep,
    Job,
    Layer,
    PlugStep,
    Shop,
    SolidStep,
    StackStep,
    Step,
    WrapStep,
    deeds,
    designs,
)
from orvek.documents.deeds import set_value
from orvek.planning import Plan, plan
from orvek.planning.answered import with_answer
from orvek.planning.cure.question import cure_question
from orvek.planning.cure.results import Band, CureForecast
from orvek.planning.route.results import Operation, Route, WorkPiece
from orvek.planning.stock import to_buy, uses
from orvek.planning.timetable.question import job_tasks
from orvek.store import demo_job
from orvek.store.demo import second_demo_job, third_demo_job
from tests.jobs.the_sixteen import SIXTEEN

NOON = datetime(2026, 11, 26, 12, 0)
KINDS = {"square_stock", "rip", "cut", "glue", "weigh_wood", "dry", "stabilise", "dye", "mix", "pour", "demould"}
KINDS |= {"crosscut", "bore", "paint", "scuff", "glue_tube", "square_ends", "turn", "wrap", "fill", "sand", "coat"}
KINDS |= {"inspect", "level", "polish", "press", "write_test"}


def jobs() -> dict[str, Job]:
    """The sixteen, the demo's, and a job of every design that ships, with bars in hand and without."""
    found = {name: make() for name, make in SIXTEEN.items()}
    found |= {f"{name}, nothing cast yet": deeds.set_bars(job, ()) for name, job in found.items()}
    found |= {job.batch.name: job for job in (demo_job(), second_demo_job(), third_demo_job())}
    return found | {one.name: deeds.take_design(second_demo_job(), one.steps) for one in designs()}


def route_of(planned: Plan) -> Route:
    assert not planned.failed
    assert planned.route is not None
    return planned.route


def keys(job: Job, shop: Shop) -> list[str]:
    return [one.key for one in route_of(plan(job, shop)).operations]


def made_of(*steps: Step) -> Job:
    return demo_job().with_(blank=demo_job().blank.with_(steps=steps))


@pytest.mark.parametrize("name", jobs())
def test_every_operation_takes_what_those_before_it_gave(name: str, shop: Shop) -> None:
    """What is on the bench is worked on or stays; only what nothing has given yet may come from outside, once."""
    job = jobs()[name]
    route = route_of(plan(job, shop))
    bench: list[WorkPiece] = []
    given: set[str] = set()
    for one in route.operations:
        for piece in one.takes:
            if piece in bench:
                bench.remove(piece)
            else:
                assert piece.name not in given, f"{one.key} takes {piece}, which is not what was given"
        bench += one.gives
        given |= {piece.name for piece in one.gives}
        assert all(piece.count > 0 and piece.length_mm >= 0 for piece in (*one.takes, *one.gives))
    if job.pen is not None:
        assert [piece.name for piece in bench] == [job.pen.name], "the last gives is the finished pen, and no more"
        assert bench[0].count == job.batch.pens_wanted


@pytest.mark.parametrize("name", jobs())
def test_operations_are_a_chain_of_known_kinds_with_waits_and_cautions(name: str, shop: Shop) -> None:
    planned = plan(jobs()[name], shop)
    operations = route_of(planned).operations
    assert len({one.key for one in operations}) == len(operations)
    for before, one in itertools.pairwise(operations):
        assert one.after == (before.key,)
    for one in operations:
        assert kind_of(one) in KINDS
        low, best, high = one.wait_min
        assert 0 <= low <= best <= high
        assert bool(one.wait_source) == (high > 0)
        assert one.hands_span_min[0] <= one.hands_min <= one.hands_span_min[1]
    content = json.loads(route_json(planned, planned.units))
    assert [one["key"] for one in content["operations"]] == [one.key for one in operations]
    assert all(one["steps"] for one in content["operations"])
    assert f"{len(operations)}. " in route_text(planned, planned.units)


def test_the_order_of_the_steps_is_the_order_of_the_work(shop: Shop) -> None:
    stack = StackStep(pieces=(Layer(material="holly", thickness_mm=40), Layer(material="ebony", thickness_mm=92)))
    glued_first = keys(made_of(stack, InsertStep(), CastStep()), shop)
    assert glued_first.index("join.0") < glued_first.index("weigh.1") < glued_first.index("length")
    cut = CutStep(angle_deg=60, centre_mm=60, sheet=(Layer(material="brass", thickness_mm=1),))
    cast_first = keys(made_of(*demo_job().blank.steps, cut), shop)
    assert cast_first.index("demould.1") < cast_first.index("cut.1") < cast_first.index("join.1")
    plugged = keys(made_of(PlugStep(), *demo_job().blank.steps), shop)
    assert plugged.index("plug.0") < plugged.index("weigh.1"), "a hole that is bored before casting"


def test_a_blank_that_is_saved_is_mended_where_its_flaw_came(shop: Shop) -> None:
    """Filled before the grits; cast round again it is turned again; its ends cut off, it is shorter from then on."""
    pen = third_demo_job().pen
    assert pen is not None
    pen = pen.with_(barrels=tuple(barrel.with_(play_mm=9.0) for barrel in pen.barrels))
    found = (
        Fault(kind="chip at an end", blank_no=2, barrel=0, at_mm=1, moment="turning", way="fill"),
        Fault(kind="blow-out", blank_no=3, barrel=1, at_mm=20, moment="sanding", way="recast"),
        Fault(kind="chip at an end", blank_no=1, barrel=1, at_mm=42, deep_mm=1, moment="sanding", way="shorten"),
        Fault(kind="blow-out", blank_no=4, barrel=1, at_mm=20, moment="sanding", way="show"),
        Fault(kind="blow-out", blank_no=4, barrel=1, at_mm=30, moment="turning", way="hide"),
    )
    job = third_demo_job().with_(pen=pen, faults=Faults(found=found))
    planned = plan(job, shop)
    operations = {one.key: one for one in route_of(planned).operations}
    assert [key for key in operations if key.startswith(("turn", "mend", "sand", "coat"))] == [
        "turn", "mend.2.0.fill.1", "mend.2.0.fill.1:true", "sand", "mend.3.1.recast.1", "mend.3.1.recast.1:true",
        "mend.3.1.recast.1:again", "mend.1.1.shorten.1", "mend.1.1.shorten.1:true", "coat", "mend.4.1.hide.1",
    ]  # fmt: skip
    assert [*operations][-3:] == ["mend.4.1.hide.1", "press", "write"], "the clip hides it as it is pressed"
    assert planned.faults is not None
    for one in planned.faults.found[:3]:
        way, own = (
            one.chosen,
            next(task for key, task in operations.items() if key.startswith(f"mend.{one.fault.blank_no}")),
        )
        assert way is not None
        assert (own.wait_min[1], own.lines) == (way.wait_h.value, way.lines)
    again = operations["mend.3.1.recast.1:again"]
    assert again.hands_min == pytest.approx((operations["turn"].hands_min + operations["sand"].hands_min) / 4)
    assert planned.cautions_of(operations["mend.3.1.recast.1"].cautions), "resin can hurt where none was poured before"
    lengths = [(piece.count, round(piece.length_mm, 1)) for piece in operations["coat"].takes if piece.name == "Cap"]
    assert lengths == [(3, 43.2), (1, pytest.approx(43.2 - 2 * 2.9, abs=0.11))]
    ticked = deeds.finish_task(job, task="mend.2.0.fill.1", when=NOON)
    assert "mend.2.0.fill.1" in route_of(plan(ticked, shop)).done
    pressed = route_of(plan(deeds.finish_task(job, task="press", when=NOON), shop)).done
    assert {key for key in operations if key.startswith("mend")} <= pressed, "who pressed the pens has mended them"


def test_a_printed_sheet_goes_on_when_the_barrel_is_turned_under_it(shop: Shop) -> None:
    sheet = WrapStep(covered="coated", sheet_mm=0.12)
    planned = plan(second_demo_job().with_(blank=second_demo_job().blank.with_(steps=(SolidStep(), sheet))), shop)
    found = {one.key: one for one in route_of(planned).operations}
    assert list(found).index("turn") + 1 == list(found).index("join.1") < list(found).index("coat")
    assert "sand" not in found, "the coats lie on the sheet"
    assert found["join.1"].kind == "wrap"
    assert planned.finish is not None
    assert planned.finish.wrap is not None
    for size, own in zip(planned.finish.sizes, planned.finish.wrap.sheets, strict=True):
        left, _, right = (figure.value for figure in size.tool_mm)
        assert (left, right) == pytest.approx(tuple(figure.value for figure in own.under_mm))
    under, over = found["join.1"].takes[0].diameter_mm, found["join.1"].gives[0].diameter_mm
    assert under is not None
    assert over is not None
    assert over[0] - under[0] == pytest.approx(0.24)
    finished = planned.finish.sizes[0].finished_mm[0].value
    last = found["press"].takes[0].diameter_mm
    assert last is not None
    assert last[0] == pytest.approx(finished, abs=0.01)


def forecast(planned: Plan, demould: Band, ready: Band) -> CureForecast:
    question = cure_question(planned)
    assert question is not None
    return CureForecast(question, demould_min=demould, ready_min=ready)


def test_nothing_is_bored_before_the_cure_says_so(tideline: Job, shop: Shop) -> None:
    planned = plan(tideline, shop)
    cure = forecast(planned, Band(60, 81, 120), Band(4000, 4980, 6100))
    found = {one.key: one for one in route_of(plan(tideline, shop, (), cure)).operations}
    assert found["pour.1"].wait_min == (60, 81, 120)
    assert found["pour.1"].ready_min == 4980
    for n in range(3):
        whole = found["pour.1"].wait_min[n] + found["demould.1"].wait_min[n]
        assert whole == pytest.approx((4000, 4980, 6100)[n]), "out and then ready, at least, usually and at most"
    assert {found[key].wait_source for key in ("pour.1", "demould.1")} == {"forecast"}
    soon = forecast(planned, Band(600, 700, 900), Band(600, 700, 900))
    cooled = {one.key: one for one in route_of(plan(tideline, shop, (), soon)).operations}["demould.1"]
    assert cooled.wait_words == "it cools to the shop"


def test_what_was_demoulded_late_is_ready_no_later_for_it(tideline: Job, shop: Shop) -> None:
    cure = forecast(plan(tideline, shop), Band(60, 81, 120), Band(4000, 4980, 6100))
    job = tideline
    for key in ("weigh.1", "pour.1"):
        job = deeds.finish_task(job, key, NOON)
    late = NOON + timedelta(minutes=4500)
    job = deeds.finish_task(job, "demould.1", late)
    hours = shop.hours.with_(waits="as they usually take")
    made = job_tasks(job, route_of(plan(job, shop, (), cure)), hours, late)
    assert max(wait.ends for wait in made.waiting) == NOON + timedelta(minutes=4980)


def test_a_log_that_says_when_wood_is_dry_is_waited_for(shop: Shop) -> None:
    planned = plan(third_demo_job(), shop)
    assert planned.soak is not None
    fit = planned.soak.drying.told
    assert fit is not None
    dry = next(one for one in route_of(planned).operations if one.key == "soak.1")
    assert dry.wait_source == "log"
    assert dry.wait_min[2] - dry.wait_min[1] == pytest.approx(60 * (fit.dry_h.high - fit.dry_h.best))


@pytest.mark.parametrize("name", ["01 swirl batch", "07 knot", "15 two barrel hybrid"])
def test_what_the_route_uses_is_what_the_shelf_loses(name: str, shop: Shop) -> None:
    planned = plan(deeds.set_bars(SIXTEEN[name](), ()), shop)
    wanted: dict[tuple[str, str], float] = {}
    for one in route_of(planned).operations:
        for use in one.uses:
            wanted[use.item, use.name] = wanted.get((use.item, use.name), 0.0) + use.amount
    resin = planned.job.pour.resin
    stuffs = {name: "resin" if resin is not None and name == resin.name else "pigment" for _, name in wanted}
    wanted = {(stuffs[name] if what == "jar" else what, name): amount for (what, name), amount in wanted.items()}
    missed = {key: amount for key, amount in wanted.items() if key[0] not in CONSUMABLES}  # nobody counts those here
    assert {(one.what, one.name): one.needed for one in to_buy(planned, ())} == pytest.approx(missed)
    job = planned.job
    for one in route_of(planned).operations:
        job = deeds.finish_task(job, one.key, NOON)
    lost: dict[tuple[str, str], float] = {}
    for used in uses(plan(job, shop)):
        lost[used.what, used.name] = lost.get((used.what, used.name), 0.0) + used.amount
    assert {
        (stuffs[name] if what == "jar" else what, name): used for (what, name), used in lost.items()
    } == pytest.approx(wanted)


def test_bars_that_lie_there_are_taken_as_they_are(tideline: Job, shop: Shop) -> None:
    bars = (BarInHand(count=6, length_mm=127, width_mm=20.4, depth_mm=19.6),)
    first = route_of(plan(deeds.set_bars(tideline, bars), shop)).operations[0]
    assert first.kind == "length"
    assert (first.takes[0].count, first.takes[0].length_mm) == (6, 127)


def test_a_job_without_a_pen_has_a_route_as_far_as_it_is_decided(tideline: Job, shop: Shop) -> None:
    cast = plan(tideline.with_(pen=None), shop)
    assert [one.kind for one in route_of(cast).operations] == ["weigh", "pour", "demould"]
    nothing = plan(Job(), shop)
    assert nothing.route is None
    assert "Nothing is decided yet" in route_text(nothing, nothing.units)


def test_settings_are_the_stations_own_figures(shop: Shop) -> None:
    """A stop, a depth, a size that is read in the route is the one of its station, to the last digit."""
    planned = plan(second_demo_job(), shop)
    found: dict[str, Operation] = {one.key: one for one in route_of(planned).operations}
    assert planned.bore is not None
    assert planned.finish is not None
    assert planned.glue_up is not None
    depths = [setting.figure for setting in found["bore"].settings]
    assert all(hole.depth_mm in depths and hole.turns_min in depths for hole in planned.bore.holes)
    sizes = [setting.figure for setting in found["turn"].settings]
    assert sizes == [figure for size in planned.finish.sizes for figure in size.tool_mm]
    stops = {setting.figure.value for one in found.values() for setting in one.settings}
    assert {cut.stop_mm for cut in planned.glue_up.cuts if cut.stop_mm is not None} <= stops


def test_all_sawn_first_is_glued_after_the_last_cut(shop: Shop) -> None:
    sheet = (Layer(material="brass", thickness_mm=1),)
    steps = (SolidStep(), *(CutStep(angle_deg=60, centre_mm=at, sheet=sheet) for at in (40.0, 70.0)))
    job = set_value(made_of(*steps), ("glue_up", "order"), "saw all, then glue")
    planned = plan(job, shop)
    order = [one for one in route_of(planned).operations if one.key.startswith(("cut", "join"))]
    assert [one.key for one in order] == ["cut.2", "cut.1", "join.1"], "from the right end, as the cut list has it"
    assert planned.glue_up is not None
    sawn = [cut for cut in planned.glue_up.cuts if not cut.is_to_length]
    assert [cut.step for cut in sawn] == [2, 2, 1]
    assert sawn[0].is_squaring
    assert sawn[0].stop_mm == pytest.approx(sawn[2].length_mm), "no cut has been glued yet: the bar is as it began"
    bars = planned.glue_up.bars
    assert [one.gives[0].count // bars for one in order] == [2, 3, 1]
    assert sum(piece.count for piece in order[2].takes) == 3 * bars + 2 * bars, "three pieces and two sheets"


def test_a_slow_cure_moves_the_schedule(tideline: Job, shop: Shop) -> None:
    from orvek.planning.timetable.solving import quickly
    from orvek.planning.timetable.weeks import weeks_question

    planned = plan(tideline, shop)
    question = weeks_question(planned)
    assert question is not None
    begun = replace(question, begin=NOON)
    soon, slow = (
        plan(tideline, shop, (), forecast(planned, Band(60, 81, 120), Band(low, low + 80, low + 160)))
        for low in (400.0, 9000.0)
    )
    from orvek.planning.timetable.results import TimetableQuestion

    def bored(made: Plan) -> datetime:
        asked = job_tasks(made.job, route_of(made), shop.hours, begun.begin)
        table = quickly(TimetableQuestion((asked,), shop.hours, begun.begin))
        pour = next(slot for slot in table.slots if slot.task.key == "pour.1")
        length = next(slot for slot in table.slots if slot.task.key.startswith("length"))
        assert made.cure is not None
        assert made.cure.ready_min is not None
        assert length.begins - pour.ends >= timedelta(minutes=made.cure.ready_min.best)
        return length.begins

    assert bored(slow) > bored(soon) + timedelta(days=4)


def test_what_is_cast_round_again_waits_as_the_cure_is_forecast(shop: Shop) -> None:
    """At What now and on the route alike; without a forecast until it can leave the mould."""
    fault = Fault(kind="blow-out", blank_no=2, barrel=0, at_mm=20, deep_mm=2, moment="turning", way="recast")
    quick = plan(demo_job().with_(faults=Faults(found=(fault,))), shop)
    assert _recast(quick).wait_source in {"label", "generic"}
    asked = cure_question(quick)
    assert asked is not None
    known = with_answer(
        quick, "cure", CureForecast(asked, demould_min=Band(900, 1000, 1100), ready_min=Band(5000, 6000, 7000))
    )
    assert (_recast(known).wait_min, _recast(known).wait_source) == ((5000, 6000, 7000), "forecast")
    assert known.faults is not None
    assert known.faults.found[0].chosen is not None
    assert known.faults.found[0].chosen.wait_h.value == pytest.approx(6000)


def _recast(planned: Plan) -> Operation:
    return next(one for one in route_of(planned).operations if one.key.endswith(".recast.1"))


def test_times_follow_what_comes_off_and_are_learned_from_barrels_of_any_size(tideline: Job, shop: Shop) -> None:
    """A made-up log of forty barrels, thick and thin: another one takes what its span says, nine times in ten."""
    rng, within = random.Random(3), 0
    usual = next(one for one in route_of(plan(tideline, shop)).operations if one.key == "turn")
    assert usual.usual_min is not None
    for trial in range(60):
        pace = rng.uniform(0.5, 2.0)  # times as long as is usual: this maker's own
        log = tuple(
            DurationSeen(
                name=f"{trial} {n}", kind="turn", minutes=pace * volume * rng.lognormvariate(0, 0.4), usual_min=volume
            )
            for n in range(40)
            for volume in [rng.uniform(4, 25)]
        )
        turn = next(one for one in route_of(plan(tideline, shop.with_(durations=log))).operations if one.key == "turn")
        truth = pace * usual.usual_min * rng.lognormvariate(0, 0.4)
        within += turn.hands_span_min[0] <= truth <= turn.hands_span_min[1]
        assert turn.hands_min == pytest.approx(pace * usual.usual_min, rel=0.35)
    assert within >= 0.8 * 60
