"""Threads as a drawing has them (ISO 6410-1): thin lines at the root, open circles at the ends."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge
from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pnt, gp_Vec

from lathed_solid.kernel.figures import DatumMark, Mark
from lathed_solid.kernel.vectors import Triple
from lathed_solid.quantity.tolerances import LINEAR


def datum_edges(mark: DatumMark) -> list[Any]:
    """The lines of a datum, from place to place."""
    return polyline(mark.line)


def polyline(line: Sequence[Triple]) -> list[Any]:
    """Edges from place to place; places that fall together make none."""
    pairs = ((gp_Pnt(*a), gp_Pnt(*b)) for a, b in itertools.pairwise(line))
    return [BRepBuilderAPI_MakeEdge(a, b).Edge() for a, b in pairs if a.Distance(b) > LINEAR]


def symbol(mark: Mark) -> list[Any]:
    """Edges of a drawn thread: three quarters of a circle at each end, and four lines along it (ISO 6410-1)."""
    o, way, r, length = gp_Pnt(*mark.origin), gp_Dir(*mark.way), mark.radius, mark.length
    if length <= LINEAR or r <= LINEAR:
        return []
    axes = gp_Ax2(o, way)
    out = []
    for z in (0.0, length):
        circle = gp_Circ(axes.Translated(gp_Vec(way).Multiplied(z)), r)
        out.append(BRepBuilderAPI_MakeEdge(circle, 0.0, 1.5 * math.pi).Edge())
    x, y = gp_Vec(axes.XDirection()), gp_Vec(axes.YDirection())
    for side in (x, y, x.Reversed(), y.Reversed()):
        start = o.Translated(side.Multiplied(r))
        out.append(BRepBuilderAPI_MakeEdge(start, start.Translated(gp_Vec(way).Multiplied(length))).Edge())
    return out
