"""Blank: what it will look like. Steps above, the turned barrels large, the chosen step's parameters below."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QVBoxLayout, QWidget

from orvek.documents import NEW_STEPS, STOCK_KINDS, Material, PhotoStep, ReorientStep, Step, deeds
from orvek.planning import Plan, step_figures
from orvek.planning.blank.lines import showings
from orvek.planning.stuff import stuff_of
from orvek.planning.words import showing_line
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.base import StationWidget
from orvek.window.stations.blank.step_form import StepForm
from orvek.window.stations.blank.step_picture import StepPicture
from orvek.window.stations.blank.steps_row import StepsRow
from orvek.window.stations.blank.turned_view import TurnedView
from orvek.window.stuff_choice import fill_stuffs
from orvek.window.surface import Surface
from orvek.window.widgets.choice import add_action, add_heading, refill
from orvek.window.widgets.fields import FigureLine, quiet_label
from orvek.window.widgets.label import Label, without_shortcut
from orvek.window.widgets.layouts import scrolled

_FIGURES = 3


class BlankStation(StationWidget):
    """The station Blank."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self._index = 0
        self.steps = StepsRow(surface)
        self.turned = TurnedView(surface)
        self.picture = StepPicture(surface)
        self.form = StepForm()
        self._title = Label()
        self._title.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        self._line = quiet_label("")
        self._caution = Label()
        self._caution.setStyleSheet(theme.words_css(theme.CAUTION, theme.SMALL, 500))
        self._surface = surface
        self._shown = quiet_label("")
        self._figures = [FigureLine("") for _ in range(_FIGURES)]
        self._lay_out()
        self.steps.chosen.connect(self.choose)
        self.steps.moved.connect(self._move)
        self.steps.copied.connect(self._copy)
        self.steps.removed.connect(self._remove)
        self.form.changed.connect(self._change)
        self.form.photos_wanted.connect(self._photograph)
        self.picture.moving.connect(lambda step: session.preview(deeds.set_step(session.job, self._index, step)))
        self.picture.moved.connect(session.finish)

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the blank."""
        steps = plan.job.blank.steps
        self._index = min(self._index, len(steps) - 1)
        self.steps.show_plan(plan, self._index)
        self.turned.show_plan(plan, self._session.units, is_moving=self._session.is_previewing)
        self.picture.show_plan(plan, self._index)
        self.form.show_step(steps[self._index], self._session.units, self._own())
        self._title.setText(f"Step {self._index + 1} of {len(steps)}")
        self._line.setText(steps[self._index].title)
        short, full = steps[self._index].caution or ("", "")
        self._caution.setText(short)
        self._caution.setToolTip(full)
        self._caution.setAccessibleDescription(full)
        self.stuff.setText(without_shortcut(f"Works like {stuff_of(plan.job).name}"))
        self._show_figures(plan, steps[self._index])

    def _show_figures(self, plan: Plan, step: Step) -> None:
        """The step's own figures, else what the bar is made of."""
        figures = step_figures(step, plan.job) or self._surface.amounts(plan)
        for n, line in enumerate(self._figures):
            line.setVisible(n < len(figures))
            if n < len(figures):
                line.label.setText(figures[n].label)
                line.set_figure(figures[n], self._session.units)
        if not self._session.is_previewing:
            shown = showings(plan.job, plan.layout)
            self._shown.setText("\n".join(showing_line(one, plan.job, self._session.units) for one in shown[:2]))

    def choose(self, index: int) -> None:
        """Take another step in hand."""
        self._index = index
        self.show_plan(self._session.plan)

    def chosen(self) -> int:
        """Which step is in hand."""
        return self._index

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 10, 0, 0)
        column.setSpacing(6)
        head = QHBoxLayout()
        head.setContentsMargins(24, 0, 24, 0)
        title = Label("Steps")
        title.setToolTip("In the order of work")
        title.setStyleSheet(theme.words_css(theme.QUIET, theme.SMALL, 600))
        head.addWidget(title, 1)
        self.stuff = self._menu_button("It works like", partial(fill_stuffs, self._session))
        self.stuff.setToolTip("Bits, tool, allowance, first grit and the usual scrap go by it")
        head.addWidget(self.stuff)
        head.addWidget(self._menu_button("Look closer", self._fill_looks))
        gallery = QPushButton("Start from a design")
        gallery.setProperty("kind", "small")
        gallery.clicked.connect(self._open_gallery)
        head.addWidget(gallery)
        head.addWidget(self._menu_button("Add a step", self._fill_steps))
        column.addLayout(head)
        area = QScrollArea()
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        area.setWidget(self.steps)
        area.setWidgetResizable(True)
        area.setFixedHeight(84)
        area.setAccessibleName("Steps")
        strip = QHBoxLayout()
        strip.setContentsMargins(24, 0, 24, 0)
        strip.addWidget(area)
        column.addLayout(strip)
        column.addWidget(self.turned, 1)
        column.addWidget(self._editor())

    def _editor(self) -> QWidget:
        editor = QWidget()
        editor.setFixedHeight(210)
        head = QHBoxLayout()
        head.addWidget(self._title)
        head.addWidget(self._line)
        head.addWidget(self._caution, 1)
        for words, deed in (("Copy", self._copy), ("Remove", self._remove)):
            button = QPushButton(words)
            button.setProperty("kind", "small")
            button.clicked.connect(lambda _=False, d=deed: d(self._index))
            head.addWidget(button)
        area = scrolled(self.form)
        left = QVBoxLayout()
        left.setSpacing(2)
        left.addWidget(self.picture)
        for line in self._figures:
            left.addWidget(line)
        left.addWidget(self._shown)
        left.addStretch(1)
        row = QHBoxLayout()
        row.setSpacing(24)
        row.addLayout(left, 4)
        row.addWidget(area, 7)
        column = QVBoxLayout(editor)
        column.setContentsMargins(24, 4, 24, 6)
        column.setSpacing(6)
        column.addLayout(head)
        column.addLayout(row, 1)
        return editor

    def _menu_button(self, words: str, fill: Callable[[QMenu], None]) -> QPushButton:
        button = QPushButton(words)
        button.setProperty("kind", "small")
        menu = QMenu(button)
        refill(menu, fill)
        button.setMenu(menu)
        return button

    def _open_gallery(self) -> None:
        from orvek.window.stations.blank.designs_dialog import DesignsDialog

        DesignsDialog(self, self._session, self._surface).exec()

    def _fill_steps(self, menu: QMenu) -> None:
        add_heading(menu, "Change the bar, after the chosen step")
        for step in NEW_STEPS:
            if step.kind not in STOCK_KINDS:
                add_action(menu, step.title, partial(self._add, step))
        add_heading(menu, "Start the bar another way")
        for step in NEW_STEPS:
            if step.kind in STOCK_KINDS:
                add_action(menu, step.title, partial(self._replace_stock, step))

    def _own(self) -> tuple[Material, ...]:
        """The maker's own materials: on the shelf, and those that the job holds a copy of."""
        held = {there.key: there for there in (*self._session.shop.materials, *self._session.plan.job.blank.materials)}
        return tuple(held.values())

    def _add(self, step: Step) -> None:
        steps = self._session.job.blank.steps
        last_stock = max((n for n, s in enumerate(steps) if s.kind in STOCK_KINDS), default=-1)
        place = max(self._index, last_stock) + 1
        self._index = place
        self._session.attempt(f"Add: {step.title.lower()}", lambda job: deeds.add_step(job, step, place))

    def _fill_looks(self, menu: QMenu) -> None:
        add_action(menu, "Find the best stretch…", self._find_stretch)
        add_action(menu, "Out of a bigger casting…", self._find_way_out)
        add_action(menu, "Cut it open…", self._cut_open)

    def _cut_open(self) -> None:
        from orvek.window.stations.blank.section_dialog import SectionDialog

        SectionDialog(self, self._session, self._surface).exec()

    def _find_stretch(self) -> None:
        from orvek.window.stations.blank.stretch_dialog import StretchDialog

        StretchDialog(self, self._session, self._surface).exec()

    def _find_way_out(self) -> None:
        from orvek.window.slab.dialog import SlabDialog
        from orvek.window.slab.source import CastingSlab

        if self._session.job.blank.photographed is not None:
            self._session.said.emit("What was photographed is sawn at the Shelf: put it there, then Bars out of it.")
            return
        source = CastingSlab(self._session.plan)
        dialog = SlabDialog(self, source, self._session.units, self._surface)
        if dialog.exec() == SlabDialog.DialogCode.Accepted and dialog.bar is not None:
            self.take_out(source.way_out(dialog.bar))

    def take_out(self, way: ReorientStep) -> None:
        """Take the job's bar out of a bigger casting so."""
        self._session.attempt("Take the bar out of the casting", lambda job: deeds.take_out(job, way))

    def _replace_stock(self, step: Step) -> None:
        self._index = 0
        if isinstance(step, PhotoStep):
            self._photograph()
            return
        words = f"Start with: {step.title.lower()}"
        self._session.attempt(words, lambda job: deeds.replace_stock(job, step))

    def _photograph(self) -> None:
        from orvek.window.photos.asking import photograph_bar

        photograph_bar(self, self._session)

    def _move(self, index: int, to: int) -> None:
        self._index = to
        self._session.attempt(f"Move step {index + 1} to {to + 1}", lambda job: deeds.move_step(job, index, to))

    def _copy(self, index: int) -> None:
        self._index = index + 1
        self._session.attempt(f"Copy step {index + 1}", lambda job: deeds.copy_step(job, index))

    def _remove(self, index: int) -> None:
        self._session.attempt(f"Remove step {index + 1}", lambda job: deeds.remove_step(job, index))

    def _change(self, step: Step, title: str) -> None:
        index = self._index
        self._session.attempt(f"{title} of step {index + 1}", lambda job: deeds.set_step(job, index, step))
