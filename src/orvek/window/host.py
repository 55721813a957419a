"""What the menus and the findings' buttons need of the window; `MainWindow` is it."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from orvek.planning import Plan, Station
from orvek.window.card_writer import CardWriter
from orvek.window.frame import Frame
from orvek.window.next_band import Band
from orvek.window.rail import Rail
from orvek.window.session import Session
from orvek.window.surface import Surface


class Host(QWidget):
    """A window that can be told where to go and what to say."""

    session: Session
    frame: Frame
    surface: Surface
    rail: Rail
    band: Band
    cards: CardWriter
    station: Station

    @abstractmethod
    def open_station(self, station: Station) -> None:
        """Go to a station; it is built when it is opened for the first time."""

    @abstractmethod
    def open_named(self, name: str) -> None:
        """Go to a station, or one of its pages, by its name as it is typed in a command."""

    @abstractmethod
    def place(self) -> str:
        """Where the maker is, by the name of a page or a station as it is typed in a command."""

    @abstractmethod
    def area(self) -> QWidget:
        """What the open station lies in."""

    @abstractmethod
    def new_job(self) -> None:
        """Begin a job; it begins with its pen."""

    @abstractmethod
    def fold_strip(self) -> None:
        """Fold the bar to a line at this station, or open it."""

    @abstractmethod
    def show_plan(self, plan: Plan) -> None:
        """Hand a plan to everything that shows one."""

    @abstractmethod
    def say(self, words: str, *, stays: bool = False, button: str = "", deed: Callable[[], None] | None = None) -> None:
        """Say a sentence for a while, or until the next one; its button, if it has one, does `deed`."""
