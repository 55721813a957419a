"""What lies on the bench between the operations: `with_pieces` gives each what it takes, gives and leaves over.

An operation takes what those before it gave, whole; what it does not work on stays on the bench untouched.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from msgspec.structs import replace

from orvek.documents import ArcStep, CutStep, Step
from orvek.planning.bar import narrowed
from orvek.planning.finish.results import SizePlan
from orvek.planning.glue_up.order import SAW_ALL_FIRST
from orvek.planning.results import Layout, Plan
from orvek.planning.route.making import blanks_of
from orvek.planning.route.results import Operation, WorkPiece
from orvek.quantities import write_bit
from orvek.workpiece.lengths import bare_sheet_mm, starts_mm

_THREE = 3
_LET_IN = ("Inlay", "Sheet")  # what is let into a cut, or laid round
LEAST_LEFT_MM = 15.0  # a shorter end is thrown away (a choice)
Pieces = tuple[WorkPiece, ...]


def with_pieces(plan: Plan, operations: tuple[Operation, ...]) -> tuple[Operation, ...]:
    """The operations with their work pieces; without them while nobody knows how long the bar is."""
    if plan.layout is None:
        return operations
    bench = _begun(plan, plan.layout, operations)
    found = []
    for one in operations:
        takes, gives, makes = _FLOWS.get(_flow(one), _untouched)(plan, plan.layout, one, bench)
        bench = (*(piece for piece in bench if piece not in takes), *gives)
        found.append(replace(one, takes=takes, gives=gives, makes=makes))
    return tuple(found)


def _begun(plan: Plan, layout: Layout, operations: tuple[Operation, ...]) -> Pieces:
    """The bars that lie on the bench before anything is done."""
    if not plan.job.blank.bars or any(one.kind in {"pour", "soak"} for one in operations):
        return ()
    index = (plan.job.cast_index or 0) + 1 if plan.job.cast_index is not None else 0
    bar = _bar(layout, plan.job.blank.steps, index, max(1, round(plan.bars.bars.value)))
    section = plan.bars.section
    return (bar if section is None else replace(bar, length_mm=section.length_mm),)


_Flowed = tuple[Pieces, Pieces, Pieces]  # taken, given, left over


def _flow(one: Operation) -> str:
    if one.key.startswith("over."):
        return "over"
    return "cut" if one.kind in {"plug", "join"} else one.kind


def _untouched(_plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    """What is on the bench is worked on and stays as it is."""
    return bench, bench, ()


def _treated(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    wood = plan.job.soak.wood
    begun = bench or (WorkPiece("Wood", max(1, wood.count), wood.length_mm, wood.width_mm, wood.depth_mm),)
    return begun, begun, ()


def _milled(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    """Stock from the boards, as the cut list begins with it; wood that was treated becomes part of it."""
    alike: dict[WorkPiece, int] = {}
    for piece in plan.cutting.stock if plan.cutting else ():
        one = WorkPiece(piece.name, 1, piece.length_mm, piece.width_mm, piece.thickness_mm)
        alike[one] = alike.get(one, 0) + piece.count
    stock = tuple(replace(one, count=count) for one, count in alike.items())
    wood = tuple(piece for piece in bench if piece.name == "Wood")
    return wood or stock, stock, ()


def _worked(plan: Plan, layout: Layout, one: Operation, bench: Pieces) -> _Flowed:
    """A step of the saw or the clamps: from the bar before the step to the bar after it, or to its pieces."""
    index = int(one.key.rsplit(".", 1)[1])
    steps = plan.job.blank.steps
    bars = max(1, round(plan.bars.bars.value) if plan.cutting is None else plan.cutting.bars)
    sheets = tuple(piece for piece in bench if piece.name.startswith(_LET_IN))
    body = tuple(piece for piece in bench if piece not in sheets)
    joints = plan.cutting.joints if plan.cutting else ()
    is_apart = any(joint.step == index for joint in joints) or plan.job.glue_up.order == SAW_ALL_FIRST
    if one.kind == "cut" and is_apart and any(joint.step <= index for joint in joints):
        cuts = plan.cutting.cuts if plan.cutting else ()
        own = [cut for cut in cuts if cut.step == index and not (cut.is_to_length or cut.is_squaring)]
        count = bars * (sum(cut.count for cut in own) + 1)
        name = f"Pieces of step {index + 1}"
        return body, (replace(_bar(layout, steps, index, bars), name=name, count=count),), ()
    used, left = _let_in(steps[index], sheets, bars) if one.kind == "join" else ((), ())
    return (*body, *used), (_bar(layout, steps, index + 1, bars), *left), ()


def _let_in(step: Step, sheets: Pieces, bars: int) -> tuple[Pieces, Pieces]:
    """What a step lets in of the sheets on the bench, and what of them is left for later steps."""
    if not isinstance(step, CutStep | ArcStep):
        return sheets, ()
    layers = [round(layer.thickness_mm, 2) for layer in step.sheet]
    if step.sheet_form == "one bonded sheet" and layers:
        layers = [round(bare_sheet_mm(step), 2)]
    used, left = [], []
    for sheet in sheets:
        wanted = bars * layers.count(sheet.depth_mm)
        if wanted:
            used.append(sheet)
            left += [replace(sheet, count=sheet.count - wanted)] if sheet.count > wanted else []
            layers = [one for one in layers if one != sheet.depth_mm]
    return tuple(used), tuple(left)


def _bar(layout: Layout, steps: tuple[Step, ...], before: int, count: int) -> WorkPiece:
    """The bar as it is before a step; after the last one as it is bored."""
    lengths = (*starts_mm(steps, layout.length_mm), layout.length_mm)
    width, depth, _ = narrowed(steps[:before], layout.raw)
    return WorkPiece("Bar", count, lengths[before], width, depth)


def _weighed(plan: Plan, _layout: Layout, one: Operation, _bench: Pieces) -> _Flowed:
    return (), (_resin(plan, one),), ()


def _resin(plan: Plan, one: Operation) -> WorkPiece:
    number = one.key.rsplit(".", 1)[1]
    cups = len(plan.mixture.wet) if plan.mixture else 1
    return WorkPiece(f"Mixed resin {number}", max(1, cups), 0.0, 0.0, 0.0, datum="")


def _poured(plan: Plan, layout: Layout, one: Operation, bench: Pieces) -> _Flowed:
    number = one.key.rsplit(".", 1)[1]
    resin = tuple(piece for piece in bench if piece.name == f"Mixed resin {number}")
    laid_in = tuple(piece for piece in bench if not piece.name.startswith(("Mixed", "Casting", "Bar")))
    insert = next((step for step in plan.job.blank.steps if step.kind == "insert"), None)
    if insert is not None and not laid_in:
        bar = _cast_bar(plan, layout)
        laid_in = (replace(bar, name="Piece to lay in"),)
    return (*resin, *laid_in), (replace(_cast_bar(plan, layout), name=f"Casting {number}"),), ()


def _cast_bar(plan: Plan, layout: Layout) -> WorkPiece:
    index = plan.job.cast_index or 0
    bar = _bar(layout, plan.job.blank.steps, index + 1, max(1, plan.bars.bars_per_casting))
    section = plan.bars.section
    if section is None:
        return bar
    return replace(bar, length_mm=section.length_mm, width_mm=section.width_mm, depth_mm=section.depth_mm)


def _demoulded(plan: Plan, layout: Layout, one: Operation, bench: Pieces) -> _Flowed:
    number = one.key.rsplit(".", 1)[1]
    casting = tuple(piece for piece in bench if piece.name == f"Casting {number}")
    return casting, (replace(_cast_bar(plan, layout), name=f"Bar {number}" if number != "1" else "Bar"),), ()


def _sawn(plan: Plan, layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    """The bars to the pieces of their barrels; what lies between and beyond them is left over."""
    bars, blanks = max(1, round(plan.bars.bars.value)), blanks_of(plan)
    whole = bench or (_bar(layout, plan.job.blank.steps, len(plan.job.blank.steps), bars),)
    pieces = tuple(
        WorkPiece(place.name, blanks, place.piece.length_mm, layout.width_mm, layout.depth_mm) for place in layout.tubes
    )
    left = (span.end_mm - span.start_mm for span in layout.waste)
    ends = (
        WorkPiece("Leftover", bars, long, layout.width_mm, layout.depth_mm) for long in left if long >= LEAST_LEFT_MM
    )
    return whole, pieces, tuple(ends)


def _bored(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    holes = {hole.name: hole for hole in (plan.bore.holes if plan.bore else ())}
    marks = {
        name: f"hole {write_bit(hole.bored_mm, plan.units)} {'from the left' if hole.from_left else 'from the right'}"
        for name, hole in holes.items()
    }
    return bench, tuple(replace(one, marks=(*one.marks, marks.get(one.name, ""))) for one in bench), ()


def _marked(words: str) -> Callable[[Plan, Layout, Operation, Pieces], _Flowed]:
    def flow(_plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
        return bench, tuple(replace(piece, marks=(*piece.marks, words)) for piece in bench), ()

    return flow


def _squared(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    long = {hole.name: hole.square_to_mm.value for hole in (plan.bore.holes if plan.bore else ())}
    return bench, tuple(replace(one, length_mm=long.get(one.name, one.length_mm)) for one in bench), ()


def _sized(of: Callable[[Plan, SizePlan], tuple[float, ...]]) -> Callable[[Plan, Layout, Operation, Pieces], _Flowed]:
    """Every barrel on the diameters that it has then: left, in the middle, right."""

    def flow(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
        sizes = {size.barrel.name: of(plan, size) for size in (plan.finish.sizes if plan.finish else ())}
        return bench, tuple(_on(piece, sizes.get(piece.name)) for piece in bench), ()

    return flow


def _on(piece: WorkPiece, sizes: tuple[float, ...] | None) -> WorkPiece:
    if sizes is None or len(sizes) != _THREE:
        return piece
    left, middle, right = sizes
    most = max(sizes)
    return replace(piece, diameter_mm=(left, middle, right), width_mm=most, depth_mm=most)


def _turned_mm(_plan: Plan, size: SizePlan) -> tuple[float, ...]:
    return tuple(figure.value for figure in size.tool_mm)


def _wrapped_mm(plan: Plan, size: SizePlan) -> tuple[float, ...]:
    wrap = plan.finish.wrap if plan.finish else None
    sheet_mm = wrap.step.sheet_mm if wrap is not None else 0.0
    return tuple(value + 2 * sheet_mm for value in _turned_mm(plan, size))


def _sanded_mm(plan: Plan, size: SizePlan) -> tuple[float, ...]:
    gone_mm = 2 * plan.finish.sanded_mm.value if plan.finish else 0.0
    return tuple(value - gone_mm for value in _turned_mm(plan, size))


def _coated_mm(plan: Plan, size: SizePlan) -> tuple[float, ...]:
    finish = plan.finish
    if finish is None:
        return ()
    levelled_mm = finish.levelled_mm.value if finish.level else 0.0
    return tuple(figure.value + 2 * levelled_mm for figure in size.finished_mm)


def _finished_mm(_plan: Plan, size: SizePlan) -> tuple[float, ...]:
    return tuple(figure.value for figure in size.finished_mm)


def _pressed(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    pens = plan.job.batch.pens_wanted
    long = sum(piece.length_mm for piece in bench)
    across = max((piece.width_mm for piece in bench), default=0.0)
    name = plan.job.pen.name if plan.job.pen is not None else "Pen"
    return bench, (WorkPiece(name, pens, long, across, across, datum="", marks=("finished pen",)),), ()


def lines_of(pieces: Pieces, plan: Plan) -> Iterator[str]:
    """Work pieces in words."""
    for piece in pieces:
        if piece.length_mm <= 0:
            yield f"{piece.count} × {piece.name}"
            continue
        sizes = (piece.length_mm, piece.width_mm, piece.depth_mm)
        across = f"{plan.mm(sizes[0])} long, {plan.mm(sizes[1])} × {plan.mm(sizes[2])}"
        if piece.diameter_mm is not None:
            across = f"{plan.mm(sizes[0])} long, ⌀ {', '.join(plan.mm(one, 2) for one in piece.diameter_mm)}"
        yield f"{piece.count} × {piece.name}: {across}"


_FLOWS: dict[str, Callable[[Plan, Layout, Operation, Pieces], _Flowed]] = {
    "soak": _treated,
    "mill": _milled,
    "cut": _worked,
    "weigh": _weighed,
    "pour": _poured,
    "demould": _demoulded,
    "length": _sawn,
    "bore": _bored,
    "paint": _marked("painted inside"),
    "tube": _marked("tube glued in"),
    "square": _squared,
    "turn": _sized(_turned_mm),
    "wrap": _sized(_wrapped_mm),
    "sand": _sized(_sanded_mm),
    "coat": _sized(_coated_mm),
    "level": _sized(_finished_mm),
    "press": _pressed,
}
