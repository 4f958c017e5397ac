"""Bores square to flat faces, cut without a boolean: the faces get an inner wire, the bore's own faces are put in.

A bore is a solid of revolution. Where it enters a flat face square to its axis, stands clear of that face's edges,
and meets no other face but, going through, one flat face square to it on the far side, nothing crosses: what a
boolean would find is known beforehand. The part's face keeps its outline and gets the bore's rim as one more inner
wire; the bore's walls and floor, turned to face inwards, complete the shell. Bores of one shape are one set of faces
at several places, so they are checked and meshed once.

That the new wires lie inside their faces and clear of the others is shown here (distance to every edge, and the
centre inside), which is what the boundary check would look for. Anything else - a slanted or round face, an edge too
near, a wall in the way, bores that meet - is left to the boolean: ``pierced`` returns None.

Volume shares of the faces (the divergence theorem): a disc of radius r in a plane at height h along its normal
takes pi r^2 h / 3 from its face.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Builder, BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepClass import BRepClass_FaceClassifier
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Ax1, gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf
from OCP.TopAbs import TopAbs_Orientation, TopAbs_State
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Iterator, TopoDS_Shell, TopoDS_Solid

from lathed_solid.kernel.builders.contour import revolve_contour
from lathed_solid.kernel.names import Body, Bore
from lathed_solid.kernel.properties import face_share
from lathed_solid.kernel.segments import off_segments
from lathed_solid.kernel.surfaces import Surface, read_surface
from lathed_solid.kernel.topology import FACE, SHELL, Key, edges, sub_shapes
from lathed_solid.turned import Segment

#: bores nearer than this to an edge or to one another are left to the boolean, mm
CLEAR = 1e-4
FLAT = 1e-7
SQUARE = 1e-12
RELATIVE = 1e-9
MOUTH, EXIT = "mouth", "exit"


@dataclass(frozen=True)
class _Face:
    """A face of the part: its box (low, high), and what ``_plane`` knows of it once asked."""

    shape: Any
    low: np.ndarray
    high: np.ndarray
    #: the face before the first bore, and the rims (n, 4: centre and radius) made in it since
    base: Any
    rims: np.ndarray

    @cached_property
    def surface(self) -> Surface:
        return read_surface(self.shape)

    @cached_property
    def plane(self) -> tuple[np.ndarray, np.ndarray] | None:
        """Origin and outward normal of a flat face, else None."""
        s = self.surface
        return (np.array(s.origin), np.array(s.direction)) if s.kind == "plane" else None

    def clear_of(self, origin: np.ndarray, way: np.ndarray, wide: float) -> bool:
        """Whether a face along the bore stands clear of it: beside it, around it, or a wall within another's."""
        s = self.surface
        at, d = np.array(s.origin), np.array(s.direction)
        if s.kind == "plane":
            return abs(float(d @ way)) < SQUARE and abs(float((origin - at) @ d)) > wide + CLEAR
        if s.kind not in ("cylinder", "cone") or abs(float(d @ way)) < 1 - SQUARE:
            return False
        low, high = s.extent(s.direction)
        base, slope = float(at @ d), math.tan(s.half_angle)
        radii = [abs(s.radius + (end - base) * slope) for end in (low, high)]
        apart = float(np.linalg.norm(np.cross(origin - at, d)))
        return apart + wide < min(radii) - CLEAR or apart - wide > max(radii) + CLEAR

    def holds(self, p: np.ndarray) -> bool:
        """Whether a point of the plane lies within the face."""
        if len(self.rims) and bool(np.any(np.linalg.norm(self.rims[:, :3] - p, axis=1) < self.rims[:, 3])):
            return False
        return bool(BRepClass_FaceClassifier(self.base, gp_Pnt(*p), FLAT).State() == TopAbs_State.TopAbs_IN)

    @cached_property
    def outline(self) -> tuple[np.ndarray, np.ndarray] | None:
        """Its straight edges (n, 2, 3) and circles (m, 4: centre and radius); None when there are others."""
        lines, circles = [], []
        for edge in edges(self.shape):
            curve = BRepAdaptor_Curve(edge)
            if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
                ends = (curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter()))
                lines.append([(p.X(), p.Y(), p.Z()) for p in ends])
            elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
                c = curve.Circle()
                at = c.Location()
                circles.append((at.X(), at.Y(), at.Z(), c.Radius()))
            else:
                return None
        return np.array(lines).reshape(-1, 2, 3), np.array(circles).reshape(-1, 4)


