"""Which coats a job gets: as the maker chose, else as its material asks. Whoever reads coats reads them here."""

from __future__ import annotations

from orvek.craft import coating
from orvek.documents import BY_MATERIAL, CoatSchool, Finish, Job, Shop, WrapStep
from orvek.documents.deeds import values_of_school

_POLISHED, _COATED = "abrasives and polish only", "thin, then medium"
_SOAKS_UP = {"wood", "paper"}  # looks of what soils and frays where it stays bare


def every_school(shop: Shop) -> tuple[CoatSchool, ...]:
    """The maker's own schools, then those that ship and have no stand-in."""
    own = {one.name for one in shop.schools}
    return (*shop.schools, *(one for one in coating.schools() if one.name not in own))


def school_of(job: Job, shop: Shop) -> CoatSchool:
    """The school that a job coats by: the maker's own of that name, else one that ships."""
    name = asked_by_material(job) if job.finish.school == BY_MATERIAL else job.finish.school
    listed = every_school(shop)
    return next((one for one in listed if one.name == name), listed[0])


def finishing_of(job: Job, shop: Shop) -> Finish:
    """How a job is finished, with nothing left open: what the maker left to the school or the material is filled in."""
    how, school = job.finish, school_of(job, shop)
    open_ones = values_of_school(school) if how.school == BY_MATERIAL else {}
    thin = school.thin if how.thin is None else how.thin
    medium = school.medium if how.medium is None else how.medium
    oil = ((thin + 1) // 2 if school.oil else 0) if how.oil is None else how.oil
    return how.with_(**{**open_ones, "school": school.name, "thin": thin, "medium": medium, "oil": oil})


def asked_by_material(job: Job) -> str:
    """The school that a blank's material asks for: resin is sanded and polished, what soaks up is coated."""
    looks = {job.blank.material(key).look for key in job.blank.material_keys}
    is_coated_sheet = any(isinstance(step, WrapStep) and step.covered == "coated" for step in job.blank.steps)
    if job.cast_index is None or looks & _SOAKS_UP or is_coated_sheet:
        return _COATED
    return _POLISHED
