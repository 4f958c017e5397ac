"""Dimensions in drawing style: where they stand, their lines and arrows, their balloons."""

from __future__ import annotations

import cmath
import math
from functools import cached_property

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from lathed_solid.desk import theme
from lathed_solid.desk.sketch.paint import polyline
from lathed_solid.desk.sketch.view import PaperFrame
from lathed_solid.quantity.tolerances import NOTHING, ROUNDING
from lathed_solid.sketch.geometry import Round, Shape, Straight
from lathed_solid.sketch.model import Constraint, Line
from lathed_solid.sketch.plane import components, crossing
from lathed_solid.workbench.sketch.places import anchor, spot
from lathed_solid.workbench.sketch.view_model import SketchState

#: how high a dimension's text stands, pixels
HIGH = 20.0


class Outside:
    """Where dimensions stand that nobody placed: outside the outline, one row for each, the short ones within."""

    ROW = 24.0
    #: from one place along an upright line to the next, pixels
    STEP = 22.0

    def __init__(self, state: SketchState, frame: PaperFrame) -> None:
        self._state, self._frame = state, frame
        self.used: dict[str, int] = {}
        #: where texts stand already
        self.taken: list[QRectF] = []

    @cached_property
    def box(self) -> QRectF:
        """The outline in pixels; not worked out where every dimension has its place."""
        state = self._state
        curves = [c for c in state.sketch.curves if not c.construction] or list(state.sketch.curves)
        points = [q for c in curves for q in polyline(state.shape(c.id), self._frame)]
        return QPolygonF(points).boundingRect() if points else QRectF()

    def place(self, a: QPointF, b: QPointF, u: complex, wide: float) -> QPointF:
        """A place for the text (``wide`` pixels) of a dimension between two pixels, running along ``u``."""
        middle = (a + b) / 2
        if abs(u.imag) < ROUNDING:
            side = "below" if middle.y() >= self.box.center().y() - 1 else "above"
            edge = max(self.box.bottom(), a.y(), b.y()) if side == "below" else min(self.box.top(), a.y(), b.y())
            return QPointF(middle.x(), edge + self._row(side) * (1 if side == "below" else -1))
        if abs(u.real) < ROUNDING:
            side = "right" if middle.x() > self.box.center().x() + 1 else "left"
            edge = max(self.box.right(), a.x(), b.x()) if side == "right" else min(self.box.left(), a.x(), b.x())
            at = QPointF(edge + self._row(side) * (1.4 if side == "right" else -1.4), middle.y())
            return self._beside(at, wide, abs(a.y() - b.y()) / 2)
        n = 1j * u
        away = complex(middle.x() - self.box.center().x(), middle.y() - self.box.center().y())
        sign = 1 if (n.conjugate() * away).real >= 0 else -1
        return middle + QPointF(n.real, n.imag) * (26 * sign)

    def _beside(self, at: QPointF, wide: float, reach: float) -> QPointF:
        """Along an upright line, up to ``reach`` from its middle, where the text lies over no other: rows are nearer
        than a text is wide.
        """
        for k in range(1 + 2 * int(reach // self.STEP)):
            off = self.STEP * ((k + 1) // 2) * (1 if k % 2 else -1)
            box = QRectF(at.x() - wide / 2, at.y() + off - HIGH / 2, wide, HIGH)
            if not any(box.intersects(other) for other in self.taken):
                return at + QPointF(0, off)
        return at

    def _row(self, side: str) -> float:
        self.used[side] = self.used.get(side, 0) + 1
        return self.ROW * self.used[side]


# dimensions --------------------------------------------------------------------------------------
def paint_dimensions(
    painter: QPainter,
    state: SketchState,
    frame: PaperFrame,
    chosen: frozenset[str],
    hover: str | None,
    only: frozenset[str] | None = None,
) -> dict[str, QRectF]:
    """Dimensions in drawing style (with ``only``, those of these entities); where each one's text stands, in pixels."""
    from lathed_solid.sketch.constraints import DIMENSIONS

    painter.setFont(theme.drawing(14))
    boxes: dict[str, QRectF] = {}
    outside = Outside(state, frame)
    fighting = state.seen.fighting if state.seen else frozenset()
    for c in state.sketch.constraints:
        if c.kind in DIMENSIONS and (only is None or only & set(c.of)):
            try:
                lit = c.id in chosen or c.id == hover
                boxes[c.id] = _paint_dimension(painter, state, frame, outside, c, lit, c.id in fighting)
            except (KeyError, ZeroDivisionError):
                continue
    return boxes


def paint_waiting(painter: QPainter, state: SketchState, frame: PaperFrame, c: Constraint) -> None:
    """A dimension that stands and waits for its value."""
    painter.setFont(theme.drawing(14))
    _paint_dimension(painter, state, frame, Outside(state, frame), c, lit=True, fighting=False)


def _paint_dimension(
    painter: QPainter,
    state: SketchState,
    frame: PaperFrame,
    outside: Outside,
    c: Constraint,
    lit: bool,
    fighting: bool,
) -> QRectF:
    r = theme.roles()
    colour = QColor(r.brass_ink if lit else r.quiet)
    painter.setPen(QPen(colour, 1.4 if lit else 1.0))
    sketch = state.sketch
    text, balloon = state.dimension_text(c), state.balloon(c)
    at = frame.pixel(anchor(sketch, c) + complex(*c.label)) if c.label else None
    if c.kind in ("radius", "diameter"):
        s = state.shape(c.of[0])
        assert isinstance(s, Round)
        middle = frame.pixel(s.centre)
        if at is None:
            way = cmath.rect(1, s.start + s.turn * 0.5 if not s.closed else math.pi / 4)
            rim = frame.pixel(s.centre + way * s.radius)
            at = rim + QPointF(way.real, -way.imag) * 22
        d = complex((at - middle).x(), (at - middle).y())
        way = d / abs(d) if abs(d) > ROUNDING else 1 + 0j
        rim = middle + QPointF(way.real, way.imag) * (s.radius * frame.scale)
        far = middle - QPointF(way.real, way.imag) * (s.radius * frame.scale) if c.kind == "diameter" else middle
        painter.drawLine(far, at)
        _arrow(painter, rim, -way if abs(d) < s.radius * frame.scale else way)
        if c.kind == "diameter":
            _arrow(painter, far, -way)
    elif c.kind == "angle":
        at = _paint_angle(painter, state, frame, c, at)
    else:
        at = _paint_linear(painter, state, frame, outside, c, at, sum(_widths(painter, text, balloon)))
    outside.taken.append(box := _text(painter, at, text, balloon, lit, fighting))
    return box


def _paint_linear(
    painter: QPainter, state: SketchState, frame: PaperFrame, outside: Outside, c: Constraint, at: QPointF | None,
    wide: float,
) -> QPointF:  # fmt: skip
    a, b, along = _linear(state, c)
    pa, pb = frame.pixel(a), frame.pixel(b)
    u = complex(along.real, -along.imag)  # pixels run down
    n = 1j * u
    if at is None:
        at = outside.place(pa, pb, u, wide)
    z = complex(at.x(), at.y())
    feet = []
    for p in (pa, pb):
        w = complex(p.x(), p.y())
        height = ((z - w) * n.conjugate()).real
        foot = w + n * height
        feet.append(foot)
        if abs(height) > 1:
            past = n * (height + math.copysign(4, height))
            start = w + n * math.copysign(min(3, abs(height)), height)
            painter.drawLine(QPointF(start.real, start.imag), QPointF((w + past).real, (w + past).imag))
    f, g = feet
    run = ((g - f) * u.conjugate()).real
    position = ((z - f) * u.conjugate()).real
    low, high = min(0.0, run, position), max(0.0, run, position)
    start, end = f + u * low, f + u * high
    painter.drawLine(QPointF(start.real, start.imag), QPointF(end.real, end.imag))
    way = u if run >= 0 else -u
    if abs(run) > 22:
        _arrow(painter, QPointF(f.real, f.imag), -way)
        _arrow(painter, QPointF(g.real, g.imag), way)
    else:
        _arrow(painter, QPointF(f.real, f.imag), way)
        _arrow(painter, QPointF(g.real, g.imag), -way)
    return at


def _linear(state: SketchState, c: Constraint) -> tuple[complex, complex, complex]:
    """The two places a linear dimension runs between, and its direction."""
    sketch, first = state.sketch, state.sketch.by_id[c.of[0]]
    if len(c.of) == 1:
        if not isinstance(first, Line):
            s = state.shape(first.id)
            return s.at(0), s.at(1), 1 + 0j
        a, b = (complex(*sketch.at(p)) for p in first.points)
    else:
        a, b = spot(sketch, c.of[0]), spot(sketch, c.of[1])
        if isinstance(first, Line):
            s = state.shape(first.id)
            other = sketch.by_id[c.of[1]]
            if isinstance(other, Line):
                b = complex(*sketch.at(other.start))
            u = s.along(0.5) / abs(s.along(0.5))
            a = s.at(0) + u * ((b - s.at(0)) * u.conjugate()).real
    if c.kind == "offset" and isinstance(state.shape(c.of[0]), Round):
        return _between_rims(state, c)
    if c.kind in ("near", "far") and abs(b - a) > NOTHING:
        u = (b - a) / abs(b - a) * (1 if c.kind == "near" else -1)
        rims = [s.radius if isinstance(s, Round) else 0.0 for s in (_round(state, n) for n in c.of)]
        a, b = a + u * rims[0], b - u * rims[1]
    if c.kind == "across_x":
        return a, b, 1 + 0j
    if c.kind == "across_y":
        return a, b, 1j
    d = b - a
    return a, b, d / abs(d) if abs(d) > NOTHING else 1 + 0j


def _round(state: SketchState, name: str) -> Shape | None:
    """A circle or an arc as a curve; None for other things."""
    return state.shape(name) if state.sketch.by_id[name].kind in ("circle", "arc") else None


def _between_rims(state: SketchState, c: Constraint) -> tuple[complex, complex, complex]:
    """Across the gap between two concentric curves, at the middle of the second."""
    first, second = (state.shape(n) for n in c.of)
    assert isinstance(first, Round) and isinstance(second, Round)
    b = second.at(0.5 if not second.closed else 0.125)
    way = (b - second.centre) / second.radius
    a = first.centre + way * first.radius
    return a, b, (b - a) / max(abs(b - a), NOTHING)


def _paint_angle(
    painter: QPainter, state: SketchState, frame: PaperFrame, c: Constraint, at: QPointF | None
) -> QPointF:
    s, t = state.shape(c.of[0]), state.shape(c.of[1])
    assert isinstance(s, Straight) and isinstance(t, Straight)
    u, v = s.along(0) / abs(s.along(0)), t.along(0) / abs(t.along(0))
    cross = (u.conjugate() * v).imag
    apex = crossing(s.a, u, t.a, v) if abs(cross) > ROUNDING else s.a
    p = frame.pixel(apex)
    if c.supplement:
        v = -v
    if at is not None:
        off = complex((at - p).x(), -(at - p).y())
        if abs(cross) > ROUNDING and max(components(off, u, v)) < 0:
            u, v = -u, -v  # the sector opposite, where the text stands
    start, turn = cmath.phase(u), cmath.phase(v / u)
    if at is None:
        way = cmath.rect(1, start + turn / 2)
        at = p + QPointF(way.real, -way.imag) * 52
    radius = max(18.0, math.hypot((at - p).x(), (at - p).y()))
    box = QRectF(p.x() - radius, p.y() - radius, 2 * radius, 2 * radius)
    painter.drawArc(box, round(math.degrees(start) * 16), round(math.degrees(turn) * 16))
    for line, way, bend in ((s, u, -1j if turn > 0 else 1j), (t, v, 1j if turn > 0 else -1j)):
        tip = p + QPointF(way.real, -way.imag) * radius
        along = way * bend
        _arrow(painter, tip, complex(along.real, -along.imag))
        # from where the line ends, if the arc lies beyond it: what the angle is measured from can be seen
        reach = max(0.0, *(((z - apex) * way.conjugate()).real for z in (line.a, line.b))) * frame.scale
        painter.drawLine(
            p + QPointF(way.real, -way.imag) * min(reach + 3, radius - 8),
            p + QPointF(way.real, -way.imag) * (radius + 5),
        )
    return at


def _arrow(painter: QPainter, tip: QPointF, way: complex) -> None:
    """A slender filled arrow whose tip points along ``way`` (pixels)."""
    w = way / abs(way) if abs(way) > NOTHING else 1 + 0j
    z = complex(tip.x(), tip.y())
    points = [z, z - 9 * w + 2.2j * w, z - 9 * w - 2.2j * w]
    painter.save()
    painter.setBrush(painter.pen().color())
    painter.drawPolygon(QPolygonF([QPointF(q.real, q.imag) for q in points]))
    painter.restore()


def _widths(painter: QPainter, text: str, balloon: str) -> tuple[float, float]:
    """Of the balloon and of the text, pixels."""
    metrics = painter.fontMetrics()
    head = max(18, metrics.horizontalAdvance(balloon) + 10) if balloon else 0
    return head, metrics.horizontalAdvance(text) + 8


def _text(painter: QPainter, at: QPointF, text: str, balloon: str, lit: bool, fighting: bool) -> QRectF:
    r = theme.roles()
    head, width = _widths(painter, text, balloon)
    box = QRectF(at.x() - (width + head) / 2, at.y() - HIGH / 2, width + head, HIGH)
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    paper = QColor(r.out if fighting else r.tint if lit else r.paper)
    paper.setAlpha(235)
    painter.setBrush(paper)
    painter.drawRect(box)
    if fighting:
        painter.setPen(QPen(QColor(r.out_line), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)
    if balloon:
        ring = QRectF(box.left() + 1, box.top() + 1, head - 2, 18)
        painter.setPen(QPen(QColor(r.brass_ink), 1.2))
        painter.setBrush(QColor(r.card))
        painter.drawRoundedRect(ring, 9, 9)
        painter.setFont(theme.narrow(12))
        painter.drawText(ring, Qt.AlignmentFlag.AlignCenter, balloon)
        painter.setFont(theme.drawing(14))
    painter.setPen(QColor(r.ink))
    painter.drawText(box.adjusted(head, 0, 0, 0), Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()
    return box
