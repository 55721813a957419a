"""What now: a fault on its barrel, what may have caused it, every way out with what it takes, and the decision."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QHideEvent, QImage
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.craft.faults import fault_kinds
from orvek.craft.filling import fills
from orvek.documents import JOB, OWN_DUST, Fault, deeds, path_to
from orvek.documents.job.faults import looks
from orvek.errors import OrvekError
from orvek.planning import Edit, Plan, Remedy, apply_remedy, plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.faults.findings import decide_all
from orvek.planning.faults.results import FaultPlan, Together
from orvek.planning.faults.words import in_short, together_words, where
from orvek.window.session import Session
from orvek.window.stations.finish.flaw_picture import FlawPicture
from orvek.window.stations.finish.way_list import WayList
from orvek.window.surface import Surface
from orvek.window.widgets.choice import ChoiceField, add_action, refill
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading, quiet_label
from orvek.window.widgets.label import Label, without_shortcut
from orvek.window.widgets.layouts import filled, in_columns, scrolled, under_picture
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.picture_button import turned_picture
from orvek.window.widgets.steps import Steps
from orvek.workpiece.outline import SEEN_FROM_DEG

_FIELDS = ("at_mm", "azimuth_deg", "long_mm", "wide_mm", "deep_mm", "moment", "piece", "blank_no")
_BETWEEN_MS = 30


class WhatNowPage(QWidget):
    """The page What now of the station Finish."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._number, self._open = 0, ""
        self._drawn: object = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_BETWEEN_MS)
        self._timer.timeout.connect(self._draw_looks)
        self.picture, self.ways = FlawPicture(surface), WayList()
        self.picture.moved.connect(self._drag)
        self.picture.dropped.connect(lambda: session.finish("Move the flaw"))
        self.ways.opened.connect(self._open_way)
        self.which, self.kind = ChoiceField("Fault", self._fill_which), ChoiceField("What", self._fill_kinds)
        self.barrel = ChoiceField("Barrel", self._fill_barrels)
        self.fields = DocumentFields(session, path_to(JOB.faults.found[0]), Fault, *_FIELDS)
        self.add, self.remove = QPushButton("Another fault"), QPushButton("Take it away")
        self.add.clicked.connect(self._add)
        self.remove.clicked.connect(self._remove)
        self.looks = {words: QCheckBox(words) for words in looks()}
        for words, box in self.looks.items():
            box.clicked.connect(partial(self._look, words))
        self._causes, self._prevention = Label(), quiet_label("")
        self._figures = (FigureLine(""), FigureLine(""))
        self.answer = Answer()
        self._title, self._steps = Label(), Steps(5, at_top=True)
        self.who, self.decide = QLineEdit(), QPushButton("Decide for this")
        self.who.setAccessibleName("Decided by")
        self.who.setPlaceholderText("who decides")
        self.who.setMaxLength(80)
        self.who.editingFinished.connect(self._enter_who)
        self.aside = QLineEdit()
        self.aside.setAccessibleName("Put aside because")
        self.aside.setPlaceholderText("put aside because …")
        self.aside.setMaxLength(80)
        self.aside.editingFinished.connect(self._put_aside)
        self.mend = DocumentFields(session, path_to(JOB.faults.found[0]), Fault, "judged")
        self.fill = QPushButton()
        self.fill.setProperty("kind", "small")
        menu = QMenu(self.fill)
        refill(menu, self._fill_fills)
        self.fill.setMenu(menu)
        self.decide.clicked.connect(self._decide)
        self._together, self.all_so = quiet_label(""), QPushButton("Decide all so")
        self._together.setWordWrap(True)
        self.all_so.setProperty("kind", "small")
        self.all_so.clicked.connect(lambda _=False: self._decide_all())
        self._caution = caution_label()
        for label in (self._causes, self._prevention, self._title):
            label.setWordWrap(True)
        self._title.setStyleSheet("font-weight: 600;")
        self._nothing = Opening(
            "Nothing went wrong yet.", "A chip, a void, a crack: put it where it is and compare the repairs."
        )
        self._nothing.show_suggestions((Suggestion("Put a fault on a barrel", "drag it to its place", self._add),))
        # Scrolled, so that its wrapped words do not ask the whole station for height.
        self._empty, self._whole = scrolled(self._nothing), QWidget()
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show the fault in hand and its ways out."""
        found = plan.faults.found if plan.faults else ()
        everything = plan.job.faults.found
        self._empty.setVisible(not everything)
        self._whole.setVisible(bool(everything))
        if not everything:
            return
        self._number = min(self._number, len(everything) - 1)
        fault = everything[self._number]
        self._show_fields(plan, fault)
        one = next((there for there in found if there.number == self._number), None)
        for widget in (self.picture, self.ways, self.decide, self.who):
            widget.setEnabled(one is not None)
        if one is None:
            self._causes.setText("It lies beside its barrel: type where it is.")
            self.ways.show_ways((), "", "", plan.units)
            self._steps.show_lines(())
            return
        self._show_fault(plan, one)

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._timer.stop()

    # -- showing -----------------------------------------------------------------------------------------------

    def _show_fields(self, plan: Plan, fault: Fault) -> None:
        count = len(plan.job.faults.found)
        self.which.set_text(f"{self._number + 1} of {count}")
        self.kind.set_text(fault.kind)
        laid = plan.job.laid
        self.barrel.set_text(laid[fault.barrel].name if fault.barrel < len(laid) else "none of these")
        self.fields.path = path_to(JOB.faults.found[self._number])
        self.fields.show_document(fault)
        for words, box in self.looks.items():
            box.setChecked(words in fault.looks)
        self.mend.path = self.fields.path
        self.mend.show_document(fault)
        self.mend["judged"].setVisible(bool(fault.way))
        self.aside.setVisible(not fault.way)
        if not self.who.hasFocus():
            self.who.setText(fault.decided_by)
        if not self.aside.hasFocus():
            self.aside.setText(fault.parked)

    def _show_fault(self, plan: Plan, one: FaultPlan) -> None:
        units = plan.units
        if self._open not in {way.key for way in one.ways}:
            self._open = one.fault.way or (one.ways[0].key if one.ways else "")
        way = next((there for there in one.ways if there.key == self._open), one.ways[0])
        self.picture.show_fault(plan, one)
        if self._session.is_previewing:
            return  # the hand follows the picture; what it makes of the ways stands there when it lets go
        lines = [f"{'Seen: ' if seen else ''}{cause.words}." for cause, seen in one.causes]
        self._causes.setText("\n".join(line[:1].upper() + line[1:] for line in lines))
        self._prevention.setText(f"Next time: {one.prevention}.")
        for line, figure in zip(self._figures, (one.still_mm, one.wall_mm), strict=True):
            line.tell(figure, units)
        self.ways.show_ways(one.ways, way.key, one.fault.way, units)
        self._title.setText(way.title)
        self.answer.say(
            f"{way.title}: {in_short(way, units)}" if way.can else f"{way.title}: it cannot work here", units
        )
        self._steps.show_lines(way.lines)
        self.fill.setVisible(way.key == "fill" and way.can)
        self.fill.setText(without_shortcut(f"Filled with {one.fault.fill}"))
        group = self._group(plan)
        self._together.setText(together_words(group, units) if group is not None else "")
        for widget in (self._together, self.all_so):
            widget.setVisible(group is not None)
        is_decided = one.fault.way == way.key
        self.decide.setText("Decided; take it back" if is_decided else "Decide for this")
        self.decide.setEnabled(way.can or is_decided)
        told = (plan.caution("faults.glue"), plan.caution("faults.heat"))
        self._caution.setText(" ".join(words for words in told if words))
        self._timer.start()

    def _draw_looks(self) -> None:
        """Turned pictures of the barrel as it is and by the way in hand; once a change, never while dragging."""
        shown = self._session.plan
        one = next(
            (there for there in (shown.faults.found if shown.faults else ()) if there.number == self._number), None
        )
        evaluate = self._surface.evaluator()
        if one is None or evaluate is None or not self.isVisible():
            return
        way = next((there for there in one.ways if there.key == self._open), one.ways[0])
        key = (self._surface.seen(shown), barrels_of(shown), one.fault, way.key, way.look)
        if key == self._drawn:
            return
        self._drawn = key
        looks_: list[tuple[str, QImage | None]] = [("as it is", self._look_of(one.as_it_is, one))]
        words = way.title if way.is_drawn else f"{way.title}: nothing to draw"
        looks_.append((words, self._look_of(way.look, one) if way.is_drawn and way.can else None))
        self.picture.show_looks(looks_)

    def _look_of(self, edits: tuple[Edit, ...], one: FaultPlan) -> QImage | None:
        """The barrels turned when the job is changed so, seen from where the flaw is in front."""
        evaluate = self._surface.evaluator()
        try:
            planned = plan(apply_remedy(self._session.job, Remedy("", edits)), self._session.shop)
        except OrvekError:
            return None
        if evaluate is None:
            return None
        job, front = planned.job, one.fault.azimuth_deg
        barrels = tuple(replace(barrel, turned_deg=front - SEEN_FROM_DEG) for barrel in barrels_of(planned))
        return turned_picture(evaluate, job.blank.steps, bar_size(planned.layout), barrels, job.blank.materials)

    # -- deeds -------------------------------------------------------------------------------------------------

    def _fault(self) -> Fault:
        return self._session.job.faults.found[self._number]

    def _put(self, words: str, **values: object) -> None:
        number = self._number
        self._session.attempt(words, lambda job: deeds.set_fault(job, number, job.faults.found[number].with_(**values)))

    def _drag(self, at_mm: float, azimuth_deg: float) -> None:
        fault = self._fault().with_(at_mm=min(300.0, at_mm), azimuth_deg=azimuth_deg)
        self._session.preview(deeds.set_fault(self._session.job, self._number, fault))

    def _add(self) -> None:
        found = self._session.job.faults.found
        like = Fault(barrel=self._fault().barrel, decided_by=self._fault().decided_by) if found else Fault()
        self._number, self._open = len(found), ""
        self._session.attempt("Put a fault on a barrel", partial(deeds.add_fault, fault=like))

    def _remove(self) -> None:
        number, self._number, self._open = self._number, max(0, self._number - 1), ""
        self._session.attempt("Take a fault away", partial(deeds.remove_fault, number=number))

    def _open_way(self, key: str) -> None:
        self._open = key
        self.show_plan(self._session.plan)

    def _decide(self) -> None:
        fault = self._fault()
        way = "" if fault.way == self._open else self._open
        self._put("Decide" if way else "Take the decision back", way=way, decided_by=self.who.text().strip())

    def _group(self, plan: Plan) -> Together | None:
        """The repairs of all flaws of the barrel in hand; None where this is the only one."""
        groups = plan.faults.together if plan.faults is not None else ()
        return next((one for one in groups if self._number in one.numbers), None)

    def _decide_all(self) -> None:
        group = self._group(self._session.plan)
        if group is not None:
            self._open = ""
            self._session.remedy(Remedy("Decide all so", tuple(decide_all(group))))

    def _enter_who(self) -> None:
        who = self.who.text().strip()
        if who != self._fault().decided_by:
            self._put("Decided by", decided_by=who)

    def _put_aside(self) -> None:
        why = self.aside.text().strip()
        if why != self._fault().parked:
            self._put("Put it aside", parked=why)

    def _look(self, words: str) -> None:
        kept = tuple(there for there in looks() if (there in self._fault().looks) != (there == words))
        self._put("What is seen of it", looks=kept)

    def _fill_which(self, menu: QMenu) -> None:
        found = {one.number: one for one in (self._session.plan.faults.found if self._session.plan.faults else ())}
        for number, fault in enumerate(self._session.job.faults.found):
            one = found.get(number)
            place = where(one, self._session.units) if one else "beside its barrel"
            choose = partial(self._choose, number)
            add_action(menu, f"{fault.kind} · {place}", choose, checked=number == self._number)

    def _choose(self, number: int) -> None:
        self._number, self._open = number, ""
        self.show_plan(self._session.plan)

    def _fill_kinds(self, menu: QMenu) -> None:
        for kind in fault_kinds():
            put = partial(self._put_kind, kind.key)
            add_action(menu, kind.key, put, checked=kind.key == self._fault().kind)

    def _put_kind(self, key: str) -> None:
        self._open = ""
        self._put("What went wrong", kind=key, way="")

    def _fill_fills(self, menu: QMenu) -> None:
        now = self._fault().fill
        for key in (OWN_DUST, *(one.key for one in fills())):
            add_action(menu, key, partial(self._put, f"Filled with {key}", fill=key), checked=key == now)

    def _fill_barrels(self, menu: QMenu) -> None:
        for number, barrel in enumerate(self._session.job.laid):
            put = partial(self._put, f"On {barrel.name}", barrel=number)
            add_action(menu, barrel.name, put, checked=number == self._fault().barrel)

    # -- layout ------------------------------------------------------------------------------------------------

    def _lay_out(self) -> None:
        buttons = QHBoxLayout()
        for button in (self.add, self.remove):
            button.setProperty("kind", "small")
            buttons.addWidget(button)
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        left.addWidget(heading("The fault"))
        for widget in (self.which, self.kind, self.barrel, *self.fields.widgets.values()):
            left.addWidget(widget)
        left.addLayout(buttons)
        left.addWidget(heading("Seen there"))
        for box in self.looks.values():
            left.addWidget(box)
        middle.addWidget(heading("Repair options"))
        middle.addWidget(self.ways)
        right.addWidget(self._title)
        right.addWidget(self.fill, 0, Qt.AlignmentFlag.AlignLeft)
        right.addLayout(self._steps)
        row = QHBoxLayout()
        row.addWidget(self.who, 1)
        row.addWidget(self.decide)
        right.addLayout(row)
        right.addWidget(self.aside)
        right.addWidget(self.mend["judged"])
        right.addWidget(self._together)
        right.addWidget(self.all_so, 0, Qt.AlignmentFlag.AlignLeft)
        for widget in (self._caution, heading("May have caused it"), self._causes, self._prevention, *self._figures):
            right.addWidget(widget)
        inside = in_columns((left, 4), (middle, 5), (right, 5), line_px=3)
        under_picture(self._whole, self.picture, inside, self.answer)
        filled(self, (self._empty, 0), (self._whole, 0))
