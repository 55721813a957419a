"""Connections to the SQLite file of a workshop, and transactions on them.

Written on Python's own `sqlite3`: the program asks five tables some thirty plain questions, and a mapper of objects
took a fifth of the time in which it starts. Alembic changes the tables of older files (upgrading.py), loaded only where
it must. What the tables hold stands in tables.py.
"""

from __future__ import annotations

import contextlib
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

_WAITS_S = 5.0  # for another program that holds on to the file for a moment


def connect(path: Path, *, writing: bool) -> sqlite3.Connection:
    """A connection that begins no transaction by itself, so that changes of tables belong to transactions too.

    The file must be there. Any thread may use the connection, one at a time.

    Raises:
        sqlite3.Error: the file cannot be opened, or is no database.
    """
    # By a URI, because a file that is not there must not be made.
    address = f"{path.absolute().as_uri()}?mode={'rw' if writing else 'ro'}"
    connection = sqlite3.connect(address, uri=True, timeout=_WAITS_S, check_same_thread=False, isolation_level=None)
    try:
        connection.row_factory = sqlite3.Row
        connection.execute("pragma foreign_keys = on")
        if writing:
            connection.execute("pragma journal_mode = delete")
            connection.execute("pragma synchronous = extra")
    except sqlite3.Error:
        connection.close()
        raise
    return connection


class Connections:
    """The connections of one workshop: made when they are wanted, kept for the next who wants one."""

    def __init__(self, path: Path, *, writing: bool) -> None:
        self._path = path
        self._writing = writing
        self._idle: list[sqlite3.Connection] = []

    @contextmanager
    def in_hand(self) -> Iterator[sqlite3.Connection]:
        """A connection to read by: what it reads is of one moment, and nothing that is written stays."""
        connection = self._taken()
        try:
            connection.execute("begin")
            yield connection
        finally:
            self._given_back(connection)

    @contextmanager
    def changing(self) -> Iterator[sqlite3.Connection]:
        """A connection whose changes are committed together at the end, or not at all."""
        with self.in_hand() as connection:
            yield connection
            connection.execute("commit")

    def close(self) -> None:
        """Close those that nobody has in hand; the next who wants one gets a new one."""
        while self._idle:
            self._idle.pop().close()

    def _taken(self) -> sqlite3.Connection:
        with contextlib.suppress(IndexError):  # a thread that takes one has it for itself: pop is one step
            return self._idle.pop()
        return connect(self._path, writing=self._writing)

    def _given_back(self, connection: sqlite3.Connection) -> None:
        try:
            if connection.in_transaction:
                connection.execute("rollback")
        except sqlite3.Error:
            connection.close()
        else:
            self._idle.append(connection)
