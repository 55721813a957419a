"""From the bar to glued, squared barrels."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.bore.results import BorePlan, HolePlan
from orvek.planning.findings import Station
from orvek.planning.results import Plan
from orvek.planning.route.gluing import cut_line, piece_used, settings_of
from orvek.planning.route.making import SAW, WIPED_MIN, blanks_of, of, operation, span
from orvek.planning.route.results import Operation, Setting, Use
from orvek.planning.stuff import oily_woods
from orvek.planning.working import Figure
from orvek.quantities import Dimension, write_bit

_PAINT_COAT_MIN = 60.0  # until a coat in the hole is dry (workshop practice)
_SCUFFED_MIN = 60.0  # bare brass tarnishes and is touched: glued in the same hour (workshop practice)


def boring(plan: Plan) -> Iterator[Operation]:
    """Sawn to length, bored, painted, tubed, squared."""
    bore = plan.bore
    if bore is None:
        return
    blanks, pen = blanks_of(plan), plan.job.pen
    holes = blanks * len(bore.holes)
    to_length = [cut for cut in plan.glue_up.cuts if cut.is_to_length] if plan.glue_up else []
    yield operation(
        plan, "length", "length", Station.BORE, pieces=holes, lines=map(cut_line, to_length), cautions=(SAW,),
        settings=_lengths(plan), uses=piece_used(plan),
    )  # fmt: skip
    yield operation(
        plan, "bore", "bore", Station.BORE, pieces=holes, cautions=("bore.press",),
        minutes=blanks * sum(hole.minutes.value for hole in bore.holes) + 3.0 * len(bore.holes),
        lines=(f"{hole.name}: {hole.depth_mm.written(plan.units)} deep." for hole in bore.holes),
        settings=(one for hole in bore.holes for one in of(hole.name, _bit(bore, hole), hole.depth_mm, hole.turns_min)),
    )  # fmt: skip
    opened = [hole for hole in bore.holes if bore.opens_up(hole)]
    if opened:
        yield operation(
            plan, "open_up", "open_up", Station.BORE, pieces=blanks * len(opened), cautions=("bore.press",),
            lines=(f"{hole.name}: opened up to {write_bit(hole.bored_mm, plan.units)}." for hole in opened),
            settings=(one for hole in opened for one in of(hole.name, _own_bit(hole), hole.depth_mm)),
            field_kind="bore",
        )  # fmt: skip
    painted = [hole for hole in bore.holes if plan.job.blank.paint(hole.number).where != "none"]
    if painted:
        yield operation(
            plan, "paint", "paint", Station.BORE, pieces=blanks * len(painted), wait_words="the paint dries",
            wait=span(_PAINT_COAT_MIN * plan.job.bore.paint_coats),
        )  # fmt: skip
    tubes = [hole for hole in bore.holes if hole.tube is not None]
    if tubes:
        yield operation(
            plan, "scuff", "scuff", Station.BORE, pieces=blanks * len(tubes),
            cautions=("bore.solvent", "bore.reclaimed"),
            lines=(f"{hole.name}: dry fit, scuff, wipe." for hole in tubes),
        )  # fmt: skip
        wait = bore.wait_min.value
        yield operation(
            plan, "tube", "tube", Station.BORE, pieces=blanks * len(tubes), wait=(wait, wait, 1.5 * wait),
            wait_words=f"{bore.glue.key} holds", wait_source="label", cautions=("bore.glue",),
            soon_min=WIPED_MIN if oily_woods(plan.job) else _SCUFFED_MIN,
            lines=(f"{hole.name}: {bore.glue.key} all round, turn it in." for hole in tubes),
            settings=(one for hole in tubes if hole.tube for one in of(hole.name, hole.tube.glue_ml, hole.tube.cut_mm)),
            uses=(Use("tube", pen.name, blanks * len(tubes)),) if pen is not None else (),
        )  # fmt: skip
    yield operation(
        plan, "square", "square", Station.BORE, pieces=holes, cautions=("finish.lathe",),
        settings=(one for hole in bore.holes for one in of(hole.name, hole.square_to_mm)),
    )  # fmt: skip


def _bit(bore: BorePlan, hole: HolePlan) -> Figure:
    """The bit that goes in first."""
    if not bore.opens_up(hole):
        return _own_bit(hole)
    return Figure("Bit", bore.first_mm(hole), Dimension.LENGTH, "the smallest of the pen's", (), "typed", digits=2)


def _own_bit(hole: HolePlan) -> Figure:
    """The bit of its size: of the maker's rack, where there is one, else as the pen's sheet says."""
    source = "as it bores, of your rack" if hole.bit is not None else "as the pen's sheet says"
    return Figure("Bit", hole.bored_mm, Dimension.LENGTH, source, (), "typed", digits=2)


def _lengths(plan: Plan) -> Iterator[Setting]:
    """Stops of the cut list; without one, how long each barrel's piece is sawn."""
    cuts = [cut for cut in plan.glue_up.cuts if cut.is_to_length] if plan.glue_up else []
    yield from settings_of(cuts)
    for hole in plan.bore.holes if plan.bore and not cuts else ():
        yield from of(hole.name, hole.saw_mm)
