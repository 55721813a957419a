"""Resin: how much goes in, the chamber and the vacuum, what was weighed after it, and the oven."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from orvek.documents import JOB, Bath, Heat, path_to
from orvek.planning import Plan
from orvek.planning.soak.results import SoakPlan
from orvek.quantities import Units
from orvek.window.pictures.treatment_picture import TreatmentPicture
from orvek.window.session import Session
from orvek.window.stations.soak.records_button import RecordsButton
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading
from orvek.window.widgets.layouts import fill_column, under_picture
from orvek.window.widgets.more import More

_BATH = (
    "chamber", "chamber_mm", "chamber_high_mm", "stands", "cover_mm", "resin_g_ml", "reserve_pct", "baths",
    "boils_kpa", "gauge_bar", "vacuum_min", "soaked_min", "pressed_bar", "after_g",
)  # fmt: skip
_HEAT = ("oven_c", "core_c", "begin_c", "has_fan", "is_wrapped", "wide", "high", "hold_min", "core_min")
_RARE_OF_BATH = ("stands", "cover_mm", "resin_g_ml", "reserve_pct", "baths", "boils_kpa", "pressed_bar")
_RARE_OF_HEAT = ("core_c", "begin_c", "has_fan", "is_wrapped", "wide", "high", "hold_min", "core_min")
_WOOD = {
    "dry_g": "Oven-dry, all pieces",
    "density_g_ml": "Oven-dry density",
    "void_pct": "Room in it",
    "most_uptake_pct": "Takes up at most",
}
_FIGURES = {
    "buy_g": "Resin at hand, by weight",
    "head_mm": "Free above the resin",
    "dial_most": "The dial can say at most",
    "soak_least_min": "Leave it in the resin at least",
    "taken_pct": "Taken up, of the possible",
}


def _answer(soak: SoakPlan, units: Units) -> str:
    """How much resin stands round the wood, stays in it, and is to be at hand."""
    if soak.bath is None:
        return "This wood is dried and dyed only: no resin goes into it"
    bath = soak.bath
    there, stays, wanted = (one.written(units) for one in (bath.bath_ml, bath.takes_ml, bath.buy_ml))
    return f"{there} of resin in the chamber, {stays} stays in the wood; have {wanted}"


def _has_bath(plan: Plan) -> bool:
    return plan.soak is not None and plan.soak.bath is not None


class ResinPage(QWidget):
    """The page Resin of the station Soak."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture = TreatmentPicture()
        self.bath = DocumentFields(session, path_to(JOB.soak.bath), Bath, *_BATH)
        self.heat = DocumentFields(session, path_to(JOB.soak.heat), Heat, *_HEAT)
        self._figures = {name: FigureLine(words) for name, words in (*_WOOD.items(), *_FIGURES.items())}
        self._core, self._clock = FigureLine("Until the core is there"), FigureLine("From closing the door")
        self._caution = caution_label()
        self.answer = Answer()
        self._parts: list[QWidget] = []
        self.more = More("resin")
        self.more.hold(*self.bath.some(*_RARE_OF_BATH), *self.heat.some(*_RARE_OF_HEAT), when=_has_bath)
        self.records = RecordsButton(session)
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the bath and the oven."""
        soak, job, units = plan.soak, plan.job, self._session.units
        if soak is None:
            return
        self.picture.show_soak(soak, units)
        for part in self._parts:
            part.setVisible(soak.bath is not None)
        self.bath.show_document(job.soak.bath)
        self.heat.show_document(job.soak.heat)
        for name in _WOOD:
            self._figures[name].set_figure(getattr(soak.wood, name), units)
        for name in _FIGURES:
            figure = getattr(soak.vacuum if name == "dial_most" else soak.bath, name, None)
            self._figures[name].set_figure(figure, units)
            self._figures[name].setVisible(soak.bath is not None and (figure is not None or name != "taken_pct"))
        self._core.set_figure(soak.heat.core_min if soak.heat else None, units)
        self._clock.set_figure(soak.heat.clock_min if soak.heat else None, units)
        told = [plan.caution(key) for key in ("soak.vacuum", "soak.resin", "soak.oven", "soak.wicking")]
        self._caution.setText(" ".join(words for words in told if words))
        self.answer.say(_answer(soak, units), units, soak.bath.bath_ml if soak.bath else None)
        self.records.show_plan(plan)
        self.more.show_plan(plan)

    def _lay_out(self) -> None:
        columns = QHBoxLayout()
        columns.setContentsMargins(24, 4, 24, 8)
        columns.setSpacing(28)
        chamber = fill_column(QWidget(), "The chamber", *self.bath.widgets.values())
        title = heading("The oven")
        oven = (title, *self.heat.widgets.values(), self._core, self._clock)
        room = fill_column(QWidget(), "How much, how long", *self._figures.values())
        always = [one for name, one in self.heat.widgets.items() if name not in _RARE_OF_HEAT]
        self._parts = [chamber, *(self._figures[name] for name in _FIGURES), title, *always, self._core, self._clock]
        steps = QWidget()
        column = QVBoxLayout(steps)
        column.setContentsMargins(0, 0, 0, 0)
        for widget in (*oven, self.records, self._caution):
            column.addWidget(widget)
        column.addStretch(1)
        column.addWidget(self.more, 0, Qt.AlignmentFlag.AlignRight)
        for widget, stretch in ((chamber, 4), (room, 4), (steps, 5)):
            columns.addWidget(widget, stretch)
        inside = QWidget()
        inside.setLayout(columns)
        under_picture(self, self.picture, inside, self.answer)
