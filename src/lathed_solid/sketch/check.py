"""What keeps a sketch from bounding clean areas: open ends, crossings, overlaps, doubles, pieces of no length."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.spatial import cKDTree

from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.geometry import REACH, Shape, drawn, size_of
from lathed_solid.sketch.meetings import meetings, near_pairs
from lathed_solid.sketch.model import Sketch

FindingKind = Literal["open end", "crossing", "overlap", "double", "no length"]


@dataclass(frozen=True, slots=True)
class Finding:
    """``at``: mm. ``gap``: for an open end, how far the nearest other end is; None when there is none."""

    kind: FindingKind
    entities: tuple[str, ...]
    at: complex
    gap: float | None = None

    @property
    def words(self) -> str:
        """What is wrong, with which entities, and where."""
        who = " and ".join(self.entities)
        place = f"at ({self.at.real:.6g}, {self.at.imag:.6g})"
        if self.kind == "open end":
            near = "no other end near" if self.gap is None else f"gap of {self.gap:.4g} mm to the next end"
            return f"open end of {who} {place}: {near}"
        return {
            "crossing": f"{who} cross {place}",
            "overlap": f"{who} lie partly on one another {place}",
            "double": f"{who} are the same curve twice",
            "no length": f"{who} has no length {place}",
        }[self.kind]


def findings(sketch: Sketch) -> tuple[Finding, ...]:
    """Everything found, worst kinds first."""
    shapes = drawn(sketch)
    reach = REACH * size_of(shapes)
    out = [Finding("no length", (s.id,), s.at(0)) for s in shapes if s.length <= 10 * reach]
    whole = [s for s in shapes if s.length > 10 * reach]
    out += _doubles(whole, reach)
    out += _open_ends(whole, reach)
    out += _crossings(whole, reach)
    order = ("no length", "double", "overlap", "open end", "crossing")
    return tuple(sorted(out, key=lambda f: order.index(f.kind)))


def crossings(sketch: Sketch) -> list[Finding]:
    """Where drawn curves cross, and nothing else."""
    shapes = drawn(sketch)
    reach = REACH * size_of(shapes)
    return _crossings([s for s in shapes if s.length > 10 * reach], reach)


def _open_ends(shapes: list[Shape], reach: float) -> list[Finding]:
    ends = [(s, z) for s in shapes if not s.closed for z in (s.at(0), s.at(1))]
    if not ends:
        return []
    xy = np.array([(z.real, z.imag) for _, z in ends])
    tree = cKDTree(xy)
    out = []
    for k, (s, z) in enumerate(ends):
        if len(tree.query_ball_point(xy[k], 3 * reach)) > 1:
            continue
        if any(o is not s and abs(o.at(o.find(z)) - z) <= reach for o in shapes):
            continue  # it ends on another curve
        near, _ = tree.query(xy[k], k=2)
        gap = float(near[1]) if len(ends) > 1 and np.isfinite(near[1]) else None
        out.append(Finding("open end", (s.id,), z, gap))
    return out


def _crossings(shapes: list[Shape], reach: float) -> list[Finding]:
    out = []
    for a, b in near_pairs(shapes, reach):
        for t, u, z in meetings(a, b, reach):
            if _within(a, z, reach) and _within(b, z, reach):
                da, db = a.along(t), b.along(u)
                if abs((da.conjugate() * db).imag) > 1e-7 * abs(da) * abs(db):
                    out.append(Finding("crossing", (a.id, b.id), z))
    return out


def _within(s: Shape, z: complex, reach: float) -> bool:
    """Whether a place is off the ends of the curve."""
    return s.closed or (abs(z - s.at(0)) > 3 * reach and abs(z - s.at(1)) > 3 * reach)


def _doubles(shapes: list[Shape], reach: float) -> list[Finding]:
    out = []
    for a, b in near_pairs(shapes, 3 * reach):
        if type(a) is not type(b):
            continue
        on = [bool(abs(b.at(b.find(a.at(t))) - a.at(t)) <= 3 * reach) for t in (0.0, 0.21, 0.5, 0.83, 1.0)]
        if all(on) and abs(a.length - b.length) <= 10 * reach:
            out.append(Finding("double", (a.id, b.id), a.at(0.5)))
        elif sum(on) >= 2 and _runs_together(a, b, reach):
            out.append(Finding("overlap", (a.id, b.id), a.at(a.find(b.at(0.5)))))
    return out


def _runs_together(a: Shape, b: Shape, reach: float) -> bool:
    """Whether a stretch, not only single places, is common."""
    ends = sorted(a.find(z) for z in (b.at(0), b.at(1), a.at(0), a.at(1)) if abs(b.at(b.find(z)) - z) <= 3 * reach
                  and abs(a.at(a.find(z)) - z) <= 3 * reach)  # fmt: skip
    for t, u in itertools.pairwise(ends):
        middle = a.at((t + u) / 2)
        if u - t > LINEAR and abs(b.at(b.find(middle)) - middle) <= 3 * reach:
            return True
    return False
