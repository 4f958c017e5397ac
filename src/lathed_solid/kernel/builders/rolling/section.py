"""What is swept along an edge: the corner outside the ball's circle, and what is left of it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Pnt, gp_Vec

#: how high and how far what is not a round's section reaches, in radii
HIGH, FAR = 2.0, 8.0
#: from a place on the edge, the radius along the flat and the radius along the wall: a face, and its arc if it has one
Section = Callable[[gp_Pnt, gp_Vec, gp_Vec], tuple[Any, Any]]


def _arc(at: gp_Pnt, along: gp_Vec, over: gp_Vec) -> Any:
    """The ball's circle, from the flat to the wall."""
    middle = at.Translated(along.Added(over).Multiplied(1 - math.sqrt(0.5)))
    return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at.Translated(along), middle, at.Translated(over)).Value()).Edge()


def round_section(at: gp_Pnt, along: gp_Vec, over: gp_Vec) -> tuple[Any, Any]:
    """The corner outside the ball's circle."""
    return _bounded([at.Translated(over), at, at.Translated(along)], _arc(at, along, over))


def deep_section(at: gp_Pnt, along: gp_Vec, over: gp_Vec, down: float) -> tuple[Any, Any]:
    """The same and what is below it, ``down`` radii deep."""
    deep = over.Multiplied(-down)
    points = [at.Translated(over), at.Translated(deep), at.Translated(deep).Translated(along), at.Translated(along)]
    return _bounded(points, _arc(at, along, over))


def rest_of_section(at: gp_Pnt, along: gp_Vec, over: gp_Vec) -> tuple[Any, Any]:
    """What is beside the wall, as far as sections reach, but for that corner."""
    high, far = at.Translated(over.Multiplied(HIGH)), along.Multiplied(FAR)
    points = [at.Translated(over), high, high.Translated(far), at.Translated(far), at.Translated(along)]
    return _bounded(points, _arc(at, along, over))


def whole_section(at: gp_Pnt, along: gp_Vec, over: gp_Vec) -> tuple[Any, Any]:
    """All that is beside the wall, as far as sections reach."""
    high, far = over.Multiplied(HIGH), along.Multiplied(FAR)
    return _bounded([at, at.Translated(high), at.Translated(high).Translated(far), at.Translated(far), at], None)


def _bounded(points: Sequence[gp_Pnt], arc: Any) -> tuple[Any, Any]:
    """The face within straight edges between the points and the arc that closes them, and the arc as it lies in it."""
    wire = BRepBuilderAPI_MakeWire()
    for a, b in itertools.pairwise(points):
        wire.Add(BRepBuilderAPI_MakeEdge(a, b).Edge())
    if arc is not None:
        wire.Add(arc)
        arc = wire.Edge()
    return BRepBuilderAPI_MakeFace(wire.Wire(), True).Face(), arc
