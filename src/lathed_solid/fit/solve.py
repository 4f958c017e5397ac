"""Solving a fit: damped least squares from where its members stand, so that it stays on its branch.

Levenberg-Marquardt with Nielsen's steering (Madsen, Nielsen and Tingleff 2004, ch. 3), as sketches have it; the steps
are motions of bodies, the poses are moved by them and never leave the rigid motions. Not converging is
a result with a reason, not an exception.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.fit import residuals
from lathed_solid.fit.placement import Array
from lathed_solid.fit.system import Poses, System, tightened
from lathed_solid.quantity.tolerances import ROUNDING

#: of the fit's size
TOLERANCE, HOLDS = 1e-13, 1e-10
MOST_STEPS = 60
START_DAMPING, LEAST_DAMPING = 1e-3, 1e-14
#: a start exactly turned over has no slope: it is nudged by so much, rad
NUDGE = 1e-3


@dataclass(frozen=True)
class Solution:
    """``error``: the greatest residual, mm; ``steps`` taken; ``worst``: the owner of the greatest residual."""

    ok: bool
    poses: Poses = field(repr=False)
    residual: Array = field(repr=False)
    slopes: Array = field(repr=False)
    error: float
    steps: int
    reason: str = ""
    worst: int = 0


def solve(system: System, start: Poses | None = None, *, most: int = MOST_STEPS, tolerance: float = TOLERANCE,
          damping: float = START_DAMPING) -> Solution:  # fmt: skip
    """Damped least squares from ``start`` (as the members stand)."""
    poses = start or system.start
    limit = tolerance * system.size
    if system.m:
        poses = _nudged(system, poses)
    r, slopes = system.evaluate(poses)
    cost, taken, reason, growing = float(r @ r), 0, "", 2.0
    damping_now = damping
    while system.m and taken < most and np.abs(r).max() > limit:
        if system.n == 0:
            reason = "nothing is free to move"
            break
        normal, gradient = system.normal(slopes), system.gradient(slopes, r)
        taken += 1
        better = False
        while damping_now < 1e12:
            step = system.damped_step(normal, -gradient, damping_now)
            if step is not None:
                trial = system.moved(poses, step)
                r_new, slopes_new = system.evaluate(trial)
                new = float(r_new @ r_new)
                if new < cost:
                    better = True
                    break
                if cost < (HOLDS * system.size) ** 2:
                    break  # all that rounding allows
            damping_now, growing = max(damping_now, ROUNDING) * growing, growing * 2
        if not better or step is None:
            reason = "no step brings the relations closer together"
            break
        foreseen = cost - float(np.sum((r + system.product(slopes, step)) ** 2))
        gain = (cost - new) / max(foreseen, 1e-300)
        still = cost - new < 1e-12 * cost and float(np.abs(step).max()) < 1e-10 * system.size
        poses, r, slopes, cost = trial, r_new, slopes_new, new
        damping_now = max(damping_now * (0.02 if gain > 0.7 else 0.5 if gain > 0.25 else 2.0), LEAST_DAMPING)
        growing = 2.0
        if still:
            reason = "the relations contradict each other here"
            break
    error = float(np.abs(r).max(initial=0.0))
    ok = error <= HOLDS * system.size
    if ok:
        reason = ""
    elif not reason:
        reason = f"not settled after {most} steps"
    worst = 0 if ok or not system.m else system.owners[int(np.abs(r).argmax())]
    return Solution(ok, tightened(poses), r, slopes, error, taken, reason, worst)


def settle(system: System) -> Solution:
    """``solve``, and where that finds no way: first the directions and then all, then from starts a little turned.

    Members that were put down anywhere may begin on the far side of a hill; what contradicts stays so from any start.
    """
    first = solve(system)
    if first.ok or not system.m:
        return first
    best = first
    for start in _other_starts(system):
        found = solve(system, start)
        if found.ok:
            return found
        best = min(best, found, key=lambda s: s.error)
    return best


def _other_starts(system: System) -> Iterator[Poses]:
    turning = np.zeros(system.m)
    for g in system.groups:
        rows = residuals.ROWS[g.kind] * len(g.index)
        turning[g.first_row : g.first_row + rows] = (
            1.0 if g.kind in ("parallel", "square", "between", "turned") else 0.0
        )
    if turning.any() and not turning.all():
        system.weight = turning + 1e-4
        try:
            yield solve(system, most=30).poses
        finally:
            system.weight = None
    draw = np.random.default_rng(20_262)
    for spread in (0.2, 0.6):
        step = draw.normal(size=(system.count - 1, 6)) * spread * system.size
        step[:, :3] *= 0.2
        step[:, 3:] *= system.reach[1:, None] / system.size
        yield system.moved(system.start, step.ravel())


def _nudged(system: System, poses: Poses) -> Poses:
    """A pair of directions that runs exactly against itself is turned a little, so that it can come round."""
    step = np.zeros((system.count, 6))
    _, d, _, e, u, _ = system.world(poses)
    for g in system.groups:
        if g.kind in ("parallel", "between"):
            aligned = np.einsum("ni,ni->n", d[g.index], e[g.index])
            flat = (aligned < ROUNDING - 1) | ((g.kind == "between") & (aligned > 1 - ROUNDING))
            for k in np.flatnonzero(flat):
                a, b = g.bodies[:, k]
                step[a or b, 3:] += (1.0 if a else -1.0) * NUDGE * system.reach[a or b] * u[g.index[k]]
    return system.moved(poses, step[1:].ravel()) if step.any() else poses


def led_on(last: Poses | None, now: Poses) -> Poses:
    """Where a motion leads from its last two poses: the same step again, so that it passes a dead point as it came."""
    if last is None:
        return now
    by = now.turn @ np.swapaxes(last.turn, 1, 2)
    turn = by @ now.turn
    ahead = now.at + (now.at - last.at)
    return tightened(Poses(turn, ahead))
