"""Boards: what to begin with, and how it lies on the boards at hand, round their holes and cracks."""

from __future__ import annotations

from functools import partial
from html import escape

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from orvek.documents import BadSpot, Board, LaminateStep, Material, RipStep, material
from orvek.planning import Figure, Plan
from orvek.planning.glue_up.nesting import offcuts
from orvek.planning.glue_up.results import NestAnswer
from orvek.planning.glue_up.rows import Placed
from orvek.planning.glue_up.saw import Stock, added_up, chevron_figures, panel_figures
from orvek.planning.words import taken_lines
from orvek.quantities import Units, decimal, write_sizes
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import Answer, FigureLine, heading, quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.layouts import clear, scrolled
from orvek.window.widgets.waiting import Waiting
from orvek.workpiece.lengths import starts_mm

_GAP = 26


class BoardsPicture(QWidget):
    """All boards to one scale, with the pieces that come out of them."""

    def __init__(self) -> None:
        super().__init__()
        self._answer: NestAnswer | None = None
        self._units = Units()
        self._own: tuple[Material, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Boards at hand with the pieces on them")

    def show_answer(self, answer: NestAnswer | None, units: Units, own: tuple[Material, ...]) -> None:
        """Show a layout; `own` are the maker's materials."""
        self._answer, self._units, self._own = answer, units, own
        boards = answer.question.boards if answer else ()
        self.setMinimumHeight(int(sum(b.width_mm * self._scale() + _GAP for b in boards)) + 10)
        self.setAccessibleDescription(answer.words if answer else "")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, self.minimumHeight())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self._answer is not None:
            self.show_answer(self._answer, self._units, self._own)

    def _scale(self) -> float:
        boards = self._answer.question.boards if self._answer else ()
        longest = max((board.length_mm for board in boards), default=600.0)
        widest = sum(board.width_mm for board in boards) or 100.0
        return min((self.width() - 8) / longest, 300 / widest, 2.0)

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._answer is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        scale, top = self._scale(), 4.0
        for number, board in enumerate(self._answer.question.boards):
            painter.setPen(theme.QUIET)
            sizes = write_sizes((board.length_mm, board.width_mm, board.thickness_mm), self._units)
            painter.drawText(QRectF(4, top, self.width(), 16), Qt.AlignmentFlag.AlignLeft, f"{board.name}, {sizes}")
            area = QRectF(4, top + 18, board.length_mm * scale, board.width_mm * scale)
            there = material(board.material, self._own)
            painter.fillRect(area, QColor(there.colour))
            painter.fillRect(area, theme.FADED)
            painter.setPen(theme.pen(theme.INK, 1))
            painter.drawRect(area)
            for bad in board.bad:
                spot = QRectF(
                    area.left() + bad.x_mm * scale, area.bottom() - (bad.y_mm + bad.width_mm) * scale,
                    bad.length_mm * scale, bad.width_mm * scale,
                )  # fmt: skip
                painter.fillRect(spot.intersected(area), theme.hatching())
                painter.drawRect(spot.intersected(area))
            for placed in self._answer.placed:
                if placed.board == number:
                    self._paint_piece(painter, area, scale, placed, self._answer.question.stock[placed.stock])
            top += board.width_mm * scale + _GAP

    def _paint_piece(self, painter: QPainter, area: QRectF, scale: float, placed: Placed, stock: Stock) -> None:
        piece = QRectF(
            area.left() + placed.x_mm * scale, area.bottom() - (placed.y_mm + stock.width_mm) * scale,
            stock.length_mm * scale, stock.width_mm * scale,
        )  # fmt: skip
        painter.fillRect(piece, QColor(material(stock.material, self._own).colour))
        painter.setPen(theme.pen(theme.INK, 1))
        painter.drawRect(piece)
        if piece.height() >= 12 and piece.width() > 40:
            light = QColor(material(stock.material, self._own).colour).lightness() > 120
            painter.setPen(QColor(theme.ON_LIGHT if light else theme.ON_DARK))
            painter.drawText(piece, Qt.AlignmentFlag.AlignCenter, f"{decimal(stock.length_mm)}")


