"""A job file that is opened: one whose job is here already is never put in its place unasked."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QWidget

from orvek.documents import Job
from orvek.documents.job.job import new_id
from orvek.planning.folding import listed
from orvek.window.session import Session
from orvek.window.session_words import free_name
from orvek.window.widgets.asking import ask

_PARTS = {
    "batch": "name and numbers", "pen": "pen", "blank": "blank", "pour": "pour", "glue_up": "glue-up", "bore": "boring",
    "soak": "treatment", "finish": "finish", "faults": "faults", "work": "work done", "orders": "orders",
}  # fmt: skip


def take_in(parent: QWidget, session: Session, path: Path, *, is_asked: bool = True) -> None:
    """Read a job file and take its job in hand; where another version of it is here, that is asked about."""
    job = session.read_job_file(path)
    if job is None:
        return
    mine = session.job_of(job.batch.id)
    if mine is None:
        session.add_job(job, f"Open {path.name}")
        return
    if mine == job:
        session.open_job(job.batch.id)
        session.said.emit(f"{path.name} is the job {job.batch.name} as it is here.")
        return
    choices = ("Replace it", "Open as a copy", "Leave it")
    words = f"{path.name} holds another version of {mine.batch.name}. They differ in: {listed(differences(mine, job))}."
    chosen = ask(parent, "This job is here already", words, choices, 1) if is_asked else 0
    if chosen == 0:
        session.add_job(job, f"Open {path.name}")
    elif chosen == 1:
        names = {entry.name for entry in session.jobs()}
        batch = job.batch.with_(id=new_id(), name=free_name(job.batch.name, names))
        session.add_job(job.with_(batch=batch), f"Open {path.name} as a copy")


def differences(one: Job, other: Job) -> tuple[str, ...]:
    """In which parts two versions of a job differ, in words."""
    return tuple(words for name, words in _PARTS.items() if getattr(one, name) != getattr(other, name))
