"""What is to be said about sawing and gluing: pieces too short to hold, settings too coarse, joints too many."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from orvek.craft.bow import flat_mm
from orvek.craft.segmenting import DiagonalCut, Ring
from orvek.documents import (
    JOB,
    STOCK_KINDS,
    ArcStep,
    CutStep,
    LaminateStep,
    Layer,
    Machine,
    SliceStep,
    StavesStep,
    declared,
    deeds,
    path_to,
)
from orvek.documents.job.glue_up import mean_reading_mm
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station, changes
from orvek.planning.folding import listed
from orvek.planning.glue_up.order import SAW_ALL_FIRST, hindered
from orvek.planning.glue_up.saw import CutPlan, SawCut
from orvek.planning.haste import HASTE
from orvek.planning.results import Plan
from orvek.quantities import Dimension, decimal, write
from orvek.workpiece.lengths import bare_sheet_mm, sheet_joints

_COARSE_MM = 0.3  # a line that is off by this is seen
_SAME_DEG = 0.01  # no scale shows less
_BENDS = 0.015  # dry wood breaks at about 1 to 1.5 % (workshop practice)
_VENEER_MM = 0.9  # what is thinner is bought as veneer or paper, not sawn: workshop practice
_KERF_OFF_MM = 0.05  # half of what still shows as a line: workshop practice
_MOST_SHEETS = 9  # more is a pile of veneers (a choice)
_GAP_MM = 0.15  # what thick glue still hides: workshop practice
HAND_SAW = Machine(
    name="Mitre box, by hand", kind="mitre box", kerf_mm=0.8, angle_step_deg=0.5, stop_step_mm=0.5, least_piece_mm=15
)


def short_pieces(plan: Plan) -> Iterator[Finding]:
    """Pieces that a machine cannot hold safely."""
    units = plan.units
    cutting = plan.glue_up
    if cutting is None:
        return
    least = cutting.machine.least_piece_mm
    short = [cut for cut in cutting.cuts if cut.held_mm < least - 1e-6]
    if not short:
        return
    worst = min(short, key=lambda cut: cut.held_mm)
    because = (
        f"Step {worst.step + 1} leaves {units.mm(worst.held_mm)} to hold, and {cutting.machine.name} holds "
        f"{units.mm(least)} and more. A short piece tips, is caught and thrown. Take a sled with a clamp, or a saw "
        "that is moved by hand."
    )
    hand = next((m for m in plan.shop.machines if m.least_piece_mm <= worst.held_mm), None)
    if hand is None and worst.held_mm >= HAND_SAW.least_piece_mm:
        hand = HAND_SAW
    sled = cutting.machine.with_(
        name=f"{cutting.machine.name[:60]}, clamped", least_piece_mm=max(5.0, math.floor(worst.held_mm))
    )
    remedies = [Remedy(f"Saw it with {hand.name}", _saw(plan, hand))] if hand else []
    if worst.held_mm >= 5:
        remedies.append(Remedy("I clamp it in a sled with a stop", _saw(plan, sled)))
    severity = Severity.STOP
    if worst.length_mm >= least:
        # What is held is the bar, as long as there is enough of it.
        severity = Severity.CAUTION
        because += (
            " Or hold the bar itself, take the stop away before the cut so that the piece falls free, and begin with a "
            f"bar {units.mm(least, 0)} longer: its last end is never sawn."
        )
    yield Finding(severity, Station.GLUE_UP, "A piece is too short to hold at the saw.", because, tuple(remedies))


def _saw(plan: Plan, machine: Machine) -> tuple[Edit, ...]:
    """Another saw, as when it is chosen: the crosscuts go by its kerf, too."""
    chosen = deeds.choose_saw(plan.job, machine)
    return Edit(path_to(JOB.glue_up.machine), machine), *changes(path_to(JOB.blank), plan.job.blank, chosen.blank)


def kerfs(plan: Plan) -> Iterator[Finding]:
    """Kerfs that are not the machine's, or wider than what is sawn."""
    units = plan.units
    cutting = plan.glue_up
    if cutting is None:
        return
    kerf = plan.job.glue_up.kerf_mm or cutting.machine.kerf_mm
    steps = plan.job.blank.steps
    off = [
        n
        for n, s in enumerate(steps)
        if isinstance(s, CutStep | ArcStep | SliceStep) and abs(s.kerf_mm - kerf) > _KERF_OFF_MM
    ]
    if off:
        because = (
            f"Step {off[0] + 1} assumes {units.mm(steps[off[0]].kerf_mm, 2)}; "  # type: ignore[union-attr]
            f"{cutting.machine.name} takes {units.mm(kerf, 2)}. The lines will miss by the difference."
        )
        edits = tuple(Edit((*path_to(JOB.blank.steps[n]), "kerf_mm"), round(kerf, 3)) for n in off)
        remedy = Remedy(f"Use {units.mm(kerf, 2)} everywhere", edits)
        yield Finding(Severity.CAUTION, Station.GLUE_UP, "The kerf is not this saw's.", because, (remedy,))
    for index, step in enumerate(steps):
        if plan.job.blank.in_hand and step.kind in STOCK_KINDS:
            continue  # the bar lies there: what it was made of is not sawn any more
        sawn = [layer.thickness_mm for layer in step.strips] if isinstance(step, LaminateStep) else []
        sawn += [step.pitch_mm] if isinstance(step, SliceStep) else []
        thin = min((thick for thick in sawn if thick > _VENEER_MM), default=kerf)
        if thin < kerf:
            because = (
                f"{units.mm(thin)} thick, sawn with {units.mm(kerf)}: more becomes dust than strip, and it shatters."
            )
            title = f"The kerf is wider than what step {index + 1} saws."
            fine = Remedy(f"Saw it with {HAND_SAW.name}", _saw(plan, HAND_SAW))
            yield Finding(Severity.CAUTION, Station.GLUE_UP, title, because, (fine,) if thin > HAND_SAW.kerf_mm else ())


