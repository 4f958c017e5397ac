"""The outline of a solid as a side shows it: the bounds of its shadow, as closed loops of lines and arcs.

All lines of the side part the plane into cells; a cell lies in the shadow when the solid's triangles laid flat cover
its middle. The bounds of all such cells together run along lines of the side, so that a piece of an arc stays an arc:
pieces are told by the line they lie on, their ends put back on its own ends, or on the place where two lines meet.
Edges and the sides of round faces laid flat are exact; where a free face or a torus turns away from the eye, its line
is the hidden-line removal's, which stands some 1e-4 mm off.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np
import shapely
from scipy.spatial import cKDTree

from lathed_solid.kernel.drawing.figures import Arc, Curve, Place, Run, points_of
from lathed_solid.kernel.drawing.flat import FLATS, Flat
from lathed_solid.kernel.drawing.hidden_lines import hidden_lines
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.loop_figures import Corner, Loop
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.outline import outline
from lathed_solid.kernel.triangles import finely, triangles
from lathed_solid.part.steps import Frame
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.laid_edge import Edge

#: places of the arrangement lie on a grid, mm; what is nearer to a line or its end than this is taken for it
GRID, OWN = 1e-3, 2e-3
#: chords of arcs stand no farther off than this share of the size; those of the triangles, and rad; what they may leave
FINE, CHORD, TURN, SLACK = 1e-5, 1 / 4000, 0.1, 4e-4

_Segment = tuple[Place, Place]


def side_loops(body: Body, side: str) -> tuple[Loop, ...]:
    """Outer bounds counter-clockwise, those of openings clockwise, mm in the plane of the side. Raises MeasureError
    where the lines enclose nothing.
    """
    flat = FLATS[side]
    exact = list(_laid(outline(body, Frame((0.0, 0.0, 0.0), flat.right, flat.up))))
    seen, hidden = hidden_lines(body.shape)(flat.eye, flat.right)
    size = max((abs(v) for c in seen for p in points_of(c) for v in p), default=1.0)
    lines = _Lines([exact, [*seen, *hidden]], max(FINE * size, GRID / 2))
    noded = shapely.union_all(np.concatenate(lines.pieces), grid_size=GRID)
    cells = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    shadow = _shadow(body, flat)
    middles = shapely.point_on_surface(cells)
    off = SLACK * size  # chords of the triangles leave slim cells along round bounds open
    slim = shapely.area(cells) < off * shapely.length(cells)
    covered = cells[shapely.contains(shadow, middles) | (slim & shapely.dwithin(shadow, middles, off))]
    if not len(covered):
        raise MeasureError("the lines of this side enclose nothing", where=side)
    whole = shapely.union_all(covered, grid_size=GRID)
    out = []
    for piece in shapely.get_parts(whole):
        rings = [(piece.exterior, 1.0), *((ring, -1.0) for ring in piece.interiors)]
        for ring, way in rings:
            loop = Loop(tuple(_corners(np.array(ring.coords)[:-1, :2], lines)))
            out.append(loop if loop.area * way > 0 else loop.turned)
    return tuple(out)


def _laid(found: Sequence[Edge]) -> Iterator[Curve]:
    """Edges and sides of round faces as curves; axes and corners bound nothing."""
    for e in found:
        if e.kind == "circle":
            yield Arc(e.points[0], e.radius)
        elif e.kind == "arc":
            centre, *ends = e.points
            start, end = (math.atan2(y - centre[1], x - centre[0]) for x, y in ends)
            yield Arc(centre, math.dist(centre, ends[0]), start, end if end > start else end + 2 * math.pi)
        elif e.kind in ("line", "chain") and not e.name.endswith("~axis"):
            yield Run(e.points)


def _segments(curves: Sequence[Curve], chord: float) -> tuple[list[_Segment], list[int]]:
    """Straight pieces, and which curve each belongs to."""
    out: list[_Segment] = []
    owners: list[int] = []
    for n, curve in enumerate(curves):
        found = list(itertools.pairwise(points_of(curve, chord)))
        out += found
        owners += [n] * len(found)
    return out, owners


def _shadow(body: Body, flat: Flat) -> Any:
    """All triangles of a solid laid flat, as one region that can be asked quickly."""
    axes = np.array([flat.right, flat.up])
    corners = [(t.points @ axes.T)[t.corners] for t in triangles(finely(body.shape, CHORD, TURN))]
    faces = np.vstack(corners)
    a, b, c = faces[:, 0], faces[:, 1], faces[:, 2]
    area = np.abs((b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0]))
    rings = np.concatenate([faces, faces[:, :1]], axis=1)[area > LINEAR]
    shadow = shapely.union_all(shapely.polygons(rings), grid_size=GRID)
    shapely.prepare(shadow)
    return shadow


class _Lines:
    """Curves of several kinds, the better known first, by their straight pieces."""

    def __init__(self, kinds: Sequence[Sequence[Curve]], chord: float) -> None:
        self.pieces: list[Any] = []
        self._curves = kinds
        self._owners: list[list[int]] = []
        for curves in kinds:
            segments, owners = _segments(curves, chord)
            self.pieces.append(shapely.linestrings(np.array(segments, float).reshape(-1, 2, 2)))
            self._owners.append(owners)
        self._trees = [shapely.STRtree(p) for p in self.pieces]
        self._ends = [
            cKDTree(np.array([p for c in curves for p in (points_of(c)[0], points_of(c)[-1])]).reshape(-1, 2))
            for curves in kinds
        ]

    def under(self, middles: Any) -> list[Curve]:
        """The curve that each of some places lies on."""
        out: list[Curve | None] = [None] * len(middles)
        for tree, owners, curves in zip(self._trees, self._owners, self._curves, strict=True):
            if owners:
                found, off = tree.query_nearest(middles, return_distance=True, all_matches=False)
                for place, piece, away in zip(*found, off, strict=True):
                    last = curves is self._curves[-1]
                    if out[place] is None and (away < OWN or last):
                        out[place] = curves[owners[piece]]
        return [c for c in out if c is not None]

    def end(self, p: Any) -> Place | None:
        """The end of a curve that a place stands for."""
        for tree in self._ends:
            off, at = tree.query(p)
            if off < OWN:
                x, y = tree.data[at]
                return float(x), float(y)
        return None


def _corners(ring: Any, lines: _Lines) -> Iterator[Corner]:
    """A ring's pieces joined where they lie on one line or arc."""
    after = np.roll(ring, -1, axis=0)
    on = lines.under(shapely.points((ring + after) / 2))
    kinds = [_carrier(c, ring[k]) for k, c in enumerate(on)]
    start = next((k for k in range(len(ring)) if kinds[k] != kinds[k - 1]), 0)
    order = [(start + k) % len(ring) for k in range(len(ring))]
    runs = [list(group) for _, group in itertools.groupby(order, key=kinds.__getitem__)]
    own = [on[run[0]] for run in runs]
    places = [_place(ring[run[0]], own[k - 1], own[k], lines) for k, run in enumerate(runs)]
    for k, run in enumerate(runs):
        curve, first, last = own[k], places[k], places[(k + 1) % len(runs)]
        if isinstance(curve, Arc):
            yield from _arc(curve, first, last, ring[run], len(runs) == 1)
        else:
            yield (*first, 0.0)


