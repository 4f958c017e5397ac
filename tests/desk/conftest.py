"""A real window on a real worker, under Xvfb; one for each test that asks."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator

import pytest

pytest.importorskip("PyQt6")

from PyQt6.QtWidgets import QApplication, QMessageBox

from lathed_solid.desk import theme
from lathed_solid.desk.gl_format import set_default_format
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.client import KernelClient
from lathed_solid.part import Document
from lathed_solid.workbench.session import Session

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
                raise AssertionError(f"not within {seconds} s; status: {self.window.panes.status.left.text()}")
            QApplication.processEvents()
            time.sleep(0.005)

    def settle(self) -> None:
        """Until the solid is that of the present document."""
        self.until(lambda: self.session.builds.settled)
        for _ in range(5):
            QApplication.processEvents()

    def show(self, document: Document) -> None:
        self.session.open_value(document)
        self.settle()

    def repaint(self) -> None:
        """Until the solid was drawn anew, at the pane's present size."""
        for _ in range(2):
            before = self.window.panes.solid.frames
            self.window.panes.solid.update()
            self.until(lambda n=before: self.window.panes.solid.frames > n)  # type: ignore[misc]

    @property
    def said(self) -> str:
        return self.window.panes.status.left.text()


@pytest.fixture(scope="session")
def one_window(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Bench]:
    """One window for the whole run, as in a day's work; each test opens the demo anew."""
    folder = tmp_path_factory.mktemp("desk")
    patch = pytest.MonkeyPatch()
    patch.setenv("XDG_CONFIG_HOME", str(folder / "config"))
    patch.setenv("XDG_STATE_HOME", str(folder / "state"))
    patch.setattr(QMessageBox, "question", lambda *_a: QMessageBox.StandardButton.Discard)
    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    theme.apply(app, dark=False)
    session = Session(KernelClient(), journal_folder=folder / "journal")
    window = MainWindow(session)
    window.resize(1280, 800)
    window.show()
    bench = Bench(window, session)
    bench.until(lambda: not window.panes.solid.waiting)
    yield bench
    window.close()
    patch.undo()


@pytest.fixture
def bench(one_window: Bench, spindle: Document) -> Bench:
    window = one_window.window
    window.panes.solid.clear_pick()
    one_window.show(spindle)
    window.bench.choose_step(10)
    window.bench.show_desk("shape")
    window.panes.drawer.set_open(True)
    if one_window.session.settings.projection != "first":
        window.commands.view.toggle_projection()
    window.panes.status.end_message()
    one_window.settle()
    return one_window
