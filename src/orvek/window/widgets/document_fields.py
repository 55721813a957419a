"""Editors for some fields of one part of the job, made from their declarations: `DocumentFields`."""

from __future__ import annotations

import typing
from functools import partial
from typing import Any

from PySide6.QtWidgets import QMenu, QWidget

from orvek.documents import Document, declared
from orvek.documents.base import title_of
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import QuantityField


class DocumentFields:
    """A widget for each field by its name; what is entered is an edit at `path` of the job.

    A number is typed, a choice has a menu, yes or no too. `path` may be changed when the part in hand changes.
    """

    def __init__(self, session: Session, path: tuple[str | int, ...], model: type[Document], *names: str) -> None:
        self._session, self.path, self._model = session, path, model
        self.widgets: dict[str, QWidget] = {name: edits(self._widget(name), *path, name) for name in names}

    def __getitem__(self, name: str) -> Any:
        return self.widgets[name]

    def some(self, *names: str) -> tuple[QWidget, ...]:
        """The widgets of some fields."""
        return tuple(self.widgets[name] for name in names)

    def show_document(self, document: Document) -> None:
        """Show what stands in these fields."""
        units = self._session.units
        for name, widget in self.widgets.items():
            value = getattr(document, name)
            edits(widget, *self.path, name)
            if isinstance(widget, QuantityField):
                widget.set_value(value, units)
            elif isinstance(widget, ChoiceField):
                widget.set_text(("yes" if value else "no") if isinstance(value, bool) else value)

    def fill(self, name: str, menu: QMenu) -> None:
        """What a field can be chosen to be."""
        info = self._model.model_fields[name]
        now = self._now(name)
        choices = (
            (("yes", True), ("no", False))
            if info.annotation is bool
            else tuple((value, value) for value in typing.get_args(info.annotation))
        )
        for words, value in choices:
            add_action(menu, words, partial(self._enter, name, value), checked=value == now)

    def _widget(self, name: str) -> QWidget:
        info = self._model.model_fields[name]
        title = title_of(info, name)
        if info.annotation is bool or typing.get_origin(info.annotation) is typing.Literal:
            return ChoiceField(title, partial(self.fill, name))
        field = QuantityField(declared(self._model, name), self._session.units, optional=info.default is None)
        field.entered.connect(partial(self._enter, name))
        return field

    def _enter(self, name: str, value: Any) -> None:
        title = title_of(self._model.model_fields[name], name)
        self._session.edit((*self.path, name), value, title)

    def _now(self, name: str) -> Any:
        found: Any = self._session.job
        for piece in self.path:
            found = found[piece] if isinstance(piece, int) else getattr(found, piece)
        return getattr(found, name)
