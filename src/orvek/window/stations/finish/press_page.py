"""Press: the pen's parts in their order and where they go in, how deep; the clip turned on its barrel; the joint."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import JOB, Finish, Pen, Work, deeds, path_to
from orvek.planning import Plan, Station
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.finish.press import depth_span, depth_window, depth_words, press_steps, snapped_deg
from orvek.planning.headline import Headline
from orvek.planning.threads import is_threaded, thread_lines
from orvek.planning.words import counted
from orvek.quantities import Units
from orvek.window.photos.work_photos import WorkPhotos
from orvek.window.pictures.press_picture import PressPicture
from orvek.window.session import Session
from orvek.window.stations.finish.clip_dial import ClipDial
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.more import More
from orvek.window.widgets.thread import ROW_PX, Knot, Thread

_PLACES = ("over the flaw", "over the best side", "best side up", "opposite the best side")
_COLUMNS, _ROWS, _AGREE = 900, 180, 0.15
_STEP_PX, _MOST_ROWS = 52, 9  # room for the longest step, and for the steps of most pens: nothing moves


class PressPage(QWidget):
    """The page Press of the station Finish."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self.steps, self._step = Thread("In this order"), Label()
        self._step.setWordWrap(True)
        self._step.setMinimumHeight(_STEP_PX)
        self.steps.setMinimumHeight(_MOST_ROWS * ROW_PX)
        self._step.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.steps.currentRowChanged.connect(lambda _: self._show_step())
        self.picture, self.dial = PressPicture(), ClipDial(surface)
        self.dial.turned.connect(self._turn)
        self.dial.dropped.connect(self._drop)
        names = ("clip_deg", "best_deg", "clip_mm", "clip_long_mm", "clip_off_mm")
        self.clip = DocumentFields(session, path_to(JOB.finish), Finish, *names)
        self.trial = DocumentFields(session, path_to(JOB.work), Work, "trial_days")
        self.deep = DocumentFields(session, path_to(JOB.finish), Finish, "in_mm")
        self.how = DocumentFields(session, path_to(JOB.finish), Finish, "joint", "thread_deg", "pressed_in")
        self.place = ChoiceField("Turn the clip", self._fill_places)
        self.place.set_text("choose")
        self._covers, self._up = FigureLine(""), FigureLine("")
        self._lines, self._depth_words, self._joint = Label(), Label(), quiet_label("")
        for label in (self._lines, self._depth_words, self._joint):
            label.setWordWrap(True)
        self.carry = QPushButton("Carry the pattern over the joint")
        self.carry.clicked.connect(self._carry_over)
        self.to_pen = QPushButton("List the pen parts")
        self.to_pen.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.to_pen.setProperty("kind", "small")
        self.to_pen.clicked.connect(partial(session.station_wanted.emit, Station.PEN))
        self.photos = WorkPhotos(session, "press")
        self.more, self.answer = More("press"), Answer()
        self.more.hold(*self.clip.some("best_deg", "clip_mm", "clip_long_mm", "clip_off_mm"))
        self.more.hold(self.how["pressed_in"], self.trial["trial_days"])
        self.more.hold(self.how["joint"], when=_has_joint)
        self._caution = caution_label()
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show how a plan's pen is put together."""
        finish, pen, units = plan.finish, plan.job.pen, self._session.units
        if finish is None or pen is None or finish.clip is None:
            return
        self.picture.show_plan(plan)
        self.dial.show_clip(plan, finish.clip)
        self.clip.show_document(plan.job.finish)
        self.deep.show_document(plan.job.finish)
        self.trial.show_document(plan.job.work)
        self.how.show_document(plan.job.finish)
        self.how["thread_deg"].setVisible(is_threaded(plan.job))
        self._covers.tell(finish.clip.covers_deg, units)
        self._up.tell(finish.clip.up_deg, units)
        self._lines.setText(" ".join(finish.clip.lines))
        self._lines.setVisible(bool(finish.clip.lines))
        window, pressed_in = depth_window(plan.job), plan.job.finish.pressed_in
        order = Headline(f"{counted(len(press_steps(pen, units, pressed_in)), 'step')} in this order")
        said = depth_words(window, units) if window else order
        self.answer.say(said.words, units)
        self._depth_words.setText(said.rest)
        for widget in (*self.deep.widgets.values(), self._depth_words):
            widget.setVisible(window is not None)
        self.carry.setVisible(len(pen.barrels) > 1)
        self._joint.setVisible(len(pen.barrels) > 1)
        self._joint.setText(" ".join((_turn_words(plan), *thread_lines(plan.job, units))).strip())
        self.steps.show_knots(tuple(_knots(pen, units, pressed_in)))
        self._show_step()
        self._caution.setText(plan.caution("finish.press"))
        self.photos.show_job(plan.job)
        self.more.show_plan(plan)

    def _show_step(self) -> None:
        """The step in hand in full, and the pen as far as it."""
        pen, row = self._session.plan.job.pen, self.steps.currentRow()
        steps = (
            press_steps(pen, self._session.units, self._session.plan.job.finish.pressed_in) if pen is not None else ()
        )
        step = steps[row] if 0 <= row < len(steps) else None
        self._step.setText(step.words if step is not None else "")
        self.picture.show_part(step.part if step is not None else None)

    def _turn(self, which: str, azimuth_deg: float) -> None:
        job = self._session.job
        self._session.preview(job.with_(finish=job.finish.with_(**{which: azimuth_deg})))

    def _drop(self, which: str) -> None:
        self._session.finish("Turn the clip" if which == "clip_deg" else "The best side")

    def _fill_places(self, menu: QMenu) -> None:
        for words in _PLACES:
            azimuth = snapped_deg(self._session.job, words)
            put = partial(self._session.edit, path_to(JOB.finish.clip_deg), azimuth, f"Clip {words}")
            add_action(menu, words, put).setEnabled(azimuth is not None)

    def _carry_over(self) -> None:
        """Turn each barrel so that the pattern runs on from the one before it."""
        from orvek.workpiece.joint import carried_over

        plan = self._session.plan
        barrels = barrels_of(plan)
        pixels = self._surface.unrolled(plan, _COLUMNS, _ROWS, barrels)
        if pixels is None or plan.job.pen is None:
            return
        scale, names = _COLUMNS / bar_size(plan.layout)[2], [barrel.name for barrel in plan.job.laid]
        job, told = self._session.job, []
        before = barrels[0].turned_deg
        for number in range(1, len(barrels)):
            ends = (barrels[number - 1].end_mm - 0.5, barrels[number].start_mm + 0.5)
            one, other = (pixels[:, min(_COLUMNS - 1, max(0, int(z * scale)))] for z in ends)
            turn, agreement = carried_over(one, other)
            if agreement < _AGREE or any(map(plan.job.blank.is_flipped, (number - 1, number))):
                told.append(f"Nothing was found to run on from {names[number - 1]} to {names[number]}.")
                turn = 0.0
            before = (before + turn) % 360
            job = deeds.turn_tube(job, number, before - barrels[number].turned_deg)
        self._session.do("Carry the pattern over the joint", job)
        if told:
            self._session.said.emit(" ".join(told))

    def _lay_out(self) -> None:
        above = QWidget()
        row = QHBoxLayout(above)
        row.setContentsMargins(24, 0, 0, 0)
        assembly = QVBoxLayout()
        assembly.setSpacing(0)
        assembly.addWidget(self.picture, 1)
        assembly.addWidget(self._step)
        row.addLayout(assembly, 5)
        row.addWidget(self.dial, 2)
        left, right = QVBoxLayout(), QVBoxLayout()
        title = QHBoxLayout()
        title.addWidget(heading("In this order"), 1)
        title.addWidget(self.to_pen)
        left.addLayout(title)
        left.addWidget(self._caution)
        left.addWidget(self.steps, 1)
        widgets = (
            *self.deep.widgets.values(),
            self._depth_words,
            heading("The clip"),
            self._lines,
            self.place,
            *self.clip.widgets.values(),
            self._covers,
            self._up,
            heading("The joint"),
            *self.how.some("joint", "thread_deg"),
            self._joint,
            self.carry,
            self.how["pressed_in"],
            *self.trial.widgets.values(),
            heading("Photos of the pen"),
            self.photos,
        )
        for widget in widgets:
            if not isinstance(widget, Label):
                widget.setSizePolicy(widget.sizePolicy().horizontalPolicy(), QSizePolicy.Policy.Maximum)
            right.addWidget(widget)
        under_picture(
            self, above, in_columns((left, 5), (right, 4), apart_px=40, line_px=4, foot=self.more), self.answer
        )


def _has_joint(plan: Plan) -> bool:
    return plan.job.pen is not None and len(plan.job.pen.barrels) > 1


def _knots(pen: Pen, units: Units, pressed_in: str) -> Iterator[Knot]:
    """The steps by their numbers and names, with how deep a part goes in."""
    for number, step in enumerate(press_steps(pen, units, pressed_in), 1):
        deep = depth_span(pen.parts[step.part], units) if step.part is not None else ""
        yield Knot(f"{number}", step.name, deep, f"{number}", tip=step.words)


def _turn_words(plan: Plan) -> str:
    """How the barrels are turned against one another."""
    turns = [barrel.turned_deg for barrel in barrels_of(plan)]
    told = [
        f"{barrel.name}: turned {(turn - turns[0]) % 360:.0f}° against the first."
        for barrel, turn in zip(plan.job.laid[1:], turns[1:], strict=False)
    ]
    return " ".join(told)
