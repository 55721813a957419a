"""A table to read and to choose a line of: the keyboard goes through its lines with arrows, and on with Tab."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QTableWidget, QTableWidgetItem

from orvek.window import theme

_MOST_PX = 380  # of a column; the last takes what is left


def plain_table(name: str, columns: Sequence[str], line_px: int = 24) -> QTableWidget:
    """A table without numbers at its side, nothing in it yet; its last column takes what room is left."""
    table = QTableWidget(0, len(columns))
    table.setHorizontalHeaderLabels(list(columns))
    table.setAccessibleName(name)
    table.verticalHeader().hide()
    table.setTabKeyNavigation(False)  # Tab goes on to what is next; arrows go through the lines
    table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
    table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
    table.setSelectionMode(QTableWidget.SelectionMode.SingleSelection)
    table.horizontalHeader().setStretchLastSection(True)
    table.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
    table.verticalHeader().setDefaultSectionSize(line_px)
    return table


def fill_table(table: QTableWidget, rows: Sequence[Sequence[str]], marked: frozenset[int] = frozenset()) -> None:
    """Put lines into a table, those that are marked in the ink of cautions; the line in hand stays in hand."""
    shown = [[_words(table, row, column) for column in range(table.columnCount())] for row in range(table.rowCount())]
    if shown == [list(row) for row in rows] and table.property("marked") == sorted(marked):
        return
    here = table.currentRow()
    table.setProperty("marked", sorted(marked))
    table.setRowCount(len(rows))
    for row, cells in enumerate(rows):
        for column, words in enumerate(cells):
            item = QTableWidgetItem(words)
            item.setToolTip(words)
            if row in marked:
                item.setForeground(theme.CAUTION)
            table.setItem(row, column, item)
    table.resizeColumnsToContents()
    for column in range(table.columnCount() - 1):
        table.setColumnWidth(column, min(table.columnWidth(column), _MOST_PX))
    if 0 <= here < len(rows):
        table.selectRow(here)
    table.setAccessibleDescription(f"{len(rows)} lines")


def _words(table: QTableWidget, row: int, column: int) -> str:
    item = table.item(row, column)
    return item.text() if item is not None else ""
