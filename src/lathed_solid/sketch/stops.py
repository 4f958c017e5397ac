"""What a constraint would stop: of the movements that are free, those along which its residual changes.

A free movement is a column of X (N, m). With g the gradient of a constraint's row, g X = 0 says that it stops none of
them. Else one column, that with the largest share, ends, and the others are made free of it: X - x_j (g X) / (g x_j).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.diagnosis import Freedoms, freedoms
from lathed_solid.sketch.equations import Layout, lower
from lathed_solid.sketch.measure import measured_all
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.orient import joined
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.system import System


def movements(sketch: Sketch, values: Mapping[str, float]) -> tuple[Freedoms, Array]:
    """What is loose of a solved sketch, and every free movement as a column (N, m)."""
    x = np.array(Layout(sketch).start)
    loose = freedoms(sketch, values, x, most=10_000)
    return loose, np.array([m.x for m in loose.movements]).T if loose.movements else np.zeros((len(x), 0))


def stop(layout: Layout, c: Constraint, basis: Array) -> tuple[Array, bool]:
    """The basis without the movements that ``c`` stops, and whether it stops any."""
    if basis.shape[1] == 0:
        return basis, False
    system = System(layout.sketch, level=0, layout=layout, made=lower(c, layout, joined(layout.sketch)))
    system.set_values({c.id: 0.0})
    y = system.reduce(system.x0)
    system.set_weights(y)
    _, data = system.evaluate(y)
    gradient = system.jacobian(data).toarray()
    stopped = False
    for row in gradient:
        full = np.concatenate([row, np.zeros(len(system.held))])[system.index]
        full[layout.zero] = 0.0
        along = full @ basis
        j = int(np.abs(along).argmax()) if len(along) else -1
        if j < 0 or abs(along[j]) < RELATIVE_READ * max(float(np.linalg.norm(full)), NOTHING):
            continue
        basis = np.delete(basis - np.outer(basis[:, j], along / along[j]), j, axis=1)
        stopped = True
        if basis.shape[1] == 0:
            break
    return basis, stopped


def spare(sketch: Sketch, values: Mapping[str, float], names: Iterable[str]) -> frozenset[str]:
    """Those of the constraints ``names``, each in its turn, that stop nothing which the others leave free."""
    asked = dict.fromkeys(names)
    draft = SketchBuilder(sketch)
    tried = [draft.constraints.pop(n) for n in asked]
    base = draft.figure()
    unsaid = [c for c in base.driving if c.id not in values]
    if unsaid:  # sizes typed just now: as large as they are drawn
        drawn = measured_all(base, unsaid)
        values = {**values, **{c.id: size * c.sign for c, size in zip(unsaid, drawn, strict=True)}}
    layout, (_, basis) = Layout(base), movements(base, values)
    out = set()
    for c in tried:
        basis, stopped = stop(layout, c, basis)
        if not stopped:
            out.add(c.id)
    return frozenset(out)
