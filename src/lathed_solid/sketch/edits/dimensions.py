"""Dimensions of a figure changed as such: to the other side, and to stand on another thing."""

from __future__ import annotations

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS, accepts
from lathed_solid.sketch.edits.settle import Values, whole
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.orient import oriented

#: kinds whose side says on which hand of the one thing the other lies, or which way round it is turned
_TURNED = frozenset({"parallel", "collinear", "perpendicular"})


def has_other_side(c: Constraint) -> bool:
    """Whether what a constraint says could be meant of the other hand."""
    return bool(c.side) and (c.kind in DIMENSIONS or c.kind == "tangent" or c.kind in _TURNED)


def other_side(sketch: Sketch, values: Values, name: str) -> Sketch:
    """The figure with what ``name`` says on the other hand: left of a line, touching from within.

    Everything else is kept. Raises SketchError when it has no sides, or no figure has it there.
    """
    c = sketch.constraint(name)
    if c is None or not has_other_side(c):
        raise SketchError(f"{name} has no other side", hint="a distance from a line, an angle, a tangency has one")
    draft = SketchBuilder(sketch)
    draft.constraints[name] = c.model_copy(update={"side": -c.side})
    found = whole(draft, values)
    if found is None:
        raise SketchError(
            f"no figure has {KINDS[c.kind].words} {name} on the other side", rule="everything else is kept",
            hint="drop or loosen what holds it on this side",
        )  # fmt: skip
    return found


def footings(sketch: Sketch, name: str, on: str) -> list[str]:
    """The things that a dimension stands on now and that ``on`` could take the place of."""
    c, e = sketch.constraint(name), sketch.by_id.get(on)
    if c is None or e is None or c.kind not in DIMENSIONS or on in c.of:
        return []
    kinds = [sketch.by_id[n].kind for n in c.of]
    return [n for i, n in enumerate(c.of) if accepts(c.kind, (*kinds[:i], e.kind, *kinds[i + 1 :]))]


def refoot(sketch: Sketch, name: str, old: str, new: str) -> Sketch:
    """The dimension measured from ``new`` instead of ``old``; its value and the place of its text stay.

    Raises SketchError when it cannot stand on that.
    """
    c = sketch.constraint(name)
    if c is None or old not in footings(sketch, name, new):
        raise SketchError(f"{name} cannot stand on {new} instead of {old}", hint="a thing of the same kind")
    draft = SketchBuilder(sketch)
    moved = c.model_copy(update={"of": tuple(new if n == old else n for n in c.of), "side": 0})
    draft.constraints[name] = oriented(sketch, moved)
    return draft.done()
