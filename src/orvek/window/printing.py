"""Cards on paper: the system's print dialog with a preview, at the size they were drawn.

`CardPreview` shows the pages of a card as the printer will put them down; what is drawn 1:1 stays 1:1.
"""

from __future__ import annotations

from PySide6.QtCore import QMarginsF, QRectF, QSizeF
from PySide6.QtGui import QImage, QPageLayout, QPageSize, QPaintEngine, QPainter
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog, QPrintPreviewWidget
from PySide6.QtWidgets import QWidget

_MOST_DPI = 600  # finer than any line on a card; more only takes memory
_SEEN_DPI = 200  # of a preview: twice what a screen shows of a page as large as it is
_POINTS_PER_INCH = 72


class CardPrint:
    """A card that can be put on a printer page by page."""

    def __init__(self, pdf: bytes) -> None:
        import pypdfium2

        self._pages = pypdfium2.PdfDocument(pdf)

    def __len__(self) -> int:
        return len(self._pages)

    def size_pt(self, page: int) -> tuple[float, float]:
        """Width and height of a page, in points of 1/72 in."""
        width, height = self._pages[page].get_size()
        return float(width), float(height)

    def image(self, page: int, dpi: int) -> QImage:
        """A page as the printer puts it down."""
        bitmap = self._pages[page].render(scale=dpi / _POINTS_PER_INCH, rev_byteorder=True)
        made = QImage(bitmap.buffer, bitmap.width, bitmap.height, bitmap.stride, QImage.Format.Format_RGB888)
        return made.copy()

    def set_up(self, printer: QPrinter) -> None:
        """Give the printer the card's paper, so that nothing is scaled."""
        size = QPageSize(QSizeF(*self.size_pt(0)), QPageSize.Unit.Point, "", QPageSize.SizeMatchPolicy.FuzzyMatch)
        way = QPageLayout.Orientation.Portrait
        printer.setFullPage(True)
        printer.setPageLayout(QPageLayout(size, way, QMarginsF(0, 0, 0, 0)))

    def put_on(self, printer: QPrinter) -> None:
        """Paint all pages from the paper's corner, one millimetre of the card to one of the paper."""
        painter = QPainter(printer)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        is_seen = painter.paintEngine().type() is QPaintEngine.Type.Picture  # the preview's own, not a printer's
        dpi = min(printer.resolution(), _SEEN_DPI if is_seen else _MOST_DPI)
        try:
            for page in self._wanted(printer):
                if page != self._wanted(printer)[0]:
                    printer.newPage()
                scale = printer.resolution() / _POINTS_PER_INCH
                width, height = self.size_pt(page)
                image = self.image(page, dpi)
                painter.drawImage(QRectF(0, 0, width * scale, height * scale), image)
        finally:
            painter.end()

    def _wanted(self, printer: QPrinter) -> range:
        first, last = printer.fromPage() or 1, printer.toPage() or len(self)
        return range(min(first, len(self)) - 1, min(last, len(self)))


class CardPreview(QPrintPreviewDialog):
    """The preview of a card; its own button opens the system's print dialog."""

    def __init__(self, parent: QWidget | None, words: str, pdf: bytes) -> None:
        self._card, self._printer = CardPrint(pdf), QPrinter(QPrinter.PrinterMode.HighResolution)
        self._printer.setDocName(words)
        self._printer.setCreator("Orvek")
        self._card.set_up(self._printer)
        super().__init__(self._printer, parent)  # which only borrows the printer
        self.setWindowTitle(f"Print: {words}")
        self.resize(900, 700)
        self.paintRequested.connect(self._card.put_on)

    def page_count(self) -> int:
        """How many pages are shown."""
        shown = self.findChild(QPrintPreviewWidget)
        return shown.pageCount() if shown is not None else 0
