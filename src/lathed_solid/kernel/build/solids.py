"""Small solids that several builders make."""

from __future__ import annotations

from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
from OCP.gp import gp_Vec

from lathed_solid.kernel.build.planar import PlanarFace
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shapes import Key, drained


def prism(face: PlanarFace, reach: gp_Vec, prefix: str, first: str, last: str) -> Body:
    """A face pushed along a vector; ``first`` and ``last`` name its ends, sides are named by their entities."""
    maker = BRepPrimAPI_MakePrism(face.shape, reach)
    names: Names = {Key(maker.FirstShape()): frozenset([prefix + first])}
    names[Key(maker.LastShape())] = frozenset([prefix + last])
    for entity, edge in face.edges:
        for made in drained(maker.Generated(edge)):
            names[Key(made)] = frozenset([prefix + entity])
    body = swept(maker.Shape(), names)
    return body if volume(body.shape) > 0 else Body(body.shape.Reversed(), body.names)
