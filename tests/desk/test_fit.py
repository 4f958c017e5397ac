"""The Fit desk in the real window: members picked and joined with the mouse, moved, judged, taken apart."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from lathed_solid import scripting as ls
from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit
from lathed_solid.fit.placement import Placement
from lathed_solid.part import Document

from .conftest import Bench

LEFT, NO_KEYS = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def flange() -> Document:
    part = ls.turned(ls.new_part("flange"), [ls.Station(key="A", diameter="120", length="10")])
    return ls.hole(part, "10/face.right", "9", depth=None, places=ls.OnCircle(bolt_circle="90", count=4))


def pair() -> Fit:
    fit = ls.member(ls.new_fit("pair"), flange(), "flange", held=True)
    return ls.member(fit, "washer M8", "washer", placement=(40.0, 0.0, 0.0))


@pytest.fixture
def desk(bench: Bench) -> Iterator[Bench]:
    """The window at the Fit desk with a flange and a washer before it."""
    window = bench.window
    window.bench.show_desk("fit")
    window.fit.session.open_value(pair())
    bench.until(lambda: window.fit.session.ready and not window.panes.solid.waiting)
    window.panes.solid.look("right")
    bench.repaint()
    yield bench
    window.fit.session.open_value(Fit())
    window.panes.view_bar.see_through.setChecked(False)
    window.bench.show_desk("shape")
    window.panes.solid.look("iso left")


def settle(desk: Bench) -> None:
    desk.until(lambda: desk.window.fit.session.queue.idle)
    desk.repaint()


def click(desk: Bench, place: tuple[float, float, float], keys: Qt.KeyboardModifier = NO_KEYS) -> None:
    """A click where a place of the room is seen."""
    view = desk.window.panes.solid
    x, y = view.pixel_of(place)
    QTest.mouseMove(view, QPoint(x, y))
    QTest.mouseClick(view, LEFT, keys, QPoint(x, y))
    QApplication.processEvents()


def test_two_faces_are_picked_and_joined_by_keys(desk: Bench) -> None:
    window = desk.window
    session, box = window.fit.session, window.panes.fit_page.joining
    click(desk, (41.6, 0.0, 6.0))  # on the washer's right face
    assert [p.ref.member for p in window.fit.picks] == ["washer"] and "washer · flat face" in box.words.text()
    assert window.panes.members.list.currentItem().data(Qt.ItemDataRole.UserRole).name == "washer"
    click(desk, (10.0, 20.0, 20.0))  # on the flange's
    assert [p.ref.member for p in window.fit.picks] == ["washer", "flange"]
    kinds = [o.kind for o in window.fit.offers]
    assert kinds[:2] == ["touch", "level"] and window.focusWidget() is box
    QTest.keyClick(box, Qt.Key.Key_2)  # shown
    assert not session.fit.relations
    QTest.keyClick(box, Qt.Key.Key_Return)  # and taken
    assert session.fit.relations[0].kind == "level"
    assert session.whole.by_name["washer"].placement.at[0] == pytest.approx(10 - 1.6, abs=1e-9)
    settle(desk)
    window.menus.by_id["undo"].trigger()
    assert not session.fit.relations
    # an edge: the rim of the washer's hole shares its axis with a hole of the flange
    click(desk, (41.6, 4.2, 0.0))
    assert window.fit.picks and window.fit.picks[-1].it.kind in ("rim", "flat")
    QTest.keyClick(box, Qt.Key.Key_Escape)
    assert not window.fit.picks


def test_pairs_are_picked_with_shift_and_joined_by_one_key(desk: Bench) -> None:
    window, shift = desk.window, Qt.KeyboardModifier.ShiftModifier
    session, box = window.fit.session, window.panes.fit_page.joining
    again = Placement(at=(40.0, 30.0, 0.0))
    fit = ls.member(session.fit, "washer M8", "second", placement=again.at)
    session.open_value(fit)
    desk.until(lambda: session.ready and not window.panes.solid.waiting)
    desk.repaint()
    click(desk, (41.6, 0.0, 6.0))
    click(desk, (10.0, 20.0, 20.0), shift)
    assert "Shift and click" in box.words.text()
    click(desk, (41.6, 30.0, 6.0), shift)
    assert "and of another member?" in box.words.text()
    click(desk, (10.0, -20.0, 20.0), shift)
    assert box.words.text().splitlines()[-1] == "2 pairs, one relation each"
    QTest.keyClick(box, Qt.Key.Key_1)
    QTest.keyClick(box, Qt.Key.Key_Return)
    assert [r.kind for r in session.fit.relations] == ["touch", "touch"]
    settle(desk)
    assert [session.whole.by_name[n].placement.at[0] for n in ("washer", "second")] == pytest.approx([11.6, 11.6])
    window.menus.by_id["undo"].trigger()
    assert not session.fit.relations


def test_the_wall_of_a_hole_is_held_on_to(desk: Bench) -> None:
    """Holes are placed copies of one tool: their walls have places of their own besides the member's."""
    window, view = desk.window, desk.window.panes.solid
    assert window.fit.session.edit("aside", lambda f: edits.put_member(f, "flange", placement=Placement(at=(7, 3, 0))))
    view.look("iso left")
    desk.repaint()
    found = set()
    _, y, z = window.fit.session.features()["flange"]["20/h0.wall"].origin
    for k in range(24):
        turn = k * np.pi / 12
        picked = view.at_pointer(QPointF(*view.pixel_of((9.0, y + 3 + 4.5 * np.cos(turn), z + 4.5 * np.sin(turn)))))
        if picked is not None and picked.surface == "cylinder":
            found.add((picked.member, picked.names))
    assert found == {("flange", ("20/h0.wall",))}


