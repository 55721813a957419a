"""The picture of the step in hand: the saw set, the hole, the barrel's sizes, the parts, the cup's level."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPolygonF, QRegion
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.planning import Plan
from orvek.planning.route.steps import BenchStep
from orvek.window import theme
from orvek.window.pictures.cut_picture import CutPicture
from orvek.window.pictures.drying_picture import DryingPicture
from orvek.window.pictures.hole_picture import HolePicture
from orvek.window.pictures.ladder_picture import LadderPicture
from orvek.window.pictures.press_picture import PressPicture
from orvek.window.pictures.size_picture import SizePicture
from orvek.window.pictures.treatment_picture import TreatmentPicture
from orvek.window.surface import Surface

_TIMES = 1.8  # at most so many times larger than at its station,
_LEAST = (480, 200)  # and never in less room than its words need
_CUP_WIDE, _CUP_TALL = 0.8, 0.9  # of the picture's height


class StepPicture(QWidget):
    """Takes the picture that a station has of the same thing, and draws it larger."""

    def __init__(self, surface: Surface | None) -> None:
        super().__init__()
        self._cut, self._sizes, self._parts = CutPicture(), SizePicture(surface), PressPicture()
        self._grits, self._treatment, self._weights = LadderPicture(), TreatmentPicture(), DryingPicture()
        self._hole = HolePicture(surface) if surface is not None else None
        others = (self._grits, self._treatment, self._weights)
        for picture in (self._cut, self._sizes, self._parts, self._hole, *others):
            if picture is not None:
                picture.setMinimumSize(0, 0)
        self._shown: QWidget | None = None
        self._cup: tuple[float, float, float, float] | None = None
        policy = QSizePolicy.Policy.Expanding
        self.setSizePolicy(policy, policy)
        self.setAccessibleName("The step in hand")

    def show_step(self, plan: Plan, step: BenchStep) -> None:
        """Show what a step is about; nothing where there is no picture of it."""
        self._shown, self._cup = None, None
        holes = plan.bore.holes if plan.bore is not None else ()
        if step.cut is not None:
            self._cut.show_cut(step.cut, plan.units)
            self._shown = self._cut
        elif step.hole is not None and self._hole is not None:
            hole = next((one for one in holes if one.number == step.hole), None)
            self._hole.show_hole(plan, hole, plan.units)
            self._shown = self._hole
        elif step.place is not None and plan.finish is not None:
            self._sizes.show_plan(plan, plan.units)
            self._shown = self._sizes
        elif step.part is not None:
            self._parts.show_plan(plan)
            self._parts.show_part(step.part)
            self._shown = self._parts
        else:
            self._shown = self._named(plan, step)
        self.setVisible(self._shown is not None or step.target_g is not None)
        self.update()

    def _named(self, plan: Plan, step: BenchStep) -> QWidget | None:
        """The picture of a whole that a step is a part of."""
        if step.shows == "grits" and plan.finish is not None:
            self._grits.show_finish(plan.finish, plan.finishing, step.figure)
            return self._grits
        if step.shows == "barrels" and plan.finish is not None:
            self._sizes.show_plan(plan, plan.units, is_turned=True)
            return self._sizes
        if step.shows == "treatment" and plan.soak is not None:
            self._treatment.show_soak(plan.soak, plan.units, step.stage)
            return self._treatment
        if step.shows == "weights" and plan.soak is not None:
            self._weights.show_drying(plan.soak.drying, (), plan.units)
            return self._weights
        return None

    def show_cup(self, before_g: float, now_g: float, target_g: float, whole_g: float) -> None:
        """Show a cup: what is in it, what has come in now, and up to where it is to come."""
        self._cup = (before_g, now_g, target_g, whole_g)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(600, 260)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._shown is not None:
            times = max(1.0, min(_TIMES, self.width() / _LEAST[0], self.height() / _LEAST[1]))
            self._shown.resize(round(self.width() / times), round(self.height() / times))
            painter.scale(times, times)
            self._shown.render(painter, QPoint(), QRegion(), QWidget.RenderFlag.DrawChildren)
        elif self._cup is not None:
            self._paint_cup(painter, *self._cup)

    def _paint_cup(self, painter: QPainter, before_g: float, now_g: float, target_g: float, whole_g: float) -> None:
        """A cup that is a little wider at its rim; as high as the whole mix is, and a tenth."""
        tall = self.height() * _CUP_TALL
        wide = tall * _CUP_WIDE
        left, foot = (self.width() - wide) / 2, self.height() - 4.0
        whole = 1.1 * max(whole_g, before_g + max(now_g, target_g), 1e-6)

        def level(mass_g: float) -> float:
            return foot - tall * min(1.0, max(0.0, mass_g) / whole)

        def side(y: float) -> float:
            return 0.06 * wide * (y - (foot - tall)) / tall

        def filled(low_g: float, high_g: float) -> QPolygonF:
            low, high = level(low_g), level(high_g)
            right = left + wide
            return QPolygonF([QPointF(left + side(low), low), QPointF(right - side(low), low),
                              QPointF(right - side(high), high), QPointF(left + side(high), high)])  # fmt: skip

        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.MOULD)
        painter.drawPolygon(filled(0.0, before_g))
        painter.setBrush(theme.ACCENT)
        painter.drawPolygon(filled(before_g, before_g + now_g))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(theme.pen(theme.QUIET, 3))
        rim = foot - tall
        painter.drawPolyline([QPointF(left, rim), QPointF(left + side(foot), foot),
                              QPointF(left + wide - side(foot), foot), QPointF(left + wide, rim)])  # fmt: skip
        y = level(before_g + target_g)
        painter.setPen(theme.pen(theme.INK, 4))
        painter.drawLine(QPointF(left - 24, y), QPointF(left + wide + 24, y))
        painter.setFont(theme.font(theme.TITLE))
        room = QRectF(left + wide + 32, min(y, self.height() - 20.0) - 20, 200, 40)
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, "to here")
