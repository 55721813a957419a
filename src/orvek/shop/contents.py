"""What jobs keep as it is, in the workshop file: each content once, however many versions of a job name it."""

from __future__ import annotations

import re

from sqlalchemy import Connection, delete, insert, select

from orvek.documents import Contents
from orvek.shop import tables

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


def drop_unnamed(connection: Connection) -> None:
    """Let go of contents that no version of any job names any more."""
    versions, content = tables.job_version, tables.content
    for row in connection.execute(select(content.c.digest)).all():
        named = versions.c.body.contains(f"sha256:{row.digest}", autoescape=True)
        if connection.execute(select(versions.c.job_id).where(named).limit(1)).first() is None:
            connection.execute(delete(content).where(content.c.digest == row.digest))