def test_a_size_is_typed_where_it_is_asked(desk: Bench) -> None:
    window = desk.window
    box, session = window.panes.fit_page.joining, window.fit.session
    click(desk, (41.6, 0.0, 6.0))
    click(desk, (10.0, 20.0, 20.0))
    at = [o.kind for o in window.fit.offers].index("gap")
    box.choose(at)
    assert box.size_field.isVisible() and window.focusWidget() is box.size_field
    box.size_field.selectAll()
    QTest.keyClicks(box.size_field, "25.4/2")
    QTest.keyClick(box.size_field, Qt.Key.Key_Return)
    washer = session.whole.by_name["washer"].placement
    assert washer.rotation[0, 0] == pytest.approx(-1, abs=1e-9)  # face to face: turned over
    assert washer.at[0] - 1.6 == pytest.approx(10 + 12.7, abs=1e-9)
    table = window.panes.fit_page.relations
    assert table.model.rows[0].size == "25.4/2"
    table.model.setData(table.model.index(0, 4), "3")
    assert session.whole.by_name["washer"].placement.at[0] - 1.6 == pytest.approx(13, abs=1e-9)


def test_what_is_loose_follows_the_hand_and_the_rest_stays(desk: Bench) -> None:
    window = desk.window
    session, view = window.fit.session, window.panes.solid
    session.edit("touch", lambda f: ls.relate(f, "touch", ("washer", "10/face.left"), ("flange", "10/face.right")))
    settle(desk)
    window.fit.choose_member("washer")
    at = np.array(session.whole.by_name["washer"].placement.at)
    x, y = view.pixel_of((float(at[0]) + 1.6, float(at[1]), float(at[2]) + 6.0))
    QTest.mousePress(view, LEFT, NO_KEYS, QPoint(x, y))
    for k in range(1, 9):
        QTest.mouseMove(view, QPoint(x + 5 * k, y))
        QApplication.processEvents()
    QTest.mouseRelease(view, LEFT, NO_KEYS, QPoint(x + 40, y))
    moved = np.array(session.fit.by_name["washer"].placement.at)
    assert moved[0] == pytest.approx(at[0], abs=1e-6) and np.linalg.norm(moved - at) > 3  # on the face, aside
    assert session.history.undo_label == "move washer"
    # where nothing is taken hold of the view turns as ever
    before = view.scene.view.Proj()
    QTest.mousePress(view, LEFT, NO_KEYS, QPoint(20, 300))
    QTest.mouseMove(view, QPoint(60, 330))
    QTest.mouseMove(view, QPoint(120, 340))
    QTest.mouseRelease(view, LEFT, NO_KEYS, QPoint(120, 340))
    assert view.scene.view.Proj() != before
    assert session.fit.by_name["washer"].placement.at == pytest.approx(tuple(moved))


