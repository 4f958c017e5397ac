"""Refresh docs/screenshots from the demo: run under X, ``python tools/screenshots.py``; one of them, or one that only
the guide shows, into a folder: ``python tools/screenshots.py NAME FOLDER``.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QApplication

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS, FITS
from lathed_solid.part import StatedVolume, edits
from lathed_solid.part.caliper_log import sums_for

OUT = Path(__file__).parent.parent / "docs" / "screenshots"


def read(w: Any) -> None:
    """The log beside a picture of the part with the letters of its sizes, a pitch worked out."""
    log = w.panes.read_page.log
    with tempfile.TemporaryDirectory() as folder:
        picture = Path(folder) / "spindle.png"
        w.panes.solid.grabFramebuffer().save(str(picture))
        log.commands.lay_photograph(picture)
    for balloon, x, y in ((1, 0.88, 0.40), (9, 0.72, 0.52), (7, 0.5, 0.42), (3, 0.36, 0.58), (11, 0.12, 0.6)):
        log.commands.place_letter(balloon, x, y)
    log.commands.work_out(next(s for s in sums_for(w.session.document, 10) if s.words.startswith("centre")))
    log.view.selectRow(next(i for i, r in enumerate(log.model.rows) if r.balloon == 9))
    end = time.monotonic() + 20
    while not log.photo.area().width() and time.monotonic() < end:
        QApplication.processEvents()
        time.sleep(0.02)


def shape(w: Any) -> None:
    w.panes.shape_page.turned.stations.selectRow(1)
    w.panes.note_line.field.setFocus()
    w.panes.note_line.field.setText("4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8 ON ⌀52 BC")


def prove(w: Any) -> None:
    w.panes.prove_page.view.selectRow(0)
    w.commands.view.look("iso right")


def holes(w: Any) -> None:
    w.bench.choose_step(20)
    w.commands.view.look("iso right")
    w.panes.view_bar.section.toggle()


def edges(w: Any) -> None:
    w.bench.choose_step(90)
    w.commands.view.look("iso right")


def sketch(w: Any) -> None:
    w.bench.choose_step(30)
    w.commands.view.look("iso right")


def fight(w: Any) -> None:
    """One dimension too many: the contradiction and its ways out."""
    from lathed_solid.sketch.builder import SketchBuilder

    def change(figure: Any, _values: Any) -> Any:
        draft = SketchBuilder(figure)
        draft.add("across_x", "l1", value="2.1")
        return draft.done()

    w.bench.choose_step(30)
    w.panes.drawer.set_open(False)
    w.panes.shape_page.sketch.commands.edit("a dimension too many", change)
    w.panes.shape_page.sketch.side.said.setCurrentRow(1)


def sheet(w: Any) -> None:
    """The pedestal's drawing with its balloons; one of them chosen."""
    pump(lambda: w.panes.read_page.sheets.commands.found is not None)
    w._choose_balloon(11)


def scan(w: Any) -> None:
    """A photographed drawing, read: what is sure is taken, the rest gone through."""
    from lathed_solid.demo.sheets import SHEETS

    w.panes.read_page.show_source(1)
    page = w.panes.read_page.sheets
    page.commands.lay(SHEETS / "winch-spindle-photo.jpg")
    pump(lambda: page.commands.found is not None and page.commands.found.lettering == "read", 300)
    page.commands.take_all()
    pump(lambda: False, 1)
    page.commands.ask_changes()
    pump(lambda: False, 1)


def first_model(w: Any) -> None:
    """What a photograph of the spindle's drawing makes of itself, before it is built."""
    from lathed_solid.demo.sheets import SHEETS

    w.panes.read_page.show_source(1)
    page = w.panes.read_page.sheets
    page.commands.lay(SHEETS / "winch-spindle-photo.jpg")
    pump(lambda: page.commands.found is not None and page.commands.found.lettering == "read", 120)
    page.proposal.ask()
    pump(page.proposal.isVisible, 60)
    pump(lambda: False, 1)


