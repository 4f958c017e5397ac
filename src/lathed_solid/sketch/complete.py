"""Dimensions that would make a loose sketch held, from the sheet's callouts first.

Every dimension that could be put on the figure is a candidate; its gradient g tells which free movements X it would
stop (g X not 0). Candidates are taken greedily, those that some unused callout fits (right kind, nearly this
size) before the rest; each one taken removes one movement from the basis, so exactly as many are proposed as the sketch
has freedoms, unless nothing that can be dimensioned stops a movement.
"""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lathed_solid.quantity.tolerances import LINEAR, RELATIVE_READ, ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import ConstraintKind
from lathed_solid.sketch.equations import Layout
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.holds import held_on_to
from lathed_solid.sketch.measure import measured_all
from lathed_solid.sketch.model import Constraint, Line, Point, Sketch
from lathed_solid.sketch.orient import oriented
from lathed_solid.sketch.stops import movements, stop

#: a callout fits a dimension within this share of its size
FITS = 0.05
MOST_CANDIDATES = 4000

#: a measured value (mm, rad) and whether it is an angle, as an expression
AsText = Callable[[float, bool], str]


@dataclass(frozen=True, slots=True)
class FreeCallout:
    """An unused callout: its name in expressions, its kind (length, diameter, radius, angle), mm or rad."""

    name: str
    kind: str
    value: float


_ACCEPTS = {"radius": ("radius",), "diameter": ("diameter",), "across_axis": ("diameter",), "angle": ("angle",)}


def propose(
    sketch: Sketch, values: Mapping[str, float], offers: Iterable[FreeCallout], as_text: AsText
) -> tuple[Constraint, ...]:
    """Dimensions that stop every movement of the solved ``sketch``, from the origin where nothing is fixed.

    They are of the ``grounded`` sketch, as ``completed`` takes them.
    """
    sketch = grounded(sketch)
    layout = Layout(sketch)
    loose, basis = movements(sketch, values)
    draft, unused = SketchBuilder(sketch), list(offers)
    taken: list[Constraint] = []
    for c in _anchors(sketch, loose.loose):
        basis, stopped = stop(layout, c, basis)
        if stopped:
            taken.append(c.model_copy(update={"id": draft.name("k")}))
    candidates = list(itertools.islice(_candidates(sketch, loose.loose), MOST_CANDIDATES))
    sizes = [abs(size) for size in measured_all(sketch, candidates)]
    fitting = sorted(
        (abs(o.value - s) / max(o.value, ROUNDING), i, o)
        for i, (c, s) in enumerate(zip(candidates, sizes, strict=True))
        for o in unused
        if o.kind in _ACCEPTS.get(c.kind, ("length",)) and abs(o.value - s) <= FITS * max(o.value, ROUNDING)
    ) if unused else []  # fmt: skip
    order: list[tuple[int, FreeCallout | None]] = [(i, o) for _, i, o in sorted(fitting, key=lambda f: f[:2])]
    order += [(i, None) for i in range(len(candidates))]
    done: set[int] = set()
    for i, offer in order:
        if basis.shape[1] == 0:
            break
        if i in done or (offer is not None and offer not in unused):
            continue
        basis, stopped = stop(layout, candidates[i], basis)
        if stopped:
            done.add(i)
            if offer is not None:
                unused.remove(offer)
            text = offer.name if offer else as_text(sizes[i], candidates[i].kind == "angle")
            taken.append(candidates[i].model_copy(update={"id": draft.name("k"), "value": text}))
    return tuple(taken)


def completed(sketch: Sketch, proposed: Sequence[Constraint]) -> Sketch:
    """The sketch with the proposed constraints. Raises SketchError when there are none."""
    if not proposed:
        raise SketchError("there is nothing to propose", hint="the sketch is held, or its loose parts have no size")
    return Sketch(entities=grounded(sketch).entities, constraints=(*sketch.constraints, *proposed))


