"""Single slips that people make between paper and model, each as the document without it.

If a slip was made in the model, undoing it gives the part as drawn; so every slip here is tried the other way round: a
diameter that may be a radius taken for one is doubled, a step that may be forgotten is taken in again. ``prior`` says
how often such a slip is met, from practitioners' own accounts: half of them are radius for diameter, half for whole,
blind for through, and depth from the wrong face.
"""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from lathed_solid.part import Document
from lathed_solid.part.edits import changed, dependents, put_step
from lathed_solid.proof.sizes import DrivingSize, Path, field_leaves, with_leaf
from lathed_solid.quantity import names_in
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.units import MM_PER_INCH, unit_factor
from lathed_solid.standards.materials import materials

#: digits that are taken for one another
ALIKE = {frozenset(p) for p in ("17", "38", "56", "68", "60", "49", "89", "27", "35", "08")}


#: a callout by itself, doubled or halved
FACTOR = re.compile(r"(?P<name>#\d+)\s*[*/]\s*2|2\s*\*\s*(?P<other>#\d+)")

Apply = Callable[[Document], Document]


@dataclass(frozen=True)
class Slip:
    """``target``: what was slipped at; ``was``, ``now``: in the model, and without the slip; ``why`` it is plausible.

    ``apply`` gives the model without it; None when only the volume is known: ``estimate`` (mm3), or for another
    material ``density`` (g/mm3).
    """

    kind: str
    target: str
    was: str
    now: str
    why: str
    prior: float
    apply: Apply | None = None
    estimate: float | None = None
    density: float | None = None
    #: for a changed size: where and to what
    size: DrivingSize | None = None
    value: float = 0.0


def size_slips(document: Document, size: DrivingSize) -> Iterator[Slip]:
    """Another value of one size: factors of two, units, digits."""

    def slip(kind: str, value: float, why: str, prior: float) -> Slip:
        return Slip(kind, size.target, size.show(size.value, document), size.show(value, document), why, prior,
                    lambda d: size.put(d, value), size=size, value=value)  # fmt: skip

    p = size.value
    if size.kind in ("diameter", "radius"):
        yield slip("radius for diameter", 2 * p, "a radius was taken for the diameter", 1.0)
        yield slip("radius for diameter", p / 2, "a diameter was taken for the radius", 1.0)
    elif size.kind != "angle":
        yield slip("half for whole", 2 * p, "half was taken for the whole", 0.6)
        yield slip("half for whole", p / 2, "the whole was taken for half", 0.6)
    else:
        yield slip("half for whole", 2 * p, "half the angle was taken for all of it", 0.4)
        yield slip("half for whole", p / 2, "the included angle was taken for half", 0.4)
        yield slip("the other angle", math.pi / 2 - p, "the complement was taken", 0.3)
    if size.kind == "angle":
        return
    yield slip("wrong unit", p * MM_PER_INCH, "inches were taken for millimetres", 0.3)
    yield slip("wrong unit", p / MM_PER_INCH, "millimetres were taken for inches", 0.3)
    for value, why, prior in digit_slips(p, document):
        yield slip("digits", value, why, prior)


def digit_slips(value: float, document: Document) -> Iterator[tuple[float, str, float]]:
    """Values that are one slip of the pen away: digits swapped, one misread, one left out, the point moved."""
    factor = unit_factor(document.unit)
    text = length(value, document.unit)
    seen = {text}
    digits = [i for i, c in enumerate(text) if c.isdigit()]

    def fresh(new: str, why: str, prior: float) -> Iterator[tuple[float, str, float]]:
        try:
            number = float(new)
        except ValueError:
            return
        if number > 0 and new not in seen:
            seen.add(new)
            yield number * factor, why, prior

    for i, j in itertools.pairwise(digits):
        swapped = list(text)
        swapped[i], swapped[j] = swapped[j], swapped[i]
        yield from fresh("".join(swapped), f"two digits were swapped: {''.join(swapped)} read as {text}", 0.2)
    for i in digits:
        for c in "0123456789":
            alike = frozenset((c, text[i])) in ALIKE
            new = text[:i] + c + text[i + 1 :]
            yield from fresh(new, f"{c} was read as {text[i]}", 0.06 if alike else 0.02)
    for i in digits:
        if len(digits) > 1:
            yield from fresh(text[:i] + text[i + 1 :], f"a {text[i]} too many", 0.03)
    for power, why in ((10, "the point was moved"), (0.1, "the point was moved")):
        yield from fresh(length(value * power, document.unit), why, 0.1)


