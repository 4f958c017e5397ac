"""Solving: damped least squares from the present figure, so that it stays on its branch.

Levenberg-Marquardt with damping mu: (J^T J + mu I) s = -J^T r. From mu = 1e-2 down, steps are near the smallest
that do, so a loose sketch moves least. The gain ratio of each step steers mu (Nielsen's rule in steps; Madsen,
Nielsen and Tingleff 2004, ch. 3). When a change of values is too far for one go, the values are walked there in
stages. Not converging is a result with a reason, not an exception.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.quantity.tolerances import LINEAR, RELATIVE, ROUNDING
from lathed_solid.sketch.equations import Layout
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Circle, Constraint, Ellipse, Entity, Point, Sketch
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.system import System
from lathed_solid.sketch.watch import turned_over

TOLERANCE = 1e-10  # of the sketch's size
#: a hasty solve gives up when so many steps leave more than this share of the cost
HASTE, HARDLY = 8, 0.9
MOST_STEPS = 60
#: stages in which values are walked where a figure would turn over in one go
STEADY = 24
START_DAMPING = 1e-2
LEAST_DAMPING = 1e-11


@dataclass(frozen=True)
class Solution:
    """``x``: all unknowns (N,). ``error``: greatest residual, mm. ``worst``: constraint it belongs to."""

    ok: bool
    x: Array
    y: Array
    residual: Array
    error: float
    steps: int
    reason: str = ""
    worst: str = ""


def iterate(
    system: System, y: Array, *, tolerance: float = TOLERANCE, most: int = MOST_STEPS, hasty: bool = False
) -> Solution:
    """Damped least squares from ``y``; values and weights are in the system already.

    ``hasty``: given up when some steps together hardly bring anything, as where constraints contradict each other; a
    start that leads to a solution gains more, also where it converges only linearly.
    """
    system.prepare()
    limit = tolerance * system.size
    r, d = system.evaluate(y)
    cost, damping, taken, stuck = float(r @ r), START_DAMPING, 0, ""
    costs = [cost]
    while taken < most:
        if system.m == 0 or np.abs(r).max() <= limit:
            break
        if system.n == 0:
            stuck = "nothing is free to move"
            break
        normal, gradient = system.normal(d), system.gradient(d, r)
        taken += 1
        while True:
            step = system.damped_step(normal, -gradient, damping)
            if step is not None:
                trial = y + step
                r_new, d_new = system.evaluate(trial)
                new = float(r_new @ r_new)
                if new < cost:
                    break
            damping = max(damping, ROUNDING) * 8
            if damping > 1e8:
                stuck = "no step brings the constraints closer together"
                break
        if stuck or step is None:
            break
        foreseen = cost - float(np.sum((r + system.product(d, step)) ** 2))
        gain = (cost - new) / max(foreseen, 1e-300)
        small = (cost - new) < 1e-13 * cost and float(np.abs(step).max()) < 1e-11 * system.size
        y, r, d, cost = trial, r_new, d_new, new
        costs.append(cost)
        small |= hasty and taken >= HASTE and cost > HARDLY * costs[-1 - HASTE]
        damping = max(damping * (0.05 if gain > 0.7 else 0.5 if gain > 0.25 else 2.0), LEAST_DAMPING)
        if small:
            stuck = "the constraints contradict each other here"
            break
    error = float(np.abs(r).max(initial=0.0))
    ok = error <= max(limit, RELATIVE * system.size) and not system.clashes
    if ok:
        stuck = ""
    elif not stuck:
        stuck = f"not settled after {most} steps" if taken >= most else "two fixed points fall on one another"
    worst = "" if ok or system.m == 0 else system.owners[int(np.abs(r).argmax())]
    return Solution(ok, system.expand(y), y, r, error, taken, stuck, worst)


def solve_system(
    system: System, values: Mapping[str, float], start: Array | None = None, *, hasty: bool = False
) -> Solution:
    """Solve for ``values``; in one go, else by walking the values there in 4, then 16 stages.

    ``hasty``: for the many trials of which most have no solution (``iterate``).
    """
    y0 = _begin(system, values, system.x0 if start is None else start)
    first = iterate(system, y0, hasty=hasty)
    if first.ok or system.m == 0:
        return first
    return _walked(system, y0, (4, 16), hasty=hasty) or first


def _begin(system: System, values: Mapping[str, float], start: Array) -> Array:
    """The unknowns to start from; values and weights are in the system then."""
    y0 = _apart(system, system.reduce(start))
    system.set_values(values)
    system.set_weights(y0)
    return y0


def _gaps(system: System, y0: Array) -> list[Array]:
    """How far each group's values are from what the figure has."""
    r, _ = system.evaluate(y0)
    gaps = []
    for g in system.groups:
        now = r[g.first_row : g.first_row + g.at.shape[1]] / g.weight
        gaps.append(np.where((g.coefficient != 0) & (np.arange(len(g.p))[:, None] == 0), now, 0.0))
    return gaps


