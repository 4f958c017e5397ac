"""What all edits share: reading and moving points of a draft, and keeping only what is still true."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

import numpy as np

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.equations import Layout, lower
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Constraint, Point, Sketch
from lathed_solid.sketch.orient import joined, oriented
from lathed_solid.sketch.solve import solved
from lathed_solid.sketch.system import System
from lathed_solid.sketch.watch import turned_over

Values = Mapping[str, float]
TRUE = 1e-6  # of the sketch's size


def place(draft: SketchBuilder, point: str) -> complex:
    """Position of a point."""
    e = draft.entities[point]
    assert isinstance(e, Point)
    return complex(e.x, e.y)


def put(draft: SketchBuilder, point: str, z: complex) -> None:
    """Move a point. Raises SketchError for outside geometry."""
    e = draft.entities[point]
    if e.source:
        raise SketchError(f"{point} is projected from outside geometry", hint="edit what it comes from")
    draft.entities[point] = e.model_copy(update={"x": z.real, "y": z.imag})


def new_point(draft: SketchBuilder, z: complex, **more: object) -> str:
    """A point at a place; its name."""
    return draft.point(z.real, z.imag, **more)


def together(draft: SketchBuilder, point: str) -> set[str]:
    """All points that are one with ``point`` by coincidence."""
    found, todo = {point}, [point]
    pairs = [c.of for c in draft.constraints.values() if c.kind == "coincident" and not c.reference]
    while todo:
        p = todo.pop()
        for pair in pairs:
            if p in pair:
                for q in pair:
                    if q not in found:
                        found.add(q)
                        todo.append(q)
    return found


def settle(draft: SketchBuilder, values: Values, touched: Iterable[str]) -> Sketch:
    """The finished sketch; constraints on ``touched`` entities that no longer hold become references, or go."""
    sketch = draft.done()
    names = set(touched)
    # a curve is touched when one of its points is, and a point when its curve is
    names |= {e.id for e in sketch.entities if names & set(e.points)}
    names |= {p for n in names if n in sketch.by_id for p in sketch.by_id[n].points}
    layout = Layout(sketch)
    shared = joined(sketch)
    suspects = [c for c in sketch.constraints if names & set(c.of) and not c.reference]

    def holds(c: Constraint) -> bool:
        system = System(sketch, level=0, layout=layout, made=lower(c, layout, shared))
        system.set_values({c.id: values[c.id]} if c.id in values else {})
        y = system.reduce(system.x0)
        system.set_weights(y)
        r, _ = system.evaluate(y)
        return bool(np.abs(r).max(initial=0.0) <= TRUE * system.size)

    now: dict[str, Constraint | None] = {}
    for c in suspects:
        if c.kind in DIMENSIONS:
            if c.id in values and not holds(c):  # else a dimension of this very edit
                now[c.id] = c.model_copy(update={"reference": True})
        elif not holds(c):
            # two curves that end in one point now touch there: their side is told another way than before
            again = oriented(sketch, c.model_copy(update={"side": 0}))
            now[c.id] = again if c.kind == "tangent" and holds(again) else None
    left = (now.get(c.id, c) for c in sketch.constraints)
    return Sketch(entities=sketch.entities, constraints=tuple(c for c in left if c is not None))


def whole(draft: SketchBuilder, values: Values) -> Sketch | None:
    """The draft with everything said of it kept; None when that cannot be.

    Raises SketchError when a dimension has no value: there is no figure to keep.
    """
    sketch = draft.done()
    unsaid = next((c for c in sketch.driving if c.id not in values), None)
    if unsaid is not None:
        raise SketchError("the sketch has no figure yet", where=unsaid.id, hint="mend its dimensions first")
    return solved(sketch, values)


def kept(draft: SketchBuilder, values: Values, touched: Iterable[str]) -> Sketch:
    """The finished sketch with everything said of it kept, where a figure has it all; else as ``settle`` makes it."""
    sketch = draft.done()
    if all(c.id in values for c in sketch.driving):
        figure = solved(sketch, values)
        if figure is not None and not turned_over(sketch, figure):
            return figure
    return settle(draft, values, touched)


def renamed(draft: SketchBuilder, old: str, new: str) -> None:
    """Constraints on ``old`` speak of ``new`` from now on."""
    for i, c in draft.constraints.items():
        if old in c.of:
            draft.constraints[i] = c.model_copy(update={"of": tuple(new if n == old else n for n in c.of)})
