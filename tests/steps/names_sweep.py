"""Random parametric parts under random legal edits: does a name still mean the same edge?

The oracle shares nothing with the naming code: it knows each part by construction, and says on which line or circle
in space
an edge must lie. Run by the tests on some seeds, on many by ``python -m steps.names_sweep FIRST COUNT`` from
``tests/``.
"""

from __future__ import annotations

import math
import random
import sys
from collections.abc import Callable
from dataclasses import dataclass, replace

from OCP.BRepAdaptor import BRepAdaptor_Curve

from lathed_solid import scripting as ls
from lathed_solid.kernel.edges import named_edges
from lathed_solid.kernel.errors import BuildError
from lathed_solid.part import Document, EdgePick, Grid, Radial, Table

Point = tuple[float, float, float]
On = Callable[[Point], bool]


@dataclass(frozen=True)
class Plate:
    """A plate with a boss, a row of holes, a slot across, a pocket, and edges broken; every number may be edited."""

    w: float = 80.0
    h: float = 50.0
    t: float = 12.0
    boss: tuple[float, float, float, float] = (60.0, 25.0, 8.0, 10.0)  # x, y, r, height
    holes: tuple[float, float, float, int, float] = (10.0, 10.0, 9.0, 3, 4.0)  # x, y, spacing, count, diameter
    slot: tuple[float, float] | None = (20.0, 26.0)  # from x to x, across all of y
    slot_depth: float = 4.0
    extra: tuple[float, float] | None = None  # a drilled hole that was not there before
    round: float | None = 3.0  # the upright corner at (w, h)
    bevel: float | None = None  # the boss's top rim
    early: bool = False  # the slot is cut before the boss is added


