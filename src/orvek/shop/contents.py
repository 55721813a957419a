"""What jobs keep as it is, in the workshop file: each content once, however many versions of a job name it."""

from __future__ import annotations

import json
import re

from sqlalchemy import Connection, delete, func, insert, select

from orvek.documents import Contents, PhotoStep, checked
from orvek.errors import OrvekError
from orvek.shop import tables

_ALBUM = b"orvek-album "  # what the list of a piece's photos begins with
_NAMED = re.compile(r"sha256:([0-9a-f]{64})")


def read_contents(connection: Connection, body: str) -> Contents:
    """The contents that a job's text names, as far as they are there."""
    wanted = set(_NAMED.findall(body))
    if not wanted:
        return Contents()
    rows = connection.execute(select(tables.content).where(tables.content.c.digest.in_(wanted)))
    return Contents({str(row.digest): bytes(row.body) for row in rows})


def write_contents(connection: Connection, contents: Contents) -> None:
    """Keep contents; those that are there already are left as they are."""
    if not contents.kept:
        return
    column = tables.content.c.digest
    there = {str(row.digest) for row in connection.execute(select(column).where(column.in_(list(contents.kept))))}
    rows = [{"digest": digest, "body": body} for digest, body in contents.kept.items() if digest not in there and body]
    if rows:
        connection.execute(insert(tables.content), rows)


def write_album(connection: Connection, album: PhotoStep) -> str:
    """Keep a piece's photos, and a list of them that names them; returns the list's own name."""
    contents = Contents()
    text = album.model_dump_json(context={"contents": contents})
    name = contents.put(_ALBUM + text.encode())
    write_contents(connection, contents)
    return name


def read_album(connection: Connection, name: str) -> PhotoStep | None:
    """The photos of a name; None where there are none, or they cannot be read."""
    body = read_contents(connection, name).get(name)
    if not body.startswith(_ALBUM):
        return None
    text = body.removeprefix(_ALBUM).decode(errors="replace")
    try:
        return checked(PhotoStep, json.loads(text), {"contents": read_contents(connection, text)})
    except (OrvekError, ValueError, RecursionError):
        return None


def drop_unnamed(connection: Connection) -> None:
    """Let go of contents that no version of any job names any more, and no album does.

    Albums stay: a shelf may be undone to one that nobody names now.
    """
    versions, content = tables.job_version, tables.content
    albums = connection.execute(
        select(content.c.digest, content.c.body).where(func.substr(content.c.body, 1, len(_ALBUM)) == _ALBUM)
    ).all()
    kept = {str(row.digest) for row in albums}
    for row in albums:
        kept.update(_NAMED.findall(bytes(row.body).decode(errors="replace")))
    for row in connection.execute(select(content.c.digest)).all():
        if row.digest in kept:
            continue
        named = versions.c.body.contains(f"sha256:{row.digest}", autoescape=True)
        if connection.execute(select(versions.c.job_id).where(named).limit(1)).first() is None:
            connection.execute(delete(content).where(content.c.digest == row.digest))