def _walked(system: System, y0: Array, ways: tuple[int, ...], *, hasty: bool = False) -> Solution | None:
    """The solution when the values are walked to theirs in so many stages, the first way that arrives."""
    target = [g.p.copy() for g in system.groups]
    gaps = _gaps(system, y0)
    for stages in ways:
        y = y0
        for k in range(1, stages + 1):
            for g, goal, gap in zip(system.groups, target, gaps, strict=True):
                g.p = goal + (1 - k / stages) * gap if len(goal) else goal
            system.set_weights(y)
            going = iterate(system, y, hasty=hasty)
            if not going.ok and k < stages:
                break
            y = going.y
        if going.ok:
            return going
    for g, goal in zip(system.groups, target, strict=True):
        g.p = goal
    return None


def _apart(system: System, y: Array) -> Array:
    """``y`` with points of zero-length segments moved apart a little, so that they have a direction."""
    z = np.concatenate([y, system.held])
    nudged = y.copy()
    for g in system.groups:
        if g.kind not in ("angle", "apart", "offset", "equal"):
            continue
        v = z[g.at]
        for a, b in ((0, 2), (4, 6)) if g.kind in ("angle", "equal") else ((0, 2),):
            short = np.hypot(v[b] - v[a], v[b + 1] - v[a + 1]) < RELATIVE * system.size
            for k in np.flatnonzero(short):
                i = g.at[b, k]
                if i < system.n:
                    nudged[i] = y[i] + 1e-4 * system.size
    return nudged


def solve(sketch: Sketch, values: Mapping[str, float]) -> Solution:
    """Solve a sketch for the values (mm, rad) of its driving dimensions.

    Values that the figure does not have yet may lead to a shape that is turned over: then they are walked there in
    small stages, which keeps the sense of its corners where that can be kept. Raises SketchError on an impossible
    value.
    """
    global _last
    figure = (sketch.entities, sketch.constraints)
    if _last is None or _last[0] != figure or _last[1] != values:
        # what cannot be solved, or not stored, takes all ways to find, and is looked at again right after the edit
        _last = (figure, dict(values), _solved(sketch, values))
    return _last[2]


#: the last figure: its entities and constraints, the values, and what was found
_last: tuple[tuple[Any, Any], dict[str, float], Solution] | None = None


def _solved(sketch: Sketch, values: Mapping[str, float]) -> Solution:
    for c in sketch.constraints:
        if c.id in values and not c.reference:
            check_value(c, values[c.id])
    system = System(sketch)
    first = solve_system(system, values)
    if not first.ok or system.m == 0 or not turned_over(sketch, moved(sketch, first.x)):
        return first
    y0 = _begin(system, values, system.x0)
    if max(float(np.abs(g).max(initial=0.0)) for g in _gaps(system, y0)) <= LINEAR:
        return first
    slowly = _walked(system, y0, (STEADY,))
    return first if slowly is None or turned_over(sketch, moved(sketch, slowly.x)) else slowly


