"""Plates with holes at random places, each place and size a callout: the part, and where its holes stand."""

from __future__ import annotations

import random
from dataclasses import dataclass

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from lathed_solid.part.edits import next_balloon


@dataclass(frozen=True)
class Drilled:
    """A hole: mm from the plate's lower left corner; ``depth`` None for through; ``thread`` empty for none."""

    x: float
    y: float
    diameter: float
    depth: float | None
    thread: str = ""


@dataclass(frozen=True)
class DrilledPlate:
    """The part, its size (mm), and its holes."""

    document: Document
    size: tuple[float, float, float]
    holes: tuple[Drilled, ...]


THREADS = {"M5": 4.2, "M6": 5.0, "M8": 6.8}


def drilled_plate(seed: int, holes: int, *, placed: bool = True) -> DrilledPlate:
    """A plate of this seed, thicker than any blind hole with its point; ``placed``: its places are callouts too."""
    rnd = random.Random(seed)
    columns = max(3, round(holes**0.5 * 1.3))
    rows = -(-holes // columns)
    long, wide, thick = 24.0 * columns + 10, 22.0 * rows + 10, float(rnd.randint(16, 22))
    part = ls.new_part(f"Plate of {holes} holes")
    for text in (f"{long:g}", f"{wide:g}", f"{thick:g}"):
        part = ls.note(part, text)
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0.0, 0.0), (long, wide))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value="#2")
    part = ls.sketch(part, d, "XY")
    part = ls.extrude(part, part.steps[-1].number, "#3")
    top = f"{part.steps[-1].number}/end"
    found = []
    for k in range(holes):
        x = round(24.0 * (k % columns) + 17 + rnd.uniform(-5, 5), 1)
        y = round(22.0 * (k // columns) + 16 + rnd.uniform(-5, 5), 1)
        at = ls.Table(rows=((f"{x:g}", f"{y:g}"),))
        if placed:
            b = next_balloon(part)
            part = ls.note(ls.note(part, f"{x:g}"), f"{y:g}")
            at = ls.Table(rows=((f"#{b}", f"#{b + 1}"),))
        b = next_balloon(part)
        kind = rnd.choice(("through", "blind", "tapped"))
        if kind == "tapped":
            thread = rnd.choice(list(THREADS))
            deep = float(rnd.randint(8, 10))
            part = ls.note(part, f"{thread} ↧{deep:g}")
            part = ls.hole(part, top, f"{THREADS[thread]:g}", depth=f"{deep + 2:g}", places=at, thread=thread,
                           thread_depth=f"#{b + 1}")  # fmt: skip
            found.append(Drilled(x, y, THREADS[thread], deep + 2, thread))
            continue
        diameter = rnd.choice((4.0, 5.5, 6.6, 8.0))
        deep_or_not = float(rnd.randint(6, 10)) if kind == "blind" else None
        words = "THRU" if deep_or_not is None else f"↧{deep_or_not:g}"
        part = ls.note(part, f"⌀{diameter:g} {words}")
        part = ls.hole(part, top, f"#{b}", depth=None if deep_or_not is None else f"#{b + 1}", places=at)
        found.append(Drilled(x, y, diameter, deep_or_not))
    return DrilledPlate(part, (long, wide, thick), tuple(found))
