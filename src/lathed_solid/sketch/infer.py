"""What a click while drawing is taken to mean: shown before it is taken, refused with a key, listed as inferred.

A place near a point is that point, near a line's middle its middle, near a curve on it; a line nearly level is
horizontal, nearly upright vertical. Nothing else is assumed.
"""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass

from lathed_solid.quantity.tolerances import NOTHING
from lathed_solid.sketch.geometry import Shape, Straight
from lathed_solid.sketch.model import Sketch

#: a line this near to an axis direction is taken to be along it, rad
NEARLY = math.radians(2.5)


@dataclass(frozen=True, slots=True)
class Snap:
    """A clicked place (mm), what it is tied to (constraint kind and entity), and the words for it."""

    place: complex
    kind: str = ""
    entity: str = ""

    @property
    def words(self) -> str:
        """What would be taken; empty when nothing is."""
        said = {"coincident": "on the point", "midpoint": "middle of", "on": "on the curve", "fixed": "at the origin"}
        return f"{said[self.kind]} {self.entity}".strip() if self.kind else ""


def snap(sketch: Sketch, shapes: dict[str, Shape], at: complex, reach: float) -> Snap:
    """The nearest point, middle or curve within ``reach`` mm of a place, in this order."""
    best: tuple[float, Snap] | None = None
    for p in sketch.points:
        d = abs(complex(p.x, p.y) - at)
        if d <= reach and (best is None or d < best[0]):
            best = (d, Snap(complex(p.x, p.y), "coincident", p.id))
    if best:
        return best[1]
    for name, s in shapes.items():
        if isinstance(s, Straight) and abs(s.at(0.5) - at) <= reach:
            return Snap(s.at(0.5), "midpoint", name)
    for name, s in shapes.items():
        x0, y0, x1, y1 = s.box
        if not (x0 - reach <= at.real <= x1 + reach and y0 - reach <= at.imag <= y1 + reach):
            continue
        place = s.at(s.find(at))
        if sketch.by_id[name].kind != "spline" and abs(place - at) <= reach and (
            best is None or abs(place - at) < best[0]
        ):  # fmt: skip
            best = (abs(place - at), Snap(place, "on", name))
    return best[1] if best else Snap(at)


def level(start: complex, end: complex) -> tuple[complex, str]:
    """``end`` moved level with or upright over ``start`` when it nearly is, and which ("" for neither)."""
    d = end - start
    if abs(d) < NOTHING:
        return end, ""
    angle = cmath.phase(d)
    if min(abs(angle), math.pi - abs(angle)) < NEARLY:
        return complex(end.real, start.imag), "horizontal"
    if abs(abs(angle) - math.pi / 2) < NEARLY:
        return complex(start.real, end.imag), "vertical"
    return end, ""
