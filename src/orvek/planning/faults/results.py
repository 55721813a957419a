"""What follows from a fault: where it lies in the wall, its likely causes, and the ways out of it."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.faults import Cause
from orvek.documents import Barrel, Fault
from orvek.planning.findings import Edit
from orvek.planning.working import Figure


class WayOut(Struct, frozen=True):
    """One way out of a fault, worked out for this blank.

    Attributes:
        key: which way it is.
        title: what it is called, with its main size.
        can: whether it can work here; where not, `lines` say why.
        lines: what to do, with its sizes, in the order of the hands.
        hands_min, wait_h, chance_pct: what it takes, and how often it succeeds: guesses.
        cost: the materials in money, where their prices are known.
        uses: what it uses up, in words.
        look: changes of the job that show what it would look like; never recorded.
        is_drawn: whether `look` shows anything that differs from the barrel without a fault.
    """

    key: str
    title: str
    can: bool
    lines: tuple[str, ...]
    hands_min: Figure
    wait_h: Figure
    chance_pct: Figure
    cost: Figure | None
    uses: str
    look: tuple[Edit, ...] = ()
    is_drawn: bool = True


class FaultPlan(Struct, frozen=True):
    """One fault and what follows from it."""

    number: int
    fault: Fault
    barrel: Barrel  # as it lies on the strip
    causes: tuple[tuple[Cause, bool], ...]
    prevention: str
    radius_now_mm: float
    is_measured: bool  # whether what the barrel measures there is known; else it is taken from the moment
    still_mm: Figure  # to come off the radius there yet
    wall_mm: Figure  # between the flaw's bottom and the hole
    ways: tuple[WayOut, ...]  # those that can work first
    as_it_is: tuple[Edit, ...]  # changes of the job that show the flaw

    @property
    def chosen(self) -> WayOut | None:
        """The way that was decided for; None while nothing is."""
        return next((way for way in self.ways if way.key == self.fault.way), None)

    @property
    def open_ways(self) -> tuple[WayOut, ...]:
        """The ways that can work."""
        return tuple(way for way in self.ways if way.can)


class Together(Struct, frozen=True):
    """The repairs of all flaws of one barrel, one a flaw.

    Attributes:
        numbers: of the faults.
        ways: in their order.
        chance_pct: that all of them succeed.
        hands_min, wait_min: what they take together; what is done once counts once.
        off_mm: what the left and the right end lose.
        length_mm: what is left of the barrel.
        fallback: what is left to try where they do not; None where nothing is.
        with_fallback_pct: that one of both succeeds.
    """

    numbers: tuple[int, ...]
    barrel: Barrel
    blank_no: int
    ways: tuple[WayOut, ...]
    chance_pct: float
    hands_min: float
    wait_min: float
    off_mm: tuple[float, float]
    length_mm: float
    fallback: WayOut | None
    with_fallback_pct: float


class FaultsPlan(Struct, frozen=True):
    """What follows from all faults of a job; those off their barrel are only said."""

    found: tuple[FaultPlan, ...]
    together: tuple[Together, ...]  # of barrels with several flaws
    outside: tuple[int, ...]  # numbers of faults that lie beyond their barrel, or on one the pen does not have
