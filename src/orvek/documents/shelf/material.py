"""Materials of a blank: how they look and how heavy they are."""

import json
from collections.abc import Iterable
from functools import cache
from importlib import resources
from typing import Annotated, Literal

from pydantic import Field

from orvek.documents.base import Colour, Document, Known, Name, Words, known, measure, within
from orvek.quantities import Dimension

Look = Literal["wood", "resin", "pearl", "clear", "metal", "composite", "paper", "glue", "air"]


class Material(Document):
    """A material as it is drawn: between two colours along its grain, and how far one sees into it."""

    key: Name = Field(title="Key", json_schema_extra={"editor": "none"})
    name: Name = Field(title="Material")
    look: Look = Field(title="Looks like")
    colour: Colour = Field(title="Colour")
    second: Colour = Field(title="Second colour")
    density_g_ml: Annotated[Known, within(0.001, 25)] = known("Density", Dimension.DENSITY, low=0.001, high=25)
    ring_mm: float = measure("Grain spacing", Dimension.LENGTH, low=0.1, high=20, default=2.0)
    grain: Literal["sound", "burl", "fibre"] = Field(
        default="sound",
        title="Fibres",
        description="Of wood and what is turned like it. Fibre: cob, pressed board; it tears before it cuts",
    )
    clearness_per_mm: float = Field(default=0.0, ge=0, le=0.99, json_schema_extra={"editor": "none"})
    caution: Words = Field(default="", title="Take care of", description="Stands on the cut list and at the step")


@cache
def materials() -> tuple[Material, ...]:
    """The generic materials that ship with the program."""
    text = resources.files("orvek.data").joinpath("materials.json").read_text(encoding="utf-8")
    return tuple(Material.model_validate(item) for item in json.loads(text)["materials"])


def material(key: str, own: Iterable[Material] = ()) -> Material:
    """The material with this key, the maker's own ones first.

    An unknown one is drawn in a colour that nobody mistakes for a material.
    """
    found = next((item for item in (*own, *materials()) if item.key == key), None)
    return found or Material(
        key=key, name=key, look="composite", colour="#ff00ff", second="#c000c0", density_g_ml=Known(value=1.0)
    )
