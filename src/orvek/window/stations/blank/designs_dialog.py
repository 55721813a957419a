"""The gallery: designs to begin from, each turned from the bar and the pen in hand."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from orvek.documents import Design, deeds, designs
from orvek.planning.bar import bar_size, barrels_of
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import widgets_in
from orvek.window.widgets.picture_button import PICTURE_WIDE, PictureButton, turned_picture
from orvek.window.widgets.sheets import Sheet


class DesignsDialog(Sheet):
    """One picture a design; a click begins the blank from it."""

    def __init__(self, parent: QWidget | None, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self.setWindowTitle("Start from a design")
        self.resize(PICTURE_WIDE + 92, 640)
        self._session = session
        title = Label("Start from a design")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        inside = QWidget()
        self._list = QVBoxLayout(inside)
        self._list.setContentsMargins(0, 0, 8, 0)
        self._list.setSpacing(0)
        evaluate = surface.evaluator()
        size, barrels = bar_size(session.plan.layout), barrels_of(session.plan)
        for design in designs():
            if evaluate is None:
                break
            button = PictureButton(turned_picture(evaluate, design.steps, size, barrels), design.name, design.line)
            button.clicked.connect(lambda _=False, d=design: self._take(d))
            self._list.addWidget(button)
        self._list.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inside)
        area.setAccessibleName("Designs")
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 16, 16)
        column.addWidget(title)
        column.addWidget(
            quiet_label("Each is a list of steps that can then be changed; Undo brings back what was there.")
        )
        column.addWidget(area, 1)

    def buttons(self) -> list[PictureButton]:
        """The designs, in their order."""
        return list(widgets_in(self._list, PictureButton))

    def _take(self, design: Design) -> None:
        self._session.attempt(f"Start from {design.name}", lambda job: deeds.take_design(job, design.steps))
        self.accept()
