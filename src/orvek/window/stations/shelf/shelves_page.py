"""Shelves: what the maker owns and has learned, listed by kind, to be added to, changed and removed."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QIcon, QPixmap
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from orvek.cards.shelf_csv import read_shelf_csv, shelf_csv
from orvek.documents import (
    Barrel,
    Material,
    Pen,
    Pigment,
    Shop,
)
from orvek.documents.deeds import put_on_shelf, take_off_shelf
from orvek.errors import OrvekError
from orvek.files import read_text
from orvek.planning import Plan
from orvek.planning.words import counted
from orvek.quantities import Dimension, read, write
from orvek.window import theme
from orvek.window.devices_sheet import ask_devices
from orvek.window.session import Session
from orvek.window.stations.shelf.shelf_rows import GROUPS, SHELVES
from orvek.window.widgets.asking import ask
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.label import Label, without_shortcut

_PLUGGED_IN = frozenset({"scales", "meters"})


class ShelvesPage(QWidget):
    """All shelves; every change is kept at once."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shown: Shop | None = None  # of which the items are
        self._kinds = QListWidget()
        self._kinds.setFixedWidth(184)
        self._kinds.setAccessibleName("Shelf")
        self._kinds.setStyleSheet("QListWidget::item { padding: 2px 8px; }")
        for group, keys in GROUPS.items():
            head = QListWidgetItem(group)
            head.setFlags(Qt.ItemFlag.NoItemFlags)
            head.setFont(theme.bold(theme.SMALL))
            head.setForeground(theme.QUIET)
            self._kinds.addItem(head)
            for key in keys:
                item = QListWidgetItem(f"  {SHELVES[key].title}")
                item.setData(Qt.ItemDataRole.UserRole, key)
                self._kinds.addItem(item)
        self._items = QListWidget()
        self._items.setAccessibleName("On this shelf")
        self._items.itemActivated.connect(lambda _: self._change())
        self._add = QPushButton("Add")
        self._menu = QMenu(self._add)
        self._add.setMenu(self._menu)
        self._add.setMinimumWidth(72)
        self._add.setStyleSheet("text-align: center;")
        self._edit, self._remove = QPushButton("Change…"), QPushButton("Delete from the shelf")
        self._import, self._export = QPushButton("Import CSV…"), QPushButton("Export CSV…")
        self.devices = QPushButton("What is plugged in…")
        self.devices.clicked.connect(lambda: ask_devices(self, self._session))
        self._import.clicked.connect(self._ask_for_table)
        self._export.clicked.connect(self._write_table)
        self._edit.clicked.connect(self._change)
        self._remove.clicked.connect(self._take_off)
        self._vessels = QLineEdit()
        self._vessels.setAccessibleName("Mixing cups")
        self._vessels.editingFinished.connect(self._set_vessels)
        self._sentence = Label()
        self._sentence.setStyleSheet(theme.words_css(theme.STOP))
        self._lay_out()
        self._kinds.currentRowChanged.connect(lambda _: self._show())
        self.choose("moulds")

    def show_plan(self, plan: Plan) -> None:
        """Show what is on the shelf that is open, as the shop has it now."""
        if plan.shop is not self._shown:
            self._show()

    def choose(self, shelf: str) -> None:
        """Open a shelf by its name in the shop."""
        rows = [self._kinds.item(row).data(Qt.ItemDataRole.UserRole) for row in range(self._kinds.count())]
        self._kinds.setCurrentRow(rows.index(shelf))

    def _lay_out(self) -> None:
        buttons = QHBoxLayout()
        for button in (self._add, self._edit, self._remove):
            buttons.addWidget(button)
        buttons.addStretch(1)
        for button in (self.devices, self._import, self._export):
            buttons.addWidget(button)
        right = QVBoxLayout()
        right.addWidget(self._items, 1)
        right.addLayout(buttons)
        cups = QHBoxLayout()
        cups.addWidget(quiet_label("Mixing cups hold"))
        cups.addWidget(self._vessels, 1)
        right.addLayout(cups)
        right.addWidget(self._sentence)
        row = QHBoxLayout(self)
        row.setContentsMargins(24, 8, 24, 8)
        row.setSpacing(24)
        row.addWidget(self._kinds)
        row.addLayout(right, 1)

    def _shelf(self) -> str:
        return str(self._kinds.currentItem().data(Qt.ItemDataRole.UserRole))

    def _owned(self) -> tuple[Any, ...]:
        return tuple(getattr(self._session.shop, self._shelf()))

    def _show(self) -> None:
        units, shelf = self._session.units, SHELVES[self._shelf()]
        self._shown = self._session.shop
        self._items.clear()
        for owned in self._owned():
            item = QListWidgetItem(f"{owned.name}    {shelf.line(owned, units)}")
            if isinstance(owned, Pigment):
                swatch = QPixmap(16, 16)
                swatch.fill(QColor(owned.colour))
                item.setIcon(QIcon(swatch))
            self._items.addItem(item)
        self._vessels.setText(", ".join(write(v, Dimension.VOLUME, units, 0) for v in self._session.shop.vessels_ml))
        self._menu.clear()
        beginnings = list(shelf.beginnings())
        for words, begin in beginnings:
            self._menu.addAction(without_shortcut(words)).triggered.connect(lambda _=False, b=begin: self._put(b, None))
        self._add.setEnabled(self._session.workshop.is_writable and bool(beginnings))
        for button in (self._edit, self._remove):
            button.setEnabled(self._session.workshop.is_writable and bool(self._owned()))
        self.devices.setVisible(self._shelf() in _PLUGGED_IN)
        self._import.setEnabled(self._session.workshop.is_writable)
        self._export.setEnabled(bool(self._owned()))
        made = "Recipes are saved at the station Pour, page Colour" if self._shelf() == "recipes" else ""
        self._add.setToolTip(made)

    def _change(self) -> None:
        row = self._items.currentRow()
        if row < 0 or not self._edit.isEnabled():
            return
        owned = self._owned()[row]
        if isinstance(owned, Pen):
            self._change_pen(owned)
        else:
            self._put(owned, row)

    def _change_pen(self, pen: Pen) -> None:
        """A pen has a sheet for each of its barrels, and one for its name."""
        parts = (*(barrel.name for barrel in pen.barrels), "Name and notes")
        chosen = ask(self, pen.name, "What do you want to change?", (*parts, "Cancel"))
        if chosen is None:
            return
        begin = pen.barrels[chosen] if chosen < len(pen.barrels) else pen
        changed = edit_document(self, parts[chosen], begin, self._session.shop)
        if isinstance(changed, Barrel):
            barrels = [changed if n == chosen else barrel for n, barrel in enumerate(pen.barrels)]
            changed = pen.with_(barrels=tuple(barrels))
        if isinstance(changed, Pen):
            after = changed
            self._keep(f"Save {after.name}", lambda shop: put_on_shelf(shop, "pens", after, instead_of=pen.name))

    def _put(self, begin: Any, row: int | None) -> None:
        changed = edit_document(self, "Change it" if row is not None else "Put on the shelf", begin, self._session.shop)
        if changed is None:
            return
        if isinstance(changed, Material):
            changed = changed.with_(key=f"own {changed.name}"[:60])
        before = self._owned()[row].name if row is not None else None
        shelf = self._shelf()
        change = lambda shop: put_on_shelf(shop, shelf, changed, instead_of=before, first=True)  # noqa: E731
        self._keep(f"Save {changed.name}", change)

    def _take_off(self) -> None:
        row = self._items.currentRow()
        if row >= 0:
            shelf, name = self._shelf(), self._owned()[row].name
            self._keep(f"Delete {name} from the shelf", lambda shop: take_off_shelf(shop, shelf, name))

    def _ask_for_table(self) -> None:
        found, _ = QFileDialog.getOpenFileName(self, "Import from CSV", "", "CSV (*.csv *.txt);;All files (*)")
        if found:
            self.import_table(Path(found))

    def import_table(self, path: Path) -> None:
        """Show what a table holds, row by row, and put what the maker takes on this shelf."""
        from orvek.window.stations.shelf.csv_preview import CsvPreview

        shelf = self._shelf()
        try:
            read = read_shelf_csv(read_text(path), shelf)
        except OrvekError as error:
            self._sentence.setText(str(error))
            return
        self._sentence.setText("")
        if CsvPreview(self, read, self._owned()).exec() != QDialog.DialogCode.Accepted:
            return

        def change(shop: Shop) -> Shop:
            for thing in read.things:
                shop = put_on_shelf(shop, shelf, thing)
            return shop

        self._keep(f"Import {counted(len(read.things), 'row')} from {path.name}", change)

    def _write_table(self) -> None:
        shelf = self._shelf()
        found, _ = QFileDialog.getSaveFileName(self, "Export as CSV", f"{shelf}.csv", "CSV (*.csv)")
        if found:
            path = Path(found if found.lower().endswith(".csv") else f"{found}.csv")
            self._session.write_file(path, shelf_csv(self._owned()))

    def _set_vessels(self) -> None:
        try:
            vessels = {read(part, Dimension.VOLUME, self._session.units) for part in self._vessels.text().split(", ")}
            if not vessels or min(vessels) < 5:
                raise ValueError
        except (OrvekError, ValueError):
            self._sentence.setText("Mixing cups are volumes of 5 ml and more, with commas between: 120 ml, 250 ml.")
            self._show()
            return
        self._sentence.setText("")
        if tuple(sorted(vessels)) != self._session.shop.vessels_ml:
            self._keep("Mixing cups", lambda shop: shop.with_(vessels_ml=tuple(sorted(vessels))))

    def _keep(self, deed: str, change: Callable[[Shop], Shop]) -> None:
        try:
            change(self._session.shop)
            self._session.change_shop(deed, change)
            self._sentence.setText("")
        except OrvekError as error:
            self._sentence.setText(str(error))
        self._show()
