"""Charts: why blanks were lost, what a good pen cost over time, where the time goes, planned against actual."""

from __future__ import annotations

from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtCore import QBuffer
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.cards.records_text import records_csv, records_jsonl
from orvek.cards.year_report import year_report, years
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.compared import compared
from orvek.planning.history import closed_batches, last_fates, ranked_causes
from orvek.planning.records.costs import pen_cost
from orvek.window.session import Session
from orvek.window.stations.records.charts import Chart
from orvek.window.widgets.choice import add_action, refill

_MOST_BARS, _MOST_BATCHES, _MOST_PAIRS = 8, 12, 12


class ChartsPage(QWidget):
    """Four charts; each can be copied or saved, and all there is as CSV, JSON Lines or the report of a year."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.charts = {
            "causes": Chart("Why blanks were lost"),
            "cost": Chart("A good pen, batch by batch"),
            "time": Chart("Minutes of the hands for a blank"),
            "pairs": Chart("This batch: off from the plan"),
        }
        grid = QGridLayout()
        grid.setHorizontalSpacing(24)
        grid.setVerticalSpacing(12)
        for number, chart in enumerate(self.charts.values()):
            grid.addWidget(chart, number // 2, number % 2)
        row = QHBoxLayout()
        for words, fill in (
            ("Copy", self._fill_copy),
            ("Save a picture", self._fill_save),
            ("Export", self._fill_export),
        ):
            button, menu = QPushButton(words), QMenu(self)
            refill(menu, fill)
            button.setMenu(menu)
            button.setMinimumWidth(96)
            button.setStyleSheet("text-align: center;")
            row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 8, 24, 8)
        column.setSpacing(8)
        column.addLayout(grid, 1)
        column.addLayout(row)

    def show_plan(self, plan: Plan) -> None:
        """Draw what the records hold now."""
        ledger, currency = plan.shop.ledger, plan.units.currency
        causes = ranked_causes(last_fates(ledger))[:_MOST_BARS]
        self.charts["causes"].show_bars([(cause, count) for cause, count, _ in causes], "")
        closed = [one for one in closed_batches(ledger) if one.cost_good is not None][-_MOST_BATCHES:]
        points = [(one.job, one.cost_good or 0.0, one.told) for one in closed]
        self.charts["cost"].show_points(points, f"{currency}; ring: before scrap")
        cost = pen_cost(plan, date.today())
        stages = [(stage.kind.key, round(stage.minutes)) for stage in (cost.stages if cost else ())]
        self.charts["time"].show_bars([one for one in stages if one[1]], " min")
        rows = [row for row in compared(plan) if row.planned][:_MOST_PAIRS]
        pairs = [(row.words, row.off_pct, row.is_within) for row in rows]
        self.charts["pairs"].show_pairs(pairs, "% off; a cross: more than the plan allowed")

    def copy(self, key: str) -> None:
        """Put a chart on the clipboard."""
        QApplication.clipboard().setImage(self.charts[key].image())
        self._session.said.emit(f"Copied: {self.charts[key].title}.")

    def save(self, key: str, path: Path) -> None:
        """Write a chart as PNG."""
        held = QBuffer()
        held.open(QBuffer.OpenModeFlag.WriteOnly)
        self.charts[key].image().save(held, "PNG")  # type: ignore[call-overload]
        self._session.write_file(path, bytes(held.data().data()))

    def export(self, kind: str, path: Path, year: int = 0) -> None:
        """Write all there is as a table, as lines, or as the report of a year."""
        shop = self._session.shop
        try:
            made = {
                "csv": lambda: records_csv(shop.ledger),
                "jsonl": lambda: records_jsonl(shop.ledger),
                "pdf": lambda: year_report(shop, year, date.today()),
            }[kind]()
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.write_file(path, made)

    def _fill_copy(self, menu: QMenu) -> None:
        for key, chart in self.charts.items():
            if not chart.is_empty:
                add_action(menu, chart.title, partial(self.copy, key))

    def _fill_save(self, menu: QMenu) -> None:
        for key, chart in self.charts.items():
            if not chart.is_empty:
                add_action(menu, f"{chart.title}…", partial(self._ask_save, key))

    def _fill_export(self, menu: QMenu) -> None:
        add_action(menu, "Outcome of each blank, CSV…", partial(self._ask_export, "csv", "fates.csv"))
        add_action(menu, "Every entry, JSON Lines…", partial(self._ask_export, "jsonl", "records.jsonl"))
        for year in years(self._session.shop.ledger):
            add_action(menu, f"The year {year}, PDF…", partial(self._ask_export, "pdf", f"year {year}.pdf", year))

    def _ask_save(self, key: str) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Save a picture", f"{self.charts[key].title}.png", "PNG (*.png)")
        if path:
            self.save(key, Path(path))

    def _ask_export(self, kind: str, suggested: str, year: int = 0) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Export", suggested, f"{kind.upper()} (*.{kind})")
        if path:
            self.export(kind, Path(path), year)
