"""Pattern: the barrels as designed, with a typical and an unlucky hole, and as they were bored."""

from __future__ import annotations

from collections.abc import Hashable

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QHideEvent, QImage, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.bore.crooked import Case, cases
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.picture_button import turned_picture
from orvek.workpiece.drifted import drifted

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
        self._waiting: list[Case] = []
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
        self._waiting = list(cases(plan))
        self._done = [(case.words, None) for case in self._waiting]
        self.picture.show_rows(self._done)
        self._timer.start()

    def _make_one(self) -> None:
        evaluate, plan = self._surface.evaluator(), self._plan
        if not self._waiting or evaluate is None or plan is None:
            if not self._waiting:
                self._timer.stop()
            return
        case = self._waiting.pop(0)
        steps, own = plan.job.blank.steps, plan.job.blank.materials
        image = turned_picture(drifted(evaluate, case.holes), steps, bar_size(plan.layout), case.barrels, own)
        self._done[len(self._done) - len(self._waiting) - 1] = (case.words, image)
        self.picture.show_rows(list(self._done))
