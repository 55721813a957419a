"""The whole program in a language with longer words: they find room, and a job means the same."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from orvek.documents import to_text
from orvek.languages import speaking
from orvek.languages.making import all_texts
from orvek.languages.spoken import SPOKEN
from orvek.languages.template import template_text
from orvek.shop import demo_job, demo_shop
from tests.languages.catalogue import catalogue
from tests.languages.longer import longer

_ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def texts() -> dict[str, list[str]]:
    """All texts, and where they stand."""
    return all_texts()


@pytest.fixture(scope="module")
def elsewhere(texts: dict[str, list[str]], tmp_path_factory: pytest.TempPathFactory) -> dict[str, str]:
    """The environment of a maker whose language has a catalogue."""
    home = tmp_path_factory.mktemp("home")
    languages = home / "share" / "orvek" / "languages"
    (languages / "xx" / "help").mkdir(parents=True)
    (languages / "xx.mo").write_bytes(catalogue({text: longer(text) for text in texts}))
    (languages / "xx" / "help" / "guide.md").write_text("# Wegë\n\nWieë manë anfängt.\n", encoding="utf-8")
    return {
        **os.environ, "LANGUAGE": "xx_YY:en", "XDG_DATA_HOME": str(home / "share"), "QT_QPA_PLATFORM": "offscreen",
        "XDG_CACHE_HOME": str(home / "cache"), "XDG_STATE_HOME": str(home / "state"), "PYTHONPATH": str(_ROOT),
        "XDG_CONFIG_HOME": str(home / "config"),
    }  # fmt: skip


def orvek(environment: dict[str, str], *arguments: str) -> str:
    """What a command prints."""
    command = [sys.executable, "-m", *arguments]
    found = subprocess.run(command, env=environment, capture_output=True, text=True, check=False, cwd=_ROOT)
    assert found.returncode == 0, found.stderr
    return found.stdout


def test_longer_words_find_room_and_few_stay_english(elsewhere: dict[str, str], tmp_path: Path) -> None:
    found = json.loads(orvek(elsewhere, "tests.languages.longer", str(tmp_path / "w.sqlite")))
    assert found["overlapping"] == []
    assert found["cut off"] == []
    assert found["sideways"] == [], "all of a page is in sight at 1280"
    assert found["help"] == ["Wegë"]
    assert found["seen"] > 1000
    names = to_text(demo_job()) + demo_shop().model_dump_json() + json.dumps(_shipped_keys())
    left = {words for words in found["english"] if words.removesuffix(" ›").partition("…")[0].strip(" ,") not in names}
    assert not left, "names and what is kept with a job stay as they are, all else is translated"


def _shipped_keys() -> list[Any]:
    data = _ROOT / "src" / "orvek" / "data"
    return [json.loads(path.read_text(encoding="utf-8")) for path in data.glob("*.json")]


def test_jobs_mean_the_same(elsewhere: dict[str, str], tmp_path: Path) -> None:
    """What is written into job files is the same to the letter, and every figure of their reports."""
    (tmp_path / "told.py").write_text(_TOLD, encoding="utf-8")
    path = f"{_ROOT}{os.pathsep}{tmp_path}"
    here, there = (orvek({**elsewhere, "PYTHONPATH": path, "LANGUAGE": one}, "told") for one in ("en", "xx"))
    assert "ë" in there
    assert "ë" not in here
    for plain, told in zip(json.loads(here), json.loads(there), strict=True):
        assert told["job"] == plain["job"]
        assert _NUMBER.findall(told["report"]) == _NUMBER.findall(plain["report"])


_NUMBER = re.compile(r"\d+(?:\.\d+)?")
_TOLD = """
from orvek.languages.speaking import speak
speak()
import json
from orvek.cards.report import report_text
from orvek.documents import to_text
from orvek.planning import plan
from orvek.shop import demo_job, demo_shop
from tests.jobs.the_sixteen import SIXTEEN

shop = demo_shop()
jobs = [demo_job(), *(made() for made in SIXTEEN.values())]
told = [{"job": to_text(job), "report": report_text(plan(job, shop), shop.preferences.units)} for job in jobs]
print(json.dumps(told, ensure_ascii=False))
"""


@pytest.mark.parametrize(
    ("environment", "wanted"),
    [
        ({"LANGUAGE": "de_AT:fr"}, ["de_AT", "de", "fr"]),
        ({"LANG": "pt_BR.UTF-8"}, ["pt_BR", "pt"]),
        ({"LC_ALL": "C", "LANG": "de_DE.UTF-8"}, []),
        ({"LANGUAGE": "en_GB:de"}, []),
        ({"LANG": "ca_ES@valencia"}, ["ca_ES", "ca"]),
        ({}, []),
    ],
)
def test_whose_language(monkeypatch: pytest.MonkeyPatch, environment: dict[str, str], wanted: list[str]) -> None:
    for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG"):
        monkeypatch.delenv(name, raising=False)
    for name, value in environment.items():
        monkeypatch.setenv(name, value)
    assert list(speaking.wanted()) == wanted


@pytest.mark.parametrize("content", [b"", b"no catalogue", b"\xde\x12\x04\x95" + b"\xff" * 40])
def test_a_broken_catalogue_leaves_english_and_a_line_in_the_log(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture, content: bytes
) -> None:
    monkeypatch.delenv(SPOKEN, raising=False)
    for name, value in {
        "LANGUAGE": "xx",
        "XDG_DATA_HOME": str(tmp_path),
        "XDG_CACHE_HOME": str(tmp_path / "c"),
    }.items():
        monkeypatch.setenv(name, value)
    (tmp_path / "orvek" / "languages").mkdir(parents=True)
    (tmp_path / "orvek" / "languages" / "xx.mo").write_bytes(content)
    monkeypatch.setattr(os, "execve", lambda *_: pytest.fail("it was started in it"))
    speaking.speak()
    assert "could not be used" in caplog.text
    assert not list((tmp_path / "c").rglob("*.py")), "nothing half made is left"


def test_the_template_has_every_text_once(texts: dict[str, list[str]]) -> None:
    entries = [line for line in template_text(texts).splitlines() if line.startswith("msgid ")]
    assert len(entries) == len(set(entries)) > 4000
    for text in ("Do not proceed", "Find a &command…", "as advised", "Wrote {path}"):
        assert f'msgid "{text}"' in entries, text
