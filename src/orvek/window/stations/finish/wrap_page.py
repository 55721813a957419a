"""Printed sheet: the maker's picture placed on the barrels, the sheet cut and printed 1:1, what lies over it."""

from __future__ import annotations

from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from orvek.documents import JOB, WrapStep, deeds, path_to
from orvek.documents.job.printing import artwork_from
from orvek.errors import OrvekError
from orvek.files import safe_name
from orvek.planning import Plan, Station
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.finish.wrap import kept_shape_mm
from orvek.window.session import Session
from orvek.window.stations.finish.wrap_picture import WrapPicture
from orvek.window.surface import Surface
from orvek.window.widgets.asking import tell
from orvek.window.widgets.choice import ChoiceField
from orvek.window.widgets.document_fields import DocumentFields
from orvek.window.widgets.fields import FigureLine, heading
from orvek.window.widgets.image_label import ImageLabel
from orvek.window.widgets.layouts import filled, in_columns, scrolled, under_picture
from orvek.window.widgets.opening import Opening, Suggestion
from orvek.window.widgets.picture_button import turned_picture
from orvek.window.widgets.steps import Steps

_FIELDS = (
    "stands", "times", "pitch_mm", "around", "shift_mm", "seam_deg", "covered", "core_mm", "sheet_mm", "overlap_mm",
    "bleed_mm",
)  # fmt: skip
_PICTURES = "Pictures (*.png *.jpg *.jpeg *.bmp *.webp *.gif *.tif *.tiff)"


class WrapPage(QWidget):
    """The page Printed sheet of the station Finish."""

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface, self._index = session, surface, 0
        self._drawn: object = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(30)
        self._timer.timeout.connect(self._draw_turned)
        self.picture, self.turned = WrapPicture(surface), ImageLabel("The barrels turned, with the sheet")
        self.picture.moved.connect(self._drag)
        self.picture.dropped.connect(lambda: session.finish("Place the picture"))
        self.choose = ChoiceField("Picture", None)
        self.choose.button.clicked.connect(self._ask_picture)
        self.fields = DocumentFields(session, path_to(JOB.blank.steps[0]), WrapStep, *_FIELDS)
        self.shape, self.clip = QPushButton("Keep its shape"), QPushButton("Seam under the clip")
        self.shape.clicked.connect(self._keep_shape)
        self.clip.clicked.connect(self._seam_under_clip)
        self.save = QPushButton("Save the sheet 1:1…")
        self.save.clicked.connect(self._ask_sheet)
        self._figures = [FigureLine("") for _ in range(6)]
        self._steps = Steps(6, at_top=True)
        nothing = Opening(
            "No printed sheet.", "It is a step of the blank: a sheet round a core, your own picture on it."
        )
        nothing.show_suggestions(
            (Suggestion("Go to Blank", "add “A printed sheet round a core”", partial(self._go, Station.BLANK)),)
        )
        self._nothing, self._whole = scrolled(nothing), QWidget()
        self._lay_out()

    def show_plan(self, plan: Plan) -> None:
        """Show what follows for the printed sheet."""
        wrap = plan.finish.wrap if plan.finish else None
        self._nothing.setVisible(wrap is None)
        self._whole.setVisible(wrap is not None)
        if wrap is None:
            return
        self._index, step = wrap.index, wrap.step
        self.picture.show_wrap(plan, wrap, is_moving=self._session.is_previewing)
        self.choose.set_text(step.artwork.name if step.artwork and step.pattern == "picture" else "choose")
        self.fields.path = path_to(JOB.blank.steps[wrap.index])
        self.fields.show_document(step)
        self.fields["core_mm"].setVisible(step.covered == "cast over")
        for button in (self.shape, self.save):
            button.setEnabled(step.artwork is not None and step.pattern == "picture")
        unders = [figure for sheet in wrap.sheets for figure in dict.fromkeys(sheet.under_mm)]
        told = (*unders[:4], wrap.dpi, wrap.wander)
        for line, figure in zip(self._figures, (*told, *([None] * 6))[:6], strict=True):
            line.tell(figure, plan.units)
        self._steps.show_lines(wrap.lines)
        if not self._session.is_previewing:
            self._timer.start()

    def take_picture(self, path: Path) -> None:
        """Print with the picture of a file; one that cannot be read is said where it was asked for."""
        try:
            artwork = artwork_from(path)
        except OrvekError as error:
            tell(self, "Printed with", str(error))
            return
        self._put("Choose a picture", artwork=artwork, pattern="picture")

    # -- deeds -------------------------------------------------------------------------------------------------

    def _step(self) -> WrapStep:
        step = self._session.job.blank.steps[self._index]
        assert isinstance(step, WrapStep)
        return step

    def _put(self, words: str, **values: object) -> None:
        index = self._index
        self._session.attempt(words, lambda job: deeds.set_step(job, index, job.blank.steps[index].with_(**values)))

    def _drag(self, shift_mm: float, seam_deg: float) -> None:
        step = self._step().with_(shift_mm=shift_mm, seam_deg=seam_deg)
        self._session.preview(deeds.set_step(self._session.job, self._index, step))

    def _keep_shape(self) -> None:
        long = kept_shape_mm(self._step())
        if long is not None:
            self._put("Keep the picture's shape", pitch_mm=round(min(200.0, max(1.0, long)), 1))

    def _seam_under_clip(self) -> None:
        self._put("Seam under the clip", seam_deg=self._session.job.finish.clip_deg)

    def _ask_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Printed with", "", _PICTURES)
        if path:
            self.take_picture(Path(path))

    def _ask_sheet(self) -> None:
        suggested = f"{safe_name(self._session.job.batch.name)} printed sheet.pdf"
        path, _ = QFileDialog.getSaveFileName(self, "Save the sheet", suggested, "PDF (*.pdf)")
        if path:
            self.write_sheet(Path(path if path.lower().endswith(".pdf") else path + ".pdf"))

    def write_sheet(self, path: Path) -> None:
        """Write the sheets 1:1, or say why there are none."""
        from orvek.cards.every import wrap_sheets

        try:
            content = wrap_sheets(self._session.plan, self._session.shop, date.today())
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        self._session.write_file(path, content)

    def _go(self, station: Station) -> None:
        self._session.station_wanted.emit(station)

    # -- showing -----------------------------------------------------------------------------------------------

    def _draw_turned(self) -> None:
        """The turned barrels, seen from opposite the seam; once a change, never while dragging."""
        plan, evaluate = self._session.plan, self._surface.evaluator()
        key = (self._surface.seen(plan), barrels_of(plan))
        if evaluate is None or not self.isVisible() or key == self._drawn:
            return
        self._drawn = key
        job = plan.job
        picture = turned_picture(
            evaluate, job.blank.steps, bar_size(plan.layout), barrels_of(plan), job.blank.materials
        )
        self.turned.show_image(picture)

    def _lay_out(self) -> None:
        above = filled(QWidget(), (self.picture, 3), (self.turned, 1))
        left, middle, right = QVBoxLayout(), QVBoxLayout(), QVBoxLayout()
        for widget in (heading("The picture"), self.choose, *self.fields.widgets.values()):
            left.addWidget(widget)
        for widget in (heading("What follows"), *self._figures, self.shape, self.clip, self.save):
            middle.addWidget(widget)
        right.addWidget(heading("In this order"))
        right.addLayout(self._steps)
        inside = in_columns((left, 4), (middle, 4), (right, 5), line_px=4)
        under_picture(self._whole, above, inside)
        filled(self, (self._nothing, 0), (self._whole, 0))