def planted() -> Any:
    """The pedestal with its column half as thick as drawn, and the volume that the drawing states."""
    part = DEMOS["pedestal"]()
    truth = ls.build(part).volume
    slipped = ls.change_callout(part, 8, nominal=0.75 * 25.4, low=None, high=None)
    return slipped.model_copy(update={"stated_volume": StatedVolume(mm3=round(truth, 1), tolerance=2.0)})


def suspects(w: Any) -> None:
    """The slip found, and the part shown without it."""
    pane = w.panes.prove_page.suspects
    w.panes.prove_page.show_tab(1)
    pane.start()
    pump(lambda: not pane.asking.busy, 180)
    pump(lambda: False, 3)
    w.commands.view.look("iso right")


def stops_short() -> Any:
    """The spindle with a lie and a size that nothing limits: the crank's cross hole ends in the shaft, the mouth of
    the bore is finer than the general tolerance goes.
    """
    part = DEMOS["winch-spindle"]()
    part = edits.put_step(part, edits.changed(part.steps[2], depth="11", point=None))
    part = edits.edit_note(part, 30, "0.4x45°")
    return part


def duties(w: Any) -> None:
    """The lie caught: its row unfolded to its duties."""
    page = w.panes.prove_page
    line = next(r for r in page.model.rows if r.balloon == 25)
    page.unfold(line, True)
    w.commands.view.look("iso right")


def slipped() -> Any:
    """The pedestal with its holes nearer to each other than drawn."""
    return ls.change_callout(DEMOS["pedestal"](), 6, nominal=4.55 * 25.4, low=None, high=None)


def witness(w: Any) -> None:
    """The drawing laid over the part: the holes' circles are not the part's."""
    pane = w.panes.prove_page.witness
    w.panes.prove_page.show_tab(4)
    pane.start()
    pump(lambda: pane.found is not None, 60)
    pane.view.selectRow(0)
    w.commands.view.look("iso right")


def pulled_apart(w: Any) -> None:
    """The winch along its axes, with the numbers of its parts list."""
    w.panes.fit_page.show_tab(4)
    w.fit.pull_apart(True)


def overlapping(w: Any) -> None:
    """The screws that stand on the ground of their holes."""
    w.panes.fit_page.show_tab(2)
    rows = w.panes.fit_page.overlaps
    rows.view.selectRow(next(i for i, r in enumerate(rows.model.rows) if r.overlap.a == "drum"))


def drawing(w: Any) -> None:
    """The spindle drawn back, one of its notes chosen."""
    pump(lambda: bool(w.maker.sheets), 60)
    pump(lambda: False, 0.5)
    w.panes.paper.choose(9)


def machinist(w: Any) -> None:
    """What it takes to cut the pedestal."""
    w.panes.hand_over_page.show_tab(1)
    pump(lambda: w.maker.machinist is not None, 60)


def audit(w: Any) -> None:
    """The audit before modelling: a contradiction, something left open, and a stack."""
    w.panes.read_page.show_source(2)
    page = w.panes.read_page.chains
    page.along.setCurrentText("x")
    page._fill_places()
    page.start.setCurrentText("left holes")
    page.end.setCurrentText("groove left")
    page._show_stack()


def note(w: Any) -> None:
    """Four places picked by clicks, a note typed, and what it would make."""
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest

    w.commands.view.look("iso right")
    w.panes.solid.fit()
    pump(lambda: False, 0.5)
    for x, y in ((14, 12), (66, 12), (66, 48), (14, 48)):
        px, py = w.panes.solid.scene.project((x, y, 14.0))
        QTest.mouseClick(w.panes.solid, Qt.MouseButton.LeftButton, pos=QPoint(round(px), round(py)))
    w.panes.note_line.field.setFocus()
    w.panes.note_line.field.insert("4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8")
    pump(lambda: False, 2)


def half_done() -> Any:
    """The sheave pin as somebody might have it: its head too long, its shank in another class."""
    from lathed_solid.exercises import begun, exercise

    task = exercise("sheave-pin")
    answer = edits.edit_note(edits.edit_note(task.answer(), 2, "6.5"), 3, "Ø20 h8")
    return begun(task).model_copy(update={"notes": answer.notes, "steps": answer.steps})


