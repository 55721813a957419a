"""Materials of a blank: how they look and how heavy they are."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources
from typing import Literal

from pydantic import Field

from orvek.documents.base import Colour, Document, Known, Name, measure
from orvek.quantities import Dimension

Look = Literal["wood", "resin", "pearl", "clear", "metal", "composite", "paper", "glue", "air"]


class Material(Document):
    """A material as it is drawn: between two colours along its grain, and how far one sees into it."""

    key: Name
    name: Name
    look: Look
    colour: Colour
    second: Colour
    density_g_ml: Known
    ring_mm: float = measure("Grain spacing", Dimension.LENGTH, low=0.1, high=20, default=2.0)
    clearness_per_mm: float = Field(default=0.0, ge=0, le=0.99)


@cache
def materials() -> tuple[Material, ...]:
    """The generic materials that ship with the program."""
    text = resources.files("orvek.data").joinpath("materials.json").read_text(encoding="utf-8")
    return tuple(Material.model_validate(item) for item in json.loads(text)["materials"])


def material(key: str) -> Material:
    """The material with this key; an unknown one is drawn in a grey that nobody mistakes for a material."""
    found = next((item for item in materials() if item.key == key), None)
    return found or Material(
        key=key, name=key, look="composite", colour="#ff00ff", second="#c000c0", density_g_ml=Known(value=1.0)
    )
