"""The route's sketches as they are shown over the solid: every curve as places along it, in the part's frame."""

from __future__ import annotations

from collections.abc import Sequence

from lathed_solid.kernel.figures import SketchMark
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.steps import Frame
from lathed_solid.sketch.geometry import shape
from lathed_solid.sketch.model import Line, Sketch

#: places along a curve; so many sketches, the last ones, with so many curves each
PLACES, MOST, MOST_CURVES = 32, 20, 400


def sketch_marks(drawn: Sequence[tuple[int, Sketch, Frame]]) -> tuple[SketchMark, ...]:
    """Of each sketch (number, figure as solved, frame) what was drawn; construction is left out."""
    out = []
    for number, figure, frame in drawn[-MOST:]:
        curves = [c for c in figure.curves if not c.construction][:MOST_CURVES]
        lines = []
        for curve in curves:
            along, many = shape(figure, curve.id), 1 if isinstance(curve, Line) else PLACES
            lines.append(tuple(_space(frame, along.at(k / many)) for k in range(many + 1)))
        if lines:
            out.append(SketchMark(number, tuple(lines)))
    return tuple(out)


def _space(f: Frame, z: complex) -> Triple:
    x, y, z3 = (o + z.real * a + z.imag * b for o, a, b in zip(f.origin, f.x, f.y, strict=True))
    return x, y, z3
