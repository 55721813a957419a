"""A scale of software on a pseudo-terminal, read by the very code that reads a real one.

`python -m orvek.devices.simulated` says where it is plugged in, and pours.

It does what a scale on a bench does while something is poured: it lags, jitters, drifts a little, and goes past what
was wanted because a stream is still in the air.
"""

from __future__ import annotations

import argparse
import os
import random
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass

_DROPS_G = 0.35  # in the air when the hand stops


@dataclass(frozen=True, slots=True)
class Pour:
    """What is poured: up to how much, how fast, and how restless the scale is."""

    target_g: float = 42.0
    rate_g_s: float = 4.0
    lines_a_second: float = 10.0
    jitter_g: float = 0.03
    drift_g_min: float = 0.05
    resolution_g: float = 0.01


def masses(pour: Pour, seed: int = 1) -> Iterator[tuple[float, bool]]:
    """What the scale shows, line by line, and whether it says that it is steady; it never ends."""
    chance, shown, on, line = random.Random(seed), 0.0, 0.0, 0
    while True:
        seconds = line / pour.lines_a_second
        near = max(0.08, min(1.0, (pour.target_g - on) / 8.0))  # the hand pours slower towards the end
        if on < pour.target_g:
            on += pour.rate_g_s * near / pour.lines_a_second
        lying = on + (_DROPS_G if on >= pour.target_g else 0.0)
        shown += (lying - shown) * 0.45  # the scale lags behind what lies on it
        drift = pour.drift_g_min * seconds / 60
        value = shown + drift + chance.gauss(0, pour.jitter_g)
        steady = abs(lying - shown) < 2 * pour.resolution_g
        yield round(round(value / pour.resolution_g) * pour.resolution_g, 3), steady
        line += 1


def line_of(mass_g: float, *, is_steady: bool, unit: str = "g") -> bytes:
    """One line as such scales send it.

    >>> line_of(40.5, is_steady=True)
    b'ST,NT,+   40.50 g\\r\\n'
    """
    value = mass_g / 28.349523125 if unit == "oz" else mass_g
    sign = "-" if value < 0 else "+"
    return f"{'ST' if is_steady else 'US'},NT,{sign}{abs(value):8.2f} {unit}\r\n".encode()


def open_terminal() -> tuple[int, str]:
    """A pseudo-terminal: what is written to the number comes out at the path."""
    import pty
    import tty

    here, there = pty.openpty()
    tty.setraw(there)
    return here, os.ttyname(there)


def main(arguments: list[str] | None = None) -> int:
    """Say where the scale is plugged in, and pour until it is interrupted."""
    parser = argparse.ArgumentParser(prog="python -m orvek.devices.simulated", description="A scale of software.")
    parser.add_argument("--target", type=float, default=42.0, metavar="G", help="what is poured, in grams")
    parser.add_argument("--unit", choices=["g", "oz"], default="g")
    parser.add_argument("--lines", type=int, default=0, metavar="N", help="end after so many lines; 0: never")
    options = parser.parse_args(arguments)
    pour = Pour(target_g=max(0.1, options.target))
    here, place = open_terminal()
    print(place, flush=True)
    try:
        for number, (mass, steady) in enumerate(masses(pour), 1):
            os.write(here, line_of(mass, is_steady=steady, unit=options.unit))
            if options.lines and number >= options.lines:
                break
            time.sleep(1 / pour.lines_a_second)
    except (KeyboardInterrupt, OSError):
        return 0
    return 0


if __name__ == "__main__":
    sys.exit(main())
