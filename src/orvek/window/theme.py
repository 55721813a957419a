"""Colours, type and spacing of the window. Colours mean things: brass is tube, hatching is waste, amber is waiting."""

from __future__ import annotations

import re
from importlib import resources

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontDatabase, QPalette, QPen
from PySide6.QtWidgets import QApplication

FAMILY = "Orvek Sans"

PAPER = QColor("#F5F2EB")
PANEL = QColor("#FCFBF8")
HAIRLINE = QColor("#DAD4C7")
INK = QColor("#23272C")
QUIET = QColor("#62656A")
ACCENT = QColor("#20324A")
BRASS = QColor("#B58A3A")
BRASS_DARK = QColor("#7A5A1E")
AMBER = QColor("#C98A1B")
STOP = QColor("#B3261E")
CAUTION = QColor("#946300")
MOULD = QColor("#DDD6C6")
BLANK = QColor("#E6DFD0")
FADED = QColor(252, 251, 248, 190)  # laid over what will be cut away
ON_LIGHT, ON_DARK = "#23272C", "#FCFBF8"  # words on a maker's own colours, whatever the ground

# The same meanings on a dark ground: for the evening, and for desktops that are dark. Red stays red, brass brass.
_EVENING = (
    (PAPER, QColor("#1F2226")),
    (PANEL, QColor("#282B30")),
    (HAIRLINE, QColor("#43474E")),
    (INK, QColor("#ECE9E3")),
    (QUIET, QColor("#ABAEB4")),
    (ACCENT, QColor("#A4BEE2")),
    (BRASS, QColor("#C59A4A")),
    (BRASS_DARK, QColor("#E2BE78")),
    (AMBER, QColor("#D9992B")),
    (STOP, QColor("#F28B80")),
    (CAUTION, QColor("#E3B341")),
    (MOULD, QColor("#3B3F45")),
    (BLANK, QColor("#4B4740")),
    (FADED, QColor(31, 34, 38, 190)),
)
_GROUNDS = {False: tuple(QColor(here) for here, _ in _EVENING), True: tuple(there for _, there in _EVENING)}

_COLOUR = re.compile("#[0-9A-Fa-f]{6}")
SMALL, BODY, LARGE, TITLE, BENCH = 12, 14, 18, 24, 40
GRID = 8

_SHEET = """
* {{ font-family: "{family}"; font-size: {body}px; color: {ink}; }}
QMainWindow, QDialog {{ background: {paper}; }}
QToolTip {{ background: {panel}; color: {ink}; border: 1px solid {hairline}; padding: 4px; font-size: {small}px; }}
QMenuBar {{ background: {panel}; border-bottom: 1px solid {hairline}; padding: 2px 8px; }}
QMenuBar::item {{ padding: 4px 10px; background: transparent; }}
QMenuBar::item:selected {{ background: {paper}; }}
QMenu {{ background: {panel}; border: 1px solid {hairline}; padding: 4px; }}
QMenu::item {{ padding: 5px 24px 5px 16px; }}
QMenu::item:selected {{ background: {accent}; color: {panel}; }}
QMenu::item:disabled {{ color: {quiet}; }}
QMenu::separator {{ height: 1px; background: {hairline}; margin: 4px 8px; }}
QScrollArea {{ border: none; background: transparent; }}
QSlider:horizontal {{ min-height: 20px; }}
QSlider::groove:horizontal {{ height: 2px; background: {hairline}; }}
QSlider::sub-page:horizontal {{ height: 2px; background: {accent}; }}
QSlider::handle:horizontal {{
    background: {paper}; border: 2px solid {accent}; width: 12px; height: 12px; margin: -7px 0; border-radius: 8px;
}}
QSlider::handle:horizontal:focus {{ background: {accent}; }}
QScrollBar:vertical {{ background: transparent; width: 8px; }}
QScrollBar::handle:vertical {{ background: {hairline}; min-height: 24px; border-radius: 4px; }}
QScrollBar:horizontal {{ background: transparent; height: 8px; }}
QScrollBar::handle:horizontal {{ background: {hairline}; min-width: 24px; border-radius: 4px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; background: none; }}
QScrollBar::add-page, QScrollBar::sub-page {{ background: none; }}
QSplitter::handle {{ background: transparent; }}
QSplitter::handle:hover {{ background: {hairline}; }}
QLineEdit {{ border: none; border-bottom: 1px solid {hairline}; background: transparent; padding: 1px 2px;
  selection-background-color: {accent}; selection-color: {panel}; }}
QLineEdit:hover {{ border-bottom: 1px solid {quiet}; }}
QLineEdit:focus {{ background: {panel}; }}
QLineEdit:disabled {{ color: {quiet}; }}
QPlainTextEdit {{ border: 1px solid {hairline}; background: {panel}; }}
QPushButton, QToolButton {{ border: 1px solid {accent}; background: transparent; color: {accent}; padding: 4px 12px;
  font-weight: 600; text-align: left; }}
QPushButton:hover, QToolButton:hover {{ background: {panel}; }}
QPushButton:disabled, QToolButton:disabled {{ border-color: {hairline}; color: {quiet}; }}
QPushButton:default {{ background: {accent}; color: {panel}; }}
QPushButton:default:disabled {{ background: {paper}; color: {quiet}; }}
QToolBar {{ background: {panel}; border: none; }}
QToolBar QToolButton {{ border: none; padding: 4px; }}
QToolButton::menu-indicator, QPushButton::menu-indicator {{ image: none; width: 0; }}
QPushButton[kind="small"] {{ padding: 2px 8px; font-size: {small}px; text-align: center; }}
QToolButton[kind="value"], QPushButton[kind="value"] {{ border: none; border-bottom: 1px solid {hairline};
  padding: 2px 2px; font-weight: 600; color: {ink}; }}
QToolButton[kind="value"]:hover, QPushButton[kind="value"]:hover {{ border-bottom: 1px solid {quiet}; }}
QToolButton[kind="place"], QPushButton[kind="place"] {{ border: none; padding: 2px 2px; font-weight: 600;
  color: {ink}; }}
QToolButton[kind="place"]:hover, QPushButton[kind="place"]:hover {{ background: {paper}; }}
QListWidget {{ border: none; background: transparent; outline: none; }}
QListWidget::item {{ padding: 5px 8px; }}
QListWidget::item:selected {{ background: {paper}; color: {ink}; border-left: 3px solid {accent}; font-weight: 600; }}
QTableWidget {{ border: none; background: transparent; selection-background-color: {accent}; selection-color: {panel};
  outline: none; }}
QTableWidget::item {{ padding: 3px 6px; }}
QHeaderView {{ background: transparent; }}
QHeaderView::section {{ background: transparent; border: none; border-bottom: 1px solid {hairline}; color: {quiet};
  font-size: {small}px; font-weight: 400; padding: 3px 6px; }}
QTableCornerButton::section {{ background: transparent; border: none; border-bottom: 1px solid {hairline}; }}
QComboBox {{ border: none; border-bottom: 1px solid {hairline}; background: transparent; padding: 2px; }}
QComboBox QAbstractItemView {{ background: {panel}; border: 1px solid {hairline}; selection-background-color: {accent};
  selection-color: {panel}; }}
QCheckBox {{ spacing: 8px; }}
"""


