"""How a casting looks on the screen: the swirl's impression as an image, made in time for a drag and kept.

NumPy loads after the first window is up; until then `picture` gives None and painters use plain colours.
"""

from __future__ import annotations

from collections import OrderedDict
from typing import TYPE_CHECKING

from PySide6.QtGui import QColor, QImage

from orvek.documents import CastStep
from orvek.window import theme

if TYPE_CHECKING:
    from orvek.workpiece.swirl import SwirlField

_KEPT = 24
# Length, across, rows, columns; seed, scale, stretch and contrast of the swirl.
_Size = tuple[float, float, int, int, int, float, float, float]


class CastingLook:
    """Makes and keeps images of castings. One for the window, handed to whoever paints bars."""

    def __init__(self) -> None:
        self._ready = False
        self._fields: OrderedDict[_Size, SwirlField] = OrderedDict()
        self._images: OrderedDict[object, QImage] = OrderedDict()

    def load(self) -> None:
        """Load what makes the images; called once the first window is up."""
        import numpy  # noqa: F401

        self._ready = True

    def picture(self, cast: CastStep, length_mm: float, across_mm: float, columns: int, rows: int) -> QImage | None:
        """The impression on a rectangle of this size, or None while it cannot be made yet."""
        if not self._ready or not cast.cups or columns < 2 or rows < 2:
            return None
        size = (
            round(length_mm, 1),
            round(across_mm, 1),
            rows,
            columns,
            cast.seed,
            cast.scale,
            cast.stretch,
            cast.contrast,
        )
        key = (size, tuple((cup.colour, cup.share) for cup in cast.cups))
        if key not in self._images:
            self._images[key] = self._made(cast, size)
            while len(self._images) > _KEPT:
                self._images.popitem(last=False)
        return self._images[key]

    def _made(self, cast: CastStep, size: _Size) -> QImage:
        from orvek.workpiece.swirl import swirl_field, swirl_picture

        if size not in self._fields:
            self._fields[size] = swirl_field(*size)
            while len(self._fields) > _KEPT:
                self._fields.popitem(last=False)
        field = self._fields[size]
        colours = tuple(theme.rgb(QColor(cup.colour)) for cup in cast.cups)
        pixels = swirl_picture(field, colours, tuple(cup.share for cup in cast.cups))
        rows, columns, _ = pixels.shape
        return QImage(pixels.tobytes(), columns, rows, 3 * columns, QImage.Format.Format_RGB888).copy()
