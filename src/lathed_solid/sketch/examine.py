"""One look at a sketch: solve it, say whether it is held, loose or fighting, and why."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from lathed_solid.errors import LathedError
from lathed_solid.sketch.conflicts import Fight, Label, Show, fights, in_mm, plain, words
from lathed_solid.sketch.constraints import KINDS
from lathed_solid.sketch.diagnosis import Freedoms, Redundancy, freedoms, redundancies
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.solve import Solution, moved, sane, solve

State = Literal["held", "loose", "fighting", "stuck"]

#: (expression, "length" or "angle") -> mm or rad; raises QuantityError
Evaluate = Callable[[str, str], float]

NOTHING = Freedoms(0, (), frozenset())
LOOKING = "these dimensions and relations cannot all hold; looking for those that contradict each other"


@dataclass(frozen=True)
class Examination:
    """``sketch``: the solved figure, or the one put in when there is none. ``messages``: the state in words."""

    sketch: Sketch
    state: State
    values: Mapping[str, float]
    solution: Solution | None = field(repr=False)
    freedoms: Freedoms
    redundancies: tuple[Redundancy, ...]
    fights: tuple[Fight, ...]
    messages: tuple[str, ...]
    #: there is no solution, and which constraints contradict each other is still to be looked for
    unfinished: bool = False

    @property
    def fighting(self) -> frozenset[str]:
        """Constraints that take part in a fight."""
        return frozenset(n for f in self.fights for n in f.constraints)

    @property
    def ok(self) -> bool:
        """Whether the figure could be solved."""
        return self.state in ("held", "loose")


def dimension_values(sketch: Sketch, evaluate: Evaluate) -> dict[str, float]:
    """Values (mm, rad) of the driving dimensions. Raises SketchError naming the dimension."""
    out = {}
    for c in sketch.driving:
        try:
            out[c.id] = evaluate(c.value, KINDS[c.kind].dimension)
        except LathedError as exc:
            where = f"{KINDS[c.kind].words} {c.id}"
            raise SketchError(exc.what, where=where, received=c.value, hint=exc.hint) from None
    return out


def examine(
    sketch: Sketch,
    values: Mapping[str, float],
    *,
    label: Label | None = None,
    show: Show = in_mm,
    thorough: bool = True,
    fights_too: bool = True,
) -> Examination:
    """Solve and diagnose; what is said twice only when ``thorough``.

    Which constraints contradict each other takes many trial solves: without ``fights_too`` a figure that has no
    solution is left ``unfinished``, for ``finished`` to look into. Raises SketchError for an impossible value (a
    negative radius, not a number).
    """
    solution = solve(sketch, values)
    if not solution.ok:
        quick = Examination(sketch, "fighting", values, solution, NOTHING, (), (), (LOOKING,), unfinished=True)
        return finished(quick, label, show) if fights_too else quick
    if not sane(solution):
        raise SketchError("the solved figure is larger than 1 km", hint="smaller values")
    solved = moved(sketch, solution.x)
    free = freedoms(sketch, values, solution.x)
    again = redundancies(sketch, values, solution.x) if thorough else ()
    if free.curved:  # first order names what is needed to second order: only what can go without loss says again
        again = tuple(r for r in again if freedoms(_without(sketch, r), values, solution.x).count == free.count)
    return Examination(
        solved,
        "loose" if free.count else "held",
        values,
        solution,
        free,
        again,
        (),
        _messages(sketch, free, again, label),
    )


def finished(seen: Examination, label: Label | None = None, show: Show = in_mm) -> Examination:
    """An unfinished examination with its fights and the ways out of them, or why no shape was found."""
    sketch, solution = seen.sketch, seen.solution
    assert solution is not None
    found = fights(sketch, seen.values, solution)
    if found:
        texts = tuple(words(sketch, f, seen.values, label, show) for f in found)
        return replace(seen, fights=found, messages=texts, unfinished=False)
    worst = sketch.constraint(solution.worst)
    at = f" at {(label or plain)(worst)}" if worst is not None else ""
    reason = f"no shape was found from here: {solution.reason}{at}"
    return replace(seen, state="stuck", messages=(reason,), unfinished=False)


def _without(sketch: Sketch, again: Redundancy) -> Sketch:
    kept = tuple(c for c in sketch.constraints if c.id != again.constraint)
    return sketch.model_copy(update={"constraints": kept})


def _messages(sketch: Sketch, free: Freedoms, again: tuple[Redundancy, ...], label: Label | None) -> tuple[str, ...]:
    out = []
    if free.count:
        out.append(f"loose: {free.count} free movement{'s' if free.count > 1 else ''}")
        out += [m.words for m in free.movements[:6]]
    out += [repeat_words(sketch, r, label) for r in again]
    return tuple(out)


def repeat_words(sketch: Sketch, again: Redundancy, label: Label | None = None) -> str:
    """What is said twice, in words."""
    say = label or plain
    said, *by = (say(c) if (c := sketch.constraint(i)) else i for i in (again.constraint, *again.says[:4]))
    if not by:
        return f"{said} is true by itself"
    return f"{said} says again what {' and '.join(by)} fix{'es' if len(again.says) == 1 else ''} already"
