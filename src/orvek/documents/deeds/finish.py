"""Deeds on sizes and coats."""

from __future__ import annotations

from orvek.documents.job.job import Job


def set_sized(job: Job, barrel: int, name: str, value: float | None) -> Job:
    """Put down what was measured of one barrel, or of the part that meets it."""
    return job.with_(finish=job.finish.with_sized(barrel, job.finish.of(barrel).with_(**{name: value})))


def choose_school(job: Job, school: str, thin: int, medium: int) -> Job:
    """Finish as a school does: its coats; how thick they are stays."""
    return job.with_(finish=job.finish.with_(school=school, thin=thin, medium=medium))
