"""Heartbeat: the longest gap in the window's event loop while the kernel works on hundreds of holes.

Run under X. The reference is the same heartbeat in the idle window, in the same run. Also: what an edit of the
last step costs against the whole build.
"""

from __future__ import annotations

import os
import tempfile
import time

from PyQt6.QtWidgets import QApplication

from lathed_solid import scripting as ls
from lathed_solid.desk import theme
from lathed_solid.desk.app import settle
from lathed_solid.desk.gl_format import set_default_format
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.client import KernelClient
from lathed_solid.part import Document, edits
from lathed_solid.workbench.session import Session


def drum(rings: int) -> Document:
    """A drum with rings of 60 blind holes."""
    part = ls.turned(ls.new_part("drum"), [ls.Station(key="A", diameter="400", length="400")])
    for i in range(rings):
        part = ls.hole(part, "10/sA", "6", depth="10", places=ls.Radial(at=str(20 + 30 * i), count=60))
    return part


def beat(app: QApplication, done, seconds: float) -> list[float]:  # type: ignore[no-untyped-def]
    """Gaps (ms) between turns of the event loop until ``done`` or ``seconds``."""
    gaps, last, end = [], time.perf_counter(), time.perf_counter() + seconds
    while not done() and last < end:
        app.processEvents()
        time.sleep(0.001)
        now = time.perf_counter()
        gaps.append((now - last) * 1000)
        last = now
    return gaps


def main() -> None:
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
    set_default_format()
    app = QApplication([])
    theme.apply(app, dark=False)
    with KernelClient() as kernel:
        session = Session(kernel)
        window = MainWindow(session)
        window.resize(1280, 800)
        window.show()
        session.open_value(ls.new_part("idle"))
        beat(app, lambda: not session.builds.busy and not window.panes.solid.waiting, 10)
        settle()
        idle = beat(app, lambda: False, 2)
        part = drum(5)
        session.open_value(part)
        beat(app, lambda: session.builds.busy, 5)
        work = beat(app, lambda: not session.builds.busy, 120)  # to the moment the reply is taken
        built = session.reply
        assert built is not None
        whole = sum(s.ms for s in built.steps)
        # the first turns repaint the window for the new document; the last ones take over and draw the solid
        first, middle, final = work[:8], work[8:-3], work[-3:]
        over = sum(1 for gap in middle if gap > 50)
        print(f"idle: longest gap {max(idle):.0f} ms; own repaint after the edit {max(first):.0f} ms")
        print(f"while the kernel worked {sum(work) / 1000:.1f} s: longest {max(middle):.0f} ms, {over} over 50 ms")
        print(f"taking over a solid of {len(built.labels)} faces: {max(final):.0f} ms")
        last = part.steps[-1]
        session.commit(edits.put_step(part, edits.changed(last, diameter="5")), "last step")
        beat(app, lambda: session.builds.busy, 5)
        beat(app, lambda: not session.builds.busy, 120)
        again = session.reply
        assert again is not None
        rebuilt = [s.number for s in again.steps if not s.cached]
        cost = sum(s.ms for s in again.steps)
        print(f"editing the last of {len(again.steps)} steps rebuilt {rebuilt}: {cost / whole:.2f} of the whole build")
        session.open_value(part)  # nothing unsaved: closing asks no question
        window.close()


if __name__ == "__main__":
    main()
