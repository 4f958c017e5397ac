"""One flat with the corners to be rounded over it: their sections, kept within what bounds it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, partial
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism, BRepPrimAPI_MakeRevol
from OCP.gp import gp_Ax1, gp_Dir, gp_Pln, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.builders.boolean import operate
from lathed_solid.kernel.builders.pick import PickedEdge, bend, oriented_edges
from lathed_solid.kernel.builders.rolling.corner import EVEN, Corner, ends_of, heading, oriented
from lathed_solid.kernel.builders.rolling.section import (
    Section,
    deep_section,
    rest_of_section,
    round_section,
    whole_section,
)
from lathed_solid.kernel.names import Body, Names
from lathed_solid.kernel.properties import quick_volume
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import SOLID, Key, drained, edges, faces, sub_shapes
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR


@dataclass(frozen=True)
class Way:
    """Lengths that do not show in the result, but may lead the kernel's booleans astray: where one goes wrong, another
    is tried. In radii: how far a section is carried on past open ends, and how far over the flat it is looked for; in
    depths of a round that bounds the flat: how deep below it its wall is looked for.
    """

    on: float
    over: float
    below: float


WAYS = (Way(4.0, 1.25, 1.02), Way(3.1, 1.4, 1.11), Way(5.3, 1.1, 1.05))


class Flat:
    """One flat with the corners over it, and how its outline runs."""

    def __init__(
        self, body: Body, face: Any, corners: Sequence[Corner], radius: float, prefix: str, way: Way = WAYS[0]
    ) -> None:
        self.body, self.face, self.corners, self.radius, self.prefix = body, face, corners, radius, prefix
        self.way = way
        self.normal = corners[0].normal
        self.outline = oriented_edges(face)

    def sections(self) -> list[tuple[Corner, Body]] | None:
        """What the rounds take or give; None where a slanted wall bounds one of them."""
        out = self._within(self._prism(), round_section)
        if out is None:
            return None
        bounds = [e for e in self.outline if not self._may_end_at(e, [s for _, s in out])]
        if not bounds:
            return out
        if self.corners[0].out or not all(self.smooth(e) for e in bounds):
            return None
        return self._over_rounds(bounds)

    def _within(self, room: Body, section: Section, *, far: bool = False) -> list[tuple[Corner, Body]] | None:
        """The sections along all corners, kept within a room; carried on as ``far`` as may be past open ends."""
        out: list[tuple[Corner, Body]] = []
        for c in self.corners:
            ends = ends_of(self.outline, c.edges, self.normal)
            tool = self._swept(c, [turn for _, turn in ends], section, far=far)
            for other, turn in ends:
                if turn < -EVEN:
                    beyond = self._beyond(other, c.out)
                    if beyond is None:
                        return None
                    tool = Body(*operate(BRepAlgoAPI_Cut(), tool, [beyond]))
            shape, names = operate(BRepAlgoAPI_Common(), tool, [room])
            out += [(c, s) for s in touching(Body(shape, names), c)]
        return out

    def _over_rounds(self, bounds: Sequence[Any]) -> list[tuple[Corner, Body]]:
        """A hollow corner where rounds of edges bound the flat: over what the flat was before they were made, which
        still stands below them, and down to them.
        """
        down = max(self._level - read_surface(self._beside(e)[0]).extent(self._up)[0] for e in bounds)
        low = self._level - down * self.way.below
        foot = gp_Pnt(*(low * n for n in self._up))
        sheet = BRepBuilderAPI_MakeFace(gp_Pln(foot, self.normal)).Face()
        found = faces(BRepAlgoAPI_Common(sheet, self.body.shape).Shape())
        up = gp_Vec(self.normal).Multiplied(down * self.way.below + self.way.over * self.radius)
        rooms = [forward(Body(BRepPrimAPI_MakePrism(f, up).Shape(), {})) for f in found]
        if not rooms:
            return []
        room = rooms[0] if len(rooms) == 1 else Body(operate(BRepAlgoAPI_Fuse(), rooms[0], rooms[1:])[0], {})
        over = self._within(room, partial(deep_section, down=down / self.radius), far=True) or []
        deep = [(c, Body(*operate(BRepAlgoAPI_Cut(), s, [self.body]))) for c, s in over]
        return [(c, piece) for c, s in deep for piece in touching(s, c)]

    def _beyond(self, edge: Any, out: bool) -> Body | None:
        """Where an edge around a corner of more than a half turn keeps another's round away: beyond its own round, or
        all that is beside its wall when it is not rounded. None for a slanted wall.
        """
        picked = next((c for c in self.corners if c.has(edge)), None)
        run = (edge,) if picked is None else picked.edges
        turns = [turn for _, turn in ends_of(self.outline, run, self.normal)]
        if picked is not None:
            return self._swept(picked, turns, rest_of_section)
        face, upright = self._beside(edge)
        if not upright:
            return None
        return self._swept(Corner((edge,), "", self.face, self.normal, read_surface(face), out), turns, whole_section)

    def _prism(self) -> Body:
        """All that is over the flat, its sides named as the walls that stand there."""
        reach = gp_Vec(self.normal).Multiplied(self.corners[0].up * self.way.over * self.radius)
        maker = BRepPrimAPI_MakePrism(self.face, reach)
        names: Names = {}
        for edge in edges(self.face):
            beside, upright = self._beside(edge)
            atoms = self.body.names.get(Key(beside), frozenset()) if upright else frozenset([f"{self.prefix}end"])
            for made in drained(maker.Generated(edge)):
                names[Key(made)] = atoms
        return forward(Body(maker.Shape(), names))

    def _beside(self, edge: Any) -> tuple[Any, bool]:
        """The face on the other side of an edge of the flat, and whether it is upright."""
        face = self._neighbours.get(Key(edge))
        if face is None:
            return self.face, True  # a seam
        s = read_surface(face)
        along = abs(dot(s.direction, self._up))
        return face, (s.kind == "plane" and along < ANGULAR) or (s.kind == "cylinder" and along > 1 - ANGULAR)

    @cached_property
    def _neighbours(self) -> dict[Key, Any]:
        """The face on the other side of each edge of the flat; a seam has none."""
        own = {Key(e) for e in edges(self.face)}
        out: dict[Key, Any] = {}
        for face in faces(self.body.shape):
            if not face.IsSame(self.face):
                out.update((key, face) for e in edges(face) if (key := Key(e)) in own and key not in out)
        return out

    def upright(self, edge: Any) -> bool:
        """Whether what is on the other side of an edge stands square to the flat."""
        return self._beside(edge)[1]

    def _may_end_at(self, edge: Any, sections: Sequence[Body]) -> bool:
        """Sections end at walls that are upright; those that stand out, where another round begins too."""
        if self.upright(edge) or any(c.has(edge) for c in self.corners):
            return True
        if self.corners[0].out and self.smooth(edge):
            return True
        return all(BRepExtrema_DistShapeShape(s.shape, edge).Value() > LINEAR for s in sections)

    def ends_well(self, c: Corner) -> bool:
        """Whether what bounds the flat at both ends of an edge is upright, or the flat runs smoothly on there."""
        return all(self.upright(e) or self.smooth(e) for e, _ in ends_of(self.outline, c.edges, self.normal))

    def goes_down(self, edge: Any) -> bool:
        """Whether the flat runs smoothly on over an edge, down into a round."""
        below = read_surface(self._beside(edge)[0]).extent(self._up)[0]
        return not self.upright(edge) and self.smooth(edge) and below < self._level - LINEAR

    @cached_property
    def _up(self) -> Triple:
        return (self.normal.X(), self.normal.Y(), self.normal.Z())

    @cached_property
    def _level(self) -> float:
        return dot(read_surface(self.face).origin, self._up)

    def smooth(self, edge: Any) -> bool:
        """Whether the flat runs smoothly on over an edge."""
        p = PickedEdge("", TopoDS.Edge(edge), (self.face, self._beside(edge)[0]), ("", ""))
        return abs(bend(p)) < EVEN

    def _swept(self, c: Corner, turns: Sequence[float], section: Section, *, far: bool = False) -> Body:
        """A section along an edge, carried on past ends where the outline turns; ``turns`` as the outline runs."""
        first = oriented(self.outline, c.edges[0])
        at, way = heading(first, False)
        size = sum(BRepAdaptor_Curve(e).LastParameter() - BRepAdaptor_Curve(e).FirstParameter() for e in c.edges)
        away = c.away(at)
        face, arc = section(at, away.Multiplied(self.radius), gp_Vec(c.normal).Multiplied(c.up * self.radius))
        motion = gp_Trsf()
        open_ends = [abs(t) > EVEN for t in turns]
        if c.wall.kind == "plane":
            way.Normalize()
            before, after = (self.way.on * self.radius if e else 0.0 for e in open_ends)
            motion.SetTranslation(way.Multiplied(-before))
            where = TopLoc_Location(motion)
            maker = BRepPrimAPI_MakePrism(face.Moved(where), way.Multiplied(size + before + after))
            made = drained(maker.Generated(arc.Moved(where))) if arc is not None else []
            return self._named(maker.Shape(), made, c)
        out = away.Reversed() if c.within else away
        axis = gp_Ax1(gp_Pnt(*c.wall.origin), gp_Dir(out.Crossed(way)))
        free = max(0.0, (2 * math.pi - size) / 2)
        on = free if far else min(free, self.way.on * self.radius / c.wall.radius)
        before, after = (on if e else 0.0 for e in open_ends)
        motion.SetRotation(axis, -before)
        where, turn = TopLoc_Location(motion), size + before + after
        whole = turn > 2 * math.pi - ANGULAR
        turned = face.Moved(where)
        maker = BRepPrimAPI_MakeRevol(turned, axis) if whole else BRepPrimAPI_MakeRevol(turned, axis, turn)
        made = []
        if arc is not None:
            edge = arc.Moved(where)
            made = [maker.Revol().Shape(edge)] if whole else drained(maker.Generated(edge))
        return self._named(maker.Shape(), made, c)

    def _named(self, shape: Any, made: Sequence[Any], c: Corner) -> Body:
        return forward(Body(shape, {Key(f): frozenset([f"{self.prefix}({c.name})"]) for f in made}))


def touching(body: Body, c: Corner) -> list[Body]:
    """The pieces of a body that touch the middle of an edge."""
    middles = []
    for edge in c.edges:
        curve = BRepAdaptor_Curve(edge)
        middles.append(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2))
    pieces = sub_shapes(body.shape, SOLID)
    return [Body(s, body.names) for s in pieces if any(apart(m, s) < LINEAR for m in middles)]


def apart(at: gp_Pnt, shape: Any) -> float:
    """How far a place is from a shape, mm."""
    return BRepExtrema_DistShapeShape(BRepBuilderAPI_MakeVertex(at).Vertex(), shape).Value()


def forward(body: Body) -> Body:
    """The body with its faces outwards."""
    return body if quick_volume(body.shape) > 0 else Body(body.shape.Reversed(), body.names)
