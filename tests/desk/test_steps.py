"""Steps made and edited in the window: from picks, with previews, candidates, work up to a row, and comparison."""

from __future__ import annotations

from importlib import import_module

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QPushButton
from steps.parts import block, circle, rectangle

from lathed_solid import scripting as ls
from lathed_solid.desk.compare import CompareDialog
from lathed_solid.desk.steps.form import StepForm
from lathed_solid.part import ChamferStep, DatumPlane, Document, EdgePick, FilletStep, PatternStep, edits
from lathed_solid.part.steps import KINDS
from lathed_solid.part.steps.catalogue import CATALOGUE, StepKind
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.step_forms import FORMS
from lathed_solid.workbench.step_forms.new import NEW

from .conftest import Bench


def act(bench: Bench, title: str) -> None:
    run_action(next(a for a in ACTIONS if a.title == title), bench.window.commands)
    bench.settle()


def pick(bench: Bench, **names: str) -> None:
    bench.window.bench.served = names
    bench.window.panes.shape_page.set_picked(names)


def form(bench: Bench, kind: str):
    found = bench.window.panes.shape_page.form(kind)
    assert bench.window.panes.shape_page.stack.currentWidget() is found
    return found


def typed(field, text: str) -> None:
    field.line.setFocus()
    field.line.selectAll()
    QTest.keyClicks(field.line, text)


def test_every_kind_of_step_has_an_editor_and_a_way_to_begin_it(bench: Bench) -> None:
    assert set(FORMS) | {"turned", "sketch"} == set(KINDS)
    begun = {n.kind for n in NEW} | {"turned", "sketch", "hole", "revolve", "imported"}
    assert begun == set(KINDS)
    for kind in FORMS:
        made = StepForm(kind)
        assert made.fields and all(row.path.split(".")[0] in KINDS[kind].model_fields for row in made.rows)
        made.deleteLater()


def test_edges_are_gathered_by_clicks_as_chips_and_left_out_by_their_cross(bench: Bench) -> None:
    bench.show(block())
    pick(bench)
    act(bench, "Round edges")
    f = form(bench, "fillet")
    edges = f.fields["pick.edges"]
    assert edges.names == () and "no edge is picked yet" in f.candidates.problem.text()
    f._enter(f.fields["radius"].line)  # a window with the keyboard, or without: the radius is entered first
    for name in ("20/end|20/l1", "20/end|20/l3", "20/l1|20/l2"):
        pick(bench, edge=name, axis=name)
        bench.settle()
    assert edges.names == ("20/end|20/l1", "20/end|20/l3", "20/l1|20/l2") and bench.session.reply.summary["ok"]
    box = edges._boxes[1]
    QTest.mouseClick(edges, Qt.MouseButton.LeftButton, pos=QPointF(box.right() - 8, box.center().y()).toPoint())
    bench.settle()
    assert edges.names == ("20/end|20/l1", "20/l1|20/l2")
    pick(bench, face="20/l4", plane="20/l4")
    bench.settle()
    assert bench.session.document.step(30).pick.faces == (), "a face is taken where nothing is gathered yet"
    edges.setFocus()
    QTest.keyClick(edges, Qt.Key.Key_Right)
    QTest.keyClick(edges, Qt.Key.Key_Delete)
    bench.settle()
    assert edges.names == ("20/l1|20/l2",)
    QTest.keyClicks(edges, "2")
    QTest.keyClicks(edges.line, "0/nothing|20/l1")
    QTest.keyClick(edges.line, Qt.Key.Key_Return)
    bench.settle()
    assert "is gone" in f.candidates.problem.text(), "a name that fits nothing is refused"


def test_a_datum_plane_is_drawn_picked_by_its_frame_and_carries_a_sketch(bench: Bench) -> None:
    bench.show(ls.step(block(), "plane", names=("XY",), distance="12"))
    w = bench.window
    bench.repaint()
    (mark,) = bench.session.reply.datums
    a, b = mark.line[0], mark.line[1]
    x, y = w.panes.solid.pixel_of(tuple((p + q) / 2 for p, q in zip(a, b, strict=True)))
    QTest.mouseClick(w.panes.solid, Qt.MouseButton.LeftButton, pos=QPoint(x, y))
    bench.until(lambda: w.bench.served == {"plane": "30/plane"})
    act(bench, "Add a sketch")
    assert bench.session.document.step(40).plane.face == "30/plane" and bench.session.reply.summary["ok"]


