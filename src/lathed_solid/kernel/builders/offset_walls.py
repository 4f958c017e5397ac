"""Hollowing a solid: its faces moved inwards (or outwards) by a wall, some faces left open."""

from __future__ import annotations

from collections.abc import Sequence

from OCP.BRepOffset import BRepOffset_Mode
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakeThickSolid
from OCP.GeomAbs import GeomAbs_JoinType

from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names
from lathed_solid.kernel.topology import Key, drained, faces, shape_list
from lathed_solid.quantity.message_units import said
from lathed_solid.quantity.tolerances import RELATIVE

TOLERANCE = 1e-4


def walled(body: Body, wall: float, open_faces: Sequence[str], what: str) -> Body:
    """``wall`` mm within the faces (negative: outside them), open at the named faces; inner faces end in ``'``.

    Raises BuildError when the wall does not fit.
    """
    gone = [f for name in open_faces for f in body.by_atom.get(name, ())]
    maker = BRepOffsetAPI_MakeThickSolid()
    join = GeomAbs_JoinType.GeomAbs_Intersection
    try:
        maker.MakeThickSolidByJoin(
            body.shape, shape_list(gone), -wall, TOLERANCE, BRepOffset_Mode.BRepOffset_Skin, False, False, join
        )
        maker.Build()
        done = maker.IsDone()
    except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
        done = False
    if not done:
        raise BuildError(f"{what} of {said(abs(wall))} does not fit", hint="a thinner wall, or other open faces")
    shape = maker.Shape()
    present = {Key(f) for f in faces(shape)}
    names: Names = {}
    for key, atoms in body.names.items():
        for image in [*drained(maker.Modified(key.shape)), key.shape]:
            if Key(image) in present:
                names[Key(image)] = atoms
        for image in drained(maker.Generated(key.shape)):
            if Key(image) in present and Key(image) not in names:
                names[Key(image)] = frozenset(f"{a}'" for a in atoms)
    out = Body(check_solid(shape), names)
    if wall > 0 and out.size >= body.size * (1 - RELATIVE):
        raise BuildError(f"{what} of {said(abs(wall))} leaves nothing hollow", hint="a thinner wall")
    return out
