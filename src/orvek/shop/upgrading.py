"""Bringing a workshop file up to date: a backup first, then Alembic's upgrades in one transaction."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path
from typing import TYPE_CHECKING

from orvek.errors import CannotWriteError, UnknownVersionError
from orvek.shop.tables import HEAD

if TYPE_CHECKING:
    from sqlalchemy import Engine

MIGRATIONS = Path(str(resources.files("orvek.shop"))) / "migrations"


def version_of(path: Path) -> str | None:
    """The version of a workshop file; None where the file is new or empty.

    Raises:
        sqlite3.DatabaseError: it is no SQLite file.
    """
    if not path.exists() or path.stat().st_size == 0:
        return None
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as connection:
        tables = {row[0] for row in connection.execute("select name from sqlite_master where type = 'table'")}
        if "alembic_version" not in tables:
            if tables:
                raise sqlite3.DatabaseError("it is a database of another program")
            return None
        row = connection.execute("select version_num from alembic_version").fetchone()
        return str(row[0]) if row else None


def bring_up_to_date(path: Path, engine: Engine, migrations: Path = MIGRATIONS, head: str = HEAD) -> Path | None:
    """Upgrade the file to `head`.

    Returns:
        Where the backup was put; None where nothing had to be upgraded or the file is new.

    Raises:
        UnknownVersionError: the file was written by a newer Orvek; it is left alone.
        CannotWriteError: the backup could not be made; nothing was upgraded.
    """
    version = version_of(path)
    if version == head:
        return None
    if version is not None and version > head:
        raise UnknownVersionError(path.name, version, head)
    backup = back_up(path, version) if version is not None else None
    _upgrade(engine, migrations, head)
    return backup


def back_up(path: Path, label: str) -> Path:
    """Copy a workshop, with everything in its write-ahead log, beside itself.

    Returns:
        The copy's path: `backups/NAME-LABEL-YYYYMMDD-HHMMSS.sqlite`.

    Raises:
        CannotWriteError: there is no room or no permission.
    """
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    copy = path.parent / "backups" / f"{path.stem}-{label}-{stamp}.sqlite"
    try:
        copy.parent.mkdir(exist_ok=True)
        with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(copy)) as target:
            source.backup(target)
    except (OSError, sqlite3.Error) as error:
        raise CannotWriteError(copy, f"no backup could be made ({error})") from error
    return copy


def _upgrade(engine: Engine, migrations: Path, head: str) -> None:
    # A third of a second to load, and only a new or an old file needs it.
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(migrations).replace("%", "%%"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, head)
