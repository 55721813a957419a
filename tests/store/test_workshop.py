"""The workshop file: nothing is lost, whatever happens to the program, the disk or the file."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import sqlite3
import subprocess
import sys
import textwrap
import time
from contextlib import closing
from pathlib import Path

import pytest
from alembic.config import Config
from alembic.script import ScriptDirectory
from hypothesis import HealthCheck, given, settings

from orvek.documents import (
    Accuracy,
    BadSpot,
    Board,
    BoredHole,
    Bottle,
    BushingReading,
    Chip,
    CoatSchool,
    CureLog,
    DurationSeen,
    Grit,
    Holding,
    Hours,
    HouseLadder,
    Job,
    Machine,
    MadeLook,
    MeterPlace,
    Observation,
    Piece,
    PigmentDose,
    Pot,
    Press,
    Price,
    RackBit,
    Recipe,
    Selling,
    Shop,
    SolidStep,
    deeds,
    first_shop,
    glues,
    materials,
)
from orvek.documents.shelf.resin import generic_families
from orvek.errors import (
    CannotWriteError,
    NothingToDoError,
    UnknownVersionError,
    WorkshopDamagedError,
    WorkshopReadOnlyError,
)
from orvek.store import Workshop, fill_with_demo, open_workshop
from orvek.store.demo import demo_shop
from orvek.store.demo_records import demo_ledger, with_demo_order
from orvek.store.sqlite import upgrading
from orvek.store.tables import HEAD
from tests.strategies import jobs


def wanted(job: Job, pens: int) -> Job:
    return deeds.set_value(job, ("batch", "pens_wanted"), pens)


def test_a_deed_is_there_after_closing_and_opening(workshop_path: Path, tideline: Job) -> None:
    first = open_workshop(workshop_path)
    first.record(tideline, "Begin")
    first.record(wanted(tideline, 9), "Good pens wanted")
    first.set_last_open(tideline.batch.id)
    first.close()
    second = open_workshop(workshop_path)
    assert second.is_writable
    assert second.job(tideline.batch.id).batch.pens_wanted == 9
    assert second.last_open() == tideline.batch.id
    assert [entry.name for entry in second.jobs()] == ["Tideline"]
    second.close()


def test_undo_and_redo_have_no_limit_and_outlive_the_window(workshop_path: Path, tideline: Job) -> None:
    opened = open_workshop(workshop_path)
    opened.record(tideline, "Begin")
    for pens in range(10, 130):
        opened.record(wanted(tideline, pens), f"Want {pens}")
    opened.close()
    opened = open_workshop(workshop_path)
    job_id = tideline.batch.id
    for pens in range(128, 9, -1):
        assert opened.undo(job_id).batch.pens_wanted == pens
    assert opened.undo(job_id) == tideline
    assert opened.history(job_id).undo is None
    with pytest.raises(NothingToDoError):
        opened.undo(job_id)
    assert opened.redo(job_id).batch.pens_wanted == 10
    assert opened.history(job_id).redo == "Want 11"
    opened.record(wanted(tideline, 500), "Want 500")
    assert opened.history(job_id).redo is None
    with pytest.raises(NothingToDoError):
        opened.redo(job_id)
    opened.close()


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow], max_examples=20)
@given(jobs)
def test_any_job_is_kept_as_it_is(workshop: Workshop, job: Job) -> None:
    workshop.record(job, "Keep")
    assert workshop.job(job.batch.id) == job


def test_shelves_are_kept(workshop: Workshop, shop: Shop) -> None:
    assert not workshop.shop().moulds
    workshop.save_shop(shop)
    assert workshop.shop() == shop


def test_removing_a_job_removes_its_history(workshop: Workshop, tideline: Job) -> None:
    workshop.record(tideline, "Begin")
    workshop.remove_job(tideline.batch.id)
    assert workshop.jobs() == ()
    with pytest.raises(NothingToDoError):
        workshop.job(tideline.batch.id)


def test_a_second_window_reads_and_is_told(workshop_path: Path, tideline: Job) -> None:
    first = open_workshop(workshop_path)
    first.record(tideline, "Begin")
    second = open_workshop(workshop_path)
    assert not second.is_writable
    assert "open in another window" in (second.why_read_only or "")
    assert second.job(tideline.batch.id) == tideline
    with pytest.raises(CannotWriteError, match="for reading only"):
        second.record(wanted(tideline, 2), "No")
    before = second.change_count()
    first.record(wanted(tideline, 3), "Yes")
    assert second.change_count() != before
    assert second.job(tideline.batch.id).batch.pens_wanted == 3
    first.close()
    third = open_workshop(workshop_path)
    assert third.is_writable
    third.close()
    second.close()


_WRITER = textwrap.dedent("""
    import sys
    from pathlib import Path
    from orvek.documents import deeds
    from orvek.store import demo_job, open_workshop
    workshop = open_workshop(Path(sys.argv[1]))
    job = demo_job()
    known = {entry.id for entry in workshop.jobs()}
    start = workshop.job(job.batch.id).batch.spoilage_pct if job.batch.id in known else 0
    for n in range(1, 100000):
        value = round(start + n * 1e-4, 4)
        workshop.record(deeds.set_value(job, ("batch", "spoilage_pct"), value), f"Deed {n}")
        print(value, flush=True)