def grounded(sketch: Sketch) -> Sketch:
    """The sketch with the origin in it to measure from, where nothing else is fixed and no point stands there."""
    if _is_fixed(sketch) or not sketch.points or _nearest(sketch.points)[0] <= LINEAR:
        return sketch
    return held_on_to(sketch, ["origin"], ())[0]


def _is_fixed(sketch: Sketch) -> bool:
    return any(c.kind == "fixed" for c in sketch.constraints) or any(e.source for e in sketch.entities)


def _nearest(points: Iterable[Point]) -> tuple[float, str]:
    """The point nearest to the origin, and how far it is, mm."""
    return min((math.hypot(p.x, p.y), p.id) for p in points)


def _anchors(sketch: Sketch, loose: frozenset[str]) -> Iterator[Constraint]:
    """Where nothing is fixed: the point at the origin; and one line's direction."""
    fixed = _is_fixed(sketch)
    # edges' points alone leave a turn
    if fixed and (any(c.kind == "fixed" for c in sketch.constraints) or any(c.source for c in sketch.curves)):
        return
    points = [p for p in sketch.points if p.id in loose]
    if points and not fixed:
        yield Constraint(id="k0", kind="fixed", of=(_nearest(points)[1],))
    for c in sketch.curves:
        if isinstance(c, Line) and c.id in loose:
            (x0, y0), (x1, y1) = sketch.at(c.start), sketch.at(c.end)
            if abs(y1 - y0) < RELATIVE_READ * max(abs(x1 - x0), ROUNDING):
                yield Constraint(id="k0", kind="horizontal", of=(c.id,))
                return
            if abs(x1 - x0) < RELATIVE_READ * max(abs(y1 - y0), ROUNDING):
                yield Constraint(id="k0", kind="vertical", of=(c.id,))
                return


def _candidates(sketch: Sketch, loose: frozenset[str]) -> Iterator[Constraint]:
    def made(kind: ConstraintKind, *of: str) -> Constraint:
        return oriented(sketch, Constraint(id="k0", kind=kind, of=of, value="0"))

    curves = [c for c in sketch.curves if c.id in loose]
    for c in curves:
        if c.kind == "circle":
            yield made("diameter", c.id)
        elif c.kind == "arc":
            yield made("radius", c.id)
    # sharp corners kept under rounded ones, and centres: a drawing dimensions from one to the next
    middles = {c.points[0] for c in curves if c.kind in ("circle", "arc")}
    marks = [m for m in sketch.points if m.id in loose and (m.construction or m.id in middles)][:40]
    for m, n in itertools.combinations(marks, 2):
        size = max(abs(m.x - n.x), abs(m.y - n.y))
        if size > ROUNDING and abs(m.y - n.y) < RELATIVE_READ * size:
            yield made("across_x", m.id, n.id)
        elif size > ROUNDING and abs(m.x - n.x) < RELATIVE_READ * size:
            yield made("across_y", m.id, n.id)
    ways = {c.id: complex(*sketch.at(c.end)) - complex(*sketch.at(c.start)) for c in curves if isinstance(c, Line)}
    lines = [c for c in curves if abs(ways.get(c.id, 0j)) > ROUNDING]
    for c in lines:
        yield made("distance", c.id)
    for a, b in itertools.combinations(lines[:60], 2):
        if 1e-3 < abs(cmath.phase(ways[b.id] / ways[a.id])) < np.pi - 1e-3:
            yield made("angle", a.id, b.id)
    held = [p.id for p in sketch.points if p.id not in loose] or [p.id for p in sketch.points[:1]]
    centres = [c.points[0] for c in curves if c.kind in ("circle", "arc", "ellipse")]
    for p in [*centres, *(p.id for p in sketch.points if p.id in loose and p.id not in centres)]:
        for base in held[:6]:
            if base == p:
                continue
            (x0, y0), (x1, y1) = sketch.at(base), sketch.at(p)
            if abs(x1 - x0) > ROUNDING:
                yield made("across_x", base, p)
            if abs(y1 - y0) > ROUNDING:
                yield made("across_y", base, p)
