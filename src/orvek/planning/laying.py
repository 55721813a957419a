"""Where the tubes lie on the bar, where it is sawn, and what is left over.

A bar without a joint is one stretch; a two-in-one bar is parted at its joint, and no piece lies over it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from msgspec.structs import replace

from orvek.craft.laying_out import Span, blank_length_mm, gaps, packed_starts_mm
from orvek.craft.moulding import BarSection
from orvek.documents import Barrel, Blank, Job, Shop
from orvek.planning.bar import narrowed
from orvek.planning.bars import blank_mm, end_loss_mm, is_sawn_first, room_mm
from orvek.planning.exits import enters_left, exit_of
from orvek.planning.layout import BarsPlan, Layout, TubePlace
from orvek.workpiece.lengths import lengths_mm

_SLIVER_MM = 4.0  # less, and the kerf is squared off with the trim, never sawn: it would fly (workshop practice)
_TOUCH_MM = 1e-6
_SAME_PLACE_MM = 0.01


def laid_out(job: Job, shop: Shop, bars: BarsPlan) -> Layout | None:
    """The blank of a job with its tubes on it; None without a pen.

    Each piece is as long as its tube and its trim, and as much longer where its bit comes out as the bar has to
    spare there, at most what may tear out.
    """
    if job.pen is None:
        return None
    alone = is_sawn_first(job)
    start = blank_mm(bars, job.blank.saw_kerf_mm) if alone or bars.section is None else bars.section.length_mm
    finished = None if start is None else lengths_mm(job.blank.steps, start)[-1]
    exit_mm = exit_of(job, shop).length_mm
    blanks = 1 if alone else bars.blanks_per_bar
    room = max((room_mm(bar, job.blank.saw_kerf_mm) for bar in bars.in_hand), default=0.0)
    apart = all(barrel.piece_mm <= room + _TOUCH_MM for barrel in job.laid)
    layout = _laid(job.laid, job.blank, bars.section, finished, blanks, exit_mm, apart=apart)
    layout = _with_exits(_with_room(layout, job, exit_mm), job, exit_mm)
    return _as_sawn(layout) if job.blank.saw_kerf_mm > 0 else layout


def window_mm(layout: Layout, index: int, kerf_mm: float) -> Span:
    """From where to where a tube can begin without its piece meeting another, the joint or a lost end."""
    place = layout.tubes[index]
    own = place.trimmed
    low, high = layout.ends[0].end_mm, layout.ends[1].start_mm
    around = [other.trimmed for n, other in enumerate(layout.tubes) if n != index]
    for piece in (*around, *layout.others):
        if piece.end_mm <= own.start_mm + _TOUCH_MM:
            low = max(low, piece.end_mm + kerf_mm)
        elif piece.start_mm >= own.end_mm - _TOUCH_MM:
            high = min(high, piece.start_mm - kerf_mm)
    if layout.joint is not None:
        if layout.joint.end_mm <= own.start_mm + _TOUCH_MM:
            low = max(low, layout.joint.end_mm)
        elif layout.joint.start_mm >= own.end_mm - _TOUCH_MM:
            high = min(high, layout.joint.start_mm)
    tube = place.tube
    return Span(
        min(low + place.barrel.trim_mm, tube.start_mm), max(high - place.barrel.trim_mm - tube.length_mm, tube.start_mm)
    )


def _laid(
    barrels: tuple[Barrel, ...],
    blank: Blank,
    section: BarSection | None,
    length_mm: float | None,
    blanks_in_it: int,
    exit_mm: float,
    *,
    apart: bool,
) -> Layout:
    """Lay the tubes on the bar: where the maker put them, else packed in its middle, further blanks beside them.

    Without a mould or a bar in hand the bar is as long as the pen needs. `apart`: bars in hand give every barrel.
    """
    tubes = tuple((barrel.tube_length_mm, barrel.trim_mm) for barrel in barrels)
    kerf, lost = blank.saw_kerf_mm, end_loss_mm(section, blank)
    least = blank_length_mm(tubes, kerf, lost)
    # Barrels that must come from several bars are drawn on one that would hold them all.
    through = sum(barrel.is_through for barrel in barrels)
    length = max(length_mm, least) if length_mm and apart else length_mm or least + through * exit_mm
    joint = _joint(blank, length)
    by_hand = len(blank.tube_starts_mm) == len(tubes)
    starts = blank.tube_starts_mm if by_hand else _starts(tubes, blanks_in_it, kerf, length, joint, lost)
    places = tuple(_place(barrel, start) for barrel, start in zip(barrels, starts, strict=True))
    pieces = [tube + 2 * trim for tube, trim in tubes] * (blanks_in_it - 1)
    widest = max(barrel.widest_mm for barrel in barrels)
    raw = (section.width_mm, section.depth_mm, section.is_round) if section else (widest + 4, widest + 4, False)
    width, depth, is_round = narrowed(blank.steps, raw)
    layout = Layout(
        length_mm=length,
        width_mm=width,
        depth_mm=depth,
        is_round=is_round,
        tubes=places,
        kerfs=(),
        waste=(),
        ends=(Span(0, lost), Span(length - lost, length)),
        is_from_mould=section is not None,
        placed_by_hand=by_hand,
        others=_beside(places, pieces, (lost, length - lost), kerf) if pieces else (),
        wanted_others=len(pieces),
        raw=raw,
        joint=joint,
    )
    return _sawn(layout, kerf)


def _joint(blank: Blank, length_mm: float) -> Span | None:
    """Where a two-in-one bar is parted; None for a bar in one, or a joint beyond its end."""
    if blank.joint_mm is None or not 0 < blank.joint_mm < length_mm:
        return None
    return Span(blank.joint_mm - blank.saw_kerf_mm / 2, blank.joint_mm + blank.saw_kerf_mm / 2)


def _starts(
    tubes: tuple[tuple[float, float], ...],
    blanks_in_it: int,
    kerf_mm: float,
    length_mm: float,
    joint: Span | None,
    lost_mm: float,
) -> tuple[float, ...]:
    """Where the tubes begin: side by side in the middle of the bar, or of the parts of a two-in-one bar."""
    if joint is None:
        return packed_starts_mm(tubes * blanks_in_it, kerf_mm, length_mm)[: len(tubes)]
    left = Span(lost_mm, joint.start_mm)
    right = Span(joint.end_mm, length_mm - lost_mm)
    if len(tubes) == 1:
        counts: Sequence[int] = (1, 0) if left.length_mm >= right.length_mm else (0, 1)
    else:
        held = next(
            (n for n in range(len(tubes) - 1, 1, -1) if blank_length_mm(tubes[:n], kerf_mm, 0.0) <= left.length_mm), 1
        )
        counts = (held, len(tubes) - held)
    parts = ((left, tubes[: counts[0]]), (right, tubes[counts[0] :]))
    return tuple(
        part.start_mm + start for part, held in parts for start in packed_starts_mm(held, kerf_mm, part.length_mm)
    )


def _beside(
    places: tuple[TubePlace, ...], pieces: list[float], sound_mm: tuple[float, float], kerf_mm: float
) -> tuple[Span, ...]:
    """Further pieces in what is free beside the tubes, from left to right, the first that fits; a kerf between all."""
    free: list[list[float]] = []
    left = sound_mm[0] if sound_mm[0] > 0 else -kerf_mm  # a clean end needs no cut
    for piece in sorted((place.piece for place in places), key=lambda span: span.start_mm):
        free.append([left + kerf_mm, piece.start_mm - kerf_mm])
        left = piece.end_mm
    free.append([left + kerf_mm, sound_mm[1] - (kerf_mm if sound_mm[0] > 0 else 0.0)])
    found = []
    for piece_mm in pieces:
        room = next((span for span in free if span[1] - span[0] >= piece_mm - _TOUCH_MM), None)
        if room is not None:
            found.append(Span(room[0], room[0] + piece_mm))
            room[0] += piece_mm + kerf_mm
    return tuple(found)


def _place(barrel: Barrel, start_mm: float) -> TubePlace:
    end_mm = start_mm + barrel.tube_length_mm
    glued = barrel.glued_from_to_mm
    return TubePlace(
        barrel=barrel,
        tube=Span(start_mm, end_mm),
        piece=Span(start_mm - barrel.trim_mm, end_mm + barrel.trim_mm),
        glued=Span(start_mm + glued[0], start_mm + glued[1]) if glued else None,
    )


# -- the exits -------------------------------------------------------------------------------------------------


def _with_room(layout: Layout, job: Job, exit_mm: float) -> Layout:
    """A layout whose only tube, where nobody put it anywhere, lies so that its bit has bar to come out into."""
    if layout.placed_by_hand or len(layout.tubes) > 1 or layout.others or layout.joint is not None:
        return layout
    place = layout.tubes[0]
    left, right = _spare_mm(layout, place.piece)
    from_left, _ = enters_left(job, 0, left, right)
    there, elsewhere = (right, left) if from_left else (left, right)
    by = max(0.0, min(_wanted_mm(job, 0, exit_mm) - there, elsewhere))
    moved = _place(job.laid[0], place.tube.start_mm + (-by if from_left else by))
    return _sawn(replace(layout, tubes=(moved,)), job.blank.saw_kerf_mm)


def _as_sawn(layout: Layout) -> Layout:
    """A layout whose pieces have what is too little to be sawn off beside them: it is squared off with them."""
    edges = (Span(0, 0), *layout.kerfs, Span(layout.length_mm, layout.length_mm))
    places = []
    for place in layout.tubes:
        piece = place.piece
        low = max((edge.end_mm for edge in edges if edge.end_mm <= piece.start_mm + _TOUCH_MM), default=piece.start_mm)
        high = min((edge.start_mm for edge in edges if edge.start_mm >= piece.end_mm - _TOUCH_MM), default=piece.end_mm)
        places.append(replace(place, piece=Span(min(low, piece.start_mm), max(high, piece.end_mm))))
    pieces = (*(place.piece for place in places), *layout.others, *layout.kerfs)
    return replace(layout, tubes=tuple(places), waste=gaps(pieces, layout.length_mm))


def _with_exits(layout: Layout, job: Job, exit_mm: float) -> Layout:
    """A layout whose pieces are longer where their bits come out, as far as waste lies there."""
    kerf = job.blank.saw_kerf_mm
    places = []
    for number, place in enumerate(layout.tubes):
        left, right = _spare_mm(layout, place.piece)
        from_left, because = enters_left(job, number, left, right)
        more = min(_wanted_mm(job, number, exit_mm), right if from_left else left)
        piece = place.piece
        longer = Span(piece.start_mm, piece.end_mm + more) if from_left else Span(piece.start_mm - more, piece.end_mm)
        places.append(replace(place, piece=longer, from_left=from_left, because=because))
        layout = _sawn(replace(layout, tubes=(*places, *layout.tubes[number + 1 :])), kerf)
    return layout


def _wanted_mm(job: Job, number: int, exit_mm: float) -> float:
    """What may tear out of a hole: nothing where the bit does not come out."""
    comes_out = job.laid[number].is_through and job.bore.hole(number).from_end != "both ends"
    return exit_mm if comes_out else 0.0


def _spare_mm(layout: Layout, piece: Span) -> tuple[float, float]:
    """How much of the bar lies unused beyond a piece's left and right end, past the kerf between them."""
    found = []
    for right in (False, True):
        edge = piece.end_mm if right else piece.start_mm
        for kerf in layout.kerfs:
            if abs((kerf.start_mm if right else kerf.end_mm) - edge) < _SAME_PLACE_MM:
                edge = kerf.end_mm if right else kerf.start_mm
                break
        there = (
            span for span in layout.waste if abs((span.start_mm if right else span.end_mm) - edge) < _SAME_PLACE_MM
        )
        found.append(sum(max(0.0, _sound_mm(layout, span)) for span in there))
    return found[0], found[1]


