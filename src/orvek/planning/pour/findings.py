"""What is to be said about mould, bars, resin and time. The cups have a file of their own."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from itertools import combinations

from orvek.craft.moulding import bar_section, bars_in, shrunk_mm
from orvek.craft.pouring import pot_life_min
from orvek.craft.turning import clean_up_mm, cleans_up_to_mm
from orvek.documents import JOB, InsertStep, Pour, Resin, as_kind, declared, path_to
from orvek.planning.bar import bar_size
from orvek.planning.drift import drift_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.haste import HASTE
from orvek.planning.results import Plan
from orvek.planning.words import counted
from orvek.quantities import Dimension, decimal, write

_LABEL_MASS_FACTOR = 1.5  # estimate: a cup this much larger than the label's sets noticeably sooner
_LABEL_WARMER_C = 3.0  # estimate: about a quarter off a label's pot life
_COLD_SHOP_C = 16.0  # workshop practice
_DENSITY_DISAGREES = 0.05  # natural spread of a wood's density, one sd: textbook
_SHRINKS_MM = 0.3  # of a bar's width: less is lost among its other tolerances (a choice)
_NO_INSERT = Edit(path_to(JOB.pour.insert), None)


def what_is_missing(plan: Plan) -> Iterator[Finding]:
    """The decisions still to be taken, in their order."""
    job = plan.job
    if job.cast_index is None:
        return
    if job.pen is not None and job.pour.mould is None:
        because = "The cavities give the bars and their volume."
        yield Finding(Severity.NOTE, Station.POUR, "Then the mould.", because)
    if job.pour.mould is not None and job.pour.resin is None:
        because = "Ratio and densities turn the volume into weights."
        yield Finding(Severity.NOTE, Station.POUR, "Now the resin.", because)
    if job.pour.resin is not None and not job.cast.cups:
        because = "A cup for each colour; drag between them to share out the resin."
        yield Finding(Severity.NOTE, Station.POUR, "Last, the colours.", because)


def bars_are_there(plan: Plan) -> Iterator[Finding]:
    """A casting that is poured already: its bars lie on the bench, measured."""
    if not plan.bars.in_hand or plan.job.cast_index is None or plan.mixture is None:
        return
    there = counted(sum(bar.count for bar in plan.bars.in_hand), "bar")
    because = f"The pens come from {there} in hand, as measured. This page would cast {_more(plan)} once more."
    remedies = (Remedy("Use the mould's bars", (Edit(path_to(JOB.blank.bars), ()),)),)
    yield Finding(Severity.NOTE, Station.POUR, "Nothing need be poured.", because, remedies)


def _more(plan: Plan) -> str:
    return counted(round(plan.bars.bars.value), "bar")


def section(plan: Plan) -> Iterator[Finding]:
    """Whether the barrels can be turned from the bar."""
    units = plan.units
    bar, pen = plan.bars.section, plan.job.pen
    if bar is None or pen is None:
        return
    width, depth, _, is_round = bar_size(plan.layout)
    off = drift_mm(plan.shop)
    off_x, off_y = (0.0, off) if is_round else (off, off)  # round: whichever way it drifts is the worst
    ends = [
        (max(0.0, finished - cleans_up_to_mm(width, depth, off_x, off_y)), finished, f"{barrel.name.lower()}, {side}")
        for barrel in pen.barrels
        for side, finished in (
            ("left end", barrel.finished_left_mm),
            ("right end", barrel.finished_right_mm),
            ("widest place", barrel.widest_mm),
        )
    ]
    over, widest, where = max(ends)
    if over <= 1e-6:
        return
    across, allowed = min(width, depth), clean_up_mm(min(width, depth), widest)
    sawn = " after the saw" if bar.smallest_mm > across + 1e-6 else ""
    title = "The bar is thinner than the barrel." if allowed < 0 else "The bar may keep a flat."
    because = (
        f"{units.mm(widest)} finished at the {where}, from a bar of {units.mm(across)}{sawn}: the hole may lie at most "
        f"{units.mm(max(allowed, 0), 2)} off centre there, and as you work it may lie {units.mm(off, 2)} off."
    )
    severity = Severity.STOP if allowed < 0 else Severity.CAUTION
    yield Finding(severity, Station.POUR, title, because, tuple(_thicker(plan, widest + 2 * off)))


def shrinks(plan: Plan) -> Iterator[Finding]:
    """A casting that may come out clearly smaller than its mould."""
    units = plan.units
    bar, resin = plan.bars.section, plan.job.pour.resin
    known = plan.shop.family(resin.family) if resin is not None else None
    if known is None or known.shrinks_pct is None or bar is None or plan.bars.in_hand or plan.job.cast_index is None:
        return
    by = shrunk_mm(bar.smallest_mm, known.shrinks_pct.value)
    if by >= _SHRINKS_MM:
        because = (
            f"Typical of its family: about {units.pct(known.shrinks_pct.value)} of its volume. A bar of "
            f"{units.mm(bar.smallest_mm)} may come out {units.mm(bar.smallest_mm - by)}, and it lets go of smooth "
            "faces that lie in it: scuff them."
        )
        yield Finding(Severity.NOTE, Station.POUR, "This resin shrinks as it cures.", because)


def castings(plan: Plan) -> Iterator[Finding]:
    """A mould that gives no bar at all, or not all of them at once."""
    mould, bars = plan.job.pour.mould, plan.bars
    if mould is None:
        return
    if bars_in(mould) == 0:
        because = "It is smaller than one of the bars that are to be sawn from it."
        others = (one for one in plan.shop.moulds if bars_in(one))
        remedies = tuple(Remedy(f"Pour into {one.name}", (Edit(path_to(JOB.pour.mould), one),)) for one in others)[:2]
        yield Finding(Severity.STOP, Station.POUR, f"{mould.name} gives no bar.", because, remedies)
    elif bars.castings > 1:
        because = (
            f"{round(bars.bars.value)} bars are wanted and the mould gives {bars_in(mould)} at a time. "
            f"The card is for one casting of {bars.bars_per_casting}; pour it {bars.castings} times."
        )
        yield Finding(Severity.NOTE, Station.POUR, f"It takes {bars.castings} castings.", because)


def insert(plan: Plan) -> Iterator[Finding]:
    """An insert larger than its cavity, or whose volumes by different ways contradict each other."""
    units = plan.units
    lying = plan.mixture.insert if plan.mixture else None
    if lying is None or plan.mixture is None:
        return
    volume, cavity = lying.volume_ml.value, plan.mixture.cavity_ml.value
    if volume >= cavity:
        because = f"{units.ml(volume)} in a cavity of {units.ml(cavity)} leaves no room for resin."
        remedies = () if lying.ways[0].is_drawn else (Remedy("Pour without the insert", (_NO_INSERT,)),)
        yield Finding(Severity.STOP, Station.POUR, "The insert fills the cavity.", because, remedies)
    for one, other in combinations(lying.ways, 2):
        a, b = one.volume_ml.value, other.volume_ml.value
        bears = 2 * math.hypot(one.uncertainty * a, other.uncertainty * b)
        if abs(a - b) > bears:
            because = (
                f"{units.ml(a)} {one.name}, {units.ml(b)} {other.name}; the two may differ by {units.ml(bears)}. "
                f"The plan pours for {units.ml(volume)}, {lying.ways[0].name}. Measure again, or draw it as it is."
            )
            redrawn = tuple(_redrawn(plan, a - b)) if other.is_drawn and not one.is_drawn else ()
            yield Finding(Severity.CAUTION, Station.POUR, "The insert's volumes disagree.", because, redrawn)


def no_room(plan: Plan) -> Iterator[Finding]:
    """Chips that, with what is laid in, fill the mould by themselves."""
    made = plan.mixture
    if made is None or not any(cup.is_solid for cup in made.cups) or made.volume_ml.value > 0:
        return
    because = "Their shares are of the whole mould; with what is laid in nothing is left for resin between them."
    yield Finding(Severity.STOP, Station.POUR, "The chips leave no room for resin.", because)


def family(plan: Plan) -> Iterator[Finding]:
    """A resin that does not set in a mould, or whose densities contradict each other."""
    resin = plan.job.pour.resin
    if resin is None:
        return
    known = plan.shop.family(resin.family)
    if known and not known.sets_when_mixed:
        because = "It stays liquid at shop temperature; it is made to be soaked into wood and set in an oven."
        setting = (one for one in plan.shop.resins if _sets(plan, one))
        remedies = tuple(Remedy(f"Pour {one.name}", (Edit(path_to(JOB.pour.resin), one),)) for one in setting)[:2]
        yield Finding(Severity.STOP, Station.POUR, f"{resin.name} does not set in a mould.", because, remedies)
    a, b, mix = resin.density_a.value, resin.density_b.value, resin.density_mix.value
    if not min(a, b) * (1 - _DENSITY_DISAGREES) <= mix <= max(a, b) * (1 + _DENSITY_DISAGREES):
        because = (
            f"Mixed {decimal(mix)} g/ml from {decimal(a)} and {decimal(b)}: a mix lies between its parts. "
            "The masses are only as good as these."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "The densities of the resin contradict each other.", because)


def pace(plan: Plan) -> Iterator[Finding]:
    """Whether stirring and pouring fit the pot life."""
    if plan.pace is None or plan.pace.pot_life is None:
        return
    working, pot_life = plan.pace.working_min.value, plan.pace.pot_life.value
    if working <= HASTE * pot_life:
        return
    late = working > pot_life
    title = "It will set in the cups." if late else "There is little time to spare."
    because = (
        f"Stirring {counted(len(plan.job.cast.wet), 'cup')} and pouring "
        f"{counted(plan.bars.bars_per_casting, 'bar')} takes "
        f"{plan.units.minutes(working)}; {_given(plan, pot_life)}."
    )
    severity = Severity.STOP if late else Severity.CAUTION
    yield Finding(severity, Station.POUR, title, because, tuple(_slower(plan, pot_life)))


def _given(plan: Plan, life_min: float) -> str:
    """Where a pot life comes from: the label, or the label's for a cup of more than its mass."""
    units = plan.units
    resin, mixture = plan.job.pour.resin, plan.mixture
    assert resin is not None
    assert resin.pot_life_min is not None
    label = resin.pot_life_min.value
    if mixture is None or units.minutes(life_min) == units.minutes(label):
        return f"the label gives {units.minutes(label)}"
    largest = max(cup.mass_g.value for cup in mixture.wet)
    return (
        f"the label gives {units.minutes(label)} in a cup of {units.g(resin.pot_life_mass_g, 0)}, "
        f"which is about {units.minutes(life_min)} in your largest of {units.g(largest, 0)}"
    )


