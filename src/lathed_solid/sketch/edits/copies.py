"""Mirror (linked by symmetry), row, grid and circular copies."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Iterable

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, place, settle
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Arc, Circle, Line, Sketch
from lathed_solid.sketch.plane import mirrored

COPIES_MOST = 500
#: relations that a turned copy does not keep
LEVEL = frozenset({"horizontal", "vertical", "across_x", "across_y"})


def _copy(
    draft: SketchBuilder,
    names: list[str],
    to: Callable[[complex], complex],
    *,
    flip: bool = False,
    keep: frozenset[str] | None,
) -> dict[str, str]:
    """Copies of entities under a map of the plane; old id to new. ``keep``: constraint kinds to drop, None for all."""
    made: dict[str, str] = {}
    whole = [n for n in names if draft.entities[n].kind != "point"]
    for n in dict.fromkeys([*(p for w in whole for p in draft.entities[w].points), *names]):
        e = draft.entities[n]
        if e.kind == "point" and n not in made:
            z = to(place(draft, n))
            made[n] = draft.point(z.real, z.imag, construction=e.construction)
    for n in whole:
        e = draft.entities[n]
        letter = n.rstrip("0123456789")
        fields: dict[str, object] = {"id": draft.name(letter), "source": ""}
        for key in ("start", "end", "centre", "major", "at"):
            if hasattr(e, key):
                fields[key] = made[getattr(e, key)]
        if isinstance(e, Arc) and flip:
            fields["start"], fields["end"] = fields["end"], fields["start"]
        if hasattr(e, "through"):
            fields["through"] = tuple(made[p] for p in e.through)
        copy = e.model_copy(update=fields)
        draft.entities[copy.id] = copy
        made[n] = copy.id
    if keep is not None:
        for c in list(draft.constraints.values()):
            if c.kind not in keep and all(o in made for o in c.of) and c.kind != "fixed":
                of = tuple(made[o] for o in c.of)
                fresh = draft.name("k")
                draft.constraints[fresh] = c.model_copy(update={"id": fresh, "of": of})
    return made


def mirror(sketch: Sketch, values: Values, names: Iterable[str], axis: str) -> Sketch:
    """Mirrored copies, each point symmetric to its original about the line ``axis``, radii equal."""
    draft = SketchBuilder(sketch)
    names = [n for n in names if n != axis]
    line = draft.entities.get(axis)
    if not isinstance(line, Line) or not names:
        raise SketchError("a mirror needs something to mirror and a line to mirror about", received=axis)
    a, b = place(draft, line.start), place(draft, line.end)
    made = _copy(draft, names, lambda z: mirrored(z, a, b), flip=True, keep=None)
    for old, new in made.items():
        e = draft.entities[old]
        if e.kind == "point":
            draft.add("symmetric", old, new, axis)
        elif isinstance(e, Circle):
            draft.add("equal", old, new)
    _drop_arc_excess(draft, made)
    return settle(draft, values, made.values())


def _drop_arc_excess(draft: SketchBuilder, made: dict[str, str]) -> None:
    """An arc's ends are on its circle by nature: symmetric centre and start leave only the angle of the other end."""
    for old in made:
        e = draft.entities[old]
        if not isinstance(e, Arc) or sum(e.end in o.points for o in draft.entities.values() if o.kind != "point") > 1:
            continue  # another curve needs the end itself
        image = made[e.end]
        for i, c in list(draft.constraints.items()):
            if c.kind == "symmetric" and c.of[:2] == (e.end, image):
                del draft.constraints[i]
                draft.add("perpendicular", c.of[2], draft.line(e.end, image, construction=True))


def row(sketch: Sketch, values: Values, names: Iterable[str], step: tuple[float, float], count: int,
        expressions: tuple[str, str]) -> Sketch:  # fmt: skip
    """``count`` in all, each ``step`` mm from the last; the steps are dimensioned by ``expressions`` (x, y)."""
    return grid(sketch, values, names, step, (0.0, 0.0), (count, 1), (expressions, ("0", "0")))


def grid(
    sketch: Sketch,
    values: Values,
    names: Iterable[str],
    step: tuple[float, float],
    step2: tuple[float, float],
    counts: tuple[int, int],
    expressions: tuple[tuple[str, str], tuple[str, str]],
) -> Sketch:
    """Copies in two directions; each copy keeps the inner constraints and is dimensioned from the original."""
    _check_count(counts[0] * counts[1])
    draft = SketchBuilder(sketch)
    names = list(names)
    if not names:
        raise SketchError("nothing is picked to copy")
    anchor = next(iter(draft.entities[names[0]].points))
    touched: list[str] = []
    for i in range(counts[0]):
        for j in range(counts[1]):
            if i == j == 0:
                continue
            by = complex(i * step[0] + j * step2[0], i * step[1] + j * step2[1])
            made = _copy(draft, names, lambda z, by=by: z + by, keep=frozenset())  # type: ignore[misc]
            for axis, k in (("across_x", 0), ("across_y", 1)):
                texts = [f"{m} * ({e[k]})" for m, e in ((i, expressions[0]), (j, expressions[1])) if m and e[k] != "0"]
                if texts:
                    draft.add(axis, anchor, made[anchor], value=" + ".join(texts))  # type: ignore[arg-type]
                else:
                    draft.add("vertical" if axis == "across_x" else "horizontal", anchor, made[anchor])
            touched += made.values()
    return settle(draft, values, touched)


def circular(
    sketch: Sketch, values: Values, names: Iterable[str], centre: str, count: int, angle: float = 2 * math.pi
) -> Sketch:
    """``count`` in all about a point, spread over ``angle`` rad; points stay at equal distance from the centre."""
    _check_count(count)
    draft = SketchBuilder(sketch)
    names = [n for n in names if n != centre]
    if not names or draft.entities.get(centre) is None or draft.entities[centre].kind != "point":
        raise SketchError("circular copies need something to copy and a centre point", received=centre)
    middle = place(draft, centre)
    full = math.isclose(angle, 2 * math.pi)
    step = angle / (count if full else max(count - 1, 1))
    anchor = next((p for p in draft.entities[names[0]].points if abs(place(draft, p) - middle) > ROUNDING), None)
    if anchor is None:
        raise SketchError("the copies would all fall on the centre", received=names[0])
    spoke = draft.line(centre, anchor, construction=True)
    touched: list[str] = []
    for k in range(1, count):
        made = _copy(draft, names, lambda z, k=k: middle + (z - middle) * cmath.rect(1, k * step), keep=LEVEL)  # type: ignore[misc]
        for old, new in made.items():
            if isinstance(draft.entities[old], Circle) and not _sized(draft, new):
                draft.add("equal", old, new)
        other = draft.line(centre, made[anchor], construction=True)
        draft.add("equal", spoke, other)
        degrees = math.degrees(k * step)
        shown, side = (degrees, 1) if k * step <= math.pi else (360 - degrees, -1)
        draft.add("angle", spoke, other, value=f"{shown:.12g} deg", side=side)
        touched += made.values()
    return settle(draft, values, touched)


def _sized(draft: SketchBuilder, name: str) -> bool:
    return any(c.kind in ("radius", "diameter") and c.of == (name,) for c in draft.constraints.values())


def _check_count(count: int) -> None:
    if not 2 <= count <= COPIES_MOST:
        raise SketchError(f"the number of copies must be 2 to {COPIES_MOST}", received=count)
