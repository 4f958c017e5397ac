"""Volume, area, centre and inertia from the exact boundary, never from a mesh.

Curved faces trimmed by general curves are integrated adaptively to the relative
tolerance EPS (``quick_volume`` skips that); the plain
Gauss rule of the kernel is exact enough only on untrimmed patches.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve2d, BRepAdaptor_Surface
from OCP.BRepGProp import BRepGProp, BRepGProp_Domain, BRepGProp_Face, BRepGProp_Vinert
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Pnt
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.flat_figures import Moments, flat_moments
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.quantity.tolerances import ROUNDING

EPS = 1e-13
_ORIGIN = gp_Pnt(0, 0, 0)

Triple = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Properties:
    """mm3, mm2, mm; ``inertia``: 3 x 3 second moments of volume (mm5) about the centre, as rows."""

    volume: float
    area: float
    centre: Triple
    inertia: tuple[Triple, Triple, Triple]


def volume(shape: Any) -> float:
    """Volume in mm3; negative for an inside-out solid."""
    return adaptive_volume(shape, EPS)


def quick_volume(shape: Any) -> float:
    """Volume by the plain Gauss rule: exact on whole analytic faces, about 1e-6 on trimmed ones."""
    g = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, g)
    return float(g.Mass())


def adaptive_volume(shape: Any, eps: float = ROUNDING) -> float:
    """Volume integrated face by face to a relative tolerance, mm3."""
    g = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, g, eps, False, False)
    return float(g.Mass())


def face_area(face: Any, *, triangles: bool = False) -> float:
    """A face's area in mm2: of its exact boundary, or of the triangles that it was meshed into."""
    g = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, g, False, triangles)
    return float(g.Mass())


def face_share(face: Any) -> float:
    """A face's share of its solid's volume, mm3: the cone from the origin to it, signed by its orientation.

    The shares of all faces sum to the volume (the divergence theorem), so a face that a step leaves alone needs no new
    integration.
    """
    return float(BRepGProp_Vinert(BRepGProp_Face(face), BRepGProp_Domain(face), _ORIGIN).Mass())


def plainly_integrated(face: Any) -> bool:
    """Whether ``face_share`` is exact: the plain Gauss rule is, on a face that straight lines bound in its parameters
    (rims, seams, generators, the panels of a thread), and to 2e-10 of a solid on a flat one whatever bounds it.
    """
    if BRepAdaptor_Surface(face, False).GetType() == GeomAbs_SurfaceType.GeomAbs_Plane:
        return True
    for edge in edges(face):
        curve = BRepAdaptor_Curve2d(edge, face)
        kind = curve.GetType()
        straight = kind == GeomAbs_CurveType.GeomAbs_Line or (
            kind == GeomAbs_CurveType.GeomAbs_BSplineCurve and curve.NbPoles() == 2
        )
        if not straight:
            return False
    return True


def sign_of(face: Any) -> float:
    """-1 for a face that its solid sees from behind, else 1."""
    return -1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else 1.0


def exact_share(face: Any) -> float:
    """``face_share`` by the adaptive rule, mm3."""
    return float(BRepGProp_Vinert(BRepGProp_Face(face), BRepGProp_Domain(face), _ORIGIN, EPS).Mass())


#: what faces add to the figures of their solid, by face and orientation
FaceFigures = dict[tuple[Key, bool], Moments]


def properties(shape: Any, known: FaceFigures | None = None) -> Properties:
    """All figures of a solid, summed over its faces (the divergence theorem). ``known`` gives those of faces that an
    edit left alone, and takes those of all faces of this shape.
    """
    present: FaceFigures = {}
    volume_, area = 0.0, 0.0
    first, second = np.zeros(3), np.zeros((3, 3))
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_FACE)
    while explorer.More():
        face = TopoDS.Face(explorer.Current())
        explorer.Next()
        key = (Key(face), face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED)
        found = known.get(key) if known is not None else None
        if found is None:
            found = flat_moments(face) or _integrated(face)
        present[key] = found
        volume_, first, second, area = volume_ + found[0], first + found[1], second + found[2], area + found[3]
    if known is not None:
        known.clear()
        known.update(present)
    centre = first / volume_ if volume_ else np.zeros(3)
    about = second - volume_ * np.outer(centre, centre)
    inertia = np.trace(about) * np.eye(3) - about
    rows = [tuple(float(x) for x in row) for row in inertia]
    x, y, z = (float(c) for c in centre)
    return Properties(float(volume_), float(area), (x, y, z), (rows[0], rows[1], rows[2]))  # type: ignore[arg-type]


def _integrated(face: Any) -> Moments:
    """The same by the kernel's adaptive rule, for any face."""
    g = BRepGProp_Vinert(BRepGProp_Face(face), BRepGProp_Domain(face), _ORIGIN, EPS)
    s = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, s, EPS, False)
    mass, c, m = float(g.Mass()), g.CentreOfMass(), g.MatrixOfInertia()
    centre = np.array([c.X(), c.Y(), c.Z()])
    about = np.array([[m.Value(i, j) for j in (1, 2, 3)] for i in (1, 2, 3)])
    spread = np.trace(about) / 2 * np.eye(3) - about
    return mass, mass * centre, spread + mass * np.outer(centre, centre), float(s.Mass())