@dataclass(frozen=True)
class _Cut:
    """One bore as it meets the part: entry and exit face, radii there, how deep it goes (mm)."""

    bore: Bore
    entry: int
    exit: int | None
    depth: float
    mouth: float
    out: float


def pierced(body: Body, tools: Sequence[Body]) -> Body | None:
    """``body`` with the bores taken out; None when a boolean is needed."""
    bores = [t.bore for t in tools]
    if not bores or any(b is None for b in bores):
        return None
    shells = sub_shapes(body.shape, SHELL)
    if len(shells) != 1:
        return None
    found = _faces(body)
    lows, highs = np.array([f.low for f in found]), np.array([f.high for f in found])
    cuts = []
    for bore in bores:
        assert bore is not None
        cut = _meets(bore, found, lows, highs)
        if cut is None:
            return None
        cuts.append(cut)
    if not _apart(cuts) or not _inside(cuts, found):
        return None
    return _rebuilt(body, found, cuts)


def _faces(body: Body) -> list[_Face]:
    """The part's faces as they stand in its shell; what is known of a face is kept with the body."""
    out = []
    explorer = TopExp_Explorer(body.shape, FACE)
    while explorer.More():
        face = TopoDS.Face(explorer.Current())
        explorer.Next()
        key = Key(face)
        known = body.known.get(key)
        if known is None or not known.shape.IsEqual(face):
            bound = Bnd_Box()
            BRepBndLib.Add_s(face, bound, False)
            low, high = (np.array([p.X(), p.Y(), p.Z()]) for p in (bound.CornerMin(), bound.CornerMax()))
            known = _Face(face, low, high, face, np.zeros((0, 4)))
            body.known[key] = known
        out.append(known)
    return out


def _meets(bore: Bore, found: list[_Face], lows: np.ndarray, highs: np.ndarray) -> _Cut | None:
    """Which faces a bore goes through, when it does so squarely."""
    way, origin = np.array(bore.way), np.array(bore.origin)
    end = max(s.end[0] for s in bore.segments)
    wide = max(s.start[1] for s in bore.segments)
    reach = wide * np.sqrt(np.clip(1 - way * way, 0, None)) + CLEAR
    tips = np.array([origin, origin + way * end])
    low, high = tips.min(0) - reach, tips.max(0) + reach
    touched = np.flatnonzero(np.all(lows <= high, axis=1) & np.all(highs >= low, axis=1))
    entry, out, depth = None, None, end
    for i in touched:
        if found[i].clear_of(origin, way, wide):
            continue
        plane = found[i].plane
        if plane is None:
            return None
        at, normal = plane
        facing = float(normal @ way)
        z = float((at - origin) @ way)
        if facing < SQUARE - 1 and abs(z) < FLAT and entry is None:
            entry = int(i)
        elif facing > 1 - SQUARE and CLEAR < z < end - CLEAR and out is None:
            out, depth = int(i), z
        else:
            return None
    if entry is None:
        return None
    radii = [_radius(bore.segments, z) for z in (0.0, depth)] if out is not None else [_radius(bore.segments, 0.0), 0.0]
    if radii[0] is None or radii[1] is None:
        return None
    return _Cut(bore, entry, out, depth, radii[0], radii[1])


def _radius(segments: Sequence[Segment], z: float) -> float | None:
    """The bore's radius at a depth; None where the profile has a step just there."""
    for s in segments:
        (z0, r0), (z1, r1) = s.start, s.end
        if r0 > 0 and r1 > 0 and z0 + CLEAR < z < z1 - CLEAR:
            return r0 + (r1 - r0) * (z - z0) / (z1 - z0)
    return None


