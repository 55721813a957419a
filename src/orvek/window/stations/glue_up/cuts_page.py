"""Cuts: every cut in the order of the hands; the one in hand drawn with the two numbers that are set."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRect, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QMenu, QVBoxLayout, QWidget

from orvek.documents import CutStep, Machine, deeds
from orvek.documents.deeds import put_on_shelf
from orvek.planning import Plan
from orvek.planning.glue_up.saw import SawCut, after_words, cut_figures, setting_words
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.pictures.cut_picture import CutPicture
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import FigureValue, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.readings import ReadingsField

_LIST_WIDE = 292


class CutsPage(QWidget):
    """The page Cuts of the station Glue-up."""

    chosen = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._cuts: tuple[SawCut, ...] = ()
        self.list = QListWidget()
        self.list.setAccessibleName("Cuts in their order")
        self.list.setFixedWidth(_LIST_WIDE)
        self.list.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(lambda _: self._show_cut())
        self.picture = CutPicture()
        self.machine = ChoiceField("Saw", self._fill_machines)
        self.kerfs = ReadingsField("Kerf, by calipers")
        self.kerfs.entered.connect(
            lambda values: session.attempt("Kerf readings", partial(deeds.set_kerf_readings, readings_mm=values))
        )
        left = Qt.AlignmentFlag.AlignLeft
        self._numbers = [FigureValue(theme.TITLE, left), FigureValue(theme.TITLE, left)]
        self._nearest, self._keep, self._caution = quiet_label(""), quiet_label(""), Label()
        self._nearest.setWordWrap(True)
        self._keep.setWordWrap(True)
        self._caution.setStyleSheet(theme.words_css(theme.CAUTION, theme.SMALL, 500))
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's cuts."""
        cutting = plan.glue_up
        self._cuts = cutting.cuts if cutting else ()
        row = max(0, self.list.currentRow())
        self.list.blockSignals(True)
        self.list.clear()
        for number, cut in enumerate(self._cuts, 1):
            words = setting_words(cut, self._session.units)
            words = f"{words} · face {cut.face_down} down" if words else "on the lathe, or with a plane"
            item = QListWidgetItem(f"{number}  {cut.title}\n{words}")
            item.setSizeHint(QSize(_LIST_WIDE - 24, self._tall(item.text())))
            self.list.addItem(item)
        self.list.setCurrentRow(min(row, len(self._cuts) - 1))
        self.list.blockSignals(False)
        machine = cutting.machine if cutting else None
        words = (
            f"{machine.name}, kerf {write(machine.kerf_mm, Dimension.LENGTH, self._session.units)}" if machine else ""
        )
        is_said = plan.job.glue_up.machine is not None
        self.machine.set_text(words if is_said or not words else f"assumed: {words[:1].lower()}{words[1:]}")
        self.kerfs.set_values(plan.job.glue_up.kerf_readings_mm, self._session.units)
        self._show_cut()

    def _tall(self, words: str) -> int:
        """How high a row is that shows all its words, bold or not: no setting is cut off."""
        room = QRect(0, 0, _LIST_WIDE - 56, 1000)
        return QFontMetrics(theme.bold()).boundingRect(room, Qt.TextFlag.TextWordWrap, words).height() + 10

    def cut(self) -> SawCut | None:
        """The cut in hand."""
        row = self.list.currentRow()
        return self._cuts[row] if 0 <= row < len(self._cuts) else None

    def _show_cut(self) -> None:
        cut, units = self.cut(), self._session.units
        self.picture.show_cut(cut, units)
        self.chosen.emit(cut)
        if cut is None:
            for number in self._numbers:
                number.set_figure(None, units)
            for label in (self._nearest, self._keep, self._caution):
                label.setText("")
            return
        along, angle = (*cut_figures(cut)[:2], None, None)[:2]
        how = {"mitre": "Mitre", "tilt": "Tilt", "panel turned": "Turned"}.get(cut.set_by, "")
        self._numbers[0].set_figure(along, units, f"{along.label} {along.written(units)}" if along else "")
        words = f"{how or (angle.label if angle else '')} {angle.written(units)}" if angle else ""
        is_square = cut.radius_mm is None and angle is not None and not cut.set_deg
        self._numbers[1].set_figure(angle, units, "Square" if is_square else words)
        self._nearest.setText(_nearest(cut, units))
        times = f", {cut.count} times" if cut.count > 1 else ""
        after = after_words(cut, units)
        self._keep.setText(f"{after[:1].upper()}{after[1:]}{times}.")
        self._caution.setText(CutStep.caution.short)
        self._caution.setToolTip(CutStep.caution.full)

    def _lay_out(self) -> None:
        right = QVBoxLayout()
        right.setSpacing(4)
        right.addWidget(self.picture, 1)
        numbers = QHBoxLayout()
        for label in self._numbers:
            numbers.addWidget(label, 1)
        right.addLayout(numbers)
        for under in (self._nearest, self._keep, self._caution):
            right.addWidget(under)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(self.list, 1)
        left.addWidget(self.machine)
        left.addWidget(self.kerfs)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 12, 24, 12)
        row.setSpacing(20)
        row.addLayout(left)
        row.addLayout(right, 1)

    def _fill_machines(self, menu: QMenu) -> None:
        session = self._session
        now = session.plan.glue_up.machine if session.plan.glue_up else None
        for machine in session.shop.machines:
            add_action(menu, machine.name, partial(self._choose, machine), checked=machine == now)
        add_action(menu, "Describe your saw…", self._change_machine)

    def _change_machine(self) -> None:
        plan = self._session.plan.glue_up
        changed = edit_document(self, "This saw", plan.machine, self._session.shop) if plan else None
        if changed is not None:
            self._session.change_shop(f"Save {changed.name}", lambda shop: put_on_shelf(shop, "machines", changed))
            self._choose(changed)

    def _choose(self, machine: Machine) -> None:
        self._session.attempt(f"Saw with {machine.name}", partial(deeds.choose_saw, machine=machine))


def _nearest(cut: SawCut, units: Units) -> str:
    """What the saw's scales can be set to, and what that costs."""
    if cut.nearest_stop_mm is None or cut.radius_mm is not None:
        return "It is marked out and followed; no scale is set."
    if cut.cost_mm < 0.005:
        return "The scales of the saw can be set to exactly this."
    place = write(cut.nearest_stop_mm, Dimension.LENGTH, units)
    angle = f" and {write(cut.nearest_deg, Dimension.ANGLE, units)}" if cut.set_deg else ""
    what = "the ring stays open by" if cut.set_by == "tilt" else "the line on the barrel moves by"
    return f"Nearest marks: {place}{angle}; {what} {write(cut.cost_mm, Dimension.LENGTH, units, 2)}."
