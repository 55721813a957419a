"""Orvek without a screen."""

from __future__ import annotations

import csv
import io
import json
import os
import subprocess
import sys
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from msgspec.structs import replace
from PIL import Image

from orvek.cards.csv_table import csv_table
from orvek.commands import found, main, one_job
from orvek.documents import Job, deeds, designs, to_text
from orvek.documents.deeds import set_value
from orvek.planning import Slow
from orvek.planning.cure.results import CureQuestion
from orvek.store import demo_job, fill_with_demo, open_workshop
from orvek.store.demo_records import demo_ledger
from tests.effort import SKETCH

_FORECAST: dict[CureQuestion, Any] = {}


@pytest.fixture
def demo(workshop_path: Path) -> str:
    workshop = open_workshop(workshop_path)
    fill_with_demo(workshop)
    workshop.close()
    return str(workshop_path)


@pytest.fixture(autouse=True)
def rough_cure(monkeypatch: pytest.MonkeyPatch) -> None:
    """A forecast is worked out roughly here: that it is told is tested, what it says is tested with the cure."""

    def rough(slow: Slow) -> Slow:
        if slow.key != "cure":
            return slow

        def worked_out(question: CureQuestion, *more: Any) -> Any:
            if question not in _FORECAST:
                _FORECAST[question] = slow.answer(replace(question, effort=SKETCH), *more)
            return _FORECAST[question]

        return replace(slow, answer=worked_out)

    monkeypatch.setattr(found, "QUESTIONS", tuple(rough(slow) for slow in found.QUESTIONS))


def test_report_of_a_job_in_the_workshop(demo: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "report", "Tideline"]) == 0
    text = capsys.readouterr().out
    for words in ("335.8 ml", "Weigh, in this order:", "162.8 g", "Pitch paste in Slack water is too little to weigh."):
        assert words in text


