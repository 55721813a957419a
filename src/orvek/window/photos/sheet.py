"""The sheet on which photos of a bar are taken in: corners, sizes, what is white, marks. `ask_photos` opens it."""

from __future__ import annotations

import typing
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import FACES, Mark, Measure, PhotoStep, PhotoView, checked, declared
from orvek.documents.deeds import photos
from orvek.documents.steps.photographed import MadeOf
from orvek.errors import OrvekError
from orvek.planning.photos import doubts, light_doubt
from orvek.quantities import Dimension, Units
from orvek.window import theme
from orvek.window.photos.corner_picture import CornerPicture, Points
from orvek.window.photos.flat_picture import FlatPicture
from orvek.window.photos.reading import PHOTOS, Reading, Straightening, Taken, taken
from orvek.window.surface import image_of
from orvek.window.widgets.asking import ask
from orvek.window.widgets.buttons import Deeds, buttons_for
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, widgets_in
from orvek.window.widgets.searches import SearchDialog

_PX_PER_MM = 6.0
_RULER = Measure("The ruler's ends are apart by", Dimension.LENGTH, 1, 3000, "Two marks of a ruler beside the bar")
_NO_BAR = "No bar stands out on this photo: drag the four corners to it."
_LOOK = "The bar's edges are not clear on this photo. Look at the four corners, and drag them where they are off."
_KINDS = ("centre this", "must not show", "light comes through")


def ask_photos(parent: QWidget | None, step: PhotoStep, units: Units, paths: tuple[Path, ...] = ()) -> PhotoStep | None:
    """Let the maker take in photos of a bar; None when he thinks better of it."""
    sheet = PhotoSheet(parent, step, units)
    if paths:
        sheet.take(list(paths))
    return sheet.step if sheet.exec() == QDialog.DialogCode.Accepted else None


