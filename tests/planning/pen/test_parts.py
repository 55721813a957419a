"""Part sets as they are: booked by plating, a mill's pilot that is another pen's, what to measure first."""

from __future__ import annotations

from datetime import datetime

import pytest

from orvek.documents import Job, Piece, Shop, Writing, deeds
from orvek.planning import Severity, plan
from orvek.planning.lay_out import laid_out
from orvek.planning.pen.measuring import measuring_lines
from orvek.planning.stock import held, to_buy

WHEN = datetime(2026, 11, 20, 9)


def with_pilot(job: Job, pilot_mm: float | None) -> Job:
    assert job.pen is not None
    barrels = (job.pen.barrels[0].with_(pilot_mm=pilot_mm), *job.pen.barrels[1:])
    return job.with_(pen=job.pen.with_(barrels=barrels))


def test_part_sets_are_booked_by_their_plating(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    job = tideline.with_(pen=tideline.pen.with_(plating="black"))
    sets = [
        Piece(name=f"Sets, {plating}", kind="part set", pen=tideline.pen.name, plating=plating, count=9)
        for plating in ("black", "gilt")
    ]
    for task in plan(job, shop).route.operations:  # type: ignore[union-attr]
        job = deeds.finish_task(job, task.key, WHEN)
    left = {one.piece.plating: one.left for one in held(tuple(sets), [plan(job, shop)])}
    assert left == {"black": 9 - job.batch.pens_wanted, "gilt": 9}
    fresh = plan(tideline.with_(pen=tideline.pen.with_(plating="black")), shop)
    bought = {one.name: one.there for one in to_buy(fresh, held((sets[1],), ())) if one.what == "part set"}
    assert bought == {f"{tideline.pen.name}, black": 0}
    assert fresh.route is not None
    press = next(one for one in fresh.route.operations if one.kind == "press")
    things = laid_out([(fresh, press)], held((sets[0].with_(place="Drawer 4"),), ()))
    assert [one.place for one in things if "part set" in one.words] == ["Drawer 4"]


@pytest.mark.parametrize(
    ("pilot", "said"), [(None, ""), (7.45, ""), (7.9, "does not go in"), (6.9, "wobbles")]
)  # the tube is 8.15 mm outside, 7.45 mm inside as a guess
def test_a_pilot_of_another_pen_is_said(tideline: Job, shop: Shop, pilot: float | None, said: str) -> None:
    made = plan(with_pilot(tideline, pilot), shop)
    found = [one for one in made.findings if "the pilot" in one.title]
    assert [one.severity for one in found] == ([Severity.CAUTION] if said else [])
    assert all(said in one.title for one in found)
    square = next(one for one in made.route.operations if one.kind == "square")  # type: ignore[union-attr]
    mills = [one.words for one in laid_out([(made, square)], ()) if one.words.startswith("end mill")]
    assert (pilot is None) or mills[0] == f"end mill, pilot {pilot:.1f} mm"
    in_a_jig = made.job.with_(bore=made.job.bore.with_(squared="in a sanding jig"))
    assert not [one for one in plan(in_a_jig, shop).findings if "the pilot" in one.title]


def test_what_to_measure_first_says_what_is_known(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    units = plan(tideline, shop).units
    lines = list(measuring_lines(tideline.pen, units))
    assert len(lines) == 4 * len(tideline.pen.barrels) + 3
    assert "8.15 mm" in lines[0]
    known = with_pilot(tideline, 7.4).pen
    assert known is not None
    more = list(measuring_lines(known.with_(writing=Writing(out_mm=2)), units))
    assert sum(line.count("not yet") for line in more) == sum(line.count("not yet") for line in lines) - 1