def _apart(cuts: list[_Cut]) -> bool:
    """Whether no two bores meet: parallel ones by the distance of their axes, others not at all."""
    if len(cuts) == 1:
        return True
    ways = np.array([c.bore.way for c in cuts])
    if np.any(np.abs(ways @ ways[0]) < 1 - SQUARE):
        return False
    wide = np.array([max(s.start[1] for s in c.bore.segments) for c in cuts])
    origins = np.array([c.bore.origin for c in cuts])
    flat = origins - np.outer(origins @ ways[0], ways[0])
    apart = np.linalg.norm(flat[:, None] - flat[None, :], axis=2) - wide[:, None] - wide[None, :]
    np.fill_diagonal(apart, np.inf)
    return bool(apart.min() > CLEAR)


def _inside(cuts: list[_Cut], found: list[_Face]) -> bool:
    """Whether every rim lies within its face, clear of the edges."""
    for c in cuts:
        origin, way = np.array(c.bore.origin), np.array(c.bore.way)
        for index, z, r in ((c.entry, 0.0, c.mouth), (c.exit, c.depth, c.out)):
            if index is None:
                continue
            outline, centre = found[index].outline, origin + way * z
            if outline is None or _clearance(centre, outline) <= r + CLEAR or not found[index].holds(centre):
                return False
    return True


def _clearance(p: np.ndarray, outline: tuple[np.ndarray, np.ndarray]) -> float:
    """Distance from a point in the face's plane to its edges (arcs count as whole circles)."""
    lines, circles = outline
    least = math.inf
    if len(lines):
        least = float(off_segments(p, lines[:, 0], lines[:, 1] - lines[:, 0]).min())
    if len(circles):
        least = min(least, float(np.abs(np.linalg.norm(circles[:, :3] - p, axis=1) - circles[:, 3]).min()))
    return least


def _plug(cut: _Cut) -> Body | None:
    """What the bore takes out, about Z from its mouth: discs at mouth and exit close it. None when invalid."""
    rows = [s for s in cut.bore.segments if s.start[1] > 0 or s.end[1] > 0]
    outline: list[tuple[str, tuple[float, float], tuple[float, float]]] = []
    for s in rows:
        (z0, r0), (z1, r1) = s.start, s.end
        if max(z0, z1) <= 0 or (cut.exit is not None and min(z0, z1) >= cut.depth):
            continue
        if z0 < 0:
            z0, r0 = 0.0, cut.mouth
        if cut.exit is not None and z1 > cut.depth:
            z1, r1 = cut.depth, cut.out
        outline.append((s.name, (z0, r0), (z1, r1)))
    last = outline[-1][2]
    closing = [Segment(MOUTH, (0.0, 0.0), (0.0, cut.mouth))]
    after = [Segment(EXIT, last, (last[0], 0.0))] if last[1] > 0 else []
    segments = [*closing, *(Segment(*row) for row in outline), *after]
    tip = segments[-1].end
    axis = gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))
    made = revolve_contour([*segments, Segment("axis", tip, (0.0, 0.0))], axis, lambda z, r: gp_Pnt(r, 0, z), "")
    return made if BRepCheck_Analyzer(made.shape, True, False).IsValid() else None


