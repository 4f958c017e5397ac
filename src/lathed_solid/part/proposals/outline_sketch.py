"""A plate's outline as a sketch: its corners joined by lines, level and upright ones held so, each stop with its size.

Corners that a note bevels are drawn sharp, as rounded ones are: a step breaks them, as a person would.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from lathed_solid.part.proposals.coordinates import ZERO
from lathed_solid.part.proposals.drawn import DRAWN
from lathed_solid.part.proposals.drawn_plate import DrawnPlate, hold
from lathed_solid.sheets.plate_outline import Corner
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.model import Sketch

#: ends that are nearer along an axis, mm on the page, are on one level
SAME = 0.1


@dataclass(frozen=True)
class BrokenEdge:
    """Between two lines of the sketch; its size on the page, mm."""

    kind: Literal["fillet", "chamfer"]
    size: float
    one: str
    two: str


@dataclass(frozen=True)
class Outline:
    """The sketch, its cells in words, those that are asked; the edges to break; straight sides by where they are."""

    sketch: Sketch
    cells: tuple[str, ...]
    asked: tuple[str, ...]
    edges: tuple[BrokenEdge, ...]
    upright: dict[float, str]
    level: dict[float, str]


@dataclass(frozen=True)
class _Vertex:
    x: float
    y: float
    round: float = 0.0
    bevel: float = 0.0


def outline_sketch(sheet: DrawnPlate, corners: Sequence[Corner]) -> Outline:
    """The sketch of a closed loop of the face."""
    scale, place = sheet.scale, sheet.place
    legs = [c.nominal * scale for n in sheet.notes for c in n.callouts if c.role == "chamfer"]
    vertices = _with_bevels(corners, legs)
    draft = SketchBuilder()
    names = [draft.point(v.x / scale, v.y / scale) for v in vertices]
    at_zero = next((k for k, v in enumerate(vertices) if math.hypot(v.x, v.y) < SAME), None)
    origin = names[at_zero] if at_zero is not None else draft.point(0.0, 0.0)
    draft.add("fixed", origin)
    n = len(vertices)
    lines = [draft.line(names[k], names[(k + 1) % n]) for k in range(n)]
    upright, level = {}, {}
    for k, line in enumerate(lines):
        a, b = vertices[k], vertices[(k + 1) % n]
        if abs(a.x - b.x) < SAME:
            draft.add("vertical", line)
            upright[a.x] = line
        elif abs(a.y - b.y) < SAME:
            draft.add("horizontal", line)
            level[a.y] = line
    cells: list[str] = []
    asked: list[str] = []
    for axis in ("x", "y"):
        for k in _free(vertices, axis, at_zero):
            v = vertices[k]
            told = place(v.x, 0.0)[0] if axis == "x" else place(0.0, v.y)[1]
            hold(draft, origin, names[k], axis, told)
            if told.cell != ZERO:
                cells.append(f"{axis} {told.cell}")
            if told.asked:
                asked.append(f"{axis}, drawn {told.cell}")
    edges = []
    for k, v in enumerate(vertices):
        if v.round or v.bevel:
            kind: Literal["fillet", "chamfer"] = "fillet" if v.round else "chamfer"
            edges.append(BrokenEdge(kind, v.round or v.bevel, lines[k - 1], lines[k]))
    return Outline(draft.done(), tuple(cells), tuple(asked), tuple(edges), upright, level)


def _free(vertices: Sequence[_Vertex], axis: str, fixed: int | None) -> list[int]:
    """A vertex of each run of vertices that lines hold at one place along an axis, but for the fixed one's."""
    n = len(vertices)
    at = [v.x if axis == "x" else v.y for v in vertices]
    group = list(range(n))
    for k in range(n):
        if abs(at[k] - at[(k + 1) % n]) < SAME:
            one, two = sorted((group[k], group[(k + 1) % n]))
            group = [one if g == two else g for g in group]
    held = None if fixed is None else group[fixed]
    return [k for k in range(n) if group[k] == k and group[k] != held]


def _with_bevels(corners: Sequence[Corner], legs: Sequence[float]) -> list[_Vertex]:
    """Slanted sides between a level and an upright one that are as long as a chamfer's legs are bevels."""
    n = len(corners)
    bevelled: dict[int, _Vertex] = {}
    for k in range(n):
        before, a, b, after = (corners[(k + i) % n] for i in (-1, 0, 1, 2))
        dx, dy = abs(a.x - b.x), abs(a.y - b.y)
        fits = abs(dx - dy) < SAME and any(abs(dx - leg) <= DRAWN for leg in legs)
        if not fits or min(dx, dy) < SAME or a.round or b.round:
            continue
        if abs(before.x - a.x) < SAME and abs(b.y - after.y) < SAME:
            bevelled[k] = _Vertex(a.x, b.y, bevel=dx)
        elif abs(before.y - a.y) < SAME and abs(b.x - after.x) < SAME:
            bevelled[k] = _Vertex(b.x, a.y, bevel=dx)
    gone = {(k + 1) % n for k in bevelled}
    kept = [(k, bevelled.get(k)) for k in range(n) if k not in gone]
    out = [v or _Vertex(corners[k].x, corners[k].y, corners[k].round) for k, v in kept]
    return [v for v, w in itertools.pairwise([*out, out[0]]) if v != w]
