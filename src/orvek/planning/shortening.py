"""How much comes off a barrel's two ends so that the flaws there are gone: one cut at each end clears all of them."""

from __future__ import annotations

from collections.abc import Iterable

from orvek.craft.boring_plan import both_cuts, may_shorten, shortened_mm
from orvek.documents import Barrel, Fault, Job

AT_END_MM = 1.0  # a flaw that begins so near an end is cut off with it (a choice)
SHORTEN = "shorten"  # the way out of a flaw that this is about


def cuts_mm(faults: Iterable[Fault], barrel: Barrel) -> tuple[float, float]:
    """What comes off the left and the right end so that each of these flaws, at its nearer end, is gone."""
    ends: tuple[list[float], list[float]] = [], []
    for fault in faults:
        left, right = beyond_mm(fault, barrel)
        ends[left > right].append(shortened_mm(max(0.0, min(left, right) + fault.long_mm)))
    cuts = both_cuts(0.0, 0.0, *ends)
    return cuts.left_mm, cuts.right_mm


def lost_mm(job: Job, index: int, barrel: Barrel) -> float:
    """What a barrel becomes shorter by as was decided: of several blanks the one that loses most."""
    found = 0.0
    for number in {fault.blank_no for fault in job.faults.found}:
        left, right = cuts_mm(decided(job, index, number), barrel)
        evenly = max(left, right)
        is_even = barrel.play_mm is not None and may_shorten(evenly, barrel.play_mm)
        found = max(found, 2 * evenly if is_even else left + right)
    return found


def beyond_mm(fault: Fault, barrel: Barrel) -> tuple[float, float]:
    """From the left and from the right end to where a flaw begins, seen from there; below 0: over the end."""
    half = fault.long_mm / 2
    return fault.at_mm - half, barrel.tube_length_mm - fault.at_mm - half


def decided(job: Job, barrel: int, blank_no: int) -> tuple[Fault, ...]:
    """The flaws of a blank's barrel that are to be cut off with its ends."""
    return tuple(
        fault
        for fault in job.faults.found
        if fault.way == SHORTEN and (fault.barrel, fault.blank_no) == (barrel, blank_no)
    )
