"""Photos and the shelf: a corner dragged on a photo of twelve megapixels, faces laid flat, a shelf of 5,000 pieces."""

from __future__ import annotations

import io
import time
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from benchmarks.bench_plan import yardstick
from benchmarks.timing import best_of
from orvek.documents import Artwork, Corners, PhotoStep, PhotoView, Piece
from orvek.planning import Station
from orvek.quantities import Units
from orvek.store import fill_with_demo, open_workshop
from orvek.window.main_window import MainWindow
from orvek.window.photos.sheet import PhotoSheet
from orvek.window.session import Session
from orvek.workpiece import photo

_CORNERS: Corners = ((0.11, 0.42), (0.93, 0.36), (0.95, 0.53), (0.09, 0.60))


def twelve_megapixels(seed: int) -> Artwork:
    """A JPEG as a phone takes it."""
    rng = np.random.default_rng(seed)
    small = rng.integers(60, 200, (300, 400, 3)).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(small).resize((4000, 3000)).save(out, "JPEG", quality=90)
    return Artwork(name="Photo", content=out.getvalue())


def test_a_corner_is_dragged_on_twelve_megapixels(qtbot: QtBot) -> None:
    view = PhotoView(artwork=twelve_megapixels(1), corners=_CORNERS)
    sheet = PhotoSheet(None, PhotoStep(views=(view,)), Units())
    qtbot.addWidget(sheet)
    sheet.show()
    QApplication.processEvents()
    moves = iter(range(10_000))

    def drag() -> None:
        by = 0.0001 * (next(moves) % 100)
        corners = ((_CORNERS[0][0] + by, _CORNERS[0][1]), *_CORNERS[1:])
        sheet.photo._held = 0
        sheet._move(corners, ())
        sheet.photo.show_photo(sheet.photo._image, corners)
        sheet.repaint()

    seconds, stick = best_of(drag), best_of(yardstick)
    print(f"\na corner moved {1000 * seconds:.1f} ms, {seconds / stick:.2f} x the yardstick of {1000 * stick:.2f} ms")
    assert seconds / stick < 8  # 30 pictures a second where the yardstick takes 4 ms


def test_four_faces_are_laid_flat() -> None:
    views = tuple(PhotoView(artwork=twelve_megapixels(n), corners=_CORNERS, azimuth_deg=90.0 * n) for n in range(4))

    def lay_flat() -> None:
        for kept in (photo.upright, photo.face_of, photo.seen):
            kept.cache_clear()
        photo.seen(PhotoStep(views=views))

    seconds, stick = best_of(lay_flat), best_of(yardstick)
    print(f"\nfour faces of 12 MP laid flat {1000 * seconds:.0f} ms, {seconds / stick:.0f} x the yardstick")
    assert seconds / 4 / stick < 75  # 300 ms a face where the yardstick takes 4 ms


@pytest.mark.usefixtures("qtbot")
def test_a_shelf_of_five_thousand(tmp_path: Path) -> None:
    times = []
    for count in (0, 5000):
        workshop = open_workshop(tmp_path / f"{count}.sqlite")
        fill_with_demo(workshop)
        pieces = tuple(Piece(name=f"Piece {n}", length_mm=60 + n % 90, place=f"Bin {n % 40}") for n in range(count))
        workshop.save_shop(workshop.shop().with_(pieces=pieces))
        workshop.close()
        began = time.perf_counter()
        workshop = open_workshop(tmp_path / f"{count}.sqlite")
        window = MainWindow(Session(workshop))
        window.frame.show()
        window.open_station(Station.SHELF)
        QApplication.processEvents()
        times.append(time.perf_counter() - began)
        station = window.at(Station.SHELF)
        if count:
            station.list.scrollToBottom()
            began = time.perf_counter()
            for n in range(20):
                station.list.verticalScrollBar().setValue(n * 3000)
                station.list.viewport().repaint()
            print(f"\na scrolled picture of 5,000 pieces {1000 * (time.perf_counter() - began) / 20:.1f} ms")
        window.frame.close()
        window.surface.wait()
    print(f"\nan empty shelf opens in {times[0]:.2f} s, one of 5,000 in {times[1] - times[0]:.2f} s more")
    assert times[1] - times[0] < 1.0
