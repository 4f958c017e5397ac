"""Kills: a process edits and is killed at any moment; what it had committed must come back.

The edits follow from a seed, so that the same ones are made again beside it for comparison. After each commit the
process writes a byte into a pipe: that edit is acknowledged. Some are killed again while they take over what the first
had left. Names hold separators, pairs and marks.

python bench/endurance/kills.py 2000 7001 [50]     # kills, seed, kills while taking over
"""

from __future__ import annotations

import os
import random
import resource
import select
import shutil
import signal
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

if __name__ == "__main__":
    import paths

from random_edits import edited

from lathed_solid.demo import DEMOS
from lathed_solid.files.journal import Recovered, recoverable
from lathed_solid.part import Document, History
from lathed_solid.workbench.filed import Filed
from lathed_solid.workbench.recording import Recording
from lathed_solid.workbench.signal import Signal

MAX_EDITS = 400
PROCESSES = 4000


@dataclass
class Found:
    """What a campaign came to: kills, acknowledged edits, and what was lost, in words."""

    kills: int = 0
    edits: int = 0
    lost: list[str] = field(default_factory=list)


def values(seed: int, count: int) -> list[Document]:
    """The start and the values after each commit."""
    rng = random.Random(seed)
    out = [DEMOS[rng.choice(["winch-spindle", "crank-hub", "pedestal"])]()]
    while len(out) <= count:
        after = edited(out[-1], rng)
        if after != out[-1]:
            out.append(after)
    return out


def _edit(folder: Path, seed: int, pipe: int) -> None:
    """In the child: edit until killed, and acknowledge each commit."""
    recording = Recording(folder, Signal())
    rng = random.Random(seed)
    history = History.start(DEMOS[rng.choice(["winch-spindle", "crank-hub", "pedestal"])]())
    recording.start(history, Filed())
    os.write(pipe, b".")
    for _ in range(MAX_EDITS):
        after = edited(history.document, rng)
        if after != history.document:
            history = history.commit(after, "edit")
            recording.append("edit", history)
            os.write(pipe, b".")
    signal.pause()


def _adopt(folder: Path, found: Recovered, pipe: int) -> None:
    """In the child: take over what was left."""
    assert found.history is not None
    os.write(pipe, b".")
    Recording(folder, Signal()).adopt(found.history, Filed(), found)
    signal.pause()


def killed(work: Callable[[int], None], after: float) -> int:
    """Fork, have the child ``work``, kill it ``after`` s; how many bytes it had written into its pipe."""
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        try:
            os.close(reading)
            work(writing)
        finally:
            os._exit(9)
    try:
        os.close(writing)
        select.select([reading], [], [], 20)  # it has begun
        time.sleep(after)
    finally:
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
    count = 0
    while data := os.read(reading, 65536):
        count += len(data)
    os.close(reading)
    return count


def campaign(kills: int, seed: int, while_taking_over: int = 0) -> Found:
    """``kills`` processes killed while they edit, of the first of which the heirs are killed too."""
    found = Found()
    rng = random.Random(seed)
    for k in range(kills):
        folder = Path(tempfile.mkdtemp(prefix="kills-"))
        try:
            own = seed * 100_000 + k
            acknowledged = killed(lambda pipe: _edit(folder, own, pipe), rng.uniform(0, 0.25))  # noqa: B023
            found.kills += 1
            found.edits += max(0, acknowledged - 1)
            if k < while_taking_over:
                for _ in range(rng.randrange(1, 4)):
                    for left in recoverable(folder):
                        killed(lambda pipe: _adopt(folder, left, pipe), rng.uniform(0, 0.03))  # noqa: B023
                        found.kills += 1
            found.lost += [f"{own}: {words}" for words in _missing(folder, own, acknowledged)]
        finally:
            shutil.rmtree(folder)
    return found


def _missing(folder: Path, seed: int, acknowledged: int) -> list[str]:
    """What did not come back of the edits that were acknowledged; the one in hand may have."""
    left = list(recoverable(folder))
    if acknowledged < 2:
        return ["more than one came back"] if len(left) > 1 else []
    if len(left) != 1 or left[0].history is None:
        return [f"{len(left)} journals of {acknowledged - 1} edits came back"]
    expected = values(seed, acknowledged)
    history = left[0].history
    count = len(history.entries)
    out = []
    if count not in (acknowledged, acknowledged + 1):
        out.append(f"{count - 1} of {acknowledged - 1} edits came back")
    if [e.document for e in history.entries] != expected[:count]:
        out.append("what came back is something else")
    return out


def main() -> int:
    """The exit code."""
    kills, seed = paths.count_and_seed(100, 1)
    again = int(sys.argv[3]) if len(sys.argv) > 3 else kills // 40
    resource.setrlimit(resource.RLIMIT_NPROC, (PROCESSES, PROCESSES))
    begun = time.monotonic()
    found = campaign(kills, seed, again)
    print("\n".join(found.lost))
    print(f"{found.kills} kills ({again} of them followed by kills while taking over), {found.edits} acknowledged "
          f"edits, {len(found.lost)} lost; {time.monotonic() - begun:.0f} s")  # fmt: skip
    return int(bool(found.lost))


if __name__ == "__main__":
    sys.exit(main())
