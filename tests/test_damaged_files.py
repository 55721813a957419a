"""Tables, calendars, pictures and workshops damaged by hand: each is read, or refused in one sentence."""

from __future__ import annotations

import io
import random
import shutil
import subprocess
import sys
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from orvek.cards.calendar import busy_times
from orvek.cards.shelf_csv import read_shelf_csv, shelf_csv
from orvek.devices import value_of
from orvek.documents import Job, MeterPlace, checked
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError
from orvek.planning import plan
from orvek.store import demo_shop, fill_with_demo, open_workshop
from orvek.store.shop_rows import SHELVES
from orvek.workpiece.photo import upright
from tests.cards.test_calendar import DAILY, EVENING, calendar_of

SEEDS = [0, *(pytest.param(n, marks=pytest.mark.long) for n in range(1, 45))]
_ODD = (b"1e999", b"-1e999", "\u00b2".encode(), b"9" * 5000, b"." * 5000, b"\x00", b'"', b"\xff\xfe", b"nan", b";;;\t")


def damaged(content: bytes, chance: random.Random) -> bytes:
    """A few places of a file changed, cut out, doubled, or filled with what nobody expects there."""
    made = bytearray(content)
    for _ in range(chance.randint(1, 4)):
        at, to = sorted(chance.randrange(len(made) + 1) for _ in range(2))
        to = min(to, at + 60)
        part = chance.choice((bytes(made[at:to]) * 2, b"", chance.choice(_ODD), bytes([chance.randrange(256)])))
        made[at:to] = part
    return bytes(made)


def sentence(error: OrvekError) -> None:
    assert 0 < len(str(error)) < 500


@pytest.mark.parametrize("seed", SEEDS)
def test_tables(seed: int) -> None:
    chance, shop = random.Random(seed), demo_shop()
    for shelf in SHELVES:
        content = shelf_csv(getattr(shop, shelf)[:3])
        for _ in range(4):
            try:
                read = read_shelf_csv(damaged(content, chance).decode("utf-8", errors="replace"), shelf)
            except OrvekError as error:
                sentence(error)
                continue
            assert all(row.thing is not None or row.sentence for row in read.rows)


@pytest.mark.parametrize(
    ("heading", "cell"),
    [
        ("name", "x" * 140_000),
        ("barrels.\u00b2.x", "1"),
        ("." * 5000, "1"),
        ("barrels" + ".0" * 5000, "1"),
        ("name", "\x00"),
    ],
)
@pytest.mark.parametrize("shelf", ["pens", "moulds", "meters"])
def test_a_table_that_nobody_wrote(shelf: str, heading: str, cell: str) -> None:
    try:
        read = read_shelf_csv(f"{heading},notes\n{cell},1e999\n", shelf)
    except OrvekError as error:
        sentence(error)
    else:
        assert read.things == ()


@pytest.mark.parametrize("baud", [1e999, -1e999, float("nan"), 1e300, -9600, 9600.5, True])
def test_a_speed_that_is_no_number_is_refused(baud: float) -> None:
    with pytest.raises(OrvekError):
        checked(MeterPlace, {"baud": baud})
    assert checked(MeterPlace, {"baud": 9600.0}).baud == "9600"


def test_a_log_of_endless_nines_measures_nothing() -> None:
    assert value_of("9" * 5000, "thermometer") is None
    assert value_of("T " + "9" * 5000 + " C 21.5 C", "thermometer") == 21.5


@pytest.mark.parametrize("seed", SEEDS)
def test_calendars(seed: int) -> None:
    chance = random.Random(seed)
    events = (
        f"UID:1\n{DAILY}",
        f"UID:2\n{EVENING}\nRRULE:FREQ=WEEKLY;COUNT=3;BYDAY=MO,TH\nEXDATE:20261203T190000",
        "UID:2\nRECURRENCE-ID:20261207T190000\nDTSTART:20261208T190000\nDURATION:PT3H",
        "UID:3\nDTSTART;TZID=Europe/Vienna:20261203T190000\nRRULE:FREQ=MONTHLY;BYMONTHDAY=31;UNTIL=20270601T000000Z",
    )
    content = calendar_of(*events).encode()
    for _ in range(60):
        text = damaged(content, chance).decode("utf-8", errors="replace")
        try:
            assert len(busy_times(text, "damaged.ics", date(2026, 12, 1)).busy) <= 500
        except OrvekError as error:
            sentence(error)


def pictures() -> Iterator[tuple[str, bytes]]:
    dots = np.random.default_rng(5).integers(0, 255, (40, 60, 4), dtype=np.uint8)
    for kind, mode in (("PNG", "RGBA"), ("PNG", "P"), ("JPEG", "RGB"), ("WEBP", "RGB"), ("GIF", "P"), ("TIFF", "L")):
        out = io.BytesIO()
        Image.fromarray(dots).convert(mode).save(out, kind)
        yield kind, out.getvalue()


@pytest.mark.parametrize("seed", SEEDS)
def test_pictures(seed: int, tmp_path: Path) -> None:
    chance, path = random.Random(seed), tmp_path / "damaged"
    for _, content in pictures():
        for _ in range(10):
            path.write_bytes(damaged(content, chance))
            try:
                upright(artwork_from(path))
            except OrvekError as error:
                sentence(error)


@pytest.fixture(scope="module")
def whole(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("whole") / "workshop.sqlite"
    workshop = open_workshop(path)
    fill_with_demo(workshop)
    workshop.close()
    return path


@pytest.mark.parametrize("seed", SEEDS)
def test_workshops(seed: int, whole: Path, tmp_path: Path) -> None:
    chance, content = random.Random(seed), whole.read_bytes()
    for number in range(8):
        folder = tmp_path / str(number)
        folder.mkdir()
        path = folder / "workshop.sqlite"
        page = 4096 * chance.randrange(len(content) // 4096)
        path.write_bytes(content[:page] + damaged(content[page : page + 4096], chance) + content[page + 4096 :])
        try:
            opened = open_workshop(path)
        except OrvekError as error:
            sentence(error)
            continue
        try:
            shop = opened.shop()
            for entry in opened.jobs():
                _plan_readable(opened.open_job(entry.id).job, shop)
        except OrvekError as error:
            sentence(error)
        finally:
            opened.close()
        shutil.rmtree(folder)


def _plan_readable(job: Job, shop) -> None:  # type: ignore[no-untyped-def]
    assert not plan(job, shop).failed


_PEAK = """
import resource, sys
from pathlib import Path
from orvek.window.photos.reading import taken
found = taken(Path(sys.argv[1]))
assert not isinstance(found, str), found
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""


@pytest.mark.long
def test_a_large_picture_takes_half_a_gigabyte_at_most(tmp_path: Path) -> None:
    path = tmp_path / "large.png"
    small = np.random.default_rng(5).integers(0, 255, (758, 1010, 4), dtype=np.uint8)
    Image.fromarray(small.repeat(8, 0).repeat(8, 1)).save(path, compress_level=1)
    told = subprocess.run([sys.executable, "-c", _PEAK, str(path)], capture_output=True, text=True, check=True)
    assert int(told.stdout) < 600 * 1024
