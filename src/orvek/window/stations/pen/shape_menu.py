"""The shape of a barrel: a few in one step, or typed point by point."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from orvek.documents import Barrel
from orvek.documents.deeds.shapes import (
    POINTS_WANTED,
    SHAPES,
    read_points,
    set_outline,
    shape_barrel,
    shape_of,
    written_points,
)
from orvek.errors import OrvekError
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action


class ShapeMenu:
    """Fills the menu of one barrel's shape."""

    def __init__(self, parent: QWidget, session: Session, index: int) -> None:
        self._parent, self._session, self._index = parent, session, index

    def fill(self, menu: QMenu) -> None:
        """All shapes, and points by hand."""
        barrel = self._barrel()
        if barrel is None:
            return
        now = shape_of(barrel)
        for shape in SHAPES:
            deed = partial(shape_barrel, index=self._index, shape=shape)
            words = f"Shape of {barrel.name}: {shape}"
            add_action(menu, shape, partial(self._session.attempt, words, deed), checked=shape == now)
        add_action(menu, "Points by hand…", self.ask, checked=now == "by points")

    def ask(self) -> None:
        """Ask for points, the ones that stand there to begin with."""
        barrel = self._barrel()
        if barrel is None:
            return
        text, agreed = QInputDialog.getText(
            self._parent,
            f"Outline of {barrel.name}",
            f"Type {POINTS_WANTED}.",
            text=written_points(barrel, self._session.units),
        )
        if agreed:
            self.take(text)

    def take(self, text: str) -> None:
        """Take typed points, or say why not."""
        barrel = self._barrel()
        if barrel is None:
            return
        try:
            points = read_points(text, barrel, self._session.units)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.attempt(f"Outline of {barrel.name}", lambda job: set_outline(job, self._index, points))

    def _barrel(self) -> Barrel | None:
        pen = self._session.job.pen
        return pen.barrels[self._index] if pen is not None and self._index < len(pen.barrels) else None
