"""What a file manager, a kill or a damaged disk can do to a workshop: it opens, says so, and nothing is mixed."""

from __future__ import annotations

import os
import random
import shutil
import signal
import sqlite3
import struct
import subprocess
import sys
from contextlib import closing
from datetime import datetime
from pathlib import Path

import pytest

from orvek.documents import Job, deeds, first_shop
from orvek.errors import WorkshopDamagedError, WorkshopReadOnlyError, WorkshopReplacedError
from orvek.store import Workshop, WorkshopFile, back_up, demo_shop, open_workshop, saved_elsewhere, take_over
from orvek.store.sqlite import upgrading
from orvek.store.sqlite.leftovers import journal_belongs


def wanted(job: Job, pens: int) -> Job:
    return deeds.set_value(job, ("batch", "pens_wanted"), pens)


@pytest.fixture
def filled(workshop: Workshop, tideline: Job) -> Workshop:
    workshop.record(tideline, "Begin")
    for pens in (7, 8, 9):
        workshop.record(wanted(tideline, pens), f"Want {pens}")
    return workshop


def is_whole(path: Path) -> bool:
    with closing(sqlite3.connect(path)) as connection:
        return bool(connection.execute("pragma integrity_check").fetchone()[0] == "ok")


def test_nothing_lies_beside_an_open_workshop_that_could_be_lost(filled: Workshop) -> None:
    beside = {path.name for path in filled.path.parent.iterdir()}
    assert beside == {"workshop.sqlite", "workshop.sqlite.lock"}
    assert filled.path.stat().st_mode & 0o077 == 0


def test_a_copy_made_while_it_is_open_is_whole_and_new(filled: Workshop, tmp_path: Path, tideline: Job) -> None:
    copy = tmp_path / "copy.sqlite"
    shutil.copyfile(filled.path, copy)
    opened = open_workshop(copy)
    assert opened.job(tideline.batch.id).batch.pens_wanted == 9
    opened.close()


@pytest.mark.parametrize("how", ["deleted", "moved over", "copied over"])
def test_a_file_that_is_replaced_while_open_is_noticed_and_what_the_window_has_is_kept(
    filled: Workshop, tmp_path: Path, tideline: Job, how: str
) -> None:
    older = tmp_path / "older.sqlite"
    shutil.copyfile(filled.path, older)
    filled.record(wanted(tideline, 10), "Want 10")
    before = older.read_bytes()
    if how == "deleted":
        filled.path.unlink()
    elif how == "moved over":
        older.replace(filled.path)
    else:
        shutil.copyfile(older, filled.path)
    with pytest.raises(WorkshopReplacedError):
        filled.record(wanted(tideline, 11), "Want 11")
    assert how == "deleted" or filled.path.read_bytes() == before
    saved = saved_elsewhere(filled, tmp_path / "saved.sqlite")
    saved.record(wanted(tideline, 11), "Want 11")
    assert is_whole(saved.path)
    if how != "copied over":
        assert saved.undo(tideline.batch.id).batch.pens_wanted == 10
    saved.close()


def test_a_link_and_a_removed_lock_give_no_second_writer(filled: Workshop, tmp_path: Path) -> None:
    link = tmp_path / "link.sqlite"
    link.symlink_to(filled.path)
    other = open_workshop(link)
    assert not other.is_writable
    other.close()
    filled.path.with_name("workshop.sqlite.lock").unlink()
    third = open_workshop(filled.path)
    assert not third.is_writable
    third.close()


def test_a_second_window_writes_once_the_first_is_gone(filled: Workshop, tideline: Job) -> None:
    second = open_workshop(filled.path)
    assert take_over(second) is None
    filled.close()
    writing = take_over(second)
    assert writing is not None
    writing.record(wanted(tideline, 30), "Want 30")
    writing.close()
    second.close()


_CUT_OFF = """
import os, signal, sqlite3, sys
connection = sqlite3.connect(sys.argv[1], isolation_level=None)
connection.execute("pragma cache_size = 1")
connection.execute("pragma synchronous = full")
connection.execute("begin immediate")
connection.execute("update job_version set body = body || hex(zeroblob(40000))")
connection.execute("insert into job values ('ffffffffffff', 'half', 0, '')")
os.kill(os.getpid(), signal.SIGKILL)
"""


def cut_off(path: Path) -> None:
    """Leave a transaction half written, as a pulled plug does."""
    subprocess.run([sys.executable, "-c", _CUT_OFF, str(path)], check=False)
    assert path.with_name(path.name + "-journal").stat().st_size > 0


