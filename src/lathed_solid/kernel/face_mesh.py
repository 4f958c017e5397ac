"""The triangles of a face as arrays beside the kernel's own, both changed together.

Corners keep their numbers when triangles are put in the places of others, so that the polygons of the face's edges,
which are told by those numbers, stay true.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray
from OCP.BRep import BRep_Tool
from OCP.gp import gp_Pnt, gp_Pnt2d
from OCP.Poly import Poly_Triangle
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.vectors import xyz

Ints = NDArray[np.intp]
Floats = NDArray[np.float64]


@dataclass
class FaceMesh:
    """``nodes`` (n, 3) mm; ``corners`` (m, 3) from 0; ``free``: nodes that no triangle has any more."""

    kernels: Any
    nodes: Floats
    corners: Ints
    free: list[int] = field(default_factory=list)

    def put_nodes(self, lost: Ints, places: Floats, surface: Floats, where: Any) -> Ints:
        """The numbers of new corners, those of ``lost`` ones first.

        ``places`` (k, 3) mm as the face lies, ``surface`` (k, 2) in its surface's own coordinates, ``where``: the
        face's location.
        """
        free, count = [*self.free, *lost.tolist()], len(self.nodes)
        short = max(len(places) - len(free), 0)
        numbers = np.array([*free[: len(places)], *range(count, count + short)], np.intp)
        if short:
            self.kernels.ResizeNodes(count + short, True)
            self.nodes = np.concatenate([self.nodes, np.zeros((short, 3))])
        self.free = free[len(places) :]
        self.nodes[numbers] = places
        back = where.Transformation().Inverted()
        for n, p, uv in zip(numbers.tolist(), places.tolist(), surface.tolist(), strict=True):
            self.kernels.SetNode(n + 1, gp_Pnt(*p).Transformed(back))
            if self.kernels.HasUVNodes():
                self.kernels.SetUVNode(n + 1, gp_Pnt2d(*uv))
        return numbers

    def replace(self, taken: Ints, new: Ints) -> None:
        """Triangles in the places of others; what is left over goes to the end, or the last ones into the gaps."""
        total, slots = len(self.corners), taken.tolist()
        count = total - len(slots) + len(new)
        rows = dict(zip(slots, new, strict=False))
        if len(new) > len(slots):
            rows |= dict(zip(range(total, count), new[len(slots) :], strict=True))
            self.kernels.ResizeTriangles(count, True)
            self.corners = np.concatenate([self.corners, np.zeros((count - total, 3), np.intp)])
        elif len(new) < len(slots):
            empty = [s for s in slots[len(new) :] if s < count]
            moved = [k for k in range(count, total) if k not in set(slots[len(new) :])]
            rows |= {s: rows.pop(k) if k in rows else self.corners[k] for s, k in zip(empty, moved, strict=True)}
        for k, row in rows.items():
            self.corners[k] = row
            self.kernels.SetTriangle(k + 1, Poly_Triangle(*(int(c) + 1 for c in row)))
        if count < total:
            self.corners = self.corners[:count].copy()
            self.kernels.ResizeTriangles(count, True)


def face_mesh(face: Any) -> FaceMesh | None:
    """The triangles of a face; None where it has none."""
    where = TopLoc_Location()
    t = BRep_Tool.Triangulation_s(face, where)
    if t is None:
        return None
    move = where.Transformation()
    places = [xyz(t.Node(i).Transformed(move)) for i in range(1, t.NbNodes() + 1)]
    nodes = np.array(places, float).reshape(-1, 3)
    corners = np.array([t.Triangle(i).Get() for i in range(1, t.NbTriangles() + 1)], np.intp).reshape(-1, 3) - 1
    return FaceMesh(t, nodes, corners)
