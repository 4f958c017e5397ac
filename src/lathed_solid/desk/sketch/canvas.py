"""The drawing surface of the sketch pane: pointing, picking, dragging, drawing.

Left click picks (Shift adds), a drag on something loose moves it, a drag on paper opens a window; the middle or
right button moves the paper, the wheel zooms at the pointer. With a tool, clicks place and Escape lets go.
"""

from __future__ import annotations

import dataclasses
import math
from typing import Any

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen, QPixmap, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.sketch import paint
from lathed_solid.desk.sketch.dimensions import paint_dimensions
from lathed_solid.desk.sketch.view import Frame
from lathed_solid.errors import LathedError
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.geometry import shape
from lathed_solid.sketch.infer import Snap, snap
from lathed_solid.sketch.outside import Edge
from lathed_solid.sketch.solve import Drag, moved, unknowns
from lathed_solid.workbench.sketch.tools import Drawing, Tool
from lathed_solid.workbench.sketch.view_model import SketchState

REACH = 9.0  # pixels
GHOST_MS = 33


class Canvas(QWidget):
    """Emits what was picked or drawn; changes nothing itself but the view."""

    drawn = pyqtSignal(str, object)  # label, Sketch
    dragged = pyqtSignal(str, object)
    picked = pyqtSignal(object)  # tuple of ids
    region_clicked = pyqtSignal(str)
    placed = pyqtSignal(object)  # Constraint to be dimensioned, at its place
    cut_at = pyqtSignal(str, object)  # curve, place: trim there
    edge_clicked = pyqtSignal(str)
    dimension_opened = pyqtSignal(str)
    value_typed = pyqtSignal(str)  # a first character, for the entry fields
    told = pyqtSignal(str, bool)
    hint = pyqtSignal(str)
    let_go = pyqtSignal()

    def __init__(self, state: SketchState) -> None:
        super().__init__()
        self.state, self.frame = state, Frame()
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(260, 180)
        self.setAccessibleName("Sketch")
        self.chosen: tuple[str, ...] = ()
        self.regions: tuple[str, ...] = ()
        self.mode = "pick"  # pick, draw, regions, dimension, trim, take
        self.tool: Tool | None = None
        self.sides = 6
        self.text = ""
        self.infer = True
        self.snaps: list[Snap] = []
        self.texts: dict[str, str] = {}
        self.values: Values = {}
        self.along = ""
        self._pressed: dict[str, complex] = {}
        self.underlay: QPixmap | None = None
        self.underlay_at = (0j, 0.0, 0.0)  # lower left corner, width in mm, turn in rad
        self.outline: tuple[Edge, ...] = ()
        self.ghost: np.ndarray | None = None
        self.movement: np.ndarray | None = None
        self._phase = 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(GHOST_MS)
        self._timer.timeout.connect(self._tick)
        self._fitted = True
        self._cursor = QPointF(-1, -1)
        self._hover: str | None = None
        self._press: tuple[QPointF, Qt.MouseButton] | None = None
        self._window: QRectF | None = None
        self._drag: Drag | None = None
        self._drag_x: np.ndarray | None = None
        self._moving: frozenset[str] = frozenset()
        self._boxes: dict[str, QRectF] = {}

    # what is shown -------------------------------------------------------------------------------
    def refresh(self) -> None:
        """The state was loaded anew."""
        known = set(self.state.sketch.by_id) | {c.id for c in self.state.sketch.constraints}
        self.chosen = tuple(n for n in self.chosen if n in known)
        self._drag = self._drag_x = None
        self.show_movement(None)
        self.ghost = None
        self.update()

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        self.fit_if_untouched()

    def fit_if_untouched(self) -> None:
        """Fit again, unless the paper was moved or zoomed by hand."""
        if self._fitted:
            self.fit()

    def fit(self) -> None:
        """Show everything, or a sheet of 100 mm when nothing is drawn; it stays so until the paper is moved."""
        self._fitted = True
        boxes = [self.state.shape(c.id).box for c in self.state.sketch.curves]
        boxes += [s.box for s in self.state.letters]
        boxes += [(x, y, x, y) for edge in self.outline for x, y in edge.points]
        if not boxes:
            self.frame.fit(-50 - 50j, 50 + 50j, self.width(), self.height())
        else:
            b = np.array(boxes)
            low, high = complex(*b[:, :2].min(axis=0)), complex(*b[:, 2:].max(axis=0))
            self.frame.fit(low, high, self.width(), self.height())
        self.update()

    def choose(self, names: tuple[str, ...]) -> None:
        self.chosen = names
        self.picked.emit(names)
        self.update()

    def pressed_at(self, name: str) -> complex:
        """Where an entity was last clicked; its middle when it never was."""
        curve = self.state.shape(name)
        return self._pressed.get(name, curve.at(0.5))

    def set_mode(self, mode: str, tool: Tool | None = None) -> None:
        """Pick, draw with a tool, pick regions, place dimensions, or trim."""
        self.mode, self.tool, self.snaps = mode, tool, []
        self.texts, self.values = {}, {}
        self._say()
        self.setCursor(Qt.CursorShape.ArrowCursor if mode == "pick" else Qt.CursorShape.CrossCursor)
        self.update()

    def show_movement(self, x: np.ndarray | None) -> None:
        """Animate a free movement with its arrows; None ends it."""
        self.movement, self._phase = x, 0.0
        if x is None:
            self._timer.stop()
        else:
            self._timer.start()
        self.update()

    def show_ghost(self, x: np.ndarray | None) -> None:
        self.ghost = x
        self.update()

    def _tick(self) -> None:
        self._phase += 0.12
        self.update()

    def _say(self) -> None:
        words = {
            "pick": "",
            "regions": "click the regions to build on; again to leave one out",
            "dimension": "pick what to dimension, then click where it shall stand",
            "trim": "click the part to take away",
            "take": "click an edge of the body to take it as construction",
        }.get(self.mode, "")
        if self.mode == "draw" and self.tool is not None:
            n = min(len(self.snaps), len(self.tool.hints) - 1)
            words = f"{self.tool.title}: {self.tool.hints[n]}"
        self.hint.emit(words)

    # painting ------------------------------------------------------------------------------------
    def paintEvent(self, event: Any) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(theme.roles().card))
        paint.paint_grid(painter, self.frame, QRectF(self.rect()))
        state = self._shown()
        if self.underlay is not None:
            paint.paint_underlay(painter, self.underlay, *self.underlay_at, self.frame)
        paint.paint_outline(painter, self.outline, self.frame, self._hover if self.mode == "take" else None)
        hover = self._hover if self.mode not in ("regions", "take") else None
        region = self._hover if self.mode == "regions" else None
        paint.paint_regions(painter, state, self.frame, self.regions, region)
        paint.paint_curves(painter, state, self.frame, frozenset(self.chosen), hover)
        # while something moves, only its own dimensions are drawn: the hand must not wait for the lettering
        only = self._moving if self._drag is not None else None
        self._boxes = paint_dimensions(painter, state, self.frame, frozenset(self.chosen), hover, only)
        if self.ghost is not None:
            paint.paint_ghost(painter, state.sketch, self.ghost, self.frame, strong=True)
        if self.movement is not None:
            start = unknowns(state.sketch)
            size = self.frame.mm(26) * float(np.sin(self._phase))
            paint.paint_ghost(painter, state.sketch, start + self.movement * size, self.frame)
            paint.paint_arrows(painter, state.sketch, self.movement, self.frame)
        self._paint_tool(painter)
        if self._window is not None:
            painter.setPen(QPen(QColor(theme.roles().brass), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self._window)
        if not state.sketch.entities and self.mode == "pick":
            painter.setPen(QColor(theme.roles().quiet))
            words = "An empty sketch.\nL draws lines, R a rectangle, C a circle; D dimensions."
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, words)
        painter.end()

    def _shown(self) -> SketchState:
        """The state, or its figure as it is being dragged."""
        if self._drag_x is None or self.state.seen is None:
            return self.state
        seen = dataclasses.replace(self.state.seen, sketch=moved(self.state.sketch, self._drag_x))
        return SketchState(self.state.document, self.state.step, seen)

    def _paint_tool(self, painter: QPainter) -> None:
        if self.mode != "draw" or self.tool is None or self._cursor.x() < 0:
            return
        here = self._snap(self._cursor)
        painter.setPen(QPen(QColor(theme.roles().brass_ink), 1.6))
        scratch = self._built(SketchBuilder(), [*self.snaps, here])
        said = here.words if self.infer else "nothing inferred"
        if scratch is not None:
            sketch = scratch.done()
            for c in sketch.curves:
                painter.drawPolyline(QPolygonF(paint.polyline(shape(sketch, c.id), self.frame)))
            ways = [c.kind for c in sketch.constraints if c.inferred]
            said = " · ".join([*ways, *([said] if said else [])])
        at = self.frame.pixel(here.place)
        painter.drawEllipse(at, 4, 4)
        if said:
            painter.setFont(theme.narrow(12))
            painter.drawText(at + QPointF(12, 18), said)

    def _built(self, draft: SketchBuilder, snaps: list[Snap]) -> SketchBuilder | None:
        """The tool's figure drawn into ``draft``; None while it has too few places or no size yet."""
        assert self.tool is not None
        if len(snaps) < self.tool.clicks:
            return None
        try:
            self.tool.build(draft, self._drawing(snaps))
        except LathedError:
            return None
        return draft

    def _drawing(self, snaps: list[Snap]) -> Drawing:
        return Drawing(
            [s.place for s in snaps], dict(self.texts), dict(self.values), self.infer, self.sides, self.text, self.along
        )

    # pointing ------------------------------------------------------------------------------------
    def _snap(self, p: QPointF) -> Snap:
        place = self.frame.place(p)
        if not self.infer:
            return Snap(place)
        shapes = {c.id: self.state.shape(c.id) for c in self.state.sketch.curves}
        found = snap(self.state.sketch, shapes, place, self.frame.mm(REACH))
        off = self.frame.origin - p
        if not found.kind and max(abs(off.x()), abs(off.y())) < REACH:
            return Snap(0j)
        return found

    def _under(self, p: QPointF) -> str | None:
        """Dimension, point or curve under the pointer."""
        for name, box in self._boxes.items():
            if box.contains(p):
                return name
        place, reach = self.frame.place(p), self.frame.mm(REACH)
        return self.state.nearest_point(place, reach * 0.8) or self.state.nearest_curve(place, reach)

    def _edge_under(self, p: QPointF) -> str | None:
        """The body's edge nearest to a pixel."""
        best: tuple[float, str] | None = None
        for edge in self.outline:
            points = paint.edge_points(edge, self.frame)
            if edge.kind == "point":  # a corner lies on its edges: near it, it is meant
                d = math.hypot(p.x() - points[0].x(), p.y() - points[0].y()) - REACH / 2
            else:
                d = paint.distance_to(points, p)
            if d <= REACH and (best is None or d < best[0]):
                best = (d, edge.name)
        return best[1] if best else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        self._press = (event.position(), event.button())
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self.mode == "draw":
            self.click(event.position())
            self._press = None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        p = event.position()
        before, self._cursor = self._cursor, p
        if self._press is None:
            hover: str | None = None
            if self.mode == "regions":
                region = self.state.region_at(self.frame.place(p))
                hover = region.name if region else None
            elif self.mode == "take":
                hover = self._edge_under(p)
            elif self.mode in ("pick", "dimension", "trim"):
                hover = self._under(p)
            self._hover = hover
            self.update()
            return
        start, button = self._press
        if button != Qt.MouseButton.LeftButton:
            self._fitted = False
            self.frame.origin += p - before
        elif self._drag is not None:
            d = self.frame.place(p) - self.frame.place(start)
            self._drag_x = self._drag.to(d.real, d.imag)
        elif self.mode == "pick" and (p - start).manhattanLength() > 4 and self._window is None:
            self._begin_drag(start)
        if self._window is not None:
            self._window = QRectF(start, p).normalized()
        self.update()

    def _begin_drag(self, start: QPointF) -> None:
        under = self._under(start)
        e = self.state.sketch.by_id.get(under or "")
        if e is None:
            if under is None:
                self._window = QRectF(start, start)
            return
        seen = self.state.seen
        if seen is None or not seen.ok:
            self.told.emit("a fighting sketch cannot be dragged: end the fight first", True)
            return
        if e.id not in seen.freedoms.loose:
            self.told.emit(f"{e.id} is held: nothing to drag", False)
            return
        points = e.points[:1] if e.kind in ("circle", "arc", "ellipse") else e.points
        self._moving = frozenset({e.id, *points})
        self._drag = Drag(self.state.sketch, seen.values, points)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        press, self._press = self._press, None
        if press is None or event.button() != Qt.MouseButton.LeftButton:
            return
        p = event.position()
        if self._drag is not None:
            x, self._drag, self._drag_x = self._drag_x, None, None
            if x is not None:
                self.dragged.emit("drag", moved(self.state.sketch, x))
            return
        if self._window is not None:
            box, self._window = self._window, None
            self.choose(self._within(box))
            return
        if (p - press[0]).manhattanLength() > 4:
            return
        self.pick(p, add=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def _within(self, box: QRectF) -> tuple[str, ...]:
        out = []
        for c in self.state.sketch.curves:
            if all(box.contains(q) for q in paint.polyline(self.state.shape(c.id), self.frame)):
                out.append(c.id)
        alone = {p for c in self.state.sketch.curves for p in c.points}
        for point in self.state.sketch.points:
            if point.id not in alone and box.contains(self.frame.pixel(complex(point.x, point.y))):
                out.append(point.id)
        return tuple(out)

    def pick(self, p: QPointF, *, add: bool = False) -> None:
        """A click at a pixel, without a tool."""
        place, under = self.frame.place(p), self._under(p)
        if under is not None:
            self._pressed[under] = place
        if self.mode == "regions":
            region = self.state.region_at(place)
            if region is not None:
                self.region_clicked.emit(region.name)
            return
        if self.mode == "take":
            edge = self._edge_under(p)
            if edge is not None:
                self.edge_clicked.emit(edge)
            return
        if self.mode == "trim":
            if under is not None and under in self.state.sketch.by_id:
                self.cut_at.emit(under, place)
            return
        is_entity = under is not None and under in self.state.sketch.by_id
        if self.mode == "dimension" and (not is_entity or len(self.chosen) >= 2) and self.chosen:
            c = self.state.dimension_for(self.chosen, place)
            if c is not None:
                self.placed.emit(c)
                return
            self.told.emit("nothing can be dimensioned between these", True)
        if under is None:
            self.choose(())
        elif add or (self.mode == "dimension" and len(self.chosen) < 2 and is_entity):
            rest = tuple(n for n in self.chosen if n != under)
            self.choose(rest if under in self.chosen and add else (*rest, under))
        else:
            self.choose((under,))

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        under = self._under(event.position())
        if self.mode != "pick" or under is None:
            return
        if self.state.sketch.constraint(under) is not None:
            self.dimension_opened.emit(under)
        elif self.state.sketch.by_id[under].kind != "point":
            self.choose(tuple(self.state.chain(under)))

    def leaveEvent(self, event: Any) -> None:
        self._hover = None
        self._cursor = QPointF(-1, -1)
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self._fitted = False
        self.frame.zoom(event.position(), 1.2 ** (event.angleDelta().y() / 120))
        self.update()

    # drawing -------------------------------------------------------------------------------------
    def click(self, p: QPointF) -> None:
        """A click with a tool."""
        if self.tool is None:
            return
        self.take(self._snap(p))

    def take(self, place: Snap) -> None:
        """Place the next point of the tool; the figure is made with the last one."""
        assert self.tool is not None
        self.snaps.append(place)
        if self.tool.id != "spline" and len(self.snaps) >= self.tool.clicks:
            self.finish()
        self._say()
        self.update()

    def finish_here(self) -> None:
        """Enter in a size field: the last place is where the pointer is."""
        if self.mode != "draw" or self.tool is None or not self.snaps:
            return
        here = self._snap(self._cursor) if self._cursor.x() >= 0 else Snap(self.snaps[-1].place + 10 + 10j)
        while len(self.snaps) < self.tool.clicks:
            self.snaps.append(Snap(here.place))
        self.finish()

    def finish(self) -> None:
        """Make the figure from the clicked places."""
        assert self.tool is not None
        tool, snaps = self.tool, self.snaps
        if len(snaps) < 2 and tool.clicks > 1:
            return
        draft = SketchBuilder(self.state.sketch)
        self.snaps = []
        try:
            points = tool.build(draft, self._drawing(snaps))
            for s, made in zip(snaps, points, strict=False):
                if s.kind and made is not None:
                    draft.add(s.kind, made, s.entity, inferred=True)  # type: ignore[arg-type]
            sketch = draft.done()
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        self.texts, self.values = {}, {}
        self.drawn.emit(f"draw a {tool.title}", sketch)
        end = points[-1] if points else None
        if tool.chain and end is not None and snaps[-1].kind != "coincident" and end in self.state.sketch.by_id:
            self.snaps = [Snap(complex(*self.state.sketch.at(end)), "coincident", end)]
        self._say()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, text = event.key(), event.text()
        if key == Qt.Key.Key_Escape:
            if self.snaps:
                self.snaps = []
                self._say()
            elif self.mode != "pick":
                self.let_go.emit()
            else:
                self.choose(())
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.mode == "draw" and self.tool is not None:
            if self.tool.id == "spline":
                self.finish()
            else:
                self.snaps = []
        elif key == Qt.Key.Key_Home:
            self.fit()
        elif key == Qt.Key.Key_N and self.mode == "draw":
            self.infer = not self.infer
        elif self.mode == "draw" and self.snaps and text and (text.isdigit() or text in "#.,("):
            self.value_typed.emit(text)
        else:
            event.ignore()
            return
        self.update()
