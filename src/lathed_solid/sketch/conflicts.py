"""Which constraints contradict each other: a smallest set, what each way out leads to, and the words for it.

At the least-squares point J^T r = 0, so the residual itself lies in the left null space: the constraints with a
residual are the support of the contradiction. A deletion filter over the support (Chinneck and Dravnieks 1991), always
in the whole sketch, leaves a set of which none can be spared: with any one dropped the rest can hold. Coincident
points are the figure's joints: they are named only when there is hardly anything else to name.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.quantity.tolerances import RELATIVE, RELATIVE_READ
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.equations import INTRINSIC, Layout, rows
from lathed_solid.sketch.measure import measured
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.solve import Solution, iterate, solve_system
from lathed_solid.sketch.system import System

MOST_FIGHTS = 8

#: a constraint as the trade would say it: its callout, or its kind and entities
Label = Callable[[Constraint], str]

#: a value (mm, rad) and whether it is an angle, in words
Show = Callable[[float, bool], str]


@dataclass(frozen=True)
class WayOut:
    """Dropping ``constraint`` (or making it a reference) gives the shape ``x``; ``value`` is what it would measure."""

    constraint: str
    x: Array = field(repr=False)
    value: float | None = None


@dataclass(frozen=True)
class Fight:
    """``constraints`` cannot all hold; each of ``ways`` out cures this fight."""

    constraints: tuple[str, ...]
    ways: tuple[WayOut, ...]

    def way(self, constraint: str) -> WayOut:
        """The way out that changes this constraint."""
        return next(w for w in self.ways if w.constraint == constraint)


def fights(sketch: Sketch, values: Mapping[str, float], failed: Solution) -> tuple[Fight, ...]:
    """Contradictions of a sketch whose solve gave ``failed``; empty when none is proven."""
    layout = Layout(sketch)
    made, here = rows(sketch, layout), np.array(layout.start)
    found: list[Fight] = []
    gone: list[str] = []
    known = {c.id for c in sketch.constraints}

    def solved(without: set[str], start: Array) -> Solution:
        system = System(sketch, without=without, layout=layout, made=made)
        return solve_system(system, values, start, hasty=True)

    current = failed
    while len(found) < MOST_FIGHTS:
        support, least = _support(sketch, values, layout, made, set(gone), current)
        support = [s for s in support if s in known]
        if not support:
            break
        cured = {c: s for c in support if (s := solved({*gone, c}, least)).ok or (s := solved({*gone, c}, here)).ok}
        if cured:
            # one contradiction: each member cures it alone
            members = tuple(c.id for c in sketch.constraints if c.id in cured)
            found.append(_fight(sketch, members, cured))
            break
        spared: set[str] = set()
        for c in support:
            if not solved({*gone, *spared, c}, least).ok:
                spared.add(c)
        members = tuple(c.id for c in sketch.constraints if c.id in support and c.id not in spared)
        if not members:
            break
        shapes = {c: solved({*gone, *spared, c}, least) for c in members}
        found.append(_fight(sketch, members, shapes))
        gone.append(members[-1])
        current = solved(set(gone), here)
        if current.ok:
            break
    return tuple(found)


def _support(
    sketch: Sketch, values: Mapping[str, float], layout: Layout, made: list, gone: set[str], failed: Solution
) -> tuple[list[str], Array]:
    """Owners of rows with a residual at the least-squares point of the unreduced system, worst first."""
    system = System(sketch, level=0, without=gone, layout=layout, made=made)
    system.set_values(values)
    start = failed.x if np.isfinite(failed.x).all() else np.array(layout.start)
    y = system.reduce(start)
    system.set_weights(y)
    least = iterate(system, y, most=200)
    size = np.abs(least.residual)
    top = float(size.max(initial=0.0))
    if top <= RELATIVE * system.size:
        return [], least.x
    worst: dict[str, float] = {}
    for owner, s in zip(system.owners, size, strict=True):
        if s > 1e-3 * top and owner != INTRINSIC:
            worst[owner] = max(worst.get(owner, 0.0), float(s))
    return sorted(worst, key=lambda o: -worst[o]), least.x


def _fight(sketch: Sketch, members: tuple[str, ...], cured: Mapping[str, Solution]) -> Fight:
    joints = {name for name in members if (c := sketch.constraint(name)) is not None and c.kind == "coincident"}
    if len(members) - len(joints) >= 2:
        members = tuple(name for name in members if name not in joints)
    ways = []
    for name in members:
        c = sketch.constraint(name)
        assert c is not None
        x = cured[name].x
        ways.append(WayOut(name, x, measured(sketch, c, x) if c.kind in DIMENSIONS else None))
    return Fight(members, tuple(ways))


def in_mm(value: float, angular: bool) -> str:
    """A value in mm or degrees, without a unit for lengths."""
    return f"{math.degrees(value):.6g}°" if angular else f"{value:.6g}"


def words(
    sketch: Sketch,
    fight: Fight,
    values: Mapping[str, float],
    label: Label | None = None,
    show: Show = in_mm,
) -> str:
    """The fight in the trade's words."""
    say = label or plain
    members = [c for name in fight.constraints if (c := sketch.constraint(name)) is not None]
    dims = [c for c in members if c.id in values]
    if len(dims) == len(members) >= 2 and all(c.kind != "angle" for c in dims):
        longest = max(dims, key=lambda c: values[c.id])
        rest = [c for c in dims if c.id != longest.id]
        total = math.fsum(values[c.id] for c in rest)
        gap = abs(total - values[longest.id])
        want = fight.way(longest.id).value
        if want is not None and math.isclose(want, total, rel_tol=RELATIVE_READ):
            chain = " + ".join(say(c) for c in rest)
            name = f"the chain {chain}" if len(rest) > 1 else chain
            return f"{say(longest)} and {name} fix the same gap and disagree by {show(gap, False)}"
    names = [say(c) for c in members]
    listed = ", ".join(names[:-1]) + (f" and {names[-1]}" if len(names) > 1 else names[0])
    text = f"{listed} cannot all hold" if len(names) > 1 else f"{listed} cannot hold"
    for c in reversed(dims):  # the last one made is the likely one
        want = fight.way(c.id).value
        if want is not None:
            return f"{text}; with the others as they are, {say(c)} would be {show(want, c.kind == 'angle')}"
    return text


def plain(c: Constraint) -> str:
    """A constraint by its value, or its kind, and its entities."""
    on = ", ".join(c.of)
    return f"{KINDS[c.kind].words} {c.value} ({on})" if c.value else f"{KINDS[c.kind].words} ({on})"
