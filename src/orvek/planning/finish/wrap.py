"""A printed sheet round the barrels: turned under by how much, cut how, printed how fine, covered how thick."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from orvek.craft.wrapping import FINE_DPI, Development, development, dots_per_inch, seam_wander_mm, under_mm
from orvek.documents import JOB, Barrel, WrapStep, as_kind, path_to, present
from orvek.documents.job.printing import size_px
from orvek.planning.bar import bar_size
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.finish.results import WrapPlan, WrapSheet
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _GRAIN = Dimension.LENGTH, Dimension.GRAIN
_OUT_MM = 0.1  # out of straight or round, as a good core is turned (workshop practice)
_LEAST_LOST_MM, _LONGEST_MM = 0.5, 200.0  # of a picture; the longest a step can have it
_BULGE_MM = 0.15  # a sheet creases on more of a curve than that (workshop practice)


def wrap_plan(plan: Plan, coats_um: float, levelled_um: float) -> WrapPlan | None:
    """The first printed sheet of the blank; None where there is none."""
    found = next(((n, step) for n, step in enumerate(plan.job.blank.steps) if isinstance(step, WrapStep)), None)
    if found is None or plan.layout is None:
        return None
    index, step = found
    sheets = tuple(_coated(plan, step, coats_um, levelled_um) if step.covered == "coated" else [_cast(plan, step)])
    return WrapPlan(index, step, sheets, _dpi(step), _wander(), tuple(_lines(plan, step, sheets)))


def _coated(plan: Plan, step: WrapStep, coats_um: float, levelled_um: float) -> Iterator[WrapSheet]:
    assert plan.layout is not None
    for number, place in enumerate(plan.layout.tubes):
        barrel = place.barrel
        ends = (("left", barrel.finished_left_mm), ("right", barrel.finished_right_mm))
        left, right = (_under(step, name, size, coats_um, levelled_um) for name, size in ends)
        flat = _flat(left.value, right.value, barrel.tube_length_mm, step)
        start, long, bulge = place.tube.start_mm, barrel.tube_length_mm, _bulge_mm(barrel)
        yield WrapSheet(number, barrel.name, start, long, (left, right), flat, bulge)


def _cast(plan: Plan, step: WrapStep) -> WrapSheet:
    long = bar_size(plan.layout)[2]
    terms = (Term("core", "as the step says", step.core_mm, _MM),)
    figure = Figure("Turn the core to", step.core_mm, _MM, "the step's core", terms, "cast over", digits=2)
    return WrapSheet(None, "The bar", 0.0, long, (figure, figure), _flat(step.core_mm, step.core_mm, long, step), 0.0)


def _flat(left_mm: float, right_mm: float, length_mm: float, step: WrapStep) -> Development:
    sizes = (max(0.5, size) for size in (left_mm, right_mm))
    return development(*sizes, length_mm, step.sheet_mm, step.bleed_mm, step.overlap_mm)


def _under(step: WrapStep, end: str, finished_mm: float, coats_um: float, levelled_um: float) -> Figure:
    terms = (
        Term("D", f"finished, {end}", finished_mm, _MM),
        Term("t", "the sheet", step.sheet_mm, _MM),
        Term("C", "coats put on", coats_um, _GRAIN),
        Term("L", "levelling takes", levelled_um, _GRAIN),
    )
    value = under_mm(finished_mm, step.sheet_mm, coats_um, levelled_um)
    return Figure(f"Turn under to, {end}", value, _MM, "D − 2 · (t + C − L)", terms, "derived", digits=2)


def _bulge_mm(barrel: Barrel) -> float:
    """How far the outline lies off the straight line between its ends, on the diameter."""
    left, right = barrel.finished_left_mm, barrel.finished_right_mm
    return max(abs(size - (left + (right - left) * at)) for at, size in barrel.profile)


def _dpi(step: WrapStep) -> Figure | None:
    if step.artwork is None or step.pattern != "picture":
        return None
    wide, tall = size_px(step.artwork)
    along = wide if step.stands == "along the bar" else tall
    terms = (
        Term("n", "dots along", along, Dimension.COUNT),
        Term("L", "the picture is long", step.pitch_mm, _MM),
    )
    value = dots_per_inch(along, step.pitch_mm)
    return Figure("Dots an inch", value, Dimension.COUNT, "n / L · 25.4", terms, "300 and more look sharp", digits=0)


def _wander() -> Figure:
    terms = (Term("e", "too thick or thin somewhere", _OUT_MM, _MM, "practice"),)
    value = seam_wander_mm(_OUT_MM)
    return Figure("Mismatch at the seam", value, _MM, "π · e", terms, "derived: turn the core straight", digits=2)


def _lines(plan: Plan, step: WrapStep, sheets: tuple[WrapSheet, ...]) -> Iterator[str]:
    units = plan.units
    for sheet in sheets:
        left, right = sheet.under_mm
        sizes = units.mm(left.value, 2)
        if abs(left.value - right.value) > 0.005:
            sizes += f" at the left and {units.mm(right.value, 2)} at the right, straight between"
        widths = " and ".join(dict.fromkeys(units.mm(width) for width in sheet.flat.width_mm))
        cut = "Cut its sheet along the printed curve" if sheet.flat.is_taper else "Cut its sheet"
        yield f"{sheet.name}: turn under to {sizes}. {cut}: {units.mm(sheet.long_mm)} long, {widths} wide."
    if plan.job.orders and step.artwork is not None:
        yield "For pens that are sold: the picture is your own work, or you have leave in writing to use it."
    yield "Print at 100 %, measure both check lines; let the ink dry a day, and fix it with a thin spray."
    yield f"Try it dry: the edges overlap by {units.mm(step.overlap_mm)}, the seam where the clip will lie."
    yield "Spray glue or a thin even glue on the core, not on the print; lay the seam first, roll it on without air."
    yield "Seal both ends and the seam with thin glue by the drop, or the first wet coat creeps under the print."
    if step.covered == "coated":
        yield "First coats thin and by hand, the print swims in a wet one; then as Sanding and coats says."
        yield "Sand the ends flush last, from the outside in, so that the paper does not lift."
    else:
        yield "Cast over it only when the seal is dry; warm resin, pressure: paper holds air."


def prints(plan: Plan) -> Iterator[Finding]:
    """A picture printed too coarsely, one that is gone, and barrels on which no sheet lies flat."""
    units = plan.units
    wrap = plan.finish.wrap if plan.finish else None
    if wrap is None:
        return
    step = wrap.step
    if step.artwork is not None and not step.artwork.content:
        because = "It is not in the workshop file any more. Choose it again at the step of the sheet."
        yield Finding(Severity.CAUTION, Station.FINISH, f"The picture “{step.artwork.name}” is gone.", because)
    elif wrap.dpi is not None and wrap.dpi.value < FINE_DPI:
        fits = math.floor(10 * step.pitch_mm * wrap.dpi.value / FINE_DPI) / 10
        because = (
            f"It has {wrap.dpi.value:.0f} dots an inch at {units.mm(step.pitch_mm)}; 300 look sharp at arm's length."
        )
        edit = Edit(path_to(as_kind(WrapStep, JOB.blank.steps[wrap.index]).pitch_mm), fits)
        remedies = (Remedy(f"Make it {units.mm(fits)} long", (edit,)),) if fits >= 1 else ()
        yield Finding(Severity.NOTE, Station.FINISH, "The picture is printed coarsely.", because, remedies)
    for sheet in wrap.sheets:
        if sheet.number is None:
            continue
        if sheet.bulge_mm > _BULGE_MM:
            off = units.mm(sheet.bulge_mm, 2)
            because = f"The outline leaves the straight line by {off}. A sheet lies flat only on a straight barrel."
            remedy = Remedy("Make it straight", (Edit(path_to(present(JOB.pen).barrels[sheet.number].outline), ()),))
            yield Finding(Severity.CAUTION, Station.FINISH, f"{sheet.name}: the sheet creases.", because, (remedy,))
        thin = min(figure.value for figure in sheet.under_mm)
        bit = plan.job.laid[sheet.number].bit_diameter_mm
        if thin < bit:
            because = f"Under the sheet it would be {units.mm(thin, 2)}, and the hole is {units.mm(bit, 2)}."
            yield Finding(Severity.STOP, Station.FINISH, f"{sheet.name}: nothing is left under the sheet.", because)


def cut_away(plan: Plan) -> tuple[tuple[str, float], ...]:
    """What of a picture that is printed once comes to lie beside the barrels: where, and how many mm of it.

    Empty for one that is repeated or cast over, and where the bar has no pen.
    """
    wrap = plan.finish.wrap if plan.finish else None
    if wrap is None or wrap.dpi is None or wrap.step.times != "once" or wrap.step.covered != "coated":
        return ()
    begins, ends = wrap.step.shift_mm, wrap.step.shift_mm + wrap.step.pitch_mm
    spans = sorted((sheet.begins_mm, sheet.begins_mm + sheet.length_mm, sheet.name) for sheet in wrap.sheets)
    gaps = [(f"before {spans[0][2]}", -math.inf, spans[0][0])]
    gaps += [(f"between {one[2]} and {other[2]}", one[1], other[0]) for one, other in pairwise(spans)]
    gaps.append((f"beyond {spans[-1][2]}", spans[-1][1], math.inf))
    lost = ((where, min(ends, high) - max(begins, low)) for where, low, high in gaps)
    return tuple((where, mm) for where, mm in lost if mm > _LEAST_LOST_MM)


def placed(plan: Plan) -> Iterator[Finding]:
    """A picture of which a part is cut away: it is offered to begin where the first barrel does."""
    lost = cut_away(plan)
    wrap = plan.finish.wrap if plan.finish else None
    if not lost or wrap is None:
        return
    units, step = plan.units, wrap.step
    first = min(wrap.sheets, key=lambda sheet: sheet.begins_mm)
    last = max(wrap.sheets, key=lambda sheet: sheet.begins_mm)
    long = last.begins_mm + last.length_mm - first.begins_mm
    place = as_kind(WrapStep, JOB.blank.steps[wrap.index])
    begin = Edit(path_to(place.shift_mm), round(first.begins_mm, 2))
    remedies = (
        [] if abs(step.shift_mm - first.begins_mm) < _LEAST_LOST_MM else [Remedy("Begin at the barrel", (begin,))]
    )
    if 1 <= long <= _LONGEST_MM and abs(long - step.pitch_mm) > _LEAST_LOST_MM:
        remedies.append(
            Remedy(f"Make it {units.mm(long)} long", (begin, Edit(path_to(place.pitch_mm), round(long, 1))))
        )
    parts = ", ".join(f"{units.mm(mm)} {where}" for where, mm in lost)
    because = f"The picture is {units.mm(step.pitch_mm)} long; {parts} of it are cut away."
    yield Finding(
        Severity.NOTE, Station.FINISH, "Part of the picture lies beside the barrels.", because, tuple(remedies)
    )


def kept_shape_mm(step: WrapStep) -> float | None:
    """How long the picture is when it is neither squeezed nor stretched; None without one."""
    if step.artwork is None:
        return None
    wide, tall = size_px(step.artwork)
    if step.stands == "round the bar":
        wide, tall = tall, wide
    if not wide or not tall:
        return None
    return math.pi * (step.core_mm + step.sheet_mm) / step.around * wide / tall