def _rebuilt(body: Body, found: list[_Face], cuts: list[_Cut]) -> Body | None:
    """The part with inner wires in its faces and the bores' faces in its shell."""
    builder = BRep_Builder()
    fresh: dict[int, Any] = {}
    lost: dict[int, float] = {}
    circles: dict[int, list[tuple[float, ...]]] = {}
    walls: list[tuple[Any, str]] = []
    gone = 0.0
    plugs: dict[Any, Body | None] = {}
    for cut in cuts:
        shape = (tuple((s.start, s.end) for s in cut.bore.segments), cut.exit is None, round(cut.depth, 9))
        if shape not in plugs:
            plugs[shape] = _plug(cut)
        plug = plugs[shape]
        if plug is None:
            return None
        place = gp_Trsf()
        place.SetTransformation(
            gp_Ax3(gp_Pnt(*cut.bore.origin), gp_Dir(*cut.bore.way)), gp_Ax3(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))
        )
        where = TopLoc_Location(place)
        named = dict(zip((s.name.rpartition(".")[2] for s in cut.bore.segments), cut.bore.names, strict=True))
        for piece in _oriented(plug.shape):
            (name,) = plug.names[Key(piece)]
            piece = piece.Moved(where)
            index, z, r = (cut.entry, 0.0, cut.mouth) if name == MOUTH else (cut.exit, cut.depth, cut.out)
            if name in (MOUTH, EXIT):
                assert index is not None
                if index not in fresh:
                    fresh[index] = _copied(builder, found[index].shape)
                builder.Add(fresh[index], _wire(piece).Reversed())
                centre = np.array(cut.bore.origin) + np.array(cut.bore.way) * z
                plane = found[index].plane
                assert plane is not None
                lost[index] = lost.get(index, 0.0) + math.pi * r * r * float(centre @ plane[1]) / 3
                circles.setdefault(index, []).append((*centre, r))
            else:
                walls.append((piece.Reversed(), named[name]))
        gone += plug.size
    out = _closed(body, found, fresh, lost, circles, walls)
    return out if out is not None and abs(body.size - gone - out.size) <= RELATIVE * body.size else None


def _closed(
    body: Body,
    found: list[_Face],
    fresh: dict[int, Any],
    lost: dict[int, float],
    circles: dict[int, list[tuple[float, ...]]],
    walls: list[tuple[Any, str]],
) -> Body | None:
    """The new solid, with names, and with what is known of its faces."""
    builder, shell, solid = BRep_Builder(), TopoDS_Shell(), TopoDS_Solid()
    builder.MakeShell(shell)
    builder.MakeSolid(solid)
    names, shares, known = dict(body.names), dict(body.shares), dict(body.known)
    for i, face in enumerate(found):
        builder.Add(shell, fresh.get(i, face.shape))
        if i in fresh:
            old, new = Key(face.shape), Key(fresh[i])
            names[new] = names.pop(old, frozenset())
            forward = -1.0 if fresh[i].Orientation() == TopAbs_Orientation.TopAbs_REVERSED else 1.0
            before = shares.pop(old, None)
            if before is None:
                before = forward * face_share(face.shape)
            shares[new] = before - forward * lost[i]
            outline, rims = face.outline, np.array(circles[i])
            assert outline is not None and face.plane is not None
            entry = _Face(fresh[i], face.low, face.high, face.base, np.vstack([face.rims, rims]))
            # what the old face knew holds for the new one, with the rims added
            entry.__dict__["surface"] = face.surface
            entry.__dict__["outline"] = (outline[0], np.vstack([outline[1], rims]))
            known.pop(old, None)
            known[new] = entry
    for piece, atom in walls:
        builder.Add(shell, piece)
        names[Key(piece)] = frozenset([atom])
    if not BRep_Tool.IsClosed_s(shell):
        return None
    shell.Closed(True)
    builder.Add(solid, shell)
    return Body(solid, names, shares, known=known)


def _oriented(shape: Any) -> list[Any]:
    out = []
    explorer = TopExp_Explorer(shape, FACE)
    while explorer.More():
        out.append(TopoDS.Face(explorer.Current()))
        explorer.Next()
    return out


def _copied(builder: BRep_Builder, face: Any) -> Any:
    """A face of its own on the same surface, with the same wires."""
    out = TopoDS.Face(face.EmptyCopied())
    inner = TopoDS_Iterator(face)
    while inner.More():
        builder.Add(out, inner.Value())
        inner.Next()
    return out


def _wire(face: Any) -> Any:
    return TopoDS_Iterator(face).Value()
