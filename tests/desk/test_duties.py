"""The Prove desk's rows unfold to their duties; what is told at once: kinds, notes that lose a size, unknown fields."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

pytest.importorskip("PyQt6")

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from desk.conftest import Bench
from lathed_solid import scripting as ls
from lathed_solid.desk.dialogs import PropertiesDialog
from lathed_solid.part import Document, edits
from lathed_solid.workbench.tables.verdict_rows import DutyLine


def test_a_row_unfolds_by_key_and_click_and_all_at_once(bench: Bench, spindle: Document) -> None:
    stops = edits.put_step(spindle, edits.changed(spindle.steps[2], depth="11", point=None))
    bench.show(stops)
    bench.window.bench.show_desk("prove")
    page = bench.window.panes.prove_page
    rows = page.model.rows
    at = next(i for i, r in enumerate(rows) if r.balloon == 25)
    assert page.model.index(at, 1).data() == "+4" and rows[at].verdict.verdict == "out"
    page.view.selectRow(at)
    QTest.keyClick(page.view, Qt.Key.Key_Right)
    duties = [r for r in page.model.rows if isinstance(r, DutyLine)]
    assert [(d.duty.what, d.duty.verdict) for d in duties] == [
        ("hole diameter", "in"), ("form", "in"), ("through", "out"), ("places", "in"),
    ]  # fmt: skip
    lines = [[page.model.index(at + 1 + k, c).data() for c in (2, 3, 4, 6)] for k in range(4)]
    assert [w.strip() for w in lines[2]] == ["through", "yes", "no", "out"]
    # hovering a duty means its callout
    page.view.row_hovered.emit(duties[2])
    QTest.keyClick(page.view, Qt.Key.Key_Left)
    assert not any(isinstance(r, DutyLine) for r in page.model.rows)
    page._clicked(page.model.index(at, 1))
    assert sum(isinstance(r, DutyLine) for r in page.model.rows) == 4
    page.all_duties.setChecked(True)
    many = sum(isinstance(r, DutyLine) for r in page.model.rows)
    page.all_duties.setChecked(False)
    assert many > 40 and not any(isinstance(r, DutyLine) for r in page.model.rows)


def test_a_number_of_another_kind_is_told_at_once(bench: Bench) -> None:
    rod = ls.turned(ls.note(ls.new_part("rod"), "R6"), [ls.Station(key="A", diameter="60", length="40")])
    bench.show(ls.hole(rod, "10/face.right", "12"))
    step = bench.session.document.steps[1]
    bench.session.edit("a diameter", lambda d: edits.put_step(d, edits.changed(step, diameter="#1")))
    assert "is a radius, the field takes a diameter: 2 * #1" in bench.window.panes.status.left.text()
    bench.settle()
    assert bench.session.reply is not None
    assert bench.session.reply.report.rows[0].verdict == "out"


def test_editing_one_row_of_a_note_edits_the_note(bench: Bench, spindle: Document) -> None:
    bench.show(spindle)
    drawer = bench.window.panes.drawer
    row = next(i for i, r in enumerate(drawer.model.rows) if r.balloon == 22)
    drawer.model.setData(drawer.model.index(row, 1), "4X Ø6.4 THRU ⌴ Ø12 ↧7 ON Ø52 BC")
    bench.settle()
    after = [c for c in bench.session.document.callouts if 21 <= c.balloon <= 24]
    assert [c.nominal for c in after] == [6.4, 12.0, 7.0, 52.0] and len({c.note for c in after}) == 1
    drawer.model.setData(drawer.model.index(row, 1), "4X Ø6.4 THRU")
    assert "no longer states callout" in bench.window.panes.status.left.text()


def test_the_rule_of_the_house_is_a_property(bench: Bench, spindle: Document) -> None:
    dialog = PropertiesDialog(bench.window, spindle)
    dialog.house.setText("0.15 mm; 2°")
    found = dialog.edited().house
    assert found is not None and (found.length, found.angle_deg) == pytest.approx((0.15, 2.0))
    dialog.house.setText("")
    assert dialog.edited().house is None


def test_a_file_that_says_more_than_is_known_is_told(bench: Bench, tmp_path: Path) -> None:
    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="60", length="40")])
    data = json.loads(rod.model_dump_json()) | {"fancy": 1}
    path = tmp_path / "rod.json"
    path.write_text(json.dumps(data), "utf-8")
    told: list[str] = []
    bench.session.told.connect(lambda words, _bad: told.append(words))
    assert bench.session.open_file(path)
    assert any("it is kept: fancy" in w for w in told)
