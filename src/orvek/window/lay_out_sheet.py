"""What to lay out for the next hours at work: a sheet to tick, and the same on paper."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QDialogButtonBox, QFileDialog, QGridLayout, QVBoxLayout, QWidget

from orvek.planning.lay_out import Thing, by_kind, laid_out, where
from orvek.planning.timetable.next_day import operations_in
from orvek.planning.timetable.results import Slot
from orvek.quantities import write_day
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.fields import caution_label, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.sheets import Sheet


class LayOutSheet(Sheet):
    """The things by their kinds; what the shelf has none left of stands in the colour of a caution."""

    def __init__(self, parent: QWidget | None, session: Session, slots: tuple[Slot, ...]) -> None:
        super().__init__(parent)
        self._session = session
        self.title = f"Lay out for {write_day(slots[0].begins.date())}"
        self.setWindowTitle(self.title)
        self.resize(820, 680)
        self.things = self._things(slots)
        tasks = quiet_label(", ".join(dict.fromkeys(slot.task.words for slot in slots)) + ".")
        tasks.setWordWrap(True)
        title = Label(self.title)
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        for words, deed in (("Print…", self.print), ("Save as PDF…", self._ask)):
            button = buttons.addButton(words, QDialogButtonBox.ButtonRole.ActionRole)
            button.setEnabled(bool(self.things))
            button.clicked.connect(lambda _=False, d=deed: d())
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addWidget(tasks)
        column.addWidget(scrolled(self._list()), 1)
        column.addWidget(buttons)

    def pdf(self) -> bytes:
        """The list on paper."""
        from orvek.cards.lay_out_card import lay_out_card

        return lay_out_card(self.title, self.things, self._session.shop)

    def print(self) -> None:
        """Show it as it comes out of the printer."""
        from orvek.window.printing import CardPreview

        CardPreview(self, self.title, self.pdf()).exec()

    def _ask(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, self.title, f"{self.title}.pdf", "PDF (*.pdf)")
        if path:
            self._session.write_file(Path(path), self.pdf())

    def _things(self, slots: tuple[Slot, ...]) -> tuple[Thing, ...]:
        plan = self._session.plan
        plans = self._session.others.plans(plan, {slot.job for slot in slots})
        return laid_out(operations_in(slots, plans), self._session.others.shelf(plan)[1], date.today())

    def _list(self) -> QWidget:
        """A line a thing: to be ticked, where it lies, for which jobs."""
        whole = QWidget()
        grid = QGridLayout(whole)
        grid.setContentsMargins(0, 0, 8, 0)
        grid.setVerticalSpacing(3)
        grid.setHorizontalSpacing(20)
        row = 0
        for kind, own in by_kind(self.things):
            grid.addWidget(heading(kind.capitalize()), row, 0, 1, 3)
            for one in own:
                row += 1
                box = QCheckBox(one.words)
                grid.addWidget(box, row, 0)
                for column, words in enumerate((where(one), ", ".join(one.jobs)), 1):
                    label = caution_label() if one.missing else quiet_label("")
                    label.setText(words)
                    grid.addWidget(label, row, column)
            row += 1
        grid.setColumnStretch(0, 1)
        grid.setRowStretch(row, 1)
        return whole
