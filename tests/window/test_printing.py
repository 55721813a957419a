"""Cards on paper: what comes out of the printer is the card, page by page, at its own size."""

from __future__ import annotations

import gc
from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog
from pytestqt.qtbot import QtBot

from orvek.window.main_window import MainWindow
from orvek.window.printing import CardPreview, CardPrint

_DPI = 100


def _ink(pdf: bytes, page: int) -> np.ndarray:
    """Where a page is dark, at 100 dots to the inch."""
    document = pypdfium2.PdfDocument(pdf)
    grey = np.asarray(document[page].render(scale=_DPI / 72, grayscale=True).to_numpy())
    document.close()
    return grey.reshape(grey.shape[0], -1) < 140


def _printed(card: CardPrint, path: Path, pages: tuple[int, int] = (0, 0)) -> bytes:
    printer = QPrinter(QPrinter.PrinterMode.ScreenResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(path))
    printer.setResolution(200)
    printer.setFromTo(*pages)
    card.set_up(printer)
    card.put_on(printer)
    return path.read_bytes()


def _card(window: MainWindow, tmp_path: Path, kind: str) -> bytes:
    window.cards.write(kind, tmp_path / f"{kind}.pdf")
    return (tmp_path / f"{kind}.pdf").read_bytes()


def test_a_millimetre_of_the_card_is_one_on_paper(window: MainWindow, tmp_path: Path) -> None:
    pdf = _card(window, tmp_path, "pour")
    came_out = _printed(CardPrint(pdf), tmp_path / "out.pdf")
    drawn, printed = (np.argwhere(_ink(one, 0)) for one in (pdf, came_out))
    for end in (np.min, np.max):
        assert np.abs(end(drawn, axis=0) - end(printed, axis=0)).max() <= 2, "half a millimetre at the paper's far end"


def test_the_pages_that_were_chosen_are_printed(window: MainWindow, tmp_path: Path) -> None:
    pdf = _card(window, tmp_path, "report")
    card = CardPrint(pdf)
    assert len(card) >= 2
    both = _printed(card, tmp_path / "all.pdf")
    second = _printed(card, tmp_path / "second.pdf", (2, 2))
    assert [len(pypdfium2.PdfDocument(one)) for one in (both, second)] == [len(card), 1]
    assert (_ink(second, 0) == _ink(both, 1)).mean() > 0.999


def test_the_preview_shows_the_pages_as_finely_as_a_screen(
    window: MainWindow, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    made, image = [], CardPrint.image
    monkeypatch.setattr(CardPrint, "image", lambda card, page, dpi: (made.append(dpi), image(card, page, dpi))[1])
    dialog = CardPreview(window, "pour card", _card(window, tmp_path, "pour"))
    gc.collect()
    qtbot.addWidget(dialog)
    dialog.show()
    qtbot.waitUntil(lambda: dialog.page_count() == 1)
    assert dialog.windowTitle() == "Print: pour card"
    assert set(made) == {200}


def test_ctrl_p_prints_the_card_of_the_page(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    titles: list[str] = []
    monkeypatch.setattr(QPrintPreviewDialog, "exec", lambda dialog: titles.append(dialog.windowTitle()))
    window.frame.activateWindow()
    for page in ("weigh", "pen"):
        window.open_named(page)
        qtbot.keyClick(window.frame, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    assert titles == ["Print: Tideline, pour card"] * 2
    window.open_named("cuts")
    window.menus._print()
    assert len(titles) == 2
    assert "cut" in window.notice.text(), "why there is no cut list is said"
