"""What proof and witness cost, as shares of the build in the same run. Run: python bench/prove.py"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

import truth_parts

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.builders import boolean
from lathed_solid.part import Document, Table, edits


def ms(run: Callable[[], object]) -> float:
    start = time.perf_counter()
    run()
    return (time.perf_counter() - start) * 1000


def shares(part: Document, changed: Document) -> tuple[float, float]:
    """Proof by first build, and after an edit of the last step by that edit's build."""
    engine = Engine()
    first = ms(lambda: engine.build(part))
    built = engine.build(part)
    proof = ms(lambda: prove(engine, part, built))
    edit = ms(lambda: engine.build(changed))
    edited = engine.build(changed)
    again = ms(lambda: prove(engine, changed, edited))
    return proof / first, again / edit


def plate(holes: int) -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (260, 160))
    part = ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "10")
    rows = [(f"{8 + 12 * (k % 20)}", f"{8 + 12 * (k // 20)}") for k in range(holes)]
    part = ls.hole(part, "20/end", "5", places=Table(rows=tuple(rows[:-1])))
    return ls.hole(part, "20/end", "5", places=Table(rows=tuple(rows[-1:])))


def main() -> None:
    pedestal, nut = DEMOS["pedestal"](), DEMOS["gland-nut"]()
    drilled = plate(200)
    cases = {
        "pedestal, 22 callouts": (pedestal, edits.put_step(pedestal, edits.changed(pedestal.steps[-1], leg="0.031"))),
        "gland nut, real threads": (nut, edits.put_step(nut, edits.changed(nut.steps[-1], length="30"))),
        "plate of 200 holes, no callout": (drilled, edits.put_step(drilled, edits.changed(drilled.steps[-1],
                                                                                           diameter="6"))),
    }  # fmt: skip
    for name, (part, changed) in cases.items():
        runs = [shares(part, changed) for _ in range(5)]
        first, edit = (statistics.median(r[k] for r in runs) for k in (0, 1))
        print(f"{name}: proof {first:.2f} of the first build, {edit:.2f} of the edit's")
    spent, real = 0.0, boolean.witness

    def timed(*given: object) -> None:
        nonlocal spent
        spent += ms(lambda: real(*given))  # type: ignore[arg-type]

    boolean.witness = timed  # type: ignore[assignment]
    total = 0.0
    for seed in range(9001, 9041):
        part, engine = truth_parts.truth(seed).document, Engine()
        total += ms(lambda part=part, engine=engine: engine.build(part))  # type: ignore[misc]
    print(f"witness: {spent / total:.3f} of routes of ordinary steps")


if __name__ == "__main__":
    main()
