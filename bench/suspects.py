"""How long the hunt for a slip takes, in builds of the part it is about; and two workers against one.

``python bench/suspects.py``: a planted slip in each demo part that is modelled.
"""

from __future__ import annotations

import time
from collections.abc import Callable

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.volumes import volume_of
from lathed_solid.engine.worker_pool import WorkerPool
from lathed_solid.part import Document
from lathed_solid.proof.expected import Expected
from lathed_solid.proof.suspects import hunt

#: part -> callout, and by how much it is off
PLANTED = {"winch-spindle": (8, 2.0), "pedestal": (8, 0.5), "crank-hub": (4, 2.0)}


def timed(run: Callable[[], object]) -> float:
    begin = time.perf_counter()
    run()
    return time.perf_counter() - begin


def main() -> None:
    for name, (balloon, factor) in PLANTED.items():
        truth = DEMOS[name]()
        callout = truth.callout(balloon)
        assert callout is not None
        slipped = ls.change_callout(truth, balloon, nominal=callout.nominal * factor, low=None, high=None)
        engine = Engine()
        wanted, made = volume_of(engine, truth), volume_of(engine, slipped)
        assert wanted is not None and made is not None
        once = min(timed(lambda d=slipped: Engine().attempt(d)) for _ in range(3))  # type: ignore[misc]
        expected = Expected(wanted, 1e-5 * wanted, "the drawing")
        took, built = {}, 0
        for jobs in (1, 2):
            with WorkerPool(jobs) as crew:
                crew.volumes([slipped] * jobs * 6)  # the workers are warm
                counted: list[int] = []

                def ask(d: Document = slipped, v: float = made, e: Expected = expected, crew: WorkerPool = crew,
                        counted: list[int] = counted, target: str = f"callout {balloon}") -> None:  # fmt: skip
                    found = crew.answer(hunt(d, v, e), lambda done, _of: counted.append(done))
                    assert found[0].target == target, found[0].target

                took[jobs] = timed(ask)
                built = max(counted)
        print(f"{name}: {built} parts built in {took[1] / once:.0f} x the time of one build ({took[1]:.1f} s); "
              f"two workers {took[1] / took[2]:.2f} x faster ({took[2]:.1f} s)")  # fmt: skip


if __name__ == "__main__":
    main()