def build(p: Plate) -> tuple[Document, dict[str, On]]:
    """The part, and for each edge that a person would point at its name and where it must lie."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (p.w, p.h))
    part = ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, f"{p.t}")  # 10, 20
    steps = [_slot, _boss] if p.early else [_boss, _slot]
    for make in steps:
        part = make(part, p)
    x, y, spacing, count, diameter = p.holes
    part = _numbered(part, "hole", 70, face="20/end", diameter=f"{diameter}",
                     places=Grid(x=f"{x}", y=f"{y}", dx=f"{spacing}", nx=count))  # fmt: skip
    if p.extra is not None:
        places = Table(rows=((f"{p.extra[0]}", f"{p.extra[1]}"),))
        part = _numbered(part, "hole", 75, face="20/end", diameter="3", places=places)
    if p.round is not None:
        part = _numbered(part, "fillet", 80, radius=f"{p.round}", pick=EdgePick(edges=("20/l2|20/l3",)))
    if p.bevel is not None:
        part = _numbered(part, "chamfer", 90, leg=f"{p.bevel}", pick=EdgePick(edges=("40/c1|40/end",)))
    return part, expected(p)


def _numbered(part: Document, kind: str, number: int, **values: object) -> Document:
    made = ls.step(part, kind, **values)
    step = made.steps[-1].model_copy(update={"number": number})
    return made.model_copy(update={"steps": tuple(sorted([*made.steps[:-1], step], key=lambda s: s.number))})


def _boss(part: Document, p: Plate) -> Document:
    x, y, r, height = p.boss
    d = ls.Draft()
    d.circle(d.point(x, y), r)
    sketch = ls.sketch(part, d, "20/end").steps[-1].model_copy(update={"number": 30})
    part = part.model_copy(update={"steps": tuple(sorted([*part.steps, sketch], key=lambda s: s.number))})
    return _numbered(part, "extrude", 40, sketch=30, distance=f"{height}")


def _slot(part: Document, p: Plate) -> Document:
    if p.slot is None:
        return part
    number = 24 if p.early else 50
    d = ls.Draft()
    ls.shapes.rectangle(d, (p.slot[0], -5), (p.slot[1], p.h + 5))
    sketch = ls.sketch(part, d, "20/end").steps[-1].model_copy(update={"number": number})
    part = part.model_copy(update={"steps": tuple(sorted([*part.steps, sketch], key=lambda s: s.number))})
    return _numbered(part, "extrude", number + 2, sketch=number, distance=f"{p.slot_depth}", mode="cut", side="back")


def expected(p: Plate) -> dict[str, On]:
    """Where each named edge lies, from the construction alone."""

    def line(**fixed: float) -> On:
        return lambda q: all(abs(q["xyz".index(k)] - v) < 1e-6 for k, v in fixed.items())

    def rim(x: float, y: float, r: float, z: float) -> On:
        return lambda q: abs(math.hypot(q[0] - x, q[1] - y) - r) < 1e-6 and abs(q[2] - z) < 1e-6

    out: dict[str, On] = {
        "20/end|20/l1": line(y=0, z=p.t), "20/end|20/l2": line(x=p.w, z=p.t), "20/l1|20/start": line(y=0, z=0),
        "20/l1|20/l2": line(x=p.w, y=0), "20/l3|20/l4": line(x=0, y=p.h), "20/l3|20/start": line(y=p.h, z=0),
    }  # fmt: skip
    x, y, r, height = p.boss
    if p.bevel is None:
        out["40/c1|40/end"] = rim(x, y, r, p.t + height)
    out["20/end|40/c1"] = rim(x, y, r, p.t)
    if p.round is None:
        out["20/l2|20/l3"] = line(x=p.w, y=p.h)
    hx, hy, spacing, count, diameter = p.holes
    for k in range(count):
        out[f"20/start|70/h{k}.wall"] = rim(hx + k * spacing, hy, diameter / 2, 0)
    if p.slot is not None:
        n = 26 if p.early else 52
        out[f"20/end|{n}/l4"] = line(x=p.slot[0], z=p.t)
        out[f"20/end|{n}/l2"] = line(x=p.slot[1], z=p.t)
    return out


def edited(p: Plate, rng: random.Random) -> Plate:
    """One legal edit: a size, a place, a count, a step put in or taken out."""
    kind = rng.randrange(11)
    u = rng.uniform
    if kind == 0:
        return replace(p, w=round(u(70, 120), 2))
    if kind == 1:
        return replace(p, h=round(u(40, 80), 2))
    if kind == 2:
        return replace(p, t=round(u(6, 25), 2))
    if kind == 3:
        return replace(p, boss=(round(u(34, 64), 2), round(u(15, 30), 2), round(u(4, 12), 2), round(u(3, 20), 2)))
    if kind == 4:
        x, y, _s, _n, diameter = p.holes
        return replace(p, holes=(x, y, round(u(6, 14), 2), rng.randint(1, 6), diameter))
    if kind == 5:
        _x, _y, s, n, _d = p.holes
        return replace(p, holes=(round(u(6, 14), 2), round(u(6, 12), 2), s, n, round(u(2, 5), 2)))
    if kind == 6:
        a = round(u(8, 45), 2)
        return replace(p, slot=None if p.slot and rng.random() < 0.3 else (a, a + round(u(3, 12), 2)))
    if kind == 7:
        return replace(p, slot_depth=round(u(1, 5), 2))
    if kind == 8:
        return replace(p, extra=None if p.extra else (round(u(4, 60), 2), round(u(32, 38), 2)))
    if kind == 9:
        return replace(p, round=None if p.round else round(u(1, 6), 2))
    return replace(p, bevel=None if p.bevel else round(u(0.3, 1.5), 2))


def samples(edge: object) -> list[Point]:
    c = BRepAdaptor_Curve(edge)  # type: ignore[arg-type]
    a, b = c.FirstParameter(), c.LastParameter()
    found = (c.Value(a + (b - a) * k / 6) for k in range(7))
    return [(q.X(), q.Y(), q.Z()) for q in found]


def count(part: Document, wanted: dict[str, On]) -> tuple[int, int, list[str]]:
    """Names that mean what they meant, names reported as gone or unclear, and names that mean something else."""
    body = ls.build(part).built.body
    assert body is not None
    right, reported, wrong = 0, 0, []
    for name, on in wanted.items():
        try:
            edges = named_edges(body, name)
        except BuildError:
            reported += 1
            continue
        if all(on(q) for e in edges for q in samples(e)):
            right += 1
        else:
            wrong.append(name)
    return right, reported, wrong


def check(seed: int, edits: int = 6) -> tuple[int, int, int, list[str]]:
    """(edits, right, reported, wrong) over a chain of edits from one seed."""
    rng = random.Random(seed)
    p = Plate(early=bool(seed % 2))
    right = reported = 0
    wrong: list[str] = []
    for _ in range(edits):
        p = edited(p, rng)
        part, wanted = build(p)
        a, b, c = count(part, wanted)
        right, reported = right + a, reported + b
        wrong += [f"seed {seed}: {n} in {p}" for n in c]
    return edits, right, reported, wrong


def cross_drilled(diameter: float, bore: float, at: float, angle: float) -> tuple[Document, dict[str, On]]:
    """A shaft with a radial hole right through: two rims between the same two faces."""
    part = ls.turned(ls.new_part("pin"), [ls.Station(key="A", diameter=f"{diameter}", length="60")])
    places = Radial(at=f"{at}", datum="10/face.left", angle=f"{angle} deg")
    part = ls.hole(part, "10/sA", f"{bore}", places=places)
    return part, {}


if __name__ == "__main__":
    first, many = int(sys.argv[1]), int(sys.argv[2])
    total = [0, 0, 0]
    bad: list[str] = []
    for seed in range(first, first + many):
        n, a, b, c = check(seed)
        total = [total[0] + n, total[1] + a, total[2] + b]
        bad += c
    share = total[1] / (total[1] + total[2] + len(bad))
    print(f"{total[0]} edits: {total[1]} references right ({share:.2%}), {total[2]} reported, {len(bad)} wrong")
    print("\n".join(bad[:20]))
