"""The gallery: designs to begin from, each a list of steps that can then be changed."""

import json
from functools import cache
from importlib import resources
from typing import Annotated

from pydantic import Field

from orvek.documents.base import Document, Name, Words
from orvek.documents.shelf.material import Material, material
from orvek.documents.steps import STOCK_STEPS, WORK_STEPS, Step, StepWords
from orvek.quantities import Units


class Design(Document):
    """A blank to begin from."""

    name: Name
    line: Words
    steps: Annotated[tuple[Step, ...], Field(min_length=1)]


NEW_STEPS: tuple[Step, ...] = tuple(kind.new() for kind in (*STOCK_STEPS, *WORK_STEPS))


@cache
def designs() -> tuple[Design, ...]:
    """The gallery that ships with the program."""
    text = resources.files("orvek.data").joinpath("designs.json").read_text(encoding="utf-8")
    return tuple(Design.model_validate(item) for item in json.loads(text)["designs"])


def step_line(step: Step, units: Units | None = None, own: tuple[Material, ...] = ()) -> str:
    """A step in a few words, for the list of steps, its sizes in the maker's units."""
    return step.line(StepWords(units, lambda key: material(key, own).name))
