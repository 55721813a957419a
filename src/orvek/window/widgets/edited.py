"""Which part of a job a field edits, so that a finding or a change can point at it: `edits`, `field_at`."""

from __future__ import annotations

from typing import TypeVar

from PySide6.QtWidgets import QScrollArea, QWidget

from orvek.documents import FieldPath

W = TypeVar("W", bound=QWidget)
_PROPERTY = "edits"


def edits(widget: W, *path: str | int) -> W:
    """Say which part of a job a field edits."""
    widget.setProperty(_PROPERTY, _written(path))
    return widget


def edited(widget: QWidget) -> FieldPath:
    """Which part of a job a field edits; an empty path where nobody has said so."""
    kept = str(widget.property(_PROPERTY) or "")
    return tuple(int(piece) if piece.isdigit() else piece for piece in kept.split("/")) if kept else ()


def field_at(root: QWidget, path: FieldPath) -> QWidget | None:
    """The field in sight under `root` that edits `path`, or the whole or a part of what lies there."""
    there = {edited(one): one for one in root.findChildren(QWidget) if one.property(_PROPERTY) and one.isVisible()}
    if path in there:
        return there[path]
    return next((one for own, one in there.items() if own[: len(path)] == path or path[: len(own)] == own), None)


def bring_into_sight(field: QWidget) -> None:
    """Scroll to a field where it is scrolled to."""
    around = field.parentWidget()
    while around is not None:
        if isinstance(around, QScrollArea):
            around.ensureWidgetVisible(field)
        around = around.parentWidget()


def _written(path: FieldPath) -> str:
    return "/".join(map(str, path))
