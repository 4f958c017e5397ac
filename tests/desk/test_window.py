"""The window driven as a person would: keys, cells, pointer, undo, save; and what it does when things go wrong."""

from __future__ import annotations

import os
import signal
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog

from lathed_solid import scripting as ls
from lathed_solid.desk import theme
from lathed_solid.desk.dialogs import ParametersDialog, PropertiesDialog
from lathed_solid.files import read_document, recoverable
from lathed_solid.files.journal import recovery as journal_module
from lathed_solid.part import Document, HoleStep, OnCircle, Radial, StatedVolume, TurnedStep, UnknownStep, edits
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.session import Session

from .conftest import Bench


def type_note(bench: Bench, text: str) -> None:
    line = bench.window.panes.note_line
    line.take_focus()
    line.field.clear()
    for char in text:  # QTest has keys for Latin-1 alone; symbols come from their buttons
        if ord(char) < 256:
            QTest.keyClicks(line.field, char)
        else:
            line._insert(char)
    QTest.keyClick(line.field, Qt.Key.Key_Return)
    bench.settle()


def edit_cell(view, row: int, column: int, text: str) -> None:  # type: ignore[no-untyped-def]
    model = view.model()
    assert model.flags(model.index(row, column)) & Qt.ItemFlag.ItemIsEditable
    model.setData(model.index(row, column), text)


def colours(image: QImage) -> set[str]:
    return {QColor(image.pixel(x, y)).name() for x in range(0, image.width(), 7) for y in range(0, image.height(), 7)}


def test_the_demo_is_shown_proven(bench: Bench) -> None:
    w = bench.window
    assert "29 in · 1 out" in bench.said and "mass 1184.0 g" in bench.said
    assert [b.count for b in w.panes.rail.buttons.values()] == [0, 0, 1, 0, 0]
    assert w.panes.drawer.model.rowCount() == 30 and w.panes.route.list.count() == 3
    assert w.panes.solid.scene is not None and w.panes.solid.frames > 0
    bench.until(lambda: len(colours(w.panes.solid.grabFramebuffer())) > 40)
    assert {"Barlow", "Barlow Semi Condensed", "osifont", "Noto Sans Symbols"} <= set(theme.load_fonts())


def test_a_note_typed_becomes_a_callout_and_undo_takes_it_back(bench: Bench) -> None:
    w = bench.window
    w.panes.note_line.take_focus()
    w.panes.note_line.field.clear()
    QTest.keyClicks(w.panes.note_line.field, "dia 31.5 ±0.1")
    assert w.panes.note_line.field.text() == "⌀31.5 ±0.1"
    assert "diameter 31.5 mm, from 31.4 to 31.6 mm" in w.panes.note_line.chip.text()
    QTest.keyClick(w.panes.note_line.field, Qt.Key.Key_Return)
    bench.settle()
    assert bench.session.document.callout(31) is not None
    assert w.panes.rail.buttons["read"].count == 1 and w.panes.rail.buttons["prove"].count == 2
    bench.session.undo()
    bench.settle()
    assert bench.session.document.callout(31) is None and bench.session.history.clean
    bench.session.redo()
    bench.settle()
    assert bench.session.document.callout(31) is not None
    QTest.keyClick(w.panes.note_line.field, Qt.Key.Key_Up)
    assert w.panes.note_line.field.text() == "⌀31.5 ±0.1"


def test_bad_notes_change_nothing_and_say_why(bench: Bench) -> None:
    before = bench.session.document
    for text, words in (("Ø6 THRU WOBBLE", "WOBBLE"), ("Ø", "number"), ("⌴ ↧4", "no diameter")):
        type_note(bench, text)
        assert bench.session.document == before and words in bench.said
        assert bench.window.panes.note_line.field.text() == text