class BoardsPage(QWidget):
    """The page Boards of the station Glue-up."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._stock = QVBoxLayout()
        self._stock.setSpacing(2)
        self.picture = BoardsPicture()
        self.words = Answer()
        self._forecaster = session.answers.forecasters["boards"]
        self.waiting = Waiting(self._forecaster, "the layout")
        self._forecaster.progressed.connect(self._follow)
        self._answer: NestAnswer | None = None
        self._is_looking = False
        self._yield, self._left_over = quiet_label(""), quiet_label("")
        self._left_over.setWordWrap(True)
        self._panel = [FigureLine("") for _ in range(5)]
        left = QVBoxLayout()
        self._begin = heading("To begin with")
        left.addWidget(self._begin)
        left.addLayout(self._stock)
        left.addWidget(self._yield)
        left.addSpacing(8)
        for line in self._panel:
            left.addWidget(line)
        left.addSpacing(8)
        left.addWidget(self._left_over)
        left.addStretch(1)
        buttons = QHBoxLayout()
        self.look_on = QPushButton("Look on")
        self.look_on.setProperty("kind", "small")
        self.look_on.setToolTip("Look longer for a layout of more pieces or with less board; it can be stopped")
        self.look_on.clicked.connect(lambda: session.answers.look_on("boards", session.plan))
        self.look_on.hide()
        buttons.addWidget(self.look_on)
        for words, fill in (
            ("Add a board", self._fill_add),
            ("Mark a bad spot", self._fill_bad),
            ("Remove a board", self._fill_off),
        ):
            button = QPushButton(words)
            button.setProperty("kind", "small")
            menu = QMenu(button)
            menu.aboutToShow.connect(lambda m=menu, f=fill: (m.clear(), f(m)))
            button.setMenu(menu)
            buttons.addWidget(button)
        buttons.addStretch(1)
        area = scrolled(self.picture)
        right = QVBoxLayout()
        right.addWidget(self.waiting)
        right.addWidget(area, 1)
        right.addLayout(buttons)
        whole, row = QVBoxLayout(self), QHBoxLayout()
        whole.setContentsMargins(24, 8, 24, 12)
        whole.setSpacing(4)
        whole.addWidget(self.words)
        whole.addLayout(row, 1)
        row.setSpacing(24)
        row.addLayout(left, 2)
        row.addLayout(right, 3)

    def show_plan(self, plan: Plan) -> None:
        """Show what a plan begins with."""
        clear(self._stock)
        units = self._session.units
        for words in taken_lines(plan):
            bar = Label(words)
            bar.setStyleSheet(theme.words_css(theme.INK, theme.SMALL))
            self._stock.addWidget(bar)
        for stock in added_up(plan.glue_up.stock if plan.glue_up else ()):
            sizes = write_sizes((stock.length_mm, stock.width_mm, stock.thickness_mm), units)
            name = escape(plan.job.blank.material(stock.material).name)  # the maker's own may be called anything
            line = Label(f"<b>{stock.count} ×</b> {name}<br>{stock.name.lower()}, {sizes}")
            line.setTextFormat(Qt.TextFormat.RichText)
            line.setStyleSheet(theme.words_css(theme.INK, theme.SMALL))
            self._stock.addWidget(line)
        for shown, figure in zip(self._panel, [*_panel(plan), *[None] * len(self._panel)], strict=False):
            shown.tell(figure, units)
        if plan.glue_up:
            many = plan.glue_up.bars > 1
            self._begin.setText(f"To begin with, for {plan.glue_up.bars} bars" if many else "To begin with")
            sawn = (
                ""
                if plan.bars.in_hand
                else f"{plan.glue_up.yield_pct:.0f} % of it ends in the bar, kerf and skim counted"
            )
            self._yield.setText(sawn)
        self.show_answer(plan.boards)

    def show_answer(self, answer: NestAnswer | None) -> None:
        """Show a layout; None while it is being found, and where nobody waited for it."""
        self._answer = answer
        awaited = self._forecaster.is_awaited()
        none = "Laying the pieces out …" if awaited else "The pieces were not laid out."
        may = " There may be a way with less board." if answer and not answer.missing and not answer.is_best else ""
        self.words.say(f"{answer.words}{may}" if answer else none, self._session.units)
        self._offer_to_look_on(answer)
        self._left_over.setText("\n".join(offcuts(answer)) if answer else "")
        self.picture.show_answer(answer, self._session.units, self._session.shop.materials)

    def _offer_to_look_on(self, answer: NestAnswer | None) -> None:
        is_open = answer is not None and bool(answer.placed) and not answer.is_best
        self.look_on.setVisible(is_open and not self._is_looking)

    def _follow(self, part: float) -> None:
        self._is_looking = part < 1
        self._offer_to_look_on(self._answer)

    def _fill_add(self, menu: QMenu) -> None:
        plan = self._session.plan.glue_up
        wanted = list(dict.fromkeys(stock.material for stock in plan.stock)) if plan else []
        own = [there.key for there in self._session.shop.materials]
        for key in dict.fromkeys([*wanted, *own, "hard-maple"]):
            add_action(menu, material(key, self._session.shop.materials).name, partial(self._ask_for_board, key))

    def _ask_for_board(self, key: str) -> None:
        begin = Board(name=f"{material(key, self._session.shop.materials).name} board", material=key)
        board = edit_document(self, "A board at hand", begin, self._session.shop)
        if board is not None:
            self.keep_boards((*self._session.shop.boards, board))

    def _fill_bad(self, menu: QMenu) -> None:
        for number, board in enumerate(self._session.shop.boards):
            add_action(menu, f"on {board.name}…", partial(self._ask_for_spot, number))

    def _ask_for_spot(self, number: int) -> None:
        begin = BadSpot(x_mm=0, y_mm=0, length_mm=20, width_mm=20)
        spot = edit_document(self, "A hole, a crack, a bad end", begin, self._session.shop)
        if spot is not None:
            boards = list(self._session.shop.boards)
            boards[number] = boards[number].with_(bad=(*boards[number].bad, spot))
            self.keep_boards(tuple(boards))

    def _fill_off(self, menu: QMenu) -> None:
        boards = self._session.shop.boards
        for number, board in enumerate(boards):
            rest = (*boards[:number], *boards[number + 1 :])
            add_action(menu, board.name, partial(self.keep_boards, rest))

    def keep_boards(self, boards: tuple[Board, ...]) -> None:
        """Put these boards on the shelf."""
        self._session.change_shop("Change the boards", lambda shop: shop.with_(boards=boards))


def _panel(plan: Plan) -> tuple[Figure, ...]:
    """What the board of strips must measure, where the bar lies at an angle in it; and its V's where it is ripped."""
    steps, layout = plan.job.blank.steps, plan.layout
    angled = next((s for s in steps if isinstance(s, LaminateStep) and 0 < s.angle_deg < 90), None)
    if angled is None or layout is None:
        return ()
    long = starts_mm(steps, layout.length_mm)[0]
    figures: tuple[Figure, ...] = panel_figures(long, layout.across_mm, angled.angle_deg)
    if any(isinstance(step, RipStep) for step in steps):
        repeat = sum(layer.thickness_mm for layer in angled.strips) + angled.glue_mm * (len(angled.strips) - 1)
        figures = (*figures, *chevron_figures(long, layout.across_mm / 2, angled.angle_deg, repeat))
    return figures
