"""The hands, the places and the maker's hours, as far as they are taken: where does a task go?"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence

from msgspec import Struct, field

from orvek.planning.timetable.items import Item, open_steps, slack_steps, taken_places
from orvek.planning.timetable.results import TimetableQuestion

_FAR = 10**9


class _Taken(Struct):
    """Stretches that are taken, sorted; those that meet are one."""

    begins: list[int] = field(default_factory=list)
    ends: list[int] = field(default_factory=list)

    def take(self, begin: int, end: int) -> None:
        low, high = bisect_left(self.ends, begin), bisect_right(self.begins, end)
        if low < high:
            begin, end = min(begin, self.begins[low]), max(end, self.ends[high - 1])
        self.begins[low:high], self.ends[low:high] = [begin], [end]

    def free_after(self, begin: int, end: int) -> int:
        """When the last of what is in the way from `begin` to `end` is over; `begin` where nothing is."""
        last = bisect_left(self.begins, end) - 1
        return self.ends[last] if last >= 0 and self.ends[last] > begin else begin


class Board:
    """The hands, the places and the hours for loud work, as far as they are taken; `looks` counts what was asked."""

    def __init__(self, question: TimetableQuestion) -> None:
        self._hands, self._open, self._loud = (
            _Taken(),
            open_steps(question, loud=False),
            open_steps(question, loud=True),
        )
        self.looks = 0
        self._places: dict[str, _Taken] = {}
        for place, until in taken_places(question):
            self._place(place).take(0, until)

    def take(self, item: Item, at: int) -> None:
        """An item begins then."""
        self._hands.take(at, at + item.hands)
        if item.task.place:
            self._place(item.task.place).take(at, at + item.held)

    def free_for(self, item: Item, at: int) -> int:
        """`at`, where an item can begin then as far as is seen from here; else when to ask again."""
        self.looks += 1
        if item.task.is_loud:
            at = self._loud_from(at, item.hands)
        free = self._hands.free_after(at, at + item.hands)
        return self._place(item.task.place).free_after(free, free + item.held) if item.task.place else free

    def soon_after(self, item: Item, at: int, followers: Sequence[Item]) -> list[int] | None:
        """Where those begin that have to follow an item soon that begins then; None where one cannot."""
        found: list[int] = []
        for follower in followers:
            over, slack = item.over(at), slack_steps(follower.task)
            begin = self.earliest(follower, over, over + (slack or 0))
            if begin is None:
                return None
            found.append(begin)
            item, at = follower, begin
        return found

    def earliest(self, item: Item, at: int, latest: int) -> int | None:
        """Where an item can begin first, from `at` to `latest`; None where it cannot."""
        for first, last in self._open[max(0, bisect_right(self._open, (at, _FAR)) - 1) :]:
            at = max(at, first)
            while at + item.hands <= last and at <= latest:
                free = self.free_for(item, at)
                if free == at:
                    return at
                at = free
            if at > latest:
                return None
        return None

    def _place(self, name: str) -> _Taken:
        taken = self._places.get(name)
        if taken is None:
            taken = self._places[name] = _Taken()
        return taken

    def _loud_from(self, at: int, hands: int) -> int:
        """From when on so much work may be loud, `at` or later; far away where never."""
        for first, last in self._loud[max(0, bisect_right(self._loud, (at, _FAR)) - 1) :]:
            if max(first, at) + hands <= last:
                return max(first, at)
        return _FAR
