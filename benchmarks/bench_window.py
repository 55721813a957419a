"""The first window against a bare Qt window with the same font, each as a process of its own, caches warm."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

_BARE = """
import sys
from importlib import resources
from PySide6.QtWidgets import QApplication, QWidget
from PySide6.QtGui import QFont, QFontDatabase
from PySide6.QtCore import QTimer
app = QApplication([])
for weight in ("Regular", "Medium", "SemiBold"):
    data = resources.files("orvek.data").joinpath("fonts", f"OrvekSans-{weight}.ttf").read_bytes()
    QFontDatabase.addApplicationFontFromData(data)
app.setFont(QFont("Orvek Sans"))
window = QWidget()
window.resize(1280, 800)
window.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""

_ORVEK = """
import sys
from pathlib import Path
from PySide6.QtCore import QTimer
from orvek.window.application import make_application
app = make_application()
from orvek.shop import open_workshop
from orvek.window.main_window import MainWindow
from orvek.window.session import Session
window = MainWindow(Session(open_workshop(Path(sys.argv[1]))))
window.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""


def _seconds(program: str, *arguments: str) -> float:
    start = time.perf_counter()
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    subprocess.run([sys.executable, "-c", program, *arguments], check=True, env=environment)
    return time.perf_counter() - start


def test_first_window(tmp_path: Path) -> None:
    from orvek.shop import fill_with_demo, open_workshop

    path = tmp_path / "demo.sqlite"
    workshop = open_workshop(path)
    fill_with_demo(workshop)
    workshop.close()
    rounds = [(_seconds(_BARE), _seconds(_ORVEK, str(path))) for _ in range(7)]
    bare, orvek = min(b for b, _ in rounds), min(o for _, o in rounds)
    print(f"\nbare window {bare:.3f} s, Orvek with the demo job {orvek:.3f} s: {orvek / bare:.2f} x")
    assert orvek / bare < 3
