"""What the piece in hand can still become, as pictures; for an orphan barrel, which pieces match it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning.becoming import fits
from orvek.planning.shelf_list import Entry
from orvek.planning.words import left_words
from orvek.quantities import Dimension, write
from orvek.window.session import Session
from orvek.window.stations.shelf.looks import PieceLooks
from orvek.window.stations.shelf.searching import BestPlaces, Look, Match, Matches
from orvek.window.surface import Surface
from orvek.window.widgets.fields import heading, quiet_label
from orvek.window.widgets.layouts import clear, widgets_in
from orvek.window.widgets.picture_button import PictureButton
from orvek.window.widgets.searches import Searches

_MOST_PENS, _MOST_COMPARED, _WIDE_PX = 6, 80, 320
_ALIKE, _NEAR = 8.0, 16.0  # how far apart two looks may be and still pass for one, or for kin (choices)


class BecomingPanel(QWidget):
    """`wanted` is a `Look` that was clicked, `piece_wanted` the code of a piece that matches."""

    wanted = Signal(object)
    piece_wanted = Signal(str)

    def __init__(self, session: Session, surface: Surface, looks: PieceLooks) -> None:
        super().__init__()
        self._session, self._surface, self._looks = session, surface, looks
        self._asked: object = None
        self._searches = Searches()
        self._head, self._line = heading("It can become"), quiet_label("")
        self._line.setWordWrap(True)
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        for part in (self._head, self._line):
            column.addWidget(part)
        column.addLayout(self._list)
        column.addStretch(1)

    def show_entry(self, entry: Entry | None, others: Callable[[], tuple[Entry, ...]]) -> None:
        """Show what a piece can become; asked once, however often it is shown."""
        evaluate = self._surface.evaluator()
        asked = (entry, self._session.shop.pens, self._session.job.blank.saw_kerf_mm, evaluate)
        if asked == self._asked:
            return
        self._searches.ask_anew()
        self._asked = asked
        clear(self._list)
        self.setVisible(entry is not None and entry.piece.is_solid)
        if entry is None or not entry.piece.is_solid or evaluate is None:
            return
        if entry.left <= 0:
            self._line.setText("Nothing: none of it is left.")
        elif entry.piece.kind == "orphan barrel":
            self._head.setText("It may match")
            self._match(entry, others())
        else:
            self._head.setText("It can become")
            self._become(entry)

    def leave(self) -> None:
        """End what is still being looked for."""
        self._searches.end()
        self._asked = None  # whoever looks again asks again

    def buttons(self) -> list[PictureButton]:
        """What is shown, best first."""
        return list(widgets_in(self._list, PictureButton))

    def is_busy(self) -> bool:
        """Whether something is still looked for."""
        return self._searches.is_busy()

    def _become(self, entry: Entry) -> None:
        session, piece = self._session, entry.piece
        kerf = session.job.blank.saw_kerf_mm
        told = fits(piece, session.shop.pens, kerf, session.units)
        fitting = tuple(fit for fit in told if fit.pens)
        rest = [f"{fit.pen.name}: {fit.why_not}" for fit in told if not fit.pens]
        self._line.setText(f"{'; '.join(rest[:2])}." if rest else "" if fitting else "No pen is on the shelf.")
        evaluate = self._surface.evaluator()
        if fitting and evaluate is not None:
            search = BestPlaces(self._searches.number, evaluate, self._looks.album, entry, fitting[:_MOST_PENS], kerf)
            search.found.connect(self._show_look)
            self._searches.begin(search)

    def _match(self, entry: Entry, others: tuple[Entry, ...]) -> None:
        there = [one for one in others if one.piece.is_solid and one.left > 0 and one.piece.code != entry.piece.code][
            :_MOST_COMPARED
        ]
        self._line.setText(
            "Looking for what looks like it…" if there else "There is no other piece to compare it with."
        )
        evaluate = self._surface.evaluator()
        if there and evaluate is not None:
            search = Matches(self._searches.number, evaluate, self._looks.album, entry, tuple(there))
            search.found.connect(self._show_matches)
            self._searches.begin(search)

    def _show_look(self, number: int, look: Look) -> None:
        if number != self._searches.number:
            return
        fit, units = look.fit, self._session.units
        left = left_words(look.left_mm, units)
        starts = ", ".join(write(start, Dimension.LENGTH, units) for start in look.starts_mm)
        more = f"{fit.pens} of them, " if fit.pens > 1 else ""
        button = PictureButton(look.picture, fit.pen.name, f"{more}tubes at {starts}; {left}", _WIDE_PX)
        button.subject = look
        button.setToolTip(f"Begin a job with this piece and this pen. Left over: {fit.working}")
        button.clicked.connect(lambda _=False: self.wanted.emit(look))
        self._list.addWidget(button)

    def _show_matches(self, number: int, found: list[Match]) -> None:
        if number != self._searches.number:
            return
        self._line.setText("Above the barrel, below the piece; look at them side by side in daylight.")
        for match in found:
            how = "looks alike" if match.apart < _ALIKE else "near" if match.apart < _NEAR else "another look"
            button = PictureButton(
                match.picture,
                match.entry.piece.name,
                f"{how}, about {match.apart:.0f} steps of colour apart",
                _WIDE_PX,
            )
            button.subject = match
            button.clicked.connect(lambda _=False, code=match.entry.piece.code: self.piece_wanted.emit(code))
            self._list.addWidget(button)
