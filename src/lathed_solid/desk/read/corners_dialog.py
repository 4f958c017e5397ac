"""The corners of a photographed sheet put right by hand: the picture as it was taken, a handle at each corner.

Handles are dragged, or chosen with Tab and moved with the arrow keys (Shift by ten); Enter straightens the sheet by
them.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QObject, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.page_reader import PageReader
from lathed_solid.ledger.sheet_corners import Corners, checked_corners, inset_corners
from lathed_solid.sheets import SheetPage
from lathed_solid.workbench.sheet_commands import SheetCommands

#: the picture's room, and the radius of a handle, in pixels
ROOM, HANDLE = QSize(860, 600), 9.0
#: a step of an arrow key, as a share of the picture
STEP = 0.002
NAMES = ("top left", "top right", "bottom right", "bottom left")


class CornersView(QWidget):
    """The picture with four handles; places are shares of it from the top left."""

    moved = pyqtSignal()

    def __init__(self, picture: QPixmap, corners: Corners) -> None:
        super().__init__()
        self._picture = picture.scaled(
            ROOM, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        self.corners = list(corners)
        self.chosen = 0
        self._held = False
        self.setFixedSize(self._picture.size() + QSize(60, 60))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(spoken("Corners of the sheet"))
        self._tell()

    def place(self, k: int) -> QPointF:
        """Where a handle stands in the widget."""
        x, y = self.corners[k]
        return QPointF(30 + x * self._picture.width(), 30 + y * self._picture.height())

    def move_to(self, k: int, at: QPointF) -> None:
        """A handle elsewhere, no farther than the widget reaches."""
        x, y = (at.x() - 30) / self._picture.width(), (at.y() - 30) / self._picture.height()
        self.corners[k] = (min(1.05, max(-0.05, x)), min(1.05, max(-0.05, y)))
        self._tell()
        self.moved.emit()
        self.update()

    def _tell(self) -> None:
        x, y = self.corners[self.chosen]
        self.setAccessibleDescription(spoken(f"{NAMES[self.chosen]}: {100 * x:.1f} % across, {100 * y:.1f} % down"))

    def paintEvent(self, event: Any) -> None:
        r = theme.roles()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(30, 30, self._picture)
        painter.setPen(QPen(QColor(r.brass), 2))
        painter.drawPolygon(QPolygonF([self.place(k) for k in range(4)]))
        for k in range(4):
            at = self.place(k)
            painter.setPen(QPen(QColor(r.brass), 4 if k == self.chosen else 2))
            # open in its middle, so that the corner itself is seen
            painter.drawEllipse(QRectF(at.x() - HANDLE, at.y() - HANDLE, 2 * HANDLE, 2 * HANDLE))
        painter.end()

    def mousePressEvent(self, event: Any) -> None:
        p = event.position()
        away = [(self.place(k) - p).manhattanLength() for k in range(4)]
        k = min(range(4), key=away.__getitem__)
        self._held = away[k] < 5 * HANDLE
        if self._held:
            self.chosen = k
            self.move_to(k, p)

    def mouseMoveEvent(self, event: Any) -> None:
        if self._held:
            self.move_to(self.chosen, event.position())

    def mouseReleaseEvent(self, event: Any) -> None:
        self._held = False

    def focusNextPrevChild(self, onwards: bool) -> bool:
        """Tab goes from corner to corner, and out after the last."""
        k = self.chosen + (1 if onwards else -1)
        if not 0 <= k < 4:
            return super().focusNextPrevChild(onwards)
        self.chosen = k
        self._tell()
        self.update()
        return True

    def keyPressEvent(self, event: Any) -> None:
        ways = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        way = ways.get(event.key())
        if way is None:
            super().keyPressEvent(event)
            return
        step = STEP * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
        by = QPointF(way[0] * step * self._picture.width(), way[1] * step * self._picture.height())
        self.move_to(self.chosen, self.place(self.chosen) + by)


class CornersDialog(QDialog):
    """``given`` after it was accepted: four corners, or None to have them found."""

    def __init__(self, parent: QWidget, picture: QPixmap, corners: Corners | None) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("The sheet's corners"))
        self.given: Corners | None = None
        self.view: CornersView = CornersView(picture, corners or inset_corners(0.06))
        words = QLabel(spoken("Drag each corner of the paper, or Tab and the arrow keys (Shift by ten)."))
        words.setFont(theme.narrow(13))
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        kind = QDialogButtonBox.StandardButton
        buttons = QDialogButtonBox(kind.Ok | kind.Cancel)
        theme.by_words(buttons)
        self.ok = buttons.button(kind.Ok)
        assert self.ok is not None
        self.ok.setText(spoken("straighten"))
        self.found: QPushButton | None = buttons.addButton("found by itself", QDialogButtonBox.ButtonRole.ResetRole)
        assert self.found is not None
        self.found.clicked.connect(self._by_itself)
        buttons.accepted.connect(self._take)
        buttons.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        for widget in (words, self.view, self.problem, buttons):
            layout.addWidget(widget)
        self.view.moved.connect(self._judge)
        self.view.setFocus()
        self._judge()

    def _judge(self) -> None:
        """Corners that make no sheet cannot be taken."""
        told = ""
        try:
            checked_corners(self.view.corners)
        except ValueError as exc:
            told = str(exc)
        self.problem.setText(spoken(told))
        assert self.ok is not None
        self.ok.setEnabled(not told)

    def _take(self) -> None:
        self.given = checked_corners(self.view.corners)
        self.accept()

    def _by_itself(self) -> None:
        self.given = None
        self.accept()


class CornersAsking(QObject):
    """Shows a photographed sheet as it was taken, and keeps the corners that are put on it."""

    def __init__(self, background: Background, commands: SheetCommands, parent: QWidget) -> None:
        super().__init__(parent)
        self._commands, self._parent = commands, parent
        self._reader = PageReader(background, self, flat=False)
        self._reader.came.connect(self._came)
        self._reader.failed.connect(lambda why: commands.told.emit(f"the picture is not shown: {why}", True))

    def ask(self) -> None:
        """Read the picture, then ask."""
        if self._commands.sheet is not None:
            self._reader.want(self._commands.sheet.file, self._commands.page, self._commands.document.unit)

    def _came(self, _page: SheetPage, pictures: Sequence[QPixmap]) -> None:
        sheet, known = self._commands.sheet, self._commands.found
        if sheet is None:
            return
        found = known.corners if known is not None else None
        dialog = CornersDialog(self._parent, pictures[0], sheet.corners or found)
        if dialog.exec():
            self._commands.put_corners(dialog.given)

    def stop(self) -> None:
        """End the reading."""
        self._reader.stop()
