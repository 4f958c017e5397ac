"""Colours by role, fonts that ship, and the one style sheet made from them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path

from PyQt6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPalette
from PyQt6.QtWidgets import QApplication, QDialogButtonBox, QMessageBox, QWidget

ASSETS = Path(__file__).parents[1] / "assets"

BODY, NARROW, DRAWING = "Barlow", "Barlow Semi Condensed", "osifont"


@dataclass(frozen=True)
class Roles:
    """Colours by what they are for (#RRGGBB)."""

    paper: str = "#F5F2EA"
    card: str = "#FBF9F4"
    rail: str = "#EEEADF"
    ink: str = "#27323A"
    quiet: str = "#5C6B73"
    line: str = "#D8D2C4"
    brass: str = "#A9782A"
    brass_ink: str = "#87601F"
    tint: str = "#F0E3C8"
    out: str = "#F7E6E0"
    out_line: str = "#A8432F"
    hatch: str = "#D9CDB4"
    view_top: str = "#F1F1EE"
    view_bottom: str = "#D9DCDC"
    body: str = "#B4BABC"
    status: str = "#27323A"
    status_ink: str = "#F5F2EA"


LIGHT = Roles()
DARK = Roles(
    paper="#1E252A",
    card="#252D33",
    rail="#192025",
    ink="#E8E4D9",
    quiet="#A6B0B5",
    line="#3A444B",
    brass="#D2A24C",
    brass_ink="#E0B768",
    tint="#4A3D22",
    out="#4C2F28",
    out_line="#E07B66",
    hatch="#5A5443",
    view_top="#39434A",
    view_bottom="#20272C",
    body="#9AA3A7",
    status="#12171A",
    status_ink="#E8E4D9",
)

#: the property of an application that has its style and font, of a window that wears the style sheet
DRESSED = "dressed"
_current = LIGHT


def roles() -> Roles:
    """The palette in force."""
    return _current


def is_dark() -> bool:
    """Whether the dark palette is in force."""
    return _current is DARK


@cache
def load_fonts() -> tuple[str, ...]:
    """Register the shipped fonts once; the families found."""
    families: list[str] = []
    for file in sorted((ASSETS / "fonts").glob("*.ttf")):
        number = QFontDatabase.addApplicationFont(str(file))
        families += QFontDatabase.applicationFontFamilies(number) if number >= 0 else []
    return tuple(dict.fromkeys(families))


def font(pixels: int = 13, weight: QFont.Weight = QFont.Weight.Normal, family: str = BODY) -> QFont:
    """A shipped font in pixels, with tabular figures; drawing symbols fall back to the drawing font."""
    f = QFont()
    f.setFamilies([family, DRAWING, "Noto Sans Symbols"])
    f.setPixelSize(pixels)
    f.setWeight(weight)
    if family != DRAWING:
        f.setFeature(QFont.Tag("tnum"), 1)
    return f


def narrow(pixels: int = 13, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The narrow font, for captions and words beside."""
    return font(pixels, weight, NARROW)


def drawing(pixels: int = 15) -> QFont:
    """The drawing font, for what is quoted from a sheet."""
    return font(pixels, QFont.Weight.Normal, DRAWING)


def icon() -> QIcon:
    """The application's icon."""
    return QIcon(str(ASSETS / "desktop" / "org.lathedsolid.LathedSolid.svg"))


def apply(app: QApplication, *, dark: bool) -> None:
    """Put the palette in force for the whole application, and for the windows that were dressed."""
    global _current
    _current = DARK if dark else LIGHT
    if not app.property(DRESSED):  # style and font stay as they are
        app.setProperty(DRESSED, True)
        load_fonts()
        app.setStyle("Fusion")
        app.setFont(font(13))
    app.setPalette(_palette(_current))
    for window in app.topLevelWidgets():
        if window.property(DRESSED):
            dress(window)


def dress(window: QWidget) -> None:
    """Give a window the style sheet, now and whenever the palette changes. Its dialogs and menus wear it too.

    A sheet of the whole application would cost five times as much to change.
    """
    window.setProperty(DRESSED, True)
    window.setStyleSheet(stylesheet(_current))


def _palette(r: Roles) -> QPalette:
    p = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, r.paper),
        (QPalette.ColorRole.WindowText, r.ink),
        (QPalette.ColorRole.Base, r.card),
        (QPalette.ColorRole.AlternateBase, r.paper),
        (QPalette.ColorRole.Text, r.ink),
        (QPalette.ColorRole.Button, r.card),
        (QPalette.ColorRole.ButtonText, r.ink),
        (QPalette.ColorRole.ToolTipBase, r.status),
        (QPalette.ColorRole.ToolTipText, r.status_ink),
        (QPalette.ColorRole.Highlight, r.tint),
        (QPalette.ColorRole.HighlightedText, r.ink),
        (QPalette.ColorRole.PlaceholderText, r.quiet),
        (QPalette.ColorRole.Link, r.brass_ink),
    ):
        p.setColor(role, QColor(colour))
    for role in (QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText, QPalette.ColorRole.WindowText):
        p.setColor(QPalette.ColorGroup.Disabled, role, QColor(r.quiet))
    return p


