"""Which relations contradict each other: a smallest set, and which of them may go.

At the least-squares point the residual lies in the left null space, so relations with a residual are the support of
the contradiction. A deletion filter over the support, always in the whole fit (Chinneck and Dravnieks 1991), leaves a
set of which none can be spared: with any one of them left out the others can hold.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from lathed_solid.fit.assemble import Assembled, PartFeatures, assemble
from lathed_solid.fit.document import Fit
from lathed_solid.fit.solve import Solution, settle

#: of the greatest residual; so many contradictions are looked for
SHARE, MOST = 1e-6, 8


@dataclass(frozen=True)
class Fight:
    """``relations`` cannot all hold, and none of them can be spared; below zero they are driven freedoms (-1 the
    first). Leaving out one of ``ways`` cures the whole fit.
    """

    relations: tuple[int, ...]
    ways: tuple[int, ...]
    words: str


def fights(fit: Fit, features: PartFeatures, failed: Solution, found: Assembled) -> tuple[Fight, ...]:
    """Contradictions of a fit whose solve gave ``failed``; empty where none is proven."""
    out: list[Fight] = []
    left: set[int] = set()
    solution: Solution = failed
    while not solution.ok and len(out) < MOST:
        support = _support(found, solution)
        fight = _smallest(fit, features, support, left)
        if not fight:
            break
        ways = tuple(n for n in fight if _holds(fit, features, left | {n})) if len(out) == 0 else fight
        out.append(Fight(fight, ways or fight, words(fit, fight)))
        left.add(fight[-1])
        found = assemble(fit, features, without=left)
        solution = settle(found.system)
    return tuple(out)


def _support(found: Assembled, solution: Solution) -> list[int]:
    """Owners of equations with a residual, the greatest first."""
    worst: dict[int, float] = {}
    for owner, r in zip(found.system.owners, np.abs(solution.residual), strict=True):
        worst[owner] = max(worst.get(owner, 0.0), float(r))
    top = max(worst.values(), default=0.0)
    return sorted((n for n, r in worst.items() if r > SHARE * top), key=lambda n: -worst[n])


def _smallest(fit: Fit, features: PartFeatures, support: Iterable[int], left: set[int]) -> tuple[int, ...]:
    """A set of owners in the support of which none can be spared. Empty where the support alone can hold."""
    keep = list(support)
    others = {r.number for r in fit.relations} | {-1 - i for i in range(len(fit.drives))}
    outside = others - set(keep) - left
    if _holds(fit, features, outside | left):
        # the support needs what stands around it
        outside = set()
        keep = [n for n in others if n not in left]
    for n in list(keep):
        rest = [k for k in keep if k != n]
        if not _holds(fit, features, others - set(rest)):
            keep = rest
    return tuple(sorted(keep, key=lambda n: (n < 0, abs(n))))


def _holds(fit: Fit, features: PartFeatures, out: Iterable[int]) -> bool:
    return settle(assemble(fit, features, without=out).system).ok


def words(fit: Fit, owners: Iterable[int]) -> str:
    """A fight in words."""
    said = []
    for n in owners:
        r = fit.relation(n)
        if r is not None:
            said.append(f"{n} ({r.words})")
        elif n < 0:
            said.append(f"the number of {fit.drives[-1 - n].member}")
    return f"{', '.join(said)} cannot all hold" if said else "two members held in the room contradict"