def check_value(c: Constraint, value: float) -> float:
    """``value`` if the dimension can take it. Raises SketchError."""
    if not math.isfinite(value) or abs(value) > 1e6:
        raise SketchError("the value must be a finite number", where=c.id, received=value)
    if c.kind in ("radius", "diameter", "arc_length") and value <= 0:
        raise SketchError(f"a {c.kind.replace('_', ' ')} must be above zero", where=c.id, received=f"{value:g}")
    if c.kind == "distance" and value < 0:
        raise SketchError("a distance must not be negative", where=c.id, received=f"{value:g}", hint="the other side")
    if c.kind == "distance" and value == 0 and c.side == 0:
        raise SketchError("two points at distance 0 are one point", where=c.id, hint="make them coincident")
    return value


def unknowns(sketch: Sketch) -> Array:
    """All unknowns (N,) of the figure as it stands; ``moved`` puts them back."""
    return np.array(Layout(sketch).start)


def moved(sketch: Sketch, x: Array) -> Sketch:
    """The sketch with positions and radii taken from ``x`` (N,)."""
    layout, places = Layout(sketch), x.tolist()
    out: list[Entity] = []
    for e in sketch.entities:
        if isinstance(e, Point):
            i = layout.point[e.id]
            out.append(e if e.x == places[i] and e.y == places[i + 1] else e.at(places[i], places[i + 1]))
        elif isinstance(e, Circle):
            out.append(e.model_copy(update={"radius": abs(float(x[layout.radius[e.id]]))}))
        elif isinstance(e, Ellipse):
            out.append(e.model_copy(update={"minor": abs(float(x[layout.radius[e.id]]))}))
        else:
            out.append(e)
    # not model_copy: that would carry the cached lookups of the old positions along
    return Sketch.model_construct(entities=tuple(out), constraints=sketch.constraints)


def sane(solution: Solution) -> bool:
    """Whether a solved figure can be stored: finite and within the limits of the model."""
    return bool(np.isfinite(solution.x).all() and np.abs(solution.x).max(initial=0.0) <= 1e6)


def vanished(sketch: Sketch) -> str:
    """The first circle or ellipse that shrank to nothing, which no file can hold; empty for none."""
    sized = (e for e in sketch.entities if isinstance(e, Circle | Ellipse))
    return next((e.id for e in sized if not (e.radius if isinstance(e, Circle) else e.minor) > 0), "")


def solved(sketch: Sketch, values: Mapping[str, float]) -> Sketch | None:
    """The sketch at its solution; None when there is none that can be stored. Raises SketchError as ``solve`` does."""
    solution = solve(sketch, values)
    if not solution.ok or not sane(solution):
        return None
    figure = moved(sketch, solution.x)
    return None if vanished(figure) else figure


class Drag:
    """Dragging points: a soft pull toward the pointer and a clean-up step, every frame, on a kept system."""

    WEIGHT = 0.1

    def __init__(self, sketch: Sketch, values: Mapping[str, float], points: tuple[str, ...]) -> None:
        self.system = System(sketch)
        self.system.prepare()
        self.system.set_values(values)
        self.y = self.system.reduce(self.system.x0)
        self.system.set_weights(self.y)
        at = [i for p in points for i in self.system.layout.xy(p)]
        self._at = self.system.index[at]
        self._from = self.system.x0[at]

    def to(self, dx: float, dy: float) -> Array:
        """All unknowns (N,) with the points pulled ``dx``, ``dy`` mm from where they began."""
        s, w2 = self.system, self.WEIGHT**2
        goal = self._from + np.tile([dx, dy], len(self._from) // 2)
        free = self._at < s.n
        pull = np.zeros(s.n)
        np.add.at(pull, self._at[free], w2)
        for soft in (True, False, False):
            r, d = s.evaluate(self.y)
            if not soft and np.abs(r).max(initial=0.0) <= TOLERANCE * s.size:
                break
            right = -s.gradient(d, r)
            damping: float | Array = LEAST_DAMPING * 100
            if soft:
                for i, t in zip(self._at[free], goal[free], strict=True):
                    right[i] += w2 * (t - self.y[i])
                damping = pull + LINEAR
            step = s.damped_step(s.normal(d), right, damping)
            if step is None:
                break
            reach = float(np.abs(step).max(initial=0.0))
            if not math.isfinite(reach):
                break
            self.y = self.y + (step if reach < 0.5 * s.size else step * (0.5 * s.size / reach))
        return s.expand(self.y)
