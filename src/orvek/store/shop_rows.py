"""The maker's shelves and settings as rows of the workshop file: read one by one, written where they changed.

A row that cannot be read is left out of the shop and stays in the file; it never keeps the workshop from opening.
"""

from __future__ import annotations

import json
import sqlite3
from typing import Any

from msgspec import Struct

from orvek.documents import Shop, checked, first_shop
from orvek.errors import BadFieldError

_FIRST_SHELVES = ("pens", "moulds", "resins", "pigments", "scales")  # before each file said which it holds
SETTINGS = ("vessels_ml", "preferences", "accuracy", "hours", "selling")
SHELVES = tuple(name for name in Shop.model_fields if name not in SETTINGS)


class ShopFound(Struct, frozen=True):
    """The shop as far as it could be read, and a sentence for each thing that could not."""

    shop: Shop
    unread: tuple[str, ...] = ()


def read_shop(connection: sqlite3.Connection) -> ShopFound:
    """The maker's shelves and preferences; the generic ones where nothing was kept yet."""
    shelves, settings = _rows(connection), _settings(connection)
    if "vessels_ml" not in settings:
        return ShopFound(first_shop())
    # What an older Orvek did not know of is as in a first shop, not empty.
    kept = _parsed(settings.get("shelves")) or _FIRST_SHELVES
    unread: list[str] = []
    content: dict[str, Any] = {}
    for kind in SHELVES:
        if kind in kept:
            content[kind] = _readable(kind, shelves.get(kind, []), unread)
    for key in SETTINGS:
        if key in settings:
            value = _parsed(settings[key])
            if _fits(key, value):
                content[key] = value
            else:
                unread.append(f"Your {key.replace('_', ' ')} could not be read; the usual values stand in.")
    return ShopFound(checked(Shop, content), tuple(unread))


def write_shop(connection: sqlite3.Connection, shop: Shop) -> None:
    """Bring the rows to what the shop holds; shelves that are as they were are not touched."""
    content = shop.model_dump(mode="json")
    before, settings = _rows(connection), _settings(connection)
    for kind in SHELVES:
        now = [_text(item) for item in content[kind]]
        now += [body for body in before.get(kind, []) if not _fits(kind, [_parsed(body)])]
        if now == before.get(kind, []):
            continue
        connection.execute("delete from shelf where kind = ?", (kind,))
        rows = [(kind, position, body) for position, body in enumerate(now)]
        connection.executemany("insert into shelf (kind, position, body) values (?, ?, ?)", rows)
    for key in SETTINGS:
        if key in settings and not _fits(key, _parsed(settings[key])):
            put_setting(connection, f"unread {key}", settings[key])
        if settings.get(key) != _text(content[key]):
            put_setting(connection, key, content[key])
    if settings.get("shelves") != _text(list(SHELVES)):
        put_setting(connection, "shelves", list(SHELVES))


def put_setting(connection: sqlite3.Connection, key: str, content: Any) -> None:
    """Keep a setting under its key."""
    connection.execute("insert or replace into setting (key, body) values (?, ?)", (key, _text(content)))


def _rows(connection: sqlite3.Connection) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for row in connection.execute("select kind, body from shelf order by kind, position"):
        found.setdefault(str(row["kind"]), []).append(str(row["body"]))
    return found


def _settings(connection: sqlite3.Connection) -> dict[str, str]:
    return {str(row["key"]): str(row["body"]) for row in connection.execute("select key, body from setting")}


def _readable(kind: str, bodies: list[str], unread: list[str]) -> list[Any]:
    items = [_parsed(body) for body in bodies]
    if _fits(kind, items):
        return items
    good = [item for item in items if _fits(kind, [item])]
    lost = len(items) - len(good)
    what = "One thing" if lost == 1 else f"{lost} things"
    unread.append(f"{what} on the shelf {kind.replace('_', ' ')} could not be read. It stays in the file as it is.")
    return good


def _fits(key: str, content: Any) -> bool:
    try:
        checked(Shop, {key: content})
    except BadFieldError:
        return False
    return True


def _parsed(body: str | None) -> Any:
    try:
        return json.loads(body) if body is not None else None
    except (ValueError, RecursionError):
        return None


def _text(content: Any) -> str:
    return json.dumps(content, ensure_ascii=False)