def test_what_is_not_read_is_marked_where_it_stands(bench: Bench) -> None:
    line, before = bench.window.panes.note_line, bench.session.document
    line.take_focus()
    QTest.keyClicks(line.field, "6.6 DIA THRU FROBNICATE 11 DIA")
    # a word behind its number stays a word: its sign would belong to the next number
    assert line.field.text() == "6.6 DIA THRU FROBNICATE 11 DIA"
    assert line.field.marks == ((13, 10),) and "FROBNICATE" in line.chip.text() and line.chip.property("bad") == "true"
    QTest.keyClick(line.field, Qt.Key.Key_Return)
    assert line.field.text() and bench.session.document == before
    line.field.setText("6.6 DIA THRU")
    assert line.field.marks == () and line.chip.property("bad") == "false"
    line.field.clear()


def test_what_is_understood_stands_below_what_is_offered(bench: Bench) -> None:
    line = bench.window.panes.note_line
    line.take_focus()
    line.field.clear()
    QTest.keyClicks(line.field, "4X R6 EQ")
    offered = line.field.completer().popup()
    bench.until(lambda: offered.isVisible() and line.chip.y() > offered.height(), 10)
    top, bottom = (w.mapToGlobal(p) for w, p in ((line.chip, line.chip.rect().topLeft()),
                                                 (offered, offered.rect().bottomLeft())))  # fmt: skip
    assert line.chip.isVisible() and top.y() > bottom.y()
    low = line.chip.y()
    QTest.keyClick(offered, Qt.Key.Key_Escape)
    bench.until(lambda: line.chip.y() < low, 10)
    line.field.clear()


def test_a_command_in_the_note_line(bench: Bench) -> None:
    type_note(bench, "prove desk")
    assert bench.window.bench.desk == "prove" and not bench.window.panes.drawer.isVisible()
    type_note(bench, "shape desk")
    assert bench.window.bench.desk == "shape"


def test_editing_a_station_rebuilds_and_an_impossible_one_keeps_the_solid(bench: Bench) -> None:
    editor = bench.window.panes.shape_page.turned
    edit_cell(editor.stations, 2, 3, "#5 + 1in/8")
    bench.settle()
    assert bench.session.reply is not None and bench.session.reply.summary["ok"]
    assert editor.stations.model().index(2, 3).data() == "35.175"
    row = bench.session.reply.report.row(5)
    assert row is not None and row.verdict == "out" and row.measured == pytest.approx(35.175)
    shape = bench.session.reply.shape
    edit_cell(editor.stations, 2, 1, "40")
    bench.settle()
    assert "station 3" in bench.said and "negative" in bench.said and "station 3" in editor.drawing.problem
    assert bench.window.panes.rail.buttons["shape"].count > 0
    assert bench.window.panes.solid.content is not None and bench.window.panes.solid.content[0] == shape
    edit_cell(editor.stations, 2, 4, "wobbly")
    assert "an edge is a chamfer or a radius" in bench.said
    bench.session.undo()
    bench.session.undo()
    bench.settle()
    assert bench.window.panes.rail.buttons["shape"].count == 0


def test_rows_of_the_table_can_be_added_moved_and_removed(bench: Bench) -> None:
    editor = bench.window.panes.shape_page.turned

    def table():  # type: ignore[no-untyped-def]
        step = bench.session.document.steps[0]
        assert isinstance(step, TurnedStep)
        return step.table

    editor.stations.selectRow(5)
    editor._add()
    bench.settle()
    assert len(table().stations) == 7 and bench.session.reply is not None and bench.session.reply.summary["ok"]
    editor.stations.selectRow(6)
    editor._remove()
    bench.settle()
    editor._show_part(1)
    editor._add()
    bench.settle()
    assert len(table().grooves) == 2 and bench.session.reply.summary["ok"]
    editor._show_part(2)
    edit_cell(editor.bores, 0, 2, "25")
    bench.settle()
    assert table().bores[0].steps[0].depth == "25"


