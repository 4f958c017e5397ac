"""Painting a sketch: state by stroke (dashed loose, solid held, zigzag fighting), dimensions as on a drawing."""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Iterable
from functools import lru_cache

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from lathed_solid.desk import theme
from lathed_solid.desk.sketch.view import PaperFrame, z_of
from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ, ROUNDING
from lathed_solid.sketch.geometry import Round, Shape, Straight
from lathed_solid.sketch.holds import edge_shape
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Line, Sketch
from lathed_solid.sketch.outside import of_axis
from lathed_solid.sketch.regions import Loop
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.view_model import SketchState

STROKES = ("lit", "held", "loose", "construction", "centreline", "letters", "fighting")
DASH = [7.0, 4.0]
CHAIN = [12.0, 4.0, 2.0, 4.0]
LONG_CHAIN = [26.0, 4.0, 3.0, 4.0]


def polyline(s: Shape, frame: PaperFrame) -> list[QPointF]:
    """A curve in pixels, fine enough for the zoom."""
    if isinstance(s, Straight):
        return [frame.pixel(s.a), frame.pixel(s.b)]
    turn = s.turn * s.radius * frame.scale if isinstance(s, Round) else s.length * frame.scale
    steps = int(min(200, max(8, turn / 6)))
    if isinstance(s, Round):
        z = s.centre + s.radius * np.exp(1j * (s.start + s.turn * _parts(steps)))
        x = frame.origin.x() + z.real * frame.scale
        y = frame.origin.y() - z.imag * frame.scale
        return [QPointF(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)]
    return [frame.pixel(s.at(t)) for t in _parts(steps).tolist()]


@lru_cache(maxsize=256)
def _parts(steps: int) -> np.ndarray:
    """0 to 1 in so many steps; made once, since a drag asks for it for every arc in every frame."""
    return np.linspace(0, 1, steps + 1)


def zigzag(points: list[QPointF]) -> list[QPointF]:
    """A line of teeth along a line in pixels."""
    z = [complex(p.x(), p.y()) for p in points]
    out, side, carried = [z[0]], 1, 0.0
    for a, b in itertools.pairwise(z):
        run = abs(b - a)
        if run < ROUNDING:
            continue
        u, t = (b - a) / run, 6.0 - carried
        while t < run:
            out.append(a + u * t + 1j * u * 3.2 * side)
            side, t = -side, t + 6.0
        carried = run - (t - 6.0)
    out.append(z[-1])
    return [QPointF(w.real, w.imag) for w in out]


def loops_path(loops: Iterable[Loop], frame: PaperFrame) -> QPainterPath:
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


def paint_grid(painter: QPainter, frame: PaperFrame, rect: QRectF) -> None:
    """The two axes of the sketch and a light grid in round steps."""
    r = theme.roles()
    step = 10 ** math.ceil(math.log10(max(frame.mm(28), ROUNDING)))
    for share in (0.2, 0.5):
        if step * share * frame.scale >= 22:
            step *= share
            break
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    low, high = frame.paper.place(z_of(rect.bottomLeft())), frame.paper.place(z_of(rect.topRight()))
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


#: of edges drawn as thin chains: axes of round faces, and datum planes and axes
THIN = ("|~axis", "|~datum")


def edge_points(edge: Edge, frame: PaperFrame) -> list[QPointF]:
    """An edge of the body in pixels."""
    s = edge_shape(edge)
    return polyline(s, frame) if s is not None else [frame.pixel(complex(*p)) for p in edge.points]


def paint_underlay(
    painter: QPainter, picture: QPixmap, corner: complex, width: float, turn: float, frame: PaperFrame
) -> None:
    """A picture to draw over, faint, its lower left corner at ``corner``."""
    scale = width / max(picture.width(), 1) / frame.mm(1.0)  # pixels of the pane for one of the picture
    painter.save()
    painter.setOpacity(0.45)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.translate(frame.pixel(corner))
    painter.rotate(-math.degrees(turn))
    painter.scale(scale, scale)
    painter.drawPixmap(0, -picture.height(), picture)
    painter.restore()


def paint_outline(painter: QPainter, edges: Iterable[Edge], frame: PaperFrame, lit_names: frozenset[str]) -> None:
    """The body beneath, faintly; the edges under the pointer and in hand lit."""
    r = theme.roles()
    for edge in edges:
        lit = edge.name in lit_names
        if edge.kind == "point":
            painter.setPen(QPen(QColor(r.brass if lit else r.hatch), 7.0 if lit else 3.0))
            painter.drawPoints(QPolygonF(edge_points(edge, frame)))
            continue
        pen = QPen(QColor(r.brass if lit else r.hatch), 3.0 if lit else 2.0)
        if edge.name.endswith(THIN) and not lit:
            pen.setWidthF(1.0)
            pen.setStyle(Qt.PenStyle.DashDotLine)
        painter.setPen(pen)
        painter.drawPolyline(QPolygonF(edge_points(edge, frame)))


def paint_held_on_to(painter: QPainter, board: DrawingBoard, frame: PaperFrame, names: Iterable[str]) -> None:
    """Axes, middles, quadrants and corners under the pointer and in hand."""
    r = theme.roles()
    for name in names:
        axis, place = board.near.axes.get(name), board.near.place_of(board.state, name)
        if axis is not None:
            painter.setPen(QPen(QColor(r.brass), 2.0))
            painter.drawPolyline(QPolygonF(polyline(axis, frame)))
        elif place is not None:
            painter.setPen(QPen(QColor(r.brass), 8.0, cap=Qt.PenCapStyle.RoundCap))
            painter.drawPoint(frame.pixel(place))


