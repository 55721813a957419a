"""Which pens share bits, tubes and bushings."""

from __future__ import annotations

from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from orvek.documents import Barrel, Job, Pen, catalogue, first_shop
from orvek.planning import Severity, plan
from orvek.planning.pen.sharing import SAME_BIT_MM, shared_bits, shared_bushings, shared_tubes


def _pen(name: str, *bits_mm: float) -> Pen:
    barrels = tuple(
        Barrel(
            name=f"Barrel {number}",
            tube_length_mm=50,
            tube_diameter_mm=bit - 0.1,
            bit_diameter_mm=bit,
            finished_left_mm=bit + 4,
            finished_right_mm=bit + 4,
        )
        for number, bit in enumerate(bits_mm, 1)
    )
    return Pen(name=name, barrels=barrels)


def test_two_pens_with_one_bit_share_it() -> None:
    pens = (_pen("Wrack", 7.0, 8.5), _pen("Kelp", 8.51), _pen("Dulse", 10.0))
    found = shared_bits(pens)
    assert [(share.size_mm, share.pens) for share in found] == [
        (7.0, ("Wrack",)),
        (8.5, ("Wrack", "Kelp")),
        (10.0, ("Dulse",)),
    ]
    assert shared_tubes(pens)[1].users == (("Wrack", "Barrel 2"), ("Kelp", "Barrel 1"))


@given(st.lists(st.lists(st.floats(5, 20), min_size=1, max_size=3), min_size=1, max_size=8))
def test_every_barrel_finds_its_bit_once(sizes: list[list[float]]) -> None:
    pens = [_pen(f"Pen {number}", *bits) for number, bits in enumerate(sizes)]
    found = shared_bits(pens)
    assert sum(len(share.users) for share in found) == sum(len(bits) for bits in sizes)
    gaps = [after.size_mm - before.size_mm for before, after in pairwise(found)]
    assert all(gap > SAME_BIT_MM for gap in gaps)


def test_the_pens_that_ship_can_be_made() -> None:
    """About a dozen, each with bits that fit its tubes and walls that can be turned."""
    assert len(catalogue().pens) >= 12
    for pen in catalogue().pens:
        findings = plan(Job(pen=pen), first_shop()).findings
        assert not [one for one in findings if one.station.value == "Pen" and one.severity is not Severity.NOTE], (
            pen.name
        )


def test_a_bushing_is_shared_where_its_diameter_and_its_tube_are_the_same() -> None:
    wrack, kelp = _pen("Wrack", 7.0), _pen("Kelp", 7.0, 9.0)
    other = wrack.barrels[0].with_(name="Other", bushing_left_mm=10.4, inside="a brass tube")
    bare = kelp.barrels[1].with_(inside="no tube")
    pens = (wrack, kelp.with_(barrels=(kelp.barrels[0], bare)), Pen(name="Dulse", barrels=(other,)))
    found = [(share.size_mm, share.length_mm, share.pens) for share in shared_bushings(pens)]
    assert found == [(10.4, 6.9, ("Dulse",)), (11.0, 6.9, ("Wrack", "Kelp", "Dulse"))], "bare barrels want none"
    stepped = Pen(name="Sole", barrels=(wrack.barrels[0].with_(wide_bit_mm=8.6),))
    assert [share.size_mm for share in shared_bits((stepped,))] == [7.0, 8.6]
