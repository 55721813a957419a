"""Pour: how much of everything, in which cup, and whether there is time for it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from orvek.documents import Batch, CastStep, Mould, Pour, Resin, catalogue, declared, deeds
from orvek.planning import PacePlan, Plan
from orvek.planning.bubbles.part import climb
from orvek.planning.words import bars_line, mould_size, pot_life_line, ratio_line
from orvek.quantities import Units, decimal
from orvek.stations import Station, row_of
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.bubbles.page import BubblesPage
from orvek.window.stations.colour.page import ColourPage
from orvek.window.stations.cure.page import CurePage
from orvek.window.stations.pour.casting_look import CastingLook
from orvek.window.stations.pour.cups_picture import CupsPicture
from orvek.window.stations.pour.menus import PourMenus
from orvek.window.stations.pour.mould_picture import MouldPicture
from orvek.window.stations.pour.weighing_table import WeighingTable
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, refill
from orvek.window.widgets.fields import FigureLine, QuantityField, heading, quiet_label
from orvek.window.widgets.layouts import LOWER_SHARE, PICTURE_SHARE, scrolled
from orvek.window.widgets.opening import Drawing, Opening, Suggestion, colour_drawing, mould_drawing, parts_drawing
from orvek.window.widgets.pages import Pages
from orvek.window.widgets.tabs import Tabs

_PAGES = row_of(Station.POUR).pages


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


class PourStation(StationWidget):
    """The station Pour."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self._menus = PourMenus(session, self)
        look = CastingLook()
        look.load()
        self.mould = MouldPicture(look, surface)
        self.cups = CupsPicture()
        self.table = WeighingTable(session)
        self._mould_opening = Opening("Which mould do you pour into?", "Its cavities give the bars and their volume.")
        self._resin_opening = Opening("Which resin?", "Its ratio and densities turn the volume into what you weigh.")
        self._colours_opening = Opening(
            "Which colours?", "A cup for each: take the first now and add others beside it. Every cup can be changed."
        )
        self._build_choices()
        self._build_fields()
        self._stack = QStackedWidget()
        self._not_cast = Opening(
            "Nothing is cast.", "This blank's steps have no casting; the station Blank can add one."
        )
        pour = partial(session.attempt, "Pour a casting", lambda job: deeds.replace_stock(job, CastStep()))
        to_blank = partial(session.station_wanted.emit, Station.BLANK)
        self._not_cast.show_suggestions(
            (
                Suggestion("Pour a casting", "in place of what the steps begin with; undo brings it back", pour),
                Suggestion("Go to Blank", "see what the bar is made of", to_blank),
            )
        )
        self.cure, self.bubbles, self.colour = CurePage(session), BubblesPage(session), ColourPage(session)
        self.tabs = Tabs(tuple(page.words for page in _PAGES))
        column, whole, self._pages = QVBoxLayout(self), QWidget(), Pages()
        column.setContentsMargins(0, 0, 0, 0)
        # From without to within: wherever a widget is put, everything in it gets its style once more.
        column.addWidget(self._stack)
        for page in (self._mould_opening, self._resin_opening, self._colours_opening, whole, self._not_cast):
            self._stack.addWidget(page)
        self._fill_pages(whole)
        self.cups.moving.connect(lambda index, share: session.preview(deeds.move_boundary(session.job, index, share)))
        self.cups.moved.connect(session.finish)

    def open_page(self, name: str) -> None:
        """Open a page by its name as it is typed in a command."""
        self.tabs.choose([page.name for page in _PAGES].index(name))

    def page(self) -> str:
        """The name of the page that is open."""
        return _PAGES[self.tabs.current()].name

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the pour."""
        job, units = plan.job, self._session.units
        page = 0 if job.pour.mould is None else 1 if job.pour.resin is None else 2 if not job.cast.cups else 3
        self._stack.setCurrentIndex(page)
        if job.cast_index is None:
            self._stack.setCurrentWidget(self._not_cast)
            return
        self._mould_opening.show_suggestions(self._mould_suggestions())
        self._resin_opening.show_suggestions(self._resin_suggestions())
        self._colours_opening.show_suggestions(self._colour_suggestions())
        if page < 3:
            return
        assert job.pour.mould is not None
        assert job.pour.resin is not None
        for inner in (self.cure, self.bubbles, self.colour):
            inner.show_plan(plan)
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
        for (room, field), widget in self._fields.items():
            widget.set_value(getattr(getattr(job, room), field), units)
        self._show_figures(plan, units)

    def _show_figures(self, plan: Plan, units: Units) -> None:
        mixture, costs = plan.mixture, plan.costs
        self._climb.set_figure(climb(plan.job.pour.resin), units)
        self._bars.label.setText(plan.bars.bars.label)
        self._bars.set_figure(plan.bars.bars, units)
        self._volume.set_figure(mixture.volume_ml if mixture else None, units)
        self._mass.set_figure(mixture.mass_g if mixture else None, units)
        self._ratio.set_figure(mixture.ratio if mixture else None, units)
        self._working.set_figure(plan.pace.working_min if plan.pace else None, units)
        self._gauge.show_pace(plan.pace, units)
        self._total.set_figure(costs.total if costs else None, units)
        missing = costs.without_price if costs else ()
        self._unpriced.setText(f"No price yet: {', '.join(missing)}" if missing else "")
        self._unpriced.setVisible(bool(missing))

    # -- building ----------------------------------------------------------------------------------------------

    def _build_choices(self) -> None:
        menus = self._menus
        self._mould_choice = ChoiceField("Mould", menus.fill_moulds)
        self._resin_choice = ChoiceField("Resin", menus.fill_resins)
        self._scale_choice = ChoiceField("Scale", menus.fill_scales)
        self._insert_choice = ChoiceField("Insert in each cavity", menus.fill_insert)
        self._habit_choice = ChoiceField("Weighing", menus.fill_weighing)
        self._mould_line, self._resin_line, self._unpriced = quiet_label(""), quiet_label(""), quiet_label("")
        for line in (self._mould_line, self._resin_line, self._unpriced):
            line.setWordWrap(True)
        self._climb = FigureLine("Climbs the walls by")
        self._bars, self._volume = FigureLine("Bars to cast"), FigureLine("Resin to pour")
        self._mass, self._ratio = FigureLine("To mix"), FigureLine("B to A by mass")
        self._working, self._gauge = FigureLine("Stir and pour"), PaceGauge()
        self._total = FigureLine("Resin and colours")

    def _build_fields(self) -> None:
        session = self._session
        self._fields: dict[tuple[str, str], QuantityField] = {}
        wanted = {
            "batch": ("pens_wanted", "spoilage_pct", "shop_temperature_c"),
            "pour": (
                "most_bars_at_once",
                "overage_pct",
                "cup_residue_g",
                "dose_tolerance_pct",
                "mix_min_per_cup",
                "pour_s_per_bar",
            ),
        }
        for room, names in wanted.items():
            for name in names:
                measure = declared(Batch if room == "batch" else Pour, name)
                widget = QuantityField(measure, session.units, optional=name in {"most_bars_at_once", "spoilage_pct"})
                widget.entered.connect(lambda v, p=(room, name), t=measure.title: session.edit(p, v, t))
                self._fields[room, name] = widget

    def _fill_pages(self, whole: QWidget) -> None:
        """The four pages of a pour under their words."""
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.tabs)
        column.addWidget(self._pages, 1)
        for page in (self._bench(), self.cure, self.bubbles, self.colour):
            self._pages.addWidget(page)
        self.tabs.chosen.connect(self._pages.setCurrentIndex)

    def _bench(self) -> QWidget:
        bench = QWidget()
        pictures = QHBoxLayout()
        pictures.setContentsMargins(16, 8, 20, 0)
        pictures.setSpacing(8)
        pictures.addWidget(self.mould, 10)
        pictures.addWidget(self.cups, 9)
        column = QVBoxLayout(bench)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(pictures, PICTURE_SHARE)
        column.addWidget(self._lower(), LOWER_SHARE)
        return bench

    def _lower(self) -> QScrollArea:
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(24, 8, 24, 12)
        column.setSpacing(6)
        add = QPushButton("Add a colour")
        add.setProperty("plain", True)
        menu = QMenu(add)
        refill(menu, self._menus.fill_colours)
        add.setMenu(menu)
        head = QHBoxLayout()
        head.addWidget(heading("What you weigh"), 1)
        head.addWidget(add)
        column.addLayout(head)
        column.addWidget(self.table)
        column.addSpacing(10)
        columns = QHBoxLayout()
        columns.setSpacing(28)
        for group in self._groups():
            columns.addLayout(group, 1)
        column.addLayout(columns)
        column.addStretch(1)
        return scrolled(inside, is_lower=True)

    def _groups(self) -> tuple[QVBoxLayout, ...]:
        field = self._fields
        return (
            _group(
                "Mould and bars",
                self._mould_choice,
                self._mould_line,
                field["batch", "pens_wanted"],
                field["batch", "spoilage_pct"],
                self._bars,
                field["pour", "most_bars_at_once"],
                self._insert_choice,
                self._climb,
            ),
            _group(
                "Resin and scale",
                self._resin_choice,
                self._resin_line,
                field["pour", "overage_pct"],
                field["pour", "cup_residue_g"],
                self._volume,
                self._mass,
                self._ratio,
                self._scale_choice,
                self._habit_choice,
                field["pour", "dose_tolerance_pct"],
            ),
            _group(
                "Time and cost",
                field["batch", "shop_temperature_c"],
                field["pour", "mix_min_per_cup"],
                field["pour", "pour_s_per_bar"],
                self._working,
                self._gauge,
                self._total,
                self._unpriced,
            ),
        )

    # -- the first decisions -----------------------------------------------------------------------------------

    def _mould_suggestions(self) -> tuple[Suggestion, ...]:
        units, menus = self._session.units, self._menus
        moulds: tuple[Mould, ...] = (*self._session.shop.moulds, *catalogue().moulds)
        return tuple(
            Suggestion(m.name, mould_size(m, units), partial(menus.take_mould, m), mould_drawing(m)) for m in moulds
        )

    def _resin_suggestions(self) -> tuple[Suggestion, ...]:
        units, menus = self._session.units, self._menus
        resins: tuple[Resin, ...] = tuple(
            r
            for r in self._session.shop.resins
            if (f := self._session.shop.family(r.family)) is None or f.sets_when_mixed
        )
        return tuple(
            Suggestion(
                r.name,
                f"{ratio_line(r)}, {pot_life_line(r, units)}",
                partial(menus.take_resin, r),
                _ratio_drawing(r),
            )
            for r in resins
        )

    def _colour_suggestions(self) -> tuple[Suggestion, ...]:
        kinds = {kind.key: kind.name.lower() for kind in catalogue().kinds}
        pigments = self._session.shop.pigments[:8]
        menus = self._menus
        clear = Suggestion("Clear", "no pigment", lambda: menus.add_colour(None))
        return (
            *(
                Suggestion(p.name, kinds.get(p.kind, p.kind), partial(menus.add_colour, p), colour_drawing(p.colour))
                for p in pigments
            ),
            clear,
        )


def _ratio_drawing(resin: Resin) -> Drawing:
    by_mass = resin.ratio_by == "mass"
    part_a = resin.ratio_a / (resin.density_a.value if by_mass else 1)
    return parts_drawing(part_a, resin.ratio_b / (resin.density_b.value if by_mass else 1))


def _group(title: str, *widgets: QWidget) -> QVBoxLayout:
    column = QVBoxLayout()
    column.setSpacing(4)
    column.addWidget(heading(title))
    for widget in widgets:
        column.addWidget(widget)
    column.addStretch(1)
    return column