def other_slips(document: Document, volume: float) -> Iterator[Slip]:
    """Slips of steps, counts, ends, modes, uses of callouts, units and the material. ``volume``: the model's, mm3."""
    for step in document.steps:
        yield from _step_slips(document, step)
    yield from _left_out(document, volume)
    yield from _materials(document)
    for factor, words in ((MM_PER_INCH, "inches"), (1 / MM_PER_INCH, "millimetres")):
        yield Slip("wrong unit", "all of the part", document.unit, words, f"the whole drawing is in {words}", 0.3,
                   estimate=volume * factor**3)  # fmt: skip


def _step_slips(document: Document, step: Any) -> Iterator[Slip]:
    title, number = step.title(), step.number

    def slip(kind: str, was: str, now: str, why: str, prior: float, apply: Apply) -> Slip:
        return Slip(kind, f"step {number}", was, now, why, prior, apply)

    if step.suspended:
        yield slip("forgotten step", "suspended", title, "it was left suspended", 1.0,
                   lambda d: with_leaf(d, number, ("suspended",), False))  # fmt: skip
        return
    if step.kind == "sketch":
        return
    later = dependents(document, number)
    yield slip("step too many", title, "left out", "it is not on the drawing, or done twice", 0.15 if later else 0.3,
               lambda d: _without(d, (number, *later)))  # fmt: skip
    mode = getattr(step, "mode", None)
    if mode in ("add", "cut"):
        other = "cut" if mode == "add" else "add"
        yield slip("cut for add", mode, other, "added instead of cut, or cut instead of added", 0.5,
                   lambda d: with_leaf(d, number, ("mode",), other))  # fmt: skip
        side = {"front": "back", "back": "front"}.get(getattr(step, "side", ""))
        if side is not None:

            def turned_over(d: Document) -> Document:
                return with_leaf(with_leaf(d, number, ("mode",), other), number, ("side",), side)

            yield slip("cut for add", mode, f"{other}, {side}", "added, not cut, to the other side", 0.4, turned_over)
    if step.kind == "hole":
        yield from _hole_slips(document, step)
    yield from _count_slips(document, step)
    yield from _use_slips(document, step)


def _without(document: Document, numbers: Sequence[int]) -> Document:
    for n in numbers:
        found = document.step(n)
        if found is not None:
            document = put_step(document, changed(found, suspended=True))
    return document


def _hole_slips(document: Document, step: Any) -> Iterator[Slip]:
    number = step.number

    def slip(kind: str, was: str, now: str, why: str, prior: float, field: str, value: Any) -> Slip:
        return Slip(kind, f"step {number}", was, now, why, prior, lambda d: with_leaf(d, number, (field,), value))

    if step.depth is None:
        used = document.used_balloons()
        for c in document.callouts:
            if c.kind in ("depth", "length") and c.balloon not in used:
                why = f"callout {c.balloon} is its depth"
                yield slip("blind for through", "through", c.show(), why, 0.8, "depth", c.name)
        return
    yield slip("blind for through", "blind", "through", "the hole goes through", 0.8, "depth", None)
    end = "shoulder" if step.depth_to == "tip" else "tip"
    yield slip("depth to the wrong end", step.depth_to, end, f"the depth is to the {end}", 0.5, "depth_to", end)
    if step.cbore_depth is not None:
        deeper = f"{step.depth} + {step.cbore_depth}"
        why = "the depth is from the counterbore's floor"
        yield slip("depth from the wrong face", step.depth, deeper, why, 0.5, "depth", deeper)