def marked(w: Any) -> None:
    """The exercise's marks."""
    w.panes.prove_page.show_tab(6)
    w.commands.view.look("iso right")


def asked_of(w: Any) -> None:
    """The question before a save that would undo another's: the file was written by somebody else meanwhile."""
    from PyQt6.QtWidgets import QMessageBox

    from lathed_solid.files import write_document

    def shown(box: QMessageBox) -> int:
        box.open()
        return 0

    QMessageBox.exec = shown  # type: ignore[assignment,method-assign]
    file = Path(tempfile.mkdtemp()) / "crank-hub.lathed"
    w.session.save(file)
    write_document(file, edits.changed(w.session.document, name="Crank hub, revision B"))
    w.session.edit("chamfer", lambda d: ls.note(d, "1x45°"))
    pump(lambda: w.session.builds.settled)
    w.commands.files.save()
    w.panes.status.left.setText("")  # no path of this machine


def waits(w: Any) -> None:
    """What two windows left that ended before it was saved."""
    from lathed_solid.desk.waiting_dialog import WaitingDialog
    from lathed_solid.files.journal import Waiting

    at = time.mktime((2026, 11, 30, 9, 40, 0, 0, 0, -1))
    spindle = Waiting(Path("a"), Path("winch-spindle.lathed"), "part", "Winch spindle", 14, 0, at)
    foot = Waiting(Path("b"), None, "fit", "Winch on its foot", 3, 0, at - 3000)
    WaitingDialog(w, [spindle, foot], "Crank hub", lambda *_: False).show()


def pump(done: Any, seconds: float = 10) -> None:
    from PyQt6.QtWidgets import QApplication

    end = time.monotonic() + seconds
    while time.monotonic() < end and not done():
        QApplication.processEvents()
        time.sleep(0.01)


def plate() -> Any:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (80, 60))
    return ls.extrude(ls.sketch(ls.new_part("Cover plate"), d), 10, "14")


SHOTS = {
    "sheet": ("read", sheet, "pedestal"),
    "scan": ("read", scan, "paper"),
    "first-model": ("read", first_model, "paper"),
    "audit": ("read", audit, "pedestal-as-drawn"),
    "note": ("shape", note, "plate"),
    "suspects": ("prove", suspects, "planted"),
    "fit": ("fit", pulled_apart, "winch"),
    "fit-overlap": ("fit", overlapping, "winch"),
    "read": ("read", read, "winch-spindle"),
    "shape": ("shape", shape, "winch-spindle"),
    "prove": ("prove", prove, "winch-spindle"),
    "duties": ("prove", duties, "stops-short"),
    "holes": ("shape", holes, "winch-spindle"),
    "edges": ("shape", edges, "pedestal"),
    "witness": ("prove", witness, "slipped"),
    "sketch": ("shape", sketch, "pedestal"),
    "fight": ("shape", fight, "pedestal"),
    "drawing": ("hand over", drawing, "winch-spindle"),
    "machinist": ("hand over", machinist, "pedestal"),
}
#: these stand in the guide alone
GUIDE_SHOTS = {"exercise": ("prove", marked, "half-done"), "asked": ("shape", asked_of, "crank-hub"),
               "waiting": ("shape", waits, "crank-hub")}  # fmt: skip


def main() -> None:
    if len(sys.argv) > 1:
        from lathed_solid.desk.shot import take_shot

        name, folder = sys.argv[1], Path(sys.argv[2]) if len(sys.argv) > 2 else OUT
        desk, prepare, demo = (SHOTS | GUIDE_SHOTS)[name]
        made = DEMOS | FITS | {"plate": plate, "planted": planted, "slipped": slipped, "stops-short": stops_short,
                        "half-done": half_done,
                        "paper": lambda: ls.new_part("Winch spindle")}  # fmt: skip
        take_shot(made[demo](), folder / f"{name}.png", desk, 1280, 800, prepare=prepare)
        return
    OUT.mkdir(parents=True, exist_ok=True)
    for name in SHOTS:  # a fresh process each, as a fresh start
        subprocess.run([sys.executable, __file__, name], check=True)


if __name__ == "__main__":
    main()
