"""Plant faults one by one and see that the tests notice: ``python tools/plant_faults.py [NAME ...]``.

Each fault is a small edit of the sources and the tests that must then fail. A fault that lives is printed, and the exit
code is 1. For the night, not for every run: it takes a few minutes. The sources are copied first, so that the working
tree is never touched; the tests run on the copy, each under a limit of time.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCES = ROOT / "src" / "lathed_solid"
LIMIT_S = 300


@dataclass(frozen=True)
class Fault:
    """``old`` becomes ``new``, once, in ``file`` under the sources; ``tests`` (with -k words) must fail."""

    name: str
    file: str
    old: str
    new: str
    tests: str
    words: str = ""


PLACES = "tests/steps/test_place_and_hand.py"
FAULTS = (
    Fault("hand of threads", "kernel/builders/thread.py", "hand = -1 if step.left else 1",
          "hand = 1", PLACES, "real_thread"),
    Fault("hand of threads, both turned", "kernel/builders/thread.py", "hand = -1 if step.left else 1",
          "hand = 1 if step.left else -1", PLACES, "real_thread"),
    Fault("hand of helices", "kernel/builders/helix.py", "hand = -1.0 if left else 1.0",
          "hand = 1.0 if left else -1.0", PLACES, "spring"),
    Fault("side of a rib", "kernel/builders/rib.py", "side = -1.0 if step.flip else 1.0",
          "side = 1.0 if step.flip else -1.0", PLACES, "rib"),
    Fault("thickness of a rib to one side", "kernel/builders/rib.py", "-step.thickness / 2", "0.0", PLACES, "rib"),
    Fault("following a curve", "part/steps/pattern_layout.py",
          "float(t - turns[0]) if layout.follow else 0.0", "0.0", PLACES, "curve"),
    Fault("following a curve unasked", "part/steps/pattern_layout.py",
          "float(t - turns[0]) if layout.follow else 0.0", "float(t - turns[0])", PLACES, "curve"),
    Fault("angle of a move", "kernel/builders/bodies.py",
          "gp_Dir(*axis.direction)), step.turn)", "gp_Dir(*axis.direction)), -step.turn)", PLACES, "move"),
    Fault("a move that turns first", "kernel/builders/bodies.py",
          "turn.Multiplied(shift)", "shift.Multiplied(turn)", PLACES, "move"),
    Fault("which part a split keeps", "kernel/builders/bodies.py",
          '("front", BRepAlgoAPI_Common()), ("back", BRepAlgoAPI_Cut())',
          '("back", BRepAlgoAPI_Common()), ("front", BRepAlgoAPI_Cut())', PLACES, "split"),
    Fault("keep of a combine", "kernel/builders/bodies.py",
          "if step.copy or n not in step.others", "if n not in step.others", PLACES, "combination"),
    Fault("flip of the part datum's Z", "kernel/builders/datum.py",
          '(-1 if step.way[1] == "-" else 1)', "1", PLACES, "part_datum"),
    Fault("flip of the part datum's X", "kernel/builders/datum.py",
          '(-1 if step.way[0] == "-" else 1)', "1", PLACES, "part_datum"),
    Fault("sign of a plane's angle", "kernel/builders/datum.py",
          "c * n + s * np.cross(d, n)", "c * n - s * np.cross(d, n)", PLACES, "plane_at_an_angle"),
    Fault("sense of tangent planes", "kernel/builders/datum.py",
          "math.sin(step.angle) * side", "-math.sin(step.angle) * side", PLACES, "tangent"),
    Fault("plane by points, turned over", "kernel/builders/datum.py",
          "np.cross(u - o, v - o)", "np.cross(v - o, u - o)", PLACES, "points"),
    Fault("axis by points, backwards", "kernel/builders/datum.py", "_unit(b - a,", "_unit(a - b,", PLACES, "points"),
    Fault("the chamfer angle is always right", "kernel/round_sizes.py",
          "return _bevels(case, lambda b: b.angle)",
          "return _bevels(case, lambda b: case.expected)", "tests/test_checks.py", "bevel"),
    Fault("spans dropped by rewording", "part/edits.py",
          '"place", "span", "source")', '"place", "source")', "tests/test_checks.py", "rewording"),
    Fault("no limit on a reader's time", "sheets/worker.py",
          "resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))", "pass", "tests/test_checks.py", "limits"),
    Fault("no limit on a reader's memory", "sheets/worker.py",
          "resource.setrlimit(resource.RLIMIT_AS, (memory, memory))", "pass", "tests/test_checks.py", "limits"),
    Fault("a cut may take nothing", "kernel/checks.py", "if removed <= before * RELATIVE:", "if removed < -before:",
          "tests/test_checks.py", "cut"),
    Fault("a cut may take more than its tools", "kernel/checks.py",
          "tools * (1 + 1e-5)", "tools * 2", "tests/test_checks.py", "cut"),
    Fault("a join may lose material", "kernel/checks.py",
          "max(sizes) * (1 - RELATIVE_READ)", "min(sizes) * (1 - RELATIVE_READ)", "tests/test_checks.py", "join"),
    Fault("a join may gain material", "kernel/checks.py",
          "sum(sizes) * (1 + 1e-5)", "sum(sizes) * 2", "tests/test_checks.py", "join"),
    Fault("a drag of what has only relations", "sketch/system.py",
          ".astype(float, copy=False)", "", "tests/workbench/test_board.py", "loose"),
    Fault("the last wish is not the one that is built", "workbench/build_queue.py",
          "        self._wanted = document\n        self._drop_pointless()\n        self._next()\n\n    def preview",
          "        self._wanted = self._wanted or document\n        self._next()\n\n    def preview",
          "tests/workbench/test_build_queue.py"),
    Fault("a preview is shown as the document", "workbench/build_queue.py",
          "if document == self._preview:", "if False:", "tests/workbench/test_build_queue.py"),
)  # fmt: skip


def planted(fault: Fault, tree: Path) -> str:
    """The sources of ``fault.file`` as they were, after the fault is put in. Raises ValueError when it does not fit."""
    file = tree / "lathed_solid" / fault.file
    whole = file.read_text("utf-8")
    if whole.count(fault.old) != 1:
        raise ValueError(f"{fault.name}: stands {whole.count(fault.old)} times in {fault.file}, must stand once")
    file.write_text(whole.replace(fault.old, fault.new), "utf-8")
    return whole


def noticed(fault: Fault, tree: Path) -> bool:
    """Whether the tests fail on the tree with the fault in it."""
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", *fault.tests.split()]
    command += ["-k", fault.words] if fault.words else []
    env = {**os.environ, "PYTHONPATH": str(tree), "PYTHONDONTWRITEBYTECODE": "1"}
    done = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, timeout=LIMIT_S, check=False)
    if done.returncode not in (0, 1):
        raise ValueError(f"{fault.name}: the tests did not run:\n{done.stdout.decode()[-800:]}")
    return done.returncode == 1


def main(names: list[str]) -> int:
    """Plant all faults, or those of these names."""
    alive = []
    with tempfile.TemporaryDirectory(prefix="lathed-solid-faults-") as folder:
        tree = Path(folder)
        shutil.copytree(SOURCES, tree / "lathed_solid", ignore=shutil.ignore_patterns("__pycache__"))
        for fault in (f for f in FAULTS if not names or f.name in names):
            whole = planted(fault, tree)
            found = noticed(fault, tree)
            (tree / "lathed_solid" / fault.file).write_text(whole, "utf-8")
            print(f"{'noticed' if found else 'LIVES  '}  {fault.name}", flush=True)
            if not found:
                alive.append(fault.name)
    print(f"{len(alive)} live" if alive else "all were noticed")
    return 1 if alive else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