def test_logging_readings_and_modelling_as_measured(bench: Bench) -> None:
    w = bench.window
    w.bench.show_desk("read")
    page = w.panes.read_page.log
    edit_cell(page.view, 2, 4, "24.96; 24,95; 2.4955 cm")
    bench.settle()
    reading = bench.session.document.reading(3)
    assert reading is not None and reading.repeats == pytest.approx((24.96, 24.95, 24.955))
    edit_cell(page.view, 2, 3, "inside")
    assert bench.session.document.reading(3).way == "inside"  # type: ignore[union-attr]
    for bad in ("24.9; nan", "-3", "0", "1e9", "24.9;;x"):
        edit_cell(page.view, 2, 4, bad)
        assert bench.session.document.reading(3).repeats == reading.repeats  # type: ignore[union-attr]
        assert "callout 3" in bench.said or "above zero" in bench.said
    page.view.selectRow(2)
    w.commands.ledger.toggle_drive()
    bench.settle()
    row = bench.session.reply.report.row(3)  # type: ignore[union-attr]
    assert row is not None and row.verdict == "out" and row.measured == pytest.approx(24.955)


def test_a_fit_that_the_nominal_does_not_keep_is_driven_by_its_middle(bench: Bench) -> None:
    w = bench.window
    w.bench.show_desk("shape")
    bench.session.edit("a note", lambda d: edits.add_note(d, "12 MIN"))
    bench.settle()
    last = bench.session.document.callouts[-1].balloon
    w.panes.drawer.choose(last)
    w.commands.ledger.toggle_drive("middle")
    assert "no limits on both sides" in bench.said and bench.session.document.callout(last).drive == "nominal"  # type: ignore[union-attr]
    fitted = next(c for c in bench.session.document.callouts if c.fit)
    w.panes.drawer.choose(fitted.balloon)
    w.commands.ledger.toggle_drive("middle")
    bench.settle()
    row = bench.session.reply.report.row(fitted.balloon)  # type: ignore[union-attr]
    limits = bench.session.document.limits(fitted)
    assert row is not None and row.verdict == "in" and row.measured == pytest.approx((limits.low + limits.high) / 2)  # type: ignore[operator]
    w.commands.ledger.toggle_drive("middle")
    assert bench.session.document.callout(fitted.balloon).drive == "nominal"  # type: ignore[union-attr]


def test_prove_lights_faces_and_filters(bench: Bench) -> None:
    w = bench.window
    w.bench.show_desk("prove")
    assert w.panes.prove_page.model.rows[0].balloon == 9
    w.panes.prove_page.view.row_hovered.emit(w.panes.prove_page.model.rows[0])
    assert w.panes.solid._lit == ("10/sE",)
    assert any("out by 0.047" in f.text for f in w.panes.solid._overlay.flags)
    w.panes.prove_page._set_filter(3)
    assert w.panes.prove_page.model.rowCount() == 1
    w.panes.prove_page._set_filter(2)
    assert w.panes.prove_page.model.rowCount() == 0 and w.panes.prove_page.empty.isVisible()
    assert (
        "1184.0 g" in w.panes.prove_page.figures["model mass"].text()
        and "in" in w.panes.prove_page.figures["difference"].text()
    )


