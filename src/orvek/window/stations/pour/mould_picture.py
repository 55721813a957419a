"""The mould from above, to scale, with the cavities of one casting filled."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from orvek.craft.moulding import loaf_grid
from orvek.documents import InsertStep, LoafMould, Mould, RoundMould
from orvek.planning import Plan
from orvek.planning.words import mould_size
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.stations.pour.casting_look import CastingLook
from orvek.window.surface import Surface

_WALL_MM = 6.0


class MouldPicture(QWidget):
    """A picture only; the mould's sizes are typed beside it."""

    def __init__(self, look: CastingLook, surface: Surface) -> None:
        super().__init__()
        self._look, self._surface = look, surface
        self._plan: Plan | None = None
        self._units = Units()
        self.setMinimumSize(300, 150)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The mould from above")

    def show_plan(self, plan: Plan, units: Units) -> None:
        """Show a plan's mould."""
        self._plan, self._units = plan, units
        if plan.job.pour.mould:
            self.setAccessibleDescription(f"{plan.job.pour.mould.name}: {mould_size(plan.job.pour.mould, units)}")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None or self._plan.job.pour.mould is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        mould = self._plan.job.pour.mould
        count, across = _cavities(mould)
        pitch = across + _WALL_MM
        scale = min(
            (self.width() - 64) / (mould.length_mm + 2 * _WALL_MM), (self.height() - 60) / (count * pitch + _WALL_MM)
        )
        body = QRectF(0, 0, (mould.length_mm + 2 * _WALL_MM) * scale, (count * pitch + _WALL_MM) * scale)
        body.moveTopLeft(QPointF((self.width() - body.width()) / 2 - 16, (self.height() - body.height()) / 2))
        painter.fillRect(body, theme.MOULD)
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawRect(body)
        filled = count if isinstance(mould, LoafMould) else min(count, self._plan.bars.bars_per_casting)
        cavities = [
            QRectF(
                body.left() + _WALL_MM * scale,
                body.top() + (_WALL_MM + n * pitch) * scale,
                mould.length_mm * scale,
                across * scale,
            )
            for n in range(count)
        ]
        self._paint_cavities(painter, cavities, filled, mould)
        if isinstance(mould, LoafMould):
            self._paint_saw_lines(painter, cavities[0], mould, scale)
        self._paint_sizes(painter, body, cavities, mould, across)

    def _paint_cavities(self, painter: QPainter, cavities: list[QRectF], filled: int, mould: Mould) -> None:
        """All cavities take their surface from one impression, so that no two bars are alike."""
        assert self._plan is not None
        cast, count = self._plan.job.cast, len(cavities)
        width, tall = round(cavities[0].width()), round(cavities[0].height())
        across = _cavities(mould)[1]
        # Painted from twice as many points, so that fine veins do not break up into dots.
        image = self._look.picture(cast, mould.length_mm, across * count, 2 * width, 2 * tall * count)
        lying = self._with_insert(2 * width, 2 * tall)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for n, area in enumerate(cavities):
            if n >= filled:
                painter.fillRect(area, theme.PAPER)
            elif lying is not None:
                painter.drawImage(area, lying)
            elif image is None:
                painter.fillRect(area, theme.BLANK)
            else:
                painter.drawImage(area, image, QRectF(0, 2 * n * tall, 2 * width, 2 * tall))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(theme.pen(theme.INK, 1) if n < filled else theme.pen(theme.QUIET, 1, Qt.PenStyle.DashLine))
            radius = area.height() / 2 if isinstance(mould, RoundMould) else 0
            painter.drawRoundedRect(area, min(radius, 3), min(radius, 3))

    def _with_insert(self, columns: int, rows: int) -> QImage | None:
        """A bar with what was laid in, seen from above; None where nothing was, or for a loaf."""
        assert self._plan is not None
        job = self._plan.job
        laid = any(isinstance(step, InsertStep) for step in job.blank.steps)
        if not laid or job.cast_index is None or isinstance(job.pour.mould, LoafMould):
            return None
        return self._surface.face(self._plan, columns, rows, 90, job.cast_index + 1)

    def _paint_saw_lines(self, painter: QPainter, area: QRectF, mould: LoafMould, scale: float) -> None:
        across, _ = loaf_grid(mould)
        for n in range(1, across + 1):
            y = area.top() + (n * mould.bar_width_mm + (n - 1) * mould.kerf_mm) * scale
            cut = QRectF(area.left(), y, area.width(), mould.kerf_mm * scale)
            if cut.top() < area.bottom():
                cut.setBottom(min(cut.bottom(), area.bottom()))
                painter.fillRect(cut, theme.PANEL)
                painter.fillRect(cut, theme.hatching())
        rest = area.top() + (across * (mould.bar_width_mm + mould.kerf_mm)) * scale
        if rest < area.bottom():
            painter.fillRect(QRectF(area.left(), rest, area.width(), area.bottom() - rest), theme.hatching())

    def _paint_sizes(
        self, painter: QPainter, body: QRectF, cavities: list[QRectF], mould: Mould, across: float
    ) -> None:
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        below = QRectF(body.left() - 40, body.bottom() + 4, body.width() + 80, 18)
        painter.drawText(below, Qt.AlignmentFlag.AlignCenter, write(mould.length_mm, Dimension.LENGTH, self._units))
        first = cavities[0]
        x = body.right() + 8
        painter.setPen(theme.pen(theme.QUIET, 1))
        painter.drawLine(QPointF(x, first.top()), QPointF(x, first.bottom()))
        for y in (first.top(), first.bottom()):
            painter.drawLine(QPointF(x - 3, y), QPointF(x + 3, y))
        area = QRectF(x + 6, first.center().y() - 9, 70, 18)
        painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, write(across, Dimension.LENGTH, self._units))
        if self._plan and len(self._plan.job.cast.cups) > 1:
            painter.drawText(
                QRectF(0, body.top() - 20, body.right(), 16),
                Qt.AlignmentFlag.AlignRight,
                "an example; no two pours are alike",
            )


def _cavities(mould: Mould) -> tuple[int, float]:
    """How many cavities are seen from above, and how wide each is."""
    if isinstance(mould, LoafMould):
        return 1, mould.width_mm
    if isinstance(mould, RoundMould):
        return mould.cavities, mould.diameter_mm
    return mould.cavities, mould.width_mm
