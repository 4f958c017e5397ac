"""What must hold after each step: a valid boundary, one solid, and a volume that makes sense.

Booleans and blends may report success with a wrong result, so the volume is compared with what the step
could have changed (kernel experience: a cut that removes nothing and is still valid).
"""

from __future__ import annotations

from collections.abc import Container
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.BRepTools import BRepTools

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import adaptive_volume, face_area, quick_volume
from lathed_solid.kernel.topology import SHELL, SOLID, Key, faces, sub_shapes, together
from lathed_solid.quantity.tolerances import RELATIVE, RELATIVE_READ


def check_solid(shape: Any, before: Container[Key] = ()) -> Any:
    """The solid of a result, or its solids together: a part may stand in several pieces while it grows.

    Faces that stand in ``before`` were checked when they were made; the rest are, and that the shells are closed.
    Raises BuildError.
    """
    solids = sub_shapes(shape, SOLID)
    if not solids:
        raise BuildError("nothing is left of the part", hint="smaller cuts")
    new = shape if not before else together(f for f in faces(shape) if Key(f) not in before)
    closed = not before or all(BRep_Tool.IsClosed_s(s) for s in sub_shapes(shape, SHELL))
    if not closed or not BRepCheck_Analyzer(new, True, True).IsValid():
        raise BuildError("the kernel's boundary check fails", hint="slightly different sizes")
    return solids[0] if len(solids) == 1 else together(solids)


def check_exact(got: float, expected: float, *, free: bool = False) -> None:
    """A volume against its closed form; the kernel integrates faces with ``free`` (spline) edges to about 1e-6 only."""
    if abs(got - expected) > (1e-5 if free else RELATIVE * 10) * abs(expected):
        raise BuildError(
            f"the solid's volume {got:.6g} mm³ differs from the closed form {expected:.6g} mm³",
            hint="report this step",
        )


def check_cut(before: float, after: float, tools: float) -> None:
    """A cut removes something, and no more than its tools hold."""
    removed = before - after
    if removed <= before * RELATIVE:
        raise BuildError("the cut removes nothing", hint="check the face, the place and the depth")
    if removed > tools * (1 + 1e-5) + before * RELATIVE_READ:
        raise BuildError("the cut removes more than its tools hold", hint="report this step")


def check_join(sizes: list[float], volume: float) -> None:
    """A join holds at least its largest part, and no more than all of them; volumes in mm3."""
    if volume < max(sizes) * (1 - RELATIVE_READ) or volume > sum(sizes) * (1 + 1e-5):
        raise BuildError("the joined volume does not fit its parts", hint="slightly different sizes")
    if len(sizes) > 1 and volume <= sizes[0] * (1 + RELATIVE):
        raise BuildError("the added material lies within the body", hint="check the side and the distance")


def check_sum(got: float, expected: float) -> None:
    """A volume by the quick rule against the sum of its pieces, within 1e-5."""
    if abs(got - expected) > 1e-5 * expected:
        raise BuildError(
            f"the solid's volume {got:.6g} mm³ is not the sum of its pieces {expected:.6g} mm³",
            hint="slightly different sizes",
        )


#: triangles for comparing areas: how far from the face, mm, and rad; how much an area may differ, from which area on
COARSE, ANGLE, AREA, LEAST = 0.02, 0.1, 0.03, 0.02


def check_integrals(body: Body, changed: float) -> None:
    """Faces that an operation left badly trimmed are valid, and integrated over a wrong domain: the mass would lie.

    Shares known, shares anew and the adaptive rule must agree, within 1e-5 of what was ``changed``, mm3. Raises
    BuildError.
    """
    anew = quick_volume(body.shape)
    if max(abs(anew - body.size), abs(anew - adaptive_volume(body.shape))) > 1e-5 * abs(changed):
        raise BuildError("the volume of the result cannot be told: two ways of integrating it differ",
                         hint="slightly different sizes")  # fmt: skip


def check_trims(body: Body) -> None:
    """The area of each face against that of its triangles. Raises BuildError."""
    BRepMesh_IncrementalMesh(body.shape, COARSE, False, ANGLE, True)
    for face in faces(body.shape):
        exact, triangles = face_area(face), face_area(face, triangles=True)
        if abs(exact - triangles) > AREA * max(exact, triangles) and max(exact, triangles) > LEAST:
            raise BuildError("the volume of the result cannot be told: a face is badly trimmed",
                             hint="slightly different sizes")  # fmt: skip
    BRepTools.Clean_s(body.shape)
