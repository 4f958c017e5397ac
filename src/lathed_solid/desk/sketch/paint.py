"""Painting a sketch: state by stroke (dashed loose, solid held, zigzag fighting), dimensions as on a drawing."""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Iterable

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from lathed_solid.desk import theme
from lathed_solid.desk.sketch.state import SketchState, anchor, spot
from lathed_solid.desk.sketch.view import Frame
from lathed_solid.sketch.geometry import Round, Shape, Straight
from lathed_solid.sketch.model import Constraint, Line, Sketch
from lathed_solid.sketch.outside import Edge
from lathed_solid.sketch.regions import Loop

DASH = [7.0, 4.0]
CHAIN = [12.0, 4.0, 2.0, 4.0]


def polyline(s: Shape, frame: Frame) -> list[QPointF]:
    """A curve in pixels, fine enough for the zoom."""
    if isinstance(s, Straight):
        return [frame.pixel(s.a), frame.pixel(s.b)]
    turn = s.turn * s.radius * frame.scale if isinstance(s, Round) else s.length * frame.scale
    steps = int(min(200, max(8, turn / 6)))
    if isinstance(s, Round):
        z = s.centre + s.radius * np.exp(1j * (s.start + s.turn * np.linspace(0, 1, steps + 1)))
        x = frame.origin.x() + z.real * frame.scale
        y = frame.origin.y() - z.imag * frame.scale
        return [QPointF(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)]
    return [frame.pixel(s.at(float(t))) for t in np.linspace(0, 1, steps + 1)]


def zigzag(points: list[QPointF]) -> list[QPointF]:
    """A line of teeth along a line in pixels."""
    z = [complex(p.x(), p.y()) for p in points]
    out, side, carried = [z[0]], 1, 0.0
    for a, b in itertools.pairwise(z):
        run = abs(b - a)
        if run < 1e-9:
            continue
        u, t = (b - a) / run, 6.0 - carried
        while t < run:
            out.append(a + u * t + 1j * u * 3.2 * side)
            side, t = -side, t + 6.0
        carried = run - (t - 6.0)
    out.append(z[-1])
    return [QPointF(w.real, w.imag) for w in out]


def loops_path(loops: Iterable[Loop], frame: Frame) -> QPainterPath:
    """Regions' loops as one path, holes out by the odd-even rule."""
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for loop in loops:
        points = []
        for p in loop:
            steps = 1 if isinstance(p.curve, Straight) else 24
            for t in np.linspace(p.t0, p.t1, steps + 1)[:-1]:
                points.append(
                    frame.pixel(p.curve.at(float(t) % 1.0 if p.curve.closed and not 0 <= t <= 1 else float(t)))
                )
        path.addPolygon(QPolygonF(points))
        path.closeSubpath()
    return path


def paint_grid(painter: QPainter, frame: Frame, rect: QRectF) -> None:
    """The two axes of the sketch and a light grid in round steps."""
    r = theme.roles()
    step = 10 ** math.ceil(math.log10(max(frame.mm(28), 1e-9)))
    for share in (0.2, 0.5):
        if step * share * frame.scale >= 22:
            step *= share
            break
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    low, high = frame.place(rect.bottomLeft()), frame.place(rect.topRight())
    painter.setPen(QPen(QColor(r.line), 1, Qt.PenStyle.DotLine))
    for k in range(math.ceil(low.real / step), math.floor(high.real / step) + 1):
        x = frame.pixel(complex(k * step, 0)).x()
        painter.drawLine(QPointF(x, rect.top()), QPointF(x, rect.bottom()))
    for k in range(math.ceil(low.imag / step), math.floor(high.imag / step) + 1):
        y = frame.pixel(complex(0, k * step)).y()
        painter.drawLine(QPointF(rect.left(), y), QPointF(rect.right(), y))
    painter.setPen(QPen(QColor(r.quiet), 1))
    o = frame.origin
    painter.drawLine(QPointF(rect.left(), o.y()), QPointF(rect.right(), o.y()))
    painter.drawLine(QPointF(o.x(), rect.top()), QPointF(o.x(), rect.bottom()))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)


def edge_points(edge: Edge, frame: Frame) -> list[QPointF]:
    """An edge of the body in pixels."""
    z = [complex(*p) for p in edge.points]
    if edge.kind == "circle":
        return polyline(Round("", z[0], edge.radius, 0.0, 2 * math.pi), frame)
    if edge.kind == "arc":
        turn = cmath.phase((z[2] - z[0]) / (z[1] - z[0])) % (2 * math.pi)
        return polyline(Round("", z[0], abs(z[1] - z[0]), cmath.phase(z[1] - z[0]), turn), frame)
    return [frame.pixel(p) for p in z]


