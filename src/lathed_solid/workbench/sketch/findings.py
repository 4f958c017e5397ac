"""What there is to say about a sketch, as rows that can be pointed at: movements, fights with ways out, flaws."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from lathed_solid.sketch.alternatives import Alternative
from lathed_solid.sketch.check import Finding
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.edits import remove, set_value
from lathed_solid.sketch.examine import repeat_words
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.outside import follow, moved_outside
from lathed_solid.sketch.watch import TurnedOver
from lathed_solid.workbench.sketch.view_model import SketchState

Apply = Callable[[], Sketch]


@dataclass(frozen=True)
class Remark:
    """``ghost``: a figure shown while pointed at; ``movement``: one to animate; ``apply``: what a double click does."""

    text: str
    entities: tuple[str, ...] = ()
    ghost: np.ndarray | None = None
    movement: np.ndarray | None = None
    apply: Apply | None = None
    label: str = ""
    head: bool = False
    picture: bool = False


def rows(state: SketchState, outline: tuple[Edge, ...] = ()) -> list[Remark]:
    """Moved outside edges, movements of a loose sketch, ways out of fights, what is said twice."""
    seen = state.seen
    if seen is None:
        return [Remark(state.problem)] if state.problem else []
    out = _outside_rows(state.sketch, outline)
    words = "by the values of its callouts: Ctrl+Z takes them back"
    out += [Remark(f"{t.words}, {words}", t.entities, head=True) for t in state.turned]
    if seen.unfinished:
        return [*out, *(Remark(m, head=True) for m in seen.messages)]
    for fight, words in zip(seen.fights, seen.messages, strict=False):
        out.append(Remark(words, _entities(state, fight.constraints), head=True))
        # what was made last comes first, and numbers before relations
        rank = {k.id: (k.kind not in DIMENSIONS, -i) for i, k in enumerate(state.sketch.constraints)}
        for way in sorted(fight.ways, key=lambda w: rank[w.constraint]):
            c = state.sketch.constraint(way.constraint)
            if c is None:
                continue
            said = state.label(c)
            if way.value is not None:
                fixed = state.show(way.value, KINDS[c.kind].dimension == "angle")
                value = fixed if fixed.endswith("°") else f"{fixed} {state.document.unit}"
                out.append(Remark(f"make {said} → {value}", c.of, way.x, apply=_valued(state.sketch, c.id, fixed),
                               label=f"change {said}"))  # fmt: skip
                out.append(Remark(f"make {said} a reference", c.of, way.x, apply=_referenced(state.sketch, c),
                               label=f"make {said} a reference"))  # fmt: skip
            out.append(Remark(f"drop {said}", c.of, way.x, apply=_dropped(state.sketch, c.id), label=f"drop {said}"))
    if seen.state == "stuck":
        out += [Remark(m) for m in seen.messages]
    for m in seen.freedoms.movements[:12]:
        out.append(Remark(m.words, m.entities, movement=m.x))
    for again in seen.redundancies:
        c = state.sketch.constraint(again.constraint)
        if c is None:
            continue
        text = repeat_words(state.sketch, again, state.label)
        if not again.whole:
            out.append(Remark(f"{text}, in part: it holds more than that, keep it", c.of))
            continue
        out.append(Remark(f"{text}: drop it", c.of, apply=_dropped(state.sketch, c.id), label=f"drop {state.label(c)}"))
    return out


def turned_rows(found: tuple[TurnedOver, ...], before: Sketch) -> list[Remark]:
    """What an edit turned over; a double click goes back."""
    back = Remark("another figure than before? the figure as it was", apply=lambda: before, label="back", head=True)
    return [back, *(Remark(t.words, t.entities) for t in found)]


def lost_rows(before: Sketch, state: SketchState) -> list[Remark]:
    """What was said of the figure before and is no longer: relations let go, dimensions that only tell now."""
    now, left = {c.id: c for c in state.sketch.constraints}, set(state.sketch.by_id)
    out = []
    for c in before.constraints:
        if c.id not in now and c.kind != "coincident" and left.issuperset(c.of):
            out.append(Remark(f"{KINDS[c.kind].words} ({', '.join(c.of)}) no longer holds and was let go", c.of))
        elif c.id in now and now[c.id].reference and not c.reference:
            out.append(Remark(f"the dimension {c.value} no longer holds and is a reference now", now[c.id].of))
    return out


def _outside_rows(sketch: Sketch, outline: tuple[Edge, ...]) -> list[Remark]:
    """Outside geometry that no longer lies on the body's edges."""
    if not outline:
        return []
    away = moved_outside(sketch, outline)
    gone = [n for n, edge in away.items() if edge is None]
    out = [Remark(f"the body's edge under {n} is gone: remove {n}, or take another edge", (n,)) for n in gone]
    moved = tuple(n for n in away if n not in gone)
    if moved:
        words = f"the body's edges under {', '.join(moved)} have moved: follow them"
        apply = None if gone else (lambda: follow(sketch, outline))
        out.append(Remark(words, moved, apply=apply, label="follow the body's edges", head=True))
    return out


def check_rows(found: tuple[Finding, ...]) -> list[Remark]:
    """The check's findings."""
    if not found:
        return [Remark("the check found nothing: no open ends, no crossings, nothing twice", head=True)]
    return [Remark(f.words, f.entities) for f in found]


def alternative_rows(found: tuple[Alternative, ...]) -> list[Remark]:
    """Other shapes that satisfy everything."""
    if not found:
        return [Remark("no other shape satisfies everything", head=True)]
    head = Remark(f"{len(found)} other shape{'s' if len(found) > 1 else ''}: double click takes one", head=True)
    shapes = [
        Remark(f"shape {i + 2}", ghost=a.x, apply=_taken(a), label=f"take shape {i + 2}", picture=True)
        for i, a in enumerate(found)
    ]
    return [head, *shapes]


def _taken(other: Alternative) -> Apply:
    return lambda: other.sketch


def proposal_rows(state: SketchState, proposed: tuple[Constraint, ...], apply: Apply) -> list[Remark]:
    """Dimensions that would make the figure held."""
    if not proposed:
        return [Remark("nothing that can be dimensioned would hold it", head=True)]
    many = f"{len(proposed)} constraints" if len(proposed) > 1 else "1 constraint"
    out = [Remark(f"take these {many}: the figure is held then", apply=apply, label="complete the sketch", head=True)]
    for c in proposed:
        note = next((k.note for k in state.document.callouts if k.name == c.value), "")
        value = f" {c.value}" + (f" ({note})" if note else "") if c.value else ""
        out.append(Remark(f"{KINDS[c.kind].words}{value} on {', '.join(c.of)}", c.of))
    return out


def _entities(state: SketchState, constraints: tuple[str, ...]) -> tuple[str, ...]:
    found = (state.sketch.constraint(n) for n in constraints)
    return tuple(dict.fromkeys(e for c in found if c is not None for e in c.of))


def _dropped(sketch: Sketch, name: str) -> Apply:
    return lambda: remove(sketch, [name])


def _valued(sketch: Sketch, name: str, value: str) -> Apply:
    return lambda: set_value(sketch, name, value)


def _referenced(sketch: Sketch, c: Constraint) -> Apply:
    return lambda: set_value(sketch, c.id, c.value, reference=True)
