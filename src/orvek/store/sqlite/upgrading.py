"""Bringing a workshop file up to date: a backup first, then Alembic's upgrades, all of them or none.

What changes tables belongs to one transaction, and is taken back too when an upgrade breaks, the disk is full or the
process is killed.
"""

from __future__ import annotations

import secrets
import sqlite3
from contextlib import closing
from importlib import resources
from pathlib import Path

from orvek.errors import WorkshopVersionError
from orvek.store.sqlite.backups import back_up
from orvek.store.sqlite.connections import connect
from orvek.store.tables import HEAD, TABLES, VERSIONS

MIGRATIONS = Path(str(resources.files("orvek.store"))) / "migrations"


def version_of(path: Path, *, writing: bool = False) -> str | None:
    """The version of a workshop file; None where the file is new or empty.

    Raises:
        sqlite3.DatabaseError: it is no SQLite file.
    """
    if not path.exists() or path.stat().st_size == 0:
        return None
    # For writing: a transaction that was cut off must be taken back before anything can be read.
    mode = "rw" if writing else "ro"
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode={mode}", uri=True)) as connection:
        tables = {row[0] for row in connection.execute("select name from sqlite_master where type = 'table'")}
        if "alembic_version" not in tables:
            if tables:
                raise sqlite3.DatabaseError("it is a database of another program")
            return None
        row = connection.execute("select version_num from alembic_version").fetchone()
        return str(row[0]) if row else None


def bring_up_to_date(
    path: Path, migrations: Path = MIGRATIONS, head: str = HEAD, *, with_backup: bool = True
) -> Path | None:
    """Upgrade the file to `head`; a new one gets its tables.

    Returns:
        Where the backup was put; None where nothing had to be upgraded or the file is new.

    Raises:
        WorkshopVersionError: as `check_version`.
        CannotWriteError: the backup could not be made; nothing was upgraded.
        sqlite3.Error: the upgrade was refused; nothing was changed.
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
    with closing(connect(path, writing=True)) as connection:
        connection.execute("begin immediate")
        for table in TABLES:
            connection.execute(table)
        connection.execute("insert into alembic_version (version_num) values (?)", (HEAD,))
        connection.execute(f"pragma application_id = {new_number()}")
        connection.execute("commit")


def _upgrade(path: Path, migrations: Path, head: str) -> None:
    # Half a second to load, and only an old file needs it.
    from alembic import command
    from alembic.config import Config
    from sqlalchemy import create_engine
    from sqlalchemy.exc import DBAPIError
    from sqlalchemy.pool import StaticPool

    config = Config()
    config.set_main_option("script_location", str(migrations).replace("%", "%%"))
    with closing(connect(path, writing=True)) as connection:
        engine = create_engine("sqlite+pysqlite://", creator=lambda: connection, poolclass=StaticPool)
        try:
            with engine.connect() as upgrading:
                upgrading.exec_driver_sql("begin")  # by hand: the driver would leave changes of tables outside
                config.attributes["connection"] = upgrading
                command.upgrade(config, head)
                upgrading.commit()
        except DBAPIError as error:
            raise sqlite3.DatabaseError(str(error.orig)) from error
