"""Faces leaned about where they meet a neutral plane."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepOffsetAPI import BRepOffsetAPI_DraftAngle
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Pln
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, swept
from lathed_solid.kernel.topology import Key, edges, faces

ROUND = (GeomAbs_CurveType.GeomAbs_Circle, GeomAbs_CurveType.GeomAbs_Ellipse)


def leaned(body: Body, sides: Iterable[Any], neutral: gp_Pln, angle: float, what: str) -> Body:
    """``sides`` leaned inwards along the neutral plane's normal by ``angle`` rad. Raises BuildError naming ``what``."""
    pull = neutral.Axis().Direction()
    maker = BRepOffsetAPI_DraftAngle(body.shape)
    rims = _rims_of_cones(body.shape)
    for side in sides:
        if _run_into(rims, side):
            raise BuildError(
                f"{what} cannot lean: a cone runs into it", hint="lean the faces before that step: move this one up"
            )
        maker.Add(TopoDS.Face(side), pull, angle, neutral, True)
        if not maker.AddDone():
            raise BuildError(f"{what} cannot lean", hint="flat and round faces with sharp edges can")
    maker.Build()
    if not maker.IsDone():
        raise BuildError(f"the angle does not fit {what}", hint="a smaller angle, or faces without rounded edges")
    shape = maker.Shape()
    check_solid(shape)
    # leaning faces changes no topology: they come back in the same order
    pairs = zip(faces(body.shape), faces(shape), strict=True)
    return swept(shape, {Key(new): body.names[Key(old)] for old, new in pairs if Key(old) in body.names})


def _rims_of_cones(solid: Any) -> set[Key]:
    cones = [
        f for f in faces(solid) if BRepAdaptor_Surface(TopoDS.Face(f)).GetType() == GeomAbs_SurfaceType.GeomAbs_Cone
    ]
    return {Key(edge) for cone in cones for edge in edges(cone)}


def _run_into(rims: set[Key], side: Any) -> bool:
    """Whether a cone ends in a face along its own straight lines or a hyperbola: the kernel does not survive that."""
    return any(Key(edge) in rims and BRepAdaptor_Curve(edge).GetType() not in ROUND for edge in edges(side))
