"""A process that is killed at the bench: what was entered is there, to the last entry that was told."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from orvek.store import demo_job, fill_with_demo, open_workshop

_BENCH = """
import sys
from pathlib import Path
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication
app = QApplication([])
from orvek.window import places
places.settings = lambda: QSettings(sys.argv[2], QSettings.Format.IniFormat)
from orvek.store import demo_job, open_workshop
from orvek.window.session import Session
from orvek.window.bench.bench_window import BenchWindow
session = Session(open_workshop(Path(sys.argv[1])))
session.open_job(demo_job().batch.id)
if not session.plan.route.open:
    session.attempt("Begin anew", lambda job: job.with_(work=job.work.with_(actuals=())))
for task in session.plan.route.open:
    bench = BenchWindow(None, session, task)
    for number in range(bench.walk.place, len(bench.walk.steps)):
        bench._typed = "12.5"
        bench._enter() if bench.step.kind in ("weigh", "measure") else None
        key, place = bench.step.key, bench.walk.place
        bench.go_on()
        if bench.walk.place == place and not bench.result():
            bench.go_on()  # it is too soon: the second press goes on all the same
        if bench.walk.place != place or bench.result():
            print(key, flush=True)
"""


@pytest.mark.parametrize("kills", [3, pytest.param(200, marks=pytest.mark.long)])
def test_what_was_entered_is_there(tmp_path: Path, kills: int) -> None:
    path, chance = tmp_path / "workshop.sqlite", random.Random(8)
    workshop = open_workshop(path)
    fill_with_demo(workshop)
    first = workshop.job(demo_job().batch.id)
    workshop.close()
    command = [sys.executable, "-c", _BENCH, str(path), str(tmp_path / "window.ini")]
    for _ in range(kills):
        process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
        assert process.stdout is not None
        told = [process.stdout.readline().strip() for _ in range(chance.randint(1, 12))]
        os.kill(process.pid, signal.SIGKILL)
        rest, errors = process.communicate()
        assert not errors
        told += [line.strip() for line in rest.splitlines(keepends=True) if line.endswith("\n")]
        workshop = open_workshop(path)
        job = workshop.job(first.batch.id)
        assert workshop.notices == ()
        written = {one.task for one in job.work.actuals}
        assert {key for key in told if key and ":fate." not in key} <= written  # no word was said of a blank
        if len(told) < 12 and "" in told:  # all is done: begin again
            workshop.record(first, "Begin again")
        workshop.close()
