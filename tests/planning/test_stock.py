"""What is left on the shelf, what the work has made, what must be bought, and which pens a piece can become."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import reduce

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.cards.certificate import certificate
from orvek.craft.laying_out import blank_length_mm
from orvek.documents import CONSUMABLES, Job, Mark, PhotoStep, Piece, Shop, deeds
from orvek.documents.deeds.photos import stretch_of, stretched
from orvek.errors import BadFieldError, NothingToDoError, OutOfBoundsError
from orvek.planning import Plan, apply_remedy, plan
from orvek.planning.becoming import fit_of, fits
from orvek.planning.route.casting import resin_used
from orvek.planning.stock import born, held, lots_of, reach_pens, to_buy
from orvek.planning.words import left_words
from orvek.quantities import Units
from orvek.store import demo_shop
from tests.cards.test_records_cards import text_of
from tests.photos import ASKEW, view_of

DAY = datetime(2026, 11, 20, 9, 0)
_SHOP = demo_shop()


def done(job: Job, *kinds: str, shop: Shop, when: datetime = DAY) -> Plan:
    """A job of which all tasks of these kinds are done."""
    tasks = plan(job, shop).route
    assert tasks is not None
    keys = [task.key for task in tasks.operations if task.kind in kinds]
    return plan(reduce(lambda j, key: deeds.finish_task(j, key, when), keys, job), shop)


def test_resin_and_pigments_go_down_by_what_was_weighed(tideline: Job, shop: Shop) -> None:
    assert tideline.pour.resin is not None
    jar = Piece(name=tideline.pour.resin.name, kind="jar", grams=1850, counted_at=datetime(2026, 11, 1))
    found = done(tideline, "weigh", shop=shop)
    grams = {use.name: use.amount for use in resin_used(found)}
    assert found.mixture is not None
    poured = sum(cup.mass_g.value for cup in found.mixture.wet)
    assert sum(grams.values()) == pytest.approx(poured)  # a casting is its resin and its pigments
    (one,) = held((jar,), [found])
    assert one.left == pytest.approx(1850 - grams[jar.name] * found.bars.castings)
    # What was weighed before the count is in the count.
    (later,) = held((jar.with_(counted_at=DAY + timedelta(minutes=1)),), [found])
    assert later.left == 1850


def test_the_lot_that_was_counted_first_is_used_first_and_more_than_there_is_shows(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    found = done(tideline, "press", shop=shop)
    lots = [
        Piece(name=f"Sets {n}", kind="part set", count=count, pen=tideline.pen.name, counted_at=datetime(2026, 10, n))
        for n, count in ((2, 2), (1, 1))
    ]
    by_name = {one.piece.name: one.left for one in held(tuple(lots), [found])}
    assert by_name == {"Sets 1": 0, "Sets 2": 2 - (tideline.batch.pens_wanted - 1)}
    assert by_name["Sets 2"] < 0  # more used than counted: it is shown, not hidden


def test_the_work_makes_bars_then_leftovers_and_each_is_the_same_piece_again(tideline: Job, shop: Shop) -> None:
    assert not list(born(plan(tideline, shop), frozenset()))
    cast = done(tideline, "demould", shop=shop)
    (bars,) = born(cast, frozenset())
    assert (bars.kind, bars.count) == ("bar", round(cast.bars.bars.value))
    sawn = done(cast.job, "length", shop=shop)
    ends = list(born(sawn, frozenset()))
    assert {one.kind for one in ends} <= {"leftover"}
    assert [one.code for one in ends] == [one.code for one in born(sawn, frozenset())]
    assert not list(born(cast, frozenset({bars.born})))


def test_consumables_go_down_with_the_work_and_are_bought_where_they_are_counted(tideline: Job, shop: Shop) -> None:
    job = tideline.with_(finish=tideline.finish.with_(tool="carbide"))
    made = plan(job, shop)
    assert made.route is not None
    wanted: dict[tuple[str, str], float] = {}
    for task in made.route.operations:
        for use in task.uses:
            if use.item in CONSUMABLES:
                wanted[use.item, use.name] = wanted.get((use.item, use.name), 0.0) + use.amount
    assert {item for item, _ in wanted} == set(CONSUMABLES)
    before = DAY - timedelta(days=9)
    pieces = tuple(
        Piece(name=name, kind=item, grams=500.0 if item == "glue" else None, count=100, counted_at=before)  # type: ignore[arg-type]
        for item, name in wanted
    )
    for task in made.route.operations:
        job = deeds.finish_task(job, task.key, DAY)
    for one in held(pieces, [plan(job, shop)]):
        assert one.piece.amount - one.left == pytest.approx(wanted[one.piece.kind, one.piece.name])
    gloves = next(piece for piece in pieces if "gloves" in piece.name)
    few = gloves.with_(count=1, sold_by=50)
    assert not [one for one in to_buy(made, ()) if one.what in CONSUMABLES], "nobody counts them"
    (bought,) = [one for one in to_buy(made, held((few,), ())) if one.what in CONSUMABLES]
    assert (bought.name, bought.there, bought.buy) == (gloves.name, 1, 50)
    low = few.with_(count=30, least=40)
    (bought,) = [one for one in to_buy(made, held((low,), ())) if one.what in CONSUMABLES]
    assert (bought.needed, bought.buy) == (40, 50)
    each = wanted["consumable", gloves.name] / made.job.batch.pens_wanted
    (one,) = held((low,), ())
    assert reach_pens(made, one) == int(30 / each)
    assert reach_pens(made, held((Piece(name="Sander", kind="consumable"),), ())[0]) is None


def test_what_is_below_its_mark_is_bought_once_whatever_its_lots(tideline: Job, shop: Shop) -> None:
    assert tideline.pour.resin is not None
    jar = Piece(name=tideline.pour.resin.name, kind="jar", grams=30, least=500)
    made = plan(tideline, shop)
    told = [one for one in to_buy(made, held((jar,), ())) if one.name == jar.name]
    assert [one.what for one in told] == ["resin"], "needed, and below its mark"
    idle = plan(tideline.with_(pen=None, pour=tideline.pour.with_(resin=None)), shop)
    two = tuple(jar.with_(code=code, grams=grams) for code, grams in (("AAAA22", 300.0), ("BBBB22", 250.0)))
    assert not [one for one in to_buy(idle, held(two, ())) if one.name == jar.name], "together there is enough"
    (low,) = [one for one in to_buy(idle, held(two[:1], ())) if one.name == jar.name]
    assert (low.there, low.buy, low.unit) == (300, 200, "g")


def test_an_outcome_keeps_the_lots_of_what_the_pen_is_made_of(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    assert tideline.pour.resin is not None
    early = DAY - timedelta(days=1)
    pieces = (
        Piece(name="gloves, a pair", kind="consumable", count=50, lot="G-1", counted_at=early),
        Piece(name=tideline.pour.resin.name, kind="jar", grams=5000, lot="Q 26, red", counted_at=early),
        Piece(name="Tubes", kind="tube", pen=tideline.pen.name, count=90, lot="T" * 78, counted_at=early),
        Piece(name="Sets", kind="part set", pen=tideline.pen.name, count=90, lot="P-4", counted_at=early),
    )
    made = done(tideline, "weigh", "tube", "press", shop=shop)
    assert lots_of(made.job, held(pieces, [made])) == "Q 26 red, P-4"
    assert lots_of(made.job, held(pieces, ())) == ""


def test_what_must_be_bought_comes_in_lots_and_less_is_done_the_more_there_is(tideline: Job, shop: Shop) -> None:
    assert tideline.pen is not None
    tubes = Piece(name="Tubes", kind="tube", count=1, pen=tideline.pen.name, sold_by=10)
    now = plan(tideline, shop)
    stock = held((tubes,), [now])
    wanted = {(one.what, one.name): one for one in to_buy(now, stock)}
    need = wanted["tube", tideline.pen.name]
    assert need.buy % 10 == 0
    assert need.needed - need.there <= need.buy < need.needed - need.there + 10
    after = done(tideline, "tube", "weigh", "press", shop=shop)
    assert not to_buy(after, held((tubes,), [after]))


@given(st.floats(10, 400), st.floats(8, 30), st.floats(0, 4))
def test_a_pen_fits_as_often_as_its_length_goes_into_the_piece(long: float, across: float, kerf: float) -> None:
    pen = _SHOP.pens[0]
    piece = Piece(length_mm=long, width_mm=across, depth_mm=across)
    fit = fit_of(piece, pen, kerf, Units())
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in pen.barrels)
    cleans = across >= max(barrel.widest_mm for barrel in pen.barrels) + 1
    assert (fit.pens > 0) == (cleans and blank_length_mm(tubes, kerf, 0) <= long + 1e-6)
    assert bool(fit.why_not) == (fit.pens == 0)
    if fit.pens:
        assert blank_length_mm(tubes * fit.pens, kerf, 0) <= long + 1e-6
        assert blank_length_mm(tubes * (fit.pens + 1), kerf, 0) > long
        assert 0 <= fit.left_mm < long


def test_pens_that_fit_come_first_and_the_rest_say_why(shop: Shop) -> None:
    bored = Piece(length_mm=140, hole_mm=11)
    assert all("hole" in fit.why_not for fit in fits(bored, shop.pens, 1.6, Units()))
    short = fits(Piece(length_mm=70), shop.pens, 1.6, Units())
    assert [fit.pens > 0 for fit in short] == sorted((fit.pens > 0 for fit in short), reverse=True)
    assert "too short" in short[-1].why_not


@given(st.floats(20, 300), st.floats(0, 1), st.floats(0.5, 4))
def test_sawing_loses_the_kerf_and_nothing_else(long: float, part: float, kerf: float) -> None:
    at = 0.01 + part * (long - 0.02)
    piece = Piece(name="Bar", code="ABCD", length_mm=long)
    shop = deeds.pieces.cut_off(deeds.pieces.put_piece(Shop(), piece), "ABCD", at, kerf)
    lengths = [one.length_mm for one in shop.pieces]
    slivers = [max(0.0, end) for end in (at - kerf / 2, long - at - kerf / 2) if end < deeds.pieces.LEAST_MM]
    lost = long - sum(lengths)
    assert lost <= kerf + sum(slivers) + 0.05
    assert lost >= min(kerf, long) / 2 - 0.05
    assert all(one.parent == "ABCD" for one in shop.pieces)
    assert len({one.code for one in shop.pieces}) == len(shop.pieces)


@given(st.floats(0.05, 0.6), st.floats(0.1, 0.35))
def test_a_part_of_a_part_of_a_photo_is_a_part_of_it(low: float, long: float) -> None:
    high = low + long
    whole = stretched(ASKEW, low, high)
    again = stretched(stretched(ASKEW, 0, high), low / high, 1)
    for one, other in zip(whole, again, strict=True):
        assert one == pytest.approx(other, abs=1e-9)


def test_what_cannot_be_is_a_sentence(shop: Shop, tideline: Job) -> None:
    with pytest.raises(NothingToDoError):
        deeds.pieces.take_piece_off(shop, "NONE")
    held_shop = deeds.pieces.put_piece(shop, Piece(code="ABCD", count=0, length_mm=100))
    with pytest.raises(NothingToDoError):
        deeds.pieces.cut_off(held_shop, "ABCD", 50, 1)
    with pytest.raises(OutOfBoundsError):
        deeds.pieces.cut_off(held_shop, "ABCD", 500, 1)
    with pytest.raises(BadFieldError, match="hole as wide"):
        Piece(length_mm=100).with_(hole_mm=25)
    with pytest.raises(BadFieldError):
        deeds.pieces.count_piece(held_shop, "ABCD", -3, DAY)
    with pytest.raises(NothingToDoError):
        deeds.pieces.begin_with(tideline, Piece(kind="tube"), PhotoStep())
    twice = deeds.pieces.put_piece(held_shop, Piece(code="EFGH"))
    assert [piece.name for piece in twice.pieces] == ["Piece 2", "Piece"]


def test_a_stretch_takes_its_photos_and_its_marks() -> None:
    step = PhotoStep(length_mm=100, views=(view_of(0.0, 1),), marks=(Mark(z_mm=20), Mark(z_mm=80)))
    right = stretch_of(step, 60, 100)
    assert (right.length_mm, [mark.z_mm for mark in right.marks]) == (40, [20])
    assert right.views[0].corners[0] == pytest.approx((0.6, 0))


def test_a_board_on_the_shelf_is_a_board_to_glue_up_from(shop: Shop) -> None:
    oak = Piece(
        name="Hatch cover", kind="board", material="black-walnut", length_mm=400, width_mm=90, depth_mm=22, count=2
    )
    more = deeds.pieces.put_piece(shop, oak)
    assert [board.name for board in more.all_boards] == [
        *(one.name for one in shop.boards),
        "Hatch cover",
        "Hatch cover",
    ]
    assert more.all_boards[-1].thickness_mm == 22
    for other in ({"material": ""}, {"state": "reserved"}, {"kind": "bar"}):
        assert deeds.pieces.put_piece(shop, oak.with_(**other)).all_boards == shop.boards


def test_a_sawn_bar_leaves_its_job_the_choice_of_its_parts(tideline: Job, shop: Shop) -> None:
    """Reserved, then sawn: the job says so and goes on with a part, its photos and marks with it."""
    step = PhotoStep(length_mm=200, made_of="wood", views=(view_of(90.0, 1),), marks=(Mark(z_mm=150),))
    bar = Piece(name="Saltmarsh", code="SLT234", length_mm=200, width_mm=20, depth_mm=20)
    own = deeds.pieces.put_piece(shop, bar)
    job = deeds.pieces.begin_with(tideline, bar, step)
    assert not any("not on the shelf" in one.title for one in plan(job, own).findings)
    sawn = deeds.pieces.cut_off(own, bar.code, 70, 2)
    finding = next(one for one in plan(job, sawn).findings if "not on the shelf" in one.title)
    after = apply_remedy(job, finding.remedies[0])
    right = next(piece for piece in sawn.pieces if piece.name == "Saltmarsh, right")
    assert after.blank.piece == right.code
    photo = after.blank.photographed
    assert photo is not None
    assert (photo.length_mm, [mark.z_mm for mark in photo.marks]) == (129, [79])
    assert not any("not on the shelf" in one.title for one in plan(after, sawn).findings)


@pytest.mark.parametrize(
    ("made_of", "stuff", "is_wood"),
    [("resin", "resin", False), ("compressed fibre", "fibre", True), ("wood", "wood", True)],
)
def test_what_a_photographed_bar_is_made_of_is_asked_once_and_goes_everywhere(
    tideline: Job, shop: Shop, made_of: str, stuff: str, is_wood: bool
) -> None:
    step = PhotoStep(length_mm=200, views=(view_of(90.0, 1),))
    job = tideline.with_(blank=tideline.blank.with_(steps=(step,)))
    asked = next(one for one in plan(job, shop).findings if "made of" in one.title)
    said = next(one for one in asked.remedies if one.edits[0].value == made_of)
    after = plan(apply_remedy(job, said), shop)
    assert after.bore is not None
    assert after.bore.stuff.key == stuff
    assert not any("made of" in one.title for one in after.findings)
    words = text_of(certificate(after, shop, None))
    assert made_of in words
    assert ("Wood moves" in words) == is_wood


def test_what_is_left_over_is_one_number() -> None:
    units = Units()
    assert left_words((13.8, 13.8, 0.4), units) == "left over 27.6 mm (13.8 mm + 13.8 mm)"
    assert left_words((0.2,), units) == "nothing left over"
    assert left_words((5, 6, 7, 8), units) == "left over 26.0 mm in 4 pieces, the longest 8.0 mm"
