"""Gluing: every glue-up in its order, how many joints while the glue is open, and when the next cut may follow."""

from __future__ import annotations

from msgspec.structs import replace
from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import JOB, GlueUp, declared, path_to
from orvek.planning import Plan
from orvek.planning.glue_up.order import SAW_ALL_FIRST
from orvek.planning.glue_up.saw import CutPlan, GlueJoint
from orvek.planning.words import counted
from orvek.quantities import Dimension, Units, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, QuantityField, heading, quiet_label
from orvek.window.widgets.layouts import scrolled
from orvek.window.widgets.more import More
from orvek.window.widgets.readings import ReadingsField

_ROW = 112


class JointsPicture(QWidget):
    """A line for each glue-up: what is needed against what the glue leaves, then the wait, in amber."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[tuple[int, GlueJoint], ...] = ()  # how many alike follow one another, and the first of them
        self._units = Units()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Glue-ups in their order")

    def show_cutting(self, plan: CutPlan | None, units: Units) -> None:
        """Show a cut plan's glue-ups."""
        joints = plan.joints if plan else ()
        self._units, self._rows = units, _alike(joints)
        self.setMinimumHeight(_ROW * max(1, len(self._rows)))
        self.setAccessibleDescription("; ".join(f"{joint.what}, {joint.joints} joints" for joint in joints))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(420, self.minimumHeight())

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        first = 1
        for row, (count, joint) in enumerate(self._rows):
            top, last = row * _ROW, first + count - 1
            title = f"{first}  {joint.what}" if count == 1 else f"{first} to {last}  {joint.what}, one after another"
            first = last + 1
            painter.setFont(theme.bold())
            painter.setPen(theme.INK)
            painter.drawText(QRectF(0, top, self.width(), 20), Qt.AlignmentFlag.AlignLeft, title)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.QUIET)
            needed, left = (write(v, Dimension.DURATION, self._units) for v in (joint.needed_min, joint.open_min))
            rest = write(joint.rest_min, Dimension.DURATION, self._units)
            step = f"step {joint.step + 1}" if count == 1 else f"steps {joint.step + 1} to {joint.step + count}, each"
            work = f"{counted(joint.joints, 'joint')} in {needed}, open for {left}"
            line = f"{step} · {work}"
            painter.drawText(QRectF(22, top + 20, self.width() - 22, 18), Qt.AlignmentFlag.AlignLeft, line)
            bar = QRectF(22, top + 41, 180, 6)
            after = f"then wait {rest}: {joint.then[:1].lower()}{joint.then[1:]}"
            part = joint.needed_min / max(joint.open_min, 1e-6)
            colour = theme.STOP if part > 1 else theme.CAUTION if part > 0.8 else theme.AMBER
            painter.fillRect(QRectF(bar.left(), bar.top(), bar.width() * min(1.0, part), 6), colour)
            painter.setPen(theme.pen(theme.QUIET, 1))
            painter.drawRect(bar)
            for place, words in ((52, f"{joint.face_down} on the table"), (70, after)):
                painter.drawText(QRectF(22, top + place, self.width() - 22, 18), Qt.AlignmentFlag.AlignLeft, words)
            painter.setPen(theme.HAIRLINE)
            painter.drawLine(0, top + _ROW - 12, self.width(), top + _ROW - 12)


def _alike(joints: tuple[GlueJoint, ...]) -> tuple[tuple[int, GlueJoint], ...]:
    """Glue-ups that follow one another and differ in nothing but their step stand on one row: how many, the first."""
    rows: list[tuple[int, GlueJoint]] = []
    for joint in joints:
        count, first = rows[-1] if rows else (0, joint)
        if count and replace(joint, step=first.step) == first and joint.step == first.step + count:
            rows[-1] = (count + 1, first)
        else:
            rows.append((1, joint))
    return tuple(rows)


