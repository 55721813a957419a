"""Seeded waves: the swirl of a casting and the natural edge of a slab are sums of a few of them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

OCTAVES = 3
GROUPS = 3  # two bend the third
WAVE = 5  # kz, kx, ky in turns a mm, phase in turns, amplitude
STRETCH = 0.45  # the swirl is drawn out along the bar
BEND_MM = 9.0


def swirl_waves(seed: int, scale: float = 1.0, stretch: float = 1.0, contrast: float = 1.0) -> NDArray[np.float64]:
    """The waves of a swirl: (GROUPS, OCTAVES, WAVE). The same seed gives the same swirl.

    `scale` makes it coarser, `stretch` draws it out along the bar, less `contrast` stirs it finer.
    """
    generator = np.random.default_rng(seed)
    waves = np.empty((GROUPS, OCTAVES, WAVE))
    for group, wavelength_mm in enumerate((34.0, 34.0, 19.0)):
        for octave in range(OCTAVES):
            turn, tilt, phase = generator.uniform(0, 1, 3)
            k = 1.9**octave / wavelength_mm
            heading, dip = 2 * np.pi * turn, np.pi * (tilt - 0.5)
            waves[group, octave] = (
                k * np.cos(heading),
                k * np.sin(heading) * np.cos(dip),
                k * np.sin(heading) * np.sin(dip),
                phase,
                (0.42 + 0.45 * (1 - contrast)) ** octave,
            )
    waves[:, :, :3] /= scale
    waves[:, :, 0] /= stretch
    waves[:2, :, 4] *= scale
    return waves


def swirl_pattern(
    waves: NDArray[np.float64], x: NDArray[np.floating], y: NDArray[np.floating], z: NDArray[np.floating]
) -> NDArray[np.floating]:
    """The swirl at points: a number whose level sets are the borders between the cups."""
    along = z * STRETCH
    bend_z, bend_x = (_sum(waves[group], x, y, along) for group in range(2))
    return _sum(waves[2], x + BEND_MM * bend_x, y, along + BEND_MM * bend_z)


def edge_waves(seed: int) -> NDArray[np.float64]:
    """A natural edge: (OCTAVES, 3) of wave number along z, across it, and phase."""
    generator = np.random.default_rng(seed + 10_000)
    waves = np.empty((OCTAVES, 3))
    for octave, wavelength_mm in enumerate((61.0, 27.0, 11.0)):
        lean, phase = generator.uniform(-0.5, 0.5), generator.uniform(0, 1)
        k = 1 / wavelength_mm
        waves[octave] = (k, k * lean, phase)
    return waves


def wave(turns: NDArray[np.floating]) -> NDArray[np.floating]:
    """A sine of whole turns as two parabolas: quick, and good enough for grain and swirl.

    >>> wave(np.array([0.0, 0.25, 0.5, 0.75])).tolist()
    [0.0, 1.0, -0.0, -1.0]
    """
    t = turns - np.floor(turns)
    side = np.where(t < 0.5, 1.0, -1.0)
    result: NDArray[np.floating] = side * (1 - 16 * (t - 0.5 + 0.25 * side) ** 2)
    return result


def _sum(
    waves: NDArray[np.float64], x: NDArray[np.floating], y: NDArray[np.floating], z: NDArray[np.floating]
) -> NDArray[np.floating]:
    total = np.zeros(np.broadcast_shapes(x.shape, y.shape, z.shape))
    for kz, kx, ky, phase, amplitude in waves:
        total += amplitude * wave(kz * z + kx * x + ky * y + phase)
    return total