def settings(plan: Plan) -> Iterator[Finding]:
    """Angles that the machine's scale cannot be set to, and slices that add up what its stop is off."""
    units = plan.units
    cutting = plan.glue_up
    if cutting is None:
        return
    for cut in cutting.cuts:
        if cut.cost_mm <= _COARSE_MM:
            continue
        is_on_mark = abs(cut.set_deg - cut.nearest_deg) < _SAME_DEG
        if is_on_mark and (cut.set_by == "mitre" or _slices(plan, cut) is not None):
            yield from _between_stops(plan, cut)
        if is_on_mark or cut.set_by != "mitre":
            continue
        exact, nearest = (write(v, Dimension.ANGLE, units) for v in (cut.set_deg, cut.nearest_deg))
        because = (
            f"{exact} from square is wanted and the scale goes to {nearest}; with the stop's steps the line on the "
            f"barrel moves by {units.mm(cut.cost_mm, 2)}. Set it by a stop or a wedge, or design it as the saw can be "
            "set."
        )
        yield Finding(
            Severity.NOTE,
            Station.GLUE_UP,
            f"Step {cut.step + 1} falls between two marks of the saw.",
            because,
            tuple(_settable(plan, cut)),
            place=str(cut.step + 1),
            many="Steps {} fall between two marks of the saw.",
        )


def _slices(plan: Plan, cut: SawCut) -> SliceStep | None:
    """The step whose slices a cut saws off one by one; None for any other cut, its first mitre too."""
    step = plan.job.blank.steps[cut.step]
    return step if isinstance(step, SliceStep) and cut.stop_mm == step.pitch_mm and not cut.is_to_length else None


