"""What leaves the program of the records: tables, a year on paper, certificate, label, gallery."""

from __future__ import annotations

import csv
import io
import json
from datetime import date, datetime
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader

from orvek.cards.certificate import certificate, finished_on, price_label
from orvek.cards.gallery import write_gallery
from orvek.cards.records_text import compared_csv, cost_text, records_csv, records_jsonl, records_text
from orvek.cards.year_report import year_report, years
from orvek.documents import Artwork, CutStep, Job, Layer, Order, Shop, WorkPhoto, deeds
from orvek.errors import NothingToDoError
from orvek.planning import plan
from orvek.planning.compared import Compared
from orvek.planning.history import last_fates
from orvek.planning.records.costs import pen_cost
from orvek.planning.records.overview import next_batches
from orvek.quantities import Dimension, Units, write_date
from orvek.store.demo_records import with_demo_records
from tests.photos import artwork_of

TODAY = date(2026, 11, 26)


def text_of(pdf: bytes) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def png(wide: int = 400, tall: int = 100) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (wide, tall), "#204060").save(out, "PNG")
    return out.getvalue()


def test_the_ledger_as_table_and_as_lines(shop: Shop) -> None:
    ledger = with_demo_records(shop).ledger
    rows = list(csv.DictReader(io.StringIO(records_csv(ledger).decode())))
    assert len(rows) == len(last_fates(ledger))
    assert {row["fate"] for row in rows} == {"good", "spoilt"}
    lines = [json.loads(line) for line in records_jsonl(ledger).decode().splitlines()]
    assert len(lines) == len(ledger)
    assert {line["entry"] for line in lines} == {"fate", "lesson", "change", "closed"}


def test_the_records_in_words(tideline: Job, shop: Shop) -> None:
    there = with_demo_records(shop)
    told = records_text(next_batches(plan(tideline, there), plan, (), TODAY), Units())
    assert "Change: resin off the wood, 2 of 12" in told
    assert "Scrap rate: 10 %, 9 in 10 from 2 to 21 % (yours, 2 of 20)" in told
    assert "Start 6 for 5 good: enough 78 times in 100" in told
    assert "The last batch: 7 good of 8, €68.40 each" in told
    cost = pen_cost(plan(tideline, there), TODAY)
    assert cost is not None
    assert "With" not in cost_text(cost, Units()).split("\n")[0]
    assert "What would earn most:" in cost_text(cost, Units())
    assert "outcome of each blank" in records_text((), Units())


def test_planned_beside_actual_as_a_table() -> None:
    row = Compared("Part A", 20.0, 21.5, Dimension.MASS, 19.6, 20.4, "weigh.1", "within 2 %")
    told = next(csv.DictReader(io.StringIO(compared_csv((row,)).decode())))
    assert (told["planned"], told["actual"], told["difference"]) == ("20.0", "21.5", "1.5")
    assert told["within what the plan allowed"] == "no"


def test_a_year_on_paper(shop: Shop) -> None:
    there = with_demo_records(shop)
    assert years(there.ledger) == (2026,)
    told = text_of(year_report(there, 2026, TODAY))
    for words in ("The year 2026", "fibre and punky wood", "hole off centre", "Bladder wrack, again", "€110.40"):
        assert words in told
    with pytest.raises(NothingToDoError):
        year_report(there, 1999, TODAY)


def test_a_certificate_names_what_it_is_made_of_and_for_whom_and_no_money(tideline: Job, shop: Shop) -> None:
    job = tideline.with_(orders=(Order(customer="Gauge keeper", price=140, paid=10),))
    assert "Gauge keeper" not in text_of(certificate(plan(job, shop), shop, png()))
    told = text_of(certificate(plan(job, shop), shop, png(), "Gauge keeper"))
    assert "Gauge keeper" in told
    assert "cast resin: Slack water and Foam" in told
    assert "Care" in told
    assert "140" not in told
    with pytest.raises(NothingToDoError):
        certificate(plan(tideline.with_(pen=None), shop), shop, None)
    assert "€140.00" in text_of(price_label(plan(job, shop), shop, 140.0))
    assert "€1,450.00" in text_of(price_label(plan(job, shop), shop, 1450.0))
    with pytest.raises(NothingToDoError):
        price_label(plan(job, shop), shop, 0.0)


def test_a_gallery_is_a_page_with_pictures_and_says_nothing_of_customers(tideline: Job, tmp_path: Path) -> None:
    named = tideline.with_(
        batch=tideline.batch.with_(name="Tide <1>/2 & co"), orders=(Order(customer="Gauge keeper", price=140),)
    )
    brown = artwork_of(np.full((32, 64, 3), 128, dtype=np.uint8))
    photo = WorkPhoto(artwork=brown, task="press", when=datetime(2026, 5, 1))
    damaged = WorkPhoto(artwork=Artwork(name="Broken", content=b"no picture"), task="", when=datetime(2026, 5, 1))
    job = named.with_(work=named.work.with_(photos=(photo, damaged)))
    parts: list[float] = []
    page = write_gallery(tmp_path, "Pens of Tern Quay", (job, tideline), lambda _: png(), parts.append)
    content = page.read_text(encoding="utf-8")
    assert "Tide &lt;1&gt;/2 &amp; co" in content
    assert "Gauge keeper" not in content
    assert "140" not in content
    files = sorted(path.name for path in tmp_path.iterdir() if path.suffix != ".html")
    assert len(files) == 3  # a photo and a picture of the first, a picture of the second
    assert all(f'src="{name}"'.replace("&", "&amp;") in content for name in files)
    with Image.open(tmp_path / next(name for name in files if name.endswith(".jpg"))) as shown:
        assert shown.size == (64, 32)
    assert parts == [0.0, 0.5]


def test_a_certificate_has_the_day_on_which_the_pens_were_finished(tideline: Job, shop: Shop) -> None:
    def told(job: Job) -> str:
        return text_of(certificate(plan(job, shop), shop, None))

    cast = deeds.finish_task(tideline, task="pour.1", when=datetime(2026, 11, 20, 9, 0))
    assert finished_on(cast) is None
    assert "Finished" not in told(cast), "a casting is no pen yet"
    pressed = deeds.finish_task(cast, task="press", when=datetime(2026, 11, 24, 9, 0))
    assert finished_on(pressed) == date(2026, 11, 24)
    assert write_date(date(2026, 11, 24)) in told(pressed)
    wrote = deeds.finish_task(pressed, task="write", when=datetime(2026, 11, 25, 9, 0))
    assert write_date(date(2026, 11, 25)) in told(wrote)
    assert "resin softens" in told(wrote), "no wood in it"
    cut = CutStep(sheet=(Layer(material="brass", thickness_mm=1),))
    assert "resin softens" in told(deeds.add_step(wrote, cut)), "sawn resin is no wood"
    wooden = deeds.add_step(wrote, CutStep(sheet=(Layer(material="holly", thickness_mm=1),)))
    assert "Wood moves" in told(wooden)
