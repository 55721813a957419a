"""Next: what the next batch of each kind of work costs, how many to start, and the one thing to change."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, datetime
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.cards.records_text import next_lines, records_csv, records_jsonl
from orvek.cards.year_report import year_report, years
from orvek.documents import JOB, ChangeEntry, Shop, deeds, path_to
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning import plan as plan_of
from orvek.planning.history import kind_of_work
from orvek.planning.records.changes import Proposal, tried
from orvek.planning.records.overview import NextBatch, next_batches, with_job_in_hand
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.records.rates_picture import RatesPicture
from orvek.window.widgets.choice import add_action, refill
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import ROOMY_SHARE, filled, in_columns, under_picture
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.steps import Steps

_MOST_TRIED = 6
_NOTHING = "Enter outcomes at Batch, or with F at the bench, and prices once: the cost of the next batch follows."


class NextPage(QWidget):
    """The kinds of work above; below what is told of the one in hand, and what was changed before."""

    def __init__(self, session: Session, begin: Callable[[], None]) -> None:
        super().__init__()
        self._session = session
        self._rows: tuple[NextBatch, ...] = ()
        self._shop: Shop | None = None
        self._rests_on: tuple[object, ...] = ()
        self.picture = RatesPicture()
        self.picture.chosen.connect(self._choose)
        self._head, self._advice, self._expects = heading(""), Label(), quiet_label("")
        self._advice.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        self._told, self._why, self._tried = (Steps(4, is_numbered=False) for _ in range(3))
        self.adopt = QPushButton("Adopt this change")
        self.adopt.clicked.connect(self._adopt)
        self.by_record = QPushButton("Use the rate from your records")
        self.by_record.clicked.connect(self._plan_by_record)
        for label in (self._advice, self._expects):
            label.setWordWrap(True)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(self._head)
        left.addLayout(self._told)
        aside = QHBoxLayout()
        aside.addWidget(self.by_record)
        self.export_menu = QMenu(self)
        refill(self.export_menu, self._fill_export)
        export = QPushButton("Export")
        export.setMenu(self.export_menu)
        export.setMinimumWidth(72)
        export.setStyleSheet("text-align: center;")
        aside.setSpacing(8)
        aside.addWidget(export)
        aside.addStretch(1)
        left.addLayout(aside)
        right.addWidget(heading("The one thing to change"))
        right.addWidget(self._advice)
        right.addWidget(self._expects)
        row = QHBoxLayout()
        row.addWidget(self.adopt)
        row.addStretch(1)
        right.addLayout(row)
        right.addWidget(heading("Why"))
        right.addLayout(self._why)
        right.addWidget(heading("Changed before"))
        right.addLayout(self._tried)
        self._whole = QWidget()
        below = in_columns((left, 4), (right, 5), apart_px=32, line_px=4)
        under_picture(self._whole, self.picture, below, picture_share=ROOMY_SHARE)
        self._nothing = Opening("Nothing is written down yet.", _NOTHING)
        self._nothing.show_suggestions((Suggestion("This batch", "say what became of a blank", begin),))
        filled(self, (self._whole, 1), (self._nothing, 1))

    def show_plan(self, plan: Plan) -> None:
        """Show what the records say."""
        self._rows = self._found(plan)
        self._whole.setVisible(bool(self._rows))
        self._nothing.setVisible(not self._rows)
        index = min(self.picture.index, max(0, len(self._rows) - 1))
        self.picture.show_rows(self._rows, plan.units, index)
        self._show_row(index)

    def _found(self, plan: Plan) -> tuple[NextBatch, ...]:
        """The rows; while only the job in hand changes, its own is made anew and the others stay."""
        others, today = self._session.others.of(plan.job.batch.id), date.today()
        rests_on = (others, plan.job.batch.id, kind_of_work(plan.job) if plan.job.pen is not None else "", today)
        if plan.shop is self._shop and rests_on == self._rests_on:
            return with_job_in_hand(self._rows, plan, today) if plan.job.pen is not None else self._rows
        self._shop, self._rests_on = plan.shop, rests_on
        made = tried(plan.shop.ledger)[:_MOST_TRIED]
        told = [
            f"{one.change.work}, {one.change.cause}: {one.change.words.rstrip('.')}: {one.verdict}." for one in made
        ]
        self._tried.show_lines(told or ["Nothing yet."])
        return next_batches(plan, plan_of, others, today)

    def _choose(self, index: int) -> None:
        self.picture.show_rows(self._rows, self._session.units, index)
        self._show_row(index)

    def _row(self) -> NextBatch | None:
        return self._rows[self.picture.index] if self.picture.index < len(self._rows) else None

    def _show_row(self, index: int) -> None:
        row = self._rows[index] if index < len(self._rows) else None
        proposal = row.change if row is not None else None
        self.adopt.setVisible(proposal is not None)
        self.adopt.setEnabled(self._session.workshop.is_writable)
        self._expects.setText(proposal.expects if proposal is not None else "")
        self._expects.setVisible(proposal is not None)
        if row is None:
            return
        self._head.setText(row.seen.work)
        self._told.show_lines(tuple(next_lines(row, self._session.units)))
        self._advice.setText(row.advice)
        causes = [f"{cause}: {count} of {row.seen.of}" for cause, count in row.seen.causes[:4]]
        stages = [f"while {stage}: {count}" for stage, count in row.seen.stages[:4]]
        self._why.show_lines([*causes, *stages] or ["Nothing was scrapped so far."])
        job = self._session.job
        own = job.pen is not None and kind_of_work(job) == row.seen.work
        self.by_record.setVisible(own and job.batch.spoilage_pct is not None and row.seen.of > 0)

    def _adopt(self) -> None:
        row = self._row()
        if row is not None and row.change is not None:
            self.adopt_change(row.change)

    def adopt_change(self, proposal: Proposal) -> None:
        """From now on it is done so: the next tries show whether that was it."""
        about = deeds.records.about(self._session.job, proposal.work, datetime.now().replace(microsecond=0))
        entry = ChangeEntry(cause=proposal.cause, words=proposal.words, **about)
        self._session.write_down(partial(deeds.records.write_entry, entry=entry))

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

    def _fill_export(self, menu: QMenu) -> None:
        add_action(menu, "Outcome of each blank, CSV…", partial(self._ask_export, "csv", "fates.csv"))
        add_action(menu, "Every entry, JSON Lines…", partial(self._ask_export, "jsonl", "records.jsonl"))
        for year in years(self._session.shop.ledger):
            add_action(menu, f"The year {year}, PDF…", partial(self._ask_export, "pdf", f"year {year}.pdf", year))

    def _ask_export(self, kind: str, suggested: str, year: int = 0) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Export", suggested, f"{kind.upper()} (*.{kind})")
        if path:
            self.export(kind, Path(path), year)

    def _plan_by_record(self) -> None:
        self._session.edit(path_to(JOB.batch.spoilage_pct), None, "Use the rate from your records")
