"""Triangles of a flat face carried over to the face that an edit has put in its place.

An edit of one hole in a plate replaces the plate's face by one that differs in one rim among hundreds. The triangles
away from that rim stand as they are. What is taken out: every triangle with a corner on a rim that is gone, and every
one that reaches into the disc about a new rim. That leaves cavities, whose bounds are the sides of triangles that were
taken out without their neighbour; together with the new rims as holes they are triangulated anew (constrained Delaunay)
and put into the same triangulation, whose corners keep their numbers, so that the other edges' polygons stay true.

A new rim has the corners that the wall beyond it was meshed with, so that face and wall meet corner at corner. Areas
are compared: what is put in covers the cavities less the new rims. Whatever does not go so simply is left to the
mesher.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from OCP.BRep import BRep_Builder, BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepTools import BRepTools_WireExplorer
from OCP.GeomAbs import GeomAbs_SurfaceType
from OCP.Poly import Poly_PolygonOnTriangulation
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.face_mesh import FaceMesh, Floats, Ints
from lathed_solid.kernel.segments import off_segments
from lathed_solid.kernel.topology import Key, children, edges
from lathed_solid.kernel.vectors import xyz
from lathed_solid.quantity.tolerances import ANGULAR, RELATIVE, ROUNDING

#: faces of fewer rims are meshed sooner than compared
WORTH = 12
#: rims that may differ, together
MOST_CHANGED = 8
#: how much wider than a new rim the disc is that is cleared for it
CLEARED = 1.1
ROUNDS = 8


@dataclass(frozen=True)
class Rim:
    """A new inner wire: its corners ``places`` (k, 3), once round, and of each edge their numbers and parameters."""

    places: Floats
    pieces: tuple[tuple[Any, tuple[int, ...], tuple[float, ...]], ...]


@dataclass(frozen=True)
class Change:
    """A flat face (``old``) and what stands in its place: the edges of the wires that went, the wires that came."""

    old: Any
    new: Any
    gone: tuple[Any, ...]
    come: tuple[Any, ...]


def changes(old: Iterable[Any], new: Iterable[Any]) -> list[Change]:
    """Of faces that went and faces that came, the flat ones that differ in a few rims alone."""
    out = []
    waiting = [(f, own) for f in old if (own := _wires(f))]
    for face in new:
        has = _wires(face) if waiting else None
        if not has:
            continue
        for k, (before, had) in enumerate(waiting):
            gone, come = had - has, has - had
            if len(gone) + len(come) <= MOST_CHANGED and _one_plane(before, face):
                went = tuple(edge for w in gone for edge in edges(w.shape))
                out.append(Change(before, face, went, tuple(w.shape for w in come)))
                del waiting[k]
                break
    return out


def _wires(face: Any) -> frozenset[Key]:
    """The bounds of a flat face of many; none of others."""
    if BRepAdaptor_Surface(face, False).GetType() != GeomAbs_SurfaceType.GeomAbs_Plane:
        return frozenset()
    own = children(face)
    return frozenset(map(Key, own)) if len(own) >= WORTH else frozenset()


def _one_plane(a: Any, b: Any) -> bool:
    if not a.Location().IsEqual(b.Location()):
        return False
    p, q = (BRepAdaptor_Surface(f, False).Plane() for f in (a, b))
    here = p.Position().Direction().IsParallel(q.Position().Direction(), ANGULAR)
    return here and p.Distance(q.Location()) <= ROUNDING


def carry(change: Change, flat: FaceMesh, walls: Mapping[Key, Any]) -> bool:
    """Give ``change.new`` the triangles of ``change.old``; whether that went. ``walls``: meshed faces by their edges.

    The old face has none afterwards. Where it did not go nothing is changed.
    """
    rims = [_rim(wire, change.new, walls) for wire in change.come]
    if any(r is None for r in rims):
        return False
    made = [r for r in rims if r is not None]
    lost = _lost(change, flat)
    cover = filled(flat, lost, made, _in_plane(change.new))
    if cover is None:
        return False
    taken, fresh = cover
    numbers = _put(flat, lost, taken, fresh, made, change.new)
    builder, here = BRep_Builder(), change.new.Location()
    for edge in change.gone:
        builder.UpdateEdge(edge, None, flat.kernels, here)
    builder.UpdateFace(change.old, None)
    builder.UpdateFace(change.new, flat.kernels)
    for rim, own in zip(made, numbers, strict=True):
        for edge, places, parameters in rim.pieces:
            polygon = Poly_PolygonOnTriangulation(len(places), True)
            for k, (place, t) in enumerate(zip(places, parameters, strict=True), 1):
                polygon.SetNode(k, int(own[place]) + 1)
                polygon.SetParameter(k, t)
            builder.UpdateEdge(edge, polygon, flat.kernels, here)
    return True


def _in_plane(face: Any) -> Callable[[Floats], Floats]:
    """From places (n, 3) to the plane's own two coordinates (n, 2)."""
    position = BRepAdaptor_Surface(face, False).Plane().Position()
    start = np.array(xyz(position.Location()))
    axes = np.array([xyz(d) for d in (position.XDirection(), position.YDirection())])
    return lambda places: (places - start) @ axes.T


