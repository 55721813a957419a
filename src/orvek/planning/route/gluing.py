"""Wood and sheets: the stock squared, sawn and glued step by step, plugs, and a sheet that is cast over."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orvek.documents import PlugStep, RipStep, WrapStep
from orvek.planning.findings import Station
from orvek.planning.folding import listed
from orvek.planning.glue_up.order import sawn_first
from orvek.planning.glue_up.saw import GlueJoint, SawCut, added_up, cut_figures
from orvek.planning.results import Plan
from orvek.planning.route.making import CURE_MIN, SAW, WIPED_MIN, blanks_of, of, operation, span
from orvek.planning.route.pieces import stock_name
from orvek.planning.route.results import Operation, Setting, Use
from orvek.planning.stuff import oily_woods
from orvek.quantities import write_sizes


def milling(plan: Plan) -> Iterator[Operation]:
    """The stock as the cut list begins with it."""
    cutting = plan.glue_up
    if cutting is None or not cutting.stock:
        return
    pieces = sum(piece.count for piece in cutting.stock)
    yield operation(
        plan, "mill", "mill", Station.GLUE_UP, minutes=10.0 + 2.0 * pieces, lines=_stock_lines(plan),
        cautions=(SAW, "blank."),
    )  # fmt: skip


def gluing(plan: Plan, index: int) -> Iterator[Operation]:
    """What one step is sawn and glued by; cuts that are all sawn first come together, then their glue-up."""
    step, cutting = plan.job.blank.steps[index], plan.glue_up
    if isinstance(step, PlugStep):
        yield _plugging(plan, index, step)
    if cutting is None or (isinstance(step, WrapStep) and step.covered == "coated"):
        return
    together = sawn_first(plan.job, plan.layout.raw) if plan.layout is not None else ()
    at_once = together if index in together else (index,)
    if index != min(at_once):
        return  # sawn and glued with the first of them
    for step_index in at_once:
        cuts = [cut for cut in cutting.cuts if cut.step == step_index and not cut.is_to_length]
        if cuts:
            yield _sawing(plan, step_index, cuts, max(1, cutting.bars))
    joints = [joint for joint in cutting.joints if joint.step in at_once]
    if joints:
        is_oily = bool(oily_woods(plan.job))
        if is_oily:
            yield _wiping(plan, joints, max(1, cutting.bars))
        yield _joining(plan, joints, max(1, cutting.bars), WIPED_MIN if is_oily else None)
    if isinstance(step, WrapStep) and plan.job.cast_index is None:
        yield _cast_over(plan, index, step)


def _sawing(plan: Plan, index: int, cuts: list[SawCut], bars: int) -> Operation:
    return operation(
        plan, f"cut.{index}", "cut", Station.GLUE_UP, pieces=bars * sum(cut.count for cut in cuts),
        words=f"Saw, step {index + 1}", lines=map(cut_line, cuts), cautions=(SAW,),
        settings=settings_of(cuts), field_kind="rip" if isinstance(plan.job.blank.steps[index], RipStep) else "",
    )  # fmt: skip


def cut_line(cut: SawCut) -> str:
    """How the piece lies at the saw, what is kept, and what the hands do then."""
    if cut.stop_mm is None and cut.fence_mm is None:
        return f"{cut.title}; {cut.then}." if cut.then else f"{cut.title}."
    at = f", its {cut.end} end at the stop" if cut.stop_mm is not None else ""
    keep = f"; keep {cut.keep}" if cut.keep else ""
    then = f"; {cut.then}" if cut.then else ""
    return f"{cut.title}: face {cut.face_down} down, face {cut.face_fence} against the fence{at}{keep}{then}."


def settings_of(cuts: Sequence[SawCut]) -> Iterator[Setting]:
    """What is set for each cut; several are numbered, for some have the same title."""
    for number, cut in enumerate(cuts, 1):
        yield from of(f"{number}. {cut.title}" if len(cuts) > 1 else cut.title, *cut_figures(cut))


def _wiping(plan: Plan, joints: list[GlueJoint], bars: int) -> Operation:
    names, faces = listed(oily_woods(plan.job)), sum(max(1, one.joints) for one in joints)
    return operation(
        plan, f"wipe.{joints[0].step}", "wipe", Station.GLUE_UP, pieces=bars * faces,
        lines=(f"{names}: alcohol or acetone on each face to be glued, till the cloth stays clean; let it flash off.",),
        cautions=("glue_up.solvent",), field_kind="scuff",
    )  # fmt: skip


def _joining(plan: Plan, joints: list[GlueJoint], bars: int, soon_min: float | None) -> Operation:
    step = plan.job.blank.steps[joints[0].step]
    rest = max(joint.rest_min for joint in joints)
    lines = [joint.what for joint in joints]
    if isinstance(step, WrapStep) and plan.finish is not None and plan.finish.wrap is not None:
        lines = list(plan.finish.wrap.lines)
    return operation(
        plan, f"join.{joints[0].step}", "join", Station.GLUE_UP, pieces=bars,
        minutes=bars * sum(max(3.0, joint.needed_min) for joint in joints), words=f"Glue, step {joints[0].step + 1}",
        wait=(rest, rest, 1.5 * rest), wait_words="the glue holds", wait_source="label", holds=rest > 0, lines=lines,
        cautions=("glue_up.glue",), soon_min=soon_min,
    )  # fmt: skip


def _cast_over(plan: Plan, index: int, step: WrapStep) -> Operation:
    """A wrapped core is cast over though no casting stands among the steps."""
    clear = plan.job.blank.material(step.over).name.lower()
    return operation(
        plan, f"over.{index}", "pour", Station.BLANK, words=f"Cast {clear} over the sheet", wait=span(CURE_MIN),
        wait_words="the casting hardens", place="mould", holds=True, cautions=("pour.",),
        lines=("Only when the seal is dry; warm resin, pour slowly, pressure: paper holds air.",),
    )  # fmt: skip


def _plugging(plan: Plan, index: int, step: PlugStep) -> Operation:
    glue = plan.glue_up.glue if plan.glue_up is not None else plan.bore.glue if plan.bore is not None else None
    rest = glue.handle_min if glue is not None else 0.0
    across = "across the bar" if step.way == "across" else "along the bar"
    return operation(
        plan, f"plug.{index}", "plug", Station.BLANK, pieces=blanks_of(plan), words=f"Bore and fill, step {index + 1}",
        wait=(rest, rest, 1.5 * rest), wait_words="the glue holds", wait_source="label" if rest else "",
        lines=(f"Bore {plan.units.mm(step.diameter_mm)} {across}, clamped in a vice; glue the plug in, and flush it.",),
        cautions=("bore.press", "glue_up.glue", "bore.glue"),
    )  # fmt: skip


def _stock_lines(plan: Plan) -> Iterator[str]:
    """What is milled, alike pieces of several steps together, with their sizes."""
    for piece in added_up(plan.glue_up.stock if plan.glue_up else ()):
        sizes = write_sizes((piece.length_mm, piece.width_mm, piece.thickness_mm), plan.units)
        yield f"{piece.count} × {stock_name(plan, piece)}: {sizes}."


def piece_used(plan: Plan) -> Iterator[Use]:
    """The piece of the shelf that the job is made of, if it is one."""
    if plan.job.blank.piece:
        yield Use("piece", plan.job.blank.piece, 1)
