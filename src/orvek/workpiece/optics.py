"""Light in a coloured wall: how much of what lies behind it shows through. Reflectances 0 to 1, walls in mm.

Textbook forms (Beer-Lambert, Kubelka-Munk, random platelets); every coefficient of a pigment is an estimate until a
chip was measured. It lies here, because the field's pictures are drawn with it.
"""

from __future__ import annotations

import math

from orvek.documents import Chip, Cup, Pigment, catalogue

DARK_REFLECTS, BRASS_REFLECTS, PAINT_REFLECTS = (
    0.05,
    0.65,
    0.13,
)  # reflectance of a dark ground, of bare brass, of brass painted in the base colour
HIDDEN, BORDERLINE = 0.98, 0.93  # contrast ratios: the hiding convention of paint (ISO 6504-3), and where doubt begins
HIDDEN_DIFFERENCE = 0.02  # of reflectance, for clear colours, where the ratio says little
_MIX_G_ML = 1.1
_NO_SCATTER = 1e-6
_BLACK_CARD, _WHITE_CARD = 0.04, 0.85  # reflectances of printed test cards (workshop practice)


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


def transmittance(absorbed: float, scattered: float) -> float:
    """Part of the light that a layer lets through, from KX and SX.

    Kubelka-Munk: T = b/(a·sinh bSX + b·cosh bSX); for K = 0 its limit 1/(1 + SX), for S = 0 that of Beer.

    >>> round(transmittance(0.5, 0.0), 4), round(transmittance(0.0, 3.0), 4)
    (0.6065, 0.25)
    """
    if scattered < _NO_SCATTER:
        return math.exp(-absorbed)
    a = 1 + absorbed / scattered
    b = math.sqrt(a * a - 1)
    x = b * scattered
    if x < 1e-6:
        return 1 / (1 + scattered)
    if x > 300:
        return 0.0
    return b / (a * math.sinh(x) + b * math.cosh(x))


def contrast_ratio(absorbed: float, scattered: float, behind: float = BRASS_REFLECTS) -> float:
    """Reflectance over a dark ground by that over what really lies behind; 1 hides it."""
    over = wall_reflectance(absorbed, scattered, behind)
    return wall_reflectance(absorbed, scattered, DARK_REFLECTS) / over if over > 0 else 1.0


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
    return (*light_of_chip(pigment.chip), True)


def wall_of(cup: Cup, wall_mm: float, strength: float = 1.0) -> tuple[float, float]:
    """KX and SX of a cup's colour in a wall, so many times as strong as its pigments are thought to be."""
    absorbed = scattered = 0.0
    for dose in cup.pigments:
        scatters, absorbs, _ = light_of(dose.pigment)
        area = area_mass_g_m2(dose.load_pct / 100, _MIX_G_ML, wall_mm)
        absorbed, scattered = absorbed + absorbs * area, scattered + scatters * area
    return absorbed * strength, scattered * strength


def passes(cup: Cup, wall_mm: float, behind: float = BRASS_REFLECTS, strength: float = 1.0) -> float:
    """Part of the contrast behind a wall that still shows: 1 for clear resin, 0 for what hides all."""
    absorbed, scattered = wall_of(cup, wall_mm, strength)
    seen = wall_reflectance(absorbed, scattered, behind) - wall_reflectance(absorbed, scattered, DARK_REFLECTS)
    return max(0.0, min(1.0, seen / (behind - DARK_REFLECTS)))


def light_of_chip(chip: Chip) -> tuple[float, float]:
    """Scattering and absorbing area (m²/g) of the pigment in a chip that was measured over black and over white.

    A layer of reflectance R0 (over nothing) and transmittance T over a ground g shows R0 + T²·g/(1 − R0·g). Two
    grounds give both; Kubelka-Munk turns them into KX and SX: a = (1 + R0² − T²)/(2·R0), b = √(a² − 1),
    coth(b·SX) = (1/R0 − a)/b; without scattering KX = −ln T. Readings that contradict each other (darker over white
    than over black) are taken as a chip that lets nothing through. Source: Kubelka, Munk; textbook forms.
    """
    black, white = chip.over_black, max(chip.over_white, chip.over_black)
    own, through = _layer_of(black, white)
    area = area_mass_g_m2(chip.load_pct / 100, _MIX_G_ML, chip.thickness_mm)
    if own < _NO_SCATTER:
        return 0.0, -0.5 * math.log(through) / area
    a = max(1 + 1e-9, (1 + own * own - through) / (2 * own))
    b = math.sqrt(a * a - 1)
    coth = max(1 + 1e-12, (1 / own - a) / b)
    scattered = math.atanh(1 / coth) / b
    return scattered / area, (a - 1) * scattered / area


def _layer_of(black: float, white: float) -> tuple[float, float]:
    """R0 and T² of a layer that shows `black` and `white` over the two cards; T² from 1e-6 to 0.9999."""
    low, high = 0.0, black
    for _ in range(60):  # R0 by halving: what R0 leaves for the white card grows as R0 falls
        own = (low + high) / 2
        through = (black - own) * (1 - own * _BLACK_CARD) / _BLACK_CARD
        seen = own + through * _WHITE_CARD / (1 - own * _WHITE_CARD)
        if seen > white:
            low = own
        else:
            high = own
    own = (low + high) / 2
    through = (white - own) * (1 - own * _WHITE_CARD) / _WHITE_CARD
    return own, min(0.9999, max(1e-6, through))
