"""What ships with the program, read from data/: families, generic resins, pigment kinds, starting points.

`catalogue()` is read once and is immutable. `first_shop()` is the shop of a maker who has just arrived.
"""

import json
from functools import cache
from importlib import resources

from orvek.documents.base import Document
from orvek.documents.shelf.mould import Mould
from orvek.documents.shelf.pen import Pen
from orvek.documents.shelf.pigment import Pigment, PigmentKind
from orvek.documents.shelf.resin import Resin
from orvek.documents.shelf.shop import Shop


class Catalogue(Document):
    """The generic materials and starting points that every copy of Orvek has."""

    resins: tuple[Resin, ...]
    kinds: tuple[PigmentKind, ...]
    pigments: tuple[Pigment, ...]
    pens: tuple[Pen, ...]
    moulds: tuple[Mould, ...]

    def kind(self, key: str) -> PigmentKind | None:
        """The pigment kind with this key, or None."""
        return next((kind for kind in self.kinds if kind.key == key), None)


@cache
def catalogue() -> Catalogue:
    """Everything in data/ that is a material or a starting point."""
    resins, pigments, starters = (_shipped(name) for name in ("resins.json", "pigments.json", "starters.json"))
    return Catalogue.model_validate(
        {
            "resins": resins["resins"],
            "kinds": pigments["kinds"],
            "pigments": pigments["pigments"],
            "pens": starters["pens"],
            "moulds": starters["moulds"],
        }
    )


def first_shop() -> Shop:
    """A shop with generic resins and pigments on its shelves, and no pens or moulds of its own yet."""
    shelf = catalogue()
    return Shop(resins=shelf.resins, pigments=shelf.pigments)


def _shipped(name: str) -> dict[str, list[object]]:
    content: dict[str, list[object]] = json.loads(
        resources.files("orvek.data").joinpath(name).read_text(encoding="utf-8")
    )
    return content
