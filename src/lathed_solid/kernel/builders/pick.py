"""From a pick of edges to the body's edges."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepLProp import BRepLProp_SLProps
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.GeomAPI import GeomAPI_ProjectPointOnSurf
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.edges import NamedEdge, edges_of, named_edges
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.topology import Key, edges, faces
from lathed_solid.part.steps.edges import ResolvedEdges
from lathed_solid.quantity.tolerances import ANGULAR, ROUNDING

#: faces that meet at a smaller angle run smoothly into each other, rad
SMOOTH = math.radians(0.5)


@dataclass(frozen=True)
class PickedEdge:
    """One piece of an edge, its name, and the two faces beside it."""

    name: str
    edge: Any
    sides: tuple[Any, Any]
    labels: tuple[str, str]

    def edge_reversed_in(self, side: int) -> bool:
        """Whether the face's boundary runs against the edge's curve, seen with the outward normal up."""
        return any(
            e.IsSame(self.edge) and e.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
            for e in oriented_edges(self.sides[side])
        )


def oriented_edges(face: Any) -> list[Any]:
    """The boundary edges with the orientation that they have in the face."""
    out, explorer = [], TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        out.append(TopoDS.Edge(explorer.Current()))
        explorer.Next()
    return out


def picked_edges(body: Body, pick: ResolvedEdges) -> list[PickedEdge]:
    """All edges that are meant. Raises BuildError, with candidates, when one is gone or ambiguous."""
    by_piece = {Key(p): e for e in edges_of(body) for p in e.pieces}
    wanted: dict[Key, NamedEdge] = {}
    for name in pick.edges:
        for piece in named_edges(body, name):
            wanted[Key(piece)] = by_piece[Key(piece)]
    for name in pick.faces:
        found = body.find(name)
        if not found:
            raise BuildError(
                f"the face {name} is gone", hint="pick it again", missing=name, candidates=tuple(sorted(body.by_atom))
            )
        around = {Key(e) for parts in found.values() for f in parts for e in edges(f)}
        wanted |= {k: e for k, e in by_piece.items() if k in around}
    for step in pick.steps:
        head = f"{step}/"
        made = {k: e for k, e in by_piece.items() if any(a.startswith(head) for f in e.faces for a in f.split("+"))}
        if not made:
            raise BuildError(f"step {step} made no edge of this body", hint="another step, or pick the edges")
        wanted |= made
    out = _with_sides(body, wanted)
    if pick.faces or pick.steps:
        named = {Key(p) for name in pick.edges for p in named_edges(body, name)}
        out = [p for p in out if Key(p.edge) in named or abs(bend(p)) > SMOOTH]
    if pick.rule:
        taken = {Key(p.edge) for p in out}
        rest = _with_sides(body, {k: e for k, e in by_piece.items() if k not in taken})
        named = {Key(p) for name in pick.named for p in _if_there(body, name)}
        out += [p for p in rest if Key(p.edge) not in named and _fits(p, pick.rule) and not _of_thread(p)]
    # a name that fits nothing spares nothing: it is an error, not a wish
    spared = {Key(p) for name in pick.but for p in named_edges(body, name)}
    out = [p for p in out if Key(p.edge) not in spared]
    if not out:
        raise BuildError("no edge is left to break", hint="another rule, or pick edges in the solid")
    thread = next((p for p in out if _of_thread(p)), None)
    if thread is not None:
        # the kernel does not survive rounds between flanks that wind about their axis
        raise BuildError(f"the edge {thread.name} is a thread's", rule="a thread has the rounds of its form",
                         hint="leave it out")  # fmt: skip
    return out


def _of_thread(p: PickedEdge) -> bool:
    """Whether both faces beside an edge are flanks, crest or root of a real thread."""
    return all("/ring.helix." in label for label in p.labels)


def _if_there(body: Body, name: str) -> list[Any]:
    try:
        return named_edges(body, name)
    except BuildError:
        return []


def _with_sides(body: Body, wanted: dict[Key, NamedEdge]) -> list[PickedEdge]:
    beside: dict[Key, list[tuple[Any, str]]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        for edge in edges(face):
            if Key(edge) in wanted:
                beside.setdefault(Key(edge), []).append((face, label))
    out = []
    for key, e in wanted.items():
        (f, a), (g, b) = beside[key]
        # in the order of the edge's name
        if a != e.faces[0]:
            (f, a), (g, b) = (g, b), (f, a)
        out.append(PickedEdge(e.name, key.shape, (f, g), (a, b)))
    return out


def _fits(p: PickedEdge, rule: str) -> bool:
    turn = bend(p)
    if abs(turn) <= SMOOTH:
        return False
    if rule == "all others":
        return True
    if rule.startswith("upright") and not _upright(p.edge):
        return False
    return turn > 0 if rule.endswith("outside") else turn < 0


def _upright(edge: Any) -> bool:
    curve = BRepAdaptor_Curve(edge)
    return curve.GetType() == GeomAbs_CurveType.GeomAbs_Line and abs(abs(curve.Line().Direction().Z()) - 1) < ANGULAR


def bend(p: PickedEdge) -> float:
    """The angle between the outward normals at the edge's middle: positive where it stands out, rad."""
    curve = BRepAdaptor_Curve(p.edge)
    at, along = gp_Pnt(), gp_Vec()
    curve.D1((curve.FirstParameter() + curve.LastParameter()) / 2, at, along)
    n, m = (_normal(f, at) for f in p.sides)
    angle = n.Angle(m)
    # a step along the first face, away from the edge, goes below the second where the edge stands out
    way = n.Crossed(along)
    if p.edge_reversed_in(0):
        way.Reverse()
    return angle if way.Dot(m) < 0 else -angle


def _normal(face: Any, at: gp_Pnt) -> gp_Vec:
    surface = BRep_Tool.Surface_s(face)
    found = GeomAPI_ProjectPointOnSurf(at, surface)
    u, v = found.LowerDistanceParameters()
    n = gp_Vec(BRepLProp_SLProps(BRepAdaptor_Surface(face), u, v, 1, ROUNDING).Normal())
    if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
        n.Reverse()
    return n
