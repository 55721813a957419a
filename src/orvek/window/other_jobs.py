"""The jobs of the workshop beside the one in hand, read again only when one of them was changed; what they leave on the
shelf.
"""

from __future__ import annotations

from orvek.documents import Job
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.shelf_list import Entry, ShelfStock
from orvek.planning.stock import Held
from orvek.shop import Workshop


class OtherJobs:
    """What else is to be done in the maker's hours."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._kept: tuple[object, tuple[Job, ...]] | None = None
        self._stock = ShelfStock()

    def of(self, job_id: str) -> tuple[Job, ...]:
        """All jobs but this one; those that cannot be read are left out."""
        now = tuple((entry.id, entry.changed_at) for entry in self._workshop.jobs() if entry.id != job_id)
        if self._kept is None or self._kept[0] != now:
            found = (self._read(other) for other, _ in now)
            self._kept = (now, tuple(job for job in found if job is not None))
        return self._kept[1]

    def shelf(self, plan: Plan) -> tuple[tuple[Entry, ...], tuple[Held, ...]]:
        """What is on the shelf beside a plan, with what the work on all jobs has used and made."""
        return self._stock.entries(plan, self.of(plan.job.batch.id))

    def begun(self, plan: Plan) -> list[Plan]:
        """The plans of all other jobs in which something was done already."""
        return self._stock.others(plan, self.of(plan.job.batch.id))

    def left_g(self, plan: Plan, name: str) -> float | None:
        """How many grams are left in the jars of a name; None where the shelf has none of it."""
        jars = [one for one in self.shelf(plan)[1] if one.piece.kind == "jar" and one.piece.name == name]
        return sum(one.left for one in jars) if jars else None

    def _read(self, job_id: str) -> Job | None:
        try:
            return self._workshop.job(job_id, pictures=False)
        except OrvekError:
            return None
