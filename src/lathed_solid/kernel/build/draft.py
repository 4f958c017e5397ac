"""Leaning faces about a neutral plane."""

from __future__ import annotations

from OCP.BRepOffsetAPI import BRepOffsetAPI_DraftAngle
from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.build.refs import plane_of
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts, gone
from lathed_solid.kernel.shapes import SOLID, Key, faces, sub_shapes
from lathed_solid.part.steps.draft import ResolvedDraft


def build_draft(parts: Parts, step: ResolvedDraft, number: int) -> Parts:
    """The part with its faces leaned. Raises BuildError."""
    on = parts.carrying(step.faces[0])
    body = parts.bodies[on]
    plane = plane_of(parts, step.neutral)
    pull = gp_Dir(*plane.direction)
    neutral = gp_Pln(gp_Ax3(gp_Pnt(*plane.origin), pull, gp_Dir(*plane.x)))
    maker = BRepOffsetAPI_DraftAngle(body.shape)
    for name in step.faces:
        found = body.find(name)
        if not found:
            raise gone(parts, name)
        for face in (f for group in found.values() for f in group):
            maker.Add(TopoDS.Face(face), pull, step.angle, neutral, True)
            if not maker.AddDone():
                raise BuildError(f"the face {name} cannot lean", hint="flat and round faces with sharp edges can")
    maker.Build()
    if not maker.IsDone():
        raise BuildError("the draft does not fit", hint="a smaller angle, or faces without rounded edges")
    shape = maker.Shape()
    check_solid(shape)
    # leaning faces changes no topology: they come back in the same order
    pairs = zip(faces(body.shape), faces(shape), strict=True)
    names = {Key(new): body.names[Key(old)] for old, new in pairs if Key(old) in body.names}
    return parts.with_body(on, Body(sub_shapes(shape, SOLID)[0], names))
