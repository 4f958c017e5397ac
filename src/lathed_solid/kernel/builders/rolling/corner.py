"""An edge as a corner between a flat and a wall that stands square to it, and how the flat's outline runs."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.gp import gp_Dir, gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopExp import TopExp

from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import VERTEX, Key, sub_shapes
from lathed_solid.kernel.vectors import dot, minus
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

#: an angle of the flat's outline within this of a half turn is none, rad
EVEN = 1e-3
#: an outline that turns by more runs back on itself: the flat tapers to nothing there, rad
CUSP = math.pi - 1e-3


@dataclass(frozen=True)
class Corner:
    """One edge to be rounded: over the ``flat`` with outward normal, beside the ``wall``; ``out``: it stands out.

    ``edges``: its pieces along one wall, in the order of the flat's outline.
    """

    edges: tuple[Any, ...]
    name: str
    flat: Any
    normal: gp_Dir
    wall: Surface
    out: bool

    @property
    def vertices(self) -> set[Key]:
        """The ends of all pieces."""
        return {Key(v) for e in self.edges for v in sub_shapes(e, VERTEX)}

    def has(self, edge: Any) -> bool:
        """Whether an edge is one of its pieces."""
        return any(e.IsSame(edge) for e in self.edges)

    @property
    def up(self) -> float:
        """Which way along the flat's normal the section goes."""
        return -1.0 if self.out else 1.0

    @property
    def within(self) -> bool:
        """Whether the flat lies within its round wall."""
        return hollow(self.wall) != self.out

    def away(self, at: gp_Pnt) -> gp_Vec:
        """The direction along the flat away from the wall, at a place on the edge."""
        if self.wall.kind == "plane":
            away = gp_Vec(*self.wall.direction)
            return away.Reversed() if self.out else away
        radial = gp_Vec(gp_Pnt(*self.wall.origin), at)
        axis = gp_Vec(self.normal)
        radial = radial.Subtracted(axis.Multiplied(radial.Dot(axis))).Normalized()
        return radial.Reversed() if self.within else radial


def in_runs(outline: Sequence[Any], corners: Sequence[Corner]) -> list[Corner]:
    """The corners of one flat, those that follow each other along one wall as one, in the order of its outline."""
    runs = list(corners)
    for _ in corners:
        for a, b in itertools.permutations(runs, 2):
            after, turn = ends_of(outline, a.edges, a.normal)[1]
            if b.edges[0].IsSame(after) and abs(turn) < EVEN and _one_wall(a, b):
                runs = [*(c for c in runs if c is not a and c is not b), replace(a, edges=(*a.edges, *b.edges))]
                break
        else:
            break
    return runs


def _one_wall(a: Corner, b: Corner) -> bool:
    """Whether two walls lie in one surface."""
    s, t = a.wall, b.wall
    if s.kind != t.kind or a.name != b.name or abs(abs(dot(s.direction, t.direction)) - 1) > ANGULAR:
        return False
    off = minus(s.origin, t.origin)
    along = dot(off, s.direction)
    beside = dot(off, off) - along * along
    return abs(along) < LINEAR if s.kind == "plane" else abs(s.radius - t.radius) < LINEAR and beside < LINEAR**2


def ends_of(outline: Sequence[Any], run: Sequence[Any], normal: gp_Dir) -> list[tuple[Any, float]]:
    """The edges before and after some that follow each other in the outline of a flat, and how far it turns there,
    rad, the flat to its left; a closed edge turns nowhere.
    """
    start, stop = oriented(outline, run[0]), oriented(outline, run[-1])
    first, last = TopExp.FirstVertex_s(start, True), TopExp.LastVertex_s(stop, True)
    if first.IsSame(last):
        return [(start, 0.0), (stop, 0.0)]
    before = next(e for e in outline if TopExp.LastVertex_s(e, True).IsSame(first))
    after = next(e for e in outline if TopExp.FirstVertex_s(e, True).IsSame(last))
    return [(before, turn_between(before, start, normal)), (after, turn_between(stop, after, normal))]


def oriented(outline: Sequence[Any], edge: Any) -> Any:
    """An edge as it runs in the outline."""
    return next(e for e in outline if e.IsSame(edge))


def turn_between(before: Any, after: Any, normal: gp_Dir) -> float:
    """How far an outline turns from one edge to the next, rad; a cusp is a half turn to the left."""
    turn = heading(before, True)[1].AngleWithRef(heading(after, False)[1], gp_Vec(normal))
    return abs(turn) if abs(turn) > CUSP else turn  # a cusp: which way the direction turns back is no matter


def heading(edge: Any, at_end: bool) -> tuple[gp_Pnt, gp_Vec]:
    """The start or the end of an oriented edge, and the direction in which it leaves or reaches it."""
    curve = BRepAdaptor_Curve(edge)
    back = edge.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
    at, along = gp_Pnt(), gp_Vec()
    curve.D1(curve.LastParameter() if at_end != back else curve.FirstParameter(), at, along)
    return at, along.Reversed() if back else along