def label_conditions(plan: Plan) -> Iterator[Finding]:
    """Where cup and shop differ from what the label's pot life was measured in."""
    resin, mixture = plan.job.pour.resin, plan.mixture
    if resin is None or mixture is None or resin.pot_life_min is None or not mixture.cups:
        return
    known = plan.shop.family(resin.family)
    if known is not None and known.cure is not None:
        return  # the forecast says how long each cup lasts, and how it cures in the cold
    largest = max(cup.mass_g.value for cup in mixture.wet)
    warm = plan.job.batch.shop_temperature_c
    heavy = largest > _LABEL_MASS_FACTOR * resin.pot_life_mass_g
    hot = warm > resin.pot_life_temperature_c + _LABEL_WARMER_C
    written = write(warm, Dimension.TEMPERATURE, plan.units)
    label_at = write(resin.pot_life_temperature_c, Dimension.TEMPERATURE, plan.units)
    if heavy or hot:
        because = (
            f"It is for a cup of {plan.units.g(resin.pot_life_mass_g, 0)} at {label_at}; your largest cup holds "
            f"{plan.units.g(largest, 0)} and the shop has {written}. Larger and warmer cups go off sooner."
        )
        yield Finding(Severity.CAUTION, Station.POUR, "The pot life will be shorter than the label says.", because)
    elif warm < _COLD_SHOP_C:
        because = f"At {written} most resins cure slowly and stay soft. Warm the shop, or allow days instead of hours."
        yield Finding(Severity.CAUTION, Station.POUR, "The shop is cold for casting.", because)


