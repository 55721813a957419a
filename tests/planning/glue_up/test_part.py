"""The cut list: the same bar comes from its numbers alone, and every mistake at the saw is said."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from orvek.documents import (
    ArcStep,
    BarInHand,
    CutStep,
    GlueUp,
    Job,
    LaminateStep,
    Layer,
    Machine,
    RipStep,
    RoundStep,
    Shop,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
    deeds,
    designs,
    first_shop,
)
from orvek.documents.deeds import set_value
from orvek.planning import Finding, Severity, Station, apply_remedy, plan
from orvek.planning.bar import narrowed
from orvek.planning.glue_up.part import cut_plan
from orvek.planning.glue_up.saw import (
    CutPlan,
    SawCut,
    added_up,
    centre_for,
    chevron_figures,
    panel_figures,
    row_words,
    stop_for,
    tab_words,
)
from orvek.planning.layout import Layout
from orvek.store import demo_job
from orvek.workpiece.compiling import compiled
from orvek.workpiece.lengths import lengths_mm, sheet_mm, starts_mm
from orvek.workpiece.reference import evaluate_reference

WIDE = 20.0
FACES = {"A": 0.0, "B": 90.0, "C": 180.0, "D": 270.0}


def glued(*steps: Step, **how: object) -> Job:
    return set_value(deeds.set_steps(demo_job(), steps), ("glue_up",), GlueUp(**how)).with_(pour=Job().pour)  # type: ignore[arg-type]


def cutting_of(job: Job, shop: Shop | None = None) -> CutPlan:
    found = plan(job, shop or first_shop()).glue_up
    assert found is not None
    return found


def on_bar(
    steps: tuple[Step, ...], length_mm: float, size: tuple[float, float] = (WIDE, WIDE), **how: object
) -> CutPlan:
    """The cut list of steps on a bar of this section, whatever pen would want."""
    found = plan(glued(*steps, **how), first_shop())
    assert found.layout is not None
    width, depth = size
    bar = replace(
        found.layout, length_mm=length_mm, width_mm=width, depth_mm=depth, is_from_mould=True, raw=(*size, False)
    )
    assert isinstance(bar, Layout)
    made = cut_plan(found.job, bar, first_shop())
    assert made is not None
    return made


def sawn(
    cut: SawCut, sheet: float, points: np.ndarray, size: tuple[float, float], *, slides: bool = False
) -> tuple[np.ndarray, np.ndarray]:
    """What the hands do with one cut, from the numbers on the card: where each point of the stock ends, if it is left.

    The bar lies with a face against the fence and its left end at the stop; the blade is set from square. What lies
    beyond the kerf is moved up against the sheet along the axis, or where it slides, square to the cut; then what both
    halves have is squared up, and its middle is the bar's axis.
    """
    fence = math.radians(FACES[cut.face_fence])
    half = abs(math.cos(fence)) * size[0] / 2 + abs(math.sin(fence)) * size[1] / 2
    away = -(points[0] * math.cos(fence) + points[1] * math.sin(fence)) + half  # distance from the fence
    lean = math.tan(math.radians(cut.set_deg))
    assert cut.stop_mm is not None
    near = cut.stop_mm - away * lean
    wide = cut.kerf_mm / math.cos(math.radians(cut.set_deg))
    left, beyond = points[2] < near, points[2] >= near + wide
    moved, kept = points.copy(), left | beyond
    if not slides:
        moved[2, beyond] += sheet / math.cos(math.radians(cut.set_deg)) - wide
        return moved, kept
    off = (sheet - cut.kerf_mm) * math.sin(math.radians(cut.set_deg))
    towards = -np.array([math.cos(fence), math.sin(fence)])
    moved[2, beyond] += (sheet - cut.kerf_mm) * math.cos(math.radians(cut.set_deg))
    moved[:2, beyond] += off * towards[:, None]
    moved[:2] -= off / 2 * towards[:, None]
    return moved, kept


_SHEETS = st.lists(
    st.builds(Layer, material=st.sampled_from(["brass", "holly"]), thickness_mm=st.floats(0.4, 2)),
    min_size=1,
    max_size=3,
).map(tuple)
cuts = st.builds(
    CutStep,
    angle_deg=st.floats(25, 90),
    azimuth_deg=st.sampled_from([0.0, 90.0, 180.0, 270.0]),
    centre_mm=st.floats(40, 90),
    kerf_mm=st.floats(0.6, 3),
    sheet=_SHEETS,
    glue_mm=st.sampled_from([0.0, 0.1]),
)


sections = st.sampled_from([(WIDE, WIDE), (24.0, 16.0), (15.0, 22.5)])


@given(st.lists(cuts, min_size=1, max_size=4).map(tuple), sections, st.integers(0, 2**31))
def test_the_cut_list_replayed_gives_the_designed_bar(
    steps: tuple[CutStep, ...], size: tuple[float, float], seed: int
) -> None:
    """Stock of two woods is sawn by the card alone; every point of it lies where the design has its material."""
    stripes = LaminateStep(
        strips=(Layer(material="hard-maple", thickness_mm=7), Layer(material="black-walnut", thickness_mm=6)), glue_mm=0
    )
    whole = (stripes, *steps)
    end = 130.0
    start = starts_mm(whole, end)[0]
    cutting = on_bar(whole, end, size)
    made = [cut for cut in cutting.cuts if cut.set_by == "mitre"]
    assert len(made) == len(steps)
    rng = np.random.default_rng(seed)
    square, listed = next(cut for cut in cutting.cuts if cut.is_squaring), cutting.stock[0].length_mm
    points = (rng.random((3, 400)) - [[0.5], [0.5], [0.0]]) * [[size[0]], [size[1]], [listed]]
    points[2] -= rng.random() * (listed - start)  # the first end loses as much as it takes to be square
    points = points[:, (points[2] > 0) & (points[2] < (square.stop_mm or 0))]
    assert square.stop_mm == pytest.approx(start)
    stock = compiled((stripes,), *size, start)
    wood = evaluate_reference(stock, points).material
    there, kept = points, np.ones(points.shape[1], dtype=bool)
    for cut, step in zip(made, steps, strict=True):
        there, left = sawn(cut, sheet_mm(step), there, size)
        kept &= left
    designed = compiled(whole, *size, end)
    # Not within a hair of a boundary, where either side is right.
    found = evaluate_reference(designed, there[:, kept]).material
    names = [designed.materials[n].key for n in found]
    expected = [stock.materials[n].key for n in wood[kept]]
    wrong = [n for n, (one, other) in enumerate(zip(names, expected, strict=True)) if one != other]
    for n in wrong:
        spot = there[:, kept][:, n]
        near = evaluate_reference(
            designed, spot[:, None] + 1e-3 * np.array(np.meshgrid([-1, 1], [-1, 1], [-1, 1])).reshape(3, -1)
        )
        assert expected[n] in {designed.materials[m].key for m in near.material}


def test_halves_that_slide_are_sawn_where_the_design_has_their_lines() -> None:
    """Kerf 1.2 and sheet 3 at 40° from four sides: each cut shifts the middle that the later ones are reckoned from."""
    sheet = (Layer(material="brass", thickness_mm=3.0),)
    steps = tuple(
        CutStep(
            angle_deg=40, azimuth_deg=azimuth, centre_mm=65, kerf_mm=1.2, sheet=sheet, glue_mm=0, register_by="normal"
        )
        for azimuth in (0.0, 90.0, 180.0, 270.0)
    )
    stripes = LaminateStep(
        strips=(Layer(material="hard-maple", thickness_mm=3), Layer(material="black-walnut", thickness_mm=3)), glue_mm=0
    )
    whole, end = (stripes, *steps), 130.0
    cuts_made = [cut for cut in on_bar(whole, end).cuts if cut.set_by == "mitre"]
    start = starts_mm(whole, end)[0]
    points = (np.random.default_rng(7).random((3, 3000)) - [[0.5], [0.5], [0.0]]) * [[WIDE], [WIDE], [start]]
    stock = compiled((stripes,), WIDE, WIDE, start)
    wood = evaluate_reference(stock, points).material
    there, kept, wide = points, np.ones(3000, dtype=bool), [WIDE, WIDE]
    for cut in cuts_made:
        there, left = sawn(cut, 3.0, there, (wide[0], wide[1]), slides=True)
        kept &= left
        wide[0 if cut.azimuth_deg in {0.0, 180.0} else 1] -= 1.8 * math.cos(math.radians(40))
        kept &= (abs(there[0]) <= wide[0] / 2) & (abs(there[1]) <= wide[1] / 2)
    assert narrowed(whole, (WIDE, WIDE, False))[:2] == pytest.approx(tuple(wide))
    designed = compiled(whole, wide[0], wide[1], end)
    found = [designed.materials[n].key for n in evaluate_reference(designed, there[:, kept]).material]
    expected = [stock.materials[n].key for n in wood[kept]]
    assert sum(one == other for one, other in zip(found, expected, strict=True)) >= len(found) - 2, "within a hair"


@pytest.mark.parametrize("size", [(22.0, 22.0), (24.0, 20.0), (18.0, 25.0)])
def test_squaring_leaves_the_pattern_in_the_middle(size: tuple[float, float]) -> None:
    """From the fence that each row sets, the four faces lie alike about the bar's axis."""
    faces = {"A": size[0] / 2, "B": size[1] / 2, "C": size[0] / 2, "D": size[1] / 2}
    opposite = {"A": "C", "B": "D", "C": "A", "D": "B"}
    rows = [cut for cut in on_bar((SolidStep(), SquareStep(side_mm=18)), 130.0, size).cuts if cut.fence_mm is not None]
    for cut in rows:
        assert cut.fence_mm is not None
        assert cut.count == 1
        assert cut.face_down not in {cut.face_fence, opposite[cut.face_fence]}
        faces[opposite[cut.face_fence]] = cut.fence_mm - faces[cut.face_fence]
    assert list(faces.values()) == pytest.approx([9.0] * 4)
    assert len(rows) == 2 * sum(across > 18 for across in size)


