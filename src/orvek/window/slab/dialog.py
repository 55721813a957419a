"""Bars out of a slab or a casting: laid by hand or as many as go on it, each as it will look turned, the saw list.

On a slab that was photographed its edge, knots and cracks are marked first: bars stay off them.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QThread, QTimer, Signal
from PySide6.QtGui import QImage, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QDialogButtonBox,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from orvek.errors import BadFieldError
from orvek.planning.slabs import grain_words
from orvek.quantities import Units, decimal
from orvek.window import theme
from orvek.window.slab.picture import HINTS, MODES, SlabPicture
from orvek.window.slab.saw_list import SawList
from orvek.window.slab.source import BarOut, PhotoSlab, SlabSource
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, scrolled, widgets_in
from orvek.window.widgets.picture_button import PictureButton, turned_picture
from orvek.window.widgets.searches import SearchDialog
from orvek.window.widgets.tabs import Tabs
from orvek.workpiece.slab import ANGLES_DEG, Slab, SlabBar, laid_out, share_used, troubles
from orvek.workpiece.slab_cuts import cuts

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_MOST = "Any way, the most bars"
_SETTLE_MS, _MOST_LOOKS, _SIDE_PX = 150, 40, 330
_EDGE_MARGIN_MM = 2.0  # how far bars stay off an edge that was found in a photo, until the maker says it; a choice
_UNSEEN = "Slab and bench look alike on this photo. Mark the edge by hand: press between two corners."


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


class _Edge(QThread):
    """The slab's edge, looked for in its photo: an outline, empty where it is straight, None where it is not told."""

    found = Signal(object)

    def __init__(self, source: PhotoSlab) -> None:
        super().__init__()
        self._source = source

    def run(self) -> None:
        self.found.emit(self._source.edge())