class PhotoSheet(SearchDialog):
    """One bar and its photos. `step` is what stands on the sheet."""

    def __init__(self, parent: QWidget | None, step: PhotoStep, units: Units) -> None:
        super().__init__(parent)
        self.step, self._given, self._units, self._index = step, step, units, 0
        self._ruler: Points = ()
        self._ruler_mm = 100.0
        self.setWindowTitle("Photos of the bar")
        self.resize(1080, 720)
        self.setAcceptDrops(True)
        self.photo, self.flat = CornerPicture(), FlatPicture()
        self.photo.moved.connect(self._move)
        self.photo.dropped.connect(self._show)
        self.photo.picked.connect(self._set_white)
        self.flat.pressed.connect(self._mark)
        self.flat.unmarked.connect(lambda n: self._put(photos.remove_mark(self.step, n)))
        self.sizes = {name: QuantityField(declared(PhotoStep, name), units) for name in _SIZES}
        for name, field in self.sizes.items():
            field.entered.connect(partial(self._set_size, name))
        self.form = ChoiceField("Section", self._fill_forms)
        self.made_of = ChoiceField("Made of", self._fill_made_of)
        self.face = ChoiceField("This photo shows", self._fill_faces)
        self.kind = ChoiceField("A click on it marks", self._fill_kinds)
        self._kind = _KINDS[0]
        self.kind.set_text(self._kind)
        self.ruler = QuantityField(_RULER, units)
        self.ruler.entered.connect(self._set_ruler_mm)
        self._faces = QVBoxLayout()
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self.buttons = buttons_for(self._deeds(), small=True)
        self._lay_out()
        self._show()

    def take(self, paths: list[Path]) -> None:
        """Take in photo files; each becomes the next face."""
        reading = Reading(paths)
        reading.taken.connect(self._take)
        self._say("Reading the photo…")
        self.searches.begin(reading)

    # -- hands -------------------------------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.take([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])

    def accept(self) -> None:
        """Lay the faces flat for the field first, in the background; then close."""
        if self.searches.is_busy():
            self._say("One moment: a photo is still being read.")
            return
        self._say("Laying the faces flat…")
        work = Straightening(self.step)
        work.finished.connect(self._accept)
        self.searches.begin(work)

    def _accept(self) -> None:
        super().accept()

    def reject(self) -> None:
        """Escape while something white is looked for ends that, and not the sheet; what was changed is asked about."""
        if self.photo.mode == "white":
            self.photo.set_mode("corners")
            self._show()
            return
        words = "Photos, corners and marks as they were changed here are not kept."
        if self.step != self._given and ask(self, "Close without saving?", words, ("Drop them", "Go on"), 1) is None:
            return
        super().reject()

    def done(self, result: int) -> None:
        """Close it; its pictures are read again when somebody wants them."""
        from orvek.workpiece.photo import let_go

        super().done(result)
        let_go()

    def _take(self, found: object) -> None:
        if not isinstance(found, Taken):
            self._say(str(found), is_wrong=True)
            return
        try:
            step = photos.add_photo(self.step, found.artwork, found.corners)
        except OrvekError as error:
            self._say(str(error), is_wrong=True)
            return
        before = {view.azimuth_deg for view in self.step.views}
        self._index = next((n for n, view in enumerate(step.views) if view.azimuth_deg not in before), 0)
        if step.form == "round":
            self._index = len(step.views) - 1
        self._put(step)
        if found.corners is None:
            self._say(_NO_BAR, is_wrong=True)
        elif found.is_unsure:
            self._say(_LOOK)

    def _deeds(self) -> Deeds:
        return {
            "add": ("Add photos…", self._ask_files),
            "another": ("Another face on this photo", self._another_face),
            "remove": ("Remove this photo", self._remove),
            "find": ("Find the corners", self._find),
            "turn": ("Left end is on the right", lambda: self._put(photos.turn_view(self.step, self._index))),
            "white": ("What is white or grey", self._ask_white),
            "ruler": ("Size by a ruler", self._lay_ruler),
            "light": ("Against the light…", self._ask_light),
        }

    def _ask_files(self) -> None:
        paths, _ = QFileDialog.getOpenFileNames(self, "Photos of the bar", "", PHOTOS)
        if paths:
            self.take([Path(path) for path in paths])

    def _another_face(self) -> None:
        view = self._view()
        if view is not None:
            self._try(lambda: photos.add_photo(self.step, view.artwork, view.corners))

    def _remove(self) -> None:
        if self.step.views:
            self._put(photos.remove_view(self.step, self._index))

    def _ask_light(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "The same face, against the light", "", PHOTOS)
        if path:
            self.take_against_light(Path(path))

    def take_against_light(self, path: Path) -> None:
        """A photo of the face in hand taken against the light: bright places on it are marked."""
        view = self._view()
        found = taken(path)
        if view is None or not isinstance(found, Taken):
            self._say(str(found), is_wrong=True)
            return
        lit = view.with_(artwork=found.artwork, corners=found.corners or view.corners, white=None)
        self._try(lambda: photos.put_light(self.step, lit, self._bright(lit)))
        count = sum(m.kind == _KINDS[2] and m.azimuth_deg == view.azimuth_deg for m in self.step.marks)
        told = (
            f"{count} bright places are marked; click a mark to take it away." if count else "It lets no light through."
        )
        self._say(told if found.corners else f"{told} Its corners were taken from the photo before.")

    def _bright(self, lit: PhotoView) -> tuple[tuple[float, float, float], ...]:
        from orvek.workpiece.against_light import bright_places
        from orvek.workpiece.photo import flat_picture, upright

        dots = upright(lit.artwork)
        if dots is None:
            return ()
        size = (self.step.length_mm, self.step.across_mm(lit.azimuth_deg))
        return bright_places(flat_picture(dots, lit.corners, size, min(_PX_PER_MM, 900 / size[0])), size[0])

    def _find(self) -> None:
        from orvek.workpiece.photo import upright
        from orvek.workpiece.photo_corners import proposed_corners

        view = self._view()
        dots = upright(view.artwork) if view is not None else None
        found = proposed_corners(dots) if dots is not None else None
        if found is None:
            self._say(_NO_BAR, is_wrong=True)
            return
        self._put(photos.change_view(self.step, self._index, corners=found.corners))
        if found.is_unsure:
            self._say(_LOOK)

    def _ask_white(self) -> None:
        view = self._view()
        if view is not None and view.white is not None:
            self._put(photos.change_view(self.step, self._index, white=None))
            return
        self.photo.set_mode("white")
        self._say("Click something white or grey on the photo: a card, a sheet of paper, a primed board.")

    def _set_white(self, colour: str) -> None:
        self.photo.set_mode("corners")
        self._put(photos.change_view(self.step, self._index, white=colour))

    def _lay_ruler(self) -> None:
        self._ruler = () if self._ruler else ((0.3, 0.8), (0.7, 0.8))
        self._show()

    def _set_ruler_mm(self, value: float) -> None:
        self._ruler_mm = value
        self._by_ruler()

    def _by_ruler(self) -> None:
        from orvek.workpiece.photo import sized_by_ruler

        view = self._view()
        if view is None or len(self._ruler) != 2:
            return
        usual = self.step.length_mm / self.step.across_mm(view.azimuth_deg)
        found = sized_by_ruler(view, (self._ruler[0], self._ruler[1]), self._ruler_mm, usual)
        if found is None:
            return
        is_deep = self.step.form == "rectangular" and view.azimuth_deg in {FACES["B"], FACES["D"]}
        wide = "depth_mm" if is_deep else "width_mm"
        self._try(lambda: self.step.with_(length_mm=round(found[0], 1), **{wide: round(found[1], 1)}))

    def _move(self, corners: Points, ruler: Points) -> None:
        """A corner or the ruler is dragged: what does not make a face is left until it does."""
        if ruler != self._ruler:
            self._ruler = ruler
            self._by_ruler()
            return
        try:
            self.step = photos.change_view(self.step, self._index, corners=corners)
        except OrvekError as error:
            self._say(str(error), is_wrong=True)
            return
        self._show_flat()

    def _mark(self, z_mm: float, across_mm: float) -> None:
        view = self._view()
        if view is not None:
            mark = {"kind": self._kind, "azimuth_deg": view.azimuth_deg, "z_mm": z_mm, "across_mm": across_mm}
            self._try(lambda: photos.add_mark(self.step, checked(Mark, mark)))

    def _set_size(self, name: str, value: float) -> None:
        self._try(lambda: self.step.with_(**{name: value}))

    def _try(self, deed: Callable[[], PhotoStep]) -> None:
        try:
            self._put(deed())
        except OrvekError as error:
            self._say(str(error), is_wrong=True)

    def _put(self, step: PhotoStep) -> None:
        self.step = step
        self._index = min(self._index, max(0, len(step.views) - 1))
        self._show()

    # -- showing -----------------------------------------------------------------------------------------------

    def _view(self) -> PhotoView | None:
        return self.step.views[self._index] if self.step.views else None

    def _show(self) -> None:
        from orvek.workpiece.photo import upright

        view = self._view()
        dots = upright(view.artwork) if view is not None else None
        image = image_of(dots) if dots is not None else None
        if view is None:
            self._ruler = ()
        self.photo.show_photo(image, view.corners if view is not None else _NONE, self._ruler)
        for name, field in self.sizes.items():
            field.set_value(getattr(self.step, name), self._units)
            field.setVisible(name != "depth_mm" or self.step.form == "rectangular")
        self.form.set_text(self.step.form)
        self.made_of.set_text(self.step.made_of)
        self.face.set_text(f"face {self.step.called(view)}" if view is not None else "nothing yet")
        self.ruler.set_value(self._ruler_mm)
        self.ruler.setVisible(bool(self._ruler))
        for key, button in self.buttons.items():
            button.setEnabled(view is not None or key == "add")
        white = self.buttons["white"]
        white.setText("Colours as photographed" if view is not None and view.white else "What is white or grey")
        self.buttons["ruler"].setText("Take the ruler away" if self._ruler else "Size by a ruler")
        self._show_faces()
        self._show_flat()
        told = next(doubts(self.step, self._units), None) or light_doubt(self.step)
        self._say(f"{told.title} {told.because}" if told else "", is_wrong=told is not None and told.gravely)

    def _show_flat(self) -> None:
        from orvek.workpiece.photo import flat_picture, upright, white_balanced

        view = self._view()
        dots = upright(view.artwork) if view is not None else None
        if view is None or dots is None:
            self.flat.show_face(None, (self.step.length_mm, self.step.width_mm), (), self._units)
            return
        size = (self.step.length_mm, self.step.across_mm(view.azimuth_deg))
        per_mm = min(_PX_PER_MM, 900 / size[0])
        flat = white_balanced(flat_picture(dots, view.corners, size, per_mm), view.white)
        marks = tuple((n, m) for n, m in enumerate(self.step.marks) if m.azimuth_deg == view.azimuth_deg)
        self.flat.show_face(image_of(flat), size, marks, self._units)

    def _show_faces(self) -> None:
        names = [self.step.called(view) for view in self.step.views]
        there = list(widgets_in(self._faces, QPushButton))
        if [button.property("face") for button in there] != names:
            clear(self._faces)
            for n, name in enumerate(names):
                button = QPushButton(f"Face {name}" if self.step.form == "rectangular" else f"View from {name}")
                button.setProperty("kind", "place")
                button.setProperty("face", name)
                button.setCheckable(True)
                button.clicked.connect(partial(self._choose, n))
                self._faces.addWidget(button)
        for n, button in enumerate(widgets_in(self._faces, QPushButton)):
            button.setChecked(n == self._index)
            button.setStyleSheet(f"font-weight: {600 if n == self._index else 400}; text-align: left;")
            button.setAccessibleDescription(
                f"{'in hand, ' if n == self._index else ''}{self.step.views[n].artwork.name}"
            )

    def _choose(self, index: int) -> None:
        self._index = index
        self._show()

    def _say(self, words: str, *, is_wrong: bool = False) -> None:
        self._sentence.setStyleSheet(theme.words_css(theme.CAUTION if is_wrong else theme.QUIET, theme.SMALL))
        self._sentence.setText(words)

    def _fill_forms(self, menu: QMenu) -> None:
        for form in ("rectangular", "round"):
            add_action(menu, form, partial(self._set_form, form), checked=form == self.step.form)

    def _fill_made_of(self, menu: QMenu) -> None:
        for stuff in typing.get_args(MadeOf):
            deed = partial(self._try, partial(self.step.with_, made_of=stuff))
            add_action(menu, stuff, deed, checked=stuff == self.step.made_of)

    def _set_form(self, form: str) -> None:
        self._try(lambda: photos.set_form(self.step, form))

    def _fill_faces(self, menu: QMenu) -> None:
        view = self._view()
        if view is None or self.step.form == "round":
            return
        for face, at in FACES.items():
            add_action(menu, f"Face {face}", partial(self._is_face, at), checked=face == view.face)

    def _is_face(self, azimuth_deg: float) -> None:
        step = photos.swap_face(self.step, self._index, azimuth_deg)
        self._index = next(n for n, view in enumerate(step.views) if view.azimuth_deg == azimuth_deg)
        self._put(step)

    def _fill_kinds(self, menu: QMenu) -> None:
        for kind in _KINDS:
            add_action(menu, kind, partial(self._set_kind, kind), checked=kind == self._kind)

    def _set_kind(self, kind: str) -> None:
        self._kind = kind
        self.kind.set_text(kind)

    def _lay_out(self) -> None:
        title = Label("Photos of the bar")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        how = quiet_label(
            "Face A first. For each next face roll the bar a quarter turn away from you, its left end staying left"
        )
        how.setWordWrap(True)
        left = QVBoxLayout()
        left.setSpacing(6)
        self._faces.setSpacing(2)
        left.addWidget(self.buttons["add"])
        left.addLayout(self._faces)
        for widget in (self.buttons["another"], self.buttons["remove"], self.face):
            left.addWidget(widget)
        left.addSpacing(8)
        sized: tuple[QWidget, ...] = (self.made_of, self.form, *self.sizes.values(), self.buttons["ruler"], self.ruler)
        for field in sized:
            left.addWidget(field)
        left.addStretch(1)
        side = QWidget()
        side.setLayout(left)
        side.setFixedWidth(250)
        left.setContentsMargins(0, 0, 0, 0)
        tools = QHBoxLayout()
        for key in ("find", "turn", "white", "light"):
            tools.addWidget(self.buttons[key])
        tools.addStretch(1)
        self.kind.setMinimumWidth(260)
        tools.addWidget(self.kind)
        right = QVBoxLayout()
        right.setSpacing(8)
        right.addWidget(self.photo, 1)
        right.addLayout(tools)
        right.addWidget(self.flat)
        row = QHBoxLayout()
        row.setSpacing(24)
        row.addWidget(side)
        row.addLayout(right, 1)
        ends = QDialogButtonBox(QDialogButtonBox.StandardButton.Save | QDialogButtonBox.StandardButton.Cancel)
        ends.accepted.connect(self.accept)
        ends.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addWidget(how)
        column.addLayout(row, 1)
        column.addWidget(self._sentence)
        column.addWidget(ends)


_SIZES = ("length_mm", "width_mm", "depth_mm")
_NONE = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
