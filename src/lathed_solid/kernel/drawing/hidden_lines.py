"""A side of a solid by the kernel's exact hidden-line removal: lines and arcs as what they are, other curves as runs.

Where a body has free faces (real threads, blends) the exact way takes minutes; those are drawn by their triangles.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from functools import partial
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepLib import BRepLib
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.circles import centre as centre_of
from lathed_solid.kernel.drawing.figures import Arc, Curve, Place, Run
from lathed_solid.kernel.drawing.merging import tidied
from lathed_solid.kernel.sides import FINE, TURN, lines_of
from lathed_solid.kernel.topology import EDGE, faces, sub_shapes
from lathed_solid.kernel.triangles import finely
from lathed_solid.kernel.vectors import Triple
from lathed_solid.kernel.witness import is_free
from lathed_solid.quantity.tolerances import ANGULAR

#: free faces that are still drawn exactly
FREE = 8
#: chords of a free curve; farther off its chord than this it is bent, mm
CHORDS, BENT = 24, 1e-4

Lines = tuple[tuple[Curve, ...], tuple[Curve, ...]]


def hidden_lines(shape: Any) -> Callable[[Triple, Triple], Lines]:
    """Takes a direction towards the eye and the one to the right: what is seen of the shape, and what is hidden, in the
    plane square to the eye. What all directions share is done here, once.
    """
    if sum(map(is_free, faces(shape))) > FREE:
        return partial(_by_triangles, finely(shape, FINE, TURN))
    return partial(_exact, shape)


def _exact(shape: Any, eye: Triple, right: Triple) -> Lines:
    algorithm = HLRBRep_Algo()
    algorithm.Add(shape)
    algorithm.Projector(HLRAlgo_Projector(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*eye), gp_Dir(*right))))
    algorithm.Update()
    algorithm.Hide()
    found = HLRBRep_HLRToShape(algorithm)
    return tidied(
        list(_curves((found.VCompound(), found.OutLineVCompound()))),
        list(_curves((found.HCompound(), found.OutLineHCompound()))),
    )


def _by_triangles(shape: Any, eye: Triple, right: Triple) -> Lines:
    seen, hidden = lines_of(shape, eye, right)
    return tidied(*([Run(((a, b), (c, d))) for a, b, c, d in lines] for lines in (seen, hidden)))


def _curves(compounds: Iterable[Any]) -> Iterable[Curve]:
    for compound in compounds:
        if compound is None or compound.IsNull():
            continue
        BRepLib.BuildCurves3d_s(compound)
        for edge in sub_shapes(compound, EDGE):
            found = flat_curve(BRepAdaptor_Curve(TopoDS.Edge(edge)))
            if found is not None:
                yield found


def flat_curve(curve: Any) -> Curve | None:
    """A curve in the plane z = 0; None for one without a length."""
    first, last = curve.FirstParameter(), curve.LastParameter()
    kind = curve.GetType()
    if kind == GeomAbs_CurveType.GeomAbs_Line:
        return _straight(_xy(curve.Value(first)), _xy(curve.Value(last)))
    if kind == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        centre = _xy(circle.Location())
        if last - first > 2 * math.pi - ANGULAR:
            return Arc(centre, circle.Radius())
        ends = [_xy(curve.Value(t)) for t in (first, last)]
        if circle.Axis().Direction().Z() < 0:
            ends.reverse()
        start, end = (math.atan2(p[1] - centre[1], p[0] - centre[0]) for p in ends)
        return Arc(centre, circle.Radius(), start, end if end > start else end + 2 * math.pi)
    points = [_xy(curve.Value(first + (last - first) * k / CHORDS)) for k in range(CHORDS + 1)]
    # seen from its side a curve is a line, from its farthest place to the one farthest from that
    one = max(points, key=lambda p: math.dist(points[0], p))
    two = max(points, key=lambda p: math.dist(one, p))
    length = math.dist(one, two)
    if length < BENT:
        return None
    off = max(abs((two[0] - one[0]) * (y - one[1]) - (two[1] - one[1]) * (x - one[0])) for x, y in points) / length
    return _straight(one, two) if off < BENT else _round(points) or Run(tuple(points))


def _round(points: list[Place]) -> Arc | None:
    """The arc that places lie on, part of a turn."""
    x, y = (float(v) for v in centre_of(np.array(points)))
    radius = math.dist((x, y), points[0])
    if any(abs(math.dist((x, y), p) - radius) > BENT for p in points):
        return None
    (ax, ay), (bx, by), (cx, cy) = points[0], points[len(points) // 2], points[-1]
    left = (bx - ax) * (cy - ay) > (by - ay) * (cx - ax)
    ends = points if left else points[::-1]  # counter-clockwise
    start, end = (math.atan2(p[1] - y, p[0] - x) for p in (ends[0], ends[-1]))
    return Arc((x, y), radius, start, end if end > start else end + 2 * math.pi)


def _straight(a: Place, b: Place) -> Run | None:
    return Run((a, b)) if math.dist(a, b) > BENT else None


def _xy(p: Any) -> Place:
    return (p.X() + 0.0, p.Y() + 0.0)
