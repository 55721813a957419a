"""Holes: how each is bored, what may go wrong and how likely; and what was measured of it afterwards."""

from __future__ import annotations

import typing
from functools import partial
from typing import Any

from PySide6.QtWidgets import QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import JOB, Bore, Hole, Press, declared, deeds, path_to
from orvek.documents.deeds import put_on_shelf
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.bore.hole_log import log_entry
from orvek.planning.bore.part import BorePlan, HolePlan
from orvek.planning.bore.words import centre_line, chances_line, from_line, pecks_line, step_line, travels_line
from orvek.quantities import Units, write_bit
from orvek.window.pictures.hole_picture import HolePicture
from orvek.window.session import Session
from orvek.window.stuff_choice import fill_stuffs
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, FigureLine, QuantityField, caution_label, heading, quiet_label
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.more import More

_SEEN = ("measured_mm", "left_x_mm", "left_y_mm", "right_x_mm", "right_y_mm", "chip_mm")
_PATTERN = ("pattern_left_x_mm", "pattern_left_y_mm", "pattern_right_x_mm", "pattern_right_y_mm")
_CHOICES = {
    "holding": "Held",
    "centred": "Centred",
    "turned": "Turned",
    "v_opens": "V's open",
    "bits": "Bits for two barrels",
}
_FIGURES = 9  # a step and the meeting of two holes among them, where there are any


def _has_colours(plan: Plan) -> bool:
    return plan.job.cast_index is not None and len(plan.job.cast.cups) > 1


def _has_two_bits(plan: Plan) -> bool:
    return plan.bore is not None and len({hole.bored_mm for hole in plan.bore.holes}) > 1


def _answer(hole: HolePlan, units: Units) -> str:
    """What is set at the press: bit, stop, speed."""
    bit = write_bit(hole.barrel.bit_diameter_mm, units)
    return f"{bit} bit, stop at {hole.depth_mm.written(units)}, {hole.turns_min.written(units)}"


