"""The window before its kernel has come: usable, says so, closes cleanly."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

SCRIPT = """
import sys
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest
import lathed_solid.desk.app as app
from lathed_solid.demo import DEMOS
from lathed_solid.desk import window as module

show = module.MainWindow.showEvent
def act(w):
    assert w.panes.solid.waiting and "OCP" not in sys.modules
    QTest.keyClicks(w.panes.note_line.field, "R6")
    assert w.panes.note_line.field.text() == "R6"
    w.panes.solid.look("front")
    {then}
build = module.MainWindow.__init__
def noted(self, session):
    build(self, session)
    QTimer.singleShot(0, lambda: act(self))
module.MainWindow.__init__ = noted
print(app.run(None, DEMOS["winch-spindle"]()))
"""


def _run(then: str, tmp_path: Path) -> list[str]:
    env = os.environ | {"XDG_CONFIG_HOME": str(tmp_path), "XDG_STATE_HOME": str(tmp_path)}
    code = SCRIPT.replace("{then}", then)
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=120, env=env)
    assert done.returncode == 0, done.stderr
    return done.stdout.split()


def test_closing_while_the_kernel_comes_ends_cleanly(tmp_path: Path) -> None:
    assert _run("QTimer.singleShot(400, w.close)", tmp_path) == ["0"]


def test_what_was_chosen_before_holds_when_the_scene_stands(tmp_path: Path) -> None:
    then = """
    def seen():
        x, y, z = w.panes.solid.scene.view.Proj()
        print(round(x), round(y), round(z), w.panes.solid.waiting)
        QTimer.singleShot(0, w.close)
    w.panes.solid.settled.connect(lambda: QTimer.singleShot(50, seen))
"""
    assert _run(then, tmp_path) == ["0", "-1", "0", "False", "0"]


def test_a_window_is_imported_without_solver_grammar_and_kernel() -> None:
    """They double the time until it can be used, and are imported when first needed."""
    code = (
        "import sys, lathed_solid.desk.app, lathed_solid.desk.window\n"
        "heavy = ('scipy', 'OCP', 'pypdfium2', 'lathed_solid.notation', 'lathed_solid.part.proposals',"
        " 'lathed_solid.sketch.solve', 'lathed_solid.reports.drawing.draw')\n"
        "print([m for m in heavy if m in sys.modules], 'lathed_solid.desk.panes' in sys.modules)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=120, check=True)
    assert done.stdout.strip() == "[] True"
