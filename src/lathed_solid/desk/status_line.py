"""The status line: totals, volume, mass, envelope; at the right, the work in hand with its stop button."""

from __future__ import annotations

import time

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.engine.protocol import BuildReply, Progress
from lathed_solid.part import Document
from lathed_solid.quantity.formatting import length, volume
from lathed_solid.workbench.describe import grams

MESSAGE_MS = 12_000
PROGRESS_S = 0.25
LATE_MS = 200
#: and so long after the work that outlasted it: what was said at the start of a long build is seen with its solid
AFTER_MS = 4_000


class StatusLine(QWidget):
    """Shows figures of the last build; messages take the place of the figures for a while."""

    stop_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("status")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(26)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(14, 0, 14, 0)
        self.left = QLabel("")
        self.right = QLabel("")
        self.pointer = QLabel("")
        for label in (self.left, self.pointer, self.right):
            label.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.left.setTextFormat(Qt.TextFormat.PlainText)
        self.trouble = QLabel("")
        self.trouble.setObjectName("trouble")
        self.trouble.setFont(theme.narrow(13, theme.QFont.Weight.DemiBold))
        self.trouble.hide()
        self.stop = QPushButton(spoken("stop"))
        self.stop.setToolTip(spoken("Stop the running work (Shift+Esc)"))
        self.stop.setFixedHeight(20)
        self.stop.clicked.connect(self.stop_asked)
        self.stop.hide()
        layout.addWidget(self.left, 1)
        layout.addWidget(self.trouble)
        layout.addSpacing(16)
        layout.addWidget(self.pointer)
        layout.addSpacing(16)
        layout.addWidget(self.right)
        layout.addWidget(self.stop)
        self._figures = ""
        self._progress_shown = 0.0
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._end)
        self._busy = self._overdue = False
        self._late = QTimer(self)
        self._late.setSingleShot(True)
        self._late.timeout.connect(self._show_at_work)

    def _show(self, text: str) -> None:
        self.left.setText(spoken(text))
        self.left.setToolTip(spoken(text))

    def _end(self) -> None:
        """A message has stood long enough, unless all the while nothing else was to be seen."""
        self._overdue = self._busy
        if not self._overdue:
            self._show(self._figures)

    def say(self, words: str, bad: bool) -> None:
        """A message, for a while, and until the work in hand is done; errors stay a little longer."""
        self._overdue = False
        self._show(("■ " if bad else "") + words)
        self._timer.start(MESSAGE_MS * (2 if bad else 1))

    def show_trouble(self, words: str) -> None:
        """What goes wrong all the while, until it is empty; no message covers it."""
        self.trouble.setText(spoken(f"■ {words}: save now" if words else ""))
        self.trouble.setToolTip(
            spoken("A window that ends now loses what is not saved. It is tried again with every edit.")
        )
        self.trouble.setVisible(bool(words))

    def end_message(self) -> None:
        """The figures again: what the message told of is mended."""
        self._timer.stop()
        self._overdue = False
        self._show(self._figures)

    def show_build(self, document: Document, reply: BuildReply) -> None:
        """Figures of a finished build."""
        counts = reply.report.counts
        verdicts = " · ".join(f"{n} {w}" for w, n in counts.items() if n)
        parts = [f"{len(document.callouts)} callouts" + (f" · {verdicts}" if verdicts else "")]
        s = reply.summary
        if s["solids"]:
            parts.append(f"volume {volume(s['volume_mm3'], document.unit, 0)}")
            parts.append(self._mass(reply))
            low, high = s["box_mm"]
            size = " × ".join(length(b - a, document.unit, 2) for a, b in zip(low, high, strict=True))
            parts.append(f"envelope {size}")
        self._figures = "        ".join(p for p in parts if p)
        self._show_unless_said()
        built = [x for x in reply.steps if not x.cached and not x.suspended]
        ms = sum(x.ms for x in built)
        numbers = ", ".join(str(x.number) for x in built)
        self.right.setText(spoken(f"built {numbers} in {ms:.0f} ms" if built else "nothing to build"))

    def show_figures(self, text: str) -> None:
        """Figures of something else than a build."""
        self._figures = text
        self.right.setText("")
        self._show_unless_said()

    def _show_unless_said(self) -> None:
        if not self._timer.isActive() and not self._overdue:
            self._show(self._figures)

    def _mass(self, reply: BuildReply) -> str:
        mass = reply.report.mass
        if mass is None:
            return ""
        text = f"mass {grams(mass.model)}"
        if mass.stated is not None:
            sign = "○" if mass.verdict == "in" else "■"
            text += f" — {mass.source} {grams(mass.stated)} {sign} {mass.verdict}"
        return text

    def show_busy(self, busy: bool, stale: bool = False) -> None:
        """Whether the kernel is at work, with the word that stops it; ``stale``: what is shown is of earlier steps."""
        self._busy = busy
        if busy:
            self._late.start(LATE_MS)
            return
        if self._overdue:
            self._timer.start(AFTER_MS)
        self._late.stop()
        self.stop.hide()
        if stale:
            self.right.setText(spoken("■ not built as it stands: F5"))
        elif self.right.text().startswith(("building", "proving")):
            self.right.setText("")  # a preview tells no figures

    def _show_at_work(self) -> None:
        """Work that is done at once is not worth a repaint: one of the whole window delays the solid itself."""
        self.stop.show()
        self.right.setText(spoken("building …"))

    def show_proving(self) -> None:
        """The solid stands; its verdicts are on their way."""
        if not self._late.isActive():
            self.right.setText(spoken("proving …"))

    def show_progress(self, progress: Progress, words: str = "") -> None:
        """The step in hand, or what ``words`` call it.

        At most a few times a second, since every repaint costs the window's thread.
        """
        now = time.monotonic()
        if now - self._progress_shown < PROGRESS_S or self._late.isActive():
            return
        self._progress_shown = now
        what = words or f"building step {progress.number}"
        self.right.setText(spoken(f"{what} ({progress.row + 1} of {progress.total})"))

    def show_pointer(self, words: str) -> None:
        """What lies under the pointer."""
        self.pointer.setText(spoken(words))
