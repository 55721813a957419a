"""The orders of a batch: who gets how many pens, at which price, by when; what is delivered, paid and still owed."""

from __future__ import annotations

from datetime import date
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QInputDialog, QMenu, QPushButton, QVBoxLayout, QWidget

from orvek.documents import Order, deeds
from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.orders import free_words, order_line, state_line, stock_words
from orvek.quantities import Dimension, Units, read, write
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, refill
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear

_MONEY = Dimension.MONEY


class OrdersList(QWidget):
    """A row for each order, and what can be done with it. `paper_wanted`: certificate or label, and of which order."""

    paper_wanted = Signal(str, int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shown: tuple[tuple[Order, ...], Units] | None = None
        self._rows = QVBoxLayout()
        self._rows.setSpacing(6)
        self._free = quiet_label("")
        self._free.setWordWrap(True)
        self.add = QPushButton("Add an order…")
        self.add.setProperty("kind", "small")
        self.add.clicked.connect(lambda _=False: self._ask_new())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(self._rows)
        column.addWidget(self._free)
        column.addWidget(self.add, 0, Qt.AlignmentFlag.AlignLeft)

    def show_plan(self, plan: Plan) -> None:
        """Show the orders of the job in hand."""
        job, writable = plan.job, self._session.workshop.is_writable
        self._free.setText(" ".join(part for part in (free_words(job), stock_words(job, plan.shop.ledger)) if part))
        self.add.setEnabled(writable)
        if self._shown == (job.orders, plan.units):
            return
        self._shown = job.orders, plan.units
        clear(self._rows)
        for index, order in enumerate(job.orders):
            self._rows.addWidget(self._row(index, order, plan.units))

    def fill(self, index: int, menu: QMenu) -> None:
        """What can be done with an order."""
        order = self._session.job.orders[index]
        left = order.pens - order.delivered
        if self._session.workshop.is_writable:
            add_action(menu, "Change…", partial(self._ask_change, index))
            if left > 0:
                add_action(menu, "Delivered today…" if left > 1 else "Delivered today", partial(self._deliver, index))
            if order.delivered > 0:
                add_action(menu, "Take a delivery back…", partial(self._take_back, index))
            if order.price is not None:
                add_action(menu, "Paid…", partial(self._pay, index))
        add_action(menu, "Certificate and care card…", partial(self.paper_wanted.emit, "certificate", index))
        if order.price is not None:
            add_action(menu, "Price label…", partial(self.paper_wanted.emit, "label", index))
        if self._session.workshop.is_writable:
            menu.addSeparator()
            add_action(menu, "Remove", partial(self._remove, index))

    def _row(self, index: int, order: Order, units: Units) -> QWidget:
        row = QWidget()
        line, more = Label(order_line(order, units, self._session.job.thing)), quiet_label(state_line(order, units))
        line.setStyleSheet(theme.words_css(theme.INK, theme.BODY, 600))
        button = QPushButton("More ›")
        button.setProperty("kind", "small")
        button.setAccessibleName(f"More for the order of {order.customer or 'a customer'}")
        menu = QMenu(button)
        refill(menu, partial(self.fill, index))
        button.setMenu(menu)
        words = QVBoxLayout()
        words.setSpacing(1)
        for label in (line, more):
            label.setWordWrap(True)
            words.addWidget(label)
        side = QHBoxLayout(row)
        side.setContentsMargins(0, 0, 0, 0)
        side.addLayout(words, 1)
        side.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        return row

    def _ask_new(self) -> None:
        job = self._session.job
        order = Order(pens=max(1, deeds.orders.free_pens(job)), price=job.agreed_price)
        found = edit_document(self, "Order", order, self._session.shop)
        if found is not None:
            self._session.attempt("Add an order", lambda job: deeds.orders.add_order(job, found))

    def _ask_change(self, index: int) -> None:
        found = edit_document(self, "Order", self._session.job.orders[index], self._session.shop)
        if found is not None:
            self._session.attempt("Change an order", lambda job: deeds.orders.set_order(job, index, found))

    def _deliver(self, index: int) -> None:
        order = self._session.job.orders[index]
        pens = self._ask_pens("Delivered", "Delivered today:", order.pens - order.delivered)
        if pens is not None:
            self._session.attempt("Deliver", lambda job: deeds.orders.deliver(job, index, pens, date.today()))

    def _take_back(self, index: int) -> None:
        pens = self._ask_pens("Taken back", "How many came back:", self._session.job.orders[index].delivered)
        if pens is not None:
            name = "Take a delivery back"
            self._session.attempt(name, lambda job: deeds.orders.take_back(job, index, pens, date.today()))

    def _pay(self, index: int) -> None:
        """So much was paid today, beside what was paid before; below 0: it was paid back."""
        units, order = self._session.units, self._session.job.orders[index]
        due = max(0.0, order.to_come)
        words, agreed = QInputDialog.getText(self, "Paid", "Paid today:", text=write(due, _MONEY, units, 2))
        if not agreed:
            return
        try:
            paid = order.paid + read(words, _MONEY, units)
            order = order.with_(paid=round(paid, 2))
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.attempt("Paid", lambda job: deeds.orders.set_order(job, index, order))

    def _ask_pens(self, title: str, words: str, most: int) -> int | None:
        """How many pens; one where there is but one."""
        if most == 1:
            return 1
        text, agreed = QInputDialog.getText(self, title, words, text=str(most))
        if not agreed:
            return None
        try:
            pens = read(text, Dimension.COUNT, self._session.units)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return None
        if pens != int(pens):
            self._session.said.emit("Pens are counted whole.")
            return None
        return int(pens)

    def _remove(self, index: int) -> None:
        self._session.attempt("Remove an order", lambda job: deeds.orders.remove_order(job, index))