def test_report_of_a_file_as_json(tmp_path: Path, tideline: Job, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "tideline.orvek.json"
    path.write_text(to_text(tideline))
    assert main(["--workshop", str(tmp_path / "none.sqlite"), "report", str(path), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    volume = next(figure for figure in report["figures"] if figure["label"] == "Resin to pour")
    assert volume["value"] == pytest.approx(335.808)
    assert {term["symbol"] for term in volume["terms"]} == {"V", "o"}
    assert report["weighing"][0] == {"cup": 1, "what": "Part A", "amount": "162.8 g"}


def test_check_ends_with_1_when_a_stop_stands(demo: str, tmp_path: Path, tideline: Job) -> None:
    assert main(["--workshop", demo, "check", "Tideline"]) == 0
    path = tmp_path / "bad.orvek.json"
    path.write_text(to_text(set_value(tideline, ("pen", "barrels", 0, "bit_diameter_mm"), 8.0)))
    assert main(["--workshop", demo, "check", str(path)]) == 1


def test_card(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    target = tmp_path / "card.pdf"
    assert main(["--workshop", demo, "card", "7e4c0d1de001", "-o", str(target), "--paper", "Letter"]) == 0
    assert target.read_bytes().startswith(b"%PDF")
    assert main(["--workshop", demo, "card", "Tideline", "-o", "/nowhere/card.pdf"]) == 2
    assert "could not be written" in capsys.readouterr().err


def test_schema(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Orvek job"


@pytest.mark.parametrize(
    ("content", "words"),
    [('{"format": "orvek-job", "ver', "breaks off"), ("{}", "not written by Orvek"), ("", "empty")],
)
def test_a_bad_file_gets_one_sentence(
    tmp_path: Path, content: str, words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "bad.orvek.json"
    path.write_text(content)
    assert main(["--workshop", str(tmp_path / "none.sqlite"), "report", str(path)]) == 2
    said = capsys.readouterr().err
    assert words in said
    assert "Traceback" not in said
    assert said.count("\n") == 1


def test_a_job_that_is_nowhere(demo: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "report", "Spindrift"]) == 2
    assert "Spindrift" in capsys.readouterr().err


@pytest.mark.parametrize("view", ["bar", "unrolled", "turned", "section"])
def test_pictures_of_every_view(demo: str, tmp_path: Path, view: str) -> None:
    target = tmp_path / f"{view}.png"
    assert main(["--workshop", demo, "picture", "Tideline", "-o", str(target), "--view", view, "--width", "300"]) == 0
    with Image.open(target) as image:
        assert image.width >= 300
        assert len(image.getcolors(100_000) or []) > 40


def test_the_surface_rolled_out_as_paths(demo: str, tmp_path: Path) -> None:
    target = tmp_path / "surface.svg"
    assert main(["--workshop", demo, "picture", "Tideline", "-o", str(target), "--width", "400"]) == 0
    root = ElementTree.fromstring(target.read_text())
    paths = [path for path in root if path.tag.endswith("path")]
    assert root.attrib["width"] == "132mm"
    assert [path[0].text for path in paths if len(path)] == ["Slack water", "Foam"]
    assert sum(path.attrib.get("stroke") == "#b58a3a" for path in paths) == 4


def test_a_picture_too_wide_to_mean_is_refused(demo: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "picture", "Tideline", "-o", "x.png", "--width", "0"]) == 2
    assert "from 50 to 8000" in capsys.readouterr().err


def test_the_report_tells_steps_and_how_wide_inlays_show(
    tmp_path: Path, tideline: Job, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "rope.orvek.json"
    path.write_text(to_text(deeds.take_design(tideline, designs()[0].steps)))
    assert main(["--workshop", str(tmp_path / "none.sqlite"), "report", str(path)]) == 0
    text = capsys.readouterr().out
    assert "2  Cut 90° · 0°" in text
    assert "Brass shows 2.0 mm wide on Cap" in text
    assert main(["--workshop", str(tmp_path / "none.sqlite"), "report", str(path), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert [shown["material"] for shown in report["shows"]] == ["Brass", "Ebony"]


def test_the_report_tells_cuts_and_whether_the_tube_shows(demo: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "report", "Ropewalk"]) == 0
    words = capsys.readouterr().out
    assert "3 × Black cherry, bar: 125.5 × 16.8 × 16.8 mm" in words
    assert "Cut at 35° to the axis: stop " in words
    assert "then wait 8 h" in words
    assert main(["--workshop", demo, "report", "Ropewalk", "--json"]) == 0
    content = json.loads(capsys.readouterr().out)
    assert [cut["set_deg"] for cut in content["cuts"]] == [0.0, *[55.0] * 4, *[0.0] * 3]
    assert any(figure["section"] == "Cut 1" and figure["label"] == "Stop" for figure in content["figures"])
    assert main(["--workshop", demo, "report", "Tideline"]) == 0
    assert "Foam at Nib, left: shows" in capsys.readouterr().out


def test_the_cure_is_forecast_without_a_screen(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    friday = date(2026, 11, 27)
    there = demo_job().pour.conditions.with_(poured_on=friday, drill_on=friday + timedelta(days=1))
    job = set_value(demo_job(), ("pour", "conditions"), there)
    (tmp_path / "t.orvek.json").write_text(to_text(job), encoding="utf-8")
    plain = main(["--workshop", demo, "check", str(tmp_path / "t.orvek.json")])
    assert "ready to drill by then" not in capsys.readouterr().out
    assert plain == 0
    assert main(["--workshop", demo, "check", "--cure", str(tmp_path / "t.orvek.json")]) == 1
    assert "It is not ready to drill by then" in capsys.readouterr().out
    target = tmp_path / "cure.pdf"
    assert main(["--workshop", demo, "card", "Tideline", "--kind", "cure", "-o", str(target)]) == 0
    assert target.read_bytes()[:4] == b"%PDF"
    assert main(["--workshop", demo, "card", "Ropewalk", "--kind", "cure", "-o", str(target)]) == 2
    assert "A forecast needs a mould" in capsys.readouterr().err


def test_a_spreadsheet_runs_nothing_of_what_a_maker_called_a_thing() -> None:
    rows = [["=1+1", "+a", "-cmd", "@sum", "-2.5", "pear", 3, -4.0, "\tx"]]
    read = next(csv.reader(io.StringIO(csv_table(rows).decode())))
    assert read == ["'=1+1", "'+a", "'-cmd", "'@sum", "-2.5", "pear", "3", "-4.0", "'\tx"]


def test_a_figure_without_an_end_is_null_in_json(
    tmp_path: Path, tideline: Job, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "full.orvek.json"
    cup = set_value(tideline, ("pour", "scale", "resolution_g"), 5.0)
    path.write_text(to_text(set_value(cup, ("pour", "scale", "capacity_g"), 100000.0)))
    assert main(["report", str(path), "--json"]) == 0
    json.loads(capsys.readouterr().out, parse_constant=lambda word: pytest.fail(word))


@pytest.mark.parametrize("name", ["x" * 5000, "no such job", "a\0b", "../../etc/passwd"])
def test_a_job_that_is_not_there_is_one_short_sentence(
    demo: str, name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["--workshop", demo, "report", name]) == 2
    assert 0 < len(capsys.readouterr().err) < 400


def test_a_picture_of_absurd_size_is_a_sentence(
    tmp_path: Path, tideline: Job, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "stub.orvek.json"
    mould = {"kind": "bars", "name": "Stub", "cavities": 1, "length_mm": 10.0, "width_mm": 100.0, "depth_mm": 100.0}
    path.write_text(to_text(set_value(tideline, ("pour", "mould"), mould)))
    wide = ["picture", str(path), "--view", "bar", "--width", "8000", "-o", str(tmp_path / "bar.png")]
    assert main(wide) == 2
    assert "million pixels" in capsys.readouterr().err


def test_a_full_disk_and_an_old_terminal_give_no_traceback(demo: str) -> None:
    command = f"{sys.executable} -m orvek --workshop {demo} report Tideline"
    full = subprocess.run(f"{command} >/dev/full", shell=True, capture_output=True, text=True, check=False)
    assert (full.returncode, "Traceback" in full.stderr) == (2, False)
    assert "the disk is full" in full.stderr
    old = subprocess.run(f"PYTHONIOENCODING=ascii {command}", shell=True, capture_output=True, check=False)
    assert old.returncode == 0
    assert b"Traceback" not in old.stderr


_WITHOUT_NETWORK = """
import sys
def refuse(event, arguments):
    if event.startswith("socket.") and event not in {"socket.__new__"}:
        raise SystemExit(f"a socket was used: {event} {arguments}")
sys.addaudithook(refuse)
from orvek.commands import main
from pathlib import Path
from typing import Any
code = main(["--workshop", sys.argv[1], "report", "Tideline", "--json"])
code = code or main(["--workshop", sys.argv[1], "timetable", "--effort", "0.2"])
code = code or main(["--workshop", sys.argv[1], "--demo", "--job", "Ropewalk", "--picture", sys.argv[2]])
raise SystemExit(code)
"""


def test_nothing_ever_speaks_to_a_network(demo: str, tmp_path: Path) -> None:
    found = subprocess.run(
        [sys.executable, "-c", _WITHOUT_NETWORK, demo, str(tmp_path / "window.png")],
        capture_output=True, text=True, check=False, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert found.returncode == 0, found.stderr
    assert (tmp_path / "window.png").exists()


def test_the_report_tells_what_the_screen_tells(demo: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "report", "Ropewalk", "--all", "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert "Lines miss their place" in report["meet"]["words"]
    assert report["boards"]["words"]
    assert report["left_over_mm"]
    assert report["cure"] is None
    assert main(["--workshop", demo, "report", "Tideline", "--cure", "--json"]) == 0
    cure = json.loads(capsys.readouterr().out)["cure"]
    assert cure["gel_h"][1] < cure["out_h"][1] <= cure["ready_h"][1]
    assert cure["words"].startswith(("It is", "Yes", "No", "Perhaps"))


def test_the_timetable_without_a_screen(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """As text, as JSON and as a calendar: the same tasks; the job that is named has its cure forecast, as on screen."""
    calendar = tmp_path / "week.ics"
    assert main(["--workshop", demo, "timetable", "Tideline", "--effort", "0.3", "--ics", str(calendar)]) == 0
    text = capsys.readouterr().out
    assert "Tideline · Weigh and mix" in text
    assert "then the casting hardens until" in text
    assert "Ropewalk: ready" not in text
    tasks = text.count("\n  ") - text.count("\n  ! ")
    assert calendar.read_bytes().count(b"BEGIN:VEVENT") == tasks
    assert main(["--workshop", demo, "timetable", "--effort", "0.3", "--json"]) == 0
    slots = json.loads(capsys.readouterr().out)["slots"]
    assert {slot["name"] for slot in slots} == {"Tideline", "Ropewalk", "Driftwood"}
    assert sum(slot["name"] == "Tideline" for slot in slots) == tasks


def test_today_without_a_screen(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    workshop = open_workshop(Path(demo))
    entry = next(one for one in workshop.jobs() if one.name == "Tideline")
    job, now = workshop.open_job(entry.id).job, datetime.now().replace(microsecond=0)
    workshop.record(deeds.finish_task(deeds.finish_task(job, "weigh.1", now), "pour.1", now), "Poured")
    workshop.close()
    assert main(["--workshop", demo, "today", "--effort", "0.3"]) == 0
    before, waiting = capsys.readouterr().out.split("Waiting\n")
    assert before.startswith("Next\n")
    assert "Tideline: the casting hardens until" in waiting
    assert main(["--workshop", demo, "timetable", "Nobody"]) == 2
    assert "Nobody" in capsys.readouterr().err
    assert main(["--workshop", str(tmp_path / "none.sqlite"), "today"]) == 2
    assert "a workshop with jobs" in capsys.readouterr().err


def test_the_shelf_without_a_screen(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["--workshop", demo, "shelf"]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert any(line.startswith("SNDBR2  Sandbar") and "140 × 19 × 19 mm" in line for line in lines)
    sheet = tmp_path / "labels.pdf"
    assert main(["--workshop", demo, "shelf", "--fits", "Ebb, two barrels", "--json", "--labels", str(sheet)]) == 0
    found = json.loads(capsys.readouterr().out)
    assert [piece["name"] for piece in found] == ["Tideline, first try", "Sandbar"]
    assert sheet.read_bytes().startswith(b"%PDF")
    assert main(["--workshop", demo, "shelf", "--fits", "No such pen"]) == 2
    table = tmp_path / "buy.csv"
    assert main(["--workshop", demo, "buy", "Tideline", "--csv", str(table)]) == 0
    rows = list(csv.reader(io.StringIO(table.read_text(encoding="utf-8"))))
    assert rows[0][:2] == ["what", "name"]
    assert len(rows) - 1 == len(capsys.readouterr().out.splitlines())
    assert main(["--workshop", demo, "buy", "Nobody"]) == 2


def test_the_records_without_a_screen(demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    files = {kind: tmp_path / f"all.{kind}" for kind in ("csv", "jsonl", "pdf")}
    asked = [word for kind, path in files.items() for word in (f"--{kind}", str(path))]
    year = str(demo_ledger(date.today())[-1].when.year)
    assert main(["--workshop", demo, "records", *asked, "--year", year]) == 0
    told = capsys.readouterr().out
    assert "Change: resin off the wood, 2 of 12" in told
    assert "Start 6 for 5 good" in told
    assert all(path.stat().st_size > 1000 for path in files.values())
    assert main(["--workshop", demo, "records", "--pdf", str(tmp_path / "none.pdf"), "--year", "1990"]) == 2
    assert main(["--workshop", demo, "cost", "Tideline"]) == 0
    assert "including scrap" in capsys.readouterr().out
    assert main(["--workshop", demo, "cost", "Nobody"]) == 2


@pytest.mark.parametrize(
    ("command", "output"),
    [
        (("card", "Tideline"), "card.docx"),
        (("card", "Tideline", "--kind", "bore"), "card.csv"),
        (("picture", "Tideline"), "blank.jpeg"),
        (("template", "Ropewalk", "--cut", "1"), "cut"),
    ],
)
def test_an_ending_that_cannot_be_written_is_refused(
    demo: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], command: tuple[str, ...], output: str
) -> None:
    assert main(["--workshop", demo, *command, "-o", str(tmp_path / output)]) == 2
    assert "ends in .p" in capsys.readouterr().err
    assert not (tmp_path / output).exists()


def test_a_fault_of_the_program_is_not_what_check_answers(
    demo: str, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_options: Any) -> Any:
        raise IndexError

    monkeypatch.setattr(one_job, "planned", broken)
    assert main(["--workshop", demo, "check", "Tideline"]) == 3
    assert "log" in capsys.readouterr().err


@pytest.mark.parametrize("job", ["Tideline", "Ropewalk", "Driftwood"])
def test_all_slow_answers_of_the_demo_are_told(demo: str, capsys: pytest.CaptureFixture[str], job: str) -> None:
    assert main(["--workshop", demo, "report", job, "--all"]) == 0
    assert job in capsys.readouterr().out
