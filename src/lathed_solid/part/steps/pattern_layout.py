"""Where copies stand: in a row, a grid, a ring, along a curve, or at listed places. Copy 0 is the original."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.names import renamed, steps_in
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepError
from lathed_solid.part.steps.resolved import ResolvedPlane
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR
from lathed_solid.record import Record

Name = Annotated[str, Field(min_length=1, max_length=900)]
Many = Annotated[int, Field(ge=1, le=2000)]


class RowLayout(Record):
    """Along an axis; ``spacing`` from copy to copy, or from the first to the last when ``total``."""

    kind: Literal["row"] = "row"
    along: Name = "X"
    spacing: Cell = "20"
    count: Many = 2
    total: bool = False


class GridLayout(Record):
    """Along two axes."""

    kind: Literal["grid"] = "grid"
    along: Name = "X"
    spacing: Cell = "20"
    count: Many = 2
    along2: Name = "Y"
    spacing2: Cell = "20"
    count2: Many = 2


class RingLayout(Record):
    """About an axis; ``angle`` from copy to copy, or over all (360° closes the ring) when ``total``."""

    kind: Literal["ring"] = "ring"
    about: Name = "Z"
    angle: Cell = "360°"
    count: Many = 4
    total: bool = True


class CurveLayout(Record):
    """Evenly along the curves of a sketch, turned with them when ``follow``."""

    kind: Literal["curve"] = "curve"
    sketch: int = Field(ge=1, le=99_990)
    count: Many = 4
    follow: bool = False


class ListLayout(Record):
    """Moves of each copy from the original: x, y, z."""

    kind: Literal["list"] = "list"
    rows: tuple[tuple[Cell, Cell, Cell], ...] = Field(default=(("20", "0", "0"),), min_length=1, max_length=2000)


Layout = Annotated[RowLayout | GridLayout | RingLayout | CurveLayout | ListLayout, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class ResolvedLayout:
    """``moves`` of each copy but the first: amounts along ``axes`` (mm), a turn about the first axis (rad), or x, y, z.

    curve: ``moves`` are (x, y, turn) in the sketch's ``plane`` from the curve's start.
    """

    kind: str
    axes: tuple[str, ...]
    moves: tuple[tuple[float, ...], ...]
    plane: ResolvedPlane | None = None


def resolve_layout(layout: Any, evaluate: Resolver) -> ResolvedLayout:
    """Figures of a layout. Raises StepError."""
    read = Reader(evaluate)
    if isinstance(layout, RowLayout):
        step = _spacing(read, "spacing", layout.spacing, layout.count, layout.total)
        return ResolvedLayout("along", (layout.along,), tuple((k * step,) for k in range(1, layout.count)))
    if isinstance(layout, GridLayout):
        a = _spacing(read, "spacing", layout.spacing, layout.count, False)
        b = _spacing(read, "second spacing", layout.spacing2, layout.count2, False)
        moves = tuple((i * a, j * b) for j in range(layout.count2) for i in range(layout.count) if i or j)
        return ResolvedLayout("along", (layout.along, layout.along2), moves)
    if isinstance(layout, RingLayout):
        angle = read.any("angle", layout.angle, "angle")
        if layout.total:
            closed = abs(abs(angle) - 2 * math.pi) < ANGULAR
            angle /= layout.count if closed else max(layout.count - 1, 1)
        if abs(angle) < LINEAR or abs(angle) * (layout.count - 1) > 2 * math.pi - ANGULAR:
            raise StepError("the copies of the ring fall on one another", where="angle", received=layout.angle)
        return ResolvedLayout("about", (layout.about,), tuple((k * angle,) for k in range(1, layout.count)))
    if isinstance(layout, ListLayout):
        rows = tuple(tuple(read.any(f"place {k} {n}", c) for n, c in zip("xyz", row, strict=True))
                     for k, row in enumerate(layout.rows, 1))  # fmt: skip
        if any(max(map(abs, r)) < LINEAR for r in rows) or len(set(rows)) != len(rows):
            raise StepError("two copies fall on one another", where="places")
        return ResolvedLayout("xyz", (), rows)
    return _along_curve(layout, evaluate)


def _spacing(read: Reader, field: str, text: str, count: int, total: bool) -> float:
    value = read.any(field, text)
    if total:
        value /= max(count - 1, 1)
    if count > 1 and not LINEAR < abs(value) <= 10_000:
        raise StepError(f"{field} must not be zero, and below 10 m", where=field, received=text)
    return value


def _along_curve(layout: CurveLayout, evaluate: Resolver) -> ResolvedLayout:
    import numpy as np

    from lathed_solid.sketch.geometry import shape

    found = evaluate.sketch(layout.sketch)
    curves = [c for c in found.sketch.curves if not c.construction]
    if not curves:
        raise StepError(f"sketch {layout.sketch} has no curve to follow", where="sketch")
    # a chain of pieces, each from where the last one ended
    chain = [shape(found.sketch, c.id) for c in curves]
    points = _sampled(chain)
    lengths = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(points)))])
    closed = abs(points[-1] - points[0]) < LINEAR
    at = np.linspace(0.0, lengths[-1], layout.count + (1 if closed else 0))[: layout.count]
    places = np.interp(at, lengths, points.real) + 1j * np.interp(at, lengths, points.imag)
    k = np.clip(np.searchsorted(lengths, at, side="right") - 1, 0, len(points) - 2)
    turns = np.angle(points[k + 1] - points[k])
    moves = tuple(
        (float((z - places[0]).real), float((z - places[0]).imag), float(t - turns[0]) if layout.follow else 0.0,
         float(places[0].real), float(places[0].imag))
        for z, t in zip(places[1:], turns[1:], strict=True)
    )  # fmt: skip
    return ResolvedLayout("curve", (), moves, found.plane)


def _sampled(chain: list[Any]) -> Any:
    """Places along joined pieces, in order, 2000 a piece."""
    import numpy as np

    t = np.linspace(0.0, 1.0, 2001)
    pieces = [np.array([c.at(float(x)) for x in t]) for c in chain]
    line = pieces.pop(0)
    while pieces:
        gaps = [(min(abs(line[-1] - p[0]), abs(line[-1] - p[-1])), i) for i, p in enumerate(pieces)]
        gap, i = min(gaps)
        back = [(min(abs(line[0] - p[0]), abs(line[0] - p[-1])), j) for j, p in enumerate(pieces)]
        if min(back)[0] < gap:
            line, (gap, i) = line[::-1], min(back)
        if gap > LINEAR:
            raise StepError("the curves do not join", where="sketch", hint="one open or closed chain")
        nxt = pieces.pop(i)
        line = np.concatenate([line, (nxt if abs(line[-1] - nxt[0]) <= abs(line[-1] - nxt[-1]) else nxt[::-1])[1:]])
    return line


AXES = ("along", "along2", "about")


def layout_fields(layout: Any, number: int) -> tuple[FieldOf, ...]:
    """Sizes of a layout, each with the probe that shows it on the copies of step ``number``."""
    out = []
    for name, kind in (("spacing", "length"), ("spacing2", "length"), ("angle", "angle")):
        if hasattr(layout, name):
            # copies go along the first way, then the second
            grid = isinstance(layout, GridLayout)
            first = str(layout.count) if name == "spacing2" else "1" if grid else "*"
            plain = not getattr(layout, "total", False)
            about: Literal["", "turn"] = "turn" if kind == "angle" else ""
            shown = Probe(kind="spacing", faces=(f"{number}/{first}",), about=about) if plain else None
            out.append(FieldOf(name, getattr(layout, name), kind, shown))  # type: ignore[arg-type]
    if isinstance(layout, ListLayout):
        out += [FieldOf(f"place {k}", c, "length", None) for k, row in enumerate(layout.rows, 1) for c in row]
    return tuple(out)


def layout_stands_on(layout: Any) -> frozenset[int]:
    """Numbers of the steps that a layout names."""
    names = [getattr(layout, a) for a in AXES if hasattr(layout, a)]
    own = frozenset({layout.sketch}) if isinstance(layout, CurveLayout) else frozenset()
    return own.union(*(steps_in(n) for n in names))


def layout_renumbered(layout: Any, renumber: Any) -> Any:
    """The layout after steps got other numbers."""
    new = {a: renamed(getattr(layout, a), renumber) for a in AXES if hasattr(layout, a)}
    if isinstance(layout, CurveLayout):
        new["sketch"] = renumber.get(layout.sketch, layout.sketch)
    return layout.model_copy(update=new)


def copies(layout: Any) -> int:
    """How many there are in all, the original among them."""
    if isinstance(layout, GridLayout):
        return int(layout.count * layout.count2)
    return len(layout.rows) + 1 if isinstance(layout, ListLayout) else int(layout.count)
