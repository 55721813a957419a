"""Deeds on the shelves: put, change, take off by name; undone in the window."""

from __future__ import annotations

import pytest

from orvek.documents import Blank, Chip, Job, Shop, SolidStep, deeds, first_shop, from_text, glues, materials, to_text
from orvek.documents.deeds import put_on_shelf, set_preference, set_shelf_chip, take_off_shelf
from orvek.documents.shelf.resin import generic_families
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


BURL = materials()[0].with_(key="own tidewrack burl", name="Tidewrack burl", colour="#123456", second="#234567")


def test_a_material_of_the_maker_s_own_goes_with_the_job_that_names_it() -> None:
    job = Job().with_(blank=Blank(steps=(SolidStep(material=BURL.key),)))
    carried = deeds.carry_materials(job, (BURL,))
    assert carried.blank.materials == (BURL,)
    assert carried.blank.material(BURL.key).name == "Tidewrack burl"
    # Its own copy stays, whatever becomes of the shelf, until no step names it.
    assert deeds.carry_materials(carried, (BURL.with_(colour="#ffffff"),)) == carried
    assert deeds.carry_materials(deeds.set_steps(carried, (SolidStep(),)), (BURL,)).blank.materials == ()
    assert from_text(to_text(carried), "burl") == carried


def test_own_glues_and_families_stand_beside_the_generic_ones() -> None:
    glue = glues()[0].with_(key="tide glue", open_min=3)
    family = generic_families()[0].with_(name="Ours")
    shop = Shop(glues=(glue,), families=(family,))
    assert shop.glue("tide glue") == glue
    assert shop.glue("no such glue") is None
    assert len(shop.all_glues) == len(glues()) + 1
    assert shop.family(family.key) == family
    assert [one.key for one in shop.all_families].count(family.key) == 1
