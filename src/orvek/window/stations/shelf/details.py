"""The piece in hand: what it is, where it lies, and what can be done with it on the shelf."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from orvek.cards.labels import ROLL, labels
from orvek.documents import PhotoStep, Piece, Shop, deeds
from orvek.documents.shelf.piece import new_code
from orvek.errors import OrvekError
from orvek.files import safe_name
from orvek.planning.folding import listed
from orvek.planning.shelf_list import Entry, amount_line, counted_line, piece_size, state_line
from orvek.planning.stock import Held, reach_pens
from orvek.planning.words import counted
from orvek.quantities import Dimension, decimal, read, write, write_day
from orvek.window import theme
from orvek.window.session import Session
from orvek.window.stations.shelf.looks import PieceLooks
from orvek.window.surface import Surface
from orvek.window.widgets.asking import ask
from orvek.window.widgets.buttons import Deeds, buttons_for, more_for
from orvek.window.widgets.document_sheet import edit_document
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.image_label import ImageLabel
from orvek.window.widgets.label import Label

if TYPE_CHECKING:
    from orvek.window.slab.dialog import SlabDialog

_PICTURE_TALL, _LEAST_BUTTON = 54, 84


class PieceDetails(QWidget):
    """One entry of the shelf."""

    def __init__(self, session: Session, surface: Surface, looks: PieceLooks) -> None:
        super().__init__()
        self._session, self._surface, self._looks = session, surface, looks
        self._entry: Entry | None = None
        self._name, self._line, self._more = Label(), Label(), quiet_label("")
        self._name.setStyleSheet(theme.words_css(theme.INK, theme.TITLE, 600))
        for label in (self._name, self._line, self._more):
            label.setWordWrap(True)
            label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        self.picture = ImageLabel("The piece from the side")
        self.picture.setFixedHeight(_PICTURE_TALL)
        looks.made.connect(self._show_look)
        self.buttons = buttons_for(self._deeds(), small=True)
        self.more, self.more_deeds = more_for(self._seldom(), "this piece")
        row = QHBoxLayout()
        row.setSpacing(14)
        for button in (*self.buttons.values(), self.more):
            button.setMinimumWidth(_LEAST_BUTTON)  # on a small screen its words may be cut, its name is not
            row.addWidget(button, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        for part in (self.picture, self._name, self._line, self._more):
            column.addWidget(part)
        column.addLayout(row)

    def show_entry(self, entry: Entry | None) -> None:
        """Show a piece; nothing where none is in hand."""
        self._entry = entry
        self.setVisible(entry is not None)
        if entry is None:
            return
        piece, units = entry.piece, self._session.units
        self._name.setText(piece.name)
        parts = (piece.kind, piece_size(piece, units), amount_line(entry), state_line(entry))
        self._line.setText(" · ".join(part for part in parts if part))
        self._more.setText(" · ".join(self._told(entry)))
        self.picture.setVisible(piece.is_solid)
        self.picture.show_image(self._looks.look(entry))
        writable = self._session.workshop.is_writable
        for button in self.buttons.values():
            button.setEnabled(writable)
        for key, action in self.more_deeds.items():
            action.setEnabled(writable or key == "label")
        self.buttons["photos"].setVisible(piece.is_solid)
        self.buttons["saw"].setVisible(piece.is_solid and entry.left > 0)
        is_slab = piece.is_solid and piece.form == "rectangular" and entry.left > 0 and piece.kind != "orphan barrel"
        self.more_deeds["bars"].setVisible(is_slab)

    def as_step(self, entry: Entry) -> PhotoStep | None:
        """A piece as a blank begins with it: by its photos, else as its look is computed."""
        from orvek.workpiece.piece_look import rendered

        album = self._looks.album(entry)
        if album is not None or entry.piece.look is None:
            return entry.piece.as_bar(album)
        evaluate = self._surface.evaluator()
        return rendered(evaluate, entry.piece) if evaluate is not None else None

    def put_away(self, entry: Entry) -> Piece:
        """A piece as it stands on the shelf: of one that the work has made the photos are kept now."""
        album = self._looks.album(entry) if entry.is_new else None
        piece = entry.piece
        if album is None or piece.album:
            return piece
        try:
            return piece.with_(album=self._session.workshop.keep_album(album))
        except OrvekError as error:
            self._session.said.emit(str(error))
            return piece

    def _told(self, entry: Entry) -> list[str]:
        piece, units = entry.piece, self._session.units
        told = [piece.code]
        parent = next((one.name for one in self._session.shop.pieces if one.code == piece.parent), piece.parent)
        if parent:
            told.append(f"from {parent}, at {write(piece.from_mm, Dimension.LENGTH, units)}")
        if piece.made_on is not None:
            told.append(f"made {write_day(piece.made_on)}")
        if piece.counted_at is not None:
            told.append(counted_line(entry))
        reach = reach_pens(self._session.plan, Held(piece, entry.left))
        if reach is not None and not entry.is_new:
            told.append(f"enough for {counted(reach, self._session.job.thing)} like {self._session.job.batch.name}")
        told += [f"{words} {said}" for words, said in (("lot", piece.lot), ("from", piece.seller)) if said]
        if piece.until is not None:
            past = piece.until < date.today()
            told.append(f"{'past its date: ' if past else 'use before '}{write_day(piece.until)}")
        if piece.moisture_pct is not None:
            told.append(f"moisture {decimal(piece.moisture_pct)} %")
        if piece.uptake_pct is not None:
            told.append(f"took up {decimal(piece.uptake_pct)} %")
        if piece.is_solid and piece.recipe:
            told.append(piece.recipe)
        return [*told, *([piece.notes] if piece.notes else [])]

    def _show_look(self, code: str) -> None:
        if self._entry is not None and self._entry.piece.code == code:
            self.picture.show_image(self._looks.look(self._entry))

    # -- deeds -------------------------------------------------------------------------------------------------

    def _deeds(self) -> Deeds:
        return {
            "saw": ("Saw it…", self._ask_cut),
            "photos": ("Photos…", self._photograph),
            "change": ("Change…", self._change),
        }

    def _seldom(self) -> Deeds:
        return {
            "bars": ("Bars out of it…", self._ask_bars),
            "count": ("Count…", self._ask_count),
            "label": ("Label…", self._ask_label),
            "delete": ("Delete from the shelf", self._take_off),
        }

    def _change(self) -> None:
        entry = self._entry
        if entry is None:
            return
        piece = entry.piece
        found = edit_document(self, f"Change {piece.name}", piece, self._session.shop, first=piece.asked)
        if found is not None:
            kept = found.with_(album=self.put_away(entry).album)
            if found.amount != entry.piece.amount:  # another number is a count, too
                kept = kept.with_(counted_at=datetime.now().replace(microsecond=0))
            self._keep(f"Change {kept.name}", kept)

    def _photograph(self) -> None:
        from orvek.window.photos.sheet import ask_photos

        entry = self._entry
        if entry is None:
            return
        step = ask_photos(self, entry.piece.as_bar(self._looks.album(entry)), self._session.units)
        if step is not None:
            self.put_photos(entry, step)

    def put_photos(self, entry: Entry, step: PhotoStep) -> None:
        """A piece with these photos, and the size that was measured beside them."""
        piece = self.photographed(entry.piece, step)
        if piece is not None:
            self._keep(f"Photos of {piece.name}", piece)

    def photographed(self, piece: Piece, step: PhotoStep) -> Piece | None:
        """A piece with an album that is kept from now on, of its size; None, and a sentence, where it is not kept."""
        try:
            return deeds.pieces.photographed(piece, step, self._session.workshop.keep_album(step))
        except OrvekError as error:
            self._session.said.emit(str(error))
            return None

    def _ask_cut(self) -> None:
        if self._entry is None or not self._may_be_sawn(self._entry):
            return
        units = self._session.units
        half = write(self._entry.piece.length_mm / 2, Dimension.LENGTH, units)
        words, agreed = QInputDialog.getText(self, "Saw it", "Across, from its left end:", text=half)
        if agreed:
            self._read(words, Dimension.LENGTH, self.cut_at)

    def _may_be_sawn(self, entry: Entry) -> bool:
        """A piece that a job begins with is not sawn unasked: that job would have no bar."""
        if not entry.is_taken:
            return True
        names = listed(entry.reserved_for)
        words = f"{entry.piece.name} is reserved for {names}, which then goes on with a part, or has no bar."
        return ask(self, "Saw it all the same?", words, ("Saw it", "Leave it"), 1) == 0

    def cut_at(self, at_mm: float) -> None:
        """Saw the piece across; each part keeps its part of the photos."""
        entry = self._entry
        if entry is None:
            return
        if not 0 < at_mm < entry.piece.length_mm:
            long = write(entry.piece.length_mm, Dimension.LENGTH, self._session.units)
            self._session.said.emit(f"The cut must lie on the piece, between its left end and {long}.")
            return
        kerf, album = self._session.job.blank.saw_kerf_mm, self._looks.album(entry)
        names = ["", ""]
        try:
            if album is not None:
                halves = deeds.pieces.halves_mm(entry.piece, at_mm, kerf)
                sound = [span for span in halves if span[1] - span[0] >= deeds.pieces.LEAST_MM]
                parts = {span: deeds.photos.stretch_of(album, *span) for span in sound}
                names = [self._session.workshop.keep_album(parts[span]) if span in parts else "" for span in halves]
            shop = self._session.shop
            if entry.is_new:
                shop = deeds.pieces.put_piece(shop, self.put_away(entry))
            after = deeds.pieces.cut_off(shop, entry.piece.code, at_mm, kerf, (names[0], names[1]))
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.change_shop(f"Saw {entry.piece.name}", lambda _: after)

    def _ask_bars(self) -> None:
        from orvek.window.slab.dialog import SlabDialog
        from orvek.window.slab.source import PhotoSlab

        entry, session = self._entry, self._session
        album = self.as_step(entry) if entry is not None else None
        if entry is None or album is None or not self._may_be_sawn(entry):
            return
        pens = (session.job.pen, *session.shop.pens)
        pen = next((one for one in pens if one is not None), None)
        kerf = session.job.blank.saw_kerf_mm
        source = PhotoSlab(entry.piece.name, album, pen, kerf)
        dialog = SlabDialog(self, source, session.units, self._surface, self._print_saw_list)
        if dialog.exec() == QDialog.DialogCode.Accepted:
            self.saw_into(source.albums(dialog.bars))
        elif source.album != album:
            piece = self.photographed(entry.piece, source.album)
            if piece is not None:
                self._keep(f"Mark the edge of {piece.name}", piece)

    def _print_saw_list(self, dialog: SlabDialog) -> None:
        """Show the saw list as it comes out of the printer."""
        from orvek.cards.slab_sheet import slab_sheet
        from orvek.window.printing import CardPreview
        from orvek.window.slab.source import PhotoSlab

        source, preferences = dialog.source, self._session.shop.preferences
        if isinstance(source, PhotoSlab):
            sheet = slab_sheet(source.name, source.album, source.slab, dialog.bars, source.values["kerf"], preferences)
            CardPreview(dialog, f"Saw list of {source.name}", sheet).exec()

    def saw_into(self, albums: tuple[PhotoStep, ...]) -> None:
        """Saw the piece in hand into bars: each stands on the shelf with its part of the photos."""
        entry, session = self._entry, self._session
        if entry is None:
            return
        try:
            parts = tuple(self._bar(entry.piece, n, album) for n, album in enumerate(albums, 1))
            shop = deeds.pieces.put_piece(session.shop, self.put_away(entry)) if entry.is_new else session.shop
            after = deeds.pieces.saw_into(shop, entry.piece.code, parts)
        except OrvekError as error:
            session.said.emit(str(error))
            return
        session.change_shop(f"Saw {entry.piece.name} into {len(parts)} bars", lambda _: after)

    def _bar(self, piece: Piece, number: int, album: PhotoStep) -> Piece:
        new = {"name": f"{piece.name[:70]}, bar {number}", "code": new_code(), "kind": "bar", "count": 1}
        bar = piece.with_(**new, look=None, parent=piece.code, born="", state="free")
        return deeds.pieces.photographed(bar, album, self._session.workshop.keep_album(album))

    def _ask_count(self) -> None:
        if self._entry is None:
            return
        words, agreed = QInputDialog.getText(self, "Count", "There are now:", text=f"{max(0.0, self._entry.left):g}")
        if agreed:
            is_mass = self._entry.piece.grams is not None
            self._read(words, Dimension.MASS if is_mass else Dimension.COUNT, self.count)

    def count(self, amount: float) -> None:
        """A stock count: so many, or so many grams, are there today."""
        entry = self._entry
        if entry is None:
            return
        now, piece = datetime.now().replace(microsecond=0), self.put_away(entry)

        def counted(shop: Shop) -> Shop:
            there = deeds.pieces.put_piece(shop, piece) if entry.is_new else shop
            return deeds.pieces.count_piece(there, piece.code, amount, now)

        self._session.change_shop(f"Count {piece.name}", counted)

    def _ask_label(self) -> None:
        if self._entry is None:
            return
        preferred = self._session.shop.preferences.paper
        chosen = ask(self, "Label", "On which paper?", (preferred, ROLL, "Cancel"))
        if chosen not in {0, 1}:
            return
        suggested = f"{safe_name(self._entry.piece.name)} label.pdf"
        path, _ = QFileDialog.getSaveFileName(self, "Save the label", suggested, "PDF (*.pdf)")
        if path:
            self.write_label(Path(path), preferred if chosen == 0 else ROLL)

    def write_label(self, path: Path, paper: str) -> None:
        """Write the label of the piece in hand; one for each of several that are alike."""
        if self._entry is not None:
            many = (self._entry.piece,) * max(1, min(240, round(self._entry.left)))
            self._session.write_file(path, labels(many, paper, self._session.units))

    def _take_off(self) -> None:
        entry = self._entry
        if entry is None:
            return
        if entry.is_new:
            self._keep(f"Delete {entry.piece.name} from the shelf", entry.piece.with_(count=0, state="lost"))
            return
        name, code = entry.piece.name, entry.piece.code
        self._session.change_shop(f"Delete {name} from the shelf", lambda shop: deeds.pieces.take_piece_off(shop, code))

    def _keep(self, words: str, piece: Piece) -> None:
        self._session.change_shop(words, lambda shop: deeds.pieces.put_piece(shop, piece))

    def _read(self, words: str, dimension: Dimension, deed: Callable[[float], None]) -> None:
        try:
            value = read(words, dimension, self._session.units)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        if value < 0:
            self._session.said.emit("There cannot be less than nothing.")
            return
        deed(value)
