"""The pages Cure, Bubbles and Colour of the station Pour, driven while forecasts run."""

from __future__ import annotations

from datetime import date, timedelta
from pathlib import Path

import pytest
from PySide6.QtCore import QPointF
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QPushButton
from pytestqt.qtbot import QtBot

from orvek.cards.every import cure_card, cure_rows
from orvek.cards.pour_card import cautions_of
from orvek.documents import Chip, CureLog, Pot
from orvek.planning import Station
from orvek.planning.cure.results import CureForecast
from orvek.quantities import write_day
from orvek.window.main_window import MainWindow
from tests.cards.test_pour_card import words_of
from tests.window.hands import drag

CURE, BUBBLES, COLOUR = 1, 2, 3


@pytest.fixture
def pour(window: MainWindow) -> MainWindow:
    """The demo job at Pour, its page Cure open."""
    window.open_station(Station.POUR)
    window.at("Pour").tabs.choose(CURE)
    return window


def answered(window: MainWindow, qtbot: QtBot) -> CureForecast:
    qtbot.waitUntil(
        lambda: (
            not window.session.answers.forecasters["cure"].is_busy()
            and window.session.answers.forecasters["cure"].answer() is not None
        ),
    )
    QApplication.processEvents()
    forecast = window.session.answers.forecasters["cure"].answer()
    assert forecast is not None
    return forecast


def test_the_answer_comes_with_its_course_and_its_section(pour: MainWindow, qtbot: QtBot) -> None:
    forecast = answered(pour, qtbot)
    page = pour.at("Pour").cure
    assert "ready to drill" in page.answer.text()
    assert page.waiting.isHidden()
    assert page.chart is not None
    before = page.section.grab().toImage()
    page.slider.setValue(0)
    assert page.section.grab().toImage() != before
    assert "0 to 0 % cured" in page.section.words()
    assert forecast.frames is not None
    assert page.slider.maximum() == len(forecast.frames.time_min) - 1


@pytest.mark.fresh_answers
def test_a_boundary_is_dragged_while_a_forecast_runs(pour: MainWindow, qtbot: QtBot) -> None:
    """The window goes on, the last question wins, and what was left behind is given up."""
    qtbot.waitUntil(
        lambda: (
            pour.session.answers.forecasters["cure"]._work is not None
            and pour.session.answers.forecasters["cure"]._work.isRunning()
        ),
    )
    begun = pour.session.answers.forecasters["cure"]._work
    pour.at("Pour").tabs.choose(0)
    cups = pour.at("Pour").weigh.cups
    edge = cups.boundary(0)
    share = pour.session.job.cast.cups[0].share
    places = [QPointF(edge.x() - 2 * n, edge.y()) for n in range(1, 20)]
    drag(cups, edge, *places)
    assert pour.session.job.cast.cups[0].share != share
    assert begun.is_cancelled
    grams = pytest.approx(pour.session.plan.mixture.cups[0].mass_g.value, abs=0.06)
    work = pour.session.answers.forecasters["cure"]
    qtbot.waitUntil(lambda: work._work is not None and work._work.isRunning() and work._work is not begun)
    assert work._work.question.cups_g[0] == grams
    pour.open_station(Station.PEN)  # nobody asks any more


def test_conditions_typed_at_the_page_change_the_answer(pour: MainWindow, qtbot: QtBot) -> None:
    answered(pour, qtbot)
    page = pour.at("Pour").cure
    menu = QMenu()
    page._fill_days(menu, "drill_on", "To be drilled on")
    menu.actions()[3].trigger()
    there = pour.session.job.pour.conditions
    assert (there.poured_on, there.drill_on) == (date.today(), date.today() + timedelta(days=2))
    line = page._fields["drill_h"].line
    line.setFocus()
    line.selectAll()
    QTest.keyClicks(line, "9:30")
    line.editingFinished.emit()
    assert pour.session.job.pour.conditions.drill_h == 9.5
    answered(pour, qtbot)
    day = write_day(date.today() + timedelta(days=2))
    assert f"you want to drill on {day} 09:30" in page.answer.text()
    line.selectAll()
    QTest.keyClicks(line, "banana")
    line.editingFinished.emit()
    assert "a time of day like 18:30" in page._fields["drill_h"].sentence()
    assert pour.session.job.pour.conditions.drill_h == 9.5


def test_remedies_of_the_forecast_stand_among_the_findings(pour: MainWindow, qtbot: QtBot) -> None:
    pour.session.edit(("batch", "shop_temperature_c"), 12.0, "Shop")
    there = pour.session.job.pour.conditions
    dated = there.with_(poured_on=date(2026, 11, 27), drill_on=date(2026, 11, 29))
    pour.session.edit(("pour", "conditions"), dated, "Day")
    answered(pour, qtbot)
    buttons = [button for button in pour.findings.findChildren(QPushButton) if "Warm" in button.toolTip()]
    assert buttons
    buttons[0].click()
    assert pour.session.job.pour.conditions.warm_c is not None
    pour.session.undo()
    assert pour.session.job.pour.conditions.warm_c is None


@pytest.mark.fresh_answers
def test_nobody_has_to_wait(pour: MainWindow, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: pour.session.answers.forecasters["cure"].is_busy())
    pour.at("Pour").cure.waiting.stop.click()
    assert not pour.session.answers.forecasters["cure"].is_busy()
    assert "No forecast yet" in pour.at("Pour").cure.answer.text()


