"""Slow answers about the cuts: whether lines meet, and how boards are sawn up."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct, field
from msgspec.structs import replace

from orvek.documents import Accuracy, Board, Material, Step
from orvek.planning.glue_up.rows import Placed
from orvek.planning.glue_up.saw import Stock
from orvek.planning.headline import Headline
from orvek.quantities import Dimension, Units, decimal, write
from orvek.workpiece.outline import TurnedBarrel

if TYPE_CHECKING:
    from orvek.workpiece.tolerance import ToleranceRun


class MeetQuestion(Struct, frozen=True):
    """All that a tolerance run depends on."""

    steps: tuple[Step, ...]
    size: tuple[float, float, float, bool]
    barrels: tuple[TurnedBarrel, ...]
    accuracy: Accuracy
    own: tuple[Material, ...] = ()
    units: Units = field(default_factory=Units)  # for the words of the answer


class MeetAnswer(Struct, frozen=True):
    """What came of it."""

    question: MeetQuestion
    run: ToleranceRun

    @property
    def words(self) -> Headline:
        """How far lines miss, then where, and what would help most."""
        run = self.run
        if run.boundary_mm <= 0 or run.median_mm <= 0:
            return Headline("There are no lines on the barrels that could miss one another")
        miss = (
            f"Lines miss their place by {self._mm(run.median_mm)} on a typical barrel, by {self._mm(run.high_mm)} "
            "on one in twenty"
        )
        worst = f"Worst at {self._mm(run.worst[0], 0)}, {run.worst[1]:.0f}° round."
        if run.better is None:
            return Headline(miss, worst)
        group, error, after = run.better
        better = f"{decimal(error)}°" if group in {"angle", "index"} else self._mm(error)
        first = f"First improve {WORDS[group]}: to {better}, and the typical miss falls to {self._mm(after)}."
        return Headline(miss, f"{worst} {first}")

    def _mm(self, value: float, digits: int = 2) -> str:
        return write(value, Dimension.LENGTH, self.question.units, digits)


class NestQuestion(Struct, frozen=True):
    """What is laid out: pieces, boards and the saw's kerf."""

    stock: tuple[Stock, ...]
    boards: tuple[Board, ...]
    kerf_mm: float
    units: Units = field(default_factory=Units)  # for the words of the answer
    effort: float = 0.5  # of looking for a better layout, in the solver's own count of work

    def further(self) -> NestQuestion:
        """The same, looked at for longer."""
        return replace(self, effort=_FURTHER * self.effort)


class NestAnswer(Struct, frozen=True):
    """The layout: what is placed, what is not, and in words why."""

    question: NestQuestion
    placed: tuple[Placed, ...]
    missing: tuple[int, ...]
    words: str
    is_best: bool

    @property
    def used_pct(self) -> float:
        """Share of the boards that are touched which ends in pieces."""
        stock, boards = self.question.stock, self.question.boards
        area = sum(stock[p.stock].length_mm * stock[p.stock].width_mm for p in self.placed)
        touched = {p.board for p in self.placed}
        whole = sum(boards[n].length_mm * boards[n].width_mm for n in touched)
        return 100 * area / whole if whole else 0.0


WORDS = {
    "angle": "the angle",
    "stop": "the stop",
    "kerf": "the kerf",
    "sheet": "the sheets' thickness",
    "slip": "joints that slip",
    "index": "the turning of the faces",
    "centring": "the centring of the hole",
    "boring": "the bit's wander",
}


_FURTHER = 8.0  # times as much work where the maker says to look on
