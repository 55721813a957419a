"""Bars out of a slab: laid by hand or as many as go on it, each as it will look turned, the saw cuts in their order."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QThread, QTimer, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QDialogButtonBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from orvek.documents import FACES, Measure, Pen, PhotoStep, Piece
from orvek.planning.becoming import bar_for, laid_on_bar, needs_mm
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.stations.shelf.slab_picture import SlabPicture
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, scrolled, widgets_in
from orvek.window.widgets.picture_button import PictureButton, turned_picture
from orvek.window.widgets.searches import SearchDialog
from orvek.workpiece.slab import Slab, SlabBar, SlabCut, cuts, laid_out, share_used, troubles
from orvek.workpiece.slab_bars import bar_album, slab_of

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_MM = Dimension.LENGTH
_FIELDS = {
    "length": Measure("Bars, length", _MM, 10, 400, "Tubes, trims and kerfs of your pen, and a little more"),
    "width": Measure("Bars, width", _MM, 5, 200, "At least a millimetre over the finished pen"),
    "kerf": Measure("Saw kerf", _MM, 0.1, 10, "What the blade takes"),
}
_SETTLE_MS, _PX_PER_MM, _MOST_CUTS = 150, 4.0, 8


class _Looks(QThread):
    """How each bar looks turned, one after another."""

    made = Signal(int, int, object)

    def __init__(
        self, number: int, evaluate: Evaluator, albums: tuple[PhotoStep, ...], pen: Pen, kerf_mm: float
    ) -> None:
        super().__init__()
        self._number, self._evaluate, self._albums, self._pen, self._kerf_mm = number, evaluate, albums, pen, kerf_mm

    def run(self) -> None:
        for place, album in enumerate(self._albums):
            if self.isInterruptionRequested():
                return
            size = (album.width_mm, album.depth_mm, album.length_mm, False)
            barrels = laid_on_bar(self._pen, album.length_mm, self._kerf_mm)
            self.made.emit(self._number, place, turned_picture(self._evaluate, (album,), size, barrels))


class SlabDialog(SearchDialog):
    """`bars` is what lies on the slab; accepted, they are to be sawn."""

    def __init__(
        self, parent: QWidget | None, piece: Piece, album: PhotoStep, pen: Pen | None, kerf_mm: float, units: Units,
        surface: Surface,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.setWindowTitle("Bars out of a slab")
        self.resize(1120, 720)
        self.album, self._index = album, 0
        self.bars: tuple[SlabBar, ...] = ()
        self._pen, self._units, self._surface = pen, units, surface
        self._slab: Slab = slab_of(album)
        length_mm, width_mm = bar_for(pen, kerf_mm)
        self._values = {"length": length_mm, "width": width_mm, "kerf": kerf_mm}
        self.picture = SlabPicture()
        self.picture.moved.connect(self._move)
        self.picture.chosen.connect(self._choose)
        self.fields = {name: QuantityField(measure, units) for name, measure in _FIELDS.items()}
        for name, field in self.fields.items():
            field.set_value(self._values[name])
            field.entered.connect(partial(self._set, name))
        self._line, self._cuts = Label(), quiet_label("")
        for label in (self._line, self._cuts):
            label.setWordWrap(True)
        self._list = QVBoxLayout()
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._look)
        self._lay_out(piece)
        self.picture.show_slab(self._slab, self._top())
        self.lay_out_bars()

    def lay_out_bars(self) -> None:
        """As many bars as go on the slab."""
        self._put(laid_out(self._slab, self._values["length"], self._values["width"], self._values["kerf"]))
        if not self.bars:
            self._line.setText("No bar of this size goes on the slab.")

    def add_bar(self) -> None:
        """One bar more, in the middle: to be dragged to its place."""
        size = self._values["length"], self._values["width"]
        self._put((*self.bars, SlabBar(self._slab.length_mm / 2, self._slab.width_mm / 2, 0.0, *size)))
        self._choose(len(self.bars) - 1)

    def remove_bar(self) -> None:
        """The bar in hand is not sawn."""
        if self.bars:
            self._put((*self.bars[: self._index], *self.bars[self._index + 1 :]))

    def albums(self) -> tuple[PhotoStep, ...]:
        """Each bar as its part of the slab's photos shows it."""
        return tuple(bar_album(self.album, bar) for bar in self.bars)

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._settle.isActive() or self.searches.is_busy()

    def buttons(self) -> list[PictureButton]:
        """The bars as they look turned."""
        return list(widgets_in(self._list, PictureButton))

    def _top(self) -> QImage | None:
        """The slab's upper face as an image; none where it was not photographed."""
        from orvek.workpiece.photo import face_of

        view = next((view for view in self.album.views if view.azimuth_deg == FACES["A"]), None)
        per_mm = min(_PX_PER_MM, 1200 / self._slab.length_mm)
        flat = face_of(view, self._slab.length_mm, self._slab.width_mm, per_mm) if view is not None else None
        return image_of(flat) if flat is not None else None

    def _set(self, name: str, value: float) -> None:
        """Another size is of all bars, where they lie; another kerf may leave the saw no room."""
        self._values[name] = value
        size = {"length_mm": self._values["length"], "width_mm": self._values["width"]}
        self._put(tuple(replace(bar, **size) for bar in self.bars))

    def _move(self, number: int, bar: SlabBar) -> None:
        self._put((*self.bars[:number], bar, *self.bars[number + 1 :]))

    def _choose(self, number: int) -> None:
        self._index = number
        self._show()

    def _put(self, bars: tuple[SlabBar, ...]) -> None:
        self.bars = bars
        self._index = min(self._index, max(0, len(bars) - 1))
        self._show()
        self._settle.start()

    def _show(self) -> None:
        kerf = self._values["kerf"]
        wrong = troubles(self._slab, self.bars, kerf)
        lines = cuts(self._slab, self.bars, kerf) if not wrong else ()
        self.picture.show_bars(self.bars, lines, frozenset(n for one in wrong for n in one), self._index)
        share = 100 * share_used(self._slab, self.bars)
        self._line.setText(_trouble(wrong) or f"{len(self.bars)} bars, {share:.0f} % of the slab, {len(lines)} cuts")
        self._line.setStyleSheet(theme.words_css(theme.STOP if wrong else theme.INK, theme.BODY, 600))
        told = [self._cut_line(n + 1, line) for n, line in enumerate(lines)]
        more = [f"and {len(told) - _MOST_CUTS} more"] if len(told) > _MOST_CUTS else []
        self._cuts.setText("\n".join([*told[:_MOST_CUTS], *more]))
        self._cuts.setToolTip("\n".join(told))
        self._save.setEnabled(bool(self.bars) and not wrong)

    def _cut_line(self, number: int, line: SlabCut) -> str:
        a, b = (f"{write(x, _MM, self._units)} along, {write(y, _MM, self._units)} down" for x, y in line.ends)
        return f"{number}  From {a} to {b}: frees {line.frees}."

    def _look(self) -> None:
        """How the bars look turned for the pen, in the background."""
        evaluate = self._surface.evaluator() if self.isVisible() else None
        number, pen, kerf = self.searches.ask_anew(), self._pen, self._values["kerf"]
        clear(self._list)
        if evaluate is None or pen is None or self._values["length"] < needs_mm(pen, kerf) - 1e-6:
            return
        search = _Looks(number, evaluate, self.albums(), pen, kerf)
        search.made.connect(self._show_look)
        self.searches.begin(search)

    def _show_look(self, number: int, place: int, picture: QImage) -> None:
        if number == self.searches.number:
            button = PictureButton(picture, f"Bar {place + 1}", "", 260)
            button.clicked.connect(lambda _=False: self._choose(place))
            self._list.addWidget(button)

    def _lay_out(self, piece: Piece) -> None:
        title = Label(f"Bars out of {piece.name}")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        right = QVBoxLayout()
        for field in self.fields.values():
            right.addWidget(field)
        deeds = {
            "As many as go on it": self.lay_out_bars,
            "Add a bar": self.add_bar,
            "Remove this bar": self.remove_bar,
        }
        for words, deed in deeds.items():
            button = QPushButton(words)
            button.setProperty("plain", True)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, d=deed: d())
            right.addWidget(button)
        inside = QWidget()
        inside.setLayout(self._list)
        self._list.setContentsMargins(0, 0, 0, 0)
        right.addWidget(scrolled(inside), 1)
        left = QVBoxLayout()
        left.addWidget(self.picture, 1)
        left.addWidget(self._line)
        left.addWidget(self._cuts)
        side = QWidget()
        side.setLayout(right)
        side.setFixedWidth(310)
        right.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        row.setSpacing(20)
        row.addLayout(left, 1)
        row.addWidget(side)
        ends = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self._save = ends.addButton("Saw it into these bars", QDialogButtonBox.ButtonRole.AcceptRole)
        ends.accepted.connect(self.accept)
        ends.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addLayout(row, 1)
        column.addWidget(ends)


def _trouble(wrong: tuple[tuple[int, ...], ...]) -> str:
    """What keeps the saw from its work, in words."""
    if not wrong:
        return ""
    first = wrong[0]
    if len(first) == 1:
        return f"Bar {first[0] + 1} does not lie wholly on sound slab."
    return f"Between bars {first[0] + 1} and {first[1] + 1} there is no room for the saw."
