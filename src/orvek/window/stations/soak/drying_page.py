"""Drying: the wood, its log of weights, and when it will be dry."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QVBoxLayout, QWidget

from orvek.documents import JOB, Drying, Soak, WoodInHand, deeds, material, path_to
from orvek.planning import Plan
from orvek.planning.soak.words import dry_line
from orvek.window.pictures.drying_picture import DryingPicture
from orvek.window.session import Session
from orvek.window.stations.soak.log_list import LogList
from orvek.window.stations.soak.records_button import RecordsButton
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.materials_menu import fill_woods
from orvek.window.widgets.more import More

_SIZES = ("form", "count", "length_mm", "width_mm", "depth_mm", "bore_mm", "volume_ml", "dry_g")

_WEIGHTS = "Weights"


class DryingPage(QWidget):
    """The page Drying of the station Soak."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture, self.log = DryingPicture(), LogList(session)
        self.route = DocumentFields(session, path_to(JOB.soak), Soak, "route")
        self.wood = DocumentFields(session, path_to(JOB.soak.wood), WoodInHand, "is_soft", *_SIZES)
        self.drying = DocumentFields(session, path_to(JOB.soak.drying), Drying, "way", "oven_c", "humidity_pct")
        self.species = ChoiceField("Wood", self._fill_species)
        self.answer = Answer()
        self._figures = [FigureLine("") for _ in range(7)]
        self._caution = caution_label()
        self.records = RecordsButton(session)
        self.more = More("drying")
        self._hold()
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
        self.species.set_text(job.blank.material(job.treated_wood).name)
        self.wood["depth_mm"].setVisible(form in {"rectangular", "irregular"})
        self.wood["bore_mm"].setVisible(form == "hollow round")
        self.drying["oven_c"].setVisible(job.soak.drying.way == "in an oven")
        self.answer.say(dry_line(drying, units).words, units, drying.end_g)
        log = (drying.end_g, drying.moisture_pct, drying.equilibrium_pct, drying.dry_rate_pct, drying.weigh_apart)
        for line, figure in zip(self._figures, (*log, soak.wood.density_g_ml, soak.wood.shrinks_mm), strict=True):
            line.tell(figure, units)
        self._caution.setText(plan.caution("soak.oven"))
        self.records.show_plan(plan)
        self.more.show_plan(plan)

    def _hold(self) -> None:
        """What few woods need, and few makers measure."""
        edits(self.species, "soak", "wood", "species")
        rare = self.wood.some("is_soft", "form", "volume_ml", "dry_g")
        self.more.hold(*rare, *self.drying.some("humidity_pct"))

    def _lay_out(self) -> None:
        columns = []
        wood = (self.route["route"], self.species, *self.wood.widgets.values(), *self.drying.widgets.values())
        told = (*self._figures, self._caution, self.records)
        for title, widgets in (("The wood", wood), (_WEIGHTS, (self.log,)), ("Result", told)):
            column = QVBoxLayout()
            column.setSpacing(3)
            column.addWidget(heading(title))
            for widget in widgets:
                column.addWidget(widget, 1 if widget is self.log else 0)
            if widgets[0] is not self.log:
                column.addStretch(1)
            columns.append((column, 4 if title != _WEIGHTS else 3))
        under_picture(self, self.picture, in_columns(*columns, foot=self.more), self.answer)

    def _fill_species(self, menu: QMenu) -> None:
        session = self._session

        def put(key: str) -> None:
            session.attempt("Wood", partial(deeds.choose_treated_wood, key=key))

        fill_woods(menu, put, session.shop.materials)
        add_action(menu, "Describe your own…", self._describe_own)

    def _describe_own(self) -> None:
        """A wood, cob or board that no list has: kept on the shelf, and taken here."""
        session = self._session
        like = material(session.job.treated_wood, session.shop.materials)
        own = edit_document(self, "Your own wood", like.with_(name=f"My {like.name.lower()}"[:80]), session.shop)
        if own is not None:
            own = own.with_(key=f"own {own.name}"[:60])
            session.change_shop(f"Save {own.name}", lambda shop: deeds.put_on_shelf(shop, "materials", own))
            session.attempt("Wood", partial(deeds.choose_treated_wood, key=own.key))
