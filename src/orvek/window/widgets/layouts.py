"""Emptying a layout, finding what lies in one, and giving it room by scrolling."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TypeVar

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLayout, QScrollArea, QVBoxLayout, QWidget

from orvek.window.widgets.fields import heading

W = TypeVar("W", bound=QWidget)
PICTURE_SHARE, LOWER_SHARE = 34, 66  # of a page's height: what stands below is not to be scrolled
ROOMY_SHARE = 45  # of the picture in a high window, and where little stands below
_HIGH_WINDOW_PX = 860
_LOWER_PX = 200  # at least: it scrolls, and the page round it does not
_LOW_WINDOW_PX = 640  # in a lower window it is the page that scrolls


class Shrinking(QVBoxLayout):
    """Holds a station. A scroll area gives what has a height for its width all that it would like to have; pictures
    would then be tall and scrolled, where they should get smaller."""

    def hasHeightForWidth(self) -> bool:
        return False


def clear(layout: QLayout, keep: QWidget | None = None) -> None:
    """Take everything out of a layout; its widgets are hidden at once and deleted, all but `keep`."""
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None and widget is not keep:
            widget.hide()
            widget.deleteLater()


def scrolled(
    inside: QWidget, parent: QWidget | None = None, *, is_lower: bool = False, picture_share: int = PICTURE_SHARE
) -> QScrollArea:
    """A widget that is scrolled to where there is no room for it; under a picture only up and down.

    The keyboard stops at what lies in it, not at the area.
    """
    area = _Lower(parent, picture_share) if is_lower else QScrollArea(parent)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidgetResizable(True)
    area.setWidget(inside)
    return area


class _Lower(QScrollArea):
    """What stands under a picture. In a low window it has all its height, and the page round it is scrolled: one scroll
    bar, never two. In a high one the picture has more of the room. It goes by the window alone: what is told later
    moves nothing."""

    def __init__(self, parent: QWidget | None, picture_share: int) -> None:
        super().__init__(parent)
        self._picture_share = picture_share
        self._is_low = False
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def minimumSizeHint(self) -> QSize:
        inside = self.widget()
        if not self._is_low or inside is None:
            return QSize(0, _LOWER_PX)
        return QSize(0, max(inside.sizeHint().height(), inside.heightForWidth(self.viewport().width())))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.window():
            if event.type() is QEvent.Type.Resize:
                self._look_at_window()  # also where another page is in front of this one
            return False
        if self._is_low and event.type() is QEvent.Type.LayoutRequest:
            self.updateGeometry()  # more or less stands in it now
        return super().eventFilter(watched, event)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.window().installEventFilter(self)
        self._look_at_window()

    def _look_at_window(self) -> None:
        is_low = self.window().height() < _LOW_WINDOW_PX
        if is_low or self._is_low:
            self._is_low = is_low
            self.updateGeometry()
        rows = page.layout() if (page := self.parentWidget()) is not None else None
        if not isinstance(rows, QVBoxLayout):
            return
        above = [row for row in range(rows.indexOf(self)) if rows.stretch(row)]  # the picture: nothing else above grows
        share = ROOMY_SHARE if self.window().height() >= _HIGH_WINDOW_PX else self._picture_share
        for row in above[:1]:
            rows.setStretch(row, share)
            rows.setStretchFactor(self, 100 - share)


def under_picture(
    page: QWidget,
    picture: QWidget,
    inside: QWidget,
    answer: QWidget | None = None,
    *,
    picture_share: int = PICTURE_SHARE,
) -> None:
    """Lay a page out: its picture, its answer, and what stands under them, scrolled where there is little room."""
    lower = scrolled(inside, page, is_lower=True, picture_share=picture_share)
    rows = [(picture, picture_share), (lower, 100 - picture_share)]
    if answer is not None:
        rows.insert(1, (beside_margin(answer), 0))
    filled(page, *rows)


def beside_margin(widget: QWidget) -> QWidget:
    """A widget that begins where a page's columns do."""
    holder = QWidget()
    row = QHBoxLayout(holder)
    row.setContentsMargins(22, 0, 24, 0)
    row.addWidget(widget)
    return holder


def filled(page: QWidget, *rows: tuple[QWidget, int]) -> QWidget:
    """Widgets one above the other to the page's very edges, each with its share of what room is left over."""
    whole = QVBoxLayout(page)
    whole.setContentsMargins(0, 0, 0, 0)
    whole.setSpacing(0)
    for widget, share in rows:
        whole.addWidget(widget, share)
    return page


def in_columns(
    *columns: tuple[QLayout, int], apart_px: int = 28, line_px: int | None = None, foot: QWidget | None = None
) -> QWidget:
    """Columns side by side, each with its share of the width; with `line_px` between lines that stand at the top.

    `foot` stands at the right under all of them.
    """
    inside = QWidget()
    lines, whole = QVBoxLayout(inside), QHBoxLayout()
    lines.setContentsMargins(24, 4, 24, 8)
    lines.addLayout(whole, 1)
    if foot is not None:
        lines.addWidget(foot, 0, Qt.AlignmentFlag.AlignRight)
    whole.setSpacing(apart_px)
    for column, share in columns:
        if line_px is not None and isinstance(column, QVBoxLayout):
            column.setSpacing(line_px)
            column.addStretch(1)
        whole.addLayout(column, share)
    return inside


def fill_column(whole: QWidget, title: str, *widgets: QWidget) -> QWidget:
    """Put lines under a heading into a widget, from the top."""
    column = QVBoxLayout(whole)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(3)
    column.addWidget(heading(title))
    for widget in widgets:
        column.addWidget(widget)
    column.addStretch(1)
    return whole


def column_grid(table: QWidget) -> QGridLayout:
    """The grid of a table that has a column for each barrel."""
    grid = QGridLayout(table)
    grid.setContentsMargins(0, 0, 0, 0)
    grid.setHorizontalSpacing(16)
    grid.setVerticalSpacing(2)
    return grid


def widgets_in(layout: QLayout, kind: type[W]) -> Iterator[W]:
    """The widgets of a kind in a layout, in their order."""
    for number in range(layout.count()):
        item = layout.itemAt(number)
        widget = item.widget() if item is not None else None
        if isinstance(widget, kind):
            yield widget
