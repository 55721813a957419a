"""What a good pen costs, stage by stage: as told, and with the spoilt ones; its price; what would earn most."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from datetime import date
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from orvek.craft.costing import StageCost, cost_good, price, started_for_good
from orvek.craft.spoilage import PRIOR_WORTH, StageKind, stage_kinds, usual_rate
from orvek.documents import FateEntry, Job, price_on
from orvek.planning.history import Seen, expected_pct, fates_of, is_missed, kind_of_work, plain, seen, took_min
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

if TYPE_CHECKING:
    from orvek.planning.route.results import Operation

_MONEY = Dimension.MONEY
_SANDED_MIN, _LESS_SPOILT = 5.0, 0.01
_OF_A_BAR = ("casting", "glue-up")  # the stages that make a bar
_DEAR = ("part set (", "tube (", "an hour of work")  # a price that leaves one of them out would be a loss
_MACHINES = frozenset({"saw", "press", "lathe", "oven", "pressure pot"})


class Stage(Struct, frozen=True):
    """One stage of the work, for one blank.

    Attributes:
        kind: which.
        materials: what goes into it, in money.
        work: the hands' time, in money.
        machine: the machine's time, in money.
        minutes: of the hands.
        passes: the share of blanks that it leaves whole, by default and record.
        begun: how many blanks enter it for one that is good in the end.
        spoilt: how many were spoilt there, by the record.
    """

    kind: StageKind
    materials: float
    work: float
    machine: float
    minutes: float
    passes: float
    begun: float
    spoilt: int

    @property
    def cost(self) -> float:
        """What it costs a blank."""
        return self.materials + self.work + self.machine

    @property
    def cost_good(self) -> float:
        """What it costs a good pen, the spoilt ones paid for."""
        return self.cost * self.begun


class Gain(Struct, frozen=True):
    """One thing that would make a good pen cheaper, and by how much."""

    words: str
    saves: float


class PenCost(Struct, frozen=True):
    """What a good pen costs.

    Attributes:
        stages: in the order of the work.
        once: what is spent once for the job.
        good: how many good pens share that.
        seen: the record of this kind of work.
        told: as told, with nothing spoilt.
        with_spoilt: with the spoilt ones.
        reclaimed: what saved tubes give back, of the job.
        left: what is left of all that was agreed; None where nothing was.
        price: what leaves the margin; None where margin and fees take all of it, or something dear has no price yet.
        gains: what would earn most, the most first.
        unpriced: what has no price yet, and is left out of all sums.
        warnings: sentences on what is odd.
    """

    stages: tuple[Stage, ...]
    once: float
    good: int
    seen: Seen
    told: Figure
    with_spoilt: Figure
    reclaimed: float
    left: Figure | None
    price: Figure | None
    gains: tuple[Gain, ...]
    unpriced: tuple[str, ...]
    warnings: tuple[str, ...] = ()

    @property
    def awaited(self) -> tuple[str, ...]:
        """What has no price yet and is so dear that no price is told without it."""
        return tuple(one for one in self.unpriced if one.startswith(_DEAR))


def pen_cost(plan: Plan, today: date) -> PenCost | None:
    """What a good pen of a plan's job costs by the prices of the day it was begun, or today's; None without a pen."""
    job = plan.job
    if plan.route is None or job.pen is None:
        return None
    day, record = begun_on(job) or today, seen(plan.shop.ledger, kind_of_work(job))
    unpriced: list[str] = []
    stages = tuple(_stages(plan, record, day, unpriced))
    once = _priced(plan, "once for a job", "", day, None)
    fates = fates_of(plan.shop.ledger, job.batch.id)
    good = job.batch.pens_wanted
    tube = _priced(plan, "tube", job.pen.name, day, None) * len(job.pen.barrels)
    reclaimed = tube * sum(fate.is_tube_saved for fate in fates.values())
    told, spoilt = _told(stages, once, good), _with_spoilt(stages, once, good, reclaimed, record)
    asked = _price(plan, spoilt.value)
    found = PenCost(
        stages=stages,
        once=once,
        good=good,
        seen=record,
        told=told,
        with_spoilt=spoilt,
        reclaimed=reclaimed,
        left=_left(plan, stages, once),
        price=asked,
        gains=_gains(plan, stages, once, good, day),
        unpriced=tuple(dict.fromkeys(unpriced)),
        warnings=tuple(_warnings(job, spoilt.value, asked)),
    )
    return replace(found, price=None) if found.awaited else found


def _left(plan: Plan, stages: Sequence[Stage], once: float) -> Figure | None:
    """What is left of the agreed prices when all is made: less fees, what is spent by now and what is still to do."""
    agreed = [(order.price, order.pens) for order in plan.job.orders if order.price is not None]
    if not agreed:
        return None
    selling, done = plan.shop.selling, plan.route.done if plan.route is not None else frozenset()
    asked = sum(price * pens for price, pens in agreed)
    fees = asked * selling.fee_pct / 100 + selling.fixed_fee * sum(pens for _, pens in agreed)
    fates = fates_of(plan.shop.ledger, plan.job.batch.id)
    begun, spoilt = plan.bars.blanks.value, sum(is_missed(fate) for fate in fates.values())
    by_now = to_do = 0.0
    for stage in stages:
        own = [task for task in _tasks(plan) if task.kind in stage.kind.tasks]
        whole = sum(task.hands_min for task in own)
        share = sum(task.hands_min for task in own if task.key in done) / whole if whole else 0.0
        by_now += stage.cost * begun * share
        to_do += stage.cost * max(0.0, begun - spoilt) * (1 - share)
    by_now, to_do = (by_now + once, to_do) if done else (by_now, to_do + once)
    terms = (
        Term("A", "agreed, all orders", asked, _MONEY),
        Term("f", "fees", fees, _MONEY),
        Term("s", "spent by now, as planned", by_now, _MONEY),
        Term("t", "still to do", to_do, _MONEY),
    )
    return Figure(
        "Left of what was agreed", asked - fees - by_now - to_do, _MONEY, "A − f − s − t", terms, "", digits=2
    )


def spent(cost: PenCost, fates: Sequence[FateEntry]) -> float:
    """What a batch has really cost by the fates of its blanks: each blank up to the stage at which it was spoilt.

    A blank that is good has been through all of it.
    """
    keys = [stage.kind.key for stage in cost.stages]
    through = 0.0
    for fate in fates:
        whole = fate.fate in {"good", "repaired", "made smaller"} or fate.stage not in keys
        last = len(keys) if whole else keys.index(fate.stage) + 1
        through += sum(stage.cost for stage in cost.stages[:last])
    return through + cost.once - cost.reclaimed


def begun_on(job: Job) -> date | None:
    """The day a job was begun; None while nothing has happened to it."""
    return min((plain(actual.when).date() for actual in job.work.actuals), default=None)


def _stages(plan: Plan, record: Seen, day: date, unpriced: list[str]) -> Sequence[Stage]:
    tasks = {kind.key: [task for task in _tasks(plan) if task.kind in kind.tasks] for kind in stage_kinds()}
    keys = [task.key for task in _tasks(plan)]
    there = [kind for kind in stage_kinds() if tasks[kind.key]]
    there.sort(key=lambda kind: keys.index(tasks[kind.key][0].key))  # as the work goes
    passes = _passes(there, record, expected_pct(plan.job, plan.shop.ledger) / 100)
    materials = _materials(plan, day, unpriced)
    hour = _priced(plan, "an hour of work", "", day, unpriced)
    begun = started_for_good([StageCost(0.0, passes[kind.key]) for kind in there])
    found = []
    for number, kind in enumerate(there):
        minutes = sum(_minutes_a_blank(plan, task) for task in tasks[kind.key])
        machine = sum(
            _minutes_a_blank(plan, task) / 60 * _priced(plan, "an hour at a machine", task.place, day, None)
            for task in tasks[kind.key]
            if task.place in _MACHINES
        )
        spoilt = dict(record.stages).get(kind.key, 0)
        found.append(
            Stage(
                kind,
                materials.get(kind.key, 0.0),
                minutes / 60 * hour,
                machine,
                minutes,
                passes[kind.key],
                begun[number],
                spoilt,
            )
        )
    return found


def _tasks(plan: Plan) -> tuple[Operation, ...]:
    return plan.route.operations if plan.route is not None else ()


def _minutes_a_blank(plan: Plan, task: Operation) -> float:
    """The hands' minutes for one blank: as they really were, where they were seen, else as planned."""
    minutes = took_min(plan.job, task.key, task.hands_min) or task.hands_min
    share = plan.job.batch.pens_wanted if task.kind in {"press", "write"} else plan.bars.blanks.value
    return minutes / max(1.0, share)


