"""Press: the pen's parts in their order, each with where it goes and what it is pressed against; the clip's share."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import Finish
from orvek.planning import Plan, Station
from orvek.planning.finish.press import press_lines
from orvek.window.session import Session
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import FigureLine, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.steps import Steps


class PressPage(QWidget):
    """The page Press of the station Finish."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._steps = Steps(10, at_top=True)
        self.clip = DocumentFields(session, ("finish",), Finish, "clip_mm")
        self._covers = FigureLine("The clip covers")
        self._note = quiet_label("")
        self._note.setWordWrap(True)
        self.to_pen = QPushButton("List the pen's parts at Pen")
        self.to_pen.setProperty("plain", True)
        self.to_pen.clicked.connect(partial(session.station_wanted.emit, Station.PEN))
        inside = QWidget()
        inside.setLayout(self._steps)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(heading("In this order"))
        left.addWidget(scrolled(inside), 1)
        for widget in (heading("The clip"), *self.clip.widgets.values(), self._covers, self._note, self.to_pen):
            if not isinstance(widget, Label):
                widget.setSizePolicy(widget.sizePolicy().horizontalPolicy(), QSizePolicy.Policy.Maximum)
            right.addWidget(widget)
        right.addStretch(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 12, 24, 12)
        row.setSpacing(28)
        row.addLayout(left, 5)
        row.addLayout(right, 3)

    def show_plan(self, plan: Plan) -> None:
        """Show how a plan's pen is put together."""
        finish, pen = plan.finish, plan.job.pen
        if finish is None or pen is None:
            return
        self.clip.show_document(plan.job.finish)
        self._covers.set_figure(finish.clip_deg, self._session.units)
        self._note.setText("Over the worst place it hides it; opposite the best one it leaves it in sight.")
        self._steps.show_lines(press_lines(pen))
