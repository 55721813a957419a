"""The maker's own locale: decimal commas in and out, names from right to left, text as large as the desktop's."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.cards.csv_table import csv_table
from orvek.cards.shelf_csv import read_shelf_csv, shelf_csv
from orvek.commands import line
from orvek.documents import first_shop
from orvek.quantities import Dimension, Units, decimal, read, use_decimal_mark, write, write_sizes
from orvek.window import application, places
from orvek.window.main_window import MainWindow
from orvek.window.widgets.label import Label, left_to_right


@pytest.fixture
def commas() -> Iterator[None]:
    use_decimal_mark(",")
    yield
    use_decimal_mark(".")


@pytest.mark.usefixtures("commas")
def test_numbers_are_written_with_the_mark_of_the_system() -> None:
    assert write(16.1, Dimension.LENGTH) == "16,1 mm"
    assert write(-0.04, Dimension.PERCENT) == "−0,04 %"
    assert write(41.25, Dimension.MASS, digits=2) == "41,25 g"
    assert write_sizes((20.0, 20.5, 132.0)) == "20 × 20,5 × 132 mm"
    assert (decimal(0.1), decimal(2.0, 1)) == ("0,1", "2,0")
    assert write(7.540625, Dimension.LENGTH, Units(length="inch fraction")) == "19/64 in"


@given(st.floats(0.01, 5000), st.sampled_from([Dimension.LENGTH, Dimension.MASS, Dimension.PERCENT]))
def test_what_is_written_with_a_comma_is_read_again(value: float, dimension: Dimension) -> None:
    use_decimal_mark(",")
    try:
        assert read(write(value, dimension, digits=3), dimension) == pytest.approx(value, abs=6e-4)
    finally:
        use_decimal_mark(".")


@pytest.mark.usefixtures("commas")
def test_a_table_goes_out_and_comes_back_with_commas() -> None:
    assert csv_table([["a", 2.5, "3.25", "1.2.3"]]) == b"a;2,5;3,25;1.2.3\r\n"
    pigments = first_shop().pigments
    written = shelf_csv(pigments)
    assert b";" in written
    assert read_shelf_csv(written.decode(), "pigments").things == pigments


@pytest.mark.usefixtures("commas")
def test_the_whole_window_speaks_so(window: MainWindow) -> None:
    window.session.refresh()
    words = [label.text() for label in window.findChildren(Label)]
    assert [one for one in words if re.search(r"\d,\d+ (mm|g)\b", one)]
    assert not [one for one in words if re.search(r"\d\.\d+ (mm|g|%)", one)]


def test_the_command_line_asks_the_system(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(line.locale, "localeconv", lambda: {"decimal_point": ","})
    assert line._decimal_mark_of_the_system() == ","
    monkeypatch.setenv("LC_ALL", "no_SUCH.locale")
    assert line._decimal_mark_of_the_system() == "."


def test_a_name_from_right_to_left_does_not_turn_a_sentence(window: MainWindow) -> None:
    assert left_to_right("Tideline: 16.1 mm") == "Tideline: 16.1 mm"
    assert left_to_right("חוף: 16.1 mm") == "\u200eחוף: 16.1 mm"
    window.session.edit(("batch", "name"), "חוף", "Rename the job")
    assert window.rail.head.name.text() == "\u200eחוף"
    assert window.session.job.batch.name == "חוף", "as it was typed"


def test_text_is_as_large_as_is_wanted(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    assert places.text_percent() == 0
    window.menus._texts[150].trigger()
    assert places.text_percent() == 150
    assert [percent for percent, action in window.menus._texts.items() if action.isChecked()] == [150]
    monkeypatch.delenv("QT_SCALE_FACTOR", raising=False)
    application.make_application(places.text_percent())
    assert os.environ["QT_SCALE_FACTOR"] == "1.5"
    places.settings().setValue("text", "huge")
    assert places.text_percent() == 0


_START = """
import sys
from orvek.window import application
from PySide6.QtWidgets import QApplication
asked = QApplication.font
class Large(QApplication):
    def font(self):
        found = super().font(); found.setPointSizeF(16.5); return found
application.QApplication = Large
application.os.execv = lambda program, words: (print(application.os.environ["QT_SCALE_FACTOR"]), sys.exit(0))
application.make_application(0)
print("as usual")
"""


def test_a_desktop_with_large_text_is_followed(tmp_path: Path) -> None:
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_CONFIG_HOME": str(tmp_path)}
    environment.pop("QT_SCALE_FACTOR", None)
    told = subprocess.run([sys.executable, "-c", _START], env=environment, capture_output=True, text=True)
    assert told.stdout.strip() == "1.5", told.stderr
