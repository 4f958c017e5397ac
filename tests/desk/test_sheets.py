"""Sheets in the real window: notes taken where they stand, balloons both ways, hostile files without a stall."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.demo.pedestal import SHEETS

from .conftest import Bench


def _click(bench: Bench, x: float, y: float) -> None:
    view = bench.window.sheets_page.view
    at = view.at(x, y)
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))


def _open(bench: Bench, path: Path) -> None:
    page = bench.window.sheets_page
    page.found = None
    assert page.open_file(path)
    bench.until(lambda: page.found is not None)


def test_found_notes_become_callouts_where_they_stand(bench: Bench) -> None:
    bench.show(ls.new_part("from paper", unit="in"))
    w = bench.window
    w.show_desk("read")
    _open(bench, SHEETS / "pedestal.pdf")
    page = w.sheets_page
    assert w.read_page.stack.currentWidget() is page and len(page.view.offers) == 20
    offer = next(o for o in page.view.offers if o.text == "R1.00")
    _click(bench, (offer.box[0] + offer.box[2]) / 2, (offer.box[1] + offer.box[3]) / 2)
    assert page.entry.isVisible() and page.entry.text() == "R1.00"
    QTest.keyClick(page.entry, Qt.Key.Key_Return)
    (callout,) = bench.session.document.callouts
    assert callout.nominal == 25.4 and callout.place is not None and callout.source == "sheet"
    assert abs(callout.place.x - (offer.box[0] - 0.018)) < 1e-6 and not page.entry.isVisible()
    assert offer in page.view.taken and page.view.marks[0].state == "unused"
    # a click elsewhere takes what is typed there; nonsense keeps the field and says why
    _click(bench, 0.8, 0.5)
    page.entry.setText("frobnicate")
    QTest.keyClick(page.entry, Qt.Key.Key_Return)
    assert page.entry.isVisible() and len(bench.session.document.callouts) == 1
    page.entry.setText("4X ⌀.531 THRU ⌴ ⌀.812 ↧.31")
    QTest.keyClick(page.entry, Qt.Key.Key_Return)
    places = [c.place for c in bench.session.document.callouts[1:]]
    assert len(places) == 3 and [round(p.x, 2) for p in places if p] == [0.8] * 3
    assert places[0] is not None and places[1] is not None and places[1].y > places[0].y
    bench.session.undo()
    assert len(bench.session.document.callouts) == 1


def test_balloons_say_how_their_callouts_stand_and_lead_to_the_geometry(bench: Bench) -> None:
    bench.show(DEMOS["pedestal"]())
    w = bench.window
    w.show_desk("read")
    page = w.sheets_page
    bench.until(lambda: page.found is not None and len(page.view.marks) == 19)
    bench.settle()
    states = {m.balloon: m.state for m in page.view.marks}
    assert states[11] == "in" and page.view.marks[0].words == "proven: in"
    mark = next(m for m in page.view.marks if m.balloon == 11)
    _click(bench, mark.x, mark.y)
    assert page.view.current == 11 and w.drawer.view.current_row().balloon == 11
    assert w.solid._lit and all(name.startswith("40/") for name in w.solid._lit)
    # and back: a row of the ledger marks its balloon
    w._choose_row(next(r for r in w.drawer.model.rows if r.balloon == 3))
    assert page.view.current == 3
    page.turn()
    assert bench.session.document.sheets[0].turn == 90
    bench.session.undo()
    assert bench.session.document.sheets[0].turn == 0


def test_a_damaged_sheet_costs_a_message(bench: Bench, tmp_path: Path) -> None:
    w = bench.window
    (tmp_path / "bad.pdf").write_bytes(b"%PDF-1.7 broken")
    before = len(bench.session.document.sheets)
    assert w.sheets_page.open_file(tmp_path / "bad.pdf")
    bench.until(lambda: "bad.pdf: the sheet cannot be read" in bench.said)
    assert w.sheets_page.where.text() == "not read" and len(bench.session.document.sheets) == before + 1
    (tmp_path / "note.txt").write_text("no sheet")
    assert not w.sheets_page.open_file(tmp_path / "note.txt") and "no PDF, DXF, PNG or JPEG" in bench.said
    bench.session.undo()
    w.show_desk("shape")