class HolePage(QWidget):
    """The page Holes of the station Bore."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session = session
        self._plan: BorePlan | None = None
        self._number = 0
        self.more, self.answer = More("holes"), Answer()
        self.picture = HolePicture(surface)
        self.barrel = ChoiceField("Barrel", self._fill_barrels)
        self._bit = quiet_label("")
        self._build_choices()
        self._figures = [FigureLine("") for _ in range(_FIGURES)]
        self._pecks, self._travels, self._why, self._basis, self._centre = (quiet_label("") for _ in range(5))
        self._caution = caution_label()
        for label in (self._pecks, self._travels, self._why, self._basis, self._centre):
            label.setWordWrap(True)
        self._fields = {name: self._field(Bore, name) for name in ("exit_mm", "pattern_mm")}
        self._pattern = {name: self._field(Hole, name) for name in _PATTERN}
        self._seen = {name: self._field(Hole, name) for name in _SEEN}
        self._log = QPushButton("Add this hole to the log…")
        self._log.setProperty("kind", "small")
        self._log.clicked.connect(self.write_down)
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's holes; the barrel that was in hand stays."""
        bore, units = plan.bore, self._session.units
        self._plan = bore
        if bore is None:
            self.picture.show_hole(plan, None, units)
            return
        self._number = min(self._number, len(bore.holes) - 1)
        hole, job = bore.holes[self._number], plan.job.bore
        self.picture.show_hole(plan, hole, units)
        self.barrel.setVisible(len(bore.holes) > 1)
        self.barrel.set_text(hole.name)
        self._bit.setText(f"With {hole.bit.name}." if hole.bit else "")
        self._bit.setVisible(hole.bit is not None)
        for name, choice in self._choices.items():
            choice.set_text(getattr(job, name))
        self._press.set_text(bore.press.name if bore.is_own_press else "not described")
        self._stuff.set_text(bore.stuff.name)
        one_end = f"the {'left' if hole.from_left else 'right'} end"
        self._from.set_text("both ends" if hole.from_both else one_end)
        self._lies.set_text("to the right, end for end" if plan.job.blank.is_flipped(self._number) else "to the left")
        self._chip.set_text(hole.hole.chip_at)
        self._light.set_text(hole.hole.light)
        self._colour.set_text(hole.hole.light_colour or "all of it")
        self._chip.setVisible(hole.hole.chip_mm > 0)
        self._colour.setVisible(hole.hole.light != "not yet tested" and _has_colours(plan))
        self._mark_seen()
        for name, field in self._pattern.items():
            field.setVisible(job.centred == "on the pattern")
            field.set_value(getattr(hole.hole, name), units)
        self._centre.setText(centre_line(hole, job, units))
        wide = (hole.wide.depth_mm, hole.wide.wall_mm) if hole.wide else (None, None)
        bored = (hole.turns_min, hole.minutes, hole.scatter_mm, hole.meets_mm)
        self.answer.say(_answer(hole, units), units, hole.depth_mm)
        told = (hole.saw_mm, *wide, *bored[1:], *(*hole.chances, None, None)[:3])
        for line, figure in zip(self._figures, told, strict=True):
            line.tell(figure, units)
        if len(hole.chances) == 1:
            self._figures[-3].set_figure(hole.chances[0], units, "under 1 %")
        self._basis.setText(chances_line(bore, units))
        self._pecks.setText(pecks_line(hole, bore, units))
        self._travels.setText(travels_line(hole, bore, units))
        self._why.setText(f"{from_line(hole)} {step_line(hole, units)}".strip())
        self._caution.setText(plan.caution("bore.press"))
        for name, field in self._fields.items():
            field.set_value(getattr(job, name), units)
        for name, field in self._seen.items():
            field.set_value(getattr(hole.hole, name), units)
        self.more.show_plan(plan)

    def _mark_seen(self) -> None:
        """Say which hole's the fields are: they are of the one in hand."""
        kept = {"from_end": self._from, "chip_at": self._chip, "light": self._light, "light_colour": self._colour}
        for name, field in {**self._pattern, **self._seen, **kept}.items():
            edits(field, "bore", "holes", self._number, name)

    def hole(self) -> HolePlan | None:
        """The hole in hand."""
        return self._plan.holes[self._number] if self._plan else None

    def choose(self, number: int) -> None:
        """Take a barrel in hand."""
        self._number = number
        self.show_plan(self._session.plan)

    def write_down(self) -> None:
        """Add the hole in hand to the shop's log: its scatter is learned from it."""
        try:
            begin = log_entry(self._session.plan, self._number)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        seen = edit_document(self, "A hole that was bored", begin, self._session.shop)
        if seen is not None:
            self._session.change_shop("Add a hole to the log", lambda shop: shop.with_(bored=(*shop.bored, seen)))

    # -- building ----------------------------------------------------------------------------------------------

    def _build_choices(self) -> None:
        self._choices = {name: ChoiceField(words, partial(self._fill_choice, name)) for name, words in _CHOICES.items()}
        self._press = ChoiceField("Machine", self._fill_presses)
        self._stuff = ChoiceField("It works like", partial(fill_stuffs, self._session))
        self._from = ChoiceField("Bored from", partial(self._fill_seen, "from_end", "Bored from"))
        self._lies = ChoiceField("Nib end", self._fill_lies)
        for name, choice in {**self._choices, "press": self._press, "stuff": self._stuff}.items():
            edits(choice, "bore", name)
        self._chip = ChoiceField("The chip is", partial(self._fill_seen, "chip_at", "The chip is"))
        self._light = ChoiceField("Light test", partial(self._fill_seen, "light", "Light test"))
        self._colour = ChoiceField("Seen through", self._fill_colour)

    def _field(self, document: type[Bore] | type[Hole], name: str) -> QuantityField:
        measure = declared(document, name)
        optional = document.model_fields[name].default is None
        field = QuantityField(measure, self._session.units, optional=optional)
        if document is Bore:
            edits(field, "bore", name)
            field.entered.connect(lambda value: self._session.edit((*path_to(JOB.bore), name), value, measure.title))
        else:
            field.entered.connect(lambda value: self._see(name, value, measure.title))
        return field

    def _see(self, name: str, value: Any, words: str) -> None:
        """Put down what was decided or seen of the hole in hand."""
        self._session.attempt(words, partial(deeds.set_hole, barrel=self._number, name=name, value=value))

    def _lay_out(self) -> None:
        before = (
            self.barrel, self._bit, self._choices["bits"], self._press, self._choices["holding"],
            self._stuff, self._from, self._why, self._lies, self._choices["v_opens"],
            self._choices["centred"], *self._pattern.values(), self._centre, self._choices["turned"],
            self._fields["exit_mm"], self._fields["pattern_mm"],
        )  # fmt: skip
        at_the_press = (*self._figures, self._pecks)
        after = (
            *self._seen.values(),
            self._chip,
            self._light,
            self._colour,
            self._log,
            self._caution,
            self._basis,
            self._travels,
        )
        self._hold()
        columns = []
        for title, widgets in (("Before", before), ("At the press", at_the_press), ("Afterwards", after)):
            column = QVBoxLayout()
            column.addWidget(heading(title))
            for widget in widgets:
                column.addWidget(widget)
            columns.append((column, 1))
        inside = in_columns(*columns, line_px=4, foot=self.more)
        under_picture(self, self.picture, inside, self.answer)

    def _hold(self) -> None:
        """What few holes need, or what the sheet of the log asks as well."""
        more, choices = self.more, self._choices
        more.hold(choices["centred"], choices["turned"], *self._fields.values(), self._light)
        more.hold(choices["bits"], when=_has_two_bits)
        more.hold_row(self._lies, used=lambda plan: any(plan.job.blank.tube_flips))
        more.hold(choices["v_opens"], when=lambda plan: any(step.kind == "rip" for step in plan.job.blank.steps))
        more.hold(*(field for name, field in self._seen.items() if name != "measured_mm"))

    # -- menus -------------------------------------------------------------------------------------------------

    def _fill_barrels(self, menu: QMenu) -> None:
        for hole in self._plan.holes if self._plan else ():
            add_action(menu, hole.name, partial(self.choose, hole.number), checked=hole.number == self._number)

    def _fill_choice(self, name: str, menu: QMenu) -> None:
        now = getattr(self._session.job.bore, name)
        for value in typing.get_args(Bore.model_fields[name].annotation):
            deed = partial(self._session.edit, (*path_to(JOB.bore), name), value, f"{_CHOICES[name]} {value}")
            add_action(menu, value, deed, checked=value == now)

    def _fill_presses(self, menu: QMenu) -> None:
        session = self._session
        for press in session.shop.presses:
            deed = partial(session.edit, path_to(JOB.bore.press), press, f"Bore with {press.name}")
            add_action(menu, press.name, deed, checked=press == session.job.bore.press)
        add_action(menu, "Describe your drill press or lathe…", self._change_press)

    def _change_press(self) -> None:
        begin = self._session.job.bore.press or (self._plan.press if self._plan else Press())
        changed = edit_document(self, "What you bore with", begin, self._session.shop)
        if changed is not None:
            self._session.change_shop(f"Save {changed.name}", lambda shop: put_on_shelf(shop, "presses", changed))
            self._session.edit(path_to(JOB.bore.press), changed, f"Bore with {changed.name}")

    def _fill_seen(self, name: str, title: str, menu: QMenu) -> None:
        """What a field of the hole in hand can be."""
        hole = self.hole()
        for value in typing.get_args(Hole.model_fields[name].annotation):
            checked = hole is not None and getattr(hole.hole, name) == value
            add_action(menu, value, partial(self._see, name, value, title), checked=checked)

    def _fill_lies(self, menu: QMenu) -> None:
        session, number, hole = self._session, self._number, self.hole()
        now = session.job.blank.is_flipped(number)
        words = f"Turn {hole.name if hole else 'it'} end for end"

        def lay(is_flipped: bool) -> None:
            if is_flipped != now:
                session.attempt(words, partial(deeds.flip_tube, index=number))

        for side, is_flipped in (("to the left", False), ("to the right, end for end", True)):
            add_action(menu, side, partial(lay, is_flipped), checked=now == is_flipped)

    def _fill_colour(self, menu: QMenu) -> None:
        hole, job = self.hole(), self._session.job
        names = [cup.name for cup in job.cast.cups] if job.cast_index is not None else []
        for words, value in (("all of it", ""), *((name, name) for name in names)):
            checked = hole is not None and hole.hole.light_colour == value
            add_action(menu, words, partial(self._see, "light_colour", value, "Light seen through"), checked=checked)
