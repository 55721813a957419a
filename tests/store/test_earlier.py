"""Workshop files as earlier versions of Orvek wrote them, with their demo: everything in them is there today.

`earlier/` grows by one file whenever a version is given to makers: a file that an upgrade forgets must not pass.
"""

from __future__ import annotations

import gzip
import json
import sqlite3
from collections import Counter
from contextlib import closing
from pathlib import Path

import pytest

from orvek.documents import from_text, to_text
from orvek.planning import plan
from orvek.store import open_workshop
from orvek.store.shop_rows import SHELVES

EARLIER = sorted((Path(__file__).parent / "earlier").glob("*.sqlite.gz"))


def unpacked(packed: Path, folder: Path) -> Path:
    """One of them as a workshop file in a folder."""
    place = folder / "workshop.sqlite"
    place.write_bytes(gzip.decompress(packed.read_bytes()))
    return place


@pytest.fixture(params=EARLIER, ids=lambda path: path.name.partition(".")[0])
def earlier(request: pytest.FixtureRequest, tmp_path: Path) -> Path:
    """One of them, unpacked."""
    return unpacked(request.param, tmp_path)


def counted(path: Path) -> tuple[Counter[str], dict[str, int]]:
    """What lies in the file by its rows: how much on each shelf, how many versions each job has."""
    with closing(sqlite3.connect(path)) as connection:
        shelves = Counter(str(kind) for (kind,) in connection.execute("select kind from shelf"))
        versions = dict(connection.execute("select job_id, count(*) from job_version group by job_id").fetchall())
        return shelves, versions


def test_all_of_it_is_there(earlier: Path) -> None:
    shelves, versions = counted(earlier)
    opened = open_workshop(earlier)
    found = opened.shop_found()
    assert (opened.why_read_only, opened.notices, found.unread) == (None, (), ())
    assert {kind: len(getattr(found.shop, kind)) for kind in shelves} == dict(shelves)
    assert set(shelves) <= set(SHELVES)
    assert {entry.id for entry in opened.jobs()} == set(versions)
    for entry in opened.jobs():
        read = opened.open_job(entry.id)
        assert read.note is None
        assert from_text(to_text(read.job)) == read.job
        planned = plan(read.job, found.shop)
        assert planned.failed == ()
        assert planned.bars.blanks.value >= read.job.batch.pens_wanted
        assert json.loads(to_text(read.job))["job"]["name"] == entry.name
    opened.close()
    assert counted(earlier) == (shelves, versions), "reading changes nothing"


def test_its_history_goes_on(earlier: Path) -> None:
    opened = open_workshop(earlier)
    job = opened.job(opened.jobs()[0].id)
    opened.record(job.with_(batch=job.batch.with_(pens_wanted=job.batch.pens_wanted + 1)), "One more")
    opened.save_shop(opened.shop())
    opened.close()
    again = open_workshop(earlier)
    assert again.undo(job.batch.id) == job
    assert again.redo(job.batch.id).batch.pens_wanted == job.batch.pens_wanted + 1
    assert again.shop_found().unread == ()
    again.close()
