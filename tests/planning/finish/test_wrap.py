"""The printed sheet: turned under, cut flat, printed fine and 1:1, and what is said where it cannot lie or be read."""

from __future__ import annotations

import io
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader

from orvek.cards.every import wrap_sheets
from orvek.cards.wrap_sheet import DPI, sheet_pixels
from orvek.documents import Artwork, Job, OutlinePoint, Shop, WrapStep
from orvek.documents.deeds import set_value
from orvek.errors import CannotReadError, NothingToDoError
from orvek.planning import Plan, apply_remedy, plan
from orvek.planning.finish.results import WrapPlan
from orvek.planning.finish.wrap import cut_away, kept_shape_mm

TODAY = date(2026, 11, 26)


@pytest.fixture
def artwork() -> Artwork:
    """Red at the left, blue at the right, a white line along its top."""
    picture = Image.new("RGB", (1200, 400), "#c01010")
    picture.paste("#1010c0", (600, 0, 1200, 400))
    picture.paste("#ffffff", (0, 0, 1200, 8))
    out = io.BytesIO()
    picture.save(out, "PNG")
    return Artwork(name="halves", content=out.getvalue())


def wrapped(job: Job, artwork: Artwork | None, **values: Any) -> Job:
    step = WrapStep(
        pattern="picture", artwork=artwork, core_mm=9, covered="coated", pitch_mm=100, around=1, times="once"
    )
    return set_value(job, ("blank", "steps"), (step.with_(times="once").with_(**values),))


def wrap_of(planned: Plan) -> WrapPlan:
    assert planned.finish is not None
    assert planned.finish.wrap is not None
    return planned.finish.wrap


def test_it_is_turned_under_by_sheet_and_coats(tideline: Job, shop: Shop, artwork: Artwork) -> None:
    planned = plan(wrapped(tideline, artwork), shop)
    assert planned.finish is not None
    over = 0.1 + planned.finish.coats_mm.value - planned.finish.levelled_mm.value
    for sheet, barrel in zip(wrap_of(planned).sheets, tideline.laid, strict=True):
        ends = (barrel.finished_left_mm, barrel.finished_right_mm)
        assert [figure.value for figure in sheet.under_mm] == pytest.approx([size - 2 * over for size in ends])
        assert sheet.flat.is_taper
    cast = wrap_of(plan(wrapped(tideline, artwork, covered="cast over"), shop))
    assert [sheet.name for sheet in cast.sheets] == ["The bar"]
    assert cast.sheets[0].flat.width_mm[0] == pytest.approx(np.pi * 9.1 + 1)


