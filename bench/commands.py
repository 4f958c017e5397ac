"""Commands, as whole processes: one note read, and many parts proven at once; ratios in one run.

python bench/commands.py [PAIRS] [PARTS]. A note's process is measured against a process that imports the packages it
needs and nothing of ours, the two by turns; parts proven by two workers against the same parts by one.
"""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

from lathed_solid.files import write_document

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

NOTE = ("-m", "lathed_solid.cli", "note", "4X Ø6.6 THRU ⌴ Ø11 ↧6.4")
#: what a note needs of others: its language's records, the command line, the spelling of what was not read
NEEDED = ("-c", "import click, pydantic, rapidfuzz, json, re, importlib.metadata")


def seconds(command: Sequence[str]) -> float:
    """How long a process of this Python takes."""
    begun = time.perf_counter()
    subprocess.run([sys.executable, *command], check=True, stdout=subprocess.DEVNULL, timeout=900)
    return time.perf_counter() - begun


def notes(pairs: int) -> None:
    """One note against what it needs."""
    both = [(seconds(NOTE), seconds(NEEDED)) for _ in range(pairs + 1)][1:]  # the first fills the disk's cache
    own, bare = (statistics.median(of) for of in zip(*both, strict=True))
    ratio = statistics.median(a / b for a, b in both)
    print(f"a note: {own * 1000:.0f} ms, its packages alone {bare * 1000:.0f} ms: {ratio:.2f} x")


def batch(parts: int) -> None:
    """The same parts by one worker and by two; no two of them alike, so that none is known already."""
    from truth_parts import truth

    with tempfile.TemporaryDirectory() as folder:
        files = []
        for k in range(parts):
            file = Path(folder) / f"{k}.lathed"
            write_document(file, truth(7500 + k).document)
            files.append(str(file))
        took = {}
        for jobs in ("1", "2", "1", "2"):
            begun = time.perf_counter()
            subprocess.run(
                [sys.executable, "-m", "lathed_solid.cli", "prove", "--json", "--jobs", jobs, *files],
                check=False, stdout=subprocess.DEVNULL, timeout=900,
            )  # fmt: skip
            took[jobs] = min(took.get(jobs, 1e9), time.perf_counter() - begun)
    print(f"{parts} parts: by one worker {took['1']:.1f} s, by two {took['2']:.1f} s: {took['1'] / took['2']:.2f} x")


def main() -> None:
    pairs, parts = (int(v) for v in (*sys.argv[1:], *("9", "40")[len(sys.argv) - 1 :]))
    notes(pairs)
    batch(parts)


if __name__ == "__main__":
    main()
