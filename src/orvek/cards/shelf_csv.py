"""A shelf as CSV, out and in: one row a thing, one column a field; what is read is told row by row before it is kept.

`shelf_csv(things)` writes; `read_shelf_csv(text, shelf)` reads, with decimal points or commas, and says of every row
what it is or why it is not taken. Fields within fields have names with dots: `barrels.0.tube_length_mm`.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Sequence
from functools import cache
from typing import Any

from msgspec import Struct

from orvek.cards.csv_table import csv_table
from orvek.documents import Shop
from orvek.documents.base import checked
from orvek.errors import OrvekError, OutOfBoundsError

_NUMBER = re.compile(r"[+-]?\d+([.,]\d+)?([eE][+-]?\d+)?")
_MOST_ROWS, _DEEPEST = 2000, 8


class ReadRow(Struct, frozen=True):
    """One row: its number in the file, the thing it holds, or the sentence that says why it holds none."""

    number: int
    thing: Any = None
    sentence: str = ""


class ReadShelf(Struct, frozen=True):
    """What a file holds: rows in their order, and columns that no field is called like."""

    rows: tuple[ReadRow, ...]
    unknown: tuple[str, ...] = ()

    @property
    def things(self) -> tuple[Any, ...]:
        """What can be taken."""
        return tuple(row.thing for row in self.rows if row.thing is not None)


def shelf_csv(things: Sequence[Any]) -> bytes:
    """A shelf's things as CSV; the columns are those that any of them has."""
    flat = [dict(_flattened(thing.model_dump(mode="json"))) for thing in things]
    columns = list(dict.fromkeys(name for row in flat for name in row))
    return csv_table([columns, *([row.get(name, "") for name in columns] for row in flat)])


def read_shelf_csv(text: str, shelf: str) -> ReadShelf:
    """Read a shelf's things from CSV with commas, semicolons or tabs between.

    Raises:
        OutOfBoundsError: there is no heading, or more rows than a shelf can be.
    """
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    if len(lines) < 2:
        raise OutOfBoundsError("The table", "empty", "a line of headings and a row for each thing")
    if len(lines) > _MOST_ROWS + 1:
        raise OutOfBoundsError("The table", f"{len(lines) - 1} rows", f"at most {_MOST_ROWS} rows")
    between = max(",;\t", key=lines[0].count)
    try:
        table = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=between))
    except csv.Error as error:  # a cell of more letters than any field holds
        raise OutOfBoundsError("The table", f"this one ({error})", "one that can be read") from error
    columns = [cell.strip() for cell in table[0]]
    known = _fields_of(shelf)
    unknown = tuple(name for name in columns if name and not known(name))
    rows = tuple(
        _read_row(number, dict(zip(columns, cells, strict=False)), shelf, set(unknown))
        for number, cells in enumerate(table[1:], 2)
    )
    return ReadShelf(rows, unknown)


def _read_row(number: int, cells: dict[str, str], shelf: str, unknown: set[str]) -> ReadRow:
    content: dict[str, Any] = {}
    for name, text in cells.items():
        text = text.strip().removeprefix("'")
        if name and text and name not in unknown:
            _put(content, name.split("."), _value(_kinds_of(shelf, name), text))
    try:
        (thing,) = getattr(checked(Shop, {shelf: [_listed(content)]}), shelf)
    except OrvekError as error:
        return ReadRow(number, sentence=str(error))
    return ReadRow(number, thing)


def _value(kinds: frozenset[str], text: str) -> Any:
    """A cell's value as its field holds it; numbers with a decimal point or comma."""
    if kinds & {"number", "integer"} and _NUMBER.fullmatch(text):
        return float(text.replace(",", "."))
    return {"True": True, "False": False}.get(text, text) if "boolean" in kinds else text


def _flattened(value: Any, name: str = "") -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _flattened(inner, f"{name}.{key}" if name else key)
    elif isinstance(value, list):
        for number, inner in enumerate(value):
            yield from _flattened(inner, f"{name}.{number}")
    elif value is not None and value != "":
        yield name, value


def _put(content: dict[str, Any], path: list[str], value: Any) -> None:
    for piece in path[:-1]:
        inner = content.setdefault(piece, {})
        if not isinstance(inner, dict):
            return
        content = inner
    content[path[-1]] = value


def _listed(value: Any) -> Any:
    """Fields numbered from 0 as lists again."""
    if not isinstance(value, dict):
        return value
    if value and all(_is_number(key) for key in value):
        return [_listed(value[key]) for key in sorted(value, key=int)]
    return {key: _listed(inner) for key, inner in value.items()}


@cache
def _schema() -> dict[str, Any]:
    """What all shelves may hold: made once, for that takes long."""
    return Shop.model_json_schema()


@cache
def _kinds_of(shelf: str, name: str) -> frozenset[str]:
    """What a field may hold, as the schema says: "string", "number" …; all of it where several ways lead there."""
    schema = _schema()
    here = [schema["properties"][shelf]["items"]]
    for piece in name.split("."):
        inner = [part for one in here for part in _unfolded(one, schema["$defs"])]
        if _is_number(piece):
            here = [each for one in inner for each in (one.get("items"), *one.get("prefixItems", ())) if each]
        else:
            here = [one["properties"][piece] for one in inner if piece in one.get("properties", {})]
    return frozenset(one["type"] for part in here for one in _unfolded(part, schema["$defs"]) if "type" in one)


def _unfolded(part: dict[str, Any], known: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """A part of a schema, or each of those that it stands for."""
    if "$ref" in part:
        yield from _unfolded(known[part["$ref"].rpartition("/")[2]], known)
        return
    ways = [*part.get("anyOf", ()), *part.get("oneOf", ())]
    for way in ways:
        yield from _unfolded(way, known)
    if not ways:
        yield part


@cache
def _fields_of(shelf: str) -> Any:
    """Whether a column could be a field of this shelf's things: by its first name and by the last."""
    schema = _schema()
    names = {name for part in schema["$defs"].values() for name in part.get("properties", {})}
    assert shelf in schema["properties"]

    def is_known(name: str) -> bool:
        pieces = name.split(".", _DEEPEST + 1)
        return len(pieces) <= _DEEPEST and all(piece in names or _is_number(piece) for piece in pieces)

    return is_known


def _is_number(piece: str) -> bool:
    """Whether a piece of a heading counts things: a superscript two is a digit and no number."""
    return piece.isascii() and piece.isdigit() and len(piece) <= 4
