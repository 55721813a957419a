"""Curing: what must hold in physics, and the worked cases, found apart from the program."""

from __future__ import annotations

import itertools
import json
import math

import numpy as np
import pytest
from msgspec.structs import replace

from orvek.craft.curing import Kinetics, shortest_gel_s
from orvek.craft.heating import (
    BRASS_CORE,
    HDPE,
    PP,
    SILICONE,
    WOOD_CORE,
    Run,
    Section,
    Stuff,
    bar_mesh,
    crossing,
    cup_mesh,
    cure,
    summit,
)
from orvek.documents.shelf.resin import generic_families
from orvek.planning.cure.forecast import kinetics_of

DAY_S = 86400.0
DENSITY = {"fast polyurethane": 1.08, "slow deep-pour epoxy": 1.09, "quick coating epoxy": 1.06}


def resin(name: str) -> Kinetics:
    family = next(family for family in generic_families() if name in family.key)
    assert family.cure is not None
    return kinetics_of(family.cure, DENSITY.get(family.key, 1.11))


COATING, DEEP, FAST, POLYESTER = (resin(name) for name in ("coating", "deep", "fast", "polyester"))


def run(section: Section, kinetics: Kinetics, at_c: float, days: float = 1.0, tolerance: float = 1e-5) -> Run:
    return cure(section, kinetics, lambda _t: at_c, (at_c, at_c), days * DAY_S, tolerance=tolerance)


def inert(kinetics: Kinetics) -> Kinetics:
    return replace(kinetics, rate_25=1e-30)


WORKED = [
    (COATING, bar_mesh(COATING, 20, 20), 22, 78.5, 83.6, 65.7, 89.0, 1.72, 0.946, 0.978),
    (DEEP, bar_mesh(DEEP, 40, 40), 25, 459.8, 514.9, 44.9, 443, 18.98, 0.835, 0.955),
    (COATING, cup_mesh(COATING, 100), 25, 35.0, 37.6, 165.1, 47.6, 0.668, 0.987, None),
]


@pytest.mark.parametrize("case", WORKED, ids=["bar of coating epoxy", "deep block", "cup"])
def test_worked_cases(case: tuple[Kinetics, Section, float, *tuple[float, ...]]) -> None:
    kinetics, section, at, first, mean, peak, when, demould, day, week = case
    found = run(section, kinetics, at, 7)
    assert found.reached_s(kinetics.gel, "first") == pytest.approx(60 * first, rel=0.01)
    assert found.reached_s(kinetics.gel) == pytest.approx(60 * mean, rel=0.01)
    hottest, at_s = found.peak()
    assert hottest == pytest.approx(peak, abs=1.0)
    assert at_s == pytest.approx(60 * when, rel=0.01)
    assert found.reached_s(kinetics.demould) == pytest.approx(3600 * demould, rel=0.01)
    assert np.interp(DAY_S, found.time_s, found.mean_cure) == pytest.approx(day, rel=0.01)
    if week is not None:
        assert found.mean_cure[-1] == pytest.approx(week, rel=0.01)


