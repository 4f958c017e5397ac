"""What a dimension measures on a figure: for references, for new dimensions, and for ways out of a fight."""

from __future__ import annotations

import math

import numpy as np

from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.lower import Layout, lower, oriented
from lathed_solid.sketch.model import Arc, Constraint, Line, Sketch
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.system import System


def measured(sketch: Sketch, c: Constraint, x: Array | None = None) -> float:
    """Value (mm or rad) that dimension ``c`` has on the figure, or at the unknowns ``x`` (N,).

    Raises SketchError when ``c`` is not a dimension.
    """
    if c.kind not in DIMENSIONS:
        raise SketchError(f"{c.kind} has no value to measure", where=c.id)
    layout = Layout(sketch)
    shared = {p.id: p.id for p in sketch.points}
    row = next(r for r in lower(oriented(sketch, c), layout, shared) if any(r.coefficient))
    system = System(sketch, level=0, layout=layout, made=[row])
    system.set_values({row.owner: 0.0})
    y = system.reduce(system.x0 if x is None else x)
    r, _ = system.evaluate(y)
    value = float(r[0]) / next(k for k in row.coefficient if k)
    return value % (2 * math.pi) if c.kind == "angle" else value


def turn_of(sketch: Sketch, arc: Arc) -> float:
    """Counter-clockwise turn of an arc from its start to its end, rad in (0, 2 pi]."""
    c = complex(*sketch.at(arc.centre))
    s, e = complex(*sketch.at(arc.start)) - c, complex(*sketch.at(arc.end)) - c
    turn = float(np.angle(e * s.conjugate())) % (2 * math.pi)
    return turn if turn > 1e-12 else 2 * math.pi


def length_of(sketch: Sketch, line: Line) -> float:
    """Length of a line, mm."""
    return math.dist(sketch.at(line.start), sketch.at(line.end))
