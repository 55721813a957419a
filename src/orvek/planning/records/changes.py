"""Two failures of one cause: a change that is proposed, and whether the tries after it confirm it."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from orvek.craft.faults import fault_kinds
from orvek.craft.spoilage import usual_rate
from orvek.documents import ChangeEntry, FateEntry, LedgerEntry
from orvek.planning.history import is_missed, last_fates, plain, works_seen

TWICE = 2  # a cause that came as often as that is no accident (a choice)
_SURE = 0.1  # that it went well by luck: less likely than that, it holds (a choice)


class Proposal(Struct, frozen=True):
    """A change that is proposed because a cause came twice: the cause, how often of how many, what to do, why."""

    work: str
    cause: str
    count: int
    of: int
    words: str
    expects: str


class Tried(Struct, frozen=True):
    """A change that was made, and what came of it: blanks since, how many of them failed by the same cause."""

    change: ChangeEntry
    of: int
    again: int
    luck: float

    @property
    def verdict(self) -> str:
        """What the tries after it say."""
        if not self.of:
            return "not tried yet"
        if self.again:
            return f"it came again, {self.again} of {self.of}: it is not that alone"
        if self.luck <= _SURE:
            return f"it holds: none of {self.of}, which is luck {_times(self.luck)}"
        return f"none of {self.of} so far, which may be luck {_times(self.luck)}"


def proposals(ledger: tuple[LedgerEntry, ...]) -> tuple[Proposal, ...]:
    """Causes that came twice or more since anything was done about them, the most frequent first."""
    found = [one for work in works_seen(ledger) for one in _proposed(ledger, work)]
    return tuple(sorted(found, key=lambda one: -one.count))


def tried(ledger: tuple[LedgerEntry, ...]) -> tuple[Tried, ...]:
    """The changes that were made, the newest first, with what came of each."""
    fates = last_fates(ledger)
    made = [one for one in ledger if isinstance(one, ChangeEntry)]
    return tuple(_tried(change, fates, made) for change in reversed(made))


def _proposed(ledger: tuple[LedgerEntry, ...], work: str) -> Iterator[Proposal]:
    fates = [fate for fate in last_fates(ledger) if fate.work == work]
    for cause in dict.fromkeys(fate.cause for fate in fates if is_missed(fate) and fate.cause):
        last = [one for one in ledger if isinstance(one, ChangeEntry) and (one.work, one.cause) == (work, cause)]
        since = max((plain(one.when) for one in last), default=None)
        there = [fate for fate in fates if since is None or plain(fate.when) > since]
        count = sum(is_missed(fate) and fate.cause == cause for fate in there)
        if count >= TWICE:
            yield Proposal(work, cause, count, len(there), _advice(cause, bool(last)), _expects(count, len(there)))


def _advice(cause: str, was_changed: bool) -> str:
    known = next((kind for kind in fault_kinds() if kind.key == cause), None)
    if known is None:
        return "Change one thing about it, one only, and write down which."
    first = f"{known.prevention[:1].upper()}{known.prevention[1:]}"
    return f"What was changed did not do. Of these, one more: {known.prevention}." if was_changed else f"{first}."


def _expects(count: int, of: int) -> str:
    return f"It took {count} of {of}: half of them would be {count / 2:g} of {of} (a guess). The next try shows it."


def _tried(change: ChangeEntry, fates: tuple[FateEntry, ...], made: list[ChangeEntry]) -> Tried:
    """The tries after a change, up to the next one about the same cause."""
    same = [one for one in made if (one.work, one.cause) == (change.work, change.cause)]
    until = min((plain(one.when) for one in same if plain(one.when) > plain(change.when)), default=None)
    own = [fate for fate in fates if fate.work == change.work]
    after = [f for f in own if plain(f.when) > plain(change.when) and (until is None or plain(f.when) <= until)]
    before = [fate for fate in own if plain(fate.when) <= plain(change.when)]
    again = sum(is_missed(fate) and fate.cause == change.cause for fate in after)
    came = sum(is_missed(fate) and fate.cause == change.cause for fate in before)
    rate = came / len(before) if before else usual_rate(change.work)
    return Tried(change, len(after), again, (1 - rate) ** len(after))


def _times(luck: float) -> str:
    """How often that is luck, as makers say it.

    >>> _times(0.25), _times(0.8), _times(0.004)
    ('1 time in 4', '8 times in 10', 'less than 1 time in 100')
    """
    if luck < 0.01:
        return "less than 1 time in 100"
    return f"1 time in {round(1 / luck)}" if luck < 0.5 else f"{round(10 * luck)} times in 10"
