"""The field: reference volumes, kernel against reference, curves on a cylinder, volumes that add up."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from orvek.documents import (
    ArcStep,
    Artwork,
    CastStep,
    Cup,
    CutStep,
    DyeStep,
    InsertStep,
    LaminateStep,
    Layer,
    PigmentDose,
    PlugStep,
    ReorientStep,
    RipStep,
    SliceStep,
    SolidStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
    first_shop,
    material,
)
from orvek.documents.base import checked
from orvek.errors import NothingToDoError
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator
from orvek.workpiece.lustre import lean_map
from orvek.workpiece.measures import amounts
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.pictures import end_face, face, oblique, section, turned, turned_alone, turning, unrolled
from orvek.workpiece.program import Program
from orvek.workpiece.reference import evaluate_reference

_CASES = json.loads((Path(__file__).parent / "reference_volumes.json").read_text())["cases"]
PEARL = PigmentDose(pigment=next(p for p in first_shop().pigments if p.kind == "pearl"), load_pct=2)
_STAND_IN = {"inlay": "brass", "skin": "copper", "core": "aluminium", "skin2": "white-composite"}


def artwork(*rows: str) -> Artwork:
    return checked(Artwork, {"colours": ["#101010", "#f0f0f0", "#a02020"], "rows": rows})


def program_of(case: dict[str, Any]) -> Program:
    bar: Step = SolidStep(material="pear")
    if "strips" in case:
        strips = [(end - start, "pear" if n % 2 == 0 else "ebony") for n, (start, end) in enumerate(case["strips"])]
        bar = LaminateStep(strips=tuple(Layer(material=m, thickness_mm=t) for t, m in strips), glue_mm=0)
    sheet = tuple(Layer(material=_STAND_IN[name], thickness_mm=thickness) for name, thickness in case["layers"])
    cuts = [
        CutStep(
            angle_deg=angle,
            azimuth_deg=azimuth,
            centre_mm=centre,
            kerf_mm=case["kerf_mm"],
            sheet=sheet,
            register_by=case["register"],
        )
        for angle, azimuth, centre in zip(case["angles_deg"], case["azimuths_deg"], case["centres_mm"], strict=True)
    ]
    return compiled((bar, *cuts), 20, 20, 160)


@pytest.mark.parametrize("case", _CASES, ids=[case["name"] for case in _CASES])
def test_volumes_found_independently(kernel: Evaluator, case: dict[str, Any]) -> None:
    program = program_of(case)
    found = {
        amount.material.key: 1000 * amount.volume_ml
        for amount in amounts(kernel, program, case["z0_mm"], case["z1_mm"], case["radius_mm"])
    }
    keys = {**_STAND_IN, "body": "pear", "strip0": "pear", "strip1": "ebony"}
    for name, volume in case["volumes_mm3"].items():
        assert found[keys[name]] == pytest.approx(volume, abs=0.003 * case["total_mm3"])
    assert sum(found.values()) == pytest.approx(case["total_mm3"], rel=1e-3)


def test_a_pit_ends_at_its_depth(kernel: Evaluator) -> None:
    pit = PlugStep(diameter_mm=4, long_mm=9, deep_mm=3, centre_mm=60, material="brass", azimuth_deg=90)
    program = compiled((SolidStep(), pit), 20, 20, 120)
    brass = next(a for a in amounts(kernel, program, 50, 70, points=400_000) if a.material.key == "brass")
    assert brass.volume_ml == pytest.approx(math.pi / 4 * 4 * 9 * 3 / 1000, rel=0.02)
    there = np.array([[0, 0, 0], [9.9, 7.1, 6.9], [60, 60, 60]], np.float32)
    inside = kernel(program, there).material == program.materials.index(material("brass"))
    assert list(inside) == [True, True, False]


shifts = st.floats(-20, 20)
angles = st.floats(0, 360)
sheets = st.lists(
    st.builds(Layer, material=st.sampled_from(["brass", "black-composite", "holly"]), thickness_mm=st.floats(0.3, 2)),
    max_size=3,
).map(tuple)
stock = st.one_of(
    st.builds(SolidStep, grain_deg=st.floats(-90, 90)),
    st.builds(LaminateStep, angle_deg=st.floats(0, 90), azimuth_deg=angles),
    st.builds(StackStep),
    st.builds(
        StavesStep,
        count=st.integers(3, 16),
        twist_deg=st.floats(-90, 90),
        ring_mm=st.sampled_from([0.0, 9.0]),
        thickness_mm=st.sampled_from([0.0, 4.0, 7.0]),
        taper_deg=st.floats(-5, 5),
    ),
    st.builds(
        WrapStep,
        core_mm=st.floats(4, 16),
        sheet_mm=st.floats(0.1, 2),
        pattern=st.sampled_from(["bands", "checks", "waves", "picture"]),
        around=st.integers(1, 8),
        artwork=st.none() | st.just(artwork("0120", "2011", "0002")),
        times=st.sampled_from(["repeated", "once"]),
        stands=st.sampled_from(["along the bar", "round the bar"]),
        shift_mm=st.floats(-40, 40),
        seam_deg=angles,
    ),
    st.builds(
        CastStep,
        cups=st.lists(
            st.builds(Cup, name=st.just("a"), colour=st.sampled_from(["#102030", "#f0f0f0"]), share=st.floats(1, 9)),
            max_size=3,
        ).map(tuple),
        style=st.sampled_from(["swirl", "layers", "chips"]),
        seed=st.integers(0, 99),
        scale=st.floats(0.5, 3),
        stretch=st.floats(0.5, 3),
        contrast=st.floats(0, 1),
    ),
)
work = st.one_of(
    st.builds(
        CutStep,
        angle_deg=st.floats(20, 90),
        azimuth_deg=angles,
        centre_mm=st.floats(20, 110),
        kerf_mm=st.floats(0.5, 3),
        sheet=sheets,
        register_by=st.sampled_from(["coaxial", "normal"]),
        glue_mm=st.sampled_from([0.0, 0.1]),
        tab_mm=st.sampled_from([0.0, 2.0]),
        slip_mm=st.sampled_from([0.0, 0.8, -2.0]),
        sheet_form=st.sampled_from(["single layers", "one bonded sheet"]),
    ),
    st.builds(ArcStep, azimuth_deg=angles, centre_mm=st.floats(20, 110), sheet=sheets),
    st.builds(
        SliceStep,
        pitch_mm=st.floats(4, 20),
        angle_deg=st.floats(40, 90),
        azimuth_deg=angles,
        turn=st.sampled_from(["90", "180", "end for end"]),
    ),
    st.builds(
        RipStep,
        azimuth_deg=angles,
        flip=st.sampled_from(["end for end", "face for face"]),
        shift_mm=st.sampled_from([0.0, 7.5, -4.0]),
    ),
    st.builds(
        PlugStep,
        way=st.sampled_from(["across", "along"]),
        azimuth_deg=angles,
        offset_mm=st.floats(-4, 4),
        deep_mm=st.none() | st.floats(1, 18),
        long_mm=st.none() | st.floats(2, 20),
    ),
    st.builds(DyeStep, depth_mm=st.floats(1, 20)),
    st.builds(
        ReorientStep,
        angle_deg=st.floats(-90, 90),
        azimuth_deg=angles,
        shift_mm=st.floats(-20, 20),
        across_mm=st.floats(-20, 20),
    ),
)
lines = st.lists(st.floats(-4, 4), max_size=7).map(tuple)
blanks = st.tuples(
    st.lists(
        st.builds(
            InsertStep, form=st.sampled_from(["edge", "core", "rods", "chips"]), azimuth_deg=angles, line_mm=lines
        ),
        max_size=1,
    ),
    stock,
    st.lists(work, max_size=6),
).map(lambda parts: (*(parts[0] if parts[1].kind == "cast" else ()), parts[1], *parts[2]))


def test_a_cut_straight_across_shows_what_lies_above_above() -> None:
    """A bar of two woods, the dark one towards B: seen square on, the upper half of the cut is dark, and no more."""
    halves = tuple(Layer(material=key, thickness_mm=10) for key in ("holly", "ebony"))
    program = compiled((LaminateStep(strips=halves, azimuth_deg=90, glue_mm=0),), 20, 20, 100)
    made = oblique(evaluate_reference, program, (90.0, 0.0, 50.0), (40, 40), (255, 0, 255)).mean(axis=2)
    inside = made[7:33, 7:33]
    upper, lower = inside[:13], inside[13:]
    assert {float(upper.max()) < float(lower.min()), float(lower.max()) < float(upper.min())} == {True, False}
    across = end_face(evaluate_reference, program, 50.0, (40, 40), (255, 0, 255)).mean(axis=2)
    assert (upper.mean() < lower.mean()) == (across[:20].mean() < across[20:].mean()), "both show B above"


@settings(max_examples=80)
@given(blanks, st.integers(0, 2**31))
def test_kernel_and_reference_agree_point_for_point(kernel: Evaluator, steps: tuple[Step, ...], seed: int) -> None:
    program = compiled(steps, 20, 20, 130)
    generator = np.random.default_rng(seed)
    points = ((generator.random((3, 1500)) - [[0.5], [0.5], [0]]) * [[20], [20], [130]]).astype(np.float32)
    fast, plain = kernel(program, points), evaluate_reference(program, points)
    differ = np.flatnonzero(fast.material != plain.material)
    for index in differ:
        # Only a point on a boundary may be read differently: its close neighbours must differ too.
        near = points[:, [index]] + generator.normal(0, 2e-3, (3, 64)).astype(np.float32)
        assert len(set(evaluate_reference(program, near).material)) > 1
    assert differ.size <= 12
    same = fast.material == plain.material
    assert np.quantile(np.abs(fast.tone[same] - plain.tone[same]), 0.97) < 0.05


@given(st.floats(20, 80), st.floats(0, 360), st.floats(3, 9))
def test_a_plane_cut_is_a_cosine_on_a_cylinder(angle_deg: float, azimuth_deg: float, radius: float) -> None:
    cut = CutStep(
        angle_deg=angle_deg,
        azimuth_deg=azimuth_deg,
        centre_mm=65,
        kerf_mm=1.5,
        sheet=(Layer(material="brass", thickness_mm=1.5),),
    )
    program = compiled((SolidStep(), cut), 20, 20, 130)
    brass = next(n for n, there in enumerate(program.materials) if there.key == "brass")
    a = math.radians(angle_deg)
    for theta in np.linspace(0, 2 * np.pi, 7):
        middle = 65 - radius / math.tan(a) * math.cos(theta - math.radians(azimuth_deg))
        half = 1.5 / math.sin(a) / 2
        z = np.array([middle - half - 0.01, middle - half + 0.01, middle + half - 0.01, middle + half + 0.01])
        points = np.stack([np.full(4, radius * np.cos(theta)), np.full(4, radius * np.sin(theta)), z])
        found = evaluate_reference(program, points).material == brass
        assert found.tolist() == [False, True, True, False]


def test_a_straight_slab_has_its_analytic_volume() -> None:
    slab = InsertStep(material="bigleaf-maple", middle_mm=2, rough_mm=0, slope_deg=0)
    program = compiled((slab, CastStep()), 20, 20, 130)
    wood, resin = amounts(evaluate_reference, program, 0, 130)
    assert wood.volume_ml == pytest.approx(12 * 20 * 130 / 1000, rel=1e-3)
    assert wood.mass_g == pytest.approx(wood.volume_ml * 0.498, rel=1e-3)
    assert wood.volume_ml + resin.volume_ml == pytest.approx(52, rel=1e-6)


@given(blanks)
@settings(max_examples=25)
def test_all_materials_add_up_to_the_bar(steps: tuple[Step, ...]) -> None:
    program = compiled(steps, 20, 20, 130)
    total = sum(amount.volume_ml for amount in amounts(evaluate_reference, program, 0, 130, points=20_000))
    assert total == pytest.approx(52, rel=1e-3)


def test_order_matters_as_it_does_at_the_saw() -> None:
    cuts = [
        CutStep(azimuth_deg=azimuth, kerf_mm=2, sheet=(Layer(material="brass", thickness_mm=2.6),))
        for azimuth in (0, 90)
    ]
    one, other = (compiled((SolidStep(), *order), 20, 20, 130) for order in (cuts, cuts[::-1]))
    points = (np.random.default_rng(1).random((3, 20_000)) - [[0.5], [0.5], [0]]) * [[20], [20], [130]]
    differ = evaluate_reference(one, points).material != evaluate_reference(other, points).material
    assert 0 < np.mean(differ) < 0.2


@pytest.mark.parametrize("steps", [(CutStep(),), (InsertStep(), SolidStep()), (DyeStep(), SolidStep())])
def test_a_list_that_makes_no_bar_is_refused(steps: tuple[Step, ...]) -> None:
    with pytest.raises(NothingToDoError, match="first"):
        compiled(steps, 20, 20, 130)


def test_the_turned_barrel_shows_the_unrolled_surface() -> None:
    stripes = LaminateStep(
        strips=(Layer(material="holly", thickness_mm=10), Layer(material="ebony", thickness_mm=10)), glue_mm=0
    )
    program = compiled((stripes,), 20, 20, 130)
    z = np.linspace(10, 60, 40, dtype=np.float32)
    surface = unrolled(evaluate_reference, program, z, np.full(40, 6, np.float32), 180)
    ground = (255, 0, 255)
    prepared = turning(np.full(40, 50, np.float32), 100, ground)
    # Azimuth 0 is towards +x: ebony, the second strip. Turned by half a turn, holly shows.
    dark, light = (turned(surface, prepared, turn)[50, 20].mean() for turn in (0, 180))
    assert light > 2 * dark
    assert turned(surface, turning(np.full(40, 20, np.float32), 100, ground), 0)[2, 20].tolist() == [255, 0, 255]


def test_a_wrapped_sheet_lies_where_its_radius_says() -> None:
    program = compiled((WrapStep(core_mm=10, sheet_mm=0.5, over="clear-resin"),), 20, 20, 130)
    names = [there.key for there in program.materials]
    points = np.array([[4.9, 5.25, 5.6], [0, 0, 0], [60, 60, 60]], dtype=np.float32)
    found = [names[index] for index in evaluate_reference(program, points).material]
    assert found[0] == "hard-maple"
    assert found[1] in {"paper", "red-composite"}
    assert found[2] == "clear-resin"


def test_a_coarser_swirl_changes_more_slowly() -> None:
    def borders(scale: float) -> int:
        cups = (Cup(name="a", colour="#101010", share=1), Cup(name="b", colour="#f0f0f0", share=1))
        program = compiled((CastStep(cups=cups, scale=scale),), 20, 20, 130)
        points = np.stack([np.full(4000, 3.0), np.full(4000, -2.0), np.linspace(0, 130, 4000)])
        return int(np.count_nonzero(np.diff(evaluate_reference(program, points).material.astype(int))))

    assert borders(0.4) > borders(3)


@pytest.mark.parametrize("share", [10.0, 35.0, 70.0])
def test_chips_take_their_share_of_the_bar(share: float) -> None:
    chips = InsertStep(form="chips", material="holly", chips_pct=share, chip_mm=4)
    program = compiled((chips, CastStep()), 20, 20, 130)
    wood = next(amount for amount in amounts(evaluate_reference, program, 0, 130) if amount.material.key == "holly")
    assert wood.volume_ml / 52 == pytest.approx(share / 100, abs=0.015)


def test_an_edge_follows_its_points() -> None:
    slab = InsertStep(middle_mm=0, rough_mm=0, slope_deg=0, line_mm=(0, 5, 0, -5, 0))
    program = compiled((slab, CastStep()), 20, 20, 120)
    for z, edge in ((0, 0), (30, 5), (45, 2.5), (90, -5), (120, 0)):
        points = np.array([[edge - 0.05, edge + 0.05], [0, 0], [z, z]])
        assert evaluate_reference(program, points).material.tolist() == [0, 1]


def test_a_printed_picture_goes_once_round_and_repeats_along() -> None:
    wrap = WrapStep(core_mm=10, sheet_mm=0.5, pattern="picture", artwork=artwork("01", "10"), around=1, pitch_mm=20)
    program = compiled((wrap,), 20, 20, 130)
    places = [(5.25, 0.1, 5), (5.25, 0.1, 15), (5.25, -0.1, 5), (5.25, -0.1, 15), (5.25, 0.1, 25)]
    found = evaluate_reference(program, np.array(places).T).material
    assert [program.materials[n].colour for n in found] == ["#101010", "#f0f0f0", "#f0f0f0", "#101010", "#101010"]
    moved = wrap.with_(shift_mm=10, seam_deg=180, times="once")
    program = compiled((moved,), 20, 20, 130)
    found = evaluate_reference(program, np.array(places).T).material
    assert [program.materials[n].key for n in found] == [
        "paper",
        "print #f0f0f0",
        "paper",
        "print #101010",
        "print #101010",
    ]


def test_thin_staves_leave_a_hole_that_tapers() -> None:
    staves = StavesStep(count=8, thickness_mm=4, taper_deg=2, glue_mm=0)
    program = compiled((staves,), 20, 20, 100)
    middle_of_a_stave = math.pi / 8
    grows = math.tan(math.radians(2)) * 50
    for z, apothem in ((0.0, 6 - grows), (50.0, 6.0), (100.0, 6 + grows)):
        radius = np.array([apothem - 0.02, apothem + 0.02])
        x, y = radius * math.cos(middle_of_a_stave), radius * math.sin(middle_of_a_stave)
        found = evaluate_reference(program, np.stack([x, y, np.full(2, z)])).material
        assert [program.materials[n].look for n in found] == ["air", "wood"]


def test_a_section_across_is_the_end_face_and_along_is_the_section() -> None:
    cut = CutStep(angle_deg=40, centre_mm=65, sheet=(Layer(material="brass", thickness_mm=2),))
    program = compiled((SolidStep(), cut), 20, 20, 130)
    ground = (1, 2, 3)
    sloping = oblique(evaluate_reference, program, (40.0, 0.0, 65.0), (40, 120), ground)
    # The plane of the cut itself shows nothing but the sheet, and the ground beside it.
    brass = sloping.reshape(-1, 3)[(sloping != ground).any(axis=2).ravel()].astype(int)
    assert np.ptp(brass, axis=0).max() < 90
    assert brass.mean(axis=0)[2] < brass.mean(axis=0)[0]
    across = oblique(evaluate_reference, program, (90.0, 0.0, 20.0), (60, 60), ground)
    assert (across[30, 30] != ground).any()
    assert (across[0, 0] == ground).all()


def test_pearl_shines_elsewhere_when_it_is_rolled() -> None:
    cups = (Cup(name="a", colour="#305080", share=1, pigments=(PEARL,)),)
    program = compiled((CastStep(cups=cups),), 20, 20, 130)
    z, radius = np.linspace(20, 80, 120, dtype=np.float32), np.full(120, 6, np.float32)
    lean = lean_map(evaluate_reference, program, z, radius, 180)
    assert lean is not None
    assert lean.min() > 0
    surface = np.full((180, 120, 3), 90, np.uint8)
    prepared = turning(np.full(120, 50, np.float32), 100, (0, 0, 0))
    with_pearl = turned(surface, prepared, 0, lean).astype(int)
    assert np.ptp(with_pearl[40], axis=0).max() > 10, "an even colour shimmers"
    assert np.abs(with_pearl - turned(surface, prepared, 25, lean)).max() > 10, "and it moves"
    plain = compiled((SolidStep(),), 20, 20, 130)
    assert lean_map(evaluate_reference, plain, z, radius, 180) is None


@pytest.mark.parametrize("rows", [5, 35, 70, 198])
def test_a_dye_is_seen_however_many_rows_come_after_it(kernel: Evaluator, rows: int) -> None:
    """A dye before more rows than a machine word has bits."""
    misses = [CutStep(centre_mm=900, kerf_mm=0.1) for _ in range(rows)]
    program = compiled((SolidStep(material="hard-maple"), DyeStep(depth_mm=60), *misses), 20, 20, 130)
    points = np.zeros((3, 40), np.float32)
    points[2] = np.linspace(5, 125, 40)
    for evaluate in (evaluate_reference, kernel):
        names = {program.materials[index].name for index in evaluate(program, points).material}
        assert names == {"Hard maple, dyed"}


def test_a_wood_of_closer_grain_has_more_rings(kernel: Evaluator) -> None:
    def rings(spacing_mm: float) -> int:
        own = (material("pear").with_(key="own", ring_mm=spacing_mm),)
        program = compiled((SolidStep(material="own"),), 20, 20, 130, own=own)
        line = np.array([np.linspace(-10, 10, 800), np.zeros(800), np.full(800, 60.0)], np.float32)
        tone = kernel(program, line).tone
        assert np.abs(tone - evaluate_reference(program, line).tone).max() < 0.02
        return int((np.diff(np.sign(tone)) != 0).sum())

    assert rings(0.7) > 1.6 * rings(2.0) > 1.6 * rings(5.0)


def test_many_dyes_are_done_in_their_order(kernel: Evaluator) -> None:
    dyes = [DyeStep(colour=f"#{n:02x}{255 - n:02x}80", depth_mm=60, strength=1.0) for n in range(0, 240, 4)]
    program = compiled((SolidStep(material="hard-maple"), *dyes), 20, 20, 130)
    points = np.full((3, 4), 1.0, np.float32)
    points[2] = 60
    for evaluate in (evaluate_reference, kernel):
        (index,) = set(evaluate(program, points).material.tolist())
        assert program.materials[index].colour == dyes[-1].colour
        assert len(program.materials) == 61


def test_more_looks_than_there_are_numbers_for_are_drawn_as_their_neighbours(kernel: Evaluator) -> None:
    dyes = [DyeStep(colour=f"#{30 * n:02x}8040", depth_mm=1 + n) for n in range(8)]
    woods = tuple(Layer(material=key, thickness_mm=4) for key in ("hard-maple", "black-walnut", "pear", "ebony"))
    steps = (LaminateStep(strips=woods), *dyes)
    program = compiled(steps, 20, 20, 130)
    assert program.is_crowded
    assert len(program.materials) <= 254
    points = ((np.random.default_rng(3).random((3, 4000)) - [[0.5], [0.5], [0]]) * [[20], [20], [130]]).astype("f4")
    one, other = (evaluate(program, points).material for evaluate in (evaluate_reference, kernel))
    assert one.max() < len(program.materials)
    assert np.mean(one == other) > 0.999


def test_each_face_of_an_oblong_bar_has_its_own_height() -> None:
    """Stripes of 4 mm across the width: from above all of them are seen, from the front the nearest alone."""
    stripes = LaminateStep(
        strips=(Layer(material="holly", thickness_mm=4), Layer(material="ebony", thickness_mm=4)), glue_mm=0
    )
    program = compiled((stripes,), 24, 12, 100)
    z = np.array([50.0], dtype=np.float32)
    above = face(evaluate_reference, program, z, 48, 90)[:, 0].astype(int)
    front = face(evaluate_reference, program, z, 24, 0)[:, 0].astype(int)
    changes = [int((abs(np.diff(seen.sum(axis=1))) > 120).sum()) for seen in (above, front)]
    assert changes == [5, 0]
    half = section(evaluate_reference, program, z, 48, 0)[:, 0].astype(int)
    assert int((abs(np.diff(half.sum(axis=1))) > 120).sum()) == 5


def test_a_round_bar_is_seen_round() -> None:
    """From the front a flat shows one stripe; a round falls away through several."""
    stripes = LaminateStep(
        strips=(Layer(material="holly", thickness_mm=4), Layer(material="ebony", thickness_mm=4)), glue_mm=0
    )
    z = np.array([50.0], dtype=np.float32)
    square, rod = (compiled((stripes,), 20, 20, 100, is_round) for is_round in (False, True))
    flat, falling = (face(evaluate_reference, one, z, 80, 0)[:, 0].astype(int).sum(axis=1) for one in (square, rod))
    assert [int((abs(np.diff(seen)) > 120).sum()) for seen in (flat, falling)] == [0, 4]
    end = end_face(evaluate_reference, rod, 50, (40, 40), (1, 2, 3))
    assert end[0, 0].tolist() == [1, 2, 3]
    assert end[20, 1].tolist() != [1, 2, 3]


def test_a_barrel_is_cut_out_of_its_bar_and_turned_end_for_end() -> None:
    """Left half red, right half blue, on a bar 100 mm long; the barrel lies across the middle, thicker at the right."""
    surface = np.zeros((90, 200, 3), dtype=np.uint8)
    surface[:, :100, 0], surface[:, 100:, 2] = 200, 200
    barrel = TurnedBarrel(30.0, 70.0, 10.0, 14.0, 7.0)
    seen = turned_alone(surface, 100.0, barrel, 5.0, (0, 0, 0), is_flipped=False)
    back = turned_alone(surface, 100.0, barrel, 5.0, (0, 0, 0), is_flipped=True)
    assert seen.shape == back.shape == (2 * int(14 * 5 / 2 + 2), 80, 3)
    middle = seen.shape[0] // 2 + 12  # below the highlight
    assert seen[middle, 5, 0] > 2 * seen[middle, 5, 2]
    assert back[middle, 5, 2] > 2 * back[middle, 5, 0]
    tall = [int((picture.max(axis=2) > 20).sum(axis=0)[column]) for picture in (seen, back) for column in (2, 77)]
    assert tall[0] < tall[1]
    assert tall[2] > tall[3]
