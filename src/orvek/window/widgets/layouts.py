"""Emptying a layout, finding what lies in one, and giving it room by scrolling."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TypeVar

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLayout, QScrollArea, QWidget

W = TypeVar("W", bound=QWidget)


def clear(layout: QLayout, keep: QWidget | None = None) -> None:
    """Take everything out of a layout; its widgets are hidden at once and deleted, all but `keep`."""
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None and widget is not keep:
            widget.hide()
            widget.deleteLater()


def scrolled(inside: QWidget, tall_px: int | None = None) -> QScrollArea:
    """A widget that is scrolled to where there is no room for it; of a fixed height only up and down.

    The keyboard stops at what lies in it, not at the area.
    """
    area = QScrollArea()
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidgetResizable(True)
    area.setWidget(inside)
    if tall_px is not None:
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFixedHeight(tall_px)
    return area


def widgets_in(layout: QLayout, kind: type[W]) -> Iterator[W]:
    """The widgets of a kind in a layout, in their order."""
    for number in range(layout.count()):
        item = layout.itemAt(number)
        widget = item.widget() if item is not None else None
        if isinstance(widget, kind):
            yield widget
