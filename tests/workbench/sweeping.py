"""Seeds one after another, from the command line: what broke, and how long the longest events took."""

from __future__ import annotations

import sys
from typing import Protocol

#: how long an event took, s, what it was, the seed
Took = tuple[float, str, int]
FREEZE = 0.2


class Check(Protocol):
    """What broke its promise for one seed; into ``slow`` goes how long each event took."""

    def __call__(self, seed: int, *, slow: list[Took]) -> list[str]: ...


def sweep(what: str, check: Check) -> None:
    """``FIRST COUNT`` of the command line: the failures as they come, then the figures."""
    first, count = int(sys.argv[1]), int(sys.argv[2])
    failures, took = 0, list[Took]()
    for seed in range(first, first + count):
        found = check(seed, slow=took)
        failures += bool(found)
        if found:
            print(seed, found, flush=True)
    took.sort(reverse=True)
    longest = ", ".join(f"{t:.2f} s {event} ({s})" for t, event, s in took[:5])
    over = sum(t > FREEZE for t, _, _ in took)
    print(f"{count} {what} from seed {first}: {failures} failures; {over} of {len(took)} events over 0.2 s, {longest}")