def test_a_solid_bar_is_listed_as_it_is_reckoned_with() -> None:
    made = on_bar((SolidStep(), CutStep(angle_deg=45, centre_mm=50, kerf_mm=2, sheet=SHEET)), 130.0)
    bar = next(one for one in made.stock if one.name == "Bar")
    first = next(cut for cut in made.cuts if cut.set_by == "mitre")
    assert (bar.width_mm, bar.thickness_mm) == (first.across_mm, first.across_mm)


def side_by_side() -> st.SearchStrategy[tuple[CutStep, ...]]:
    """Cuts of one angle and face, apart from each other, in any order of their steps."""
    return st.tuples(
        st.floats(30, 90), st.sampled_from([0.0, 90.0]), st.permutations([30.0, 55.0, 80.0]), st.floats(0.8, 3), _SHEETS
    ).map(
        lambda drawn: tuple(
            CutStep(angle_deg=drawn[0], azimuth_deg=drawn[1], centre_mm=centre, kerf_mm=drawn[3], sheet=drawn[4])
            for centre in drawn[2]
        )
    )


@given(side_by_side(), st.integers(0, 2**31))
def test_sawn_first_and_glued_after_it_is_the_same_bar(steps: tuple[CutStep, ...], seed: int) -> None:
    """Every point of the stock that the kerfs leave, moved by all sheets to its left, lies where the design has it."""
    stripes = LaminateStep(
        strips=(Layer(material="hard-maple", thickness_mm=7), Layer(material="black-walnut", thickness_mm=6)), glue_mm=0
    )
    whole, size = (stripes, *steps), (WIDE, WIDE)
    start = starts_mm(whole, 130)[0]
    cutting = on_bar(whole, 130.0, order="saw all, then glue")
    made = [cut for cut in cutting.cuts if cut.keep.startswith("every piece")]
    assert [cut.stop_mm for cut in made] == sorted((cut.stop_mm for cut in made), reverse=True)
    assert len(cutting.joints) == 2, "the stripes, then everything at once"
    assert next(cut for cut in cutting.cuts if cut.is_squaring).stop_mm == pytest.approx(start)
    rng = np.random.default_rng(seed)
    points = (rng.random((3, 300)) - [[0.5], [0.5], [0.0]]) * [[WIDE], [WIDE], [start]]
    wood = evaluate_reference(compiled((stripes,), *size, start), points).material
    there, kept = points, np.ones(300, dtype=bool)
    for cut, step in zip(made, sorted(steps, key=lambda one: -one.centre_mm), strict=True):
        # From the right end on: what lies left of a later cut has not moved yet.
        _, left = sawn(cut, sheet_mm(step), points, size)
        moved, _ = sawn(cut, sheet_mm(step), points, size)
        there, kept = there + (moved - points), kept & left
    designed = compiled(whole, *size, 130)
    inside = kept & (abs(there[2] - 65) < 64)
    found = [designed.materials[n].key for n in evaluate_reference(designed, there[:, inside]).material]
    names = compiled((stripes,), *size, start).materials
    same = [a == names[b].key for a, b in zip(found, wood[inside], strict=True)]
    assert np.mean(same) > 0.985, "all but points within a hair of a boundary"


