"""A scale's lines as scales send them, over a port that is one: a pair of terminals made for the test."""

from __future__ import annotations

import os
import pty
import tty

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.devices import SIMULATED, Reading, open_scale, reading_of
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


@given(st.text(max_size=40))
def test_no_line_breaks_the_reader(line: str) -> None:
    reading_of(line)


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
