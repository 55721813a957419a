"""Tubes: glue by reasons, room and volume for each tube, and the steps in their order."""

from __future__ import annotations

import typing
from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from orvek.documents import Bore, declared
from orvek.planning import Plan
from orvek.planning.bore.words import glue_why, tube_lines
from orvek.quantities import Dimension, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import FigureLine, QuantityField, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, scrolled


class TubesPage(QWidget):
    """The page Tubes of the station Bore."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.glue = ChoiceField("Glue", self._fill_glues)
        self.plugged = ChoiceField("Tubes plugged", self._fill_plugged)
        self.squared = ChoiceField("Ends squared", self._fill_squared)
        measure = declared(Bore, "paint_coats")
        self.coats = QuantityField(measure, session.units)
        self.coats.entered.connect(lambda value: session.edit(("bore", "paint_coats"), value, measure.title))
        self._why = quiet_label("")
        self._why.setWordWrap(True)
        self._caution = Label()
        self._caution.setWordWrap(True)
        self._caution.setStyleSheet(theme.words_css(theme.CAUTION, theme.SMALL, 500))
        self._rooms, self._steps = QVBoxLayout(), QVBoxLayout()
        self._steps.setSpacing(10)
        right = QVBoxLayout()
        right.setSpacing(6)
        for widget in (heading("How you glue them in"), self.glue, self._why, self.plugged, self.squared, self.coats):
            right.addWidget(widget)
        right.addSpacing(8)
        right.addWidget(heading("Each tube"))
        right.addLayout(self._rooms)
        right.addStretch(1)
        right.addWidget(self._caution)
        inside = QWidget()
        inside.setLayout(self._steps)
        area = scrolled(inside)
        left = QVBoxLayout()
        left.addWidget(heading("In this order"))
        left.addWidget(area, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 12, 24, 12)
        row.setSpacing(28)
        row.addLayout(left, 5)
        row.addLayout(right, 4)

    def show_plan(self, plan: Plan) -> None:
        """Show how a plan's tubes are glued in."""
        bore, how, units = plan.bore, plan.job.bore, self._session.units
        if bore is None:
            return
        self.glue.set_text(bore.glue.key)
        self._why.setText(glue_why(bore.glue.key) or bore.glue.note)
        self.plugged.set_text("yes" if how.is_plugged else "no")
        self.squared.set_text(how.squared)
        self.coats.set_value(how.paint_coats, units)
        self.coats.setVisible(any(paint.where != "none" for paint in plan.job.blank.paints))
        self._caution.setText(plan.caution("bore.glue"))
        clear(self._rooms)
        for hole in bore.holes:
            for figure in (hole.gap_mm, hole.glue_ml):
                line = FigureLine(f"{hole.name}: {figure.label[:1].lower()}{figure.label[1:]}")
                line.set_figure(figure, units)
                self._rooms.addWidget(line)
        clear(self._steps)
        for number, words in enumerate(tube_lines(bore, how, units), 1):
            label = Label(f"{number}  {words}")
            label.setWordWrap(True)
            self._steps.addWidget(label)
        self._steps.addStretch(1)

    def _fill_glues(self, menu: QMenu) -> None:
        session = self._session
        for one in session.shop.all_glues:
            words = f"{one.key}, open {write(one.open_min, Dimension.DURATION, session.units)}"
            deed = partial(session.edit, ("bore", "glue"), one.key, f"Glue the tubes with {one.key}")
            add_action(menu, words, deed, checked=one.key == session.job.bore.glue)

    def _fill_plugged(self, menu: QMenu) -> None:
        for words, value in (("yes", True), ("no", False)):
            deed = partial(self._session.edit, ("bore", "is_plugged"), value, "Tubes plugged")
            add_action(menu, words, deed, checked=self._session.job.bore.is_plugged == value)

    def _fill_squared(self, menu: QMenu) -> None:
        for value in typing.get_args(Bore.model_fields["squared"].annotation):
            deed = partial(self._session.edit, ("bore", "squared"), value, f"Ends squared {value}")
            add_action(menu, value, deed, checked=self._session.job.bore.squared == value)