def stylesheet(r: Roles) -> str:
    """The application's style sheet in these colours."""
    return f"""
    QMainWindow, QDialog {{ background: {r.paper}; }}
    QToolTip {{ background: {r.status}; color: {r.status_ink}; border: none; padding: 4px 8px; }}
    QMenu {{ background: {r.card}; border: 1px solid {r.line}; padding: 4px; }}
    QMenu::item {{ padding: 5px 24px 5px 12px; }}
    QMenu::item:selected {{ background: {r.tint}; color: {r.ink}; }}
    QMenu::item:disabled {{ color: {r.quiet}; }}
    QMenu::separator {{ height: 1px; background: {r.line}; margin: 4px 8px; }}
    QLineEdit {{ background: {r.card}; border: 1px solid {r.line}; border-radius: 4px;
        padding: 3px 8px; color: {r.ink}; selection-background-color: {r.tint}; selection-color: {r.ink}; }}
    QLineEdit:focus {{ border: 1px solid {r.brass}; }}
    QLineEdit[bad="true"] {{ border: 1px solid {r.out_line}; background: {r.out}; }}
    QPushButton, QToolButton {{ background: {r.card}; border: 1px solid {r.line}; border-radius: 4px;
        padding: 4px 12px; color: {r.ink}; }}
    QFileDialog QToolButton {{ padding: 2px; }}
    QDialogButtonBox {{ dialogbuttonbox-buttons-have-icons: 0; }}
    QPushButton:hover, QToolButton:hover {{ border-color: {r.brass}; }}
    QPushButton:focus, QToolButton:focus {{ border-color: {r.brass}; }}
    QPushButton:checked, QToolButton:checked {{ background: {r.tint}; border-color: {r.brass}; }}
    QPushButton:disabled, QToolButton:disabled {{ color: {r.quiet}; }}
    QTableView {{ background: {r.card}; border: none; gridline-color: {r.line}; color: {r.ink};
        selection-background-color: {r.tint}; selection-color: {r.ink}; outline: none; }}
    QTableView::item {{ border-bottom: 1px solid {r.line}; padding: 0 8px; }}
    QTableView::item:selected {{ background: {r.tint}; color: {r.ink}; }}
    QTableView QLineEdit {{ border-radius: 0; padding: 0 6px; border: 1px solid {r.brass}; }}
    QHeaderView {{ background: {r.card}; border: none; }}
    QHeaderView::section {{ background: {r.card}; color: {r.quiet}; border: none;
        border-bottom: 1px solid {r.line}; padding: 4px 8px; }}
    QTableCornerButton::section {{ background: {r.card}; border: none; }}
    QSplitter::handle {{ background: {r.line}; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; margin: 0; }}
    QScrollBar::handle {{ background: {r.line}; border-radius: 4px; min-height: 24px; min-width: 24px; }}
    QScrollBar::handle:hover {{ background: {r.quiet}; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    #rail {{ background: {r.rail}; border-right: 1px solid {r.line}; }}
    #top {{ background: {r.card}; border-bottom: 1px solid {r.line}; }}
    #route {{ background: {r.card}; border-left: 1px solid {r.line}; }}
    #drawer {{ background: {r.card}; border-top: 1px solid {r.line}; }}
    #page {{ background: {r.paper}; }}
    #page QTableView, #page QHeaderView, #page QHeaderView::section {{ background: {r.paper}; }}
    #status {{ background: {r.status}; }}
    #status QLabel {{ color: {r.status_ink}; }}
    #status QLabel#trouble {{ color: {r.ink}; background: {r.tint}; padding: 2px 10px; }}
    #waiting::item {{ padding: 6px 8px; }}
    #status QPushButton {{ background: transparent; color: {r.status_ink}; border: 1px solid {r.quiet};
        padding: 0 8px; }}
    #chip {{ background: {r.status}; color: {r.status_ink}; padding: 4px 10px; border-radius: 2px; }}
    #chip[bad="true"] {{ background: {r.out}; color: {r.ink}; border: 1px solid {r.out_line}; }}
    #noteline {{ border: 1px solid {r.line}; border-radius: 4px; padding: 2px 12px; background: {r.card}; }}
    #noteline:focus {{ border: 1px solid {r.brass}; }}
    #quiet {{ color: {r.quiet}; }}
    #caption {{ color: {r.quiet}; letter-spacing: 0.5px; }}
    #caution {{ color: {r.ink}; background: {r.tint}; padding: 6px 12px; }}
    #tip {{ background: {r.tint}; border-top: 1px solid {r.line}; border-left: 1px solid {r.line}; }}
    #massbox {{ background: {r.card}; border: 1px solid {r.line}; }}
    """


def by_words(box: QDialogButtonBox | QMessageBox) -> None:
    """Buttons by their words alone: the desktop's little pictures are none of ours."""
    for button in box.buttons():
        if button is not None:
            button.setIcon(QIcon())
