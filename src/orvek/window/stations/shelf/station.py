"""Shelf: the pieces to make blanks of, and all else that the maker owns."""

from __future__ import annotations

from pathlib import Path

from orvek.planning import Plan
from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.paged import Paged
from orvek.window.stations.shelf.pieces_page import PiecesPage
from orvek.window.stations.shelf.shelves_page import ShelvesPage
from orvek.window.surface import Surface


class ShelfStation(Paged):
    """The station Shelf."""

    def __init__(self, session: Session, surface: Surface) -> None:
        self.pieces, self.shelves = PiecesPage(session, surface), ShelvesPage(session)
        super().__init__(session, Station.SHELF, (self.pieces, self.shelves))

    def show_plan(self, plan: Plan) -> None:
        """Show the page that is open what the shelf has now."""
        self.show_open(plan)

    def leave(self) -> None:
        """Nobody looks any more: what is still being looked for ends."""
        self.pieces.leave()

    def take_photos(self, paths: list[Path]) -> bool:
        """Photos that were let fall here are of a piece that is new on the shelf."""
        self.open_page("pieces")
        return self.pieces.take_photos(paths)
