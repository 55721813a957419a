"""Tubes: glue by reasons, room and volume for each tube, and the steps in their order."""

from __future__ import annotations

import typing
from functools import partial

from PySide6.QtWidgets import QMenu, QVBoxLayout, QWidget

from orvek.documents import JOB, Bore, declared, path_to
from orvek.planning import Plan
from orvek.planning.bore.words import glue_why, strength_line, tube_lines
from orvek.quantities import Dimension, write
from orvek.window.session import Session
from orvek.window.stations.bore.tube_table import TubeTable
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import FigureLine, QuantityField, caution_label, heading, quiet_label
from orvek.window.widgets.layouts import filled, in_columns, scrolled
from orvek.window.widgets.more import More
from orvek.window.widgets.steps import Steps


class TubesPage(QWidget):
    """The page Tubes of the station Bore."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.glue = ChoiceField("Glue", self._fill_glues)
        self.plugged = ChoiceField("Tubes plugged", self._fill_plugged)
        self.squared = ChoiceField("Ends squared", partial(self._fill_squared, "squared"))
        self.squared_when = ChoiceField("Squared", partial(self._fill_squared, "squared_when"))
        measure = declared(Bore, "paint_coats")
        self.coats = QuantityField(measure, session.units)
        self.coats.entered.connect(lambda value: session.edit(path_to(JOB.bore.paint_coats), value, measure.title))
        named = {"glue": self.glue, "is_plugged": self.plugged, "squared": self.squared, "paint_coats": self.coats}
        for name, field in {**named, "squared_when": self.squared_when}.items():
            edits(field, "bore", name)
        self.more = More("tubes")
        self.more.hold(self.plugged, self.squared, self.squared_when)
        self.more.hold(self.coats, when=lambda plan: any(paint.where != "none" for paint in plan.job.blank.paints))
        self._why = quiet_label("")
        self._why.setWordWrap(True)
        self._caution = caution_label()
        self.table = TubeTable(session)
        self._wait = FigureLine("Leave it before squaring")
        self._steps = Steps(8, at_top=True)
        right = QVBoxLayout()
        chosen = (self.glue, self._why, self.plugged, self.coats, self.squared, self.squared_when, self._wait)
        for widget in (heading("How you glue them in"), *chosen):
            right.addWidget(widget)
        right.addSpacing(6)
        right.addWidget(heading("Each tube"))
        right.addWidget(self.table)
        right.addWidget(self._caution)
        left = QVBoxLayout()
        left.addWidget(heading("In this order"))
        left.addLayout(self._steps)
        inside = in_columns((left, 5), (right, 4), line_px=6, foot=self.more)
        inside.setContentsMargins(0, 8, 0, 0)
        filled(self, (scrolled(inside, self, is_lower=True), 1))

    def show_plan(self, plan: Plan) -> None:
        """Show how a plan's tubes are glued in."""
        bore, how, units = plan.bore, plan.job.bore, self._session.units
        if bore is None:
            return
        self.glue.set_text(bore.glue.key)
        why = glue_why(bore.glue.key) or bore.glue.note
        self._why.setText(f"{why} {strength_line(bore, units)}".strip())
        self.plugged.set_text("yes" if how.is_plugged else "no")
        self.squared.set_text(how.squared)
        self.squared_when.set_text(how.squared_when)
        self.coats.set_value(how.paint_coats, units)
        told = (plan.caution("bore.glue"), plan.caution("bore.reclaimed"))
        self._caution.setText(" ".join(words for words in told if words))
        self._wait.set_figure(bore.wait_min, units)
        self.table.show_plan(bore)
        self.more.show_plan(plan)
        self._steps.show_lines(tube_lines(bore, how, units))

    def _fill_glues(self, menu: QMenu) -> None:
        session = self._session
        for one in session.shop.all_glues:
            words = f"{one.key}, open {write(one.open_min, Dimension.DURATION, session.units)}"
            deed = partial(session.edit, path_to(JOB.bore.glue), one.key, f"Glue the tubes with {one.key}")
            add_action(menu, words, deed, checked=one.key == session.job.bore.glue)

    def _fill_plugged(self, menu: QMenu) -> None:
        for words, value in (("yes", True), ("no", False)):
            deed = partial(self._session.edit, path_to(JOB.bore.is_plugged), value, "Tubes plugged")
            add_action(menu, words, deed, checked=self._session.job.bore.is_plugged == value)

    def _fill_squared(self, name: str, menu: QMenu) -> None:
        for value in typing.get_args(Bore.model_fields[name].annotation):
            deed = partial(self._session.edit, (*path_to(JOB.bore), name), value, f"Ends squared {value}")
            add_action(menu, value, deed, checked=getattr(self._session.job.bore, name) == value)
