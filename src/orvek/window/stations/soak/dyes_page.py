"""Dyes: each colour's carrier, way and time, how deep it goes, and what was seen when the piece was bored."""

from __future__ import annotations

from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from orvek.documents import JOB, Bath, DyeStep, as_kind, path_to
from orvek.planning import Plan
from orvek.planning.soak.dyes import with_colour
from orvek.planning.soak.results import DyePlan
from orvek.window.session import Session
from orvek.window.stations.soak.dye_picture import DyePicture
from orvek.window.stations.soak.records_button import RecordsButton
from orvek.window.widgets.choice import ChoiceField
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, quiet_label
from orvek.window.widgets.layouts import clear, fill_column, under_picture

_FIELDS = ("carrier", "way", "soaked_min", "seen_mm", "seen_end_mm", "depth_mm", "end_depth_mm")
_CHAMBER = ("chamber", "gauge_bar", "boils_kpa")
_MOST = 4  # colours that find room beside each other; the others are at Blank


class DyeColumn(QWidget):
    """One colour."""

    def __init__(self, session: Session, number: int) -> None:
        super().__init__()
        self._session, self._step = session, 0
        self.fields = DocumentFields(session, (), DyeStep, *_FIELDS)
        self.colour = ChoiceField("Colour", None)
        self.colour.button.clicked.connect(self._ask_colour)
        self._figures = tuple(FigureLine("") for _ in range(3))
        fill_column(self, f"Colour {number}", self.colour, *self.fields.widgets.values(), *self._figures)

    def show_dye(self, dye: DyePlan) -> None:
        """Show a colour as it is planned."""
        self._step = dye.step
        self.fields.path = path_to(JOB.blank.steps[dye.step])
        self.fields.show_document(dye.dye)
        self.colour.set_text(dye.dye.colour)
        self.colour.button.setStyleSheet(f"text-align: right; border-left: 28px solid {dye.dye.colour};")
        for line, figure in zip(self._figures, (dye.side_mm, dye.end_mm, dye.needed_mm), strict=True):
            line.tell(figure, self._session.units)

    def _ask_colour(self) -> None:
        step = self._session.job.blank.steps[self._step]
        colour = QColorDialog.getColor(QColor(getattr(step, "colour", "#245b7a")), self, "Colour")
        if colour.isValid():
            self._session.edit(
                path_to(as_kind(DyeStep, JOB.blank.steps[self._step]).colour), colour.name(), "Colour of the dye"
            )


class DyesPage(QWidget):
    """The page Dyes of the station Soak."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture, self.answer = DyePicture(), Answer()
        self.columns: list[DyeColumn] = []
        self._row = QHBoxLayout()
        self._row.setSpacing(28)
        self._nothing = quiet_label("No colour yet. A dye is a step of the blank: it is soaked before what follows.")
        self._nothing.setWordWrap(True)
        self.add = QPushButton("Add a colour")
        self.add.setProperty("kind", "small")
        self.add.clicked.connect(lambda: session.attempt("Add a colour", lambda job: with_colour(job, session.shop)))
        self._caution = caution_label()
        self.chamber = DocumentFields(session, path_to(JOB.soak.bath), Bath, *_CHAMBER)
        self._chamber = QWidget()
        beside = QHBoxLayout(self._chamber)
        beside.setContentsMargins(0, 0, 0, 0)
        beside.setSpacing(28)
        for field, part in zip(self.chamber.widgets.values(), (3, 2, 2), strict=True):
            beside.addWidget(field, part)
        self.records = RecordsButton(session)
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(24, 4, 24, 8)
        column.setSpacing(4)
        column.addLayout(self._row)
        buttons = QHBoxLayout()
        buttons.addWidget(self.add)
        buttons.addWidget(self.records)
        buttons.addStretch(1)
        for line in (self._chamber, self._nothing, self._caution):
            column.addWidget(line)
        column.addLayout(buttons)
        column.addStretch(1)
        under_picture(self, self.picture, inside, self.answer)

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's colours."""
        dyes = plan.soak.dyes[:_MOST] if plan.soak else ()
        self.picture.show_plan(plan, self._session.units)
        self._nothing.setVisible(not dyes)
        units = self._session.units
        reach = [f"{number} about {dye.side_mm.written(units)}" for number, dye in enumerate(dyes, 1)]
        words = f"Colour {', '.join(reach)} deep from the faces" if dyes else "No colour yet"
        self.answer.say(words, units, dyes[0].side_mm if dyes else None)
        if len(self.columns) != len(dyes):
            clear(self._row)
            self.columns = [DyeColumn(self._session, number) for number in range(1, len(dyes) + 1)]
            for column in self.columns:
                self._row.addWidget(column, 1)
            if len(dyes) < 2:
                self._row.addStretch(1)
        for column, dye in zip(self.columns, dyes, strict=True):
            column.show_dye(dye)
        # Where it is stabilised too, the chamber is described with the resin.
        self._chamber.setVisible(plan.soak is not None and plan.soak.vacuum is not None and plan.soak.bath is None)
        self.chamber.show_document(plan.job.soak.bath)
        told = [plan.caution(key) for key in ("soak.vacuum", "soak.alcohol", "soak.oven")]
        self._caution.setText(" ".join(words for words in told if words))
        self.records.show_plan(plan)
