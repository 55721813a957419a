"""How much comes off a barrel's two ends so that the flaws there are gone: one cut at each end clears all of them."""

from __future__ import annotations

from collections.abc import Iterable

from orvek.craft.boring_plan import shortened_mm
from orvek.documents import Barrel, Fault, Job

AT_END_MM = 1.0  # a flaw that begins so near an end is cut off with it (a choice)
SHORTEN = "shorten"  # the way out of a flaw that this is about


def cuts_mm(faults: Iterable[Fault], barrel: Barrel) -> tuple[float, float]:
    """What comes off the left and the right end so that each of these flaws, at its nearer end, is gone."""
    ends = [0.0, 0.0]
    for fault in faults:
        half = fault.long_mm / 2
        beyond = (fault.at_mm - half, barrel.tube_length_mm - fault.at_mm - half)
        end = 0 if beyond[0] <= beyond[1] else 1
        ends[end] = max(ends[end], shortened_mm(max(0.0, beyond[end] + fault.long_mm)))
    return ends[0], ends[1]


def decided(job: Job, barrel: int, blank_no: int) -> tuple[Fault, ...]:
    """The flaws of a blank's barrel that are to be cut off with its ends."""
    return tuple(
        fault
        for fault in job.faults.found
        if fault.way == SHORTEN and (fault.barrel, fault.blank_no) == (barrel, blank_no)
    )
