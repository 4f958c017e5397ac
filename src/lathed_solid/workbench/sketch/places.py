"""Places that stand for things of a sketch, mm: where their dimensions are anchored."""

from __future__ import annotations

from lathed_solid.sketch.model import Constraint, Point, Sketch


def spot(sketch: Sketch, name: str) -> complex:
    """A place that stands for an entity."""
    e = sketch.by_id[name]
    if isinstance(e, Point):
        return complex(e.x, e.y)
    if e.kind in ("circle", "arc", "ellipse"):
        return complex(*sketch.at(e.points[0]))
    places = [complex(*sketch.at(p)) for p in e.points]
    return sum(places) / len(places)


def anchor(sketch: Sketch, c: Constraint) -> complex:
    """The middle of what a dimension measures."""
    return sum((spot(sketch, n) for n in c.of), 0j) / len(c.of)
