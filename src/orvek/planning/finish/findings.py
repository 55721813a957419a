"""What is to be said of sizes, grits and coats."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft import coating
from orvek.craft.abrasives import WIDE_GAP, removed_um
from orvek.craft.pressing import apart_deg
from orvek.craft.turning import LEAST_WALL_MM
from orvek.documents import JOB, Finish, path_to, present
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.finish.coats import coat_sizes
from orvek.planning.finish.edges import edge_due
from orvek.planning.finish.ends import ends
from orvek.planning.finish.lathe import support, tear_out, wear
from orvek.planning.finish.press import depth_window, depth_words, out_of_order, snapped_deg
from orvek.planning.finish.results import PLACES, FinishPlan
from orvek.planning.finish.truing import out_of_true, stacks
from orvek.planning.finish.voids import voids
from orvek.planning.finish.wrap import placed, prints
from orvek.planning.results import Plan

_THROUGH_PCT = 10.0  # of the ends: more often than one in ten is worth a word (a choice)
_PART_MM = 0.15  # a part that differs so much from the pen's size is felt at the lip (workshop practice)
_GONE_MM = 0.05


def empty_drawer(plan: Plan) -> Iterator[Finding]:
    """Grits that are named and lie in no drawer."""
    for name in plan.finish.unknown if plan.finish else ():
        because = "It is neither in your drawer nor among the usual ones; the ladder leaves it out."
        fields = ("bare_from", "bare_to", "level_from", "level_to")
        where = [field for field in fields if getattr(plan.job.finish, field) == name]
        edits = tuple(Edit((*path_to(JOB.finish), field), getattr(Finish(), field)) for field in where)
        remedy = Remedy("Take the usual ones", edits)
        yield Finding(Severity.CAUTION, Station.FINISH, f"“{name}” is no abrasive you have.", because, (remedy,))


def gaps(plan: Plan) -> Iterator[Finding]:
    """Steps between two grits over which scratches stay."""
    if plan.finish is None:
        return
    wide = [rung for rung in (*plan.finish.bare, *plan.finish.level) if rung.ratio > WIDE_GAP]
    if wide:
        worst = max(wide, key=lambda rung: rung.ratio)
        because = (
            f"It is {worst.ratio:.1f} times as fine as what was used before it; scratches that deep take "
            f"{worst.minutes:.0f} min and more to go. Something between them saves the time."
        )
        title = f"A wide gap before {worst.abrasive.name}."
        yield Finding(Severity.NOTE, Station.FINISH, title, because)


def through(plan: Plan) -> Iterator[Finding]:
    """Coats that levelling may go through."""
    finish = plan.finish
    if finish is None or not finish.coats_mm.value:
        return
    coats, taken = finish.coats_mm.value, finish.levelled_mm.value
    how = plan.finishing
    total = how.thin_coats + how.medium_coats
    remedies = []
    if finish.coats_wanted is not None and finish.coats_wanted > total:
        more = finish.coats_wanted - total
        field, now = ("medium", how.medium_coats) if how.medium_coats else ("thin", how.thin_coats)
        remedies.append(Remedy(f"{now + more} {field} coats", (Edit((*path_to(JOB.finish), field), now + more),)))
    remedies += _finer(finish)
    if coats <= taken:
        because = (
            f"{plan.units.mm(coats, 3)} of coats, and levelling takes {plan.units.mm(taken, 3)}: nothing would be left."
        )
        title = "The coats are thinner than their scratches."
        yield Finding(Severity.CAUTION, Station.FINISH, title, because, tuple(remedies))
    elif finish.through_ends_pct.value > _THROUGH_PCT:
        because = (
            f"At the ends in {finish.through_ends_pct.written(plan.units)} of barrels, in the middle in "
            f"{finish.through_middle_pct.written(plan.units)}: coats lie thin at ends and shoulders."
        )
        yield Finding(Severity.NOTE, Station.FINISH, "You may sand through the coats.", because, tuple(remedies))


def _finer(finish: FinishPlan) -> Iterator[Remedy]:
    """The coarsest step of the ladder from which on levelling spares the ends."""
    for number, rung in enumerate(finish.level[1:], 1):
        taken = 1000 * finish.levelled_mm.value - removed_um(finish.level[: number + 1])
        chance = coating.through_chance(1000 * finish.coats_mm.value, taken, coating.CV_ENDS)
        if 100 * chance <= _THROUGH_PCT:
            yield Remedy(
                f"Level from {rung.abrasive.name}", (Edit(path_to(JOB.finish.level_from), rung.abrasive.name),)
            )
            return


def parts(plan: Plan) -> Iterator[Finding]:
    """Parts that measure otherwise than the pen says, and barrels that become too thin by them."""
    units = plan.units
    for size in plan.finish.sizes if plan.finish else ():
        barrel = size.barrel
        for place, part_mm, pen_mm in (
            ("left", size.sized.part_left_mm, barrel.finished_left_mm),
            ("right", size.sized.part_right_mm, barrel.finished_right_mm),
        ):
            if part_mm is not None and abs(part_mm - pen_mm) > _PART_MM:
                because = f"The part measures {units.mm(part_mm, 2)}, the pen says {units.mm(pen_mm, 2)}."
                edit = Edit((*path_to(present(JOB.pen).barrels[size.number]), f"finished_{place}_mm"), part_mm)
                remedy = Remedy(f"Make {units.mm(part_mm, 2)} the pen's", (edit,))
                title = f"{barrel.name}: the {place} part is another size."
                yield Finding(Severity.NOTE, Station.FINISH, title, because, (remedy,))
        thin = min((tool.value - barrel.bit_diameter_mm) / 2 for tool in size.tool_mm)
        if thin < LEAST_WALL_MM:
            because = f"At its slimmest {units.mm(max(0.0, thin), 2)} of wall would be left before sanding."
            yield Finding(Severity.CAUTION, Station.FINISH, f"{barrel.name}: turned through to the hole.", because)


def gone(plan: Plan) -> Iterator[Finding]:
    """A caliper reading below what the tool may leave."""
    units = plan.units
    for size in plan.finish.sizes if plan.finish else ():
        low = [
            (place, -still)
            for place, still in zip(PLACES, size.still_mm, strict=True)
            if still is not None and still < -_GONE_MM
        ]
        if low:
            place, by = max(low, key=lambda one: one[1])
            coats = max(1, round(by * 1000 / 2 / coat_sizes(plan).medium_um))
            where = "in the middle" if place == "middle" else f"at the {place}"
            many = f"{coats} more medium coat{'s' if coats > 1 else ''}"
            because = (
                f"It is {units.mm(by, 2)} under its size {where}. About {many} bring it back; bare, it stands below "
                "its part."
            )
            yield Finding(Severity.CAUTION, Station.FINISH, f"{size.barrel.name}: too much is gone.", because)


def water(plan: Plan) -> Iterator[Finding]:
    """Water on bare wood; one that is full of resin does not mind it."""
    is_bare = (plan.job.blank.woods or plan.job.soak.route != "nothing") and plan.job.soak.route != "stabilised"
    if plan.finish is not None and plan.job.finish.wet == "wet throughout" and is_bare:
        because = "Water raises the grain and swells wood against resin; metal dust stains it. Coat it first, then wet."
        remedy = Remedy("Dry to P400, then wet", (Edit(path_to(JOB.finish.wet), "dry to P400, then wet"),))
        yield Finding(Severity.CAUTION, Station.FINISH, "No water on bare wood.", because, (remedy,))


def mechanism(plan: Plan) -> Iterator[Finding]:
    """A mechanism that was pressed too deep."""
    window = depth_window(plan.job)
    if plan.finish is not None and window is not None and window.is_too_deep:
        because = str(depth_words(window, plan.units))
        title = f"{window.part.name}: pressed too deep."
        yield Finding(Severity.CAUTION, Station.FINISH, title, because)


def parts_order(plan: Plan) -> Iterator[Finding]:
    """A part that is pressed in over a place that a later one needs."""
    pen = plan.job.pen
    closed = out_of_order(pen) if pen is not None and plan.finish is not None else None
    if pen is None or closed is None:
        return
    first, later = closed
    because = (
        f"{first.name} is {first.how} and cannot be drawn out again; {later.name} goes {later.into or 'there'}, and "
        "stands after it in the order."
    )
    others = [part for part in pen.parts if part is not later]
    place = next(n for n, part in enumerate(others) if part is first)
    parts = (*others[:place], later, *others[place:])
    remedy = Remedy(f"{later.name} before {first.name}", (Edit(path_to(present(JOB.pen).parts), parts),))
    title = f"{later.name} finds its place closed."
    yield Finding(Severity.CAUTION, Station.FINISH, title, because, (remedy,))


def clip(plan: Plan) -> Iterator[Finding]:
    """A clip that hides what was to be seen."""
    finish = plan.job.finish
    if plan.finish is None or plan.finish.clip is None or finish.best_deg is None:
        return
    if apart_deg(finish.best_deg, finish.clip_deg) <= plan.finish.clip.covers_deg.value / 2:
        up = snapped_deg(plan.job, "best side up")
        because = f"It covers {plan.finish.clip.covers_deg.written(plan.units)} just there."
        remedy = Remedy("Turn it so that the best side lies up", (Edit(path_to(JOB.finish.clip_deg), up),))
        yield Finding(Severity.NOTE, Station.FINISH, "The clip hides the best side.", because, (remedy,))


CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    empty_drawer,
    gaps,
    through,
    parts,
    gone,
    water,
    tear_out,
    support,
    parts_order,
    wear,
    mechanism,
    clip,
    voids,
    prints,
    placed,
    stacks,
    out_of_true,
    edge_due,
    ends,
)