def _rim(wire: Any, face: Any, walls: Mapping[Key, Any]) -> Rim | None:
    """The corners of a wire, as the walls beyond it have them."""
    places: list[tuple[float, float, float]] = []
    pieces = []
    along = BRepTools_WireExplorer(TopoDS.Wire(wire), face)
    while along.More():
        edge = along.Current()
        along.Next()
        wall, where = walls.get(Key(edge)), TopLoc_Location()
        t = None if wall is None else BRep_Tool.Triangulation_s(wall, where)
        polygon = None if t is None else BRep_Tool.PolygonOnTriangulation_s(edge, t, where)
        if polygon is None or not polygon.HasParameters():
            return None
        move, count = where.Transformation(), polygon.NbNodes()
        assert t is not None
        own = [xyz(t.Node(polygon.Node(k)).Transformed(move)) for k in range(1, count + 1)]
        backwards = edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        begin = len(places)
        places += (own[::-1] if backwards else own)[:-1]
        numbers = range(begin, begin + count)
        pieces.append((edge, numbers[::-1] if backwards else numbers, [polygon.Parameter(k + 1) for k in range(count)]))
    total = len(places)
    if total < 3:
        return None
    closed = tuple((e, tuple(n % total for n in numbers), tuple(ts)) for e, numbers, ts in pieces)
    return Rim(np.array(places), closed)


def _lost(change: Change, flat: FaceMesh) -> Ints:
    """The corners on rims that went."""
    found: set[int] = set()
    for edge in change.gone:
        polygon = BRep_Tool.PolygonOnTriangulation_s(edge, flat.kernels, change.old.Location())
        if polygon is not None:
            found.update(polygon.Node(k) - 1 for k in range(1, polygon.NbNodes() + 1))
    return np.array(sorted(found), np.intp)


def filled(
    flat: FaceMesh, lost: Ints, rims: Sequence[Rim], level: Callable[[Floats], Floats]
) -> tuple[Ints, list[tuple[int, int, int]]] | None:
    """Which triangles go, and what comes; corners from ``len(nodes)`` on are those of the rims, in order.

    None where the cavities are no plain polygons about the rims.
    """
    import shapely

    flats, rounds = level(flat.nodes), [level(r.places) for r in rims]
    cleared = _cleared(flat.corners, flats, lost, rounds)
    if cleared is None:
        return None
    bounds, going = cleared
    region = _region(flats, bounds, rounds)
    if region is None:
        return None
    numbers = {tuple(flats[n].tolist()): int(n) for ring in bounds for n in ring}
    numbers |= {tuple(p): len(flats) + k for k, p in enumerate(p for ring in rounds for p in ring.tolist())}
    sense, out = _sense(flats[flat.corners[going][0]]), []
    made = shapely.constrained_delaunay_triangles(region).geoms
    for shape in made:
        corners = shapely.get_coordinates(shape)[:3]
        a, b, c = (numbers.get(tuple(p)) for p in corners.tolist())
        if a is None or b is None or c is None:
            return None
        out.append((a, b, c) if _sense(corners) == sense else (c, b, a))
    whole = abs(sum(shape.area for shape in made) - region.area) <= RELATIVE * region.area
    return (np.flatnonzero(going), out) if whole else None


