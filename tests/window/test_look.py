"""What can be said about the look without eyes: contrast, room for words, pictures that answer to the plan."""

from __future__ import annotations

import pytest
from PySide6.QtGui import QColor, QFontInfo, QImage

from orvek.documents import deeds
from orvek.planning import Station
from orvek.window import theme
from orvek.window.main_window import MainWindow


def luminance(colour: QColor) -> float:
    """Relative luminance, WCAG 2."""
    parts = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in colour.getRgbF()[:3]]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


def contrast(one: QColor, other: QColor) -> float:
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("ground", [theme.PAPER, theme.PANEL], ids=["paper", "panel"])
@pytest.mark.parametrize("ink", [theme.INK, theme.QUIET, theme.ACCENT, theme.STOP, theme.CAUTION, theme.BRASS_DARK])
def test_words_can_be_read(ink: QColor, ground: QColor) -> None:
    assert contrast(ink, ground) >= 4.5


def test_words_on_a_tube_can_be_read() -> None:
    assert contrast(theme.INK, theme.BRASS) >= 4.5


def test_the_shipped_font_is_used(window: MainWindow) -> None:
    assert QFontInfo(window.font()).family().startswith(theme.FAMILY)


def image_of(window: MainWindow) -> QImage:
    return window.strip.grab().toImage()


def test_the_strip_shows_brass_where_the_tubes_are_and_not_between(window: MainWindow) -> None:
    window.open_station(Station.BLANK)
    strip, image = window.strip, image_of(window)
    for index in range(2):
        area = strip.tube_rect(index).toRect()
        edge = image.pixelColor(area.center().x(), area.top())
        assert abs(edge.hue() - theme.BRASS_DARK.hue()) < 25  # blended with what lies beside it
        assert edge.saturationF() > 0.25
        # The pattern is seen through the tube: it has more than one colour there.
        inside = {image.pixelColor(x, area.bottom() - 4).rgb() for x in range(area.left() + 6, area.right() - 6)}
        assert len(inside) > 20
    between = (strip.tube_rect(0).right() + strip.tube_rect(1).left()) / 2
    assert image.pixelColor(int(between), int(strip.bar_rect().center().y())).saturationF() < 0.3


def test_a_picture_changes_with_its_plan(window: MainWindow) -> None:
    window.open_station(Station.POUR)
    window.fold_strip()
    before = (
        window.at("Pour").weigh.mould.grab().toImage(),
        window.at("Pour").weigh.cups.grab().toImage(),
        image_of(window),
    )
    window.session.attempt("Share", lambda job: deeds.move_boundary(job, 0, 20))
    after = (
        window.at("Pour").weigh.mould.grab().toImage(),
        window.at("Pour").weigh.cups.grab().toImage(),
        image_of(window),
    )
    assert all(one != other for one, other in zip(before, after, strict=True))
    window.session.undo()
    assert image_of(window) == before[2]


@pytest.mark.parametrize("mould", range(4))
def test_every_kind_of_mould_and_any_number_of_barrels_is_painted(window: MainWindow, mould: int) -> None:
    session = window.session
    session.attempt("Mould", lambda job: deeds.choose_mould(job, session.shop.moulds[mould]))
    session.attempt("Barrel", deeds.add_barrel)
    session.attempt("Barrel", deeds.add_barrel)
    for station in Station:
        window.open_station(station)
        assert not window.grab().isNull()
    assert len(window.at("Pen").picture.handles()) == 12
