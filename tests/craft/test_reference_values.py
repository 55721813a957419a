"""The craft's formulas against values worked out apart from the program."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from orvek.craft import laying_out, pouring

_FORMULAS = {
    formula["id"]: formula
    for formula in json.loads((Path(__file__).parents[1] / "reference_values.json").read_text())["formulas"]
}


def _ratio(case: dict[str, Any]) -> dict[str, float]:
    ratio = pouring.mass_ratio(case["vA"], case["vB"], case["rhoA"], case["rhoB"])
    part_a, part_b = pouring.parted(case["total_g"], ratio)
    return {"A_g": part_a, "B_g": part_b, "phr": 100 * ratio}


def _uncertainty(case: dict[str, Any]) -> dict[str, float]:
    return {
        f"{way}_pct": 100 * pouring.ratio_uncertainty(case["d"], case["A_g"], case["r"], way)
        for way in ("tared", "cumulative")
    }


def _least(case: dict[str, Any]) -> dict[str, float]:
    return {
        "worst_g": pouring.least_dose_g(case["d"], case["e"]),
        "k2_g": pouring.least_dose_k2_g(case["d"], case["e"]),
    }


def _stock(case: dict[str, Any]) -> dict[str, float]:
    dose = pouring.stock_dose(case["M_g"], case["wt"], case["ws"], case["ratio"])
    return {"S_g": dose.stock_g, "A_fresh_g": dose.part_a_g, "B_g": dose.part_b_g}


def _insert(case: dict[str, Any]) -> dict[str, float]:
    volume = pouring.resin_volume_ml(
        case["mould_ml"], case["m_g"] / case["rho"], case["phi"], case["soak"], case["waste"]
    )
    return {"V_ml": volume, "mass_g": volume * case["rho_r"] + case["cup_g"]}


def _initiator(case: dict[str, Any]) -> dict[str, float]:
    return {"g": pouring.initiator_g(case["M"], case["pct"])}


def _pieces(case: dict[str, Any]) -> dict[str, float]:
    count, left = laying_out.pieces(case["L"], case["l"], case["k"])
    return {"n": count, "left": left}


_COMPUTED: dict[str, Callable[[dict[str, Any]], dict[str, float]]] = {
    "ratio": _ratio,
    "u_ratio": _uncertainty,
    "min_dose": _least,
    "masterbatch": _stock,
    "insert": _insert,
    "mekp": _initiator,
    "yield": _pieces,
}


@pytest.mark.parametrize(
    ("key", "case"), [(key, case) for key, formula in _FORMULAS.items() for case in formula["cases"]]
)
def test_reference_value(key: str, case: dict[str, dict[str, Any]]) -> None:
    assert _COMPUTED[key](case["in"]) == pytest.approx(case["out"], rel=_FORMULAS[key]["rel_tol"])


def test_every_formula_is_held_to_its_values() -> None:
    assert set(_FORMULAS) == set(_COMPUTED)