def test_turning_cutting_and_picking_in_the_solid(bench: Bench) -> None:
    w = bench.window
    view = w.panes.solid
    w.commands.view.look("front")
    bench.repaint()
    x, y = view.scene.project((80.0, -16.0, 0.0))
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(x, y))
    assert w.bench.picks and w.bench.picks[-1].names == ("10/sC",) and "cylinder ⌀32" in w.bench.picks[-1].facts
    assert w.panes.route.current() == 10
    before = view.scene.project((0.0, 0.0, 0.0))
    centre = QPoint(view.width() // 2, view.height() // 2)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=centre)
    QTest.mouseMove(view, centre + QPoint(60, 30))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=centre + QPoint(60, 30))
    assert view.scene.project((0.0, 0.0, 0.0)) != before and len(w.bench.picks) == 1
    w.commands.view.look("front")
    whole = view.grabFramebuffer()
    w.panes.view_bar.section.toggle()
    x, y = view.scene.project((100.0, 0.0, 5.0))  # on the cap: its own colour, however the lights stand
    picture = view.grabFramebuffer()
    about = [QColor(picture.pixel(x + i, y + j)) for i in range(-6, 7) for j in range(-6, 7)]
    names = [c.name() for c in about]
    assert names.count("#d8cfb8") > 0.35 * len(names)  # and hatched, a line every few pixels
    assert 0.02 * len(names) < sum(c.lightness() < 190 for c in about) < 0.6 * len(names)
    w.panes.view_bar.slider.setValue(700)
    w.panes.view_bar.section.toggle()
    w.panes.view_bar.see_through.toggle()
    assert colours(view.grabFramebuffer()) != colours(whole)
    w.panes.view_bar.see_through.toggle()
    QTest.keyClick(view, Qt.Key.Key_Left)
    QTest.keyClick(view, Qt.Key.Key_Plus)
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert w.bench.picks == ()
    cell = w.panes.view_net.cells()["top"].center().toPoint()
    QTest.mouseClick(w.panes.view_net, Qt.MouseButton.LeftButton, pos=cell)
    assert w.panes.view_net.current == "top"
    first = w.panes.view_net.cells()["right"]
    w.commands.view.toggle_projection()
    assert w.panes.view_net.cells()["right"] != first and bench.session.settings.projection == "third"


def test_a_hole_note_on_a_picked_face_is_done_on_enter(bench: Bench) -> None:
    w = bench.window
    w.commands.view.look("front")
    bench.repaint()
    x, y = w.panes.solid.scene.project((80.0, -16.0, 0.0))
    QTest.mouseClick(w.panes.solid, Qt.MouseButton.LeftButton, pos=QPoint(x, y))
    type_note(bench, "Ø5 ↧8")
    step = bench.session.document.steps[-1]
    assert isinstance(step, HoleStep) and isinstance(step.places, Radial) and step.face == "10/sC"
    assert float(step.places.at) == pytest.approx(80, abs=1.5)
    assert bench.session.reply is not None and bench.session.reply.summary["ok"]
    editor = w.panes.shape_page.form("hole")
    assert w.panes.shape_page.stack.currentWidget() is editor
    editor.fields["places.at"].line.setText("70")
    QTest.keyClick(editor.fields["places.at"].line, Qt.Key.Key_Return)
    bench.settle()
    assert bench.session.document.steps[-1].places.at == "70"  # type: ignore[union-attr]
    editor.fields["diameter"].line.setText("5 +")
    assert editor.fields["diameter"].line.property("bad") == "true"


def test_steps_can_be_suspended_moved_and_refused(bench: Bench) -> None:
    w = bench.window
    w.bench.choose_step(30)
    w.commands.route.toggle_suspended()
    bench.settle()
    assert bench.session.reply is not None and bench.session.reply.report.row(25).verdict == "not found"  # type: ignore[union-attr]
    w.commands.route.toggle_suspended()
    w.bench.choose_step(30)
    w.commands.route.move(-1)
    bench.settle()
    assert [len(s.balloons()) for s in bench.session.document.steps] == [23, 2, 4]
    w.bench.choose_step(10)
    w.commands.route.move(1)
    assert "cannot come before" in bench.said
    w.commands.route.drop()
    assert "carries step" in bench.said and len(bench.session.document.steps) == 3
    w.bench.choose_step(30)
    w.commands.route.drop()
    assert len(bench.session.document.steps) == 2


