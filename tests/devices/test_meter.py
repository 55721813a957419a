"""Calipers and thermometers: their lines, the serial code on a pseudo-terminal, and logs that grow."""

from __future__ import annotations

import itertools
import os
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.devices import Meter, MeterKind, open_meter, value_of
from orvek.devices.simulated import closing, open_terminal
from orvek.documents import MeterPlace
from orvek.errors import NotPluggedInError


@pytest.mark.parametrize(
    ("line", "kind", "value"),
    [
        ("01A+0012.34 mm", "caliper", 12.34),
        ("-0.02mm", "caliper", -0.02),
        ("0.500 in", "caliper", 12.7),
        ('0,500"', "caliper", 12.7),
        ("1.000 inch", "caliper", 25.4),
        ("12.34", "caliper", 12.34),
        ("12.34 g", "caliper", None),
        ("T1 21.5 C T2 ----", "thermometer", 21.5),
        ("68.0 °F", "thermometer", 20.0),
        ("293.15 K", "thermometer", 20.0),
        ("21,5", "thermometer", 21.5),
        ("ERROR", "thermometer", None),
        ("", "caliper", None),
    ],
)
def test_lines_as_calipers_and_thermometers_send_them(line: str, kind: MeterKind, value: float | None) -> None:
    found = value_of(line, kind)
    assert found == (pytest.approx(value, abs=1e-6) if value is not None else None)


def test_a_maker_says_how_the_lines_of_his_own_look() -> None:
    assert value_of("CH1=21.5 CH2=19.0", "thermometer", "CH1={value}") == 21.5
    assert value_of("CH2=19.0", "thermometer", "CH1={value}") is None
    with pytest.raises(ValueError, match="value"):
        MeterPlace(line="CH1=")


@given(st.text(max_size=40), st.text(max_size=20), st.sampled_from(["caliper", "thermometer"]))
def test_no_line_breaks_the_reader(line: str, before: str, kind: MeterKind) -> None:
    value_of(line, kind)
    value_of(line, kind, f"{before}{{value}}")


def until_read(meter: Meter) -> float | None:
    return next((value for value in (meter.read() for _ in range(200_000)) if value is not None), None)


@pytest.mark.parametrize(("kind", "target"), [("caliper", 12.8), ("thermometer", 22.0)])
def test_the_serial_code_reads_the_simulated_ones(kind: MeterKind, target: float) -> None:
    command = [sys.executable, "-m", "orvek.devices.simulated", "--kind", kind, "--target", str(target)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as program:
        assert program.stdout is not None
        meter = open_meter(kind, program.stdout.readline().strip(), 9600)
        found = until_read(meter)
        assert found is not None
        assert target * 0.9 < found < target * 1.7
        assert meter.heard
        program.kill()
    meter.close()
    assert list(itertools.islice(closing(target), 40))[-1] == pytest.approx(target, abs=0.05)


def test_one_that_is_pulled_out_or_not_there_is_named() -> None:
    here, place = open_terminal()
    meter = open_meter("caliper", place, 9600)
    os.close(here)
    with pytest.raises(NotPluggedInError, match="No calipers answer"):
        until_read(meter)
    meter.close()
    with pytest.raises(NotPluggedInError, match="No thermometer answers at /dev/none"):
        open_meter("thermometer", "/dev/none", 9600)


def test_a_log_that_grows_says_its_last_whole_line(tmp_path: Path) -> None:
    log = tmp_path / "probe.csv"
    log.write_text("time,probe\n2026-11-20 18:00,21.5\n", encoding="utf-8")
    meter = open_meter("thermometer", str(log), 9600)
    assert meter.read() == 21.5
    assert meter.read() is None, "nothing new"
    with log.open("a", encoding="utf-8") as more:
        more.write("2026-11-20 18:05,38.25 C\n2026-11-20 18:10,39")
    assert meter.read() == 38.25, "a row that is being written is waited for"
    with log.open("a", encoding="utf-8") as more:
        more.write(".5 C\n")
    assert meter.read() == 39.5
    with log.open("a", encoding="utf-8") as more:
        more.write("18:15;40,5\n")
    assert meter.read() == 40.5, "columns parted by semicolons, a decimal comma"
    meter.close()
    os.utime(log, (0, 0))
    assert open_meter("thermometer", str(log), 9600).read() is None, "what was measured long ago is not what is now"
    log.unlink()
    with pytest.raises(NotPluggedInError):
        meter.read()
