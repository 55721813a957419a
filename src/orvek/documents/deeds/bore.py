"""Deeds on holes."""

from orvek.documents.job.job import Job


def set_hole(job: Job, barrel: int, name: str, value: object) -> Job:
    """Put down what was decided or seen of one barrel's hole."""
    return job.with_(bore=job.bore.with_hole(barrel, job.bore.hole(barrel).with_(**{name: value})))