def distance_to(points: list[QPointF], p: QPointF) -> float:
    """Least distance of a pixel from a polyline."""
    best = math.inf
    at = complex(p.x(), p.y())
    for a, b in itertools.pairwise(complex(q.x(), q.y()) for q in points):
        d = b - a
        t = min(1.0, max(0.0, (d.conjugate() * (at - a)).real / max(abs(d) ** 2, 1e-12)))
        best = min(best, abs(a + d * t - at))
    return best


def paint_outline(painter: QPainter, edges: Iterable[Edge], frame: Frame, hover: str | None) -> None:
    """The body beneath, faintly; the edge under the pointer lit."""
    r = theme.roles()
    for edge in edges:
        lit = edge.name == hover
        painter.setPen(QPen(QColor(r.brass if lit else r.hatch), 3.0 if lit else 2.0))
        painter.drawPolyline(QPolygonF(edge_points(edge, frame)))


def paint_regions(
    painter: QPainter, state: SketchState, frame: Frame, picked: Iterable[str], hover: str | None
) -> None:
    """Picked regions hatched, the one under the pointer tinted."""
    names = set(picked)
    if not names and hover is None:
        return  # nothing to tint: the arrangement need not be made, which counts while dragging
    r = theme.roles()
    for region in state.regions:
        if region.name not in names and region.name != hover:
            continue
        path = loops_path((region.outer, *region.holes), frame)
        tint = QColor(r.tint)
        tint.setAlpha(150)
        painter.fillPath(path, tint)
        if region.name in names:
            painter.save()
            painter.setClipPath(path)
            painter.setPen(QPen(QColor(r.brass), 1))
            box = path.boundingRect()
            k = -box.height()
            while k < box.width():
                painter.drawLine(
                    QPointF(box.left() + k, box.bottom()), QPointF(box.left() + k + box.height(), box.top())
                )
                k += 9
            painter.restore()


def paint_curves(
    painter: QPainter, state: SketchState, frame: Frame, chosen: frozenset[str], hover: str | None
) -> None:
    """Every curve in the stroke of its state, then the points."""
    sketch = state.sketch
    seen = state.seen
    loose = seen.freedoms.loose if seen else frozenset()
    fighting = _fighting_entities(state)
    # one path for each stroke: a few calls to the painter instead of one for each curve
    strokes = {name: QPainterPath() for name in ("lit", "held", "loose", "construction", "letters", "fighting")}
    for c in sketch.curves:
        points = polyline(state.shape(c.id), frame)
        if c.id in chosen or c.id == hover:
            strokes["lit"].addPolygon(QPolygonF(points))
        if c.id in fighting:
            strokes["fighting"].addPolygon(QPolygonF(zigzag(points)))
        else:
            stroke = "construction" if c.construction else "loose" if c.id in loose else "held"
            strokes[stroke].addPolygon(QPolygonF(points))
    for s in state.letters:
        strokes["lit" if s.id in chosen else "letters"].addPolygon(QPolygonF(polyline(s, frame)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for name, path in strokes.items():
        if not path.isEmpty():
            painter.setPen(_stroke_pen(name))
            painter.drawPath(path)
    _paint_points(painter, state, frame, chosen, hover)


def _stroke_pen(name: str) -> QPen:
    r = theme.roles()
    if name == "lit":
        colour = QColor(r.brass)
        colour.setAlpha(130)
        return QPen(colour, 6.0, cap=Qt.PenCapStyle.RoundCap)
    pen = QPen(
        QColor(r.quiet if name == "construction" else r.ink),
        {"construction": 1.0, "letters": 1.2, "fighting": 1.5}.get(name, 1.8),
    )
    if name in ("construction", "loose"):
        pen.setDashPattern(CHAIN if name == "construction" else DASH)
    return pen


def _paint_points(
    painter: QPainter, state: SketchState, frame: Frame, chosen: frozenset[str], hover: str | None
) -> None:
    """Held points full, loose ones open, those in hand larger."""
    r, sketch = theme.roles(), state.sketch
    loose = state.seen.freedoms.loose if state.seen else frozenset()
    held: list[QPointF] = []
    open_: list[QPointF] = []
    lit: list[QPointF] = []
    for p in sketch.points:
        at = frame.pixel(complex(p.x, p.y))
        (lit if p.id in chosen or p.id == hover else open_ if p.id in loose else held).append(at)
    for points, colour, width in (
        (held, r.ink, 5.4), (open_, r.ink, 5.8), (open_, r.card, 3.4), (lit, r.brass, 11.0), (lit, r.tint, 7.5),
    ):  # fmt: skip
        if points:
            painter.setPen(QPen(QColor(colour), width, cap=Qt.PenCapStyle.RoundCap))
            painter.drawPoints(QPolygonF(points))


def _fighting_entities(state: SketchState) -> set[str]:
    if state.seen is None:
        return set()
    names = state.seen.fighting
    out: set[str] = set()
    for c in state.sketch.constraints:
        if c.id in names:
            out |= {n for n in c.of if state.sketch.by_id[n].kind != "point"}
            points = {n for n in c.of if state.sketch.by_id[n].kind == "point"}
            out |= {e.id for e in state.sketch.curves if points and len(points & set(e.points)) >= min(2, len(points))}
    return out


def paint_ghost(painter: QPainter, sketch: Sketch, x: np.ndarray, frame: Frame, *, strong: bool = False) -> None:
    """A figure at other positions (N,), lightly: a previewed way out, another shape, or a movement."""
    from lathed_solid.sketch.geometry import shape
    from lathed_solid.sketch.solve import moved

    colour = QColor(theme.roles().brass_ink)
    colour.setAlpha(230 if strong else 130)
    painter.setPen(QPen(colour, 2.0 if strong else 1.4))
    other = moved(sketch, x)
    for c in other.curves:
        if not c.construction:
            painter.drawPolyline(QPolygonF(polyline(shape(other, c.id), frame)))


def thumbnail(sketch: Sketch, x: np.ndarray) -> QPixmap:
    """A small picture of the figure at other positions (N,)."""
    from lathed_solid.sketch.geometry import shape
    from lathed_solid.sketch.solve import moved

    picture = QPixmap(112, 76)
    picture.setDevicePixelRatio(2.0)
    picture.fill(QColor(theme.roles().card))
    other = moved(sketch, x)
    shapes = [shape(other, c.id) for c in other.curves if not c.construction]
    if shapes:
        frame = Frame()
        boxes = np.array([s.box for s in shapes])
        low, high = complex(*boxes[:, :2].min(axis=0)), complex(*boxes[:, 2:].max(axis=0))
        frame.fit(low, high, 56, 38, margin=4)
        painter = QPainter(picture)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.roles().ink), 1.2))
        for s in shapes:
            painter.drawPolyline(QPolygonF(polyline(s, frame)))
        painter.end()
    return picture