def _between_stops(plan: Plan, cut: SawCut) -> Iterator[Finding]:
    """A place that the stop cannot be set to; with slices, what each is off adds up along the bar."""
    units = plan.units
    stop_mm, slices = cut.nearest_stop_mm, _slices(plan, cut)
    if cut.stop_mm is None or stop_mm is None:
        return
    over = f"over {cut.count} cuts the lines move" if slices else "the line on the barrel moves"
    because = (
        f"{units.mm(cut.stop_mm, 2)} is wanted and the stop goes to {units.mm(stop_mm, 2)}: {over} by "
        f"{units.mm(cut.cost_mm, 2)}. Set the stop by calipers or a slip of paper."
    )
    what, verb = (f"The slices of step {cut.step + 1}", "fall") if slices else (f"Step {cut.step + 1}", "falls")
    remedies: tuple[Remedy, ...] = ()
    if slices and stop_mm > 0:
        edits = (Edit((*path_to(JOB.blank.steps[cut.step]), "pitch_mm"), stop_mm),)
        remedies = (Remedy(f"Slices of {units.mm(stop_mm, 2)}", edits),)
    yield Finding(
        Severity.NOTE, Station.GLUE_UP, f"{what} {verb} between two marks of the stop.", because, remedies,
        place=str(cut.step + 1),
        many=f"{'The slices of steps' if slices else 'Steps'} {{}} fall between two marks of the stop.",
    )  # fmt: skip


def beyond_the_saw(plan: Plan) -> Iterator[Finding]:
    """Cuts that lean further than the machine turns."""
    cutting = plan.glue_up
    if cutting is None:
        return
    beyond = [cut for cut in cutting.cuts if cut.set_by == "mitre" and cut.set_deg > cutting.machine.largest_deg + 1e-6]
    if not beyond:
        return
    worst = max(beyond, key=lambda cut: cut.set_deg)
    wanted, most, rest = (
        write(value, Dimension.ANGLE, plan.units)
        for value in (worst.set_deg, cutting.machine.largest_deg, worst.set_deg - cutting.machine.largest_deg)
    )
    numbers = [str(number) for number in sorted({cut.step + 1 for cut in beyond})]
    because = (
        f"Step {worst.step + 1} wants {wanted} from square and {cutting.machine.name} turns to {most}. Put a wedge of "
        f"{rest} between fence and bar and set {most}, or a wedge of {wanted} and saw square: the template draws it. "
        "Clamp the bar to the wedge; a hand beside a steep cut is pulled in."
    )
    title = f"Step {numbers[0]} needs a wedge." if len(numbers) == 1 else f"Steps {listed(numbers)} need a wedge."
    yield Finding(Severity.CAUTION, Station.GLUE_UP, title, because)


def order_of_work(plan: Plan) -> Iterator[Finding]:
    """Cuts that are to be sawn first, all of them, and cannot be."""
    if plan.job.glue_up.order != SAW_ALL_FIRST or plan.layout is None or plan.glue_up is None:
        return
    pair = hindered(plan.job.blank.steps, plan.layout.raw)
    if pair is None:
        return
    one, other = pair
    because = f"Step {one} leaves a tab or slides along its cut, and needs the bar whole."
    if one != other:
        because = (
            f"Steps {one} and {other} cross, or other work lies between: the second is sawn through the glue of the "
            "first. The list is for cut, glue, cut."
        )
    remedies = (Remedy("Cut, glue, cut", (Edit(path_to(JOB.glue_up.order), "cut, glue, cut"),)),)
    yield Finding(Severity.CAUTION, Station.GLUE_UP, "Not all can be sawn first.", because, remedies)


def _settable(plan: Plan, cut: SawCut) -> Iterator[Remedy]:
    angle = round(90 - cut.nearest_deg, 3)
    if 8 <= angle <= 90 and abs(angle - cut.angle_deg) > 1e-6:
        words = f"Cut at {write(angle, Dimension.ANGLE, plan.units)} to the axis"
        yield Remedy(words, (Edit((*path_to(JOB.blank.steps[cut.step]), "angle_deg"), angle),))


