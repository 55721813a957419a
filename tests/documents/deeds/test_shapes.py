"""A barrel's outline by points: shapes in one step, what is turned by them, and what is refused."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import Barrel, Job, OutlinePoint, Pen, first_shop
from orvek.documents.deeds.shapes import SHAPES, set_outline, shape_barrel, shape_of
from orvek.errors import BadFieldError, NothingToDoError
from orvek.planning import plan
from orvek.store import demo_job
from orvek.workpiece.outline import TurnedBarrel, outline_mm

sizes = st.floats(8, 20)


def _barrel(left_mm: float, right_mm: float) -> Barrel:
    return Barrel(
        name="Body",
        tube_length_mm=50,
        tube_diameter_mm=7,
        bit_diameter_mm=7.1,
        finished_left_mm=left_mm,
        finished_right_mm=right_mm,
    )


@given(sizes, sizes, st.sampled_from(list(SHAPES)))
def test_a_shape_keeps_the_ends_and_knows_its_name(left_mm: float, right_mm: float, shape: str) -> None:
    job = Job(pen=Pen(name="Dulse", barrels=(_barrel(left_mm, right_mm),)))
    shaped = shape_barrel(job, 0, shape)
    assert shaped.pen is not None
    barrel = shaped.pen.barrels[0]
    assert (barrel.profile[0][1], barrel.profile[-1][1]) == (left_mm, right_mm)
    assert shape_of(barrel) == shape
    assert barrel.widest_mm >= max(left_mm, right_mm)


def test_what_is_turned_goes_straight_from_point_to_point() -> None:
    barrel = TurnedBarrel(10, 60, 10, 12, 7, 0, ((0.5, 14.0),))
    z = np.array([0, 10, 22.5, 35, 47.5, 60, 90], dtype=np.float32)
    assert outline_mm(z, (barrel,), 3.0) == pytest.approx([3, 5, 6, 7, 6.5, 6, 3])
    assert barrel.widest_mm == 14


def test_points_go_from_left_to_right() -> None:
    back = (OutlinePoint(at=0.6, diameter_mm=12), OutlinePoint(at=0.4, diameter_mm=12))
    with pytest.raises(BadFieldError, match="from left to right"):
        _barrel(10, 12).with_(outline=back)
    with pytest.raises(NothingToDoError):
        set_outline(Job(), 0, ())


def test_the_widest_place_decides_whether_the_bar_is_thick_enough(tideline: Job) -> None:
    shop = first_shop()
    belly = set_outline(tideline, 0, (OutlinePoint(at=0.5, diameter_mm=19.6),))
    titles = [finding.title for finding in plan(belly, shop).findings]
    assert "The bar may keep a flat." in titles
    assert "The bar may keep a flat." not in [finding.title for finding in plan(tideline, shop).findings]
    neck = set_outline(tideline, 0, (OutlinePoint(at=0.5, diameter_mm=8.8),))
    found = next(one for one in plan(neck, shop).findings if one.title == "The nib wall is too thin to turn.")
    assert "At its place 23.8 mm in" in found.because


def test_a_swelling_barrel_has_a_larger_chance_of_a_flat() -> None:
    job, shop = demo_job(), first_shop()
    slim = job.pour.mould.with_(width_mm=14.5, depth_mm=14.5) if job.pour.mould else None
    job = job.with_(pour=job.pour.with_(mould=slim))
    straight, swelling = plan(job, shop).bore, plan(shape_barrel(job, 0, "swelling"), shop).bore
    assert straight is not None
    assert swelling is not None
    assert swelling.holes[0].flat_pct.value > straight.holes[0].flat_pct.value + 0.3
