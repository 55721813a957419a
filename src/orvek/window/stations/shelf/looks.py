"""Small pictures of pieces, made one after another while nothing else is to be done, and kept."""

from __future__ import annotations

import logging
from collections import OrderedDict
from collections.abc import Hashable

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

from orvek.documents import PhotoStep
from orvek.errors import OrvekError
from orvek.planning.shelf_list import Entry
from orvek.window.session import Session
from orvek.window.surface import Surface, image_of

_WIDE, _LEAST_TALL = 320, 6
_KEPT, _ALBUMS, _BETWEEN_MS = 2000, 24, 5
_LOG = logging.getLogger(__name__)


class PieceLooks(QObject):
    """Looks of pieces by their code and what they are made of."""

    made = Signal(str)

    def __init__(self, parent: QObject, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self._session, self._surface = session, surface
        self._kept: OrderedDict[Hashable, QImage | None] = OrderedDict()
        self._albums: OrderedDict[str, PhotoStep | None] = OrderedDict()
        self._waiting: list[Entry] = []
        self._timer = QTimer(self)
        self._timer.setInterval(_BETWEEN_MS)
        self._timer.timeout.connect(self._make_one)

    def look(self, entry: Entry) -> QImage | None:
        """What a piece looks like from face A; asked for, and made soon, where it is not known yet."""
        key = _key(entry)
        if key in self._kept:
            return self._kept[key]
        if entry.piece.is_solid and self._surface.evaluator() is not None:
            if not any(_key(one) == key for one in self._waiting):
                self._waiting.append(entry)
                del self._waiting[:-60]  # what was scrolled past is not waited for
            self._timer.start()
        return None

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._timer.isActive()

    def album(self, entry: Entry) -> PhotoStep | None:
        """A piece's photos; the last few albums are kept in hand."""
        if entry.album is not None or not entry.piece.album:
            return entry.album
        name = entry.piece.album
        if name not in self._albums:
            try:
                self._albums[name] = self._session.workshop.album(name)
            except OrvekError as error:
                self._session.said.emit(str(error))
                return None
            if len(self._albums) > _ALBUMS:
                self._albums.popitem(last=False)
        return self._albums[name]

    def _make_one(self) -> None:
        if not self._waiting:
            self._timer.stop()
            return
        entry = self._waiting.pop()
        self._kept[_key(entry)] = self._made(entry)
        if len(self._kept) > _KEPT:
            self._kept.popitem(last=False)
        self.made.emit(entry.piece.code)

    def _made(self, entry: Entry) -> QImage | None:
        from orvek.workpiece.piece_look import piece_face

        evaluate, piece = self._surface.evaluator(), entry.piece
        if evaluate is None:
            return None
        rows = max(_LEAST_TALL, round(_WIDE * piece.width_mm / piece.length_mm))
        try:
            return image_of(piece_face(evaluate, piece, self.album(entry), _WIDE, min(rows, 2 * _WIDE)))
        except Exception:  # the list goes without this picture
            _LOG.exception("a piece of the shelf could not be drawn")
            return None


def _key(entry: Entry) -> Hashable:
    piece = entry.piece
    return piece.code, piece.album, piece.form, piece.length_mm, piece.width_mm, piece.depth_mm, id(piece.look)
