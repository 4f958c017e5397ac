"""A long session: thousands of edits and undos in the real window; memory and latency must not grow.

Run under X (xvfb-run): python bench/endurance/session.py 2000. After a first fifth, in which caches fill, the memory of
the window and of its worker, and the time from an edit to its verdicts, are compared between the second fifth and the
last.
"""

from __future__ import annotations

import os
import statistics
import sys
import tempfile
from pathlib import Path

if __name__ == "__main__":
    import paths

from felt import Window, nudged

from lathed_solid.demo import DEMOS
from lathed_solid.desk.app import settle

MOST = 1.05


def resident(pid: int) -> float:
    """Resident memory of a process, MiB."""
    status = Path(f"/proc/{pid}/status").read_text("utf-8")
    return next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmRSS")) / 1024


def main() -> int:
    """The exit code."""
    count, _ = paths.count_and_seed(200, 0)
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
    window = Window()
    took: list[float] = []
    memory: list[tuple[float, float]] = []
    try:
        part = DEMOS["winch-spindle"]()
        window.show(part)
        settle()
        for k in range(count):
            changed = nudged(part, 1 - 0.0001 * (k + 1))
            took.append(window.picture(lambda changed=changed: window.session.commit(changed, "edit"))[1])  # type: ignore[misc]
            if k % 5 == 4:
                window.picture(window.session.undo)
            memory.append((resident(os.getpid()), resident(window.kernel.pid)))
            if k % 200 == 199:
                print(
                    f"{k + 1}: {took[-1]:.0f} ms, window {memory[-1][0]:.0f} MiB, worker {memory[-1][1]:.0f} MiB",
                    flush=True,
                )
    finally:
        window.session.builds.close()
    fifth = max(1, count // 5)
    early, late = slice(fifth, 2 * fifth), slice(-fifth, None)
    ratios = {
        "latency": statistics.median(took[late]) / statistics.median(took[early]),
        "window": statistics.median(m for m, _ in memory[late]) / statistics.median(m for m, _ in memory[early]),
        "worker": statistics.median(m for _, m in memory[late]) / statistics.median(m for _, m in memory[early]),
    }
    print(", ".join(f"{name} {ratio:.3f}" for name, ratio in ratios.items()), "of what it was")
    return int(any(ratio > MOST for ratio in ratios.values()))


if __name__ == "__main__":
    sys.exit(main())
