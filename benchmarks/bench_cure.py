"""A bar's week of curing against a plain `solve_ivp` BDF on the same cells, and the calibration of a label."""

from __future__ import annotations

import numpy as np
from scipy.integrate import solve_ivp

from benchmarks.timing import best_of
from orvek.craft.calibrating import from_label
from orvek.craft.heating import bar_mesh, cure
from orvek.documents.shelf.resin import generic_families
from orvek.planning.cure.forecast import kinetics_of

WEEK_S = 7 * 86400.0


def test_a_week_of_one_bar() -> None:
    family = generic_families()[2]
    assert family.cure is not None
    kinetics = kinetics_of(family.cure, 1.06)
    section = bar_mesh(kinetics, 20, 20)
    resin, count = section.is_resin, section.capacity.size
    grams, links = section.resin_g[resin], section.links
    here = np.eye(count)[resin]
    near = abs(links).toarray() + np.eye(count)
    pattern = np.block([[near, here.T], [here, np.eye(int(resin.sum()))]]) != 0

    def slope(_t: float, state: np.ndarray) -> np.ndarray:
        temperature, degree = state[:count], state[count:]
        rate = kinetics.rate(temperature[resin], degree)
        flow = links @ temperature + section.outside * (22.0 - temperature)
        flow[resin] += grams * kinetics.heat_j_g * rate
        return np.concatenate([flow / section.capacity, rate])

    start = np.concatenate([np.full(count, 22.0), np.zeros(grams.size)])
    absolute = np.concatenate([np.full(count, 1e-4), np.full(grams.size, 1e-6)])
    how = {"method": "BDF", "jac_sparsity": pattern, "rtol": 1e-5, "atol": absolute}
    plain = lambda: solve_ivp(slope, (0, WEEK_S), start, **how)  # noqa: E731
    stick = best_of(plain, 5)
    taken = best_of(lambda: cure(section, kinetics, lambda _t: 22.0, (22.0, 22.0), WEEK_S), 5)
    print(f"\na week of one bar: {1000 * taken:.0f} ms, {taken / stick:.2f} x plain solve_ivp ({1000 * stick:.0f} ms)")
    assert taken / stick < 2


def test_calibrating_a_label() -> None:
    family = generic_families()[2]
    assert family.cure is not None
    kinetics = kinetics_of(family.cure, 1.06)
    line = np.zeros(1_000_000, dtype=np.float32)
    stick = best_of(lambda: np.sin(line))
    taken = best_of(lambda: from_label(kinetics.faster(2), 35), 3)
    print(f"\na label calibrated in {taken:.2f} s, {taken / stick:.0f} x np.sin over a million")
    assert taken < 2
