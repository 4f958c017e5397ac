"""One random sketch, all promises: solved to 1e-9, freedoms as SVD counts them, planted fights found.

Run by the tests on some seeds, and on thousands by ``python -m sketch.sweep FIRST COUNT`` from ``tests/``.
"""

from __future__ import annotations

import sys

import numpy as np

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.conflicts import fights
from lathed_solid.sketch.diagnosis import freedoms, redundancies
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.solve import solve, solve_system
from lathed_solid.sketch.system import System
from sketch.figures import chain, grid, perturbed, tangent_row


def figure_of(seed: int):
    """A chain in most cases, a net or a row of circles in some."""
    if seed % 10 == 8:
        return grid(2 + seed % 4, 2 + seed % 3)
    if seed % 10 == 9:
        return tangent_row(3 + seed % 9)
    return chain(1 + seed % 7, seed, seed)


def scaled(system: System, y: np.ndarray) -> np.ndarray:
    """The dense Jacobian with rows of length 1 (zero rows stay zero)."""
    _, data = system.evaluate(y)
    j = system.jacobian(data).toarray()
    norm = np.linalg.norm(j, axis=1)
    return j / np.where(norm > 1e-12, norm, 1.0)[:, None]


def svd_freedoms(sketch: Sketch, values: dict[str, float], x: np.ndarray) -> int:
    """Freedoms by singular values of the unreduced system."""
    system = System(sketch, level=0)
    system.set_values(values)
    s = np.linalg.svd(scaled(system, system.reduce(x)), compute_uv=False)
    return system.n - int((s > 1e-6 * s[0]).sum())


def without(sketch: Sketch, names: list[str]) -> Sketch:
    draft = SketchBuilder(sketch)
    draft.constraints = {i: c for i, c in draft.constraints.items() if i not in names}
    return draft.done()


def check(seed: int) -> list[str]:
    """What went wrong with this seed; empty when nothing did."""
    rng = np.random.default_rng(seed)
    figure = figure_of(seed)
    sketch, values, wrong = figure.draft.done(), figure.values, []

    system = System(sketch)
    solution = solve_system(system, values, perturbed(sketch, 0.04, seed))
    if not solution.ok:
        wrong.append(f"not solved: {solution.reason}")
    else:
        full = System(sketch, level=0)
        full.set_values(values)
        left = np.abs(full.evaluate(full.reduce(solution.x))[0]).max()
        if left > 1e-9 * system.size:
            wrong.append(f"left over {left:.1e} of size {system.size:.0f}")

    true = solve(sketch, values)
    held = freedoms(sketch, values, true.x).count
    if held != svd_freedoms(sketch, values, true.x):
        wrong.append(f"{held} freedoms as built, SVD says otherwise")
    repeats = redundancies(sketch, values, true.x)
    if len(repeats) != 0:
        wrong.append(f"redundant: {repeats}")

    can_go = [c.id for c in sketch.constraints if c.kind not in ("coincident", "fixed")]
    gone = [str(k) for k in rng.choice(can_go, min(len(can_go), int(rng.integers(1, 4))), replace=False)]
    loose, some = without(sketch, gone), {k: v for k, v in values.items() if k not in gone}
    at = solve(loose, some)
    found = freedoms(loose, some, at.x)
    if found.count != svd_freedoms(loose, some, at.x) or (found.count == 0) != (len(found.loose) == 0):
        wrong.append(f"without {gone}: {found.count} freedoms, SVD {svd_freedoms(loose, some, at.x)}")
    if found.count < held + len(gone):
        wrong.append(f"without {gone}: called more held than it is")
    for movement in found.movements:
        step = 1e-6 * movement.x
        s = System(loose, level=0)
        s.set_values(some)
        before, after = s.evaluate(s.reduce(at.x))[0], s.evaluate(s.reduce(at.x + step))[0]
        if np.abs(after - before).max() > 1e-9:
            wrong.append(f"the movement {movement.words} is not free")

    dims = [c for c in sketch.constraints if c.id in values and c.kind != "angle"]
    planted = dims[int(rng.integers(len(dims)))]
    draft = SketchBuilder(sketch)
    second = draft.add(planted.kind, *planted.of, value="1", side=planted.side)
    fighting, both = draft.done(), {**values, second: values[planted.id] + 0.02 * system.size**0.5}
    failed = solve(fighting, both)
    if failed.ok:
        wrong.append("a planted contradiction was solved")
    sets = [set(f.constraints) for f in fights(fighting, both, failed)]
    if sets != [{planted.id, second}]:
        wrong.append(f"planted {planted.id} against {second}, found {sets}")
    return wrong


def main() -> None:
    first, count = int(sys.argv[1]), int(sys.argv[2])
    bad = 0
    for seed in range(first, first + count):
        for words in check(seed):
            bad += 1
            print(f"seed {seed}: {words}", flush=True)
    print(f"{count} sketches from seed {first}: {bad} failures")


if __name__ == "__main__":
    main()
