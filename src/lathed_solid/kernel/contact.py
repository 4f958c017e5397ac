"""How two placed solids stand to each other: what they have in common, and how near they come.

Boxes are looked at first. A common volume is taken by the kernel's boolean and integrated exactly; what is thinner than
``SKIN`` over the faces that touch is contact. Two threads that are screwed into each other are never cut with one
another (their flanks coincide): their radii are compared along rays (``thread_contact``).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BOPAlgo import BOPAlgo_BOP, BOPAlgo_Operation
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.properties import adaptive_volume, quick_volume
from lathed_solid.kernel.topology import box, faces
from lathed_solid.kernel.vectors import Triple

#: a common volume over the area of the smaller solid's box that is thinner than this is contact, mm
SKIN = 1e-6
#: boxes that come no nearer than this do not meet, mm
NEAR = 1e-7
#: a sleeve is so much wider than its thread, so that no faces coincide, mm
WIDER = 1e-3
#: common volumes are integrated to this share
EXACT = 1e-9


@dataclass(frozen=True)
class Common:
    """What two solids have in common: mm3, its middle, and its ``shape``."""

    volume: float
    middle: Triple
    shape: Any


def placed(shape: Any, matrix: Any) -> Any:
    """The shape moved by a rigid motion (4, 4); its geometry is shared."""
    motion = gp_Trsf()
    motion.SetValues(*(float(matrix[i][j]) for i in range(3) for j in range(4)))
    return shape.Located(TopLoc_Location(motion))


def corner_box(shape: Any) -> Any:
    """The eight corners (8, 3) of a shape's box in its own frame, mm."""
    low, high = box(shape)
    return np.array([[(low, high)[(k >> i) & 1][i] for i in range(3)] for k in range(8)])


def room_of(corners: Any, matrix: Any) -> Any:
    """Least and greatest corner (2, 3) of a box that was placed by a matrix (4, 4)."""
    moved = corners @ np.asarray(matrix)[:3, :3].T + np.asarray(matrix)[:3, 3]
    return np.array([moved.min(axis=0), moved.max(axis=0)])


def meeting(rooms: Mapping[str, Any], slack: float = -NEAR) -> Iterator[tuple[str, str]]:
    """Pairs whose boxes meet, ``slack`` mm apart at most; swept along x, so that far ones are never compared."""
    names = sorted(rooms, key=lambda n: rooms[n][0][0])
    open_: list[str] = []
    for name in names:
        low, high = rooms[name]
        open_ = [o for o in open_ if rooms[o][1][0] + slack > low[0]]
        for other in open_:
            if (rooms[other][1] + slack > low).all() and (high + slack > rooms[other][0]).all():
                yield other, name
        open_.append(name)


@dataclass(frozen=True, slots=True)
class Sleeve:
    """Where a thread drawn as a symbol may go into its hole: between two radii, from one end to the other, mm."""

    origin: Triple
    direction: Triple
    inner: float
    outer: float
    low: float
    high: float


def common(a: Any, b: Any, but: Sleeve | None = None) -> Common | None:
    """What two placed solids have in common, ``but`` what lies in a sleeve; None where they only touch, or not even
    that. Raises MeasureError when the kernel cannot tell.
    """
    shape = _combined(a, b, BOPAlgo_Operation.BOPAlgo_COMMON)
    if but is not None and faces(shape):
        shape = _combined(shape, _sleeve(but), BOPAlgo_Operation.BOPAlgo_CUT)
    if not faces(shape) or abs(quick_volume(shape)) < SKIN**3:
        return None
    volume = adaptive_volume(shape, EXACT)
    low, high = box(shape)
    spans = sorted(h - k for k, h in zip(low, high, strict=True))
    if volume <= SKIN * spans[1] * spans[2]:
        return None
    middle = tuple((k + h) / 2 for k, h in zip(low, high, strict=True))
    return Common(volume, middle, shape)  # type: ignore[arg-type]


def _combined(a: Any, b: Any, how: Any) -> Any:
    operation = BOPAlgo_BOP()
    operation.AddArgument(a)
    operation.AddTool(b)
    operation.SetOperation(how)
    operation.Perform()
    if operation.HasErrors():
        raise MeasureError("the kernel cannot tell what these two have in common")
    return operation.Shape()


def _sleeve(s: Sleeve) -> Any:
    foot = gp_Pnt(*(o + d * (s.low - WIDER) for o, d in zip(s.origin, s.direction, strict=True)))
    frame, length = gp_Ax2(foot, gp_Dir(*s.direction)), s.high - s.low + 2 * WIDER
    outer, inner = (BRepPrimAPI_MakeCylinder(frame, r, length).Solid() for r in (s.outer + WIDER, s.inner - WIDER))
    return _combined(outer, inner, BOPAlgo_Operation.BOPAlgo_CUT)


def clearance(a: Any, b: Any) -> tuple[float, Triple, Triple]:
    """The least distance (mm) between two placed solids, and the places where; zero where they touch or overlap. Raises
    MeasureError when the kernel finds none.
    """
    found = BRepExtrema_DistShapeShape(a, b)
    if not found.IsDone() or not found.NbSolution():
        raise MeasureError("the kernel finds no distance between these two")
    p, q = found.PointOnShape1(1), found.PointOnShape2(1)
    return float(found.Value()), (p.X(), p.Y(), p.Z()), (q.X(), q.Y(), q.Z())
