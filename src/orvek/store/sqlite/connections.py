"""Connections to the SQLite file of a workshop, and transactions on them."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DBAPIError
from sqlalchemy.pool import QueuePool

REFUSALS = (sqlite3.Error, DBAPIError)  # what SQLite says, by itself or through SQLAlchemy
_FOR_READING = ("foreign_keys = on",)
_FOR_WRITING = (*_FOR_READING, "journal_mode = delete", "synchronous = extra")
_WAITS_S = 5.0  # for another program that holds on to the file for a moment
_IDLE = 4  # connections that are kept for the next thread that wants one


def engine_of(path: Path, *, writing: bool) -> Engine:
    """What gives connections to the file, which must be there; any thread may have one. Nothing is opened yet.

    Every transaction is begun in words, so that what it reads is of one moment and changes of tables belong to it.
    """
    return _engine(path, "rw", _FOR_WRITING) if writing else _engine(path, "ro", _FOR_READING)


@contextmanager
def changed(path: Path) -> Iterator[Connection]:
    """A connection to a workshop file that is not open otherwise; its changes are committed at the end, or none is."""
    yield from _once(engine_of(path, writing=True))


@contextmanager
def looked_into(path: Path, *, recovers: bool = False) -> Iterator[Connection]:
    """A connection to a file that is not open otherwise, of which nothing is known yet: nothing is set in it.

    Where it `recovers`, a transaction that was cut off is taken back first.
    """
    yield from _once(_engine(path, "rw" if recovers else "ro", ()))


def _once(engine: Engine) -> Iterator[Connection]:
    try:
        with engine.begin() as connection:
            yield connection
    finally:
        engine.dispose()


def _engine(path: Path, mode: str, pragmas: tuple[str, ...]) -> Engine:
    engine = create_engine(
        "sqlite+pysqlite://",
        creator=lambda: _connect(path, mode, pragmas),
        poolclass=QueuePool,
        pool_size=_IDLE,
        max_overflow=-1,
        pool_use_lifo=True,
    )
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql("begin"))
    return engine


def _connect(path: Path, mode: str, pragmas: tuple[str, ...]) -> sqlite3.Connection:
    # By a URI, because a file that is not there must not be made.
    address = f"{path.absolute().as_uri()}?mode={mode}"
    connection = sqlite3.connect(address, uri=True, timeout=_WAITS_S, check_same_thread=False, isolation_level=None)
    try:
        for pragma in pragmas:
            connection.execute(f"pragma {pragma}")
    except sqlite3.Error:
        connection.close()
        raise
    return connection
