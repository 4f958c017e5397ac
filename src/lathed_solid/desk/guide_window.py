"""The guide beside the window: contents, the page that belongs to the desk, and finding words."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt, QTimer, QUrl, pyqtSignal
from PyQt6.QtGui import QImage, QKeySequence, QResizeEvent, QShortcut, QTextDocument
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import edition, spoken
from lathed_solid.errors import LathedError
from lathed_solid.guide import PAGES, Page, find, page, title_of
from lathed_solid.guide.html import body, picture

#: pictures are shown no wider, dots
WIDEST = 860
#: so long a size must stay until pictures follow it
REST_MS = 120


class GuideBrowser(QTextBrowser):
    """Shows pages by address (``page:NAME``), their pictures as wide as there is room."""

    def __init__(self) -> None:
        super().__init__()
        self.setOpenLinks(False)
        self.setAccessibleName(spoken("the guide's page"))
        self.setFrameShape(QTextBrowser.Shape.NoFrame)
        self._fitted = 0
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self._fit_pictures)

    def loadResource(self, kind: int, name: QUrl) -> Any:
        """A page's HTML, or a picture, made to fit."""
        if name.scheme() == "page":
            return _style() + body(name.path(), lambda p: f"picture:{p}", lambda target: target, edition())
        if name.scheme() == "picture" and kind == QTextDocument.ResourceType.ImageResource.value:
            image = QImage(str(picture(name.path())))
            room = self._room()
            smooth = Qt.TransformationMode.SmoothTransformation
            return image.scaledToWidth(room, smooth) if image.width() > room else image
        return None

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Pictures follow the room, once it stays."""
        super().resizeEvent(event)
        self._rest.start()

    def _fit_pictures(self) -> None:
        width, bar, document = self._room(), self.verticalScrollBar(), self.document()
        if width == self._fitted or not self.source().isValid() or bar is None or document is None:
            return
        self._fitted, at = width, bar.value()
        document.clear()  # else its pictures are kept
        self.reload()
        bar.setValue(at)

    def _room(self) -> int:
        view = self.viewport()
        return min(WIDEST, max(320, view.width() - 24)) if view is not None else WIDEST


def _style() -> str:
    """What a page's HTML looks like here, in the palette in force."""
    r = theme.roles()
    return (
        "<style>td, th { padding: 3px 14px 3px 0; text-align: left; } h1 { font-size: 21px; } h2 { font-size: 16px; }"
        f" a {{ color: {r.brass_ink}; }} code, pre {{ background-color: {r.tint}; font-size: 12px;"
        " font-family: 'DejaVu Sans Mono'; } pre { line-height: 90%; }</style>"
    )


class GuideWindow(QDialog):
    """Stays open beside the window. Emits the exercise that is to begin, and when the guide is to be written."""

    exercise_wanted = pyqtSignal(str)
    write_wanted = pyqtSignal()

    def __init__(self, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("Guide"))
        self.resize(1100, 720)
        self.field = QLineEdit()
        self.field.setMaxLength(80)
        self.field.setPlaceholderText(spoken("find words: thread, suspect, undo …"))
        self.field.setAccessibleName(spoken("words to find in the guide"))
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(self._find)
        self.field.returnPressed.connect(self._next)
        self.contents = QListWidget()
        self.contents.setAccessibleName(spoken("pages of the guide"))
        self.contents.setFont(theme.font(14))
        self.contents.setSpacing(3)
        self.contents.setFrameShape(QListWidget.Shape.NoFrame)
        self.contents.currentRowChanged.connect(self._turn)
        self.none = QLabel(spoken("No page has these words."))
        self.none.setObjectName("quiet")
        self.browser = GuideBrowser()
        self.browser.anchorClicked.connect(self._follow)
        self.browser.sourceChanged.connect(self._show_place)
        self.back, self.forward = QPushButton(spoken("back")), QPushButton(spoken("forward"))
        write = QPushButton(spoken("write it as PDF or HTML…"))
        self.back.clicked.connect(self.browser.backward)
        self.forward.clicked.connect(self.browser.forward)
        write.clicked.connect(self.write_wanted)
        for button in (self.back, self.forward, write):
            button.setAutoDefault(False)
        for keys, run in (("Alt+Left", self.browser.backward), ("Alt+Right", self.browser.forward),
                          ("Ctrl+F", self.field.setFocus)):  # fmt: skip
            QShortcut(QKeySequence(keys), self).activated.connect(run)
        self.back.setToolTip(spoken("Alt+Left"))
        self.forward.setToolTip(spoken("Alt+Right"))
        self.browser.backwardAvailable.connect(self.back.setEnabled)
        self.browser.forwardAvailable.connect(self.forward.setEnabled)
        side = QVBoxLayout()
        for widget in (self.field, self.none, self.contents):
            side.addWidget(widget)
        row = QHBoxLayout()
        row.addWidget(self.back)
        row.addWidget(self.forward)
        row.addStretch(1)
        row.addWidget(write)
        right = QVBoxLayout()
        right.addWidget(self.browser, 1)
        right.addLayout(row)
        layout = QHBoxLayout(self)
        layout.addLayout(side, 2)
        layout.addLayout(right, 5)
        self._pages: tuple[Page, ...] = ()
        self._list(PAGES)
        self.turn_to(name)
        self.browser.setFocus()

    @property
    def shown(self) -> str:
        """The page that is shown."""
        return self.browser.source().path()

    def turn_to(self, name: str) -> None:
        """Show a page. Raises LathedError for one that is not there."""
        self.browser.setSource(QUrl(f"page:{page(name).name}"))

    def _list(self, pages: tuple[Page, ...]) -> None:
        self._pages = pages
        self.contents.blockSignals(True)
        self.contents.clear()
        self.contents.addItems([title_of(p.name, edition()) for p in pages])
        self.contents.blockSignals(False)
        self.none.setVisible(not pages)
        self._show_place()

    def _show_place(self) -> None:
        row = next((i for i, p in enumerate(self._pages) if p.name == self.shown), -1)
        self.contents.blockSignals(True)
        self.contents.setCurrentRow(row)
        self.contents.blockSignals(False)

    def _turn(self, row: int) -> None:
        if 0 <= row < len(self._pages):
            self.turn_to(self._pages[row].name)
            self._light()

    def _find(self, words: str) -> None:
        self._list(find(words, edition()) if words.strip() else PAGES)

    def _next(self) -> None:
        """The first page with the words, or the next place on it."""
        if self._pages and self.shown not in {p.name for p in self._pages}:
            self.turn_to(self._pages[0].name)
        self._light()

    def _light(self) -> None:
        words = self.field.text().split()
        if words and not self.browser.find(words[0]):
            self.browser.moveCursor(self.browser.textCursor().MoveOperation.Start)
            self.browser.find(words[0])

    def _follow(self, url: QUrl) -> None:
        if url.scheme() == "exercise":
            self.exercise_wanted.emit(url.path())
            return
        try:
            self.turn_to(url.path())
        except LathedError:
            self.turn_to("start")
