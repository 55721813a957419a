"""What the commands work on: jobs and shop of the workshop, a job file, a plan with the answers to slow questions."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from difflib import get_close_matches
from pathlib import Path
from typing import TYPE_CHECKING

from orvek.documents import Job, Shop, first_shop, from_text
from orvek.errors import NothingToDoError
from orvek.files import JOB_SUFFIX, LARGEST_JOB_BYTES, read_text
from orvek.planning import QUESTIONS, Plan, answered, plan

if TYPE_CHECKING:
    from orvek.store import JobEntry, Workshop


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
    workshop = _workshop(options)
    if workshop is None:
        raise NothingToDoError(what, f"a workshop with jobs at {options.path}")
    try:
        entries = workshop.jobs()
        last = workshop.last_open()
        chosen = (entry for entry in entries if entry.id == last)
        first = _named(entries, wanted, options.path) if wanted is not None else next(chosen, None)
        order = [*([first] if first else []), *(entry for entry in entries if entry is not first)]
        return [workshop.open_job(entry.id).job for entry in order], workshop.shop()
    finally:
        workshop.close()


def _job_and_shop(options: argparse.Namespace) -> tuple[Job, Shop]:
    wanted = options.job
    is_file = wanted.endswith(".json") or (len(wanted) < 1000 and "\0" not in wanted and Path(wanted).exists())
    job = from_text(read_text(Path(wanted), LARGEST_JOB_BYTES), Path(wanted).name) if is_file else None
    workshop = _workshop(options)
    if workshop is None:
        if job is None:
            raise NothingToDoError(
                f"Finding “{wanted[:60]}”", f"a workshop with that job, or a file {wanted[:60]}{JOB_SUFFIX}"
            )
        return job, first_shop()
    try:
        shop = workshop.shop()
        if job is None:
            job = workshop.job(_named(workshop.jobs(), wanted, options.path).id)
        return job, shop
    finally:
        workshop.close()


def _workshop(options: argparse.Namespace) -> Workshop | None:
    """The workshop of the command line, a demo filled where it is not there yet; None where there is none."""
    from orvek.store import fill_with_demo, open_workshop

    is_new = not options.path.exists()
    if is_new and not options.demo:
        return None
    workshop = open_workshop(options.path)
    if is_new:
        fill_with_demo(workshop)
    return workshop


def _named(entries: Sequence[JobEntry], wanted: str, path: Path) -> JobEntry:
    """The job of that id or name; capitals do not matter.

    Raises:
        NothingToDoError: there is none; it offers the nearest.
    """
    same = [one for one in entries if wanted in {one.id, one.name}]
    same += [one for one in entries if one.name.casefold() == wanted.casefold()]
    if same:
        return same[0]
    names = {entry.name.casefold(): entry.name for entry in entries}
    near = get_close_matches(wanted.casefold(), names, 1)
    offered = f" (did you mean “{names[near[0]]}”?)" if near else ""
    raise NothingToDoError(f"Finding “{wanted[:60]}”", f"a job of that name in {path.name}{offered}")