def test_a_size_of_the_section_leads_to_its_field_and_usual_sizes_fill_all(bench: Bench) -> None:
    bench.show(ls.hole(block(), "20/end", "8.5", depth="12", places={"kind": "table", "rows": (("30", "20"),)}))
    bench.window.commands.bench.choose_step(30)
    bench.settle()
    f = form(bench, "hole")
    bench.until(lambda: f.drawing.place_of("depth") is not None)
    place = f.drawing.place_of("depth")
    QTest.mouseClick(f.drawing, Qt.MouseButton.LeftButton, pos=place.toPoint())
    bench.until(lambda: bench.window.focusWidget() is f.fields["depth"].line)
    assert f.fields["depth"].line.selectedText() == "12"
    names = [f.usual.itemText(i) for i in range(f.usual.count())]
    f.usual.activated.emit(names.index("cap screw M6"))
    bench.settle()
    step = bench.session.document.step(30)
    assert (step.diameter, step.cbore_diameter, step.depth) == ("6.6 mm", "11 mm", None)
    assert bench.session.reply.summary["ok"] and f.usual.currentIndex() == 0


@pytest.mark.parametrize("row", [k for k in CATALOGUE.values() if k.entries], ids=lambda k: k.name)
def test_every_entry_of_the_menu_has_its_beginning(row: StepKind) -> None:
    assert len(import_module(f"lathed_solid.workbench.step_forms.{row.name}").BEGIN) == len(row.entries)


def test_rounding_a_picked_edge_with_a_preview_while_typing(bench: Bench) -> None:
    bench.show(block())
    pick(bench, edge="20/l1|20/l2", axis="20/l1|20/l2")
    act(bench, "Round edges")
    step = bench.session.document.steps[-1]
    assert isinstance(step, FilletStep) and step.pick.edges == ("20/l1|20/l2",)
    f = form(bench, "fillet")
    typed(f.fields["radius"], "7")
    previews: list[object] = []
    bench.session.builds.previewed.connect(previews.append)
    bench.until(lambda: bool(previews))
    assert bench.session.document.steps[-1].radius == "1", "a preview changes nothing"
    assert any("30/(20/l1|20/l2)" in label for label in bench.window.panes.solid.content[1])
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Escape)
    bench.settle()
    assert f.fields["radius"].text() == "1" and bench.session.builds._preview is None
    assert bench.window.panes.solid.content[0] == bench.session.reply.shape, "the document's own solid is back"
    previews.clear()
    typed(f.fields["radius"], "6")
    bench.until(lambda: bool(previews))
    typed(f.fields["radius"], "1")
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Return)
    bench.settle()
    assert bench.session.builds._preview is None
    assert bench.window.panes.solid.content[0] == bench.session.reply.shape, (
        "the old value typed again ends the preview"
    )
    typed(f.fields["radius"], "7")
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Return)
    bench.settle()
    assert bench.session.document.steps[-1].radius == "7"
    typed(f.fields["radius"], "70")
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Return)
    bench.settle()
    assert "R70 does not fit" in f.candidates.problem.text() and "R70 does not fit" in bench.said
    assert bench.session.reply is not None and bench.session.reply.shape, "the last good solid stays in view"
    typed(f.fields["radius"], "6")
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Return)
    bench.settle()
    assert not f.candidates.problem.text() and "R70" not in bench.said, "a message ends with its cause"
    bench.window.activateWindow()
    f.fields["radius"].line.setFocus()
    bench.until(lambda: QApplication.focusWidget() is f.fields["radius"].line)
    typed(f.fields["radius"], "9")
    QTest.keyClick(f.fields["radius"].line, Qt.Key.Key_Escape)
    assert f.fields["radius"].text() == "6" and QApplication.focusWidget() is bench.window.panes.solid


def test_a_lost_edge_is_mended_by_one_click(bench: Bench) -> None:
    part = ls.step(block(), "chamfer", leg="1", pick=EdgePick(edges=("20/end|20/l9",)))
    bench.show(part)
    bench.window.bench.choose_step(30)
    f = form(bench, "chamfer")
    assert "is gone" in f.candidates.problem.text()
    buttons = f.candidates._buttons
    take = next(b for b in buttons if isinstance(b, QPushButton) and b.text() == "take 20/end|20/l1")
    take.click()
    bench.settle()
    step = bench.session.document.step(30)
    assert isinstance(step, ChamferStep) and step.pick.edges == ("20/end|20/l1",)
    assert bench.session.reply.summary["ok"] and not f.candidates._buttons


