"""Threaded surfaces without booleans: faces with shared edges, laid out on the unrolled cylinder.

On the unrolled cylinder (theta, z) a thread is r(theta, z) = f(z - lead theta / 2 pi), piecewise linear where its
profile is; a coaxial cone, a + b z, is linear too, so lead-in chamfers (r <= a + b z) and run-outs (r >= a + b z) cut
the pieces along straight lines. Each face is then a polygon with straight sides on (theta, z). The turn is split into
two panels, the strips of the profile are clipped against the ends and the cones, strips of one surface are merged,
and each edge is built once and shared. Crest and root lie on cylinders, lead-in and run-out on cones; a flank is a
Bezier surface of degree 11 along the turn, through Chebyshev places, which is a helicoid to about 1e-9 of its size.

Volume of the stretch: the integral of r^2 / 2 over theta and z (``thread_volume``), an independent figure.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from OCP.BRep import BRep_Builder
from OCP.collections import Array1_double, Array1_gp_Pnt, Array1_gp_Pnt2d, Array1_int, Array2_gp_Pnt
from OCP.Geom import (
    Geom_BSplineCurve,
    Geom_BSplineSurface,
    Geom_ConicalSurface,
    Geom_CylindricalSurface,
    Geom_Plane,
)
from OCP.Geom2d import Geom2d_BSplineCurve
from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt, gp_Pnt2d
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Edge, TopoDS_Face, TopoDS_Shell, TopoDS_Solid, TopoDS_Vertex, TopoDS_Wire

from lathed_solid.kernel.errors import BuildError

DEGREE = 11
TOLERANCE = 1e-7
EPS = 1e-9
PANELS = 2
TURN = 2 * math.pi
UP = gp_Dir(0, 0, 1)
FORWARD, REVERSED = TopAbs_Orientation.TopAbs_FORWARD, TopAbs_Orientation.TopAbs_REVERSED

_NODES = 0.5 - 0.5 * np.cos(np.pi * np.arange(DEGREE + 1) / DEGREE)
_BERNSTEIN = np.linalg.inv(
    [[math.comb(DEGREE, j) * t**j * (1 - t) ** (DEGREE - j) for j in range(DEGREE + 1)] for t in _NODES]
)

Place = tuple[float, float]  # theta, z
Polygon = list[Place]


@dataclass(frozen=True)
class Cone:
    """``keep`` "within": r <= a + b z; "beyond": r >= a + b z. ``name`` of the face it makes."""

    keep: str
    a: float
    b: float
    name: str


@dataclass(frozen=True)
class Profile:
    """One pitch: (z, r) corners from z = 0 to the pitch, and a name for each piece between them."""

    corners: tuple[tuple[float, float], ...]
    names: tuple[str, ...]

    @property
    def pitch(self) -> float:
        return self.corners[-1][0]


@dataclass
class _Cell:
    """A polygon of one surface: r = al + be z + ga theta."""

    panel: int
    key: tuple[Any, ...]
    polygon: Polygon
    plane: tuple[float, float, float]
    strip: tuple[float, float, float, float]
    name: str


def _split(polygon: Polygon, g: Callable[[float, float], float]) -> tuple[Polygon, Polygon]:
    """A convex polygon where g <= 0, and where g >= 0; empty for none."""
    low: Polygon = []
    high: Polygon = []
    d = [0.0 if abs(v) < EPS else v for v in (g(*p) for p in polygon)]
    for i, p in enumerate(polygon):
        a, b, q = d[i], d[(i + 1) % len(polygon)], polygon[(i + 1) % len(polygon)]
        if a <= 0:
            low.append(p)
        if a >= 0:
            high.append(p)
        if a * b < 0:
            t = a / (a - b)
            m = (p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t)
            low.append(m)
            high.append(m)
    return (low if min(d) < 0 else []), (high if max(d) > 0 else [])


def cells(profile: Profile, ends: tuple[float, float], cones: tuple[Cone, ...], hand: int, starts: int) -> list[_Cell]:
    """All polygons of a threaded stretch between ``ends``."""
    z0, z1 = ends
    pitch, width = profile.pitch, TURN / PANELS
    lead = hand * starts * pitch / TURN
    out: list[_Cell] = []
    for panel in range(PANELS):
        ta, tb = panel * width, (panel + 1) * width
        la, lb = sorted((lead * ta, lead * tb))
        for n in range(math.floor((z0 - lb) / pitch) - 1, math.ceil((z1 - la) / pitch) + 1):
            pairs = zip(profile.corners, profile.corners[1:], profile.names, strict=False)
            for j, ((a, ra), (b, rb), name) in enumerate(pairs):
                low, high = a + n * pitch, b + n * pitch
                strip: Polygon = [
                    (ta, low + lead * ta), (tb, low + lead * tb), (tb, high + lead * tb), (ta, high + lead * ta),
                ]  # fmt: skip
                strip = _split(strip, lambda _t, z: z0 - z)[0]
                strip = _split(strip, lambda _t, z: z - z1)[0] if strip else strip
                if not strip:
                    continue
                slope = (rb - ra) / (b - a)
                plane = (ra - slope * low, slope, -slope * lead)
                key: tuple[Any, ...] = ("cone", ra, 0.0) if slope == 0 else ("flank", n, j)
                parts = [_Cell(panel, key, strip, plane, (low, high, ra, rb), name)]
                for cone in cones:
                    parts = [piece for part in parts for piece in _against(part, cone)]
                out += parts
    return out


def _against(cell: _Cell, cone: Cone) -> list[_Cell]:
    """A cell cut by a cone: its own part, and the part where the cone takes over."""
    al, be, ga = cell.plane
    sign = 1 if cone.keep == "within" else -1
    keep, gone = _split(cell.polygon, lambda t, z: sign * (al + be * z + ga * t - cone.a - cone.b * z))
    if not keep and not gone:
        return [cell]
    out = []
    if keep:
        out.append(_Cell(cell.panel, cell.key, keep, cell.plane, cell.strip, cell.name))
    if gone:
        plane = (cone.a, cone.b, 0.0)
        out.append(_Cell(cell.panel, ("cone", cone.a, cone.b), gone, plane, cell.strip, cone.name))
    return out


def thread_volume(found: list[_Cell]) -> float:
    """Integral of r^2 / 2 over the unrolled stretch, mm3: exact for polygons with linear r (degree-2 quadrature)."""
    total = 0.0
    for cell in found:
        al, be, ga = cell.plane
        p = cell.polygon
        for i in range(1, len(p) - 1):
            tri = (p[0], p[i], p[i + 1])
            area = abs((tri[1][0] - tri[0][0]) * (tri[2][1] - tri[0][1])
                       - (tri[2][0] - tri[0][0]) * (tri[1][1] - tri[0][1])) / 2  # fmt: skip
            r = [al + be * z + ga * t for t, z in tri]
            middles = [(r[0] + r[1]) / 2, (r[1] + r[2]) / 2, (r[2] + r[0]) / 2]
            total += area * sum(m * m for m in middles) / 6
    return total


def _array(kind: Any, values: Any) -> Any:
    out = kind(1, len(values))
    for i, v in enumerate(values, 1):
        out.SetValue(i, v)
    return out


def _knots(degree: int) -> tuple[Any, Any]:
    return _array(Array1_double, [0.0, 1.0]), _array(Array1_int, [degree + 1, degree + 1])


def _poles(p: tuple[float, float, float], q: tuple[float, float, float]) -> list[gp_Pnt]:
    """Bezier poles of the curve on which theta, z and r are all linear."""
    t, z, r = (p[i] + (q[i] - p[i]) * _NODES for i in range(3))
    return [gp_Pnt(*map(float, v)) for v in _BERNSTEIN @ np.column_stack([r * np.cos(t), r * np.sin(t), z])]


@dataclass
class Stretch:
    """A threaded stretch as faces about Z; ``inwards`` turns them to face the axis (a nut)."""

    profile: Profile
    ends: tuple[float, float]
    cones: tuple[Cone, ...] = ()
    hand: int = 1
    starts: int = 1
    inwards: bool = False
    faces: list[tuple[Any, str]] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.builder = BRep_Builder()
        self._ids: dict[tuple[int, int], tuple[int, int]] = {}
        self._vertices: dict[Any, Any] = {}
        self._edges: dict[Any, Any] = {}
        self.lead = self.hand * self.starts * self.profile.pitch / TURN
        self.cells = cells(self.profile, self.ends, self.cones, self.hand, self.starts)
        if not self.cells:
            raise BuildError("the thread has no length")
        self._assemble()

    def _id(self, t: float, z: float) -> tuple[int, int]:
        """A number for a place; neighbouring boxes are probed, so that rounding cannot split a vertex."""
        x, y, n = t % TURN * 1e6, z * 1e7, round(TURN * 1e6)
        near = {(round(x + i) % n, round(y + j)) for i in (-0.01, 0.01) for j in (-0.01, 0.01)}
        known = next((self._ids[q] for q in near if q in self._ids), min(near))
        for q in near:
            self._ids[q] = known
        return known

    def _assemble(self) -> None:
        groups: dict[Any, tuple[dict[Any, Any], _Cell]] = {}
        for cell in self.cells:
            sides = groups.setdefault((cell.panel, cell.key), ({}, cell))[0]
            for p, q in zip(cell.polygon, cell.polygon[1:] + cell.polygon[:1], strict=True):
                a, b = self._id(*p), self._id(*q)
                if a == b:
                    continue
                if (b, a) in sides:
                    del sides[b, a]
                else:
                    sides[a, b] = (p, q)
        corners = self._corners(groups)
        for sides, cell in groups.values():
            following = {a: (b, p) for (a, b), (p, _q) in sides.items()}
            if len(following) != len(sides):
                raise BuildError("the thread's pieces touch in one place", hint="slightly other sizes")
            while following:
                a = next(iter(following))
                loop = []
                while a in following:
                    b, p = following.pop(a)
                    loop.append((a, p))
                    a = b
                self._face([x for x in loop if x[0] in corners], cell)

    @staticmethod
    def _corners(groups: dict[Any, tuple[dict[Any, Any], _Cell]]) -> set[Any]:
        """Vertices that are a corner of some face."""
        out = set()
        for sides, _cell in groups.values():
            ends = {a: q for (a, _b), (_p, q) in sides.items()}
            for (_a, b), (p, q) in sides.items():
                r = ends[b]
                if abs((q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0])) > 1e-8:
                    out.add(b)
        return out

    def _vertex(self, name: Any, p: Place, r: float) -> Any:
        if name not in self._vertices:
            v = TopoDS_Vertex()
            self.builder.MakeVertex(v, gp_Pnt(r * math.cos(p[0]), r * math.sin(p[0]), p[1]), TOLERANCE)
            self._vertices[name] = v
        return self._vertices[name]

    def _edge(self, a: Any, p: Place, b: Any, q: Place, radius: Callable[[float, float], float]) -> tuple[Any, bool]:
        """The edge from a to b, and whether it is stored the other way round."""
        m = self._id((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)[0]  # two half circles join the same two vertices
        if (b, a, m) in self._edges:
            return self._edges[b, a, m], True
        if (a, b, m) in self._edges:
            return self._edges[a, b, m], False
        rp, rq = radius(*p), radius(*q)
        if abs(p[0] - q[0]) < EPS:
            ends = [gp_Pnt(r * math.cos(t), r * math.sin(t), z) for (t, z), r in ((p, rp), (q, rq))]
            curve = Geom_BSplineCurve(_array(Array1_gp_Pnt, ends), *_knots(1), 1)
        else:
            curve = Geom_BSplineCurve(_array(Array1_gp_Pnt, _poles((*p, rp), (*q, rq))), *_knots(DEGREE), DEGREE)
        edge = TopoDS_Edge()
        self.builder.MakeEdge(edge, curve, TOLERANCE)
        self.builder.Add(edge, self._vertex(a, p, rp).Oriented(FORWARD))
        self.builder.Add(edge, self._vertex(b, q, rq).Oriented(REVERSED))
        self.builder.Range(edge, 0.0, 1.0)
        self._edges[a, b, m] = edge
        return edge, False

    def _surface(self, cell: _Cell, loop: list[Any]) -> tuple[Any, Callable[[float, float], Place]]:
        if cell.key[0] == "cone":
            a, b = cell.key[1:]
            if b == 0:
                return Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, 0), UP), a), lambda t, z: (t, z)
            level = loop[0][1][1]
            half, r = math.atan(b), a + b * level
            cone = Geom_ConicalSurface(gp_Ax3(gp_Pnt(0, 0, level), UP), half, r)
            return cone, lambda t, z: (t, (z - level) / math.cos(half))
        low, high, ra, rb = cell.strip
        width, lead = TURN / PANELS, self.lead
        ta, tb = cell.panel * width, (cell.panel + 1) * width
        rows = [_poles((ta, x + lead * ta, r), (tb, x + lead * tb, r)) for x, r in ((low, ra), (high, rb))]
        net = Array2_gp_Pnt(1, DEGREE + 1, 1, 2)
        for i in range(DEGREE + 1):
            for j in (0, 1):
                net.SetValue(i + 1, j + 1, rows[j][i])
        (ku, mu), (kv, mv) = _knots(DEGREE), _knots(1)
        surface = Geom_BSplineSurface(net, ku, kv, mu, mv, DEGREE, 1)
        return surface, lambda t, z: ((t - ta) / (tb - ta), (z - lead * t - low) / (high - low))

    def _face(self, loop: list[Any], cell: _Cell) -> None:
        al, be, ga = cell.plane
        surface, uv = self._surface(cell, loop)
        face, wire, here = TopoDS_Face(), TopoDS_Wire(), TopLoc_Location()
        self.builder.MakeFace(face, surface, TOLERANCE)
        self.builder.MakeWire(wire)
        for (a, p), (b, q) in zip(loop, loop[1:] + loop[:1], strict=True):
            edge, back = self._edge(a, p, b, q, lambda t, z: al + be * z + ga * t)
            ends = [gp_Pnt2d(*uv(*x)) for x in ((q, p) if back else (p, q))]
            flat = Geom2d_BSplineCurve(_array(Array1_gp_Pnt2d, ends), *_knots(1), 1)
            self.builder.UpdateEdge(edge, flat, surface, here, TOLERANCE)
            self.builder.Add(wire, edge.Oriented(REVERSED if back else FORWARD))
        wire.Closed(True)
        self.builder.Add(face, wire)
        self.faces.append((face.Oriented(REVERSED) if self.inwards else face, cell.name))

    def rim(self, top: bool) -> Any:
        """The closed wire at an end, counter-clockwise about +Z."""
        level = self.ends[top] * 1e7
        wire = TopoDS_Wire()
        self.builder.MakeWire(wire)
        following: dict[Any, Any] = {}
        for (a, b, m), edge in self._edges.items():
            if abs(a[1] - level) < 2 and abs(b[1] - level) < 2:
                forward = (m - a[0]) % round(TURN * 1e6) < math.pi * 1e6
                following[a if forward else b] = (b if forward else a, edge.Oriented(FORWARD if forward else REVERSED))
        first = here = next(iter(following))
        while True:
            here, edge = following[here]
            self.builder.Add(wire, edge)
            if here == first:
                break
        wire.Closed(True)
        return wire

    def cap(self, top: bool, other: Any | None = None) -> Any:
        """The flat face at an end: all within the rim, or between it and another circle's wire."""
        face = TopoDS_Face()
        self.builder.MakeFace(face, Geom_Plane(gp_Pln(gp_Ax3(gp_Pnt(0, 0, self.ends[top]), UP))), TOLERANCE)
        rim = self.rim(top)
        if other is None:
            self.builder.Add(face, rim)
        elif self.inwards:
            self.builder.Add(face, other)
            self.builder.Add(face, rim.Reversed())
        else:
            self.builder.Add(face, rim)
            self.builder.Add(face, other.Reversed())
        return face if top else face.Reversed()

    def solid(self, extra: list[tuple[Any, str]] | None = None) -> tuple[Any, list[tuple[Any, str]]]:
        """The closed solid with flat caps (or with ``extra`` faces instead), and all named faces."""
        named = [*self.faces, *(extra or [(self.cap(False), "start"), (self.cap(True), "end")])]
        shell, solid = TopoDS_Shell(), TopoDS_Solid()
        self.builder.MakeShell(shell)
        self.builder.MakeSolid(solid)
        for face, _name in named:
            self.builder.Add(shell, face)
        shell.Closed(True)
        self.builder.Add(solid, shell)
        return solid, named