def paint_regions(
    painter: QPainter, state: SketchState, frame: PaperFrame, picked: Iterable[str], hover: str | None
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
    painter: QPainter, state: SketchState, frame: PaperFrame, chosen: frozenset[str], hover: str | None
) -> None:
    """Every curve in the stroke of its state, then the points."""
    sketch = state.sketch
    seen = state.seen
    loose = seen.freedoms.loose if seen else frozenset()
    fighting = _fighting_entities(state)
    # one path for each stroke: a few calls to the painter instead of one for each curve
    strokes = {name: QPainterPath() for name in STROKES}
    for c in sketch.curves:
        if of_axis(c):
            continue  # drawn with the paper
        points = polyline(state.shape(c.id), frame)
        if c.id in chosen or c.id == hover:
            strokes["lit"].addPolygon(QPolygonF(points))
        if c.id in fighting:
            strokes["fighting"].addPolygon(QPolygonF(zigzag(points)))
        else:
            stroke = "construction" if c.construction else "loose" if c.id in loose else "held"
            if isinstance(c, Line) and c.centreline:
                stroke = "centreline"
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
        {"construction": 1.0, "centreline": 1.2, "letters": 1.2, "fighting": 1.5}.get(name, 1.8),
    )
    dashes = {"construction": CHAIN, "centreline": LONG_CHAIN, "loose": DASH}.get(name)
    if dashes is not None:
        pen.setDashPattern(dashes)
    return pen


def _paint_points(
    painter: QPainter, state: SketchState, frame: PaperFrame, chosen: frozenset[str], hover: str | None
) -> None:
    """Held points full, loose ones open, those in hand larger."""
    r, sketch = theme.roles(), state.sketch
    loose = state.seen.freedoms.loose if state.seen else frozenset()
    held: list[QPointF] = []
    open_: list[QPointF] = []
    lit: list[QPointF] = []
    for p in sketch.points:
        if of_axis(p):
            continue
        at = frame.pixel(complex(p.x, p.y))
        (lit if p.id in chosen or p.id == hover else open_ if p.id in loose else held).append(at)
    sharp = painter.device().devicePixelRatioF() if painter.device() is not None else 1.0  # type: ignore[union-attr]
    for points, rings in (
        (held, ((r.ink, 5.4),)), (open_, ((r.ink, 5.8), (r.card, 3.4))), (lit, ((r.brass, 11.0), (r.tint, 7.5))),
    ):  # fmt: skip
        if points:
            # stamped: hundreds of round points drawn one by one would take most of a frame
            stamp = _stamp(rings, sharp)
            whole, scale = QRectF(stamp.rect()), 1 / sharp
            pieces = [QPainter.PixmapFragment.create(p, whole, scale, scale) for p in points]
            painter.drawPixmapFragments(pieces, stamp)  # type: ignore[arg-type]


@lru_cache(maxsize=32)
def _stamp(rings: tuple[tuple[str, float], ...], sharp: float) -> QPixmap:
    """Discs one on another, (colour, diameter in pixels), for a screen of ``sharp`` device pixels a pixel."""
    size = math.ceil((max(d for _, d in rings) + 2) * sharp)
    stamp = QPixmap(size, size)
    stamp.fill(Qt.GlobalColor.transparent)
    painter = QPainter(stamp)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    for colour, diameter in rings:
        painter.setBrush(QColor(colour))
        painter.drawEllipse(QPointF(size / 2, size / 2), diameter * sharp / 2, diameter * sharp / 2)
    painter.end()
    return stamp


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


def paint_ghost(painter: QPainter, sketch: Sketch, x: np.ndarray, frame: PaperFrame, *, strong: bool = False) -> None:
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


#: of the pictures of other shapes, pixels
THUMBNAIL = (84, 58)


def thumbnail(sketch: Sketch, x: np.ndarray) -> QPixmap:
    """A small picture of the figure at other positions (N,): what differs strong, the present figure faint beneath."""
    from lathed_solid.sketch.geometry import shape
    from lathed_solid.sketch.solve import moved

    r = theme.roles()
    picture = QPixmap(2 * THUMBNAIL[0], 2 * THUMBNAIL[1])
    picture.setDevicePixelRatio(2.0)
    picture.fill(QColor(r.card))
    other = moved(sketch, x)
    names = [c.id for c in other.curves if not c.construction]
    now, then = ([shape(s, n) for n in names] for s in (sketch, other))
    if names:
        frame = PaperFrame()
        boxes = np.array([s.box for s in (*now, *then)])
        low, high = complex(*boxes[:, :2].min(axis=0)), complex(*boxes[:, 2:].max(axis=0))
        frame.paper.size = THUMBNAIL
        frame.paper.fit(low, high, margin=5)
        same = RELATIVE_READ * max(abs(high - low), NOTHING)
        changed = [_apart(a, b) > same for a, b in zip(now, then, strict=True)]
        painter = QPainter(picture)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        faint = (s for s, differs in zip(now, changed, strict=True) if differs)
        strokes = [(s, r.hatch, 1.0) for s in faint]
        strokes += [(s, r.brass_ink if d else r.ink, 1.8 if d else 1.0) for s, d in zip(then, changed, strict=True)]
        for s, colour, width in strokes:
            painter.setPen(QPen(QColor(colour), width))
            painter.drawPolyline(QPolygonF(polyline(s, frame)))
        painter.end()
    return picture


def _apart(a: Shape, b: Shape) -> float:
    """How far two curves lie apart, place by place, mm."""
    return max(abs(a.at(t) - b.at(t)) for t in (0.0, 0.3, 0.6, 1.0))


def paint_arrows(painter: QPainter, sketch: Sketch, step: np.ndarray, frame: PaperFrame) -> None:
    """Arrows at the points that a free movement takes along."""
    from lathed_solid.sketch.equations import Layout

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
