"""An editor made from a document's own declaration: one line a field, with its title, unit and bounds.

`edit_document` asks on a sheet and gives the changed document, or None when the maker thinks better of it.
"""

from __future__ import annotations

import typing
from collections.abc import Callable
from datetime import date
from typing import Any, Literal, TypeVar

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QCheckBox,
    QColorDialog,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import STANDING_WORDS, Document, Known, Measure, Shop, catalogue, declared
from orvek.documents.base import title_of
from orvek.errors import BadFieldError, OrvekError
from orvek.quantities import Units
from orvek.window import theme
from orvek.window.widgets.fields import QuantityEdit, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

_USUAL_LETTERS = 80
D = TypeVar("D", bound=Document)


class DocumentSheet(Sheet):
    """A sheet with all fields of one document, or with those that are named in `only`.

    Where some are named in `first`, the others are behind "More" as long as they are as a new document has them.
    """

    def __init__(
        self,
        parent: QWidget | None,
        title: str,
        document: Document,
        units: Units,
        shop: Shop,
        *,
        only: tuple[str, ...] = (),
        first: tuple[str, ...] = (),
    ) -> None:
        super().__init__(parent)
        self._only = only
        self.setWindowTitle(title)
        self.setMinimumWidth(460)
        self._document = document
        self._units = units
        self._shop = shop
        self._values: dict[str, Callable[[], Any]] = {}
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))
        self.result_document: Document | None = None
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(7)
        fields = self._fields()
        for row, field in enumerate(sorted(fields, key=lambda name: bool(first) and name not in first)):
            self._add_row(grid, row, field)
        self.more = QPushButton("More")
        self.more.setProperty("kind", "place")
        self.more.setCheckable(True)
        self.more.toggled.connect(self._show_more)
        self._rare = [name for name in fields if first and name not in first and self._document.is_usual(name)]
        self.more.setVisible(bool(self._rare))
        self._grid = grid
        self._show_more(is_open=False)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Save")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("Cancel")
        buttons.accepted.connect(self._keep)
        buttons.rejected.connect(self.reject)
        heading = Label(title)
        heading.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(12)
        column.addWidget(heading)
        column.addLayout(grid)
        column.addWidget(self.more, 0, Qt.AlignmentFlag.AlignRight)
        column.addWidget(self._sentence)
        column.addWidget(buttons)

    def sentence(self) -> str:
        """Why the sheet was not kept, if it was not."""
        return self._sentence.text()

    def _show_more(self, is_open: bool) -> None:
        for row in range(self._grid.rowCount()):
            cells = [item.widget() for column in range(3) if (item := self._grid.itemAtPosition(row, column))]
            is_rare = any(one is not None and one.objectName() in self._rare for one in cells)
            for one in cells:
                if one is not None:
                    one.setVisible(is_open or not is_rare)
        self.more.setText("Less" if is_open else f"More ({len(self._rare)})")

    def _fields(self) -> list[str]:
        """All but those that hold one value only, such as a mould's kind, lists, and what no maker sets."""
        fields = type(self._document).model_fields
        return [
            name
            for name, info in fields.items()
            if (not self._only or name in self._only)
            and len(typing.get_args(info.annotation) or "ab") != 1
            and not isinstance(getattr(self._document, name), tuple)
            and not (isinstance(extra := info.json_schema_extra, dict) and extra.get("editor") == "none")
        ]

    def _add_row(self, grid: QGridLayout, row: int, field: str) -> None:
        info = type(self._document).model_fields[field]
        editor, extra = self._editor(field, getattr(self._document, field), info.annotation)
        label = quiet_label(title_of(info, field))
        label.setBuddy(editor)
        editor.setAccessibleName(title_of(info, field))
        editor.setObjectName(field)
        if info.description and not editor.toolTip():
            editor.setToolTip(info.description)
        grid.addWidget(label, row, 0)
        grid.addWidget(editor, row, 1)
        if extra is not None:
            grid.addWidget(extra, row, 2)

    def _editor(self, field: str, value: Any, annotation: Any) -> tuple[QWidget, QWidget | None]:
        """The editor for a field, and a second widget for where its number comes from."""
        measure = _measure_of(type(self._document), field)
        if measure is not None and _is_known(annotation):
            return self._known_editor(field, value)
        if measure is not None:
            edit = QuantityEdit(measure, self._units, optional=_is_optional(annotation))
            edit.set_value(value)
            edit.refused.connect(self._sentence.setText)
            self._values[field] = edit.value
            return edit, None
        if isinstance(value, bool):
            box = QCheckBox()
            box.setChecked(value)
            self._values[field] = box.isChecked
            return box, None
        if date in typing.get_args(annotation):
            return self._day_editor(field, value), None
        if field in {"kind", "family"} or typing.get_origin(annotation) is Literal:
            return self._list_editor(field, value, annotation), None
        if field == "colour":
            return self._colour_editor(field, value), None
        line = QLineEdit(str(value))
        line.setCursorPosition(0)
        line.setMaxLength(_most_letters(type(self._document), field))
        self._values[field] = line.text
        return line, None

    def _day_editor(self, field: str, value: date | None) -> QLineEdit:
        line = QLineEdit(value.isoformat() if value is not None else "")
        line.setPlaceholderText("2026-12-18")

        def day() -> date | None:
            words = line.text().strip()
            try:
                return date.fromisoformat(words) if words else None
            except ValueError as error:
                raise BadFieldError("Promised for", "a day is written as year, month, day: 2026-12-18") from error

        self._values[field] = day
        return line

    def _known_editor(self, field: str, value: Known | None) -> tuple[QWidget, QWidget]:
        measure = declared(type(self._document), field)
        edit = QuantityEdit(measure, self._units, optional=value is None)
        edit.set_value(value.value if value else None)
        edit.refused.connect(self._sentence.setText)
        standing = QComboBox()
        for key, words in STANDING_WORDS.items():
            standing.addItem(words, key)
        standing.setCurrentIndex(standing.findData(value.standing if value else "label"))
        standing.setAccessibleName(f"{measure.title} is")
        # Whoever types a number has it from somewhere else than a guess; the label is the likeliest place.
        edit.entered.connect(lambda _: standing.setCurrentIndex(standing.findData("label")))

        def known() -> Known | None:
            now = edit.value()
            if now is None:
                return None
            same = value is not None and now == value.value and standing.currentData() == value.standing
            return value if same else Known(value=now, standing=standing.currentData())

        self._values[field] = known
        return edit, standing

    def _list_editor(self, field: str, value: str, annotation: Any) -> QComboBox:
        box = QComboBox()
        if field == "family":
            entries = [(family.key, family.name) for family in self._shop.all_families]
        elif typing.get_origin(annotation) is Literal:
            said = {str(key): words for key, words in STANDING_WORDS.items()} if field == "ratio_standing" else {}
            entries = [(key, said.get(key, key)) for key in typing.get_args(annotation)]
        else:
            entries = [(kind.key, kind.name) for kind in catalogue().kinds]
        for key, words in entries:
            box.addItem(words, key)
        box.setCurrentIndex(max(0, box.findData(value)))
        self._values[field] = box.currentData
        return box

    def _colour_editor(self, field: str, value: str) -> QPushButton:
        button = QPushButton(value)
        held = [value]

        def paint() -> None:
            button.setText(held[0])
            button.setStyleSheet(f"border-left: 28px solid {held[0]};")

        def ask() -> None:
            colour = QColorDialog.getColor(QColor(held[0]), self, "Colour")
            if colour.isValid():
                held[0] = colour.name()
                paint()

        paint()
        button.clicked.connect(ask)
        self._values[field] = lambda: held[0]
        return button

    def _keep(self) -> None:
        focused = self.focusWidget()
        if isinstance(focused, QuantityEdit):
            focused.editingFinished.emit()
        refused = next((one for one in self.findChildren(QuantityEdit) if one.refusal()), None)
        if refused is not None:
            self._sentence.setText(refused.refusal())
            refused.setFocus(Qt.FocusReason.TabFocusReason)
            return
        try:
            self.result_document = self._document.with_(**{name: read() for name, read in self._values.items()})
        except OrvekError as error:
            self._sentence.setText(str(error))
            return
        self.accept()