def test_a_change_that_was_cut_off_is_taken_back(filled: Workshop, tideline: Job) -> None:
    filled.close()
    cut_off(filled.path)
    again = open_workshop(filled.path)
    assert not again.notices
    assert again.job(tideline.batch.id).batch.pens_wanted == 9
    assert is_whole(again.path)
    again.close()


@pytest.mark.parametrize("seed", range(12))
def test_an_older_copy_over_a_cut_off_change_is_not_mixed_with_it(
    workshop_path: Path, tmp_path: Path, tideline: Job, seed: int
) -> None:
    chance = random.Random(seed)
    opened, older = open_workshop(workshop_path), tmp_path / "older.sqlite"
    opened.record(tideline, "Begin")
    for pens in range(1, chance.randint(2, 30)):
        opened.record(wanted(tideline, pens), f"Want {pens}")
    shutil.copyfile(workshop_path, older)
    for pens in range(100, 100 + chance.randint(1, 30)):
        opened.record(wanted(tideline, pens), f"Want {pens}")
    opened.close()
    cut_off(workshop_path)
    shutil.copyfile(older, workshop_path)
    again = open_workshop(workshop_path)
    assert again.notices
    assert is_whole(workshop_path)
    assert again.job(tideline.batch.id).batch.pens_wanted < 100
    assert list((workshop_path.parent / "backups").glob("*set-aside*"))
    again.close()


_KILLED_WITH_A_LOG = """
import os, signal, sqlite3, sys
connection = sqlite3.connect(sys.argv[1], isolation_level=None)
connection.execute("pragma journal_mode = wal")
connection.execute("create table grown (x)")
connection.execute("begin")
for n in range(400):
    connection.execute("insert into grown values (zeroblob(3000))")
connection.execute("commit")
connection.execute("pragma wal_checkpoint(truncate)")
connection.execute("delete from grown where rowid = 7")
os.kill(os.getpid(), signal.SIGKILL)
"""


def test_a_write_ahead_log_of_another_copy_is_set_aside(workshop_path: Path, tmp_path: Path, tideline: Job) -> None:
    """As workshops of the first Orvek left them when they were killed."""
    opened = open_workshop(workshop_path)
    opened.record(tideline, "Begin")
    opened.close()
    spoil(workshop_path, "pragma journal_mode = wal")
    killed = tmp_path / "killed.sqlite"
    shutil.copyfile(workshop_path, killed)
    subprocess.run([sys.executable, "-c", _KILLED_WITH_A_LOG, str(killed)], check=False)
    shutil.copyfile(killed.with_name("killed.sqlite-wal"), workshop_path.with_name("workshop.sqlite-wal"))
    again = open_workshop(workshop_path)
    assert "set-aside" in again.notices[0]
    assert again.job(tideline.batch.id) == tideline
    assert is_whole(workshop_path)
    again.close()


def test_a_journal_that_is_none_is_left_to_sqlite(tmp_path: Path) -> None:
    database, journal = tmp_path / "a.sqlite", tmp_path / "a.sqlite-journal"
    with closing(sqlite3.connect(database)) as connection:
        connection.execute("create table t (x)")
    for content in (
        b"",
        b"short",
        b"\x00" * 600,
        bytes.fromhex("d9d505f920a163d7") + struct.pack(">5I", 1, 2, 3, 0, 9),
    ):
        journal.write_bytes(content)
        assert journal_belongs(database, journal)


_FIRST_START = """
import os, signal, sys
from pathlib import Path
count = int(sys.argv[2])
def trace(frame, event, arg):
    global count
    if "/orvek/store/" in frame.f_code.co_filename:
        count -= 1
        if count <= 0:
            os.kill(os.getpid(), signal.SIGKILL)
    return trace
from orvek.store import open_workshop
sys.settrace(trace)
open_workshop(Path(sys.argv[1]))
"""


@pytest.mark.parametrize("moment", [10, 30, 60, 90, 105, 115, 130, 150])
def test_a_kill_in_the_first_start_bricks_nothing(workshop_path: Path, moment: int) -> None:
    killed = subprocess.run([sys.executable, "-c", _FIRST_START, str(workshop_path), str(moment)], check=False)
    assert killed.returncode == -signal.SIGKILL
    opened = open_workshop(workshop_path)
    assert opened.is_writable
    assert opened.jobs() == ()
    opened.close()


# -- rows that cannot be read ----------------------------------------------------------------------------------


def spoil(path: Path, statement: str) -> None:
    with closing(sqlite3.connect(path)) as connection:
        connection.execute(statement)
        connection.commit()


