"""The jobs of the workshop: name, a small picture of the bar, when it was changed, what is next, the worst of it."""

from __future__ import annotations

from datetime import datetime

from PySide6.QtCore import QDateTime, QLocale, QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QImage, QMouseEvent, QPainter
from PySide6.QtWidgets import (
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from orvek.planning import Severity
from orvek.store import JobEntry
from orvek.window import theme
from orvek.window.findings_panel import paint_mark
from orvek.window.job_looks import TALL, WIDE, JobLooks
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import plain_tip

ROW = 50  # pixels a job
_DAY_WIDE, _MORE_WIDE = 76, 48
_HEAD = "Jobs in this workshop"
_WITHOUT_SEARCH = 6  # so many jobs are found by looking
_ID, _DAY, _PICTURE, _WORST, _NEXT = (Qt.ItemDataRole.UserRole + n for n in range(5))


def _more_of(row: QRectF) -> QRectF:
    """Where a row has the words for what else can be done with its job."""
    return QRectF(row.right() - _MORE_WIDE - 8, row.top() + 27, _MORE_WIDE, 18)


class _Row(QStyledItemDelegate):
    """Paints one job."""

    def sizeHint(self, _option: QStyleOptionViewItem, _index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(WIDE, ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        there = option.rect
        painter.save()
        is_current = index.data(_ID) == index.model().property("current")
        if is_current:
            painter.fillRect(there, theme.PAPER)
            painter.fillRect(QRect(there.left(), there.top(), 3, there.height()), theme.ACCENT)
        area = there.adjusted(10, 4, -6, -4)
        worst = index.data(_WORST)
        painter.setPen(theme.INK)
        painter.setFont(theme.bold() if is_current else theme.font())
        head = QRectF(area.left(), area.top(), area.width() - (18 if worst else 0), 20)
        day = QRectF(head.right() - _DAY_WIDE, head.top(), _DAY_WIDE - 6, head.height())
        name = painter.fontMetrics().elidedText(
            index.data(), Qt.TextElideMode.ElideRight, int(head.width()) - _DAY_WIDE
        )
        painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, name)
        picture = index.data(_PICTURE)
        line = QRectF(area.left(), area.top() + 22, area.width(), 14)
        if isinstance(picture, QImage):
            painter.drawImage(QRectF(line.left(), line.top() + 2, WIDE, TALL), picture)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(day, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, index.data(_DAY))
        beside = line.adjusted(WIDE + 8, 3, -_MORE_WIDE - 4, 3)
        then = painter.fontMetrics().elidedText(
            index.data(_NEXT) or "", Qt.TextElideMode.ElideRight, int(beside.width())
        )
        painter.drawText(beside, Qt.AlignmentFlag.AlignVCenter, then)
        painter.drawText(_more_of(QRectF(there)), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, "More ›")
        if worst:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.translate(area.right() - 12, area.top() + 4)
            paint_mark(painter, Severity(worst))
        painter.restore()


class _List(QListWidget):
    """Says where the further deeds of a row are asked for: at its words for them, by a right click, by the Menu key."""

    more_wanted = Signal(object, object)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        item = self.itemAt(event.position().toPoint())
        if item is not None and _more_of(QRectF(self.visualItemRect(item))).contains(event.position()):
            self.more_wanted.emit(item, event.globalPosition().toPoint())
        else:
            super().mousePressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        by_key = event.reason() is QContextMenuEvent.Reason.Keyboard
        item = self.currentItem() if by_key else self.itemAt(event.pos())
        if item is not None:
            there = self.visualItemRect(item).bottomLeft() if by_key else event.pos()
            self.more_wanted.emit(item, self.viewport().mapToGlobal(there))


class JobList(QWidget):
    """The list, and a line to find a job by any word of it where there are many."""

    chosen = Signal(str)
    more_wanted = Signal(str, object)  # what else can be done with a job, at a place of the screen

    def __init__(self, looks: JobLooks) -> None:
        super().__init__()
        self._looks = looks
        self._entries: tuple[JobEntry, ...] = ()
        self._current = ""
        self.search = QLineEdit()
        self.search.setPlaceholderText("Word, colour, wood, pen, customer, cause, month")
        self.search.setAccessibleName("Find a job")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self.fill())
        self.list = _List()
        self.list.more_wanted.connect(lambda item, place: self.more_wanted.emit(item.data(_ID), place))
        self.list.setItemDelegate(_Row(self.list))
        self.list.setAccessibleName("Jobs in this workshop")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemActivated.connect(self._choose)
        self.list.itemClicked.connect(self._choose)
        self._head = quiet_label(_HEAD)
        self._head.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self._head)
        column.addWidget(self.search)
        column.addWidget(self.list, 1)
        looks.made.connect(self._show_look)

    def listed(self) -> tuple[str, ...]:
        """The jobs that are listed, by their ids."""
        return tuple(self.list.item(row).data(_ID) for row in range(self.list.count()))

    def take_focus(self) -> None:
        """The keyboard goes to the line where a name is typed, or to the list where there are few."""
        (self.list if self.search.isHidden() else self.search).setFocus(Qt.FocusReason.PopupFocusReason)

    def show_jobs(self, jobs: tuple[JobEntry, ...], current: str) -> None:
        """List the jobs of the workshop, the one in hand marked."""
        self._entries, self._current = jobs, current
        self.search.setVisible(len(jobs) > _WITHOUT_SEARCH)
        if len(jobs) <= _WITHOUT_SEARCH:
            self.search.clear()
        self.fill()
        self._looks.want(jobs)

    def fill(self) -> None:
        """List them as they stand now."""
        words = self.search.text().strip()
        matching = self._looks.matching(words) if words else None
        self.list.clear()
        self.list.model().setProperty("current", self._current)
        for entry in self._entries:
            if matching is not None and entry.id not in matching and words.casefold() not in entry.name.casefold():
                continue
            item = QListWidgetItem(entry.name)
            item.setData(_ID, entry.id)
            item.setData(_DAY, _day(entry.changed_at, QLocale.FormatType.ShortFormat))
            self._dress(item, entry)
            self.list.addItem(item)
            if entry.id == self._current:
                self.list.setCurrentItem(item)
        found_none = matching is not None and not self.list.count()
        self._head.setText("No job has all these words." if found_none else _HEAD)

    def _dress(self, item: QListWidgetItem, entry: JobEntry) -> None:
        """Put the picture and the mark on a row, once they are known."""
        look = self._looks.look(entry)
        day = _day(entry.changed_at, QLocale.FormatType.LongFormat)
        said = f": {look.worst.value.lower()}" if look and look.worst and look.worst is not Severity.NOTE else ""
        following = look.next_words(datetime.now()) if look else ""
        then = f". {following}" if following else ""
        item.setToolTip(plain_tip(f"{entry.name}, changed {day}{said}{then}"))
        item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{entry.name}, changed {day}{said}{then}")
        if look is not None:
            item.setData(_PICTURE, look.picture)
            item.setData(_NEXT, following)
            item.setData(_WORST, look.worst.value if said and look.worst else "")

    def _show_look(self, job_id: str) -> None:
        entry = next((one for one in self._entries if one.id == job_id), None)
        for row in range(self.list.count()):
            if entry is not None and self.list.item(row).data(_ID) == job_id:
                self._dress(self.list.item(row), entry)

    def _choose(self, item: QListWidgetItem) -> None:
        self.chosen.emit(item.data(_ID))


def _day(changed_at: str, way: QLocale.FormatType) -> str:
    """The day of a time as the workshop keeps it, as the desktop writes days; a short one leaves this year out."""
    when = QDateTime.fromString(changed_at, Qt.DateFormat.ISODateWithMs).toLocalTime()
    if not when.isValid():
        return changed_at[:10]
    if way is QLocale.FormatType.LongFormat:
        return QLocale().toString(when.date(), way)
    is_this_year = when.date().year() == QDateTime.currentDateTime().date().year()
    return QLocale().toString(when.date(), "d MMM" if is_this_year else "MMM yyyy")
