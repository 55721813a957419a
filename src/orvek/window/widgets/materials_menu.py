"""A menu of materials: the maker's own first, then the generic ones by how they look."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QMenu

from orvek.documents import Material, materials
from orvek.window.widgets.choice import add_action


def fill_materials(menu: QMenu, put: Callable[[str], None], own: tuple[Material, ...]) -> None:
    """All materials, the maker's own first, then the generic ones by how they look."""
    if own:
        inner = menu.addMenu("Your own")
        for there in own:
            add_action(inner, there.name, partial(put, there.key))
    kinds = {"wood": "Woods", "metal": "Metals", "composite": "Composites", "paper": "Paper", "air": "Nothing"}
    for look, words in {**kinds, "resin": "Resins", "glue": "Glue lines"}.items():
        inner = menu.addMenu(words)
        for there in materials():
            if there.look == look or (look == "resin" and there.look in {"pearl", "clear"}):
                add_action(inner, there.name, partial(put, there.key))


def fill_woods(menu: QMenu, put: Callable[[str], None], own: tuple[Material, ...]) -> None:
    """Woods only: the maker's own of whatever look, then the generic ones."""
    for there in (*own, *(one for one in materials() if one.look == "wood")):
        add_action(menu, there.name, partial(put, there.key))