def paint_arrows(painter: QPainter, sketch: Sketch, step: np.ndarray, frame: Frame) -> None:
    """Arrows at the points that a free movement takes along."""
    from lathed_solid.sketch.lower import Layout

    layout = Layout(sketch)
    painter.setPen(QPen(QColor(theme.roles().brass_ink), 1.6))
    drawn: set[tuple[int, int]] = set()
    for p, i in layout.point.items():
        d = complex(step[i], step[i + 1])
        if abs(d) < 1e-3:
            continue
        z = complex(*sketch.at(p))
        a = frame.pixel(z)
        key = (round(a.x() / 6), round(a.y() / 6))
        if key in drawn:
            continue
        drawn.add(key)
        b = a + QPointF(d.real, -d.imag) * (34 / max(abs(d), 0.4))
        painter.drawLine(a, b)
        back = complex((a - b).x(), (a - b).y())
        for turn in (0.4, -0.4):
            w = back / abs(back) * 8 * cmath.rect(1, turn)
            painter.drawLine(b, b + QPointF(w.real, w.imag))


class Outside:
    """Where dimensions stand that nobody placed: outside the outline, one row for each, the short ones within."""

    ROW = 24.0

    def __init__(self, state: SketchState, frame: Frame) -> None:
        curves = [c for c in state.sketch.curves if not c.construction] or list(state.sketch.curves)
        points = [q for c in curves for q in polyline(state.shape(c.id), frame)]
        self.box = QPolygonF(points).boundingRect() if points else QRectF()
        self.used: dict[str, int] = {}

    def place(self, a: QPointF, b: QPointF, u: complex) -> QPointF:
        """A place for the text of a dimension between two pixels, running along ``u``."""
        middle = (a + b) / 2
        if abs(u.imag) < 1e-9:
            side = "below" if middle.y() >= self.box.center().y() - 1 else "above"
            edge = max(self.box.bottom(), a.y(), b.y()) if side == "below" else min(self.box.top(), a.y(), b.y())
            return QPointF(middle.x(), edge + self._row(side) * (1 if side == "below" else -1))
        if abs(u.real) < 1e-9:
            side = "right" if middle.x() > self.box.center().x() + 1 else "left"
            edge = max(self.box.right(), a.x(), b.x()) if side == "right" else min(self.box.left(), a.x(), b.x())
            return QPointF(edge + self._row(side) * (1.4 if side == "right" else -1.4), middle.y())
        n = 1j * u
        away = complex(middle.x() - self.box.center().x(), middle.y() - self.box.center().y())
        sign = 1 if (n.conjugate() * away).real >= 0 else -1
        return middle + QPointF(n.real, n.imag) * (26 * sign)

    def _row(self, side: str) -> float:
        self.used[side] = self.used.get(side, 0) + 1
        return self.ROW * self.used[side]


