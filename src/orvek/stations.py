"""The stations and their pages, in one table: `STATIONS`. Plain data: menus, help, cards and command line read it.

A page is added with its file, and its row here.
"""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from typing import NamedTuple


class Station(StrEnum):
    """Where the maker looks or decides: the workshop's places first, then a job's in the usual order of the work."""

    TODAY = "Today"
    TIMETABLE = "Timetable"
    SHELF = "Shelf"
    RECORDS = "Records"
    PEN = "Pen"
    BLANK = "Blank"
    SOAK = "Soak"
    POUR = "Pour"
    GLUE_UP = "Glue-up"
    BORE = "Bore"
    FINISH = "Finish"
    BATCH = "Batch"

    @property
    def words(self) -> str:
        """As it is read."""
        return self.value


class Page(NamedTuple):
    """A page of a station.

    Attributes:
        name: as it is typed in a command.
        words: as it is read on its tab.
        also: what makers call what it is for.
        card: the card that is printed there.
    """

    name: str
    words: str
    also: str = ""
    card: str = "pour"


class StationRow(NamedTuple):
    """A station.

    Attributes:
        station: which.
        also: what makers call what it is for.
        help: the heading of the guide that its help opens at.
        pages: in the order of their tabs; none where the station is one page.
        is_of_job: whether it is about the job in hand; else about the workshop.
    """

    station: Station
    also: str
    help: str = ""
    pages: tuple[Page, ...] = ()
    is_of_job: bool = True

    @property
    def name(self) -> str:
        """As it is typed in a command."""
        return self.station.value.lower()

    def is_named(self, name: str) -> bool:
        """Whether the name leads here: the station's own, or one of a page."""
        return name == self.name or any(page.name == name for page in self.pages)


_WHEN = "Timetable and Today: when, and what now?"

STATIONS = (
    StationRow(Station.TODAY, "now next waiting bench hands do", _WHEN, is_of_job=False),
    StationRow(Station.TIMETABLE, "when ready promise date calendar hours week plan schedule", _WHEN, is_of_job=False),
    StationRow(
        Station.SHELF,
        "stock pieces leftovers offcuts bars bin label photo tubes jar inventory have",
        "Shelf: what is there, and what can it still become?",
        (
            Page("pieces", "Pieces", "bars leftovers offcuts boards tubes jars label photo"),
            Page("shelves", "Shelves", "own tools moulds resins pigments saws presses bits prices scale materials"),
        ),
        is_of_job=False,
    ),
    StationRow(
        Station.RECORDS,
        "what happened cost price spoilt fate learned history year report",
        "Records and Batch: what happened, what it cost, what to change",
        (
            Page("next", "Next batch", "how many start spoilage change causes year report export csv chart"),
            Page("learned", "Learned", "defaults mine generic set back"),
            Page("lots", "Lots", "seller supplier resin wood scrap luck worse bought"),
        ),
        is_of_job=False,
    ),
    StationRow(Station.PEN, "barrel tube bushing bit drill kit", "From nothing to a card"),
    StationRow(Station.BLANK, "step design pattern look picture turn", "Blank: what it will look like"),
    StationRow(
        Station.SOAK,
        "dry stabilise dye vacuum moisture oven wood uptake",
        "Soak: is it dry, and will the colour still be there?",
        (
            Page("drying", "Drying", "moisture weigh oven air log dry", "soak"),
            Page("resin", "Resin", "vacuum stabilise stabilize chamber uptake bath", "soak"),
            Page("dyes", "Dyes", "colour color dye alcohol water depth", "soak"),
        ),
    ),
    StationRow(
        Station.POUR,
        "resin mould mold cup cast mix pigment dye weigh",
        "Pour: can it be drilled on Sunday?",
        (
            Page("weigh", "Weigh", "scale cup mix mass"),
            Page("cure", "Cure", "time harden set ready temperature heat", "cure"),
            Page("bubbles", "Bubbles", "pressure vacuum pot air"),
            Page("colour", "Colour", "color opacity chip pigment see through"),
        ),
    ),
    StationRow(
        Station.GLUE_UP,
        "saw cut strip segment wood joint clamp",
        "Glue-up: what to cut, and will the lines meet",
        (
            Page("cuts", "Cuts", "saw angle stop fence mitre", "cuts"),
            Page("boards", "Boards", "wood stock strips nesting", "cuts"),
            Page("gluing", "Gluing", "glue epoxy clamp open time", "glue-up"),
            Page("meet", "Will it meet?", "tolerance accuracy error lines", "settings"),
        ),
    ),
    StationRow(
        Station.BORE,
        "drill bit hole press tube",
        "Bore: before the press is switched on",
        (
            Page("holes", "Holes", "drill bit peck depth speed drift", "bore"),
            Page("tubes", "Tubes", "glue brass insert epoxy square", "bore"),
            Page("pattern", "Pattern", "drift crooked centre look turned"),
        ),
    ),
    StationRow(
        Station.FINISH,
        "sand polish coat press size turn grit",
        "Finish: down to which size, and then?",
        (
            Page("true", "True", "runout dial wobble eccentric lip mandrel holding centres spacer bushing", "finish"),
            Page("size", "Size", "caliper bushing diameter turn lathe", "finish"),
            Page("wrap", "Printed sheet", "picture print paper seam artwork label"),
            Page("voids", "Voids", "fill shell stone dust pit crack"),
            Page("sanding", "Sanding and coats", "grit coat polish abrasive ladder", "finish"),
            Page("press", "Press", "parts assemble clip mechanism refill spring joint", "finish"),
            Page("what-now", "What now", "chip crack blow-out fault repair save bubble broken"),
        ),
    ),
    StationRow(
        Station.BATCH,
        "route operations steps order all",
        "Records and Batch: what happened, what it cost, what to change",
        (
            Page("route", "Route", "operations steps order traveller list", "traveller"),
            Page("blanks", "Blanks", "fate good spoilt blank planned actual lesson close outcome photo"),
            Page(
                "cost",
                "Cost and order",
                "price money margin order customer certificate label invoice chart time buy shopping",
            ),
        ),
    ),
)


def row_of(station: Station) -> StationRow:
    """The row of a station."""
    return next(row for row in STATIONS if row.station is station)


def place_names() -> Iterator[str]:
    """Every station and page, as it is typed in a command."""
    for row in STATIONS:
        yield row.name
        yield from (page.name for page in row.pages)


def card_of(place: str) -> str:
    """The card that is printed at a place; the pour card where it has none of its own."""
    return next((page.card for row in STATIONS for page in row.pages if page.name == place), "pour")
