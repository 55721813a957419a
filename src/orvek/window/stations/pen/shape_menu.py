"""The shape of a barrel: a few in one step, or typed point by point."""

from __future__ import annotations

import re
from functools import partial

from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from orvek.documents import MOST_POINTS, Barrel, OutlinePoint
from orvek.documents.deeds.shapes import SHAPES, set_outline, shape_barrel, shape_of
from orvek.errors import NotUnderstoodError, OrvekError, OutOfBoundsError
from orvek.quantities import Dimension, Units, read, write
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action

_WANTED = "places from the tube's left end with the diameter there, like 12 mm: 13.4 mm; 30 mm: 14 mm"


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
            self._parent, f"Outline of {barrel.name}", f"Type {_WANTED}.", text=written(barrel, self._session.units)
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


def written(barrel: Barrel, units: Units) -> str:
    """A barrel's points as they are typed."""
    pairs = ((point.at * barrel.tube_length_mm, point.diameter_mm) for point in barrel.outline)
    return "; ".join(": ".join(write(value, Dimension.LENGTH, units, 2) for value in pair) for pair in pairs)


def read_points(text: str, barrel: Barrel, units: Units) -> tuple[OutlinePoint, ...]:
    """Points as they were typed, in any order; nothing makes the barrel straight.

    Raises:
        NotUnderstoodError, OutOfBoundsError: something else stands there, or a point lies beside the tube.
    """
    found: list[OutlinePoint] = []
    for part in filter(None, (piece.strip() for piece in text.split(";"))):
        pair = re.split(r"\s*:\s*", part)
        if len(pair) != 2:
            raise NotUnderstoodError(part, _WANTED)
        place, diameter = (read(one, Dimension.LENGTH, units) for one in pair)
        if not 0 < place < barrel.tube_length_mm:
            length = write(barrel.tube_length_mm, Dimension.LENGTH, units)
            raise OutOfBoundsError("A place on the outline", pair[0], f"between the ends of the tube, 0 and {length}")
        if not 3 <= diameter <= 60:
            raise OutOfBoundsError("A diameter of the outline", pair[1], "from 3 to 60 mm")
        found.append(OutlinePoint(at=place / barrel.tube_length_mm, diameter_mm=diameter))
    if len(found) > MOST_POINTS:
        raise OutOfBoundsError("The outline", f"{len(found)} points", f"at most {MOST_POINTS} points")
    return tuple(sorted(found, key=lambda point: point.at))
