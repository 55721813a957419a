"""Bench mode: one step over the whole window, readable at two metres, with its picture; all that is done written down.

Space goes on and Backspace goes back; Enter takes what was typed and nothing else, and after the last step the task is
done. The other keys stand behind the question mark. What is written stays, however it is left.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from orvek.craft.pouring import digits_of
from orvek.devices import MeterKind, ScalePort
from orvek.documents import Actual, deeds, fates
from orvek.documents.job.pour import Scale
from orvek.errors import OrvekError
from orvek.planning.route.bench import actual_of, in_the_cup, mixed, odd_words, pigment_words, still_words, wanted_g
from orvek.planning.route.results import Operation
from orvek.planning.route.steps import BenchStep
from orvek.planning.timetable.words import not_yet
from orvek.quantities import Dimension, minutes_between, read, write
from orvek.window import theme
from orvek.window.bench.cues import Cues, KeptAwake, LifeLabel
from orvek.window.bench.devices import BenchDevices, DeviceKind
from orvek.window.bench.fitted import Fitted
from orvek.window.bench.noting import LogAnswer, fresh_edge, note
from orvek.window.bench.parts import BenchKeys, TargetBar, ask_for_photo, keep_photo
from orvek.window.bench.step_picture import StepPicture
from orvek.window.bench.walk import Walk
from orvek.window.devices_sheet import ask_devices, plugged_in
from orvek.window.session import Session
from orvek.window.surface import Surface
from orvek.window.widgets.asking import ask
from orvek.window.widgets.fates import ask_fate, new_fate, next_blank, write_fate
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet

WORDS_PX, FIGURE_PX = 56, 144  # read from two metres away
_MOST_SPENT_MIN = 24 * 60  # longer than that nobody stands at a task: the clock was set, or it was left
_ASK_MS, _SECOND_MS = 60, 250
_METER_OF: dict[str, MeterKind] = {"measure": "caliper", "temperature": "thermometer"}
_DEVICE_OF: dict[str, DeviceKind] = {"weigh": "scale", **_METER_OF}
_DIMENSION = {"weigh": Dimension.MASS, "temperature": Dimension.TEMPERATURE}
_OUTCOMES = "1234"
_TYPED = "0123456789.,"  # what calipers and scales that type send, beside Enter
_REACHED = 0.01  # of what is weighed: so near it is heard
_DROP = 0.02  # of the hardener: more than that on the scale is no trembling hand


class BenchWindow(Sheet):
    """One task of the job in hand. `scale` is the one that is plugged in, if any.

    `now` tells the time that is written down, `passed_s` how many seconds pass: a clock that is set meanwhile makes
    no wait longer or shorter.
    """

    def __init__(
        self,
        parent: QWidget | None,
        session: Session,
        task: Operation,
        *,
        scale: Scale | None = None,
        now: Callable[[], datetime] = datetime.now,
        passed_s: Callable[[], float] = time.monotonic,
        surface: Surface | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("At the bench")
        self._session, self._task, self._now, self._passed_s = session, task, now, passed_s
        self._scale, self._log = scale or session.job.pour.scale, LogAnswer(session)
        self.walk = Walk(session, task)
        self.devices = BenchDevices(self._lost, self._is_back)
        self._mass_g: float | None = None
        self._measured: float | None = None  # a size in mm or a temperature in °C
        self._typed, self._is_typed = "", False
        self._is_moving = self._is_settling = False  # what the scale shows; Space was pressed while it moved
        self._is_odd_said = self._is_overruled = False  # a reading that can hardly be; that it is too soon
        self._waits_until_s = 0.0  # as `passed_s` counts
        self._job_words, self._many = quiet_label("", theme.TITLE), quiet_label("", theme.TITLE)
        self._step, self._figure, self._under = Fitted(WORDS_PX, wraps=True), Fitted(FIGURE_PX, wraps=False), Label()
        self._clock, self._life, self._caution = Label(), LifeLabel(), Label()
        self._cues, self._awake = Cues(session), KeptAwake()
        self._awake.begin()
        self.picture = StepPicture(surface)
        self._since: datetime | None = None  # since when the step in hand stands there
        self._said = ""  # what was said of the step before: it stands beside the caution of the next one
        session.said.connect(self._hear)
        self.bar = TargetBar()
        self._lay_out()
        self._resume()
        self._seconds = QTimer(self)
        self._seconds.setInterval(_SECOND_MS)
        self._seconds.timeout.connect(self._tick)
        self._seconds.start()
        self._asking = QTimer(self)
        self._asking.setInterval(_ASK_MS)
        self._asking.timeout.connect(self.ask_devices)
        self._show()
        self.devices.plug_in(scale, session.shop.meters)
        if self.devices.is_any:
            self._asking.start()

    @property
    def step(self) -> BenchStep:
        """The step in hand."""
        return self.walk.step

    def words(self) -> str:
        """What stands there in large letters."""
        return self._step.text()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        deed = self._by_key.get(event.key())
        if deed is not None:
            deed()
        elif self.step.kind == "fate" and event.text() in _OUTCOMES and event.text():
            self._note_fate(int(event.text()) - 1)
        elif event.text() in self._typeable() and event.text() and self.step.kind in _DEVICE_OF:
            self._typed += event.text()
            self._figure.setText(self._typed)
        else:
            super().keyPressEvent(event)

    def _typeable(self) -> str:
        """What may be typed at this step: a dial also goes below 0."""
        return f"-{_TYPED}" if self.step.reads is not None else _TYPED

    def _enter(self) -> bool:
        """Take what was typed, by hand or by calipers and scales that type; whether nothing of it was nonsense."""
        if not self._typed:
            return True
        dimension = _DIMENSION.get(self.step.kind, Dimension.LENGTH)
        typed, self._typed = self._typed, ""
        try:
            value = read(typed, dimension, self._session.units)
        except OrvekError as error:
            self._show_figure()
            self._caution.setText(str(error))
            return False
        if self.step.kind == "weigh":
            self._mass_g, self._is_moving = value, False
        else:
            self._measured = value
        self._is_typed = True
        self._show_figure()
        return True

    def _clear(self) -> None:
        """What was typed is forgotten; what is plugged in counts again."""
        self._typed, self._is_typed, self._mass_g, self._measured = "", False, None, None
        self._show_figure()

    def go_on(self) -> None:
        """The step is done and written down, and the next one stands there; after the last one the task is done.

        A weight that still moves is waited for; asked a second time it is taken as it is.
        """
        if not self._enter() or self._is_too_soon():
            return
        step, now = self.step, self._moment()
        if step.kind == "weigh" and self._is_moving and not self._is_settling:
            self._is_settling = True
            self._caution.setText("The scale still moves: it is taken when it is steady. Space takes it as it is.")
            return
        values = {"weigh": self._mass_g, "count": 1.0}
        value = self._measured if step.kind in _METER_OF else values.get(step.kind)
        if step.into and not self._is_typed and (value or 0.0) <= 0:
            value = None  # nothing lies on the scale: nothing was weighed
        odd = odd_words(step, value, self.walk.weighed(), self._session.units)
        if odd and not self._is_odd_said:
            self._is_odd_said = True
            self._caution.setText(odd)
            return
        if not note(self._session, self._task, step, value if step.kind in _DEVICE_OF else None, now):
            return
        self._note_first_drop(self._since or now)
        actual = actual_of(step, value, self.walk.weighed(), now)
        if actual is not None:
            self._write(actual, step.words[:60])
        self._waits_until_s = self._passed_s() + step.wait_s
        if self.walk.go_on():
            self._show()
        else:
            self.end_task()

    def _note_fate(self, number: int) -> None:
        """One key says what became of a blank; the cause, where there is one, is told at Batch."""
        blank_no = self.step.blank_no
        if blank_no is not None and write_fate(self._session, new_fate(self._session, blank_no, fates()[number])):
            self.go_on()

    def ask_fate(self) -> None:
        """A blank failed: which, and why."""
        blank = self.step.blank or next_blank(self._session)
        if ask_fate(self, self._session, blank, "spoilt"):
            self.walk.look_again()
            self._show()

    def take_turns(self) -> None:
        """Blank by blank, or each step for all of them, as the hands do it."""
        self.walk.take_turns()
        self._show()

    def _note_first_drop(self, when: datetime) -> None:
        """From the first drop of hardener on a cup's time runs: by the scale, else from when it was asked for."""
        if self.step.hardens is not None and self._session.job.work.when(self.step.key, "began") is None:
            self._write(Actual(task=self.step.key, what="began", when=when), "Hardener in")

    def go_back(self) -> None:
        """The step before it again; what was written of it is taken back."""
        if self.walk.before is None:
            return
        self.walk.go_back()
        self._waits_until_s = 0.0
        self._show()

    def end_task(self) -> None:
        """The whole task is done; how long it took goes into the records."""
        if self._is_too_soon():
            return
        now = self._moment()
        task, session = self._task, self._session
        seen = deeds.lasted(
            session.job, task.key, task.kind, task.pieces, now, hands_min=task.hands_min, usual_min=task.usual_min
        )
        session.attempt(f"Done: {task.words}", partial(deeds.finish_task, task=task.key, when=now))
        if seen is not None:
            session.change_shop("How long it took", partial(deeds.put_on_shelf, shelf="durations", item=seen))
        self.accept()

    def end_early(self) -> None:
        """The task is done though steps are left: that is asked."""
        left = self.walk.left
        words = f"{left} step{'' if left == 1 else 's'} of this task {'is' if left == 1 else 'are'} not written down."
        if left < 2 or ask(self, "End it here?", words, ("It is done", "Go on with it"), 1) == 0:
            self.end_task()

    def _is_too_soon(self) -> bool:
        """What comes before is not over: that is said once, a second press goes on all the same."""
        plan = self._session.plan
        if self._is_overruled or plan.route is None:
            return False
        told = not_yet(plan.job, plan.route, self._task, self._now())
        if told:
            self._is_overruled = True
            self._caution.setText(f"{told} The same key does it all the same. {self._danger()}".rstrip())
        return bool(told)

    # -- what is plugged in ------------------------------------------------------------------------------------

    def use(self, scale: ScalePort) -> None:
        """Weigh with this from now on."""
        self.devices.use(scale)
        self._asking.start()

    def set_up(self) -> None:
        """See what is plugged in, put it right, and go on with it."""
        self._asking.stop()
        self.devices.close()  # while the sheet reads them, nobody else does
        ask_devices(self, self._session)
        self._scale = plugged_in(self._session) or self._scale
        self.devices.plug_in(self._scale, self._session.shop.meters)
        if self.devices.is_any:
            self._asking.start()

    def tare(self) -> None:
        """What lies on the scale counts as nothing from now on."""
        if not self.devices.tare():
            self._caution.setText("No scale is plugged in: tare it at the scale.")
        elif self.step.kind == "weigh":
            self._clear()

    def _lost(self, kind: DeviceKind, words: str) -> None:
        """What a lost device said last is no reading any more: it is forgotten, and can be typed."""
        if not self._is_typed and kind == _DEVICE_OF.get(self.step.kind):
            self._mass_g, self._measured = None, None
            self._is_moving = self._is_settling = False
            self._show_figure()
        self._caution.setText(f"{words} It is looked for; until then type what you read, then Enter.")

    def _is_back(self, kind: DeviceKind) -> None:
        words = "See that it shows what lies on it; tare it again if not." if kind == "scale" else ""
        self._caution.setText(f"The {kind} answers again. {words}".rstrip())

    def ask_devices(self) -> None:
        """Show the latest weight, size or temperature; what was pulled out is said, and what was written stays."""
        kind = _METER_OF.get(self.step.kind) if self.step.reads is None else None  # a dial is read by eye
        if kind is not None:
            value = self.devices.value(kind)
            if value is not None and abs(value) < 1e4 and not self._has_typed():
                self._measured = value
                self._show_figure()
            return
        reading = self.devices.weight() if self.step.kind == "weigh" else None
        if reading is not None and abs(reading.mass_g) < 1e5 and not self._has_typed():
            self._mass_g, self._is_moving = reading.mass_g, not reading.is_steady
            if self.step.target_g is not None and reading.mass_g > _DROP * self.step.target_g:
                self._note_first_drop(self._moment())
            if self._is_settling and not self._is_moving:
                self.go_on()
            else:
                self._show_figure()

    def _has_typed(self) -> bool:
        """What a hand types stays until it is entered or cleared, whatever a device says meanwhile."""
        return bool(self._typed) or self._is_typed

    # -- showing -----------------------------------------------------------------------------------------------

    def _resume(self) -> None:
        """Go on where it was left: steps that are written down are not asked for again."""
        job = self._session.job
        before = self.walk.before
        if before is not None:
            when = next((a.when for a in reversed(job.work.actuals) if a.task == before.key), None)
            if when is not None and before.wait_s:
                left_s = before.wait_s - 60 * minutes_between(when, self._now())
                self._waits_until_s = self._passed_s() + min(before.wait_s, left_s)
        if job.work.when(self._task.key, "began") is None:
            self._write(Actual(task=self._task.key, what="began", when=self._moment()), f"Begin: {self._task.words}")

    def _write(self, actual: Actual, words: str) -> None:
        self._session.attempt(words, partial(deeds.write_actual, actual=actual))

    def _hear(self, words: str) -> None:
        """What the session says is said here, too: the window that says it lies behind."""
        self._said = words
        self._caution.setText(words)

    def _danger(self) -> str:
        return " ".join(self._session.plan.cautions_of(self._task.cautions))

    def _moment(self) -> datetime:
        return self._now().replace(microsecond=0)

    def _show(self) -> None:
        self._mass_g, self._measured, self._typed, self._is_typed = None, None, "", False
        self._is_moving = self._is_settling = self._is_odd_said = False
        self._since = self._moment()
        self._job_words.setText(f"{self._session.job.batch.name} · {self._task.words}")
        self._step.setText(self.step.words)
        self._caution.setText(f"{self._said} {self._danger()}".strip())
        self._said = ""
        self.picture.show_step(self._session.plan, self.step)
        self._figure.setVisible(bool(self.step.figure) or self.step.kind in _DEVICE_OF)
        self._under.setVisible(self.step.kind in _DEVICE_OF)
        self.bar.setVisible(self.step.target_g is not None)
        self._show_figure()
        self._tick()

    def _show_figure(self) -> None:
        target = wanted_g(self.step, self.walk.weighed())
        self._figure.setText(self.step.figure)
        if self.step.target_mm is not None:
            self._show_size(self.step.target_mm)
        if self.step.target_c is not None:
            self._show_temperature(self.step.target_c)
        if target is not None:
            self._show_mass(target)
        elif self.step.kind == "weigh":
            self._show_weight()

    def _show_mass(self, target: float) -> None:
        wanted, now = self._grams(target), self._mass_g
        self._figure.setText(wanted if now is None else self._grams(now))
        before, whole = in_the_cup(self.walk.steps, self.step, self.walk.weighed())
        self.picture.show_cup(before, max(0.0, now or 0.0), target, whole)
        self.bar.show_mass(now or 0.0, target)
        if now is None:
            self._under.setText("to weigh" if self.devices.is_any else "to weigh; type what the scale says, Enter")
            return
        left = target - now
        self._cues.give(f"{self.step.key}: reached", when=left <= _REACHED * target)
        told = "below zero: tare the scale" if now < -_DROP * target else ""
        told = told or f"{self._grams(abs(left))} {'to go' if left > 0 else 'too much'} of {wanted}"
        self._under.setText(f"{told}, still moving" if self._is_moving else told)
        over = pigment_words(self._session.plan, self.step, now)
        if not self._is_settling:
            self._caution.setText(over or self._danger())

    def _show_weight(self) -> None:
        """A weight that nothing was planned for; of drying wood, what its log says with it."""
        now = self._mass_g
        self._figure.setText("– g" if now is None else self._grams(now))
        if now is None:
            self._under.setText("lay them on" if self.devices.is_any else "type what the scale says, Enter")
        elif self._is_moving:
            self._under.setText("still moving")
        else:
            self._under.setText(self._log.with_weight(now, self._moment()) if self.step.into == "log" else "")

    def _grams(self, mass_g: float) -> str:
        """A mass to the step of the scale that it is weighed on."""
        digits = digits_of(self._scale.resolution_g) if self._scale is not None else 2
        return write(mass_g, Dimension.MASS, self._session.units, digits)

    def _show_size(self, target_mm: float) -> None:
        wanted = write(target_mm, Dimension.LENGTH, self._session.units, 2)
        if self._measured is None:
            self._figure.setText(wanted)
            self._under.setText("type what the calipers say, Enter")
            return
        self._figure.setText(write(self._measured, Dimension.LENGTH, self._session.units, 2))
        self._under.setText(f"of {wanted}. {still_words(self.step, self._measured, self._session.plan)}")

    def _show_temperature(self, target_c: float) -> None:
        wanted, now = (write(one, Dimension.TEMPERATURE, self._session.units, 1) for one in (target_c, self._measured))
        self._figure.setText(wanted if self._measured is None else now)
        self._under.setText("planned; type what it is, Enter" if self._measured is None else f"planned {wanted}")

    def _tick(self) -> None:
        """The clock since the task began, or what is still to be waited before this step."""
        self.devices.look_for_the_lost()
        is_hurried = self._life.show_mixed(mixed(self._session.plan, self._task), self._now())
        self._cues.give("hurry", when=is_hurried)
        left_s = self._waits_until_s - self._passed_s()
        self._cues.give("the wait is over", when=self._waits_until_s > 0 >= left_s)
        if left_s > 0:
            left = int(left_s) + 1
            self._clock.setText(f"wait {left // 60}:{left % 60:02d}")
            self._clock.setVisible(True)
            return
        self._clock.setVisible(False)
        began = self._session.job.work.when(self._task.key, "began")
        spent_min = minutes_between(began, self._now()) if began is not None else 0.0
        told = f"{spent_min:.0f} min" if 0 <= spent_min < _MOST_SPENT_MIN else "begun"
        self._many.setText(f"{told}, of about {self._task.hands_min:.0f} min · {self.walk.words()}")

    def done(self, result: int) -> None:
        """However it is left: what is plugged in is let go, or the next one who reads it gets every other line."""
        self._awake.end()
        self._asking.stop()
        self._seconds.stop()
        self.devices.close()
        super().done(result)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.devices.close()
        super().closeEvent(event)

    def take_photo(self, path: Path | None = None) -> None:
        """Keep a photo with the job, as one of this task; None asks which. A file that is none is said."""
        path = path or ask_for_photo(self)
        if path is not None:
            self._caution.setText(keep_photo(self._session, self._task, path, self._moment()))

    def renew_edge(self) -> None:
        """The tool was sharpened."""
        self._caution.setText(fresh_edge(self._session, self._moment()))

    def _lay_out(self) -> None:
        self._many.setWordWrap(True)
        for label, colour in ((self._under, theme.INK), (self._clock, theme.CAUTION), (self._life, theme.CAUTION)):
            label.setWordWrap(True)
            label.setStyleSheet(theme.words_css(colour, theme.BENCH, 600))
        self._caution.setWordWrap(True)
        self._caution.setStyleSheet(theme.words_css(theme.CAUTION, theme.TITLE, 500))
        self._keys = BenchKeys(
            (("Space: go on", self.go_on), ("Backspace: back", self.go_back)),
            (
                ("Delete: forget what was typed", self._clear), ("T: tare", self.tare),
                ("D: what is plugged in", self.set_up), ("P: photo", self.take_photo),
                ("F: a blank failed", self.ask_fate), ("B: blank by blank, or together", self.take_turns),
                ("E: a fresh edge", self.renew_edge), ("It is done…", self.end_early), ("Escape: leave", self.reject),
            ),
        )  # fmt: skip
        key = Qt.Key
        self._by_key: dict[int, Callable[[], object]] = {
            key.Key_Space: self.go_on, key.Key_Backspace: self.go_back, key.Key_Return: self._enter,
            key.Key_Enter: self._enter, key.Key_P: self.take_photo, key.Key_F: self.ask_fate,
            key.Key_B: self.take_turns, key.Key_T: self.tare, key.Key_D: self.set_up, key.Key_E: self.renew_edge,
            key.Key_Delete: self._clear, key.Key_Question: self._keys.show_more,
        }  # fmt: skip
        head, times = QHBoxLayout(), QHBoxLayout()
        head.addWidget(self._job_words, 1)
        head.addWidget(self._many)
        times.addWidget(self._clock, 1)
        times.addWidget(self._life, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(48, 24, 48, 20)
        column.setSpacing(12)
        column.addLayout(head)
        column.addWidget(self._step, 2)
        column.addWidget(self.picture, 4)
        for widget in (self._figure, self._under, self.bar):
            column.addWidget(widget)
        column.addLayout(times)
        column.addWidget(self._caution)
        column.addWidget(self._keys)
