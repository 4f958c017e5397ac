"""The guide in the window: F1 by desk and pane, words found, links, an exercise begun from it and marked."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QTextDocument
from PyQt6.QtTest import QTest

from lathed_solid.desk.guide_window import GuideWindow
from lathed_solid.exercises import exercise
from lathed_solid.guide import PAGES
from lathed_solid.workbench.actions import find_action, run_action

from .conftest import Bench


def ask(bench: Bench) -> GuideWindow:
    """F1."""
    run_action(find_action("guide"), bench.window.commands)  # type: ignore[arg-type]
    found: Any = bench.window.view.beside["guide"]
    return found


def test_it_opens_at_what_is_in_view(bench: Bench) -> None:
    w = bench.window
    assert find_action("guide").keys == "F1"  # type: ignore[union-attr]
    assert ask(bench).shown == "turned"
    bench.window.bench.show_desk("prove")
    w.panes.prove_page.show_tab(1)
    assert ask(bench).shown == "suspects"
    w.panes.read_page.show_source(0)
    for desk, name in (("read", "caliper"), ("fit", "fit"), ("hand over", "hand-over")):
        w.bench.show_desk(desk)
        assert ask(bench).shown == name
    w.bench.show_desk("shape")
    w.bench.choose_step(20)
    assert ask(bench).shown == "holes"
    guide = ask(bench)
    assert guide.isVisible() and not guide.isModal() and guide.contents.currentItem().text() == "Holes, threads and " \
        "the other steps"  # fmt: skip
    guide.close()


def test_words_links_and_the_way_back(bench: Bench) -> None:
    guide = ask(bench)
    guide.turn_to("start")
    QTest.keyClicks(guide.field, "suspects slip")
    assert guide.contents.count() < len(PAGES) and guide.contents.item(0).text().startswith("Suspects")
    QTest.keyClick(guide.field, Qt.Key.Key_Return)
    assert guide.shown == "suspects" and guide.browser.textCursor().selectedText().lower() == "suspects"
    guide.browser.anchorClicked.emit(QUrl("exercises"))
    assert guide.shown == "exercises"
    guide.browser.anchorClicked.emit(QUrl("no-such-page"))
    assert guide.shown == "start"
    guide.back.click()
    assert guide.shown == "exercises" and guide.forward.isEnabled()
    QTest.keyClicks(guide.field, " qqqq")
    assert guide.contents.count() == 0 and guide.none.isVisible()
    guide.field.clear()
    assert guide.contents.count() == len(PAGES) and guide.none.isHidden()
    for p in PAGES:  # every page with its pictures, in both palettes
        guide.turn_to(p.name)
        assert guide.browser.toPlainText().startswith(p.title)
    guide.turn_to("proof")
    kind = QTextDocument.ResourceType.ImageResource.value
    wide = guide.browser.loadResource(kind, QUrl("picture:prove")).width()
    guide.resize(800, 600)
    bench.until(lambda: guide.browser.loadResource(kind, QUrl("picture:prove")).width() < wide)
    guide.close()


def test_an_exercise_is_begun_from_it_and_marked(bench: Bench, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    w = bench.window
    guide = ask(bench)
    guide.browser.anchorClicked.emit(QUrl("exercise:sheave-pin"))
    bench.settle()
    assert bench.session.document.exercise == "sheave-pin" and w.bench.desk == "read"
    prove = w.panes.prove_page
    w.bench.show_desk("prove")
    assert prove.tabs[6].isVisible()
    prove.tabs[6].click()
    assert "10 to mend of 10" in prove.exercise.head.text()
    answer = exercise("sheave-pin").answer()
    bench.session.edit("build it", lambda d: d.model_copy(update={"notes": answer.notes, "steps": answer.steps}))
    bench.settle()
    assert "done: the part is as drawn" in prove.exercise.head.text() and not prove.exercise.suspects.isEnabled()
    bench.session.edit("a slip", lambda d: d.model_copy(update={"steps": d.steps[:1]}))
    bench.settle()
    row = next(i for i, m in enumerate(prove.exercise.marks) if m.balloon == 6)
    prove.exercise.view.selectRow(row)
    assert w.bench.balloon == 6
    prove.exercise.suspects.click()
    assert prove.tab == "suspects" and prove.suspects.asking.busy
    prove.suspects.asking.stop()
    w.commands.learning.begin("no-such")
    assert "there is no exercise" in bench.said
    out = tmp_path / "guide.html"
    monkeypatch.setattr(w.commands.learning.ask, "save_path", lambda *_a: out)
    guide.write_wanted.emit()
    bench.until(out.exists)
    guide.close()


def test_a_part_that_is_no_exercise_has_no_such_pane(bench: Bench) -> None:
    bench.window.bench.show_desk("prove")
    assert bench.window.panes.prove_page.tabs[6].isHidden()


def test_a_tip_is_shown_once_and_leads_to_its_page(bench: Bench) -> None:
    w = bench.window
    settings = bench.session.settings
    bench.session.set_settings(settings.model_copy(update={"tips": True, "tips_seen": ()}))
    w.bench.show_desk("prove")
    w.panes.prove_page.show_tab(0)
    w.tips.refresh()
    card = w.panes.tip
    assert card.isVisible() and "unfolds a row" in card.words.text()
    card.took.click()
    assert card.isHidden() and bench.session.settings.tips_seen == ("verdicts",)
    w.panes.prove_page.tabs[1].click()
    assert card.isVisible() and "undone in turn" in card.words.text()
    card.more.click()
    assert w.view.beside["guide"].shown == "suspects" and card.isHidden()  # type: ignore[attr-defined]
    w.view.beside["guide"].close()
    w.panes.prove_page.tabs[0].click()
    assert card.isHidden()
    w.bench.show_desk("fit")
    assert card.isVisible()
    run_action(find_action("tips"), w.commands)  # type: ignore[arg-type]
    w.bench.show_desk("shape")
    assert card.isHidden()
    bench.session.set_settings(settings)
