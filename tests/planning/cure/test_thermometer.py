"""A thermometer's log: columns of all sorts, gaps and Fahrenheit said, nonsense refused."""

from __future__ import annotations

import pytest

from orvek.errors import NotUnderstoodError
from orvek.planning.cure.thermometer import thermometer_log


@pytest.mark.parametrize(
    "text",
    [
        "min;°C\n0;21,5\n10;30,1\n20;62,4\n30;50",
        "0 21.5\n10 30.1\n20 62.4\n30 50",
        "0,21.5\n10,30.1\n20,62.4\n30,50",
        "0:00\t21.5\n0:10\t30.1\n0:20\t62.4\n0:30\t50",
        "time,temp\n0, 70.7°F\n10, 86.2°F\n20, 144.3°F\n30, 122°F",
    ],
)
def test_the_hottest_moment_is_found(text: str) -> None:
    log = thermometer_log(text)
    assert log.peak_c == pytest.approx(62.4, abs=0.1)
    assert log.peak_min == 20
    assert log.warnings == ()


def test_gaps_and_fahrenheit_are_said() -> None:
    gap = thermometer_log("\n".join(f"{t} {20 + t / 10}" for t in (0, 1, 2, 3, 4, 5, 60, 61)))
    assert "gap of 55 min" in gap.warnings[0]
    warm = thermometer_log("0 70\n1 71\n2 100")
    assert "looks like °F" in warm.warnings[0]
    assert warm.peak_c == pytest.approx(37.8, abs=0.1)
    back = thermometer_log("0 20\n5 21\n3 22\n6 23")
    assert any("backwards" in words for words in back.warnings)


@pytest.mark.parametrize("text", ["", "banana", "1 2\n", "a;b\nc;d\ne;f"])
def test_nonsense_is_refused(text: str) -> None:
    with pytest.raises(NotUnderstoodError, match="fewer than three lines"):
        thermometer_log(text)
