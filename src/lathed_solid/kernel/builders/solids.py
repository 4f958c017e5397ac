"""Small solids that several builders make."""

from __future__ import annotations

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism, BRepPrimAPI_MakeSphere
from OCP.GeomAbs import GeomAbs_SurfaceType
from OCP.gp import gp_Ax2, gp_Ax3, gp_Dir, gp_Pln, gp_Pnt, gp_Vec

from lathed_solid.kernel.builders.planar import PlanarFace
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.parts import Datum
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import Key, drained, faces


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


def round_bar(surface: Surface, radius: float, span: float, name: str) -> Body:
    """A bar of ``radius`` mm about a cylinder's axis, ``span`` to either side; or a ball about a sphere's centre.

    ``name`` is its round face.
    """
    axis = gp_Dir(*surface.direction)
    if surface.kind == "sphere":
        shape = BRepPrimAPI_MakeSphere(gp_Ax2(gp_Pnt(*surface.origin), axis), radius).Shape()
    else:
        foot = gp_Pnt(*surface.origin).Translated(gp_Vec(axis).Multiplied(-span))
        shape = BRepPrimAPI_MakeCylinder(gp_Ax2(foot, axis), radius, 2 * span).Shape()
    flat = GeomAbs_SurfaceType.GeomAbs_Plane
    return Body(
        shape,
        {Key(f): frozenset(["far" if BRepAdaptor_Surface(f).GetType() == flat else name]) for f in faces(shape)},
    )


def in_front(plane: Datum, span: float, name: str) -> Body:
    """The block in front of a plane, ``span`` (mm) deep and to every side; ``name`` is its face in the plane."""
    d = gp_Dir(*plane.direction)
    sheet = BRepBuilderAPI_MakeFace(gp_Pln(gp_Ax3(gp_Pnt(*plane.origin), d)), -span, span, -span, span).Face()
    return prism(PlanarFace(sheet, []), gp_Vec(d).Multiplied(span), "", name, "far")
