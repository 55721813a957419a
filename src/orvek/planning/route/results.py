"""What a route is made of."""

from __future__ import annotations

from datetime import datetime

from msgspec import Struct

from orvek.planning.findings import Station


class Operation(Struct, frozen=True):
    """One thing to do at the bench, and the wait after it.

    Attributes:
        key: what it is called in pins and actuals: stays the same as long as the step does.
        kind: what kind of work, for learning how long it takes.
        words: what it is called.
        station: where it is decided about.
        hands_min: how long the hands are needed.
        hands_span_min: from where to where nine in ten times fall.
        readings: how many of the maker's own times that comes from.
        wait_min: after the hands, until what follows can begin: at least, usually, at most.
        wait_words: what is waited for.
        place: the machine it needs, "" for the bench; one that waits there too is held until it is over.
        holds: whether the place is taken during the wait.
        is_loud: not to be done in quiet hours.
        after: keys of the tasks that must be over.
        soon_min: to be begun at most so long after the one before it; None where it does not matter.
        pieces: for how many.
        lines: what the hands do, one step a line.
        cautions: the keys of what can hurt; one that ends with a dot is the first of its kind.
    """

    key: str
    kind: str
    words: str
    station: Station
    hands_min: float
    hands_span_min: tuple[float, float]
    readings: int = 0
    wait_min: tuple[float, float, float] = (0.0, 0.0, 0.0)
    wait_words: str = ""
    place: str = ""
    holds: bool = False
    is_loud: bool = False
    after: tuple[str, ...] = ()
    soon_min: float | None = None
    pieces: int = 1
    lines: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


class Route(Struct, frozen=True):
    """The tasks of one job in their order; those that are done stand in `done`, with when where a log shows it."""

    operations: tuple[Operation, ...]
    done: frozenset[str]
    seen: tuple[tuple[str, datetime], ...] = ()

    @property
    def hands_min(self) -> float:
        """What the hands have still to do."""
        return sum(task.hands_min for task in self.open)

    @property
    def open(self) -> tuple[Operation, ...]:
        """The tasks that are still to be done."""
        return tuple(task for task in self.operations if task.key not in self.done)
