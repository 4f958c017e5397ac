"""One open document in the window: history, file, journal, and the builds that follow every edit.

The worker is watched by a socket notifier, so the window's thread never waits for the kernel. Replies are
kept by document value, so undo shows its solid at once.
"""

from __future__ import annotations

import logging
import threading
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QSocketNotifier, QTimer, pyqtSignal

from lathed_solid.engine.client import KernelClient, Lost
from lathed_solid.engine.protocol import (
    Build,
    BuildReply,
    Compare,
    Compared,
    DrawViews,
    Export,
    Exported,
    Failed,
    MeasureByHand,
    Measured,
    Progress,
    Viewed,
)
from lathed_solid.errors import LathedError
from lathed_solid.files import FileError, Journal, read_document, write_document
from lathed_solid.files.journal import Recovered
from lathed_solid.files.user_settings import Settings, load_settings, save_settings, state_folder, with_recent
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.kernel.figures import Thing
from lathed_solid.part import Document, History
from lathed_solid.part.kinds import new_mismatches
from lathed_solid.record import strangers

log = logging.getLogger(__name__)

KEPT_REPLIES = 16
SPARE_DELAY_MS = 3000
MAX_LOSSES = 3


class Session(QObject):
    """Signals: the document changed; its build came; work began or ended; a step began; words for the user."""

    document_changed = pyqtSignal(object)
    built = pyqtSignal(object)
    busy_changed = pyqtSignal(bool)
    progressed = pyqtSignal(object)
    told = pyqtSignal(str, bool)
    state_changed = pyqtSignal()
    settings_changed = pyqtSignal(object)
    previewed = pyqtSignal(object)
    compared = pyqtSignal(object)
    measured = pyqtSignal(object)

    def __init__(self, kernel: KernelClient | None = None, *, journal_folder: Path | None = None) -> None:
        super().__init__()
        self.settings: Settings = load_settings()
        self.history = History.start(Document(), saved=True)
        self.path: Path | None = None
        self.reply: BuildReply | None = None
        self._replies: OrderedDict[Document, BuildReply] = OrderedDict()
        self._journal = Journal(journal_folder or state_folder() / "journal")
        self._wanted: Document | None = None
        self._preview: Document | None = None
        #: work stands at this step: later ones are not built; None is the end of the route
        self.stand: int | None = None
        self._building: Document | None = None
        self._exporting = False
        #: what is to be measured by hand once the kernel is free
        self._hand: tuple[tuple[Thing, ...], tuple[float, str] | None, bool] | None = None
        #: where the sheet that is asked for goes, whether it is blank, and of which document
        self._sheet: tuple[Path, bool, Document] = (Path(), False, Document())
        self._losses = 0
        self._notifier: QSocketNotifier | None = None
        self.kernel = kernel
        if kernel is not None:
            self._watch()

    # document ----------------------------------------------------------------------------------
    @property
    def document(self) -> Document:
        return self.history.document

    @property
    def standing(self) -> Document:
        """The document up to where work stands."""
        d = self.document
        if self.stand is None or d.step(self.stand) is None:
            return d
        return d.model_copy(update={"steps": tuple(s for s in d.steps if s.number <= self.stand)})

    def stand_at(self, number: int | None) -> None:
        """Build up to a step only; None for all of the route."""
        last = self.document.steps[-1].number if self.document.steps else None
        self.stand = None if number == last else number
        self.state_changed.emit()
        self.request_build()

    def preview(self, document: Document) -> None:
        """Show what a document would look like, without taking it over."""
        if document in (self.document, self.standing):
            self.end_preview()
            return
        self._preview = document
        kept = self._replies.get(document)
        if kept is not None:
            self.previewed.emit(kept)
            return
        self._wanted = document
        self._next()

    def end_preview(self) -> None:
        """Back to the document as it is."""
        if self._preview is not None:
            self._preview = None
            self.request_build()

    def open_value(self, document: Document, path: Path | None = None, *, saved: bool = True) -> None:
        """Show a document value, with a new history."""
        self._adopt(History.start(document, saved=saved), path)

    def recover(self, found: Recovered) -> None:
        """Take over what a killed window left, with its undo history."""
        self._adopt(found.history, found.path)
        found.journal.unlink(missing_ok=True)
        edits = len(found.history.entries) - 1
        self.told.emit(f"{edits} unsaved edit{'s' if edits != 1 else ''} recovered: nothing is lost", False)

    def _adopt(self, history: History, path: Path | None) -> None:
        self.history, self.path, self.reply, self.stand = history, path, None, None
        self._record(lambda: self._journal.start(history, path))
        for entry in history.entries[1:]:
            self._record(lambda e=entry: self._journal.append(e.label, e.document))  # type: ignore[misc]
        self._announce()

    def open_file(self, path: Path) -> bool:
        """Read and show a file; False (and words) when it cannot be read."""
        try:
            document = read_document(path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        self.open_value(document, path)
        unknown = list(strangers(document))
        if unknown:
            self.told.emit(
                f"{path.name} says more than this version knows; it is kept: {', '.join(unknown[:3])}", False
            )
        self.set_settings(with_recent(self.settings, path))
        return True

    def save(self, path: Path, thumbnail: bytes | None = None) -> bool:
        """Write the document; False (and words) when it cannot be written. Nothing is lost then."""
        try:
            write_document(path, self.document, thumbnail)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        self.path, self.history = path, self.history.mark_saved()
        self._record(lambda: self._journal.start(self.history, path))
        self.set_settings(with_recent(self.settings, path))
        self.told.emit(f"saved to {path.name}", False)
        self.state_changed.emit()
        return True

    def commit(self, document: Document, label: str) -> None:
        """One undoable edit."""
        history = self.history.commit(document, label)
        if history is self.history:
            return
        self.history = history
        self._record(lambda: self._journal.append(label, document))
        self._announce()

    def edit(self, label: str, change: Callable[[Document], Document]) -> bool:
        """Apply ``change``; a refusal is told, and False."""
        try:
            document = change(self.document)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        before = self.document
        self.commit(document, label)
        for strange in new_mismatches(before, document)[:1]:
            self.told.emit(strange.words, True)
        return True

    def undo(self) -> None:
        if self.history.undo_label is not None:
            label = self.history.undo_label
            self._step(self.history.undo(), f"undone: {label}")

    def redo(self) -> None:
        if self.history.redo_label is not None:
            label = self.history.redo_label
            self._step(self.history.redo(), f"redone: {label}")

    def _step(self, history: History, words: str) -> None:
        self.history = history
        self._record(lambda: self._journal.append(words, self.document))
        self._announce()
        self.told.emit(words, False)

    def _record(self, write: Callable[[], None]) -> None:
        try:
            write()
        except FileError as exc:
            log.error("journal: %s", exc)
            self.told.emit(exc.message, True)

    def _announce(self) -> None:
        self.document_changed.emit(self.document)
        self.state_changed.emit()
        self.request_build()

    def set_settings(self, settings: Settings) -> None:
        self.settings = settings
        save_settings(settings)
        self.settings_changed.emit(settings)

    def close(self) -> None:
        """A clean end: no journal is left, both workers end."""
        self._journal.discard()
        self._unwatch()
        if self.kernel is not None:
            self.kernel.close()
            self.kernel = None

    # builds ------------------------------------------------------------------------------------
    @property
    def busy(self) -> bool:
        return self._building is not None or self._exporting

    def request_build(self) -> None:
        """Bring the solid up to the present document: from kept replies, else by the worker."""
        self._preview = None
        kept = self._replies.get(self.standing)
        if kept is not None:
            self._wanted = None
            self._show(kept)
            return
        self._wanted = self.standing
        self._next()

    def _next(self) -> None:
        if self._wanted is None or self.busy or self.kernel is None:
            self._measure()
            return
        self._building, self._wanted = self._wanted, None
        try:
            self.kernel.ask(Build(document=self._building))
        except (WorkerLost, OSError) as exc:
            self._building = None
            self.told.emit(str(exc), True)
            return
        self._watch()
        self.busy_changed.emit(True)

    def export(self, path: Path) -> None:
        """Write STEP or STL in the worker."""
        if self.kernel is None or self.busy:
            self.told.emit("the kernel is at work; export when it is done", True)
            return
        self._exporting = True
        self.kernel.ask(Export(document=self.document, path=str(path.absolute())))
        self._watch()
        self.busy_changed.emit(True)

    def by_hand(self, things: tuple[Thing, ...], *, section: tuple[float, str] | None, mesh: bool) -> None:
        """Measure what is picked, the section and the mesh; ``measured`` brings it.

        While the kernel is at work the last wish waits.
        """
        self._hand = (things, section, mesh)
        self._next()

    def _measure(self) -> None:
        if self._hand is None or self.busy or self.kernel is None or self.reply is None:
            return
        (things, section, mesh), self._hand = self._hand, None
        self._exporting = True
        self.kernel.ask(MeasureByHand(document=self.standing, things=things, section=section, mesh=mesh))
        self._watch()
        self.busy_changed.emit(True)

    def inspect(self, path: Path, *, blank: bool = False) -> None:
        """Write the inspection sheet: proven and drawn in the worker, written beside the window."""
        if self.kernel is None or self.busy:
            self.told.emit("the kernel is at work; write the sheet when it is done", True)
            return
        self._exporting, self._sheet = True, (path, blank, self.document)
        self.kernel.ask(DrawViews(document=self.document))
        self._watch()
        self.busy_changed.emit(True)

    def _write_sheet(self, message: Viewed) -> None:
        path, blank, document = self._sheet

        def write() -> None:
            from lathed_solid.reports.inspection import write_inspection

            try:
                write_inspection(path, document, message.report, message.views, blank=blank)
            except FileError as exc:
                self.told.emit(exc.message, True)
            else:
                self.told.emit(f"inspection sheet written to {path.name}", False)

        threading.Thread(target=write).start()

    def compare(self, old: Document) -> None:
        """Ask which faces and masses differ from an older document."""
        if self.kernel is None or self.busy:
            self.told.emit("the kernel is at work; compare when it is done", True)
            return
        self._exporting = True
        self.kernel.ask(Compare(old=old, document=self.document))
        self._watch()
        self.busy_changed.emit(True)

    def cancel(self) -> None:
        """Give up the running work; the document stays as it is."""
        if self.kernel is None or not self.busy:
            return
        self._building, self._exporting, self._wanted = None, False, None
        try:
            self.kernel.cancel()
        except WorkerLost as exc:
            self.told.emit(exc.message, True)
        self._watch()
        self.busy_changed.emit(False)
        self.told.emit("stopped; the last solid stays in view (F5 builds again)", False)

    def rebuild(self) -> None:
        """Build anew, past the kept replies."""
        self._replies.pop(self.standing, None)
        self._losses = 0
        self.request_build()

    def _watch(self) -> None:
        """Watch the present worker's pipe (it changes when a worker is replaced)."""
        self._unwatch()
        if self.kernel is None:
            return
        self._notifier = QSocketNotifier(self.kernel.fileno(), QSocketNotifier.Type.Read, self)  # type: ignore[call-overload]
        self._notifier.activated.connect(self._read)

    def _unwatch(self) -> None:
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
            self._notifier = None

    def _read(self) -> None:
        if self.kernel is None:
            return
        try:
            message = self.kernel.poll()
        except WorkerLost as exc:
            self._building, self._exporting = None, False
            self._unwatch()
            self.busy_changed.emit(False)
            self.told.emit(exc.message, True)
            return
        if isinstance(message, Progress):
            self.progressed.emit(message)
        elif isinstance(message, BuildReply):
            self._finish_build(message)
        elif isinstance(message, Exported):
            self._done(f"exported to {Path(message.path).name}", False)
        elif isinstance(message, Measured):
            self._exporting = False
            self.busy_changed.emit(False)
            self.measured.emit(message)
            self._next()
        elif isinstance(message, Viewed):
            self._done("writing the sheet …", False)
            self._write_sheet(message)
        elif isinstance(message, Compared):
            self._done("compared", False)
            self.compared.emit(message)
        elif isinstance(message, Failed):
            self._done(message.message, True)
        elif isinstance(message, Lost):
            self._lost(message)

    def _finish_build(self, reply: BuildReply) -> None:
        document, self._building = self._building, None
        self._losses = 0
        if document is not None:
            self._replies[document] = reply
            while len(self._replies) > KEPT_REPLIES:
                self._replies.popitem(last=False)
        self.busy_changed.emit(False)
        if document is not None and document == self._preview:
            self.previewed.emit(reply)
        elif document == self.standing:
            self._show(reply)
        self._next()

    def _done(self, words: str, bad: bool) -> None:
        self._building, self._exporting = None, False
        self.busy_changed.emit(False)
        self.told.emit(words, bad)
        self._next()

    def _lost(self, message: Lost) -> None:
        again, self._building, self._exporting = self._building, None, False
        self._watch()
        self.busy_changed.emit(False)
        self._losses += 1
        if self._losses >= MAX_LOSSES:
            self.told.emit(
                "the geometry worker stopped several times; the document is safe. "
                "Change the last step, or press F5 to try again",
                True,
            )
            return
        self.told.emit(message.message, True)
        if again is not None and self._wanted is None:
            self._wanted = self.standing
        self._next()

    def _show(self, reply: BuildReply) -> None:
        self.reply = reply
        self.built.emit(reply)

    def warm_spare_later(self) -> None:
        """Start the spare worker once the window has settled."""
        if self.kernel is not None:
            QTimer.singleShot(SPARE_DELAY_MS, self._warm_spare)

    def _warm_spare(self) -> None:
        if self.kernel is not None:
            self.kernel.warm_spare()
