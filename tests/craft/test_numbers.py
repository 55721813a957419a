"""What every formula gives for sizes that come up at a bench, and for the ends of what may be asked, written down.

A formula that says something else shows in the difference; read it before it is committed: `ORVEK_RECORD=1 python -m
pytest tests/craft/test_numbers.py`. What the numbers should be is held by the reference values.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from itertools import product
from typing import Any

import numpy as np
from msgspec.structs import replace

from orvek.craft import (
    abrasives,
    air,
    beta,
    boring,
    boring_plan,
    bubbles,
    coating,
    costing,
    counting,
    curing,
    drying,
    durations,
    dyeing,
    faults,
    filling,
    lathe,
    laying_out,
    learning,
    moisture,
    off_axis,
    packing,
    pouring,
    pressing,
    segmenting,
    soaking,
    spoilage,
    turning,
    wander,
    wrapping,
)
from orvek.craft.drying_fit import fitted_drying
from orvek.craft.heating import crossing, summit
from orvek.craft.off_axis_limits import Limit
from tests.craft.test_curing import COATING, POLYESTER
from tests.jobs.recorded_text import hold

_LIMITS = tuple(
    (near, far)
    for near in (Limit(5, 1.0), Limit(5, 1.0, 0.6), Limit(5, 1.2, aimed_mm=(0.3, -0.2)))
    for far in (Limit(60, 1.4), Limit(60, 1.0, 2.0, (-0.4, 0.1)))
)
_WANDERS = (
    wander.Wander(), wander.Wander(0.4, 0.0, 0.0), wander.Wander(0.0, 0.01, 0.0), wander.Wander(0.0, 0.0, 0.0),
)  # fmt: skip
_DYES = tuple(
    dyeing.Dyeing(*how)
    for how in product(("water", "alcohol"), ("brushed on", "dipped", "under vacuum"), (0.5, 12.0), (True, False))
)
_GRITS = tuple(
    abrasives.Abrasive(name, kind, start, end)
    for name, kind, start, end in (
        ("150", "sheet", 93, 93), ("240", "sheet", 58, 58), ("600", "sheet", 16, 16), ("pad", "pad", 12, 12),
        ("paste", "paste", 3, 0.5), ("fine paste", "paste", 1, 1),
    )
)  # fmt: skip
_HOLES = ((30.0, 7.0, 0.1), (55.0, 10.0, 0.6), (55.0, 10.0, 0.3))
_STAGES = (costing.StageCost(4.0, 0.8), costing.StageCost(1.5, 0.95), costing.StageCost(0.0, 1.0))

# Each formula with what may stand in each of its places; all of it is tried with all.
ASKED: tuple[tuple[Callable[..., Any], tuple[tuple[Any, ...], ...]], ...] = (
    (abrasives.ladder, ((_GRITS, _GRITS[1:4], ()), (70.0, 20.0), (0.6, 10.0), (1.6, 2.5))),
    (air.dew_point_c, ((5.0, 21.0), (35.0, 80.0))),
    (beta.below, ((0.5, 4.0), (1.5, 9.0), (-0.1, 0.0, 0.1, 0.5, 0.9, 1.0, 1.2))),
    (beta.quantile, ((0.5, 4.0), (1.5, 9.0), (0.05, 0.5, 0.95))),
    (boring.bit_for_tube, ((5.0, 6.95, 7.0, 9.4, 10.0, 12.3, 30.0),)),
    (boring_plan.boring_s, (((20.0, 40.0, 55.0), (55.0,)), (600.0, 2400.0), (0.0, 20.0))),
    (boring_plan.glue_mm3, ((7.1, 6.9), (6.95,), (30.0, 55.0))),
    (boring_plan.grows_apart_mm, ((55.0,), (-10.0, 40.0), (80e-6,), (19e-6, 4e-6))),
    (boring_plan.holds_after_min, ((15.0, 240.0), (10.0, 20.0, 28.0))),
    (boring_plan.may_shorten, ((0.4, 0.75, 1.0), (1.3, 2.0, 2.5))),
    (boring_plan.out_of_square_mm, ((12.0,), (0.5, 2.0))),
    (boring_plan.peck_depths_mm, ((10.0, 55.0, 60.0), (7.0, 10.5), (1.0, 3.0), (3.0, 10.0))),
    (boring_plan.rpm, ((15.0, 40.0), (7.0, 12.5))),
    (boring_plan.shear_mpa, ((500.0,), (7.0, 10.0), (55.0,), (0.3, 1.0))),
    (boring_plan.shortened_mm, ((0.0, 1.3),)),
    (boring_plan.stages_mm, ((45.0, 65.0, 130.0), (50.0, 5.0), (5.0,))),
    (boring_plan.stuff, (tuple(one.key for one in boring_plan.stuffs()),)),
    (bubbles.air_kpa, ((0.0, 1600.0),)),
    (bubbles.boils_below_kpa, ((0.6, 4.0), (15.0, 30.0))),
    (bubbles.bubble_left, ((2.8, 4.1), (1.01325, 0.83))),
    (bubbles.climb_mm, ((0.03,), (1100.0,), (20.0, 70.0))),
    (bubbles.gas_of_water, ((0.05, 1.0),)),
    (bubbles.left_kpa, ((0.0, 900.0), (-98.0, -85.0, -40.0))),
    (bubbles.lid_force_kn, ((2.8, 4.1), (240.0,))),
    (bubbles.moulds_in_pot, (((30.0, 160.0), (60.0, 60.0)), (25.0, 90.0), ((240.0, 250.0), (180.0, 60.0)))),
    (bubbles.stored_kj, ((2.8, 4.1), (10.0,))),
    (bubbles.vacuum_growth, ((3.0, 20.0), (101.325, 84.0))),
    (bubbles.water_vapour_kpa, ((10.0, 20.0, 30.0),)),
    (coating.coats_wanted, ((6.0, 12.0), (10.0, 40.0), (0.15, 0.4), (0.01, 0.05))),
    (coating.drop_um, ((20.0,), (0.3, 0.6), (12.0,), (55.0,))),
    (coating.lies_part, ((0.0, 0.05, 0.5, 0.97),)),
    (coating.mandrel_bow, ((6.2, 7.0), (120.0, 60.0), (0.3,))),
    (coating.through_chance, ((20.0, 60.0), (5.0, 25.0), (0.15, 0.3))),
    (coating.tool_size_mm, ((12.5,), (20.0,), (0.0, 60.0), (0.0, 15.0))),
    (costing.cost_good, ((_STAGES,), (8.0,), (1, 4))),
    (costing.price, ((23.4,), (0.0, 0.4, 0.9, 1.0), (0.0, 0.12), (0.0, 0.5))),
    (costing.started_for_good, ((_STAGES, ()),)),
    (counting.bars_for, ((1, 8), (0.0, 0.1, 0.3), (0.5, 0.9, 0.99))),
    (counting.chance_of, ((8, 10), (8, 9), (0.1, 0.25))),
    (curing.most_rise_k, ((250.0, 420.0), (0.6, 1.0), (1.6,))),
    (curing.shortest_gel_s, ((COATING, POLYESTER),)),
    (drying.bar_left, ((1e-10, 4e-10), (10.0, 200.0), ((22.0, 22.0), (22.0, 22.0, 150.0)))),
    (drying.rises_g, ((0.5, 8.0), (0.01, 0.1, 1.0))),
    (drying.slab_left, ((-0.1, 0.0, 0.01, 0.05, 0.2, 1.0),)),
    (drying.still_wet_part, ((20.0, 90.0), (0.0001, 0.002))),
    (drying.stop_h, ((52.0, 40.2), (40.0,), (20.0,), (0.0002, 0.001))),
    (drying.tail_h, ((1e-10,), ((22.0, 22.0), (22.0, 30.0, 150.0)))),
    (drying.three_weights, ((52.0,), (48.0, 47.0), (46.0,), (4.0, 12.0))),
    (durations.lasting, ((10.0, 45.0), ((), (14.0,), (14.0, 12.0, 15.0)))),
    (dyeing.depth_mm, (_DYES, ((), ((4.0, 2.0), (1.0, 2.0))))),
    (dyeing.hours_needed, (_DYES[::3], (1.0, 4.0), (0.5, 6.0))),
    (dyeing.needed_mm, ((20.0,), (12.5, 21.0), (0.5, 1.2))),
    (dyeing.vacuum_times, ()),
    (faults.clear_radius_mm, ((7.0,), (0.2, 1.5))),
    (faults.covered_deg, ((2.0, 20.0), (12.5,))),
    (faults.filled_chance_pct, ((0.4, 5.0, 30.0, 60.0, 100.0, 300.0), (80.0, 55.0))),
    (faults.pit_mm3, ((3.0, 10.0), (1.5,), (0.8, 2.0), (0.6, 1.0))),
    (faults.powder_g, ((12.0,), (1.1, 8.7))),
    (filling.fill_masses_g, ((4.0, 60.0), filling.fills())),
    (filling.fill_wait_min, ((0.2, 1.0, 3.0),)),
    (filling.glue_g, ((91.0,),)),
    (lathe.speeds, ()),
    (laying_out.blank_length_mm, ((((55.0, 3.0), (42.0, 3.0)), ((110.0, 2.0),)), (1.2, 2.5), (0.0, 4.0))),
    (laying_out.blanks_in_bar, ((120.0, 300.0), (((55.0, 3.0), (42.0, 3.0)),), (1.2, 2.5), (0.0, 4.0))),
    (laying_out.packed_starts_mm, ((((55.0, 3.0), (42.0, 3.0)), ((60.0, 2.0),)), (1.2, 2.5), (125.0, 140.0))),
    (laying_out.pieces, ((10.0, 120.0, 305.0), (30.0, 60.0), (0.0, 1.6))),
    (laying_out.saw_cuts, ((1, 4), (0.0, 5.0))),
    (learning.narrowed, ((0, 1, 4, 20),)),
    (learning.times_the_guess, (((), ((12.0, 10.0),), ((8.0, 10.0), (6.0, 9.0))), (2.0, 5.0))),
    (moisture.change_mm, ((22.0,), (4.5, 9.0), (12.0, 6.0), (6.0, 18.0))),
    (moisture.dry_density_g_ml, ((0.56,), (9.0, 14.0))),
    (moisture.equilibrium_pct, ((5.0, 21.0, 35.0), (30.0, 60.0, 90.0))),
    (moisture.moisture_pct, ((55.0,), (50.0,))),
    (moisture.shrunk_pct, ((9.0,), (0.0, 12.0, 28.0, 40.0))),
    (moisture.weigh_apart_h, ((0.01, 0.1), (50.0, 0.0), (0.0, 0.001))),
    (off_axis.beyond_chance, ((-0.1, 0.5, 2.0), (0.0, 0.2, 1.6), (0.0, 0.1, 0.6))),
    (off_axis.spoilt_chance, (_LIMITS, (7.0, 10.0), _WANDERS)),
    (pouring.cup_ages_min, ((1, 3), (4.0,), (2, 6), (20.0,))),
    (pouring.digits_of, ((1.0, 0.5, 0.1, 0.05, 0.01, 0.001),)),
    (pouring.dosed_density, ((1.1,), ((), ((0.03, 4.0), (0.01, 1.8))))),
    (pouring.fitting_vessel_ml, ((40.0, 80.0, 500.0), ((60.0, 100.0, 250.0), ()))),
    (pouring.initiator_g, ((80.0,), (1.0, 2.2))),
    (pouring.least_dose_g, ((0.01, 0.1), (0.02, 0.05))),
    (pouring.mass_ratio, ((2.0, 100.0), (1.0, 33.0), (1.15,), (0.96, 1.2))),
    (pouring.on_scale_g, ((12.344, 12.35), (0.01, 0.1, 0.5, 1.0))),
    (pouring.parted, ((97.0,), (1.0, 0.42))),
    (pouring.resin_volume_ml, ((150.0,), (0.0, 40.0), (0.0, 0.3), (0.0, 0.1), (0.1,))),
    (pouring.stock_dose, ((80.0,), (0.005, 0.02), (0.1, 0.5), (0.5, 1.0))),
    (pouring.working_time_min, ((1, 4), (2, 8), (3.0,), (15.0,))),
    (packing.packed, (
        (((300.0, 5.0),), ((132.0, 0.0), (70.0, 2.0), (132.0, 0.0)), ((1000.0, 3.0),) * 2),
        ((55.0, 42.0), (61.0,), (9.0, 8.0, 7.0)), (0.0, 1.6), (1, 5, 40),
    )),
    (pressing.apart_deg, ((10.0, 350.0, -170.0), (20.0, 190.0))),
    (pressing.up_from_clip_deg, ((6.5,), (0.0, 3.0, 9.0))),
    (segmenting.chevron_width_mm, ((20.0,), (30.0, 45.0), (4.0,))),
    (segmenting.compound_stave, ((6, 12), (0.0, 3.0))),
    (segmenting.stack_mm, ((1, 5), (3.0,), (0.0, 0.1), (0.0, 0.4))),
    (segmenting.wrap_width_mm, ((10.0,), (0.25,), (0.0, 1.0))),
    (soaking.across_mm, ((22.0,), (22.0, 15.0), (1, 5))),
    (soaking.bath_ml, ((70.0, 900.0), (6000.0,), (130.0,), (15.0,))),
    (soaking.buy_ml, ((500.0,), (80.0,), (0.0, 15.0))),
    (soaking.core_min, (((20.0, 20.0), (22.0, 40.0)), (8.0, 12.0), (20.0, 96.0), (95.0,), (15.0, 80.0, 90.0, 95.0))),
    (soaking.most_uptake_pct, ((0.45, 1.6), (1.05,))),
    (soaking.of_possible_pct, ((50.0,), (70.0, 90.0), (0.0, 120.0))),
    (soaking.reaches_mm, ((5.0, 20.0), (0.03,), (0.9,), (0.012,), (60.0, 3600.0), (0.0, 90000.0))),
    (soaking.root, ((0.05, 1.0, 20.0), (0, 1, 2))),
    (soaking.void_part, ((0.45, 1.0, 1.6),)),
    (soaking.void_part_moist, ((0.5, 1.4), (0.0, 12.0))),
    (spoilage.bars_for_learned, ((1, 8), (0.1,), (0, 3), (3, 20), (0.9,))),
    (spoilage.chance_learned, ((8, 10), (8,), (0.1,), (0, 2), (2, 20))),
    (spoilage.spoil_rate, ((0.05, 0.25), (0, 2), (2, 30))),
    (turning.clean_up_mm, ((18.0, 20.0), (12.5,))),
    (turning.cleans_up_to_mm, ((20.0,), (18.0, 20.0), (0.0, 1.2), (-0.5, 0.7))),
    (turning.finished_wall_mm, ((12.5,), (7.0, 10.5))),
    (wander.covariance_mm2, ((0.0, 30.0), (30.0, 55.0), (7.0,), _WANDERS)),
    (wander.fitted, (((), (0.2,), (0.1, 0.2, 0.3, 0.25, 0.15)),)),
    (wander.learned, (((), _HOLES[:1], _HOLES), (None, *_WANDERS[1:3]))),
    (wander.scatter_mm, ((0.0, 30.0, 55.0), (7.0, 10.5), _WANDERS)),
    (wander.times_the_usual, (((), _HOLES), _WANDERS[:2])),
    (wander.two_end_step_mm, ((55.0, 110.0), (7.0,), _WANDERS)),
    (wander.v_jaw_shift_mm, ((0.0, 0.3),)),
    (wrapping.dots_per_inch, ((600, 2400), (55.0, 130.0))),
    (wrapping.seam_wander_mm, ((0.1, 0.5),)),
    (wrapping.under_mm, ((12.5,), (0.1, 0.3), (0.0, 60.0), (0.0, 15.0))),
)  # fmt: skip
_NAMED = {off_axis.spoilt_chance: "is_round", soaking.across_mm: "is_round", dyeing.depth_mm: "at_end"}


def numbers() -> Iterator[str]:
    """Every formula with all that is asked of it, a line each."""
    for formula, places in ASKED:
        named = _NAMED.get(formula)
        for asked, more in product(product(*places), (False, True) if named else (None,)):
            what = f"{formula.__name__}({', '.join(map(_short, asked))})" + (f" {named}" if more else "")
            yield f"{what} = {_short(formula(*asked, **({named: more} if named else {})))}"


def _short(asked: Any) -> str:
    """What was asked or found, in a word; what has fields by these."""
    if isinstance(asked, float):
        return f"{0.0 if abs(asked) < 1e-9 else asked:.5g}"
    if isinstance(asked, tuple | list):
        return f"({', '.join(map(_short, asked))})"
    fields = getattr(asked, "__struct_fields__", None)
    name = getattr(asked, "name", None)
    return name or _short(tuple(getattr(asked, field) for field in fields)) if fields else str(asked)


def drying_courses() -> Iterator[str]:
    """Logs of wood in an oven: too short, hardly falling, rising, far from dry, nearly dry, of every course."""
    hours = [0.0, 2.0, 4.0, 8.0, 16.0, 30.0, 52.0]
    logs = {
        "short": [50.0, 48.0],
        "still": [50.0] * 7,
        "rises": [50.0, 48, 47, 49, 45, 44, 43],
        "faster and faster": [50.0, 49.9, 49.7, 49.2, 47.9, 44.9, 38.0],
        "early": [60 - 0.15 * at for at in hours],
        "slow": [40 + 20 * math.exp(-at / 30) for at in hours],
        "quick": [40 + 12 * math.exp(-at / 8) for at in hours],
        "as a slab": [40 + 12 * drying.slab_left(at / 90) for at in hours],
    }
    for (name, log), step_g, tail_h in product(logs.items(), (0.01, 0.1), (6.0, 30.0)):
        masses = tuple(round(mass / step_g) * step_g for mass in log)
        fit = fitted_drying(tuple(hours[: len(masses)]), masses, step_g, tail_h)
        yield f"{name}, to {step_g} g, {tail_h:g} h: {_short(replace(fit, curve=fit.curve[::20]))}"


def courses() -> Iterator[str]:
    """Where a course first reaches a level, and its highest place: at its ends and within."""
    time = np.array([0.0, 10.0, 30.0, 40.0])
    values, slopes = np.array([20.0, 35.0, 80.0, 60.0]), np.array([0.5, 2.0, 1.0, -3.0])
    for level in (10.0, 20.0, 30.0, 79.0, 84.0, 300.0):
        yield f"{level:g}: {_short(crossing(time, values, slopes, level))}"
    for sign in (1, -1):
        yield _short(tuple(float(one) for one in summit(time, sign * values, sign * slopes)))


def test_every_formula_gives_what_it_gave() -> None:
    hold("numbers_craft", numbers())


def test_courses_are_read_as_they_were() -> None:
    hold("numbers_courses", (*drying_courses(), *courses()))
