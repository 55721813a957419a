"""Cards for saw and glue: every number of the screen, one page each; templates that are 1:1."""

from __future__ import annotations

import csv
import io
import re
from datetime import date
from pathlib import Path

import ezdxf
import pytest
from pypdf import PdfReader

from orvek.cards.every import cut_list_card, cut_list_csv, glue_up_card, settings_card
from orvek.cards.template import CHECK_MM, template, template_dxf, template_pdf, template_svg
from orvek.commands import main
from orvek.documents import Job, LaminateStep, Machine, RoundStep, Shop, SliceStep, deeds, to_text
from orvek.errors import NothingToDoError
from orvek.planning import Plan, plan
from orvek.planning.glue_up.saw import CutPlan, added_up
from orvek.quantities import Dimension, Units, write
from orvek.store.demo import demo_shop, second_demo_job
from tests.cards.test_pour_card import words_of

TODAY = date(2026, 11, 23)


@pytest.fixture
def ropewalk() -> Plan:
    return plan(second_demo_job(), demo_shop())


def cutting(planned: Plan) -> CutPlan:
    assert planned.glue_up is not None
    return planned.glue_up


def test_the_cards_have_the_numbers_of_the_screen(ropewalk: Plan) -> None:
    shop = demo_shop()
    cuts, settings, glue = (
        words_of(card(ropewalk, shop, TODAY)) for card in (cut_list_card, settings_card, glue_up_card)
    )
    for cut in cutting(ropewalk).cuts:
        stop = f"stop {write(cut.stop_mm, Dimension.LENGTH)}"
        for words in (cuts, settings):
            assert stop in words
            assert (f"{cut.set_deg:.1f}°" if cut.set_deg else "square") in words
        assert f"face {cut.face_down} down" in cuts
    for one in added_up(cutting(ropewalk).stock):
        assert f"{one.count} ×" in cuts
        assert f"{one.length_mm:g}" in cuts
    for joint in cutting(ropewalk).joints:
        assert joint.what in glue.replace("\n", " ")
    assert "Take care" in cuts
    assert cutting(ropewalk).glue.can_hurt in glue.replace("\n", " ")
    assert "sled or clamp" in settings.replace("\n", " ")


def test_a_stop_finding_stands_on_the_card(ropewalk: Plan) -> None:
    job = deeds.set_steps(ropewalk.job, (LaminateStep(), SliceStep(pitch_mm=6)))
    job = deeds.set_value(job, ("glue_up", "machine"), Machine(least_piece_mm=400))
    words = words_of(cut_list_card(plan(job, demo_shop()), demo_shop(), TODAY))
    assert "Do not proceed. A piece is too short to hold" in words.replace("\n", " ")


def test_a_row_without_a_fence_names_no_faces(ropewalk: Plan) -> None:
    job = deeds.set_steps(ropewalk.job, (LaminateStep(), RoundStep(diameter_mm=16)))
    planned = plan(job, demo_shop())
    fenced = [cut for cut in cutting(planned).cuts if cut.stop_mm is not None or cut.fence_mm is not None]
    words = words_of(cut_list_card(planned, demo_shop(), TODAY)).replace("\n", " ")
    assert len(fenced) < len(cutting(planned).cuts), "turning it round has a row and no fence"
    assert words.count("at the fence;") == len(fenced)


def test_long_lists_go_on_to_further_pages(ropewalk: Plan) -> None:
    steps = ropewalk.job.blank.steps
    long = plan(deeds.set_steps(ropewalk.job, (steps[0], *(steps[1:] * 4))), demo_shop())
    cuts, joints = cutting(long).cuts, cutting(long).joints
    for card, rows in ((cut_list_card, len(cuts)), (settings_card, len(cuts)), (glue_up_card, len(joints))):
        pdf = card(long, demo_shop(), TODAY)
        pages = len(PdfReader(io.BytesIO(pdf)).pages)
        words = words_of(pdf, pages)
        assert pages > 1
        assert all(f"page {n}" in words for n in range(2, pages + 1))
        assert all(f"{n}  " in words or f"{n} " in words for n in range(1, rows + 1)), "every row is there"
        assert "Take care" in words


def test_the_csv_has_a_line_for_everything(ropewalk: Plan) -> None:
    rows = list(csv.DictReader(io.StringIO(cut_list_csv(ropewalk).decode())))
    assert [row["what"] for row in rows].count("cut") == len(cutting(ropewalk).cuts)
    _, first, *_ = (row for row in rows if row["what"] == "cut")
    assert float(first["stop_mm"]) == pytest.approx(cutting(ropewalk).cuts[1].stop_mm, abs=0.001)
    assert float(first["set_deg"]) == pytest.approx(55)


def test_templates_are_to_scale(ropewalk: Plan) -> None:
    cut = cutting(ropewalk).cuts[1]
    drawing = template(cut)
    svg = template_svg(drawing).decode()
    width = float(re.search(r'width="([\d.]+)mm"', svg).group(1))  # type: ignore[union-attr]
    box = [float(part) for part in re.search(r'viewBox="([^"]+)"', svg).group(1).split()]  # type: ignore[union-attr]
    assert width == pytest.approx(box[2]), "one unit of the drawing is a millimetre"
    dxf = ezdxf.read(io.StringIO(template_dxf(drawing).decode()))
    assert dxf.units == ezdxf.units.MM
    check = next(line for line in dxf.modelspace().query("LWPOLYLINE[layer=='check']"))
    (x0, *_), (x1, *_) = list(check.get_points())
    assert x1 - x0 == CHECK_MM
    blade = next(line for line in drawing.lines if line.layer == "blade")
    (high_x, high_y), (low_x, low_y) = blade.points
    assert low_x == pytest.approx(cut.stop_mm)
    assert (low_x - high_x) / (low_y - high_y) == pytest.approx(1 / 0.7002, rel=1e-3), "35° to the axis"
    assert "100 mm" in words_of(template_pdf(drawing, "A4"))
    assert "in" in template(cut, Units(length="inch fraction")).words[0].words


def test_what_has_no_cards_says_why(tideline: Job, shop: Shop) -> None:
    planned = plan(tideline, shop)
    for card in (cut_list_card, settings_card, glue_up_card):
        with pytest.raises(NothingToDoError, match="sawn or glued"):
            card(planned, shop, TODAY)


def test_the_commands_write_them(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = tmp_path / "ropewalk.orvek.json"
    job.write_text(to_text(second_demo_job()), encoding="utf-8")
    for kind in ("cuts", "settings", "glue-up"):
        assert main(["card", str(job), "--kind", kind, "-o", str(tmp_path / f"{kind}.pdf")]) == 0
        assert (tmp_path / f"{kind}.pdf").read_bytes()[:4] == b"%PDF"
    assert main(["card", str(job), "--kind", "cuts", "-o", str(tmp_path / "cuts.csv")]) == 0
    for suffix in ("pdf", "svg", "dxf"):
        assert main(["template", str(job), "--cut", "2", "-o", str(tmp_path / f"t.{suffix}")]) == 0
    assert main(["template", str(job), "--cut", "99", "-o", str(tmp_path / "x.pdf")]) == 2
    assert "from 1 to 8" in capsys.readouterr().err