def test_what_crosses_is_not_sawn_first() -> None:
    cross = [CutStep(angle_deg=40, azimuth_deg=180 * n, kerf_mm=2.2, centre_mm=65 + n) for n in (0, 1)]
    job = glued(SolidStep(), *cross, order="saw all, then glue")
    said = next(f for f in plan(job, first_shop()).findings if f.title == "Not all can be sawn first.")
    assert "Steps 2 and 3 cross" in said.because
    mended = plan(apply_remedy(job, said.remedies[0]), first_shop())
    assert not [f for f in mended.findings if f.title == said.title]
    apart = glued(SolidStep(), cross[0], cross[1].with_(centre_mm=110), order="saw all, then glue")
    assert not [f for f in plan(apart, first_shop()).findings if f.title == said.title]


@given(st.floats(10, 90), st.floats(15, 90), st.floats(10, 30), st.floats(0.2, 4))
def test_a_stop_gives_back_its_centre(centre: float, angle: float, across: float, kerf: float) -> None:
    assert centre_for(stop_for(centre, angle, across, kerf), angle, across, kerf) == pytest.approx(centre)


@pytest.mark.parametrize(
    "design", [d for d in designs() if d.steps[0].kind not in {"cast", "insert"}], ids=lambda d: d.name
)
def test_every_design_has_a_cut_list_that_covers_its_bar(design) -> None:  # type: ignore[no-untyped-def]
    job = deeds.take_design(glued(SolidStep()), design.steps)
    cutting = cutting_of(job)
    assert 5 < cutting.yield_pct < 100
    assert sum(stock.volume_ml for stock in cutting.stock) > cutting.bar_ml
    assert all(stock.count > 0 for stock in added_up(cutting.stock))
    for cut in cutting.cuts:
        assert (cut.stop_mm is None) != (cut.fence_mm is None)
        assert cut.nearest_deg == pytest.approx(cut.set_deg, abs=cutting.machine.angle_step_deg / 2 + 1e-9)


