"""Every picture of Orvek's can be copied, or saved as a file: by its menu (right click, or the Menu key)."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, QObject, QPoint, QRect, QSize
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from orvek.files import safe_name
from orvek.window import roles
from orvek.window.session import Session


class PictureMenu(QObject):
    """What can be done with any picture of the window."""

    def __init__(self, window: QWidget, session: Session) -> None:
        super().__init__(window)
        self._window, self._session = window, session

    def open(self, picture: QWidget, place: QPoint) -> None:
        """Show the menu of a picture at a place of the screen."""
        self.menu(picture).exec(place)

    def menu(self, picture: QWidget) -> QMenu:
        """What can be done with a picture."""
        menu = QMenu(self._window)
        menu.addAction("&Copy this picture").triggered.connect(partial(copy_picture, picture))
        for words, suffix in (("&Save it as PNG…", ".png"), ("Save it as S&VG…", ".svg")):
            menu.addAction(words).triggered.connect(partial(self._ask, picture, suffix))
        return menu

    def _ask(self, picture: QWidget, suffix: str) -> None:
        name = picture.accessibleName() or "picture"
        suggested = f"{safe_name(self._session.job.batch.name)} {safe_name(name)}{suffix}"
        filters = f"{suffix[1:].upper()} (*{suffix})"
        found, _ = QFileDialog.getSaveFileName(self._window, "Save the picture", suggested, filters)
        if found:
            path = Path(found if found.lower().endswith(suffix) else found + suffix)
            self._session.write_file(path, picture_bytes(picture, suffix))


def copy_picture(picture: QWidget) -> None:
    """Put what is painted on the clipboard."""
    QGuiApplication.clipboard().setPixmap(picture.grab())


def picture_at(widget: QWidget | None) -> QWidget | None:
    """The picture that a widget is, or lies in."""
    while widget is not None and not roles.is_picture(widget):
        widget = widget.parentWidget()
    return widget


def picture_bytes(picture: QWidget, suffix: str) -> bytes:
    """What is painted, as the content of a PNG or SVG file."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if suffix == ".svg":
        from PySide6.QtSvg import QSvgGenerator

        made = QSvgGenerator()
        made.setOutputDevice(buffer)
        made.setSize(QSize(picture.width(), picture.height()))
        made.setViewBox(QRect(0, 0, picture.width(), picture.height()))
        made.setTitle(picture.accessibleName())
        picture.render(made)
    else:
        picture.grab().save(buffer, "PNG")
    return bytes(buffer.data().data())
