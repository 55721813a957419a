"""Out of a bigger casting: the same bar taken along, across and at angles, each seen turned and with its yield."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from orvek.craft.laying_out import bars_at_angle
from orvek.documents import Job, Measure, ReorientStep, Step, deeds
from orvek.planning.bar import bar_size, barrels_of
from orvek.quantities import Dimension, decimal
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, widgets_in
from orvek.window.widgets.picture_button import PICTURE_WIDE, PictureButton, turned_picture

ANGLES_DEG = (0.0, 30.0, 45.0, 60.0, 90.0)
_NAMES = {0.0: "Along the casting", 90.0: "Across the casting"}
_LENGTH = Measure("The casting is long", Dimension.LENGTH, 20, 2000, "")
_WIDTH = Measure("… and wide", Dimension.LENGTH, 10, 1000, "")


def steps_at(job: Job, angle_deg: float) -> tuple[Step, ...]:
    """The blank's steps with the bar taken out at an angle: its last such step is set, or one is put at the end."""
    steps = job.blank.steps
    last = max((n for n, step in enumerate(steps) if isinstance(step, ReorientStep)), default=None)
    if last is None:
        return (*steps, ReorientStep(angle_deg=angle_deg)) if angle_deg else steps
    found = steps[last]
    assert isinstance(found, ReorientStep)
    return (*steps[:last], found.with_(angle_deg=angle_deg), *steps[last + 1 :])


class OrientationDialog(QDialog):
    """The casting's size above, one picture an angle below; a click takes the bar out that way."""

    def __init__(self, parent: QWidget | None, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self.setWindowTitle("Out of a bigger casting")
        self.setMinimumWidth(PICTURE_WIDE + 72)
        self._session, self._surface = session, surface
        length = bar_size(session.plan.layout)[2]
        self._block = [max(2.2 * length, 300.0), max(length, 150.0)]
        title = Label("Which way out of the casting?")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(8)
        column.addWidget(title)
        column.addWidget(quiet_label("The same figure, cut another way, shows another face."))
        for place, measure in enumerate((_LENGTH, _WIDTH)):
            field = QuantityField(measure, session.units)
            field.set_value(self._block[place])
            field.entered.connect(lambda value, n=place: self._resize(n, value))
            column.addWidget(field)
        self._waiting: list[float] = []
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._show_next)
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        column.addLayout(self._list)
        column.addStretch(1)
        self._show()

    def buttons(self) -> list[PictureButton]:
        """The ways out, in the order of their angles."""
        return list(widgets_in(self._list, PictureButton))

    def _resize(self, place: int, value: float) -> None:
        self._block[place] = value
        self._show()

    def _show(self) -> None:
        clear(self._list)
        self._waiting = list(ANGLES_DEG)
        self._timer.start()

    def _show_next(self) -> None:
        """One picture at a time: the dialog is there at once, and can be left before all of them are."""
        plan, evaluate = self._session.plan, self._surface.evaluator()
        if evaluate is None or not self._waiting:
            self._timer.stop()
            return
        width, _, length, _ = size = bar_size(plan.layout)
        angle = self._waiting.pop(0)
        picture = turned_picture(evaluate, steps_at(plan.job, angle), size, barrels_of(plan), plan.job.blank.materials)
        count = bars_at_angle((self._block[0], self._block[1]), (length, width), plan.job.blank.saw_kerf_mm, angle)
        words = f"{count} bar{'' if count == 1 else 's'} a layer"
        button = PictureButton(picture, _NAMES.get(angle, f"At {decimal(angle)}°"), words)
        button.subject = angle
        button.clicked.connect(lambda _=False, a=angle: self._take(a))
        self._list.addWidget(button)

    def _take(self, angle_deg: float) -> None:
        name = _NAMES.get(angle_deg, f"at {decimal(angle_deg)}°").lower()
        self._session.attempt(f"Take the bar out {name}", lambda job: deeds.set_steps(job, steps_at(job, angle_deg)))
        self.accept()
