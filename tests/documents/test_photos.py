"""Photos among the documents: faces in their order, what a job can carry, files that come back byte for byte."""

from __future__ import annotations

from datetime import datetime

import pytest

from orvek.documents import FACES, Job, PhotoStep, deeds, from_text, to_text
from orvek.documents.deeds import photos
from orvek.documents.job import job as job_module
from orvek.errors import BadFieldError, NothingToDoError
from tests.photos import view_of

ART = view_of(90.0, 1).artwork


def faces(step: PhotoStep) -> str:
    return "".join(view.face for view in step.views)


def test_faces_come_in_the_order_in_which_the_bar_is_rolled() -> None:
    step = PhotoStep()
    for _ in FACES:
        step = photos.add_photo(step, ART)
    assert faces(step) == "ABCD"
    with pytest.raises(NothingToDoError):
        photos.add_photo(step, ART)
    gone = photos.remove_view(step, 1)
    assert faces(gone) == "ACD"
    assert faces(photos.add_photo(gone, ART)) == "ABCD"
    # The first photo is of face D: what was there takes its place.
    marked = photos.change_view(step, 0, white="#102030")
    swapped = photos.swap_face(marked, 0, FACES["D"])
    assert faces(swapped) == "ABCD"
    assert [view.white for view in swapped.views] == [None, None, None, "#102030"]


def test_views_go_evenly_round_a_round_bar_and_its_ends_can_be_swapped() -> None:
    step = photos.set_form(photos.add_photo(photos.add_photo(PhotoStep(), ART), ART), "round")
    for _ in range(4):
        step = photos.add_photo(step, ART)
    assert [view.azimuth_deg for view in step.views] == [0, 60, 120, 180, 240, 300]
    with pytest.raises(NothingToDoError):
        photos.add_photo(step, ART)
    assert [view.azimuth_deg for view in photos.remove_view(step, 0).views] == [0, 72, 144, 216, 288]
    assert faces(photos.set_form(step, "rectangular")) == "ABCD"
    twice = photos.turn_view(photos.turn_view(step, 0), 0)
    assert twice == step


def test_photos_come_back_from_the_job_file_and_a_job_keeps_no_more_than_can_be_read(
    tideline: Job, monkeypatch: pytest.MonkeyPatch
) -> None:
    job = deeds.replace_stock(tideline, photos.add_photo(PhotoStep(), ART))
    job = deeds.add_work_photo(job, ART, "press", datetime(2026, 11, 20, 9, 0))
    assert from_text(to_text(job)) == job
    assert deeds.remove_work_photo(job, 0).work.photos == ()
    monkeypatch.setattr(job_module, "MOST_PICTURES_BYTES", 2 * len(ART.content))
    with pytest.raises(BadFieldError, match="remove some"):
        deeds.add_work_photo(job, ART, "press", datetime(2026, 11, 20, 9, 0))
