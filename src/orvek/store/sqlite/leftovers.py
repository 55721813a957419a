"""What a killed process left beside a workshop: whether it belongs to the file that lies there now.

SQLite keeps a transaction that was cut off in a second file (`-journal`; in older workshops `-wal`) and puts it back
into whatever database it finds. Where the maker has laid another copy over the workshop meanwhile, that would mix
two states into one broken file. `set_foreign_aside` finds such a file and moves it away.

Source of the layout of both files: the SQLite file format document ("The Rollback Journal", "The Write-Ahead Log").
"""

from __future__ import annotations

import shutil
import sqlite3
import struct
import tempfile
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

MAGIC = b"SQLite format 3\x00"
JOURNAL_MAGIC = bytes.fromhex("d9d505f920a163d7")
COUNTER = slice(24, 28)  # the file change counter in the first page
ID = slice(68, 72)
_MOST_RECORDS = 200_000


def set_foreign_aside(path: Path) -> str | None:
    """Move a journal away that does not belong to the workshop at `path`.

    Returns:
        A sentence that says what was found and where it lies now; None where all is well.
    """
    journal = path.with_name(path.name + "-journal")
    log = path.with_name(path.name + "-wal")
    if journal.exists() and journal.stat().st_size and not journal_belongs(path, journal):
        return _set_aside(path, journal)
    if log.exists() and log.stat().st_size and not _log_belongs(path, log):
        path.with_name(path.name + "-shm").unlink(missing_ok=True)
        return _set_aside(path, log)
    return None


def journal_belongs(path: Path, journal: Path) -> bool:
    """Whether a rollback journal was begun on the state in which the database at `path` is now, or one step on.

    A transaction journals the first page before it changes it; the page carries a counter that every transaction
    raises by one. So the counter of the database is the journalled one, or one more.
    """
    before = _first_page(journal)
    if before is None:
        return True  # nothing that could be put back, or a journal that was not begun: SQLite drops it
    with path.open("rb") as handle:
        head = handle.read(100)
    if len(head) < 100 or head[:16] != MAGIC:
        return len(head) == 0
    then, now = (struct.unpack(">I", page[COUNTER])[0] for page in (before, head))
    # The application id; none yet where the very change that was cut off was to give it.
    same_file = before[ID] == head[ID] or before[ID] == bytes(4)
    return same_file and now in {then, (then + 1) % 2**32}


def began_on_nothing(journal: Path) -> bool:
    """Whether a rollback journal holds nothing of a database: it was begun on an empty one, or never begun."""
    with journal.open("rb") as handle:
        header = handle.read(20)
    return header[:8] != JOURNAL_MAGIC or struct.unpack(">I", header[16:20].ljust(4, bytes(1)))[0] == 0


def _first_page(journal: Path) -> bytes | None:
    """The first page of the database as the journal keeps it; None where the journal does not hold it."""
    with journal.open("rb") as handle:
        header = handle.read(28)
        if len(header) < 28 or header[:8] != JOURNAL_MAGIC:
            return None
        sector, page = struct.unpack(">II", header[20:28])
        if not 512 <= page <= 65536 or not 0 < sector <= 65536:
            return None
        handle.seek(sector)
        for _ in range(_MOST_RECORDS):
            record = handle.read(4 + page + 4)
            if len(record) < 4 + page + 4:
                return None
            if struct.unpack(">I", record[:4])[0] == 1:
                return record[4 : 4 + page]
    return None


def _log_belongs(path: Path, log: Path) -> bool:
    """Whether database and write-ahead log make a whole database together; tried on copies."""
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=".orvek-trial-") as folder:
        copy = Path(folder) / "copy.sqlite"
        shutil.copyfile(path, copy)
        shutil.copyfile(log, copy.with_name(copy.name + "-wal"))
        try:
            with closing(sqlite3.connect(copy)) as connection:
                return bool(connection.execute("pragma integrity_check(1)").fetchone()[0] == "ok")
        except sqlite3.Error:
            return False


def _set_aside(path: Path, found: Path) -> str:
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    target = path.parent / "backups" / f"{found.name}-set-aside-{stamp}"
    target.parent.mkdir(mode=0o700, exist_ok=True)
    found.replace(target)
    return (
        f"{path.name} is another copy than the one that was open last. The change that was cut off then does not "
        f"belong to it and lies in {target.name}, in the folder backups."
    )
