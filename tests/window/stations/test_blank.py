"""The station Blank: steps added, changed, dragged, reordered; the barrel rolled; all undone again."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from orvek.documents import (
    NEW_STEPS,
    STOCK_KINDS,
    CutStep,
    InsertStep,
    LaminateStep,
    Layer,
    PhotoStep,
    ReorientStep,
    SolidStep,
    StackStep,
    WrapStep,
    deeds,
    designs,
    material,
)
from orvek.planning import Severity, Station, StationState
from orvek.window.main_window import MainWindow
from orvek.window.photos import asking
from orvek.window.slab.dialog import SlabDialog
from orvek.window.slab.source import CastingSlab
from orvek.window.stations.blank import step_form
from orvek.window.stations.blank.designs_dialog import DesignsDialog
from orvek.window.stations.blank.section_dialog import SectionDialog
from orvek.window.stations.blank.stretch_dialog import StretchDialog
from tests.window.hands import drag


@pytest.fixture
def blank(window: MainWindow) -> MainWindow:
    """The window at the station Blank, with the design of four cuts."""
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(Station.BLANK)
    window.session.attempt("Begin", lambda job: deeds.take_design(job, designs()[1].steps))
    return window


def choose(fill: Any, words: str) -> None:
    menu = QMenu()
    fill(menu)
    next(action for action in menu.actions() if action.text().startswith(words)).trigger()


def kinds(window: MainWindow) -> list[str]:
    return [step.kind for step in window.session.job.blank.steps]


def test_every_design_makes_a_blank_without_a_stop(window: MainWindow, qtbot: QtBot) -> None:
    window.surface.wait()
    QApplication.processEvents()
    window.open_station(Station.BLANK)
    assert len(designs()) == 12
    for number, design in enumerate(designs()):
        gallery = DesignsDialog(window, window.session, window.surface)
        qtbot.addWidget(gallery)
        assert gallery.buttons()[number].accessibleName() == design.name
        gallery.buttons()[number].click()
        assert [step.kind for step in window.session.job.blank.steps] == [step.kind for step in design.steps]
        found = [f for f in window.session.plan.findings if f.station is Station.BLANK]
        assert not [f for f in found if f.severity is Severity.STOP]
        assert window.session.plan.state(Station.BLANK) in {StationState.READY, StationState.NEEDS_A_LOOK}
        assert not window.grab().isNull()
    for _ in designs():
        window.session.undo()
    assert window.session.job.cast.cups[0].name == "Slack water"


def test_every_kind_of_step_can_be_added_and_edited(blank: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(asking, "ask_photos", lambda *_: PhotoStep())  # what is done on the sheet is tested apart
    for step in NEW_STEPS:
        choose(blank.at("Blank")._fill_steps, step.title)
        chosen = blank.session.job.blank.steps[blank.at("Blank").chosen()]
        assert chosen.kind == step.kind
        if step.kind in {"cut", "arc", "slice", "rip", "plug", "dye"}:
            assert blank.at("Blank")._caution.text()
            assert "decide" in blank.at("Blank")._caution.toolTip()
        assert not blank.grab().isNull()
        if step.kind not in STOCK_KINDS:
            blank.session.undo()


def test_an_angle_is_typed(blank: MainWindow, qtbot: QtBot) -> None:
    blank.at("Blank").choose(1)
    line = blank.at("Blank").form.field("angle_deg").line
    line.setFocus()
    line.selectAll()
    qtbot.keyClicks(line, "42,5")
    qtbot.keyClick(line, Qt.Key.Key_Return)
    assert blank.session.job.blank.steps[1].angle_deg == 42.5  # type: ignore[union-attr]
    line.selectAll()
    qtbot.keyClicks(line, "3")
    qtbot.keyClick(line, Qt.Key.Key_Return)
    assert blank.session.job.blank.steps[1].angle_deg == 42.5  # type: ignore[union-attr]
    assert "from 8.0° to 90.0°" in blank.at("Blank").form.field("angle_deg").sentence()


def test_a_cut_is_dragged_on_its_picture_as_one_undo(blank: MainWindow) -> None:
    blank.at("Blank").choose(1)
    picture, session = blank.at("Blank").picture, blank.session
    before = session.job
    centre, end = picture.handles()
    drag(picture, centre, centre + QPointF(10, 0), centre + QPointF(26, 0))
    moved = session.job.blank.steps[1]
    assert isinstance(moved, CutStep)
    assert moved.centre_mm > 50
    session.undo()
    assert session.job == before
    drag(picture, end, end + QPointF(6, 0), end + QPointF(12, 0))
    steeper = session.job.blank.steps[1]
    assert isinstance(steeper, CutStep)
    assert steeper.angle_deg > 45
    session.undo()
    assert session.job == before


def test_steps_are_chosen_moved_copied_and_removed_with_keys(blank: MainWindow, qtbot: QtBot) -> None:
    row, session = blank.at("Blank").steps, blank.session
    row.setFocus()
    blank.at("Blank").choose(1)
    azimuths = lambda: [s.azimuth_deg for s in session.job.blank.steps[1:]]  # type: ignore[union-attr]  # noqa: E731
    qtbot.keyClick(row, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert azimuths() == [90, 0, 180, 270]
    assert blank.at("Blank").chosen() == 2
    qtbot.keyClick(row, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert azimuths() == [90, 0, 0, 180, 270]
    qtbot.keyClick(row, Qt.Key.Key_Delete)
    assert azimuths() == [90, 0, 180, 270]
    qtbot.keyClick(row, Qt.Key.Key_Left)
    assert blank.at("Blank").chosen() == 2


def test_a_step_is_dragged_to_another_place(blank: MainWindow) -> None:
    row = blank.at("Blank").steps
    drag(row, row.place(4).center(), row.place(3).center(), row.place(1).center())
    assert [s.azimuth_deg for s in blank.session.job.blank.steps[1:]] == [270, 0, 90, 180]  # type: ignore[union-attr]


def test_a_list_that_makes_no_bar_is_said_and_undone(blank: MainWindow) -> None:
    row = blank.at("Blank").steps
    drag(row, row.place(0).center(), row.place(2).center())
    assert any(f.title.startswith("The blank cannot be made") for f in blank.session.plan.findings)
    assert blank.session.plan.state(Station.BLANK) is StationState.STOPPED
    assert not blank.grab().isNull()
    blank.session.undo()
    assert kinds(blank)[0] == "solid"


def test_the_barrel_is_rolled_by_dragging(blank: MainWindow, qtbot: QtBot) -> None:
    view = blank.at("Blank").turned
    before, job, turned_deg = view.grab().toImage(), blank.session.job, view.rotation_deg()
    drag(view, QPointF(300, 60), QPointF(300, 80), QPointF(300, 110))
    assert view.rotation_deg() == pytest.approx((turned_deg + 50 * 1.2) % 360)
    assert view.grab().toImage() != before
    assert blank.session.job == job
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Up)
    assert view.rotation_deg() == pytest.approx((turned_deg + 50 * 1.2 - 5) % 360)


def test_rolling_asks_the_field_for_nothing_new(blank: MainWindow) -> None:
    view = blank.at("Blank").turned
    view.grab()
    made = len(blank.surface._kept)
    for turn in range(12):
        view.roll_to(turn * 30)
        view.grab()
    assert len(blank.surface._kept) == made


def test_layers_of_a_sheet_are_added_changed_and_taken_away(blank: MainWindow) -> None:
    blank.at("Blank").choose(1)
    sheet = lambda: blank.session.job.blank.steps[1].sheet  # type: ignore[union-attr]  # noqa: E731
    blank.at("Blank").form.field("sheet")._more()
    assert len(sheet()) == 4
    blank.at("Blank").form.field("sheet")._set(1, "brass", None)
    blank.at("Blank").form.field("sheet")._set(1, None, 0.8)
    assert (sheet()[1].material, sheet()[1].thickness_mm) == ("brass", 0.8)
    for _ in range(4):
        blank.at("Blank").form.field("sheet")._less()
    assert sheet() == ()


def test_a_sheet_that_does_not_fit_its_kerf_is_said_with_a_remedy(blank: MainWindow) -> None:
    tabbed = blank.session.job.blank.steps[1].with_(tab_mm=2.5, kerf_mm=2.0)
    blank.session.attempt("Tab", lambda job: deeds.set_step(job, 1, tabbed))
    finding = next(f for f in blank.session.plan.findings if "does not fit its kerf" in f.title)
    assert finding.severity is Severity.STOP
    blank.session.remedy(finding.remedies[0])
    assert not any("does not fit its kerf" in f.title for f in blank.session.plan.findings)


def test_a_blank_that_is_not_cast_has_nothing_to_pour(blank: MainWindow) -> None:
    blank.open_station(Station.POUR)
    assert blank.session.plan.mixture is None
    assert not any(f.station is Station.POUR for f in blank.session.plan.findings)
    choose(blank.at("Blank")._fill_steps, "Cast")
    assert kinds(blank)[0] == "cast"
    assert any(f.title == "Last, the colours." for f in blank.session.plan.findings)


def test_the_best_stretch_is_proposed_as_pictures_and_taken(blank: MainWindow, qtbot: QtBot) -> None:
    dialog = StretchDialog(blank, blank.session, blank.surface)
    qtbot.addWidget(dialog)
    dialog.show()
    qtbot.waitUntil(lambda: len(dialog.buttons()) > 2)
    first: list[Any] = [button.subject for button in dialog.buttons()]
    assert [p.score for p in first] == sorted(p.score for p in first)
    dialog.joint.setChecked(True)
    dialog.centred.setChecked(False)
    qtbot.waitUntil(lambda: bool(dialog.buttons()) and dialog.buttons()[0].subject not in first)
    best: Any = dialog.buttons()[0].subject
    assert not dialog.grab().isNull()
    dialog.buttons()[0].click()
    assert blank.session.job.blank.tube_starts_mm == pytest.approx(best.starts_mm, abs=0.006)
    assert not any("saw" in f.title or "lost end" in f.title for f in blank.session.plan.findings)
    blank.session.undo()
    assert blank.session.job.blank.tube_starts_mm == ()


def test_boundaries_and_edges_are_dragged_on_the_picture(blank: MainWindow) -> None:
    picture, session = blank.at("Blank").picture, blank.session
    session.attempt("Stack", lambda job: deeds.replace_stock(job, StackStep()))
    blank.at("Blank").choose(0)
    handle = picture.handles()[0]
    drag(picture, handle, handle + QPointF(8, 0), handle + QPointF(20, 0))
    first, second = session.job.blank.steps[0].pieces  # type: ignore[union-attr]
    assert first.thickness_mm > 70
    assert first.thickness_mm + second.thickness_mm == pytest.approx(132)
    session.attempt("Strips", lambda job: deeds.replace_stock(job, LaminateStep()))
    handle = picture.handles()[0]
    drag(picture, handle, handle - QPointF(0, 4))
    left, right = session.job.blank.steps[0].strips  # type: ignore[union-attr]
    assert left.thickness_mm + right.thickness_mm == pytest.approx(13)
    assert left.thickness_mm > 7
    session.attempt("Slab", lambda job: deeds.replace_stock(job, InsertStep()))
    assert len(picture.handles()) == 7
    handle = picture.handles()[2]
    drag(picture, handle, handle - QPointF(0, 8))
    line = session.job.blank.steps[0].line_mm  # type: ignore[union-attr]
    assert line[2] > 2
    assert [off for n, off in enumerate(line) if n != 2] == [0.0] * 6
    session.undo()
    assert session.job.blank.steps[0].line_mm == ()  # type: ignore[union-attr]


def test_the_way_out_of_a_casting_is_chosen_by_its_look_and_yield(blank: MainWindow, qtbot: QtBot) -> None:
    session = blank.session
    session.attempt("Wrack line", lambda job: deeds.take_design(job, designs()[5].steps))
    source = CastingSlab(session.plan)
    dialog = SlabDialog(blank, source, session.units, blank.surface)
    qtbot.addWidget(dialog)
    dialog.show()
    dialog.fields["long"].entered.emit(400.0)
    dialog.fields["wide"].entered.emit(150.0)
    dialog.lay_at(0.0)
    assert dialog._line.text().startswith("21 bars, ")  # 3 along 400 mm, 7 across 150 mm
    qtbot.waitUntil(lambda: len(dialog.buttons()) == 21)
    assert len({bytes(button._picture.constBits()) for button in dialog.buttons()}) == 21  # each another bar
    dialog.lay_at(90.0)
    dialog._choose(2)
    assert dialog._save.text() == "Take out bar 3"
    assert dialog.bar is not None
    blank.at("Blank").take_out(source.way_out(dialog.bar))
    step = session.job.blank.steps[-1]
    assert isinstance(step, ReorientStep)
    assert step.angle_deg == -90 or step.angle_deg == 90
    # It is found again where it lies, and another place is another number in the same step.
    again = CastingSlab(session.plan)
    assert again.first is not None
    assert again.way_out(again.first) == step
    blank.at("Blank").take_out(step.with_(across_mm=11))
    assert [one.kind for one in session.job.blank.steps].count("reorient") == 1
    session.undo()
    session.undo()
    assert kinds(blank) == ["insert", "cast"]


def test_a_barrel_is_turned_against_the_other(blank: MainWindow, qtbot: QtBot) -> None:
    view, strip = blank.at("Blank").turned, blank.strip
    before = view.grab().toImage()
    strip.setFocus()
    for _ in range(3):
        qtbot.keyClick(strip, Qt.Key.Key_Down)
    assert blank.session.job.blank.tube_turns_deg == (15.0, 0.0)
    assert view.grab().toImage() != before
    for _ in range(3):
        blank.session.undo()
    assert view.grab().toImage() == before


def test_what_is_laid_into_the_mould_is_seen_in_it(blank: MainWindow) -> None:
    session = blank.session
    session.attempt("Cast", lambda job: deeds.take_design(job, designs()[6].steps))
    blank.open_station(Station.POUR)
    before = blank.at("Pour").weigh.mould.grab().toImage()
    session.attempt("Slab", lambda job: deeds.add_step(job, InsertStep(), 0))
    assert blank.at("Pour").weigh.mould.grab().toImage() != before
    assert blank.at("Pour").weigh._insert_choice.button.toolTip().endswith("by its shape")


def test_an_arc_shows_how_deep_it_goes_and_its_working(blank: MainWindow) -> None:
    blank.session.attempt("Scales", lambda job: deeds.take_design(job, designs()[9].steps))
    blank.at("Blank").choose(1)
    figures = [line.value.figure() for line in blank.at("Blank")._figures]
    # Radius 30, centre 32 off the axis, widest barrel 12.8: it goes 4.4 mm deep.
    assert figures[0] is not None
    assert figures[0].value == pytest.approx(6.4 - 2)
    assert figures[2] is not None
    assert figures[2].value == pytest.approx(100 * 2.0 / 60)


def test_a_sheet_is_printed_with_a_picture_of_ones_own(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.open_station(Station.BLANK)
    window.session.attempt("Wrap", lambda job: deeds.set_steps(job, (WrapStep(pattern="picture"),)))
    assert any("has no picture yet" in finding.title for finding in window.session.plan.findings)
    Image.new("RGB", (60, 40), "#2040a0").save(tmp_path / "herring gull.png")
    window.at("Blank").form.take_picture(tmp_path / "herring gull.png")
    step = window.session.job.blank.steps[0]
    assert isinstance(step, WrapStep)
    assert step.artwork is not None
    assert step.artwork.name == "herring gull"
    assert not any("has no picture yet" in finding.title for finding in window.session.plan.findings)
    said: list[str] = []
    monkeypatch.setattr(step_form, "tell", lambda *words: said.append(words[-1]))
    window.at("Blank").form.take_picture(tmp_path / "nowhere.png")
    assert "could not be read" in said[0]
    assert window.session.job.blank.steps[0] == step


def test_the_bar_is_cut_open_where_the_sliders_stand(blank: MainWindow, qtbot: QtBot) -> None:
    dialog = SectionDialog(blank, blank.session, blank.surface)
    qtbot.addWidget(dialog)
    before = dialog.picture.pixmap().toImage()
    dialog.angle.setValue(90)
    across = dialog.picture.pixmap().toImage()
    assert across != before
    dialog.place.setValue(5)
    assert dialog.picture.pixmap().toImage() != across


def test_a_material_of_one_s_own_is_drawn_and_named(blank: MainWindow) -> None:
    burl = material("black-walnut").with_(
        key="own wrack burl", name="Wrack burl", colour="#0000ff", second="#0000ff", caution="fine dust"
    )
    blank.session.change_shop("Keep it", lambda shop: deeds.put_on_shelf(shop, "materials", burl))
    blank.session.attempt("Begin", lambda job: deeds.set_steps(job, (SolidStep(),)))
    form = blank.at("Blank").form
    menu = QMenu()
    form.field("material").button.menu().aboutToShow.emit()
    step_form.fill_materials(menu, lambda key: form._put("material", key, "Material"), form._own)
    own = menu.actions()[0].menu()
    assert own is not None
    own.actions()[0].trigger()
    assert blank.session.job.blank.materials == (burl,)
    assert not [f for f in blank.session.plan.findings if "does not know" in f.title]
    assert "Wrack burl" in form.field("material").button.text()
    image = blank.surface.face(blank.session.plan, 60, 20)
    assert image is not None
    middle = image.pixelColor(image.width() // 2, image.height() // 2)
    assert middle.blue() > 3 * middle.red()
    assert any("Wrack burl: fine dust" in c.words for c in blank.session.plan.cautions)


def test_points_and_angles_are_moved_by_the_keys(blank: MainWindow, qtbot: QtBot) -> None:
    picture = blank.at("Blank").picture
    pieces = tuple(Layer(material=key, thickness_mm=40) for key in ("holly", "ebony", "pear"))
    blank.session.attempt("Stack", lambda job: deeds.set_steps(job, (StackStep(pieces=pieces), CutStep(angle_deg=40))))
    blank.at("Blank").choose(0)
    qtbot.keyClick(picture, Qt.Key.Key_Right)
    qtbot.keyClick(picture, Qt.Key.Key_Up)
    moved = [layer.thickness_mm for layer in blank.session.job.blank.steps[0].pieces]
    assert moved == pytest.approx([40, 40.5, 39.5], abs=0.06), "the second boundary, half a millimetre on"
    blank.at("Blank").choose(1)
    qtbot.keyClick(picture, Qt.Key.Key_Up)
    qtbot.keyClick(picture, Qt.Key.Key_Left)
    cut = blank.session.job.blank.steps[1]
    assert (cut.angle_deg, cut.centre_mm) == (41, 64.5)
    blank.session.undo()
    assert blank.session.job.blank.steps[1].centre_mm == 65
