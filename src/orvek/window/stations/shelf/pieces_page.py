"""Pieces: what there is, drawn to one scale; what the piece in hand is, and what it can still become."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import get_args

from PySide6.QtCore import QTimer
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import WEIGHED, Job, Pen, PhotoStep, Piece, PieceKind, deeds
from orvek.planning import Plan, Station
from orvek.planning.folding import listed
from orvek.planning.shelf_list import Entry, fitting, matching
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.shelf.becoming_panel import BecomingPanel
from orvek.window.stations.shelf.details import PieceDetails
from orvek.window.stations.shelf.list_view import ShelfView
from orvek.window.stations.shelf.looks import PieceLooks
from orvek.window.stations.shelf.searching import Look, Ranking
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action, refill
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.searches import Searches

_ALL = "everything"
_SETTLE_MS, _MOST_RANKED = 120, 80
_ORDERS = _LEAST_WASTE, _BY_LOOK = "least waste", "best look"


class PiecesPage(QWidget):
    """The pieces of the shelf: found, looked at, counted, begun with."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._entries: tuple[Entry, ...] = ()
        self._kind, self._pen, self._order = "", "", _ORDERS[0]
        self._scores: dict[str, float] = {}
        self._ranked: object = None
        self._searches = Searches()
        self.looks = PieceLooks(self, session, surface)
        self.list = ShelfView(self.looks)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find, or scan a label")
        self.search.setAccessibleName("Find on the shelf")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._show_list())
        self.search.returnPressed.connect(self._open_code)
        self.kind, self.pen = ChoiceField("Show", self._fill_kinds), ChoiceField("Fits the pen", self._fill_pens)
        self.order = ChoiceField("First", self._fill_orders)
        self.details = PieceDetails(session, surface, self.looks)
        self.becoming = BecomingPanel(session, surface, self.looks)
        self.becoming.wanted.connect(self._begin_with)
        self.becoming.piece_wanted.connect(self.list.choose)
        # Arrow keys run down the list: what a piece can become is asked when they rest.
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._show_piece)
        self.list.chosen.connect(lambda _: self._settle.start())
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what is on the shelf now, with what the work on all jobs has used and made."""
        self._entries, _ = self._session.others.shelf(plan)
        has_any = bool(self._entries)
        self._nothing.setVisible(not has_any)
        self._whole.setVisible(has_any)
        if not self.isVisible() and not has_any:
            return
        self._show_list()

    def leave(self) -> None:
        """Nobody looks any more: what is still being looked for ends."""
        self._settle.stop()
        self.becoming.leave()
        self._searches.end()
        self._ranked = None  # whoever looks again asks again
        self.looks.end()

    def hideEvent(self, event: QHideEvent) -> None:
        self.leave()
        super().hideEvent(event)

    def take_photos(self, paths: list[Path]) -> bool:
        """Photos that were let fall here are of a piece that is new on the shelf."""
        self._new_photographed(tuple(paths))
        return True

    def is_busy(self) -> bool:
        """Whether something is still being worked out for what is shown."""
        works = self._searches.is_busy() or self.looks.is_busy() or self.becoming.is_busy()
        return works or self._settle.isActive()

    # -- showing -----------------------------------------------------------------------------------------------

    def _show_list(self) -> None:
        found = matching(self._entries, self.search.text(), self._kind)
        pen = self._chosen_pen()
        if pen is not None:
            found = fitting(found, pen, self._session.job.blank.saw_kerf_mm, self._session.units)
            if self._order == _BY_LOOK:
                self._rank(found, pen)
                found = tuple(sorted(found, key=lambda entry: self._scores.get(entry.piece.code, math.inf)))
        self.order.setVisible(pen is not None)
        self.order.set_text(self._order)
        self.kind.set_text(self._kind or _ALL)
        self.pen.set_text(self._pen or "any")
        self.list.show_entries(found, self._session.units)

    def _show_piece(self) -> None:
        if not self.isVisible():
            return  # nobody looks: nothing is to be looked for
        entry = self.list.entry()
        self.details.show_entry(entry)
        self.becoming.show_entry(entry, lambda: self._entries)

    def _chosen_pen(self) -> Pen | None:
        return next((pen for pen in self._session.shop.pens if pen.name == self._pen), None)

    def _fill_kinds(self, menu: QMenu) -> None:
        for kind in ("", *get_args(PieceKind)):
            add_action(menu, kind or _ALL, partial(self.filter_by, kind, self._pen), checked=kind == self._kind)

    def _fill_pens(self, menu: QMenu) -> None:
        for name in ("", *(pen.name for pen in self._session.shop.pens)):
            add_action(menu, name or "any", partial(self.filter_by, self._kind, name), checked=name == self._pen)

    def _fill_orders(self, menu: QMenu) -> None:
        for order in _ORDERS:
            add_action(menu, order, partial(self.order_by, order), checked=order == self._order)

    def order_by(self, order: str) -> None:
        """Of the pieces that a pen fits, the one that wastes least comes first, or the one on which it looks best."""
        self._order = order
        self._show_list()

    def _rank(self, entries: tuple[Entry, ...], pen: Pen) -> None:
        """Ask how the pen would look on each piece, once for the same pieces and pen."""
        evaluate = self._surface.evaluator()
        there = entries[:_MOST_RANKED]
        asked = (tuple(entry.piece for entry in there), pen, evaluate)
        if evaluate is None or asked == self._ranked or not self.isVisible():
            return
        self._ranked, self._scores = asked, {}
        kerf, number = self._session.job.blank.saw_kerf_mm, self._searches.ask_anew()
        ranking = Ranking(number, evaluate, self.looks.album, there, pen, kerf)
        ranking.found.connect(self._take_scores)
        self._searches.begin(ranking)

    def _take_scores(self, number: int, scores: dict[str, float]) -> None:
        if number == self._searches.number:
            self._scores = scores
            self._show_list()

    def filter_by(self, kind: str, pen: str) -> None:
        """Show pieces of one kind only, or those that a pen fits, the one that wastes least first."""
        self._kind, self._pen = kind, pen
        self._show_list()

    def _open_code(self) -> None:
        """A label was scanned or its code typed: its piece is taken in hand."""
        code = self.search.text().strip().upper()
        if any(entry.piece.code == code for entry in self._entries):
            self.search.clear()
            self.filter_by("", "")
            self.list.choose(code)
            self.list.setFocus()
        elif not self.list.entry():
            self._session.said.emit(f"Nothing on the shelf is called or coded {self.search.text().strip()[:40]}.")

    # -- deeds -------------------------------------------------------------------------------------------------

    def _fill_new(self, menu: QMenu) -> None:
        add_action(menu, "A piece with photos…", self._new_photographed)
        for kind in get_args(PieceKind):
            add_action(menu, f"{kind[:1].upper()}{kind[1:]}…", partial(self._new, kind))

    def _new(self, kind: str) -> None:
        named = Piece(name=f"{kind[:1].upper()}{kind[1:]}", grams=100.0 if kind in WEIGHED else None)
        begin = named.with_(kind=kind)
        found = edit_document(self, "Put on the shelf", begin, self._session.shop, first=begin.asked)
        if found is not None:
            self.put(found)

    def put(self, piece: Piece) -> None:
        """Put a piece on the shelf: so many are there now, whatever the work used before."""
        new = piece.with_(counted_at=datetime.now().replace(microsecond=0))
        self.keep(f"Put {new.name} on the shelf", lambda shop: deeds.pieces.put_piece(shop, new), new.code)

    def _new_photographed(self, paths: tuple[Path, ...] = ()) -> None:
        from orvek.window.photos.sheet import ask_photos

        step = ask_photos(self, PhotoStep(), self._session.units, paths)
        if step is not None:
            self.put_photographed(step, Piece(name="Bar"))

    def put_photographed(self, step: PhotoStep, piece: Piece) -> None:
        """Put a piece on the shelf with its photos; its size is what was measured beside them."""
        kept = self.details.photographed(piece, step)
        if kept is not None:
            self.put(kept)

    def keep(self, words: str, change: Callable[..., object], code: str = "") -> None:
        """A deed on the shelf; the piece of `code` is in hand afterwards."""
        self._session.change_shop(words, change)  # type: ignore[arg-type]
        if code:
            self.list.choose(code)

    def _begin_with(self, look: Look) -> None:
        """A job with the piece in hand and a pen at its best place: by that it is reserved for the job."""
        entry, session = self.list.entry(), self._session
        if entry is None:
            return
        if entry.is_taken:
            session.said.emit(f"{entry.piece.name} is reserved for {listed(entry.reserved_for)}: one bar, one job.")
            return
        step = self.details.as_step(entry)
        if step is None:
            return
        piece = entry.piece
        job = deeds.pieces.begin_with(Job(), piece, step)
        blank = job.blank.with_(tube_starts_mm=look.starts_mm, saw_kerf_mm=session.job.blank.saw_kerf_mm)
        if any(look.turns_deg):
            blank = blank.with_(tube_turns_deg=look.turns_deg)
        if entry.is_new:
            kept = self.details.put_away(entry)
            session.change_shop(f"Put {piece.name} away", lambda shop: deeds.pieces.put_piece(shop, kept))
        session.add_job(job.with_(pen=look.fit.pen, blank=blank), f"Begin with {piece.name}")
        session.station_wanted.emit(Station.BLANK)

    def _lay_out(self) -> None:
        new = QPushButton("Put on the shelf")
        new.setProperty("kind", "small")
        menu = QMenu(new)
        refill(menu, self._fill_new)
        new.setMenu(menu)
        head = QHBoxLayout()
        head.setSpacing(16)
        head.addWidget(self.search, 3)
        head.addWidget(self.kind, 2)
        head.addWidget(self.pen, 3)
        head.addWidget(self.order, 2)
        head.addWidget(new)
        inside = QWidget()
        right = QVBoxLayout(inside)
        right.setContentsMargins(0, 0, 8, 0)
        right.setSpacing(12)
        right.addWidget(self.details)
        right.addWidget(self.becoming)
        right.addStretch(1)
        row = QHBoxLayout()
        row.setSpacing(20)
        row.addWidget(self.list, 9)
        row.addWidget(scrolled(inside), 10)
        self._whole = QWidget()
        column = QVBoxLayout(self._whole)
        column.setContentsMargins(24, 12, 16, 8)
        column.setSpacing(10)
        column.addLayout(head)
        column.addLayout(row, 1)
        self._nothing = Opening("Nothing on the shelf yet.", "Bars, leftovers, boards, tubes, jars: what there is.")
        self._nothing.show_suggestions(
            (
                Suggestion(
                    "Photograph a piece",
                    "photos of the faces, and what the piece can still become",
                    self._new_photographed,
                ),
                Suggestion("Write a piece down", "a bar or a leftover by its size", partial(self._new, "leftover")),
                Suggestion("Count the tubes", "they are used up as pens are made", partial(self._new, "tube")),
            )
        )
        self._nothing.hide()  # until it is known that there is nothing: the keyboard would go there
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self._nothing)
        whole.addWidget(self._whole, 1)
        self.list.setStyleSheet(f"QListView {{ border: 0; background: {theme.PAPER.name()}; }}")