def joints(plan: Plan) -> Iterator[Finding]:
    """More joints than the glue's open time allows, and glues that do not hold what is joined."""
    units = plan.units
    cutting = plan.glue_up
    if cutting is None:
        return
    hurried = [joint for joint in cutting.joints if joint.needed_min > HASTE * joint.open_min]
    if plan.job.glue_up.activator and cutting.glue.activator:
        yield from _activated(cutting)
    elif hurried:
        worst = max(hurried, key=lambda joint: joint.needed_min)
        because = (
            f"Step {worst.step + 1} closes {worst.joints} joints in {units.minutes(worst.needed_min)}; "
            f"{cutting.glue.key} stays open for {units.minutes(worst.open_min)}. Glue a few at a time and join those, "
            "or take one that waits."
        )
        slower = [
            g
            for g in plan.shop.all_glues
            if HASTE * g.open_min >= worst.needed_min and (g.for_metal or not worst.has_metal)
        ]
        late = worst.needed_min > worst.open_min
        remedies = tuple(Remedy(f"Glue with {g.key}", (Edit(path_to(JOB.glue_up.glue), g.key),)) for g in slower[:2])
        title = "The glue sets before the last joint closes." if late else "There is little time for the joints."
        # It can be glued a few at a time: nothing that stops the work.
        yield Finding(Severity.CAUTION, Station.GLUE_UP, title, because, remedies)
    if any(joint.has_metal for joint in cutting.joints) and not cutting.glue.for_metal:
        because = (
            f"{cutting.glue.key.capitalize()} hardly holds brass, resin or composite; epoxy on scuffed faces does."
        )
        remedy = Remedy("Glue with slow epoxy", (Edit(path_to(JOB.glue_up.glue), "slow epoxy"),))
        yield Finding(Severity.CAUTION, Station.GLUE_UP, "This glue does not hold metal.", because, (remedy,))


def _activated(cutting: CutPlan) -> Iterator[Finding]:
    """Several joints at once with activator on one face, which leaves time for none of them."""
    joints = [joint for joint in cutting.joints if joint.joints > 1]
    if joints:
        worst = max(joints, key=lambda joint: joint.joints)
        because = (
            f"Step {worst.step + 1} closes {worst.joints} joints; with activator on one face each sets about "
            f"{60 * worst.open_min:.0f} seconds after its faces meet. Close them one by one, each against a stop, or "
            "leave the activator out."
        )
        without = Remedy("Glue without activator", (Edit(path_to(JOB.glue_up.activator), False),))
        yield Finding(Severity.CAUTION, Station.GLUE_UP, "Activator sets each joint at once.", because, (without,))


def bends(plan: Plan) -> Iterator[Finding]:
    """Sheets that break when they are bent to an arc."""
    for index, step in enumerate(plan.job.blank.steps):
        if not isinstance(step, ArcStep) or not step.sheet:
            continue
        is_bonded = step.sheet_form == "one bonded sheet"
        looks = {layer.material: plan.job.blank.material(layer.material).look for layer in step.sheet}
        brittle = [layer for layer in step.sheet if looks[layer.material] != "metal"]  # soft sheet metal bends
        if not brittle:
            continue
        thickest = max(brittle, key=lambda layer: layer.thickness_mm)
        thick_mm = bare_sheet_mm(step) if is_bonded else thickest.thickness_mm  # what is bonded bends as one
        strain = thick_mm / (2 * step.radius_mm)
        if strain <= _BENDS:
            continue
        because = (
            f"{plan.units.mm(thick_mm)} bent to {plan.units.mm(step.radius_mm)} stretches by "
            f"{decimal(100 * strain, 1)} %; dry wood breaks at about 1 to 1.5 %"
            f"{'' if looks[thickest.material] == 'wood' else ', composite may take more: try an offcut'}. "
            "Several thin ones bend."
        )
        remedies = () if is_bonded else tuple(_thinner(step, index, thickest))
        title = f"The sheet of step {index + 1} may break when it is bent."
        many = "The sheets of steps {} may break when they are bent."
        yield Finding(Severity.CAUTION, Station.GLUE_UP, title, because, remedies, place=str(index + 1), many=many)


