"""Threaded surfaces without booleans: the polygons of ``unrolled`` as faces with shared edges.

Each edge is built once and shared. Crest and root lie on cylinders, lead-in and run-out on cones; a flank is a Bezier
surface of degree 11 along the turn, through Chebyshev places, which is a helicoid to about 1e-9 of its size.

A thread repeats after one pitch: vertices, edges and faces are made for one pitch and placed at the others by a shift
along the axis, so that a long thread costs hardly more than a short one, and is checked, integrated and meshed once.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
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
from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt, gp_Pnt2d, gp_Trsf, gp_Vec
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Edge, TopoDS_Face, TopoDS_Shell, TopoDS_Solid, TopoDS_Vertex, TopoDS_Wire

from lathed_solid.kernel.builders.unrolled import EPS, PANELS, TURN, Cell, Cone, Place, Profile, lay_out
from lathed_solid.kernel.errors import BuildError

DEGREE = 11
TOLERANCE = 1e-7
UP = gp_Dir(0, 0, 1)
#: a turn in millionths of a radian
FULL = round(TURN * 1e6)
FORWARD, REVERSED = TopAbs_Orientation.TopAbs_FORWARD, TopAbs_Orientation.TopAbs_REVERSED

_NODES = 0.5 - 0.5 * np.cos(np.pi * np.arange(DEGREE + 1) / DEGREE)
_BERNSTEIN = np.linalg.inv(
    [[math.comb(DEGREE, j) * t**j * (1 - t) ** (DEGREE - j) for j in range(DEGREE + 1)] for t in _NODES]
)

#: a vertex: its name, and by how many pitches it is moved from where it was made
Spot = tuple[tuple[int, ...], int]


def _array(kind: Any, values: Any) -> Any:
    out = kind(1, len(values))
    for i, v in enumerate(values, 1):
        out.SetValue(i, v)
    return out


def _knots(degree: int) -> tuple[Any, Any]:
    return _array(Array1_double, [0.0, 1.0]), _array(Array1_int, [degree + 1, degree + 1])


@lru_cache(maxsize=64)
def _round(t0: float, t1: float) -> tuple[np.ndarray, np.ndarray]:
    """Cosine and sine at the Chebyshev places between two angles."""
    t = t0 + (t1 - t0) * _NODES
    return np.cos(t), np.sin(t)


def _poles(p: tuple[float, float, float], q: tuple[float, float, float]) -> list[gp_Pnt]:
    """Bezier poles of the curve on which theta, z and r are all linear."""
    cos, sin = _round(p[0], q[0])
    z, r = (p[i] + (q[i] - p[i]) * _NODES for i in (1, 2))
    return [gp_Pnt(*v) for v in (_BERNSTEIN @ np.array([r * cos, r * sin, z]).T).tolist()]


_ROUND, _LINE = _knots(DEGREE), _knots(1)


def flat_line(p: tuple[float, float], q: tuple[float, float]) -> Any:
    """A straight curve on a surface, its parameter from 0 to 1."""
    return Geom2d_BSplineCurve(_array(Array1_gp_Pnt2d, [gp_Pnt2d(*p), gp_Pnt2d(*q)]), *_LINE, 1)


@dataclass(frozen=True)
class Piece:
    """A face of the thread; one ``pitches`` on is the last one with 0 before it, moved."""

    face: Any
    name: str
    pitches: int = 0
    #: area of its projection along the axis, mm2: what a shift by one mm adds to three times its share of the volume
    across: float = 0.0


@dataclass
class Stretch:
    """A threaded stretch as faces about Z; ``inwards`` turns them to face the axis (a nut)."""

    profile: Profile
    ends: tuple[float, float]
    cones: tuple[Cone, ...] = ()
    hand: int = 1
    starts: int = 1
    inwards: bool = False
    pieces: list[Piece] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.builder = BRep_Builder()
        self._ids: dict[tuple[int, int], tuple[int, int]] = {}
        #: places of the strips that are alike, and the pitches they are in
        self._repeated: dict[tuple[int, int], tuple[int, int]] = {}
        self._vertices: dict[Any, Any] = {}
        self._edges: dict[Any, Any] = {}
        self._at_ends: dict[Any, Any] = {}
        self._flanks: dict[tuple[int, int], tuple[Any, float]] = {}
        #: radii of the corners of each end's rim
        self.rim_radii: dict[float, list[float]] = {z: [] for z in self.ends}
        self._shifts: dict[int, TopLoc_Location] = {0: TopLoc_Location()}
        by_pitch = gp_Trsf()
        by_pitch.SetTranslation(gp_Vec(0, 0, self.profile.pitch))
        self._by_pitch = TopLoc_Location(by_pitch)
        self.lead = self.hand * self.starts * self.profile.pitch / TURN
        self.layout = lay_out(self.profile, self.ends, self.cones, self.hand, self.starts)
        if not self.layout.cut and not self.layout.alike:
            raise BuildError("the thread has no length")
        self._assemble()

    @property
    def faces(self) -> list[tuple[Any, str]]:
        """All faces with their names, before the round ones of the shell."""
        return [(p.face, p.name) for p in self.pieces]

    def _shift(self, pitches: int) -> TopLoc_Location:
        if pitches not in self._shifts:
            self._shifts[pitches] = self._by_pitch.Powered(pitches)
        return self._shifts[pitches]

    def _place(self, t: float, z: float) -> tuple[tuple[int, int], int]:
        """A place within the first pitch, and its pitch; boxes beside it are probed, lest rounding split one."""
        pitch = self.profile.pitch
        x, k = t % TURN * 1e6, math.floor(z / pitch)
        y = (z - k * pitch) * 1e7
        if y > pitch * 1e7 - 0.5:
            y, k = y - pitch * 1e7, k + 1
        at = (round(x) % FULL, round(y))
        if abs(x - round(x)) < 0.49 and abs(y - at[1]) < 0.49:
            return self._ids.setdefault(at, at), k
        near = [(round(x + i) % FULL, round(y + j)) for i in (-0.01, 0.01) for j in (-0.01, 0.01)]
        known = next((self._ids[q] for q in near if q in self._ids), min(near))
        for q in near:
            self._ids[q] = known
        return known, k

    def _id(self, t: float, z: float) -> Spot:
        """The vertex at a place. One that is no strip's own may have another radius there, so it is not repeated."""
        place, k = self._place(t, z)
        low, high = self._repeated.get(place, (0, -1))
        return (place, k) if low <= k <= high else ((*place, k), 0)

    def _repeat(self, cell: Cell, more: int) -> None:
        """From now on the corners and middles of a strip are known to be there for ``more`` pitches."""
        p = cell.polygon
        middles = [((a[0] + b[0]) / 2, (a[1] + b[1]) / 2) for a, b in zip(p, p[1:] + p[:1], strict=True)]
        for q in (*p, *middles):
            place, k = self._place(*q)
            low, high = self._repeated.get(place, (k, k + more))
            self._repeated[place] = (min(low, k), max(high, k + more))

    def _assemble(self) -> None:
        for cell, count in self.layout.alike:
            self._repeat(cell, count - 1)
        for cell, count in self.layout.alike:
            face, across = self._face([(self._id(*p), p) for p in cell.polygon], cell, False)
            for n in range(count):
                self.pieces.append(Piece(face.Moved(self._shift(n)), cell.name, n, across))
        groups: dict[Any, tuple[dict[Any, Any], Cell]] = {}
        for cell in self.layout.cut:
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
                face, across = self._face([x for x in loop if x[0] in corners], cell, True)
                self.pieces.append(Piece(face, cell.name, 0, across))

    @staticmethod
    def _corners(groups: dict[Any, tuple[dict[Any, Any], Cell]]) -> set[Any]:
        """Vertices that are a corner of some face."""
        out = set()
        for sides, _cell in groups.values():
            ends = {a: q for (a, _b), (_p, q) in sides.items()}
            for (_a, b), (p, q) in sides.items():
                r = ends[b]
                if abs((q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0])) > 1e-8:
                    out.add(b)
        return out

    def _vertex(self, spot: Spot, t: float, z: float, r: float) -> Any:
        name, pitches = spot
        if name not in self._vertices:
            v = TopoDS_Vertex()
            z -= pitches * self.profile.pitch
            self.builder.MakeVertex(v, gp_Pnt(r * math.cos(t), r * math.sin(t), z), TOLERANCE)
            self._vertices[name] = v
        return self._vertices[name].Moved(self._shift(pitches))

    def _edge(self, a: Spot, p: Place, b: Spot, q: Place, radius: Callable[[float, float], float]) -> tuple[Any, bool]:
        """The edge from a to b where it stands, and whether it is stored the other way round."""
        m = self._id((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)  # two half circles join the same two vertices
        base = min(a[1], b[1])
        here = self._shift(base)
        one, other, middle = (a[0], a[1] - base), (b[0], b[1] - base), (m[0], m[1] - base)
        if (other, one, middle) in self._edges:
            return TopoDS.Edge(self._edges[other, one, middle].Moved(here)), True
        if (one, other, middle) in self._edges:
            return TopoDS.Edge(self._edges[one, other, middle].Moved(here)), False
        down = base * self.profile.pitch
        rp, rq = radius(*p), radius(*q)
        if abs(p[0] - q[0]) < EPS:
            ends = [gp_Pnt(r * math.cos(t), r * math.sin(t), z - down) for (t, z), r in ((p, rp), (q, rq))]
            curve = Geom_BSplineCurve(_array(Array1_gp_Pnt, ends), *_LINE, 1)
        else:
            poles = _poles((p[0], p[1] - down, rp), (q[0], q[1] - down, rq))
            curve = Geom_BSplineCurve(_array(Array1_gp_Pnt, poles), *_ROUND, DEGREE)
        edge = TopoDS_Edge()
        self.builder.MakeEdge(edge, curve, TOLERANCE)
        self.builder.Add(edge, self._vertex(one, p[0], p[1] - down, rp).Oriented(FORWARD))
        self.builder.Add(edge, self._vertex(other, q[0], q[1] - down, rq).Oriented(REVERSED))
        self.builder.Range(edge, 0.0, 1.0)
        self._edges[one, other, middle] = edge
        return TopoDS.Edge(edge.Moved(here)), False

    def _surface(self, cell: Cell, loop: list[Any]) -> tuple[Any, Callable[[float, float], Place]]:
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
        known = self._flanks.get((cell.panel, cell.key[2]))
        if known is None:
            net = Array2_gp_Pnt(1, DEGREE + 1, 1, 2)
            for j, (x, r) in enumerate(((low, ra), (high, rb)), 1):
                for i, pole in enumerate(_poles((ta, x + lead * ta, r), (tb, x + lead * tb, r)), 1):
                    net.SetValue(i, j, pole)
            (ku, mu), (kv, mv) = _ROUND, _LINE
            surface = Geom_BSplineSurface(net, ku, kv, mu, mv, DEGREE, 1)
            self._flanks[cell.panel, cell.key[2]] = surface, low
        else:
            surface = known[0].Translated(gp_Vec(0, 0, low - known[1]))
        return surface, lambda t, z: ((t - ta) / (tb - ta), (z - lead * t - low) / (high - low))

    def _face(self, loop: list[Any], cell: Cell, ending: bool) -> tuple[Any, float]:
        """The face within a loop of (spot, place), and the area of its projection along Z, signed as it faces."""
        al, be, ga = cell.plane
        surface, uv = self._surface(cell, loop)
        face, wire, here = TopoDS_Face(), TopoDS_Wire(), TopLoc_Location()
        self.builder.MakeFace(face, surface, TOLERANCE)
        self.builder.MakeWire(wire)
        across = 0.0
        for (a, p), (b, q) in zip(loop, loop[1:] + loop[:1], strict=True):
            edge, back = self._edge(a, p, b, q, lambda t, z: al + be * z + ga * t)
            flat = flat_line(*(uv(*x) for x in ((q, p) if back else (p, q))))
            self.builder.UpdateEdge(edge, flat, surface, here, TOLERANCE)
            self.builder.Add(wire, edge.Oriented(REVERSED if back else FORWARD))
            rp, rq = (al + be * z + ga * t for t, z in (p, q))
            across += (q[0] - p[0]) * (rp * rp + rp * rq + rq * rq) / 6
            for level in self.ends if ending else ():
                if max(abs(p[1] - level), abs(q[1] - level)) < 10 * EPS:
                    # counter-clockwise about +Z: a loop passes its lower end that way, its upper end the other
                    forward = q[0] > p[0]
                    way = FORWARD if forward != back else REVERSED
                    self._at_ends[level, a[0] if forward else b[0]] = (b[0] if forward else a[0], edge.Oriented(way))
                    self.rim_radii[level] += [rp, rq]
        wire.Closed(True)
        self.builder.Add(face, wire)
        return (TopoDS.Face(face.Oriented(REVERSED)), -across) if self.inwards else (face, across)

    def rim(self, top: bool) -> Any:
        """The closed wire at an end, counter-clockwise about +Z."""
        level = self.ends[top]
        wire = TopoDS_Wire()
        self.builder.MakeWire(wire)
        following = {a: to for (z, a), to in self._at_ends.items() if z == level}
        first = here = next(iter(following), None)
        while here in following:
            here, edge = following.pop(here)
            self.builder.Add(wire, edge)
        if here != first or following:
            raise BuildError("the thread's rim does not close", hint="slightly other sizes")
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
