"""Holes: one step for any number of like places on one face, plain or counterbored.

On a flat face the places lie on a bolt circle about the part's axis (or on the axis); on a cylinder they are
radial, at a distance from the datum face. Depths count from the face where the drill enters: on a cylinder
from its nearest generator line.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe
from lathed_solid.ledger.probe import ProbeKind
from lathed_solid.part.steps.base import Cell, FieldOf, StepBase, face_step, renamed
from lathed_solid.quantity import Kind, QuantityError
from lathed_solid.turned import Evaluate

Count = Annotated[int, Field(ge=1, le=200)]
FaceName = Annotated[str, Field(min_length=1, max_length=200)]


class HoleError(LathedError, ValueError):
    """An impossible hole; names the field."""


class _Frozen(BaseModel):
    model_config = ConfigDict(frozen=True)


class OnCircle(_Frozen):
    """On a flat face: on a bolt circle about the part's axis, or on the axis when it is None."""

    kind: Literal["circle"] = "circle"
    bolt_circle: Cell | None = None
    count: Count = 1
    start_angle: Cell = "0"


class Radial(_Frozen):
    """On a cylinder: at a distance from a datum face, at an angle about the axis, equally spaced."""

    kind: Literal["radial"] = "radial"
    at: Cell
    datum: FaceName = "10/face.left"
    angle: Cell = "0"
    count: Count = 1


Places = Annotated[OnCircle | Radial, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class ResolvedHole:
    """All figures in mm and radians; ``depth`` None is through; ``reach`` is bolt-circle radius or ``at``."""

    radius: float
    depth: float | None
    to_tip: bool
    point: float | None
    cbore_radius: float | None
    cbore_depth: float | None
    face: str
    radial: bool
    reach: float
    datum: str
    angle: float
    count: int


class HoleStep(StepBase):
    """Cuts ``places.count`` like holes into the face named ``face``."""

    kind: Literal["hole"] = "hole"
    diameter: Cell
    depth: Cell | None = None
    depth_to: Literal["shoulder", "tip"] = "shoulder"
    point: Cell | None = "118°"
    cbore_diameter: Cell | None = None
    cbore_depth: Cell | None = None
    face: FaceName
    places: Places = OnCircle()

    def title(self) -> str:
        many = f"{self.places.count} holes" if self.places.count > 1 else "Hole"
        end = "through" if self.depth is None else "blind"
        return f"{many}, {end}" + (", counterbored" if self.cbore_diameter else "")

    def resolve(self, evaluate: Evaluate) -> ResolvedHole:
        """All figures. Raises HoleError naming the field."""

        def get(field: str, text: str, kind: Kind = "length") -> float:
            try:
                return evaluate(text, kind)
            except QuantityError as exc:
                raise HoleError(exc.what, where=field, received=text, hint=exc.hint) from None

        def above_zero(field: str, text: str) -> float:
            value = get(field, text)
            if not 0 < value <= 10_000:
                raise HoleError(f"{field} must be above zero and below 10 m", received=f"{value:g} mm")
            return value

        radius = above_zero("diameter", self.diameter) / 2
        depth = None if self.depth is None else above_zero("depth", self.depth)
        point = None if self.point is None or depth is None else get("point angle", self.point, "angle")
        if point is not None and not 0.1 < point < math.pi:
            raise HoleError("the point angle must be between 6° and 180°", received=self.point)
        cbore_radius, cbore_depth = self._counterbore(above_zero, radius, depth)
        places = self.places
        if isinstance(places, Radial):
            reach, angle, datum = get("place", places.at), get("angle", places.angle, "angle"), places.datum
        else:
            reach = 0.0 if places.bolt_circle is None else above_zero("bolt circle", places.bolt_circle) / 2
            angle, datum = get("start angle", places.start_angle, "angle"), ""
            if reach == 0 and places.count > 1:
                raise HoleError("several holes on the axis fall on one another", hint="give a bolt circle")
        if reach and not isinstance(places, Radial) and places.count > 1:
            pitch = 2 * reach * math.sin(math.pi / places.count)
            if pitch <= 2 * max(radius, cbore_radius or 0):
                raise HoleError(
                    "the holes run into each other on their bolt circle",
                    rule=f"their spacing is {pitch:.4g} mm",
                )
        return ResolvedHole(
            radius, depth, self.depth_to == "tip", point, cbore_radius, cbore_depth,
            self.face, isinstance(places, Radial), reach, datum, angle, places.count,
        )  # fmt: skip

    def _counterbore(
        self, above_zero: Callable[[str, str], float], radius: float, depth: float | None
    ) -> tuple[float | None, float | None]:
        if (self.cbore_diameter is None) != (self.cbore_depth is None):
            raise HoleError("a counterbore needs a diameter and a depth", hint="fill in both or neither")
        if self.cbore_diameter is None or self.cbore_depth is None:
            return None, None
        wide, deep = (
            above_zero("counterbore diameter", self.cbore_diameter) / 2,
            above_zero("counterbore depth", self.cbore_depth),
        )
        if wide <= radius:
            raise HoleError(
                f"the counterbore ⌀{2 * wide:g} is not wider than its hole ⌀{2 * radius:g}",
                where="counterbore diameter",
            )
        if depth is not None and deep >= depth:
            raise HoleError("the counterbore is as deep as the hole itself", where="counterbore depth")
        return wide, deep

    def stands_on(self) -> frozenset[int]:
        return face_step(self.face) | (face_step(self.places.datum) if isinstance(self.places, Radial) else frozenset())

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        out: dict[str, Any] = {"face": renamed(self.face, renumber)}
        if isinstance(self.places, Radial):
            out["places"] = self.places.model_copy(update={"datum": renamed(self.places.datum, renumber)})
        return out

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number

        def probe(kind: ProbeKind, *faces: str) -> Probe:
            return Probe(kind=kind, faces=faces)

        wall, cbore = f"{n}/h*.wall", f"{n}/h*.cbore"
        out = [FieldOf("hole diameter", self.diameter, "length", probe("diameter", wall))]
        if self.depth is not None:
            deepest = f"{n}/h*.tip" if self.depth_to == "tip" and self.point else wall
            out.append(FieldOf("hole depth", self.depth, "length", probe("depth", self.face, deepest)))
            if self.point is not None:
                out.append(FieldOf("point angle", self.point, "angle", probe("included", f"{n}/h*.tip")))
        if self.cbore_diameter is not None:
            out.append(FieldOf("counterbore diameter", self.cbore_diameter, "length", probe("diameter", cbore)))
        if self.cbore_depth is not None:
            out.append(FieldOf("counterbore depth", self.cbore_depth, "length", probe("depth", self.face, cbore)))
        places = self.places
        if isinstance(places, Radial):
            out.append(FieldOf("place", places.at, "length", probe("position", places.datum, wall)))
            out.append(FieldOf("angle", places.angle, "angle", None))
        else:
            if places.bolt_circle is not None:
                out.append(FieldOf("bolt circle", places.bolt_circle, "length", probe("bolt_circle", wall)))
            out.append(FieldOf("start angle", places.start_angle, "angle", None))
        return tuple(out)
