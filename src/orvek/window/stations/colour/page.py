"""Colour: will the tube show? Each colour over the finished wall at every end; paint inside; recipes by name."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import JOB, Chip, Cup, Job, Recipe, deeds, path_to
from orvek.documents.base import clamped
from orvek.documents.deeds import put_on_shelf, set_shelf_chip
from orvek.planning import Plan
from orvek.planning.colour.results import TubeView
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action, add_heading
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import Answer, heading, quiet_label
from orvek.window.widgets.label import without_shortcut
from orvek.window.widgets.layouts import clear

_ROW, _HEAD, _NAME = 52, 40, 130
_PAINTS = {"none": "bare", "hole": "paint in the hole", "tube": "paint on the tube"}
_INKS = {"hidden": theme.QUIET, "borderline": theme.INK, "shows": theme.CAUTION}


class WallsPicture(QWidget):
    """A row for each colour: its wall at every end, over brass and over black, and what the eye makes of it."""

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._units = Units()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("How far each colour hides the tube")

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's walls."""
        self._plan, self._units = plan, units
        self.setMinimumHeight(_HEAD + _ROW * max(1, len(plan.job.cast.cups)))
        said = [f"{v.cup} at {v.barrel_name} {v.side}: {v.verdict}" for v in plan.colour]
        self.setAccessibleDescription("; ".join(said))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(600, self.minimumHeight())

    def paintEvent(self, _event: QPaintEvent) -> None:
        plan = self._plan
        if plan is None or not plan.colour or plan.job.pen is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        ends = [(n, side) for n in range(len(plan.job.pen.barrels)) for side in ("left", "right")]
        wide = (self.width() - _NAME) / len(ends)
        for column, (number, side) in enumerate(ends):
            view = next(v for v in plan.colour if (v.barrel, v.side) == (number, side))
            left = _NAME + column * wide
            painter.setPen(theme.INK)
            painter.drawText(QRectF(left, 0, wide - 8, 18), Qt.AlignmentFlag.AlignLeft, f"{view.barrel_name}, {side}")
            painter.setPen(theme.QUIET)
            wall = write(view.wall_mm, Dimension.LENGTH, self._units, 2)
            painter.drawText(QRectF(left, 18, wide - 8, 18), Qt.AlignmentFlag.AlignLeft, f"{wall} of wall")
        for row, cup in enumerate(plan.job.cast.cups):
            top = _HEAD + row * _ROW
            painter.setPen(theme.INK)
            name = painter.fontMetrics().elidedText(cup.name, Qt.TextElideMode.ElideRight, _NAME - 12)
            painter.drawText(QRectF(0, top, _NAME - 8, 28), Qt.AlignmentFlag.AlignVCenter, name)
            for column, (number, side) in enumerate(ends):
                seen = _view(plan, number, side, cup)
                if seen is not None:
                    self._paint_wall(painter, QRectF(_NAME + column * wide, top, wide - 16, 28), cup, seen)

    def _paint_wall(self, painter: QPainter, area: QRectF, cup: Cup, view: TubeView) -> None:
        """Left over brass, right over black: where the two look alike the tube is hidden."""
        over = QColor(cup.colour)
        dark = QColor.fromRgbF(*(max(0.0, part * view.ratio) for part in (over.redF(), over.greenF(), over.blueF())))
        half = area.width() / 2
        painter.fillRect(QRectF(area.left(), area.top(), half, area.height()), over)
        painter.fillRect(QRectF(area.left() + half, area.top(), half, area.height()), dark)
        painter.setPen(_INKS[view.verdict])
        mark = {"hidden": "✓ hidden", "borderline": "! borderline", "shows": "▮ shows"}[view.verdict]
        painter.drawText(QRectF(area.left(), area.bottom(), area.width(), 18), Qt.AlignmentFlag.AlignLeft, mark)


def _answer(plan: Plan) -> str:
    """At how many ends the tube may be seen."""
    ends = {(view.barrel, view.side) for view in plan.colour}
    if not ends:
        return "Will the tube show?"
    shows = {(view.barrel, view.side) for view in plan.colour if view.verdict != "hidden"}
    return f"The tube may show at {len(shows)} of {len(ends)} ends" if shows else "The tube is hidden at every end"


