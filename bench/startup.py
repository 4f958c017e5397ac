"""Start-up: our window against a bare PyQt6 window plus ``import OCP``, paired in the same run.

Run under X (xvfb-run): python bench/startup.py [PAIRS]. Usable: the window is shown with the demo document, has
painted its 3D pane, and answers events; the solid itself arrives from the worker a little later (second figure).
"""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile

BARE = """
import time; start = time.perf_counter()
from PyQt6.QtWidgets import QApplication, QMainWindow
app = QApplication([]); window = QMainWindow(); window.resize(1280, 800); window.show()
import OCP
app.processEvents()
print(time.perf_counter() - start)
"""

OURS = """
import time; start = time.perf_counter()
import lathed_solid.desk.app as app_module
from PyQt6.QtCore import QTimer
from lathed_solid.demo import DEMOS
from lathed_solid.desk import window as window_module

made = []
build = window_module.MainWindow.__init__
def noted(self, session):
    build(self, session)
    made.append(self)
    watch()
window_module.MainWindow.__init__ = noted
times = {}
def watch():
    w = made[0]
    if "usable" not in times and w.isVisible() and w.solid.frames > 0 and w.session.document.callouts:
        times["usable"] = time.perf_counter() - start
    if w.solid._content is not None and w.session.reply is not None:
        print(times["usable"], time.perf_counter() - start)
        w.close()
        return
    QTimer.singleShot(1, watch)
app_module.run(None, DEMOS["winch-spindle"]())
"""


def seconds(code: str) -> list[float]:
    """The figures a fresh process prints."""
    import os

    with tempfile.TemporaryDirectory() as folder:
        env = os.environ | {"XDG_CONFIG_HOME": folder, "XDG_STATE_HOME": folder, "QT_QPA_PLATFORM": "xcb"}
        out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=env)
    return [float(x) for x in out.stdout.split()]


def main() -> None:
    pairs = int(sys.argv[1]) if len(sys.argv) > 1 else 5
    seconds(BARE), seconds(OURS)  # warm the disk cache
    rows = [(seconds(BARE)[0], *seconds(OURS)) for _ in range(pairs)]
    for name, column in (("usable", 1), ("solid shown", 2)):
        ratios = [r[column] / r[0] for r in rows]
        span = f"{min(ratios):.2f} to {max(ratios):.2f}"
        best = min(r[column] for r in rows) / min(r[0] for r in rows)
        print(f"{name}: {statistics.median(ratios):.2f} x bare window + import OCP ({span}); best of each {best:.2f}")
    print(f"bare {statistics.median(r[0] for r in rows):.2f} s, ours {statistics.median(r[1] for r in rows):.2f} s")


if __name__ == "__main__":
    main()