def edit_document(
    parent: QWidget | None,
    title: str,
    document: D,
    shop: Shop,
    *,
    only: tuple[str, ...] = (),
    first: tuple[str, ...] = (),
) -> D | None:
    """Ask for changes to a document, or to some of its fields, in the units that the maker of this shop reads."""
    sheet = DocumentSheet(parent, title, document, shop.preferences.units, shop, only=only, first=first)
    agreed = sheet.exec() == QDialog.DialogCode.Accepted
    return typing.cast("D | None", sheet.result_document if agreed else None)


def _measure_of(model: type[Document], field: str) -> Measure | None:
    try:
        return declared(model, field)
    except KeyError:
        return None


def _most_letters(model: type[Document], field: str) -> int:
    """How long a line of words may be."""
    bounds = (getattr(one, "max_length", None) for one in model.model_fields[field].metadata)
    return next((most for most in bounds if most is not None), _USUAL_LETTERS)


def _is_optional(annotation: Any) -> bool:
    return type(None) in typing.get_args(annotation)


def _is_known(annotation: Any) -> bool:
    """Whether a field's type is Known, however it is wrapped in Annotated or made optional."""
    return annotation is Known or any(
        _is_known(inner) for inner in typing.get_args(annotation) if isinstance(inner, type) or typing.get_args(inner)
    )
