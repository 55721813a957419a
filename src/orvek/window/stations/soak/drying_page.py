"""Drying: the wood, its log of weights, and when it will be dry."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from orvek.documents import Drying, Soak, WoodInHand
from orvek.planning import Plan
from orvek.planning.soak.words import dry_line
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.soak.drying_picture import DryingPicture
from orvek.window.stations.soak.log_list import LogList
from orvek.window.stations.soak.records_button import RecordsButton
from orvek.window.widgets.choice import ChoiceField
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import FigureLine, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.materials_menu import fill_woods

_SIZES = ("form", "count", "length_mm", "width_mm", "depth_mm", "bore_mm", "volume_ml", "dry_g")


class DryingPage(QWidget):
    """The page Drying of the station Soak."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture, self.log = DryingPicture(), LogList(session)
        self.route = DocumentFields(session, ("soak",), Soak, "route")
        self.wood = DocumentFields(session, ("soak", "wood"), WoodInHand, "is_soft", *_SIZES)
        self.drying = DocumentFields(session, ("soak", "drying"), Drying, "way", "oven_c", "humidity_pct")
        self.species = ChoiceField("Wood", self._fill_species)
        self._told = Label()
        self._told.setWordWrap(True)
        self._told.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        self._figures = {
            name: FigureLine(words)
            for name, words in (
                ("end_g", "It will come to"),
                ("moisture_pct", "Moisture now"),
                ("equilibrium_pct", "Moisture the shop's air leaves"),
                ("dry_rate_pct", "Dry when an hour costs less than"),
                ("weigh_apart", "Weigh at least this far apart"),
                ("density", "Oven-dry density"),
                ("shrinks", "Still shrinks, at most"),
            )
        }
        self._caution = quiet_label("")
        self._caution.setWordWrap(True)
        self._caution.setStyleSheet(theme.words_css(theme.CAUTION, theme.SMALL, 500))
        self.records = RecordsButton(session)
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for drying."""
        soak, job, units = plan.soak, plan.job, self._session.units
        if soak is None:
            return
        drying, form = soak.drying, job.soak.wood.form
        left_out = tuple((one.when, one.mass_g) for one in job.soak.drying.log if one.is_left_out)
        self.picture.show_drying(drying, left_out, units)
        self.log.show_plan(plan)
        self.route.show_document(job.soak)
        self.wood.show_document(job.soak.wood)
        self.drying.show_document(job.soak.drying)
        self.species.set_text(job.blank.material(job.soak.wood.species).name)
        self.wood["depth_mm"].setVisible(form in {"rectangular", "irregular"})
        self.wood["bore_mm"].setVisible(form == "hollow round")
        self.drying["oven_c"].setVisible(job.soak.drying.way == "in an oven")
        self._told.setText(dry_line(drying, units))
        figures = {
            "end_g": drying.end_g,
            "moisture_pct": drying.moisture_pct,
            "equilibrium_pct": drying.equilibrium_pct,
            "dry_rate_pct": drying.dry_rate_pct,
            "weigh_apart": drying.weigh_apart,
            "density": soak.wood.density_g_ml,
            "shrinks": soak.wood.shrinks_mm,
        }
        for name, figure in figures.items():
            self._figures[name].set_figure(figure, units)
            self._figures[name].setVisible(figure is not None)
        self._caution.setText(plan.caution("soak.oven"))
        self.records.show_plan(plan)

    def _lay_out(self) -> None:
        columns = QHBoxLayout()
        columns.setContentsMargins(24, 4, 24, 8)
        columns.setSpacing(28)
        wood = (self.route["route"], self.species, *self.wood.widgets.values(), *self.drying.widgets.values())
        told = (self._told, *self._figures.values(), self._caution, self.records)
        for title, widgets in (("The wood", wood), ("Its weights", (self.log,)), ("What they say", told)):
            column = QVBoxLayout()
            column.setSpacing(3)
            column.addWidget(heading(title))
            for widget in widgets:
                column.addWidget(widget, 1 if widget is self.log else 0)
            if widgets[0] is not self.log:
                column.addStretch(1)
            columns.addLayout(column, 4 if title != "Its weights" else 3)
        inside = QWidget()
        inside.setLayout(columns)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addWidget(self.picture, 1)
        whole.addWidget(scrolled(inside, 372))

    def _fill_species(self, menu: QMenu) -> None:
        session = self._session

        def put(key: str) -> None:
            session.edit(("soak", "wood", "species"), key, "Wood")

        fill_woods(menu, put, session.shop.materials)
