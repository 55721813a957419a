"""What jobs keep as it is, in the workshop: each content once, however many versions of a job name it."""

from __future__ import annotations

import json
import re

from sqlalchemy import Connection, delete, func, insert, select

from orvek.documents import Contents, PhotoStep, checked
from orvek.errors import OrvekError
from orvek.store.tables import CONTENT, JOB_VERSION, SHELF

_ALBUM = b"orvek-album "  # what the list of a piece's photos begins with
_IS_ALBUM = func.substr(CONTENT.c.body, 1, len(_ALBUM)) == _ALBUM
_NAMED = re.compile(r"sha256:([0-9a-f]{64})")


def read_contents(connection: Connection, body: str) -> Contents:
    """The contents that a job's text names, as far as they are there."""
    named = set(_NAMED.findall(body))
    if not named:
        return Contents()
    rows = connection.execute(select(CONTENT).where(CONTENT.c.digest.in_(named)))
    return Contents({digest: bytes(content) for digest, content in rows})


def write_contents(connection: Connection, contents: Contents) -> None:
    """Keep contents; those that are there already are left as they are."""
    for digest, body in contents.kept.items():
        there = connection.scalar(select(CONTENT.c.digest).where(CONTENT.c.digest == digest))
        if body and not there:
            connection.execute(insert(CONTENT).values(digest=digest, body=body))


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


def drop_old_albums(connection: Connection) -> None:
    """Let go of albums that no piece on the shelf names: once the window is closed nothing brings one back."""
    albums = connection.scalars(select(CONTENT.c.digest).where(_IS_ALBUM)).all()
    old = [name for name in albums if connection.scalar(select(SHELF.c.id).where(SHELF.c.body.contains(name))) is None]
    if old:
        connection.execute(delete(CONTENT).where(CONTENT.c.digest.in_(old)))
        drop_unnamed(connection)


def drop_unnamed(connection: Connection) -> None:
    """Let go of contents that no version of any job names any more, and no album does.

    Albums stay: a shelf may be undone to one that nobody names now.
    """
    albums = connection.execute(select(CONTENT).where(_IS_ALBUM)).all()
    kept = {str(digest) for digest, _ in albums}
    for _, body in albums:
        kept.update(_NAMED.findall(bytes(body).decode(errors="replace")))
    for digest in connection.scalars(select(CONTENT.c.digest)).all():
        naming = select(JOB_VERSION.c.number).where(JOB_VERSION.c.body.contains(f"sha256:{digest}")).limit(1)
        if digest not in kept and connection.scalar(naming) is None:
            connection.execute(delete(CONTENT).where(CONTENT.c.digest == digest))