def test_movements_are_driven_and_swept(desk: Bench) -> None:
    window = desk.window
    session, pane = window.fit.session, window.panes.fit_page.movements
    session.edit("axis", lambda f: ls.relate(f, "share an axis", ("washer", "10/bore.right.1"), ("flange", "10/sA")))
    settle(desk)
    window.panes.fit_page.show_tab(1)
    row = next(i for i, f in enumerate(pane.model.rows) if f.kind == "slide")
    pane.view.selectRow(row)
    start = session.fit.by_name["washer"].placement.at[0]
    pane.slider.setValue(72)  # a tenth of its reach
    assert pane.number.text() == "10" and session.fit.by_name["washer"].placement.at[0] == pytest.approx(start)
    pane.slider.sliderReleased.emit()
    assert abs(session.fit.by_name["washer"].placement.at[0] - start) == pytest.approx(10, abs=1e-9)
    pane.view.selectRow(next(i for i, f in enumerate(pane.model.rows) if f.kind == "slide"))
    pane.number.setText("2 in")
    QTest.keyClick(pane.number, Qt.Key.Key_Return)
    assert len(session.fit.drives) == 1 and session.fit.drives[0].value == pytest.approx(50.8)
    session.edit("let go", lambda f: edits.drop_drive(f, 0))
    settle(desk)
    pane.view.selectRow(next(i for i, f in enumerate(pane.model.rows) if f.kind == "slide"))
    pane.first.setCurrentText("washer")
    pane.second.setCurrentText("flange")
    pane.start.setText("0")
    pane.stop.setText("6")
    pane.steps.setText("3")
    pane.sweep.click()
    desk.until(lambda: len(pane.curve.values) == 4)
    assert len(pane.curve.clearances) == 4 and "least clearance" in pane.state.text()
    pane.curve.moment.emit(3)
    pane.steps.setText("many")
    pane.sweep.click()
    assert "whole number" in desk.said


def test_an_overlap_is_found_listed_and_lit(desk: Bench) -> None:
    window = desk.window
    session, pane = window.fit.session, window.panes.fit_page.overlaps
    session.edit("into it", lambda f: edits.put_member(f, "washer", placement=f.by_name["flange"].placement))
    desk.until(lambda: session.overlaps is not None)
    assert len(pane.model.rows) == 1 and "1 overlaps" in pane.head.text()
    assert window.panes.rail.buttons["fit"].count >= 1 and "overlaps 1" in window.panes.fit_page.tabs[2].text()
    window.panes.fit_page.show_tab(2)
    pane.view.selectRow(0)
    desk.repaint()
    assert window.panes.view_bar.see_through.isChecked()
    window.panes.fit_page.show_tab(3)
    window.panes.fit_page.fits.ask.click()
    assert "pick a flat face" in desk.said


def test_the_part_comes_back_when_another_desk_is_turned_to(desk: Bench) -> None:
    window = desk.window
    assert window.panes.members.isVisible() and not window.panes.route.isVisible()
    assert window.panes.name.text() == "pair" and window.panes.menu_button.text() == "fit ▾"
    assert window.panes.solid.on_members("box") is not None
    window.bench.show_desk("shape")
    desk.repaint()
    assert window.panes.route.isVisible() and not window.panes.members.isVisible()
    assert window.panes.solid.on_members("box") is None and window.panes.solid.scene.box() is not None
    assert window.panes.menu_button.text() == "part ▾"
    window.bench.show_desk("fit")
    QTest.keyClick(window.panes.solid, Qt.Key.Key_E)
    desk.repaint()
    assert window.fit.apart and len(window.panes.solid._overlay.flags) == 2
    QTest.keyClick(window.panes.solid, Qt.Key.Key_E)
    window.panes.view_bar.section.setChecked(True)
    desk.repaint()
    window.panes.view_bar.section.setChecked(False)


def test_the_card_and_the_menus(desk: Bench) -> None:
    window = desk.window
    card = window.panes.members
    assert [card.list.item(i).data(Qt.ItemDataRole.UserRole).state for i in range(2)] == ["fast", "loose"]
    card.list.setCurrentRow(1)
    assert window.fit.member == "washer"
    QTest.keyClick(card.list, Qt.Key.Key_Delete)
    assert list(window.fit.session.fit.by_name) == ["flange"]
    menu = window.menus.of("Member", "Add to the fit")
    titles = [a.text() for a in menu.actions() if a.text()]
    assert "Add a standard part…" in titles and "Remove the member" in titles
    window.commands.fit.add_standard("hexagon nut M8")
    settle(desk)
    assert card.list.count() == 2 and "hexagon nut M8" in window.fit.session.fit.by_name
    assert window.panes.solid.at_pointer(QPointF(3.0, 3.0)) is None
