"""The ledger: what became of blanks, what was learned and changed, what a batch cost. It only grows: a correction is an
entry of its own, and of two about the same blank the later one counts.
"""

from datetime import datetime
from typing import Annotated, Literal, get_args

from pydantic import Field

from orvek.documents.base import Document, Name, Notes, Words, measure
from orvek.quantities import Dimension

Fate = Literal["good", "repaired", "made smaller", "spoilt"]
Stage = Literal[
    "the wood", "casting", "glue-up", "sawing", "boring", "gluing the tube", "squaring", "turning", "sanding",
    "coating", "pressing", "later",
]  # fmt: skip


def fates() -> tuple[Fate, ...]:
    """All that may become of a blank."""
    return get_args(Fate)


def outcome(fate: str) -> str:
    """What became of a blank, in the maker's word; in the records it is kept under an older one."""
    return {"made smaller": "downsized", "spoilt": "scrapped"}.get(fate, fate)


class Entry(Document):
    """What every entry says: when it was written, of which job, which kind of work that is, for which pen."""

    when: datetime
    job_id: Words = ""
    job: Words = ""
    work: Words = ""
    pen: Words = ""


class FateEntry(Entry):
    """What became of one blank. `is_open_again`: it is in work after all, and no earlier entry about it counts.

    `begun`: how many blanks its job had begun by then, so that those nobody wrote a word about count as well; 0 in
    entries from before that was written down.
    """

    entry: Literal["fate"] = "fate"
    blank_no: int = measure("Blank number", Dimension.COUNT, low=1, high=2000, default=1)
    fate: Fate = Field(default="good", title="Outcome")
    stage: Stage = Field(default="turning", title="While")
    cause: Words = Field(default="", title="Cause", description="What went wrong, in as few words as next time")
    place: Words = Field(default="", title="Where on it")
    tried: Words = Field(default="", title="What was tried")
    decided_by: Words = Field(default="", title="Decided by")
    lots: Words = Field(default="", title="Of the lots", description="Which pieces and lots it was made of")
    is_tube_saved: bool = Field(default=False, title="The tube is saved")
    is_open_again: bool = False
    begun: int = Field(default=0, ge=0, le=2000)


class LessonEntry(Entry):
    """What to do again, or not, at a kind of task, in the maker's own words."""

    entry: Literal["lesson"] = "lesson"
    task: Name = Field(default="turn", title="At the task")
    again: Literal["do again", "do not"] = Field(default="do again", title="Next time")
    words: Notes = Field(default="", title="What")


class ChangeEntry(Entry):
    """Something done otherwise from now on, because of a cause that came twice."""

    entry: Literal["change"] = "change"
    cause: Name = Field(default="blow-out", title="Cause")
    words: Notes = Field(default="", title="From now on")


class ClosedEntry(Entry):
    """A batch that is finished, as it stood then: how many, what a good pen cost as told and with the spoilt ones."""

    entry: Literal["closed"] = "closed"
    started: int = Field(default=0, ge=0)
    good: int = Field(default=0, ge=0)
    told: float = Field(default=0.0, ge=0, allow_inf_nan=False)
    cost_good: float | None = Field(default=None, ge=0, allow_inf_nan=False)
    minutes: float = Field(default=0.0, ge=0, allow_inf_nan=False)
    by_stage_min: Annotated[tuple[tuple[Words, float], ...], Field(max_length=20)] = ()


class SeriesEntry(Entry):
    """A new series: the method changed, and what was seen before does not count any more.

    `items` are what a shelf's log held of it, so that it can be taken up again; `is_ended`: that was done, and all
    that was seen counts.
    """

    entry: Literal["series"] = "series"
    of: Name
    shelf: Words = ""
    items: Annotated[tuple[str, ...], Field(max_length=5000)] = ()
    is_ended: bool = False


LedgerEntry = Annotated[FateEntry | LessonEntry | ChangeEntry | ClosedEntry | SeriesEntry, Field(discriminator="entry")]
