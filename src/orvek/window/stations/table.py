"""The stations, in one table: each entry is built when it is first opened."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from msgspec import Struct
from PySide6.QtWidgets import QWidget

from orvek.planning import Plan, Station
from orvek.window.session import Session
from orvek.window.surface import Surface


class StationWidget(Protocol):
    """What the window asks of a station; `open_page`, `page` and `leave` may be left out."""

    def show_plan(self, plan: Plan) -> None:
        """Show what follows from a job."""


class Entry(Struct, frozen=True):
    """One station: which, the names of its pages as they are typed in a command, and how it is built."""

    station: Station
    build: Callable[[Session, Surface], QWidget]
    pages: tuple[str, ...] = ()

    def is_named(self, name: str) -> bool:
        """Whether the name leads here: the station's own, or one of a page."""
        return name in self.pages or name == self.station.value.lower()


def _pen(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.pen.station import PenStation

    return PenStation(session, surface)


def _blank(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.blank.station import BlankStation

    return BlankStation(session, surface)


def _pour(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.pour.station import PourStation

    return PourStation(session, surface)


def _glue_up(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.glue_up.station import GlueUpStation

    return GlueUpStation(session, surface)


def _bore(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.bore.station import BoreStation

    return BoreStation(session, surface)


def _soak(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.soak.station import SoakStation

    return SoakStation(session, surface)


def _finish(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.finish.station import FinishStation

    return FinishStation(session, surface)


def _timetable(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.timetable.station import TimetableStation

    return TimetableStation(session, surface)


def _today(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.today.station import TodayStation

    return TodayStation(session, surface)


def _shelf(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.shelf.station import ShelfStation

    return ShelfStation(session, surface)


def _records(session: Session, surface: Surface) -> QWidget:
    from orvek.window.stations.records.station import RecordsStation

    return RecordsStation(session, surface)


STATIONS = (
    Entry(Station.TODAY, _today),
    Entry(Station.PEN, _pen),
    Entry(Station.BLANK, _blank),
    Entry(Station.SOAK, _soak, ("drying", "resin", "dyes")),
    Entry(Station.POUR, _pour, ("weigh", "cure", "bubbles", "colour")),
    Entry(Station.GLUE_UP, _glue_up, ("cuts", "boards", "gluing", "meet")),
    Entry(Station.BORE, _bore, ("holes", "tubes", "pattern")),
    Entry(Station.FINISH, _finish, ("size", "wrap", "voids", "sanding", "press", "what-now")),
    Entry(Station.TIMETABLE, _timetable),
    Entry(Station.SHELF, _shelf),
    Entry(Station.RECORDS, _records, ("next", "batch", "cost", "learned", "jobs", "charts")),
)