def test_conduction_alone_meets_the_fourier_series() -> None:
    """A square rod with a film on all sides: the product of two slabs, root by root."""
    side, k, rho, cp, film = 20.0, 0.2, 1.1, 1.6, 10.0
    wall = Stuff(k, rho, cp)
    plain = replace(inert(COATING), conductivity=k, density=rho, heat_capacity=cp)
    # Half a rod by symmetry across; its films are made equal by hand.
    section = bar_mesh(plain, side, side, wall, 0.0, 0.0, cells=(40, 20))
    outside = np.zeros(section.shape)
    cell = side / 40
    through = 1 / (cell / 2 / k + 1000 / film) / 1000
    outside[0] += cell * through
    outside[-1] += cell * through
    outside[:, -1] += cell * through
    section = replace(section, outside=outside.ravel())
    found = cure(section, plain, lambda _t: 90.0, (20.0, 20.0), 3600.0)
    half, biot = side / 2, film * side / 2 / 1000 / k
    alpha = k / (rho * cp * 1e6) * 1e6  # mm2/s

    def slab(at: float, seconds: float) -> float:
        total = 0.0
        for n in range(12):
            low, high = n * math.pi + 1e-9, n * math.pi + math.pi / 2 - 1e-9
            for _ in range(80):
                z = (low + high) / 2
                low, high = (z, high) if z * math.tan(z) < biot else (low, z)
            weight = 4 * math.sin(z) / (2 * z + math.sin(2 * z))
            total += weight * math.exp(-(z**2) * alpha * seconds / half**2) * math.cos(z * at / half)
        return total

    for step in (len(found.time_s) // 2, len(found.time_s) - 1):
        grid = found.temperature_c[step].reshape(section.shape)
        t = float(found.time_s[step])
        for row, column in ((20, 0), (35, 10), (39, 19)):
            x, y = section.x_mm[column], section.y_mm[row] - half
            expected = 90 - 70 * slab(x, t) * slab(y, t)
            assert grid[row, column] == pytest.approx(expected, abs=0.08)


def test_without_losses_it_reaches_the_adiabatic_end() -> None:
    section = cup_mesh(DEEP, 100, cells=(4, 3))
    closed = replace(section, outside=np.zeros_like(section.outside))
    found = cure(closed, DEEP, lambda _t: 25.0, (25.0, 25.0), 7 * DAY_S, tolerance=1e-9)
    expected = 25 + DEEP.adiabatic_rise_k(float(found.mean_cure[-1]))
    assert found.temperature_c[-1].mean() == pytest.approx(expected, abs=1e-4)
    assert found.temperature_c.max() <= 25 + DEEP.adiabatic_rise_k() + 1e-6


def test_the_energy_balance_closes() -> None:
    section = bar_mesh(COATING, 20, 20, cells=(10, 5))
    found = cure(section, COATING, lambda _t: 22.0, (22.0, 22.0), 0.5 * DAY_S, tolerance=1e-9)
    # Heat made = heat stored + heat lost, as rates at every step of the solver.
    made = found.cure_slope @ section.resin_g[section.is_resin] * COATING.heat_j_g
    stored = found.temperature_slope @ section.capacity
    lost = (found.temperature_c - 22.0) @ section.outside
    assert np.abs(made - stored - lost).max() <= 1e-6 * np.abs(made).max()


def test_the_degree_of_cure_never_falls() -> None:
    for kinetics in (COATING, POLYESTER):
        found = run(bar_mesh(kinetics, 20, 20, cells=(10, 5)), kinetics, 20, 1.0, 1e-7)
        assert found.cure.min() >= 0
        assert found.cure.max() <= 1
        assert (np.diff(found.cure, axis=0) >= -1e-6).all()


def test_second_order_in_the_mesh() -> None:
    gels = [run(cup_mesh(COATING, 60, cells=(n, n)), COATING, 22, 0.2, 1e-8).reached_s(COATING.gel) for n in (4, 8, 16)]
    coarse, fine = abs(gels[0] - gels[1]), abs(gels[1] - gels[2])  # type: ignore[operator]
    assert coarse / fine == pytest.approx(4, rel=0.4)


def _told(found: Run, kinetics: Kinetics) -> tuple[float, float, float]:
    gel = found.reached_s(kinetics.gel, "first")
    return (math.inf if gel is None else gel, found.peak()[0], float(found.mean_cure[-1]))


def test_a_warmer_shop_is_faster_hotter_and_goes_further() -> None:
    told = [(_told(run(bar_mesh(COATING, 20, 20, cells=(10, 5)), COATING, at, 7), COATING), at) for at in (12, 20, 28)]
    for (cool, at), (warm, warmer) in itertools.pairwise(told):
        assert warm[0] < cool[0]
        assert warm[1] - warmer > cool[1] - at
        assert warm[2] > cool[2]


def test_larger_cups_are_hotter_and_no_slower() -> None:
    told = [_told(run(cup_mesh(COATING, mass), COATING, 25, 0.3), COATING) for mass in (30, 100, 300, 600)]
    for small, large in itertools.pairwise(told):
        assert large[1] > small[1]
        assert large[0] <= small[0]
        assert large[1] < 25 + COATING.adiabatic_rise_k()


def test_deeper_bars_are_hotter_and_earlier() -> None:
    told = [_told(run(bar_mesh(COATING, 20, d, cells=(10, 5)), COATING, 22), COATING) for d in (3, 10, 20, 30)]
    for thin, thick in itertools.pairwise(told):
        assert thick[1] > thin[1]
        assert thick[0] < thin[0]


def test_walls_films_and_cores_take_heat_away() -> None:
    def peak(**how: object) -> float:
        return run(bar_mesh(COATING, 20, 20, cells=(10, 5), **how), COATING, 22, 0.3).peak()[0]  # type: ignore[arg-type]

    assert peak(wall=HDPE) < peak(wall=SILICONE) < peak(wall=PP)
    assert peak(film=2.0) < peak() < peak(film=0.5)
    assert peak(core=(BRASS_CORE, 0.2)) < peak(core=(WOOD_CORE, 0.2)) < peak()
    assert peak(row=3) > peak(row=2) > peak()


@pytest.mark.parametrize(("kinetics", "rise"), [(COATING, 3), (DEEP, 3), (FAST, 16), (POLYESTER, 30)])
def test_thin_layers_hardly_warm(kinetics: Kinetics, rise: float) -> None:
    found = run(bar_mesh(kinetics, 20, 3, cells=(8, 10)), kinetics, 22, 0.5)
    warmer = found.peak()[0] - 22
    assert warmer < rise
    assert warmer > (0.05 if rise == 3 else rise / 2.5)  # epoxies hardly, the quick ones well


def test_no_label_can_be_shorter_than_mixing_allows() -> None:
    shortest = [shortest_gel_s(kinetics) for kinetics in (FAST, POLYESTER, DEEP, COATING)]
    assert shortest == pytest.approx([21, 45, 120, 120], rel=0.08)


def test_a_peak_between_two_steps_is_found_by_the_slopes() -> None:
    t = np.linspace(0, 3, 7)
    assert summit(t, np.sin(t), np.cos(t)) == pytest.approx((1.0, math.pi / 2), abs=2e-3)
    assert crossing(t, np.sin(t), np.cos(t), 0.5) == pytest.approx(math.pi / 6, abs=1e-3)
    assert crossing(t, np.sin(t), np.cos(t), 1.5) is None


def test_the_families_say_that_their_numbers_are_guesses() -> None:
    for family in generic_families():
        assert family.cure is not None
        assert json.loads(family.model_dump_json())["cure"]["standing"] == "guess"


def test_a_core_has_its_share_of_the_section_exactly() -> None:
    for share in (0.07, 0.31, 0.6):
        section = bar_mesh(COATING, 19, 23, core=(WOOD_CORE, share))
        assert section.resin_g.sum() == pytest.approx(19 / 2 * 23 * (1 - share) * COATING.density / 1000, rel=1e-9)


def test_bars_of_a_row_warm_one_another() -> None:
    alone, pair, row = (run(bar_mesh(COATING, 20, 20, row=n, cells=(10, 5)), COATING, 22, 0.3, 3e-4) for n in (1, 2, 5))
    middle, *_, end = row.bars()
    assert len(row.bars()) == 3
    assert middle.peak()[0] > end.peak()[0] > alone.peak()[0]
    assert middle.peak()[0] > pair.peak()[0] > alone.peak()[0]
    # Two bars are alike: each has one side to the other, as the end of any row.
    assert sum(one.section.resin_g.sum() for one in row.bars()) == pytest.approx(2.5 * alone.section.resin_g.sum() * 2)


def test_the_film_takes_heat_from_every_side() -> None:
    whole = bar_mesh(COATING, 20, 20, cells=(6, 4))
    strong = bar_mesh(COATING, 20, 20, cells=(6, 4), film=2.0)
    gained = (strong.outside / np.maximum(whole.outside, 1e-12))[whole.outside > 0]
    assert (gained > 1.05).all()
    ends = bar_mesh(COATING, 20, 20, cells=(6, 4), length_mm=100)
    assert (ends.outside > whole.outside).all()
    through = 1 / (1 / 10 + 0.008 / 0.22)
    assert (ends.outside - whole.outside).sum() == pytest.approx(2 * through * (18 * 28e-6) / 100, rel=1e-6)