class GluingPage(QWidget):
    """The page Gluing of the station Glue-up."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture = JointsPicture()
        self.answer = Answer()
        self.glue = ChoiceField("Glue", self._fill_glues)
        self.activator = ChoiceField("Activator", self._fill_activator)
        self.order = ChoiceField("Order of work", self._fill_order)
        self._note = quiet_label("")
        self._note.setWordWrap(True)
        self._fields: dict[str, QuantityField] = {}
        for name in ("minutes_a_joint", "skim_mm"):
            measure = declared(GlueUp, name)
            field = QuantityField(measure, session.units)
            field.entered.connect(lambda v, n=name, t=measure.title: session.edit((*path_to(JOB.glue_up), n), v, t))
            self._fields[name] = edits(field, "glue_up", name)
        self.sheets = ReadingsField("Sheets, by calipers")
        self.sheets.entered.connect(lambda v: session.edit(path_to(JOB.glue_up.sheet_readings_mm), v, "Sheet readings"))
        self.more = More("gluing")
        edits(self.sheets, "glue_up", "sheet_readings_mm")
        self.more.hold(*self._fields.values(), self.sheets)
        for name, choice in {"glue": self.glue, "activator": self.activator, "order": self.order}.items():
            edits(choice, "glue_up", name)
        right = QVBoxLayout()
        right.setSpacing(6)
        for widget in (
            heading("How you glue"),
            self.order,
            self.glue,
            self.activator,
            *self._fields.values(),
            self.sheets,
            self._note,
        ):
            right.addWidget(widget)
        right.addStretch(1)
        right.addWidget(self.more, 0, Qt.AlignmentFlag.AlignRight)
        area = scrolled(self.picture)
        left = QVBoxLayout()
        left.addWidget(heading("In this order"))
        first = quiet_label("Fit everything dry first. Mark the faces; the same one lies on the table from end to end.")
        first.setWordWrap(True)
        left.addWidget(first)
        left.addWidget(area, 1)
        whole, row = QVBoxLayout(self), QHBoxLayout()
        whole.setContentsMargins(24, 8, 24, 12)
        whole.addWidget(self.answer)
        whole.addLayout(row, 1)
        row.setSpacing(28)
        row.addLayout(left, 5)
        row.addLayout(right, 3)

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's glue-ups."""
        how, units = plan.job.glue_up, self._session.units
        hand = plan.glue_up.glue if plan.glue_up else plan.shop.all_glues[0]
        self.picture.show_cutting(plan.glue_up, units)
        self.glue.set_text(hand.key)
        joints = plan.glue_up.joints if plan.glue_up else ()
        shortest = min((joint.open_min for joint in joints), default=0.0)
        words = f"{counted(len(joints), 'glue-up')}, each within {write(shortest, Dimension.DURATION)}"
        self.answer.say(words if joints else "Nothing is glued up", units)
        self.order.set_text(how.order)
        self.activator.setVisible(hand.activator)
        self.activator.set_text("on one face" if how.activator else "none")
        self._note.setText(hand.note[:1].upper() + hand.note[1:] + ".")
        for name, field in self._fields.items():
            field.set_value(getattr(how, name), units)
        self.sheets.set_values(how.sheet_readings_mm, units)
        self.more.show_plan(plan)

    def _fill_glues(self, menu: QMenu) -> None:
        now = self._session.job.glue_up.glue
        for one in self._session.shop.all_glues:
            words = (
                f"{one.key}, open {write(one.open_min, Dimension.DURATION)}, holds after "
                f"{write(one.handle_min, Dimension.DURATION)}"
            )
            deed = lambda k=one.key: self._session.edit(path_to(JOB.glue_up.glue), k, f"Glue with {k}")  # noqa: E731
            add_action(menu, words, deed, checked=one.key == now)

    def _fill_order(self, menu: QMenu) -> None:
        for value in ("cut, glue, cut", SAW_ALL_FIRST):
            deed = lambda v=value: self._session.edit(path_to(JOB.glue_up.order), v, f"Order: {v}")  # noqa: E731
            add_action(menu, value, deed, checked=self._session.job.glue_up.order == value)

    def _fill_activator(self, menu: QMenu) -> None:
        for words, value in (("none", False), ("on one face, glue on the other", True)):
            deed = lambda v=value: self._session.edit(path_to(JOB.glue_up.activator), v, "Activator")  # noqa: E731
            add_action(menu, words, deed, checked=self._session.job.glue_up.activator == value)