@pytest.mark.parametrize(
    "design", [d for d in designs() if d.steps[0].kind not in {"cast", "insert"}], ids=lambda d: d.name
)
def test_no_stop_is_set_on_a_bar_of_another_length(design) -> None:  # type: ignore[no-untyped-def]
    """Row by row from the stock as it is listed: where a place is reckoned from the bar's end, the bar is that long."""
    job = deeds.take_design(glued(SolidStep()), design.steps)
    planned, cutting = plan(job, first_shop()), cutting_of(job)
    assert planned.layout is not None
    steps = planned.job.blank.steps
    lengths = (*starts_mm(steps, planned.layout.length_mm), planned.layout.length_mm)
    begun = [n for n, step in enumerate(steps) if isinstance(step, SolidStep | LaminateStep | StavesStep | WrapStep)]
    is_longer = bool(begun)
    for cut in cutting.cuts:
        wanted = lengths[-1] if cut.is_to_length else lengths[cut.step]
        if cut.is_squaring:
            assert cut.stop_mm == pytest.approx(wanted, abs=0.02)
            is_longer = False
        elif cut.stop_mm is not None and (cut.is_to_length or cut.step > max(begun, default=-1)):
            assert not is_longer, cut.title


def test_slices_begin_with_a_bar_that_is_longer_by_every_kerf() -> None:
    stripes, slices = LaminateStep(), SliceStep(pitch_mm=8, kerf_mm=2, glue_mm=0.1)
    cutting = cutting_of(glued(stripes, slices))
    length = plan(glued(stripes, slices), first_shop()).layout.length_mm  # type: ignore[union-attr]
    assert cutting.stock[0].length_mm > length + 1.9 * (length / 8.1 - 1)
    start = starts_mm((stripes, slices), length)[0]
    assert lengths_mm((stripes, slices), start)[-1] == pytest.approx(length, abs=2.1)
    assert [cut.count for cut in cutting.cuts[:2]] == [1, math.ceil(start / 10 - 1e-6) - 1]


def test_staves_are_bevelled_tapered_and_wide_enough() -> None:
    cutting = cutting_of(glued(StavesStep(count=8, thickness_mm=7, taper_deg=5)))
    bevel = cutting.cuts[0]
    assert bevel.set_by == "tilt"
    assert math.sin(math.radians(bevel.set_deg)) == pytest.approx(math.cos(math.radians(5)) * math.sin(math.pi / 8))
    assert "tapered 2.07°" in bevel.title
    assert sum(stock.count for stock in cutting.stock) == 8 * cutting.bars


