"""Move, rotate, scale, merge points, close gaps, remove, and new values for dimensions."""

from __future__ import annotations

import cmath
from collections.abc import Callable, Iterable

from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.edits.settle import Values, place, put, settle, together, whole
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import REACH, drawn, size_of
from lathed_solid.sketch.model import Arc, Circle, Ellipse, Line, Sketch, Spline


def _points_of(draft: SketchBuilder, names: Iterable[str]) -> set[str]:
    """Points of the entities, with all that are tied to them as one."""
    missing = [n for n in names if n not in draft.entities]
    if missing:
        raise SketchError(f"there is no {missing[0]} in the sketch")
    return {q for n in names for p in draft.entities[n].points for q in together(draft, p)}


def _mapped(sketch: Sketch, values: Values, names: Iterable[str], to: Callable[[complex], complex]) -> Sketch:
    draft = SketchBuilder(sketch)
    names = list(names)
    points = _points_of(draft, names)
    for p in points:
        put(draft, p, to(place(draft, p)))
    return settle(draft, values, [*names, *points])


def move(sketch: Sketch, values: Values, names: Iterable[str], by: complex) -> Sketch:
    """Shift entities by mm."""
    return _mapped(sketch, values, names, lambda z: z + by)


def rotate(sketch: Sketch, values: Values, names: Iterable[str], about: complex, angle: float) -> Sketch:
    """Turn entities about a place, rad counter-clockwise."""
    return _mapped(sketch, values, names, lambda z: about + (z - about) * cmath.rect(1, angle))


def scale(sketch: Sketch, values: Values, names: Iterable[str], about: complex, factor: float) -> Sketch:
    """Scale entities about a place; dimensions that no longer hold become references."""
    if not LINEAR <= factor <= 1e6:
        raise SketchError("the factor must be above zero", received=f"{factor:g}")
    names = list(names)
    draft = SketchBuilder(sketch)
    for n in names:
        e = draft.entities.get(n)
        if isinstance(e, Circle):
            draft.entities[n] = e.model_copy(update={"radius": e.radius * factor})
        elif isinstance(e, Ellipse):
            draft.entities[n] = e.model_copy(update={"minor": e.minor * factor})
    return _mapped(draft.done(), values, names, lambda z: about + (z - about) * factor)


def merge_points(sketch: Sketch, values: Values, p: str, q: str) -> Sketch:
    """Make two points one, where the first is, or where the second is fixed. Raises SketchError when that cannot be."""
    draft = SketchBuilder(sketch)
    if p == q or q in together(draft, p):
        raise SketchError(f"{p} and {q} are one point already")
    held = {c.of[0] for c in draft.constraints.values() if c.kind == "fixed" and not c.reference}
    stays, goes = (q, p) if held & together(draft, q) else (p, q)
    if held & together(draft, goes):
        raise SketchError(f"{p} and {q} cannot be one point", rule="both are fixed", hint=LOOSEN)
    z = place(draft, stays)
    for other in together(draft, goes):
        put(draft, other, z)
    draft.add("coincident", p, q)
    made = whole(draft, values)
    if made is None:
        raise SketchError(f"{p} and {q} cannot be one point", rule=KEPT, hint=LOOSEN)
    return made


#: why ends are not tied
KEPT = "every relation and dimension of them is kept"
LOOSEN = "drop what keeps them apart, or make it a reference"


def close_gaps(sketch: Sketch, values: Values, tolerance: float) -> tuple[Sketch, int]:
    """Tie every two ends that are within ``tolerance`` mm and not one point yet; the number of ties made.

    What is loose moves: every relation and dimension is kept, and a gap that they keep open stays open. Raises
    SketchError when nothing is within the tolerance, or nothing within it can be tied.
    """
    draft = SketchBuilder(sketch)
    ends = [
        p
        for e in sketch.curves
        if isinstance(e, Line | Arc | Spline) and not e.construction
        for p in (e.points[-2:] if not isinstance(e, Spline) else (e.through[0], e.through[-1]))
    ]
    reach = max(tolerance, REACH * size_of(drawn(sketch)))
    pairs = sorted(
        (abs(place(draft, p) - place(draft, q)), p, q) for i, p in enumerate(ends) for q in ends[i + 1 :]
        if abs(place(draft, p) - place(draft, q)) <= reach
    )  # fmt: skip
    tied: set[str] = set()
    ties: list[tuple[str, str]] = []
    for _, p, q in pairs:
        if q in together(draft, p) or (p in tied and q in tied):
            continue
        draft.add("coincident", p, q)
        tied |= {p, q}
        ties.append((p, q))
    if not ties:
        raise SketchError("no two loose ends are that near", received=f"{tolerance:g} mm", hint="a larger tolerance")
    closed = whole(draft, values)
    if closed is not None:
        return closed, len(ties)
    return _one_by_one(sketch, values, ties)


def _one_by_one(sketch: Sketch, values: Values, ties: list[tuple[str, str]]) -> tuple[Sketch, int]:
    """The ties that can be made, each kept when the figure still solves with it."""
    made = 0
    for p, q in ties:
        draft = SketchBuilder(sketch)
        draft.add("coincident", p, q)
        closed = whole(draft, values)
        if closed is not None:
            sketch, made = closed, made + 1
    if not made:
        p, q = ties[0]
        raise SketchError(f"the gap between {p} and {q} is kept open by what is said of them", rule=KEPT, hint=LOOSEN)
    return sketch, made


def remove(sketch: Sketch, names: Iterable[str]) -> Sketch:
    """Take out entities (with what hangs on them) and constraints."""
    draft = SketchBuilder(sketch)
    draft.remove(*names)
    return draft.done()


def set_value(sketch: Sketch, name: str, expression: str, *, reference: bool | None = None) -> Sketch:
    """Give a dimension another expression, or make it a reference or a driving one."""
    draft = SketchBuilder(sketch)
    c = draft.constraints.get(name)
    if c is None or c.kind not in DIMENSIONS:
        raise SketchError(f"{name} is no dimension of this sketch")
    update: dict[str, object] = {"value": expression}
    if reference is not None:
        update["reference"] = reference
    draft.constraints[name] = c.model_copy(update=update)
    return draft.done()
