"""Outside geometry in a sketch: edges, corners, silhouettes, centrelines and sections of the body, taken as
construction and fixed where the body has them.

Each remembers the name of its edge. When the body changes, ``moved_outside`` tells which no longer lie on theirs, and
``follow`` takes the new places over, as one edit: nothing is changed behind one's back.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Circle, Sketch

SAME = 1e-6


def take(sketch: Sketch, edge: Edge) -> Sketch:
    """The sketch with this edge as construction. Raises SketchError when it is there already, or is no plain curve."""
    if any(e.source == edge.name for e in sketch.entities if (e.kind == "point") == (edge.kind == "point")):
        raise SketchError("this edge is in the sketch already", received=edge.name)
    if edge.kind not in ("point", "line", "circle", "arc"):
        raise SketchError("only straight and round edges can be taken", received=edge.kind)
    draft = SketchBuilder(sketch)
    more: dict[str, Any] = {"construction": True, "source": edge.name}
    points = [draft.point(*p, **more) for p in edge.points]
    if edge.kind == "line":
        draft.line(*points, **more)
    elif edge.kind == "circle":
        draft.circle(points[0], edge.radius, **more)
    elif edge.kind == "arc":
        draft.arc(*points, **more)
    return draft.done()


def moved_outside(sketch: Sketch, edges: Sequence[Edge]) -> dict[str, Edge | None]:
    """Entities whose edge lies elsewhere now, with the edge; None when the edge is gone."""
    by_name = {e.name: e for e in edges}
    out: dict[str, Edge | None] = {}
    of_curves = {p for e in sketch.curves for p in e.points}
    for e in (*sketch.curves, *(p for p in sketch.points if p.id not in of_curves)):
        if not e.source:
            continue
        edge = by_name.get(e.source)
        if edge is None or edge.kind != e.kind:
            out[e.id] = None
            continue
        at = [sketch.at(p) for p in e.points]
        away = any(math.dist(p, q) > SAME for p, q in zip(at, _aligned(at, edge), strict=True))
        if away or (isinstance(e, Circle) and abs(e.radius - edge.radius) > SAME):
            out[e.id] = edge
    return out


def _aligned(at: list[tuple[float, float]], edge: Edge) -> list[tuple[float, float]]:
    """The edge's points in the order that fits: a line may be read from either end."""
    points = list(edge.points)
    if edge.kind == "line" and math.dist(at[0], points[1]) + math.dist(at[1], points[0]) < math.dist(
        at[0], points[0]
    ) + math.dist(at[1], points[1]):
        points.reverse()
    return points


def follow(sketch: Sketch, edges: Sequence[Edge]) -> Sketch:
    """The sketch with all outside geometry where the body has it now. Raises SketchError when an edge is gone."""
    draft = SketchBuilder(sketch)
    for name, edge in moved_outside(sketch, edges).items():
        e = draft.entities[name]
        if edge is None:
            raise SketchError(f"the edge of {name} is gone", received=e.source, hint="remove it, or take another edge")
        at = [sketch.at(p) for p in e.points]
        for p, (x, y) in zip(e.points, _aligned(at, edge), strict=True):
            draft.entities[p] = draft.entities[p].model_copy(update={"x": x, "y": y})
        if isinstance(e, Circle):
            draft.entities[name] = e.model_copy(update={"radius": edge.radius})
    return draft.done()
