"""Small pictures of pieces, made one after another in the background, and kept."""

from __future__ import annotations

import logging
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, QTimer, Signal
from PySide6.QtGui import QImage

from orvek.documents import PhotoStep
from orvek.errors import OrvekError
from orvek.planning.shelf_list import Entry
from orvek.planning.stock import job_of_new, photos_of_new
from orvek.window.session import Session
from orvek.window.surface import Surface, image_of
from orvek.window.widgets.searches import Searches

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator

_WIDE, _LEAST_TALL = 320, 6
_KEPT, _ALBUMS, _WAITING, _AGAIN_MS = 2000, 24, 60, 40
_LOG = logging.getLogger(__name__)
AlbumOf = Callable[[Entry], PhotoStep | None]


class _Maker(QThread):
    """Makes the pictures that are waited for, those asked for last first, until none is."""

    made = Signal(object, object)

    def __init__(self, evaluate: Evaluator, album_of: AlbumOf, waiting: list[Entry]) -> None:
        super().__init__()
        self._evaluate, self._album_of, self._waiting = evaluate, album_of, waiting

    def run(self) -> None:
        while self._waiting and not self.isInterruptionRequested():
            entry = self._waiting.pop()
            self.made.emit(entry, self._picture(entry))

    def _picture(self, entry: Entry) -> QImage | None:
        from orvek.workpiece.piece_look import piece_face

        piece = entry.piece
        rows = min(2 * _WIDE, max(_LEAST_TALL, round(_WIDE * piece.width_mm / piece.length_mm)))
        try:
            return image_of(piece_face(self._evaluate, piece, self._album_of(entry), _WIDE, rows))
        except Exception:  # the list goes without this picture
            _LOG.exception("a piece of the shelf could not be drawn")
            return None


class PieceLooks(QObject):
    """Looks of pieces, each made once; `made` tells whose came."""

    made = Signal(str)

    def __init__(self, parent: QObject, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self._session, self._surface = session, surface
        self._kept: OrderedDict[Hashable, QImage | None] = OrderedDict()
        self._albums: OrderedDict[str, PhotoStep | None] = OrderedDict()
        self._waiting: list[Entry] = []
        self._makers = Searches()
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(_AGAIN_MS)
        self._again.timeout.connect(self._begin)
        surface.improved.connect(self._begin)  # what was asked for before anything could be drawn

    def look(self, entry: Entry) -> QImage | None:
        """What a piece looks like from face A; asked for, and made soon, where it is not known yet."""
        key = _key(entry)
        if key in self._kept:
            return self._kept[key]
        if entry.piece.is_solid and not any(_key(one) == key for one in self._waiting):
            self._waiting.append(entry)
            del self._waiting[:-_WAITING]  # what was scrolled past is not waited for
        self._begin()
        return None

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._makers.is_busy() or self._again.isActive()

    def end(self) -> None:
        """Nobody looks any more."""
        self._again.stop()
        self._waiting.clear()
        self._makers.end()

    def album(self, entry: Entry) -> PhotoStep | None:
        """A piece's photos; the last few albums are kept in hand. May be asked from any thread."""
        name = entry.piece.album or (entry.piece.born if entry.is_new else "")
        if not name or name in self._albums:
            return self._albums.get(name)
        try:
            found = self._read(entry)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return None
        if len(self._albums) >= _ALBUMS:
            self._albums.popitem(last=False)
        self._albums[name] = found
        return found

    def _read(self, entry: Entry) -> PhotoStep | None:
        """From the workshop: its album, or its part of the photos of the bar that it was sawn from."""
        workshop, piece = self._session.workshop, entry.piece
        if piece.album:
            return workshop.album(piece.album)
        return photos_of_new(piece, workshop.job(job_of_new(piece)))

    def _begin(self) -> None:
        evaluate = self._surface.evaluator()
        if evaluate is None or not self._waiting:
            return
        if self._makers.is_busy():
            self._again.start()  # it may be about to end, and not look once more
            return
        maker = _Maker(evaluate, self.album, self._waiting)
        maker.made.connect(self._take)
        self._makers.begin(maker)

    def _take(self, entry: Entry, image: QImage | None) -> None:
        self._kept[_key(entry)] = image
        if len(self._kept) > _KEPT:
            self._kept.popitem(last=False)
        self.made.emit(entry.piece.code)


def _key(entry: Entry) -> Hashable:
    piece = entry.piece
    return piece.code, piece.album, piece.form, piece.length_mm, piece.width_mm, piece.depth_mm, piece.look
