"""What dimensions measure on a figure: for references, for new dimensions, and for ways out of a fight."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Sequence

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING
from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.equations import Equation, Layout, lower
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Arc, Constraint, Sketch
from lathed_solid.sketch.orient import oriented
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.system import System


def measured(sketch: Sketch, c: Constraint, x: Array | None = None) -> float:
    """Value (mm or rad) that dimension ``c`` has on the figure, or at the unknowns ``x`` (N,).

    Raises SketchError when ``c`` is not a dimension.
    """
    return measured_all(sketch, [c], x)[0]


def measured_all(sketch: Sketch, dimensions: Sequence[Constraint], x: Array | None = None) -> list[float]:
    """Values of many dimensions in one evaluation; see ``measured``."""
    layout = Layout(sketch)
    made: list[Equation] = []
    for i, c in enumerate(dimensions):
        if c.kind not in DIMENSIONS:
            raise SketchError(f"{c.kind} has no value to measure", where=c.id)
        row = next(r for r in lower(oriented(sketch, c), layout, {}) if any(r.coefficient))
        made.append(dataclasses.replace(row, owner=str(i)))  # candidates may share an id
    system = System(sketch, level=0, layout=layout, made=made)
    system.set_values({row.owner: 0.0 for row in made})
    r, _ = system.evaluate(system.reduce(system.x0 if x is None else x))
    out = [0.0] * len(made)
    for owner, residual in zip(system.owners, r, strict=True):
        i = int(owner)
        value = float(residual) / next(k for k in made[i].coefficient if k)
        out[i] = value % (2 * math.pi) if dimensions[i].kind == "angle" else value
    return out


def turn_of(sketch: Sketch, arc: Arc) -> float:
    """Counter-clockwise turn of an arc from its start to its end, rad in (0, 2 pi]."""
    c = complex(*sketch.at(arc.centre))
    s, e = complex(*sketch.at(arc.start)) - c, complex(*sketch.at(arc.end)) - c
    turn = float(np.angle(e * s.conjugate())) % (2 * math.pi)
    return turn if turn > NOTHING else 2 * math.pi
