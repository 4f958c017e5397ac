"""So many spellings of drawn meanings, read: how many right, how many marked, how many silently different.

``python -m notes.sweep FIRST COUNT`` from ``tests/``.
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from typing import Any

from lathed_solid.notation import NoteError, read_note
from notes.hands import Meant, loud_noise, spelling


def alike(got: Any, want: Any) -> bool:
    """Equal in every key, numbers to a millionth."""
    if isinstance(want, dict):
        return isinstance(got, dict) and set(got) == set(want) and all(alike(got[k], want[k]) for k in want)
    if isinstance(want, list | tuple):
        return isinstance(got, list | tuple) and len(got) == len(want) and all(map(alike, got, want))
    if isinstance(want, bool) or isinstance(got, bool):
        return got is want
    if isinstance(want, int | float):
        return isinstance(got, int | float) and abs(got - want) <= 1e-6 * max(1.0, abs(want))
    return bool(got == want)


def judged(text: str, unit: Any, meant: Meant) -> str:
    """``right``, ``marked`` (partly read or refused), or ``silent``: read as something else without a word."""
    try:
        told = read_note(text, unit).as_json()
    except NoteError:
        return "marked"
    if not told["ok"]:
        return "marked"
    return "right" if alike(told["clauses"], meant) else "silent"


def main() -> None:
    """From the command line."""
    first, count = int(sys.argv[1]), int(sys.argv[2])
    plain, noisy, took = Counter[str](), Counter[str](), list[float]()
    for seed in range(first, first + count):
        rnd = random.Random(seed)
        text, unit, meant = spelling(rnd)
        began = time.perf_counter()
        verdict = judged(text, unit, meant)
        took.append(time.perf_counter() - began)
        plain[verdict] += 1
        if verdict != "right":
            print(seed, verdict, repr(text), unit)
        strange = judged(loud_noise(text, rnd), unit, meant)
        noisy["silent" if strange != "marked" else "marked"] += 1
        if strange != "marked":
            print(seed, "strange", strange, repr(text), unit)
    median = 1000 * sorted(took)[count // 2]
    print(f"{count} notes from {first}: {dict(plain)}; with a stranger {dict(noisy)}; median {median:.2f} ms")


if __name__ == "__main__":
    main()
