"""Bars on a slab: laid out without touching, sawn by lines that free them, each with its own part of the photo."""

from __future__ import annotations

import math

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import CastStep, Cup, Mark, PhotoStep, ReorientStep
from orvek.documents.deeds.photos import stretch_of
from orvek.errors import BadFieldError
from orvek.workpiece import slab_marks
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator
from orvek.workpiece.pictures import block_from_above, face
from orvek.workpiece.slab import Slab, SlabBar, apart, laid_out, lies_on, share_used, troubles
from orvek.workpiece.slab_bars import bar_album, marked, slab_of, way_out
from orvek.workpiece.slab_cuts import cuts
from orvek.workpiece.slab_edge import edge_of
from tests.photos import SLAB_CORNERS, SLAB_MM, photographed, slab_with_bark

_sides = st.floats(40, 320)


def no_saw_in_a_bar(slab: Slab, bars: tuple[SlabBar, ...], kerf: float) -> None:
    """No cut runs through a bar, whichever it frees; a cut that ends before the slab does says so."""
    for line, ends in ((cut, part) for cut in cuts(slab, bars, kerf) for part in cut.parts):
        along = np.diff(ends, axis=0)[0]
        across = np.array([-along[1], along[0]]) / np.hypot(*along) * kerf / 2
        # Over the whole blade: its middle and both its sides.
        steps = np.array(ends[0]) + np.linspace(0, 1, 200)[:, None] * along
        points = np.concatenate([steps + part * across for part in (-1.0, -0.5, 0.0, 0.5, 1.0)])
        for bar in bars:
            c, s = math.cos(math.radians(bar.angle_deg)), math.sin(math.radians(bar.angle_deg))
            own = np.abs((points - (bar.x_mm, bar.y_mm)) @ np.array([(c, -s), (s, c)]))
            assert not (own < (bar.length_mm / 2 - 0.2, bar.width_mm / 2 - 0.2)).all(axis=1).any()
        edges = np.abs(within(slab.edge, np.array(ends)))
        assert line.is_short or edges.max() <= 0.15


@pytest.mark.parametrize("lower", [0.5, 0.7, 0.88, 1.4])
def test_a_cut_from_edge_to_edge_saws_into_no_other_bar(lower: float) -> None:
    """Two bars beside each other, the second a little lower: the line along the first would take as much out of it."""
    slab = Slab(300, 80)
    bars = (SlabBar(70, 30, 0, 130, 20), SlabBar(70 + 131.6, 30 + lower, 0, 130, 20))
    assert not troubles(slab, bars, 1.6)
    no_saw_in_a_bar(slab, bars, 1.6)
    freed = {line.frees for line in cuts(slab, bars, 1.6)}
    assert freed >= {"bar 1", "bar 2"} or "bars 1, 2" in freed


@given(st.floats(1.0, 3.5), st.lists(st.tuples(st.floats(-1, 1), st.floats(-3, 3)), min_size=2, max_size=8), st.data())
def test_bars_that_were_nudged_are_sawn_free_of_each_other(
    kerf: float, nudges: list[tuple[float, float]], data: st.DataObject
) -> None:
    slab = Slab(400, 200)
    laid = laid_out(slab, 110, 22, kerf, data.draw(st.sampled_from([0.0, 90.0, 12.0, -35.0])))[: len(nudges)]
    bars = tuple(
        SlabBar(bar.x_mm + dx, bar.y_mm + dy, bar.angle_deg, bar.length_mm, bar.width_mm)
        for bar, (dx, dy) in zip(laid, nudges, strict=False)
    )
    kept: tuple[SlabBar, ...] = ()
    for bar in bars:
        kept = (*kept, bar) if not troubles(slab, (*kept, bar), kerf) else kept
    no_saw_in_a_bar(slab, kept, kerf)


