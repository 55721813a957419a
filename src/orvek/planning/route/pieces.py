"""What lies on the bench between the operations: `with_pieces` gives each what it takes, gives and leaves over.

An operation takes what those before it gave, whole; what it does not work on stays on the bench untouched.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator

from msgspec.structs import replace

from orvek.documents import Step
from orvek.planning.bar import narrowed
from orvek.planning.finish.results import FinishPlan, SizePlan
from orvek.planning.glue_up.order import sawn_first
from orvek.planning.glue_up.saw import Stock, added_up
from orvek.planning.layout import Layout
from orvek.planning.results import Plan
from orvek.planning.route.making import blanks_of
from orvek.planning.route.mending import stem_of
from orvek.planning.route.results import Operation, WorkPiece
from orvek.planning.shortening import SHORTEN
from orvek.planning.working import Figure
from orvek.quantities import write_bit
from orvek.workpiece.lengths import starts_mm

Sizes = tuple[float, float, float]  # left, in the middle, right
_LET_IN = ("Inlay", "Sheet")  # what is let into a cut, or laid round
LEAST_LEFT_MM = 15.0  # a shorter end is thrown away (a choice)
_SHORTENED = "shortened"
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
    stock = tuple(_stock(plan, piece) for piece in added_up(plan.glue_up.stock if plan.glue_up else ()))
    wood = tuple(piece for piece in bench if piece.name == "Wood")
    return wood or stock, stock, ()


def _stock(plan: Plan, piece: Stock) -> WorkPiece:
    sizes = (piece.length_mm, piece.width_mm, piece.thickness_mm)
    return WorkPiece(stock_name(plan, piece), piece.count, *sizes)


def _worked(plan: Plan, layout: Layout, one: Operation, bench: Pieces) -> _Flowed:
    """A step of the saw or the clamps: from the bar before the step to the bar after it, or to its pieces."""
    index = int(one.key.rsplit(".", 1)[1])
    steps = plan.job.blank.steps
    bars = max(1, round(plan.bars.bars.value) if plan.glue_up is None else plan.glue_up.bars)
    sheets = tuple(piece for piece in bench if piece.name.startswith(_LET_IN))
    body = tuple(piece for piece in bench if piece not in sheets)
    is_apart = any(joint.step == index for joint in (plan.glue_up.joints if plan.glue_up else ()))
    if one.kind == "cut" and (is_apart or index in sawn_first(plan.job, layout.raw)):
        cuts = plan.glue_up.cuts if plan.glue_up else ()
        own = [cut for cut in cuts if cut.step == index and not (cut.is_to_length or cut.is_squaring)]
        through = sum(cut.count for cut in own if cut.depth_mm is None)  # a tab holds its piece together
        count = sum(piece.count for piece in body) + bars * through
        name = f"Pieces of step {index + 1}"
        return body, (replace(_bar(layout, steps, index, bars), name=name, count=count),), ()
    if one.kind != "join":
        return body, (_bar(layout, steps, index + 1, bars),), ()
    glued = sawn_first(plan.job, layout.raw) or (index,)
    glued = glued if index in glued else (index,)
    used, left = _let_in(plan, glued, sheets)
    return (*body, *used), (_bar(layout, steps, max(glued) + 1, bars), *left), ()


def stock_name(plan: Plan, piece: Stock) -> str:
    """What a piece of the stock is called, with what it is of."""
    return f"{piece.name}, {plan.job.blank.material(piece.material).name.lower()}"


def _let_in(plan: Plan, steps: Collection[int], sheets: Pieces) -> tuple[Pieces, Pieces]:
    """What some steps let in of the sheets on the bench, and what of them is left for later steps."""
    stock = [_stock(plan, piece) for piece in (plan.glue_up.stock if plan.glue_up else ()) if piece.step in steps]
    wanted = [sum(one.count for one in stock if replace(one, count=sheet.count) == sheet) for sheet in sheets]
    counted = list(zip(sheets, wanted, strict=True))
    used = tuple(sheet for sheet, count in counted if count)
    return used, tuple(replace(sheet, count=sheet.count - n) for sheet, n in counted if 0 < n < sheet.count)


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
        WorkPiece(place.barrel.name, blanks, place.piece.length_mm, layout.width_mm, layout.depth_mm)
        for place in layout.tubes
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


def _mended(plan: Plan, _layout: Layout, one: Operation, bench: Pieces) -> _Flowed:
    """A blank whose ends are cut off lies there shorter from now on; else all stays as it is."""
    blank = one.key.split(".")[1]
    short = next((short for short in _shorter(plan) if one.key.startswith(short[0])), None)
    place = None
    if short is not None:
        whole = (n for n, piece in enumerate(bench) if piece.name == short[1] and piece.marks[-1:] != (_SHORTENED,))
        place = next(whole, None)
    if short is None or place is None:
        return bench, bench, ()
    piece = bench[place]
    rest = (replace(piece, count=piece.count - 1),) if piece.count > 1 else ()
    mended = replace(piece, count=1, length_mm=short[2], marks=(*piece.marks, f"blank {blank}", _SHORTENED))
    return bench, (*bench[:place], *rest, mended, *bench[place + 1 :]), ()


def _shorter(plan: Plan) -> Iterator[tuple[str, str, float]]:
    """The barrels whose ends are to be cut off: how their operation's key begins, their name, what is left of them."""
    for one in plan.faults.found if plan.faults is not None else ():
        way = one.chosen
        for edit in way.look if way is not None and way.key == SHORTEN else ():
            if edit.path[-1] == "tube_length_mm" and isinstance(edit.value, float):
                yield f"{stem_of(one.fault)}.", one.barrel.name, edit.value


