"""Will it meet: what the shop's own errors do to the lines, where, why, and what to improve first."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QSizePolicy, QSlider, QVBoxLayout, QWidget

from orvek.documents import Accuracy, declared
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.glue_up.results import WORDS, MeetAnswer
from orvek.planning.headline import Headline
from orvek.quantities import Dimension, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.fields import Answer, QuantityField, heading, quiet_label
from orvek.window.widgets.more import More
from orvek.window.widgets.waiting import Waiting
from orvek.workpiece.outline import outline_mm

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    from orvek.workpiece.field import Evaluator
    from orvek.workpiece.program import Program, Sample
    from orvek.workpiece.tolerance import Draw, ToleranceRun

_ROWS = 240
_WHICH = ("as designed", "a typical one", "an unlucky one in twenty")
_SLIPPED = len(_WHICH)  # further places of the slider: every joint slipped


class MeetPicture(QWidget):
    """The turned barrel, as designed, typical or unlucky; under it the surface with a band where lines miss."""

    def __init__(self, surface: Surface) -> None:
        super().__init__()
        self._surface = surface
        self._plan: Plan | None = None
        self._answer: MeetAnswer | None = None
        self._which = 0
        self._kept: dict[object, tuple[QImage, QImage]] = {}
        self.setMinimumSize(360, 260)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("The barrel as it may come out")

    def show_answer(self, plan: Plan, answer: MeetAnswer | None) -> None:
        """Show what came of a tolerance run."""
        if answer is not self._answer:
            self._kept.clear()
        self._plan, self._answer = plan, answer
        self.update()

    def show_which(self, which: int) -> None:
        """As designed (0), typical (1), unlucky (2), then every joint slipped by a little and by more."""
        self._which = which
        self.setAccessibleDescription(self._words())
        self.update()

    def _words(self) -> str:
        """Which one is shown."""
        if self._which < _SLIPPED:
            return _WHICH[self._which]
        run = self._answer.run if self._answer else None
        if run is None or self._which - _SLIPPED >= len(run.slipped):
            return _WHICH[0]
        slip, miss, _ = run.slipped[self._which - _SLIPPED]
        units = self._plan.units if self._plan else None
        slip_words, miss_words = (write(value, Dimension.LENGTH, units, 2) for value in (slip, miss))
        return f"every joint slipped by {slip_words}, all else right: lines miss by {miss_words}"

    def _draw(self, run: ToleranceRun) -> Draw | None:
        """The blank that is shown; None for the one that was designed."""
        draws = (None, run.typical, run.unlucky, *(draw for _, _, draw in run.slipped))
        return draws[self._which] if self._which < len(draws) else None

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._plan is None or self._answer is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        tall = self._tall()
        key = (self._which, self.width(), tall)
        if key not in self._kept:
            made = self._made(self._plan, self._answer.run)
            if made is None:
                return
            self._kept[key] = made
        turned, flat = self._kept[key]
        painter.drawImage(QPointF(0, max(0, (tall - turned.height()) / 2)), turned)
        area = QRectF(0, tall + 26, self.width(), self.height() - tall - 50)
        painter.drawImage(area, flat)
        self._paint_worst(painter, area, self._plan, self._answer.run)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.QUIET)
        painter.drawText(QRectF(0, tall + 4, self.width(), 18), Qt.AlignmentFlag.AlignLeft, f"turned, {self._words()}")
        words = "rolled out: dark where a line may lie elsewhere, the ring where it misses most"
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, self.width())
        painter.drawText(QRectF(0, area.bottom() + 4, self.width(), 18), Qt.AlignmentFlag.AlignLeft, words)

    def _tall(self) -> int:
        """How much of the height the turned barrel has."""
        return int((self.height() - 50) * 0.46)

    def _paint_worst(self, painter: QPainter, area: QRectF, plan: Plan, run: ToleranceRun) -> None:
        if run.median_mm <= 0:
            return
        length = bar_size(plan.layout)[2]
        at = QPointF(
            area.left() + run.worst[0] / length * area.width(), area.top() + run.worst[1] / 360 * area.height()
        )
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for colour, width in ((theme.PANEL, 6), (theme.ACCENT, 2.5)):
            painter.setPen(theme.pen(colour, width))
            painter.drawEllipse(at, 12, 12)

    def _made(self, plan: Plan, run: ToleranceRun) -> tuple[QImage, QImage] | None:
        import numpy as np

        from orvek.workpiece.pictures import turned, turning, unrolled

        evaluate = self._surface.evaluator()
        if evaluate is None:
            return None
        barrels = barrels_of(plan)
        draw = self._draw(run)
        program = draw.program if draw else self._surface.program(plan)
        columns = self.width()
        z = (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(program.length_mm / columns)
        radius = outline_mm(z, barrels, min(program.width_mm, program.depth_mm) * 0.3)
        hole = min(barrel.hole_mm for barrel in barrels) / 2
        asked = _shifted(evaluate, draw, program.length_mm) if draw else evaluate
        surface = unrolled(asked, program, z, radius, _ROWS, hole)
        scale = columns / program.length_mm
        wide = max(barrel.widest_mm for barrel in barrels)
        across = min(scale, (self._tall() - 6) / wide)
        outline = outline_mm(z, barrels, 0.0) * np.float32(across)
        rows = int(wide * across) + 3
        lit = turned(surface, turning(outline, rows, theme.rgb(theme.PAPER)), 20.0)
        return image_of(lit), self._banded(image_of(surface), run, program.length_mm)

    def _banded(self, image: QImage, run: ToleranceRun, length_mm: float) -> QImage:
        """The surface, paler, with how often a place differs laid over it in ink."""
        import numpy as np

        made = image.convertToFormat(QImage.Format.Format_ARGB32)
        painter = QPainter(made)
        veil = QColor(theme.PANEL)
        veil.setAlpha(120)
        painter.fillRect(made.rect(), veil)
        rows, places = run.often.shape
        alpha = np.clip(4 * run.often * (1 - run.often) * 255 + 30 * (run.often > 0.02), 0, 235).astype(np.uint8)
        ink = np.zeros((rows, places, 4), dtype=np.uint8)
        ink[..., 0], ink[..., 1], ink[..., 2] = theme.ACCENT.blue(), theme.ACCENT.green(), theme.ACCENT.red()
        ink[..., 3] = alpha
        for first, last in _stretches(run.z_mm):
            part = np.ascontiguousarray(ink[:, first:last])
            band = QImage(part.tobytes(), last - first, rows, 4 * (last - first), QImage.Format.Format_ARGB32).copy()
            x0, x1 = (run.z_mm[n] / length_mm * made.width() for n in (first, last - 1))
            painter.drawImage(QRectF(x0, 0, x1 - x0, made.height()), band)
        painter.end()
        return made


class MeetPage(QWidget):
    """The page Will it meet of the station Glue-up."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self._answer: MeetAnswer | None = None
        self.answer, self._advice = Answer(), quiet_label("")
        self._advice.setWordWrap(True)
        self._advice.setMinimumHeight(20)
        self.picture = MeetPicture(surface)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, 2)
        self.slider.setAccessibleName("Which barrel is shown")
        self.slider.valueChanged.connect(self.picture.show_which)
        self._forecaster = session.answers.forecasters["meet"]
        self.waiting = Waiting(self._forecaster, "the thousand bars")
        self._shares = [quiet_label("") for _ in range(4)]
        self._fields: dict[str, QuantityField] = {}
        right = QVBoxLayout()
        right.setSpacing(4)
        right.addWidget(heading("Because of"))
        for label in self._shares:
            right.addWidget(label)
        right.addSpacing(8)
        self.more = More("meet")
        closely = heading("How closely you work")
        self.more.hold(closely)
        right.addWidget(closely)
        for name in Accuracy.model_fields:
            measure = declared(Accuracy, name)
            field = QuantityField(measure, session.units)
            field.entered.connect(lambda value, n=name: self._set(n, value))
            right.addWidget(field)
            self._fields[name] = field
        self.more.hold(*self._fields.values())
        right.addStretch(1)
        right.addWidget(self.more, 0, Qt.AlignmentFlag.AlignRight)
        which = QHBoxLayout()
        which.addWidget(quiet_label("designed"))
        which.addWidget(self.slider, 1)
        which.addWidget(quiet_label("unlucky, slipped"))
        left = QVBoxLayout()
        left.addWidget(self.waiting)
        left.addWidget(self.picture, 1)
        left.addLayout(which)
        whole, row = QVBoxLayout(self), QHBoxLayout()
        whole.setContentsMargins(24, 8, 24, 12)
        whole.setSpacing(4)
        whole.addWidget(self.answer)
        whole.addWidget(self._advice)
        whole.addLayout(row, 1)
        row.setSpacing(24)
        row.addLayout(left, 5)
        row.addLayout(right, 2)

    def show_plan(self, plan: Plan) -> None:
        """Show the shop's accuracy."""
        self.more.show_plan(plan)
        self.show_answer(plan, plan.meet)
        for name, field in self._fields.items():
            field.set_value(getattr(self._session.shop.accuracy, name), self._session.units)

    def show_answer(self, plan: Plan, answer: MeetAnswer | None) -> None:
        """Show what came of it; None while it is being made, and where nobody waited for it."""
        self._answer = answer
        self.slider.setRange(0, _SLIPPED - 1 + (len(answer.run.slipped) if answer else 0))
        awaited = self._forecaster.is_awaited()
        none = "Working through a thousand bars …" if awaited else "Whether the lines meet was not worked out"
        said = answer.words if answer else Headline(none)
        self.answer.say(said.words, self._session.units)
        self._advice.setText(said.rest)
        shares = answer.run.shares if answer else ()
        for n, label in enumerate(self._shares):
            label.setText(f"{100 * shares[n][1]:.0f} %  {WORDS[shares[n][0]]}" if n < len(shares) else "")
        self.picture.show_answer(plan, answer)

    def _set(self, name: str, value: float) -> None:
        self._session.change_shop(
            "How closely you work", lambda shop: shop.with_(accuracy=shop.accuracy.with_(**{name: value}))
        )


def _shifted(evaluate: Evaluator, draw: Draw, length_mm: float) -> Evaluator:
    """The field as the hole lies in it: pictures and walls follow the hole."""
    x, y, tilt_x, tilt_y = draw.hole

    def asked(program: Program, points: NDArray[np.float32]) -> Sample:
        moved = points.copy()
        moved[0] += x + tilt_x * points[2] / length_mm
        moved[1] += y + tilt_y * points[2] / length_mm
        return evaluate(program, moved)

    return asked


def _stretches(z_mm: np.ndarray) -> list[tuple[int, int]]:
    """Where the places along the bar go on without a gap: one stretch a barrel."""
    import numpy as np

    breaks = np.flatnonzero(np.diff(z_mm) > 1.5 * np.median(np.diff(z_mm))) + 1
    edges = [0, *breaks.tolist(), len(z_mm)]
    return list(itertools.pairwise(edges))