def test_work_up_to_a_row_and_steps_put_in_between(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    part = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10")
    bench.show(ls.step(part, "fillet", radius="2", pick=EdgePick(edges=("40/c1|40/end",))))
    w = bench.window
    w.bench.choose_step(20)
    act(bench, "Work up to here")
    assert bench.session.reply.summary["volume_mm3"] == pytest.approx(48000)
    assert [w.panes.route.list.item(i).data(Qt.ItemDataRole.UserRole).state for i in range(5)] == [
        "built", "built", "later", "later", "later",
    ]  # fmt: skip
    pick(bench, face="20/end", plane="20/end")
    act(bench, "Hollow out")
    assert [s.number for s in bench.session.document.steps] == [10, 20, 25, 30, 40, 50]
    assert bench.session.stand == 25
    bench.session.undo()
    act(bench, "Work at the end of the route")
    assert bench.session.stand is None and bench.session.reply.summary["ok"]
    asked: list[str] = []
    monkeypatch.setattr(QMessageBox, "question", lambda *a: asked.append(a[2]) or QMessageBox.StandardButton.Cancel)
    w.bench.choose_step(40)
    w.commands.route.toggle_suspended()
    assert "Step 40 carries step 50" in asked[0] and not bench.session.document.step(40).suspended
    w.bench.choose_step(50)
    act(bench, "Duplicate the chosen step")
    assert [s.number for s in bench.session.document.steps][-2:] == [50, 60]


def test_a_pattern_by_its_form(bench: Bench) -> None:
    part = ls.extrude(circle(block(), "20/end", 10, 20, 4), 30, "5")
    bench.show(part)
    act(bench, "Repeat in a row or grid")
    step = bench.session.document.steps[-1]
    assert isinstance(step, PatternStep) and step.steps == (40,) and bench.session.reply.summary["ok"]
    f = form(bench, "pattern")
    f.fields["layout.count"].setValue(3)
    bench.settle()
    f.fields["layout"].setCurrentIndex(2)
    f.fields["layout"].activated.emit(2)
    bench.settle()
    assert bench.session.document.steps[-1].layout.kind == "ring"
    assert f.form.isRowVisible(f.fields["layout.angle"]) and not f.form.isRowVisible(f.fields["layout.along2"])
    f.fields["skip"].setText("9")
    f.fields["skip"].editingFinished.emit()
    bench.settle()
    assert "no copy 9 to skip" in f.candidates.problem.text()


def test_what_is_missing_is_said(bench: Bench) -> None:
    bench.show(block())
    pick(bench)
    for title, words in (("Thread", "pick the round face first"), ("Hollow out", "pick the face first"),
                         ("Repeat around an axis", "")):  # fmt: skip
        before = len(bench.session.document.steps)
        act(bench, title)
        if words:
            assert words in bench.said and len(bench.session.document.steps) == before


def test_comparing_with_an_earlier_moment(bench: Bench) -> None:
    bench.show(block())
    pick(bench, edge="20/l1|20/l2")
    act(bench, "Bevel edges")
    dialog = CompareDialog(bench.window, bench.session)
    lit: list[tuple[str, ...]] = []
    dialog.faces_hovered.connect(lit.append)
    dialog._moment(1)
    bench.until(lambda: "mass" in dialog.summary.text())
    assert "faces: 1 new, 0 gone, 4 changed" in dialog.summary.text()
    assert dialog.table.item(0, 1).text() == "step 30"
    assert lit[-1][0] == "30/(20/l1|20/l2)"
    dialog.reject()
    QApplication.processEvents()


def test_a_pick_fills_the_field_that_waits_for_it_and_the_form_stays(bench: Bench) -> None:
    from lathed_solid.kernel.figures import Picked

    base = ls.Draft()
    ls.shapes.rectangle(base, (0, 0), (60, 40))
    part = ls.extrude(ls.sketch(ls.new_part("block"), base), 10, "20")
    square = ls.Draft()
    ls.shapes.rectangle(square, (10, 10), (20, 20))
    part = edits.put_step(part, KINDS["sketch"](number=30, sketch=square.done()))
    part = edits.put_step(part, KINDS["extrude"](number=40, sketch=30, mode="cut", distance="5"))
    bench.show(part)
    w = bench.window
    w.bench.choose_step(40)
    form = w.panes.shape_page.form("extrude")
    w.bench.pick(Picked("face", ("20/end",), (5.0, 5.0, 20.0), surface="plane", place=(5.0, 5.0)))
    assert w.bench.step == 40 and form.step.until == "", "nothing waits for a pick yet"
    form.fields["until"].setFocus()
    bench.until(lambda: form.fields["until"].hasFocus())
    w.bench.pick(Picked("face", ("20/end",), (5.0, 5.0, 20.0), surface="plane", place=(5.0, 5.0)))
    bench.settle()
    assert w.bench.step == 40 and w.bench.chosen_step.until == "20/end"
    form.fields["start"].line.setFocus()
    w.bench.pick(Picked("face", ("20/start",), (5.0, 5.0, 0.0), surface="plane", place=(5.0, 5.0)))
    bench.settle()
    assert w.bench.chosen_step.until == "20/end", "a size takes no face"
    w.panes.route.list.setFocus()
    QTest.keyClick(w.panes.route.list, Qt.Key.Key_Delete)
    bench.settle()
    assert [s.number for s in bench.session.document.steps] == [10, 20, 30]


def _two_bodies() -> Document:
    part = block(60, 40, "20")
    part = rectangle(part, DatumPlane(), (10, 10), (50, 30))
    return ls.step(part, "extrude", sketch=30, mode="new", distance="35", remark="cover")


def test_what_is_hidden_already_is_not_painted_again(bench: Bench) -> None:
    """After each proof the panes say anew what is hidden and which sketches show: no reason for another picture."""
    bench.show(_two_bodies())
    solid, bar = bench.window.panes.solid, bench.window.panes.view_bar
    bench.repaint()
    for again, told in ((bar.set_bodies, dict(bar._bodies)), (bar.set_sketches, tuple(bar._sketches))):
        before = solid.frames
        again(told)
        for _ in range(20):
            QApplication.processEvents()
        assert solid.frames == before
    bar.hide_bodies(frozenset({40}))
    bench.until(lambda: solid.frames > before)
    bar.hide_bodies(frozenset())


def test_bodies_are_named_hidden_and_shown_alone(bench: Bench) -> None:
    bench.show(_two_bodies())
    bar, solid = bench.window.panes.view_bar, bench.window.panes.solid
    bench.window.bench.choose_step(40)
    assert bar.bodies.isVisible() and bar.bodies.text() == "bodies 2 of 2 ▾"
    entries = [a for a in bar.bodies_menu().actions() if a.text()]
    assert [a.text() for a in entries] == [
        "20  Extrude sketch 10", "40  cover", "only 20  Extrude sketch 10", "only 40  cover", "all",
    ]  # fmt: skip
    shown = solid.scene._bodies
    assert set(shown._shown) == {20, 40}
    entries[1].trigger()
    assert shown._hidden == {40} and bar.bodies.text() == "bodies 1 of 2 ▾"
    next(a for a in bar.bodies_menu().actions() if a.text() == "20  Extrude sketch 10").trigger()
    assert shown._hidden == {40}, "never none"
    next(a for a in bar.bodies_menu().actions() if a.text() == "only 40  cover").trigger()
    assert shown._hidden == {20}
    bench.window.commands.view.look("top")
    bench.repaint()
    x, y = solid.scene.project((3.0, 3.0, 20.0))
    assert solid.scene.detect(x, y) is None, "what is hidden is not picked"
    next(a for a in bar.bodies_menu().actions() if a.text() == "all").trigger()
    assert solid.scene.detect(x, y).names == ("20/end",)
    bar.section.setChecked(True)
    assert len(shown._caps._planes) == 2, "each is cut with its own hatch"
    bar.section.setChecked(False)
    assert shown._caps._planes == {}
    bench.show(block())
    assert bar.bodies.isHidden() and set(shown._shown) == {0}


def test_sketches_are_shown_over_the_solid(bench: Bench) -> None:
    bench.show(_two_bodies())
    bar = bench.window.panes.view_bar
    assert [m.number for m in bench.session.reply.sketches] == [10, 30]
    corners = {p for line in bench.session.reply.sketches[1].lines for p in line}
    assert corners == {(x, y, 0.0) for x in (10.0, 50.0) for y in (10.0, 30.0)}
    bar.sketches.setChecked(True)
    assert bench.window.panes.solid.scene._sketches is not None
    bar.sketches.setChecked(False)
    assert bench.window.panes.solid.scene._sketches is None
