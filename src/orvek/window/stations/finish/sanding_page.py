"""Sanding and coats: the ladder through the drawer, the build-up, and the chance of going through."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtWidgets import QMenu, QVBoxLayout, QWidget

from orvek.craft.lathe import first_grit
from orvek.documents import BY_MATERIAL, JOB, Bottle, CoatSchool, Finish, HouseLadder, Shop, deeds, path_to
from orvek.planning import Plan
from orvek.planning.coating import every_school
from orvek.planning.finish.part import drawer_of
from orvek.planning.stuff import turned_as
from orvek.window.pictures.ladder_picture import LadderPicture
from orvek.window.session import Session
from orvek.window.widgets.choice import ChoiceField, add_action
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.edited import edits
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading, quiet_label
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.more import More

_GRITS = {
    "bare_from": "Bare, from",
    "bare_to": "Bare, to",
    "level_from": "Levelled from",
    "level_to": "Polished to",
}
_FIGURES = ("sanded_mm", "sanding_min", "drop_um", "coats_mm", "levelled_mm", "through_middle_pct", "through_ends_pct")


class SandingPage(QWidget):
    """The page Sanding and coats of the station Finish."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.picture = LadderPicture()
        self.school = ChoiceField("Finish", self._fill_schools)
        self._note = quiet_label("")
        self._note.setWordWrap(True)
        names = (
            "thin", "thin_um", "thin_drops", "medium", "medium_um", "medium_drops", "oil", "order", "activator", "wet",
            "seal", "seal_wait_min",
        )  # fmt: skip
        self.coats = DocumentFields(session, path_to(JOB.finish), Finish, *names)
        self.ladder, self.bottle = (
            ChoiceField("Ladder", self._fill_ladders),
            ChoiceField("Bottle, for drops", self._fill_bottles),
        )
        self.ladder.set_text("choose")
        self.grits = {name: ChoiceField(words, partial(self._fill_grits, name)) for name, words in _GRITS.items()}
        for name, choice in {**self.grits, "school": self.school, "bottle": self.bottle}.items():
            edits(choice, "finish", name)
        self.more, self.answer = More("sanding"), Answer()
        rare = ("thin_um", "thin_drops", "medium_um", "medium_drops", "oil", "order", "activator", "wet", "seal")
        self.more.hold(self.ladder, self.grits["level_from"], *self.coats.some(*rare), self.bottle)
        self.more.hold(self.coats["seal_wait_min"], when=lambda plan: plan.job.finish.seal > 0)
        self._figures = {name: FigureLine("") for name in _FIGURES}
        self._wanted, self._caution = quiet_label(""), caution_label()
        self._wanted.setWordWrap(True)
        chosen = (
            self.school, self._note, *self.grits.values(), *self.coats.widgets.values(), self.bottle, self.ladder
        )  # fmt: skip
        told = (*self._figures.values(), self._wanted)
        how, what, care = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        for column, title, widgets in (
            (how, "How", chosen), (what, "What follows", told), (care, "Take care", (self._caution,))
        ):  # fmt: skip
            column.addWidget(heading(title))
            for widget in widgets:
                column.addWidget(widget)
        under_picture(
            self, self.picture, in_columns((how, 4), (what, 4), (care, 3), line_px=3, foot=self.more), self.answer
        )

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for grits and coats."""
        finish, how, units = plan.finish, plan.finishing, self._session.units
        if finish is None:
            return
        self.picture.show_finish(finish, how)
        self.bottle.set_text(how.bottle or "choose")
        by_material = plan.job.finish.school == BY_MATERIAL
        self.school.set_text(finish.school.name)
        asked = f" {BY_MATERIAL.capitalize()}." if by_material else ""
        grit = first_grit(turned_as(plan.job))
        begin = f" After a clean last cut {grit} is soon enough." if grit != how.bare_from and not finish.wrap else ""
        self._note.setText(f"{finish.school.note[:1].upper()}{finish.school.note[1:]}.{asked}{begin}")
        self.coats.show_document(how)
        for name, choice in self.grits.items():
            choice.set_text(getattr(how, name))
        for name, line in self._figures.items():
            is_told = finish.coats_mm.value > 0 or name in {"sanded_mm", "sanding_min"}
            line.tell(getattr(finish, name) if is_told else None, units)
        wanted = finish.coats_wanted
        words = f"{wanted} coats like these make it one in a hundred in the middle." if wanted else ""
        self._wanted.setText(words)
        told = (plan.caution("finish.glue"), plan.caution("finish.lathe"))
        self._caution.setText(" ".join(one for one in told if one))
        last = finish.level[-1] if finish.level else finish.bare[-1] if finish.bare else None
        ladder = (
            f"{finish.bare[0].abrasive.name} to {last.abrasive.name}"
            if finish.bare and last is not None
            else "No sanding"
        )
        minutes = finish.sanding_min
        self.answer.say(f"{ladder}: about {minutes.written(units)} for a barrel", units, minutes)
        self.more.show_plan(plan)

    def _fill_schools(self, menu: QMenu) -> None:
        now = self._session.job.finish.school
        follow = partial(self._session.attempt, f"Finish: {BY_MATERIAL}", deeds.finish_by_material)
        add_action(menu, BY_MATERIAL.capitalize(), follow, checked=now == BY_MATERIAL)
        menu.addSeparator()
        for one in every_school(self._session.shop):
            choose = partial(deeds.choose_school, school=one)
            deed = partial(self._session.attempt, f"Finish: {one.name}", choose)
            add_action(menu, one.name, deed, checked=one.name == now)
        menu.addSeparator()
        add_action(menu, "Save these coats as your own…", self._keep_school)

    def _fill_ladders(self, menu: QMenu) -> None:
        for one in self._session.shop.ladders:
            choose = partial(deeds.choose_ladder, ladder=one)
            add_action(menu, one.name, partial(self._session.attempt, f"Ladder: {one.name}", choose))
        menu.addSeparator()
        add_action(menu, "Save this ladder as your own…", self._keep_ladder)

    def _fill_bottles(self, menu: QMenu) -> None:
        now = self._session.job.finish.bottle
        for one in self._session.shop.bottles:
            put = partial(self._session.edit, path_to(JOB.finish.bottle), one.name, f"Bottle: {one.name}")
            add_action(menu, one.name, put, checked=one.name == now)
        add_action(menu, "Another bottle…", self._add_bottle)

    def _keep_school(self) -> None:
        plan = self._session.plan
        how, note = plan.finishing, plan.finish.school.note if plan.finish else ""
        made = edit_document(self, "Your own way", deeds.school_of(how, f"My {how.school}"[:80], note), self._shop)
        if isinstance(made, CoatSchool):
            self._keep("schools", made)
            self._session.attempt(f"Finish: {made.name}", partial(deeds.choose_school, school=made))

    def _keep_ladder(self) -> None:
        made = edit_document(self, "Your own ladder", deeds.ladder_of(self._session.job, "My ladder"), self._shop)
        if isinstance(made, HouseLadder):
            self._keep("ladders", made)

    def _add_bottle(self) -> None:
        made = edit_document(self, "A bottle", Bottle(), self._shop)
        if isinstance(made, Bottle):
            self._keep("bottles", made)
            self._session.edit(path_to(JOB.finish.bottle), made.name, f"Bottle: {made.name}")

    @property
    def _shop(self) -> Shop:
        return self._session.shop

    def _keep(self, shelf: str, made: Any) -> None:
        put = partial(deeds.put_on_shelf, shelf=shelf, item=made)
        self._session.change_shop(f"Save {made.name}", put)

    def _fill_grits(self, name: str, menu: QMenu) -> None:
        now, advised = getattr(self._session.job.finish, name), first_grit(turned_as(self._session.job))
        if name == "bare_from" and any(one.name == advised for one in drawer_of(self._session.plan)):
            put = partial(self._session.edit, path_to(JOB.finish.bare_from), advised, f"{_GRITS[name]} {advised}")
            add_action(menu, f"After a clean cut: {advised}", put, checked=advised == now)
        kinds: dict[str, QMenu] = {}
        for one in drawer_of(self._session.plan):
            inner = kinds.get(one.kind) or menu.addMenu(one.kind.capitalize())
            kinds[one.kind] = inner
            deed = partial(self._session.edit, (*path_to(JOB.finish), name), one.name, f"{_GRITS[name]} {one.name}")
            add_action(inner, one.name, deed, checked=one.name == now)
