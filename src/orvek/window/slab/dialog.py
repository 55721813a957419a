"""Bars out of a slab or a casting: laid by hand or as many as go on it, each as it will look turned, the saw cuts."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QThread, QTimer, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QDialogButtonBox, QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.quantities import Dimension, Units, decimal, write
from orvek.window import theme
from orvek.window.slab.picture import SlabPicture
from orvek.window.slab.source import BarOut, SlabSource
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, scrolled, widgets_in
from orvek.window.widgets.picture_button import PictureButton, turned_picture
from orvek.window.widgets.searches import SearchDialog
from orvek.workpiece.slab import ANGLES_DEG, SlabBar, SlabCut, cuts, laid_out, share_used, troubles

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_MM = Dimension.LENGTH
_MOST = "The most bars"
_SETTLE_MS, _MOST_CUTS, _MOST_LOOKS = 150, 8, 40


class _Looks(QThread):
    """How each bar looks turned, one after another."""

    made = Signal(int, int, object)

    def __init__(self, number: int, evaluate: Evaluator, bars: tuple[BarOut, ...]) -> None:
        super().__init__()
        self._number, self._evaluate, self._bars = number, evaluate, bars

    def run(self) -> None:
        for place, bar in enumerate(self._bars):
            if self.isInterruptionRequested():
                return
            picture = turned_picture(self._evaluate, bar.steps, bar.size, bar.barrels, bar.materials)
            self.made.emit(self._number, place, picture)


class SlabDialog(SearchDialog):
    """`bars` is what lies on it, `bar` the one in hand; accepted, they are to be sawn, or that one is taken out."""

    def __init__(self, parent: QWidget | None, source: SlabSource, units: Units, surface: Surface) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Bars out of {source.name}"[:80])
        self.resize(1120, 720)
        self.bars: tuple[SlabBar, ...] = ()
        self._source, self._units, self._surface, self._index = source, units, surface, 0
        self._angle_deg: float | None = None
        self._slab, self._values = source.slab, source.values
        self.picture = SlabPicture()
        self.picture.moved.connect(self._move)
        self.picture.chosen.connect(self._choose)
        self.fields = {name: QuantityField(measure, units) for name, measure in source.fields.items()}
        for name, field in self.fields.items():
            field.set_value(self._values[name])
            field.entered.connect(partial(self._set, name))
        self.angle = ChoiceField("Laid out", self._fill_angles)
        self.angle.set_text(_MOST)
        self._line, self._cuts = Label(), quiet_label("")
        for label in (self._line, self._cuts):
            label.setWordWrap(True)
        self._list = QVBoxLayout()
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._look)
        self._lay_out()
        self.picture.show_slab(self._slab, source.image(surface))
        self._begin()

    @property
    def bar(self) -> SlabBar | None:
        """The bar in hand."""
        return self.bars[self._index] if self.bars else None

    def lay_out_bars(self) -> None:
        """As many bars as go on the slab."""
        self._put(self._laid(self._angle_deg))
        if not self.bars:
            self._line.setText("No bar of this size goes on it.")

    def add_bar(self) -> None:
        """One bar more, in the middle: to be dragged to its place."""
        size = self._values["length"], self._values["width"]
        angle = self._angle_deg or 0.0
        self._put((*self.bars, SlabBar(self._slab.length_mm / 2, self._slab.width_mm / 2, angle, *size)))
        self._choose(len(self.bars) - 1)

    def remove_bar(self) -> None:
        """The bar in hand is not sawn."""
        if self.bars:
            self._put((*self.bars[: self._index], *self.bars[self._index + 1 :]))

    def lay_at(self, angle_deg: float | None) -> None:
        """All bars at one angle; None: at the one that gives most."""
        self._angle_deg = angle_deg
        self.angle.set_text(_MOST if angle_deg is None else _angle_words(angle_deg))
        self.lay_out_bars()

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._settle.isActive() or self.searches.is_busy()

    def buttons(self) -> list[PictureButton]:
        """The bars as they look turned."""
        return list(widgets_in(self._list, PictureButton))

    def _begin(self) -> None:
        """A bar that has its place already is shown there; where none has, as many as go on it."""
        if self._source.first is not None:
            self._put((self._source.first,))
        else:
            self.lay_out_bars()

    def _laid(self, angle_deg: float | None) -> tuple[SlabBar, ...]:
        values = self._values
        return laid_out(self._slab, values["length"], values["width"], values["kerf"], angle_deg)

    def _fill_angles(self, menu: QMenu) -> None:
        add_action(menu, _MOST, partial(self.lay_at, None), checked=self._angle_deg is None)
        for angle in ANGLES_DEG:
            count = len(self._laid(angle))
            words = f"{_angle_words(angle)}: {count} bar{'' if count == 1 else 's'}"
            add_action(menu, words, partial(self.lay_at, angle), checked=self._angle_deg == angle)

    def _set(self, name: str, value: float) -> None:
        """Another size is of all bars, where they lie; another kerf may leave the saw no room."""
        self._values[name] = value
        if self._slab != self._source.slab:
            self._slab = self._source.slab
            self.picture.show_slab(self._slab, self._source.image(self._surface))
            self.lay_out_bars()
            return
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
        share, count = 100 * share_used(self._slab, self.bars), len(self.bars)
        told = f"{count} bar{'' if count == 1 else 's'}, {share:.0f} % of it, {len(lines)} cuts"
        self._line.setText(_trouble(wrong) or told)
        self._line.setStyleSheet(theme.words_css(theme.STOP if wrong else theme.INK, theme.BODY, 600))
        told_cuts = [self._cut_line(n + 1, line) for n, line in enumerate(lines)]
        more = [f"and {len(told_cuts) - _MOST_CUTS} more"] if len(told_cuts) > _MOST_CUTS else []
        self._cuts.setText("\n".join([*told_cuts[:_MOST_CUTS], *more]))
        self._cuts.setToolTip("\n".join(told_cuts))
        self._save.setText(self._source.agreed(self._index + 1))
        self._save.setEnabled(bool(self.bars) and not wrong)

    def _cut_line(self, number: int, line: SlabCut) -> str:
        a, b = (f"{write(x, _MM, self._units)} along, {write(y, _MM, self._units)} down" for x, y in line.ends)
        stop = "; stop there, another bar lies beyond" if line.is_short and not line.is_across else ""
        return f"{number}  From {a} to {b}: frees {line.frees}{stop}."

    def _look(self) -> None:
        """How the bars look turned, in the background; the first of very many."""
        evaluate, number = self._surface.evaluator() if self.isVisible() else None, self.searches.ask_anew()
        clear(self._list)
        if evaluate is None:
            return
        out = tuple(self._source.bar_out(bar) for bar in self.bars[:_MOST_LOOKS])
        search = _Looks(number, evaluate, tuple(bar for bar in out if bar.barrels))
        search.made.connect(self._show_look)
        self.searches.begin(search)

    def _show_look(self, number: int, place: int, picture: QImage) -> None:
        if number == self.searches.number:
            button = PictureButton(picture, f"Bar {place + 1}", "", 260)
            button.clicked.connect(lambda _=False: self._choose(place))
            self._list.addWidget(button)

    def _lay_out(self) -> None:
        title = Label(f"Bars out of {self._source.name}")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        right = QVBoxLayout()
        for field in self.fields.values():
            right.addWidget(field)
        right.addWidget(self.angle)
        deeds = {
            "As many as go on it": self.lay_out_bars,
            "Add a bar": self.add_bar,
            "Remove this bar": self.remove_bar,
        }
        for words, deed in deeds.items():
            button = QPushButton(words)
            button.setProperty("kind", "small")
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
        self._save = ends.addButton(self._source.agreed(1), QDialogButtonBox.ButtonRole.AcceptRole)
        ends.accepted.connect(self.accept)
        ends.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addLayout(row, 1)
        column.addWidget(ends)


def _angle_words(angle_deg: float) -> str:
    return {0.0: "Along it", 90.0: "Across it"}.get(angle_deg, f"At {decimal(angle_deg)}°")


def _trouble(wrong: tuple[tuple[int, ...], ...]) -> str:
    """What keeps the saw from its work, in words."""
    if not wrong:
        return ""
    first = wrong[0]
    if len(first) == 1:
        return f"Bar {first[0] + 1} does not lie wholly on what is sound."
    return f"Between bars {first[0] + 1} and {first[1] + 1} there is no room for the saw."
