"""What the commands work on: jobs and shop of the workshop, a job file, a plan with the answers to slow questions."""

from __future__ import annotations

import argparse
from pathlib import Path

from orvek.documents import Job, Shop, first_shop, from_text
from orvek.errors import NothingToDoError
from orvek.files import JOB_SUFFIX, LARGEST_JOB_BYTES, read_text
from orvek.planning import QUESTIONS, Plan, answered, plan


def planned(options: argparse.Namespace) -> tuple[Plan, Shop]:
    """The plan of the job that is named, with the slow answers that are asked for, and its shop."""
    job, shop = _job_and_shop(options)
    found = plan(job, shop)
    if getattr(options, "all", False):
        found = with_answers(found, tuple(slow.key for slow in QUESTIONS if slow.key != "weeks"))
    elif getattr(options, "cure", False):
        found = with_answers(found, ("cure",))
    return found, shop


def with_answers(found: Plan, keys: tuple[str, ...]) -> Plan:
    """The plan with the answers to its slow questions, as the window shows them."""
    from orvek.workpiece.field import kernel_cache, load_kernel
    from orvek.workpiece.reference import evaluate_reference

    asked = [slow for slow in QUESTIONS if slow.key in keys]
    evaluate = load_kernel(kernel_cache()) if any(slow.key == "meet" for slow in asked) else evaluate_reference
    for slow in asked:
        question = slow.question(found)
        if question is not None:
            answer = slow.answer(question, evaluate, lambda _part: None, lambda _early: None)
            found = answered(found, slow, answer)
    return found


def all_jobs(options: argparse.Namespace, wanted: str | None, what: str) -> tuple[list[Job], Shop]:
    """All jobs of the workshop, the one that is wanted, else was open last, first; and its shop."""
    from orvek.shop import open_workshop

    path = options.path
    if not path.exists():
        raise NothingToDoError(what, f"a workshop with jobs at {path}")
    workshop = open_workshop(path)
    try:
        entries = workshop.jobs()
        first = next((entry for entry in entries if wanted in {entry.id, entry.name}), None)
        if wanted is not None and first is None:
            raise NothingToDoError(f"Finding “{wanted[:60]}”", f"a job of that name in {path.name}")
        last = workshop.last_open()
        first = first or next((entry for entry in entries if entry.id == last), None)
        order = [*([first] if first else []), *(entry for entry in entries if entry is not first)]
        return [workshop.open_job(entry.id).job for entry in order], workshop.shop()
    finally:
        workshop.close()


def _job_and_shop(options: argparse.Namespace) -> tuple[Job, Shop]:
    from orvek.shop import open_workshop

    wanted = options.job
    is_file = wanted.endswith(".json") or (len(wanted) < 1000 and "\0" not in wanted and Path(wanted).exists())
    job = from_text(read_text(Path(wanted), LARGEST_JOB_BYTES), Path(wanted).name) if is_file else None
    path = options.path
    if not path.exists():
        if job is None:
            raise NothingToDoError(
                f"Finding “{wanted[:60]}”", f"a workshop with that job, or a file {wanted[:60]}{JOB_SUFFIX}"
            )
        return job, first_shop()
    workshop = open_workshop(path)
    try:
        shop = workshop.shop()
        if job is None:
            entry = next((e for e in workshop.jobs() if wanted in {e.id, e.name}), None)
            if entry is None:
                raise NothingToDoError(f"Finding “{wanted[:60]}”", f"a job of that name in {path.name}")
            job = workshop.job(entry.id)
        return job, shop
    finally:
        workshop.close()
