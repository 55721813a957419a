"""What a route is made of: operations, what lies on the bench between them, what they are set to, use and make."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Literal

from msgspec import Struct

from orvek.planning.findings import Station
from orvek.planning.working import Figure
from orvek.quantities import later

Word = Literal["", "forecast", "log", "label", "generic"]
Wait = tuple[float, float, float]
NO_WAIT: Wait = (0.0, 0.0, 0.0)


class WorkPiece(Struct, frozen=True):
    """What lies on the bench: so many alike.

    Attributes:
        name: what it is called on the cards.
        count: how many.
        length_mm: along the grain, or along the bar.
        width_mm, depth_mm: across; of a turned piece its diameter both times.
        diameter_mm: left, in the middle, right, of a piece that is turned; None of one that is sawn.
        datum: the end that lengths are measured from.
        marks: what is marked or bored in it.
    """

    name: str
    count: int
    length_mm: float
    width_mm: float
    depth_mm: float
    diameter_mm: tuple[float, float, float] | None = None
    datum: str = "left end"
    marks: tuple[str, ...] = ()


class Setting(Struct, frozen=True):
    """What a machine, a vessel or the hand is set to, with its working; `of` says of which hole, cut or barrel."""

    of: str
    figure: Figure


class Use(Struct, frozen=True):
    """What is consumed: `item` is the kind of piece on the shelf ("jar", "tube", "piece"), `name` which of it."""

    item: str
    name: str
    amount: float
    unit: str = ""


class Operation(Struct, frozen=True):
    """One thing to do at the bench, and the wait after it.

    Attributes:
        key: what it is called in pins and actuals: stays the same as long as the step does.
        kind: what kind of work, for learning how long it takes.
        field_kind: the same in the field's words, where they say more: "rip", "dye"; "" where `kind` says it.
        words: what it is called.
        station: where it is decided about.
        hands_min: how long the hands are needed.
        hands_span_min: from where to where nine in ten times fall.
        readings: how many of the maker's own times that comes from.
        usual_min: what so much work usually takes, before his own times; None where only its kind is known.
        wait_min: after the hands, until what follows can begin: at least, usually, at most.
        wait_words: what is waited for.
        wait_source: whose word the wait is.
        wait_from: the key of an earlier operation: its wait and this one's together count from its end, however late
            this one is done; "" where the wait counts from this one.
        ready_min: after this one, usually, until it can be worked at the machine; None where no forecast says so.
        place: the machine it needs, "" for the bench; one that waits there too is held until it is over.
        holds: whether the place is taken during the wait.
        is_loud: not to be done in quiet hours.
        after: keys of the operations that must be over.
        soon_min: to be begun at most so long after the one before it; None where it does not matter.
        pieces: for how many.
        lines: what the hands do, one step a line.
        cautions: the keys of what can hurt; one that ends with a dot is the first of its kind.
        settings: what is set for it.
        uses: what it consumes.
        takes, gives: what lies on the bench before and after it.
        makes: what is left over.
    """

    key: str
    kind: str
    words: str
    station: Station
    hands_min: float
    hands_span_min: tuple[float, float]
    readings: int = 0
    usual_min: float | None = None
    wait_min: Wait = NO_WAIT
    wait_words: str = ""
    wait_source: Word = ""
    wait_from: str = ""
    ready_min: float | None = None
    place: str = ""
    holds: bool = False
    is_loud: bool = False
    after: tuple[str, ...] = ()
    soon_min: float | None = None
    pieces: int = 1
    lines: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    settings: tuple[Setting, ...] = ()
    uses: tuple[Use, ...] = ()
    takes: tuple[WorkPiece, ...] = ()
    gives: tuple[WorkPiece, ...] = ()
    makes: tuple[WorkPiece, ...] = ()
    field_kind: str = ""


class Route(Struct, frozen=True):
    """The operations of one job in their order; those that are done stand in `done`, with when where a log shows it."""

    operations: tuple[Operation, ...]
    done: frozenset[str]
    seen: tuple[tuple[str, datetime], ...] = ()

    def over(
        self, one: Operation, done_at: Callable[[str], datetime | None], wait_min: Callable[[Operation], float]
    ) -> datetime | None:
        """When the wait after an operation that is done is over; None where nobody knows when it was done.

        Args:
            one: the operation.
            done_at: when an operation was done, by its key.
            wait_min: which of an operation's waits counts: the least, the usual or the longest.
        """
        done = done_at(one.key)
        first = next((other for other in self.operations if other.key == one.wait_from), None)
        since = done_at(first.key) if first is not None else None
        if first is not None and since is not None and done is not None:
            return max(done, later(since, wait_min(first) + wait_min(one)))
        return None if done is None else later(done, wait_min(one))

    def held_by(
        self, one: Operation, done_at: Callable[[str], datetime | None], wait_min: Callable[[Operation], float]
    ) -> tuple[datetime, str] | None:
        """Until when what comes before an operation holds it up, and why; None where nobody knows of anything done.

        Arguments as of `over`.
        """
        before = (other for other in self.operations if other.key in one.after)
        ends = ((self.over(other, done_at, wait_min), other.wait_words or "it rests") for other in before)
        return max(((until, why) for until, why in ends if until is not None), default=None)

    @property
    def hands_min(self) -> float:
        """What the hands have still to do."""
        return sum(task.hands_min for task in self.open)

    @property
    def open(self) -> tuple[Operation, ...]:
        """The operations that are still to be done."""
        return tuple(task for task in self.operations if task.key not in self.done)
