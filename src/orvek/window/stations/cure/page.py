"""Cure: can it be drilled when it is wanted? The answer in words, the course, the section, and what changes it."""

from __future__ import annotations

from datetime import date, timedelta
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from orvek.documents import JOB, Batch, Conditions, CureLog, Job, declared, path_to
from orvek.documents.base import clamped
from orvek.planning import Plan
from orvek.planning.cure.findings import answer
from orvek.planning.cure.part import WARMING
from orvek.planning.cure.question import clock
from orvek.planning.cure.results import CureForecast
from orvek.planning.headline import Headline
from orvek.quantities import write_day
from orvek.window.session import Session
from orvek.window.stations.cure.section import CureSection
from orvek.window.widgets.buttons import Deeds, buttons_for
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, QuantityField, caution_label, quiet_label
from orvek.window.widgets.layouts import Shrinking, filled, scrolled
from orvek.window.widgets.more import More
from orvek.window.widgets.waiting import Waiting

if TYPE_CHECKING:
    from orvek.window.stations.cure.chart import CureChart

_UNDECIDED = {"poured_on": "not decided", "drill_on": "when it is ready"}
_DAYS_AHEAD = 15
_ABOVE_SHARE = 66  # of the page, for the answer and its pictures
_OPTIONAL = {"parts_c", "mould_c", "night_c", "warm_c", "humidity_pct"}
_COLUMNS = (
    ("poured_on", "poured_h", "parts_c", "mould_c", "layers"),
    ("drill_on", "drill_h", "night_c", "night_from_h", "night_to_h"),
    ("humidity_pct", "warm_c", "warm_after_min", "warm_min"),
)
_RARE = frozenset({name for names in _COLUMNS for name in names}) - {"poured_on", "poured_h", "drill_on", "drill_h"}

_WAITING = Headline("Working out how it cures …")
_NO_FORECAST = Headline(
    "No forecast yet",
    "It needs a mould, a resin with a pot life on its label, and colours; change any of them or the "
    "times and it is worked out again.",
)


