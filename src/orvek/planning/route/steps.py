"""What the bench shows of each kind of operation, step by step: `steps_of(plan, operation)`."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import zip_longest
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from orvek.craft.abrasives import Rung
from orvek.craft.truing import CERTAIN_MM
from orvek.documents import ANGLES, Round, declared
from orvek.planning.bore.results import BorePlan, HolePlan
from orvek.planning.folding import listed
from orvek.planning.glue_up.saw import SawCut, cut_figures
from orvek.planning.history import fates_of
from orvek.planning.pressing import WITHOUT_A_PRESS
from orvek.planning.results import Plan
from orvek.planning.route.finishing import SEALED, sealed_back
from orvek.planning.route.gluing import cut_line
from orvek.planning.route.results import Operation
from orvek.planning.route.treating import stage_of
from orvek.planning.stuff import lets_light_through, oily_woods
from orvek.planning.threads import back_deg, thread_lines
from orvek.quantities import Dimension, write, write_bit

PLACES = ("left", "middle", "right")
GLUE_READY = "ready"  # the step from which on a glue's open time runs
_LEAVING = (
    "Write with it: a page without a skip, the mechanism in and out.",
    "Cap, clip and threads: snug, and as snug the tenth time.",
    "Refill: the seal is off its tip, and it is the one that was promised.",
    "A nail over every lip and both ends; then a clean cloth over all of it.",
)  # before a pen leaves the shop
_LEAST_OPEN_MIN = 2.0  # a glue that grabs sooner has no time to count down
OUTCOMES = "1 good · 2 repaired · 3 downsized · 4 scrapped"  # the key of each, in the order of `fates()`
Kind = Literal["do", "weigh", "count", "measure", "temperature", "fate"]


class BenchStep(Struct, frozen=True):
    """One step, as large as a wall: `key` names it among the actuals.

    Attributes:
        key: of the task and the step.
        words: what to do.
        kind: something done, weighed to `target_g`, counted, measured to `target_mm`, as warm as `target_c`; or what
            became of a blank.
        target_g: what the scale shall show; None where nothing is weighed.
        of: the key of a weighing that this one stands in a ratio to, and that ratio: over-poured A asks for more B.
        wait_s: seconds until the next step.
        figure: what is read from two metres away, where it is no target: a stop, a depth, a grit.
        place: of a measuring at the lathe: which barrel, "left", "middle" or "right".
        reads: of a reading for truth: which barrel, which end (turned or not), at which angle.
        pigment_of: of a pigment: the number of its cup.
        hardens: of part B: the number of its cup, whose time runs from the first drop.
        cut: how the saw is set for it.
        hole: which hole it is about.
        part: which part of the pen it presses.
        blank_no: of which blank it asks what became.
        blank: which of several blanks it is done to; 0 for all of them together.
        into: where a weight is kept that has no target: the log of the drying wood, or what it weighs after the bath.
        shows: the picture of the whole that it is a part of, where it has none of its own.
        stage: of a treatment: its words there.
    """

    key: str
    words: str
    kind: Kind = "do"
    target_g: float | None = None
    of: tuple[str, float] | None = None
    wait_s: float = 0.0
    target_mm: float | None = None
    target_c: float | None = None
    figure: str = ""
    place: tuple[int, str] | None = None
    reads: tuple[int, str, str] | None = None
    pigment_of: int | None = None
    hardens: int | None = None
    cut: SawCut | None = None
    hole: int | None = None
    part: int | None = None
    blank_no: int | None = None
    blank: int = 0
    into: Literal["", "log", "after"] = ""
    shows: Literal["", "grits", "barrels", "treatment", "weights"] = ""
    stage: str = ""


def base_of(step: BenchStep) -> str:
    """A step's key, whichever blank it is done to."""
    return step.key.partition("#")[0]


