"""Light in a coloured wall: how much of what lies behind it shows through. Reflectances 0 to 1, walls in mm.

Textbook forms (Beer-Lambert, Kubelka-Munk, random platelets); every coefficient of a pigment is an estimate until a
chip was measured. It lies here, because the field's pictures are drawn with it.
"""

from __future__ import annotations

import math

from orvek.documents import Chip, Cup, Pigment, catalogue

DARK, BRASS, PAINTED = (
    0.05,
    0.65,
    0.13,
)  # reflectance of a dark ground, of bare brass, of brass painted in the base colour
HIDDEN, BORDERLINE = 0.98, 0.93  # contrast ratios: the hiding convention of paint (ISO 6504-3), and where doubt begins
HIDDEN_DIFFERENCE = 0.02  # of reflectance, for clear colours, where the ratio says little
_MIX_G_ML = 1.1
_NO_SCATTER = 1e-6


def beer_difference(at_first: float, absorbs_per_mm: float, wall_mm: float) -> float:
    """Difference of reflectance left after the light went through a clear wall twice: dR0·exp(−2μt)."""
    return at_first * math.exp(-2 * absorbs_per_mm * wall_mm)


def beer_needed_per_mm(at_first: float, limit: float, wall_mm: float) -> float:
    """μ that brings the difference down to a limit: ½·ln(dR0/dR)/t."""
    return 0.5 * math.log(at_first / limit) / wall_mm


def wall_reflectance(absorbed: float, scattered: float, behind: float) -> float:
    """Kubelka-Munk: reflectance of a layer over a ground, from KX, SX and the ground's reflectance.

    R = (1 − Rg(a − b·coth bSX))/(a − Rg + b·coth bSX), a = 1 + K/S, b = √(a² − 1); for K = 0 its limit
    ((1 − Rg)·SX + Rg)/((1 − Rg)·SX + 1), for S = 0 that of Beer.
    """
    if scattered < _NO_SCATTER:
        return behind * math.exp(-2 * absorbed)
    a = 1 + absorbed / scattered
    b = math.sqrt(a * a - 1)
    x = b * scattered
    if x < 1e-6:
        return ((1 - behind) * scattered + behind) / ((1 - behind) * scattered + 1)
    coth = 1 / math.tanh(x)
    return (1 - behind * (a - b * coth)) / (a - behind + b * coth)


def contrast_ratio(absorbed: float, scattered: float, behind: float = BRASS) -> float:
    """Reflectance over a dark ground by that over what really lies behind; 1 hides it."""
    over = wall_reflectance(absorbed, scattered, behind)
    return wall_reflectance(absorbed, scattered, DARK) / over if over > 0 else 1.0


def platelets(load: float, mix_g_ml: float, wall_mm: float, flake_g_ml: float, flake_um: float) -> tuple[float, float]:
    """Optical depth of randomly lying platelets, w·ρ·x/(2·ρf·tf), and the part they cover, 1 − exp(−τ)."""
    depth = load * mix_g_ml * wall_mm * 1000 / (2 * flake_g_ml * flake_um)
    return depth, 1 - math.exp(-depth)


def area_mass_g_m2(load: float, mix_g_ml: float, wall_mm: float) -> float:
    """Pigment in a wall, by area: w·ρ·x. About 20 g/m² of titanium white hide (paint practice)."""
    return load * mix_g_ml * 1000 * wall_mm


def light_of(pigment: Pigment) -> tuple[float, float, bool]:
    """Scattering and absorbing area of a pigment in m²/g, and whether a chip of it was measured."""
    kind = catalogue().kind(pigment.kind)
    scatters, absorbs = (kind.scatters.value, kind.absorbs.value) if kind else (0.1, 0.02)
    if pigment.chip is None:
        return scatters, absorbs, False
    factor = _chip_factor(pigment.chip, scatters, absorbs)
    return scatters * factor, absorbs * factor, True


def wall_of(cup: Cup, wall_mm: float) -> tuple[float, float]:
    """KX and SX of a cup's colour in a wall."""
    absorbed = scattered = 0.0
    for dose in cup.pigments:
        scatters, absorbs, _ = light_of(dose.pigment)
        area = area_mass_g_m2(dose.load_pct / 100, _MIX_G_ML, wall_mm)
        absorbed, scattered = absorbed + absorbs * area, scattered + scatters * area
    return absorbed, scattered


def passes(cup: Cup, wall_mm: float, behind: float = BRASS) -> float:
    """Part of the contrast behind a wall that still shows: 1 for clear resin, 0 for what hides all."""
    absorbed, scattered = wall_of(cup, wall_mm)
    seen = wall_reflectance(absorbed, scattered, behind) - wall_reflectance(absorbed, scattered, DARK)
    return max(0.0, min(1.0, seen / (behind - DARK)))


def _chip_factor(chip: Chip, scatters: float, absorbs: float) -> float:
    """By how much both areas must be scaled so that the chip looks as it was measured."""
    seen = min(0.9999, chip.over_black / chip.over_white)
    area = area_mass_g_m2(chip.load_pct / 100, _MIX_G_ML, chip.thickness_mm)
    low, high = -8.0, 8.0
    for _ in range(60):
        middle = (low + high) / 2
        factor = math.exp(middle) * area
        absorbed, scattered = absorbs * factor, scatters * factor
        over = wall_reflectance(absorbed, scattered, 0.85)  # white card
        if wall_reflectance(absorbed, scattered, 0.04) / over < seen:  # black card
            low = middle
        else:
            high = middle
    return math.exp((low + high) / 2)
