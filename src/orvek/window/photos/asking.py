"""The bar of the job in hand as photographed: the sheet is opened, and what is saved on it is one deed of the job."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QWidget

from orvek.documents import JOB, Job, PhotoStep, checked, deeds, path_to
from orvek.documents.base import clamped
from orvek.planning.bar import bar_size
from orvek.window.photos.sheet import ask_photos
from orvek.window.session import Session

SUFFIXES = {".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff", ".bmp", ".heic", ".heif", ".avif"}


def are_photos(paths: list[Path]) -> bool:
    """Whether files that are let fall on the window are pictures, all of them."""
    return bool(paths) and all(path.suffix.lower() in SUFFIXES for path in paths)


def photograph_bar(parent: QWidget | None, session: Session, paths: tuple[Path, ...] = ()) -> None:
    """Ask for photos of the bar of the job in hand; saved, the blank begins with the bar as it is."""
    before = session.job.blank.photographed
    there = before or _as_it_lies(session)
    found = ask_photos(parent, there, session.units, paths)
    if found is None or found == there:
        return
    if before is None:
        session.attempt("Start with the bar as photographed", lambda job: _one_pen(deeds.replace_stock(job, found)))
    else:
        index = session.job.blank.steps.index(before)
        session.attempt("Photos of the bar", lambda job: deeds.set_step(job, index, found))


def _one_pen(job: Job) -> Job:
    """A bar that lies there makes one pen, however many were wanted of a casting."""
    return deeds.set_value(job, path_to(JOB.batch.pens_wanted), 1)


def _as_it_lies(session: Session) -> PhotoStep:
    """A bar of the size that the plan has now; its real size is asked for on the sheet."""
    width, depth, length, is_round = bar_size(session.plan.layout)
    sizes = {"length_mm": length, "width_mm": width, "depth_mm": depth}
    fitting = {name: round(clamped(PhotoStep, name, value), 1) for name, value in sizes.items()}
    return checked(PhotoStep, {**fitting, "form": "round" if is_round else "rectangular"})
