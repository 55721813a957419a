"""What our own pictures are to a screen reader: Qt knows buttons and fields, but not a bar with tubes on it."""

from __future__ import annotations

from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QWidget

# How the names of our own pictures end.
_PICTURES = ("Picture", "View", "Section", "Gauge", "Chart", "Dial", "StepsRow", "Strip")
_GROUPS = {"MainWindow", "QScrollArea"}
_kept: dict[QObject, QAccessibleInterface] = {}
_installed = False


def install() -> None:
    """Tell Qt the roles; once a program."""
    global _installed
    if not _installed:
        QAccessible.installFactory(_interface)
        _installed = True


def is_picture(thing: QWidget) -> bool:
    """Whether a widget is one of our own pictures."""
    kind = type(thing)
    return kind.__module__.startswith("orvek.") and kind.__name__.endswith(_PICTURES)


def _interface(_kind: str, thing: QObject) -> QAccessibleInterface | None:
    if not isinstance(thing, QWidget):
        return None
    if is_picture(thing):
        return _made(thing, QAccessible.Role.Graphic)
    return _made(thing, QAccessible.Role.Grouping) if type(thing).__name__ in _GROUPS else None


def _made(thing: QWidget, role: QAccessible.Role) -> QAccessibleInterface:
    if thing not in _kept:
        _kept[thing] = QAccessibleWidget(thing, role)
        thing.destroyed.connect(lambda: _kept.pop(thing, None))
    return _kept[thing]
