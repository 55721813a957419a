"""Which pens share bits, tubes and bushings: a row a pen, a column a size; what is not in the rack yet is marked."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QTableWidget, QTableWidgetItem, QVBoxLayout, QWidget

from orvek.documents import Pen, catalogue
from orvek.planning.pen.sharing import SAME_BIT_MM, Share, shared_bits, shared_bushings, shared_tubes
from orvek.quantities import Dimension, write, write_bit
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label
from orvek.window.widgets.sheets import Sheet


class SharingDialog(Sheet):
    """Bits first, tubes and bushings at a click; the maker's own pens, or all that ship while there are none."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self.setWindowTitle("Pens that share bits, tubes, bushings")
        self.resize(860, 460)
        self._session = session
        self._pens: tuple[Pen, ...] = session.shop.pens or catalogue().pens
        title = Label("Which pens share what")
        title.setStyleSheet(theme.words_css(theme.INK, theme.LARGE, 600))
        self.table = QTableWidget()
        self.table.setAccessibleName("Pens by size")
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setCornerButtonEnabled(False)
        self.table.setShowGrid(False)
        self._words = quiet_label("")
        self._words.setWordWrap(True)
        self.bits, self.tubes, self.bushings = QPushButton("Bits"), QPushButton("Tubes"), QPushButton("Bushings")
        row = QHBoxLayout()
        shows = (self.show_bits, self.show_tubes, self.show_bushings)
        for button, show in zip((self.bits, self.tubes, self.bushings), shows, strict=True):
            button.clicked.connect(show)
            row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(10)
        column.addWidget(title)
        column.addLayout(row)
        column.addWidget(self.table, 1)
        column.addWidget(self._words)
        self.show_bits()

    def show_bits(self) -> None:
        """A column for each bit that these pens want."""
        shares, units = shared_bits(self._pens), self._session.units
        rack = [bit.hole_mm for bit in self._session.shop.rack]
        missing = [share for share in shares if not any(abs(one - share.size_mm) <= SAME_BIT_MM for one in rack)]
        heads = [f"{write_bit(share.size_mm, units)}{'' if share not in missing else ' *'}" for share in shares]
        self._fill(shares, heads)
        most = max(shares, key=lambda share: len(share.pens))
        told = f"{write_bit(most.size_mm, units)} serves {len(most.pens)} of {len(self._pens)} pens."
        self._words.setText(f"{told} * not in your rack (Shelf, Shelves, Bits)." if missing else told)

    def show_tubes(self) -> None:
        """A column for each diameter of tube."""
        shares, units = shared_tubes(self._pens), self._session.units
        self._fill(shares, [write(share.size_mm, Dimension.LENGTH, units, 2) for share in shares])
        self._words.setText("Tubes of one diameter can be cut from the same stock; lengths stand at the pen.")

    def show_bushings(self) -> None:
        """A column for each bushing: its diameter, and the tube that it fits into."""
        shares, units = shared_bushings(self._pens), self._session.units

        def head(share: Share) -> str:
            size = write(share.size_mm, Dimension.LENGTH, units)
            return f"{size} in {write(share.length_mm or 0, Dimension.LENGTH, units)}"

        self._fill(shares, [head(share) for share in shares])
        self._words.setText("A bushing's diameter, and the tube it fits into. Not measured: as the barrel is finished.")

    def _fill(self, shares: tuple[Share, ...], heads: list[str]) -> None:
        self.table.clear()
        self.table.setRowCount(len(self._pens))
        self.table.setColumnCount(len(shares))
        self.table.setHorizontalHeaderLabels(heads)
        self.table.setVerticalHeaderLabels([pen.name for pen in self._pens])
        for row, pen in enumerate(self._pens):
            for place, share in enumerate(shares):
                barrels = [barrel for name, barrel in share.users if name == pen.name]
                item = QTableWidgetItem(", ".join(barrels))
                item.setTextAlignment(Qt.AlignmentFlag.AlignCenter)
                self.table.setItem(row, place, item)
        self.table.resizeColumnsToContents()
