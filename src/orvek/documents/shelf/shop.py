"""What the maker owns: moulds, resins, pigments, pens, scales, mixing cups; and how the maker likes things."""

from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Colour, Document, Name, Words, measure
from orvek.documents.job.conditions import CureLog, Pot
from orvek.documents.job.pour import Scale
from orvek.documents.shelf.bench import Accuracy, Board, Machine
from orvek.documents.shelf.boring_bench import BoredHole, Press, RackBit
from orvek.documents.shelf.drawer import Grit
from orvek.documents.shelf.finishing import Bottle, BushingReading, CoatSchool, HouseLadder
from orvek.documents.shelf.glues import Glue, glues
from orvek.documents.shelf.holding import Holding
from orvek.documents.shelf.hours import DurationSeen, Hours
from orvek.documents.shelf.ledger import LedgerEntry
from orvek.documents.shelf.material import Material
from orvek.documents.shelf.meter import MeterPlace
from orvek.documents.shelf.mould import Mould
from orvek.documents.shelf.pen import Pen
from orvek.documents.shelf.piece import Piece
from orvek.documents.shelf.pigment import Pigment, PigmentDose
from orvek.documents.shelf.prices import Price, Selling
from orvek.documents.shelf.resin import Family, Resin, generic_families
from orvek.documents.shelf.soaked import Observation
from orvek.quantities import Dimension, LengthUnit, PressureUnit, TemperatureUnit, Units


class Preferences(Document):
    """How the maker reads and writes quantities, and the paper in the printer."""

    length: LengthUnit = Field(default="mm", title="Lengths")
    temperature: TemperatureUnit = Field(default="°C", title="Temperatures")
    pressure: PressureUnit = Field(default="bar", title="Pressures")
    bit_names: bool = Field(default=False, title="Drill bits by letter and number")
    currency: Annotated[Words, Field(max_length=4)] = Field(default="€", title="Currency")
    paper: Literal["A4", "Letter"] = Field(default="A4", title="Paper")
    sounds: bool = Field(default=False, title="Sounds at the bench")
    altitude_m: float = measure("The shop lies above the sea by", Dimension.ALTITUDE, low=-400, high=5000, default=0)

    @property
    def units(self) -> Units:
        """The part of the preferences that reading and writing need."""
        return Units(self.length, self.temperature, self.pressure, self.bit_names, self.currency)


class Recipe(Document):
    """A colour kept by name: its pigments and loads, for any mass."""

    name: Name = Field(title="Recipe")
    colour: Colour = Field(title="Colour")
    pigments: Annotated[tuple[PigmentDose, ...], Field(max_length=6)] = ()


class Shop(Document):
    """The maker's shelves. Names are unique on each shelf."""

    pens: tuple[Pen, ...] = ()
    moulds: tuple[Mould, ...] = ()
    resins: tuple[Resin, ...] = ()
    pigments: tuple[Pigment, ...] = ()
    scales: tuple[Scale, ...] = (Scale(name="Bench scale", resolution_g=0.1, capacity_g=500),)
    vessels_ml: tuple[float, ...] = (60.0, 120.0, 250.0, 500.0, 1000.0)
    pots: tuple[Pot, ...] = ()
    recipes: tuple[Recipe, ...] = ()
    cure_log: tuple[CureLog, ...] = ()
    machines: tuple[Machine, ...] = (Machine(),)
    boards: tuple[Board, ...] = ()
    materials: tuple[Material, ...] = ()
    glues: tuple[Glue, ...] = ()
    presses: tuple[Press, ...] = (Press(),)
    rack: tuple[RackBit, ...] = ()
    bored: tuple[BoredHole, ...] = ()
    soaked: tuple[Observation, ...] = ()
    drawer: tuple[Grit, ...] = ()
    ladders: tuple[HouseLadder, ...] = ()
    schools: tuple[CoatSchool, ...] = ()
    bottles: tuple[Bottle, ...] = ()
    bushings: tuple[BushingReading, ...] = ()
    families: tuple[Family, ...] = ()
    pieces: tuple[Piece, ...] = ()
    durations: tuple[DurationSeen, ...] = ()
    prices: tuple[Price, ...] = ()
    meters: tuple[MeterPlace, ...] = ()
    ledger: tuple[LedgerEntry, ...] = ()
    selling: Selling = Selling()
    hours: Hours = Hours()
    holding: Holding = Holding()
    accuracy: Accuracy = Accuracy()
    preferences: Preferences = Preferences()

    @property
    def all_boards(self) -> tuple[Board, ...]:
        """The boards at hand, and those among the pieces on the shelf, each as often as it is there."""
        found = ((piece.as_board(), piece.count) for piece in self.pieces)
        return (*self.boards, *(board for board, count in found if board is not None for _ in range(min(count, 20))))

    @property
    def all_glues(self) -> tuple[Glue, ...]:
        """All glues, the generic ones the fastest first, then the maker's own."""
        own = {one.key for one in self.glues}
        return (*(one for one in glues() if one.key not in own), *self.glues)

    @property
    def all_families(self) -> tuple[Family, ...]:
        """All families of resins; the maker's own stand in for a generic one of the same key."""
        own = {family.key for family in self.families}
        return (*self.families, *(family for family in generic_families() if family.key not in own))

    def glue(self, key: str) -> Glue | None:
        """The glue of this name, or None."""
        return next((one for one in self.all_glues if one.key == key), None)

    def family(self, key: str) -> Family | None:
        """The family with this key, or None for one that nobody knows."""
        return next((family for family in self.all_families if family.key == key), None)
