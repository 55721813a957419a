"""What all tests share: no screen, few hypothesis surprises on a slow machine, fresh workshops."""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Programs that tests start leave the maker's own settings alone.
os.environ["XDG_CONFIG_HOME"] = str(Path(tempfile.gettempdir()) / f"orvek-tests-{os.getuid()}")

from orvek.documents import Job, Shop
from orvek.planning.timetable.windows import windows
from orvek.store import Workshop, demo_job, demo_shop, open_workshop


def pytest_addoption(parser: pytest.Parser) -> None:
    """`--long`: the seeds that are too many for every day."""
    parser.addoption("--long", action="store_true", help="run the long tests too")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Leave the long tests out unless they were asked for."""
    if not config.getoption("--long"):
        left_out = [item for item in items if item.get_closest_marker("long")]
        config.hook.pytest_deselected(items=left_out)
        items[:] = [item for item in items if not item.get_closest_marker("long")]


settings.register_profile(
    "orvek",
    deadline=None,
    max_examples=25,
    suppress_health_check=[HealthCheck.too_slow],
    derandomize=bool(os.environ.get("ORVEK_SAME_EXAMPLES")),
)
settings.load_profile("orvek")


@pytest.fixture
def shop() -> Shop:
    """The shelves of Tern Quay."""
    return demo_shop()


@pytest.fixture
def tideline() -> Job:
    """The demo job."""
    return demo_job()


@pytest.fixture
def workshop_path(tmp_path: Path) -> Path:
    """Where a workshop can be made."""
    return tmp_path / "shop" / "workshop.sqlite"


@pytest.fixture
def workshop(workshop_path: Path) -> Iterator[Workshop]:
    """An empty workshop."""
    opened = open_workshop(workshop_path)
    yield opened
    opened.close()


@pytest.fixture
def changing_clocks(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """A zone that changes its clocks: forward on 29 March 2026, back on 25 October."""
    monkeypatch.setenv("TZ", "CET-1CEST,M3.5.0,M10.5.0/3")
    time.tzset()
    windows.cache_clear()  # which minutes the hours have depends on the zone
    yield
    monkeypatch.undo()
    time.tzset()
    windows.cache_clear()