@pytest.mark.parametrize("body", ["", "{", '{"format": "orvek-job", "version": 99}', "null", "[" * 50])
def test_a_job_that_cannot_be_read_opens_at_its_last_good_version(
    workshop_path: Path, filled: Workshop, tideline: Job, body: str
) -> None:
    filled.close()
    spoil(workshop_path, f"update job_version set body = '{body}' where number >= 2")
    again = open_workshop(workshop_path)
    opened = again.open_job(tideline.batch.id)
    assert opened.job.batch.pens_wanted == 7
    assert "Nothing was removed" in (opened.note or "")
    again.record(wanted(opened.job, 70), "Want 70")
    assert again.undo(tideline.batch.id).batch.pens_wanted == 7  # over the versions that cannot be read
    again.close()


@pytest.mark.parametrize(("back", "words"), [(1, "before the last change, which"), (2, "before the last 2 changes,")])
def test_it_is_said_how_far_back_a_job_is_opened(
    workshop_path: Path, filled: Workshop, tideline: Job, back: int, words: str
) -> None:
    filled.close()
    spoil(workshop_path, f"update job_version set body = '' where number > (select version_now from job) - {back}")
    again = open_workshop(workshop_path)
    assert words in (again.open_job(tideline.batch.id).note or "")
    again.close()


def test_a_job_of_which_nothing_can_be_read_is_a_sentence(workshop_path: Path, filled: Workshop, tideline: Job) -> None:
    filled.close()
    spoil(workshop_path, "update job_version set body = 'x'")
    again = open_workshop(workshop_path)
    with pytest.raises(WorkshopDamagedError, match="no version of “Tideline”"):
        again.open_job(tideline.batch.id)
    again.close()


def test_a_shelf_item_or_setting_that_cannot_be_read_is_left_out_and_stays_in_the_file(workshop_path: Path) -> None:
    opened = open_workshop(workshop_path)
    opened.save_shop(demo_shop())
    opened.close()
    spoil(workshop_path, "update shelf set body = '{\"name\": 7}' where kind = 'moulds' and position = 0")
    spoil(workshop_path, "update setting set body = 'rubbish' where key in ('preferences', 'last_open')")
    again = open_workshop(workshop_path)
    found = again.shop_found()
    assert found.shop.moulds == demo_shop().moulds[1:]
    assert found.shop.preferences == first_shop().preferences
    assert len(found.unread) == 2
    assert again.last_open() is None
    again.save_shop(found.shop.with_(moulds=found.shop.moulds[:1]))
    with closing(sqlite3.connect(workshop_path)) as connection:
        kept = [row[0] for row in connection.execute("select body from shelf where kind = 'moulds' order by position")]
        aside = connection.execute("select body from setting where key = 'unread preferences'").fetchone()
    assert kept[-1] == '{"name": 7}'
    assert len(kept) == 2
    assert "rubbish" in aside[0]
    again.close()


def test_pieces_counted_by_the_day_are_read_and_counted_as_it_began(workshop_path: Path) -> None:
    opened = open_workshop(workshop_path)
    opened.save_shop(demo_shop())
    opened.close()
    by_day = "json_remove(json_set(body, '$.counted_on', '2026-11-01'), '$.counted_at')"
    spoil(workshop_path, f"update shelf set body = {by_day} where kind = 'pieces'")
    again = open_workshop(workshop_path)
    found = again.shop_found()
    again.close()
    assert found.unread == ()
    counted = datetime(2026, 11, 1)
    assert found.shop.pieces == tuple(piece.with_(counted_at=counted) for piece in demo_shop().pieces)


def test_saving_the_shop_writes_only_what_changed(workshop: WorkshopFile) -> None:
    shop = demo_shop()
    workshop.save_shop(shop)
    written: list[str] = []
    with workshop._engine.connect() as connection:
        connection.connection.driver_connection.set_trace_callback(written.append)
    workshop.save_shop(shop.with_(scales=shop.scales[:1]))
    changes = [line for line in written if line.startswith(("INSERT", "DELETE", "UPDATE"))]
    assert len(changes) == len(shop.scales) - 1
    assert all(line.startswith("DELETE FROM shelf WHERE shelf.id = ") for line in changes)


_KEEPER = """
import sys
from pathlib import Path
from orvek.documents import deeds
from orvek.store import demo_job, open_workshop
workshop, job = open_workshop(Path(sys.argv[1])), demo_job()
workshop.record(job, "Begin")
for pens in range(1, 900):
    workshop.record(deeds.set_value(job, ("batch", "pens_wanted"), pens), f"Want {pens}")
    print(pens, flush=True)
"""