def _count_slips(document: Document, step: Any) -> Iterator[Slip]:
    """One more or one fewer, or as many as the callouts of the step say."""
    number = step.number
    said = {c.count for b in step.balloons() if (c := document.callout(b)) is not None and c.count > 1}
    for group in ("places", "layout"):
        holder = getattr(step, group, None)
        for name in ("count", "nx", "ny"):
            n = getattr(holder, name, None)
            if not isinstance(n, int):
                continue
            for other in sorted({n - 1, n + 1, *said} - {n, 0}):
                told = other in said and name == "count"
                why = "the note says so many" if told else "one was left out or counted twice"
                path = (group, name)
                yield Slip("count", f"step {number}", str(n), str(other), why, 1.0 if told else 0.5,
                           partial(with_leaf, number=number, path=path, text=other))  # fmt: skip


def _use_slips(document: Document, step: Any) -> Iterator[Slip]:
    """A field that takes half or twice what it says, or another callout that nothing uses."""
    number, used = step.number, document.used_balloons()
    spare = [c for c in document.callouts if c.balloon not in used]
    for path, text, label, kind in field_leaves(step):
        if kind not in ("length", "angle") or not names_in(text):
            continue

        def use(what: str, now: str, why: str, prior: float, path: Path = path, text: str = text,
                label: str = label) -> Slip:  # fmt: skip
            return Slip(
                what, f"step {number} {label}", text, now, why, prior, lambda d: with_leaf(d, number, path, now)
            )

        bare = FACTOR.fullmatch(text)
        if bare is not None:
            why = "the field takes a share of the callout"
            yield use("half for whole", bare["name"] or bare["other"], why, 1.2)
            continue
        yield use("half for whole", f"({text}) * 2", "half is entered for the whole", 0.3)
        yield use("half for whole", f"({text}) / 2", "the whole is entered for half", 0.3)
        own = document.callout(int(text[1:])) if text.startswith("#") and text[1:].isdigit() else None
        for other in spare:
            if own is not None and other.kind == own.kind and other.count == own.count:
                why = f"callout {other.balloon} is not used, and {own.balloon} stands here"
                yield use("another callout", other.name, why, 0.5)


def _left_out(document: Document, volume: float) -> Iterator[Slip]:
    """Holes whose callouts no step uses: what they would take away, by their own sizes."""
    used = document.used_balloons()
    spare = [c for c in document.callouts if c.balloon not in used]
    reach = max((c.nominal for c in document.callouts if c.kind == "length"), default=0.0)
    lengths = {c.nominal for c in document.callouts if c.kind in ("length", "depth")}
    lengths |= {a + b for a, b in itertools.combinations(sorted(lengths), 2)}
    for c in spare:
        if c.role not in ("hole diameter", "drill diameter"):
            continue
        depth = next((d for d in spare if d.note == c.note and d.role in ("hole depth", "hole depth to the tip")), None)
        area = math.pi / 4 * c.nominal**2 * c.count
        own = {d.role: d.nominal for d in spare if d.note == c.note}
        wide, down = own.get("counterbore diameter", 0.0), own.get("counterbore depth", 0.0)
        ring = math.pi / 4 * (wide**2 - c.nominal**2) * down * c.count if wide > c.nominal else 0.0
        # through: by some length of the drawing, which one cannot be told
        for deep in [depth.nominal] if depth is not None else [v for v in sorted(lengths) if v <= reach]:
            tip = c.count * math.pi / 24 * c.nominal**3 / math.tan(math.radians(59)) if depth is not None else 0.0
            size, told = (length(v, document.unit) for v in (c.nominal, deep))
            more = " and counterbored" if ring else ""
            why = f"no step uses it: {c.count} × ⌀{size}, {told} deep{more}"
            prior = 1.0 if depth is not None else 0.7 / max(len(lengths), 1)
            yield Slip("forgotten step", f"callout {c.balloon}", "not used", c.note.strip(), why, prior,
                       estimate=volume - area * deep - ring - tip)  # fmt: skip


def _materials(document: Document) -> Iterator[Slip]:
    for key, m in materials().items():
        if key != document.material:
            yield Slip("another material", "material", document.material, key, f"{m.density * 1000:.3g} g/cm³", 0.15,
                       density=m.density)  # fmt: skip