def _passes(there: Sequence[StageKind], record: Seen, expected: float) -> dict[str, float]:
    """The share that each stage leaves whole; all of them together leave what is expected of the job.

    Where it is lost: the usual share of each stage, moved by what was spoilt where. Each stage is a Beta of its own,
    worth four pieces; a blank counts at all stages up to the one where it was spoilt.
    """
    whole, total = 1 - usual_rate(record.work), sum(kind.weight for kind in there)
    keys = [kind.key for kind in there]
    # What was lost where this job has no stage, or later, was lost after all of them.
    lost: Counter[str] = Counter()
    for key, count in record.stages:
        lost[key if key in keys else keys[-1]] += count
    found, reached = {}, record.of
    for kind in there:
        usual = whole ** (kind.weight / total)
        spoilt = lost[kind.key]
        found[kind.key] = 1 - (PRIOR_WORTH * (1 - usual) + spoilt) / (PRIOR_WORTH + reached)
        reached = max(0, reached - spoilt)
    together = -sum(math.log(share) for share in found.values())
    power = -math.log(max(1e-3, 1 - expected)) / together if together > 0 else 0.0
    return {key: share**power for key, share in found.items()}


def _materials(plan: Plan, day: date, unpriced: list[str]) -> dict[str, float]:
    """What each stage takes off the shelf for one blank, in money."""
    job, blanks = plan.job, max(1.0, plan.bars.blanks.value)
    assert job.pen is not None
    found: dict[str, float] = {}
    if plan.costs is not None:
        found["casting"] = plan.costs.total.value / blanks
        unpriced += plan.costs.without_price
    stock = "glue-up" if kind_of_work(job) == "segmented" else "the wood"
    wooden = job.cast_index is None or any(step.kind in {"insert"} for step in job.blank.steps) or job.blank.in_hand
    if wooden:
        own = _priced(plan, "bar or board, a blank", job.blank.piece or job.treated_wood, day, unpriced)
        first = next((key for key in (stock, "casting", "sawing") if _has_stage(plan, key)), "sawing")
        found[first] = found.get(first, 0.0) + own
    if job.makes_bars:
        return found
    tubes = sum(barrel.has_tube for barrel in job.pen.barrels)
    if tubes:
        found["gluing the tube"] = tubes * _priced(plan, "tube", job.pen.name, day, unpriced)
    found["gluing the tube"] = found.get("gluing the tube", 0.0) + _priced(plan, "glue, a pen", "", day, None)
    found["sanding"] = _priced(plan, "abrasives and finish, a pen", "", day, unpriced)
    sets = _priced(plan, "part set", job.pen.name, day, unpriced)
    found["pressing"] = sets + _priced(plan, "refill", job.pen.name, day, None)
    return found


