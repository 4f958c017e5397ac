"""How the dimensions of sketches show on the solid: as sizes and distances of the faces that their curves made.

A dimension runs between two carriers: a line square to it makes a flat face, a circle or arc about its end makes a
cylinder. Between two flats it is a distance, between a flat and a cylinder a position, between two cylinders the
distance of their axes. A dimension that no faces carry (a point in thin air) has no probe.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from lathed_solid.ledger import Probe
from lathed_solid.part.document import Document
from lathed_solid.part.steps import SketchStep
from lathed_solid.part.steps.base import FieldOf
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.model import Arc, Circle, Constraint, Line, Sketch

SQUARE = 1e-6

#: whether a curve made a face of the step
On = Callable[[str], bool]

#: a face atom and whether it is flat or round
Carrier = tuple[str, str]


def sketch_fields(document: Document) -> list[tuple[int, FieldOf]]:
    """(step number, field with probe) for every driving dimension, once for each step that builds on its sketch."""
    out = []
    step: Any  # an extrusion or a revolve, told by its kind so that a part without them imports neither
    for step in document.steps:
        if step.kind not in ("extrude", "revolve") or step.suspended:
            continue
        base = document.step(step.sketch)
        if not isinstance(base, SketchStep):
            continue
        used = {b[:-1] for name in step.regions for b in name.split("@")[0].split()} or None
        for c in base.sketch.constraints:
            if c.kind in DIMENSIONS and not c.reference:
                kind = KINDS[c.kind].dimension
                for entity in _alike(base.sketch, c):
                    one = c.model_copy(update={"of": (entity,)}) if entity else c
                    probe = _probe(base.sketch, one, step.number, used, step.kind == "revolve")
                    if probe is not None:
                        out.append((base.number, FieldOf(f"{KINDS[c.kind].words} {c.id}", c.value, kind, probe)))  # type: ignore[arg-type]
    return out


def _alike(sketch: Sketch, c: Constraint) -> list[str]:
    """The circles that a radius or diameter sizes: its own and those kept equal to it; [""] for other dimensions."""
    if c.kind not in ("radius", "diameter"):
        return [""]
    found, todo = [c.of[0]], [c.of[0]]
    while todo:
        name = todo.pop()
        for k in sketch.constraints:
            if k.kind == "equal" and name in k.of:
                more = [n for n in k.of if n not in found]
                found += more
                todo += more
    return found


def _probe(sketch: Sketch, c: Constraint, step: int, used: set[str] | None, turned: bool) -> Probe | None:
    def on(entity: str) -> bool:
        return (used is None or entity in used) and not sketch.by_id[entity].construction

    if c.kind in ("radius", "diameter"):
        if not on(c.of[0]):
            return None
        return Probe(kind=c.kind, faces=(f"{step}/{c.of[0]}",))
    if c.kind == "angle":
        return (
            Probe(kind="angle", faces=tuple(f"{step}/{n}" for n in c.of)) if all(map(on, c.of)) and not turned else None
        )
    if c.kind == "across_axis":
        return _turned_diameter(sketch, c, step, on) if turned else None
    ends = _ends(sketch, c)
    if ends is None:
        return None
    along, first, second = ends
    pair = [_carrier(sketch, points, along, on) for points in (first, second)]
    if None in pair:
        return None
    (a, a_kind), (b, b_kind) = sorted((p for p in pair if p), key=lambda p: p[1] != "flat")
    if a == b or (turned and "round" in (a_kind, b_kind)):
        return None
    faces = (f"{step}/{a}", f"{step}/{b}")
    if a_kind == b_kind == "flat":
        return Probe(kind="distance", faces=faces)
    if a_kind == "flat":
        return Probe(kind="position", faces=faces)
    if not _same_line(sketch, first, second, along):
        return None
    return Probe(kind="axes", faces=faces)


def _ends(sketch: Sketch, c: Constraint) -> tuple[complex, list[str], list[str]] | None:
    """Direction of measuring and the points at both ends."""
    if c.kind in ("across_x", "across_y", "distance"):
        points = c.of
        kinds = [sketch.by_id[n].kind for n in c.of]
        if kinds == ["line"]:
            points = sketch.by_id[c.of[0]].points
        elif kinds[0] == "line":
            line = sketch.by_id[c.of[0]]
            a, b = (complex(*sketch.at(p)) for p in line.points)
            if abs(b - a) < 1e-9:
                return None
            other = sketch.by_id[c.of[1]]
            far = list(other.points) if kinds[1] == "line" else [other.id]
            return 1j * (b - a) / abs(b - a), list(line.points), far
        p, q = (complex(*sketch.at(n)) for n in points)
        if c.kind == "across_x":
            return 1 + 0j, [points[0]], [points[1]]
        if c.kind == "across_y":
            return 1j, [points[0]], [points[1]]
        return ((q - p) / abs(q - p), [points[0]], [points[1]]) if abs(q - p) > 1e-9 else None
    return None


def _carrier(sketch: Sketch, points: list[str], along: complex, on: On) -> Carrier | None:
    at = [complex(*sketch.at(p)) for p in points]
    for e in sketch.entities:
        if not on(e.id):
            continue
        if isinstance(e, Line):
            a, b = (complex(*sketch.at(p)) for p in e.points)
            square = abs(b - a) > 1e-9 and abs(((b - a).conjugate() * along).real) < SQUARE * abs(b - a)
            # the carrier runs through the end of the dimension: there, or (past a rounded corner) in its line
            if square and any(abs(((b - a).conjugate() * (z - a)).imag) < 1e-6 * abs(b - a) for z in at):
                return e.id, "flat"
    for e in sketch.entities:
        if isinstance(e, Circle | Arc) and on(e.id):
            centre = complex(*sketch.at(e.centre))
            if any(abs(z - centre) < 1e-6 for z in at):
                return e.id, "round"
    return None


def _same_line(sketch: Sketch, first: list[str], second: list[str], along: complex) -> bool:
    """Whether the dimension runs straight from centre to centre, as the distance of axes does."""
    d = complex(*sketch.at(second[0])) - complex(*sketch.at(first[0]))
    return abs((d.conjugate() * along).imag) < SQUARE * max(abs(d), 1.0)


def _turned_diameter(sketch: Sketch, c: Constraint, step: int, on: On) -> Probe | None:
    """A diameter across the centreline shows on the cylinder that a line beside the axis makes."""
    axis = sketch.by_id[c.of[0]]
    a, b = (complex(*sketch.at(p)) for p in axis.points)
    other = sketch.by_id[c.of[1]]
    ends = [complex(*sketch.at(p)) for p in other.points]
    for e in sketch.entities:
        if isinstance(e, Line) and on(e.id):
            p, q = (complex(*sketch.at(n)) for n in e.points)
            level = abs(((b - a).conjugate() * (q - p)).imag) < SQUARE * abs(b - a) * max(abs(q - p), 1e-9)
            if level and not math.isclose(abs(q - p), 0) and any(min(abs(z - p), abs(z - q)) < 1e-6 for z in ends):
                return Probe(kind="diameter", faces=(f"{step}/{e.id}",))
    return None
