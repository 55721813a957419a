"""The shelf without a screen: what there is as text or JSON, and which pieces a pen fits."""

from __future__ import annotations

import json

from orvek.planning.shelf_list import Entry, amount_line, piece_size, state_line
from orvek.quantities import Units


def shelf_text(entries: tuple[Entry, ...], units: Units) -> str:
    """One line a piece: its code, what it is, its size, how much is left, where it lies."""
    rows = []
    for one in entries:
        size, left = piece_size(one.piece, units), amount_line(one)
        rows.append((one.piece.code, one.piece.name, one.piece.kind, size, left, state_line(one)))
    widths = [max((len(row[n]) for row in rows), default=0) for n in range(5)]
    return "\n".join(
        "  ".join(part.ljust(wide) for part, wide in zip(row, (*widths, 0), strict=True)).rstrip() for row in rows
    )


def shelf_json(entries: tuple[Entry, ...]) -> str:
    """The same with everything that is known of each piece; its look and its photos are left out."""
    told = [
        {
            **one.piece.model_dump(mode="json", exclude={"look", "album"}, exclude_defaults=True),
            "code": one.piece.code,
            "name": one.piece.name,
            "left": round(one.left, 2),
            "made_by_the_work": one.is_new,
        }
        for one in entries
    ]
    return json.dumps(told, indent=2, ensure_ascii=False)
