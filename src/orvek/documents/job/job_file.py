"""A job as a file: `NAME.orvek.json`, its version, its schema.

`to_text` and `from_text` are each other's inverse; `job_schema` is the published JSON Schema.
UTF-8, sorted and indented, so that it diffs well. A file of a later version, another kind or with an unknown field
is refused with a sentence that names it; one of an earlier version is brought up to date as it is read.
"""

import json
from typing import Any, Literal

from pydantic import Field

from orvek.documents.artwork import Contents
from orvek.documents.base import Document, checked
from orvek.documents.job.blank import Blank
from orvek.documents.job.bore import Bore
from orvek.documents.job.faults import Faults
from orvek.documents.job.finish import Finish
from orvek.documents.job.glue_up import GlueUp
from orvek.documents.job.job import Batch, Job
from orvek.documents.job.order import Orders
from orvek.documents.job.pour import Pour
from orvek.documents.job.soak import Soak
from orvek.documents.job.work import MOST_ACTUALS, Work
from orvek.documents.shelf.pen import Pen
from orvek.errors import BadFieldError, NotAJobFileError, UnknownVersionError

FORMAT = "orvek-job"
VERSION = 2
# Version 1 told them in one operation: who had done the first had done all.
_TOLD_APART = {"tube": ("scuff",), "join": ("wipe",), "level": ("polish",), "press": ("write",)}


class JobFile(Document):
    """The content of a `.orvek.json` file."""

    format: Literal["orvek-job"]
    version: Literal[2]
    job: Batch = Field(title="Which job, and how much of it")
    pen: Pen | None = None
    blank: Blank = Blank()
    pour: Pour = Pour()
    glue_up: GlueUp = GlueUp()
    bore: Bore = Bore()
    soak: Soak = Soak()
    finish: Finish = Finish()
    faults: Faults = Faults()
    work: Work = Work()
    orders: Orders = ()


_PARTS = tuple(name for name in Job.model_fields if name != "batch")  # all of a job, whatever comes to it later


def to_text(job: Job, contents: Contents | None = None) -> str:
    """The job as the text of its file, ending in a newline.

    Its pictures stand in it; where `contents` are given they are put there, and the text only names them.
    """
    parts = {name: getattr(job, name) for name in _PARTS}
    file = JobFile(format="orvek-job", version=VERSION, job=job.batch, **parts)
    content = file.model_dump(mode="json", context={"contents": contents})
    return json.dumps(content, indent=2, sort_keys=True, ensure_ascii=False) + "\n"


def from_text(text: str, name: str = "This file", contents: Contents | None = None) -> Job:
    """The job in the text of a file; `contents` has what the text only names.

    Raises:
        NotAJobFileError: no JSON, truncated, another program's, or a field that is wrong.
        UnknownVersionError: a job of a later version.
    """
    content = _parsed(text, name)
    if content.get("format") != FORMAT:
        raise NotAJobFileError(name, "it was not written by Orvek")
    version = content.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise NotAJobFileError(name, "it does not say of which version it is")
    if version > VERSION:
        raise UnknownVersionError(name, version, VERSION)
    try:
        file = checked(JobFile, _of_today(content, version), {"contents": contents})
    except BadFieldError as error:
        raise NotAJobFileError(name, f"{error.where} {error.problem}") from error
    job = Job(batch=file.job, **{name: getattr(file, name) for name in _PARTS})
    return job if version > 1 else _with_its_own_wood(job)


def job_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a job file, made from the models."""
    schema = JobFile.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": "Orvek job"}


def schema_text() -> str:
    """The schema as it ships in data/job.schema.json."""
    return json.dumps(job_schema(), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


def _of_today(content: dict[str, Any], version: int) -> dict[str, Any]:
    """The content of an earlier version as this one has it; what is no work at all is left to the check."""
    content = _with_orders(content)
    work = content.get("work")
    if version > 1 or not isinstance(work, dict) or not isinstance(actuals := work.get("actuals"), list):
        return {**content, "version": VERSION}
    done = [one for one in actuals if isinstance(one, dict) and one.get("what", "done") == "done"]
    more = [
        {**one, "task": f"{apart}{dot}{step}"}
        for one in done
        for kind, dot, step in [str(one.get("task")).partition(".")]
        for apart in _TOLD_APART.get(kind, ())
    ]
    room = max(0, MOST_ACTUALS - len(actuals))
    return {**content, "version": VERSION, "work": {**work, "actuals": [*actuals, *more[:room]]}}


def _with_orders(content: dict[str, Any]) -> dict[str, Any]:
    """A job had one order for all its pens, and the day it was delivered: now each customer has his own."""
    order, batch = content.get("order"), content.get("job")
    if not isinstance(order, dict) or "orders" in content:
        return content
    rest = {key: value for key, value in content.items() if key != "order"}
    kept = {key: value for key, value in order.items() if key != "delivered_on"}
    pens = batch.get("pens_wanted", 1) if isinstance(batch, dict) else 1
    day = order.get("delivered_on")
    if day is None and not any(kept.get(key) for key in ("customer", "wishes", "price", "paid")):
        return rest
    deliveries = [{"on": day, "pens": pens}] if day is not None else []
    return {**rest, "orders": [{**kept, "pens": pens, "deliveries": deliveries}]}


def _with_its_own_wood(job: Job) -> Job:
    """Version 1 named the treated wood a second time: where nothing is treated, or it is the blank's, that goes."""
    wood = job.soak.wood
    if job.soak.route != "nothing" and wood.species != next(iter(job.blank.woods), None):
        return job
    return job.with_(soak=job.soak.with_(wood=wood.with_(species=None)))


def _parsed(text: str, name: str) -> dict[str, Any]:
    try:
        content = json.loads(text)
    except json.JSONDecodeError as error:
        complete = "it is empty" if not text.strip() else f"it breaks off or is damaged at line {error.lineno}"
        raise NotAJobFileError(name, complete) from error
    except (RecursionError, ValueError) as error:
        raise NotAJobFileError(name, "it is nested or numbered beyond reason") from error
    if not isinstance(content, dict):
        raise NotAJobFileError(name, "it holds no job")
    return content
