"""Which stations a job goes through, and what is next in it."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest

from orvek.documents import Job, Shop, deeds
from orvek.planning import Severity, plan
from orvek.planning.route.next import next_of
from orvek.planning.route.stations import OF_JOB, stations_of
from orvek.stations import STATIONS, Station
from orvek.store import demo_job, demo_shop
from orvek.store.demo import second_demo_job
from tests.jobs.the_sixteen import SIXTEEN

NOW = datetime(2026, 12, 1, 18, 0)
PEN, BLANK, SOAK, POUR, GLUE_UP, BORE, FINISH, BATCH = OF_JOB


@pytest.mark.parametrize(
    ("name", "middle"),
    [
        ("01 swirl batch", (BORE, FINISH)),
        ("02 centred picture", (POUR, BORE, FINISH)),
        ("03 porous core", (SOAK, GLUE_UP, BORE, FINISH)),
        ("04 live edge", (SOAK, POUR, BORE, FINISH)),
        ("07 knot", (GLUE_UP, BORE, FINISH)),
        ("14 long barrel", (BORE, FINISH)),
    ],
)
def test_the_stations_are_those_of_the_route_in_its_order(name: str, middle: tuple[Station, ...], shop: Shop) -> None:
    assert stations_of(plan(SIXTEEN[name](), shop)) == (PEN, BLANK, *middle, BATCH)


@pytest.mark.parametrize("name", SIXTEEN)
def test_every_operation_and_every_stop_or_caution_has_its_station_there(name: str, shop: Shop) -> None:
    planned = plan(SIXTEEN[name](), shop)
    there = stations_of(planned)
    assert (there[:2], there[-1]) == ((PEN, BLANK), BATCH)
    assert len(set(there)) == len(there)
    assert planned.route is not None
    assert {one.station for one in planned.route.operations} <= set(there)
    assert {one.station for one in planned.findings if one.severity is not Severity.NOTE} <= set(there)
    worked = list(dict.fromkeys(one.station for one in planned.route.operations))
    assert [one for one in there if one in worked] == worked


def test_a_job_has_no_station_of_the_workshop() -> None:
    assert set(OF_JOB) == {row.station for row in STATIONS if row.is_of_job}


def test_what_is_next_goes_from_the_pen_to_the_last_blank() -> None:
    shop = demo_shop()
    assert next_of(plan(Job(), shop), NOW).station is PEN
    job = demo_job()
    bare = deeds.set_value(job, ("pour", "resin"), None)
    assert (next_of(plan(bare, shop), NOW).words, next_of(plan(bare, shop), NOW).station) == (
        "Next, at Pour: choose the resin",
        POUR,
    )
    ready = next_of(plan(job, shop), NOW)
    assert ready.operation is not None
    assert (ready.operation.key, ready.station) == ("weigh.1", POUR)
    for key in ("weigh.1", "pour.1"):
        job = deeds.finish_task(job, key, NOW)
    waiting = next_of(plan(job, shop), NOW + timedelta(minutes=5))
    assert waiting.operation is None
    assert waiting.words.startswith("Nothing until ")
    assert waiting.until is not None
    assert next_of(plan(job, shop), waiting.until).until is None, "by then it is over"
    assert ready.until is None
    assert next_of(plan(job, shop), NOW + timedelta(days=20)).operation is not None, "it was waited long enough"
    route = plan(job, shop).route
    assert route is not None
    for one in route.operations:
        job = deeds.finish_task(job, one.key, NOW)
    assert next_of(plan(job, shop), NOW).station is BATCH


def test_a_stop_comes_before_everything_else() -> None:
    thin = deeds.set_value(second_demo_job(), ("pen", "barrels", 0, "bit_diameter_mm"), 14.0)
    planned = plan(thin, demo_shop())
    stop = next(one for one in planned.findings if one.severity is Severity.STOP)
    found = next_of(planned, NOW)
    assert (found.words, found.station) == (f"First put right: {stop.title}", stop.station)