def _has_stage(plan: Plan, key: str) -> bool:
    kinds = next(kind.tasks for kind in stage_kinds() if kind.key == key)
    return any(task.kind in kinds for task in _tasks(plan))


def _priced(plan: Plan, what: str, of: str, day: date, unpriced: list[str] | None) -> float:
    """A price of a day; 0 where there is none, which is noted where it matters."""
    found = price_on(plan.shop.prices, what, of, day)
    if found is None and unpriced is not None:
        unpriced.append(f"{what}{f' ({of})' if of else ''}")
    return found or 0.0


def _told(stages: Sequence[Stage], once: float, good: int) -> Figure:
    value = sum(stage.cost for stage in stages) + once / max(1, good)
    terms = [Term("·", stage.kind.key, stage.cost, _MONEY) for stage in stages]
    return Figure(
        "Cost before scrap", value, _MONEY, "Σ stages + once / pens",
        (*terms, _once(once), Term("pens", "good pens", good, Dimension.COUNT)),
        "what one pen takes when everything goes well", digits=2,
    )  # fmt: skip


def _once(once: float) -> Term:
    return Term("once", "spent once for the job", once, _MONEY)


def _with_spoilt(stages: Sequence[Stage], once: float, good: int, reclaimed: float, record: Seen) -> Figure:
    sums = [StageCost(stage.cost, stage.passes) for stage in stages]
    value = max(0.0, cost_good(sums, once, good) - reclaimed / max(1, good))
    terms = [
        Term("·", f"{stage.kind.key}, {stage.begun:.2f} of them for a good one", stage.cost_good, _MONEY)
        for stage in stages
    ]
    back = (Term("−", "tubes that were saved", reclaimed / max(1, good), _MONEY),) if reclaimed else ()
    source = f"expected cost of work in stages with losses; scrap rate: {record.source}"
    return Figure(
        "Cost including scrap", value, _MONEY, "Σ cᵢ / Π passes of it and all later + once / pens",
        (*terms, _once(once), *back), source, digits=2,
    )  # fmt: skip


