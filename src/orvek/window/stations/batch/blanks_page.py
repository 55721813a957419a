"""Blanks: the fate of each blank, what was planned beside what came of it, and what to do again or not."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Literal

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.cards.records_text import compared_csv
from orvek.craft.task_kinds import task_kind
from orvek.documents import Fate, FateEntry, LessonEntry, deeds, fates, outcome
from orvek.files import safe_name
from orvek.planning import Plan
from orvek.planning.compared import Compared, compared
from orvek.planning.history import fates_of, is_missed, kind_of_work
from orvek.planning.records.closing import closed
from orvek.quantities import write_day
from orvek.window.photos.work_photos import WorkPhotos
from orvek.window.session import Session
from orvek.window.stations.batch.blanks_picture import BlanksPicture
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fates import ask_fate, write_fate
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.tables import fill_table, plain_table

_COLUMNS = ("What", "Planned", "Actual", "Difference", "Allowed by")
_WORDS: dict[Fate, str] = {
    "good": "Good",
    "repaired": "Repaired…",
    "made smaller": "Downsized…",
    "spoilt": "Scrapped…",
}
_AGAIN: tuple[Literal["do again", "do not"], ...] = ("do again", "do not")


class BlanksPage(QWidget):
    """Tiles above, the fates' buttons under them, planned beside actual, then what is said for next time."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._begun: dict[str, int] = {}  # by job: as many as the maker said, where that is more than planned
        self._rows: tuple[Compared, ...] = ()
        self._task, self._again = "turn", _AGAIN[0]
        self.tiles = BlanksPicture()
        self.tiles.chosen.connect(self._choose)
        self._line, self._state = quiet_label(""), quiet_label("")
        self._line.setWordWrap(True)
        self._nothing = quiet_label("No actuals yet. They are recorded as you work at the bench.")
        self.buttons = {fate: QPushButton(_WORDS[fate]) for fate in fates()}
        for fate, button in self.buttons.items():
            button.clicked.connect(lambda _=False, f=fate: ask_fate(self, session, self.tiles.number, f))
        self.open_again, self.another = QPushButton("In work after all"), QPushButton("Start one more")
        self.open_again.clicked.connect(self._open_again)
        self.another.clicked.connect(self._one_more)
        self.table = plain_table("Planned against actual", _COLUMNS)
        self.csv = QPushButton("Save as CSV…")
        self.csv.clicked.connect(self._ask_csv)
        self.close_batch = QPushButton("The batch is finished")
        self.close_batch.clicked.connect(self.finish_batch)
        self.task, self.again = ChoiceField("At the task", self._fill_tasks), ChoiceField("Next time", self._fill_again)
        self.words = QLineEdit()
        self.words.setPlaceholderText("What, in your own words")
        self.words.setAccessibleName("What to do again, or not")
        self.words.setMaxLength(400)
        self.words.returnPressed.connect(self.write_lesson)
        self.note = QPushButton("Write it down")
        self.note.clicked.connect(self.write_lesson)
        self.photos = WorkPhotos(session, "press")
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show how the batch in hand stands."""
        known, count = self._blanks(plan)
        self.tiles.show_blanks(count, known, self.tiles.number)
        there = known.get(self.tiles.number)
        self._line.setText(_fate_line(there) if there else f"Blank {self.tiles.number} is in work.")
        self.open_again.setVisible(there is not None)
        good = sum(not is_missed(fate) for fate in known.values())
        wanted = plan.job.batch.pens_wanted
        self._state.setText(f"{good} good of {len(known)} decided; {wanted} wanted, {count} started")
        self._rows = compared(plan)
        off = frozenset(n for n, row in enumerate(self._rows) if not row.is_within)
        cells = [(row.words, *row.written(plan.units), row.source) for row in self._rows]
        fill_table(self.table, cells, off)
        self.table.setVisible(bool(cells))
        self._nothing.setVisible(not cells)
        self.csv.setVisible(bool(self._rows))
        self.close_batch.setEnabled(bool(known) and self._session.workshop.is_writable)
        self.task.set_text(task_kind(self._task).words)
        self.again.set_text(self._again)
        self.photos.take_for(f"blank {self.tiles.number}")
        self.photos.show_job(plan.job)
        for button in (*self.buttons.values(), self.open_again, self.note):
            button.setEnabled(self._session.workshop.is_writable)

    # -- deeds -------------------------------------------------------------------------------------------------

    def _choose(self, number: int) -> None:
        plan = self._session.plan
        known, count = self._blanks(plan)
        self.tiles.show_blanks(count, known, number)
        self.show_plan(plan)

    def _blanks(self, plan: Plan) -> tuple[dict[int, FateEntry], int]:
        """The fates that are known, and how many blanks there are: as planned, or as many more as were begun."""
        known = fates_of(plan.shop.ledger, plan.job.batch.id)
        begun = self._begun.get(plan.job.batch.id, 0)
        return known, max(1, round(plan.bars.blanks.value), begun, *known)

    def _one_more(self) -> None:
        plan = self._session.plan
        self._begun[plan.job.batch.id] = self._blanks(plan)[1] + 1
        self.show_plan(plan)

    def _open_again(self) -> None:
        job = self._session.job
        there = fates_of(self._session.shop.ledger, job.batch.id).get(self.tiles.number)
        if there is not None:
            write_fate(self._session, there.with_(is_open_again=True, when=_now()))

    def finish_batch(self) -> None:
        """Write down how the batch stands: how many were good, what one of them cost."""
        entry = closed(self._session.plan, _now())
        if self._session.write_down(partial(deeds.records.write_entry, entry=entry)):
            missing = self._session.job.batch.pens_wanted - entry.good
            more = f" {missing} of those wanted are missing." if missing > 0 else ""
            self._session.said.emit(f"The batch is written down: {entry.good} good of {entry.started}.{more}")

    def write_lesson(self) -> None:
        """Keep what is to be done again, or not; it is shown where such a task is planned next."""
        words = self.words.text().strip()
        if not words:
            self._session.said.emit("Say first what is to be done again, or not.")
            return
        about = deeds.records.about(self._session.job, kind_of_work(self._session.job), _now())
        entry = LessonEntry(task=self._task, again=self._again, words=words, **about)
        if self._session.write_down(partial(deeds.records.write_entry, entry=entry)):
            self.words.clear()
            self._session.said.emit("It will be shown when such a task is planned in another job.")

    def _fill_tasks(self, menu: QMenu) -> None:
        plan = self._session.plan
        kinds = dict.fromkeys(task.kind for task in (plan.route.operations if plan.route else ()))
        for kind in kinds:
            add_action(menu, task_kind(kind).words, partial(self._set_task, kind), checked=kind == self._task)

    def _set_task(self, kind: str) -> None:
        self._task = kind
        self.task.set_text(task_kind(kind).words)

    def _fill_again(self, menu: QMenu) -> None:
        for words in _AGAIN:
            add_action(menu, words, partial(self._set_again, words), checked=words == self._again)

    def _set_again(self, words: Literal["do again", "do not"]) -> None:
        self._again = words
        self.again.set_text(words)

    def _ask_csv(self) -> None:
        suggested = f"{safe_name(self._session.job.batch.name)} planned and actual.csv"
        path, _ = QFileDialog.getSaveFileName(self, "Planned against actual", suggested, "CSV (*.csv)")
        if path:
            self._session.write_file(Path(path), compared_csv(self._rows))

    def _lay_out(self) -> None:
        marks, deeds_row, lesson = QHBoxLayout(), QHBoxLayout(), QHBoxLayout()
        for button in self.buttons.values():
            marks.addWidget(button)
        marks.addStretch(1)
        marks.addWidget(self.open_again)
        for widget, share in ((self._state, 1), (self.another, 0), (self.close_batch, 0)):
            deeds_row.addWidget(widget, share)
        compared_row = QHBoxLayout()
        compared_row.addWidget(heading("Planned against actual"), 1)
        compared_row.addWidget(self.csv)
        said = QHBoxLayout()
        said.setSpacing(24)
        said.addWidget(self.task, 3)
        said.addWidget(self.again, 2)
        said.addStretch(2)
        lesson.addWidget(self.words, 1)
        lesson.addWidget(self.note)
        self.table.setMinimumHeight(150)
        column = QVBoxLayout()
        column.setContentsMargins(24, 8, 24, 8)
        column.setSpacing(8)
        column.addWidget(self.tiles)
        column.addWidget(self._line)
        column.addLayout(marks)
        column.addLayout(deeds_row)
        column.addLayout(compared_row)
        column.addWidget(self._nothing)
        column.addWidget(self.table, 1)
        column.addWidget(heading("For next time"))
        column.addLayout(said)
        column.addLayout(lesson)
        column.addWidget(self.photos)
        column.addStretch(0)
        inside = QWidget()
        inside.setLayout(column)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(scrolled(inside))


def _fate_line(fate: FateEntry) -> str:
    """What is known of a blank, in one line."""
    parts = [f"Blank {fate.blank_no}: {outcome(fate.fate)}"]
    if fate.fate != "good":
        parts += [f"while {fate.stage}", fate.cause, fate.place, f"tried: {fate.tried}" if fate.tried else ""]
        parts += [
            f"decided by {fate.decided_by}" if fate.decided_by else "",
            "tube saved" if fate.is_tube_saved else "",
        ]
    return f"{', '.join(part for part in parts if part)} ({write_day(fate.when.date())})."


def _now() -> datetime:
    return datetime.now().replace(microsecond=0)
