"""Opening bench mode: `at_the_bench(...)`, from wherever an operation is shown."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from orvek.planning.route.results import Operation
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.devices_sheet import plugged_in
from orvek.window.session import Session
from orvek.window.surface import Surface


def at_the_bench(parent: QWidget, session: Session, task: Operation, surface: Surface | None = None) -> None:
    """Open bench mode for a task of the job in hand, as large as the screen, with the scale that is plugged in."""
    window = BenchWindow(parent, session, task, scale=plugged_in(session), surface=surface)
    window.setWindowState(Qt.WindowState.WindowMaximized)  # and not shown before it is modal
    window.exec()
    window.deleteLater()  # its parent would keep it, and it would go on hearing what is said