def test_the_sheet_is_printed_to_scale(tideline: Job, shop: Shop, artwork: Artwork) -> None:
    planned = plan(wrapped(tideline, artwork, covered="cast over", bleed_mm=0, shift_mm=10, seam_deg=40), shop)
    wrap = wrap_of(planned)
    pixels = sheet_pixels(wrap.sheets[0], wrap.step)
    rows, columns, _ = pixels.shape
    assert (columns / DPI * 25.4, rows / DPI * 25.4) == pytest.approx((132, wrap.sheets[0].flat.width_mm[0]), abs=0.1)
    mid = rows // 2
    at = {mm: tuple(pixels[mid, round(mm / 25.4 * DPI)]) for mm in (5, 30, 90, 120)}
    assert at == {5: (255, 255, 255), 30: (192, 16, 16), 90: (16, 16, 192), 120: (255, 255, 255)}
    assert tuple(pixels[2, columns // 4]) == (255, 255, 255)  # the line along its top lies at the seam
    pdf = PdfReader(io.BytesIO(wrap_sheets(planned, shop, TODAY)))
    words = pdf.pages[0].extract_text()
    assert "100 %" in words
    assert "50 mm long" in words
    image = pdf.pages[0].images[0].image
    assert image is not None
    assert image.size == (columns, rows)
    with pytest.raises(NothingToDoError, match="a picture on it"):
        wrap_sheets(plan(wrapped(tideline, None), shop), shop, TODAY)


def test_coarse_gone_and_creased_are_said_and_mended(tideline: Job, shop: Shop, artwork: Artwork) -> None:
    coarse = wrapped(tideline, artwork, pitch_mm=150)
    finding = next(one for one in plan(coarse, shop).findings if one.title == "The picture is printed coarsely.")
    fine = plan(apply_remedy(coarse, finding.remedies[0]), shop)
    assert wrap_of(fine).dpi.value >= 300  # type: ignore[union-attr]
    gone = plan(wrapped(tideline, artwork.with_(content=b"")), shop)
    assert "The picture “halves” is gone." in {one.title for one in gone.findings}
    with pytest.raises(CannotReadError):
        wrap_sheets(gone, shop, TODAY)
    bulged = set_value(
        wrapped(tideline, artwork), ("pen", "barrels", 0, "outline"), (OutlinePoint(at=0.5, diameter_mm=14),)
    )
    finding = next(one for one in plan(bulged, shop).findings if one.title.endswith("the sheet creases."))
    after = plan(apply_remedy(bulged, finding.remedies[0]), shop)
    assert not any(one.title.endswith("the sheet creases.") for one in after.findings)
    thick = plan(wrapped(tideline, artwork, sheet_mm=2), shop)
    assert any(one.title.endswith("nothing is left under the sheet.") for one in thick.findings)


def test_a_picture_keeps_its_shape(artwork: Artwork, tmp_path: Path) -> None:
    step = WrapStep(pattern="picture", artwork=artwork, core_mm=9, sheet_mm=0.1, around=1)
    assert kept_shape_mm(step) == pytest.approx(np.pi * 9.1 * 3)
    assert kept_shape_mm(step.with_(stands="round the bar")) == pytest.approx(np.pi * 9.1 / 3)
    assert kept_shape_mm(step.with_(artwork=None)) is None
    assert kept_shape_mm(step.with_(artwork=Artwork(content=b"x"))) is None
    assert not list(tmp_path.iterdir())


def test_what_of_a_picture_is_cut_away_is_told_and_it_begins_at_the_barrel(
    tideline: Job, shop: Shop, artwork: Artwork
) -> None:
    """Two barrels: a picture over both loses what lies before, between and beyond them."""
    job = wrapped(tideline, artwork, pitch_mm=130)
    planned = plan(job, shop)
    first, second = sorted(wrap_of(planned).sheets, key=lambda sheet: sheet.begins_mm)
    lost = dict(cut_away(planned))
    assert lost[f"before {first.name}"] == pytest.approx(first.begins_mm)
    assert lost[f"between {first.name} and {second.name}"] == pytest.approx(
        second.begins_mm - first.begins_mm - first.length_mm
    )
    assert sum(lost.values()) == pytest.approx(130 - first.length_mm - second.length_mm)
    finding = next(one for one in planned.findings if one.title.startswith("Part of the picture"))
    begun = plan(apply_remedy(job, finding.remedies[0]), shop)
    assert wrap_of(begun).step.shift_mm == pytest.approx(first.begins_mm, abs=0.01)
    fitting = plan(apply_remedy(job, finding.remedies[1]), shop)
    assert [where for where, _ in cut_away(fitting)] == [f"between {first.name} and {second.name}"]
    assert not cut_away(plan(wrapped(tideline, artwork, times="repeated"), shop))
    assert not cut_away(plan(wrapped(tideline, artwork, covered="cast over"), shop))


def test_a_sheet_for_each_blank_lies_beside_the_others(tideline: Job, shop: Shop, artwork: Artwork) -> None:
    planned = plan(wrapped(tideline, artwork), shop)
    wrap, blanks = wrap_of(planned), round(planned.bars.blanks.value)
    pdf = PdfReader(io.BytesIO(wrap_sheets(planned, shop, TODAY)))
    words = " ".join(page.extract_text() for page in pdf.pages)
    assert blanks > 1
    for sheet in wrap.sheets:
        assert all(f"{sheet.name} {copy}," in words for copy in range(1, blanks + 1))
    assert len(pdf.pages) < blanks * len(wrap.sheets) / 2
