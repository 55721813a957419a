"""Deeds on the saw: which one, and how wide it really cuts."""

from orvek.documents.job.glue_up import GlueUp
from orvek.documents.job.job import Job
from orvek.documents.shelf.bench import Machine


def choose_saw(job: Job, machine: Machine) -> Job:
    """Saw with a machine."""
    return _with_kerf(job, job.glue_up.with_(machine=machine))


def set_kerf_readings(job: Job, readings_mm: tuple[float, ...]) -> Job:
    """What calipers said of the saw's kerf."""
    return _with_kerf(job, job.glue_up.with_(kerf_readings_mm=readings_mm))


def _with_kerf(job: Job, glue_up: GlueUp) -> Job:
    """The crosscuts of the bar go by the kerf of the saw, as measured, until another one is typed for them."""
    before, kerf_mm = (None if kerf is None else round(kerf, 2) for kerf in (job.glue_up.kerf_mm, glue_up.kerf_mm))
    follows = job.blank.is_usual("saw_kerf_mm") or job.blank.saw_kerf_mm == before
    blank = job.blank.with_(saw_kerf_mm=kerf_mm) if follows and kerf_mm is not None else job.blank
    return job.with_(glue_up=glue_up, blank=blank)
