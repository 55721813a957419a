"""A scale's lines as scales send them, over a port that is one: a pair of terminals made for the test."""

from __future__ import annotations

import itertools
import os
import pty
import statistics
import subprocess
import sys
import tty

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.devices import SIMULATED, Reading, open_scale, reading_of
from orvek.devices.simulated import Pour, line_of, masses, open_terminal
from orvek.documents.job.pour import Scale
from orvek.errors import NotPluggedInError


@pytest.mark.parametrize(
    ("line", "reading"),
    [
        ("ST,GS,+   40.53 g", Reading(40.53, True)),
        ("US,GS,+   40.61 g", Reading(40.61, False)),
        ("S S     40.53 g", Reading(40.53, True)),
        ("S D     40.60 g", Reading(40.60, False)),
        ("   40,53 g", Reading(40.53, True)),
        ("0.0405kg", Reading(40.5, True)),
        ("-  0.02 g", Reading(-0.02, True)),
        ("1.430 oz", Reading(1.43 * 28.349523125, True)),
        ("40.5", Reading(40.5, True)),
        ("40.5 pcs", None),
        ("OVERLOAD", None),
        ("", None),
    ],
)
def test_lines_as_scales_send_them(line: str, reading: Reading | None) -> None:
    found = reading_of(line)
    assert (found is None) == (reading is None)
    if found is not None and reading is not None:
        assert found.mass_g == pytest.approx(reading.mass_g, abs=1e-5)
        assert found.is_steady == reading.is_steady


@pytest.mark.parametrize(
    ("line", "like", "mass_g"),
    [
        ("T 12.00 N 40.53 B 3", "N {weight} B", 40.53),
        ("n40,53b", "N {weight} B", 40.53),
        ("W+0.0405kg;", "W{weight}", 40.5),
        ("1.430 oz net", "{weight} oz", 1.43 * 28.349523125),
        ("[-2.5] (x)", "[{weight}]", -2.5),
        ("40.53 g", "N {weight} B", None),
        ("N 40.53 C", "N {weight} B", None),
    ],
)
def test_a_maker_says_how_the_lines_of_his_scale_look(line: str, like: str, mass_g: float | None) -> None:
    found = reading_of(line, like)
    assert (found.mass_g if found else None) == (pytest.approx(mass_g, abs=1e-5) if mass_g is not None else None)


@pytest.mark.parametrize("like", ["N B", "{weight} {weight}"])
def test_a_line_says_once_where_the_weight_stands(like: str) -> None:
    with pytest.raises(ValueError, match="weight"):
        Scale(name="Odd", resolution_g=0.1, line=like)


@given(st.text(max_size=40), st.text(max_size=20), st.text(max_size=20))
def test_no_line_breaks_the_reader(line: str, before: str, after: str) -> None:
    reading_of(line)
    reading_of(line, f"{before}{{weight}}{after}")


def test_a_port_is_read_with_the_lines_and_the_speed_that_the_scale_has() -> None:
    ours, theirs = pty.openpty()
    tty.setraw(theirs)
    scale = open_scale(os.ttyname(theirs), 2400, "N {weight} B")
    try:
        os.write(ours, b"T 12.00 N 40.53 B 3\r\nnonsense\r\n")
        assert _until_read(scale) == Reading(40.53, True)
        assert scale.heard == "nonsense"
    finally:
        scale.close()
        os.close(ours)
        os.close(theirs)


def test_a_scale_on_a_port_is_read_without_waiting() -> None:
    ours, theirs = pty.openpty()
    tty.setraw(theirs)
    scale = open_scale(os.ttyname(theirs), 9600)
    try:
        assert scale.read() is None
        os.write(ours, b"US,GS,+  40.10 g\r\nST,GS,+  40.5")
        found = _until_read(scale)
        assert found == Reading(40.1, False)
        os.write(ours, b"3 g\r\n")
        assert _until_read(scale) == Reading(40.53, True), "a line that came in two parts"
    finally:
        scale.close()
        os.close(ours)
        os.close(theirs)


def _until_read(scale: object) -> Reading | None:
    for _ in range(100_000):
        found = scale.read()  # type: ignore[attr-defined]
        if found is not None:
            return found  # type: ignore[no-any-return]
    return None


def test_nothing_there_is_a_sentence() -> None:
    with pytest.raises(NotPluggedInError, match="No scale answers at /dev/no-such-scale"):
        open_scale("/dev/no-such-scale", 9600)
    with pytest.raises(NotPluggedInError):
        open_scale("", 9600)
    for address in ("socket://localhost:9", "rfc2217://localhost:9", "loop://"):
        with pytest.raises(NotPluggedInError):
            open_scale(address, 9600)


def test_the_scale_that_ships_settles() -> None:
    scale = open_scale(SIMULATED, 9600)
    readings = [scale.read() for _ in range(6)]
    assert readings[0] is not None
    assert not readings[0].is_steady
    assert readings[-1] == Reading(42.5, True)
    scale.close()


@given(st.floats(2, 400), st.integers(0, 1000))
def test_a_simulated_pour_lags_jitters_goes_past_and_comes_to_rest(target_g: float, seed: int) -> None:
    pour = Pour(target_g=target_g, rate_g_s=max(4.0, target_g / 20))
    shown = list(itertools.islice(masses(pour, seed), 900))
    assert abs(shown[0][0]) < pour.rate_g_s
    assert not shown[5][1], "it moves at first"
    assert target_g < statistics.median(mass for mass, _ in shown[-100:]) < target_g + 2, "past what was wanted"
    assert all(steady for _, steady in shown[-50:])
    assert len({mass for mass, _ in shown[-50:]}) > 1, "it jitters to the end"


def test_the_serial_code_reads_the_simulated_scale() -> None:
    """A whole pour as a program of its own, in grams and in ounces; a flood of lines and nonsense are stood."""
    for unit in ("g", "oz"):
        command = [sys.executable, "-m", "orvek.devices.simulated", "--target", "12", "--unit", unit]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as program:
            assert program.stdout is not None
            scale = open_scale(program.stdout.readline().strip(), 9600)
            found = _until_read(scale)
            assert found is not None
            assert -1 < found.mass_g < 15
            program.kill()
        scale.close()
    here, place = open_terminal()
    scale = open_scale(place, 9600)
    os.write(here, b"".join(line_of(n / 10, is_steady=True) for n in range(150)) + b"\xff\x00banana\r\n-1 lb\r\n")
    while (found := _until_read(scale)) is not None and found.mass_g > 0:
        pass  # a flood comes in several pieces
    assert found == Reading(-453.59237, True)
    scale.close()
    os.close(here)
