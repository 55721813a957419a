"""How each station is built: `build(station, ...)`, when it is first opened."""

from __future__ import annotations

from importlib import import_module
from typing import cast

from orvek.stations import Station
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.surface import Surface

_CLASSES = {
    Station.TODAY: "TodayStation",
    Station.PEN: "PenStation",
    Station.BLANK: "BlankStation",
    Station.SOAK: "SoakStation",
    Station.POUR: "PourStation",
    Station.GLUE_UP: "GlueUpStation",
    Station.BORE: "BoreStation",
    Station.FINISH: "FinishStation",
    Station.TIMETABLE: "TimetableStation",
    Station.SHELF: "ShelfStation",
    Station.RECORDS: "RecordsStation",
    Station.BATCH: "BatchStation",
}


def build(station: Station, session: Session, surface: Surface) -> StationWidget:
    """The widget of a station; its module is loaded now, so that the first window need not wait for all of them."""
    module = import_module(f"orvek.window.stations.{station.name.lower()}.station")
    return cast(StationWidget, getattr(module, _CLASSES[station])(session, surface))
