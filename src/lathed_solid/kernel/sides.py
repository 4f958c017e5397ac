"""The six sides of a solid, or how it is seen aslant, as lines: sharp edges and outlines, seen and hidden, by the
kernel's hidden-line removal.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_PolyAlgo, HLRBRep_PolyHLRToShape
from OCP.TopExp import TopExp
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.figures import FlatSide
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.side_frames import SIDES
from lathed_solid.kernel.topology import EDGE, sub_shapes
from lathed_solid.kernel.triangles import finely
from lathed_solid.kernel.vectors import Triple, Ways

#: deviation of the triangles, share of the part's size; and rad
FINE, TURN = 1 / 2000, 0.1

Line = tuple[float, float, float, float]


def sides(body: Body, ways: Ways = ()) -> tuple[FlatSide, ...]:
    """Front, top, right, back, bottom, left; or how it is seen from each of ``ways`` of a pictorial sheet: as large as
    it is along the axis that is shortened least, hidden lines left out.
    """
    shape = finely(body.shape, FINE, TURN)
    if not ways:
        return tuple(FlatSide(name, *lines_of(shape, eye, right)) for name, eye, right in SIDES)
    out = []
    for eye, right in ways:
        drawn = 1 / max(math.sqrt(max(0.0, 1 - e * e)) for e in eye)
        seen = lines_of(shape, eye, right)[0]
        out.append(
            FlatSide("pictorial", tuple((a * drawn, b * drawn, c * drawn, d * drawn) for a, b, c, d in seen), ())
        )
    return tuple(out)


def lines_of(shape: Any, eye: Triple, right: Triple) -> tuple[tuple[Line, ...], tuple[Line, ...]]:
    """Lines that are seen along a direction, and those that are hidden, in the plane square to it; mm."""
    frame = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*eye), gp_Dir(*right))
    algorithm = HLRBRep_PolyAlgo()
    algorithm.Load(shape)
    algorithm.Projector(HLRAlgo_Projector(frame))
    algorithm.Update()
    found = HLRBRep_PolyHLRToShape()
    found.Update(algorithm)
    return (
        _flat((found.VCompound(), found.OutLineVCompound())),
        _flat((found.HCompound(), found.OutLineHCompound())),
    )


def _flat(compounds: Sequence[Any]) -> tuple[Line, ...]:
    out = []
    for compound in compounds:
        if compound is None or compound.IsNull():
            continue
        for edge in sub_shapes(compound, EDGE):
            e = TopoDS.Edge(edge)
            a, b = (BRep_Tool.Pnt_s(v) for v in (TopExp.FirstVertex_s(e), TopExp.LastVertex_s(e)))
            out.append((a.X(), a.Y(), b.X(), b.Y()))
    return tuple(out)