STATION = Station.POUR
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    what_is_missing,
    bars_are_there,
    section,
    castings,
    shrinks,
    insert,
    no_room,
    family,
    pace,
    label_conditions,
)


def _sets(plan: Plan, resin: Resin) -> bool:
    """Whether a resin of the shelf sets once it is mixed, as far as its family is known."""
    known = plan.shop.family(resin.family)
    return known is not None and known.sets_when_mixed


def _redrawn(plan: Plan, missing_ml: float) -> Iterator[Remedy]:
    """Move the drawn edge of a slab so that it has the volume that was measured: V grows by depth · length a mm."""
    bar = plan.bars.section
    place = next(
        (n for n, s in enumerate(plan.job.blank.steps) if isinstance(s, InsertStep) and s.form == "edge"), None
    )
    if bar is None or place is None:
        return
    step = plan.job.blank.steps[place]
    assert isinstance(step, InsertStep)
    moved = missing_ml * 1000 / (bar.depth_mm * bar.length_mm)
    way = "out" if moved > 0 else "in"
    edit = Edit(path_to(as_kind(InsertStep, JOB.blank.steps[place]).middle_mm), round(step.middle_mm + moved, 2))
    yield Remedy(f"Draw the edge {plan.units.mm(abs(moved))} further {way}", (edit,))


