"""Wood and sheets: the stock squared, sawn and glued step by step, plugs, and a sheet that is cast over."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import PlugStep, WrapStep
from orvek.planning.findings import Station
from orvek.planning.glue_up.order import SAW_ALL_FIRST
from orvek.planning.glue_up.saw import GlueJoint, SawCut, cut_figures
from orvek.planning.results import Plan
from orvek.planning.route.making import CURE_MIN, SAW, blanks_of, of, operation, span
from orvek.planning.route.results import Operation, Use


def milling(plan: Plan) -> Iterator[Operation]:
    """The stock as the cut list begins with it."""
    cutting = plan.cutting
    if cutting is None or not cutting.stock:
        return
    pieces = sum(piece.count for piece in cutting.stock)
    yield operation(
        plan, "mill", "mill", Station.GLUE_UP, minutes=10.0 + 2.0 * pieces, lines=_stock_lines(plan),
        cautions=(SAW, "blank."),
    )  # fmt: skip


def gluing(plan: Plan, index: int) -> Iterator[Operation]:
    """What one step is sawn and glued by; where all is sawn first, its glue-up comes with the last cut."""
    step, cutting = plan.job.blank.steps[index], plan.cutting
    if isinstance(step, PlugStep):
        yield _plugging(plan, index, step)
    if cutting is None or (isinstance(step, WrapStep) and step.covered == "coated"):
        return
    cuts = [cut for cut in cutting.cuts if cut.step == index and not cut.is_to_length]
    if cuts:
        yield _sawing(plan, index, cuts, max(1, cutting.bars))
    joints = [joint for joint in cutting.joints if _glued_after(plan, joint) == index]
    if joints:
        yield _joining(plan, joints, max(1, cutting.bars))
    if isinstance(step, WrapStep) and plan.job.cast_index is None:
        yield _cast_over(plan, index, step)


def _glued_after(plan: Plan, joint: GlueJoint) -> int:
    """After which step's cuts a glue-up comes: its own, or the last one where all were sawn before the first."""
    cutting = plan.cutting
    assert cutting is not None
    sawn = {cut.step for cut in cutting.cuts if not cut.is_to_length}
    glued = {one.step for one in cutting.joints}
    if plan.job.glue_up.order != SAW_ALL_FIRST:
        return joint.step
    following = joint.step
    while following + 1 in sawn and following + 1 not in glued:
        following += 1
    return following


def _sawing(plan: Plan, index: int, cuts: list[SawCut], bars: int) -> Operation:
    return operation(
        plan, f"cut.{index}", "cut", Station.GLUE_UP, pieces=bars * sum(cut.count for cut in cuts),
        words=f"Saw, step {index + 1}", lines=map(cut_line, cuts), cautions=(SAW,),
        settings=(one for cut in cuts for one in of(cut.title, *cut_figures(cut))),
    )  # fmt: skip


def cut_line(cut: SawCut) -> str:
    """How the piece lies at the saw, what is kept, and what the hands do then."""
    if cut.stop_mm is None and cut.fence_mm is None:
        return f"{cut.title}; {cut.then}." if cut.then else f"{cut.title}."
    end = "right" if "end for end" in cut.title else "left"
    at = f", its {end} end at the stop" if cut.stop_mm is not None else ""
    keep = f"; keep {cut.keep}" if cut.keep else ""
    then = f"; {cut.then}" if cut.then else ""
    return f"{cut.title}: face {cut.face_down} down, face {cut.face_fence} against the fence{at}{keep}{then}."


def _joining(plan: Plan, joints: list[GlueJoint], bars: int) -> Operation:
    step = plan.job.blank.steps[joints[0].step]
    rest = max(joint.rest_min for joint in joints)
    lines = [joint.what for joint in joints]
    if isinstance(step, WrapStep) and plan.finish is not None and plan.finish.wrap is not None:
        lines = list(plan.finish.wrap.lines)
    return operation(
        plan, f"join.{joints[0].step}", "join", Station.GLUE_UP, pieces=bars,
        minutes=bars * sum(max(3.0, joint.needed_min) for joint in joints), words=f"Glue, step {joints[0].step + 1}",
        wait=(rest, rest, 1.5 * rest), wait_words="the glue holds", wait_source="label", holds=rest > 0, lines=lines,
        cautions=("glue_up.glue",),
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
    glue = plan.cutting.glue if plan.cutting is not None else plan.bore.glue if plan.bore is not None else None
    rest = glue.handle_min if glue is not None else 0.0
    across = "across the bar" if step.way == "across" else "along the bar"
    return operation(
        plan, f"plug.{index}", "plug", Station.BLANK, pieces=blanks_of(plan), words=f"Bore and fill, step {index + 1}",
        wait=(rest, rest, 1.5 * rest), wait_words="the glue holds", wait_source="label" if rest else "",
        lines=(f"Bore {plan.mm(step.diameter_mm)} {across}, clamped in a vice; glue the plug in, and flush it.",),
        cautions=("bore.press", "glue_up.glue", "bore.glue"),
    )  # fmt: skip


def _stock_lines(plan: Plan) -> Iterator[str]:
    """What is milled, alike pieces of several steps together."""
    alike: dict[str, int] = {}
    for piece in plan.cutting.stock if plan.cutting else ():
        words = f"{piece.name}: {plan.mm(piece.length_mm)} long."
        alike[words] = alike.get(words, 0) + piece.count
    yield from (f"{count} × {words}" for words, count in alike.items())


def piece_used(plan: Plan) -> Iterator[Use]:
    """The piece of the shelf that the job is made of, if it is one."""
    if plan.job.blank.piece:
        yield Use("piece", plan.job.blank.piece, 1)