def _sound_mm(layout: Layout, span: Span) -> float:
    """How much of a stretch lies between the bar's lost ends."""
    return min(span.end_mm, layout.ends[1].start_mm) - max(span.start_mm, layout.ends[0].end_mm)


# -- the saw ---------------------------------------------------------------------------------------------------


def _sawn(layout: Layout, kerf_mm: float) -> Layout:
    """A layout with the cuts that its pieces take, and what they leave."""
    pieces = (*(place.piece for place in layout.tubes), *layout.others)
    lost = layout.ends[0].length_mm
    cuts = _kerfs(pieces, kerf_mm, layout.length_mm, lost, layout.joint) if kerf_mm > 0 else ()
    return replace(layout, kerfs=cuts, waste=gaps((*pieces, *cuts), layout.length_mm))


def _kerfs(
    pieces: tuple[Span, ...], kerf_mm: float, bar_mm: float, lost_mm: float, joint: Span | None
) -> tuple[Span, ...]:
    """The saw's cuts: between two pieces one, or two where more than a sliver lies between; one at each outer edge.

    None there where the end is sound and only a sliver lies beyond the piece. A joint is always a cut.
    """
    ordered = sorted(pieces, key=lambda piece: piece.start_mm)
    worth = 0.0 if lost_mm > 0 else kerf_mm + _SLIVER_MM
    cuts = [Span(ordered[0].start_mm - kerf_mm, ordered[0].start_mm)] if ordered[0].start_mm > worth else []
    for left, right in pairwise(ordered):
        if (
            joint is not None
            and left.end_mm <= joint.start_mm + _TOUCH_MM
            and right.start_mm >= joint.end_mm - _TOUCH_MM
        ):
            cuts.extend(_about_the_joint(left, right, joint, kerf_mm))
            continue
        cuts.append(Span(left.end_mm, left.end_mm + kerf_mm))
        if right.start_mm - left.end_mm >= 2 * kerf_mm + _SLIVER_MM:
            cuts.append(Span(right.start_mm - kerf_mm, right.start_mm))
    if bar_mm - ordered[-1].end_mm > worth:
        cuts.append(Span(ordered[-1].end_mm, ordered[-1].end_mm + kerf_mm))
    if joint is not None and joint not in cuts:
        cuts.append(joint)
    inside = (Span(max(0, cut.start_mm), min(bar_mm, cut.end_mm)) for cut in sorted(cuts, key=lambda cut: cut.start_mm))
    return tuple(cut for cut in inside if cut.length_mm > _TOUCH_MM)


def _about_the_joint(left: Span, right: Span, joint: Span, kerf_mm: float) -> Iterator[Span]:
    """The cut at the joint, and those that free the pieces beside it where more than a sliver lies between."""
    if joint.start_mm - left.end_mm > kerf_mm + _SLIVER_MM:
        yield Span(left.end_mm, left.end_mm + kerf_mm)
    yield joint
    if right.start_mm - joint.end_mm > kerf_mm + _SLIVER_MM:
        yield Span(right.start_mm - kerf_mm, right.start_mm)