def set_ground(*, evening: bool) -> None:
    """Take the colours of the day or of the evening. Labels keep theirs until `change_ground`."""
    for (here, _), colour in zip(_EVENING, _GROUNDS[evening], strict=True):
        here.setRgba(colour.rgba())  # in place: whoever holds one of these colours holds the new one too


def change_ground(application: QApplication, *, evening: bool) -> None:
    """Take the colours of the day or of the evening in all windows that are open."""
    before = [QColor(here) for here, _ in _EVENING]
    set_ground(evening=evening)
    changed = {old.name(): new.name() for old, (new, _) in zip(before, _EVENING, strict=True) if old.alpha() == 255}
    application.setPalette(_palette())
    application.setStyleSheet(style_sheet())
    for widget in application.allWidgets():
        sheet = _COLOUR.sub(lambda found: changed.get(found[0].lower(), found[0]), widget.styleSheet())
        if sheet != widget.styleSheet():
            widget.setStyleSheet(sheet)
        role, palette = widget.backgroundRole(), widget.palette()
        if widget.testAttribute(Qt.WidgetAttribute.WA_SetPalette) and palette.color(role).name() in changed:
            palette.setColor(role, QColor(changed[palette.color(role).name()]))
            widget.setPalette(palette)
        widget.update()


def apply(application: QApplication, *, evening: bool = False) -> None:
    """Load the shipped font and give the application its look, whatever the desktop's own theme."""
    set_ground(evening=evening)
    for weight in ("Regular", "Medium", "SemiBold"):
        data = resources.files("orvek.data").joinpath("fonts", f"OrvekSans-{weight}.ttf").read_bytes()
        QFontDatabase.addApplicationFontFromData(data)
    application.setStyle("Fusion")
    application.setFont(font())
    application.setPalette(_palette())
    application.setStyleSheet(style_sheet())


def style_sheet() -> str:
    """The one style sheet of the program."""
    return _SHEET.format(
        family=FAMILY,
        body=BODY,
        small=SMALL,
        ink=INK.name(),
        paper=PAPER.name(),
        panel=PANEL.name(),
        hairline=HAIRLINE.name(),
        quiet=QUIET.name(),
        accent=ACCENT.name(),
    )


def font(size: int = BODY, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The shipped sans in pixels; its figures are tabular."""
    made = QFont(FAMILY)
    made.setPixelSize(size)
    made.setWeight(weight)
    return made


def bold(size: int = BODY) -> QFont:
    """For figures and headings."""
    return font(size, QFont.Weight.DemiBold)


def rgb(colour: QColor) -> tuple[int, int, int]:
    """A colour for an array: red, green and blue, 0 to 255."""
    return colour.red(), colour.green(), colour.blue()


def pen(colour: QColor, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine) -> QPen:
    """A pen of this colour with flat ends."""
    made = QPen(colour, width, style)
    made.setCapStyle(Qt.PenCapStyle.FlatCap)
    return made


def hatching() -> QBrush:
    """Waste and kerf."""
    return QBrush(QColor(120, 112, 96, 120), Qt.BrushStyle.BDiagPattern)


def words_css(colour: QColor, size: int = SMALL, weight: int = 400) -> str:
    """Style of a label that is not plain body text."""
    return f"color: {colour.name()}; font-size: {size}px; font-weight: {weight};"


def _palette() -> QPalette:
    palette = QPalette()
    for role, colour in {
        QPalette.ColorRole.Window: PAPER,
        QPalette.ColorRole.Base: PANEL,
        QPalette.ColorRole.Text: INK,
        QPalette.ColorRole.WindowText: INK,
        QPalette.ColorRole.ButtonText: INK,
        QPalette.ColorRole.Button: PANEL,
        QPalette.ColorRole.Highlight: ACCENT,
        QPalette.ColorRole.HighlightedText: PANEL,
        QPalette.ColorRole.PlaceholderText: QUIET,
        QPalette.ColorRole.ToolTipBase: PANEL,
        QPalette.ColorRole.ToolTipText: INK,
    }.items():
        palette.setColor(role, colour)
    return palette
