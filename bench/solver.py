"""The sketch solver against ``scipy.optimize.least_squares``, in one run: same Jacobian, start and stop rule.

All methods stop when no residual exceeds 1e-10 of the sketch's size. "as written" is the system with nothing
substituted; "reduced" is the one our solver works on. Run: python bench/solver.py [LARGEST]. Coupled sketches and drag
frames follow.
"""

from __future__ import annotations

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # before NumPy: one thread for every method

import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from scipy.optimize import least_squares

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from sketch.figures import Figure, chain_of, grid, perturbed, tangent_row

from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.solve import TOLERANCE, Drag, iterate
from lathed_solid.sketch.system import System


class Done(Exception):
    """The stop rule is met."""


def reference(system: System, y: np.ndarray, method: str, solver: str | None) -> Callable[[], bool]:
    """A run of least_squares that stops by our rule."""
    limit = TOLERANCE * system.size
    dense = solver == "exact" or method == "lm"

    def fun(v: np.ndarray) -> np.ndarray:
        r = system.evaluate(v)[0]
        if np.abs(r).max() <= limit:
            raise Done
        return r

    def jac(v: np.ndarray):  # type: ignore[no-untyped-def]
        j = system.jacobian(system.evaluate(v)[1])
        return j.toarray() if dense else j

    def run() -> bool:
        try:
            least_squares(
                fun, y, jac, method=method, tr_solver=solver, xtol=1e-15, ftol=1e-15, gtol=1e-15, max_nfev=200
            )
        except Done:
            return True
        return False

    return run


def best(run: Callable[[], object], times: int) -> float:
    """Least time of several runs, ms."""
    out = []
    for _ in range(times):
        t = time.perf_counter()
        run()
        out.append(time.perf_counter() - t)
    return min(out) * 1000


METHODS = (("trf dense", "trf", "exact"), ("trf lsmr", "trf", "lsmr"), ("lm", "lm", None))


def compare(name: str, figure: Figure, sigma: float = 0.05) -> float:
    """Print one sketch's ratios; our time in ms."""
    sketch = figure.draft.done()
    x = perturbed(sketch, sigma, 1)
    ours = System(sketch)
    ours.prepare()
    times, line = {}, []
    for label, system in (("reduced", ours), ("as written", System(sketch, level=0))):
        system.set_values(figure.values)
        y = system.reduce(x)
        system.set_weights(y)
        if label == "reduced":
            solution = iterate(system, y)
            assert solution.ok, solution.reason
            mine = best(lambda s=system, y=y: iterate(s, y), 7)
        for title, method, solver in METHODS:
            if (solver == "exact" or method == "lm") and system.n > 2500:
                continue
            if method == "lm" and system.m < system.n:
                continue
            run = reference(system, y, method, solver)
            t = time.perf_counter()
            done = run()
            first = (time.perf_counter() - t) * 1000
            times[label, title] = min(first, best(run, 2)) if first < 5000 else first
            line.append(f"{label} {title} {times[label, title] / mine:.1f}x{'' if done else ' (gave up)'}")
    first = best(lambda: System(sketch, without=["-"]).prepare(), 3)  # leaves nothing out, and takes nothing over
    again = best(lambda: System(sketch).prepare(), 5)
    print(f"{name}: {len(sketch.constraints)} constraints, {ours.n} unknowns, {ours._solver}: {mine:.2f} ms, "
          f"{solution.steps} steps; building {first / mine:.1f} of it, "
          f"of a known structure {again / mine:.1f}")  # fmt: skip
    print("   " + "; ".join(line), flush=True)
    return mine


def frames(constraints: int) -> None:
    """Drag frames of a sketch with one freedom: 50th and 95th percentile."""
    figure = chain_of(constraints)
    drop = next(k for k in figure.values if figure.draft.constraints[k].kind == "angle")
    figure.draft.constraints.pop(drop)
    figure.values.pop(drop)
    sketch: Sketch = figure.draft.done()
    moving = sketch.points[-1].id
    drag, took = Drag(sketch, figure.values, (moving,)), []
    for k in range(300):
        t = time.perf_counter()
        drag.to(20 * np.sin(k / 20), 15 * (1 - np.cos(k / 20)))
        took.append((time.perf_counter() - t) * 1000)
    error = np.abs(drag.system.evaluate(drag.y)[0]).max() / drag.system.size
    print(f"drag, {len(sketch.constraints)} constraints: median {np.median(took):.2f} ms, "
          f"95th percentile {np.percentile(took, 95):.2f} ms, left over {error:.1e} of the size")  # fmt: skip


def main() -> None:
    largest = int(sys.argv[1]) if len(sys.argv) > 1 else 3000
    sizes = [n for n in (100, 300, 1000, 3000) if n <= largest]
    mine = [compare(f"chain {n}", chain_of(n)) for n in sizes]
    if len(sizes) > 1:
        slope = np.polyfit(np.log(sizes), np.log(mine), 1)[0]
        print(f"growth: time goes with size to the power {slope:.2f}")
    coupled = {
        "grid 8x8": grid(8, 8),
        "grid 20x20": grid(20, 20),
        "tangent circles 30": tangent_row(30),
        "tangent circles 150": tangent_row(150),
    }
    for name, figure in coupled.items():
        compare(name, figure, 0.02)
    for n in (50, 200, 600):
        frames(n)


if __name__ == "__main__":
    main()
