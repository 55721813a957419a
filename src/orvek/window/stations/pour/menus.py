"""What can be chosen at the station Pour: mould, resin, scale, insert, weighing habit and colours."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from orvek.documents import JOB, Insert, Job, Mould, Pigment, Resin, Scale, catalogue, deeds, path_to
from orvek.documents.deeds import put_on_shelf
from orvek.planning.words import mould_size
from orvek.quantities import Dimension, decimal, write
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, add_heading
from orvek.window.widgets.document_sheet import edit_document


class PourMenus:
    """Fills the menus and does what they say. Asks on behalf of `parent`."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self._session = session
        self._parent = parent

    def fill_moulds(self, menu: QMenu) -> None:
        """The maker's moulds, plain ones, and this one's sizes."""
        session = self._session
        if session.shop.moulds:
            add_heading(menu, "On your shelf")
        for mould in session.shop.moulds:
            words = f"{mould.name}   {mould_size(mould, session.units)}"
            add_action(menu, words, partial(self.take_mould, mould), checked=mould == session.job.pour.mould)
        add_heading(menu, "Plain starting points")
        for mould in catalogue().moulds:
            add_action(menu, f"{mould.name}   {mould_size(mould, session.units)}", partial(self.take_mould, mould))
        menu.addSeparator()
        add_action(menu, "Change this mould's sizes…", self._change_mould)
        add_action(menu, "Save this mould to your shelf", self._keep_mould)

    def fill_resins(self, menu: QMenu) -> None:
        """The maker's resins, and this one's numbers."""
        now = self._session.job.pour.resin
        for resin in self._session.shop.resins:
            words = f"{resin.name}{self._there(resin.name)}"
            add_action(menu, words, partial(self.take_resin, resin), checked=resin == now)
        menu.addSeparator()
        add_action(menu, "Change this resin's numbers…", self._change_resin)
        add_action(menu, "Save this resin to your shelf", self._keep_resin)

    def _there(self, name: str) -> str:
        """How much of it is left on the shelf, where that was counted."""
        left = self._session.others.left_g(self._session.plan, name)
        return "" if left is None else f"   {write(max(0.0, left), Dimension.MASS, self._session.units)} there"

    def fill_scales(self, menu: QMenu) -> None:
        """The maker's scales, and another one."""
        session = self._session
        for scale in session.shop.scales:
            words = f"{scale.name}, {decimal(scale.resolution_g)} g steps, up to {decimal(scale.capacity_g)} g"
            add_action(menu, words, partial(self._take_scale, scale), checked=scale == session.job.pour.scale)
        menu.addSeparator()
        add_action(menu, "Change this scale…", self._change_scale)

    def fill_insert(self, menu: QMenu) -> None:
        """Whether something lies in the cavities already."""
        add_action(menu, "nothing lies in the mould", lambda: self._set_insert(None), checked=self._insert() is None)
        add_action(menu, "describe what lies in each cavity…", self._change_insert)

    def fill_weighing(self, menu: QMenu) -> None:
        """Taring before each part, or the running sum."""
        now = self._session.job.pour.weighing
        for habit, words in (("tared", "tare before each part"), ("cumulative", "running sum in one cup, no tare")):
            deed = lambda h=habit: self._session.edit(path_to(JOB.pour.weighing), h, "Weighing habit")  # noqa: E731
            add_action(menu, words, deed, checked=habit == now)

    def fill_colours(self, menu: QMenu) -> None:
        """A cup with one of the maker's pigments, or clear."""
        for pigment in self._session.shop.pigments:
            words = f"{pigment.name}{self._there(pigment.name)}"
            add_action(menu, words, partial(self.add_colour, pigment))
        menu.addSeparator()
        add_action(menu, "Clear", lambda: self.add_colour(None))

    def take_mould(self, mould: Mould) -> None:
        """Pour into this mould."""
        self._session.attempt(f"Pour into {mould.name}", lambda job: deeds.choose_mould(job, mould))

    def take_resin(self, resin: Resin) -> None:
        """Pour this resin."""
        self._session.attempt(f"Use {resin.name}", lambda job: deeds.choose_resin(job, resin))

    def add_colour(self, pigment: Pigment | None) -> None:
        """One more cup."""
        name = pigment.name if pigment else "clear"
        self._session.attempt(f"Add {name}", lambda job: deeds.add_cup(job, pigment))

    def _take_scale(self, scale: Scale) -> None:
        self._session.edit(path_to(JOB.pour.scale), scale, f"Use {scale.name}")

    def _change_mould(self) -> None:
        now = self._session.job.pour.mould
        changed = edit_document(self._parent, "This mould", now, self._session.shop) if now else None
        if changed is not None:
            self._session.attempt("Change the mould", lambda job: deeds.choose_mould(job, changed))

    def _change_resin(self) -> None:
        now = self._session.job.pour.resin
        changed = edit_document(self._parent, "This resin", now, self._session.shop) if now else None
        if changed is not None:
            self._session.attempt("Change the resin", lambda job: deeds.choose_resin(job, changed))

    def _change_scale(self) -> None:
        now = self._session.job.pour.scale
        changed = edit_document(self._parent, "This scale", now, self._session.shop)
        if changed is not None:
            self._take_scale(changed)

    def _change_insert(self) -> None:
        begin = self._insert() or Insert(volume_ml=10)
        changed = edit_document(self._parent, "What lies in each cavity", begin, self._session.shop)
        if changed is not None:
            self._set_insert(changed)

    def _insert(self) -> Insert | None:
        return self._session.job.pour.insert

    def _set_insert(self, insert: Insert | None) -> None:
        def change(job: Job) -> Job:
            return deeds.set_value(job, path_to(JOB.pour.insert), insert)

        self._session.attempt("Set the insert", change)

    def _keep_mould(self) -> None:
        now = self._session.job.pour.mould
        if now:
            self._session.change_shop(f"Save {now.name}", lambda shop: put_on_shelf(shop, "moulds", now))

    def _keep_resin(self) -> None:
        now = self._session.job.pour.resin
        if now:
            self._session.change_shop(f"Save {now.name}", lambda shop: put_on_shelf(shop, "resins", now, first=True))
