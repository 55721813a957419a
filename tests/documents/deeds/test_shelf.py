"""Deeds on the shelves: put, change, take off by name; undone in the window."""

from __future__ import annotations

import pytest

from orvek.documents import Chip, Shop, first_shop
from orvek.documents.deeds import put_on_shelf, set_preference, set_shelf_chip, take_off_shelf
from orvek.errors import BadFieldError, NothingToDoError


def names(shop: Shop, shelf: str) -> list[str]:
    return [item.name for item in getattr(shop, shelf)]


def test_a_name_is_on_a_shelf_once_and_keeps_its_place() -> None:
    shop = first_shop()
    before = names(shop, "resins")
    changed = shop.resins[1].with_(ratio_b=0.7)
    again = put_on_shelf(shop, "resins", changed)
    assert names(again, "resins") == before
    assert again.resins[1].ratio_b == 0.7
    renamed = put_on_shelf(again, "resins", changed.with_(name="Slip"), instead_of=changed.name)
    assert names(renamed, "resins") == [before[0], "Slip", *before[2:]]
    taken = put_on_shelf(renamed, "resins", changed.with_(name=before[0]), instead_of="Slip")
    assert sorted(names(taken, "resins")) == sorted([before[0], *before[2:]])


def test_new_things_come_last_or_first() -> None:
    shop, new = first_shop(), first_shop().resins[0].with_(name="New")
    assert names(put_on_shelf(shop, "resins", new), "resins")[-1] == "New"
    assert names(put_on_shelf(shop, "resins", new, first=True), "resins")[0] == "New"


def test_what_is_not_there_cannot_be_taken_off() -> None:
    shop = first_shop()
    name = shop.pigments[0].name
    assert name not in names(take_off_shelf(shop, "pigments", name), "pigments")
    for shelf, wanted in (("pigments", "nothing"), ("preferences", "x"), ("walls", "x")):
        with pytest.raises(NothingToDoError):
            take_off_shelf(shop, shelf, wanted)


def test_chips_and_preferences() -> None:
    shop = first_shop()
    name = shop.pigments[0].name
    assert set_shelf_chip(shop, name, Chip()).pigments[0].chip == Chip()
    assert set_preference(shop, "altitude_m", 800).preferences.altitude_m == 800
    with pytest.raises(BadFieldError):
        set_preference(shop, "altitude_m", 90_000)
