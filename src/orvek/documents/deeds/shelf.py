"""The maker's deeds on the shelves: each takes a shop and gives the shop that follows; names are unique on a shelf."""

from typing import Any

from orvek.documents.shelf.pigment import Chip
from orvek.documents.shelf.shop import Shop
from orvek.errors import NothingToDoError


def put_on_shelf(shop: Shop, shelf: str, item: Any, *, instead_of: str | None = None, first: bool = False) -> Shop:
    """Put a thing on a shelf: in the place of the one it replaces or of one with its name, else last, or first.

    Raises:
        NothingToDoError: there is no such shelf.
    """
    kept = [one for one in _shelf(shop, shelf) if one.name != item.name or one.name == instead_of]
    place = next((n for n, one in enumerate(kept) if one.name == instead_of), None)
    if place is None:
        there = next((n for n, one in enumerate(_shelf(shop, shelf)) if one.name == item.name), None)
        place = there if there is not None else 0 if first else len(kept)
        kept.insert(place, item)
    else:
        kept[place] = item
    return shop.with_(**{shelf: tuple(kept)})


def take_off_shelf(shop: Shop, shelf: str, name: str) -> Shop:
    """Take the thing of this name off a shelf.

    Raises:
        NothingToDoError: there is no such thing, or no such shelf.
    """
    kept = tuple(one for one in _shelf(shop, shelf) if one.name != name)
    if len(kept) == len(_shelf(shop, shelf)):
        raise NothingToDoError("Deleting it", f"something called “{name[:60]}” on this shelf")
    return shop.with_(**{shelf: kept})


def set_shelf_chip(shop: Shop, pigment: str, chip: Chip) -> Shop:
    """Keep what was measured on a chip with the pigment of this name."""
    return shop.with_(pigments=tuple(p.with_(chip=chip) if p.name == pigment else p for p in shop.pigments))


def set_preference(shop: Shop, name: str, value: Any) -> Shop:
    """Change one preference.

    Raises:
        BadFieldError: the value is not allowed there.
    """
    return shop.with_(preferences=shop.preferences.with_(**{name: value}))


def _shelf(shop: Shop, shelf: str) -> tuple[Any, ...]:
    found = getattr(shop, shelf, None)
    if not isinstance(found, tuple) or shelf not in type(shop).model_fields:
        raise NothingToDoError("Saving it", f"a shelf called {shelf}")
    return found