def _cleared(
    corners: Ints, flats: Floats, lost: Ints, rounds: Sequence[Floats]
) -> tuple[list[Ints], NDArray[np.bool_]] | None:
    """The bounds of the cavities and which triangles go for them; None where a wire is an outline, or for none."""
    low, high = flats.min(axis=0), flats.max(axis=0)
    if any((ring <= low).any() or (ring >= high).any() for ring in (*rounds, flats[lost])):
        return None
    going = np.isin(corners, lost).any(1)
    for ring in rounds:
        middle = ring.mean(axis=0)
        reach = float(np.linalg.norm(ring - middle, axis=1).max()) * CLEARED
        going |= _near(flats[corners], middle, reach)
    return _bounds(corners, np.asarray(going), lost) if going.any() else None


def _region(flats: Floats, bounds: Sequence[Ints], rounds: Sequence[Floats]) -> Any:
    """The cavities less the new rims; None where a rim does not lie wholly within them."""
    import shapely

    region = shapely.Polygon()
    for ring in bounds:
        region = region.symmetric_difference(shapely.Polygon(flats[ring]))
    holes = [shapely.Polygon(ring) for ring in rounds]
    left = region.area - sum(hole.area for hole in holes)
    for hole in holes:
        region = region.difference(hole)
    return region if region.is_valid and abs(region.area - left) <= RELATIVE * region.area else None


def _sense(corners: Floats) -> bool:
    (ax, ay), (bx, by), (cx, cy) = corners
    return bool((bx - ax) * (cy - ay) > (by - ay) * (cx - ax))


def _near(corners: Floats, middle: Floats, reach: float) -> NDArray[np.bool_]:
    """Which triangles (m, 3, 2) come nearer to a place than ``reach``."""
    a = corners - middle
    b = np.roll(a, -1, axis=1)
    apart = off_segments(np.zeros(2), a, b - a).min(axis=1)
    turn = a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0]
    return (apart < reach) | (turn > 0).all(axis=1) | (turn < 0).all(axis=1)


def _bounds(corners: Ints, going: NDArray[np.bool_], lost: Ints) -> tuple[list[Ints], NDArray[np.bool_]] | None:
    """The bounds of what goes, each once round, without the rims that went; and what goes for them to be plain."""
    for _ in range(ROUNDS):
        sides = np.concatenate([corners[going][:, (k, (k + 1) % 3)] for k in range(3)])
        there = set(map(tuple, sides.tolist()))
        gone = set(lost.tolist())
        open_ = [(a, b) for a, b in there if (b, a) not in there and not (a in gone and b in gone)]
        after = dict(open_)
        if len(after) == len(open_):
            return _rings(after), going
        # two bounds meet in a corner: all about it goes too
        twice = [a for a, often in Counter(a for a, _ in open_).items() if often > 1]
        going = going | np.isin(corners, twice).any(axis=1)
    return None


def _rings(after: dict[int, int]) -> list[Ints]:
    left, out = dict(after), []
    while left:
        begin, at = left.popitem()
        ring = [begin]
        while at != begin and at in left:
            ring.append(at)
            at = left.pop(at)
        out.append(np.array(ring, np.intp))
    return out


def _put(
    flat: FaceMesh, lost: Ints, taken: Ints, fresh: Sequence[tuple[int, ...]], rims: Sequence[Rim], face: Any
) -> list[Ints]:
    """Write nodes and triangles; the numbers of each rim's corners."""
    count = len(flat.nodes)
    places = np.concatenate([r.places for r in rims]) if rims else np.zeros((0, 3))
    numbers = flat.put_nodes(lost, places, _in_plane(face)(places), face.Location())
    new = np.array([[c if c < count else numbers[c - count] for c in row] for row in fresh], np.intp).reshape(-1, 3)
    flat.replace(taken, new)
    cuts = np.cumsum([len(r.places) for r in rims])[:-1]
    return np.split(numbers, cuts) if rims else []
