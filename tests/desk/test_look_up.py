"""The look-up panel in the real window."""

from __future__ import annotations

from PyQt6.QtTest import QTest

from .conftest import Bench


def _cells(panel) -> list[list[str]]:  # type: ignore[no-untyped-def]
    t = panel.table
    return [[t.item(i, j).text() for j in range(t.columnCount())] for i in range(t.rowCount())]


def test_a_designation_is_answered_while_it_is_typed(bench: Bench) -> None:
    w = bench.window
    w.menus.by_id["look-up"].trigger()
    panel = w.view.beside["look up"]
    assert "For example" in panel.words.text() and not panel.take.isEnabled()
    QTest.keyClicks(panel.field, "M8-6H")
    rows = {row[0]: row for row in _cells(panel)}
    assert rows["minor diameter"][1:4] == ["6.647", "6.912", "mm"]
    assert rows["major diameter"][1:3] == ["8", "–"] and rows["tap drill"][1] == "6.8"
    panel.unit.setCurrentText("in")
    assert {row[0]: row for row in _cells(panel)}["minor diameter"][1:4] == ["0.2617", "0.2721", "in"]
    panel.unit.setCurrentText("mm")
    panel.field.clear()
    QTest.keyClicks(panel.field, "bearing 6204")
    rows = {row[0]: row for row in _cells(panel)}
    assert rows["outside diameter"][1] == "47" and rows["shaft seat k5"][1:3] == ["20.002", "20.011"]
    panel.unit.setCurrentText("in")
    panel.field.clear()
    QTest.keyClicks(panel.field, "M99")
    assert not _cells(panel) and "no coarse pitch" in panel.words.text() and not panel.take.isEnabled()
    panel.field.clear()
    QTest.keyClicks(panel.field, "M18x1.5-6g\r")
    assert w.panes.note_line.field.text() == "M18x1.5-6g" and panel.isVisible()
    panel.close()
    w.panes.note_line.field.clear()
