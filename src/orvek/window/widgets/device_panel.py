"""One device: where it is plugged in, how its lines look, and what it says now, large and as a course."""

from __future__ import annotations

from collections import deque
from pathlib import Path
from typing import get_args

from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QHideEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QComboBox, QFileDialog, QFormLayout, QInputDialog, QLineEdit, QVBoxLayout, QWidget

from orvek.craft.pouring import digits_of
from orvek.devices import SIMULATED, Meter, ScalePort, open_meter, open_scale, ports
from orvek.documents import MeterPlace, checked
from orvek.documents.job.pour import Scale
from orvek.documents.shelf.plugged_in import Baud
from orvek.errors import OrvekError
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.label import Label

_ASK_MS = 120
_KEPT = 80  # values of the course
_COURSE_PX, _FIGURE_PX, _LINES_PX = 48, 40, 54
_NONE, _OTHER, _LOG = "not plugged in", "another port…", "a log file that grows…"
_DIMENSION = {"scale": Dimension.MASS, "caliper": Dimension.LENGTH, "thermometer": Dimension.TEMPERATURE}
_TITLE = {"scale": "Scale", "caliper": "Calipers", "thermometer": "Thermometer"}
_USUAL = {
    "scale": "as in N {weight} B",
    "caliper": "as in L {value} mm",
    "thermometer": "as in T1 {value} C",
}


class Course(QWidget):
    """The last values in the order they came, from the least to the most of them."""

    def __init__(self) -> None:
        super().__init__()
        self._values: deque[float] = deque(maxlen=_KEPT)
        self.setFixedHeight(_COURSE_PX)
        self.setAccessibleName("The last values")

    def add(self, value: float) -> None:
        """One more."""
        self._values.append(value)
        self.setAccessibleDescription(f"{len(self._values)} values, the last {value:.2f}")
        self.update()

    def clear(self) -> None:
        """Another device: nothing came yet."""
        self._values.clear()
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.pen(theme.HAIRLINE, 1))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
        if len(self._values) < 2:
            return
        low, high = min(self._values), max(self._values)
        tall, step = self.height() - 8, self.width() / (_KEPT - 1)
        points = [
            QPointF(number * step, 4 + tall * (1 - (value - low) / max(high - low, 1e-9)))
            for number, value in enumerate(self._values)
        ]
        painter.setPen(theme.pen(theme.ACCENT, 2))
        painter.drawPolyline(QPolygonF(points))


