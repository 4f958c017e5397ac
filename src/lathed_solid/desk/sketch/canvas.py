"""The drawing surface of the sketch pane: paints the drawing board, and passes pointer and keys on to it.

Left click picks (Shift adds), a drag on something loose moves it, a drag on paper opens a window; the middle or
right button moves the paper, the wheel zooms at the pointer. With a tool, clicks place and Escape lets go.
"""

from __future__ import annotations

import dataclasses
from typing import Any

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QColor, QCursor, QKeyEvent, QMouseEvent, QPainter, QPen, QPixmap, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.sketch import paint
from lathed_solid.desk.sketch.dimensions import paint_dimensions, paint_waiting
from lathed_solid.desk.sketch.view import PaperFrame, z_of
from lathed_solid.sketch.geometry import shape
from lathed_solid.sketch.solve import moved, unknowns
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.interactions import Pick, Window
from lathed_solid.workbench.sketch.view_model import SketchState

GHOST_MS = 33
#: how far a free movement swings, pixels
SWING = 26


class Canvas(QWidget):
    """Shows one board."""

    def __init__(self, board: DrawingBoard) -> None:
        super().__init__()
        self.board, self.frame = board, PaperFrame(board.paper)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(260, 180)
        self.setAccessibleName(spoken("Sketch"))
        self.underlay: QPixmap | None = None
        self.underlay_at = (0j, 0.0, 0.0)  # lower left corner, width in mm, turn in rad
        self._phase = 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(GHOST_MS)
        self._timer.timeout.connect(self._tick)
        self._panned: QPointF | None = None
        board.changed.connect(self._refresh)

    def _refresh(self) -> None:
        """Something changed: paint anew, and animate a free movement while there is one."""
        if self.board.movement is None:
            self._timer.stop()
            self._phase = 0.0
        elif not self._timer.isActive():
            self._timer.start()
        drawing = self.board.mode != "pick"
        self.setCursor(Qt.CursorShape.CrossCursor if drawing else Qt.CursorShape.ArrowCursor)
        self.update()

    def _tick(self) -> None:
        self._phase += 0.12
        self.update()

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        self.board.resize(self.width(), self.height())

    # painting ------------------------------------------------------------------------------------
    def paintEvent(self, event: Any) -> None:
        board, mode = self.board, self.board.mode
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(theme.roles().card))
        paint.paint_grid(painter, self.frame, QRectF(self.rect()))
        state = self._shown()
        if self.underlay is not None:
            paint.paint_underlay(painter, self.underlay, *self.underlay_at, self.frame)
        in_hand = frozenset((*board.chosen, board.hover or ""))
        paint.paint_outline(painter, board.outline, self.frame, in_hand)
        paint.paint_held_on_to(painter, board, self.frame, in_hand)
        hover = board.hover if mode not in ("regions", "take") else None
        region = board.hover if mode == "regions" else None
        paint.paint_regions(painter, state, self.frame, board.regions, region)
        paint.paint_curves(painter, state, self.frame, frozenset(board.chosen), hover)
        # while something moves, only its own dimensions are drawn: the hand must not wait for the lettering
        only = board.moving if board.dragged is not None else None
        boxes = paint_dimensions(painter, state, self.frame, frozenset(board.chosen), hover, only)
        board.boxes = {n: (b.left(), b.top(), b.right(), b.bottom()) for n, b in boxes.items()}
        if board.pending is not None:
            paint_waiting(painter, board.holding()[0], self.frame, board.pending)
        if board.ghost is not None:
            paint.paint_ghost(painter, state.sketch, board.ghost, self.frame, strong=True)
        if board.movement is not None:
            size = self.frame.mm(SWING) * float(np.sin(self._phase))
            paint.paint_ghost(painter, state.sketch, unknowns(state.sketch) + board.movement * size, self.frame)
            paint.paint_arrows(painter, state.sketch, board.movement, self.frame)
        self._paint_interaction(painter)
        if not state.sketch.entities and mode == "pick":
            painter.setPen(QColor(theme.roles().quiet))
            words = "An empty sketch.\nL draws lines, R a rectangle, C a circle; D dimensions."
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, spoken(words))
        painter.end()

    def _shown(self) -> SketchState:
        """The state, or its figure as it is being dragged."""
        state, x = self.board.state, self.board.dragged
        if x is None or state.seen is None:
            return state
        seen = dataclasses.replace(state.seen, sketch=moved(state.sketch, x))
        return SketchState(state.document, state.step, seen)

    def _paint_interaction(self, painter: QPainter) -> None:
        interaction = self.board.interaction
        if isinstance(interaction, Draw) and self.board.cursor is not None:
            self._paint_tool(painter, interaction)
        elif isinstance(interaction, Pick) and isinstance(interaction.gesture, Window):
            a, b = interaction.gesture.start, interaction.gesture.at
            painter.setPen(QPen(QColor(theme.roles().brass), 1, Qt.PenStyle.DashLine))
            painter.drawRect(QRectF(QPointF(a.real, a.imag), QPointF(b.real, b.imag)).normalized())

    def _paint_tool(self, painter: QPainter, draw: Draw) -> None:
        sketch, here, said = draw.preview()
        painter.setPen(QPen(QColor(theme.roles().brass_ink), 1.6))
        if sketch is not None:
            for c in sketch.curves:
                painter.drawPolyline(QPolygonF(paint.polyline(shape(sketch, c.id), self.frame)))
        at = self.frame.pixel(here.place)
        painter.drawEllipse(at, 4, 4)
        if said:
            painter.setFont(theme.narrow(12))
            painter.drawText(at + QPointF(12, 18), spoken(said))

    # pointer and keys ----------------------------------------------------------------------------
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        if event.button() == Qt.MouseButton.LeftButton:
            self.board.press(z_of(event.position()))
        else:
            self._panned = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._panned is not None:
            self.board.paper.pan(z_of(event.position() - self._panned))
            self._panned = event.position()
            self.update()
        else:
            self.board.move(z_of(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() == Qt.MouseButton.LeftButton:
            shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.board.release(z_of(event.position()), add=shift)
        else:
            self._panned = None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.board.double(z_of(event.position()))

    def leaveEvent(self, event: Any) -> None:
        self.board.leave()

    def find_pointer(self) -> None:
        """Tell the board where the pointer is: after a dialog it may stand over the drawing without having moved."""
        at = self.mapFromGlobal(QCursor.pos())
        if self.board.cursor is None and self.rect().contains(at):
            self.board.cursor = complex(at.x(), at.y())

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self.board.paper.zoom(z_of(event.position()), 1.2 ** (event.angleDelta().y() / 120))
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, meant = event.key(), True
        if key == Qt.Key.Key_Escape:
            self.board.cancel()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            meant = self.board.accept()
        elif key == Qt.Key.Key_Home:
            self.board.fit()
        else:
            meant = self.board.typed(event.text())
        if meant:
            self.update()
        else:
            event.ignore()
