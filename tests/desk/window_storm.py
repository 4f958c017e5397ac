"""A hand at the real window at random: clicks, keys, texts in fields, tables, menus and notes, with the real kernel.

What it promises: no exception; no event keeps the window longer than 0.2 s; what is shown at the end is what a fresh
engine makes of the document. Run by the tests on a few events, and on thousands by
``python -m desk.window_storm FIRST COUNT [EVENTS]`` from ``tests/`` under an X server.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
import traceback
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QComboBox,
    QLineEdit,
    QListWidget,
    QSpinBox,
    QWidget,
)
from workbench.route_sweep import NOTES, TEXTS
from workbench.sweeping import Took, sweep

from lathed_solid.demo import DEMOS
from lathed_solid.desk.row_table import RowView
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.summary import summary
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.session import Session

#: actions that end the window, or open what stands outside it
LEFT_OUT = frozenset({"quit", "open", "save", "save-as", "export", "verdicts-csv", "inspection", "inspection-blank",
                      "import", "new", "look-up", "keys", "guide", "exercises"})  # fmt: skip
KEYS = "1234567890BDEFHLRCUXVYTAOPGNJZ"
#: words of buttons that open what stands outside
OUTSIDE = ("…", "listen", "part", "?")
PLAIN = Qt.KeyboardModifier.NoModifier


class WindowStorm:
    """One seed's hand on a window."""

    def __init__(self, window: MainWindow, session: Session, seed: int) -> None:
        self.window, self.session, self.rnd = window, session, random.Random(seed)
        self.broke: list[str] = []
        self.did = ""
        # a dialog or a menu that an event opened is left again, as Esc does
        self._closer = QTimer()
        self._closer.timeout.connect(self._leave)
        self._closer.start(15)

    def _leave(self) -> None:
        for top in (QApplication.activePopupWidget(), QApplication.activeModalWidget()):
            if top is not None:
                QTest.keyClick(top, Qt.Key.Key_Escape)
                top.close()

    def end(self) -> None:
        """Nothing is left again any more."""
        self._closer.stop()

    def _any(self, kinds: Any) -> QWidget | None:
        """A widget of the window that can be seen and used."""
        found = [w for w in self.window.findChildren(kinds) if w.isEnabled() and not w.visibleRegion().isEmpty()]
        return self.rnd.choice(found) if found else None

    # events ------------------------------------------------------------------------------------
    def click(self) -> None:
        """A button, a box to tick."""
        button = self._any(QAbstractButton)
        if isinstance(button, QAbstractButton) and not any(w in button.text() for w in OUTSIDE):
            at = QPoint(9, button.height() // 2) if isinstance(button, QCheckBox) else QPoint()
            QTest.mouseClick(button, Qt.MouseButton.LeftButton, PLAIN, at)

    def choose(self) -> None:
        """Another entry of a list to choose from."""
        box = self._any(QComboBox)
        if isinstance(box, QComboBox) and box.count():
            at = self.rnd.randrange(box.count())
            box.setCurrentIndex(at)
            box.activated.emit(at)

    def field(self) -> None:
        """A text typed into a field, entered, left by Tab, or given up."""
        line = self._any(QLineEdit)
        if isinstance(line, QLineEdit) and line is not self.window.panes.note_line.field:
            line.setFocus()
            line.selectAll()
            type_into(line, self.rnd.choice(TEXTS))
            QTest.keyClick(line, self.rnd.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Escape)))

    def count(self) -> None:
        spin = self._any(QSpinBox)
        if isinstance(spin, QSpinBox):
            spin.setValue(self.rnd.randint(0, 12))

    def cell(self) -> None:
        """A cell of a table or a row of the route."""
        view = self._any((RowView, QListWidget))
        model = view.model() if isinstance(view, RowView | QListWidget) else None
        if isinstance(view, RowView | QListWidget) and model is not None and model.rowCount():
            columns = 1 if isinstance(view, QListWidget) else model.columnCount()
            index = model.index(self.rnd.randrange(model.rowCount()), self.rnd.randrange(columns))
            QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, PLAIN, view.visualRect(index).center())
            if self.rnd.random() < 0.5:
                type_into(QApplication.focusWidget() or view, self.rnd.choice(TEXTS))
                QTest.keyClick(QApplication.focusWidget() or view, Qt.Key.Key_Return)

    def solid(self) -> None:
        """A click, a turn, a wheel in the solid."""
        view = self.window.panes.solid
        at = QPoint(self.rnd.randrange(max(view.width(), 1)), self.rnd.randrange(max(view.height(), 1)))
        shift = Qt.KeyboardModifier.ShiftModifier if self.rnd.random() < 0.3 else PLAIN
        QTest.mouseMove(view, at)
        QTest.mouseClick(view, Qt.MouseButton.LeftButton, shift, at)

    def key(self) -> None:
        QTest.keyClicks(QApplication.focusWidget() or self.window, self.rnd.choice(KEYS))

    def action(self) -> None:
        """What a menu has."""
        action = self.rnd.choice([a for a in ACTIONS if a.id not in LEFT_OUT])
        self.did = f"action {action.id}"
        run_action(action, self.window.commands)

    def note(self) -> None:
        self.window.panes.note_line.take_focus()
        type_into(self.window.panes.note_line.field, self.rnd.choice(NOTES))
        QTest.keyClick(self.window.panes.note_line.field, Qt.Key.Key_Return)

    def undo(self) -> None:
        (self.session.undo if self.rnd.random() < 0.6 else self.session.redo)()

    # promises ------------------------------------------------------------------------------------
    def wrong(self) -> str:
        """What is shown that a fresh engine does not make of the document; empty for nothing."""
        builds = self.session.builds
        builds.end_preview()
        wait(lambda: builds.idle)
        if not builds.settled:
            builds.rebuild()
            wait(lambda: builds.settled or builds.stale)
        if builds.stale:  # the kernel's own crash: the window lives on and says so, and nothing is lost
            print("the kernel crashes on", self.session.document.model_dump_json(), flush=True)
            return "" if "stopped" in self.window.panes.status.left.text() else "a lost kernel is not told"
        if not builds.settled:
            return "the build of what is shown does not end"
        engine, shown = Engine(), self.session.standing
        fresh = summary(engine, shown, engine.build(shown))
        told = self.session.reply.summary if self.session.reply is not None else fresh
        if [s["ok"] for s in told["steps"]] != [s["ok"] for s in fresh["steps"]]:
            return f"steps {told['steps']}, afresh {fresh['steps']}"
        off = abs(told["volume_mm3"] - fresh["volume_mm3"]) > 1e-9 * max(1.0, fresh["volume_mm3"])
        return f"volume {told['volume_mm3']}, afresh {fresh['volume_mm3']}" if off else ""


