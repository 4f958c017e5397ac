"""A rib: a thin wall grown from a drawn line to the body, half its thickness to each side of the sketch."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.regions import XY
from lathed_solid.part.steps.resolved import ResolvedPlane
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.model import Line


@dataclass(frozen=True, slots=True)
class ResolvedRib:
    """``corners``: the drawn chain of lines in the sketch; the rib grows to their left, or right when ``flip``."""

    plane: ResolvedPlane
    corners: tuple[XY, ...]
    entities: tuple[str, ...]
    thickness: float
    flip: bool


class RibStep(StepBase):
    """A slab on one side of a drawn open line, out to the body, half its thickness to either side of the sketch."""

    STEPS: ClassVar[tuple[str, ...]] = ("sketch",)

    kind: Literal["rib"] = "rib"
    sketch: int = Field(ge=1, le=99_990)
    thickness: Cell = "5"
    flip: bool = False

    def title(self) -> str:
        return f"Rib on sketch {self.sketch}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        return (
            FieldOf("thickness", self.thickness, "length", Probe(kind="distance", faces=(f"{n}/start", f"{n}/end"))),
        )

    def resolve(self, evaluate: Resolver) -> ResolvedRib:
        """All figures. Raises StepError, SketchError."""
        found = evaluate.sketch(self.sketch)
        lines = [c for c in found.sketch.curves if isinstance(c, Line) and not c.construction]
        others = [c for c in found.sketch.curves if not isinstance(c, Line) and not c.construction]
        if not lines or others:
            raise StepError(f"sketch {self.sketch} must be a line, or a chain of lines", where="sketch")
        corners, names = _chain([(found.sketch.at(x.start), found.sketch.at(x.end), x.id) for x in lines])
        return ResolvedRib(
            found.plane, corners, names, Reader(evaluate).size("thickness", self.thickness), self.flip
        )  # fmt: skip


def _chain(pieces: list[tuple[XY, XY, str]]) -> tuple[tuple[XY, ...], tuple[str, ...]]:
    import math

    a, b, name = pieces.pop(0)
    corners, names = [a, b], [name]
    while pieces:
        for i, (p, q, name) in enumerate(pieces):
            for start, end in ((p, q), (q, p)):
                if math.dist(corners[-1], start) < LINEAR:
                    corners.append(end)
                    names.append(name)
                elif math.dist(corners[0], start) < LINEAR:
                    corners.insert(0, end)
                    names.insert(0, name)
                else:
                    continue
                break
            else:
                continue
            pieces.pop(i)
            break
        else:
            raise StepError("the lines do not join", where="sketch")
    return tuple(corners), tuple(names)
