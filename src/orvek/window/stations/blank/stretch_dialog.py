"""Which stretch of the bar: what the maker wishes for, and the best places as small turned pictures.

The search runs in the background; a new wish replaces the one that is being looked into.
"""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QThread, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QCheckBox, QMenu, QScrollArea, QVBoxLayout, QWidget

from orvek.documents import JOB, Job, Measure, deeds, path_to
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.fields import QuantityField, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, widgets_in
from orvek.window.widgets.picture_button import PICTURE_WIDE, PictureButton, turned_picture
from orvek.window.widgets.searches import SearchDialog
from orvek.workpiece.outline import TurnedBarrel

if TYPE_CHECKING:
    from orvek.workpiece.field import Evaluator
    from orvek.workpiece.stretch import Proposal, Wish

_ANYTHING = "everything except the base wood"
_BAND = Measure("Ring or band between the barrels", Dimension.LENGTH, 0, 30, "0: they meet")
_DISTANCE = Measure("No line within … of an end", Dimension.LENGTH, 0, 10, "0: it does not matter")


class Search(QThread):
    """One search. What it finds comes with its number, so that an old answer can be told from the newest."""

    found = Signal(int, object)

    def __init__(self, number: int, plan: Plan, evaluate: Evaluator, wish: Wish) -> None:
        super().__init__()
        self._number, self._plan, self._evaluate, self._wish = number, plan, evaluate, wish

    def run(self) -> None:
        from orvek.workpiece.compiling import compiled
        from orvek.workpiece.stretch import Room, proposals

        layout, pen = self._plan.layout, self._plan.job.pen
        assert layout is not None
        assert pen is not None
        program = compiled(self._plan.job.blank.steps, *bar_size(layout), self._plan.job.blank.materials)
        trims = tuple(barrel.trim_mm for barrel in pen.barrels)
        room = Room(layout.ends[0].end_mm, layout.ends[1].start_mm, trims, self._plan.job.blank.saw_kerf_mm)
        self.found.emit(self._number, proposals(self._evaluate, program, barrels_of(self._plan), room, self._wish))