def test_save_open_recent_and_a_folder_that_may_not_be_written(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "mine.lathed"
    type_note(bench, "Ø31.5")
    assert not bench.session.history.clean and bench.window.windowTitle().startswith("Winch spindle *")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "mine"), ""))
    assert bench.window.commands.files.save_as()
    assert bench.session.history.clean and read_document(path) == bench.session.document
    assert bench.session.settings.recent[0] == str(path)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "none" / "x.lathed"), ""))
    assert not bench.window.commands.files.save_as()
    assert "cannot be written" in bench.said
    (tmp_path / "bad.lathed").write_bytes(b"PK\x03\x04 rubbish")
    before = bench.session.document
    assert not bench.session.open_file(tmp_path / "bad.lathed") and bench.session.document == before
    bench.show(Document(name="other"))
    bench.window.commands.files.open_path(path)
    bench.settle()
    assert bench.session.document == before


def test_the_worker_killed_in_the_window_loses_nothing(bench: Bench) -> None:
    session = bench.session
    assert session.builds.kernel is not None
    pid = session.builds.kernel.pid
    type_note(bench, "Ø31.5")
    document = session.document
    os.kill(pid, signal.SIGKILL)
    bench.until(lambda: session.builds.kernel is not None and session.builds.kernel.pid != pid)
    assert "nothing is lost" in bench.said and session.document == document
    bench.window.panes.shape_page.turned.stations.model()
    edit_cell(bench.window.panes.shape_page.turned.stations, 2, 3, "33")
    bench.settle()
    assert session.reply is not None and session.reply.summary["ok"]