""")


def test_a_killed_process_loses_at_most_the_deed_in_hand(workshop_path: Path, tideline: Job) -> None:
    last = 0.0
    for round_number in range(6):
        process = subprocess.Popen(
            [sys.executable, "-c", _WRITER, str(workshop_path)],
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        assert process.stdout is not None
        for _ in range(3 + 4 * round_number):
            last = float(process.stdout.readline())
        time.sleep(0.003 * round_number)
        os.kill(process.pid, signal.SIGKILL)
        rest, errors = process.communicate()
        assert not errors
        told = [float(line) for line in rest.splitlines() if line.strip()]
        last = told[-1] if told else last
        opened = open_workshop(workshop_path)
        kept = opened.job(tideline.batch.id).batch.spoilage_pct
        opened.close()
        # Every deed that was told as done is there; one more may have been written and not told.
        assert last - 1e-9 <= kept <= last + 1.01e-4


def test_a_full_disk_keeps_what_was_there(workshop_path: Path, tideline: Job) -> None:
    opened = open_workshop(workshop_path)
    opened.record(tideline, "Begin")
    with opened._engine.connect() as connection:
        pages = connection.exec_driver_sql("pragma page_count").scalar()
        connection.exec_driver_sql(f"pragma max_page_count = {pages}")
    kept = tideline.batch.pens_wanted
    while kept < 200:
        try:
            opened.record(wanted(tideline, kept + 1), "Fill")
        except CannotWriteError as error:
            refused = error
            break
        kept += 1
    assert refused.reason == "the disk is full"
    with opened._engine.connect() as connection:
        connection.exec_driver_sql("pragma max_page_count = 100000")
    assert opened.job(tideline.batch.id).batch.pens_wanted == kept
    opened.record(wanted(tideline, 77), "There is room again")
    assert opened.job(tideline.batch.id).batch.pens_wanted == 77
    opened.close()


def test_a_place_that_cannot_be_written_is_told() -> None:
    with pytest.raises(WorkshopReadOnlyError, match="cannot be written"):
        open_workshop(Path("/proc/self/workshop.sqlite"))
    with pytest.raises(WorkshopReadOnlyError, match="cannot be written"):
        open_workshop(Path("/dev/null/orvek/workshop.sqlite"))


def test_a_workshop_in_a_read_only_folder_can_be_looked_at(
    workshop_path: Path, tideline: Job, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened = open_workshop(workshop_path)
    opened.record(tideline, "Begin")
    opened.close()
    real = os.open

    def refuse(path: object, flags: int, *rest: int, **more: int) -> int:
        # Tests may run as root, whom folders never refuse.
        if str(path).endswith(".lock"):
            raise PermissionError(13, "Permission denied")
        return real(path, flags, *rest, **more)  # type: ignore[arg-type]

    monkeypatch.setattr(os, "open", refuse)
    looking = open_workshop(workshop_path)
    assert "cannot be written" in (looking.why_read_only or "")
    assert looking.job(tideline.batch.id) == tideline
    looking.close()


@pytest.mark.parametrize("content", [b"no database at all, only words" * 40, b"SQLite format 3\x00" + b"\x07" * 3000])
def test_what_is_no_workshop_is_left_alone(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "odd.sqlite"
    path.write_bytes(content)
    with pytest.raises(WorkshopDamagedError, match="left as it is"):
        open_workshop(path)
    assert path.read_bytes() == content


def test_a_database_of_another_program_is_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "other.sqlite"
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("create table songs (name)")
        connection.commit()
    before = path.read_bytes()
    with pytest.raises(WorkshopDamagedError, match="another program"):
        open_workshop(path)
    assert path.read_bytes() == before


def test_a_newer_workshop_is_left_alone(workshop_path: Path) -> None:
    open_workshop(workshop_path).close()
    with closing(sqlite3.connect(workshop_path)) as connection:
        connection.execute("update alembic_version set version_num = '9001'")
        connection.commit()
    with pytest.raises(UnknownVersionError, match="9001"):
        open_workshop(workshop_path)


def test_a_new_file_has_the_tables_that_the_migrations_make(tmp_path: Path) -> None:
    def tables_of(path: Path) -> set[str]:
        with closing(sqlite3.connect(path)) as connection:
            rows = connection.execute("select sql from sqlite_master where sql is not null").fetchall()
            assert connection.execute("select version_num from alembic_version").fetchall() == [(HEAD,)]
        return {
            re.sub(r"\s*([(),])\s*|\s+", lambda found: found[1] or " ", sql.lower()).replace('"', "") for (sql,) in rows
        }

    by_migrations, new = tmp_path / "by_migrations.sqlite", tmp_path / "new.sqlite"
    by_migrations.touch()
    upgrading._upgrade(by_migrations, upgrading.MIGRATIONS, HEAD)
    open_workshop(new).close()
    assert tables_of(new) == tables_of(by_migrations)


def test_the_head_is_the_last_migration() -> None:
    config = Config()
    config.set_main_option("script_location", str(upgrading.MIGRATIONS))
    assert ScriptDirectory.from_config(config).get_current_head() == HEAD


_NEXT = textwrap.dedent('''
    """A shelf more, for this test."""
    import sqlalchemy as sa
    from alembic import op

    revision = "0004"
    down_revision = "0003"


    def upgrade():
        op.add_column("job", sa.Column("due", sa.String(10)))
        if FAIL:
            raise RuntimeError("the upgrade broke")
''')


@pytest.mark.parametrize("fails", [False, True])
def test_an_old_workshop_is_backed_up_and_upgraded_whole_or_not_at_all(
    workshop_path: Path, tmp_path: Path, tideline: Job, fails: bool
) -> None:
    opened = open_workshop(workshop_path)
    opened.record(tideline, "Begin")
    migrations = tmp_path / "migrations"
    shutil.copytree(upgrading.MIGRATIONS, migrations, ignore=shutil.ignore_patterns("__pycache__"))
    (migrations / "versions" / "0004_due.py").write_text(_NEXT.replace("FAIL", str(fails)))
    if fails:
        with pytest.raises(RuntimeError):
            upgrading.bring_up_to_date(workshop_path, migrations, "0004")
        backup = next((workshop_path.parent / "backups").iterdir())
        assert upgrading.version_of(workshop_path) == "0003"
    else:
        backup = upgrading.bring_up_to_date(workshop_path, migrations, "0004")
        assert upgrading.version_of(workshop_path) == "0004"
    assert opened.job(tideline.batch.id) == tideline
    opened.close()
    assert backup is not None
    assert upgrading.version_of(backup) == "0003"
    rescued = open_workshop(backup)
    assert rescued.job(tideline.batch.id) == tideline
    rescued.close()


def test_the_demo_fills_an_empty_workshop_only(workshop: Workshop, tideline: Job) -> None:
    fill_with_demo(workshop)
    assert workshop.job(tideline.batch.id) == with_demo_order(tideline)
    workshop.record(wanted(tideline, 3), "Mine")
    fill_with_demo(workshop)
    assert workshop.job(tideline.batch.id).batch.pens_wanted == 3


def test_every_shelf_and_setting_of_a_shop_is_kept(workshop_path: Path) -> None:
    """All that a maker owns and has learned, field by field, each away from its default."""
    pigment = first_shop().pigments[0]
    dose = PigmentDose(pigment=pigment.with_(chip=Chip()), load_pct=2)
    full = first_shop().with_(
        pens=demo_shop().pens,
        moulds=demo_shop().moulds,
        pots=(Pot(name="Boiler-house pot"),),
        recipes=(Recipe(name="Slack water", colour="#204060", pigments=(dose,)),),
        cure_log=(CureLog(resin="Quay slow clear", mass_g=90, temperature_c=20, gel_min=100),),
        machines=(Machine(name="Pull saw"),),
        boards=(Board(name="Hatch cover", bad=(BadSpot(x_mm=1, y_mm=2, length_mm=3, width_mm=4),)),),
        materials=(materials()[0].with_(key="own wrack", name="Wrack"),),
        glues=(glues()[0].with_(key="Quay glue"),),
        families=(generic_families()[0].with_(name="Ours"),),
        presses=(Press(name="Boathouse press", travel_mm=48),),
        rack=(RackBit(name="Long seven", bores_mm=7.04),),
        bored=(BoredHole(name="Tideline, cap", off_mm=0.4, torn_mm=1.2),),
        drawer=(Grit(name="P400"),),
        ladders=(HouseLadder(name="Quick"),),
        schools=(CoatSchool(name="Ours"),),
        bottles=(Bottle(name="Thin, blue cap"),),
        bushings=(BushingReading(name="Ebb, nib"),),
        durations=(DurationSeen(name="Tideline, turned"),),
        meters=(MeterPlace(name="Blue calipers"),),
        prices=(Price(what="tube", price=0.6),),
        ledger=demo_ledger(),
        selling=Selling(fee_pct=6),
        pieces=(Piece(name="Sandbar", look=MadeLook(steps=(SolidStep(),)), album="sha256:00"),),
        hours=Hours(quiet_from_h=19),
        holding=Holding(way="mandrel"),
        soaked=(Observation(name="Withy", carrier="water", value=3.2, expected=2.5),),
        accuracy=Accuracy(angle_deg=0.2),
        scales=first_shop().scales[:1],
        vessels_ml=(50.0,),
        preferences=first_shop().preferences.with_(altitude_m=700),
    )
    first = Shop()
    assert not [name for name in Shop.model_fields if getattr(full, name) == getattr(first, name) and name != "scales"]
    workshop = open_workshop(workshop_path)
    workshop.save_shop(full)
    workshop.close()
    again = open_workshop(workshop_path)
    assert again.shop() == full
    again.close()


def test_a_thing_on_a_shelf_keeps_its_row_while_it_changes(workshop_path: Path) -> None:
    """Only what changed is written, so that another window that changes another thing is not in its way."""
    shop = first_shop().with_(presses=tuple(Press(name=name) for name in ("Quay", "Boathouse", "Loft")))

    def kept(shop: Shop) -> dict[str, tuple[str, int, int]]:
        with closing(open_workshop(workshop_path)) as workshop:
            workshop.save_shop(shop)
            assert workshop.shop() == shop
        with closing(sqlite3.connect(workshop_path)) as connection:
            rows = connection.execute("select body, id, position, version from shelf where kind = 'presses'")
            return {json.loads(body)["name"]: (row_id, at, version) for body, row_id, at, version in rows}

    first = kept(shop)
    quay, boathouse, loft = shop.presses
    moved = kept(shop.with_(presses=(loft, boathouse.with_(travel_mm=48), Press(name="Hatch"))))
    assert moved["Loft"] == (first["Loft"][0], 0, 0), "it was moved, not changed"
    assert moved["Boathouse"][1:] == (1, 1)
    ids = {row[0] for row in first.values()}
    assert {row[0] for row in moved.values()} == ids
    assert set(kept(shop.with_(presses=(loft,)))) == {"Loft"}
    assert kept(shop.with_(presses=(loft, quay)))["Loft"] == moved["Loft"]


def test_a_shop_from_before_a_shelf_was_known_gets_its_first_content(workshop_path: Path) -> None:
    workshop = open_workshop(workshop_path)
    workshop.save_shop(first_shop())
    workshop.close()
    with sqlite3.connect(workshop_path) as connection:
        connection.execute("delete from setting where key in ('shelves', 'accuracy')")
        connection.execute("delete from shelf where kind in ('machines', 'boards')")
    again = open_workshop(workshop_path)
    assert again.shop().machines == Shop().machines
    assert again.shop().accuracy == Accuracy()
    again.close()
