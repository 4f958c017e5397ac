"""A picture of the real window with a document, for ``lathed-solid shot`` and for looking at changes."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from lathed_solid.desk.app import check_display
from lathed_solid.errors import LathedError
from lathed_solid.files.attachments import attachments_of
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document
from lathed_solid.store import place_of, stored
from lathed_solid.workbench.bench import Desk

if TYPE_CHECKING:
    from PyQt6.QtGui import QPixmap
    from PyQt6.QtWidgets import QWidget

SETTLE_S, LIMIT_S = 0.4, 60.0


class ShotError(LathedError, RuntimeError):
    """The picture could not be taken or written."""


def take_shot(
    document: Document | Fit,
    out: Path,
    desk: Desk,
    width: int,
    height: int,
    *,
    dark: bool = False,
    prepare: Callable[..., None] | None = None,
) -> None:
    """Open the window, wait for the build, call ``prepare(window)``, and write a PNG. Raises ShotError."""
    check_display()
    parts = [p.document for p in document.parts] if isinstance(document, Fit) else [document]
    attached = {name: stored(name) for part in parts for name in attachments_of(part)}
    with tempfile.TemporaryDirectory(prefix="lathed-solid-shot-") as folder:
        # a picture must not depend on the user's settings, nor touch them
        os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = folder
        for name, data in attached.items():
            if data is not None:
                place_of(name).parent.mkdir(parents=True, exist_ok=True)
                place_of(name).write_bytes(data)
        _take(document, out, desk, width, height, dark, prepare, Path(folder))


def _take(
    document: Document | Fit,
    out: Path,
    desk: Desk,
    width: int,
    height: int,
    dark: bool,
    prepare: Callable[..., None] | None,
    folder: Path,
) -> None:
    from PyQt6.QtWidgets import QApplication

    from lathed_solid.desk import theme
    from lathed_solid.desk.gl_format import set_default_format
    from lathed_solid.desk.window import MainWindow
    from lathed_solid.engine.client import KernelClient
    from lathed_solid.workbench.session import Session

    set_default_format()
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    with KernelClient() as kernel:
        session = Session(kernel, journal_folder=folder)
        session.settings = session.settings.model_copy(update={"tips": False})
        theme.apply(app, dark=dark)
        window = MainWindow(session)
        window.resize(width, height)
        window.show()
        if isinstance(document, Fit):
            desk = "fit"
            fit = window.fit.session
            fit.open_value(document, out.with_suffix(".lathed"))
            window.bench.show_desk(desk)
            one = len(document.members) < 2
            _pump(app, lambda: fit.ready and (one or fit.overlaps is not None) and not window.panes.solid.waiting,
                  LIMIT_S)  # fmt: skip
        else:
            session.open_value(document, out.with_suffix(".lathed"))
            _pump(app, lambda: session.builds.settled and not window.panes.solid.waiting, LIMIT_S)
            if session.reply is None:
                raise ShotError("the part was not built in time", hint="a simpler part")
            window.bench.show_desk(desk)
        _pump(app, lambda: False, SETTLE_S)
        if prepare is not None:
            prepare(window)
            _pump(app, lambda: False, SETTLE_S)
        picture = _with_dialogs(window)
        if not picture.save(str(out), "PNG"):
            raise ShotError("the picture cannot be written", where=str(out), hint="a folder you may write to")
        session.history = session.history.mark_saved()  # a picture leaves nothing to ask about
        window.fit.session.history = window.fit.session.history.mark_saved()
        session.close()
        window.close()


def _with_dialogs(window: QWidget) -> QPixmap:
    """The window, and over its middle what asks something just now."""
    from PyQt6.QtGui import QPainter, QPen
    from PyQt6.QtWidgets import QDialog

    picture = window.grab()
    painter = QPainter(picture)
    for dialog in window.findChildren(QDialog):
        if dialog.isVisible():
            over = dialog.rect()
            over.moveCenter(window.rect().center())
            painter.drawPixmap(over, dialog.grab())
            painter.setPen(QPen(dialog.palette().shadow().color(), 1))
            painter.drawRect(over.adjusted(-1, -1, 0, 0))
    painter.end()
    return picture


def _pump(app: object, done: Callable[[], bool], seconds: float) -> None:
    from PyQt6.QtWidgets import QApplication

    assert isinstance(app, QApplication)
    end = time.monotonic() + seconds
    while time.monotonic() < end and not done():
        app.processEvents()
        time.sleep(0.005)
