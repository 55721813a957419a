"""The maker's shelves and settings as rows of the workshop: read one by one, written where they changed.

A row that cannot be read is left out of the shop and stays in the file; it never keeps the workshop from opening.
"""

from __future__ import annotations

import json
import secrets
from typing import Any, NamedTuple

from msgspec import Struct
from sqlalchemy import Connection, delete, insert, select, update

from orvek.documents import Shop, checked, first_shop
from orvek.errors import BadFieldError
from orvek.store.tables import SETTING, SHELF

_FIRST_SHELVES = ("pens", "moulds", "resins", "pigments", "scales")  # before each file said which it holds
SETTINGS = ("vessels_ml", "preferences", "accuracy", "hours", "holding", "selling")
SHELVES = tuple(name for name in Shop.model_fields if name not in SETTINGS)


class ShopFound(Struct, frozen=True):
    """The shop as far as it could be read, and a sentence for each thing that could not."""

    shop: Shop
    unread: tuple[str, ...] = ()


class _Row(NamedTuple):
    id: str
    position: int
    version: int
    body: str


def read_shop(connection: Connection) -> ShopFound:
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
            content[kind] = _readable(kind, [row.body for row in shelves.get(kind, [])], unread)
    for key in SETTINGS:
        if key in settings:
            value = _parsed(settings[key])
            if _fits(key, value):
                content[key] = value
            else:
                unread.append(f"Your {key.replace('_', ' ')} could not be read; the usual values stand in.")
    return ShopFound(checked(Shop, content), tuple(unread))


def write_shop(connection: Connection, shop: Shop) -> None:
    """Bring the rows to what the shop holds; rows that are as they were are not touched."""
    content = shop.model_dump(mode="json")
    before, settings = _rows(connection), _settings(connection)
    for kind in SHELVES:
        rows = before.get(kind, [])
        unread = [row for row in rows if not _fits(kind, [_parsed(row.body)])]
        bodies = [_text(item) for item in content[kind]] + [row.body for row in unread]
        if bodies != [row.body for row in rows]:
            _write_shelf(connection, kind, rows, bodies)
    for key in SETTINGS:
        if key in settings and not _fits(key, _parsed(settings[key])):
            put_setting(connection, f"unread {key}", settings[key])
        if settings.get(key) != _text(content[key]):
            put_setting(connection, key, content[key])
    if settings.get("shelves") != _text(list(SHELVES)):
        put_setting(connection, "shelves", list(SHELVES))


def put_setting(connection: Connection, key: str, content: Any) -> None:
    """Keep a setting under its key."""
    body = _text(content)
    if not connection.execute(update(SETTING).where(SETTING.c.key == key).values(body=body)).rowcount:
        connection.execute(insert(SETTING).values(key=key, body=body))


def _write_shelf(connection: Connection, kind: str, rows: list[_Row], bodies: list[str]) -> None:
    """Write what changed on a shelf: what is as it was keeps its row, and what took another's place its id."""
    of_body: dict[str, list[_Row]] = {}
    for kept in rows:
        of_body.setdefault(kept.body, []).append(kept)
    same = [of_body[body].pop(0) if of_body.get(body) else None for body in bodies]
    taken = {row.id for row in same if row is not None}
    free = [row for row in rows if row.id not in taken]
    for position, (body, row) in enumerate(zip(bodies, same, strict=True)):
        if row is not None:
            if row.position != position:
                _update(connection, row.id, position=position)
        elif free:
            changed = free.pop(0)
            _update(connection, changed.id, position=position, body=body, version=changed.version + 1)
        else:
            new = {"id": secrets.token_hex(6), "kind": kind, "position": position, "version": 0, "body": body}
            connection.execute(insert(SHELF).values(new))
    for gone in free:
        connection.execute(delete(SHELF).where(SHELF.c.id == gone.id))


def _update(connection: Connection, row_id: str, **values: Any) -> None:
    connection.execute(update(SHELF).where(SHELF.c.id == row_id).values(**values))


def _rows(connection: Connection) -> dict[str, list[_Row]]:
    columns = SHELF.c.kind, SHELF.c.id, SHELF.c.position, SHELF.c.version, SHELF.c.body
    found: dict[str, list[_Row]] = {}
    for kind, *row in connection.execute(select(*columns).order_by(SHELF.c.kind, SHELF.c.position)):
        found.setdefault(str(kind), []).append(_Row(*row))
    return found


def _settings(connection: Connection) -> dict[str, str]:
    return {str(key): str(body) for key, body in connection.execute(select(SETTING.c.key, SETTING.c.body))}


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