def _price(plan: Plan, cost: float) -> Figure | None:
    selling = plan.shop.selling
    found = price(cost, selling.margin_pct / 100, selling.fee_pct / 100, selling.fixed_fee)
    if found is None:
        return None
    return Figure(
        "Price for your margin", found.price, _MONEY, "P = (C + x) / (1 − m − f)",
        (
            Term("C", "cost of a good pen, scrap included", cost, _MONEY),
            Term("x", "fee, each sale", selling.fixed_fee, _MONEY),
            Term("m", "margin, of the price", selling.margin_pct, Dimension.PERCENT),
            Term("f", "fee, of the price", selling.fee_pct, Dimension.PERCENT),
            Term("P − …", "left to you", found.profit, _MONEY),
        ),
        "margin as part of the price", digits=2,
    )  # fmt: skip


def _gains(plan: Plan, stages: Sequence[Stage], once: float, good: int, day: date) -> tuple[Gain, ...]:
    """One percent less spoilt at each stage, five minutes less sanding, a batch twice as big."""

    def total(changed: Sequence[Stage], pens: int = good) -> float:
        return cost_good([StageCost(stage.cost, stage.passes) for stage in changed], once, pens)

    now, found = total(stages), []
    for n, stage in enumerate(stages):
        if stage.passes < 1 - _LESS_SPOILT:
            better = replace(stage, passes=stage.passes + _LESS_SPOILT)
            saves = now - total([*stages[:n], better, *stages[n + 1 :]])
            found.append(Gain(f"One in a hundred less scrap: {stage.kind.key}", saves))
        if stage.kind.key == "sanding" and stage.minutes > _SANDED_MIN:
            hour = _priced(plan, "an hour of work", "", day, None)
            quicker = replace(stage, work=stage.work - _SANDED_MIN / 60 * hour)
            found.append(Gain("Five minutes less sanding", now - total([*stages[:n], quicker, *stages[n + 1 :]])))
    own, bought = _bar_made(stages), price_on(plan.shop.prices, "bar or board, a blank", "", day)
    if own and bought is not None and kind_of_work(plan.job) == "cast resin":  # nobody sells the maker's own pattern
        begun = max(stage.begun for stage in stages if stage.kind.key in _OF_A_BAR)
        found.append(Gain("A bar bought instead of made", own - bought * begun))
    if once:
        found.append(Gain(f"A batch of {2 * good} instead of {good}", now - total(stages, 2 * good)))
    ranked = sorted((gain for gain in found if gain.saves > 0.004), key=lambda gain: -gain.saves)
    return tuple(ranked[:5])


def _bar_made(stages: Sequence[Stage]) -> float:
    """What the bar of a good pen costs where it is cast or glued up here; 0 where it is not."""
    return sum(stage.cost_good for stage in stages if stage.kind.key in _OF_A_BAR)


def _warnings(job: Job, cost: float, asked: Figure | None) -> Sequence[str]:
    told = []
    if asked is None:
        told.append("Margin and fees together take the whole price: no price leaves that. Make one of them smaller.")
    agreed = min((order.price for order in job.orders if order.price is not None), default=None)
    if agreed is not None and agreed < cost:
        told.append("The agreed price is below the cost of a good pen, scrap included.")
    return told