def _sized(of: Callable[[FinishPlan, SizePlan], Sizes]) -> Callable[[Plan, Layout, Operation, Pieces], _Flowed]:
    """Every barrel on the diameters that it has then: left, in the middle, right."""

    def flow(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
        finish = plan.finish
        assert finish is not None  # else there was no such operation
        sizes = {size.barrel.name: of(finish, size) for size in finish.sizes}
        return bench, tuple(_on(piece, sizes[piece.name]) if piece.name in sizes else piece for piece in bench), ()

    return flow


def _on(piece: WorkPiece, sizes: Sizes) -> WorkPiece:
    return replace(piece, diameter_mm=sizes, width_mm=max(sizes), depth_mm=max(sizes))


def _more(figures: tuple[Figure, Figure, Figure], more_mm: float) -> Sizes:
    left, middle, right = (figure.value + more_mm for figure in figures)
    return left, middle, right


def _turned(_finish: FinishPlan, size: SizePlan) -> Sizes:
    return _more(size.tool_mm, 0.0)


def _wrapped(finish: FinishPlan, size: SizePlan) -> Sizes:
    return _more(size.tool_mm, 2 * (finish.wrap.step.sheet_mm if finish.wrap else 0.0))


def _sanded(finish: FinishPlan, size: SizePlan) -> Sizes:
    return _more(size.tool_mm, -2 * finish.sanded_mm.value)


def _coated(finish: FinishPlan, size: SizePlan) -> Sizes:
    return _more(size.finished_mm, 2 * finish.levelled_mm.value if finish.level else 0.0)


def _finished(_finish: FinishPlan, size: SizePlan) -> Sizes:
    return _more(size.finished_mm, 0.0)


def _pressed(plan: Plan, _layout: Layout, _one: Operation, bench: Pieces) -> _Flowed:
    pens = plan.job.batch.pens_wanted
    long = sum({piece.name: piece.length_mm for piece in reversed(bench)}.values())  # a shortened one is a pen's own
    across = max((piece.width_mm for piece in bench), default=0.0)
    name = plan.job.pen.name if plan.job.pen is not None else "Pen"
    return bench, (WorkPiece(name, pens, long, across, across, datum="", marks=("finished pen",)),), ()


def taken(one: Operation) -> Pieces:
    """What an operation works on: of alike pieces of which it leaves some as they are, only the others."""
    if one.takes == one.gives:
        return one.takes
    left = {replace(piece, count=0): piece.count for piece in one.gives}
    used = (replace(piece, count=piece.count - left.get(replace(piece, count=0), 0)) for piece in one.takes)
    return tuple(piece for piece in used if piece.count > 0)


def lines_of(pieces: Pieces, plan: Plan) -> Iterator[str]:
    """Work pieces in words."""
    units = plan.units
    for piece in pieces:
        if piece.length_mm <= 0:
            yield f"{piece.count} × {piece.name}"
            continue
        sizes = (piece.length_mm, piece.width_mm, piece.depth_mm)
        across = f"{units.mm(sizes[0])} long, {units.mm(sizes[1])} × {units.mm(sizes[2])}"
        if piece.diameter_mm is not None:
            across = f"{units.mm(sizes[0])} long, ⌀ {', '.join(units.mm(one, 2) for one in piece.diameter_mm)}"
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
    "turn": _sized(_turned),
    "wrap": _sized(_wrapped),
    "sand": _sized(_sanded),
    "coat": _sized(_coated),
    "level": _sized(_finished),
    "polish": _sized(_finished),
    "mend": _mended,
    "press": _pressed,
}
