"""The jobs of the workshop beside the one in hand, each read again only when it was changed; what they leave on the
shelf.
"""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Collection

from orvek.documents import Job
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.shelf_list import Entry, ShelfStock
from orvek.planning.stock import Held
from orvek.store import JobEntry, Workshop


class OtherJobs:
    """What else is to be done in the maker's hours. `warm` reads in the background, so that no page waits for it."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._read_ones: dict[str, tuple[str, Job | None]] = {}  # by id: when it was changed, and the job as it was
        self._stock = ShelfStock()

    def warm(self) -> None:
        """Read all jobs in a thread of its own."""
        threading.Thread(target=self._read_all, daemon=True).start()

    def of(self, job_id: str) -> tuple[Job, ...]:
        """All jobs but this one; those that cannot be read are left out."""
        found = (self._job(entry) for entry in self._workshop.jobs() if entry.id != job_id)
        return tuple(job for job in found if job is not None)

    def shelf(self, plan: Plan) -> tuple[tuple[Entry, ...], tuple[Held, ...]]:
        """What is on the shelf beside a plan, with what the work on all jobs has used and made."""
        return self._stock.entries(plan, self.of(plan.job.batch.id))

    def begun(self, plan: Plan) -> list[Plan]:
        """The plans of all other jobs in which something was done already."""
        return self._stock.others(plan, self.of(plan.job.batch.id))

    def plans(self, plan: Plan, job_ids: Collection[str]) -> dict[str, Plan]:
        """The plans of some jobs by their ids, that of the job in hand among them."""
        others = self.of(plan.job.batch.id)
        found = {job.batch.id: self._stock.plan_of(job, plan.shop) for job in others if job.batch.id in job_ids}
        return found | {plan.job.batch.id: plan}

    def left_g(self, plan: Plan, name: str) -> float | None:
        """How many grams are left in the jars of a name; None where the shelf has none of it."""
        jars = [one for one in self.shelf(plan)[1] if one.piece.kind == "jar" and one.piece.name == name]
        return sum(one.left for one in jars) if jars else None

    def _read_all(self) -> None:
        with contextlib.suppress(OrvekError):  # whoever wants one of them is told
            for entry in self._workshop.jobs():
                self._job(entry)

    def _job(self, entry: JobEntry) -> Job | None:
        kept = self._read_ones.get(entry.id)
        if kept is None or kept[0] != entry.changed_at:
            try:
                job = self._workshop.job(entry.id, pictures=False)
            except OrvekError:
                job = None
            kept = self._read_ones[entry.id] = (entry.changed_at, job)
        return kept[1]
