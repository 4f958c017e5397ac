"""What is felt: from an edit to the picture in the real window, against the same edit's bare build; ratios in one run.

Run under X (xvfb-run): python bench/felt.py [REPEATS]. An edit's picture stands when the pane has painted the new
solid; its verdicts follow. The bare build is that of the edited step in an engine of this process, which has built the
rest. The plates have 50, 100, 200 holes in one step and one hole in another, which is edited.
"""

from __future__ import annotations

import math
import os
import resource
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import prove as plates
from PyQt6.QtWidgets import QApplication

from lathed_solid.demo import DEMOS
from lathed_solid.desk import theme
from lathed_solid.desk.app import settle
from lathed_solid.desk.gl_format import set_default_format
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.client import KernelClient
from lathed_solid.engine.rebuild import Engine
from lathed_solid.files import write_document
from lathed_solid.part import Document, edits
from lathed_solid.workbench.session import Session

SIZES = ("diameter", "depth", "height", "distance", "radius", "leg", "length")


class Window:
    """A real window, and the moments at which it shows things."""

    def __init__(self) -> None:
        set_default_format()
        self.app = QApplication([])
        theme.apply(self.app, dark=False)
        self.kernel = KernelClient()
        self.session = Session(self.kernel)
        self.window = MainWindow(self.session)
        self.window.resize(1280, 800)
        self.window.show()
        self.pane = self.window.panes.solid
        #: pictures painted when the pane was given its last solid
        self.given: int | None = None
        show = self.pane.show_solid

        def given(*solid: Any) -> None:
            before = self.pane.content
            show(*solid)
            if self.pane.content is not before:
                self.given = self.pane.frames

        self.pane.show_solid = given  # type: ignore[method-assign]

    def turn(self, done: Callable[[], bool], seconds: float = 60) -> float:
        """Turns of the event loop until something is so; how long that took, ms."""
        begun = time.perf_counter()
        while not done():
            if time.perf_counter() - begun > seconds:
                raise TimeoutError
            self.app.processEvents()
            time.sleep(0.0005)
        return (time.perf_counter() - begun) * 1000

    def picture(self, act: Callable[[], object]) -> tuple[float, float]:
        """From ``act`` to the new solid in the pane, and to its verdicts, ms."""
        self.given = None
        begun = time.perf_counter()
        act()
        self.turn(lambda: self.given is not None and self.pane.frames > self.given)
        seen = (time.perf_counter() - begun) * 1000
        self.turn(lambda: self.session.builds.settled)
        return seen, (time.perf_counter() - begun) * 1000

    def show(self, part: Document) -> None:
        self.session.open_value(part)
        self.turn(lambda: self.session.builds.settled and self.pane.scene is not None, 120)
        end = time.perf_counter() + 0.3
        self.turn(lambda: time.perf_counter() > end)


def nudged(part: Document, factor: float) -> Document:
    """The same with a size of its last step changed."""
    step = part.steps[-1]
    for name in SIZES:
        if isinstance(value := getattr(step, name, None), str) and value:
            return edits.put_step(part, edits.changed(step, **{name: f"({value}) * {factor}"}))
    raise ValueError(f"no size in {step.kind}")


def bare(part: Document, changed: Document) -> float:
    """The build of the edited step alone, ms."""
    engine = Engine()
    engine.build(part)
    begun = time.perf_counter()
    engine.build(changed)
    return (time.perf_counter() - begun) * 1000


def median(of: list[float]) -> float:
    return statistics.median(of)


def measured(window: Window, name: str, part: Document, repeats: int) -> float:
    """Tell the figures of one part; the time to its picture, ms."""
    window.show(part)
    seen, proven, back, alone = [], [], [], []
    for k in range(repeats):
        changed = nudged(part, 1 - 0.011 * (k + 1))
        alone.append(bare(part, changed))
        a, b = window.picture(lambda changed=changed: window.session.commit(changed, "edit"))  # type: ignore[misc]
        seen.append(a)
        proven.append(b)
        back.append(window.picture(window.session.undo)[0])
    s, p, u, a = map(median, (seen, proven, back, alone))
    print(f"{name}: edit to picture {s:.0f} ms, to verdicts {p:.0f}; undo {u:.0f}; the step alone {a:.0f} ms; "
          f"picture {s / a:.1f} x that, or {(s - 50) / a:.1f} x beside 50 ms")  # fmt: skip
    return s


def main() -> None:
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
    repeats = int(sys.argv[1]) if len(sys.argv) > 1 else 5
    window = Window()
    try:
        window.show(DEMOS["winch-spindle"]())
        settle()
        for name in ("winch-spindle", "pedestal", "ratchet-wheel", "crank-hub"):
            measured(window, name, DEMOS[name](), repeats)
        sizes = (50, 100, 200, 250)
        times = [measured(window, f"plate of {n} holes", plates.plate(n), repeats) for n in sizes]
        slope = math.log(times[-1] / times[0]) / math.log(sizes[-1] / sizes[0])
        print(f"plates: edit to picture grows as n^{slope:.2f}")
        most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        status = Path(f"/proc/{window.kernel.pid}/status").read_text("utf-8")
        worker = next(int(line.split()[1]) for line in status.splitlines() if line.startswith("VmHWM")) / 1024
        print(f"memory with the largest plate: window {most:.0f} MiB, worker {worker:.0f} MiB")
        file = Path(tempfile.mkdtemp()) / "pedestal.lathed"
        part = DEMOS["pedestal"]()
        write_document(file, part)
        opened = []
        for k in range(repeats):
            window.show(Document(name=f"nothing {k}"))
            write_document(file, edits.changed(part, name=f"pedestal {k}"))
            opened.append(window.picture(lambda: window.session.open_file(file))[0])
        begun = time.perf_counter()
        Engine().build(part)
        alone = (time.perf_counter() - begun) * 1000
        print(f"pedestal's file, its steps known to the worker, opened to picture: {median(opened):.0f} ms "
              f"(its bare build from nothing {alone:.0f} ms)")  # fmt: skip
    finally:
        window.window.close()
        window.session.builds.close()


if __name__ == "__main__":
    main()