def _place(p: Any, before: Curve, after: Curve, lines: _Lines) -> Place:
    """Where two curves follow one another: an end of one, where two lines meet, or the grid's place."""
    found = lines.end(p)
    if found is None and not isinstance(before, Arc) and not isinstance(after, Arc):
        found = _meeting(before, after)
    return found if found is not None and math.dist(found, p) < OWN else (float(p[0]), float(p[1]))


def _meeting(one: Run, two: Run) -> Place | None:
    (ax, ay), (bx, by) = one.points[0], one.points[-1]
    (cx, cy), (dx, dy) = two.points[0], two.points[-1]
    det = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx)
    if len(one.points) > 2 or len(two.points) > 2 or det == 0.0:
        return None
    t = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / det
    return ax + t * (bx - ax), ay + t * (by - ay)


def _carrier(curve: Curve, a: Any) -> tuple[Any, ...]:
    """What pieces have in common that go on in one: a circle, a line, or nothing."""
    if isinstance(curve, Arc):
        return ("arc", round(curve.centre[0], 3), round(curve.centre[1], 3), round(curve.radius, 3))
    if len(curve.points) > 2:
        return ("free", float(a[0]), float(a[1]))  # each chord by itself
    (x, y), (u, v) = sorted(curve.points)
    size = math.hypot(u - x, v - y)
    d = ((u - x) / size, (v - y) / size)
    return ("line", round(d[0], 4) + 0.0, round(d[1], 4) + 0.0, round(d[0] * y - d[1] * x, 2) + 0.0)


def _arc(curve: Arc, first: Place, last: Place, run: Any, whole: bool) -> Iterator[Corner]:
    """An arc from ``first`` to ``last`` along ``run``, in pieces of no more than half a turn."""

    def angle(p: Any) -> float:
        return math.atan2(p[1] - curve.centre[1], p[0] - curve.centre[0])

    places = [angle(p) for p in run]
    if not whole:
        places.append(angle(last))
    steps = [(b - a + math.pi) % (2 * math.pi) - math.pi for a, b in itertools.pairwise(places)]
    total = math.copysign(2 * math.pi, sum(steps)) if whole else sum(steps)
    many = 2 if abs(total) > math.pi - 1e-9 else 1
    bulge = math.tan(total / many / 4)
    yield (*(curve.at(places[0]) if whole else first), bulge)
    if many == 2:
        yield (*curve.at(places[0] + total / 2), bulge)