def _thinner(step: ArcStep, index: int, thickest: Layer) -> Iterator[Remedy]:
    """Several thin sheets instead of a thick one, as long as that is no pile of veneers."""
    count = math.ceil(thickest.thickness_mm / (0.03 * step.radius_mm))
    each_mm = round(thickest.thickness_mm / count, 3)
    if len(step.sheet) - 1 + count > _MOST_SHEETS or each_mm < declared(Layer, "thickness_mm").low:
        return
    thin = [thickest.with_(thickness_mm=each_mm)] * count
    sheet = tuple(part for layer in step.sheet for part in (thin if layer is thickest else [layer]))
    yield Remedy(f"Use {count} sheets instead", (Edit((*path_to(JOB.blank.steps[index]), "sheet"), sheet),))


def rings(plan: Plan) -> Iterator[Finding]:
    """What the shop's angle error leaves open in a ring of staves."""
    units = plan.units
    for index, step in enumerate(plan.job.blank.steps):
        if not isinstance(step, StavesStep) or plan.glue_up is None:
            continue
        across = plan.layout.across_mm if plan.layout else 20.0
        gap = Ring(step.count).closing_gap_mm(plan.shop.accuracy.angle_deg, step.thickness_mm or across / 2)
        if gap <= _GAP_MM:
            continue
        error = write(plan.shop.accuracy.angle_deg, Dimension.ANGLE, units, 2)
        because = (
            f"{2 * step.count} faces, each off by {error}, leave {units.mm(gap, 2)} in the last joint. Glue two halves "
            "and sand their faces flat on a disc before they are joined: that takes the error out."
        )
        title = f"The ring of step {index + 1} will not quite close."
        yield Finding(Severity.NOTE, Station.GLUE_UP, title, because)


def boards(plan: Plan) -> Iterator[Finding]:
    """Pieces that are longer or wider than any board at hand."""
    units = plan.units
    cutting = plan.glue_up
    if cutting is None or not plan.shop.boards:
        return
    for stock in cutting.stock:
        alike = [board for board in plan.shop.boards if board.material == stock.material]
        if not alike or any(b.length_mm >= stock.length_mm and b.width_mm >= stock.width_mm for b in alike):
            continue
        largest = max(alike, key=lambda board: board.length_mm * board.width_mm)
        because = (
            f"{stock.name}: {units.mm(stock.length_mm, 0)} × {units.mm(stock.width_mm, 0)}; the largest such board at "
            f"hand has {units.mm(largest.length_mm, 0)} × {units.mm(largest.width_mm, 0)}."
        )
        remedies: tuple[Remedy, ...] = ()
        if plan.job.glue_up.skim_mm > 0 and any(b.width_mm >= stock.width_mm - plan.job.glue_up.skim_mm for b in alike):
            remedies = (Remedy("Leave nothing to skim off", (Edit(path_to(JOB.glue_up.skim_mm), 0.0),)),)
        yield Finding(Severity.CAUTION, Station.GLUE_UP, "A board at hand is too small.", because, remedies)
        return


_STRIPPED = {
    "used, with film or print": "Film and print off first, scraped or sanded: glue holds on neither. Not with heat.",
    "used, with nails or screws": "A magnet over both faces, then out with all of it: a nail ends a blade and flies.",
    "used, with old glue": "Old glue off to clean wood: it blunts edges, and new glue does not hold on it.",
}


