"""Cost: what a good pen takes, its price, what would earn most; the orders, and the papers that go with the pen."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QVBoxLayout, QWidget

from orvek.documents import Selling
from orvek.errors import OrvekError
from orvek.files import safe_name
from orvek.planning import Plan
from orvek.planning.history import closed_batches
from orvek.planning.records.costs import PenCost, pen_cost
from orvek.quantities import Dimension, Units, write
from orvek.window.session import Session
from orvek.window.stations.batch.batches_picture import BatchesPicture
from orvek.window.stations.batch.orders import OrdersList
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
        self._good = heading("A good pen")
        self._told, self._price, self._left = FigureLine(""), FigureLine(""), FigureLine("")
        self._left_out = quiet_label("")
        self._left_out.setWordWrap(True)
        self._warning = caution_label()
        self.orders = OrdersList(session)
        self.orders.paper_wanted.connect(self._ask_paper)
        self._gains, self.to_buy = Steps(3), ToBuyList(session)
        deeds: Deeds = {
            "prices": ("Prices…", self._ask_prices),
            "selling": ("Margin and fees…", self._ask_selling),
            "certificate": ("Certificate and care card…", partial(self._ask_paper, "certificate", None)),
            "label": ("Price label…", partial(self._ask_paper, "label", None)),
        }
        self.buttons = buttons_for(deeds)
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        for widget in (self._good, self._told, self._price, self._left, self._warning, self._left_out):
            left.addWidget(widget)
        left.addLayout(self._row("prices", "selling"))
        middle.addWidget(heading("What would earn most"))
        middle.addLayout(self._gains)
        middle.addWidget(self.to_buy)
        right.addWidget(heading("Orders"))
        right.addWidget(self.orders)
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
        self._good.setText(f"A good {plan.job.thing}")
        self.picture.show_cost(cost, plan.units)
        self.batches.show_batches(closed_batches(plan.shop.ledger), plan.units)
        for line, figure in (
            (self._told, cost.told if cost else None),
            (self._price, cost.price if cost else None),
            (self._left, cost.left if cost else None),
        ):
            line.tell(figure, plan.units)
        good = cost.with_spoilt if cost and cost.with_spoilt.value > 0 else None
        self.answer.say(_answer(cost, plan.units, plan.job.thing), plan.units, good)
        self._left_out.setText(" ".join(_what_has_no_price(cost)) if cost else "")
        self._warning.setText(" ".join(cost.warnings) if cost else "A job with a pen has a cost.")
        gains = [
            f"{gain.words}: {write(gain.saves, Dimension.MONEY, plan.units, 2)}"
            for gain in (cost.gains if cost else ())
        ]
        self._gains.show_lines(gains or ["Type prices first: what an hour of work costs, a part set, a tube."])
        self.to_buy.show_plan(plan)
        self.orders.show_plan(plan)
        self.buttons["selling"].setEnabled(self._session.workshop.is_writable)
        self.buttons["certificate"].setEnabled(plan.job.pen is not None and not plan.job.makes_bars)
        self.buttons["label"].setEnabled(self.asked() > 0)

    def asked(self, index: int | None = None) -> float:
        """The price that stands on a label: as agreed, else what leaves the margin; 0 without either.

        `index` is whose order it is for; None: nobody's, what all orders agree on.
        """
        job = self._session.job
        agreed = job.agreed_price if index is None else job.orders[index].price
        if agreed is not None:
            return agreed
        return self._cost.price.value if self._cost is not None and self._cost.price is not None else 0.0

    def certificate(self, customer: str = "") -> bytes:
        """The certificate and care card of the job in hand, with its turned picture where one can be made.

        Raises:
            OrvekError: there is no pen.
        """
        from orvek.cards.certificate import certificate

        plan = self._session.plan
        return certificate(plan, self._session.shop, turned_png(plan, self._surface), customer)

    def label(self, index: int | None = None) -> bytes:
        """The price label of the job in hand.

        Raises:
            OrvekError: there is no price.
        """
        from orvek.cards.certificate import price_label

        return price_label(self._session.plan, self._session.shop, self.asked(index))

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

    def _ask_paper(self, what: str, index: int | None) -> None:
        """A certificate or a price label, for an order or for nobody."""
        customer = "" if index is None else self._session.job.orders[index].customer
        if what == "certificate":
            self._ask_file("Certificate and care card", f"certificate {customer}", partial(self.certificate, customer))
        else:
            self._ask_file("Price label", f"price {customer}", partial(self.label, index))

    def _ask_file(self, title: str, what: str, made: Callable[[], bytes]) -> None:
        suggested = f"{safe_name(f'{self._session.job.batch.name} {what}'.strip())}.pdf"
        path, _ = QFileDialog.getSaveFileName(self, title, suggested, "PDF (*.pdf)")
        if path:
            try:
                self._session.write_file(Path(path), made())
            except OrvekError as error:
                self._session.said.emit(str(error))


def _answer(cost: PenCost | None, units: Units, thing: str) -> str:
    """What a good pen costs, as far as that is known."""
    if cost is None:
        return "A job with a pen has a cost"
    if cost.with_spoilt.value <= 0:
        return f"Type prices first: then a good {thing} has its cost"
    worth = cost.with_spoilt.written(units)
    return f"A good {thing} costs {worth}{' and more' if cost.awaited else ', scrap included'}"


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
