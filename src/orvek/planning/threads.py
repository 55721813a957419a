"""Barrels that meet by a thread which starts anywhere: the pattern stops where the thread does."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import Job
from orvek.quantities import Dimension, Units, write

ANYWHERE = "a thread that starts anywhere"
_SEEN_DEG = 2.0  # nobody sees less (a choice)


def is_threaded(job: Job) -> bool:
    """Whether where its pattern stops has to be looked at before it is pressed."""
    return job.finish.joint == ANYWHERE and job.pen is not None and len(job.pen.barrels) > 1


def back_deg(job: Job) -> float:
    """By how much the threaded part is pressed in turned, clockwise from the nib; 0: as it comes."""
    off = job.finish.thread_deg
    return -off if is_threaded(job) and off is not None and abs(off) >= _SEEN_DEG else 0.0


def thread_lines(job: Job, units: Units) -> Iterator[str]:
    """How it is looked at, dry, and what follows once it was."""
    if not is_threaded(job):
        return
    yield "Screw thread and barrels together by hand, dry, tape over the joint: mark where the pattern meets."
    off = job.finish.thread_deg
    if off is None:
        yield "By how many degrees is it off, clockwise from the nib? Type it at Press before anything is pressed."
    elif back := back_deg(job):
        which = "clockwise" if back > 0 else "against the clock"
        turned = write(abs(back), Dimension.ANGLE, units, 0)
        yield f"Press the threaded part turned back: {turned} {which}, seen from the nib. Mark it, then press."
    else:
        yield "The pattern meets where the thread stops: press it as it comes."