def test_edits_are_in_the_journal_until_a_clean_end(
    spindle: Document, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = Session(None, journal_folder=tmp_path / "journal")
    session.open_value(spindle)
    assert session.edit("a note", lambda d: edits.add_note(d, "Ø31.5"))
    assert session.edit("a note", lambda d: edits.add_note(d, "Ø32.5"))
    with monkeypatch.context() as patch:  # as the next start would see it, had this process been killed
        patch.setattr(journal_module, "_alive", lambda *_a: False)
        (found,) = recoverable(tmp_path / "journal")
    assert found.history.document == session.document and len(found.history.entries) == 3
    again = Session(None, journal_folder=tmp_path / "journal")
    again.recover(found)
    assert again.document == session.document and again.history.undo_label == "a note"
    again.close()
    session.close()
    assert list((tmp_path / "journal").glob("*.journal")) == []


def test_empty_states_unknown_steps_and_the_dark_palette(bench: Bench) -> None:
    w = bench.window
    bench.session.open_value(Document(name="nothing"))
    bench.settle()
    assert w.panes.drawer.empty.isVisible() and w.panes.route.empty.isVisible()
    w.commands.route.add_turned()
    bench.settle()
    assert bench.session.reply is not None and bench.session.reply.summary["ok"] and not w.commands.route.can_add_turned
    w.commands.route.add_hole()
    bench.settle()
    step = bench.session.document.steps[-1]
    assert isinstance(step, HoleStep) and isinstance(step.places, OnCircle) and bench.session.reply.summary["ok"]
    unknown = Document.model_validate({"steps": [{"kind": "broach", "number": 10}]})
    assert isinstance(unknown.steps[0], UnknownStep)
    bench.show(unknown)
    assert "broach" in bench.said and "kept" in w.panes.shape_page.nothing.text()
    w.commands.view.toggle_dark()
    assert theme.roles() is theme.DARK
    w.commands.view.toggle_dark()


def test_properties_and_parameters_dialogs(bench: Bench) -> None:
    dialog = PropertiesDialog(bench.window, bench.session.document)
    dialog.mass.setText("1.2 kg")
    dialog.material.setCurrentText("CuSn8")
    dialog._try()
    result = dialog.result_document
    assert result.stated_mass is not None and result.stated_mass.grams == 1200 and result.material == "CuSn8"
    dialog.mass.setText("-3 g")
    dialog._try()
    assert dialog.problem.text() and dialog.result_document == result
    parameters = ParametersDialog(bench.window, bench.session.document)
    parameters.text.setPlainText("a = b\nb = a")
    parameters._try()
    assert "depends on itself" in parameters.problem.text()
    parameters.text.setPlainText("wall = #5 / 8")
    parameters._try()
    assert parameters.result_document.parameters[0].name == "wall"


def test_no_two_actions_share_a_key(bench: Bench) -> None:
    keys = [a.keys for a in ACTIONS if a.keys]
    assert len(keys) == len(set(keys)) and len({a.id for a in ACTIONS}) == len(ACTIONS)


def _contrast(a: str, b: str) -> float:
    """WCAG 2.1 contrast ratio."""

    def luminance(text: str) -> float:
        c = QColor(text)
        parts = [x / 12.92 if x <= 0.03928 else ((x + 0.055) / 1.055) ** 2.4 for x in (c.redF(), c.greenF(), c.blueF())]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def test_text_has_contrast_in_both_palettes() -> None:
    for r in (theme.LIGHT, theme.DARK):
        for back in (r.paper, r.card, r.rail, r.tint, r.out):
            assert _contrast(r.ink, back) >= 4.5, (r.ink, back)
        for back in (r.paper, r.card):
            assert _contrast(r.quiet, back) >= 4.5 and _contrast(r.brass_ink, back) >= 4.5
        assert _contrast(r.status_ink, r.status) >= 4.5


def test_a_note_with_four_picked_places_is_previewed_and_done_on_enter(bench: Bench) -> None:
    """The picks are real clicks on the flat face; the solid shows the holes before Enter."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (80, 60))
    bench.show(ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "14"))
    w = bench.window
    w.commands.view.look("top")
    w.panes.solid.fit()
    bench.repaint()
    wanted = [(14.0, 12.0), (66.0, 12.0), (66.0, 48.0), (14.0, 48.0)]
    for x, y in wanted:
        px, py = w.panes.solid.scene.project((x, y, 14.0))
        QTest.mouseClick(w.panes.solid, Qt.MouseButton.LeftButton, pos=QPoint(round(px), round(py)))
    before = len(bench.session.reply.labels)  # type: ignore[union-attr]
    w.panes.note_line.field.setFocus()
    w.panes.note_line.field.insert("4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8")
    assert "at the 4 picked places" in w.panes.note_line.chip.text()
    bench.until(lambda: "a preview" in bench.said)
    assert len(bench.session.document.steps) == 2 and w.panes.solid.content is not None
    assert len(w.panes.solid.content[1]) == before + 4 * 3
    QTest.keyClick(w.panes.note_line.field, Qt.Key.Key_Return)
    bench.settle()
    step = bench.session.document.steps[-1]
    assert isinstance(step, HoleStep) and step.face == "20/end"
    rows = [(float(a), float(b)) for a, b in step.places.rows]  # type: ignore[union-attr]
    # a click is as near as a pixel
    assert all(abs(a - x) < 0.8 and abs(b - y) < 0.8 for (a, b), (x, y) in zip(rows, wanted, strict=True))
    assert [r.verdict for r in bench.session.reply.report.rows] == ["in"] * 3  # type: ignore[union-attr]
    bench.session.undo()
    assert len(bench.session.document.steps) == 2 and not bench.session.document.callouts


def test_a_preview_of_a_note_that_is_given_up_goes_away(bench: Bench) -> None:
    w = bench.window
    before = bench.session.reply
    w.panes.note_line.field.setFocus()
    QTest.keyClicks(w.panes.note_line.field, "BREAK EDGES 0.2 MAX")
    assert "general note" in w.panes.note_line.chip.text()
    bench.until(lambda: bench.session.builds._preview is not None)
    QTest.keyClick(w.panes.note_line.field, Qt.Key.Key_Escape)
    bench.until(lambda: bench.session.builds._preview is None and not bench.session.builds.busy)
    bench.settle()
    assert bench.session.reply is before and len(bench.session.document.steps) == 3
    QTest.keyClicks(w.panes.note_line.field, "FILETS R2")
    assert "FILLETS?" in w.panes.note_line.chip.text()
    w.panes.note_line.field.clear()


def test_suspects_name_a_slip_show_the_part_without_it_and_undo_it(bench: Bench) -> None:
    part = ls.new_part("stepped")
    for n, text in enumerate(("Ø40", "30", "Ø24", "20"), 1):
        part = ls.note(part, text, n)
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2"),
                            ls.Station(key="B", diameter="#3", length="#4")])  # fmt: skip
    truth = ls.build(part).volume
    wrong = ls.change_callout(part, 3, nominal=12.0)
    wrong = wrong.model_copy(update={"stated_volume": StatedVolume(mm3=truth, tolerance=0.5)})
    bench.show(wrong)
    w = bench.window
    w.bench.show_desk("prove")
    pane = w.panes.prove_page.suspects
    w.panes.prove_page.tabs[1].click()
    assert "too little against the volume stated" in pane.head.text() and pane.search.isEnabled()
    pane.search.click()
    assert pane.search.text() == "stop"
    bench.until(lambda: not pane.asking.busy)
    best = pane.view.current_row()
    assert best.slips[0].now == "⌀24" and best.target == "callout 3"
    bench.until(lambda: "a preview" in bench.said)
    assert bench.session.document == wrong
    # pointing at another shows that one; away from the rows the chosen one comes back
    shown: list[Any] = []
    pane.shown.connect(shown.append)
    other = pane.model.rows[-1]
    pane.view.row_hovered.emit(other)
    bench.until(lambda: bool(shown))
    pane.view.row_hovered.emit(None)
    bench.until(lambda: len(shown) == 2)
    assert shown == [other, best]
    pane.take.click()
    bench.settle()
    assert bench.session.document.callout(3).nominal == 24 and "○ The volume fits" in pane.head.text()  # type: ignore[union-attr]
    assert not pane.model.rows
    bench.session.undo()
    bench.settle()
    # given up half way
    pane.search.click()
    pane.search.click()
    assert pane.state.text() == "stopped" and not pane.asking.busy
    # how much hangs on each size; a row leads to its callout
    w.panes.prove_page.tabs[2].click()
    matters = w.panes.prove_page.matters
    matters.ask.click()
    bench.until(lambda: not matters.asking.busy)
    first = matters.model.rows[0]
    assert len(matters.model.rows) == 4 and first.slope > 0 and "Most hangs on" in matters.state.text()
    w.panes.prove_page.tabs[3].click()
    assert "step 10 by Pappus: 2π" in w.panes.prove_page.coverage.sum.text()
    w.panes.prove_page.show_tab(0)
    w.bench.show_desk("shape")


def test_the_inspection_sheet_is_written_beside_the_window(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    w = bench.window
    for name, blank in (("full.pdf", False), ("blank.csv", True)):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a, n=name: (str(tmp_path / n), ""))
        run_action(next(a for a in ACTIONS if a.id == ("inspection-blank" if blank else "inspection")), w.commands)
        bench.until(lambda n=name: f"inspection sheet written to {n}" in bench.said)  # type: ignore[misc]
    assert (tmp_path / "full.pdf").read_bytes().startswith(b"%PDF")
    assert "outside" not in (tmp_path / "blank.csv").read_text("utf-8")


def test_sizes_by_hand_of_what_is_picked_are_kept_as_checks(bench: Bench) -> None:
    from lathed_solid.kernel.figures import Picked

    w = bench.window
    w.bench.show_desk("prove")
    w.panes.prove_page.tabs[5].click()
    pane = w.panes.prove_page.hand
    w.bench.pick(Picked("face", ("10/sB",), (35.0, 0.0, 12.5), "cylinder"))
    bench.until(lambda: bool(pane.model.rows))
    told = {h.label: h for h in pane.model.rows}
    assert told["diameter"].value == 25.0 and told["wall thickness here"].value == pytest.approx(25.0)
    w.bench.pick(Picked("face", ("10/sC",), (80.0, 0.0, 16.0), "cylinder"))
    bench.until(lambda: "axis to axis" in {h.label for h in pane.model.rows})
    # the coaxial distance is nothing: it cannot be a callout; the faces of the flange can
    w.bench.pick(None)
    w.bench.pick(Picked("face", ("10/face.left",), (0.0, 0.0, 5.0), "flat face"))
    w.bench.pick(Picked("face", ("10/shoulder.D",), (128.0, 0.0, 20.0), "flat face"))
    bench.until(lambda: "distance" in {h.label for h in pane.model.rows})
    pane.view.selectRow(0)
    pane.keep.click()
    bench.settle()
    pane.prove_by(6, pane.model.rows[0])
    bench.settle()
    six = bench.session.reply.report.row(6)  # type: ignore[union-attr]
    assert six is not None and six.verdict == "out" and six.measured == pytest.approx(128.0)
    bench.session.undo()
    kept = bench.session.document.callouts[-1]
    assert kept.nominal == pytest.approx(128.0) and kept.source == "by hand" and kept.measure is not None
    row = bench.session.reply.report.row(kept.balloon)  # type: ignore[union-attr]
    assert row is not None and row.verdict == "in"
    bench.session.undo()
    bench.settle()
    w.panes.view_bar.slider.setValue(500)
    w.panes.view_bar.section.setChecked(True)
    pane.mesh.click()
    bench.until(lambda: "by a mesh" in pane.more.text())
    assert "section: " in pane.more.text() and "exact boundary 150 826.46" in pane.more.text()
    # cut along the axis in the middle: 198 long, 72 wide, as dimensions on the section
    assert sorted(m.text for m in w.panes.solid._overlay.measures) == ["198.000", "72.000"]
    bench.repaint()
    w.panes.view_bar.section.setChecked(False)
    assert w.panes.solid._overlay.measures == []
    w.bench.pick(None)
    w.panes.prove_page.show_tab(0)
    w.bench.show_desk("shape")


def test_balloons_stand_about_the_solid_and_a_pick_leads_to_its_verdicts(bench: Bench) -> None:
    from PyQt6.QtCore import QPointF, QRectF

    from lathed_solid.desk.flags import BALLOON, free_place
    from lathed_solid.kernel.figures import Picked

    w = bench.window
    assert not w.panes.view_bar.balloons.isVisible()
    w.bench.show_desk("prove")
    w.panes.prove_page.show_tab(0)
    w.panes.prove_page.group.button(0).click()  # type: ignore[union-attr]
    bench.repaint()
    flags = w.panes.solid._overlay.flags
    assert w.panes.view_bar.balloons.isVisible() and {f.head for f in flags if not f.text} == {
        str(r.balloon) for r in bench.session.reply.report.rows if r.faces and r.verdict != "out"}  # type: ignore[union-attr]  # fmt: skip
    w.panes.view_bar.balloons.toggle()
    assert all(f.text for f in w.panes.solid._overlay.flags)
    w.panes.view_bar.balloons.toggle()
    # one face carries several callouts: picked again, the next of them is chosen
    chosen = []
    for _ in range(3):
        w.bench.pick(Picked("face", ("10/face.left",), (0.0, 0.0, 5.0), "flat face"))
        chosen.append(w.panes.prove_page.view.current_row().balloon)
    assert len(set(chosen)) == 3 and all(
        "10/face.left" in bench.session.reply.report.row(b).faces for b in chosen)  # type: ignore[union-attr]  # fmt: skip
    # places never overlap and stay in the pane; a full pane has none left
    room, taken = QRectF(0, 0, 200, 120), []
    while (box := free_place(QPointF(100, 60), QPointF(90, 60), room, taken)) is not None:
        assert room.contains(box) and not any(box.intersects(t) for t in taken)
        taken.append(box)
    assert 12 <= len(taken) <= 60 and taken[0].center().x() > 100 + BALLOON
    w.bench.pick(None)
    w.bench.show_desk("shape")