class StretchDialog(SearchDialog):
    """Wishes above, proposals below; a click lays the tubes there."""

    def __init__(self, parent: QWidget | None, session: Session, surface: Surface) -> None:
        super().__init__(parent)
        self.setWindowTitle("Which stretch of the bar")
        self.setMinimumWidth(PICTURE_WIDE + 96)
        self.resize(PICTURE_WIDE + 96, 700)
        self._session, self._surface = session, surface
        self._distance_mm = 1.0
        title = Label("Which stretch of the bar?")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self.centred = QCheckBox("The feature in the middle of its barrel")
        self.alike = QCheckBox("Both ends of a barrel alike")
        self.joint = QCheckBox("The pattern carried over the joint")
        self.most = QCheckBox("As much of it as there can be")
        self.turn = QCheckBox("Barrels may be turned to meet there")
        self.band = QuantityField(_BAND, session.units)
        self._feature: str | None = None
        self._band_mm = 0.0
        self.band.set_value(0.0)
        self.band.entered.connect(self._set_band)
        self.feature = ChoiceField("What is looked for", self._fill_features)
        self.feature.set_text(_ANYTHING)
        self.centred.setChecked(True)
        photo = session.job.blank.photographed
        self._marks = photo.marks if photo is not None else ()
        self.marked = QCheckBox("What is marked to be centred, in the middle of a barrel")
        self.kept_off = QCheckBox("What must not show kept off the barrels")
        self.marked.setChecked(True)
        self.kept_off.setChecked(True)
        self.distance = QuantityField(_DISTANCE, session.units)
        self.distance.set_value(self._distance_mm)
        self.distance.entered.connect(self._set_distance)
        self._state = quiet_label("")
        self._list = QVBoxLayout()
        self._list.setContentsMargins(0, 0, 0, 0)
        self._list.setSpacing(0)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(8)
        column.addWidget(title)
        column.addWidget(self.feature)
        several = len(barrels_of(session.plan)) > 1
        for box in (self.marked, self.kept_off, self.centred, self.most, self.alike, self.joint, self.turn):
            box.toggled.connect(lambda _: self.search())
            box.setVisible(several or box not in {self.joint, self.turn})
        self.marked.setVisible(bool(self._centre()))
        self.kept_off.setVisible(len(self._centre()) < len(self._marks))
        for box in (self.marked, self.kept_off, self.centred, self.most, self.alike, self.joint, self.turn):
            column.addWidget(box)
        column.addWidget(self.distance)
        self.band.setVisible(several)
        column.addWidget(self.band)
        column.addWidget(self._state)
        inside = QWidget()
        inside.setLayout(self._list)
        area = QScrollArea()
        area.setWidget(inside)
        area.setWidgetResizable(True)
        area.setMinimumHeight(300)
        area.setAccessibleName("Proposals")
        column.addWidget(area, 1)
        self.search()

    def buttons(self) -> list[PictureButton]:
        """What is proposed now, best first."""
        return list(widgets_in(self._list, PictureButton))

    def search(self) -> None:
        """Look for places by the wishes as they are now."""
        evaluate = self._surface.evaluator()
        if evaluate is None or self._session.plan.layout is None:
            self._state.setText("There is no pen to lay on the bar yet.")
            return
        self._state.setText("Looking…")
        search = Search(self.searches.ask_anew(), self._session.plan, evaluate, self._wish())
        search.found.connect(self._show)
        self.searches.begin(search)

    def _wish(self) -> Wish:
        from orvek.workpiece.stretch import Wish

        return Wish(
            feature_centred=self.centred.isChecked(),
            no_line_within_mm=self._distance_mm,
            same_at_both_ends=self.alike.isChecked(),
            carried_over_the_joint=self.joint.isChecked(),
            feature=self._feature,
            most_of_it=self.most.isChecked(),
            may_turn=self.joint.isChecked() and self.turn.isChecked(),
            band_mm=self._band_mm,
            centre_mm=self._centre() if self.marked.isChecked() else (),
            off_mm=self._off() if self.kept_off.isChecked() else (),
        )

    def _centre(self) -> tuple[float, ...]:
        """Where what is to be centred lies along the bar."""
        return tuple(mark.z_mm for mark in self._marks if mark.kind == "centre this")

    def _off(self) -> tuple[tuple[float, float], ...]:
        """From where to where what must not show lies along the bar."""
        off = (mark for mark in self._marks if mark.kind != "centre this")
        return tuple((mark.z_mm - mark.size_mm / 2, mark.z_mm + mark.size_mm / 2) for mark in off)

    def _fill_features(self, menu: QMenu) -> None:
        """All that is not the body, or one of the materials of the bar."""
        from orvek.workpiece.compiling import compiled

        plan = self._session.plan
        program = compiled(plan.job.blank.steps, *bar_size(plan.layout), plan.job.blank.materials)
        add_action(menu, _ANYTHING, partial(self.look_for, None, _ANYTHING), checked=self._feature is None)
        for there in program.materials:
            if there.look not in {"air", "glue"}:
                chosen = partial(self.look_for, there.key, there.name)
                add_action(menu, there.name, chosen, checked=self._feature == there.key)

    def look_for(self, key: str | None, name: str) -> None:
        """Look for one material, or for all that is not the body of the bar."""
        self._feature = key
        self.feature.set_text(name)
        self.search()

    def _set_band(self, value: float) -> None:
        self._band_mm = value
        self.search()

    def _set_distance(self, value: float) -> None:
        self._distance_mm = value
        self.search()

    def _show(self, number: int, found: tuple[Proposal, ...]) -> None:
        if number != self.searches.number:
            return
        clear(self._list)
        none = "The barrels do not fit the sound part of the bar."
        self._state.setText("Best first; a click lays the tubes there" if found else none)
        for proposal in found:
            button = PictureButton(self._picture(proposal), *_words(proposal, self._wish(), self._session.units))
            button.subject = proposal
            button.clicked.connect(lambda _=False, p=proposal: self._take(p))
            self._list.addWidget(button)

    def _take(self, proposal: Proposal) -> None:
        starts = tuple(round(start, 2) for start in proposal.starts_mm)

        def laid(job: Job) -> Job:
            job = deeds.set_value(job, path_to(JOB.blank.tube_starts_mm), starts)
            return (
                deeds.set_value(job, path_to(JOB.blank.tube_turns_deg), proposal.turns_deg)
                if any(proposal.turns_deg)
                else job
            )

        self._session.attempt("Lay the tubes where proposed", laid)
        self.accept()

    def _picture(self, proposal: Proposal) -> QImage:
        barrels = tuple(
            TurnedBarrel(start, start + b.end_mm - b.start_mm, b.left_mm, b.right_mm, b.hole_mm, turn, b.between)
            for start, turn, b in zip(
                proposal.starts_mm, proposal.turns_deg, barrels_of(self._session.plan), strict=True
            )
        )
        evaluate = self._surface.evaluator()
        assert evaluate is not None
        plan = self._session.plan
        return turned_picture(evaluate, plan.job.blank.steps, bar_size(plan.layout), barrels, plan.job.blank.materials)


def _words(proposal: Proposal, wish: Wish, units: Units) -> tuple[str, str]:
    starts = ", ".join(write(start, Dimension.LENGTH, units) for start in proposal.starts_mm)
    turned = ", ".join(f"{turn:.0f}°" for turn in proposal.turns_deg[1:]) if any(proposal.turns_deg) else ""
    return f"Tubes at {starts}{', turned ' + turned if turned else ''}", " · ".join(_reasons(proposal, wish, units))


def _reasons(proposal: Proposal, wish: Wish, units: Units) -> list[str]:
    """How well a place meets each wish, in words."""
    words = []
    if wish.off_mm:
        words.append("nothing unwanted on it" if not proposal.unwanted else f"{proposal.unwanted:.0f} unwanted on it")
    if wish.feature_centred:
        off = write(proposal.off_centre_mm, Dimension.LENGTH, units)
        lost = f", {100 * (1 - proposal.feature_kept):.0f} % of it lost" if proposal.feature_kept < 0.995 else ""
        words.append(f"{off} off centre{lost}")
    if wish.most_of_it:
        words.append(f"covers {100 * proposal.covers:.0f} %")
    if wish.no_line_within_mm > 0:
        share = proposal.lines_near_ends
        words.append("no line at an end" if share == 0 else f"lines at {100 * share:.0f} % of the ends")
    if wish.same_at_both_ends:
        words.append(f"ends alike in {100 * (1 - proposal.ends_differ):.0f} %")
    if wish.carried_over_the_joint and len(proposal.starts_mm) > 1:
        words.append(f"{100 * (1 - proposal.joint_differs):.0f} % carried over")
    return words
