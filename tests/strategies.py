"""Hypothesis strategies for documents: any job that a maker could have put together."""

from __future__ import annotations

import typing
from datetime import date, datetime

from hypothesis import strategies as st

from orvek.craft.boring_plan import stuffs
from orvek.documents import (
    Actual,
    ArcStep,
    BarInHand,
    BarMould,
    Barrel,
    Batch,
    Bath,
    Blank,
    Bore,
    Bubbles,
    CastStep,
    Conditions,
    Cup,
    CutStep,
    Drying,
    Fault,
    Faults,
    Finish,
    GlueUp,
    Heat,
    Hole,
    Insert,
    InsertStep,
    Job,
    LaminateStep,
    Layer,
    LoafMould,
    Machine,
    OutlinePoint,
    Paint,
    Pen,
    PenPart,
    PhotoStep,
    PigmentDose,
    Pin,
    PlugStep,
    Pot,
    Pour,
    Press,
    RipStep,
    RoundMould,
    RoundStep,
    Scale,
    Sized,
    SliceStep,
    Soak,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Weighing,
    WoodInHand,
    Work,
    WrapStep,
    first_shop,
)
from orvek.documents.base import one_line
from tests.photos import view_of

_SHELF = first_shop()

names = st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), min_size=1, max_size=20).filter(
    lambda text: bool(one_line(text).strip())  # of some letters nothing is left on one line
)


def _size(low: float, high: float) -> st.SearchStrategy[float]:
    return st.floats(low, high, allow_nan=False).map(lambda value: round(value, 3))


outlines = st.lists(
    st.builds(OutlinePoint, at=st.integers(1, 99).map(lambda part: part / 100), diameter_mm=_size(3, 60)),
    max_size=5,
    unique_by=lambda point: point.at,
).map(lambda points: tuple(sorted(points, key=lambda point: point.at)))
_plain_barrels = st.builds(
    Barrel,
    name=names,
    tube_length_mm=_size(5, 250),
    tube_diameter_mm=_size(2, 40),
    bit_diameter_mm=_size(2, 42),
    finished_left_mm=_size(3, 60),
    finished_right_mm=_size(3, 60),
    trim_mm=_size(0, 20),
    play_mm=st.none() | _size(0, 30),
    outline=outlines,
)
_bores = st.fixed_dictionaries(
    {
        "inside": st.sampled_from(typing.get_args(Barrel.model_fields["inside"].annotation)),
        "depth": st.none() | st.floats(0.2, 1),
        "wider": st.none() | _size(0.1, 10),
        "hole_end": st.sampled_from(("left", "right")),
        "wide_end": st.sampled_from(("left", "right")),
        "wide_depth_mm": _size(0.5, 250),
        "set_back": st.floats(0, 0.9),
        "bushing_left_mm": st.none() | _size(3, 60),
    }
)


def _with_bore(barrel: Barrel, bore: dict[str, typing.Any]) -> Barrel:
    """A barrel with another hole, as far as it fits into it."""
    long, wider, depth = barrel.tube_length_mm, bore["wider"], bore["depth"]
    return barrel.with_(
        inside=bore["inside"],
        hole_depth_mm=None if depth is None else max(1.0, depth * long),
        wide_bit_mm=None
        if wider is None
        else min(42.0, barrel.bit_diameter_mm + wider)
        if barrel.bit_diameter_mm < 41.5
        else None,
        hole_end=bore["hole_end"],
        wide_end=bore["wide_end"],
        wide_depth_mm=bore["wide_depth_mm"],
        set_back_mm=bore["set_back"] * long if bore["set_back"] * long <= 200 else 0.0,
        bushing_left_mm=bore["bushing_left_mm"],
    )


