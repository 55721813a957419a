"""Emptying a layout, and finding what lies in one."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TypeVar

from PySide6.QtWidgets import QLayout, QWidget

W = TypeVar("W", bound=QWidget)


def clear(layout: QLayout, keep: QWidget | None = None) -> None:
    """Take everything out of a layout; its widgets are hidden at once and deleted, all but `keep`."""
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None and widget is not keep:
            widget.hide()
            widget.deleteLater()


def widgets_in(layout: QLayout, kind: type[W]) -> Iterator[W]:
    """The widgets of a kind in a layout, in their order."""
    for number in range(layout.count()):
        item = layout.itemAt(number)
        widget = item.widget() if item is not None else None
        if isinstance(widget, kind):
            yield widget
