"""A real thread as a ring: the other way, where more than the cylinder's face is concerned.

The stretch is cut away down to a cylinder a little below the root (beyond it, in a nut), and a threaded ring that fits
exactly takes its place; the two meet in a plain cylinder and flat ends only, so no boolean touches a helical face.
"""

from __future__ import annotations

import math
from typing import Any

from OCP.BOPAlgo import BOPAlgo_GlueEnum
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
from OCP.BRepLib import BRepLib
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
from OCP.Geom import Geom_CylindricalSurface, Geom_Line
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Ax2, gp_Ax3, gp_Circ, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d, gp_Trsf
from OCP.TopExp import TopExp
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Edge, TopoDS_Face, TopoDS_Wire

from lathed_solid.kernel.builders.boolean import cut, operate
from lathed_solid.kernel.builders.helicoid import FORWARD, REVERSED, TOLERANCE, UP, Stretch
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.topology import SOLID, Key, faces, sub_shapes


def with_ring(
    body: Body, stretch: Stretch, radius: float, wall: float, place: gp_Trsf, partly: bool, prefix: str
) -> Body:
    """``body`` with the stretch as a ring between ``wall`` and its cylinder's ``radius`` (mm).

    ``partly``: the thread ends abruptly on its cylinder. Raises BuildError when the kernel's result is not sound.
    """
    where, top = TopLoc_Location(place), stretch.ends[1]
    blank = _tube(min(wall, radius), max(wall, radius), top, where, f"{prefix}.floor")
    cleared = cut(body, [blank])
    solid, named = _closed_ring(stretch, wall, top, stretch.inwards)
    names = {Key(f.Moved(where)): frozenset([f"{prefix}.helix.{n}"]) for f, n in named}
    fuse = BRepAlgoAPI_Fuse()
    # they meet in shared faces only, nothing crosses; an abrupt end covers its face in part
    fuse.SetGlue(BOPAlgo_GlueEnum.BOPAlgo_GlueShift if partly else BOPAlgo_GlueEnum.BOPAlgo_GlueFull)
    shape, carried = operate(fuse, cleared, [Body(solid.Moved(where), names)])
    return Body(check_solid(shape), carried)


def _closed_ring(stretch: Stretch, wall: float, top: float, inside: bool) -> tuple[Any, list[tuple[Any, str]]]:
    """The stretch with a plain cylinder at ``wall`` and flat rings at the ends: one closed solid."""
    b = stretch.builder
    rims = []
    for z in (0.0, top):
        circle = gp_Circ(gp_Ax2(gp_Pnt(0, 0, z), UP, gp_Dir(1, 0, 0)), wall)
        rims.append(BRepBuilderAPI_MakeEdge(circle).Edge())
    wires = [BRepBuilderAPI_MakeWire(e).Wire() for e in rims]
    surface = Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, 0), UP, gp_Dir(1, 0, 0)), wall)
    face, wire, here = TopoDS_Face(), TopoDS_Wire(), TopLoc_Location()
    b.MakeFace(face, surface, TOLERANCE)
    b.MakeWire(wire)
    seam = TopoDS_Edge()
    b.MakeEdge(seam, Geom_Line(gp_Pnt(wall, 0, 0), UP), TOLERANCE)
    low, high = (TopExp.FirstVertex_s(e) for e in rims)
    b.Add(seam, low.Oriented(FORWARD))
    b.Add(seam, high.Oriented(REVERSED))
    b.Range(seam, 0.0, top)
    turn = 2 * math.pi
    right, left = (Geom2d_Line(gp_Pnt2d(u, 0.0), gp_Dir2d(0, 1)) for u in (turn, 0.0))
    b.UpdateEdge(seam, right, left, surface, here, TOLERANCE)
    for edge, z in zip(rims, (0.0, top), strict=True):
        b.UpdateEdge(edge, Geom2d_Line(gp_Pnt2d(0.0, z), gp_Dir2d(1, 0)), surface, here, TOLERANCE)
    for edge, way in ((rims[0], FORWARD), (seam, FORWARD), (rims[1], REVERSED), (seam, REVERSED)):
        b.Add(wire, edge.Oriented(way))
    wire.Closed(True)
    b.Add(face, wire)
    wall_face = face if inside else face.Reversed()
    caps = [(stretch.cap(False, wires[0]), "start"), (stretch.cap(True, wires[1]), "end")]
    solid, named = stretch.solid([*caps, (wall_face, "wall")])
    BRepLib.SameParameter_s(solid, TOLERANCE, False)
    return solid, named


def _tube(inner: float, outer: float, top: float, where: TopLoc_Location, name: str) -> Body:
    """What is cut away for the ring: from the ring's own wall to the cylinder's surface and a little past it."""
    # past the surface, on the open side only
    axes = gp_Ax2(gp_Pnt(0, 0, 0), UP, gp_Dir(1, 0, 0))
    whole = BRepPrimAPI_MakeCylinder(axes, outer, top).Shape()
    core = BRepPrimAPI_MakeCylinder(axes, inner, top).Shape()
    tube = sub_shapes(BRepAlgoAPI_Cut(whole, core).Shape(), SOLID)[0].Moved(where)
    # what is left of it where a thread ends abruptly against a shoulder
    return Body(tube, {Key(f): frozenset([name]) for f in faces(tube)})
