"""Hypothesis strategies for documents: any job that a maker could have put together."""

from __future__ import annotations

from hypothesis import strategies as st

from orvek.documents import (
    BarMould,
    Barrel,
    Batch,
    Blank,
    CastStep,
    Cup,
    Insert,
    Job,
    LoafMould,
    Pen,
    PigmentDose,
    Pour,
    RoundMould,
    Scale,
    first_shop,
)

_SHELF = first_shop()

names = st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), min_size=1, max_size=20).filter(
    lambda text: bool(text.strip())
)


def _size(low: float, high: float) -> st.SearchStrategy[float]:
    return st.floats(low, high, allow_nan=False).map(lambda value: round(value, 3))


barrels = st.builds(
    Barrel,
    name=names,
    tube_length_mm=_size(5, 250),
    tube_diameter_mm=_size(2, 40),
    bit_diameter_mm=_size(2, 42),
    finished_left_mm=_size(3, 60),
    finished_right_mm=_size(3, 60),
    trim_mm=_size(0, 20),
)
pens = st.builds(Pen, name=names, barrels=st.lists(barrels, min_size=1, max_size=4).map(tuple))
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
blanks = st.builds(
    Blank,
    steps=st.builds(CastStep, cups=st.lists(cups, max_size=5).map(tuple)).map(lambda step: (step,)),
    saw_kerf_mm=_size(0, 10),
    end_waste_mm=_size(0, 50),
    tube_starts_mm=st.lists(_size(-1000, 1000), max_size=4).map(tuple),
)
pours = st.builds(
    Pour,
    mould=st.none() | moulds,
    resin=st.none() | st.sampled_from(_SHELF.resins),
    insert=st.none() | st.builds(Insert, volume_ml=_size(0, 5000)),
    overage_pct=_size(0, 100),
    cup_residue_g=_size(0, 100),
    scale=st.builds(
        Scale, name=names, resolution_g=st.sampled_from([0.001, 0.01, 0.1, 1.0, 5.0]), capacity_g=_size(1, 5000)
    ),
    weighing=st.sampled_from(["tared", "cumulative"]),
    most_bars_at_once=st.none() | st.integers(1, 20),
)
jobs = st.builds(
    Job,
    batch=st.builds(Batch, name=names, pens_wanted=st.integers(1, 1000), spoilage_pct=_size(0, 90)),
    pen=st.none() | pens,
    blank=blanks,
    pour=pours,
)