class DevicePanel(QWidget):
    """A scale, calipers or a thermometer.

    `changed` once the maker has described it otherwise, `said` with each value and whether it may be taken,
    `fell_silent` when what was said last is no reading any more.
    """

    changed = Signal()
    said = Signal(float, bool)
    fell_silent = Signal()

    def __init__(self, device: Scale | MeterPlace, units: Units) -> None:
        super().__init__()
        self.kind = device.kind if isinstance(device, MeterPlace) else "scale"
        self._device, self._units = device, units
        self._port: ScalePort | Meter | None = None
        self.place = QComboBox()
        self.place.setAccessibleName(f"{_TITLE[self.kind]}: plugged in at")
        self.place.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.place.setMinimumContentsLength(20)
        self.speed, self.line = QComboBox(), QLineEdit(device.line)
        self.speed.setAccessibleName("Speed of its line")
        self.speed.addItems(get_args(Baud))
        self.speed.setCurrentText(device.baud)
        self.line.setAccessibleName("Sample line")
        self.line.setPlaceholderText(_USUAL[self.kind])
        self.line.setToolTip(
            "Empty: the usual ones are read. Else one of its lines, with the number's place in braces."
        )
        self.figure, self._state, self._heard = Label("–"), quiet_label(""), quiet_label("")
        self.figure.setStyleSheet(theme.words_css(theme.INK, _FIGURE_PX, 600))
        self.figure.setAccessibleName("What it says")
        for label in (self._state, self._heard):
            label.setWordWrap(True)
            label.setMinimumHeight(_LINES_PX)
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.course = Course()
        self._fill(device.plugged_in_at)
        self.place.activated.connect(self._choose)
        self.speed.textActivated.connect(lambda _: self.try_out())
        self.line.editingFinished.connect(self.try_out)
        self._timer = QTimer(self)
        self._timer.setInterval(_ASK_MS)
        self._timer.timeout.connect(self.ask)
        self._lay_out()

    @property
    def sentence(self) -> str:
        """What is said of it: that it is steady, or why nothing comes."""
        return self._state.text()

    @property
    def device(self) -> Scale | MeterPlace:
        """The device as it was last described without a fault."""
        return self._device

    def _described(self) -> Scale | MeterPlace:
        described = {
            "plugged_in_at": str(self.place.currentData() or ""),
            "baud": self.speed.currentText(),
            "line": self.line.text().strip(),
        }
        return checked(type(self._device), self._device.model_dump() | described)

    def put_at(self, place: str) -> None:
        """Look for it at this port, or in this log."""
        self._fill(place)
        self.try_out()

    def try_out(self) -> None:
        """Open it as it is described, and show what it sends."""
        self.let_go()
        try:
            device = self._described()
            place = device.plugged_in_at
            if device != self._device:
                self._device = device
                self.changed.emit()
            if not place:
                self._state.setText("Read by eye: what it says is typed.")
                return
            if isinstance(device, MeterPlace):
                self._port = open_meter(device.kind, place, int(device.baud), device.line)
            else:
                self._port = open_scale(place, int(device.baud), device.line)
        except OrvekError as error:
            self._state.setText(str(error))
            return
        self._state.setText(
            "Simulated, for trying things out." if place == SIMULATED else "Waiting for its first line."
        )
        self._timer.start()

    def ask(self) -> None:
        """Show the latest value."""
        if self._port is None:
            return
        try:
            found = self._port.read()
        except OrvekError as error:
            self.let_go()
            self._state.setText(str(error))
            return
        if self._port.heard:
            self._heard.setText(f"It sent: {self._port.heard[:60]}")
        if found is None:
            return
        value, is_steady = (found, True) if isinstance(found, float) else (found.mass_g, found.is_steady)
        self.figure.setText(write(value, _DIMENSION[self.kind], self._units, self._digits()))
        self._state.setText("Steady." if is_steady else "It still moves.")
        self.course.add(value)
        self.said.emit(value, is_steady)

    def _digits(self) -> int:
        """As many as the device itself shows."""
        if isinstance(self._device, Scale):
            return digits_of(self._device.resolution_g)
        return 1 if self.kind == "thermometer" else 2

    def let_go(self) -> None:
        """Close it: nobody else could read it while it is open here."""
        self._timer.stop()
        if self._port is not None:
            self._port.close()
        self._port = None
        self.figure.setText("–")
        self._heard.setText("")
        self.course.clear()
        self.fell_silent.emit()

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self.let_go()

    def _fill(self, now: str) -> None:
        """The ports that there are, by their names, and what else can be chosen."""
        self.place.clear()
        self.place.addItem(_NONE, "")
        known = {port.place: port.name for port in ports()}
        if now and now not in known and now != SIMULATED:
            known[now] = Path(now).name
        for place, name in known.items():
            self.place.addItem(name, place)
        self.place.addItem("simulated", SIMULATED)
        self.place.addItem(_OTHER, _OTHER)
        if self.kind != "scale":
            self.place.addItem(_LOG, _LOG)
        self.place.setCurrentIndex(max(0, self.place.findData(now)))

    def _choose(self) -> None:
        wanted = self.place.currentData()
        if wanted in {_OTHER, _LOG}:
            if wanted == _LOG:
                place, _ = QFileDialog.getOpenFileName(
                    self, "A log that grows", "", "Logs (*.csv *.txt *.log);;All (*)"
                )
            else:
                place, _ = QInputDialog.getText(self, "Another port", "The port, such as /dev/ttyUSB0")
            self._fill(place.strip() or self._device.plugged_in_at)
        self.try_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(heading(_TITLE[self.kind]))
        form = QFormLayout()
        for words, field in (("Port", self.place), ("Speed", self.speed), ("Sample line", self.line)):
            form.addRow(quiet_label(words), field)
        column.addLayout(form)
        for widget in (self.figure, self.course, self._state, self._heard):
            column.addWidget(widget)
        column.addStretch(1)
