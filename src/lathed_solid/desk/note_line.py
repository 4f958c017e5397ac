"""The note line: one input for drawing notes and commands, always within reach (key ``/``).

While typing, words become symbols (``dia`` ⌀, ``cbore`` ⌴, ``csk`` ⌵, ``deep`` ↧), and a chip under the line
says how the text is understood. Enter takes it; Up and Down walk the history.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QCoreApplication, QEvent, QObject, QPoint, QStringListModel, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QInputMethodEvent, QTextCharFormat, QTextFormat
from PyQt6.QtWidgets import QCompleter, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.workbench.note_plan import Understanding
from lathed_solid.workbench.typing_in import with_sign

#: typing rests for so long before the solid shows what the note would make
REST_MS = 250

SYMBOLS = (
    ("⌀", "diameter (dia)"),
    ("⌴", "counterbore (cbore)"),
    ("⌵", "countersink (csk)"),
    ("↧", "depth (deep)"),
    ("°", "degrees (deg)"),
    ("±", "plus or minus (+-)"),
    ("□", "square (sq)"),
)


class NoteLine(QWidget):
    """Emits the text on Enter; asks ``understand`` for the chip while typing."""

    entered = pyqtSignal(str)
    history_changed = pyqtSignal(object)
    escaped = pyqtSignal()
    considered = pyqtSignal(str)  # the text, once the typing rests; empty when it is given up

    def __init__(self, chip_parent: QWidget) -> None:
        super().__init__()
        self.understand: Callable[[str], Understanding] = lambda _text: Understanding("")
        self.history: list[str] = []
        self._commands: tuple[str, ...] = ()
        self._place = 0
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 8, 12, 8)
        layout.setSpacing(6)
        self.field = _Field()
        self.field.setObjectName("noteline")
        self.field.setFont(theme.drawing(16))
        self.field.setFixedHeight(34)
        self.field.setPlaceholderText(spoken("a drawing note or a command: 4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8   ( / )"))
        self.field.setAccessibleName(spoken("Note line"))
        self.field.setMaxLength(500)
        layout.addWidget(self.field, 1)
        for symbol, tip in SYMBOLS:
            button = QPushButton(spoken(symbol))
            button.setFont(theme.drawing(17))
            button.setFixedSize(28, 30)
            button.setStyleSheet("padding: 0;")
            button.setToolTip(spoken(tip))
            button.setAccessibleName(spoken(tip))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _=False, s=symbol: self._insert(s))
            layout.addWidget(button)
        self.chip = QLabel("", chip_parent)
        self.chip.setObjectName("chip")
        self.chip.setFont(theme.font(13))
        self.chip.hide()
        self._completions = QStringListModel()
        completer = QCompleter(self._completions, self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setFilterMode(Qt.MatchFlag.MatchStartsWith)
        self.field.setCompleter(completer)
        offered = completer.popup()
        assert offered is not None
        self._offered = offered
        offered.installEventFilter(self)
        self.field.textEdited.connect(self._typed)
        self.field.textChanged.connect(lambda _t: self._refresh())
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.setInterval(REST_MS)
        self._resting.timeout.connect(lambda: self.considered.emit(self._text()))
        self.field.textChanged.connect(lambda _t: self._resting.start())
        self.field.returnPressed.connect(self._enter)
        self.field.escaped.connect(self.escaped)
        self.field.walked.connect(self._walk)
        self.field.left.connect(self.chip.hide)

    def set_completions(self, words: Sequence[str]) -> None:
        """What is completed beside notes: commands."""
        self._commands = tuple(words)
        self._complete("")

    def _complete(self, typed: str) -> None:
        """Commands and earlier notes, and the line with its last word finished."""
        head, _, last = typed.rpartition(" ")
        words: list[str] = []
        if len(last) > 1:
            from lathed_solid.notation.spelling import WORDS

            words = [f"{head} {w}".lstrip() for w in WORDS if w.startswith(last.upper())]
        self._completions.setStringList(sorted(dict.fromkeys([*words, *self._commands, *self.history])))

    def take_focus(self) -> None:
        """The keyboard, with all that stands there selected."""
        self.field.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.field.selectAll()

    def begin(self, text: str) -> None:
        """Start anew with a text."""
        self.field.setText(text)
        self.take_focus()

    def _insert(self, symbol: str) -> None:
        self.field.setFocus()
        self.field.insert(symbol)

    def _typed(self, text: str) -> None:
        self._complete(text)
        head = text[: self.field.cursorPosition()]
        if sign := with_sign(head):
            new = head[: len(head) - sign[0]] + sign[1]
            self.field.setText(new + text[len(head) :])
            self.field.setCursorPosition(len(new))

    def _text(self) -> str:
        """What is typed, without the key that leads here: it is pressed again by hands that are here already."""
        return self.field.text().strip().removeprefix("/").lstrip()

    def _refresh(self) -> None:
        text = self._text()
        if not text:
            self.chip.hide()
            self.field.underline(())
            return
        found = self.understand(text)
        before = self.field.text().find(text)  # the note begins behind gaps and the key that leads here
        self.field.underline([(before + start, length) for start, length in found.marks])
        self.say(found.words, found.bad)

    def say(self, words: str, bad: bool = False) -> None:
        """Show words under the line."""
        if not words:
            self.chip.hide()
            return
        self.chip.setText(spoken(words))
        self.chip.setProperty("bad", "true" if bad else "false")
        style = self.chip.style()
        if style is not None:
            style.unpolish(self.chip)
            style.polish(self.chip)
        self._put_chip()
        self.chip.show()
        self.chip.raise_()

    def _put_chip(self) -> None:
        """Below the line, and below what is offered to finish it."""
        parent = self.chip.parentWidget()
        if parent is None:
            return
        self.chip.adjustSize()
        down = self._offered.height() if self._offered.isVisible() else 0
        at = self.field.mapTo(parent, QPoint(0, self.field.height() + 4 + down))
        self.chip.move(at)
        self.chip.resize(min(self.chip.width(), parent.width() - at.x() - 12), self.chip.height())

    def eventFilter(self, of: QObject | None, event: QEvent | None) -> bool:
        """What is offered came, went or changed its size: the words make room."""
        if event is not None and event.type() in (QEvent.Type.Show, QEvent.Type.Hide, QEvent.Type.Resize):
            QTimer.singleShot(0, self._put_chip)
        return super().eventFilter(of, event)

    def _enter(self) -> None:
        text = self._text()
        if text:
            self.entered.emit(text)

    def accept(self, text: str) -> None:
        """The text was taken: into the history, and the line is empty again."""
        self.history = [*(h for h in self.history if h != text), text][-200:]
        self._place = len(self.history)
        self.field.clear()
        self._resting.stop()  # what was previewed is there now
        self.chip.hide()
        self.history_changed.emit(tuple(self.history))

    def set_history(self, texts: Sequence[str]) -> None:
        """Earlier notes, oldest first."""
        self.history = list(texts)
        self._place = len(self.history)

    def _walk(self, step: int) -> None:
        place = self._place + step
        if 0 <= place < len(self.history):
            self._place = place
            self.field.setText(self.history[place])
        elif place >= len(self.history):
            self._place = len(self.history)
            self.field.clear()


class _Field(QLineEdit):
    marks: tuple[tuple[int, int], ...] = ()  # what is underlined
    walked = pyqtSignal(int)
    left = pyqtSignal()
    escaped = pyqtSignal()

    def keyPressEvent(self, event: Any) -> None:
        if event.key() == Qt.Key.Key_Up:
            self.walked.emit(-1)
        elif event.key() == Qt.Key.Key_Down:
            self.walked.emit(1)
        elif event.key() == Qt.Key.Key_Escape:
            self.clear()
            self.escaped.emit()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: Any) -> None:
        super().focusOutEvent(event)
        self.left.emit()

    def underline(self, places: Sequence[tuple[int, int]]) -> None:
        """A wavy line under parts of the text (start, length): words that were not read."""
        self.marks = tuple(places)
        wavy = QTextCharFormat()
        wavy.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
        wavy.setUnderlineColor(QColor(theme.roles().out_line))
        wavy.setForeground(QColor(theme.roles().out_line))
        kind = QInputMethodEvent.AttributeType.TextFormat
        # a line edit counts formats from its cursor
        at = self.cursorPosition()
        plain = QTextFormat(wavy)
        formats = [QInputMethodEvent.Attribute(kind, start - at, length, plain) for start, length in places]
        QCoreApplication.sendEvent(self, QInputMethodEvent("", formats))