def test_the_same_wood_is_counted_once() -> None:
    sheet = (Layer(material="holly", thickness_mm=1.0),)
    cutting = cutting_of(glued(SolidStep(), *[CutStep(sheet=sheet, azimuth_deg=90 * n) for n in range(4)]))
    assert [(stock.material, stock.count) for stock in added_up(cutting.stock)] == [("pear", 6), ("holly", 24)], (
        "six bars of four sheets"
    )


SHEET = (Layer(material="brass", thickness_mm=2.0),)
FINE = Machine(kerf_mm=2.0, angle_step_deg=0.01, stop_step_mm=0.01, least_piece_mm=5)
FEW = FINE.with_(least_piece_mm=60)
COARSE = FINE.with_(angle_step_deg=2)
ROUGH_STOP = FINE.with_(stop_step_mm=0.5)
THIN = (Layer(material="holly", thickness_mm=1.5),) * 2
SHORT = (Layer(material="pear", thickness_mm=20),) * 5


def cut_in(machine: Machine = FINE, glue: str = "slow epoxy", **how: float) -> Job:
    return glued(SolidStep(), CutStep(sheet=SHEET, **how), machine=machine, glue=glue)  # type: ignore[arg-type]


CASES = [
    ("too short to hold", Severity.CAUTION, glued(LaminateStep(), SliceStep(kerf_mm=2), machine=FEW)),
    ("kerf is not this saw's", Severity.CAUTION, cut_in(kerf_mm=1)),
    ("kerf is wider than what step 1", Severity.CAUTION, glued(LaminateStep(strips=THIN), machine=FINE)),
    ("between two marks", Severity.NOTE, cut_in(COARSE, angle_deg=21.3)),
    ("sets before the last joint", Severity.CAUTION, cut_in(glue="medium cyanoacrylate")),
    ("little time for the joints", Severity.CAUTION, glued(StackStep(pieces=SHORT), glue="quick epoxy")),
    ("does not hold metal", Severity.CAUTION, cut_in(glue="white wood glue")),
    ("two marks of the stop", Severity.NOTE, glued(LaminateStep(), SliceStep(pitch_mm=8.3), machine=ROUGH_STOP)),
    ("may break when it is bent", Severity.CAUTION, glued(SolidStep(), ArcStep(sheet=THIN), machine=FINE)),
    ("will not quite close", Severity.NOTE, glued(StavesStep(count=12))),
    (
        "not as thick as planned",
        Severity.CAUTION,
        glued(SolidStep(), CutStep(sheet=SHEET), sheet_readings_mm=(2.2, 2.21, 2.19)),
    ),
]


def found(job: Job, words: str) -> Finding | None:
    return next((f for f in plan(job, first_shop()).findings if words in f.title), None)


@pytest.mark.parametrize(("words", "severity", "job"), CASES, ids=[case[0] for case in CASES])
def test_a_mistake_at_the_saw_is_found_and_its_remedies_take_it_away(words: str, severity: Severity, job: Job) -> None:
    finding = found(job, words)
    assert finding is not None
    assert finding.severity is severity
    assert finding.station is Station.GLUE_UP
    for remedy in finding.remedies:
        assert found(apply_remedy(job, remedy), words) is None


def test_a_rough_stop_is_told_of_cuts_too_and_never_of_what_is_cut_to_length() -> None:
    stop = FINE.with_(stop_step_mm=3.0)
    cut = found(cut_in(stop, angle_deg=45, centre_mm=49), "two marks")
    assert cut is not None
    assert cut.title == "Step 2 falls between two marks of the stop."
    assert cut.remedies == ()
    leaning = plan(glued(LaminateStep(), SliceStep(pitch_mm=9, angle_deg=60), machine=stop), first_shop())
    told = [one.title for one in leaning.findings if "two marks" in one.title]
    assert told == ["Step 2 falls between two marks of the stop."], "its first mitre; slices of 9 mm are on the mark"


def test_soft_metal_bends_and_what_lies_beside_it_may_not() -> None:
    assert found(glued(SolidStep(), ArcStep(sheet=SHEET), machine=FINE), "when it is bent") is None
    both = found(glued(SolidStep(), ArcStep(sheet=(*SHEET, *THIN[:1])), machine=FINE), "when it is bent")
    assert both is not None
    assert "1.5 mm bent" in both.because


