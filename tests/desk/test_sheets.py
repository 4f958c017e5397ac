"""Sheets in the real window: notes taken where they stand, balloons both ways, hostile files without a stall."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.desk.read.corners_dialog import CornersDialog

from .conftest import Bench


def _click(bench: Bench, x: float, y: float) -> None:
    view = bench.window.panes.read_page.sheets.view
    at = view.at(x, y)
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))


def _open(bench: Bench, path: Path) -> None:
    page = bench.window.panes.read_page.sheets
    page.commands.found = None
    assert page.commands.lay(path)
    bench.until(lambda: page.commands.found is not None)


def test_found_notes_become_callouts_where_they_stand(bench: Bench) -> None:
    bench.show(ls.new_part("from paper", unit="in"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "pedestal.pdf")
    page = w.panes.read_page.sheets
    assert w.panes.read_page.stack.currentWidget() is page and len(page.view.offers) == 22
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


def test_the_solid_turns_as_the_sheet_is_drawn(bench: Bench) -> None:
    bench.show(DEMOS["pedestal"]())
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "pedestal-pictorial.pdf")
    page = w.panes.read_page.sheets
    assert page.commands.found is not None and page.commands.found.kind == "pictorial"
    assert "pictorial" in page.where.text()
    w.menus.by_id["as-drawn"].trigger()
    eye = w.panes.solid.scene.eye()
    assert eye == pytest.approx((3**-0.5, -(3**-0.5), 3**-0.5), abs=1e-3)
    _open(bench, SHEETS / "pedestal.pdf")
    w.menus.by_id["as-drawn"].trigger()
    assert w.panes.solid.scene.eye() == pytest.approx((0, -1, 0), abs=1e-6) and "flat views" in bench.said


def test_balloons_say_how_their_callouts_stand_and_lead_to_the_geometry(bench: Bench) -> None:
    bench.show(DEMOS["pedestal"]())
    w = bench.window
    w.bench.show_desk("read")
    page = w.panes.read_page.sheets
    bench.until(lambda: page.commands.found is not None and len(page.view.marks) == 21)
    bench.settle()
    states = {m.balloon: m.state for m in page.view.marks}
    assert states[11] == "in" and page.view.marks[0].words == "proven: in"
    mark = next(m for m in page.view.marks if m.balloon == 11)
    _click(bench, mark.x, mark.y)
    assert page.view.current == 11 and w.panes.drawer.view.current_row().balloon == 11
    assert w.panes.solid._lit and all(name.startswith("40/") for name in w.panes.solid._lit)
    # and back: a row of the ledger marks its balloon
    w.showing.choose_row(next(r for r in w.panes.drawer.model.rows if r.balloon == 3))
    assert page.view.current == 3
    page.commands.turn()
    assert bench.session.document.sheets[0].turn == 90
    bench.session.undo()
    assert bench.session.document.sheets[0].turn == 0


def test_a_damaged_sheet_costs_a_message(bench: Bench, tmp_path: Path) -> None:
    w = bench.window
    (tmp_path / "bad.pdf").write_bytes(b"%PDF-1.7 broken")
    before = len(bench.session.document.sheets)
    assert w.panes.read_page.sheets.commands.lay(tmp_path / "bad.pdf")
    bench.until(lambda: "bad.pdf: the sheet cannot be read" in bench.said)
    assert w.panes.read_page.sheets.where.text() == "not read" and len(bench.session.document.sheets) == before + 1
    (tmp_path / "note.txt").write_text("no sheet")
    assert not w.panes.read_page.sheets.commands.lay(tmp_path / "note.txt") and "no PDF, DXF, PNG or JPEG" in bench.said
    bench.session.undo()
    w.bench.show_desk("shape")


def test_a_new_revision_is_asked_callout_by_callout(bench: Bench) -> None:
    bench.show(DEMOS["pedestal-as-drawn"]())
    w = bench.window
    w.bench.show_desk("read")
    page = w.panes.read_page.sheets
    bench.until(lambda: page.commands.found is not None and len(page.view.marks) == 20)
    page.commands.found = None
    assert page.commands.take_revision(SHEETS / "pedestal.pdf")
    bench.until(lambda: page.commands.found is not None)
    asked = page.revision.model.rows
    assert [(c.kind, c.balloon) for c in asked[:3]] == [("changed", 6), ("changed", 11), ("changed", 21)]
    assert page.revision.isVisible() and page.revision.take.text() == "take the new size"
    assert page.view._shown is asked[0].offer and page.view.current == 6
    page.revision.take.click()
    six = bench.session.document.callout(6)
    assert six is not None and six.note == "4.75" and six.span is not None and six.span.start == "left holes"
    # the next is asked; kept ones are not asked again
    assert page.revision.view.current_row().balloon == 11
    page.revision.keep.click()
    page.revision.take.click()
    told = bench.session.document.callout(21)
    assert told is not None and told.reference and told.note == "(3.00)"
    assert [c.kind for c in page.revision.model.rows] == ["new"] * 3
    row = next(i for i, c in enumerate(page.revision.model.rows) if c.now == "1.25")
    page.revision.view.selectRow(row)
    page.revision.take.click()
    assert bench.session.document.callouts[-1].nominal == 1.25 * 25.4
    page.revision.done_button.click()
    assert not page.revision.isVisible()
    sheet = bench.session.document.sheets[0]
    assert sheet.name == "pedestal.pdf" and len(sheet.earlier) == 1
    assert bench.session.document.callout(11).note == "Ø1.250 +.002 -.000"  # type: ignore[union-attr]
    for _ in range(6):
        bench.session.undo()
    assert bench.session.document.callout(6).note == "4.70"  # type: ignore[union-attr]


def test_a_sheet_is_brought_to_scale_and_cropped_beneath_a_sketch(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    from lathed_solid.desk.read import sheet_prompts
    from lathed_solid.workbench.asked_sizes import GivenSizes

    bench.show(ls.new_part("from paper", unit="in"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "pedestal.dxf")
    page, view = w.panes.read_page.sheets, w.panes.read_page.sheets.view
    offer = next(o for o in view.offers if o.text == "6.00")
    assert offer.span is not None and offer.span.along == "x"
    page.commands.take_all()
    taken = {c.note: c for c in bench.session.document.callouts}
    assert len(taken) > 15 and taken["6.00"].span == offer.span and "callouts taken" in bench.said
    # the dimension is 6 in long, so two clicks at its ends find it so (the DXF is at full size)
    start, end = (float(p.removeprefix("x ")) for p in (offer.span.start, offer.span.end))
    assert abs(end - start - 6.0) < 1e-6
    asked: list[str] = []

    def answer(_parent: object, title: str, sizes: list[Any], _scope: object) -> Any:
        asked.append(f"{title}: {sizes[0].start}")
        return GivenSizes({}, {sizes[0].label: 6 * 25.4})

    monkeypatch.setattr(sheet_prompts, "ask_sizes", answer)
    page.commands.start_measuring()
    share = 6 * 25.4 / page.commands.found.width  # type: ignore[union-attr]
    _click(bench, 0.2, 0.5)
    _click(bench, 0.2 + share, 0.5)
    assert len(asked) == 1 and abs(float(asked[0].rpartition(": ")[2]) - 6.0) < 0.03 and view.mode == "notes"
    across = bench.session.document.sheets[0].across
    assert across is not None and abs(across / page.commands.found.width - 1) < 0.005  # type: ignore[union-attr]
    # a drag about a view lays it beneath a new sketch, to scale
    page.commands.start_cropping()
    a, b = view.at(0.1, 0.1), view.at(0.5, 0.6)
    port = view.viewport()
    QTest.mousePress(port, Qt.MouseButton.LeftButton, pos=QPoint(round(a.x()), round(a.y())))
    QTest.mouseMove(port, QPoint(round(b.x()), round(b.y())))
    QTest.mouseRelease(port, Qt.MouseButton.LeftButton, pos=QPoint(round(b.x()), round(b.y())))
    (step,) = bench.session.document.steps
    under = step.underlay  # type: ignore[union-attr]
    assert under is not None and w.bench.desk == "shape"
    assert abs(float(under.width.split()[0]) / (0.4 * across) - 1) < 0.02
    # Esc gives a mode up
    w.bench.show_desk("read")
    page.commands.start_cropping()
    QTest.keyClick(page, Qt.Key.Key_Escape)
    assert view.mode == "notes"


def test_chains_fill_themselves_and_contradicted_numbers_are_left(bench: Bench, tmp_path: Path) -> None:
    from drawn_dimensions import sheet

    drawn, _scale = sheet(60, tmp_path / "slipped.pdf", 1)
    bench.show(ls.new_part("from paper"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, tmp_path / "slipped.pdf")
    page = w.panes.read_page.sheets
    (bad,) = [o for o in page.view.offers if o.sure == "contradicted"]
    assert bad.text == next(d.words for d in drawn if d.slipped) and "1:1" in page.where.text()
    page.commands.take_all()
    taken = bench.session.document.callouts
    assert bad.text not in {c.note for c in taken} and "1 left" in bench.said
    assert len(taken) == len(drawn) - 1 and all(c.span is not None for c in taken)
    # a click on it says why, and takes it all the same when that is meant
    _click(bench, (bad.box[0] + bad.box[2]) / 2, (bad.box[1] + bad.box[3]) / 2)
    assert "contradicted" in bench.said and page.entry.isVisible()
    QTest.keyClick(page.entry, Qt.Key.Key_Return)
    assert len(bench.session.document.callouts) == len(drawn)


def test_an_unread_sheet_is_gone_through_at_one_key_a_callout(bench: Bench, tmp_path: Path) -> None:
    from drawn_dimensions import sheet

    drawn, _scale = sheet(61, tmp_path / "slipped.pdf", 1)
    bench.show(ls.new_part("from paper"))
    bench.window.bench.show_desk("read")
    _open(bench, tmp_path / "slipped.pdf")
    page = bench.window.panes.read_page.sheets
    page.buttons["one by one"].click()
    pane = page.revision
    total = len(pane.model.rows)
    assert (
        pane.title.text() == f"FOUND — {total} to answer, 0 in the ledger, 1 contradicted by their lines"
        and total >= len(drawn)
    )
    asked = 0
    while pane.model.rows:
        change = pane.view.current_row()
        assert change.offer == page.view._shown
        if change.offer.sure == "contradicted":
            assert "its line is drawn" in pane.model.columns[-1].tip(change)
            QTest.mouseClick(pane.keep, Qt.MouseButton.LeftButton)
        else:
            QTest.mouseClick(pane.take, Qt.MouseButton.LeftButton)
        asked += 1
        assert asked <= total
    assert asked == total and len(bench.session.document.callouts) == total - 1


def test_the_audit_before_modelling_and_a_stack(bench: Bench) -> None:
    bench.show(DEMOS["pedestal-as-drawn"]())
    w = bench.window
    w.bench.show_desk("read")
    w.panes.read_page.show_source(2)
    page = w.panes.read_page.chains
    said = [page.found.item(i).text() for i in range(page.found.count())]  # type: ignore[union-attr]
    assert "21, 3 and 9 contradict: 3.02 = 2.25 + 0.75 is off by 0.02" in said[0]
    assert "does not fix where column front, column back stand" in said[1]
    page.found.setCurrentRow(0)
    assert page.view.current_row().balloon == 21 and page.along.currentText() == "z"
    page.along.setCurrentText("x")
    page._fill_places()
    page.start.setCurrentText("left holes")
    page.end.setCurrentText("groove left")
    page._show_stack()
    assert page.sum.text() == "0.91 = 4.7/2 + 1.56 − 6/2" and page.stack.stack is not None
    assert page.stack.grab().toImage().width() > 100
    # places typed into a row: an edit once both are told
    w.session.edit("a link", lambda d: ls.note(d, "1.25", 30))
    row = next(i for i, r in enumerate(page.model.rows) if r.balloon == 30)
    assert page.model.setData(page.model.index(row, 2), "y")
    assert page.model.setData(page.model.index(row, 3), "front")
    assert bench.session.document.callout(30).span is None  # type: ignore[union-attr]
    assert page.model.setData(page.model.index(row, 4), "column front")
    span = bench.session.document.callout(30).span  # type: ignore[union-attr]
    assert span is not None and (span.along, span.start, span.end) == ("y", "front", "column front")
    assert not any("does not fix" in page.found.item(i).text() for i in range(page.found.count()))  # type: ignore[union-attr]


@pytest.mark.timeout(600)
def test_a_scan_is_shown_then_read_and_mended_before_it_is_taken(bench: Bench) -> None:
    pytest.importorskip("rapidocr")
    bench.show(ls.new_part("from a scan", unit="in"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "pedestal-scan.jpg")
    page = w.panes.read_page.sheets
    work = page.commands
    assert work.found is not None and work.found.lettering == "unread" and page.reader.reads_lettering
    assert "reading its lettering" in page.where.text() and not page.view.offers
    bench.until(lambda: work.found is not None and work.found.lettering == "read", 300)
    assert len(page.view.offers) == 22 and "1:1" in page.where.text()
    doubtful = [o for o in page.view.offers if o.sure != "sure"]
    assert doubtful and "notes read from the picture" in bench.said
    # all that is sure at once; the rest is gone through, large, and mended where it stands
    work.take_all()
    assert f"{len(doubtful)} left, whose lettering is doubtful" in bench.said
    work.ask_changes()
    assert [c.offer for c in page.revision.model.rows] == doubtful
    assert not page.revision.crop.pixmap().isNull() and doubtful[0].why in page.revision.why.text()
    before = len(bench.session.document.callouts)
    page.revision.field.setText("frobnicate")
    page.revision.take.click()
    assert len(bench.session.document.callouts) == before  # and why is said
    page.revision.field.setText(".380")
    QTest.keyClick(page.revision.field, Qt.Key.Key_Return)
    callout = bench.session.document.callouts[-1]
    assert callout.note == ".380" and callout.place is not None
    assert len(page.revision.model.rows) == len(doubtful) - 1
    # read once, it is known when the page is turned to again
    page._shown = None
    work.found = None
    page.set_document(bench.session.document)
    bench.until(lambda: work.found is not None)
    assert work.found.lettering == "read"


def test_a_sheet_s_first_model_is_shown_then_built_in_one_edit(bench: Bench) -> None:
    bench.show(ls.new_part("from its drawing"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "winch-spindle.pdf")
    page = w.panes.read_page.sheets
    before = bench.session.document
    page.buttons["first model…"].click()
    bench.until(page.proposal.isVisible)
    assert "6 stations, all of it by the sheet" in page.proposal.title.text()
    assert "⌀6 H9 THRU" in page.proposal.left.text() and page.proposal.model.rows[1].cells == "#2 ⌀25, to #16 52"
    assert bench.session.document is before  # nothing is built that was not shown
    page.proposal.build.click()
    bench.settle()
    document = bench.session.document
    assert [s.kind for s in document.steps] == ["turned", "hole"] and len(document.callouts) == 26
    assert not page.proposal.isVisible() and w.session.reply is not None
    # a second one is for a part without steps; one step back undoes all of it
    page.buttons["first model…"].click()
    assert "the part has steps already" in bench.said and not page.proposal.isVisible()
    bench.session.undo()
    assert bench.session.document.steps == () and bench.session.document.callouts == ()


def test_a_sheet_of_no_turned_part_proposes_nothing(bench: Bench) -> None:
    bench.show(ls.new_part("a pedestal", unit="in"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, SHEETS / "pedestal.pdf")
    page = w.panes.read_page.sheets
    page.buttons["first model…"].click()
    bench.until(lambda: "no view of a turned part" in bench.said)
    assert not page.proposal.isVisible() and page.buttons["first model…"].isEnabled()


def test_a_text_that_is_no_note_says_why_and_is_mended_by_a_click(bench: Bench, tmp_path: Path) -> None:
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    c = Canvas(str(tmp_path / "odd.pdf"), pagesize=(297 * mm, 210 * mm))
    c.setFont("Helvetica", 12)
    c.drawString(60 * mm, 120 * mm, "Ø25 WIBBLE 3")
    c.drawString(60 * mm, 90 * mm, "Ø40")
    c.save()
    bench.show(ls.new_part("odd words"))
    w = bench.window
    w.bench.show_desk("read")
    _open(bench, tmp_path / "odd.pdf")
    page = w.panes.read_page.sheets
    (text,) = page.view.left
    assert "WIBBLE" in text.why and len(page.view.offers) == 1
    _click(bench, (text.box[0] + text.box[2]) / 2, (text.box[1] + text.box[3]) / 2)
    assert page.entry.text() == "Ø25 WIBBLE 3".replace("Ø", "⌀") and text.why in bench.said
    page.entry.setText("⌀25")
    QTest.keyClick(page.entry, Qt.Key.Key_Return)
    (callout,) = bench.session.document.callouts
    assert callout.nominal == 25 and callout.place is not None and abs(callout.place.y - 0.43) < 0.02


def test_the_corners_of_a_photograph_are_put_right_by_hand(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    bench.show(ls.new_part("from a photograph"))
    bench.window.bench.show_desk("read")
    page = bench.window.panes.read_page.sheets
    _open(bench, SHEETS / "winch-spindle.pdf")
    assert not page.buttons["corners…"].isEnabled()  # it has texts of its own
    _open(bench, SHEETS / "winch-spindle-photo.jpg")
    assert page.buttons["corners…"].isEnabled()
    seen: list[CornersDialog] = []

    def drag(dialog: CornersDialog) -> int:
        seen.append(dialog)
        dialog.show()
        view = dialog.view
        at = view.place(0)
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at.toPoint())
        view.move_to(0, at + QPointF(400, 900))  # beyond the others: no sheet
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at.toPoint())
        assert not dialog.ok.isEnabled() and "corners" in dialog.problem.text()
        view.move_to(0, at)
        QTest.keyClick(view, Qt.Key.Key_Tab)
        assert view.chosen == 1 and "top right" in view.accessibleDescription()
        before = view.corners[1]
        QTest.keyClick(view, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
        assert view.corners[1][0] == pytest.approx(before[0] - 0.02) and view.corners[1][1] == pytest.approx(before[1])
        QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
        return dialog.result()

    monkeypatch.setattr(CornersDialog, "exec", drag)
    QTest.mouseClick(page.buttons["corners…"], Qt.MouseButton.LeftButton)
    bench.until(lambda: bool(seen))
    (sheet,) = (s for s in bench.session.document.sheets if s.name.endswith("jpg"))
    assert sheet.corners is not None and page.commands.found is not None
    found = page.commands.found.corners
    assert found is not None and found[1][0] == pytest.approx(0.93, abs=0.03)  # where the paper lies in the picture
    assert sheet.corners[1] == pytest.approx((found[1][0] - 0.02, found[1][1]), abs=0.002)
    bench.until(lambda: page.reader.wanted is None and page._shown is not None and page._shown[2] == sheet.corners)
    bench.session.undo()
    assert all(s.corners is None for s in bench.session.document.sheets)


def test_the_sheet_floats_beside_the_work_and_rings_what_is_chosen_or_typed(bench: Bench) -> None:
    bench.show(ls.new_part("from paper", unit="in"))
    w = bench.window
    _open(bench, SHEETS / "pedestal.pdf")
    page = w.panes.read_page.sheets
    page.commands.take_all()
    floating = w.view.floating
    w.bench.show_desk("shape")
    assert not floating.isVisible()
    w.commands.view.toggle("sheet beside")
    assert floating.isVisible() and w.commands.view.is_on("sheet beside")
    view = floating.view
    assert len(view.marks) == len(page.view.marks) > 20
    wide = view.sceneRect().width() - 400  # the page's own
    callout = next(c for c in bench.session.document.callouts if c.note == "R1.00")
    w.bench.choose_balloon(callout.balloon)
    assert view._shown is not None and view._shown.text == "R1.00" and view.current == callout.balloon
    near = view.mapToScene(view.rect()).boundingRect()
    assert near.width() < 0.6 * wide and near.contains(view.box_of(view._shown))
    # while a note is typed, it is found where it stands
    w.panes.note_line.considered.emit("4x ø.531")
    assert view._shown is not None and "531" in view._shown.text
    w.panes.note_line.considered.emit("99")
    assert "531" in view._shown.text
    floating.close()
    assert not w.commands.view.is_on("sheet beside")
