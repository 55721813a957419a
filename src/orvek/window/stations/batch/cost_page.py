"""Cost: what a good pen takes, its price, what would earn most; the order, and the papers that go with the pen."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QVBoxLayout, QWidget

from orvek.documents import JOB, Selling, path_to
from orvek.errors import OrvekError
from orvek.files import safe_name
from orvek.planning import Plan
from orvek.planning.history import closed_batches
from orvek.planning.records.costs import PenCost, pen_cost
from orvek.quantities import Dimension, Units, write, write_day
from orvek.window.session import Session
from orvek.window.stations.batch.batches_picture import BatchesPicture
from orvek.window.stations.batch.stages_picture import StagesPicture
from orvek.window.stations.batch.to_buy import ToBuyList
from orvek.window.surface import Surface
from orvek.window.widgets.buttons import Deeds, buttons_for
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import Answer, FigureLine, caution_label, heading, quiet_label
from orvek.window.widgets.layouts import in_columns, under_picture
from orvek.window.widgets.steps import Steps

_PICTURE_PX = 1600


class CostPage(QWidget):
    """The page Cost of the station Batch."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._cost: PenCost | None = None
        self.picture = StagesPicture()
        self.answer = Answer()
        self._told, self._price = FigureLine(""), FigureLine("")
        self._left_out, self._order, self._owing = quiet_label(""), quiet_label(""), quiet_label("")
        self._warning = caution_label()
        for label in (self._left_out, self._order, self._owing):
            label.setWordWrap(True)
        self._gains, self.to_buy = Steps(3), ToBuyList(session)
        deeds: Deeds = {
            "prices": ("Prices…", self._ask_prices),
            "selling": ("Margin and fees…", self._ask_selling),
            "order": ("Order…", self._ask_order),
            "delivered": ("Delivered today", self._deliver),
            "certificate": ("Certificate and care card…", self._ask_certificate),
            "label": ("Price label…", self._ask_label),
        }
        self.buttons = buttons_for(deeds)
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        for widget in (heading("A good pen"), self._told, self._price, self._warning, self._left_out):
            left.addWidget(widget)
        left.addLayout(self._row("prices", "selling"))
        middle.addWidget(heading("What would earn most, a pen"))
        middle.addLayout(self._gains)
        middle.addWidget(self.to_buy)
        for widget in (heading("The order"), self._order, self._owing):
            right.addWidget(widget)
        right.addLayout(self._row("order", "delivered"))
        for key in ("certificate", "label"):
            right.addLayout(self._row(key))
        self.batches = BatchesPicture()
        pictures = QWidget()
        side = QHBoxLayout(pictures)
        side.setContentsMargins(0, 0, 24, 0)
        side.setSpacing(24)
        side.addWidget(self.picture, 3)
        side.addWidget(self.batches, 2)
        under_picture(
            self, pictures, in_columns((left, 5), (middle, 5), (right, 5), apart_px=24, line_px=4), self.answer
        )

    def show_plan(self, plan: Plan) -> None:
        """Show what a good pen of the job in hand costs."""
        self._cost = cost = pen_cost(plan, date.today())
        self.picture.show_cost(cost, plan.units)
        self.batches.show_batches(closed_batches(plan.shop.ledger), plan.units)
        for line, figure in (
            (self._told, cost.told if cost else None),
            (self._price, cost.price if cost else None),
        ):
            line.tell(figure, plan.units)
        good = cost.with_spoilt if cost and cost.with_spoilt.value > 0 else None
        self.answer.say(_answer(cost, plan.units), plan.units, good)
        self._left_out.setText(" ".join(_what_has_no_price(cost)) if cost else "")
        self._warning.setText(" ".join(cost.warnings) if cost else "A job with a pen has a cost.")
        gains = [
            f"{gain.words}: {write(gain.saves, Dimension.MONEY, plan.units, 2)}"
            for gain in (cost.gains if cost else ())
        ]
        self._gains.show_lines(gains or ["Type prices first: what an hour of work costs, a part set, a tube."])
        self.to_buy.show_plan(plan)
        self._show_order(plan)
        writable = self._session.workshop.is_writable
        for key in ("selling", "order", "delivered"):
            self.buttons[key].setEnabled(writable)
        self.buttons["certificate"].setEnabled(plan.job.pen is not None)
        self.buttons["label"].setEnabled(self.asked() > 0)

    def asked(self) -> float:
        """The price that stands on a label: as agreed, else what leaves the margin; 0 without either."""
        agreed = self._session.job.order.price
        if agreed is not None:
            return agreed
        return self._cost.price.value if self._cost is not None and self._cost.price is not None else 0.0

    def certificate(self) -> bytes:
        """The certificate and care card of the job in hand, with its turned picture where one can be made.

        Raises:
            OrvekError: there is no pen.
        """
        from orvek.cards.certificate import certificate

        plan = self._session.plan
        return certificate(plan, self._session.shop, turned_png(plan, self._surface))

    def label(self) -> bytes:
        """The price label of the job in hand.

        Raises:
            OrvekError: there is no price.
        """
        from orvek.cards.certificate import price_label

        return price_label(self._session.plan, self._session.shop, self.asked())

    def _show_order(self, plan: Plan) -> None:
        order, units = plan.job.order, plan.units
        promised = plan.job.work.promised
        parts = [f"For {order.customer}." if order.customer else "No order yet.", order.wishes]
        if promised is not None:
            parts.append(f"Promised for {write_day(promised)}.")
        if order.delivered_on is not None:
            parts.append(f"Delivered on {write_day(order.delivered_on)}.")
        self._order.setText(" ".join(part for part in parts if part))
        self._owing.setText("")
        if order.price is not None:
            agreed, paid = (write(value, Dimension.MONEY, units, 2) for value in (order.price, order.paid))
            open_sum = order.owing(plan.job.batch.pens_wanted)
            owing = f", {write(open_sum, Dimension.MONEY, units, 2)} still to come" if open_sum > 0 else ""
            self._owing.setText(f"Agreed {agreed} a pen, paid {paid}{owing}.")
        self.buttons["delivered"].setVisible(bool(order.customer) and order.delivered_on is None)

    def _row(self, *keys: str) -> QHBoxLayout:
        row = QHBoxLayout()
        for key in keys:
            row.addWidget(self.buttons[key])
        row.addStretch(1)
        return row

    def _ask_prices(self) -> None:
        self._session.shelf_wanted.emit("prices")

    def _ask_selling(self) -> None:
        found = edit_document(self, "Margin and fees", self._session.shop.selling, self._session.shop)
        if found is not None:
            self.sell_by(found)

    def sell_by(self, selling: Selling) -> None:
        """Sell with this margin and these fees."""
        self._session.change_shop("Margin and fees", lambda shop: shop.with_(selling=selling))

    def _ask_order(self) -> None:
        found = edit_document(self, "Order", self._session.job.order, self._session.shop)
        if found is not None:
            self._session.edit(path_to(JOB.order), found, "Order")

    def _deliver(self) -> None:
        self._session.edit(path_to(JOB.order.delivered_on), date.today(), "Delivered")

    def _ask_certificate(self) -> None:
        self._ask_file("Certificate and care card", "certificate", self.certificate)

    def _ask_label(self) -> None:
        self._ask_file("Price label", "price", self.label)

    def _ask_file(self, title: str, what: str, made: Callable[[], bytes]) -> None:
        suggested = f"{safe_name(self._session.job.batch.name)} {what}.pdf"
        path, _ = QFileDialog.getSaveFileName(self, title, suggested, "PDF (*.pdf)")
        if path:
            try:
                self._session.write_file(Path(path), made())
            except OrvekError as error:
                self._session.said.emit(str(error))


def _answer(cost: PenCost | None, units: Units) -> str:
    """What a good pen costs, as far as that is known."""
    if cost is None:
        return "A job with a pen has a cost"
    if cost.with_spoilt.value <= 0:
        return "Type prices first: then a good pen has its cost"
    worth = cost.with_spoilt.written(units)
    return f"A good pen costs {worth}, scrap included" if not cost.awaited else f"A good pen costs {worth} and more"


def _what_has_no_price(cost: PenCost) -> Iterator[str]:
    """Which prices are missing: first those without which no price is told."""
    if cost.awaited:
        yield f"No price for your margin before these have one: {', '.join(cost.awaited)}."
    rest = [one for one in cost.unpriced if one not in cost.awaited]
    if rest:
        yield f"Left out, because they have no price yet: {', '.join(rest)}."


def turned_png(plan: Plan, surface: Surface) -> bytes | None:
    """The turned pen as PNG; None while pictures cannot be made."""
    from orvek.cards.picture_file import picture_png

    evaluate = surface.evaluator()
    try:
        return picture_png(plan, evaluate, "turned", _PICTURE_PX) if evaluate is not None else None
    except OrvekError:
        return None
