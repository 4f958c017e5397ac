"""A body as triangles: closed, wound outward, no two corners in one place.

The kernel meshes every face of a solid by itself; the corners along a shared edge lie on the edge's one polygon, so
faces meet corner at corner, each with corners of its own. Corners nearer than a tolerance are made one; a triangle that
has lost a corner by that (at the tip of a cone, where one side has no length) has no area and is left out, which leaves
closed what was closed: its two other sides are one, run both ways by its neighbours. Solids that touch keep corners of
their own: joined they would be one body of no thickness where they touch.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from OCP.BRep import BRep_Tool
from OCP.BRepBuilderAPI import BRepBuilderAPI_Copy
from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.BRepTools import BRepTools
from OCP.IMeshTools import IMeshTools_MeshAlgoType, IMeshTools_Parameters
from OCP.Message import Message_ProgressRange
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.face_mesh import FaceMesh, face_mesh
from lathed_solid.kernel.patched_mesh import Change, carry, changes
from lathed_solid.kernel.topology import SOLID, Key, box, edges, faces, sub_shapes, together
from lathed_solid.quantity.tolerances import LINEAR

#: how far a facet may turn, rad; and that of bodies of more faces than ``MANY``: a small hole has 25 sides, not 36
FINE, COARSE, MANY = 0.35, 0.5, 150
#: an edit that replaced more faces than these is meshed as a whole
FEW = 40


@dataclass(frozen=True)
class Triangles:
    """``points`` (n, 3) mm; ``corners`` (m, 3) of each triangle, counter-clockwise from outside."""

    points: NDArray[np.float64]
    corners: NDArray[np.intp]

    @property
    def volume(self) -> float:
        """Enclosed, mm3, by the divergence theorem."""
        a, b, c = (self.points[self.corners[:, k]] for k in range(3))
        return float(np.einsum("ij,ij->", a, np.cross(b, c))) / 6


def mesh(shape: Any, deviation: float = 0.1, angle: float = FINE, *, quick: bool = False) -> None:
    """Triangles on ``shape`` within ``deviation`` mm and ``angle`` rad, in place; faces that have theirs keep them.

    ``quick``: by sweep hull, whose time on a face of many holes grows nearly as their number; on a plate of 200 a
    quarter of what inserting one corner after another takes (measured). On threads it makes longer triangles, which is
    nothing to the eye.
    """
    parameters = IMeshTools_Parameters()
    if quick:
        parameters.MeshAlgo = IMeshTools_MeshAlgoType.IMeshTools_MeshAlgoType_Delabella
    parameters.Deflection, parameters.Angle, parameters.InParallel = deviation, angle, True
    BRepMesh_IncrementalMesh(shape, parameters, Message_ProgressRange())


class Meshed:
    """Triangles for the eye of one body after another, which share most of their faces and edges.

    An edge keeps a polygon for the triangles of every face that ends at it. When an edit has replaced a face, the old
    one's triangles are taken away: otherwise the edges that went on into the new body would keep them for good, and the
    body's bytes would grow with every edit.
    """

    def __init__(self) -> None:
        self._faces: set[Key] = set()
        #: flat faces that were carried over, as arrays
        self._flats: dict[Key, FaceMesh] = {}

    def mesh(self, shape: Any) -> None:
        """Triangles on ``shape``, in place."""
        now = {Key(face) for face in faces(shape)}
        gone, fresh = self._faces - now, [k.shape for k in now - self._faces]
        angle = COARSE if len(now) > MANY else FINE
        carried = changes([k.shape for k in gone], fresh) if len(gone) <= FEW and len(fresh) <= FEW else []
        if carried:
            self._carry(carried, fresh, angle)
        for old in gone:
            self._flats.pop(old, None)
            BRepTools.Clean_s(old.shape)
        self._faces = now
        if any(BRep_Tool.Triangulation_s(k.shape, TopLoc_Location()) is None for k in now):
            mesh(shape, angle=angle, quick=True)

    def _carry(self, changed: Sequence[Change], fresh: Sequence[Any], angle: float) -> None:
        """What a flat face kept of the one before it; the walls beyond its new rims are meshed first."""
        flat = {Key(c.new) for c in changed}
        walls = [face for face in fresh if Key(face) not in flat]
        if walls:
            mesh(together(walls), angle=angle, quick=True)
        beyond = {Key(edge): face for face in walls for edge in edges(face)}
        for change in changed:
            had = self._flats.pop(Key(change.old), None) or face_mesh(change.old)
            if had is not None and carry(change, had, beyond):
                self._flats[Key(change.new)] = had


def bare(shape: Any) -> Any:
    """A copy without triangles: finer ones that are there already would stay, and what is found of them differ."""
    return BRepBuilderAPI_Copy(shape, True, False).Shape()


def finely(shape: Any, share: float, angle: float) -> Any:
    """A copy with triangles of its own, within a ``share`` of its size and ``angle`` rad."""
    low, high = box(shape)
    copy = bare(shape)
    mesh(copy, share * max(h - k for h, k in zip(high, low, strict=True)), angle)
    return copy


def triangles(shape: Any) -> tuple[Triangles, ...]:
    """The triangles of each solid of a meshed shape, its faces joined."""
    return tuple(joined(*_of_faces(solid)) for solid in sub_shapes(shape, SOLID) or [shape])


def _of_faces(shape: Any) -> tuple[NDArray[np.float64], NDArray[np.intp]]:
    points: list[NDArray[np.float64]] = [np.zeros((0, 3))]
    corners: list[NDArray[np.intp]] = [np.zeros((0, 3), np.intp)]
    count = 0
    for face in faces(shape):
        own = face_mesh(face)
        if own is None:
            continue
        points.append(own.nodes)
        turned = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        k = own.corners[:, ::-1] if turned != face.Location().Transformation().IsNegative() else own.corners
        corners.append(k + count)
        count += len(own.nodes)
    return np.concatenate(points), np.concatenate(corners)


def joined(points: NDArray[Any], corners: NDArray[np.intp], one: float = LINEAR) -> Triangles:
    """Corners nearer than ``one`` mm made one, and what has no area by that left out."""
    import scipy.sparse as sp
    from scipy.sparse import csgraph
    from scipy.spatial import cKDTree

    pairs = cKDTree(points).query_pairs(one, output_type="ndarray") if len(points) else np.zeros((0, 2), np.intp)
    near = sp.coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(points),) * 2)
    _, label = csgraph.connected_components(near, directed=False)
    _, first = np.unique(label, return_index=True)
    corners = label[corners]
    whole = (corners != np.roll(corners, 1, axis=1)).all(axis=1)
    return Triangles(points[first], corners[whole].astype(np.intp))
