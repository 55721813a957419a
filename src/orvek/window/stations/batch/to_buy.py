"""To buy: what the job still needs and the shelf has not, on the page and as a file."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from orvek.cards.shopping import shopping_csv, shopping_lines
from orvek.files import safe_name
from orvek.planning import Plan
from orvek.planning.lay_out import all_to_buy
from orvek.window.session import Session
from orvek.window.widgets.fields import heading, quiet_label

_MOST_LINES = 5


class ToBuyList(QWidget):
    """Not there while nothing is counted on the shelf, or while the shelf has all of it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.lines = quiet_label("")
        self.lines.setWordWrap(True)
        self.save = QPushButton("Save the shopping list…")
        self.save.setProperty("kind", "small")
        self.save.clicked.connect(self._save)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(4)
        column.addWidget(heading("To buy"))
        column.addWidget(self.lines)
        column.addWidget(self.save, 0, Qt.AlignmentFlag.AlignLeft)

    def show_plan(self, plan: Plan) -> None:
        """Show what is missing for what is left to do."""
        _, held = self._session.others.shelf(plan)
        lines = list(shopping_lines(all_to_buy(plan, held) if held else ()))
        more = [f"and {len(lines) - _MOST_LINES} more"] if len(lines) > _MOST_LINES else []
        self.lines.setText("\n".join([*lines[:_MOST_LINES], *more]))
        self.lines.setToolTip("\n".join(lines))
        self.setVisible(bool(lines))

    def _save(self) -> None:
        plan = self._session.plan
        suggested = f"{safe_name(plan.job.batch.name)} to buy.csv"
        path, _ = QFileDialog.getSaveFileName(self, "Save the shopping list", suggested, "CSV (*.csv)")
        if path:
            wanted = all_to_buy(plan, self._session.others.shelf(plan)[1])
            self._session.write_file(Path(path), shopping_csv(wanted))