def test_bars_at_several_angles_are_sawn_free_without_a_cut_through_another() -> None:
    slab = Slab(300, 150)
    bars = (SlabBar(75, 20, 0, 120, 20), SlabBar(220, 80, 90, 120, 20), SlabBar(100, 100, 35, 120, 20))
    assert not troubles(slab, bars, 2)
    no_saw_in_a_bar(slab, bars, 2)
    lines = cuts(slab, bars, 2)
    # The cut under bar 1 would run into bar 2 and stops before it; the one along bar 2's outer side goes through.
    assert next(line for line in lines if line.frees == "bar 1" and line.parts[0][0][1] > 25).is_short
    assert any(line.frees == "bar 2" and not line.is_short for line in lines)
    assert {line.frees for line in lines} == {"bar 1", "bar 2", "bar 3"}


@given(_sides, _sides, st.floats(40, 130), st.floats(15, 30), st.floats(0.5, 4), st.none() | st.floats(-89, 90))
def test_what_is_laid_out_lies_on_the_slab_and_the_saw_fits_between(
    long: float, wide: float, bar_long: float, bar_wide: float, kerf: float, angle: float | None
) -> None:
    slab = Slab(long, wide, bad=((long / 2, wide / 2, 5.0),))
    bars = laid_out(slab, bar_long, bar_wide, kerf, angle)
    assert not troubles(slab, bars, kerf)
    assert share_used(slab, bars) <= 1
    no_saw_in_a_bar(slab, bars, kerf)
    if angle is None:
        assert len(bars) >= len(laid_out(slab, bar_long, bar_wide, kerf, 0.0))


@given(st.integers(1, 5), st.integers(1, 6), st.floats(1, 4))
def test_a_whole_slab_gives_as_many_as_divide_it(columns: int, rows: int, kerf: float) -> None:
    slab = Slab(columns * 60 + (columns - 1) * kerf + 0.5, rows * 20 + (rows - 1) * kerf + 0.5)
    bars = laid_out(slab, 60, 20, kerf, 0.0)
    assert len(bars) == columns * rows
    lines = cuts(slab, bars, kerf)
    # Between the bars one line each; the saw does not run along an edge that is there already.
    assert sum(not line.is_across for line in lines) == rows - 1
    assert sum(line.is_across for line in lines) == columns - 1
    for line in lines:
        ((x0, y0), (x1, y1)) = line.parts[0]
        assert (x0, x1) == pytest.approx((0, slab.length_mm), abs=0.1) or (y0, y1) == pytest.approx(
            (0, slab.width_mm), abs=0.1
        )


@given(st.floats(-180, 180), st.floats(-180, 180), st.floats(-60, 60), st.floats(-60, 60), st.floats(0, 3))
def test_apart_is_what_no_point_of_one_within_the_other_says(
    one_deg: float, other_deg: float, x: float, y: float, kerf: float
) -> None:
    one, other = SlabBar(0, 0, one_deg, 60, 20), SlabBar(x, y, other_deg, 60, 20)
    assert apart(one, other, kerf) == apart(other, one, kerf)
    grid = np.stack(np.meshgrid(np.linspace(-30, 30, 41), np.linspace(-10, 10, 15)), axis=-1).reshape(-1, 2)
    c, s = math.cos(math.radians(other_deg)), math.sin(math.radians(other_deg))
    there = grid @ np.array([(c, s), (-s, c)]) + (x, y)
    u, v = math.cos(math.radians(one_deg)), math.sin(math.radians(one_deg))
    own = there @ np.array([(u, -v), (v, u)])
    if (np.abs(own) < (29.99, 9.99)).all(axis=1).any():
        assert not apart(one, other, kerf)


def test_a_bad_place_is_left_out_and_a_bar_over_the_edge_is_named() -> None:
    slab = Slab(130, 60, bad=((65, 10, 4),))
    assert len(laid_out(slab, 130, 20, 1, 0.0)) == 2 - 1 + len(laid_out(Slab(130, 45), 130, 20, 1, 0.0)) - 1
    assert not lies_on(slab, SlabBar(65, 12, 0, 130, 20))
    over = SlabBar(65, 55, 0, 130, 20)
    good = SlabBar(65, 40, 0, 130, 20)
    assert troubles(slab, (good, over), 1) == ((1,), (0, 1))


