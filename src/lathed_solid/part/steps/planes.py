"""Where a sketch lies: a datum plane at an offset, or a flat face of the body; and its orientation.

A frame is an origin and two unit directions in space; the plane's normal is x cross y. On a face the origin is
the foot of the part's origin, and x the part's X (or Y, where the face stands square to X) laid into the face.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf
from lathed_solid.part.steps.resolved import Frame, ResolvedPlane, Triple
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.record import Record


class DatumPlane(Record):
    """One of the three planes through the part's origin, moved along its normal by ``offset``."""

    kind: Literal["datum"] = "datum"
    plane: Literal["XY", "XZ", "YZ"] = "XY"
    offset: Cell = "0"
    turn: Cell = "0"
    flip: bool = False


class FacePlane(Record):
    """A flat face of the body, by name."""

    kind: Literal["face"] = "face"
    face: str = Field(min_length=1, max_length=200)
    turn: Cell = "0"
    flip: bool = False


Plane = Annotated[DatumPlane | FacePlane, Field(discriminator="kind")]


_DATUM: dict[str, tuple[Triple, Triple]] = {
    "XY": ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "XZ": ((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "YZ": ((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
}


def resolve_plane(plane: Plane, evaluate: Resolver) -> ResolvedPlane:
    """Figures of a plane. Raises QuantityError."""
    turn = evaluate(plane.turn, "angle")
    if isinstance(plane, FacePlane):
        return ResolvedPlane(None, plane.face, turn, plane.flip)
    x, y = _DATUM[plane.plane]
    base = Frame((0.0, 0.0, 0.0), x, y)
    offset = evaluate(plane.offset, "length")
    n = base.normal
    moved = Frame((n[0] * offset, n[1] * offset, n[2] * offset), x, y)
    return ResolvedPlane(oriented(moved, turn, plane.flip), "", turn, plane.flip)


def face_frame(origin: Triple, normal: Triple, turn: float, flip: bool) -> Frame:
    """The frame on a flat face with this outward normal."""
    n = normal
    reach = sum(a * b for a, b in zip(origin, n, strict=True))
    toward: Triple = (1.0, 0.0, 0.0) if abs(n[0]) < 0.9 else (0.0, 1.0, 0.0)
    along = sum(a * b for a, b in zip(toward, n, strict=True))
    x = tuple(a - along * b for a, b in zip(toward, n, strict=True))
    size = math.sqrt(sum(a * a for a in x))
    x = tuple(a / size for a in x)
    y = (n[1] * x[2] - n[2] * x[1], n[2] * x[0] - n[0] * x[2], n[0] * x[1] - n[1] * x[0])
    return oriented(Frame((n[0] * reach, n[1] * reach, n[2] * reach), x, y), turn, flip)  # type: ignore[arg-type]


def oriented(frame: Frame, turn: float, flip: bool) -> Frame:
    """The frame turned in its plane by ``turn`` rad, then looked at from behind when ``flip``."""
    c, s = math.cos(turn), math.sin(turn)
    x: Triple = tuple(c * a + s * b for a, b in zip(frame.x, frame.y, strict=True))  # type: ignore[assignment]
    y: Triple = tuple(c * b - s * a for a, b in zip(frame.x, frame.y, strict=True))  # type: ignore[assignment]
    if flip:
        x = (-x[0], -x[1], -x[2])
    return Frame(frame.origin, x, y)


def plane_fields(plane: Plane) -> tuple[FieldOf, ...]:
    """The expressions of a plane."""
    out = [FieldOf("turn", plane.turn, "angle", None)]
    if isinstance(plane, DatumPlane):
        out.append(FieldOf("plane offset", plane.offset, "length", None))
    return tuple(out)
