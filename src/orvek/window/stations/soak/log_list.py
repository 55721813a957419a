"""The log of weights: each line as it was typed, with what can be done to it."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from orvek.documents import JOB, MOST_WEIGHINGS, Weighing, deeds, path_to
from orvek.documents.deeds import put_on_shelf
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.quantities import Dimension, write, write_moment
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.soak.paste_dialog import ask_weighings
from orvek.window.widgets.buttons import Deeds, buttons_for, more_for
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.scale_dialog import ask_scale

_WIDE_PX = 216  # room for a moment and its weight
_LOG = JOB.soak.drying.log
_MOST_BYTES = 1_000_000


class LogList(QWidget):
    """Lines by time, those that are left out struck through."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.list = QListWidget()
        self.list.setAccessibleName("Weights, by time")
        self.list.setMinimumSize(_WIDE_PX, 96)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(lambda _row: self._enable())
        self.list.itemActivated.connect(lambda _item: self.change())
        self._order: list[int] = []
        often: Deeds = {"weigh": ("Weigh now…", self.weigh)}
        seldom: Deeds = {
            "scale": ("From the scale…", self.ask_scale),
            "paste": ("Paste…", self.paste),
            "file": ("Read a file…", self.read_file),
            "change": ("Change…", self.change),
            "out": ("Leave out", self.leave_out),
            "remove": ("Remove", self.remove),
        }
        self.buttons = buttons_for(often, small=True)
        self.more, self.seldom = more_for(seldom, "these weights")
        row = QHBoxLayout()
        row.setSpacing(4)
        for button in (*self.buttons.values(), self.more):
            row.addWidget(button, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.list, 1)
        column.addLayout(row)

    def show_plan(self, plan: Plan) -> None:
        """Show a job's log; the line in hand stays in hand."""
        log, units = plan.job.soak.drying.log, self._session.units
        kept = self.list.currentRow()
        odd = dict(plan.soak.drying.odd) if plan.soak else {}
        self._order = sorted(range(len(log)), key=lambda n: log[n].when)
        self.list.clear()
        for n in self._order:
            line = log[n]
            mark = f"   {odd[n]}" if n in odd else "   left out" if line.is_left_out else ""
            item = QListWidgetItem(f"{write_moment(line.when)}   {write(line.mass_g, Dimension.MASS, units)}{mark}")
            font = QFont(self.list.font())
            font.setStrikeOut(line.is_left_out)
            item.setFont(font)
            item.setForeground(theme.CAUTION if n in odd else theme.QUIET if line.is_left_out else theme.INK)
            self.list.addItem(item)
        self.list.setCurrentRow(min(kept, self.list.count() - 1))
        self._enable()

    def weigh(self) -> None:
        """Ask for one more weight, with the time as it is now."""
        log = self._log()
        mass = log[self._order[-1]].mass_g if self._order else 40.0
        begin = Weighing(when=datetime.now(), mass_g=mass)
        seen = edit_document(self, "A weight", begin, self._session.shop)
        if seen is not None:
            self._set((*log, seen), "Add a weight")

    def ask_scale(self) -> None:
        """Take what lies on the scale, with the time as it is now."""
        scale = self._session.job.pour.scale
        found = ask_scale(self, self._session.units, scale)
        if found is None:
            return
        mass, kept = found
        weigh = partial(deeds.add_weighing, when=datetime.now(), mass_g=mass)
        self._session.attempt("Add a weight from the scale", weigh)
        if kept != scale:
            self._session.change_shop(
                f"{scale.name} is at {kept.plugged_in_at}", lambda shop: put_on_shelf(shop, "scales", kept)
            )
            self._session.edit(path_to(JOB.pour.scale), kept, "Where the scale is plugged in")

    def paste(self) -> None:
        """Ask for a table of times and weights."""
        self._take(ask_weighings(self, ""))

    def read_file(self) -> None:
        """Read a table of times and weights from a file."""
        name, _ = QFileDialog.getOpenFileName(self, "Read weights", "", "Tables (*.csv *.txt *.tsv);;All files (*)")
        if not name:
            return
        try:
            text = Path(name).read_bytes()[:_MOST_BYTES].decode("utf-8-sig", errors="replace")
        except OSError as error:
            self._session.said.emit(f"{Path(name).name} cannot be read: {error.strerror or 'it does not open'}.")
            return
        self._take(ask_weighings(self, text))

    def change(self) -> None:
        """Ask for changes to the line in hand."""
        at = self._place()
        if at is None:
            return
        log = self._log()
        seen = edit_document(self, "A weight", log[at], self._session.shop)
        if seen is not None:
            self._set((*log[:at], seen, *log[at + 1 :]), "Change a weight")

    def leave_out(self) -> None:
        """Leave the line in hand out of the forecast, or use it again; it stays in the log."""
        at = self._place()
        if at is not None:
            left_out = not self._log()[at].is_left_out
            words = "Leave a weight out" if left_out else "Use a weight again"
            self._session.edit(path_to(_LOG[at].is_left_out), left_out, words)

    def remove(self) -> None:
        """Take the line in hand out of the log."""
        at = self._place()
        if at is not None:
            log = self._log()
            self._set((*log[:at], *log[at + 1 :]), "Remove a weight")

    def _log(self) -> tuple[Weighing, ...]:
        return self._session.job.soak.drying.log

    def _place(self) -> int | None:
        row = self.list.currentRow()
        return self._order[row] if 0 <= row < len(self._order) else None

    def _take(self, weighings: tuple[Weighing, ...]) -> None:
        if not weighings:
            return
        log = self._log()
        fresh = tuple(one for one in weighings if one not in log)
        if len(log) + len(fresh) > MOST_WEIGHINGS:
            self._session.said.emit(f"The log holds {MOST_WEIGHINGS} weights at most.")
            return
        self._set((*log, *fresh), f"Add {len(fresh)} weights")

    def _set(self, log: tuple[Weighing, ...], words: str) -> None:
        try:
            self._session.edit(path_to(_LOG), log, words)
        except OrvekError as error:
            self._session.said.emit(str(error))

    def _enable(self) -> None:
        at = self._place()
        for key in ("change", "out", "remove"):
            self.seldom[key].setEnabled(at is not None)
        is_out = at is not None and self._log()[at].is_left_out
        self.seldom["out"].setText("Use again" if is_out else "Leave out")
