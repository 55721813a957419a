"""What is done to the barrels' ends beside turning: a button whose menu adds, changes and removes, each in a line."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import EndWork, deeds
from orvek.planning import Plan
from orvek.planning.finish.results import EndPlan
from orvek.quantities import Units
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, refill
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import FigureLine, quiet_label
from orvek.window.widgets.layouts import clear

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
        self._lines = QVBoxLayout()
        self._lines.setSpacing(2)
        self._shown: tuple[tuple[EndPlan, ...], Units] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(self._lines)
        column.addWidget(self.button, 0, Qt.AlignmentFlag.AlignLeft)

    def show_plan(self, plan: Plan) -> None:
        """Show what each end is cut to."""
        ends = plan.finish.ends if plan.finish is not None else ()
        if self._shown != (ends, plan.units):
            self._shown = ends, plan.units
            clear(self._lines)
            for one in ends:
                self._lines.addWidget(quiet_label(f"{one.where}: {one.work.kind}"))
                for figure in (one.cut_mm, one.long_mm):
                    if figure is not None:
                        line = FigureLine("")
                        line.tell(figure, plan.units)
                        self._lines.addWidget(line)
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
