"""Which faces differ between two solids: by name, then by what the boundary says of each."""

from __future__ import annotations

from typing import Any

from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps

from lathed_solid.kernel.figures import FaceChanges
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import one_surface
from lathed_solid.quantity.tolerances import RELATIVE_READ

#: relative to the face's size
SAME = 1e-7


def changed_faces(old: Body | None, new: Body | None) -> FaceChanges:
    """Faces by atom; an atom in pieces is taken as one."""
    a, b = (_facts(old) if old else {}), (_facts(new) if new else {})
    differ = sorted(n for n in a.keys() & b.keys() if not _same(a[n], b[n]))
    return FaceChanges(tuple(sorted(b.keys() - a.keys())), tuple(sorted(a.keys() - b.keys())), tuple(differ))


def _facts(body: Body) -> dict[str, tuple[Any, ...]]:
    """Kind, area, centre and radius of each named face."""
    out = {}
    for atom, parts in body.by_atom.items():
        total = GProp_GProps()
        for face in parts:
            one = GProp_GProps()
            BRepGProp.SurfaceProperties_s(face, one)
            total.Add(one)
        surface, c = one_surface(parts), total.CentreOfMass()
        out[atom] = (surface.kind, total.Mass(), surface.radius, c.X(), c.Y(), c.Z())
    return out


def _same(a: tuple[Any, ...], b: tuple[Any, ...]) -> bool:
    size = max(a[1] ** 0.5, 1e-3)
    return bool(
        a[0] == b[0]
        and abs(a[1] - b[1]) <= SAME * max(a[1], b[1])
        and all(abs(x - y) <= RELATIVE_READ * size for x, y in zip(a[2:], b[2:], strict=True))
    )
