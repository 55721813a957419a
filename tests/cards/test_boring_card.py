"""The boring card and the strip to lay along the bar."""

from __future__ import annotations

import io
from datetime import date

import numpy as np
import pypdfium2
import pytest
from pypdf import PdfReader

from orvek.cards.every import boring_card, marking_strip
from orvek.documents import Job, Shop, first_shop
from orvek.documents.deeds import set_value
from orvek.errors import NothingToDoError
from orvek.planning import plan

TODAY = date(2026, 11, 26)


def _words(pdf: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def test_the_card_has_each_hole_with_its_pecks_and_the_tubes_in_order(tideline: Job, shop: Shop) -> None:
    planned = plan(tideline, shop)
    pdf = boring_card(planned, shop, date(2026, 11, 25))
    words = _words(pdf)
    assert planned.bore is not None
    for hole in planned.bore.holes:
        assert f"{hole.name}: " in words
        assert hole.depth_mm.written() in words
        for peck in hole.pecks_mm:
            assert f"{peck:.1f}" in words
    assert "Clamp the bar" in words
    assert "Scuff the tube" in words
    assert len(PdfReader(io.BytesIO(pdf)).pages) == 1, "two barrels find room on one page"


def _longest_run(dark: np.ndarray) -> int:
    """How many dots in a row are dark at most."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], dark.astype(int), [0]))))
    return int((edges[1::2] - edges[::2]).max(initial=0))


def test_the_strip_is_one_to_one(tideline: Job, shop: Shop) -> None:
    """The bar's outline and the line to check it by are as long on paper as they say."""
    document = pypdfium2.PdfDocument(marking_strip(plan(tideline, shop), shop, TODAY))
    page = document[0].render(scale=300 / 72, grayscale=True).to_numpy()
    grey = np.asarray(page).reshape(page.shape[0], -1).copy()
    document.close()
    lengths = {round(_longest_run(row < 200) / 300 * 25.4) for row in grey}
    assert 132 in lengths, "the bar"
    assert 100 in lengths, "the line of 100 mm"


def test_a_bar_longer_than_the_paper_goes_on_in_another_row(tideline: Job, shop: Shop) -> None:
    assert tideline.pour.mould is not None
    long = set_value(tideline, ("pour", "mould"), tideline.pour.mould.with_(length_mm=400))
    words = _words(marking_strip(plan(long, shop), shop, TODAY))
    assert "goes on at 180.0 mm" in words
    assert "goes on at 360.0 mm" in words
    assert "390" in words


def test_without_a_pen_there_is_no_card() -> None:
    for make in (
        lambda found: boring_card(found, first_shop(), date(2026, 1, 1)),
        lambda f: marking_strip(f, first_shop(), TODAY),
    ):
        with pytest.raises(NothingToDoError, match="a pen"):
            make(plan(Job(), first_shop()))
