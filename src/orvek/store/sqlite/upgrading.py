"""Bringing a workshop file up to date: a backup first, then Alembic's upgrades, all of them or none.

What changes tables belongs to one transaction, and is taken back too when an upgrade breaks, the disk is full or the
process is killed.
"""

from __future__ import annotations

import secrets
import sqlite3
from importlib import resources
from pathlib import Path

from sqlalchemy import insert, inspect, select

from orvek.errors import WorkshopVersionError
from orvek.store.sqlite.backups import back_up
from orvek.store.sqlite.connections import changed, looked_into
from orvek.store.tables import ALEMBIC_VERSION, HEAD, METADATA, VERSIONS

MIGRATIONS = Path(str(resources.files("orvek.store"))) / "migrations"


def version_of(path: Path, *, writing: bool = False) -> str | None:
    """The version of a workshop file; None where the file is new or empty.

    Raises:
        sqlite3.Error, DBAPIError: it is no SQLite file, or one of another program.
    """
    if not path.exists() or path.stat().st_size == 0:
        return None
    # For writing: a transaction that was cut off must be taken back before anything can be read.
    with looked_into(path, recovers=writing) as connection:
        tables = inspect(connection).get_table_names()
        if ALEMBIC_VERSION.name not in tables:
            if tables:
                raise sqlite3.DatabaseError("it is a database of another program")
            return None
        return connection.scalar(select(ALEMBIC_VERSION))


def bring_up_to_date(
    path: Path, migrations: Path = MIGRATIONS, head: str = HEAD, *, with_backup: bool = True
) -> Path | None:
    """Upgrade the file to `head`; a new one gets its tables.

    Returns:
        Where the backup was put; None where nothing had to be upgraded or the file is new.

    Raises:
        WorkshopVersionError: as `check_version`.
        CannotWriteError: the backup could not be made; nothing was upgraded.
        sqlite3.Error, DBAPIError: the upgrade was refused; nothing was changed.
    """
    version = check_version(path, head)
    if version == head:
        return None
    if version is None and head == HEAD:
        _begin(path)
        return None
    backup = back_up(path, version) if version is not None and with_backup else None
    _upgrade(path, migrations, head)
    return backup


def check_version(path: Path, head: str = HEAD) -> str | None:
    """The version of a workshop file that this program may open.

    Raises:
        WorkshopVersionError: the file was written by a newer Orvek, or by none that is known; it is left alone.
    """
    version = version_of(path, writing=True)
    if version is not None and version not in VERSIONS and version != head:
        raise WorkshopVersionError(path, version, head)
    return version


def new_number() -> int:
    """A number of a file's own, by which a change that was cut off knows where it belongs."""
    return 1 + secrets.randbelow(2**31 - 1)


def _begin(path: Path) -> None:
    with changed(path) as connection:
        METADATA.create_all(connection)
        connection.execute(insert(ALEMBIC_VERSION).values(version_num=HEAD))
        connection.exec_driver_sql(f"pragma application_id = {new_number()}")


def _upgrade(path: Path, migrations: Path, head: str) -> None:
    # A fifth of a second to load, and only an old file needs it.
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(migrations).replace("%", "%%"))
    with changed(path) as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, head)
