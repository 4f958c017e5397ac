"""Which dimension is meant by what is picked and where its text is put, and what else it could mean.

Two lines meeting at X make four sectors. With u, v along them, the text at T lies in the sector of their directions
(or the one opposite) when T - X = a u + b v with a b > 0, else in a supplementary one. A *diameter across* is meant
only about a declared centreline: a line marked as one, or the axis of a revolve.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lathed_solid.errors import LathedError
from lathed_solid.part import RevolveStep
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import ConstraintKind
from lathed_solid.sketch.geometry import Straight
from lathed_solid.sketch.model import Constraint, Line, Sketch
from lathed_solid.sketch.plane import components, crossing, parallel
from lathed_solid.workbench.sketch.places import anchor, spot
from lathed_solid.workbench.sketch.view_model import SketchState

#: dimensions that stand on one hand of something
_HANDED = frozenset({"distance", "across_x", "across_y", "across_axis", "near", "far"})
_ROUND = ("circle", "arc")
#: what a dimension of the same things could mean instead
_OTHERS: dict[str, tuple[ConstraintKind, ...]] = {
    "distance": ("across_x", "across_y", "across_axis"),
    "across_x": ("across_y", "distance"),
    "across_y": ("distance", "across_x"),
    "across_axis": ("distance",),
    "near": ("far",),
    "far": ("near",),
    "radius": ("diameter",),
    "diameter": ("radius",),
}


def dimension_for(
    state: SketchState, picked: tuple[str, ...], at: complex, clicks: Sequence[complex] = ()
) -> Constraint | None:
    """The dimension of ``picked`` whose text stands at ``at`` (mm); None where there is none between them.

    ``clicks``: where each was picked; on the far side of a circle, its far side is meant.
    """
    sketch = state.sketch
    by = sketch.by_id
    names = tuple(n for n in picked if n in by)
    kinds = [by[n].kind for n in names]
    order, kind, supplement = names, _single(sketch, names, at), False
    if kind is None and kinds == ["point", "point"]:
        kind = _direction_kind(_place(sketch, names[0]), _place(sketch, names[1]), at)
    elif kind is None and sorted(kinds) == ["line", "point"]:
        order = names if kinds[0] == "line" else names[::-1]
        kind = "across_axis" if is_centreline(state, order[0]) else "distance"
    elif kind is None and kinds == ["line", "line"]:
        u, v = (state.shape(n).along(0.5) for n in names)
        if not u or not v:
            return None  # a line of no length runs no way
        if not parallel(u, v):
            kind, supplement = "angle", in_supplement(state, names[0], names[1], at)
        else:
            kind = "distance"
            centre = [is_centreline(state, n) for n in names]
            if centre[0] != centre[1]:
                order, kind = (names if centre[0] else names[::-1]), "across_axis"
    elif kind is None and len(kinds) == 2 and {"circle", "arc"} & set(kinds):
        rank = {"point": 0, "line": 0, "circle": 1, "arc": 1}
        order = tuple(sorted(names, key=lambda n: rank.get(by[n].kind, 2)))
        where = dict(zip(picked, clicks, strict=False))
        kind = "far" if all(_far_side(state, n, order, where) for n in order if by[n].kind in _ROUND) else "near"
    return None if kind is None else _made(sketch, kind, order, at, supplement)


def _far_side(state: SketchState, name: str, pair: tuple[str, ...], where: Mapping[str, complex]) -> bool:
    """Whether a round one was picked on the side that is turned away from the other."""
    if name not in where:
        return False
    centre = spot(state.sketch, name)
    other = next(n for n in pair if n != name)
    e = state.sketch.by_id[other]
    if isinstance(e, Line):
        line = state.shape(other)
        assert isinstance(line, Straight)
        foot = line.foot(centre)
    else:
        foot = spot(state.sketch, other)
    return ((where[name] - centre).conjugate() * (foot - centre)).real < 0


def _single(sketch: Sketch, names: tuple[str, ...], at: complex) -> ConstraintKind | None:
    if len(names) != 1:
        return None
    e = sketch.by_id[names[0]]
    if isinstance(e, Line):
        return _direction_kind(_place(sketch, e.start), _place(sketch, e.end), at)
    return {"circle": "diameter", "arc": "radius"}.get(e.kind)  # type: ignore[return-value]


def _place(sketch: Sketch, point: str) -> complex:
    return complex(*sketch.at(point))


def _direction_kind(a: complex, b: complex, at: complex) -> ConstraintKind:
    """Aligned, or along x or y when placed well above, below or beside."""
    d = b - a
    if abs(d.real) < ROUNDING or abs(d.imag) < ROUNDING:
        return "distance"
    low_x, high_x = sorted((a.real, b.real))
    low_y, high_y = sorted((a.imag, b.imag))
    if low_x <= at.real <= high_x and not low_y <= at.imag <= high_y:
        return "across_x"
    if low_y <= at.imag <= high_y and not low_x <= at.real <= high_x:
        return "across_y"
    return "distance"


def is_centreline(state: SketchState, name: str) -> bool:
    """Whether a line was declared a centreline, or a step revolves this sketch about it."""
    line = state.sketch.by_id.get(name)
    if not isinstance(line, Line):
        return False
    number = state.step.number if state.step is not None else None
    turned = any(isinstance(s, RevolveStep) and s.sketch == number and s.axis == name for s in state.document.steps)
    return line.centreline or turned


def in_supplement(state: SketchState, first: str, second: str, at: complex) -> bool:
    """Whether a place lies between one of two crossing lines and the extension of the other."""
    s, t = state.shape(first), state.shape(second)
    u, v = s.along(0.5), t.along(0.5)
    a, b = components(at - crossing(s.at(0), u, t.at(0), v), u, v)
    return a * b < 0


def _made(
    sketch: Sketch, kind: ConstraintKind, of: tuple[str, ...], at: complex, supplement: bool = False
) -> Constraint | None:
    """With its side read from the figure, and its text where it was put."""
    try:
        draft = SketchBuilder(sketch)
        name = draft.add(kind, *of, value="0", supplement=supplement)
    except LathedError:
        return None
    c = draft.constraints[name]
    off = at - anchor(sketch, c)
    return c.model_copy(update={"label": (off.real, off.imag)})


def other_meanings(sketch: Sketch, c: Constraint) -> list[Constraint]:
    """What else a dimension of the same things could mean, its text where it is, as far as the figure allows it."""
    at = anchor(sketch, c) + (complex(*c.label) if c.label else 0j)
    if c.kind == "angle":
        found = [_made(sketch, "angle", c.of, at, supplement=not c.supplement)]
    else:
        found = [_made(sketch, kind, c.of, at) for kind in _OTHERS.get(c.kind, ())]
        if c.kind in ("near", "far"):
            found.append(_made(sketch, "distance", tuple(_middle(sketch, n) for n in c.of), at))
        if c.side and c.kind in _HANDED:
            found.append(c.model_copy(update={"side": -c.side}))
    return [k for k in found if k is not None]


def _middle(sketch: Sketch, name: str) -> str:
    """The centre of a round one; another thing itself."""
    e = sketch.by_id[name]
    return e.points[0] if e.kind in _ROUND else name


def meaning_words(c: Constraint, of: Constraint | None = None) -> str:
    """A dimension's meaning, for a button, beside what it means now."""
    if c.kind == "angle":
        return "the angle beside it"
    if of is not None and of.kind == c.kind:
        return "on the other side"
    if of is not None and of.kind in ("near", "far") and c.kind == "distance":
        return "to the centre"
    words = {
        "distance": "straight", "across_x": "in x", "across_y": "in y", "across_axis": "diameter about it",
        "near": "to the near side", "far": "over the far side", "radius": "radius", "diameter": "diameter",
    }  # fmt: skip
    return words[c.kind]
