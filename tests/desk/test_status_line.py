"""The status line: how long a message stands."""

from __future__ import annotations

import pytest
from PyQt6.QtTest import QTest

from lathed_solid.desk import status_line
from lathed_solid.desk.status_line import StatusLine


def test_a_message_outlasts_the_work_that_it_was_said_at(one_window: object, monkeypatch: pytest.MonkeyPatch) -> None:
    """What is said at the start of a long build still stands when its solid is seen, and for a while after."""
    monkeypatch.setattr(status_line, "MESSAGE_MS", 10)
    monkeypatch.setattr(status_line, "AFTER_MS", 10)
    line = StatusLine()
    line.show_figures("figures")
    assert line.left.text() == "figures"
    line.show_busy(True)
    line.say("1 unsaved edit recovered", False)
    QTest.qWait(60)
    line.show_figures("new figures")
    assert line.left.text() == "1 unsaved edit recovered"
    line.show_busy(False)
    assert line.left.text() == "1 unsaved edit recovered"
    QTest.qWait(60)
    assert line.left.text() == "new figures"
    line.say("saved", False)
    QTest.qWait(60)
    assert line.left.text() == "new figures"
    line.show_busy(True)
    line.say("no such face", True)
    QTest.qWait(60)
    line.end_message()
    assert line.left.text() == "new figures"
