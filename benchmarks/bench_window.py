"""The first window against a bare Qt window with the same font, each as a whole process, caches warm.

The first window is the frame with its grounds; the workshop and the job are loaded into it right after, and how
long that takes is measured too.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication

from orvek.documents import Fault, Faults, Job, deeds
from orvek.store import fill_with_demo, open_workshop
from orvek.window import theme
from orvek.window.main_window import MainWindow
from orvek.window.session import Session

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

_FRAME = """
import sys
from orvek.window.application import make_application
from orvek.window.frame import Frame
from PySide6.QtCore import QTimer
app = make_application()
frame = Frame()
frame.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""

_FILLED = """
import os
import sys
from pathlib import Path

from orvek.window.application import Start, make_application
from orvek.window.frame import Frame
from PySide6.QtCore import QTimer
app = make_application()
frame = Frame()
frame.show()
start = Start(frame, Path(sys.argv[1]), demo=True, picture=None, begin=(None, None))
def fill():
    start.open_workshop()
    app.processEvents()
    os._exit(0)  # what loads in the background is not waited for
QTimer.singleShot(0, fill)
app.exec()
"""


def _seconds(program: str, *arguments: str) -> float:
    start = time.perf_counter()
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    environment.pop("PYTHONDONTWRITEBYTECODE", None)
    subprocess.run([sys.executable, "-c", program, *arguments], check=True, env=environment)
    return time.perf_counter() - start


@contextmanager
def _busy(processes: int) -> Iterator[None]:
    """As many other processes that never rest."""
    others = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(processes)]
    try:
        yield
    finally:
        for other in others:
            other.kill()
            other.wait()


@pytest.mark.parametrize("busy", [0, 2])
def test_first_window(tmp_path: Path, busy: int) -> None:
    path = str(tmp_path / "demo.sqlite")
    _seconds(_FILLED, path)
    with _busy(busy):
        rounds = [(_seconds(_BARE), _seconds(_FRAME), _seconds(_FILLED, path)) for _ in range(7)]
    bare, frame, filled = (min(taken) for taken in zip(*rounds, strict=True))
    print(f"\n{busy} busy processes beside it: bare window {bare:.3f} s", end="")
    print(f"; first window {frame:.3f} s: {frame / bare:.2f} x, {frame - bare:.3f} s after it", end="")
    print(f"; with the demo job in it {filled:.3f} s: {filled / bare:.2f} x")
    assert frame / bare < 3


def _tube(session: Session, step: int) -> Job:
    assert session.plan.layout is not None
    starts = tuple(place.tube.start_mm for place in session.plan.layout.tubes)
    return deeds.move_tube(session.job, starts, 0, 10 + 0.07 * step)


def _clip(session: Session, step: int) -> Job:
    return deeds.set_value(session.job, ("finish", "clip_deg"), 3.0 * step)


def _flaw(session: Session, step: int) -> Job:
    fault = Fault(kind="blow-out", at_mm=5 + 0.5 * step, azimuth_deg=4.0 * step, moment="sanding")
    return session.job.with_(faults=Faults(found=(fault,)))


@pytest.mark.parametrize(
    ("page", "what", "moved"),
    [
        ("blank", "a tube", _tube),
        ("holes", "a tube", _tube),
        ("press", "the clip", _clip),
        ("what-now", "a flaw", _flaw),
    ],
)
def test_what_is_dragged(tmp_path: Path, page: str, what: str, moved: Callable[[Session, int], Job]) -> None:
    """The whole of one move: the deed, the plan, every station and picture that is seen."""
    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    theme.apply(app)
    workshop = open_workshop(tmp_path / "demo.sqlite")
    fill_with_demo(workshop)
    window = MainWindow(Session(workshop))
    window.frame.resize(1280, 800)
    window.frame.show()
    window.load_slow_parts()
    window.surface.wait()
    window.open_named(page)
    app.processEvents()
    session = window.session

    def move(step: int) -> None:
        session.preview(moved(session, step))
        app.processEvents()

    for step in range(40):
        move(step)
    start = time.perf_counter()
    sticks = 0.0
    for step in range(40, 0, -1):
        move(step)
        # Beside every move, because this machine's clock changes from one second to the next.
        before = time.perf_counter()
        sum(number for number in range(100_000))
        sticks += time.perf_counter() - before
    took = (time.perf_counter() - start - sticks) / 40
    stick = sticks / 40
    print(f"\n{what} dragged at {page} {1000 * took:.1f} ms a move, {took / stick:.2f} x the yardstick")
    window.frame.close()
    window.surface.wait()
    assert took / stick < 4
