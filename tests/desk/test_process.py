"""The application as processes: killed after an edit, started again; no OpenGL; a clean end."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

DRIVER = """
import os, signal, sys
from PyQt6.QtCore import QTimer
from lathed_solid.demo import DEMOS
from lathed_solid.desk import app as app_module, window as window_module
{before}
build = window_module.MainWindow.__init__
def noted(self, session):
    build(self, session)
    self.ticks = 0
    self.clock = QTimer(self)
    self.clock.timeout.connect(lambda: act(self))
    self.clock.start(50)
window_module.MainWindow.__init__ = noted
def act(w):
    w.ticks += 1
    if w.session.reply is None and w.ticks < 1000:
        return
    w.clock.stop()
{act}
def asked(*_a):
    from PyQt6.QtWidgets import QMessageBox
    return QMessageBox.StandardButton.Discard
from PyQt6.QtWidgets import QMessageBox
QMessageBox.question = asked
sys.exit(app_module.run(None, DEMOS["winch-spindle"]()))
"""

EDIT_THEN_KILLED = """
    w.notes.enter("\\u230031.5")
    os.kill(os.getpid(), signal.SIGKILL)
"""
TELL_THEN_CLOSE = """
    d = w.session.document
    print("LAST", d.callouts[-1].balloon, d.callouts[-1].note, w.session.history.undo_label, flush=True)
    print("SAID", w.panes.status.left.text(), "SOLIDS", w.session.reply.summary["solids"], flush=True)
    w.close()
"""


def start(folder: Path, act: str, before: str = "", **env: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-c", DRIVER.format(act=act, before=before)],
        capture_output=True, text=True, timeout=150, check=False,
        env=os.environ | {"XDG_CONFIG_HOME": str(folder / "c"), "XDG_STATE_HOME": str(folder / "s")} | env,
    )  # fmt: skip


def test_an_application_killed_after_an_edit_has_it_at_the_next_start(tmp_path: Path) -> None:
    assert start(tmp_path, EDIT_THEN_KILLED).returncode == -9
    again = start(tmp_path, TELL_THEN_CLOSE)
    assert again.returncode == 0, again.stderr
    assert "LAST 31 ⌀31.5 ⌀31.5" in again.stdout and "1 unsaved edit recovered" in again.stdout
    third = start(tmp_path, TELL_THEN_CLOSE)
    assert "LAST 30" in third.stdout and third.returncode == 0


OPEN_A_FILE = """
    d = w.session.document
    print("SHOWN", d.name, "OF", w.session.path, flush=True)
    w.close()
"""
LEAVE_FOR_LATER = """
from lathed_solid.desk.waiting_dialog import WaitingDialog
def later(dialog):
    print("OFFERED", dialog.list.item(0).text().replace(chr(10), " / "), flush=True)
    return 0
WaitingDialog.exec = later
from lathed_solid.files import read_document, write_document
from pathlib import Path
file = Path(os.environ["XDG_STATE_HOME"]) / "hub.lathed"
write_document(file, DEMOS["crank-hub"]())
run = app_module.run
app_module.run = lambda *_: run(file, read_document(file))
"""


def test_a_file_that_is_asked_for_is_shown_and_what_waits_is_offered_first(tmp_path: Path) -> None:
    assert start(tmp_path, EDIT_THEN_KILLED).returncode == -9
    asked = start(tmp_path, OPEN_A_FILE, before=LEAVE_FOR_LATER)
    assert "OFFERED Winch spindle / not saved yet · 1 edit" in asked.stdout, asked.stderr
    assert "SHOWN Crank hub OF" in asked.stdout and "hub.lathed" in asked.stdout
    again = start(tmp_path, TELL_THEN_CLOSE)
    assert "1 unsaved edit recovered" in again.stdout, "it waited on"


@pytest.mark.parametrize("how", ["offscreen", "no scene"])
def test_without_opengl_tables_and_proof_still_work(tmp_path: Path, how: str) -> None:
    broken = (
        "import lathed_solid.viewer.scene as v\n"
        "def none():\n    raise v.ViewError('no context')\n"
        "v.current_context = none"
    )
    result = (
        start(tmp_path, TELL_THEN_CLOSE, QT_QPA_PLATFORM="offscreen")
        if how == "offscreen"
        else start(tmp_path, TELL_THEN_CLOSE, before=broken)
    )
    assert result.returncode == 0, result.stderr
    assert "LAST 30" in result.stdout and "SOLIDS 1" in result.stdout


AT_TWICE = """
    from PyQt6.QtCore import QPoint, QTimer
    from PyQt6.QtTest import QTest
    def look():
        x, y = (v / w.devicePixelRatioF() for v in w.panes.solid.scene.project((170.0, 0.0, 9.0)))
        w.panes.solid.picked.connect(lambda p, _more: print("PICKED", p.names if p is not None else None, flush=True))
        QTest.mouseClick(w.panes.solid, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
        print("SCALE", w.devicePixelRatioF(), w.minimumSizeHint().width() <= 1280, flush=True)
        w.close()
    from PyQt6.QtCore import Qt
    QTimer.singleShot(1500, look)
"""


def test_at_twice_the_size_the_window_fits_and_picks_what_is_pointed_at(tmp_path: Path) -> None:
    (tmp_path / "c" / "lathed-solid").mkdir(parents=True)
    (tmp_path / "c" / "lathed-solid" / "settings.json").write_text('{"scale": 200}')
    told = start(tmp_path, AT_TWICE)
    assert told.returncode == 0, told.stderr
    assert "SCALE 2.0 True" in told.stdout and "10/s" in told.stdout, told.stdout
