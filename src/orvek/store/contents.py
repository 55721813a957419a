"""What jobs keep as it is, in the workshop file: each content once, however many versions of a job name it."""

from __future__ import annotations

import json
import re
import sqlite3

from orvek.documents import Contents, PhotoStep, checked
from orvek.errors import OrvekError

_ALBUM = b"orvek-album "  # what the list of a piece's photos begins with
_NAMED = re.compile(r"sha256:([0-9a-f]{64})")


def read_contents(connection: sqlite3.Connection, body: str) -> Contents:
    """The contents that a job's text names, as far as they are there."""
    found: dict[str, bytes] = {}
    for digest in set(_NAMED.findall(body)):
        row = connection.execute("select body from content where digest = ?", (digest,)).fetchone()
        if row is not None:
            found[digest] = bytes(row["body"])
    return Contents(found)


def write_contents(connection: sqlite3.Connection, contents: Contents) -> None:
    """Keep contents; those that are there already are left as they are."""
    for digest, body in contents.kept.items():
        there = connection.execute("select 1 from content where digest = ?", (digest,)).fetchone()
        if body and not there:
            connection.execute("insert into content (digest, body) values (?, ?)", (digest, body))


def write_album(connection: sqlite3.Connection, album: PhotoStep) -> str:
    """Keep a piece's photos, and a list of them that names them; returns the list's own name."""
    contents = Contents()
    text = album.model_dump_json(context={"contents": contents})
    name = contents.put(_ALBUM + text.encode())
    write_contents(connection, contents)
    return name


def read_album(connection: sqlite3.Connection, name: str) -> PhotoStep | None:
    """The photos of a name; None where there are none, or they cannot be read."""
    body = read_contents(connection, name).get(name)
    if not body.startswith(_ALBUM):
        return None
    text = body.removeprefix(_ALBUM).decode(errors="replace")
    try:
        return checked(PhotoStep, json.loads(text), {"contents": read_contents(connection, text)})
    except (OrvekError, ValueError, RecursionError):
        return None


def drop_unnamed(connection: sqlite3.Connection) -> None:
    """Let go of contents that no version of any job names any more, and no album does.

    Albums stay: a shelf may be undone to one that nobody names now.
    """
    beginning = "substr(body, 1, ?) = ?"
    albums = connection.execute(f"select digest, body from content where {beginning}", (len(_ALBUM), _ALBUM)).fetchall()
    kept = {str(row["digest"]) for row in albums}
    for row in albums:
        kept.update(_NAMED.findall(bytes(row["body"]).decode(errors="replace")))
    for row in connection.execute("select digest from content").fetchall():
        digest = row["digest"]
        named = "select 1 from job_version where instr(body, ?) limit 1"
        if digest not in kept and connection.execute(named, (f"sha256:{digest}",)).fetchone() is None:
            connection.execute("delete from content where digest = ?", (digest,))
