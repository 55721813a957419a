"""One operation of a kind: `operation(plan, key, kind, ...)`, with the time the hands take by the maker's own log."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from orvek.craft.durations import lasting
from orvek.craft.task_kinds import task_kind
from orvek.documents import DurationSeen, Shop
from orvek.planning.findings import Station
from orvek.planning.results import Plan
from orvek.planning.route.results import NO_WAIT, Operation, Setting, Use, Wait, Word
from orvek.planning.working import Figure

SAW = "glue_up.saw"  # the key of what can hurt there
CURE_MIN = 1440.0  # where neither forecast nor label says when a casting is hard
WIPED_MIN = 15.0  # so long after it was wiped the oil of a wood is back (workshop practice)
_WAIT_LOW, _WAIT_HIGH = 0.8, 1.6  # of a wait that nobody has seen (a choice)


def operation(
    plan: Plan,
    key: str,
    kind: str,
    station: Station,
    *,
    pieces: int = 1,
    minutes: float | None = None,
    wait: Wait = NO_WAIT,
    wait_words: str = "",
    wait_source: Word = "generic",
    wait_from: str = "",
    ready_min: float | None = None,
    words: str = "",
    place: str | None = None,
    holds: bool = False,
    soon_min: float | None = None,
    lines: Iterable[str] = (),
    cautions: tuple[str, ...] = (),
    settings: Iterable[Setting] = (),
    uses: Iterable[Use] = (),
    field_kind: str = "",
) -> Operation:
    """An operation; `minutes` are for all its pieces, where the plan knows better than the kind."""
    usual = task_kind(kind)
    each = pieces if usual.each else 1
    told = minutes if minutes is not None else usual.minutes * each
    told = max(0.5, told)
    readings = _readings(plan.shop, kind, each, told)
    time = lasting(told, readings)
    return Operation(
        key=key,
        kind=kind,
        words=words or usual.words,
        station=station,
        hands_min=time.median_min,
        hands_span_min=(time.low_min, time.high_min),
        readings=len(readings),
        usual_min=told if minutes is not None else None,
        wait_min=wait,
        wait_words=wait_words,
        wait_source=wait_source if wait[2] else "",
        wait_from=wait_from,
        ready_min=ready_min,
        place=usual.place if place is None else place,
        holds=holds,
        is_loud=usual.loud,
        soon_min=soon_min,
        pieces=pieces,
        lines=tuple(lines),
        cautions=cautions,
        settings=tuple(settings),
        uses=tuple(uses),
        field_kind=field_kind,
    )


def span(minutes: float) -> Wait:
    """A wait that nobody has seen: from where to where it may be."""
    return minutes * _WAIT_LOW, minutes, minutes * _WAIT_HIGH


def of(name: str, *figures: Figure | None) -> Iterator[Setting]:
    """Settings of one hole, cut or barrel; what does not apply there is left out."""
    yield from (Setting(name, figure) for figure in figures if figure is not None)


def blanks_of(plan: Plan) -> int:
    """How many blanks are begun."""
    return max(1, round(plan.bars.blanks.value))


def _readings(shop: Shop, kind: str, pieces: int, told_min: float) -> list[float]:
    """The maker's own times of this kind, for as much work as there is now.

    Beside what was reckoned from the work then, where that was kept; else for as many pieces.
    """
    usual = task_kind(kind)

    def now(seen: DurationSeen) -> float:
        if seen.usual_min is not None:
            return seen.minutes * told_min / seen.usual_min
        return seen.minutes * (pieces / seen.pieces if usual.each else 1.0)

    return [now(seen) for seen in shop.durations if seen.kind == kind]
