"""The saw list of a slab: every cut in its order, seen on the picture up to the one chosen; and put on paper."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QListWidget, QPushButton, QVBoxLayout, QWidget

from orvek.planning.slabs import cut_lines, how_measured
from orvek.quantities import Units
from orvek.window.widgets.fields import quiet_label
from orvek.workpiece.slab import Slab
from orvek.workpiece.slab_cuts import SlabCut


class SawList(QWidget):
    """`chosen` says up to which cut, counted from 0; -1: none of them. `print_wanted`: put it on paper."""

    chosen = Signal(int)
    print_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.cuts = QListWidget()
        self.cuts.setAccessibleName("Saw cuts in their order")
        self.cuts.setWordWrap(True)
        self.cuts.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.cuts.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.cuts.currentRowChanged.connect(self.chosen)
        self._measured = quiet_label("")
        self._measured.setWordWrap(True)
        self.print_button = QPushButton("Print the saw list…")
        self.print_button.setProperty("kind", "small")
        self.print_button.clicked.connect(lambda _=False: self.print_wanted.emit())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.cuts, 1)
        column.addWidget(self._measured)
        column.addWidget(self.print_button)

    @property
    def row(self) -> int:
        """The cut in hand, counted from 0; -1: none."""
        return self.cuts.currentRow()

    def show_cuts(self, slab: Slab, lines: tuple[SlabCut, ...], units: Units) -> None:
        """Other cuts are played back from their first on; the same ones stay where they are."""
        self.print_button.setEnabled(bool(lines))
        words = list(cut_lines(slab, lines, units))
        if [self.cuts.item(n).text() for n in range(self.cuts.count())] == words:
            return
        self.cuts.blockSignals(True)
        self.cuts.clear()
        self.cuts.addItems(words)
        self.cuts.setCurrentRow(-1)
        self.cuts.blockSignals(False)
        self.chosen.emit(-1)
        self._measured.setText(f"{how_measured(slab)} Choose a cut to see the list up to it.")
