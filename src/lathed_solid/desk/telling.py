"""What the window shows, told to a program on this machine that asks: off unless asked for, and for reading only.

With ``LATHED_SOLID_TELL=PATH`` in the environment the window answers on a local socket of that name, readable by this
user alone. A question is one line of JSON, ``{"what": "status"}``; the answer is one line of JSON. Nothing can be
changed by it: who wants to work the window sends it mouse and keys.
"""

from __future__ import annotations

import json
import logging
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QPoint
from PyQt6.QtNetwork import QLocalServer, QLocalSocket
from PyQt6.QtWidgets import QAbstractButton, QApplication, QCheckBox, QComboBox, QLabel, QLineEdit, QWidget

from lathed_solid.desk.row_table import RowView
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.desk.window import MainWindow

log = logging.getLogger(__name__)

#: a longer question is none
LONGEST = 10_000


class Telling:
    """Answers questions of one window on a local socket."""

    def __init__(self, window: MainWindow, path: str) -> None:
        self._window, self.path = window, path
        self._open: set[QLocalSocket] = set()
        self.server = QLocalServer(window)
        self.server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self.server.newConnection.connect(self._greet)
        if not self.server.listen(path):
            log.warning("cannot tell on %s: %s", path, self.server.errorString())

    def _greet(self) -> None:
        socket = self.server.nextPendingConnection()
        if socket is not None:
            self._open.add(socket)
            socket.readyRead.connect(lambda: self._hear(socket))
            socket.disconnected.connect(lambda: self._forget(socket))

    def _forget(self, socket: QLocalSocket) -> None:
        self._open.discard(socket)
        socket.deleteLater()

    def _hear(self, socket: QLocalSocket) -> None:
        if socket.bytesAvailable() > LONGEST:
            socket.abort()
        elif socket.canReadLine():
            answer = self.answer(bytes(socket.readLine(LONGEST)))
            socket.write(json.dumps(answer, ensure_ascii=False).encode() + b"\n")
            socket.flush()
            socket.disconnectFromServer()

    def answer(self, question: bytes) -> Any:
        """What a line asks for; ``{"error": why}`` for what cannot be told."""
        try:
            asked = json.loads(question)
            what = asked.pop("what")
            return _ANSWERS[what](self._window, **asked)
        except (LookupError, StopIteration, TypeError, ValueError, AttributeError, LathedError) as exc:
            return {"error": f"{type(exc).__name__}: {exc}"}


def _status(w: MainWindow) -> dict[str, str]:
    focus = QApplication.focusWidget()
    return {"words": w.panes.status.left.text(), "desk": w.bench.desk, "focus": type(focus).__name__ if focus else ""}


def _busy(w: MainWindow) -> bool:
    return not w.session.builds.idle


def _widgets(w: MainWindow) -> list[dict[str, Any]]:
    """Everything visible that says something: class, text, tooltip, middle on the screen, whether it can be used."""
    out = []
    for top in QApplication.topLevelWidgets():
        for widget in (top, *top.findChildren(QWidget)) if top.isVisible() else ():
            if (
                isinstance(widget, QAbstractButton | QLabel | QLineEdit | QComboBox)
                and not widget.visibleRegion().isEmpty()
            ):
                text = widget.currentText() if isinstance(widget, QComboBox) else widget.text()
                if text or isinstance(widget, QLineEdit):
                    middle = widget.rect().center()
                    # a box to tick is only as wide as its words
                    at = widget.mapToGlobal(QPoint(9, middle.y()) if isinstance(widget, QCheckBox) else middle)
                    out.append({"class": type(widget).__name__, "text": text, "tip": widget.toolTip(),
                                "name": widget.accessibleName(), "at": [at.x(), at.y()],
                                "enabled": widget.isEnabled()})  # fmt: skip
    return out


def _place(w: MainWindow, x: float, y: float) -> list[int]:
    """Where a place of the open sketch (mm) is on the screen."""
    canvas = w.panes.shape_page.sketch.canvas
    pixel = canvas.board.paper.pixel(complex(x, y))
    at = canvas.mapToGlobal(QPoint(round(pixel.real), round(pixel.imag)))
    return [at.x(), at.y()]


def _cell(w: MainWindow, table: str, row: int, column: str) -> list[int]:
    """Where a cell of a table is on the screen: the table by its name, the row from 1, the column by its title."""
    view = next(v for v in w.findChildren(RowView) if v.accessibleName() == table and v.isVisible())
    titles = [c.title for c in view.rows.columns]
    area = view.visualRect(view.rows.index(row - 1, titles.index(column)))
    port = view.viewport()
    if port is None or not area.isValid():
        raise LookupError(f"{table} has no row {row}")
    at = port.mapToGlobal(area.center())
    return [at.x(), at.y()]


def _row(w: MainWindow, step: int) -> list[int]:
    """Where a step's row of the route is on the screen."""
    rows = w.panes.route.list
    at = [s.number for s in w.session.document.steps].index(step)
    port, area = rows.viewport(), rows.visualItemRect(rows.item(at))
    assert port is not None
    place = port.mapToGlobal(area.center())
    return [place.x(), place.y()]


def _in_space(w: MainWindow, x: float, y: float, z: float) -> list[int]:
    """Where a point of the solid's space (mm) is on the screen."""
    solid = w.panes.solid
    px, py = solid.pixel_of((x, y, z))
    at = solid.mapToGlobal(QPoint(px, py))
    return [at.x(), at.y()]


def _proof(w: MainWindow) -> dict[str, Any]:
    """The last build: steps that failed, verdicts by balloon, whether the part is proven."""
    reply = w.session.reply
    if reply is None:
        return {"failed": [], "verdicts": {}, "ok": False, "volume": 0.0}
    return {
        "failed": [f"{s.number}: {s.message}" for s in reply.steps if not s.ok],
        "verdicts": {str(r.balloon): r.verdict for r in reply.report.rows},
        "reasons": {str(r.balloon): f"{r.note}: {r.reason}" for r in reply.report.rows if r.verdict != "in"},
        "ok": reply.report.ok,
        "volume": reply.summary["volume_mm3"],
    }


def _sketch(w: MainWindow) -> dict[str, Any]:
    """The open sketch: its state in words, driving dimensions, areas of its regions (mm2), what is chosen, the mode."""
    editor = w.panes.shape_page.sketch
    state, said = editor.state, editor.side.said
    return {
        "visible": editor.isVisible(),
        "headline": state.headline,
        "dimensions": len(state.sketch.driving),
        "areas": [r.area for r in state.regions],
        "chosen": list(editor.board.chosen),
        "mode": editor.board.mode,
        "said": [said.item(i).text() for i in range(said.count())],  # type: ignore[union-attr]
        "constraints": [c.model_dump(mode="json", exclude_defaults=True) for c in state.sketch.constraints],
        "entities": [e.model_dump(mode="json", exclude_defaults=True) for e in state.sketch.entities],
        "canvas": [editor.canvas.width(), editor.canvas.height()],
    }


def _document(w: MainWindow) -> Any:
    return w.session.document.model_dump(mode="json", exclude_defaults=True)


_ANSWERS: dict[str, Callable[..., Any]] = {
    "status": _status, "busy": _busy, "widgets": _widgets, "place": _place, "sketch": _sketch, "document": _document,
    "cell": _cell, "row": _row, "in space": _in_space, "proof": _proof,
}  # fmt: skip
