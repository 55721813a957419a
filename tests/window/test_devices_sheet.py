"""What is plugged in: set up once on one sheet, heard live there, and at the bench of every job."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from orvek.devices import ports
from orvek.devices.simulated import caliper_line, open_terminal
from orvek.window.bench.bench_window import BenchWindow
from orvek.window.devices_sheet import DevicesSheet, plugged_in
from orvek.window.main_window import MainWindow


@pytest.fixture
def sheet(window: MainWindow, qtbot: QtBot) -> DevicesSheet:
    made = DevicesSheet(window, window.session)
    qtbot.addWidget(made)
    made.show()
    return made


def test_each_kind_is_set_up_and_heard_there(sheet: DevicesSheet, window: MainWindow, qtbot: QtBot) -> None:
    here, place = open_terminal()
    calipers = sheet.panels["caliper"]
    calipers.put_at(place)
    os.write(here, caliper_line(12.34))
    qtbot.waitUntil(lambda: calipers.figure.text() == "12.34 mm")
    sheet.panels["scale"].put_at("simulated")
    qtbot.waitUntil(lambda: sheet.panels["scale"].figure.text() == "42.5 g")
    os.close(here)
    qtbot.waitUntil(lambda: "caliper" in calipers.sentence and calipers.figure.text() == "–")
    shop = window.session.shop
    assert [one.plugged_in_at for one in shop.meters] == [place]
    found = plugged_in(window.session)
    assert found is not None
    assert found.plugged_in_at == "simulated"
    # Nonsense is a sentence, and changes nothing on the shelf.
    scale = sheet.panels["scale"]
    scale.line.setText("no number")
    scale.try_out()
    assert "{weight}" in scale.sentence
    assert window.session.shop.scales == shop.scales
    window.session.undo_shop()
    assert plugged_in(window.session) != found


def test_looking_changes_nothing(sheet: DevicesSheet, window: MainWindow) -> None:
    before = window.session.shop
    for panel in sheet.panels.values():
        panel.line.editingFinished.emit()  # as the keyboard goes through
        panel.try_out()
    assert window.session.shop == before
    assert window.session.shop_undo is None


def test_a_log_that_grows_is_a_thermometer(sheet: DevicesSheet, tmp_path: Path, qtbot: QtBot) -> None:
    log = tmp_path / "probe.csv"
    log.write_text("18:00;21,5\n")
    probe = sheet.panels["thermometer"]
    probe.put_at(str(log))
    qtbot.waitUntil(lambda: probe.figure.text().startswith("21.5"))
    log.unlink()
    qtbot.waitUntil(lambda: str(log) in probe.sentence)


def test_the_bench_lets_go_while_it_is_set_up_and_goes_on_with_it(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot
) -> None:
    session = window.session
    weigh = next(one for one in session.plan.route.operations if one.kind == "weigh")  # type: ignore[union-attr]
    bench = BenchWindow(window, session, weigh)
    assert not bench.devices.is_any

    def plug_in(sheet: DevicesSheet) -> int:
        sheet.panels["scale"].put_at("simulated")
        sheet.close()
        return 0

    monkeypatch.setattr(DevicesSheet, "exec", plug_in)
    while bench.step.kind != "weigh":
        bench.go_on()
    bench.set_up()
    assert bench.devices.is_any
    qtbot.waitUntil(lambda: "42.5" in bench._figure.text())
    bench.reject()


def test_a_port_is_called_what_it_says_it_is(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    class Found:
        def __init__(self, device: Path, description: str) -> None:
            self.device, self.description = str(device), description

    adapter, old = tmp_path / "ttyUSB0", tmp_path / "ttyS0"
    for path in (adapter, old):
        path.touch()
    lasting = tmp_path / "by-id" / "usb-Serial_Adapter-if00"
    lasting.parent.mkdir()
    lasting.symlink_to(adapter)
    monkeypatch.setattr(
        "serial.tools.list_ports.comports", lambda: [Found(old, "n/a"), Found(adapter, "Serial Adapter")]
    )
    first, last = ports(lasting.parent)
    assert first == (str(lasting), "Serial Adapter, ttyUSB0")
    assert last == (str(old), "serial port, ttyS0")
