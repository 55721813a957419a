"""Deeds on what is done to the wood before it meets resin."""

from datetime import datetime

from orvek.documents.base import checked, clamped
from orvek.documents.deeds.steps import set_steps
from orvek.documents.job.job import Job
from orvek.documents.job.soak import Weighing, WoodInHand
from orvek.documents.steps import DyeStep, with_material


def begin_soak(job: Job, route: str, size_mm: tuple[float, float, float], count: int) -> Job:
    """Choose what is done to the wood. What nobody has typed yet begins as the blank is: its size, how many.

    Args:
        job: the job.
        route: what is done to it.
        size_mm: length, width and depth of the bar as it is before any step.
        count: how many bars.
    """
    wood = job.soak.wood
    if wood == WoodInHand():
        names = ("length_mm", "width_mm", "depth_mm", "count")
        sizes = {name: clamped(WoodInHand, name, value) for name, value in zip(names, (*size_mm, count), strict=True)}
        sizes["count"] = int(sizes["count"])
        wood = wood.with_(**sizes)
    return job.with_(soak=job.soak.with_(route=route, wood=wood))


def choose_treated_wood(job: Job, key: str) -> Job:
    """Say which wood is treated. It is the blank's own, so a blank of one wood is of this one from now on."""
    woods = dict.fromkeys(job.blank.woods)
    if len(woods) == 1 and key not in woods:
        job = set_steps(job, tuple(with_material(step, next(iter(woods)), key) for step in job.blank.steps))
        woods = {key: None}
    own = None if key == next(iter(woods), None) else key
    return job.with_(soak=job.soak.with_(wood=job.soak.wood.with_(species=own)))


def add_weighing(job: Job, when: datetime, mass_g: float) -> Job:
    """One more line in the log of weights.

    Raises:
        BadFieldError: it is no weight, or the log is full.
    """
    weighing = checked(Weighing, {"when": when, "mass_g": mass_g})
    drying = job.soak.drying
    return job.with_(soak=job.soak.with_(drying=drying.with_(log=(*drying.log, weighing))))


def add_dye(job: Job) -> Job:
    """One more colour, after the last one, else right after the stock."""
    steps = list(job.blank.steps)
    places = [number for number, step in enumerate(steps) if isinstance(step, DyeStep)]
    steps.insert(places[-1] + 1 if places else 1, DyeStep(depth_mm=2.0))
    return set_steps(job, tuple(steps))
