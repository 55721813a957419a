"""Backups of the workshop: when, why, how large, with how many jobs; make one now, put one back."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QLocale, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from orvek.errors import OrvekError
from orvek.quantities import write_date
from orvek.store import Backup, back_up, backups_of
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

_MIB = 1 << 20
_WHY = {"daily": "daily", "asked": "made by you", "before-restore": "before a restore"}
_COLUMNS = ("Made", "Size", "Jobs", "Why")


class BackupsDialog(Sheet):
    """Lists the backups, newest first. `restored` carries the backup that undoes a restore."""

    restored = Signal(object)

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self.setWindowTitle("Backups")
        self.resize(600, 400)
        self._session = session
        self._backups: tuple[Backup, ...] = ()
        self.table = QTableWidget(0, len(_COLUMNS))
        self.table.setAccessibleName("Backups of this workshop, newest first")
        self.table.setHorizontalHeaderLabels(_COLUMNS)
        self.table.verticalHeader().hide()
        self.table.setShowGrid(False)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setTabKeyNavigation(False)
        for column in range(len(_COLUMNS)):
            mode = QHeaderView.ResizeMode.Stretch if column == 0 else QHeaderView.ResizeMode.ResizeToContents
            self.table.horizontalHeader().setSectionResizeMode(column, mode)
        self.make, self.put_back = QPushButton("Back up now"), QPushButton("Restore")
        self.make.clicked.connect(self._make)
        self.put_back.clicked.connect(self._put_back)
        self.table.itemSelectionChanged.connect(self._show_choice)
        self.sentence = quiet_label("")
        self.sentence.setWordWrap(True)
        self._lay_out()
        self._list()

    def _lay_out(self) -> None:
        title = Label("Backups")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        about = quiet_label(
            "Orvek makes one on every day on which something changed, and before each upgrade. Restoring puts one in "
            "the place of the whole workshop; what is there now is backed up first, so that it can be undone."
        )
        about.setWordWrap(True)
        buttons = QHBoxLayout()
        for button in (self.make, self.put_back):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(12)
        column.addWidget(title)
        column.addWidget(about)
        column.addWidget(self.table, 1)
        column.addLayout(buttons)
        column.addWidget(self.sentence)

    def _list(self) -> None:
        self._backups = backups_of(self._session.workshop.path)
        locale = QLocale()
        self.table.setRowCount(len(self._backups))
        for row, backup in enumerate(self._backups):
            at = backup.made_at.astimezone()
            made = f"{write_date(at)}, {at:%H:%M}"
            jobs = "cannot be read" if backup.jobs is None else str(backup.jobs)
            why = _WHY.get(backup.why, "before an upgrade")
            cells: tuple[str, ...] = (
                made,
                locale.formattedDataSize(backup.size_bytes, 0 if backup.size_bytes < _MIB else 1),
                jobs,
                why,
            )
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                if column in {1, 2}:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(row, column, item)
        if self._backups:
            self.table.selectRow(0)
        else:
            self.sentence.setText("There is no backup yet.")
        self._show_choice()

    def _chosen(self) -> Backup | None:
        rows = self.table.selectionModel().selectedRows()
        return self._backups[rows[0].row()] if rows else None

    def _show_choice(self) -> None:
        chosen = self._chosen()
        writable = self._session.workshop.is_writable
        self.put_back.setEnabled(writable and chosen is not None and chosen.jobs is not None)
        self.make.setEnabled(writable)

    def _make(self) -> None:
        try:
            made = back_up(self._session.workshop.path, "asked")
        except OrvekError as error:
            self.sentence.setText(str(error))
            return
        self._list()
        self.sentence.setText(f"Made {made.name}.")

    def _put_back(self) -> None:
        chosen = self._chosen()
        before: Path | None = self._session.restore(chosen.path) if chosen else None
        if before is not None:
            self.restored.emit(before)
            self.accept()
