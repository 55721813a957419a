"""What is done to the barrels' ends beside turning: a button whose menu adds, changes and removes, each in a line."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import EndWork, deeds
from orvek.planning import Plan
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, refill
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import quiet_label

_NEW = {
    "Add a ring in a recess…": EndWork(),
    "Glue an end piece on…": EndWork(kind="a piece on a spigot", long_mm=12),
    "Part off, nub by hand…": EndWork(kind="parted off, nub by hand"),
}


class EndsMenu(QWidget):
    """The ends of the job in hand: what each is cut to, and a button to say more."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.button = QPushButton("Work on an end")
        self.button.setProperty("kind", "small")
        menu = QMenu(self.button)
        refill(menu, self.fill)
        self.button.setMenu(menu)
        self._lines: QLabel = quiet_label("")
        self._lines.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._lines)
        column.addWidget(self.button, 0, Qt.AlignmentFlag.AlignLeft)

    def show_plan(self, plan: Plan) -> None:
        """Show what each end is cut to."""
        told = []
        for one in plan.finish.ends if plan.finish is not None else ():
            sizes = [figure for figure in (one.cut_mm, one.long_mm) if figure is not None]
            said = ", ".join(f"{figure.label.lower()} {figure.written(plan.units)}" for figure in sizes)
            told.append(f"{one.where}: {one.work.kind}; {said}.")
        self._lines.setText("\n".join(told))
        self._lines.setVisible(bool(told))
        self.button.setEnabled(self._session.workshop.is_writable)

    def fill(self, menu: QMenu) -> None:
        """New work on an end, and what there is already."""
        for words, work in _NEW.items():
            add_action(menu, words, partial(self._ask, None, work))
        ends = self._session.job.finish.ends
        if ends:
            menu.addSeparator()
        for index, work in enumerate(ends):
            inner = menu.addMenu(f"Barrel {work.barrel_no}, {work.end}: {work.kind}")
            add_action(inner, "Change…", partial(self._ask, index, work))
            remove = partial(deeds.remove_end, index=index)
            add_action(inner, "Remove", partial(self._session.attempt, "Remove the work on an end", remove))

    def _ask(self, index: int | None, work: EndWork) -> None:
        found = edit_document(self, "An end of a barrel", work, self._session.shop)
        if found is not None:
            self.put(index, found)

    def put(self, index: int | None, work: EndWork) -> None:
        """Work on an end so; None: beside what there is."""
        deed = partial(deeds.add_end, work=work) if index is None else partial(deeds.set_end, index=index, work=work)
        self._session.attempt("Work on an end", deed)
