"""Relations as modelled: what a sketch says of its lines and circles, looked for on the faces that they made.

| relation      | on the solid                                                   | deviation |
|---------------|----------------------------------------------------------------|-----------|
| parallel      | the normals of two flat faces are along one another            | rad       |
| square        | they stand square                                              | rad       |
| in line       | two flat faces lie in one plane                                | mm        |
| concentric    | two round faces have one axis                                  | mm        |
| equal radius  | two round faces have one radius                                | mm        |
| tangent       | a round face's axis stands its radius from a flat face         | mm        |
| symmetric     | the axes of two round faces are mirrored at the sketch's line  | mm        |

A relation whose faces a later step cut away is not looked for; one between what made no face says nothing here.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.kernel.kept import Kept
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.part import Document, SketchStep
from lathed_solid.proof.report import Relation
from lathed_solid.sketch.model import Arc, Circle, Constraint, Sketch

WORDS = {"parallel": "parallel", "perpendicular": "square", "collinear": "in line", "concentric": "concentric",
         "equal": "equal radius", "tangent": "tangent", "symmetric": "symmetric"}  # fmt: skip

Vector = Any


def relations(document: Document, kept: Kept, look: Look) -> tuple[Relation, ...]:
    """Every relation of the sketches that extrusions stand on and that shows on the solid, with its deviation.

    ``kept``: what was measured before an edit that left it alone.
    """
    out = []
    for step in document.steps:
        base = document.step(getattr(step, "sketch", 0) or 0)
        if step.kind != "extrude" or step.suspended or not isinstance(base, SketchStep):
            continue
        if getattr(step, "taper", None):
            continue  # tapered walls stand as they should, not as drawn
        for c in base.sketch.constraints:
            for names in _faces(base.sketch, c):
                faces = tuple(f"{step.number}/{n}" for n in names)
                about = (base.number, c.of[2]) if c.kind == "symmetric" else None
                run = partial(_measured, look, c.kind, faces, about)
                try:
                    off = kept.measured(look, ("relation", c.kind, faces, about), run, outlines=False)
                except (LathedError, ValueError):
                    continue
                if off is not None:
                    unit = "rad" if c.kind in ("parallel", "perpendicular") else "mm"
                    out.append(Relation(kind=WORDS[c.kind], faces=faces, deviation=off, unit=unit))
    return tuple(out)


def _faces(sketch: Sketch, c: Constraint) -> Iterator[tuple[str, ...]]:
    """The entities of a relation that make faces: lines and circles, and circles about the points it names."""
    if c.kind not in WORDS:
        return
    kinds = [sketch.by_id[n].kind for n in c.of]
    if c.kind == "symmetric":
        first, second = (_round(sketch, n) for n in c.of[:2])
        yield from ((a, b) for a in first for b in second)
    elif all(k in ("line", "circle", "arc") for k in kinds) and not any(sketch.by_id[n].construction for n in c.of):
        if c.kind == "equal" and "line" in kinds:
            return
        yield tuple(c.of)


def _round(sketch: Sketch, name: str) -> list[str]:
    """A circle or arc itself, or those about a point."""
    e = sketch.by_id[name]
    if isinstance(e, Circle | Arc):
        return [] if e.construction else [name]
    return [k.id for k in sketch.entities if isinstance(k, Circle | Arc) and k.centre == name and not k.construction]


def _measured(look: Look, kind: str, faces: tuple[str, ...], about: tuple[int, str] | None) -> float | None:
    """How far the faces are from the relation; ``about``: sketch and line of a mirror. None where it does not show."""
    if not all(map(look.has, faces)):
        return None
    surfaces = [look.surface((), f) for f in faces]
    return _deviation(kind, surfaces) if about is None else _mirrored(look, *about, surfaces)


def _deviation(kind: str, surfaces: list[Surface]) -> float | None:
    a, b = surfaces
    kinds = {a.kind, b.kind}
    way = _WAYS.get(kind)
    wanted = {"tangent": {"plane", "cylinder"}, "concentric": {"cylinder"}, "equal": {"cylinder"}}.get(kind, {"plane"})
    if way is None or kinds != wanted:
        return None
    return way(a, b) if a.kind == "plane" or kinds == {"cylinder"} else way(b, a)


def _array(v: Any) -> Vector:
    return np.array(v, float)


def _parallel(a: Surface, b: Surface) -> float:
    return float(np.linalg.norm(np.cross(_array(a.direction), _array(b.direction))))


def _square(a: Surface, b: Surface) -> float:
    return abs(math.asin(max(-1.0, min(1.0, float(_array(a.direction) @ _array(b.direction))))))


def _in_line(a: Surface, b: Surface) -> float:
    return abs(float((_array(b.origin) - _array(a.origin)) @ _array(a.direction)))


def _concentric(a: Surface, b: Surface) -> float:
    d, apart = _array(a.direction), _array(b.origin) - _array(a.origin)
    return float(np.linalg.norm(apart - d * float(apart @ d)))


def _equal(a: Surface, b: Surface) -> float:
    return abs(a.radius - b.radius)


def _tangent(flat: Surface, round_: Surface) -> float:
    away = abs(float((_array(round_.origin) - _array(flat.origin)) @ _array(flat.direction)))
    return abs(away - round_.radius)


_WAYS: dict[str, Callable[[Surface, Surface], float]] = {
    "parallel": _parallel, "perpendicular": _square, "collinear": _in_line, "concentric": _concentric,
    "equal": _equal, "tangent": _tangent,
}  # fmt: skip


def _mirrored(look: Look, sketch: int, line: str, surfaces: list[Surface]) -> float | None:
    """How far the second axis is from the mirror image of the first, square to the sketch's normal."""
    drawn = look.drawn(sketch, line)
    if drawn is None or {s.kind for s in surfaces} != {"cylinder"}:
        return None
    foot, normal = map(_array, drawn)
    one, two = (_array(s.origin) for s in surfaces)
    image = one - 2 * normal * float((one - foot) @ normal)
    gap = two - image
    up = _array(look.frame(sketch).normal)
    return float(np.linalg.norm(gap - up * float(gap @ up)))