class ColourPage(QWidget):
    """The page Colour of the station Pour."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.walls = WallsPicture()
        self._paints: list[ChoiceField] = []
        self._names: tuple[str, ...] = ()
        self._paint_place = QVBoxLayout()
        self._basis = quiet_label("")
        self._basis.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 16, 24, 12)
        column.setSpacing(10)
        self.answer = Answer()
        column.addWidget(self.answer)
        column.addWidget(
            quiet_label("Each colour through the finished wall: left over what lies behind it, right over black.")
        )
        column.addWidget(self.walls)
        column.addWidget(self._basis)
        column.addSpacing(8)
        column.addWidget(heading("Inside the barrels"))
        column.addLayout(self._paint_place)
        column.addSpacing(8)
        column.addWidget(heading("Colours by name"))
        row = QHBoxLayout()
        for words, fill in (
            ("Save a colour as a recipe", self._fill_keep),
            ("Use a recipe", self._fill_take),
            ("Put in a measured chip", self._fill_chips),
        ):
            button = QPushButton(words)
            button.setProperty("kind", "small")
            menu = QMenu(button)
            menu.aboutToShow.connect(lambda m=menu, f=fill: (m.clear(), f(m)))
            button.setMenu(menu)
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        column.addStretch(1)

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's colours."""
        self.walls.show_plan(plan, self._session.units)
        barrels = plan.job.pen.barrels if plan.job.pen else ()
        names = tuple(barrel.name for barrel in barrels)
        if names != self._names:
            self._names = names
            self._build_paints(names)
        for number, choice in enumerate(self._paints):
            choice.set_text(_PAINTS[plan.job.blank.paint(number).where])
        self.answer.say(_answer(plan), self._session.units)
        guessed = any(not view.measured for view in plan.colour)
        if not plan.colour:
            self._basis.setText("Choose a pen first: its walls are looked through.")
        else:
            basis = (
                "Calculated from typical pigments, not measured"
                if guessed
                else "Calculated from chips that you measured"
            )
            self._basis.setText(f"{basis}. Hidden: black and brass behind it differ by no more than 2 %.")

    def _build_paints(self, names: tuple[str, ...]) -> None:
        clear(self._paint_place)
        self._paints = []
        for number, name in enumerate(names):
            choice = ChoiceField(name, partial(self._fill_paints, number=number))
            choice.setMaximumWidth(360)
            self._paint_place.addWidget(choice)
            self._paints.append(choice)

    def _fill_paints(self, menu: QMenu, number: int) -> None:
        now = self._session.job.blank.paint(number).where
        for where, words in _PAINTS.items():
            add_action(menu, words, partial(self._paint, number, where), checked=now == where)

    def _paint(self, number: int, where: str) -> None:
        self._session.edit(path_to(JOB.blank.paints), self._session.job.painted([number], where), "Paint inside")

    # -- recipes and chips ---------------------------------------------------------------------------------------

    def _fill_keep(self, menu: QMenu) -> None:
        for cup in self._session.job.cast.cups:
            add_action(menu, cup.name, partial(self.keep_recipe, cup))

    def _fill_take(self, menu: QMenu) -> None:
        recipes = self._session.shop.recipes
        if not recipes:
            add_heading(menu, "No recipe kept yet")
        for recipe in recipes:
            inner = menu.addMenu(without_shortcut(recipe.name))
            chip = QPixmap(16, 16)
            chip.fill(QColor(recipe.colour))
            inner.setIcon(QIcon(chip))
            for index, cup in enumerate(self._session.job.cast.cups):
                add_action(inner, f"for {cup.name}", partial(self.take_recipe, index, recipe))

    def _fill_chips(self, menu: QMenu) -> None:
        seen: set[str] = set()
        for number, cup in enumerate(self._session.job.cast.cups):
            for place, dose in enumerate(cup.pigments):
                if dose.pigment.name not in seen:
                    seen.add(dose.pigment.name)
                    add_action(menu, f"{dose.pigment.name}…", partial(self._ask_for_chip, number, place))

    def keep_recipe(self, cup: Cup) -> None:
        """Keep a cup's pigments under its name, for any mass."""
        recipe = Recipe(name=cup.name, colour=cup.colour, pigments=cup.pigments)
        self._session.change_shop(f"Save {cup.name}", lambda shop: put_on_shelf(shop, "recipes", recipe))

    def take_recipe(self, index: int, recipe: Recipe) -> None:
        """Colour a cup by a recipe."""

        def change(job: Job) -> Job:
            cup = job.cast.cups[index].with_(name=recipe.name, colour=recipe.colour, pigments=recipe.pigments)
            return deeds.set_cup(job, index, cup)

        self._session.attempt(f"Colour by {recipe.name}", change)

    def _ask_for_chip(self, cup: int, place: int) -> None:
        dose = self._session.job.cast.cups[cup].pigments[place]
        begin = dose.pigment.chip or Chip(load_pct=clamped(Chip, "load_pct", dose.load_pct))
        chip = edit_document(self, f"A chip of {dose.pigment.name}", begin, self._session.shop)
        if chip is not None:
            self.take_chip(dose.pigment.name, chip)

    def take_chip(self, name: str, chip: Chip) -> None:
        """Reckon with a measured chip from now on, in this job and on the shelf."""
        self._session.change_shop(f"Measure {name}", lambda shop: set_shelf_chip(shop, name, chip))
        self._session.attempt(f"Measure {name}", lambda job: deeds.set_chip(job, name, chip))


def _view(plan: Plan, barrel: int, side: str, cup: Cup) -> TubeView | None:
    return next((v for v in plan.colour if (v.barrel, v.side, v.cup) == (barrel, side, cup.name)), None)
