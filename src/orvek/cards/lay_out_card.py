"""The lay-out list of an evening on paper: a box a thing, where it lies, for which jobs."""

from __future__ import annotations

from orvek.cards.story import Cell, Story, gap, heading, table, tick_box, words
from orvek.documents import Shop
from orvek.errors import NothingToDoError
from orvek.planning.lay_out import Thing, by_kind, where


def lay_out_card(title: str, things: tuple[Thing, ...], shop: Shop) -> bytes:
    """Everything to lay out, by its kind.

    Raises:
        NothingToDoError: nothing is needed.
    """
    if not things:
        raise NothingToDoError("A lay-out list", "operations that are planned")
    story = Story(shop.preferences.paper, title, "Orvek lay-out list")
    story.add(words(title, 18, "bold", after_mm=4))
    for kind, own in by_kind(things):
        rows: list[list[Cell]] = [[heading(kind.capitalize()), "", "", ""]]
        rows += [[tick_box(), words(one.words), words(where(one)), words(", ".join(one.jobs))] for one in own]
        wide = story.wide_mm - 6
        widths = (6, wide * 0.5, wide * 0.25, wide * 0.25)
        style = [("SPAN", (0, 0), (-1, 0))]
        story.add(table(rows, widths, heads=1, ruled=False, pad_mm=0.4, style=style), gap(2))
    return story.pdf()