@pytest.mark.parametrize(("x", "y"), [(29, 40), (101, 40), (65, 9), (65, 71)])
def test_a_bar_over_any_edge_does_not_lie_on_the_slab(x: float, y: float) -> None:
    slab = Slab(130, 80)
    assert lies_on(slab, SlabBar(65, 40, 0, 60, 20))
    assert not lies_on(slab, SlabBar(x, y, 0, 60, 20))
    bar = SlabBar(65, 40, 90, 60, 20)
    assert bar.holds(65, 65)
    assert not bar.holds(90, 40)


def test_a_mark_is_carried_to_where_it_lies_on_the_bar() -> None:
    marks = (
        Mark(kind="centre this", z_mm=70, across_mm=5, size_mm=4),
        Mark(kind="must not show", z_mm=10, across_mm=0),
    )
    album = PhotoStep(length_mm=200, width_mm=60, depth_mm=20, made_of="burl or spalted wood", marks=marks)
    assert bar_album(album, SlabBar(80, 30, 90, 60, 20)).made_of == album.made_of
    turned = bar_album(album, SlabBar(80, 30, 90, 60, 20))
    assert [(one.z_mm, one.across_mm) for one in turned.marks] == [(35, 10)]
    straight = bar_album(album, SlabBar(80, 30, 0, 60, 20))
    assert [(one.z_mm, one.across_mm) for one in straight.marks] == [(20, 5)]


@given(st.floats(70, 230), st.floats(40, 110), st.floats(-90, 180), st.booleans())
def test_a_bar_taken_out_of_a_casting_shows_what_the_casting_shows_there(
    kernel: Evaluator, x: float, y: float, angle: float, is_layered: bool
) -> None:
    """The bar's upper face, point by point, is the casting's where the bar lies on it, whichever way it is turned."""
    cups = tuple(Cup(name=colour, colour=colour, share=50) for colour in ("#102030", "#e0d0c0"))
    cast = CastStep(cups=cups, style="layers" if is_layered else "swirl")
    casting, bar, size = Slab(300, 150), SlabBar(x, y, angle, 60, 20), (20.0, 18.0, 60.0, False)
    whole = block_from_above(kernel, compiled((cast,), *size), (300, 150), 4.0)
    step = way_out(casting, bar)
    assert isinstance(step, ReorientStep)
    z = np.arange(2.0, 58.0, dtype=np.float32)
    own = face(kernel, compiled((cast, step), *size), z, 20, 90.0)
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    if not -90 <= angle < 90:  # end for end: the same bar turned half round
        own = own[::-1, ::-1]
    across, along = np.meshgrid((np.arange(20) + 0.5) - 10, z - 30, indexing="ij")
    columns, rows = (np.clip(np.floor(4 * place).astype(int), 0, most) for place, most in (
        (x + c * along - s * across, 1199), (y + s * along + c * across, 599)
    ))  # fmt: skip
    off = np.abs(own.astype(float) - whole[rows, columns]).max(axis=2)
    inside = (x + c * along - s * across > 1) & (x + c * along - s * across < 299)
    inside &= (y + s * along + c * across > 1) & (y + s * along + c * across < 149)
    assert np.mean(off[inside] > 40) < 0.25  # but for dots where one colour ends


def within(outline: tuple[tuple[float, float], ...], points: np.ndarray) -> np.ndarray:
    """How far each point lies within an outline, in mm; negative outside."""
    ring = np.array(outline, np.float32).reshape(-1, 1, 2)
    return np.array([cv2.pointPolygonTest(ring, (float(x), float(y)), True) for x, y in points])


def around(bar: SlabBar) -> np.ndarray:
    """Places all round a bar's edge, a millimetre apart."""
    corners = bar.corners()
    sides = [corners[n - 1] + np.linspace(0, 1, 140)[:, None] * (corners[n] - corners[n - 1]) for n in range(4)]
    return np.concatenate(sides)


