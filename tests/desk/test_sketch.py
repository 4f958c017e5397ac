"""The sketch pane driven as a person would: a bracket drawn from nothing, dragged, dimensioned, fought over, built."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QInputDialog, QPushButton

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.desk.ask import SizesDialog
from lathed_solid.desk.sketch.editor import SketchEditor
from lathed_solid.part import ExtrudeStep, RevolveStep, SketchStep, edits
from lathed_solid.workbench.sketch import underlay
from lathed_solid.workbench.sketch.relations import OfferedRelation

from .conftest import Bench


class Pane:
    """The sketch editor under the pointer: positions in mm."""

    def __init__(self, bench: Bench) -> None:
        self.bench, self.window = bench, bench.window
        self.editor: SketchEditor = bench.window.panes.shape_page.sketch
        self.canvas, self.board = self.editor.canvas, self.editor.board

    def pixel(self, x: float, y: float) -> QPoint:
        return self.canvas.frame.pixel(complex(x, y)).toPoint()

    def click(self, x: float, y: float, *, shift: bool = False) -> None:
        keys = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
        QTest.mouseMove(self.canvas, self.pixel(x, y))
        QTest.mouseClick(self.canvas, Qt.MouseButton.LeftButton, keys, self.pixel(x, y))
        QApplication.processEvents()

    def drag(self, a: tuple[float, float], b: tuple[float, float]) -> None:
        start, end = self.pixel(*a), self.pixel(*b)
        QTest.mousePress(self.canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
        for k in range(1, 11):
            QTest.mouseMove(self.canvas, start + (end - start) * k / 10)
            QApplication.processEvents()
        QTest.mouseRelease(self.canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)
        self.bench.settle()

    def key(self, key: Qt.Key, *, shift: bool = False) -> None:
        keys = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
        QTest.keyClick(self.canvas, key, keys)
        QApplication.processEvents()

    def type(self, text: str) -> None:
        """Digits typed over the drawing go to the size fields; Tab to the next, Return takes them."""
        for part in text.split("\t"):
            QTest.keyClicks(QApplication.focusWidget(), part)
            if part != text.split("\t")[-1]:
                QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
        self.bench.settle()

    @property
    def sketch(self):
        return self.editor.state.sketch

    @property
    def said(self) -> list[str]:
        return [self.editor.side.said.item(i).text() for i in range(self.editor.side.said.count())]


@pytest.fixture
def pane(bench: Bench) -> Pane:
    """An empty sketch in an empty part."""
    bench.show(ls.new_part("bracket"))
    from lathed_solid.workbench.actions import run_action

    run_action(next(a for a in _actions() if a.id == "add-sketch"), bench.window.commands)
    bench.settle()
    p = Pane(bench)
    p.editor.commands.set_mode("pick")
    p.board.fit()
    p.board.settings.infer = True
    p.window.activateWindow()
    p.canvas.setFocus()
    bench.until(lambda: QApplication.focusWidget() is p.canvas)
    return p


def _actions():
    from lathed_solid.workbench.actions import ACTIONS

    return ACTIONS


def test_the_words_have_room_beside_the_drawing(pane: Pane) -> None:
    """None over another, and the solid in the corner above them."""
    side, words = pane.editor.side, [b for b in pane.editor.side.tool_buttons.values() if b.isVisible()]
    places = [b.geometry() for b in words]
    assert len(places) > 15 and all(side.rect().contains(p) for p in places)
    assert not any(a.intersects(b) for k, a in enumerate(places) for b in places[k + 1 :])
    assert side.height() > 1.5 * pane.bench.window.panes.solid.height()


def test_a_bracket_from_nothing(pane: Pane) -> None:
    assert isinstance(pane.editor.state.step, SketchStep) and "nothing drawn yet" in pane.editor.side.headline.text()
    pane.key(Qt.Key.Key_R)
    pane.click(0, 0)
    pane.key(Qt.Key.Key_4)
    assert QApplication.focusWidget() is pane.editor.strip.fields["width"].line
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_0)
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    pane.type("30")
    assert [round(float(v)) for v in pane.editor.state.values.values()] == [40, 30]
    pane.key(Qt.Key.Key_C)
    pane.click(15, 10)
    pane.click(19, 13.3)
    pane.bench.settle()
    assert len(pane.sketch.curves) == 5
    pane.key(Qt.Key.Key_Escape)
    # dimension the circle: pick it, then place the text
    pane.key(Qt.Key.Key_D)
    circle = next(c for c in pane.sketch.curves if c.kind == "circle")
    pane.click(15 + circle.radius, 10)
    pane.click(45, 36)
    assert pane.editor.strip.value is not None
    pane.editor.strip.value.line.selectAll()
    pane.type("12")
    assert next(c for c in pane.sketch.curves if c.kind == "circle").radius == pytest.approx(6)
    # build on all that is material
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_B)
    pane.editor.strip.build_wanted.emit("extrude")
    pane.bench.settle()
    step = pane.window.session.document.steps[-1]
    assert isinstance(step, ExtrudeStep) and step.sketch == 10
    reply = pane.window.session.reply
    assert reply.summary["volume_mm3"] == pytest.approx(10 * (1200 - 36 * np.pi), rel=1e-9)
    assert pane.window.panes.shape_page.stack.currentWidget() is pane.window.panes.shape_page.form("extrude")
    pane.window.panes.shape_page.form("extrude").fields["distance"].finished.emit("25")
    pane.bench.settle()
    assert pane.window.session.reply.summary["volume_mm3"] == pytest.approx(25 * (1200 - 36 * np.pi), rel=1e-9)
    for _ in range(3):
        pane.window.session.undo()
    pane.bench.settle()
    assert len(pane.window.session.document.steps) == 1


def test_lines_chain_infer_and_refuse(pane: Pane) -> None:
    pane.key(Qt.Key.Key_L)
    for x, y in ((-30, -20), (30, -19.6), (30.3, 20), (-30, -20)):
        pane.click(x, y)
    pane.bench.settle()
    kinds = [(c.kind, c.inferred) for c in pane.sketch.constraints]
    assert ("horizontal", True) in kinds and ("vertical", True) in kinds
    assert sum(k == "coincident" for k, _ in kinds) == 3
    assert len(pane.editor.state.regions) == 1
    pane.key(Qt.Key.Key_N)  # nothing more is inferred while drawing
    assert not pane.board.settings.infer
    before = len(pane.sketch.constraints)
    pane.click(-40, 30)
    pane.click(-10, 30.2)
    pane.bench.settle()
    assert len(pane.sketch.constraints) == before
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_Escape)
    assert pane.board.mode == "pick"


def test_dragging_moves_what_is_loose_and_says_what_is_held(pane: Pane) -> None:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (-20, -10), (20, 10))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="40")
    _load(pane, d)
    assert pane.editor.side.headline.text() == "loose: 1 free movement"
    pane.drag((5, 10), (5, 25))
    top = pane.sketch.at(d.entities[sides[2]].start)
    assert top[1] == pytest.approx(25, abs=1) and top[0] == pytest.approx(20)
    pane.drag((0, -10), (0, 5))
    assert "held: nothing to drag" in pane.bench.said
    # window pick
    pane.drag((-40, -30), (40, 40))
    assert len(pane.board.chosen) == 4


def _load(pane: Pane, d: ls.Draft) -> None:
    step = edits.changed(pane.window.session.document.step(10), sketch=d.done())
    pane.window.session.edit("load", lambda doc: edits.put_step(doc, step))
    pane.bench.settle()
    pane.board.fit()


def test_a_fight_is_shown_with_its_ways_out_and_one_is_taken(pane: Pane) -> None:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (40, 20))
    d.add("distance", sides[0], value="40")
    d.add("across_x", sides[0], value="41.5")
    _load(pane, d)
    assert pane.editor.side.headline.text() == "fighting: 1 contradiction"
    assert "41.5 and 40 fix the same gap and disagree by 1.5" in pane.said[0]
    assert not pane.window.session.reply.steps[0].ok
    row = pane.said.index("make 41.5 → 40 mm")
    pane.editor.side.said.setCurrentRow(row)
    assert pane.board.ghost is not None
    pane.drag((20, 0), (20, 9))
    assert "end the fight first" in pane.bench.said
    pane.editor.side.said.itemActivated.emit(pane.editor.side.said.item(row))
    pane.bench.settle()
    assert pane.editor.side.headline.text().startswith("loose")
    assert any("says again" in text for text in pane.said)
    pane.window.session.undo()
    pane.bench.settle()
    assert pane.editor.side.headline.text().startswith("fighting")


def test_a_loose_sketch_is_completed_from_the_sheet(pane: Pane) -> None:
    for text in ("61", "Ø12"):
        pane.window.session.edit(text, lambda doc, t=text: edits.add_note(doc, t))
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 25))
    d.circle(d.point(20, 12), 6.2)
    _load(pane, d)
    pane.editor.side.tool_buttons["complete"].click()
    pane.bench.until(lambda: not any("looking for" in text for text in pane.said))
    assert any("#1 (61)" in text for text in pane.said) and any("#2 (Ø12)" in text for text in pane.said)
    pane.editor.side.said.itemActivated.emit(pane.editor.side.said.item(0))
    pane.bench.settle()
    assert pane.editor.side.headline.text() == "held"
    assert max(p.x for p in pane.sketch.points) == pytest.approx(61)


def test_other_shapes_are_pictured_and_one_is_taken(pane: Pane) -> None:
    d = ls.Draft()
    sides = ls.shapes.polyline(d, [(0, 0), (30, 0), (12, 18)], closed=True)
    for p in d.entities[sides[0]].points:
        d.add("fixed", p)
    for line, size in zip(sides[1:], ("25", "22"), strict=True):
        d.add("distance", line, value=size)
    _load(pane, d)
    assert pane.editor.side.headline.text() == "held"
    apex = pane.sketch.at(d.entities[sides[1]].end)
    pane.editor.side.tool_buttons["others"].click()
    pane.bench.until(lambda: not any("looking for" in text for text in pane.said))
    assert len(pane.said) == 2 and not pane.editor.side.said.item(1).icon().isNull()
    pane.editor.side.said.itemActivated.emit(pane.editor.side.said.item(1))
    pane.bench.settle()
    assert pane.sketch.at(d.entities[sides[1]].end) == pytest.approx((apex[0], -apex[1]))


def test_relations_trim_and_removal_from_the_strip(pane: Pane) -> None:
    d = ls.Draft()
    a, b = d.segment((-30, 0), (30, 4)), d.segment((0, -20), (3, 20))
    _load(pane, d)
    pane.click(-20, 0.7)
    assert pane.board.chosen == (a,)
    pane.click(-0.6 + 1.3, -10, shift=True)
    assert set(pane.board.chosen) == {a, b}
    pane.editor.strip.relation_wanted.emit(OfferedRelation("perpendicular", ((a, b),)))
    pane.bench.settle()
    assert [c.kind for c in pane.sketch.constraints] == ["perpendicular"]
    pane.key(Qt.Key.Key_W)
    end = pane.sketch.at(d.entities[a].end)
    pane.click(end[0] * 0.9, end[1] * 0.9)
    pane.bench.settle()
    assert any(c.kind == "on" for c in pane.sketch.constraints)
    pane.key(Qt.Key.Key_Escape)
    pane.board.choose((b,))
    pane.key(Qt.Key.Key_Delete)
    pane.bench.settle()
    assert [c.id for c in pane.sketch.curves] == [a]


def test_every_tool_draws_and_every_work_needs_its_pick(
    pane: Pane, monkeypatch: pytest.MonkeyPatch, sizes: dict[str, str]
) -> None:
    monkeypatch.setattr(QInputDialog, "getInt", lambda *a, **k: (6, True))
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("2", True))
    places = [(-30, -20), (10, -4), (5, 21), (25, 13)]
    for name in ("line", "rectangle", "centre-rectangle", "circle", "arc", "centre-arc", "slot", "polygon", "ellipse",
                 "spline", "point", "text"):  # fmt: skip
        before = len(pane.sketch.entities)
        pane.board.settings.infer = False
        pane.editor.commands.start_tool(name)
        tool = pane.board.interaction.tool
        for x, y in places[: 3 if name == "spline" else tool.clicks]:
            pane.click(x, y)
        pane.key(Qt.Key.Key_Return)
        pane.bench.settle()
        assert len(pane.sketch.entities) > before, name
        pane.key(Qt.Key.Key_Escape)
        pane.key(Qt.Key.Key_Escape)
    pane.editor.commands.set_mode("pick")
    pane.board.choose(())
    for name in ("corner", "round", "bevel", "offset", "mirror", "ring"):
        pane.editor.side.tool_buttons[name].click()
        assert "pick" in pane.bench.said, name
    pane.editor.side.tool_buttons["check"].click()
    assert any("cross" in text or "open end" in text for text in pane.said)
    before = pane.sketch
    pane.canvas.wheelEvent(_Wheel(pane.canvas))  # type: ignore[arg-type]
    assert pane.sketch == before


class _Wheel:
    def __init__(self, canvas) -> None:  # type: ignore[no-untyped-def]
        self.canvas = canvas

    def position(self) -> QPointF:
        return QPointF(50, 50)

    def angleDelta(self) -> QPoint:
        return QPoint(0, 120)


def test_rounding_and_revolving(pane: Pane, sizes: dict[str, str]) -> None:
    sizes["radius"] = "3"
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 5), (30, 15))
    axis = d.segment((-10, 0), (40, 0), construction=True)
    for p in d.entities[axis].points:
        d.add("fixed", p)
    d.add("distance", sides[0], value="30")
    d.add("distance", sides[1], value="10")
    d.add("across_axis", axis, sides[2], value="30")
    d.add("across_x", d.entities[axis].points[0], d.entities[sides[0]].points[0], value="10")
    _load(pane, d)
    assert pane.editor.side.headline.text() == "held"
    pane.board.choose((sides[1], sides[2]))
    pane.editor.side.tool_buttons["round"].click()
    pane.bench.settle()
    assert pane.editor.side.headline.text() == "held" and any(c.kind == "arc" for c in pane.sketch.curves)
    pane.editor.commands.set_mode("regions")
    pane.click(15, 10)
    assert len(pane.board.regions) == 1
    pane.editor.strip.build_wanted.emit("revolve")
    pane.bench.settle()
    step = pane.window.session.document.steps[-1]
    assert isinstance(step, RevolveStep) and step.axis == axis
    area = (1 - np.pi / 4) * 9
    want = np.pi * 30 * (225 - 25) - 2 * np.pi * area * _corner_centroid()
    assert pane.window.session.reply.summary["volume_mm3"] == pytest.approx(want, rel=1e-9)


def _corner_centroid() -> float:
    """Distance from the axis of the centroid of what a radius of 3 takes off a square corner at 15."""
    square, quarter = 9.0, np.pi * 9 / 4
    inner = 4 * 3 / (3 * np.pi)
    moment = square * 1.5 - quarter * inner
    return 12 + moment / (square - quarter)


def test_the_pedestal_is_shown_held_and_a_plane_can_be_turned(bench: Bench) -> None:
    bench.show(DEMOS["pedestal"]())
    bench.window.bench.choose_step(30)
    p = Pane(bench)
    assert p.editor.side.headline.text() == "held" and p.editor.side.plane.currentText() == "XZ"
    before = bench.session.reply.summary["centre_mm"]
    p.editor.side.tool_buttons["turn"].click()
    bench.settle()
    assert bench.session.document.step(30).plane.turn == "90 deg"
    assert bench.session.reply.summary["centre_mm"] != before
    bench.session.undo()
    bench.settle()
    assert bench.session.reply.summary["centre_mm"] == before
    assert bench.session.reply.report.counts["in"] == 22


def test_no_dimension_that_nobody_placed_lies_over_another(bench: Bench) -> None:
    bench.show(DEMOS["pedestal"]())
    for step in (10, 30):
        bench.window.bench.choose_step(step)
        p = Pane(bench)
        bench.settle()
        boxes = p.board.boxes
        assert len(boxes) > 3
        lying = [(a, b) for a, b in itertools.combinations(boxes, 2) if _over(boxes[a], boxes[b])]
        assert lying == [], step


def _over(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def test_edges_of_the_body_are_shown_beneath_and_taken(bench: Bench) -> None:
    base = ls.Draft()
    ls.shapes.rectangle(base, (0, 0), (60, 40))
    part = ls.extrude(ls.sketch(ls.note(ls.new_part("block"), "20", 1), base), 10, "#1")
    bench.show(ls.sketch(part, ls.Draft(), "20/end"))
    bench.window.bench.choose_step(30)
    p = Pane(bench)
    p.board.paper.fit(0j, 60 + 40j)
    of_body = [e for e in p.board.outline if not e.name.endswith("|~curve")]
    assert sum(e.kind == "line" for e in of_body) == 8 and len(p.board.outline) - len(of_body) == 4
    assert sum(e.kind == "point" for e in p.board.outline) == 8
    p.editor.commands.set_mode("take")
    p.click(30, 0)
    bench.settle()
    (line,) = p.sketch.curves
    assert (line.construction and line.source == "20/end|20/l1") or line.source == "20/l1|20/start"
    wider = edits.changed(bench.session.document.step(10), sketch=_moved_by(base.done(), 5 + 5j))
    bench.session.edit("move the base", lambda doc: edits.put_step(doc, wider))
    bench.settle()
    bench.window.bench.choose_step(30)
    row = next(i for i, text in enumerate(p.said) if "have moved: follow them" in text)
    p.editor.side.said.itemActivated.emit(p.editor.side.said.item(row))
    bench.settle()
    assert p.sketch.at(p.sketch.curves[0].start)[1] == pytest.approx(5)
    assert not any("have moved" in text for text in p.said)


def _moved_by(sketch, by: complex):
    from lathed_solid.sketch.edits import move

    return move(sketch, {}, [c.id for c in sketch.curves], by)


@pytest.fixture
def sizes(monkeypatch: pytest.MonkeyPatch) -> dict[str, str]:
    """Answers to the dialogs that ask for sizes, by label; the dialogs themselves are real."""
    given: dict[str, str] = {}

    def answer(dialog: SizesDialog) -> int:
        for label, field in dialog.fields.items():
            if label in given:
                field.line.setText(given[label])
        dialog._take()
        return 0

    monkeypatch.setattr(SizesDialog, "exec", answer)
    return given


def more(pane: Pane, word: str) -> None:
    """An entry behind the word more."""
    action = next(a for a in pane.editor.side.more.actions() if a.text().partition("\t")[0] == word)
    action.trigger()
    pane.bench.settle()


def test_the_work_behind_more(pane: Pane, sizes: dict[str, str]) -> None:
    more(pane, "rectangle on a side")
    for at in ((0, 0), (30, 20), (20, 30)):
        pane.click(*at)
    assert len(pane.sketch.curves) == 4 and not any(k.kind == "horizontal" for k in pane.sketch.constraints)
    pane.key(Qt.Key.Key_Escape)
    more(pane, "slot along an arc")
    for at in ((60, 0), (80, 0), (60, 20), (83, 0)):
        pane.click(*at)
    arcs = [c for c in pane.sketch.curves if c.kind == "arc"]
    assert len(arcs) == 4
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_L)
    pane.click(0, -30)
    pane.click(20, -30)
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_Escape)
    line = next(c for c in reversed(pane.sketch.curves) if not c.source)
    more(pane, "smooth arc from an end")
    pane.click(20, -30)
    pane.click(30, -20)
    arc = pane.sketch.curves[-1]
    assert arc.kind == "arc" and any(k.kind == "tangent" and line.id in k.of for k in pane.sketch.constraints)
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_Escape)
    before = len(pane.sketch.curves)
    pane.click(10, -30)
    sizes |= {"step in y": "-15", "how many in x": "1", "how many in y": "3"}
    more(pane, "copies in rows…")
    assert len(pane.sketch.curves) == before + 2
    sides = pane.sketch.curves[:4]
    pane.board.choose(tuple(c.id for c in sides))
    sizes |= {"in x": "0", "in y": "2"}
    at = pane.sketch.at(sides[0].start)
    more(pane, "move…")
    assert pane.sketch.at(sides[0].start) == pytest.approx((at[0], at[1] + 2))
    pane.bench.session.undo()
    pane.bench.settle()
    assert pane.sketch.at(sides[0].start) == pytest.approx(at)
    pane.board.choose(())
    more(pane, "scale…")
    assert "pick something first" in pane.bench.said


def test_a_picture_beneath_brought_to_scale(pane: Pane, sizes: dict[str, str], tmp_path) -> None:
    sheet = tmp_path / "sheet.png"
    image = QImage(400, 200, QImage.Format.Format_RGB32)
    image.fill(0x7F7F7F)
    assert image.save(str(sheet))
    sizes["width of the picture"] = "100"
    underlay.take(pane.editor.commands, sheet)
    pane.bench.settle()
    assert pane.canvas.underlay is not None and pane.canvas.underlay_at == (0j, 100.0, 0.0)
    pane.canvas.update()
    QApplication.processEvents()
    # 100 mm wide, so half as high: its middle is painted, a place above it is not
    seen = pane.canvas.grab().toImage()
    grey, paper = (seen.pixelColor(pane.pixel(*at)).lightness() for at in ((52, 23), (52, 58)))
    assert grey < paper - 20
    for at in ((10, 10), (35, 10)):
        pane.key(Qt.Key.Key_P)
        pane.click(*at)
        pane.key(Qt.Key.Key_Escape)
    ends = tuple(p.id for p in pane.sketch.points)
    a, b = (complex(*pane.sketch.at(p)) for p in ends)
    pane.board.choose(ends)
    sizes["their distance on the paper"] = "50"
    more(pane, "picture to scale…")
    corner, width, _ = pane.canvas.underlay_at
    factor = 50 / abs(b - a)
    assert width == pytest.approx(100 * factor) and corner == pytest.approx(a - a * factor)
    more(pane, "no picture")
    assert pane.canvas.underlay is None
    (tmp_path / "sheet.txt").write_text("no picture")
    underlay.take(pane.editor.commands, tmp_path / "sheet.txt")
    assert "no PNG or JPEG" in pane.bench.said


def button(widget: object, text: str) -> QPushButton:
    found = [b for b in widget.findChildren(QPushButton) if b.text() == text and b.isVisible()]  # type: ignore[attr-defined]
    assert len(found) == 1, text
    return found[0]


def test_hands_never_leave_the_drawing(pane: Pane) -> None:
    """Buttons of the strip and the ledger take no keys away, and what is said never moves the paper."""
    pane.key(Qt.Key.Key_L)
    for x, y in ((5, 5), (45, 5.2), (40, 30)):
        pane.click(x, y)
    pane.key(Qt.Key.Key_Return)
    pane.key(Qt.Key.Key_Escape)
    size, origin = pane.canvas.size(), pane.board.paper.origin
    pane.click(25, 5)
    pane.click(42.5, 17.5, shift=True)
    assert len(pane.board.chosen) == 2
    for press in (button(pane.editor.strip, "perpendicular"), pane.window.panes.drawer.handle):
        QTest.mouseClick(press, Qt.MouseButton.LeftButton)
        pane.bench.settle()
        assert QApplication.focusWidget() is pane.canvas
    QTest.mouseClick(pane.window.panes.drawer.handle, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert pane.canvas.size() == size and pane.board.paper.origin == origin, "nothing moved under the pointer"
    pane.key(Qt.Key.Key_D)
    assert pane.board.mode == "dimension" and pane.board.chosen == ()
    pane.key(Qt.Key.Key_Escape)
    assert pane.board.mode == "pick"


def test_the_ledger_folds_while_a_sketch_is_drawn(pane: Pane) -> None:
    drawer = pane.window.panes.drawer
    assert pane.editor.isVisible() and not drawer.is_open and pane.editor.side.said.isVisible()
    room = pane.canvas.height()
    pane.window.bench.show_desk("prove")
    assert drawer.is_open and not pane.editor.side.said.isVisible()
    pane.window.bench.show_desk("shape")
    QApplication.processEvents()
    assert not drawer.is_open and abs(pane.canvas.height() - room) <= 1


def test_a_pending_dimension_offers_what_else_it_could_mean(pane: Pane) -> None:
    pane.key(Qt.Key.Key_C)
    pane.click(20, 10)
    pane.click(28, 10)
    pane.key(Qt.Key.Key_Escape)
    pane.key(Qt.Key.Key_D)
    pane.click(20, 18)
    pane.click(30, 22)
    assert pane.editor.strip.value is not None
    button(pane.editor.strip, "radius").click()
    pane.editor.strip.value.line.setText("9")
    QTest.keyClick(pane.editor.strip.value.line, Qt.Key.Key_Return)
    pane.bench.settle()
    assert [c.kind for c in pane.sketch.constraints] == ["radius"]
    assert pane.sketch.curves[0].radius == pytest.approx(9)  # type: ignore[union-attr]
