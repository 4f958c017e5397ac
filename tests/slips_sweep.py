"""Random parts with one planted slip each, and whether the hunt names it: ``python slips_sweep.py [PARTS] [SEED]``.

A part is made as its drawing says, and its volume stated as a drawing would (six digits). Then one slip is planted by
means of its own, which know nothing of how the hunt undoes them. The hunt is right when its first suspect is at the
same callout or step as the slip; where others make the very same volume (halves of a box's sides do), it shares that
place.
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid import scripting as ls
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.volumes import answered, volume_of
from lathed_solid.part import Document, StatedMass, StatedVolume
from lathed_solid.part.edits import changed, drop_step, put_step
from lathed_solid.proof.expected import expected
from lathed_solid.proof.suspects import Suspect, hunt
from lathed_solid.standards.materials import materials


@dataclass(frozen=True)
class Planted:
    kind: str
    #: any of these names the slip
    targets: frozenset[str]
    model: Document


def turned(r: random.Random) -> Document:
    """A shaft of three to five stations, a bore, perhaps holes on a circle, edges broken."""
    part = ls.new_part("shaft", material="C45 steel")
    n = r.randint(3, 5)
    sizes = [r.randrange(36, 160) / 2 for _ in range(n)]
    sizes[r.randrange(n)] = flange = r.randrange(180, 260) / 2
    balloon, stations = 1, []
    for k, d in enumerate(sizes):
        part = ls.note(part, f"Ø{d:g}", balloon)
        part = ls.note(part, f"{r.randrange(16, 120) / 2:g}", balloon + 1)
        stations.append(ls.Station(key="ABCDE"[k], diameter=f"#{balloon}", length=f"#{balloon + 1}"))
        balloon += 2
    bore = r.randrange(16, int(min(sizes) * 1.2)) / 2
    part = ls.note(part, f"Ø{bore:g}", balloon)
    part = ls.note(part, f"{r.randrange(10, 40) / 2:g}", balloon + 1)
    bores = [ls.Bore(end="left", steps=(ls.BoreStep(diameter=f"#{balloon}", depth=f"#{balloon + 1}"),))]
    part = ls.turned(part, stations, bores=bores)
    balloon += 2
    at = sizes.index(flange)
    count, beside = r.randint(3, 8), max(sizes[at - 1] if at else bore, sizes[at + 1] if at + 1 < n else 0)
    circle = (flange + beside) / 2
    hole = min(r.randrange(8, 22) / 2, (flange - beside) / 5)
    part = ls.note(part, f"{count}X Ø{hole:.2f} THRU ON Ø{circle:.2f} BC", balloon)
    face = f"10/shoulder.{'ABCDE'[at]}" if at + 1 < n else "10/face.right"
    holes = ls.OnCircle(bolt_circle=f"#{balloon + 1}", count=count)
    part = ls.hole(part, face, f"#{balloon}", places=holes)
    return part


def milled(r: random.Random) -> Document:
    """A plate with a boss, a pocket, blind and through holes."""
    part = ls.new_part("plate", unit=r.choice(["mm", "in"]), material="C45 steel")
    k = 25.4 if part.unit == "in" else 1.0
    n = 2 if part.unit == "in" else 0

    def size(low: float, high: float) -> float:
        return round(r.uniform(low, high) / k, n)

    wide, deep, thick = size(120, 180), size(80, 110), size(12, 30)
    for b, v in ((1, wide), (2, deep), (3, thick)):
        part = ls.note(part, f"{v:.{n}f}", b)
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (wide * k, deep * k))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value="#2")
    part = ls.extrude(ls.sketch(part, d), 10, "#3")
    boss, high = size(25, 40), size(10, 25)
    part = ls.note(ls.note(part, f"Ø{boss:.{n}f}", 4), f"{high:.{n}f}", 5)
    d = ls.Draft()
    c = d.circle(d.point(30, 30), boss / 2 * k)
    d.add("fixed", d.entities[c].centre)
    d.add("diameter", c, value="#4")
    part = ls.extrude(ls.sketch(part, d, "20/end"), 30, "#5")
    length, across, pocket = size(30, 50), size(20, 35), round(min(size(4, 9), 0.6 * thick), max(n, 1))
    for b, v in ((6, length), (7, across), (8, pocket)):
        part = ls.note(part, f"{v:.{max(n, 1)}f}", b)
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (60, 20), (60 + length * k, 20 + across * k))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#6")
    d.add("distance", sides[1], value="#7")
    part = ls.extrude(ls.sketch(part, d, "20/end"), 50, "#8", side="back", mode="cut")
    hole, down = size(5, 9), round(min(size(6, 14), 0.7 * thick), max(n, 1))
    count = r.randint(2, 4)
    part = ls.note(part, f"{count}X Ø{hole:.{max(n, 1)}f} ↧{down:.{max(n, 1)}f}", 9)
    places = ls.Grid(x="60 mm", y=f"{deep * k - 15:g} mm", dx="14 mm", nx=count)
    part = ls.hole(part, "20/end", "#9", depth="#10", places=places)
    through = size(8, 12)
    part = ls.note(part, f"Ø{through:.{max(n, 1)}f} THRU", 11)
    return ls.hole(part, "40/end", "#11", places=ls.OnCircle(x="30 mm", y="30 mm"))


# slips --------------------------------------------------------------------------------------------
def plant(r: random.Random, truth: Document) -> Planted | None:
    """One slip of a random kind; None where it does not apply to this part."""
    kind = r.choice(["radius", "half", "digits", "missed", "suspended", "count", "depth", "mode", "material", "unit",
                     "twice", "other callout"])  # fmt: skip
    return globals()[f"_{kind.replace(' ', '_')}"](r, truth)  # type: ignore[no-any-return]


def _resized(truth: Document, balloon: int, nominal: float, kind: str) -> Planted:
    model = ls.change_callout(truth, balloon, nominal=nominal, low=None, high=None)
    return Planted(kind, frozenset([f"callout {balloon}"]), model)


def _some(r: random.Random, truth: Document, *kinds: str) -> ls.Callout:
    return r.choice([c for c in truth.callouts if c.kind in kinds and c.meaning != "bolt circle"])


def _radius(r: random.Random, truth: Document) -> Planted:
    c = _some(r, truth, "diameter")
    return _resized(truth, c.balloon, c.nominal * r.choice([0.5, 2.0]), "radius")


def _half(r: random.Random, truth: Document) -> Planted:
    c = _some(r, truth, "length", "depth")
    return _resized(truth, c.balloon, c.nominal * r.choice([0.5, 2.0]), "half")


def _unit(r: random.Random, truth: Document) -> Planted:
    c = _some(r, truth, "length", "depth", "diameter")
    return _resized(truth, c.balloon, c.nominal * r.choice([25.4, 1 / 25.4]), "unit")


def _digits(r: random.Random, truth: Document) -> Planted | None:
    c = _some(r, truth, "length", "depth", "diameter")
    k = 25.4 if truth.unit == "in" else 1.0
    text = list(f"{c.nominal / k:.{2 if truth.unit == 'in' else 1}f}")
    spots = [i for i in range(len(text) - 1) if text[i].isdigit() and text[i + 1].isdigit() and text[i] != text[i + 1]]
    if not spots:
        return None
    i = r.choice(spots)
    text[i], text[i + 1] = text[i + 1], text[i]
    value = float("".join(text)) * k
    return _resized(truth, c.balloon, value, "digits") if value > 0 else None


def _missed(r: random.Random, truth: Document) -> Planted:
    step = r.choice([s for s in truth.steps if s.kind == "hole"])
    return Planted("missed", frozenset(f"callout {b}" for b in step.balloons()), drop_step(truth, step.number))


def _suspended(r: random.Random, truth: Document) -> Planted:
    step = r.choice([s for s in truth.steps if s.kind in ("hole", "extrude") and s.number > 20] or [truth.steps[-1]])
    return Planted("suspended", frozenset([f"step {step.number}"]), put_step(truth, changed(step, suspended=True)))


def _count(r: random.Random, truth: Document) -> Planted | None:
    steps = [s for s in truth.steps if s.kind == "hole"]
    step = r.choice(steps)
    name = "count" if step.places.kind == "circle" else "nx"  # type: ignore[union-attr]
    n = getattr(step.places, name) + r.choice([-1, 1])  # type: ignore[union-attr]
    if n < 1:
        return None
    places = step.places.model_copy(update={name: n})  # type: ignore[union-attr]
    return Planted("count", frozenset([f"step {step.number}"]), put_step(truth, changed(step, places=places)))


def _depth(r: random.Random, truth: Document) -> Planted | None:
    steps = [s for s in truth.steps if s.kind == "hole" and s.depth is not None]  # type: ignore[union-attr]
    if not steps:
        return None
    step = r.choice(steps)
    values = r.choice([{"depth": None}, {"depth_to": "tip"}])
    return Planted("depth", frozenset([f"step {step.number}"]), put_step(truth, changed(step, **values)))


def _mode(r: random.Random, truth: Document) -> Planted | None:
    steps = [s for s in truth.steps if s.kind == "extrude" and s.mode == "cut"]  # type: ignore[union-attr]
    if not steps:
        return None
    made = put_step(truth, changed(steps[0], mode="add", side="front"))
    return Planted("mode", frozenset([f"step {steps[0].number}"]), made)


def _twice(r: random.Random, truth: Document) -> Planted | None:
    """A field of a step that takes half of its callout."""
    steps = [s for s in truth.steps if s.kind == "hole"]
    step = r.choice(steps)
    text = step.diameter  # type: ignore[union-attr]
    model = put_step(truth, changed(step, diameter=f"{text} / 2"))
    return Planted("twice", frozenset([f"step {step.number} diameter"]), model)


def _other_callout(r: random.Random, truth: Document) -> Planted | None:
    """Two lengths of a plate's boss and pocket taken for one another: the one that stands twice is wrong once."""
    steps = [s for s in truth.steps if s.kind == "extrude"]
    if len(steps) < 2:
        return None
    model = put_step(truth, changed(steps[1], distance="#3"))
    return Planted("other callout", frozenset([f"step {steps[1].number} distance"]), model)