@given(st.integers(0, 10_000), st.floats(0, 4), st.sampled_from([0.0, 90.0, 30.0, -45.0]))
def test_bars_keep_off_a_natural_edge_knots_and_cracks(seed: int, margin: float, angle: float) -> None:
    """Every place round every bar lies within the outline by the margin, and off each knot and crack."""
    rng = np.random.default_rng(seed)
    x = np.linspace(0, 400, 24)
    top, bottom = rng.uniform(0, 18, 24), 180 - rng.uniform(0, 18, 24)
    edge = [*zip(x, top, strict=True), *zip(x[::-1], bottom[::-1], strict=True)]
    outline = tuple((round(float(a), 1), round(float(b), 1)) for a, b in edge)
    knots = tuple((float(rng.uniform(40, 360)), float(rng.uniform(40, 140)), float(rng.uniform(4, 30))) for _ in "ab")
    crack = tuple(float(one) for one in (0, *rng.uniform(40, 140, 1), *rng.uniform((60, 40), (160, 140)), 3))
    slab = Slab(400, 180, knots, (crack,), outline, margin)  # type: ignore[arg-type]
    bars = laid_out(slab, 90, 20, 2, angle)
    assert not troubles(slab, bars, 2)
    for bar in bars:
        places = around(bar)
        assert within(outline, places).min() >= margin - 0.02
        for kx, ky, size in knots:
            assert np.hypot(*(places - (kx, ky)).T).min() >= size / 2 - 0.02
            assert not bar.holds(kx, ky)
        along = np.array(crack[:2]) + np.linspace(0, 1, 200)[:, None] * (np.array(crack[2:4]) - crack[:2])
        assert not any(bar.holds(*place) for place in along)
    spoilt = slab_marks.added(slab, "spots", (bars[0].x_mm, bars[0].y_mm)) if bars else None
    assert spoilt is None or (0,) in troubles(spoilt[0], bars, 2)


def test_an_empty_stretch_between_two_edges_is_no_slab() -> None:
    """A slab like a U: between its arms lies the bench."""
    outline = ((0, 0), (120, 0), (120, 100), (220, 100), (220, 0), (340, 0), (340, 160), (0, 160))
    slab = Slab(340, 160, outline=tuple((float(x), float(y)) for x, y in outline))
    bars = laid_out(slab, 100, 20, 2, 0.0)
    assert not troubles(slab, bars, 2)
    assert lies_on(slab, SlabBar(60, 50, 0, 100, 20))
    assert not lies_on(slab, SlabBar(170, 50, 0, 90, 20))  # wholly over the bench, no edge runs through it
    assert share_used(slab, bars) == pytest.approx(len(bars) * 2000 / (340 * 160 - 100 * 100))


def test_a_slab_with_bark_becomes_twelve_bars_and_its_list_is_played_back() -> None:
    """From its photo to the saw: the edge is found, bars stay off the bark, no cut touches a bar that it frees not."""
    true, picture = slab_with_bark(4)
    size = (420.0, 210.0)  # the same slab, half as large again
    outline = edge_of(picture, SLAB_CORNERS, size)
    assert outline
    slab = Slab(*size, outline=outline, margin_mm=2.0)
    bars = laid_out(slab, 130, 19, 1.6, 0.0)[:12]
    assert len(bars) == 12
    scale = size[0] / SLAB_MM[0]
    wood = tuple((x * scale, y * scale) for x, y in true)
    assert min(within(wood, around(bar)).min() for bar in bars) > 0
    lines = cuts(slab, bars, 1.6)
    no_saw_in_a_bar(Slab(*size, outline=outline), bars, 1.6)
    freed = {number for line in lines for number in line.frees.replace("bars", "bar").removeprefix("bar ").split(", ")}
    assert freed == {str(number) for number in range(1, 13)}
    sawn = [part for line in lines for part in line.parts]
    for bar in bars:
        # Played back: a line on each of its four sides, half a kerf off it.
        sides = [bar.corners(0.8)[[n - 1, n]] for n in range(4)]
        for side in sides:
            middle = side.mean(axis=0)
            assert any(_lies_on(part, middle, 0.12) for part in sawn) or within(outline, side).min() < 0.1


