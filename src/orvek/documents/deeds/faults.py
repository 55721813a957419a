"""Deeds on what went wrong."""

from orvek.documents.deeds.tuples import replaced, without
from orvek.documents.job.faults import Fault
from orvek.documents.job.job import Job


def add_fault(job: Job, fault: Fault) -> Job:
    """Put a fault on a barrel.

    Raises:
        BadFieldError: there are as many as a job keeps.
    """
    return _with_faults(job, (*job.faults.found, fault))


def set_fault(job: Job, number: int, fault: Fault) -> Job:
    """Put another fault in the place of one."""
    return _with_faults(job, replaced(job.faults.found, number, fault))


def remove_fault(job: Job, number: int) -> Job:
    """Take a fault away."""
    return _with_faults(job, without(job.faults.found, number))


def _with_faults(job: Job, found: tuple[Fault, ...]) -> Job:
    return job.with_(faults=job.faults.with_(found=found))
