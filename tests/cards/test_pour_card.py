"""The pour card: one page, with the figures of the screen."""

from __future__ import annotations

import io
import re
from datetime import date

import pytest
from pypdf import PdfReader

from orvek.cards.every import pour_card, weighing_rows
from orvek.cards.pour_card import cautions_of
from orvek.documents import Job, Shop, deeds, first_shop
from orvek.documents.deeds import set_value
from orvek.errors import NothingToDoError
from orvek.planning import plan

TODAY = date(2026, 11, 23)


def words_of(pdf: bytes, pages: int = 1) -> str:
    reader = PdfReader(io.BytesIO(pdf))
    assert len(reader.pages) == pages
    return "\n".join(page.extract_text() for page in reader.pages)


def weights_of(pdf: bytes) -> list[tuple[float, str]]:
    """What is printed as grams in bold, with its size in points."""
    found: list[tuple[float, str]] = []

    def visit(text: str, _cm: object, _tm: object, font: dict[str, str] | None, size: float) -> None:
        if font and "SemiBold" in font.get("/BaseFont", "") and text.strip().endswith(" g"):
            found.append((size, text.strip()))

    for page in PdfReader(io.BytesIO(pdf)).pages:
        page.extract_text(visitor_text=visit)
    return found


@pytest.mark.parametrize(("paper", "height"), [("A4", 842), ("Letter", 792)])
def test_one_page_with_the_plans_figures(tideline: Job, shop: Shop, paper: str, height: int) -> None:
    shop = shop.with_(preferences=shop.preferences.with_(paper=paper))
    planned = plan(tideline, shop)
    pdf = pour_card(planned, shop, TODAY)
    words = words_of(pdf)
    assert round(float(PdfReader(io.BytesIO(pdf)).pages[0].mediabox.height)) == height
    assert planned.mixture is not None
    for cup in planned.mixture.cups:
        assert f"{cup.weighed_a_g:.1f} g" in words
        assert f"{cup.weighed_b_g:.1f} g" in words
        for dose in cup.doses:
            assert f"{dose.weighed_g:.1f} g" in words
    for needed in ("Tideline", "Job 7e4c0d1de001", "23 November 2026", "2 : 1 by volume", "8 min in all", "1 h 30 min"):
        assert needed in words
    for caution in cautions_of(planned):
        assert caution.words.split(":")[0] in words.replace("\n", " ")
    assert PdfReader(io.BytesIO(pdf)).metadata.subject == "Orvek job 7e4c0d1de001"  # type: ignore[union-attr]


def test_the_hardener_comes_last(tideline: Job, shop: Shop) -> None:
    what = [(row.cup, row.what) for row in weighing_rows(plan(tideline, shop))]
    assert what == [
        (0, "Part A"),
        (0, "Slack-water blue"),
        (0, "Pitch paste"),
        (1, "Part A"),
        (1, "Foam pearl"),
        (0, "Part B"),
        (1, "Part B"),
    ]


def test_a_running_sum_is_written_as_the_scale_will_show_it(tideline: Job, shop: Shop) -> None:
    summed = set_value(tideline, ("pour", "weighing"), "cumulative")
    tared = [float(row.amount.split()[0]) for row in weighing_rows(plan(tideline, shop))]
    sums = [float(row.amount.split()[0]) for row in weighing_rows(plan(summed, shop))]
    assert sums[:3] == pytest.approx([tared[0], tared[0] + tared[1], sum(tared[:3])], abs=0.11)
    assert sums[5] == pytest.approx(sum(tared[:3]) + tared[5], abs=0.11)
    assert "reads" in words_of(pour_card(plan(summed, shop), shop, TODAY))


def test_a_weight_is_never_printed_small(tideline: Job, shop: Shop) -> None:
    job = tideline
    for pigment in shop.pigments[:6]:
        job = deeds.add_cup(job, pigment)
    for cup in range(8):
        for pigment in shop.pigments[: 6 - len(job.cast.cups[cup].pigments)]:
            job = deeds.add_pigment(job, cup, pigment)
    letter = shop.with_(preferences=shop.preferences.with_(paper="Letter"))
    planned = plan(job, letter)
    pdf = pour_card(planned, letter, TODAY)
    words = words_of(pdf, pages=len(PdfReader(io.BytesIO(pdf)).pages))
    assert "Take care" in words
    assert "page 2" in words
    pages = [page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages]
    with_rows = [page for page in pages if re.search(r"^ ?[\d.]+ g$", page, re.MULTILINE)]
    assert words.count("In the order of weighing") == len(with_rows) > 1, "the heading is repeated"
    rows, printed = weighing_rows(planned), weights_of(pdf)
    assert [text for _, text in printed] == [row.amount for row in rows]
    assert min(size for size, _ in printed) >= 11
    assert {size for size, _ in weights_of(pour_card(plan(tideline, letter), letter, TODAY))} == {12}


def test_a_stop_finding_stands_on_the_card(tideline: Job, shop: Shop) -> None:
    job = set_value(tideline, ("blank", "steps", 0, "cups", 0, "vessel_ml"), 60)
    assert "Do not proceed. Slack water runs over its cup." in words_of(pour_card(plan(job, shop), shop, TODAY))


def test_every_family_has_its_cautions(tideline: Job, shop: Shop) -> None:
    for resin in first_shop().resins:
        words = words_of(pour_card(plan(deeds.choose_resin(tideline, resin), shop), shop, TODAY)).replace("\n", " ")
        assert "safety sheet" in words
    assert "foam" in words_of(pour_card(plan(deeds.choose_resin(tideline, first_shop().resins[0]), shop), shop, TODAY))


def test_a_job_that_cannot_be_poured_says_what_it_lacks(tideline: Job, shop: Shop) -> None:
    for path, missing in ((("pour", "mould"), "a mould"), (("pour", "resin"), "a resin")):
        with pytest.raises(NothingToDoError, match=missing):
            pour_card(plan(set_value(tideline, path, None), shop), shop, TODAY)
    with pytest.raises(NothingToDoError, match="a colour"):
        pour_card(plan(set_value(tideline, ("blank", "steps", 0, "cups"), ()), shop), shop, TODAY)
