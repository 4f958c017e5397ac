"""Outside geometry in a sketch: edges, corners, silhouettes, centrelines and sections of the body, taken as
construction and fixed where the body has them.

Each remembers the name of its edge. When the body changes, ``moved_outside`` tells which no longer lie on theirs, and
``follow`` takes the new places over, as one edit: nothing is changed behind one's back.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Circle, Entity, Sketch

SAME = 1e-6
#: kinds of edges that can be taken
TAKEN = ("point", "line", "circle", "arc")


#: what every sketch has without drawing it: the origin and the axes of its plane; lines of any length will do
AXES = (Edge("x axis", "line", ((0.0, 0.0), (10.0, 0.0))), Edge("y axis", "line", ((0.0, 0.0), (0.0, 10.0))))
_AXES = frozenset(e.name for e in AXES)
FRAME = (Edge("origin", "point", ((0.0, 0.0),)), *AXES)


def of_axis(e: Entity) -> bool:
    """Whether an entity is an axis of the frame, taken, or an end of it: as long as it happens to be."""
    return e.source in _AXES


def standing_for(entities: Iterable[Entity], edge: Edge) -> str | None:
    """The entity that this edge was taken as already."""
    return next((e.id for e in entities if e.source == edge.name and e.kind == edge.kind), None)


def take(sketch: Sketch, edge: Edge) -> Sketch:
    """The sketch with this edge as construction. Raises SketchError when it is there already, or is no plain curve."""
    if standing_for(sketch.entities, edge) is not None:
        raise SketchError("this edge is in the sketch already", received=edge.name)
    draft = SketchBuilder(sketch)
    lay(draft, edge)
    return draft.done()


def lay(draft: SketchBuilder, edge: Edge) -> str:
    """An edge into a draft, as construction; its name there. Raises SketchError when it is no plain curve."""
    if edge.kind not in TAKEN:
        raise SketchError("only straight and round edges can be taken", received=edge.kind)
    more: dict[str, Any] = {"construction": True, "source": edge.name}
    points = [draft.point(*p, **more) for p in edge.points]
    if edge.kind == "line":
        return draft.line(*points, **more)
    if edge.kind == "circle":
        return draft.circle(points[0], edge.radius, **more)
    return draft.arc(*points, **more) if edge.kind == "arc" else points[0]


def moved_outside(sketch: Sketch, edges: Sequence[Edge]) -> dict[str, Edge | None]:
    """Entities whose edge lies elsewhere now, with the edge; None when the edge is gone."""
    by_name = {e.name: e for e in (*FRAME, *edges)}
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