def test_a_watched_cup_and_a_thermometer_s_log(
    pour: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    page, said = pour.at("Pour").cure, []
    pour.session.said.connect(said.append)
    (tmp_path / "nothing.csv").write_text("banana")
    page.take_file(str(tmp_path / "nothing.csv"))
    assert "fewer than three lines" in said[-1]
    begun: list[CureLog] = []

    def kept(_parent: object, _title: str, begin: CureLog, _units: object) -> CureLog:
        begun.append(begin)
        return begin

    monkeypatch.setattr("orvek.window.stations.cure.page.edit_document", kept)
    (tmp_path / "log.csv").write_text("0;70\n1;80\n2;150\n3;140")
    page.take_file(str(tmp_path / "log.csv"))
    assert "°F" in said[-1]
    assert begun[0].peak_c == pytest.approx(65.6)
    assert pour.session.shop.cure_log == tuple(begun)
    page._forget()
    assert pour.session.shop.cure_log == ()


@pytest.mark.long
def test_a_forecast_says_that_it_goes_by_a_watched_cup(pour: MainWindow, qtbot: QtBot) -> None:
    resin = pour.session.job.pour.resin
    assert resin is not None
    log = CureLog(resin=resin.name, mass_g=150, temperature_c=21, gel_min=90, peak_c=66)
    pour.session.change_shop("Watched", lambda shop: shop.with_(cure_log=(log,)))
    answered(pour, qtbot)
    assert "With 1 of your own cup" in pour.at("Pour").cure._trust.text()


def test_pressure_and_its_pot(pour: MainWindow) -> None:
    page = pour.at("Pour").bubbles
    pour.at("Pour").tabs.choose(BUBBLES)
    pour.session.edit(("pour", "pot"), None, "No pot")
    menu = QMenu()
    page._fill_ways(menu)
    menu.actions()[1].trigger()
    assert pour.session.job.pour.bubbles.way == "pressure"
    assert any(finding.title == "Which pot?" for finding in pour.session.plan.findings)
    pour.session.edit(("pour", "pot"), Pot(), "Take a pot")
    assert not any(finding.title == "Which pot?" for finding in pour.session.plan.findings)
    assert page._figures[0].value.text() == "64 %"
    before = page.picture.grab().toImage()
    pour.session.edit(("pour", "pot"), Pot(diameter_mm=120), "A small one")
    assert page.picture.grab().toImage() != before
    page.altitude.line.setText("1500")
    page.altitude.line.setModified(True)
    page.altitude.line.editingFinished.emit()
    assert pour.session.shop.preferences.altitude_m == 1500
    assert "never lean over it" in page._caution.text(), "the caution stands at the step"
    pour.session.edit(("pour", "bubbles", "way"), "vacuum", "Vacuum")
    assert "can implode" in page._caution.text()
    pour.session.edit(("pour", "conditions", "warm_c"), 45.0, "Warm")
    pour.at("Pour").tabs.choose(CURE)
    assert "never in a food oven" in pour.at("Pour").cure._caution.text()


def test_colours_are_painted_kept_and_measured(pour: MainWindow) -> None:
    page = pour.at("Pour").colour
    pour.at("Pour").tabs.choose(COLOUR)
    assert "Foam at Nib left: shows" in page.walls.accessibleDescription()
    menu = QMenu()
    page._fill_paints(menu, 0)
    menu.actions()[1].trigger()
    assert pour.session.job.blank.paints[0].where == "hole"
    assert "Foam at Nib left: hidden" in page.walls.accessibleDescription()
    cup = pour.session.job.cast.cups[0]
    page.keep_recipe(cup)
    page.take_recipe(1, pour.session.shop.recipes[0])
    assert pour.session.job.cast.cups[1].pigments == cup.pigments
    pour.session.undo()
    name = pour.session.job.cast.cups[1].pigments[0].pigment.name
    page.take_chip(name, Chip(thickness_mm=1, load_pct=2, over_black=0.79, over_white=0.8))
    assert "Foam at Cap right: hidden" in page.walls.accessibleDescription()


def test_the_cure_card_has_the_times_of_the_screen(pour: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    pour.session.edit(("pour", "bubbles", "way"), "pressure", "Pressure")
    pour.session.edit(("pour", "pot"), Pot(), "Pot")
    conditions = pour.session.job.pour.conditions.with_(warm_c=45.0, warm_after_min=900)
    pour.session.edit(("pour", "conditions"), conditions, "Warm")
    pour.cards.write("cure", tmp_path / "early.pdf")
    assert not (tmp_path / "early.pdf").exists()
    assert "not there yet" in pour.notice.text()
    forecast = answered(pour, qtbot)
    pour.cards.write("cure", tmp_path / "cure.pdf")
    words = words_of((tmp_path / "cure.pdf").read_bytes())
    units = pour.session.units
    rows = cure_rows(pour.session.plan, forecast, units)
    assert [row.after_min for row in rows] == sorted(row.after_min for row in rows)
    for row in rows:
        assert row.what.split(":")[0] in words
        assert row.when in words
    for caution in cautions_of(pour.session.plan):
        assert caution.words.split(":")[0] in words.replace("\n", " ")
    assert cure_card(pour.session.plan, forecast, pour.session.shop, date(2026, 11, 23))[:4] == b"%PDF"
