"""A picture that fills the room it has, its shape kept."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.window.widgets.fitting import fitted


class ImageLabel(QWidget):
    """Nothing until there is one."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self._image: QImage | None = None
        self.setMinimumHeight(48)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(name)

    def show_image(self, image: QImage | None) -> None:
        """Show another one."""
        self._image = image
        self.update()

    def image(self) -> QImage | None:
        """What is shown."""
        return self._image

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._image is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(fitted(self._image.width(), self._image.height(), QRectF(self.rect())), self._image)