def test_nothing_sawn_has_no_cut_list(tideline: Job, shop: Shop) -> None:
    assert plan(tideline, shop).glue_up is None
    assert plan(Job(), shop).glue_up is None


def test_a_squared_bar_is_sawn_narrower_afterwards() -> None:
    job = glued(SolidStep(), SquareStep(side_mm=14), CutStep(angle_deg=45, centre_mm=50, kerf_mm=2, sheet=SHEET))
    cut = next(cut for cut in cutting_of(job).cuts if cut.set_by == "mitre")
    assert cut.across_mm == 14
    assert cut.stop_mm == pytest.approx(stop_for(50, 45, 14, 2))


def test_sawn_first_is_reckoned_on_the_bar_as_the_cuts_find_it() -> None:
    both = [CutStep(angle_deg=45, centre_mm=centre, kerf_mm=2, sheet=SHEET) for centre in (40, 80)]
    cutting = on_bar((SolidStep(), SquareStep(side_mm=14), *both), 130.0, order="saw all, then glue")
    sawn_first = [cut for cut in cutting.cuts if cut.keep.startswith("every piece")]
    assert [cut.across_mm for cut in sawn_first] == [14, 14]
    near_the_stop = sawn_first[-1].stop_mm
    one_by_one = on_bar((SolidStep(), SquareStep(side_mm=14), both[0]), 130.0).cuts
    assert near_the_stop == pytest.approx(next(cut.stop_mm for cut in one_by_one if cut.set_by == "mitre"))


@given(st.floats(60, 200), st.floats(10, 30), st.floats(1, 89))
def test_the_least_panel_holds_the_bar(bar: float, across: float, angle: float) -> None:
    """The four corners of the bar, turned in the panel, span just what is said."""
    along, over = panel_figures(bar, across, angle)
    a = math.radians(angle)
    corners = [
        (x * math.cos(a) + y * math.sin(a), x * math.sin(a) - y * math.cos(a)) for x in (0, bar) for y in (0, across)
    ]
    assert along.value == pytest.approx(max(c[0] for c in corners) - min(c[0] for c in corners))
    assert over.value == pytest.approx(max(c[1] for c in corners) - min(c[1] for c in corners))


def test_vs_want_a_board_as_wide_as_the_slices_are_long() -> None:
    """A bar of 130 mm of slices of 10 mm at 45°: 99.0 mm; strips of 6 mm repeat every 8.5 mm along it."""
    wide, apart, count = chevron_figures(130, 10, 45, 6)
    assert wide.value == pytest.approx(99.0, abs=0.05)
    assert apart.value == pytest.approx(8.485, abs=0.001)
    assert count.value > 20


def test_leaning_slices_begin_at_a_leaning_end() -> None:
    """The waste is sawn off at the slices' angle first; then the stop is the slice, along any edge of the bar."""
    step = SliceStep(pitch_mm=9, angle_deg=60, kerf_mm=2)
    cutting = on_bar((SolidStep(), step), 100, (24.0, 16.0))
    mitre, slices = cutting.cuts[1:3]
    lean = 24 / 2 / math.tan(math.radians(60))
    assert mitre.title.startswith("Mitre the left end first")
    assert mitre.stop_mm is not None
    kerf = 2 / math.sin(math.radians(60))
    assert mitre.stop_mm + kerf == pytest.approx(2 * lean), "it leaves the fence face where the plane does"
    assert (slices.stop_mm, slices.set_deg) == (9, pytest.approx(30))
    assert cutting.stock[0].length_mm > starts_mm((SolidStep(), step), 100)[0] + 2 * lean


def test_bars_in_hand_are_not_sawn_from_strips_again() -> None:
    veneers = LaminateStep(strips=(Layer(material="holly", thickness_mm=1.2), Layer(material="brass", thickness_mm=5)))
    steps = (veneers, CutStep(angle_deg=45, centre_mm=50, kerf_mm=2, sheet=SHEET))
    made = glued(*steps)
    keys = {one.title for one in plan(made, first_shop()).findings if one.key == "glue_up.kerfs"}
    assert "The kerf is wider than what step 1 saws." in keys
    in_hand = deeds.set_bars(made, (BarInHand(),))
    told = {one.title for one in plan(in_hand, first_shop()).findings}
    assert "The kerf is wider than what step 1 saws." not in told


