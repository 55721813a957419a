"""The shelf as a list of pictures to one scale, however many pieces there are: only those in view are painted."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from orvek.planning.shelf_list import Entry, amount_line, piece_size, state_line
from orvek.quantities import Units
from orvek.window import theme
from orvek.window.stations.shelf.looks import PieceLooks

_TALL, _PICTURE_PART, _MOST_PX_MM, _USUAL_MM = 58, 0.5, 1.6, 130.0
_Index = QModelIndex | QPersistentModelIndex


class ShelfModel(QAbstractListModel):
    """Entries, in the order in which they are shown."""

    def __init__(self) -> None:
        super().__init__()
        self.entries: tuple[Entry, ...] = ()
        self.units, self.longest_mm = Units(), _USUAL_MM

    def show_entries(self, entries: tuple[Entry, ...], units: Units) -> None:
        """Show others."""
        if entries == self.entries and units == self.units:
            return
        self.beginResetModel()
        self.entries, self.units = entries, units
        solids = (entry.piece.length_mm for entry in entries if entry.piece.is_solid)
        self.longest_mm = max(solids, default=_USUAL_MM)
        self.endResetModel()

    def rowCount(self, _parent: _Index = QModelIndex()) -> int:  # noqa: B008
        return len(self.entries)

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid():
            return None
        entry = self.entries[index.row()]
        if role in {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole}:
            parts = (entry.piece.name, entry.piece.kind, piece_size(entry.piece, self.units), amount_line(entry))
            return ", ".join(part for part in (*parts, state_line(entry)) if part)
        return None


class ShelfView(QListView):
    """The list itself; `chosen` is an entry."""

    chosen = Signal(object)

    def __init__(self, looks: PieceLooks) -> None:
        super().__init__()
        self.setModel(ShelfModel())
        self.setItemDelegate(_Painter(self, looks))
        self.setUniformItemSizes(True)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Pieces on the shelf")
        self.setMouseTracking(True)
        looks.made.connect(self._paint_again)
        self.selectionModel().currentChanged.connect(lambda *_: self._tell())

    def entry(self) -> Entry | None:
        """The one in hand."""
        row, model = self.currentIndex().row(), self._model()
        return model.entries[row] if 0 <= row < len(model.entries) else None

    def show_entries(self, entries: tuple[Entry, ...], units: Units) -> None:
        """Show others; the piece in hand stays in hand where it is among them."""
        before = self.entry()
        self._model().show_entries(entries, units)
        code = before.piece.code if before is not None else ""
        row = next((n for n, entry in enumerate(entries) if entry.piece.code == code), 0 if entries else -1)
        if row >= 0 and row != self.currentIndex().row():
            self.setCurrentIndex(self._model().index(row))
        self._tell()

    def choose(self, code: str) -> bool:
        """Take the piece of a code in hand, if it is in the list."""
        for row, entry in enumerate(self._model().entries):
            if entry.piece.code == code:
                self.setCurrentIndex(self._model().index(row))
                return True
        return False

    def longest_mm(self) -> float:
        """The longest piece of the list: all are drawn to the scale that it fits in."""
        return self._model().longest_mm

    def _model(self) -> ShelfModel:
        model = self.model()
        assert isinstance(model, ShelfModel)
        return model

    def _paint_again(self) -> None:
        self.viewport().update()

    def _tell(self) -> None:
        self.chosen.emit(self.entry())


class _Painter(QStyledItemDelegate):
    """A row: the piece to scale on the left, its name and size, how much is left on the right."""

    def __init__(self, view: ShelfView, looks: PieceLooks) -> None:
        super().__init__(view)
        self._view, self._looks = view, looks

    def sizeHint(self, _option: QStyleOptionViewItem, _index: _Index) -> QSize:
        return QSize(200, _TALL)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        model = index.model()
        assert isinstance(model, ShelfModel)
        entry, area = model.entries[index.row()], QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        state = option.state
        if state & QStyle.StateFlag.State_Selected:
            painter.fillRect(area, theme.PANEL)
            painter.fillRect(QRectF(area.left(), area.top(), 4, area.height()), theme.ACCENT)
        room = area.width() * _PICTURE_PART - 20
        self._paint_piece(painter, entry, QRectF(area.left() + 14, area.top() + 6, room, area.height() - 13))
        left = area.left() + area.width() * _PICTURE_PART + 4
        words = QRectF(left, area.top() + 8, area.right() - left - 10, 18)
        amount = amount_line(entry)
        painter.setFont(theme.bold(theme.SMALL))
        wide = painter.fontMetrics().horizontalAdvance(amount) + 6 if amount else 0
        painter.setPen(theme.CAUTION if entry.left < 0 else theme.INK)
        painter.drawText(words, Qt.AlignmentFlag.AlignRight, amount)
        painter.setPen(theme.QUIET if entry.left == 0 else theme.INK)
        name = painter.fontMetrics().elidedText(
            entry.piece.name, Qt.TextElideMode.ElideRight, int(words.width() - wide)
        )
        painter.drawText(words, Qt.AlignmentFlag.AlignLeft, name)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        told = " · ".join(part for part in (piece_size(entry.piece, model.units), state_line(entry)) if part)
        shown = painter.fontMetrics().elidedText(told, Qt.TextElideMode.ElideRight, int(words.width()))
        painter.drawText(words.translated(0, 20), Qt.AlignmentFlag.AlignLeft, shown)
        painter.setPen(theme.HAIRLINE)
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        painter.restore()

    def _paint_piece(self, painter: QPainter, entry: Entry, room: QRectF) -> None:
        piece = entry.piece
        if not piece.is_solid:
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.BRASS if piece.kind == "tube" else theme.QUIET)
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, piece.kind)
            return
        scale = min(_MOST_PX_MM, room.width() / self._view.longest_mm())
        tall = min(room.height(), piece.width_mm * scale)
        bar = QRectF(room.left(), room.center().y() - tall / 2, max(3.0, piece.length_mm * scale), max(3.0, tall))
        image = self._looks.look(entry)
        if image is None:
            painter.fillRect(bar, theme.BLANK)
        else:
            painter.drawImage(bar, image)
        if entry.left <= 0:
            painter.fillRect(bar, theme.hatching())
