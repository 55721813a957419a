"""Opening bench mode: `at_the_bench(...)`, from wherever an operation is shown."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from orvek.documents.job.pour import Scale
from orvek.planning.route.results import Operation
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.session import Session
from orvek.window.surface import Surface


def at_the_bench(parent: QWidget, session: Session, task: Operation, surface: Surface | None = None) -> None:
    """Open bench mode for a task of the job in hand, as large as the screen, with the scale that is plugged in."""
    window = BenchWindow(parent, session, task, scale=plugged_in(session), surface=surface)
    window.setWindowState(Qt.WindowState.WindowMaximized)  # and not shown before it is modal
    window.exec()
    window.deleteLater()  # its parent would keep it, and it would go on hearing what is said


def plugged_in(session: Session) -> Scale | None:
    """The job's scale where that is plugged in, else one of the shop's: a scale is set up once for all."""
    own = session.job.pour.scale
    known = (*((own,) if own is not None else ()), *session.shop.scales)
    same = [one for one in session.shop.scales if own is not None and one.name == own.name]
    return next((one for one in (*same, *known) if one.plugged_in_at), own)
