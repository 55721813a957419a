"""Deeds on sizes and coats."""

from typing import Any

from orvek.documents.deeds.tuples import replaced, without
from orvek.documents.job.finish import BY_MATERIAL, EndWork, Finish
from orvek.documents.job.job import Job
from orvek.documents.job.truing import Round
from orvek.documents.shelf.finishing import CoatSchool, HouseLadder


def set_sized(job: Job, barrel: int, name: str, value: float | None) -> Job:
    """Put down what was measured of one barrel, or of the part that meets it."""
    return job.with_(finish=job.finish.with_sized(barrel, job.finish.of(barrel).with_(**{name: value})))


def set_truing(job: Job, barrel: int, **values: Any) -> Job:
    """Put down what was read or felt of one barrel in its holding."""
    return job.with_(finish=job.finish.with_truing(barrel, job.finish.truing(barrel).with_(**values)))


def read_round(job: Job, barrel: int, which: str, angle: str, value: float | None) -> Job:
    """One reading of a barrel: of which end, read as it is or turned half round, at which angle."""
    now: Round = getattr(job.finish.truing(barrel), which)
    return set_truing(job, barrel, **{which: now.with_(**{angle: value})})


def add_end(job: Job, work: EndWork) -> Job:
    """Something more is done to an end of a barrel."""
    return job.with_(finish=job.finish.with_(ends=(*job.finish.ends, work)))


def set_end(job: Job, index: int, work: EndWork) -> Job:
    """It is done otherwise."""
    return job.with_(finish=job.finish.with_(ends=replaced(job.finish.ends, index, work)))


def remove_end(job: Job, index: int) -> Job:
    """It is left as it is turned."""
    return job.with_(finish=job.finish.with_(ends=without(job.finish.ends, index)))


_OF_SCHOOL = ("thin", "medium", "order", "activator", "thin_wait_min", "medium_wait_min")
_OF_LADDER = ("bare_from", "bare_to", "level_from", "level_to", "wet")


def choose_school(job: Job, school: CoatSchool) -> Job:
    """Finish as a school does: its coats, their order and waits; how thick they are stays."""
    return job.with_(finish=job.finish.with_(school=school.name, oil=None, **values_of_school(school)))


def finish_by_material(job: Job) -> Job:
    """Leave the coats to what the blank is made of."""
    return job.with_(finish=job.finish.with_(school=BY_MATERIAL, **dict.fromkeys(("thin", "medium", "oil"))))


def values_of_school(school: CoatSchool) -> dict[str, Any]:
    """What a school says of a job's finish, by the names of its fields."""
    return {name: getattr(school, name) for name in _OF_SCHOOL}


def choose_ladder(job: Job, ladder: HouseLadder) -> Job:
    """Sand through a ladder of the house."""
    return job.with_(finish=job.finish.with_(**{name: getattr(ladder, name) for name in _OF_LADDER}))


def school_of(how: Finish, name: str, note: str = "") -> CoatSchool:
    """The coats of a finish with nothing left open, to be kept as a school under a name."""
    return CoatSchool().with_(
        name=name, note=note, oil=how.oil_coats > 0, **{field: getattr(how, field) for field in _OF_SCHOOL}
    )


def ladder_of(job: Job, name: str) -> HouseLadder:
    """The ladder of a job, to be kept under a name."""
    return HouseLadder().with_(name=name, **{field: getattr(job.finish, field) for field in _OF_LADDER})