def _lies_on(ends: tuple[tuple[float, float], ...], place: np.ndarray, near: float) -> bool:
    a, b = np.array(ends)
    part = np.clip((place - a) @ (b - a) / ((b - a) @ (b - a)), 0, 1)
    return float(np.hypot(*(a + part * (b - a) - place))) <= near


@pytest.mark.parametrize("seed", range(4))
def test_an_edge_with_bark_is_found_on_its_photo(seed: int) -> None:
    """Shadow, blur, light from one side: what is found lies within 2 mm of the edge."""
    true, picture = slab_with_bark(seed)
    found = edge_of(picture, SLAB_CORNERS, SLAB_MM)
    assert found
    assert np.abs(within(true, np.array(found))).max() < 2
    assert np.abs(within(found, np.array(true))).max() < 3.5


def test_a_straight_slab_has_no_outline_and_an_empty_bench_none_that_is_told() -> None:
    straight = np.full((160, 320, 3), (120, 80, 50), np.uint8)
    assert edge_of(photographed(straight, SLAB_CORNERS, shadow=0.2), SLAB_CORNERS, SLAB_MM) == ()
    bench = np.full((800, 1200, 3), (150, 140, 130), np.uint8)
    assert not edge_of(bench, SLAB_CORNERS, SLAB_MM)


def test_marks_are_made_moved_sized_and_taken_away() -> None:
    slab = Slab(200, 100)
    made = slab_marks.added(slab, "edge", (100.0, 1.0), 5.0)
    assert made is not None
    assert slab_marks.added(slab, "edge", (100.0, 50.0), 5.0) is None
    bent = slab_marks.moved(made[0], "edge", made[1], (100, 12))
    assert bent.outline == ((0, 0), (100, 12), (200, 0), (200, 100), (0, 100))
    assert slab_marks.moved(bent, "edge", 0, (-50, 999)).outline[0] == (0, 100)
    assert slab_marks.removed(bent, "edge", 1).edge == slab.edge
    three = Slab(200, 100, outline=((0, 0), (200, 0), (0, 100)))
    assert slab_marks.removed(three, "edge", 0) == three
    cracked, end = slab_marks.added(slab, "cracks", (0.0, 50.0)) or (slab, 0)
    cracked = slab_marks.sized(slab_marks.moved(cracked, "cracks", end, (60, 55)), "cracks", end, 4)
    assert cracked.cracks == ((0, 50, 60, 55, 4),)
    assert slab_marks.removed(cracked, "cracks", end) == slab
    spotted, index = slab_marks.added(cracked, "spots", (120.0, 40.0)) or (slab, 0)
    assert slab_marks.size_mm(slab_marks.sized(spotted, "spots", index, 5000), "spots", index) == 100
    album = PhotoStep(length_mm=200, width_mm=100, depth_mm=20, marks=(Mark(kind="centre this", z_mm=9),))
    kept = marked(album, slab_marks.sized(spotted, "spots", index, 9))
    assert slab_of(kept) == Slab(200, 100, ((120, 40, 9),), cracked.cracks)
    assert marked(kept, slab_of(kept)) == kept
    assert [mark.kind for mark in marked(kept, slab).marks] == ["centre this"]
    with pytest.raises(BadFieldError, match="crosses itself"):
        marked(album, Slab(200, 100, outline=((0, 0), (200, 100), (200, 0), (0, 100))))


def test_sawn_across_each_half_has_its_part_of_edge_and_cracks() -> None:
    outline = ((0, 4), (100, 10), (200, 0), (200, 100), (0, 90))
    album = PhotoStep(length_mm=200, width_mm=100, depth_mm=20, outline=outline)
    album = marked(album, Slab(200, 100, (), ((20, 50, 60, 55, 4),), outline))
    left, right = stretch_of(album, 0, 100), stretch_of(album, 101.6, 200)
    assert left.outline == ((0, 4), (100, 10), (100, 95), (0, 90))
    assert right.outline[0] == (0, pytest.approx(9.84))
    assert right.outline[1:3] == ((98.4, 0), (98.4, 100))
    assert [crack.end_mm for crack in left.cracks] == [(60, 55)]
    assert not right.cracks
