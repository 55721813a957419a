"""What is a text and what is none; places that change their order; a program that stays the same otherwise."""

from __future__ import annotations

import ast
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import pytest

import orvek
from orvek.languages.texts import keys_of, translated

_ROOT = Path(orvek.__file__).parent


def texts_of(source: str) -> list[str]:
    """What is asked for in a source."""
    tree, asked = ast.parse(source), list[str]()

    def note(text: str) -> str:
        asked.append(text)
        return text

    translated(tree, source.splitlines(), note, keys_of(tree).compared)
    return asked


def run(source: str, words: Mapping[str, str], **names: Any) -> Any:
    """What `found` is after a source has run in another language."""
    tree = translated(ast.parse(source), source.splitlines(), lambda text: words.get(text, text), frozenset())
    exec(compile(tree, "source", "exec"), names)
    return names["found"]


def test_sentences_are_texts_and_keys_are_none() -> None:
    assert texts_of('"""What it is for."""\nlabel("Nothing to undo")') == ["Nothing to undo"]
    assert texts_of('label("Pour"); label("&Undo"); label("poured")') == ["Pour", "&Undo"]
    assert texts_of('if way == "light test":\n    say("light test")') == []
    assert texts_of('form: Literal["by shape"] = "by shape"\nsay("By shape")') == ["By shape"]
    assert texts_of('rows = execute("select body from job where id = ?"); _LOG.warning("It broke off")') == []
    assert texts_of('field.setStyleSheet(f"color: {ink}"); css = f"font-size: {size}px; color: red;"') == []
    assert texts_of('words = f"Price for your margin: {price}"') == ["Price for your margin: {price}"]
    assert texts_of('__all__ = ["Bore", "Pour"]') == []
    assert texts_of('weights = ("Regular", "Bold")  # keys') == []
    assert texts_of('answer = "yes"  # texts\nfield.set_text("no"); other("no")') == ["yes", "no"]


def test_places_are_named_by_what_fills_them() -> None:
    assert texts_of('f"{count} × {bar.name}, {write(bar.length_mm, units)}"') == []  # no words in it
    assert texts_of('f"{count} bars of {resin.name}, {write(bar.length_mm, units)} long"') == [
        "{count} bars of {name}, {length_mm} long"
    ]
    assert texts_of('f"From {one.name} to {other.name}"') == ["From {name} to {name_2}"]
    assert texts_of("f\"A set {'of two' if both else ''} in {100 * share:.0f} %\"") == [
        "of two",
        "A set {both} in {share} %",
    ]


def test_another_order_of_places() -> None:
    source = 'found = f"{count:.1f} bars of {name!r}, {count:.1f} mm"'
    assert run(source, {}, count=2.0, name="Foam") == "2.0 bars of 'Foam', 2.0 mm"
    words = {"{count} bars of {name}, {count_2} mm": "{name}: {count_2} mm, {{{count}}} Stück"}
    assert run(source, words, count=2.0, name="Foam") == "'Foam': 2.0 mm, {2.0} Stück"


@pytest.mark.parametrize("wrong", ["no place", "{count} Stück {more}", "{count} {", "{0}", "{count} {count}"])
def test_an_answer_with_other_places_is_left_aside(wrong: str) -> None:
    assert run('found = f"{count} bars more"', {"{count} bars more": wrong}, count=3) == "3 bars more"
    steps = 'found = "Steps {} do not meet.".format("1, 2")'
    if "{" in wrong:
        assert run(steps, {"Steps {} do not meet.": wrong}) == "Steps 1, 2 do not meet."


@pytest.mark.parametrize("room", ["planning", "documents", "cards", "window/widgets", "shop"])
def test_without_a_catalogue_it_is_the_same_program(room: str) -> None:
    for path in sorted((_ROOT / room).glob("*.py")):
        source = path.read_text(encoding="utf-8")
        same = translated(ast.parse(source), source.splitlines(), lambda text: text, frozenset())
        assert ast.dump(same) == ast.dump(ast.parse(source)), path


def test_choices_and_severities_are_shown_too() -> None:
    source = 'class Severity(StrEnum):\n    STOP = "Do not proceed"\nway: Literal["tared", "running sum"]'
    assert keys_of(ast.parse(source)).shown == {"Do not proceed", "tared", "running sum"}
