"""Shelves as tables: what is written is read again, with commas and points, and nothing is refused in silence."""

from __future__ import annotations

import pytest
from hypothesis import given

from orvek.cards import shelf_csv as shelf_table
from orvek.cards.shelf_csv import read_shelf_csv, shelf_csv
from orvek.documents import Job, Piece, Shop
from orvek.errors import OutOfBoundsError
from orvek.store import demo_shop
from tests.strategies import jobs

SHELVES = ("pens", "moulds", "resins", "pigments", "scales", "boards", "machines", "pots")


@pytest.mark.parametrize("shelf", SHELVES)
def test_a_shelf_comes_back_as_it_went(shelf: str, shop: Shop) -> None:
    things = getattr(shop, shelf)
    assert things
    read = read_shelf_csv(shelf_csv(things).decode(), shelf)
    assert read.things == things
    assert read.unknown == ()


@given(jobs)
def test_pens_and_resins_of_any_kind_come_back(job: Job) -> None:
    for shelf, thing in (("pens", job.pen), ("resins", job.pour.resin), ("moulds", job.pour.mould)):
        if thing is not None:
            read = read_shelf_csv(shelf_csv([thing]).decode(), shelf)
            assert read.things == (thing,), read.rows


def test_decimal_commas_semicolons_and_a_byte_order_mark_are_read() -> None:
    text = "\ufeffname;resolution_g;capacity_g\r\nPocket;0,01;200\r\nBench;0.1;1000,5\r\n"
    assert [(one.name, one.resolution_g, one.capacity_g) for one in read_shelf_csv(text, "scales").things] == [
        ("Pocket", 0.01, 200.0),
        ("Bench", 0.1, 1000.5),
    ]


def test_every_row_that_is_not_taken_says_why() -> None:
    text = "name,resolution_g,capacity_g,colr\nGood,0.1,500,blue\nBad,zero,500,\n,0.1,500,\nWide,0.1,-3,\n"
    read = read_shelf_csv(text, "scales")
    assert read.unknown == ("colr",)
    assert [row.number for row in read.rows] == [2, 3, 4, 5]
    assert [row.thing is not None for row in read.rows] == [True, False, False, False]
    assert all(row.sentence.endswith(".") for row in read.rows[1:])
    assert "zero" in read.rows[1].sentence


def test_a_number_for_a_name_stays_a_name() -> None:
    assert read_shelf_csv("name,resolution_g,capacity_g\n007,0.1,500\n", "scales").things[0].name == "007"


def test_text_that_looks_like_a_number_stays_text_wherever_it_stands(shop: Shop) -> None:
    """A refill "007", a glue of "1,5" in a note: the fields of the schema say what is text."""
    pen = shop.pens[0].with_(refill="007", notes="12")
    part = pen.parts[0].with_(look_for="2", against="3.0")
    pen = pen.with_(parts=(part, *pen.parts[1:]))
    assert read_shelf_csv(shelf_csv([pen]).decode(), "pens").things == (pen,)
    piece = Piece(name="1", kind="jar", grams=12.5, place="007", recipe="3", notes="1e3")
    assert read_shelf_csv(shelf_csv([piece]).decode(), "pieces").things == (piece,)


def test_formulas_are_written_harmless_and_read_as_they_were(shop: Shop) -> None:
    odd = shop.scales[0].with_(name="=1+1")
    written = shelf_csv([odd]).decode()
    assert "'=1+1" in written
    assert read_shelf_csv(written, "scales").things == (odd,)


@pytest.mark.parametrize("text", ["", "name,resolution_g\n", "\n\n", "name\n" + "x\n" * 2001])
def test_no_table_is_a_sentence(text: str) -> None:
    with pytest.raises(OutOfBoundsError):
        read_shelf_csv(text, "scales")


@pytest.mark.parametrize(
    "text", ["a\nb\n", "barrels.0.name,barrels.0\nx,y\n", '"\n"\n', "name\tname\n1\t2\n", "\x00,\n,\n"]
)
def test_any_nonsense_is_told_row_by_row(text: str) -> None:
    for shelf in SHELVES:
        for row in read_shelf_csv(text, shelf).rows:
            assert (row.thing is None) == bool(row.sentence)


def test_the_demo_shop_is_not_changed_by_reading() -> None:
    before = demo_shop()
    read_shelf_csv(shelf_csv(before.pens).decode(), "pens")
    assert demo_shop() == before


def test_the_schema_is_made_once_for_all_columns(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    """Making it takes a fifth of a second, and a pen has sixty columns."""
    made, make = list[int](), Shop.model_json_schema
    monkeypatch.setattr(Shop, "model_json_schema", lambda: (made.append(1), make())[1])
    for cached in (shelf_table._schema, shelf_table._kinds_of, shelf_table._fields_of):
        cached.cache_clear()
    assert read_shelf_csv(shelf_csv(shop.pens).decode(), "pens").things == shop.pens
    assert len(made) == 1
