"""The cut face of a section: area, centroid and second moments of area; and the volume by a mesh, a second way.

The mesh's volume by the divergence theorem, sum of det(a, b, c) / 6 over its triangles, at two deviations: inscribed
triangles miss a volume in proportion to the deviation, so the difference of the two tells what is still missing,

    V = V2 + (V2 - V1) / (r - 1),     error about |V2 - V1| / (r - 1)      with r the ratio of the deviations.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
from OCP.BRepGProp import BRepGProp
from OCP.gp import gp_Dir, gp_Pln, gp_Pnt
from OCP.GProp import GProp_GProps

from lathed_solid.kernel.figures import SectionFigures
from lathed_solid.kernel.topology import box
from lathed_solid.kernel.triangles import bare, mesh, triangles
from lathed_solid.quantity.tolerances import ROUNDING

Triple = tuple[float, float, float]
AXES = {"x": (1.0, 0.0, 0.0), "y": (0.0, 1.0, 0.0), "z": (0.0, 0.0, 1.0)}
#: deviation of the coarser mesh, share of the part's size, and how much finer the other is
COARSE, FINER = 1 / 2000, 4.0


def section_figures(shape: Any, axis: str, at: float) -> SectionFigures | None:
    """The figures of the cut square to an axis at a coordinate; None where the plane misses the solid."""
    way = AXES[axis]
    low, high = box(shape)
    reach = 2 * max(h - k for h, k in zip(high, low, strict=True)) + 1.0
    middle = [(h + k) / 2 for h, k in zip(high, low, strict=True)]
    middle["xyz".index(axis)] = at
    plane = gp_Pln(gp_Pnt(*middle), gp_Dir(*way))
    cut = BRepAlgoAPI_Common(shape, BRepBuilderAPI_MakeFace(plane, -reach, reach, -reach, reach).Face())
    if not cut.IsDone():
        return None
    g = GProp_GProps()
    BRepGProp.SurfaceProperties_s(cut.Shape(), g, ROUNDING, False)
    if g.Mass() <= 0:
        return None
    c = g.CentreOfMass()
    m = np.array([[g.MatrixOfInertia().Value(i, j) for j in (1, 2, 3)] for i in (1, 2, 3)])
    # of a flat figure the moments about axes in its plane are the two lesser eigenvalues
    least, next_ = sorted(float(v) for v in np.linalg.eigvalsh(m))[:2]
    near, far = box(cut.Shape())
    return SectionFigures(float(g.Mass()), (c.X(), c.Y(), c.Z()), (least, next_), near, far)


def mesh_volume(shape: Any) -> tuple[float, float]:
    """(volume, estimated error) in mm3 by two meshes."""
    low, high = box(shape)
    size = max(h - k for h, k in zip(high, low, strict=True))
    coarse, fine = (_mesh_once(shape, size * COARSE / k) for k in (1.0, FINER))
    left = (fine - coarse) / (FINER - 1)
    return fine + left, abs(left)


def _mesh_once(shape: Any, deviation: float) -> float:
    copy = bare(shape)  # its own triangles, not those that are shown
    # the angle may not bind, or finer deviations would change nothing on small rounds
    mesh(copy, deviation, 1.0)
    return sum(solid.volume for solid in triangles(copy))