# dimensions --------------------------------------------------------------------------------------
def paint_dimensions(
    painter: QPainter,
    state: SketchState,
    frame: Frame,
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


def _paint_dimension(
    painter: QPainter,
    state: SketchState,
    frame: Frame,
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
        way = d / abs(d) if abs(d) > 1e-9 else 1 + 0j
        rim = middle + QPointF(way.real, way.imag) * (s.radius * frame.scale)
        far = middle - QPointF(way.real, way.imag) * (s.radius * frame.scale) if c.kind == "diameter" else middle
        painter.drawLine(far, at)
        _arrow(painter, rim, -way if abs(d) < s.radius * frame.scale else way)
        if c.kind == "diameter":
            _arrow(painter, far, -way)
    elif c.kind == "angle":
        at = _paint_angle(painter, state, frame, c, at)
    else:
        at = _paint_linear(painter, state, frame, outside, c, at)
    return _text(painter, at, text, balloon, lit, fighting)


def _paint_linear(
    painter: QPainter, state: SketchState, frame: Frame, outside: Outside, c: Constraint, at: QPointF | None
) -> QPointF:
    a, b, along = _linear(state, c)
    pa, pb = frame.pixel(a), frame.pixel(b)
    u = complex(along.real, -along.imag)  # pixels run down
    n = 1j * u
    if at is None:
        at = outside.place(pa, pb, u)
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
    if c.kind == "across_x":
        return a, b, 1 + 0j
    if c.kind == "across_y":
        return a, b, 1j
    d = b - a
    return a, b, d / abs(d) if abs(d) > 1e-12 else 1 + 0j


def _paint_angle(painter: QPainter, state: SketchState, frame: Frame, c: Constraint, at: QPointF | None) -> QPointF:
    s, t = state.shape(c.of[0]), state.shape(c.of[1])
    assert isinstance(s, Straight) and isinstance(t, Straight)
    u, v = s.along(0) / abs(s.along(0)), t.along(0) / abs(t.along(0))
    cross = (u.conjugate() * v).imag
    apex = s.a + u * (((t.a - s.a).conjugate() * v).imag / cross if abs(cross) > 1e-9 else 0.0)
    p = frame.pixel(apex)
    start, turn = cmath.phase(u), cmath.phase(v / u)
    if at is None:
        way = cmath.rect(1, start + turn / 2)
        at = p + QPointF(way.real, -way.imag) * 52
    radius = max(18.0, math.hypot((at - p).x(), (at - p).y()))
    box = QRectF(p.x() - radius, p.y() - radius, 2 * radius, 2 * radius)
    painter.drawArc(box, round(math.degrees(start) * 16), round(math.degrees(turn) * 16))
    for way, bend in ((u, -1j if turn > 0 else 1j), (v, 1j if turn > 0 else -1j)):
        tip = p + QPointF(way.real, -way.imag) * radius
        along = way * bend
        _arrow(painter, tip, complex(along.real, -along.imag))
        painter.drawLine(
            p + QPointF(way.real, -way.imag) * (radius - 8), p + QPointF(way.real, -way.imag) * (radius + 5)
        )
    return at


def _arrow(painter: QPainter, tip: QPointF, way: complex) -> None:
    """A slender filled arrow whose tip points along ``way`` (pixels)."""
    w = way / abs(way) if abs(way) > 1e-12 else 1 + 0j
    z = complex(tip.x(), tip.y())
    points = [z, z - 9 * w + 2.2j * w, z - 9 * w - 2.2j * w]
    painter.save()
    painter.setBrush(painter.pen().color())
    painter.drawPolygon(QPolygonF([QPointF(q.real, q.imag) for q in points]))
    painter.restore()


def _text(painter: QPainter, at: QPointF, text: str, balloon: str, lit: bool, fighting: bool) -> QRectF:
    r = theme.roles()
    metrics = painter.fontMetrics()
    width = metrics.horizontalAdvance(text) + 8
    head = max(18, metrics.horizontalAdvance(balloon) + 10) if balloon else 0
    box = QRectF(at.x() - (width + head) / 2, at.y() - 10, width + head, 20)
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