def steps_of(plan: Plan, task: Operation) -> tuple[BenchStep, ...]:
    """All steps of an operation; one that has no lines is one step."""
    found = _STEPS_OF.get(task.kind, _lines)(plan, task)
    return tuple(found) or (BenchStep(f"{task.key}:1", f"{task.words}."),)


def _lines(_plan: Plan, task: Operation) -> Iterator[BenchStep]:
    for number, words in enumerate(task.lines, 1):
        yield BenchStep(f"{task.key}:{number}", words)


def _mending(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """What saves a blank, beside its barrels as they are to become."""
    yield from (replace(step, shows="barrels") for step in _lines(plan, task))


def _sawing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Cut by cut, with the stop and the angle; how often where several pieces are sawn alike."""
    cuts, of_step = plan.glue_up.cuts if plan.glue_up is not None else (), task.key.partition(".")[2]
    own = [
        cut for cut in cuts if (f"{cut.step}" == of_step and not cut.is_to_length) or cut.is_to_length > bool(of_step)
    ]
    for number, cut in enumerate(own, 1):
        times = f" {cut.count} times." if cut.count > 1 else ""
        yield BenchStep(f"{task.key}:{number}", f"{cut_line(cut)}{times}", figure=_set_to(plan, cut), cut=cut)
    if not own and task.key == "length":
        for hole in plan.bore.holes if plan.bore is not None else ():
            words = f"{hole.name}: saw it square at both ends, mark which end is left."
            yield BenchStep(f"{task.key}:{hole.number + 1}", words, figure=hole.saw_mm.written(plan.units))


def _set_to(plan: Plan, cut: SawCut) -> str:
    figures = (figure for figure in cut_figures(cut) if figure.value)
    names = {"Set from square": "Mitre"}
    return " · ".join(f"{names.get(one.label, one.label)} {one.written(plan.units)}" for one in figures)


def glue_of(plan: Plan, task: Operation) -> tuple[str, float] | None:
    """The glue of joints or tubes, and for how many minutes it can be spread; None without any."""
    if task.kind == "tube" and plan.bore is not None:
        return plan.bore.glue.key, plan.bore.glue.open_min
    own = task.key.partition(".")[2]
    joints = [one for one in (plan.glue_up.joints if plan.glue_up is not None else ()) if f"{one.step}" == own]
    if not joints or plan.glue_up is None:
        return None
    return plan.glue_up.glue.key, min(joint.open_min for joint in joints)


def _made_ready(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """A glue that leaves time to work is made ready first: from then on its time counts down."""
    glue = glue_of(plan, task)
    if glue is not None and glue[1] >= _LEAST_OPEN_MIN:
        told = write(glue[1], Dimension.DURATION, plan.units)
        words = f"Make the {glue[0]} ready: from then on it stays open for {told}."
        yield BenchStep(f"{task.key}:{GLUE_READY}", words, figure=told)


def _joining(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Joint by joint: how long the glue stays open; then the clamp."""
    glue = glue_of(plan, task)
    yield from _made_ready(plan, task)
    yield from _lines(plan, task)
    if glue is not None:
        told = f"within {write(glue[1], Dimension.DURATION, plan.units)}"
        words = f"Clamp it {told}, and wipe off what squeezes out, before the glue skins over."
        yield BenchStep(f"{task.key}:clamp", words, figure=told)


def _weighing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Cup by cup: part A, the pigments, part B; every one tared."""
    for number, cup in enumerate(plan.mixture.wet if plan.mixture else ()):
        stem = f"{task.key}:{number + 1}"
        yield BenchStep(f"{stem}.cup", f"{cup.name}: cup on the scale, tare.")
        yield BenchStep(f"{stem}.A", f"{cup.name}: part A, then tare.", "weigh", cup.weighed_a_g)
        for place, dose in enumerate(cup.doses, 1):
            words = f"{cup.name}: {dose.name}, then tare."
            yield BenchStep(f"{stem}.p{place}", words, "weigh", dose.weighed_g, pigment_of=number)
        if cup.weighed_b_g > 0:
            ratio = cup.weighed_b_g / cup.weighed_a_g if cup.weighed_a_g > 0 else 0.0
            words = f"{cup.name}: part B. From the first drop on the clock runs."
            yield BenchStep(f"{stem}.B", words, "weigh", cup.weighed_b_g, (f"{stem}.A", ratio), hardens=number)
        yield BenchStep(f"{stem}.stir", f"{cup.name}: stir slowly, scrape sides and bottom.", wait_s=60.0)


def _pouring(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """How warm the resin is, where a thermometer is at the bench; then as for any task."""
    if any(meter.kind == "thermometer" for meter in plan.shop.meters):
        wanted = plan.job.pour.conditions.parts_c
        target = wanted if wanted is not None else plan.job.batch.shop_temperature_c
        yield BenchStep(f"{task.key}:warm", "Resin: how warm is it?", "temperature", target_c=target)
    yield from _lines(plan, task)


def _boring(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each hole: the bit and the stop, peck by peck, then the hole measured."""
    bore = plan.bore
    if bore is None:
        return
    for hole in bore.holes:
        stem, number = f"{task.key}:{hole.number}", hole.number
        bit = write_bit(bore.first_mm(hole), plan.units)
        from_end = "from both ends" if hole.from_both else f"from the {'left' if hole.from_left else 'right'} end"
        words = (
            f"{hole.name}: that end faced square, the index mark as before; bit in, stop at "
            f"{hole.depth_mm.written(plan.units)}, clamp; bored {from_end}."
        )
        yield BenchStep(f"{stem}.set", words, figure=f"bit {bit}", hole=number)
        pecks = len(hole.pecks_mm)
        for peck, deep in enumerate(hole.pecks_mm, 1):
            words = f"{hole.name}: peck {peck} of {pecks}, to {plan.units.mm(deep)}. Withdraw, clear the flutes."
            yield BenchStep(f"{stem}.{peck}", words, "count", figure=f"to {plan.units.mm(deep)}", hole=number)
        if not bore.opens_up(hole):
            yield _hole_measured(task, hole)


def _opening(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """The cap chosen with all holes still small; then its hole opened up, and measured."""
    opened = [hole for hole in plan.bore.holes if plan.bore.opens_up(hole)] if plan.bore is not None else []
    long = max((hole.saw_mm.value for hole in opened), default=0.0)
    words = f"Look at all halves, end to end: which is the {listed([hole.name.lower() for hole in opened])}? Mark it."
    yield BenchStep(f"{task.key}:choose", words, figure=f"at least {plan.units.mm(long)} long")
    for hole in opened:
        bit, deep = write_bit(hole.bored_mm, plan.units), hole.depth_mm.written(plan.units)
        words = f"{hole.name}: bit {bit} in the small hole, from the same end, stop at {deep}; slowly, it grabs."
        yield BenchStep(f"{task.key}:{hole.number}", words, figure=f"bit {bit}", hole=hole.number)
        yield _hole_measured(task, hole)


def _hole_measured(task: Operation, hole: HolePlan) -> BenchStep:
    words, key = f"{hole.name}: how wide is the hole at its end?", f"{task.key}:{hole.number}.measured"
    return BenchStep(key, words, "measure", target_mm=hole.bored_mm, hole=hole.number)


def _painting(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each hole that is painted: looked through first, then coat by coat."""
    coats = plan.job.bore.paint_coats
    for hole in plan.bore.holes if plan.bore is not None else ():
        where = plan.job.blank.paint(hole.number).where
        if where == "none":
            continue
        stem = f"{task.key}:{hole.number}"
        words = f"{hole.name}: a lamp in the hole, the shop dark. Where does light come through?"
        yield BenchStep(f"{stem}.light", words, hole=hole.number)
        for coat in range(1, coats + 1):
            words = f"{hole.name}: paint the {where}, thin and all round; it dries before the next."
            told = f"coat {coat} of {coats}"
            yield BenchStep(f"{stem}.coat.{coat}", words, "count", figure=told, hole=hole.number)


def _scuffing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each tube tried dry, scuffed and wiped; the hole of oily wood too."""
    names = listed(oily_woods(plan.job))
    for hole in plan.bore.holes if plan.bore is not None else ():
        if hole.tube is None:
            continue
        stem = f"{task.key}:{hole.number}"
        if lets_light_through(plan.job) and plan.job.blank.paint(hole.number).where == "none":
            words = f"{hole.name}: a lamp in the hole, the shop dark. Light comes through: paint it first, or the tube."
            yield BenchStep(f"{stem}.light", words, hole=hole.number)
        cut = f", cut to {hole.tube.cut_mm.written(plan.units)}" if hole.tube.cut_mm is not None else ""
        yield BenchStep(f"{stem}.dry", f"{hole.name}: try the tube dry{cut}; it slides in by hand.", hole=hole.number)
        plug = " Plug its end." if plan.job.bore.is_plugged else ""
        yield BenchStep(f"{stem}.scuff", f"{hole.name}: scuff the tube, wipe it clean.{plug}", hole=hole.number)
        if names:
            words = f"{hole.name}: alcohol or acetone through the hole on a brush, let it dry; {names.lower()} is oily."
            yield BenchStep(f"{stem}.wipe", words, hole=hole.number)


def _tubing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each tube glued in."""
    bore = plan.bore
    if bore is None:
        return
    yield from _parts_of_glue(bore, task)
    yield from _made_ready(plan, task)
    tubed = [hole for hole in bore.holes if hole.tube is not None]
    for hole in tubed:
        stem, back = f"{task.key}:{hole.number}", hole.barrel.set_back_mm
        told = f"{plan.units.mm(back)} set back" if back else "flush"
        words = f"{hole.name}: {bore.glue.key} all round, turn the tube in from one end to the other, {told}."
        yield BenchStep(f"{stem}.glue", words, figure=told, hole=hole.number)
    if bore.mixed is not None and bore.mixed.look_min is not None:
        told = write(bore.mixed.look_min, Dimension.DURATION, plan.units)
        words = f"After {told}: look at every tube again, one that has crept is pushed back."
        yield BenchStep(f"{task.key}:again", words, figure=told)


def _parts_of_glue(bore: BorePlan, task: Operation) -> Iterator[BenchStep]:
    """Both parts of a glue weighed, for as many tubes as go in while it stays open."""
    mix = bore.mixed
    if mix is None or mix.a_g is None or mix.b_g is None:
        return
    many = "all tubes" if mix.mixes == 1 else f"{mix.to_a_mix} tubes; mix again for the next {mix.to_a_mix}"
    yield BenchStep(f"{task.key}:A", f"{bore.glue.key.capitalize()}, part A, for {many}; tare.", "weigh", mix.a_g)
    ratio = mix.b_g / mix.a_g
    yield BenchStep(
        f"{task.key}:B", "Part B; stir a minute, scrape the sides.", "weigh", mix.b_g, (f"{task.key}:A", ratio)
    )


def _squaring(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Each barrel squared at both ends, and measured; a bar that is sold as its lines say."""
    if plan.bore is None:
        yield from _lines(plan, task)
    for hole in plan.bore.holes if plan.bore is not None else ():
        words = f"{hole.name}: square both ends to the brass; mark its front end inside the tube, measure its length."
        if hole.tube is None:
            words = f"{hole.name}: square both ends, and measure its length."
        key = f"{task.key}:{hole.number}"
        yield BenchStep(key, words, "measure", target_mm=hole.square_to_mm.value, hole=hole.number)


def _turning(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """What to do at the lathe, then each size at each place by the calipers."""
    finish = plan.finish
    for number, words in enumerate(finish.lathe if finish else (), 1):
        yield BenchStep(f"{task.key}:{number}", words)
    for size in finish.sizes if finish else ():
        for place, figure in zip(PLACES, size.tool_mm, strict=True):
            where = "in the middle" if place == "middle" else f"at the {place}"
            words = f"{size.barrel.name}: turn to {figure.written(plan.units)} {where}. Lathe off, calipers."
            key = f"{task.key}:{size.number}.{place}"
            yield BenchStep(key, words, "measure", target_mm=figure.value, place=(size.number, place))


def _truing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """A barrel that was taken off: put back, then read at four angles where a dial is at hand."""
    yield from _lines(plan, task)
    barrel = int(task.key.split(".")[2])
    if not plan.shop.holding.has_dial or plan.finish is None:
        return
    true = plan.finish.trues[barrel]
    yield from _rounds(task, true.barrel.name, barrel, "")
    if true.most_mm > CERTAIN_MM and true.read.by == "a dial":
        words = f"{true.barrel.name}: turn it half round in its holding, the mark opposite."
        yield BenchStep(f"{task.key}:half", words)
        yield from _rounds(task, true.barrel.name, barrel, "_turned")


def _rounds(task: Operation, name: str, barrel: int, turned: str) -> Iterator[BenchStep]:
    for end in ("left", "right"):
        for number, angle in enumerate(ANGLES):
            words = f"{name}, {end} end: the dial {declared(Round, angle).title.lower()}?"
            key = f"{task.key}:{end}{turned}.{number}"
            yield BenchStep(key, words, "measure", figure=f"{90 * number}°", reads=(barrel, f"{end}{turned}", angle))


def _sanding(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Grit by grit: what it leaves is looked for before the next."""
    finish = plan.finish
    rungs: tuple[Rung, ...] = ()
    if finish is not None:
        rungs = finish.rungs(task.kind)
    for number, rung in enumerate(rungs, 1):
        last = number == len(rungs)
        then = "look at it in slanting light." if last else "wipe, and look for the scratches of the one before."
        words = f"{rung.abrasive.name}: lathe slow, a light hand; then lathe off, and along the barrel; {then}"
        yield BenchStep(f"{task.key}:{number}", words, figure=rung.abrasive.name, shows="grits")


def _soaking(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Wood is weighed as it goes in and as it comes out: its log says when it is dry, and what it took up."""
    stage = stage_of(plan, task.key)
    weighs = stage.weighs if stage is not None else ""
    count = plan.job.soak.wood.count
    pieces = "the piece" if count == 1 else f"all {count} pieces"
    weigh = BenchStep(f"{task.key}:mass", f"Weigh {pieces} together, cool and wiped.", "weigh", into=weighs)
    if weighs == "log":
        yield replace(weigh, shows="weights")
    if task.key == "soak.clean" and any(meter.kind == "thermometer" for meter in plan.shop.meters):
        words = "Before the oven was switched off: how warm was the core of the thickest piece?"
        core = BenchStep(f"{task.key}:core", words, "temperature", target_c=plan.job.soak.heat.core_c)
        yield replace(core, shows="treatment", stage=task.words)
    for step in _lines(plan, task):
        yield replace(step, figure=_treated_at(plan, task), shows="treatment", stage=task.words)
    if weighs == "after":
        yield replace(weigh, shows="treatment", stage=task.words)


def _treated_at(plan: Plan, task: Operation) -> str:
    """What the oven or the gauge is set to."""
    soak = plan.job.soak
    if task.key == "soak.chamber" and soak.bath.gauge_bar is not None:
        return write(soak.bath.gauge_bar, Dimension.PRESSURE, plan.units, 2)
    if task.field_kind == "dry" and soak.drying.way == "in an oven":
        return write(soak.drying.oven_c, Dimension.TEMPERATURE, plan.units, 0)
    return ""


def _sealing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Sealer coat by coat, each dry before it is sanded back."""
    how = plan.job.finish
    for number in range(1, how.seal + 1):
        words = f"Sealer coat {number} of {how.seal}: {SEALED}."
        told = f"{number} of {how.seal}"
        yield BenchStep(
            f"{task.key}:{number}", words, "count", wait_s=60 * how.seal_wait_min, figure=told, shows="barrels"
        )
        back = sealed_back(how)
        yield BenchStep(f"{task.key}:{number}.back", f"{back[:1].upper()}{back[1:]}", figure=how.bare_to)


def _coats(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Coat by coat, with the wait after each."""
    how = plan.finishing
    thin = [("thin", n, how.thin_coats, how.thin_wait_min) for n in range(1, how.thin_coats + 1)]
    medium = [("medium", n, how.medium_coats, how.medium_wait_min) for n in range(1, how.medium_coats + 1)]
    coats = [*medium, *thin] if how.order == "medium first" else [*thin, *medium]
    if how.order == "in turn":
        coats = [coat for both in zip_longest(thin, medium) for coat in both if coat is not None]
    for kind, number, of, wait in coats:
        is_oiled = kind == "thin" and number > of - how.oil_coats
        words = f"{kind.capitalize()} coat {number} of {of}{', with a drop of oil' if is_oiled else ''}."
        told = f"{number} of {of}"
        key = f"{task.key}:{kind}.{number}"
        yield BenchStep(key, words, "count", wait_s=60 * wait, figure=told, shows="barrels")


def _pressing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """Part by part with its depth."""
    units = plan.units
    parts = plan.job.pen.parts if plan.job.pen is not None else ()
    if before := WITHOUT_A_PRESS.get(plan.job.finish.pressed_in):
        yield BenchStep(f"{task.key}:set", before)
    if back := back_deg(plan.job):
        *_, words = thread_lines(plan.job, units)
        yield BenchStep(f"{task.key}:back", words, figure=write(abs(back), Dimension.ANGLE, units, 0))
    for number, part in enumerate(parts, 1):
        low, high = part.depth_low_mm, part.depth_high_mm
        told = f"{units.mm(low)} to {units.mm(high)}" if low is not None and high is not None else ""
        told = told or (f"at least {units.mm(low)}" if low is not None else f"at most {units.mm(high)}" if high else "")
        yield BenchStep(f"{task.key}:{number}", f"{part.line}.", figure=told, part=number - 1)


def _writing(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """It has to write; then what became of each blank."""
    for number, words in enumerate(_LEAVING, 1):
        yield BenchStep(f"{task.key}:{number}", words)
    yield from _outcomes(plan, task)


def _labelling(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    """The last look at a bar that is sold: what became of each."""
    yield from _lines(plan, task)
    yield from _outcomes(plan, task)


def _outcomes(plan: Plan, task: Operation) -> Iterator[BenchStep]:
    known = fates_of(plan.shop.ledger, plan.job.batch.id)
    for number in range(1, round(plan.bars.blanks.value) + 1):
        if number not in known:
            words = f"Blank {number}: what became of it?"
            yield BenchStep(f"{task.key}:fate.{number}", words, "fate", figure=OUTCOMES, blank_no=number)


_STEPS_OF: dict[str, Callable[[Plan, Operation], Iterator[BenchStep]]] = {
    "cut": _sawing, "length": _sawing, "join": _joining, "weigh": _weighing, "pour": _pouring, "bore": _boring,
    "open_up": _opening, "paint": _painting, "scuff": _scuffing, "tube": _tubing, "square": _squaring, "true": _truing,
    "turn": _turning, "sand": _sanding,
    "seal": _sealing, "coat": _coats, "level": _sanding, "polish": _sanding, "mend": _mending,
    "press": _pressing, "write": _writing, "label": _labelling, "soak": _soaking,
}  # fmt: skip
