"""Cut it open: the bar on any plane, its angle, side and place set by sliders, drawn as they move."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QGridLayout, QSlider, QVBoxLayout, QWidget

from orvek.planning.bar import bar_size
from orvek.quantities import Dimension, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

_WIDE, _TALL = 720, 300


class SectionDialog(Sheet):
    """Three sliders and the cut they make."""

    def __init__(self, parent: QWidget | None, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self.setWindowTitle("Cut it open")
        self._session, self._surface = session, surface
        length = bar_size(session.plan.layout)[2]
        self.angle = self._slider("Angle to the axis", 0, 90, 30)
        self.side = self._slider("Seen from", 0, 359, 0)
        self.place = self._slider("Meets the axis at", 0, round(length), round(length / 2))
        self.picture = Label()
        self.picture.setFixedSize(_WIDE, _TALL)
        self.picture.setAccessibleName("The bar, cut open")
        title = Label("What the saw would show")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(12)
        column.addWidget(title)
        column.addWidget(self.picture)
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        self._values = []
        for row, slider in enumerate((self.angle, self.side, self.place)):
            value = Label()
            value.setMinimumWidth(72)
            value.setAlignment(Qt.AlignmentFlag.AlignRight)
            grid.addWidget(quiet_label(slider.accessibleName()), row, 0)
            grid.addWidget(slider, row, 1)
            grid.addWidget(value, row, 2)
            self._values.append(value)
        column.addLayout(grid)
        self._show()

    def _slider(self, words: str, low: int, high: int, now: int) -> QSlider:
        slider = QSlider(Qt.Orientation.Horizontal)
        slider.setAccessibleName(words)
        slider.setRange(low, high)
        slider.setValue(now)
        slider.valueChanged.connect(self._show)
        return slider

    def _show(self) -> None:
        if len(self._values) < 3:
            return
        units = self._session.units
        numbers = (self.angle.value(), self.side.value(), self.place.value())
        for label, number, dimension in zip(
            self._values, numbers, (Dimension.ANGLE, Dimension.ANGLE, Dimension.LENGTH), strict=True
        ):
            label.setText(write(number, dimension, units))
        pixels = self._surface.oblique(self._session.plan, (_TALL, _WIDE), tuple(map(float, numbers)))
        if pixels is not None:
            image = image_of(pixels).scaled(_WIDE, _TALL)
            self.picture.setPixmap(QPixmap.fromImage(image))
