"""Starting the program as a maker does: with no display, on a real X screen, and where it cannot start."""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtGui import QImage


def started(*command: str, **environment: str) -> subprocess.CompletedProcess[str]:
    clean = {
        key: value for key, value in os.environ.items() if key not in {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}
    }
    return subprocess.run(
        command, capture_output=True, text=True, timeout=600, env={**clean, **environment}, check=False
    )


_WHAT_IS_LOADED = """
import builtins, sys
plain = builtins.__import__
from orvek.commands import main
from orvek.window.frame import Frame
show = Frame.show
def told(frame):
    late = ("orvek.documents", "orvek.planning", "orvek.store", "pydantic")
    print([name for name in late if name in sys.modules], builtins.__import__ is plain)
    show(frame)
Frame.show = told
main(sys.argv[1:])
"""


def test_the_frame_stands_before_anything_slow_is_loaded(tmp_path: Path) -> None:
    words = ("--workshop", str(tmp_path / "demo.sqlite"), "--picture", str(tmp_path / "orvek.png"))
    told = started(sys.executable, "-c", _WHAT_IS_LOADED, *words, QT_QPA_PLATFORM="offscreen")
    assert told.stdout.splitlines()[0] == "[] True", told.stderr


def colours_in(picture: Path) -> int:
    image = QImage(str(picture))
    assert image.width() >= 1200
    return len({image.pixel(x, y) for x in range(0, image.width(), 7) for y in range(0, image.height(), 7)})


def test_without_a_display_it_says_so_and_saves_a_picture(tmp_path: Path) -> None:
    picture = tmp_path / "orvek.png"
    told = started(
        sys.executable,
        "-m",
        "orvek",
        "--workshop",
        str(tmp_path / "demo.sqlite"),
        "--demo",
        "--job",
        "Ropewalk",  # nothing is poured: the picture waits for no forecast
        "--station",
        "pen",
        "--picture",
        str(picture),
    )
    assert told.returncode == 0
    assert "virtual screen" in told.stderr
    assert "Traceback" not in told.stderr
    assert colours_in(picture) > 50


def test_on_a_real_x_screen(tmp_path: Path) -> None:
    assert shutil.which("xvfb-run"), "script/setup installs xvfb"
    picture = tmp_path / "orvek.png"
    told = started(
        "xvfb-run", "-a", "-s", "-screen 0 1280x800x24", sys.executable, "-m", "orvek",
        "--workshop", str(tmp_path / "demo.sqlite"), "--demo", "--job", "Ropewalk", "--station", "blank",
        "--picture", str(picture),
    )  # fmt: skip
    assert told.returncode == 0, told.stderr
    assert colours_in(picture) > 50


@pytest.mark.parametrize("content", [b"not a workshop, but a letter to the harbour master"])
def test_a_file_that_is_no_workshop_gets_one_sentence(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "letter.sqlite"
    path.write_bytes(content)
    told = started(sys.executable, "-m", "orvek", "--workshop", str(path), QT_QPA_PLATFORM="offscreen")
    assert told.returncode == 2
    assert "not a workshop file" in told.stderr
    assert "Traceback" not in told.stderr
    assert path.read_bytes() == content


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGHUP])
def test_a_session_that_ends_closes_the_window_as_a_hand_would(tmp_path: Path, how: signal.Signals) -> None:
    """What was changed is kept, the next start says nothing of a crash."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_STATE_HOME": str(tmp_path)}
    script = (
        "import sys; from pathlib import Path; from PySide6.QtCore import QTimer\n"
        "from orvek.window import application\n"
        "fill = application.Start._fill\n"
        "def filled(start):\n    fill(start); print('up', flush=True)\n"
        "application.Start._fill = filled\n"
        "sys.exit(application.run(Path(sys.argv[1]), demo=True, picture=None))\n"
    )
    command = [sys.executable, "-c", script, str(tmp_path / "workshop.sqlite")]
    running = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    assert running.stdout is not None
    assert running.stdout.readline() == "up\n"
    running.send_signal(how)
    _, said = running.communicate(timeout=300)
    assert running.returncode == 0, said
    told = subprocess.run(
        [sys.executable, "-c", "from orvek import log; print(log.watch_for_crashes())"],
        env=environment, capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert told.stdout.strip() == "", "it ended as it should"
