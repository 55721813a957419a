"""The fields of one step, made from its declaration: numbers, choices, materials, colours and piles of layers."""

from __future__ import annotations

import typing
from functools import partial
from pathlib import Path
from typing import Any, Literal

from PySide6.QtCore import Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QColorDialog,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import (
    ArcStep,
    Artwork,
    CastStep,
    CutStep,
    DyeStep,
    InsertStep,
    Layer,
    Material,
    Measure,
    PlugStep,
    StavesStep,
    Step,
    WrapStep,
    declared,
    material,
)
from orvek.documents.base import title_of
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError
from orvek.quantities import Dimension, Units
from orvek.window import theme
from orvek.window.widgets.asking import tell
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityEdit, QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear
from orvek.window.widgets.materials_menu import fill_materials

_THICKNESS = Measure("Thickness", Dimension.LENGTH, 0.05, 300, "")
_MATERIALS = {"material", "spacer", "core", "one", "other", "over", "inside"}
# Cups are set at Pour, an edge's points on the picture, what is marked on a photo on its sheet.
_NOT_HERE = {"kind", "cups", "line_mm", "against_light", "marks"}


_FIELDS_OF_FORM = {
    "edge": {"middle_mm", "rough_mm", "slope_deg", "azimuth_deg"},
    "core": {"diameter_mm"},
    "rods": {"diameter_mm", "rods", "ring_mm", "azimuth_deg"},
    "chips": {"chip_mm", "chips_pct"},
}