@pytest.mark.parametrize("seed", range(4))
def test_a_kill_at_any_moment_loses_at_most_the_change_in_hand(workshop_path: Path, tideline: Job, seed: int) -> None:
    chance = random.Random(seed)
    process = subprocess.Popen([sys.executable, "-c", _KEEPER, str(workshop_path)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    for _ in range(chance.randint(1, 120)):
        last = int(process.stdout.readline())
    os.kill(process.pid, signal.SIGKILL)
    last = max([last, *(int(line) for line in process.stdout.read().split())])
    process.wait()
    process.stdout.close()
    again = open_workshop(workshop_path)
    assert again.job(tideline.batch.id).batch.pens_wanted in {last, last + 1}
    assert is_whole(workshop_path)
    again.close()


@pytest.mark.parametrize(
    "name", ["sp ace.sqlite", "100 %41 sure?.sqlite", "Ebbe & Flut #2.sqlite", "без имени.db", "x"]
)
def test_any_name_is_the_name_of_the_file(tmp_path: Path, tideline: Job, name: str) -> None:
    opened = open_workshop(tmp_path / name)
    opened.record(tideline, "Begin")
    opened.close()
    assert {path.name for path in tmp_path.iterdir()} == {name, f"{name}.lock"}
    again = open_workshop(tmp_path / name)
    assert again.job(tideline.batch.id) == tideline
    assert back_up(again.path, "asked").name.startswith((tmp_path / name).stem)
    again.close()


@pytest.mark.parametrize("kind", ["folder", "pipe", "device", "circle", "under a file"])
def test_what_can_be_no_workshop_is_a_sentence(tmp_path: Path, kind: str) -> None:
    path = tmp_path / "place.sqlite"
    if kind == "folder":
        path.mkdir()
    elif kind == "pipe":
        os.mkfifo(path)
    elif kind == "device":
        path = Path("/dev/null")
    elif kind == "circle":
        path.symlink_to(path)
    else:
        path.write_text("x")
        path = path / "inside.sqlite"
    with pytest.raises((WorkshopDamagedError, WorkshopReadOnlyError)) as caught:
        open_workshop(path)
    assert 0 < len(str(caught.value)) < 300


_UPGRADE = """
import os, signal, sys
from pathlib import Path
from orvek.store.sqlite import upgrading
path, migrations = Path(sys.argv[1]), Path(sys.argv[2])
upgrading.bring_up_to_date(path, migrations, "0004")
"""
_SECOND = """
import os, signal
import sqlalchemy as sa
from alembic import op
revision, down_revision = "0004", "0003"
def upgrade():
    op.add_column("job", sa.Column("due", sa.String(10)))
    op.execute("insert into setting values ('half', '1')")
    BREAK
    op.create_table("order_book", sa.Column("id", sa.Integer, primary_key=True))
"""
_BREAKS = {
    "a fault": "raise RuntimeError('the upgrade broke')",
    "a kill": "os.kill(os.getpid(), signal.SIGKILL)",
    "a full disk": "op.execute('pragma max_page_count = 1'); op.execute('create table big as select zeroblob(9999)')",
}


@pytest.mark.parametrize("by", list(_BREAKS))
def test_an_upgrade_that_is_broken_off_leaves_the_old_file_and_can_be_made_later(
    workshop_path: Path, filled: Workshop, tmp_path: Path, tideline: Job, by: str
) -> None:
    filled.close()
    migrations = tmp_path / "migrations"
    shutil.copytree(upgrading.MIGRATIONS, migrations, ignore=shutil.ignore_patterns("__pycache__"))
    second = migrations / "versions" / "0004_due.py"

    def upgrade(broken: str) -> int:
        second.write_text(_SECOND.replace("BREAK", broken))
        command = [sys.executable, "-B", "-c", _UPGRADE, str(workshop_path), str(migrations)]
        return subprocess.run(command, check=False, capture_output=True).returncode

    assert upgrade(_BREAKS[by]) != 0
    with closing(sqlite3.connect(workshop_path)) as connection:
        columns = {row[1] for row in connection.execute("pragma table_info(job)")}
        tables = {row[0] for row in connection.execute("select name from sqlite_master")}
        halves = connection.execute("select count(*) from setting where key = 'half'").fetchone()[0]
    assert "due" not in columns
    assert not {"big", "order_book"} & tables
    assert halves == 0
    assert upgrading.version_of(workshop_path) == "0003"
    opened = open_workshop(workshop_path)
    assert opened.job(tideline.batch.id).batch.pens_wanted == 9
    opened.close()
    assert upgrade("pass") == 0
    assert upgrading.version_of(workshop_path) == "0004"