def _material(r: random.Random, truth: Document) -> Planted:
    other = r.choice(
        [k for k, m in materials().items() if abs(m.density / materials()[truth.material].density - 1) > 0.03]
    )
    return Planted("material", frozenset(["material"]), truth.model_copy(update={"material": other}))


def make(seed: int, engine: Engine) -> tuple[Document, Planted, float] | None:
    """The model with its slip, what was planted, and the model's volume; None when that part cannot be."""
    r = random.Random(seed)
    truth = r.choice([turned, milled])(r)
    volume = volume_of(engine, truth)
    if volume is None:
        return None
    planted = plant(r, truth)
    if planted is None:
        return None
    made = volume_of(engine, planted.model)
    if made is None:
        return None
    if planted.kind == "material":
        grams = volume * materials()[truth.material].density
        stated = StatedMass(grams=float(f"{grams:.5g}"), source="drawing", resolution=0.0, tolerance=grams * 1e-4)
        model = planted.model.model_copy(update={"stated_mass": stated})
    else:
        told = float(f"{volume:.6g}")
        model = planted.model.model_copy(update={"stated_volume": StatedVolume(mm3=told, tolerance=5e-6 * volume)})
    wanted = expected(model)
    if wanted is None or wanted.fits(made):
        return None  # a slip that does not show
    return model, planted, made


