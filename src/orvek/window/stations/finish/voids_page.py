"""Voids: what they are filled with, how high, how much of it, in which order."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QVBoxLayout, QWidget

from orvek.craft.filling import fills
from orvek.documents import JOB, Void, path_to
from orvek.planning import Plan
from orvek.planning.finish.voids import pits
from orvek.window.session import Session
from orvek.window.stations.finish.void_picture import VoidPicture
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import FigureLine, caution_label, heading, quiet_label
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.steps import Steps


class VoidsPage(QWidget):
    """The page Voids of the station Finish."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture = VoidPicture()
        names = ("count", "long_mm", "wide_mm", "deep_mm", "shape", "lies")
        self.fields = DocumentFields(session, path_to(JOB.finish.void), Void, *names)
        self.fill = ChoiceField("Filled with", self._fill_fills)
        self._figures = [FigureLine("") for _ in range(4)]
        self._steps, self._caution, self._pits = Steps(6, at_top=True), caution_label(), quiet_label("")
        self._pits.setWordWrap(True)
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        for widget in (heading("The voids"), *self.fields.widgets.values(), self.fill, self._pits):
            left.addWidget(widget)
        for widget in (heading("What follows"), *self._figures, self._caution):
            middle.addWidget(widget)
        right.addWidget(heading("In this order"))
        right.addLayout(self._steps)
        inside = in_columns((left, 4), (middle, 4), (right, 5), apart_px=32, line_px=4)
        under_picture(self, self.picture, inside)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the voids."""
        units = plan.units
        voids = plan.finish.voids if plan.finish else None
        self.picture.show_voids(voids, units)
        self.fields.show_document(plan.job.finish.void)
        self.fill.set_text(plan.job.finish.void.fill)
        told = (voids.volume, voids.powder_g, voids.glue_g, voids.wait) if voids else (None,) * 4
        for line, figure in zip(self._figures, told, strict=True):
            line.tell(figure, units)
        self._steps.show_lines(voids.lines if voids else ())
        self._caution.setText(plan.caution("finish.fill"))
        count, deepest = pits(plan.job)
        words = (
            f"The blank has {count} pit{'s' if count > 1 else ''} of its own, bored {units.mm(deepest)} deep at most."
        )
        self._pits.setText(words if count else "")

    def _fill_fills(self, menu: QMenu) -> None:
        now = self._session.job.finish.void.fill
        for one in fills():
            put = partial(self._session.edit, path_to(JOB.finish.void.fill), one.key, f"Fill with {one.key}")
            add_action(menu, one.key, put, checked=one.key == now)