class StepForm(QWidget):
    """Two columns of fields; built anew when another kind of step, or another number of layers, is shown."""

    changed = Signal(object, str)
    photos_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._step: Step | None = None
        self._shape: tuple[Any, ...] | None = None
        self._units = Units()
        self._own: tuple[Material, ...] = ()
        self._fields: dict[str, Any] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(32)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(0, 1)
        self._grid.setColumnStretch(1, 1)

    def show_step(self, step: Step, units: Units, own: tuple[Material, ...] = ()) -> None:
        """Show a step's values; `own` are the maker's materials."""
        self._own = own
        layers = tuple(len(v) for v in step.__dict__.values() if isinstance(v, tuple))
        shape = (step.kind, layers, *(_is_used(step, name) for name in type(step).model_fields))
        self._step, self._units = step, units
        if shape != self._shape:
            self._shape = shape
            self._build(step)
        for name, field in self._fields.items():
            self._fill(name, field, getattr(step, name))

    def field(self, name: str) -> Any:
        """The widget of a field."""
        return self._fields[name]

    def _build(self, step: Step) -> None:
        clear(self._grid)
        self._fields = {}
        names = [name for name in type(step).model_fields if name not in _NOT_HERE and _is_used(step, name)]
        for place, name in enumerate(names):
            self._fields[name] = self._widget(step, name)
            self._grid.addWidget(self._fields[name], place // 2, place % 2)
        if not names:
            self._grid.addWidget(quiet_label("Nothing to set here."), 0, 0)
        if step.kind == "cast":
            words = Label("Colours and shares are set at the station Pour.")
            words.setWordWrap(True)
            words.setStyleSheet(theme.words_css(theme.QUIET))
            self._grid.addWidget(words, 9, 0, 1, 2)
        self._grid.setRowStretch(10, 1)

    def _widget(self, step: Step, name: str) -> QWidget:
        info = type(step).model_fields[name]
        value, title = getattr(step, name), title_of(info, name)
        extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
        if "dimension" in extra:
            number = QuantityField(declared(type(step), name), self._units, optional=info.default is None)
            number.entered.connect(lambda v, n=name, t=title: self._put(n, v, t))
            return number
        if typing.get_origin(info.annotation) is Literal:
            options = typing.get_args(info.annotation)
            return ChoiceField(title, partial(self._fill_options, name=name, options=options))
        if name == "colour":
            button = ChoiceField(title, None)
            button.button.clicked.connect(self._ask_colour)
            return button
        if name == "views":
            sheet = ChoiceField(title, None)
            sheet.button.clicked.connect(self.photos_wanted)
            return sheet
        if isinstance(value, tuple):
            return self._pile(name, title, value)
        if name == "artwork":
            chosen = ChoiceField(title, None)
            chosen.button.clicked.connect(self._ask_picture)
            return chosen
        return ChoiceField(title, partial(self._fill_materials, put=lambda key: self._put(name, key, title)))

    def _fill(self, name: str, field: Any, value: Any) -> None:
        if isinstance(field, QuantityField):
            field.set_value(value, self._units)
        elif isinstance(field, ChoiceField):
            if isinstance(value, Artwork):
                field.set_text(value.name)
            elif name == "views":
                field.set_text(", ".join(f"face {view.face}" for view in value) or "take photos in")
            else:
                field.set_text(material(value, self._own).name if name in _MATERIALS else str(value or "choose"))
        elif isinstance(field, LayerPile):
            field.show_layers(value, self._units, self._own)

    def _pile(self, name: str, title: str, value: tuple[Any, ...]) -> QWidget:
        pile = LayerPile(title, len(value), self._units, thick=name != "materials")
        pile.changed.connect(lambda layers, n=name, t=title: self._put(n, layers, t))
        return pile

    def _put(self, name: str, value: Any, title: str) -> None:
        assert self._step is not None
        try:
            self.changed.emit(self._step.with_(**{name: value}), title)
        except OrvekError as error:
            field = self._fields[name]
            if isinstance(field, QuantityField):
                field.refuse(str(error))

    def _fill_options(self, menu: QMenu, name: str, options: tuple[str, ...]) -> None:
        now = getattr(self._step, name)
        for option in options:
            add_action(menu, option, partial(self._put, name, option, f"Choose {option}"), checked=option == now)

    def _fill_materials(self, menu: QMenu, put: Any) -> None:
        fill_materials(menu, put, self._own)

    def _ask_colour(self) -> None:
        colour = QColorDialog.getColor(QColor(getattr(self._step, "colour", "#888888")), self, "Colour")
        if colour.isValid():
            self._put("colour", colour.name(), "Colour")

    def _ask_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Printed with", "", "Pictures (*.png *.jpg *.jpeg *.bmp *.webp)")
        if path:
            self.take_picture(Path(path))

    def take_picture(self, path: Path) -> None:
        """Print with the picture of a file; one that cannot be read is said where it was asked for."""
        try:
            self._put("artwork", artwork_from(path), "Choose a picture")
        except OrvekError as error:
            tell(self, "Printed with", str(error))


class LayerPile(QWidget):
    """A pile of layers: material and thickness of each; one more, one less."""

    changed = Signal(object)

    def __init__(self, title: str, count: int, units: Units, *, thick: bool) -> None:
        super().__init__()
        self._layers: tuple[Any, ...] = ()
        self._own: tuple[Material, ...] = ()
        self._thick = thick
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        head = QHBoxLayout()
        head.addWidget(quiet_label(title), 1)
        for words, deed in (("one more", self._more), ("one less", self._less)):
            button = QPushButton(words)
            button.setProperty("kind", "small")
            button.setStyleSheet(f"font-weight: 400; {theme.words_css(theme.ACCENT)}")
            button.clicked.connect(deed)
            head.addWidget(button)
        column.addLayout(head)
        self._rows: list[tuple[ChoiceField, QuantityEdit | None]] = []
        for index in range(count):
            choice = ChoiceField(str(index + 1), partial(self._fill_materials, index))
            choice.button.setAccessibleName(f"{title}, layer {index + 1}: material")
            edit = None
            row = QHBoxLayout()
            row.addWidget(choice, 1)
            if thick:
                edit = QuantityEdit(_THICKNESS, units)
                edit.setFixedWidth(76)
                edit.setAccessibleName(f"{title}, layer {index + 1}: thickness")
                edit.entered.connect(lambda value, i=index: self._set(i, None, value))
                row.addWidget(edit)
            column.addLayout(row)
            self._rows.append((choice, edit))

    def show_layers(self, layers: tuple[Any, ...], units: Units, own: tuple[Material, ...]) -> None:
        """Show these layers."""
        self._layers, self._own = layers, own
        for (choice, edit), layer in zip(self._rows, layers, strict=True):
            choice.set_text(material(layer.material if self._thick else layer, self._own).name)
            if edit is not None:
                edit.set_value(layer.thickness_mm, units)

    def _fill_materials(self, index: int, menu: QMenu) -> None:
        fill_materials(menu, lambda key: self._set(index, key, None), self._own)

    def _set(self, index: int, key: str | None, thickness: float | None) -> None:
        layers = list(self._layers)
        if not self._thick:
            layers[index] = key
        else:
            old = layers[index]
            layers[index] = Layer(material=key or old.material, thickness_mm=thickness or old.thickness_mm)
        self.changed.emit(tuple(layers))

    def _more(self) -> None:
        new = Layer(material="holly", thickness_mm=1.0) if self._thick else "holly"
        self.changed.emit((*self._layers, self._layers[-1] if self._layers else new))

    def _less(self) -> None:
        self.changed.emit(self._layers[:-1])


def _is_used(step: Step, name: str) -> bool:
    """Whether a field means anything for what is laid in: an edge has no rods."""
    if isinstance(step, DyeStep) and name in {"carrier", "way", "soaked_min", "seen_mm", "seen_end_mm"}:
        return False  # how it is soaked in is the station Soak's to ask
    if isinstance(step, WrapStep) and name in {"overlap_mm", "bleed_mm"}:
        return False  # how the sheet is cut is the station Finish's to ask
    if isinstance(step, WrapStep) and name in {"artwork", "stands", "times", "one", "other"}:
        return (step.pattern == "picture") == (name not in {"one", "other"})
    if isinstance(step, CutStep | ArcStep) and name == "sheet_form":
        return len(step.sheet) > 1
    if isinstance(step, CastStep) and name == "chip_mm":
        return step.style == "chips"
    if isinstance(step, StavesStep) and name in {"taper_deg", "inside"}:
        return step.thickness_mm > 0
    if isinstance(step, PlugStep) and name == "long_mm":
        return step.way == "across"
    if not isinstance(step, InsertStep) or name in {"material", "form", "seed"}:
        return name != "seed" or getattr(step, "form", "") not in {"core", "rods"}
    return name in _FIELDS_OF_FORM[step.form]
