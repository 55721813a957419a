"""Coats on a barrel: how thick, how likely sanded through, and down to which size the tool goes before them."""

from __future__ import annotations

import json
import math
from functools import cache
from importlib import resources
from typing import Any

from orvek.documents import CoatSchool

# How unevenly coats lie and are sanded, in the middle and at ends and shoulders (practice).
CV_MIDDLE, CV_ENDS = 0.3, 0.5
GLUE_G_ML = 1.06  # thin glue, cyanoacrylate (textbook: 1.05 to 1.07)
_MOST_COATS = 60
_THIN_WITHIN, _AT_END = 0.1, 0.6  # of the length, of the thickness (practice)


@cache
def _shipped() -> dict[str, Any]:
    text = resources.files("orvek.data").joinpath("coats.json").read_text(encoding="utf-8")
    found: dict[str, Any] = json.loads(text)
    return found


@cache
def schools() -> tuple[CoatSchool, ...]:
    """The schools that ship (data/coats.json)."""
    return tuple(CoatSchool.model_validate(one) for one in _shipped()["schools"])


def drop_um(
    drop_mg: float, kept: float, diameter_mm: float, length_mm: float, density_g_ml: float = GLUE_G_ML
) -> float:
    """Thickness that one drop leaves on a barrel: m f / (ρ π d L). Derived.

    >>> round(drop_um(75, 0.5, 12, 55), 0)
    17.0
    """
    area_mm2 = math.pi * diameter_mm * length_mm
    return 1000 * drop_mg * kept / density_g_ml / area_mm2


def through_chance(coats_um: float, taken_um: float, cv: float) -> float:
    """Chance that levelling goes through: Φ(−(T − R) / √(sT² + sR²)), both spread by the same part of themselves.

    Source: textbook; the spreads are workshop estimates.

    >>> round(through_chance(36, 20, 0.3), 4)
    0.0977
    """
    if taken_um <= 0:
        return 0.0
    spread = math.hypot(cv * coats_um, cv * taken_um)
    return 0.5 * math.erfc((coats_um - taken_um) / spread / math.sqrt(2)) if spread > 0 else float(taken_um > coats_um)


def lies_part(at: float) -> float:
    """How thick coats lie at a part of a barrel's length, 0 to 1, as a part of the middle. Workshop practice.

    >>> lies_part(0.0), lies_part(0.5)
    (0.6, 1.0)
    """
    near = min(at, 1 - at) / _THIN_WITHIN
    return 1.0 if near >= 1 else _AT_END + (1 - _AT_END) * near


def coats_wanted(each_um: float, taken_um: float, cv: float, chance: float) -> int | None:
    """How many coats make the chance of going through no larger than this; None where no number does."""
    return next((n for n in range(1, _MOST_COATS + 1) if through_chance(n * each_um, taken_um, cv) <= chance), None)


def tool_size_mm(wanted_mm: float, sanded_um: float, coats_um: float, levelled_um: float) -> float:
    """The diameter at which the tool stops: D + 2 (S − (C − L)). Derived.

    Args:
        wanted_mm: of the finished barrel.
        sanded_um: taken off the bare barrel by the grits still to come, in depth.
        coats_um: put on.
        levelled_um: taken off the coats again.

    >>> round(tool_size_mm(12.0, 79, 0, 0), 2), round(tool_size_mm(12.0, 79, 137, 39), 2)
    (12.16, 11.96)
    """
    return wanted_mm + 2 * (sanded_um - (coats_um - levelled_um)) / 1000


def mandrel_bow(rod_mm: float, free_mm: float, torque_nm: float) -> tuple[float, float, float]:
    """Euler load, thrust of the nut and how many times a bow grows: π²EI/L², T/(0.2 d), 1/(1 − F/Pcr). Textbook.

    The ends are taken as pinned, steel of 200 GPa; at or beyond the Euler load the bow is infinite.
    """
    inertia = math.pi * rod_mm**4 / 64
    euler = math.pi**2 * 200e3 * inertia / free_mm**2
    thrust = torque_nm * 1000 / (0.2 * rod_mm)
    return euler, thrust, 1 / (1 - thrust / euler) if thrust < euler else math.inf
