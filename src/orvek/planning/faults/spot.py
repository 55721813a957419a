"""Where a fault lies: how thick the barrel is there now and once finished, and what is left under it."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.faults import pit_mm3
from orvek.documents import JOB, Barrel, Fault, PlugStep, path_to
from orvek.planning.bar import bar_size
from orvek.planning.findings import Edit
from orvek.planning.results import Plan
from orvek.planning.shortening import beyond_mm
from orvek.workpiece.lengths import reach_mm

_ROUGH = ("sawing", "boring", "gluing the tube", "squaring")  # moments at which the bar is as thick as it was


class Spot(Struct, frozen=True):
    """A fault on its barrel.

    Attributes:
        fault, barrel: what it is, and the barrel as it lies on the strip.
        radius_now_mm: of the barrel there, by calipers or by when the fault came.
        is_measured: whether by calipers.
        finished_mm: radius there once finished.
        hole_mm: radius of the hole there.
        start_mm: where the barrel begins on the bar.
        face_mm: from the bar's axis to its face in the direction of the fault.
        steps: how many steps the blank has.
    """

    fault: Fault
    barrel: Barrel
    radius_now_mm: float
    is_measured: bool
    finished_mm: float
    hole_mm: float
    start_mm: float
    face_mm: float
    plan: Plan

    @classmethod
    def of(cls, plan: Plan, fault: Fault, barrel: Barrel) -> Spot:
        """The place of a fault in a plan whose pen has that barrel."""
        part = fault.at_mm / barrel.tube_length_mm
        finished = barrel.finished_mm(part) / 2
        measured = _measured(plan, fault, part)
        width, depth, _, is_round = bar_size(plan.layout)
        face = reach_mm(width, depth, fault.azimuth_deg, is_round=is_round)
        now = measured if measured is not None else min(width, depth) / 2 if fault.moment in _ROUGH else finished
        bores = [size for first, last, size in barrel.bores if first <= fault.at_mm <= last]
        start = plan.layout.tubes[fault.barrel].tube.start_mm if plan.layout else 0.0
        hole = max(bores, default=0.0) / 2
        return cls(fault, barrel, max(now, hole), measured is not None, finished, hole, start, face, plan)

    @property
    def still_mm(self) -> float:
        """What is still to come off the radius there; 0 where it is at its size."""
        return max(0.0, self.radius_now_mm - self.finished_mm)

    @property
    def left_mm(self) -> float:
        """How deep the flaw will be in the finished barrel; below 0: it goes with what is still to come off."""
        return self.fault.deep_mm - self.still_mm

    @property
    def under_mm(self) -> float:
        """What is left between the flaw's bottom and the hole; 0 where it reaches it."""
        return max(0.0, self.radius_now_mm - self.fault.deep_mm - self.hole_mm)

    @property
    def volume_mm3(self) -> float:
        """What is to be filled of it."""
        return pit_mm3(self.fault.long_mm, self.fault.wide_mm, max(self.left_mm, 0.0))

    @property
    def beyond_mm(self) -> tuple[float, float]:
        """From the left and from the right end to where the flaw begins, seen from there; below 0: over the end."""
        return beyond_mm(self.fault, self.barrel)


def flaw(spot: Spot, material: str) -> tuple[Edit, ...]:
    """The blank with the flaw as a pit of some material, to be looked at; the job has no room for it: as it is."""
    steps = spot.plan.job.blank.steps
    if len(steps) >= 200:
        return ()
    bottom = spot.finished_mm - max(spot.left_mm, 0.05)
    pit = PlugStep(
        diameter_mm=min(60.0, max(0.5, spot.fault.wide_mm)),
        long_mm=min(300.0, max(0.5, spot.fault.long_mm)),
        centre_mm=max(-100.0, min(1000.0, spot.start_mm + spot.fault.at_mm)),
        azimuth_deg=spot.fault.azimuth_deg,
        deep_mm=min(300.0, max(0.2, spot.face_mm - bottom)),
        material=material,
    )
    return (Edit(path_to(JOB.blank.steps), (*steps, pit)),)


def _measured(plan: Plan, fault: Fault, part: float) -> float | None:
    """Half of what the calipers said nearest to the place; None while nothing was measured."""
    sized = plan.job.finish.of(fault.barrel)
    left, right = sized.now_left_mm, sized.now_right_mm
    if plan.job.blank.is_flipped(fault.barrel):
        left, right = right, left
    read = [(0.0, left), (0.5, sized.now_middle_mm), (1.0, right)]
    near = [(abs(at - part), size) for at, size in read if size is not None]
    return min(near)[1] / 2 if near else None