def test_a_tab_is_sawn_from_mark_to_mark() -> None:
    step = CutStep(angle_deg=30, centre_mm=60, kerf_mm=2, tab_mm=2, sheet=(Layer(material="holly", thickness_mm=2),))
    cut = on_bar((SolidStep(), step), 120).cuts[1]
    slope = 1 / math.tan(math.radians(30))
    assert cut.marks_mm == (pytest.approx(60 - 10 * slope), pytest.approx(60 + (10 - 2) * slope))
    assert "do not saw through" in tab_words(cut, None)
    assert cut.keep == "", "the tab keeps the halves together"


def test_the_list_is_for_all_bars_and_ends_with_the_pieces() -> None:
    one = on_bar((LaminateStep(),), 130)
    found = plan(glued(LaminateStep(), glue="slow epoxy"), first_shop())
    assert found.glue_up is not None
    assert found.glue_up.bars == round(found.bars.bars.value) == 6
    assert found.glue_up.stock[0].count == 6 * one.stock[0].count
    assert found.layout is not None
    trim, *ends = [cut for cut in found.glue_up.cuts if cut.title.startswith(("Trim the left", "Crosscut a barrel"))]
    kerfs = sorted(found.layout.kerfs, key=lambda span: span.start_mm)
    # Held by its length, turned round: what stays of the bar lies between the stop and the blade.
    assert trim.stop_mm == pytest.approx(found.layout.length_mm - kerfs[0].end_mm)
    assert [cut.stop_mm for cut in ends] == [pytest.approx(k.start_mm - kerfs[0].end_mm) for k in reversed(kerfs[1:])]
    assert all(cut.held_mm > (cut.stop_mm or 0) for cut in ends)


def test_a_cut_steeper_than_the_saw_wants_a_wedge() -> None:
    steep, shop = glued(SolidStep(), CutStep(angle_deg=24, kerf_mm=2)), first_shop()
    said = next(f for f in plan(steep, shop).findings if f.key == "glue_up.beyond_the_saw")
    assert said.title == "Step 2 needs a wedge."
    assert "66" in said.because
    assert "16" in said.because, "the saw turns to 50"
    able = set_value(steep, ("glue_up", "machine"), Machine(largest_deg=66))
    assert not [f for f in plan(able, shop).findings if f.key == "glue_up.beyond_the_saw"]


def test_rows_say_how_the_pieces_are_turned() -> None:
    """What a second person needs beside the numbers: where the blade leans, how slices and halves are laid."""
    slices = on_bar((LaminateStep(), SliceStep(turn="90", azimuth_deg=90)), 130).cuts
    assert any("so that face B comes where C was" in row_words(cut, None) for cut in slices)
    flipped = on_bar((LaminateStep(), SliceStep(turn="end for end")), 130).cuts
    assert any("A and C change places, B and D stay" in row_words(cut, None) for cut in flipped)
    rip = on_bar((LaminateStep(), RipStep(azimuth_deg=90, shift_mm=-3)), 130).cuts
    assert any("half with face B end for end" in cut.then and "slide it 3.0 mm to the left" in cut.then for cut in rip)
    lean = on_bar((SolidStep(), CutStep(angle_deg=40)), 130).cuts[1]
    assert "away from the fence the blade runs towards the stop" in lean.then
    round_it = next(
        cut for cut in on_bar((SolidStep(), CutStep(), RoundStep(diameter_mm=17)), 130).cuts if cut.step == 2
    )
    assert row_words(round_it, None) == "the faces go: mark 0° on the end"
    arc = on_bar((SolidStep(), ArcStep(radius_mm=30, distance_mm=34, centre_mm=65)), 130).cuts[1]
    assert row_words(arc, None).startswith("radius 30.0 mm, centre 65.0 mm along, 34.0 mm off")


def test_every_piece_of_a_stack_has_a_row_and_its_own_length() -> None:
    pieces = tuple(Layer(material=key, thickness_mm=t) for key, t in (("pear", 30.0), ("brass", 1.0), ("holly", 45.5)))
    cutting = on_bar((StackStep(pieces=pieces),), 76.5)
    rows = [cut for cut in cutting.cuts if "Crosscut piece" in cut.title]
    assert [cut.stop_mm for cut in rows] == [30.0, 45.5], "a sheet of brass is cut out, not crosscut"
    assert [one.length_mm for one in cutting.stock] == [30.0, 1.0, 45.5], "no piece longer than it is"