def type_into(widget: QWidget, text: str) -> None:
    """The keys of what a keyboard has, else the text at once."""
    if text.isascii() or not isinstance(widget, QLineEdit):
        QTest.keyClicks(widget, text.encode("ascii", "ignore").decode())
    else:
        widget.insert(text)


def wait(done: Callable[[], bool], seconds: float = 120) -> None:
    """Until something holds, the window's events going on."""
    end = time.monotonic() + seconds
    while not done() and time.monotonic() < end:
        QApplication.processEvents()
        time.sleep(0.002)


def storm(
    window: MainWindow, session: Session, seed: int, events: int = 100, slow: list[Took] | None = None
) -> list[str]:
    """What broke its promise for one seed; into ``slow`` goes how long each event kept the window, s."""
    hand = WindowStorm(window, session, seed)
    session.open_value(DEMOS[hand.rnd.choice(sorted(DEMOS))]())
    wait(lambda: session.builds.settled)
    old = sys.excepthook
    sys.excepthook = lambda *exc: hand.broke.append("".join(traceback.format_exception(*exc))[-900:])
    doing: list[Callable[[], None]] = [
        hand.click, hand.click, hand.choose, hand.field, hand.field, hand.field, hand.count, hand.cell, hand.cell,
        hand.solid, hand.solid, hand.key, hand.key, hand.action, hand.action, hand.note, hand.undo,
    ]  # fmt: skip
    try:
        for k in range(events):
            event = hand.rnd.choice(doing)
            hand.did = event.__name__
            began = time.thread_time()
            try:
                event()
                QApplication.processEvents()
            except Exception as exc:  # noqa: BLE001 - any exception is what is looked for
                return [f"event {k} {hand.did}: {type(exc).__name__}: {exc}\\n{traceback.format_exc()[-600:]}"]
            if slow is not None:
                slow.append((time.thread_time() - began, hand.did, seed))
            if hand.broke:
                return [f"event {k} {hand.did}: {hand.broke[0]}"]
        found = hand.wrong()
        return [found] if found else []
    finally:
        sys.excepthook = old
        hand.end()


def main() -> None:
    """Storms one after another on one window of its own."""
    from lathed_solid.desk import theme
    from lathed_solid.desk.app import read_ahead
    from lathed_solid.desk.gl_format import set_default_format
    from lathed_solid.engine.client import KernelClient

    set_default_format()
    app = QApplication([])
    theme.apply(app, dark=False)
    with tempfile.TemporaryDirectory(prefix="window-storm-") as folder:
        session = Session(KernelClient(), journal_folder=Path(folder) / "journal")
        window = MainWindow(session)
        window.resize(1280, 800)
        window.show()
        wait(lambda: not window.panes.solid.waiting)
        read_ahead()  # as the window does while it rests
        try:
            events = int(sys.argv[3]) if len(sys.argv) > 3 else 100
            sweep("window storms", lambda seed, slow: storm(window, session, seed, events, slow))
        finally:
            window.panes.close_all()
            session.builds.close()


if __name__ == "__main__":
    main()