def _thicker(plan: Plan, widest_mm: float) -> Iterator[Remedy]:
    fitting = [
        mould
        for mould in plan.shop.moulds
        if bar_section(mould).smallest_mm >= widest_mm - 1e-6
        and (plan.pen is None or mould.length_mm >= plan.pen.length_needed_mm.value)
    ]
    if fitting:
        best = min(fitting, key=lambda mould: bar_section(mould).smallest_mm)
        edits = (Edit(path_to(JOB.pour.mould), best), Edit(path_to(JOB.blank.tube_starts_mm), ()))
        yield Remedy(f"Pour into {best.name}, {plan.units.mm(bar_section(best).smallest_mm)}", edits)


def _slower(plan: Plan, life_min: float) -> Iterator[Remedy]:
    """Fewer bars at once where that helps, or a slower resin from the shelf."""
    pour, cups = plan.job.pour, len(plan.job.cast.wet)
    left_min = HASTE * life_min - cups * pour.mix_min_per_cup
    bars = int(left_min * 60 / pour.pour_s_per_bar)
    most = declared(Pour, "most_bars_at_once").high
    if 1 <= bars < plan.bars.bars_per_casting and bars <= most:
        yield Remedy(f"Cast at most {bars} at a time", (Edit(path_to(JOB.pour.most_bars_at_once), bars),))
    assert plan.pace is not None
    wanted = plan.pace.working_min.value / HASTE
    largest_g = max((cup.mass_g.value for cup in plan.mixture.wet), default=1.0) if plan.mixture else 1.0
    slower = [
        resin
        for resin in plan.shop.resins
        if resin.pot_life_min
        and pot_life_min(resin.pot_life_min.value, resin.pot_life_mass_g, largest_g) >= wanted
        and resin != pour.resin
        and pour.resin is not None
        and resin.family
        == pour.resin.family  # another chemistry wants other moulds, masks and drying: no button for that
    ]
    if slower:
        best = min(slower, key=lambda resin: resin.pot_life_min.value if resin.pot_life_min else 0)
        yield Remedy(f"Use {best.name}", (Edit(path_to(JOB.pour.resin), best),))
