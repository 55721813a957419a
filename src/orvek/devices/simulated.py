"""A scale, calipers or a probe of software on a pseudo-terminal, read by the very code that reads real ones.

`python -m orvek.devices.simulated` says where it is plugged in, and pours.

The scale does what one on a bench does while something is poured: it lags, jitters, drifts a little, and goes past what
was wanted because a stream is still in the air. The calipers close on a size, the probe comes near a temperature.
"""

from __future__ import annotations

import argparse
import os
import random
import sys
import time
from collections.abc import Iterator

from msgspec import Struct

_DROPS_G = 0.35  # in the air when the hand stops


class Pour(Struct, frozen=True):
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


def closing(target: float, seed: int = 1) -> Iterator[float]:
    """What calipers show while their jaws close on a size, or a probe while it becomes as warm as what it is in."""
    chance, shown = random.Random(seed), target * 1.6
    while True:
        shown += (target - shown) * 0.5
        yield round(shown + chance.gauss(0, 0.003 * max(1.0, abs(target) / 50)), 2)


def caliper_line(size_mm: float) -> bytes:
    """One line as calipers with a cable send it.

    >>> caliper_line(12.3)
    b'01A+0012.30 mm\\r\\n'
    """
    return f"01A{size_mm:+08.2f} mm\r\n".encode()


def probe_line(temperature_c: float) -> bytes:
    """One line as a thermometer with two probes sends it, the second one open.

    >>> probe_line(21.5)
    b'T1 21.50 C T2 ----\\r\\n'
    """
    return f"T1 {temperature_c:.2f} C T2 ----\r\n".encode()


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


def _lines(options: argparse.Namespace, pour: Pour) -> Iterator[bytes]:
    if options.kind == "scale":
        return (line_of(mass, is_steady=steady, unit=options.unit) for mass, steady in masses(pour))
    told = caliper_line if options.kind == "caliper" else probe_line
    return (told(value) for value in closing(options.target))


def main(arguments: list[str] | None = None) -> int:
    """Say where it is plugged in, and pour or measure until it is interrupted."""
    parser = argparse.ArgumentParser(prog="python -m orvek.devices.simulated", description="A device of software.")
    parser.add_argument("--kind", choices=["scale", "caliper", "thermometer"], default="scale")
    parser.add_argument("--target", type=float, default=42.0, metavar="N", help="what is poured or measured: g, mm, °C")
    parser.add_argument("--unit", choices=["g", "oz"], default="g")
    parser.add_argument("--lines", type=int, default=0, metavar="N", help="end after so many lines; 0: never")
    options = parser.parse_args(arguments)
    pour = Pour(target_g=max(0.1, options.target))
    here, place = open_terminal()
    print(place, flush=True)
    try:
        for number, line in enumerate(_lines(options, pour), 1):
            os.write(here, line)
            if options.lines and number >= options.lines:
                break
            time.sleep(1 / pour.lines_a_second)
    except (KeyboardInterrupt, OSError):
        return 0
    return 0


if __name__ == "__main__":
    sys.exit(main())
