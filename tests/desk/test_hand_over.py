"""The Hand over desk in the real window: the sheet as it will print, notes put elsewhere, files asked for."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit

from lathed_solid.demo import DEMOS

from .conftest import Bench

LEFT, NO_KEYS = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def desk(bench: Bench) -> Iterator[Bench]:
    """The window at the Hand over desk with the crank hub in hand, its drawing made."""
    window = bench.window
    window.session.open_value(DEMOS["crank-hub"]())
    bench.until(lambda: window.session.builds.settled)
    window.bench.show_desk("hand over")
    window.panes.hand_over_page.show_tab(0)
    drawn(bench)
    yield bench
    window.session.open_value(DEMOS["crank-hub"]())
    bench.until(lambda: window.session.builds.settled)
    window.bench.show_desk("shape")


def drawn(desk: Bench) -> None:
    """Until the drawing is that of the part in hand."""
    maker = desk.window.maker
    desk.until(lambda: not maker.busy and bool(maker.sheets) and maker._drawn_of == desk.window.session.document)
    for _ in range(5):
        QApplication.processEvents()


def on_screen(desk: Bench, x: float, y: float) -> QPoint:
    """Where a place of the sheet (mm from its lower left corner) is seen."""
    paper = desk.window.panes.paper
    p = paper._at + QPointF(x, paper.sheets[paper.index].height - y) * paper._zoom
    return p.toPoint()


def drag(desk: Bench, start: QPoint, to: QPoint) -> None:
    paper = desk.window.panes.paper
    QTest.mouseMove(paper, start)
    QTest.mousePress(paper, LEFT, NO_KEYS, start)
    QTest.mouseMove(paper, (start + to) / 2)
    QTest.mouseMove(paper, to)
    QTest.mouseRelease(paper, LEFT, NO_KEYS, to)
    QApplication.processEvents()


def test_the_sheet_stands_where_the_solid_does_at_other_desks(desk: Bench) -> None:
    panes = desk.window.panes
    assert panes.paper.isVisible() and not panes.solid.isVisible()
    assert panes.hand_over_page.drawing.head.text() == "A4, 2:1, 1 view, 9 notes"
    assert panes.hand_over_page.drawing.model.rowCount() == 9
    panes.hand_over_page.show_tab(2)
    assert panes.solid.isVisible() and not panes.paper.isVisible()
    panes.hand_over_page.show_tab(0)
    QTest.keyClick(panes.paper, Qt.Key.Key_Plus)
    before = panes.paper._zoom
    QTest.keyClick(panes.paper, Qt.Key.Key_Home)
    assert panes.paper._zoom < before
    desk.window.bench.show_desk("prove")
    assert panes.solid.isVisible() and not panes.paper.isVisible()
    desk.window.bench.show_desk("hand over")
    assert panes.paper.isVisible()
    picture = panes.paper.grab().toImage()
    colours = {
        picture.pixelColor(x, y).name() for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)
    }
    assert "#ffffff" in colours and len(colours) > 3


def test_a_note_follows_the_hand_and_undo_brings_it_back(desk: Bench) -> None:
    window, paper = desk.window, desk.window.panes.paper
    sheet = paper.sheets[0]
    d = next(d for d in sheet.dimensions if d.balloons == (2,))
    left, low, right, high = d.words.box
    start = on_screen(desk, (left + right) / 2, (low + high) / 2)
    QTest.mouseClick(paper, LEFT, NO_KEYS, start)
    assert window.bench.balloon == 2 and paper.balloon == 2
    drag(desk, start, start + QPoint(0, 40))
    (moved,) = window.session.document.drawing.moved
    assert moved.balloon == 2 and moved.x == pytest.approx(0, abs=0.6)
    assert moved.y == pytest.approx(-40 / paper._zoom, abs=0.6)
    drawn(desk)
    after = next(k for k in paper.sheets[0].dimensions if k.balloons == (2,))
    assert after.row == pytest.approx(d.row + moved.y)
    QTest.keyClick(paper, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert window.session.document.drawing.moved[0].y == pytest.approx(moved.y + 10)
    assert window.panes.hand_over_page.drawing.back.isEnabled()
    for _ in range(2):
        window.menus.by_id["undo"].trigger()
    assert not window.session.document.drawing.moved
    drawn(desk)
    assert next(k for k in paper.sheets[0].dimensions if k.balloons == (2,)).row == pytest.approx(d.row)


def test_blank_paper_is_moved_and_the_wheel_zooms_at_the_pointer(desk: Bench) -> None:
    paper = desk.window.panes.paper
    corner = on_screen(desk, 25.0, 15.0)  # within the frame, beside everything
    before = QPointF(paper._at)
    drag(desk, corner, corner + QPoint(30, -20))
    assert (paper._at - before).toPoint() == QPoint(30, -20) and not desk.window.session.document.drawing.moved
    place = QPointF(corner)
    under = paper._place(place)
    wheel = QWheelEvent(place, paper.mapToGlobal(place), QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton, NO_KEYS,
                        Qt.ScrollPhase.NoScrollPhase, False)  # fmt: skip
    QApplication.sendEvent(paper, wheel)
    assert paper._place(place) == pytest.approx(under)


def test_sheet_angle_and_scale_are_edits_of_the_part(desk: Bench) -> None:
    window = desk.window
    pane = window.panes.hand_over_page.drawing
    pane.sheet.setCurrentText("A2")
    pane.sheet.activated.emit(pane.sheet.currentIndex())
    drawn(desk)
    assert window.panes.paper.sheets[0].size == "A2" and pane.head.text().startswith("A2")
    pane.scale.setText("1:1")
    QTest.keyClick(pane.scale, Qt.Key.Key_Return)
    drawn(desk)
    assert window.panes.paper.sheets[0].scale == 1.0 and pane.scale.text() == "1:1"
    pane.scale.setText("nonsense")
    QTest.keyClick(pane.scale, Qt.Key.Key_Return)
    assert window.session.document.drawing.scale == 1.0 and "no scale" in desk.said
    pane.scale.setText("")
    QTest.keyClick(pane.scale, Qt.Key.Key_Return)
    assert window.session.document.drawing.scale is None
    pane.revision.setText("nothing-said")
    QTest.keyClick(pane.revision, Qt.Key.Key_Return)
    assert "mark and what it changed" in desk.said and not window.session.document.drawing.revisions
    pane.revision.setText("B bore ⌀12 was ⌀10")
    QTest.keyClick(pane.revision, Qt.Key.Key_Return)
    drawn(desk)
    (revision,) = window.session.document.drawing.revisions
    assert (revision.mark, revision.what, pane.revision.text()) == ("B", "bore ⌀12 was ⌀10", "")
    assert "bore ⌀12 was ⌀10" in {w.text for w in window.panes.paper.sheets[0].words}
    QTest.mouseClick(pane.unrevise, LEFT)
    drawn(desk)
    assert not window.session.document.drawing.revisions and not pane.unrevise.isEnabled()


def test_the_machinists_sheet_and_files(desk: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    window, page = desk.window, desk.window.panes.hand_over_page
    page.show_tab(1)
    desk.until(lambda: not window.maker.busy and window.maker.machinist is not None)
    assert window.panes.paper.pages and page.machinist.holes.rowCount() == 1
    assert "round bar 52" in page.machinist.head.text()
    page.show_tab(2)
    assert page.files.buttons[".step"].isEnabled() and "mm³" in page.files.cost.text()
    out = tmp_path / "hub.3mf"
    monkeypatch.setattr(window.commands.hand_over.ask, "save_path", lambda *_: out)
    QTest.mouseClick(page.files.buttons[".3mf"], LEFT)
    desk.until(lambda: not window.maker.busy)
    assert out.stat().st_size > 500
    page.files.chord.setText("-1")
    out.unlink()
    QTest.mouseClick(page.files.buttons[".3mf"], LEFT)
    assert "chord error" in desk.said and not out.exists()
    page.files.chord.setText("0.02")
    page.show_tab(4)
    assert page.ways.model.rowCount() == len(window.session.document.steps)
    other = tmp_path / "other.lathed"
    from lathed_solid.files import write_document

    write_document(other, DEMOS["winch-spindle"]())
    monkeypatch.setattr(window.commands.hand_over.ask, "open_path", lambda *_: other)
    QTest.mouseClick(page.ways.other, LEFT)
    desk.until(lambda: not window.maker.busy and page.ways.sums.rowCount() == 2)
    assert "against Winch spindle" in page.ways.head.text()
    assert page.ways.other_view.isVisible() and page.ways.beside.text() == "Winch spindle:"
    assert [r.number for r in page.ways.other_model.rows] == [s.number for s in DEMOS["winch-spindle"]().steps]


def test_a_picture_is_seen_as_it_will_be_written(desk: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    window, page = desk.window, desk.window.panes.hand_over_page
    page.show_tab(3)
    page.picture.size_box.setEditText("320x200")
    QTest.keyClick(page.picture.size_box, Qt.Key.Key_Return)
    desk.until(lambda: not window.maker.busy and bool(window.panes.paper.pages), 60)
    (plain,) = window.panes.paper.pages
    assert (plain.width(), plain.height()) == (320, 200)
    page.picture.finish.setCurrentText("paint")
    page.picture.finish.activated.emit(page.picture.finish.currentIndex())
    assert page.picture.paint.isVisible()
    QTest.mouseClick(page.picture.clear, LEFT, NO_KEYS, QPoint(6, page.picture.clear.height() // 2))
    desk.until(lambda: not window.maker.busy, 60)
    (painted,) = window.panes.paper.pages
    middle = painted.pixelColor(160, 110)
    assert middle.blue() > middle.red() and painted.pixelColor(0, 0).alpha() == 0
    out = tmp_path / "hub.png"
    monkeypatch.setattr(window.commands.hand_over.ask, "save_path", lambda *_: out)
    window.menus.by_id["picture"].trigger()
    desk.until(lambda: not window.maker.busy, 60)
    assert out.read_bytes() == window.maker.picture
    page.picture.size_box.setEditText("huge")
    QTest.keyClick(page.picture.size_box, Qt.Key.Key_Return)
    assert "width x height" in page.picture.head.text() and not page.picture.write.isEnabled()
    page.picture.size_box.setEditText("320x200")
    QTest.keyClick(page.picture.size_box, Qt.Key.Key_Return)


def test_a_face_gets_a_finish_and_a_picture_is_taken_again(desk: Bench) -> None:
    window, pane = desk.window, desk.window.panes.hand_over_page.picture
    window.panes.hand_over_page.show_tab(3)
    desk.until(lambda: bool(pane.model.rows), 60)
    pane.view.setCurrentIndex(pane.model.index(0, 1))
    QTest.keyClick(pane.view, Qt.Key.Key_F2)
    editor = pane.view.findChild(QLineEdit)
    assert editor is not None
    editor.selectAll()
    QTest.keyClicks(editor, "brass")
    popup = QApplication.activePopupWidget()
    assert popup is not None
    QTest.keyClick(popup, Qt.Key.Key_Return)  # one Enter for the choice and the cell
    desk.until(lambda: bool(window.session.document.coats))
    (coat,) = window.session.document.coats
    assert (coat.of, coat.finish) == (pane.model.rows[0].of, "brass")
    pane.lens.setEditText("85 mm")
    QTest.keyClick(pane.lens, Qt.Key.Key_Return)
    pane.name.setEditText("cover")
    QTest.keyClick(pane.name, Qt.Key.Key_Return)
    assert [p.name for p in window.session.document.pictures] == ["cover"]
    pane.lens.setEditText("parallel")
    QTest.keyClick(pane.lens, Qt.Key.Key_Return)
    pane.name.setCurrentIndex(pane.name.findText("cover"))
    pane.name.activated.emit(pane.name.currentIndex())
    assert pane.wish.lens == "85 mm" and window.commands.hand_over.wish == pane.wish
    desk.until(lambda: pane.forget.isEnabled())
    QTest.mouseClick(pane.forget, LEFT)
    assert not window.session.document.pictures
    desk.until(lambda: not pane.forget.isEnabled())
    desk.until(lambda: not window.maker.busy, 60)


def test_a_part_without_a_solid_says_so(desk: Bench) -> None:
    from lathed_solid.part import Document

    window = desk.window
    window.session.open_value(Document(name="empty"))
    desk.until(lambda: window.session.builds.settled)
    assert "no solid yet" in window.panes.paper.words
