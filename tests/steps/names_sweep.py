"""Random parametric parts under random legal edits: does a name still mean the same edge?

The oracle shares nothing with the naming code: it knows each part by construction, and says on which line or circle
in space
an edge must lie. Run by the tests on some seeds, on many by ``python -m steps.names_sweep FIRST COUNT`` from
``tests/``.
"""

from __future__ import annotations

import itertools
import math
import random
import sys
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

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


@dataclass(frozen=True)
class Pin:
    """A turned pin of stations in order, bored at the right end, cross-drilled, with a keyway; stations come and go."""

    stations: tuple[tuple[str, float, float], ...] = (("A", 30.0, 20.0), ("B", 40.0, 25.0), ("C", 24.0, 30.0))
    bore: float = 10.0
    cross: tuple[float, float] = (8.0, 4.0)  # from the left face, diameter
    keyway: float | None = None  # its width, on the last station
    groove: float | None = None  # how far into the last station


def build_pin(p: Pin) -> tuple[Document, dict[str, On]]:
    rows = [ls.Station(key=k, diameter=f"{d}", length=f"{n}") for k, d, n in p.stations]
    last, total = p.stations[-1], sum(n for _k, _d, n in p.stations)
    part = ls.turned(ls.new_part("pin"), rows)
    part = _numbered(part, "hole", 40, face="10/face.right", diameter=f"{p.bore}", depth="8", point=None)
    places = Radial(at=f"{p.cross[0]}", datum="10/face.left")
    part = _numbered(part, "hole", 50, face=f"10/s{p.stations[0][0]}", diameter=f"{p.cross[1]}", places=places)
    if p.groove is not None:
        part = _numbered(part, "groove", 55, face=f"10/s{last[0]}", from_face="10/face.right", at=f"{p.groove}",
                         width="2", diameter=f"{last[1] - 3}")  # fmt: skip
    if p.keyway is not None:
        part = _numbered(part, "keyway", 60, face=f"10/s{last[0]}", from_face="10/face.right", at="9", length="9",
                         width=f"{p.keyway}", depth="3", angle="90 deg", ends="square")  # fmt: skip

    def ring(x: float, d: float) -> On:
        return lambda q: abs(q[0] - x) < 1e-6 and abs(math.hypot(q[1], q[2]) - d / 2) < 1e-6

    first = p.stations[0]
    out = {
        f"10/face.left|10/s{first[0]}": ring(0.0, first[1]), f"10/face.right|10/s{last[0]}": ring(total, last[1]),
        "10/face.right|40/h0.wall": ring(total, p.bore), "40/h0.floor|40/h0.wall": ring(total - 8, p.bore),
    }  # fmt: skip
    x = 0.0
    for (k, d, n), (m, e, _n) in itertools.pairwise(p.stations):
        x += n
        out[f"10/s{k}|10/shoulder.{k}"] = ring(x, d)
        out[f"10/s{m}|10/shoulder.{k}"] = ring(x, e)
    # the two ends of the cross hole: the same two faces, told apart by height
    r, (at, bore) = first[1] / 2, p.cross

    def mouth(sign: int) -> On:
        return lambda q: (
            sign * q[2] > 0
            and abs(math.hypot(q[0] - at, q[1]) - bore / 2) < 1e-6
            and abs(math.hypot(q[1], q[2]) - r) < 1e-6
        )

    out[f"10/s{first[0]}|50/h0.wall~z1/2"] = mouth(-1)
    out[f"10/s{first[0]}|50/h0.wall~z2/2"] = mouth(1)
    return part, out


def edited_pin(p: Pin, rng: random.Random) -> Pin:
    """A size, a station put in or taken out between the first and the last, a detail more or less."""
    u, kind = rng.uniform, rng.randrange(6)
    if kind < 2:
        k = rng.randrange(len(p.stations))
        key, _d, _n = p.stations[k]
        new = (key, round(u(20, 50), 2), round(u(20, 40), 2))
        return replace(p, stations=(*p.stations[:k], new, *p.stations[k + 1 :]))
    if kind == 2:
        middle = p.stations[1:-1]
        if middle and rng.random() < 0.5:
            return replace(p, stations=(p.stations[0], *middle[1:], p.stations[-1]))
        free = next(c for c in "DEFGHIJKLMNOP" if c not in {s[0] for s in p.stations})
        return replace(p, stations=(p.stations[0], (free, round(u(20, 50), 2), round(u(20, 40), 2)), *p.stations[1:]))
    if kind == 3:
        return replace(p, bore=round(u(4, 16), 2), cross=(round(u(5, 14), 2), round(u(2, 6), 2)))
    if kind == 4:
        return replace(p, keyway=None if p.keyway else round(u(3, 7), 2))
    return replace(p, groove=None if p.groove else round(u(2, 5), 2))


def check(seed: int, edits: int = 6) -> tuple[int, int, int, list[str]]:
    """(edits, right, reported, wrong) over a chain of edits from one seed; odd thirds of them on pins."""
    rng = random.Random(seed)
    p: Any = Pin() if seed % 3 == 2 else Plate(early=bool(seed % 2))
    right = reported = 0
    wrong: list[str] = []
    for _ in range(edits):
        p = edited_pin(p, rng) if isinstance(p, Pin) else edited(p, rng)
        part, wanted = build_pin(p) if isinstance(p, Pin) else build(p)
        a, b, c = count(part, wanted)
        right, reported = right + a, reported + b
        wrong += [f"seed {seed}: {n} in {p}" for n in c]
    return edits, right, reported, wrong


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
