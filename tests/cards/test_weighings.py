"""A notebook's table of weights: read as it is written, and every line that is not taken says why."""

from __future__ import annotations

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.cards.weighings import read_weighings
from orvek.errors import OutOfBoundsError

NOW = datetime(2026, 11, 26, 10, 0)


def read(text: str) -> list[tuple[str, float] | str]:
    return [
        (f"{line.weighing.when:%Y-%m-%d %H:%M}", line.weighing.mass_g) if line.weighing else line.sentence
        for line in read_weighings(text, NOW).lines
    ]


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("when;g\n2026-11-20 18:30;40,5\n", ("2026-11-20 18:30", 40.5)),
        ("2026-11-20T18:30\t40.5 g", ("2026-11-20 18:30", 40.5)),
        ("20.11.2026 18:30   40.5", ("2026-11-20 18:30", 40.5)),
        ("20.11. 18:30, 40.5", ("2026-11-20 18:30", 40.5)),
        ("20/11/26 18:30, 40.5 g", ("2026-11-20 18:30", 40.5)),
        ("20 Nov 18:30  40,5 g", ("2026-11-20 18:30", 40.5)),
        ("11/20/2026 6:30 pm, 40.5", ("2026-11-20 18:30", 40.5)),
        ("30.12. 18:30  40.5", ("2025-12-30 18:30", 40.5)),
        ('"2026-11-20 18:30","40.5"', ("2026-11-20 18:30", 40.5)),
    ],
)
def test_days_as_notebooks_have_them(text: str, first: tuple[str, float]) -> None:
    assert read(text)[0] == first


def test_hours_after_the_first_weighing() -> None:
    assert read("0 40\n4 37.5\n8 h 36.4\n12:30  35.9") == [
        ("2026-11-26 10:00", 40),
        ("2026-11-26 14:00", 37.5),
        ("2026-11-26 18:00", 36.4),
        ("2026-11-26 22:30", 35.9),
    ]


def test_three_styles_in_one_table_and_what_is_wrong_is_said() -> None:
    text = (
        "2026-11-20 18:30;40\n21.11.2026 6:30;38\n22 Nov 18:30;37\nyesterday;36\n31.02.2026 8:00;36\n23.11. 8:00;much"
    )
    found = read(text)
    assert found[:3] == [("2026-11-20 18:30", 40), ("2026-11-21 06:30", 38), ("2026-11-22 18:30", 37)]
    assert [str(one).endswith(".") for one in found[3:]] == [True, True, True]
    assert "no day of any year" in found[4]
    assert "no weight" in found[5]
    assert read_weighings("01/02/2026 8:00;40\n02/02/2026 8:00;39", NOW).note == "Read with the day before the month."
    with pytest.raises(OutOfBoundsError):
        read_weighings("nothing here", NOW)
    with pytest.raises(OutOfBoundsError):
        read_weighings("\n".join(f"{n} 40" for n in range(400)), NOW)


@given(st.text("0123456789./-:; \t\ngahNov,T", max_size=80))
def test_no_table_breaks_the_reader(text: str) -> None:
    try:
        lines = read_weighings(text, NOW).lines
    except OutOfBoundsError:
        return
    assert all((line.weighing is None) == bool(line.sentence) for line in lines)
