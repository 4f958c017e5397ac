"""Start-up: our window against a bare PyQt6 window plus ``import OCP``, paired in the same run.

Run under X (xvfb-run): python bench/startup.py [PAIRS]. Usable: the window shows the file's document, a key pressed
then has gone into the note line, and the note line with it has been painted. The window's own import of the kernel
follows beside it, and the solid arrives from the worker (second figure); the gaps of the event loop from usable to
the solid are told too, without the last ones, which take over and draw the solid.
"""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
from pathlib import Path

from lathed_solid.demo import DEMOS
from lathed_solid.files import write_document

BARE = """
import time; start = time.perf_counter()
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication([]); window = QMainWindow(); window.resize(1280, 800); window.show()
import OCP
app.processEvents()
print(time.perf_counter() - start)
"""

OURS = """
import pathlib, sys, time; start = time.perf_counter()
from lathed_solid.engine.starter import Starter
Starter.here().prepare()  # as the command does
import lathed_solid.desk.app as app_module
from PyQt6.QtCore import QCoreApplication, QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from lathed_solid.desk import window as window_module

class Seen(QObject):
    def eventFilter(self, of, event):
        if event.type() == QEvent.Type.Paint and of.text():
            times.setdefault("usable", time.perf_counter() - start)
        return False

made, times, gaps, seen = [], {}, [], Seen()
build = window_module.MainWindow.__init__
def noted(self, session):
    build(self, session)
    made.append(self)
    watch()
window_module.MainWindow.__init__ = noted
def watch():
    w, now = made[0], time.perf_counter()
    if "usable" in times and w.session.reply is None:
        gaps.append(now - times.get("last", now))
    times["last"] = now
    if "typed" not in times and w.isVisible() and w.session.document.callouts:
        times["typed"] = now
        line = w.panes.note_line.field
        line.installEventFilter(seen)
        press = QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_R, Qt.KeyboardModifier.NoModifier, "R")
        QCoreApplication.postEvent(line, press)
    if w.panes.solid.content is not None and w.panes.solid.scene is not None and w.session.reply is not None:
        shown = w.panes.solid.frames
        times.setdefault("frames", shown)
        if shown > times["frames"]:
            print(times["usable"], now - start, max(gaps, default=0.0), sum(1 for g in gaps if g > 0.05))
            w.close()
            return
        w.panes.solid.update()
    QTimer.singleShot(1, watch)
"""
#: how the window comes by its part: opened from a file, a new one, or made as the demo is
FILE = (
    "from lathed_solid.files import read_document; p = pathlib.Path(sys.argv[1]); app_module.run(p, read_document(p))"
)
NEW = "app_module.run(None)"
DEMO = 'from lathed_solid.demo import DEMOS; app_module.run(None, DEMOS["winch-spindle"]())'


def _spindle() -> bytes:
    """The demo's file."""
    with tempfile.TemporaryDirectory() as folder:
        write_document(Path(folder) / "spindle.lathed", DEMOS["winch-spindle"]())
        return (Path(folder) / "spindle.lathed").read_bytes()


SPINDLE = _spindle()


def seconds(code: str) -> list[float]:
    """The figures a fresh process prints."""
    import os

    with tempfile.TemporaryDirectory() as folder:
        env = os.environ | {"XDG_CONFIG_HOME": folder, "XDG_STATE_HOME": folder, "QT_QPA_PLATFORM": "xcb"}
        part = Path(folder) / "spindle.lathed"
        part.write_bytes(SPINDLE)
        out = subprocess.run(
            [sys.executable, "-c", code, str(part)], capture_output=True, text=True, check=True, env=env
        )
    return [float(x) for x in out.stdout.split()]


def main() -> None:
    pairs = int(sys.argv[1]) if len(sys.argv) > 1 else 5
    seconds(BARE), seconds(OURS + FILE)  # warm the disk cache
    rows = [(seconds(BARE)[0], *seconds(OURS + FILE)) for _ in range(pairs)]
    made = [seconds(OURS + DEMO)[0] for _ in range(pairs)]
    new = [seconds(OURS + NEW)[0] for _ in range(pairs)]
    for name, column in (("usable", 1), ("solid shown", 2)):
        ratios = [r[column] / r[0] for r in rows]
        span = f"{min(ratios):.2f} to {max(ratios):.2f}"
        best = min(r[column] for r in rows) / min(r[0] for r in rows)
        print(f"{name}: {statistics.median(ratios):.2f} x bare window + import OCP ({span}); best of each {best:.2f}")
    print(f"bare {statistics.median(r[0] for r in rows):.2f} s, ours {statistics.median(r[1] for r in rows):.2f} s")
    demo, fresh = statistics.median(made), statistics.median(new)
    print(f"usable with the demo made instead of opened: {demo:.2f} s; with a new part {fresh:.2f} s")
    longest = [1000 * r[3] for r in rows]
    print(
        f"gaps while the kernel comes: longest {statistics.median(longest):.0f} ms "
        f"({min(longest):.0f} to {max(longest):.0f}), over 50 ms {[int(r[4]) for r in rows]}"
    )


if __name__ == "__main__":
    main()