def rank(seed: int, engine: Engine) -> tuple[int, int | None, tuple[Suspect, ...], Planted] | None:
    """(place of the true slip from 0 by itself, and with shared places; suspects, what was planted) of one part.

    A place is None where it is not among them (-1 by itself); None when the part cannot be.
    """
    case = make(seed, engine)
    if case is None:
        return None
    model, planted, made = case
    wanted = expected(model)
    assert wanted is not None
    found = answered(engine, hunt(model, made, wanted))
    place = next((i for i, s in enumerate(found) if s.target in planted.targets), None)
    alone = -1 if place is None else place
    if place is not None:
        # those before it that make the very same volume share its place
        place = sum(abs(s.volume - found[place].volume) > 1e-9 * made for s in found[:place])
    return alone, place, found, planted


def main(parts: int, seed: int, say: Callable[[str], object] = print) -> tuple[int, int, int]:
    """(first, in the first three, all)."""
    engine, begin, k = Engine(), time.perf_counter(), seed
    places: list[int | None] = []
    kinds: Counter[tuple[str, str]] = Counter()
    by_itself = 0
    while len(places) < parts:
        got = rank(k, engine)
        k += 1
        if got is None:
            continue
        alone, place, found, planted = got
        kind = planted.kind
        by_itself += alone == 0
        places.append(place)
        kinds[kind, "first" if place == 0 else "third" if place is not None and place < 3 else "missed"] += 1
        if place != 0:
            told = [(s.target, s.slips[0].kind, s.slips[0].now, round(s.share, 2)) for s in found[:3]]
            say(f"seed {k - 1}: {kind} at {sorted(planted.targets)}, place {place}: {told}")
    first, three = sum(p == 0 for p in places), sum(p is not None and p < 3 for p in places)
    each = (time.perf_counter() - begin) / parts
    say(f"{first} of {parts} first ({by_itself} by itself), {three} in the first three; {each:.1f} s a part")
    say(", ".join(f"{a} {b}: {n}" for (a, b), n in sorted(kinds.items())))
    return first, three, parts


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 40, int(sys.argv[2]) if len(sys.argv) > 2 else 1000)
