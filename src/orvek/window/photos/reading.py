"""A photo file taken in where nobody waits for it: read, its corners looked for."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from PySide6.QtCore import QThread, Signal

from orvek.documents import Artwork, Corners, PhotoStep
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError

PHOTOS = "Photos (*.jpg *.jpeg *.png *.webp *.tif *.tiff *.bmp)"


class Taken(Struct, frozen=True, eq=False):
    """A photo that was read: the file, its dots upright, where the bar's corners seem to be, and how sure that is."""

    artwork: Artwork
    dots: NDArray[np.uint8]
    corners: Corners | None
    is_unsure: bool = False


class Reading(QThread):
    """Reads photos one after the other; `taken` is a `Taken`, or the sentence for a file that is none."""

    taken = Signal(object)

    def __init__(self, paths: list[Path]) -> None:
        super().__init__()
        self._paths = paths

    def run(self) -> None:
        for path in self._paths:
            if self.isInterruptionRequested():
                return
            self.taken.emit(taken(path))


def taken(path: Path) -> Taken | str:
    """A photo file with its proposed corners; for a file that is none, the sentence that says why."""
    from orvek.workpiece.photo import upright
    from orvek.workpiece.photo_corners import proposed_corners

    try:
        artwork = artwork_from(path)
    except OrvekError as error:
        return str(error)
    dots = upright(artwork)
    if dots is None:
        return f"{path.name} cannot be read."
    found = proposed_corners(dots)
    return Taken(artwork, dots, found.corners, found.is_unsure) if found is not None else Taken(artwork, dots, None)


class Straightening(QThread):
    """Lays all faces of a bar flat for the field, so that the first picture of it does not wait."""

    def __init__(self, step: PhotoStep) -> None:
        super().__init__()
        self._step = step

    def run(self) -> None:
        from orvek.workpiece.photo import seen

        seen(self._step)
