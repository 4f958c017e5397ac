"""Dragging in the view: the chosen member, where it is loose, follows the hand; everywhere else the view turns.

While the parts are pulled apart, the chosen member is drawn out further instead, and that is remembered.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QEvent, QObject, QPointF, Qt
from PyQt6.QtGui import QMouseEvent

from lathed_solid.desk.solid_view import CLICK_REACH, SolidView
from lathed_solid.kernel.vectors import Triple
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.fit.moving import Moving


class Dragging(QObject):
    """Watches one view; ``movable`` says whether a member may be taken."""

    def __init__(self, view: SolidView, fit: FitBench, moving: Moving, movable: Callable[[str], bool]) -> None:
        super().__init__(view)
        self._view, self._fit, self._moving, self._movable = view, fit, moving, movable
        self.active = False
        self._level: Triple | None = None
        self._start = QPointF()
        self._member = ""
        self._dragged = False
        view.installEventFilter(self)

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        if not self.active or not isinstance(event, QMouseEvent):
            return False
        if event.type() == QEvent.Type.MouseButtonPress and event.button() == Qt.MouseButton.LeftButton:
            return self._press(event.position())
        if self._level is None:
            return False
        if event.type() == QEvent.Type.MouseMove:
            self._move(event.position())
            return True
        if event.type() == QEvent.Type.MouseButtonRelease:
            self._release(event)
            return True
        return False

    def _press(self, at: QPointF) -> bool:
        found = self._view.at_pointer(at)
        if found is None or not found.member or not self._movable(found.member):
            return False
        self._level, self._start, self._member, self._dragged = found.point, at, found.member, False
        return True

    def _move(self, at: QPointF) -> None:
        assert self._level is not None
        if not self._dragged:
            if (at - self._start).manhattanLength() < CLICK_REACH:
                return
            if not self._fit.apart and not self._moving.grab(self._member, self._level):
                self._level = None
                return
            self._dragged = True
        place = self._view.under(at, self._level)
        if place is not None and self._fit.apart:
            self._fit.pull(np.array(place) - np.array(self._level))
        elif place is not None:
            self._moving.drag(place)

    def _release(self, event: QMouseEvent) -> None:
        self._level = None
        if self._dragged and self._fit.apart:
            self._fit.let_go()
        elif self._dragged:
            self._moving.leave(f"move {self._member}")
        else:
            self._view.pick_at(event.position(), event.modifiers())
