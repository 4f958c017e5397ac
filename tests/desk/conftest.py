"""A real window on a real worker, under Xvfb; one for each test that asks."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

pytest.importorskip("PyQt6")

from PyQt6.QtWidgets import QApplication, QMessageBox

from lathed_solid.desk import theme
from lathed_solid.desk.session import Session
from lathed_solid.desk.solid_view import set_default_format
from lathed_solid.desk.window import MainWindow
from lathed_solid.kernel.client import Workshop
from lathed_solid.part import Document

pytestmark = pytest.mark.window
set_default_format()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        item.add_marker(pytest.mark.window)


class Bench:
    """The window, its session, and waiting."""

    def __init__(self, window: MainWindow, session: Session) -> None:
        self.window, self.session = window, session

    def until(self, done: Callable[[], bool], seconds: float = 60) -> None:
        end = time.monotonic() + seconds
        while not done():
            if time.monotonic() > end:
                raise AssertionError(f"not within {seconds} s; status: {self.window.status.left.text()}")
            QApplication.processEvents()
            time.sleep(0.005)

    def settle(self) -> None:
        """Until the solid is that of the present document."""
        self.until(lambda: not self.session.busy and self.session._wanted is None and self.session.reply is not None)
        for _ in range(5):
            QApplication.processEvents()

    def show(self, document: Document) -> None:
        self.session.open_value(document)
        self.settle()

    @property
    def said(self) -> str:
        return self.window.status.left.text()


@pytest.fixture
def bench(qapp: QApplication, tmp_path: Path, spindle: Document, monkeypatch: pytest.MonkeyPatch) -> Iterator[Bench]:
    theme.apply(qapp, dark=False)
    monkeypatch.setattr(QMessageBox, "question", lambda *_a: QMessageBox.StandardButton.Discard)
    session = Session(Workshop(spare=False), journal_folder=tmp_path / "journal")
    window = MainWindow(session)
    window.resize(1280, 800)
    window.show()
    made = Bench(window, session)
    made.show(spindle)
    yield made
    window.close()
    session.close()
