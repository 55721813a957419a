"""Pattern: the barrels as designed, with a typical and an unlucky hole, and as they were bored."""

from __future__ import annotations

import math
from collections.abc import Hashable
from dataclasses import replace

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QHideEvent, QImage, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.bore.part import HolePlan
from orvek.quantities import Dimension, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.picture_button import turned_picture
from orvek.workpiece.drifted import Crooked, drifted
from orvek.workpiece.outline import TurnedBarrel

_MIDDLE = 0.48  # of what is not passed nineteen times in twenty: half of all holes lie nearer (1.18 σ of 2.45 σ)
_SHORTER = "shortened at both ends, the chips squared off"
_ROW, _BETWEEN_MS = 96, 15


class DriftPicture(QWidget):
    """One row a case: what it is, how far off, and the barrels turned from it."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: list[tuple[str, QImage | None]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(4 * 60)
        self.setAccessibleName("The barrels turned, by how the hole lies")

    def show_rows(self, rows: list[tuple[str, QImage | None]]) -> None:
        """Show these cases; a picture that is None is still being made."""
        self._rows = rows
        self.setAccessibleDescription("; ".join(words for words, _ in rows))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        tall = min(_ROW, self.height() / max(1, len(self._rows)))
        for number, (words, image) in enumerate(self._rows):
            top = number * tall
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.QUIET)
            line = QRectF(0, top, self.width(), 18)
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, words)
            if image is not None:
                room = QRectF(0, top + 20, self.width(), tall - 26)
                scale = min(room.width() / image.width(), room.height() / image.height())
                size = (image.width() * scale, image.height() * scale)
                painter.drawImage(QRectF(room.left(), room.top(), *size), image)


class PatternPage(QWidget):
    """The page Pattern of the station Bore; its pictures are made one at a time while it is open."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._plan: Plan | None = None
        self._key: Hashable = None
        self._waiting: list[tuple[str, tuple[Crooked, ...]]] = []
        self._done: list[tuple[str, QImage | None]] = []
        self._timer = QTimer(self)
        self._timer.setInterval(_BETWEEN_MS)
        self._timer.timeout.connect(self._make_one)
        self.picture = DriftPicture()
        words = quiet_label(
            "Turned on its tube a barrel follows the hole: what was meant to be in the middle lies off on one side. "
            "Drawn for one direction; it may go off in any."
        )
        words.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 12, 24, 12)
        column.setSpacing(10)
        column.addWidget(words)
        column.addWidget(self.picture, 1)

    def show_plan(self, plan: Plan) -> None:
        """Take a plan; its pictures are made when somebody looks."""
        self._plan = plan
        if self.isVisible() and not self._session.is_previewing:
            self._begin()  # while something is dragged the pictures stay as they are

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._begin()

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._timer.stop()

    def rows(self) -> list[tuple[str, QImage | None]]:
        """What is shown: words and pictures."""
        return self._done

    def _begin(self) -> None:
        plan = self._plan
        if plan is None or plan.bore is None or plan.layout is None:
            return
        key = (self._surface.seen(plan), barrels_of(plan), plan.job.bore, plan.bore.wander)
        if key == self._key:
            self._timer.start()  # it may have been left in the middle
            return
        self._key = key
        self._waiting = _cases(plan)
        self._done = [(words, None) for words, _ in self._waiting]
        self.picture.show_rows(self._done)
        self._timer.start()

    def _make_one(self) -> None:
        evaluate, plan = self._surface.evaluator(), self._plan
        if not self._waiting or evaluate is None or plan is None:
            if not self._waiting:
                self._timer.stop()
            return
        words, holes = self._waiting.pop(0)
        steps, own = plan.job.blank.steps, plan.job.blank.materials
        barrels = _shortened(plan) if words == _SHORTER else barrels_of(plan)
        image = turned_picture(drifted(evaluate, holes), steps, bar_size(plan.layout), barrels, own)
        self._done[len(self._done) - len(self._waiting) - 1] = (words, image)
        self.picture.show_rows(list(self._done))


def _cases(plan: Plan) -> list[tuple[str, tuple[Crooked, ...]]]:
    """How the holes may lie, in words and as holes."""
    assert plan.bore is not None
    holes, units = plan.bore.holes, plan.units

    cases: list[tuple[str, tuple[Crooked, ...]]] = [("as designed", ())]
    for words, part in (("a typical hole", _MIDDLE), ("an unlucky one in twenty", 1.0)):
        drawn = tuple(_likely(plan, hole, part) for hole in holes)
        most = max(_at_exit_mm(hole, one) for hole, one in zip(holes, drawn, strict=True))
        cases.append((f"{words}: {write(most, Dimension.LENGTH, units, 2)} off at the exit", drawn))
    bored = tuple(found for hole in holes if (found := _as_bored(plan, hole)) is not None)
    if bored:
        cases.append(("as you measured it", bored))
    if any(hole.past_trim_mm > 0 for hole in holes):
        cases.append((_SHORTER, bored))
    return cases


def _shortened(plan: Plan) -> tuple[TurnedBarrel, ...]:
    """The barrels as they are once their chips are squared off, both ends alike."""
    assert plan.bore is not None
    return tuple(
        replace(barrel, start_mm=barrel.start_mm + hole.past_trim_mm, end_mm=barrel.end_mm - hole.past_trim_mm)
        if barrel.end_mm - barrel.start_mm > 2 * hole.past_trim_mm + 1
        else barrel
        for barrel, hole in zip(barrels_of(plan), plan.bore.holes, strict=True)
    )


def _likely(plan: Plan, hole: HolePlan, part: float) -> Crooked:
    """A hole that lies off by a part of what is not passed nineteen times in twenty."""
    near, far = (part * hole.spread_mm(depth) for depth in (0.0, hole.depth_mm.value))
    first, last = (near, far) if hole.from_left else (far, near)
    (x0, y0), (x1, y1) = hole.aimed_off_mm(on_pattern=plan.job.bore.centred == "on the pattern")
    way = -1 if x0 + x1 < 0 else 1  # the way in which it does most harm
    return Crooked(*_piece(plan, hole), (x0 + way * first, y0), (x1 + way * last, y1))


def _at_exit_mm(hole: HolePlan, drawn: Crooked) -> float:
    return math.hypot(*(drawn.at_end_mm if hole.from_left else drawn.at_start_mm))


def _as_bored(plan: Plan, hole: HolePlan) -> Crooked | None:
    offsets = hole.off_pattern_mm
    return None if offsets is None else Crooked(*_piece(plan, hole), *offsets)


def _piece(plan: Plan, hole: HolePlan) -> tuple[float, float]:
    assert plan.layout is not None
    piece = plan.layout.tubes[hole.number].piece
    return piece.start_mm, piece.end_mm
