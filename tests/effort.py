"""How much is tried: every change runs a part of the seeds and replays, ``LONG=1 ./check`` all of them."""

from __future__ import annotations

import os
from collections.abc import Sequence
from typing import TypeVar

LONG = bool(os.environ.get("LONG"))

Case = TypeVar("Case")


def some(cases: Sequence[Case], few: int) -> list[Case]:
    """All cases, or so many of them, evenly from the first to the last."""
    if LONG or few >= len(cases):
        return list(cases)
    return [cases[k * len(cases) // few] for k in range(few)]
