"""Where the campaigns find what they share with the tests, and how they are called."""

from __future__ import annotations

import sys
from pathlib import Path

HERE = Path(__file__).resolve().parent
for folder in (HERE.parents[1] / "tests", HERE.parent):
    sys.path.insert(0, str(folder))


def count_and_seed(count: int, seed: int) -> tuple[int, int]:
    """From the command line, else these."""
    given = [int(v) for v in sys.argv[1:3]]
    return (given[0] if given else count, given[1] if len(given) > 1 else seed)
