"""Weigh: how much of everything, in which cup, and whether there is time for it."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QVBoxLayout, QWidget

from orvek.documents import JOB, Pour, deeds, path_to
from orvek.planning import PacePlan, Plan
from orvek.planning.bubbles.part import climb
from orvek.planning.words import bars_line, counted, mould_size, pot_life_line, ratio_line
from orvek.quantities import Units, decimal
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.pour.casting_look import CastingLook
from orvek.window.stations.pour.cups_picture import CupsPicture
from orvek.window.stations.pour.menus import PourMenus
from orvek.window.stations.pour.mould_picture import MouldPicture
from orvek.window.stations.pour.weighing_table import WeighingTable
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, refill
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, FigureLine, heading, quiet_label
from orvek.window.widgets.layouts import LOWER_SHARE, PICTURE_SHARE, beside_margin, fill_column, scrolled
from orvek.window.widgets.more import More

_RARE = ("most_bars_at_once", "cup_residue_g", "dose_tolerance_pct", "mix_min_per_cup", "pour_s_per_bar")


class PaceGauge(QWidget):
    """Stirring and pouring against the pot life, on one line: amber is the time that runs."""

    def __init__(self) -> None:
        super().__init__()
        self._pace: PacePlan | None = None
        self.setFixedHeight(14)
        self.setAccessibleName("Working time against pot life")

    def show_pace(self, pace: PacePlan | None, units: Units) -> None:
        """Show how much of the pot life is used."""
        self._pace = pace
        if pace and pace.pot_life:
            self.setToolTip(f"{pace.pot_life.label} for {pace.pot_life.written(units)}: {pace.pot_life.source}.")
            self.setAccessibleDescription(f"{pace.working_min.written(units)} of {pace.pot_life.written(units)}")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._pace is None or not self._pace.pot_life:
            return
        painter = QPainter(self)
        used = self._pace.working_min.value / self._pace.pot_life.value
        bar = QRectF(0, 4, self.width() - 1, 6)
        painter.fillRect(QRectF(0, 4, bar.width() * min(1.0, used), 6), theme.STOP if used > 1 else theme.AMBER)
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawRect(bar)


class WeighPage(QWidget):
    """The page Weigh of the station Pour."""

    def __init__(self, session: Session, surface: Surface, menus: PourMenus) -> None:
        super().__init__()
        self._session = session
        self.menus = menus
        look = CastingLook()
        look.load()
        self.mould = MouldPicture(look, surface)
        self.cups = CupsPicture()
        self.table = WeighingTable(session)
        self.more, self.answer = More("weigh"), Answer()
        self._build_choices()
        self._build_fields()
        self._lay_out()
        self.cups.moving.connect(lambda index, share: session.preview(deeds.move_boundary(session.job, index, share)))
        self.cups.moved.connect(session.finish)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the pour."""
        job, units = plan.job, self._session.units
        if job.pour.mould is None or job.pour.resin is None:
            return
        self.mould.show_plan(plan, units)
        self.cups.show_plan(plan, units)
        self.table.show_plan(plan)
        self._mould_choice.set_text(job.pour.mould.name)
        self._resin_choice.set_text(job.pour.resin.name)
        self._scale_choice.set_text(f"{job.pour.scale.name}, {decimal(job.pour.scale.resolution_g)} g")
        lying = plan.mixture.insert if plan.mixture else None
        words = f"{lying.volume_ml.written(units)} {lying.ways[0].name}" if lying else "none"
        self._insert_choice.set_text(words)
        self._habit_choice.set_text("tare each part" if job.pour.weighing == "tared" else "running sum")
        self._mould_line.setText(f"{mould_size(job.pour.mould, units)}\nthis job: {bars_line(plan.bars)}")
        self._resin_line.setText(f"{ratio_line(job.pour.resin)}\n{pot_life_line(job.pour.resin, units)}")
        self._fields.show_document(job.pour)
        self._show_figures(plan, units)
        self.more.show_plan(plan)

    def _show_figures(self, plan: Plan, units: Units) -> None:
        mixture, costs = plan.mixture, plan.costs
        self._climb.set_figure(climb(plan.job.pour.resin), units)
        self._bars.label.setText(plan.bars.bars.label)
        self._bars.set_figure(plan.bars.bars, units)
        self._volume.set_figure(mixture.volume_ml if mixture else None, units)
        mass, cups = (mixture.mass_g, len(mixture.cups)) if mixture else (None, 0)
        words = (
            f"{mass.written(units)} to mix, in {counted(cups, 'cup')}" if mass else "Add a colour: then it is weighed"
        )
        self.answer.say(words, units, mass)
        self._ratio.set_figure(mixture.ratio if mixture else None, units)
        self._working.set_figure(plan.pace.working_min if plan.pace else None, units)
        self._gauge.show_pace(plan.pace, units)
        self._total.set_figure(costs.total if costs else None, units)
        missing = costs.without_price if costs else ()
        self._unpriced.setText(f"No price yet: {', '.join(missing)}" if missing else "")
        self._unpriced.setVisible(bool(missing))

    # -- building ----------------------------------------------------------------------------------------------

    def _build_choices(self) -> None:
        menus = self.menus
        self._mould_choice = ChoiceField("Mould", menus.fill_moulds)
        self._resin_choice = ChoiceField("Resin", menus.fill_resins)
        self._scale_choice = ChoiceField("Scale", menus.fill_scales)
        self._insert_choice = ChoiceField("Insert in each cavity", menus.fill_insert)
        self._habit_choice = ChoiceField("Weighing", menus.fill_weighing)
        self._mould_line, self._resin_line, self._unpriced = quiet_label(""), quiet_label(""), quiet_label("")
        for line in (self._mould_line, self._resin_line, self._unpriced):
            line.setWordWrap(True)
        self._climb = FigureLine("Creep up the walls")
        self._bars, self._volume = FigureLine("Bars to cast"), FigureLine("Resin to pour")
        self._ratio = FigureLine("B to A by mass")
        self._working, self._gauge = FigureLine("Stir and pour"), PaceGauge()
        self._total = FigureLine("Resin and colours")

    def _build_fields(self) -> None:
        names = ("overage_pct", *_RARE)
        self._fields = DocumentFields(self._session, path_to(JOB.pour), Pour, *names)
        chosen = {"mould": self._mould_choice, "resin": self._resin_choice, "scale": self._scale_choice}
        for name, choice in {**chosen, "insert": self._insert_choice, "weighing": self._habit_choice}.items():
            edits(choice, "pour", name)
        self.more.hold(*self._fields.some(*_RARE), self._insert_choice, self._habit_choice, self._ratio, self._climb)

    def _lay_out(self) -> None:
        pictures = QHBoxLayout()
        pictures.setContentsMargins(16, 8, 20, 0)
        pictures.setSpacing(8)
        pictures.addWidget(self.mould, 10)
        pictures.addWidget(self.cups, 9)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(pictures, PICTURE_SHARE)
        column.addWidget(beside_margin(self.answer))
        column.addWidget(self._lower(), LOWER_SHARE)

    def _lower(self) -> QScrollArea:
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(24, 4, 24, 8)
        column.setSpacing(6)
        add = QPushButton("Add a colour")
        add.setProperty("kind", "small")
        menu = QMenu(add)
        refill(menu, self.menus.fill_colours)
        add.setMenu(menu)
        head = QHBoxLayout()
        head.addWidget(heading("What you weigh"), 1)
        head.addWidget(add)
        column.addLayout(head)
        column.addWidget(self.table)
        columns = QHBoxLayout()
        columns.setSpacing(28)
        for group in self._groups():
            columns.addWidget(group, 1)
        column.addLayout(columns)
        column.addStretch(1)
        column.addWidget(self.more, 0, Qt.AlignmentFlag.AlignRight)
        return scrolled(inside, is_lower=True)

    def _groups(self) -> tuple[QWidget, ...]:
        field = self._fields
        return (
            fill_column(
                QWidget(),
                "Mould and bars",
                self._mould_choice,
                self._mould_line,
                self._bars,
                field["most_bars_at_once"],
                self._insert_choice,
                self._climb,
            ),
            fill_column(
                QWidget(),
                "Resin and scale",
                self._resin_choice,
                self._resin_line,
                field["overage_pct"],
                self._scale_choice,
                self._volume,
                self._ratio,
                field["cup_residue_g"],
                self._habit_choice,
                field["dose_tolerance_pct"],
            ),
            fill_column(
                QWidget(),
                "Time and cost",
                self._working,
                self._gauge,
                self._total,
                self._unpriced,
                field["mix_min_per_cup"],
                field["pour_s_per_bar"],
            ),
        )
