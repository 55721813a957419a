"""The house methods of gluing, as they ship: how long each stays open, when it can be handled, what it is for."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension


class Glue(Document):
    """One kind of glue; times at about 20 °C."""

    key: Name
    gap_mm: float = measure("Fills gaps up to", Dimension.LENGTH, low=0.01, high=5)
    open_min: float = measure("Stays open", Dimension.DURATION, low=0.01, high=600)
    handle_min: float = measure("Holds after", Dimension.DURATION, low=0.01, high=6000)
    full_min: float = measure("Full strength after", Dimension.DURATION, low=1, high=20000)
    activator: bool
    for_metal: bool
    note: str


@cache
def glues() -> tuple[Glue, ...]:
    """All glues, the fastest first."""
    text = resources.files("orvek.data").joinpath("glues.json").read_text(encoding="utf-8")
    return tuple(Glue.model_validate(item) for item in json.loads(text)["glues"])


def glue(key: str) -> Glue:
    """The glue of this name; the slowest epoxy for a name that is not known."""
    return next((one for one in glues() if one.key == key), next(one for one in glues() if one.key == "slow epoxy"))
