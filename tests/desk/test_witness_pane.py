"""The drawing laid over the part at the Prove desk: by buttons and clicks, in the real window."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.part import templates

from .conftest import Bench


def test_a_hole_that_is_not_as_drawn_is_lit_on_the_drawing(bench: Bench) -> None:
    w, page = bench.window, bench.window.panes.prove_page
    slipped = ls.change_callout(DEMOS["pedestal"](), 6, nominal=4.55 * 25.4, low=None, high=None)
    bench.show(slipped)
    w.bench.show_desk("prove")
    page.tabs[4].click()
    pane = page.witness
    assert pane.sheet.currentText() == "P-02 Pedestal.pdf" and "bear witness" in pane.head.text()
    QTest.mouseClick(pane.lay, Qt.MouseButton.LeftButton)
    bench.until(lambda: pane.found is not None)
    assert pane.head.text().startswith("■ out: 4 places") and page.figures["drawing"].text() == "■ out"
    drawn = [r for r in pane.model.rows if r.drawn]
    assert len(drawn) == 4 and {r.view.side for r in drawn} == {"top"}
    # a row looks at its place, a click on the place finds its row
    pane.view.selectRow(1)
    assert pane.overlay.current is drawn[1].piece
    pane.overlay.fit()
    at = pane.overlay.frame(drawn[2].piece).center()
    QTest.mouseClick(pane.overlay, Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))
    assert pane.overlay.current is drawn[2].piece and pane.view.currentIndex().row() == 2
    # mended: what was found is of another part, until it is laid over again
    bench.session.edit("mended", lambda _: DEMOS["pedestal"]())
    bench.settle()
    assert pane.head.text().startswith("Of the part as it was") and page.figures["drawing"].text() == "–"
    pane.lay.click()
    bench.until(lambda: pane.found is not None)
    assert pane.head.text().startswith("○ in: every drawn line is the part's")
    page.show_tab(0)


def test_a_part_without_a_sheet_says_so(bench: Bench) -> None:
    bench.show(templates.turned("Bush", "mm"))
    pane = bench.window.panes.prove_page.witness
    assert "no drawing yet" in pane.head.text() and not pane.lay.isEnabled()
