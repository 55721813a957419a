"""What is to be said about the blank's steps: a list that makes no bar, sheets that do not fit their kerf."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft.segmenting import DiagonalCut
from orvek.documents import JOB, CutStep, Layer, missing_stock, path_to
from orvek.planning.blank.lines import EndLine, end_lines
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.layout import Layout
from orvek.planning.results import Plan
from orvek.workpiece.lengths import bare_sheet_mm, sheet_joints, sheet_mm

_LIP_MM, _CLEAR_MM = 1.0, 2.0  # estimates: how near an end a line chips, and how far inside it is safe
_FITS_MM = 0.05  # an estimate: what a sheet may be thicker or thinner than its kerf before it shows
_CLAMP_CLOSES_MM = 0.1 + 1e-9  # over a tab; workshop practice


def stock(plan: Plan) -> Iterator[Finding]:
    """A list of steps that makes no bar."""
    missing = missing_stock(plan.job.blank.steps)
    if missing:
        because = f"It needs {missing[1]}. Steps are done in the order of the list."
        yield Finding(Severity.STOP, Station.BLANK, f"{missing[0]} cannot be made in this order.", because)


def sheets(plan: Plan) -> Iterator[Finding]:
    """Sheets thicker or thinner than the kerf they are let into."""
    for index, step in enumerate(plan.job.blank.steps):
        if not isinstance(step, CutStep) or not step.sheet:
            continue
        thickness = bare_sheet_mm(step)
        glued = sheet_mm(step)
        off = glued - step.kerf_mm
        if abs(off) <= _FITS_MM:
            continue
        remedies, place = tuple(_skimmed(plan, index, step, thickness)), str(index + 1)
        sheet, kerf = plan.units.mm(glued, 2), plan.units.mm(step.kerf_mm, 2)
        if step.tab_mm > 0 and -_CLAMP_CLOSES_MM <= off < 0:
            because = f"{sheet} with its glue against a kerf of {kerf}: a clamp closes that much. Try it dry first."
            title = f"The sheet of step {index + 1} is a little thin for its kerf."
            many = "The sheets of steps {} are a little thin for their kerfs."
            yield Finding(Severity.NOTE, Station.BLANK, title, because, remedies, place=place, many=many)
        elif step.tab_mm > 0:
            because = f"{sheet} with its glue against a kerf of {kerf}; the tab lets nothing give."
            title = f"The sheet of step {index + 1} does not fit its kerf."
            many = "The sheets of steps {} do not fit their kerfs."
            yield Finding(Severity.STOP, Station.BLANK, title, because, remedies, place=place, many=many)
        elif step.register_by == "coaxial":
            moved = DiagonalCut(step.angle_deg, glued, step.kerf_mm).lengthening_mm
            title = f"Step {index + 1} moves what lies beyond it by {plan.units.mm(abs(moved), 2)}."
            because = f"{sheet} with its glue in a kerf of {kerf}; lines of earlier cuts part there by as much."
            many = "Steps {} each move what lies beyond them."
            yield Finding(Severity.NOTE, Station.BLANK, title, because, remedies, place=place, many=many)


def lips(plan: Plan) -> Iterator[Finding]:
    """Lines that end on the lip of a barrel, where they would chip."""
    units = plan.units
    layout, pen = plan.layout, plan.job.pen
    if layout is None or pen is None:
        return
    for line in end_lines(plan.job, layout):
        if line.inside_mm > _LIP_MM:
            continue
        name = pen.barrels[line.barrel].name
        because = (
            f"{line.material} meets the {line.side} end {units.mm(line.inside_mm)} inside the barrel; a sliver that "
            "thin chips when the end is squared."
        )
        title, remedies = f"A line ends on the lip of {name}.", tuple(_slid(plan, layout, line))
        place, many = f"{name} ({line.side})", "Lines end on the lips of {}."
        yield Finding(Severity.CAUTION, Station.BLANK, title, because, remedies, place=place, many=many)


STATION = Station.BLANK
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (stock, sheets, lips)


def _slid(plan: Plan, layout: Layout, line: EndLine) -> Iterator[Remedy]:
    """Slide the tube so that the line lies well inside, where the bar and its neighbours leave room."""
    assert plan.job.pen is not None
    by = (_CLEAR_MM - line.inside_mm) * (-1 if line.side == "left" else 1)
    piece, kerf = layout.tubes[line.barrel].trimmed, plan.job.blank.saw_kerf_mm
    others = [place.trimmed for n, place in enumerate(layout.tubes) if n != line.barrel]
    low, high = layout.ends[0].end_mm, layout.ends[1].start_mm
    start, end = piece.start_mm + by, piece.end_mm + by
    clear = all(end + kerf <= other.start_mm + 1e-6 or start - kerf >= other.end_mm - 1e-6 for other in others)
    if low <= start and end <= high and clear:
        starts = tuple(round(s + by if n == line.barrel else s, 2) for n, s in enumerate(layout.starts_mm))
        edit = Edit(path_to(JOB.blank.tube_starts_mm), starts)
        yield Remedy(f"Slide {plan.job.pen.barrels[line.barrel].name} to {plan.units.mm(starts[line.barrel])}", (edit,))


def _skimmed(plan: Plan, index: int, step: CutStep, thickness_mm: float) -> Iterator[Remedy]:
    """Make the sheet as thick as the kerf leaves room for, all layers in proportion."""
    room = step.kerf_mm - sheet_joints(step) * step.glue_mm
    if room < 0.2 or step.sheet_form == "one bonded sheet":
        return  # what was bought is as thick as it is
    layers = tuple(
        Layer(material=layer.material, thickness_mm=max(0.05, round(layer.thickness_mm * room / thickness_mm, 3)))
        for layer in step.sheet
    )
    edit = Edit((*path_to(JOB.blank.steps[index]), "sheet"), layers)
    yield Remedy(f"Use a sheet of {plan.units.mm(room, 2)}", (edit,))
