"""Two jobs side by side: what each took, gave and cost."""

from __future__ import annotations

from datetime import date

from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.records.side_by_side import COMPARED, beside
from orvek.window import theme
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet
from orvek.window.widgets.tables import fill_table, plain_table


class CompareSheet(Sheet):
    """A table of a row for each thing that is compared."""

    def __init__(self, parent: QWidget | None, one: Plan, other: Plan) -> None:
        super().__init__(parent)
        names = one.job.batch.name, other.job.batch.name
        self.setWindowTitle(" and ".join(names))
        self.resize(760, 560)
        heading = Label("Side by side")
        heading.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self.table = plain_table("Jobs side by side", ("", *names))
        columns = [beside(each, date.today()) for each in (one, other)]
        fill_table(self.table, [(words, *(column[n] for column in columns)) for n, words in enumerate(COMPARED)])
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(12)
        column.addWidget(heading)
        column.addWidget(self.table, 1)