class SlabDialog(SearchDialog):
    """`bars` is what lies on it, `bar` the one in hand; accepted, they are to be sawn, or that one is taken out.

    `print_list` puts the saw list on paper.
    """

    def __init__(
        self,
        parent: QWidget | None,
        source: SlabSource,
        units: Units,
        surface: Surface,
        print_list: Callable[[SlabDialog], None] | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Bars out of {source.name}"[:80])
        self.resize(1180, 760)
        self.bars: tuple[SlabBar, ...] = ()
        self.source, self._units, self._surface, self._index = source, units, surface, 0
        self._angle_deg = source.angle_deg
        self._slab, self._values = source.slab, source.values
        self._is_by_hand, self._is_moving, self._mode = False, False, ""
        self._image = source.image(surface)
        self._before: list[Slab] = []
        self._at_rest = self._slab
        self.picture = SlabPicture()
        self.picture.moved.connect(self._move)
        self.picture.chosen.connect(self._choose)
        self.picture.marked.connect(self._mark)
        self.picture.released.connect(self._end_mark)
        self.fields = {name: QuantityField(measure, units) for name, measure in source.fields.items()}
        for name, field in self.fields.items():
            field.set_value(self._values[name])
            field.entered.connect(partial(self._set, name))
        self.angle = ChoiceField("Laid out", self._fill_angles)
        self._line, self._hint = Label(), quiet_label("")
        for label in (self._line, self._hint):
            label.setWordWrap(True)
        self.saw_list = SawList()
        self.saw_list.chosen.connect(self.picture.show_cut)
        self.saw_list.print_wanted.connect(lambda: None if print_list is None else print_list(self))
        self.saw_list.print_button.setVisible(print_list is not None)
        self._list = QVBoxLayout()
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._look)
        self._lay_out()
        self.picture.show_slab(self._slab, self._image)
        self.set_mode("Lay bars")
        self._begin()

    @property
    def bar(self) -> SlabBar | None:
        """The bar in hand."""
        return self.bars[self._index] if self.bars else None

    def set_mode(self, words: str) -> None:
        """What the hand does on the picture from now on."""
        marks, self._mode = MODES[words], words
        self.mode.set_text(words)
        self.picture.set_marks(marks)
        self._hint.setText(HINTS[marks])

    def find_edge(self) -> None:
        """Look for the slab's edge in its photo, in the background."""
        if isinstance(self.source, PhotoSlab):
            search = _Edge(self.source)
            search.found.connect(self._take_edge)
            self._hint.setText("Looking for the slab's edge…")
            self.searches.begin(search)

    def undo_mark(self) -> None:
        """The slab as it was before the last mark."""
        if self._before:
            self._keep_marks(self._before.pop())
            self._end_mark(is_new=False)

    def lay_out_bars(self) -> None:
        """As many bars as go on the slab."""
        self._is_by_hand = False
        self._put(self._laid(self._angle_deg))
        if not self.bars:
            self._line.setText("No bar of this size goes on it.")

    def add_bar(self) -> None:
        """One bar more, in the middle: to be dragged to its place."""
        self._is_by_hand = True
        size = self._values["length"], self._values["width"]
        angle = self._angle_deg or 0.0
        self._put((*self.bars, SlabBar(self._slab.length_mm / 2, self._slab.width_mm / 2, angle, *size)))
        self._choose(len(self.bars) - 1)

    def remove_bar(self) -> None:
        """The bar in hand is not sawn."""
        if self.bars:
            self._is_by_hand = True
            self._put((*self.bars[: self._index], *self.bars[self._index + 1 :]))

    def lay_at(self, angle_deg: float | None) -> None:
        """All bars at one angle; None: at the one that gives most."""
        self._angle_deg = angle_deg
        self.lay_out_bars()

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._settle.isActive() or self.searches.is_busy()

    def buttons(self) -> list[PictureButton]:
        """The bars as they look turned."""
        return list(widgets_in(self._list, PictureButton))

    def done(self, result: int) -> None:
        """Close it; its pictures are read again when somebody wants them."""
        from orvek.workpiece.photo import let_go

        super().done(result)
        let_go()

    # -- marks -------------------------------------------------------------------------------------------------

    def _take_edge(self, outline: tuple[tuple[float, float], ...] | None) -> None:
        if outline is None:
            self._hint.setText(_UNSEEN)
            return
        if outline and not self._values["margin"]:
            self._values["margin"] = _EDGE_MARGIN_MM
            self.fields["margin"].set_value(_EDGE_MARGIN_MM)
        self._keep_marks(replace(self.source.slab, outline=outline))
        self._end_mark()
        self.set_mode("Mark its edge")
        if not outline:
            self._hint.setText("The slab fills its four corners: its edge is straight.")

    def _mark(self, slab: Slab) -> None:
        """A mark is being dragged: bars are laid anew when the hand lets go."""
        self._is_moving = True
        if self._keep_marks(slab):
            self._show()

    def _keep_marks(self, slab: Slab) -> bool:
        """Keep the slab as it is marked now; what cannot be is said, and it stays as it was."""
        try:
            self.source.mark(slab)
        except BadFieldError as error:
            self._line.setText(f"The slab's {error.where} {error.problem}: it stays as it was.")
            return False
        self._slab = self.source.slab
        self.picture.show_slab(self._slab, self._image)
        return True

    def _end_mark(self, *, is_new: bool = True) -> None:
        self._is_moving = False
        if is_new and self._slab == self._at_rest:
            return  # what was wanted could not be: why stands there
        if is_new:
            self._before.append(self._at_rest)
        self._at_rest = self._slab
        if self._is_by_hand:
            self._put(self.bars)
        else:
            self.lay_out_bars()

    def _fill_modes(self, menu: QMenu) -> None:
        for words in MODES:
            add_action(menu, words, partial(self.set_mode, words), checked=words == self._mode)

    # -- bars --------------------------------------------------------------------------------------------------

    def _begin(self) -> None:
        """A bar that has its place already is shown there; where none has, as many as go on it."""
        if self.source.first is not None:
            self._put((self.source.first,))
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
        if self._slab != self.source.slab:
            is_larger = (self._slab.length_mm, self._slab.width_mm) != (
                self.source.slab.length_mm,
                self.source.slab.width_mm,
            )
            self._slab = self._at_rest = self.source.slab
            self._image = self.source.image(self._surface) if is_larger else self._image
            self.picture.show_slab(self._slab, self._image)
            self._end_mark(is_new=False)
            return
        size = {"length_mm": self._values["length"], "width_mm": self._values["width"]}
        self._put(tuple(replace(bar, **size) for bar in self.bars))

    def _move(self, number: int, bar: SlabBar) -> None:
        self._is_by_hand, self._is_moving = True, True
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
        # The saw's lines wait until the hand rests: sixty times a second they would hold it up.
        lines = cuts(self._slab, self.bars, kerf) if not wrong and not self._is_moving else ()
        self.picture.show_bars(self.bars, lines, frozenset(n for one in wrong for n in one), self._index)
        share, count = 100 * share_used(self._slab, self.bars), len(self.bars)
        sawn = f", {len(lines)} cuts" if lines else ""
        told = f"{count} bar{'' if count == 1 else 's'}, {share:.0f} % of it{sawn}."
        grain = grain_words(self.bars) if self.source.is_marked else ""
        self._line.setText(_trouble(wrong) or f"{told} {grain}")
        colour = theme.STOP if wrong else theme.CAUTION if grain else theme.INK
        self._line.setStyleSheet(theme.words_css(colour, theme.BODY, 600))
        self.angle.set_text(_angle_line(self._angle_deg, self.bars))
        if not self._is_moving:
            self.saw_list.show_cuts(self._slab, lines, self._units)
        self._save.setText(self.source.agreed(self._index + 1))
        self._save.setEnabled(bool(self.bars) and not wrong)

    def _turn_page(self, number: int) -> None:
        self._pages.setCurrentIndex(number)
        self.picture.show_cut(self.saw_list.row if number else -1)

    def _look(self) -> None:
        """The saw's lines; how the bars look turned, in the background, the first of very many."""
        if self._is_moving:
            self._is_moving = False
            self._show()
        evaluate, number = self._surface.evaluator() if self.isVisible() else None, self.searches.ask_anew()
        clear(self._list)
        if evaluate is None:
            return
        out = tuple(self.source.bar_out(bar) for bar in self.bars[:_MOST_LOOKS])
        search = _Looks(number, evaluate, tuple(bar for bar in out if bar.barrels))
        search.made.connect(self._show_look)
        self.searches.begin(search)

    def _show_look(self, number: int, place: int, picture: QImage) -> None:
        if number == self.searches.number:
            button = PictureButton(picture, f"Bar {place + 1}", "", 260)
            button.clicked.connect(lambda _=False: self._choose(place))
            self._list.addWidget(button)

    def _lay_out(self) -> None:
        title = Label(f"Bars out of {self.source.name}")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        right = QVBoxLayout()
        for field in self.fields.values():
            right.addWidget(field)
        right.addWidget(self.angle)
        self.mode = ChoiceField("On the picture", self._fill_modes)
        self.find_button = QPushButton("Find its edge in the photo")
        self.find_button.clicked.connect(lambda _=False: self.find_edge())
        self.find_button.setProperty("kind", "small")
        for widget in (self.mode, self.find_button):
            widget.setVisible(self.source.is_marked)
            right.addWidget(widget)
        undo = QShortcut(QKeySequence(QKeySequence.StandardKey.Undo), self)
        undo.activated.connect(self.undo_mark)
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
        self._pages = QStackedWidget()
        self._pages.addWidget(scrolled(inside))
        self._pages.addWidget(self.saw_list)
        self.tabs = Tabs(("Turned", "Saw list"), 0)
        self.tabs.chosen.connect(self._turn_page)
        right.addWidget(self.tabs)
        right.addWidget(self._pages, 1)
        left = QVBoxLayout()
        left.addWidget(self.picture, 1)
        left.addWidget(self._hint)
        left.addWidget(self._line)
        side = QWidget()
        side.setLayout(right)
        side.setFixedWidth(_SIDE_PX)
        right.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        row.setSpacing(20)
        row.addLayout(left, 1)
        row.addWidget(side)
        ends = QDialogButtonBox()
        # What is marked on a slab is kept with it, whether it is sawn or not.
        ends.addButton("Close" if self.source.is_marked else "Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        self._save = ends.addButton(self.source.agreed(1), QDialogButtonBox.ButtonRole.AcceptRole)
        ends.accepted.connect(self.accept)
        ends.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addLayout(row, 1)
        column.addWidget(ends)


def _angle_line(angle_deg: float | None, bars: tuple[SlabBar, ...]) -> str:
    """How bars are laid: any way, and then at which angle that was."""
    if angle_deg is not None:
        return _angle_words(angle_deg)
    ways = {bar.angle_deg for bar in bars}
    return f"{_MOST}: {_angle_words(ways.pop()).lower()}" if len(ways) == 1 else _MOST


def _angle_words(angle_deg: float) -> str:
    return {0.0: "Along it", 90.0: "Across it"}.get(angle_deg, f"At {decimal(angle_deg)}°")


def _trouble(wrong: tuple[tuple[int, ...], ...]) -> str:
    """What keeps the saw from its work, in words."""
    if not wrong:
        return ""
    first = wrong[0]
    if len(first) == 1:
        return f"Bar {first[0] + 1} lies over the slab's edge, or over what is marked on it."
    return f"Between bars {first[0] + 1} and {first[1] + 1} there is no room for the saw."