barrels = _plain_barrels | st.builds(_with_bore, _plain_barrels, _bores)
_parts = st.builds(PenPart, name=names, into=names, how=st.sampled_from(("pressed in", "screwed in")))
pens = st.builds(
    Pen,
    name=names,
    barrels=st.lists(barrels, min_size=1, max_size=4).map(tuple),
    parts=st.lists(_parts, max_size=3).map(tuple),
)
moulds = st.one_of(
    st.builds(
        BarMould,
        name=names,
        cavities=st.integers(1, 12),
        length_mm=_size(10, 1000),
        width_mm=_size(5, 100),
        depth_mm=_size(5, 100),
    ),
    st.builds(
        RoundMould, name=names, cavities=st.integers(1, 12), length_mm=_size(10, 1000), diameter_mm=_size(5, 100)
    ),
    st.builds(
        LoafMould,
        name=names,
        length_mm=_size(10, 1000),
        width_mm=_size(5, 600),
        depth_mm=_size(5, 300),
        bar_width_mm=_size(5, 100),
        bar_depth_mm=_size(5, 100),
        kerf_mm=_size(0.1, 10),
    ),
)
doses = st.builds(
    PigmentDose,
    pigment=st.sampled_from(_SHELF.pigments),
    load_pct=_size(0, 30),
    stock_pct=st.none() | _size(0.05, 60),
)
cups = st.builds(
    Cup,
    name=names,
    colour=st.integers(0, 0xFFFFFF).map(lambda value: f"#{value:06x}"),
    share=_size(0.1, 1000),
    pigments=st.lists(doses, max_size=3).map(tuple),
    vessel_ml=st.none() | _size(5, 20000),
)
_MATERIALS = st.sampled_from(["hard-maple", "ebony", "brass", "clear-resin", "no such wood"])
_LAYERS = st.lists(st.builds(Layer, material=_MATERIALS, thickness_mm=_size(0.05, 60)), min_size=1, max_size=4).map(
    tuple
)
_SHEETS = st.lists(st.builds(Layer, material=_MATERIALS, thickness_mm=_size(0.05, 6)), max_size=3).map(tuple)
_castings = st.builds(CastStep, cups=st.lists(cups, max_size=5).map(tuple), style=st.sampled_from(["swirl", "chips"]))
_views = st.builds(view_of, st.integers(0, 3).map(lambda face: 90.0 * face), st.integers(0, 9))
_bars = st.one_of(
    st.builds(
        PhotoStep,
        length_mm=_size(10, 300),
        width_mm=_size(3, 60),
        depth_mm=_size(3, 60),
        form=st.sampled_from(["rectangular", "round"]),
        views=st.lists(_views, max_size=4, unique_by=lambda view: view.azimuth_deg).map(tuple),
    ),
    st.builds(SolidStep, material=_MATERIALS),
    st.builds(LaminateStep, strips=_LAYERS, angle_deg=_size(0, 90)),
    st.builds(StackStep, pieces=_LAYERS),
    st.builds(StavesStep, count=st.integers(3, 36), thickness_mm=_size(0, 30), taper_deg=_size(-20, 20)),
    st.builds(WrapStep, pattern=st.sampled_from(["waves", "picture"])),
)
_works = st.one_of(
    st.builds(
        CutStep, angle_deg=_size(8, 90), azimuth_deg=_size(-360, 360), centre_mm=_size(-100, 1000), sheet=_SHEETS,
        kerf_mm=_size(0.1, 20), tab_mm=st.just(0.0) | _size(0, 30), glue_mm=_size(0, 2), slip_mm=_size(-5, 5),
        sheet_form=st.sampled_from(["single layers", "one bonded sheet"]),
    ),
    st.builds(ArcStep, radius_mm=_size(5, 500), distance_mm=_size(0, 600), sheet=_SHEETS, kerf_mm=_size(0.1, 20)),
    st.builds(SliceStep, pitch_mm=_size(0.5, 200), angle_deg=_size(20, 90), kerf_mm=_size(0, 20), glue_mm=_size(0, 5)),
    st.builds(RipStep, kerf_mm=_size(0, 20), shift_mm=_size(-100, 100)),
    st.builds(PlugStep, deep_mm=st.none() | _size(0.2, 300), long_mm=st.none() | _size(0.5, 300)),
    st.builds(SquareStep, side_mm=_size(3, 100)),
    st.builds(RoundStep, diameter_mm=_size(3, 100)),
)  # fmt: skip
# Mostly lists that make a bar, now and then one that does not.
step_lists = st.one_of(
    _castings.map(lambda step: (step,)),
    st.tuples(st.builds(InsertStep, form=st.sampled_from(["edge", "core"])), _castings),
    st.tuples(_bars, st.lists(_works, max_size=4)).map(lambda parts: (parts[0], *parts[1])),
    st.lists(_works, min_size=1, max_size=2).map(tuple),
)
conditions = st.builds(
    Conditions,
    parts_c=st.none() | _size(0, 60),
    night_c=st.none() | _size(-10, 50),
    poured_h=_size(0, 24),
    poured_on=st.none() | st.dates(date(2001, 1, 1), date(2090, 1, 1)),
    drill_on=st.none() | st.dates(date(2001, 1, 1), date(2090, 1, 1)),
    warm_c=st.none() | _size(20, 120),
    layers=st.integers(1, 12),
)
bubbles = st.builds(
    Bubbles,
    way=st.sampled_from(["none", "pressure", "vacuum"]),
    pressure_bar=_size(0.1, 10),
    gauge_bar=_size(0.1, 1.05),
    vessel_ml=_size(50, 50_000),
)
pots = st.builds(Pot, diameter_mm=_size(50, 1000), height_mm=_size(20, 1000), rated_bar=_size(0.5, 20))
_readings = st.lists(_size(0.1, 10), max_size=5).map(tuple)
glue_ups = st.builds(
    GlueUp,
    machine=st.none()
    | st.builds(Machine, kerf_mm=_size(0.1, 10), least_piece_mm=_size(5, 500), largest_deg=_size(5, 85)),
    glue=st.sampled_from(["slow epoxy", "medium cyanoacrylate", "white wood glue", "spit"]),
    order=st.sampled_from(["cut, glue, cut", "saw all, then glue"]),
    minutes_a_joint=_size(0.05, 30),
    kerf_readings_mm=_readings,
    sheet_readings_mm=_readings,
)
bars_in_hand = st.builds(
    BarInHand,
    name=names,
    count=st.integers(1, 12),
    length_mm=_size(10, 3000),
    form=st.sampled_from(["rectangular", "round", "irregular"]),
    width_mm=_size(3, 300),
    end_loss_mm=_size(0, 50),
    depth_mm=_size(3, 300),
)
blanks = st.builds(
    Blank,
    steps=step_lists,
    bars=st.lists(bars_in_hand, max_size=4).map(tuple),
    paints=st.lists(st.builds(Paint, where=st.sampled_from(["none", "hole", "tube"])), max_size=4).map(tuple),
    saw_kerf_mm=_size(0, 10),
    end_waste_mm=_size(0, 50),
    tube_flips=st.lists(st.booleans(), max_size=4).map(tuple),
    joint_mm=st.none() | _size(1, 300),
    tube_starts_mm=st.lists(_size(-1000, 1000), max_size=4).map(tuple),
)
pours = st.builds(
    Pour,
    mould=st.none() | moulds,
    resin=st.none() | st.sampled_from(_SHELF.resins),
    insert=st.none()
    | st.builds(
        Insert, volume_ml=_size(0, 5000), mass_g=st.none() | _size(0.1, 500), moisture_pct=st.none() | _size(0, 60)
    ),
    overage_pct=_size(0, 100),
    cup_residue_g=_size(0, 100),
    scale=st.builds(
        Scale, name=names, resolution_g=st.sampled_from([0.001, 0.01, 0.1, 1.0, 5.0]), capacity_g=_size(1, 5000)
    ),
    weighing=st.sampled_from(["tared", "cumulative"]),
    most_bars_at_once=st.none() | st.integers(1, 20),
    conditions=conditions,
    bubbles=bubbles,
    pot=st.none() | pots,
)
_off = st.none() | _size(-30, 30)
bores = st.builds(
    Bore,
    press=st.none() | st.builds(Press, travel_mm=_size(10, 500), clearance_mm=_size(0, 100)),
    holding=st.sampled_from(typing.get_args(Bore.model_fields["holding"].annotation)),
    centred=st.sampled_from(typing.get_args(Bore.model_fields["centred"].annotation)),
    turned=st.sampled_from(typing.get_args(Bore.model_fields["turned"].annotation)),
    stuff=names | st.sampled_from([one.key for one in stuffs()]),
    v_opens=st.sampled_from(typing.get_args(Bore.model_fields["v_opens"].annotation)),
    exit_mm=st.none() | _size(0, 30),
    glue=names | st.sampled_from([one.key for one in _SHELF.all_glues]),
    is_plugged=st.booleans(),
    paint_coats=st.integers(1, 6),
    holes=st.lists(
        st.builds(
            Hole,
            measured_mm=st.none() | _size(1, 43),
            left_x_mm=_off,
            left_y_mm=_off,
            right_x_mm=_off,
            right_y_mm=_off,
            from_end=st.sampled_from(typing.get_args(Hole.model_fields["from_end"].annotation)),
            pattern_left_x_mm=_off,
            pattern_right_y_mm=_off,
            tube=st.sampled_from(("new", "reclaimed")),
            tube_mm=st.none() | _size(1, 42),
            light=st.sampled_from(typing.get_args(Hole.model_fields["light"].annotation)),
            chip_mm=_size(0, 30),
        ),
        max_size=4,
    ).map(tuple),
)
_weighings = st.builds(
    Weighing,
    when=st.datetimes(datetime(2001, 1, 1), datetime(2090, 1, 1)),
    mass_g=_size(0.01, 100000),
    is_left_out=st.booleans(),
)
soaks = st.builds(
    Soak,
    route=st.sampled_from(typing.get_args(Soak.model_fields["route"].annotation)),
    wood=st.builds(
        WoodInHand,
        species=names | st.sampled_from(["bigleaf-maple", "rosewood", "holly"]),
        is_soft=st.booleans(),
        count=st.integers(1, 500),
        form=st.sampled_from(typing.get_args(WoodInHand.model_fields["form"].annotation)),
        width_mm=_size(3, 500),
        bore_mm=_size(1, 400),
        volume_ml=st.none() | _size(0.1, 20000),
        dry_g=st.none() | _size(0.1, 100000),
    ),
    drying=st.builds(
        Drying,
        way=st.sampled_from(["in an oven", "in the air"]),
        oven_c=_size(25, 200),
        humidity_pct=st.none() | _size(1, 100),
        log=st.lists(_weighings, max_size=6).map(tuple),
    ),
    bath=st.builds(
        Bath,
        resin_g_ml=_size(0.7, 1.6),
        chamber=st.sampled_from(typing.get_args(Bath.model_fields["chamber"].annotation)),
        chamber_mm=_size(30, 600),
        stands=st.sampled_from(["upright", "lying"]),
        gauge_bar=st.none() | _size(0.05, 1.2),
        boils_kpa=st.none() | _size(0.001, 50),
        after_g=st.none() | _size(0.1, 200000),
    ),
    heat=st.builds(
        Heat, oven_c=_size(40, 150), core_c=_size(35, 145), begin_c=_size(-10, 90), wide=st.integers(1, 20),
        core_min=st.none() | _size(1, 1000),
    ),
)  # fmt: skip
finishes = st.builds(
    Finish,
    thin=st.integers(0, 60),
    medium=st.integers(0, 60),
    thin_um=_size(0.5, 60),
    bare_from=names | st.sampled_from(["P80", "P240", "Pad 1500"]),
    level_to=names | st.sampled_from(["P2500", "White bar", "Film 0.3 µm"]),
    more_mm=_size(0, 5),
    sized=st.lists(
        st.builds(Sized, part_left_mm=st.none() | _size(2, 60), now_right_mm=st.none() | _size(2, 60)), max_size=4
    ).map(tuple),
)
faults = st.builds(
    Fault,
    kind=names | st.sampled_from(["chip at an end", "sticky resin", "hole off centre"]),
    barrel=st.integers(0, 3),
    at_mm=_size(0, 300),
    long_mm=_size(0.1, 300),
    deep_mm=_size(0.05, 50),
    way=st.sampled_from(["", "fill", "no such way"]),
)
_when = st.datetimes(datetime(2001, 1, 1), datetime(2090, 1, 1))
works = st.builds(
    Work,
    promised=st.none() | st.dates(date(2001, 1, 1), date(2090, 1, 1)),
    pins=st.lists(st.builds(Pin, task=names | st.just("bore"), begins=_when), max_size=2).map(tuple),
    actuals=st.lists(
        st.builds(Actual, task=names | st.just("weigh.1"), what=st.sampled_from(["began", "done", "weighed"]),
                  value=st.none() | _size(-10, 1000), when=_when),
        max_size=3,
    ).map(tuple),
)  # fmt: skip
jobs = st.builds(
    Job,
    work=st.just(Work()) | works,
    faults=st.builds(Faults, found=st.lists(faults, max_size=2).map(tuple)),
    finish=st.just(Finish()) | finishes,
    soak=st.just(Soak()) | soaks,
    batch=st.builds(Batch, name=names, pens_wanted=st.integers(1, 1000), spoilage_pct=st.none() | _size(0, 90)),
    pen=st.none() | pens,
    blank=blanks,
    pour=pours,
    glue_up=glue_ups,
    bore=bores,
)
