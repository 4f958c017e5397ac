"""Ribs: a slab on one side of a drawn line, cut off where it meets the body."""

from __future__ import annotations

import math

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.gp import gp_Vec

from lathed_solid.kernel.builders.boolean import apply, operate
from lathed_solid.kernel.builders.planar import Placed, frame_of, planar_face, shifted
from lathed_solid.kernel.builders.references import whole
from lathed_solid.kernel.builders.solids import prism
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.topology import SOLID, box, sub_shapes
from lathed_solid.part.steps.regions import XY, PieceFigure, RegionFigure
from lathed_solid.part.steps.rib import ResolvedRib
from lathed_solid.quantity.tolerances import LINEAR


def build_rib(parts: Parts, step: ResolvedRib, number: int) -> Parts:
    """The part with the rib. Raises BuildError."""
    body = whole(parts)
    low, high = box(body.shape)
    reach = 2 * math.dist(low, high)
    placed = Placed(frame_of(step.plane, parts))
    prefix = f"{number}/"
    slab = _slab(step, placed, reach, prefix)
    shape, names = operate(BRepAlgoAPI_Cut(), slab, [body])
    own = {k: v for k, v in names.items() if any(a.startswith(prefix) for a in v)}
    middle = len(step.corners) // 2
    a, b = step.corners[middle - 1], step.corners[middle]
    at = placed.exact(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2))
    vertex = BRepBuilderAPI_MakeVertex(at).Vertex()
    near = [s for s in sub_shapes(shape, SOLID) if BRepExtrema_DistShapeShape(s, vertex).Value() < LINEAR]
    if not near:
        raise BuildError("the rib's line lies within the body", hint="draw it outside the body")
    rib = Body(near[0], own)
    if rib.size > 0.5 * slab.size:
        raise BuildError("the rib grows past the body", hint="the other side, or a line whose ends meet the body")
    return apply(parts, number, "add", [rib])


def _slab(step: ResolvedRib, placed: Placed, reach: float, prefix: str) -> Body:
    corners = list(step.corners)
    first, last = _away(corners[1], corners[0], reach), _away(corners[-2], corners[-1], reach)
    line = [first, *corners[1:-1], last]
    side = -1.0 if step.flip else 1.0
    d = (last[0] - first[0], last[1] - first[1])
    size = math.hypot(*d)
    n = (-d[1] / size * side * reach, d[0] / size * side * reach)
    loop = [*line, (last[0] + n[0], last[1] + n[1]), (first[0] + n[0], first[1] + n[1])]
    entities = [*step.entities, "end.b", "far", "end.a"]
    pairs = [(loop[i], loop[(i + 1) % len(loop)], entities[i]) for i in range(len(loop))]
    if step.flip:
        pairs = [(b, a, e) for a, b, e in reversed(pairs)]
    pieces = tuple(
        PieceFigure(e, "line", a, ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), b) for a, b, e in pairs
    )  # fmt: skip
    face = planar_face(RegionFigure(pieces, (), 0.0, 0.0, 0.0), placed).moved(shifted(placed, -step.thickness / 2))
    return prism(face, gp_Vec(placed.normal).Multiplied(step.thickness), prefix, "start", "end")


def _away(a: XY, b: XY, by: float) -> XY:
    """Past b, coming from a, by so much."""
    d = (b[0] - a[0], b[1] - a[1])
    size = math.hypot(*d)
    return (b[0] + d[0] / size * by, b[1] + d[1] / size * by)