class CurePage(QWidget):
    """The page Cure of the station Pour."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._forecast: CureForecast | None = None
        self.answer, self._course = Answer(), quiet_label("")
        self._course.setWordWrap(True)
        self._course.setMinimumHeight(20)  # kept while it is worked out
        self._trust = quiet_label("")
        self._trust.setWordWrap(True)
        self._caution = caution_label()
        self._caution.hide()
        self._say(_WAITING)
        self._forecaster = session.answers.forecasters["cure"]
        self.waiting = Waiting(self._forecaster, "the forecast")
        self.section = CureSection()
        self.chart: CureChart | None = None
        self._chart_room = QWidget()  # kept for the chart, which comes with the first forecast
        self._chart_place = QVBoxLayout(self._chart_room)
        self._chart_place.setContentsMargins(0, 0, 0, 0)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Moment shown")
        self.slider.valueChanged.connect(self._show_moment)
        self._moment = quiet_label("")
        self._moment.setMinimumHeight(18)  # kept for it: the slider above it does not move when it comes
        self.more = More("cure")
        self._fields: dict[str, QuantityField] = {}
        self._days: dict[str, ChoiceField] = {}
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show the conditions of a plan."""
        there, units = plan.job.pour.conditions, self._session.units
        for name, field in self._fields.items():
            field.set_value(getattr(there, name), units)
        self._shop.set_value(plan.job.batch.shop_temperature_c, units)
        self._caution.setText(plan.caution(WARMING))
        self._caution.setVisible(there.warm_c is not None)
        for name, choice in self._days.items():
            day = getattr(there, name)
            choice.set_text(write_day(day) if day is not None else _UNDECIDED[name])
        self.show_forecast(plan.cure)
        self.more.show_plan(plan)

    def show_forecast(self, forecast: CureForecast | None) -> None:
        """Show an answer; None while there is none yet, and where nobody waited for it."""
        if forecast is None:
            self._say(_WAITING if self._forecaster.is_awaited() else _NO_FORECAST)
        if forecast is self._forecast:
            return
        self._forecast = forecast
        if forecast is None:
            return
        self._say(answer(forecast))
        before, after = forecast.rate_sd
        logged = len(forecast.question.log)
        cups = f"{logged} of your own cup{'' if logged == 1 else 's'}"
        trust = (
            f"With {cups}: the rate to ±{100 * after:.0f} %, before ±{100 * before:.0f} %."
            if logged
            else f"From the label alone: the rate to ±{100 * before:.0f} %. Cups that you watched make it closer."
        )
        self._trust.setText(f"{trust} A calculation, not a measurement: lids and an inhibitor's delay are not in it.")
        if forecast.curve is None or forecast.frames is None:
            return
        if self.chart is None:
            from orvek.window.stations.cure.chart import CureChart

            self.chart = CureChart()
            self._chart_place.addWidget(self.chart)
        self.chart.show_forecast(forecast, self._session.units)
        self.chart.describe(forecast)
        self.section.show_forecast(forecast, self._session.units)
        self.slider.setRange(0, len(forecast.frames.time_min) - 1)
        at_peak = int(abs(forecast.frames.time_min - forecast.peak_min).argmin())
        self.slider.setValue(at_peak)
        self._show_moment()

    def _say(self, said: Headline) -> None:
        self.answer.say(said.words, self._session.units)
        self._course.setText(said.rest)

    def _show_moment(self) -> None:
        forecast = self._forecast
        if forecast is None or forecast.frames is None:
            return
        frames = forecast.frames
        frame = min(self.slider.value(), len(frames.time_min) - 1)
        minutes = float(frames.time_min[frame])
        self.section.show_frame(frame)
        self._moment.setText(clock(forecast.question.conditions, minutes))
        if self.chart is not None:
            self.chart.show_time(minutes)

    # -- building ----------------------------------------------------------------------------------------------

    def _lay_out(self) -> None:
        above, below = QWidget(), QWidget()
        top, foot = Shrinking(above), QVBoxLayout(below)
        top.setContentsMargins(24, 8, 24, 0)
        foot.setContentsMargins(24, 4, 24, 8)
        for column in (top, foot):
            column.setSpacing(6)
        pictures, right = QHBoxLayout(), QVBoxLayout()
        pictures.setSpacing(16)
        pictures.addWidget(self._chart_room, 5)
        pictures.addLayout(right, 3)
        right.addWidget(self.section, 1)
        right.addWidget(self.slider)
        right.addWidget(self._moment, 0, Qt.AlignmentFlag.AlignHCenter)
        top.addWidget(self.answer)
        top.addWidget(self._course)
        top.addWidget(self.waiting)
        top.addLayout(pictures, 1)
        foot.addLayout(self._conditions())
        foot.addWidget(self._caution)
        foot.addLayout(self._buttons())
        foot.addWidget(self._trust)  # last: it is as long as the answer makes it
        foot.addStretch(1)
        filled(self, (above, _ABOVE_SHARE), (scrolled(below, self, is_lower=True), 100 - _ABOVE_SHARE))

    def _conditions(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(28)
        grid.setVerticalSpacing(3)
        session = self._session
        measure = declared(Batch, "shop_temperature_c")
        self._shop = edits(QuantityField(measure, session.units), "batch", "shop_temperature_c")
        self._shop.entered.connect(lambda v: session.edit(path_to(JOB.batch.shop_temperature_c), v, measure.title))
        for number, names in enumerate(_COLUMNS):
            grid.setColumnStretch(number, 1)
            if number == 2:
                grid.addWidget(self._shop, 0, 2)
            for row, name in enumerate(names, 1 if number == 2 else 0):
                grid.addWidget(self._field(name), row, number)
        return grid

    def _field(self, name: str) -> QWidget:
        path, session = (*path_to(JOB.pour.conditions), name), self._session
        if name.endswith("_on"):
            title = Conditions.model_fields[name].title or name
            choice = ChoiceField(title, lambda menu: self._fill_days(menu, name, title))
            self._days[name] = edits(choice, *path)
            return choice
        measure = declared(Conditions, name)
        field = QuantityField(measure, session.units, optional=name in _OPTIONAL)
        field.entered.connect(lambda value: session.edit(path, value, measure.title))
        self._fields[name] = edits(field, *path)
        if name in _RARE:
            self.more.hold(field)
        return field

    def _fill_days(self, menu: QMenu, name: str, title: str) -> None:
        """Two weeks from today on, or from the pour on."""
        there = self._session.job.pour.conditions
        undecided = partial(self._session.edit, (*path_to(JOB.pour.conditions), name), None, title)
        add_action(menu, _UNDECIDED[name], undecided, checked=getattr(there, name) is None)
        first = there.poured_on if name == "drill_on" and there.poured_on is not None else date.today()
        for day in (first + timedelta(days=number) for number in range(_DAYS_AHEAD)):
            put = partial(self._session.attempt, title, partial(_with_day, name=name, day=day))
            add_action(menu, write_day(day), put, checked=getattr(there, name) == day)

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        deeds: Deeds = {
            "watched": ("Write down a cup you watched…", self.ask_for_log),
            "file": ("From a thermometer's log…", self._ask_for_file),
            "forget": ("Delete this resin's log", self._forget),
        }
        for button in buttons_for(deeds, small=True).values():
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.more)
        return row

    # -- the maker's own observations ---------------------------------------------------------------------------

    def ask_for_log(self, peak_c: float | None = None) -> None:
        """Ask for a cup that was watched, and keep it."""
        resin = self._session.job.pour.resin
        if resin is None or resin.pot_life_min is None:
            return
        begin = CureLog(
            resin=resin.name,
            mass_g=clamped(CureLog, "mass_g", resin.pot_life_mass_g),
            temperature_c=clamped(CureLog, "temperature_c", self._session.job.batch.shop_temperature_c),
            gel_min=clamped(CureLog, "gel_min", resin.pot_life_min.value),
            peak_c=None if peak_c is None else clamped(CureLog, "peak_c", peak_c),
        )
        entered = edit_document(self, "A cup you watched", begin, self._session.shop)
        if entered is not None:
            self.keep_log(entered)

    def keep_log(self, entered: CureLog) -> None:
        """Put an observation into the shop's log."""
        self._session.change_shop("Write a cup down", lambda shop: shop.with_(cure_log=(*shop.cure_log, entered)))

    def _forget(self) -> None:
        resin = self._session.job.pour.resin
        if resin is not None:
            kept = tuple(one for one in self._session.shop.cure_log if one.resin != resin.name)
            self._session.change_shop(f"Delete the log of {resin.name}", lambda shop: shop.with_(cure_log=kept))

    def _ask_for_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A thermometer's log", "", "Logs (*.csv *.txt);;All files (*)")
        if name:
            self.take_file(name)

    def take_file(self, name: str) -> None:
        """Read a thermometer's log; say what is odd about it, then ask for the rest of the observation."""
        from pathlib import Path

        from orvek.errors import OrvekError
        from orvek.files import read_text
        from orvek.planning.cure.thermometer import thermometer_log

        try:
            log = thermometer_log(read_text(Path(name)))
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        if log.warnings:
            self._session.said.emit(" ".join(log.warnings))
        self.ask_for_log(round(log.peak_c, 1))


def _with_day(job: Job, name: str, day: date) -> Job:
    """The day of the pour or of the drill; who says when it is drilled pours today while that is not decided."""
    there = job.pour.conditions.with_(**{name: day})
    if there.poured_on is None:
        there = there.with_(poured_on=date.today())
    return job.with_(pour=job.pour.with_(conditions=there))
