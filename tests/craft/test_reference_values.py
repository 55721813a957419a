"""The craft's formulas against values worked out apart from the program."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from orvek.craft import (
    abrasives,
    boring_plan,
    bubbles,
    coating,
    costing,
    counting,
    curing,
    drying,
    durations,
    lathe,
    laying_out,
    moisture,
    off_axis,
    pouring,
    pressing,
    segmenting,
    soaking,
    spoilage,
    truing,
    tube_glue,
    turning,
    wander,
)
from orvek.quantities import read_bit
from orvek.workpiece import optics, rectifying

_FORMULAS = {
    formula["id"]: formula
    for formula in json.loads((Path(__file__).parents[1] / "reference_values.json").read_text())["formulas"]
}


def _round(case: dict[str, Any]) -> dict[str, float]:
    found = truing.runout(tuple(case["d"]))
    return {
        "eccentricity_mm": found.eccentricity_mm,
        "direction_deg": found.direction_deg,
        "oval_mm": found.oval_mm,
    }


def _shares(case: dict[str, Any]) -> dict[str, float]:
    holding, barrel = truing.shares(complex(*case["e1"]), complex(*case["e2"]))
    return {"holding_mm": abs(holding), "barrel_mm": abs(barrel)}


def _clean(case: dict[str, Any]) -> dict[str, Any]:
    left = truing.left_to_clean_mm(case["smallest_now"], case["finished"], case["e"])
    return {"left_mm": left, "cleans_up": left >= 0}


def _stack(case: dict[str, Any]) -> dict[str, float]:
    stack = sum(case["barrels"]) + sum(case["bushings"]) + case["nut"]
    return {"to_fill_mm": truing.spacers_mm(case["shaft"], stack, tuple(case["spacers"]))[0]}


def _glue(case: dict[str, Any]) -> dict[str, float]:
    each = boring_plan.glue_mm3(case["bit"], case["tube"], case["L"]) / 1000 * case["rho"]
    made = tube_glue.mixes(each, case["n"], 60, 1.0, case["waste"], case["least"])
    return {"mix_g": made.mix_g, "each_g": made.each_g}


def _turned(case: dict[str, Any]) -> dict[str, float]:
    volume = lathe.removed_ml(case["side"], case["D"], case["L"], is_square=case["is_square"])
    minutes = lathe.turning_min(volume, case["rate"], case["setup"], is_square=case["is_square"])
    return {"removed_ml": volume, "minutes": minutes}


def _two_cuts(case: dict[str, Any]) -> dict[str, Any]:
    found = boring_plan.both_cuts(case["play"], case["keep"], case["left"], case["right"])
    return {
        "left_mm": found.left_mm,
        "right_mm": found.right_mm,
        "possible": found.spare_mm >= 0,
        "spare_mm": found.spare_mm,
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


def _knot(case: dict[str, Any]) -> dict[str, float]:
    cut = segmenting.DiagonalCut(case["a"], case["t"], case["k"])
    return {
        "amp": cut.amplitude_mm(case["r"]),
        "band": cut.band_mm,
        "span_on_barrel": cut.span_mm(case["r"]),
        "length_change": cut.lengthening_mm,
        "centre_shift": cut.lengthening_mm / 2,
    }


def _slide(case: dict[str, Any]) -> dict[str, float]:
    coaxial = segmenting.DiagonalCut(case["a"], case["t"], case["k"]).lengthening_mm
    return {"coax": coaxial}


def _arc(case: dict[str, Any]) -> dict[str, float]:
    cut = segmenting.ArcCut(case["Rc"], case["D"], case["t"])
    inner = segmenting.ArcCut(case["Rc"] - case["t"], case["D"], case["t"])
    return {
        "z_at_0": cut.reach_mm(case["r"]),
        "z_inner_at_0": inner.reach_mm(case["r"]),
        "depth": cut.depth_mm(case["r"]),
        "bend_strain_pct": 100 * cut.bend_strain,
        "layers_at_0p6": math.ceil(case["t"] / 0.6),
    }


def _lid(case: dict[str, Any]) -> dict[str, float]:
    return {
        "F_kN": bubbles.lid_force_kn(case["p_bar"], case["D_mm"]),
        "E_kJ": bubbles.stored_kj(case["p_bar"], case["V_l"]),
    }


def _air(case: dict[str, Any]) -> dict[str, float]:
    air = bubbles.air_kpa(case["h_m"])
    return {"p_kPa": air, "max_gauge_inHg": air / bubbles.KPA_PER_INHG}


def _left(case: dict[str, Any]) -> dict[str, float]:
    gauge = case["gauge_inHg"] * bubbles.KPA_PER_INHG
    return {
        "p_abs_kPa": bubbles.left_kpa(case["h_m"], gauge),
        "pct_of_local": 100 * gauge / bubbles.air_kpa(case["h_m"]),
    }


def _wall(case: dict[str, Any]) -> dict[str, float]:
    absorbed = case["K_over_S"] * case["SX"]
    dark, bare = (optics.wall_reflectance(absorbed, case["SX"], case[key]) for key in ("Rg_dark", "Rg_bare"))
    ratio = optics.contrast_ratio(absorbed, case["SX"], case["Rg_bare"])
    return {"R_dark": dark, "R_bare": bare, "contrast_ratio": ratio}


def _mica(case: dict[str, Any]) -> dict[str, float]:
    depth, _ = optics.platelets(case["w"], 1.1, case["wall_mm"], 3.0, 0.5)
    scattered = case["beta"] * depth
    ratio = optics.contrast_ratio(case["K_over_S"] * scattered, scattered, case["Rg_bare"])
    return {"SX": scattered, "contrast_ratio": ratio}


def _ring(case: dict[str, Any]) -> dict[str, float]:
    ring = segmenting.Ring(case["n"])
    gap = ring.closing_gap_mm(case["d_err_deg"], case["ring_w"])
    return {"outer": ring.outer_mm(case["R"]), "closing_gap_mm": gap}


def _chevron(case: dict[str, Any]) -> dict[str, float]:
    found = segmenting.Chevron(case["L"], case["W"], case["a"], case["s"], case["k"])
    return {
        "N": found.slices,
        "usable_len": found.usable_mm,
        "axial_pitch": found.axial_pitch_mm(case["pitch"]),
    }


def _wander(case: dict[str, Any]) -> dict[str, float]:
    sigma = wander.scatter_mm(case["L"], case["d"])
    mean, far = math.sqrt(math.pi / 2) * sigma, wander.P95_RADIAL * sigma
    return {"sigma": sigma, "mean_radial": mean, "p95_radial": far}


def _square_bar(case: dict[str, Any]) -> dict[str, float]:
    room = turning.clean_up_mm(case["w"], case["d_f"])
    both = (off_axis.Limit(0, room), off_axis.Limit(0, room))
    shop = wander.Wander(centring_mm=case["sigma"])
    return {"E": room, "P": off_axis.spoilt_chance(both, 7, shop, is_round=False)}


def _glue_line(case: dict[str, Any]) -> dict[str, float]:
    volume = boring_plan.glue_mm3(case["D"], case["d"], case["L"])
    return {"V_mm3": volume, "gap": (case["D"] - case["d"]) / 2}


def _drill(case: dict[str, Any]) -> dict[str, float]:
    return {"mm": read_bit(f"{case['label']} in" if "/" in case["label"] else f"letter {case['label']}")}


def _two_ends(case: dict[str, Any]) -> dict[str, float]:
    step = wander.two_end_step_mm(case["L"], case["d"])
    return {"step_sigma": step, "p95": wander.P95_RADIAL * step}


def _dry_stop(case: dict[str, Any]) -> dict[str, float]:
    hours = drying.stop_h(case["m0"], case["m_inf"], case["tau_h"], case["rate"])
    part = drying.still_wet_part(case["tau_h"], case["rate"])
    return {"t_h": hours, "mass": case["m_inf"] * (1 + part), "residual_pct_of_minf": 100 * part}


def _bar_of_water(case: dict[str, Any]) -> dict[str, float]:
    sides = (case["a_mm"], case["b_mm"])
    left = drying.bar_left(case["D_m2s"], case["t_h"], sides)
    return {"E": left, "tau_tail_h": drying.tail_h(case["D_m2s"], sides)}


def _size_change(case: dict[str, Any]) -> dict[str, float]:
    change = moisture.change_mm(case["D_mm"], case["S0"], case["Mi"], case["Mf"])
    return {"C": moisture.change_mm(1, case["S0"], 0, 1), "dD_mm": change}


def _resin(case: dict[str, Any]) -> dict[str, float]:
    wood = case["n"] * math.prod(case["blank_mm"]) / 1000
    taken = soaking.void_part(case["rho_od"]) * case["fill"] * wood
    bath = soaking.bath_ml(wood, case["A_mm2"], case["stack_mm"], case["cover_mm"])
    total = soaking.buy_ml(bath, taken, 100 * case["reserve"])
    return {
        "blank_ml": wood,
        "uptake_ml": taken,
        "bath_ml": bath,
        "total_ml": total,
        "total_g": total * case["rho_r"],
    }


def _core(case: dict[str, Any]) -> dict[str, float]:
    sides = (case["a_mm"], case["b_mm"])
    minutes = soaking.core_min(sides, case["h"], case["T0"], case["Toven"], case["Tcore"])
    return {"Bi_a": case["h"] * case["a_mm"] / 2000 / soaking.CONDUCTS_W_MK, "t_min": minutes}


def _pore(case: dict[str, Any]) -> dict[str, float]:
    pore = (case["r_um"], case["gamma"], case["cos"], case["eta"], case["t_s"])
    return {"L_mm": soaking.reaches_mm(*pore, case["dP_Pa"])}


def _grits(case: dict[str, Any]) -> dict[str, Any]:
    papers = [one for one in abrasives.abrasives() if one.kind == "paper"]
    size = {one.name: one.start_um for one in papers}
    rungs = abrasives.ladder(papers, size[f"P{case['start']}"], size[f"P{case['end']}"], case["r"])
    names = [int(rung.abrasive.name.removeprefix("P")) for rung in rungs]
    return {"ladder": names, "removal_um": abrasives.removed_um(rungs)}


def _through(case: dict[str, Any]) -> dict[str, float]:
    total = case["n"] * case["per"]
    return {"P": coating.through_chance(total, case["removed"], case["cvT"])}


def _flat(case: dict[str, Any]) -> dict[str, Any]:
    matrix = rectifying.flattening(np.array(case["corners_px"]), case["length_mm"], case["width_mm"])
    return {"points_mm": rectifying.carried(matrix, np.array(case["points_px"])).round(4).tolist()}


def _batch(case: dict[str, Any]) -> dict[str, float]:
    start, chance = counting.bars_for(case["good"], case["spoil"], case["chance"])
    return {"start": start, "chance_then": chance, "expected_good": start * (1 - case["spoil"])}


def _spoilt(case: dict[str, Any]) -> dict[str, float]:
    rate = spoilage.spoil_rate(case["default_rate"], case["spoilt"], case["of"])
    return {"mean": rate.mean, "low90": rate.low, "high90": rate.high}


def _batch_learned(case: dict[str, Any]) -> dict[str, float]:
    seen = case["default_rate"], case["spoilt"], case["of"]
    return dict(
        zip(("start", "chance_then"), spoilage.bars_for_learned(case["good"], *seen, case["chance"]), strict=True)
    )


def _good_pen(case: dict[str, Any]) -> dict[str, float]:
    stages = [costing.StageCost(one["cost"], one["passes"]) for one in case["stages"]]
    return {
        "per_good_pen": costing.cost_good(stages, case["once_for_the_job"], case["good_pens"]),
        "first_stage_per_good": costing.started_for_good(stages)[0],
    }


def _asked(case: dict[str, Any]) -> dict[str, float]:
    found = costing.price(case["cost"], case["margin"], case["fee"], case["fixed_fee"])
    assert found is not None
    return {"price": found.price, "profit": found.profit}


def _time(case: dict[str, Any]) -> dict[str, float]:
    found = durations.lasting(case["default_min"], case["readings_min"])
    return {"median_min": found.median_min, "low90": found.low_min, "high90": found.high_min}


_COMPUTED: dict[str, Callable[[dict[str, Any]], dict[str, float]]] = {
    "ratio": _ratio,
    "u_ratio": _uncertainty,
    "min_dose": _least,
    "masterbatch": _stock,
    "insert": _insert,
    "mekp": _initiator,
    "yield": _pieces,
    "knot": _knot,
    "adv": _slide,
    "scallop": _arc,
    "stack": lambda case: {"thick": segmenting.stack_mm(case["n"], case["ply"], case["glue"], case["skim_total"])},
    "mitre": _ring,
    "compound": lambda case: dict(
        zip(
            ("bevel_from_square", "taper"),
            segmenting.compound_stave(case["n"], case["slope_from_axis"]),
            strict=True,
        )
    ),
    "chevron": _chevron,
    "rpm": lambda case: {"rpm": boring_plan.rpm(case["v"], case["d"])},
    "pecks": lambda case: {"N": len(boring_plan.peck_depths_mm(case["H"], case["d"], case["first"], case["p"]))},
    "quill": lambda case: {"n": len(boring_plan.stages_mm(case["H"], case["q"], case["c"]))},
    "wander": _wander,
    "rice": lambda case: {"P": off_axis.beyond_chance(case["E"], case["bias"], case["sigma"])},
    "cleanup": _square_bar,
    "rayleigh_fit": lambda case: {"sigma": wander.fitted(case["e"]).sigma_mm},  # type: ignore[union-attr]
    "glue_vol": _glue_line,
    "drill_sizes": _drill,
    "tube_press": lambda case: {"MPa": boring_plan.shear_mpa(case["F"], case["d"], case["L"], case["fill"])},
    "cte": lambda case: {"dl_mm": boring_plan.grows_apart_mm(case["L"], case["dT"], case["a1"], case["a2"])},
    "square": lambda case: {"gap_mm": boring_plan.out_of_square_mm(case["D"], case["deg"])},
    "vjaw": lambda case: {"shift": wander.v_jaw_shift_mm(case["dw"])},
    "two_end": _two_ends,
    "exotherm": lambda case: {"dT": curing.most_rise_k(case["H"], case["wr"], case["cp"])},
    "boyle": lambda case: dict(
        zip(("vol", "dia"), bubbles.bubble_left(case["p_gauge_bar"], case["p_atm_bar"]), strict=True)
    ),
    "degas": lambda case: dict(zip(("vol", "dia"), bubbles.vacuum_growth(case["p_abs_kPa"]), strict=True)),
    "lid": _lid,
    "co2": lambda case: dict(zip(("V_ml", "NCO_g"), bubbles.gas_of_water(case["water_g"]), strict=True)),
    "km": _wall,
    "flake": lambda case: dict(
        zip(
            ("tau", "cover"),
            optics.platelets(case["w"], 1.1, case["wall_mm"], case["rho_f"], case["t_um"]),
            strict=True,
        )
    ),
    "mica_hide": _mica,
    "tio2": lambda case: {"g_m2": optics.area_mass_g_m2(case["w"], case["rho"], case["wall_mm"])},
    "meniscus": lambda case: {
        "lc_mm": bubbles.climb_mm(case["gamma"], case["rho"], 30),
        "h_mm": bubbles.climb_mm(case["gamma"], case["rho"], case["th"]),
    },
    "atm": _air,
    "absvac": _left,
    "pw": lambda case: {"p_kPa": bubbles.water_vapour_kpa(case["T_C"])},
    "emc": lambda case: {"M_pct": moisture.equilibrium_pct(case["T_C"], 100 * case["RH"])},
    "mc": lambda case: {"M_pct": moisture.moisture_pct(case["m"], case["m_od"])},
    "aitken": lambda case: dict(zip(("m_inf", "tau_h"), drying.three_weights(*case["w"], case["dt_h"]), strict=True)),
    "dry_stop": _dry_stop,
    "fick": _bar_of_water,
    "od_density": lambda case: {"rho_od": moisture.dry_density_g_ml(case["Gb"], case["Sv_pct"])},
    "shrink": lambda case: {"S_M": moisture.shrunk_pct(case["S0"], case["M"])},
    "dimchange": _size_change,
    "void": lambda case: {
        "phi": soaking.void_part(case["rho_od"]),
        "U_pct": soaking.most_uptake_pct(case["rho_od"], case["rho_r"]),
    },
    "void_m": lambda case: {"phi": soaking.void_part_moist(case["G_M"], case["M"])},
    "resin_buy": _resin,
    "washburn": _pore,
    "core_time": _core,
    "zeta1": lambda case: dict(zip(("zeta1", "C1"), soaking.root(case["Bi"]), strict=True)),
    "scale_int": lambda case: {"dt_h": moisture.weigh_apart_h(case["d"], case["m"], case["r"])},
    "ladder": _grits,
    "sandthru": _through,
    "ca_drop": lambda case: {"um": coating.drop_um(case["mg"], case["keep"], case["d"], case["L"], case["rho"])},
    "mandrel": lambda case: dict(
        zip(("Pcr_N", "F_N", "amp"), coating.mandrel_bow(case["d"], case["L"], case["T_Nm"]), strict=True)
    ),
    "rectify": _flat,
    "bars_for": _batch,
    "spoil_rate": _spoilt,
    "bars_for_learned": _batch_learned,
    "cost_good": _good_pen,
    "price": _asked,
    "duration": _time,
    "runout": _round,
    "fault_share": _shares,
    "cleans_up": _clean,
    "mandrel_fill": _stack,
    "support_strip": lambda case: {"thickness_mm": lathe.support_mm(case["w"])},
    "tube_glue": _glue,
    "turn_minutes": _turned,
    "two_cuts": _two_cuts,
    "clip_cover": lambda case: {"covers_deg": pressing.clip_covers_deg(case["width"], case["diameter"])},
    "wrap": lambda case: {
        "width": segmenting.wrap_width_mm(case["d"], case["t"], case["ov"]),
        "pi_d": segmenting.wrap_width_mm(case["d"], 0, case["ov"]),
    },
}


@pytest.mark.parametrize(
    ("key", "case"), [(key, case) for key, formula in _FORMULAS.items() for case in formula["cases"]]
)
def test_reference_value(key: str, case: dict[str, dict[str, Any]]) -> None:
    found, wanted = _COMPUTED[key](case["in"]), dict(case["out"])
    for name in [name for name, value in wanted.items() if isinstance(value, list)]:
        assert np.allclose(found.pop(name), wanted.pop(name), rtol=_FORMULAS[key]["rel_tol"])
    assert found == pytest.approx(wanted, rel=_FORMULAS[key]["rel_tol"])


def test_every_formula_is_held_to_its_values() -> None:
    assert set(_FORMULAS) == set(_COMPUTED)