def used_boards(plan: Plan) -> Iterator[Finding]:
    """Boards that were something before, and bowed ones that are too thin once their pieces are flat."""
    units, cutting = plan.units, plan.glue_up
    wanted = cutting.stock if cutting is not None else ()
    own = [(board, stock) for stock in wanted for board in plan.shop.all_boards if board.material == stock.material]
    for was in dict.fromkeys(board.was for board, _ in own if board.was != "new"):
        names = ", ".join(dict.fromkeys(board.name for board, _ in own if board.was == was))
        severity = Severity.CAUTION if "nails" in was else Severity.NOTE
        yield Finding(severity, Station.GLUE_UP, f"{names}: strip it before the saw.", _STRIPPED[was])
    for board, stock in own:
        left = flat_mm(board.thickness_mm, board.bow_mm, board.length_mm, stock.length_mm)
        if board.bow_mm and left < stock.thickness_mm <= board.thickness_mm:
            because = (
                f"Bowed by {units.mm(board.bow_mm)}, a piece of {units.mm(stock.length_mm, 0)} is planed flat to "
                f"{units.mm(left)}; {units.mm(stock.thickness_mm)} are wanted. Shorter pieces lose less."
            )
            yield Finding(Severity.CAUTION, Station.GLUE_UP, f"{board.name} is too thin for its bow.", because)
            return


def sheet_readings(plan: Plan) -> Iterator[Finding]:
    """What calipers say of the sheets against what the steps reckon with."""
    units = plan.units
    measured = mean_reading_mm(plan.job.glue_up.sheet_readings_mm)
    steps = plan.job.blank.steps
    cut = next((n for n, s in enumerate(steps) if isinstance(s, CutStep) and s.sheet), None)
    if measured is None or cut is None:
        return
    step = steps[cut]
    assert isinstance(step, CutStep)
    planned = bare_sheet_mm(step)  # calipers read the sheet before there is glue on it
    if abs(measured - planned) > _KERF_OFF_MM:
        glued = measured + sheet_joints(step) * step.glue_mm
        moved = DiagonalCut(step.angle_deg, glued, step.kerf_mm).lengthening_mm
        because = (
            f"{units.mm(measured, 2)} measured, {units.mm(planned, 2)} planned: what lies beyond each cut moves by "
            f"{units.mm(abs(moved), 2)}."
        )
        title = "The sheets are not as thick as planned."
        yield Finding(Severity.CAUTION, Station.GLUE_UP, title, because, _measured_sheets(plan, measured))


def _measured_sheets(plan: Plan, measured_mm: float) -> tuple[Remedy, ...]:
    """Reckon with the sheets as they were measured; nothing to offer where no layer could be so thin or thick."""
    edits = []
    for n, step in enumerate(plan.job.blank.steps):
        if isinstance(step, CutStep) and step.sheet:
            part = measured_mm / bare_sheet_mm(step)
            thin = [{"material": one.material, "thickness_mm": round(one.thickness_mm * part, 3)} for one in step.sheet]
            edits.append(Edit((*path_to(JOB.blank.steps[n]), "sheet"), tuple(thin)))
    return (Remedy(f"Plan with sheets of {plan.units.mm(measured_mm, 2)}", tuple(edits)),)


def unknown_glue(plan: Plan) -> Iterator[Finding]:
    """A glue that Orvek does not know is never another one in silence."""
    key = plan.job.glue_up.glue
    if plan.glue_up is None or not plan.glue_up.joints or plan.shop.glue(key):
        return
    because = f"The times of this glue are not known. The schedule uses those of {plan.glue_up.glue.key}."
    remedies = tuple(
        Remedy(f"Glue with {one.key}", (Edit(path_to(JOB.glue_up.glue), one.key),)) for one in plan.shop.all_glues[-2:]
    )
    yield Finding(Severity.CAUTION, Station.GLUE_UP, f"“{key}” is no glue that Orvek knows.", because, remedies)


STATION = Station.GLUE_UP
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    short_pieces,
    kerfs,
    settings,
    beyond_the_saw,
    order_of_work,
    joints,
    bends,
    rings,
    boards,
    used_boards,
    sheet_readings,
    unknown_glue,
)
