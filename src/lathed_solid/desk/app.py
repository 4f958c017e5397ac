"""Starting the application: the kernel's worker first, then Qt, then the window; the window's own kernel last.

The window is usable before the geometry kernel is imported into its process (kernel.arrival); the first solid
comes from the worker, which imports its own beside it. Python's cycle collector is off until all of that stands:
what start-up makes is there to stay, and walking it over and over costs a fifth of the kernel's import. Then all
of it is set aside (``gc.freeze``), so that no later collection walks the kernel's hundred thousands of objects
and holds up the window.
"""

from __future__ import annotations

import gc
import importlib
import logging
import os
import sys
import types
from pathlib import Path
from typing import TYPE_CHECKING

from lathed_solid.engine.client import KernelClient
from lathed_solid.errors import LathedError
from lathed_solid.files.standing import content_hash
from lathed_solid.files.user_settings import start_logging
from lathed_solid.fit.document import Fit
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.part import Document

if TYPE_CHECKING:
    from lathed_solid.workbench.session import Session

log = logging.getLogger(__name__)

READ_AHEAD_MS = 800
TIDY_MS = 20_000
#: with this in the environment, the window tells what it shows (``telling``)
SWITCH = "LATHED_SOLID_TELL"


class NoDisplay(LathedError, RuntimeError):
    """There is no screen to open a window on."""


def check_display() -> None:
    """Raise NoDisplay before Qt aborts the process; choose the xcb platform where nothing is chosen."""
    platform = os.environ.get("QT_QPA_PLATFORM", "")
    if platform in ("offscreen", "minimal"):
        return
    display = os.environ.get("DISPLAY", "")
    if not display or not _answers(display):
        raise NoDisplay(
            "there is no X display to open a window on",
            received=f"DISPLAY={display}",
            hint="run in a desktop session, or under xvfb-run; the commands build, prove and export need none",
        )
    os.environ["QT_QPA_PLATFORM"] = "xcb"


def _answers(display: str) -> bool:
    """Whether an X server answers there."""
    import ctypes

    try:
        x11 = ctypes.CDLL("libX11.so.6")
    except OSError:
        return True  # Qt will say which library is missing
    x11.XOpenDisplay.restype = ctypes.c_void_p
    handle = x11.XOpenDisplay(display.encode())
    if not handle:
        return False
    x11.XCloseDisplay(ctypes.c_void_p(handle))
    return True


def start_kernel() -> tuple[KernelClient | None, str]:
    """The kernel's worker, or None and why."""
    try:
        return KernelClient(error_log=start_logging()), ""
    except WorkerLost as exc:
        return None, exc.message


def run(path: Path | None, document: Document | Fit | None = None) -> int:
    """Open the window on a document (or what was recovered, or a new part); the exit code."""
    gc.disable()
    # small matrices, and a worker beside us: one thread is faster than a pool
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    check_display()
    kernel, why = start_kernel()
    from PyQt6.QtCore import QTimer
    from PyQt6.QtWidgets import QApplication

    from lathed_solid.desk import theme
    from lathed_solid.desk.gl_format import set_default_format
    from lathed_solid.desk.language import desktop_language, speak
    from lathed_solid.desk.window import MainWindow
    from lathed_solid.workbench.session import Session

    session = Session(kernel)
    speak(session.settings.language or desktop_language())
    if session.settings.scale != 100:  # before the application reads it
        os.environ.setdefault("QT_SCALE_FACTOR", f"{session.settings.scale / 100:g}")
    set_default_format()
    app = QApplication(sys.argv[:1])
    app.setApplicationName("Lathed Solid")
    app.setDesktopFileName("org.lathedsolid.LathedSolid")
    app.setWindowIcon(theme.icon())
    theme.apply(app, dark=session.settings.dark)
    window = MainWindow(session)
    if (screen := app.primaryScreen()) is not None:
        window.resize(window.size().boundedTo(screen.availableSize()))
    _catch(window)
    window.show()
    if SWITCH in os.environ:
        from lathed_solid.desk.telling import Telling

        telling = Telling(window, os.environ[SWITCH])  # lives as long as the window
        log.info("telling on %s", telling.path)
    if why:
        window.bench.tell(f"{why}; the document can be edited and saved", True)
    QTimer.singleShot(0, lambda: begin(window, path, document))
    window.panes.solid.settled.connect(settle)
    # what the first sketch needs is read once the window has settled
    QTimer.singleShot(READ_AHEAD_MS, lambda: window.background.run(read_ahead, lambda _: None, log.warning))
    QTimer.singleShot(TIDY_MS, lambda: window.background.run(lambda: tidy(session), lambda _: None, log.warning))
    code = app.exec()
    session.close()
    return int(code)


def read_ahead() -> None:
    """Modules that the first sketch, the first log and the first note wait for."""
    from lathed_solid.notation import read_note

    for note in ("FILLET R3", "BOSS ⌀30 x 5 HIGH"):  # which make the grammar's patterns ready
        read_note(note)
    for name in ("desk.sketch.editor", "desk.steps.form", "ledger.snapping", "ledger.chains"):
        importlib.import_module(f"lathed_solid.{name}")
    importlib.import_module("scipy.optimize")


def tidy(session: Session) -> None:
    """Keep the store of pictures and bodies below its size, without what is open, waits, or lies in a bare file."""
    from lathed_solid.files.attachments import attachments_of
    from lathed_solid.files.store_cleaning import clean_store, named_in

    bare = [Path(name) for name in session.settings.recent if name.endswith(".json")]
    used = named_in([*session.recording.folder.glob("*"), *bare])
    removed = clean_store(used | set(attachments_of(session.document)))
    if removed:
        log.info("%d files that nothing refers to were removed from the store", len(removed))


def settle() -> None:
    """Set what start-up made aside from the cycle collector, and switch the collector on."""
    gc.freeze()
    gc.enable()


def begin(window: object, path: Path | None, document: Document | Fit | None) -> None:
    """Show what was asked for; unsaved work of killed windows is offered first, of parts and of fits."""
    from lathed_solid.desk.window import MainWindow
    from lathed_solid.part import templates
    from lathed_solid.workbench.commands.recovery import take_up_work

    assert isinstance(window, MainWindow)
    session, fits = window.session, window.fit.session
    asked = path.name if path is not None else ""
    shown = take_up_work(window.commands, session.recording.folder, asked, at_start=True)
    if isinstance(document, Fit):
        if "fit" not in shown:
            fits.open_value(document, path, saved=path is not None, holds=content_hash(path) if path else None)
            window.bench.show_desk("fit")
        document = None
    if "part" in shown:
        return
    if document is None:
        session.open_value(Document() if fits.path or "fit" in shown else templates.turned("Untitled part", "mm"))
    elif path is not None:
        session.show_read(document, path, content_hash(path))
    else:
        session.open_value(document)


def _catch(window: object) -> None:
    """An unexpected error is logged and told; the window goes on and the journal holds every edit."""
    from lathed_solid.desk.window import MainWindow

    assert isinstance(window, MainWindow)

    def hook(kind: type[BaseException], value: BaseException, trace: types.TracebackType | None) -> None:
        log.error("unexpected error", exc_info=(kind, value, trace))
        if issubclass(kind, KeyboardInterrupt):
            window.close()
            return
        words = value.message if isinstance(value, LathedError) else f"unexpected error: {kind.__name__}: {value}"
        window.bench.tell(f"{words} (nothing is lost; the log has the details)", True)

    sys.excepthook = hook
