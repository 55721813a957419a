"""Bubbles: nothing, pressure or vacuum; the pot from above with the moulds in it, and what becomes of a bubble."""

from __future__ import annotations

import math
import typing

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import JOB, Bubbles, Pot, Preferences, declared, path_to
from orvek.documents.deeds import put_on_shelf, set_preference
from orvek.planning import Figure, Plan
from orvek.planning.bubbles.results import BubblesPlan
from orvek.quantities import Dimension, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action, add_heading
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import Answer, FigureLine, QuantityField, caution_label, heading, quiet_label

_WAYS = {"none": "nothing, a slow resin", "pressure": "pressure until it has gelled", "vacuum": "vacuum before pouring"}


class PotPicture(QWidget):
    """The pot from above with the moulds in it, and one bubble before and after, both to scale in themselves."""

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self.setMinimumSize(300, 220)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The pot from above")

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's pot."""
        self._plan = plan
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None or self._plan.bubbles is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        half = self.width() / 2
        bubbles, pot = self._plan.bubbles, self._plan.job.pour.pot
        if bubbles is None:
            return
        if bubbles.left_kpa is None and pot is not None:
            self._paint_pot(painter, QRectF(0, 0, half, self.height() - 24), pot, bubbles)
        self._paint_bubbles(painter, QRectF(half, 0, half, self.height() - 24), bubbles.bubble_pct.value / 100)

    def _paint_pot(self, painter: QPainter, area: QRectF, pot: Pot, bubbles: BubblesPlan) -> None:
        scale = min(area.width(), area.height()) * 0.94 / pot.diameter_mm
        radius, middle = pot.diameter_mm * scale / 2, area.center()
        painter.setPen(theme.pen(theme.INK, 1.5))
        painter.setBrush(theme.PANEL)
        painter.drawEllipse(middle, radius, radius)
        long, wide, _ = (side * scale for side in bubbles.mould_mm)
        painter.setPen(theme.pen(theme.INK, 1))
        fits = bubbles.side_by_side > 0
        painter.setBrush(theme.MOULD if fits else theme.hatching())
        count = max(1, bubbles.side_by_side)
        columns = max(1, min(count, int(2 * radius // max(long, 1)))) if fits else 1
        rows = math.ceil(count / columns)
        for n in range(count):
            x = middle.x() - columns * long / 2 + (n % columns) * long
            y = middle.y() - rows * wide / 2 + (n // columns) * wide
            painter.drawRect(QRectF(x, y, long, wide))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.QUIET)
        stacked = ", stacked" if bubbles.fitting > bubbles.side_by_side else ""
        words = f"room for {bubbles.fitting}{stacked}" if fits else "it does not go in"
        under = QRectF(area.left(), middle.y() + radius + 6, area.width(), 18)
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_bubbles(self, painter: QPainter, area: QRectF, part: float) -> None:
        largest = min(area.height() * 0.34, area.width() * 0.16) * min(1.0, 1 / part)
        places = ((0.28, 1.0, "a bubble before"), (0.76, part, "and then"))
        for x, size, words in places:
            middle = QPointF(area.left() + area.width() * x, area.center().y())
            painter.setPen(theme.pen(theme.ACCENT, 1.5))
            painter.setBrush(theme.PANEL)
            painter.drawEllipse(middle, largest * size, largest * size)
            painter.setPen(theme.QUIET)
            under = QRectF(middle.x() - 60, area.center().y() + largest + 10, 120, 18)
            painter.drawText(under, Qt.AlignmentFlag.AlignCenter, words)


class BubblesPage(QWidget):
    """The page Bubbles of the station Pour."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture, self.answer = PotPicture(), Answer()
        self.way = ChoiceField("Against bubbles", self._fill_ways)
        self.pot = ChoiceField("Pot", self._fill_pots)
        self._fields: dict[str, QuantityField] = {}
        for name in ("pressure_bar", "gauge_bar", "vessel_ml"):
            measure = declared(Bubbles, name)
            field = QuantityField(measure, session.units)
            path = (*path_to(JOB.pour.bubbles), name)
            field.entered.connect(lambda v, p=path, t=measure.title: session.edit(p, v, t))
            self._fields[name] = field
        self.vessel = DocumentFields(session, path_to(JOB.pour.bubbles), Bubbles, "vessel")
        self.altitude = QuantityField(declared(Preferences, "altitude_m"), session.units)
        self.altitude.entered.connect(self._set_altitude)
        self._figures = [FigureLine("") for _ in range(5)]
        self._words = quiet_label("")
        self._words.setWordWrap(True)
        self._caution = caution_label()
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what pressure or vacuum does for a plan."""
        pour, units = plan.job.pour, self._session.units
        way = pour.bubbles.way
        self.way.set_text(_WAYS[way])
        self.pot.set_text(
            f"{pour.pot.name}, {write(pour.pot.rated_bar, Dimension.PRESSURE, units)}" if pour.pot else "choose"
        )
        for name, field in self._fields.items():
            field.set_value(getattr(pour.bubbles, name), units)
            field.setVisible((name == "pressure_bar") == (way == "pressure") and way != "none")
        self.pot.setVisible(way == "pressure")
        self.vessel["vessel"].setVisible(way == "vacuum")
        self.vessel.show_document(pour.bubbles)
        self.altitude.setVisible(way != "none")
        self.altitude.set_value(self._session.shop.preferences.altitude_m, units)
        self.picture.show_plan(plan)
        self.picture.setVisible(way != "none")
        shown = _figures(plan)
        for line, figure in zip(self._figures, [*shown, *[None] * 5], strict=False):
            line.tell(figure, units)
        self._words.setText(_advice(plan))
        self._caution.setText(plan.caution(f"bubbles.{way}"))
        part = plan.bubbles.bubble_pct if plan.bubbles is not None and way != "none" else None
        words = f"A bubble becomes {part.written(units)} as wide" if part else "Nothing is done against bubbles"
        self.answer.say(words, units, part)

    def _set_altitude(self, value: float) -> None:
        self._session.change_shop("Altitude", lambda shop: set_preference(shop, "altitude_m", value))

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(6)
        for widget in (
            heading("Against bubbles"),
            self.way,
            self.pot,
            self.vessel["vessel"],
            *self._fields.values(),
            self.altitude,
            *self._figures,
        ):
            left.addWidget(widget)
        left.addSpacing(8)
        left.addWidget(self._words)
        left.addWidget(self._caution)
        left.addStretch(1)
        whole, row = QVBoxLayout(self), QHBoxLayout()
        whole.setContentsMargins(24, 8, 24, 12)
        whole.addWidget(self.answer)
        whole.addLayout(row, 1)
        row.setSpacing(32)
        row.addLayout(left, 4)
        right = QVBoxLayout()
        right.addWidget(self.picture, 3)
        right.addStretch(1)
        row.addLayout(right, 5)

    def _fill_ways(self, menu: QMenu) -> None:
        now = self._session.job.pour.bubbles.way
        for way in typing.get_args(Bubbles.model_fields["way"].annotation):
            deed = lambda w=way: self._session.edit(path_to(JOB.pour.bubbles.way), w, "Against bubbles")  # noqa: E731
            add_action(menu, _WAYS[way], deed, checked=way == now)

    def _fill_pots(self, menu: QMenu) -> None:
        session = self._session
        if session.shop.pots:
            add_heading(menu, "On your shelf")
        for pot in session.shop.pots:
            deed = lambda p=pot: session.edit(path_to(JOB.pour.pot), p, f"Use {p.name}")  # noqa: E731
            add_action(
                menu,
                f"{pot.name}, {write(pot.diameter_mm, Dimension.LENGTH, session.units)}",
                deed,
                checked=pot == session.job.pour.pot,
            )
        add_action(menu, "Describe your pot…", self._change_pot)

    def _change_pot(self) -> None:
        changed = edit_document(self, "Pressure pot", self._session.job.pour.pot or Pot(), self._session.shop)
        if changed is not None:
            self._session.change_shop(f"Save {changed.name}", lambda shop: put_on_shelf(shop, "pots", changed))
            self._session.edit(path_to(JOB.pour.pot), changed, f"Use {changed.name}")


def _figures(plan: Plan) -> list[Figure]:
    bubbles = plan.bubbles
    if bubbles is None:
        return []
    figures = (bubbles.bubble_pct, bubbles.volume_pct, bubbles.safe_bar, bubbles.lid_kn, bubbles.stored_kj)
    return [figure for figure in figures if figure is not None]


def _advice(plan: Plan) -> str:
    match plan.job.pour.bubbles.way:
        case "pressure":
            return "Pump up before it begins to gel and keep it until well after: let go sooner, and they grow again."
        case "vacuum":
            return "Short for fast resins. Hold it until the foam has fallen, then let the air in slowly and pour."
        case _:
            return "A slow resin, warm parts and a thin stream let most bubbles rise by themselves."