def test_veneers_are_bought_and_calipers_read_sheets_without_glue() -> None:
    thin = glued(
        LaminateStep(strips=(Layer(material="beech", thickness_mm=6), Layer(material="paper", thickness_mm=0.6)))
    )
    assert not [f for f in plan(thin, first_shop()).findings if "wider than what" in f.title]
    sawn_thin = glued(LaminateStep(strips=(Layer(material="beech", thickness_mm=1.5),)))
    assert [f for f in plan(sawn_thin, first_shop()).findings if "wider than what" in f.title]
    strips = (Layer(material="beech", thickness_mm=1.5), Layer(material="paper", thickness_mm=0.6))
    said = [f for f in plan(glued(LaminateStep(strips=strips)), first_shop()).findings if "wider than what" in f.title]
    assert "1.5 mm thick" in said[0].because, "the thin wood beside the paper is sawn"
    cut = CutStep(kerf_mm=2.2, sheet=(Layer(material="holly", thickness_mm=2.0),), glue_mm=0.1)
    right = glued(SolidStep(), cut, sheet_readings_mm=(2.0, 2.01, 1.99))
    assert not [f for f in plan(right, first_shop()).findings if "not as thick" in f.title]


def test_a_long_bar_is_sawn_into_blanks_before_they_are_worked() -> None:
    job = deeds.set_bars(glued(SolidStep(), CutStep(centre_mm=60)), (BarInHand(length_mm=400, count=2),))
    found = plan(job, first_shop())
    assert found.glue_up is not None
    each = found.bars.blanks_per_bar
    first = found.glue_up.cuts[0]
    assert (first.title, first.count) == ("Saw the bar into blanks", each - 1)
    assert first.stop_mm == pytest.approx((400 - (each - 1) * 1.6) / each)
    assert found.glue_up.bars == each * round(found.bars.bars.value), "sheets for every blank"
    assert not found.glue_up.stock or found.glue_up.stock[0].name == "Inlay", "the bar is there already"


def test_angled_slices_leave_the_bar_straight() -> None:
    """Closed along the axis: a stripe down the middle stays in the middle, however many slices there are."""
    stripes = LaminateStep(
        strips=tuple(
            Layer(material=key, thickness_mm=4)
            for key in ("hard-maple", "black-walnut", "hard-maple", "black-walnut", "hard-maple")
        ),
        glue_mm=0,
    )
    slices = SliceStep(pitch_mm=8, angle_deg=50, azimuth_deg=90, kerf_mm=3, glue_mm=0.1, turn="180")
    program = compiled((stripes, slices), 20, 20, 150)
    z = np.linspace(2, 148, 300)
    centre = evaluate_reference(program, np.stack([0 * z, 0 * z, z]))
    keys = {program.materials[m].key for m in centre.material}
    assert keys <= {"hard-maple", "glue"}


def test_activator_leaves_no_time_for_several_joints(shop: Shop) -> None:
    strips = tuple(Layer(material=key, thickness_mm=4) for key in ("holly", "hard-maple"))
    job = glued(LaminateStep(strips=strips), glue="thick cyanoacrylate", activator=True)
    found = plan(job, shop)
    assert found.glue_up is not None
    joint = found.glue_up.joints[0]
    assert joint.joints > 1
    assert joint.open_min < 0.2, "some seconds, not the minute of the bottle"
    assert joint.rest_min <= 0.5
    (finding,) = (one for one in found.findings if one.key == "glue_up.joints")
    mended = apply_remedy(job, finding.remedies[0])
    assert not mended.glue_up.activator
    assert "Activator" not in " ".join(one.title for one in plan(mended, shop).findings)
    slow = glued(LaminateStep(strips=strips), glue="slow epoxy", activator=True)
    assert plan(slow, shop).glue_up.joints[0].open_min == 25, "it takes none"  # type: ignore[union-attr]


def test_a_saw_that_a_remedy_brings_crosscuts_with_its_own_kerf(shop: Shop) -> None:
    """As when it is chosen at Cuts: not with that of the one before."""
    thin = LaminateStep(strips=(Layer(material="holly", thickness_mm=1.2), Layer(material="ebony", thickness_mm=9)))
    job = deeds.choose_saw(deeds.set_steps(demo_job(), (thin,)), Machine(name="Wide saw", kerf_mm=3.0))
    found = next(one for one in plan(job, shop).findings if one.title.startswith("The kerf is wider"))
    after = apply_remedy(job, found.remedies[0])
    assert after.glue_up.machine is not None
    assert after == deeds.choose_saw(job, after.glue_up.machine)
    assert after.blank.saw_kerf_mm == after.glue_up.machine.kerf_mm
