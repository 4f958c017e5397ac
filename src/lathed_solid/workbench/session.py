"""One open document: history, file, journal, settings, and the builds that follow every edit."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.files import FileError, read_document, write_document
from lathed_solid.files.attachments import attachments_of
from lathed_solid.files.journal import Recovered
from lathed_solid.files.standing import content_hash
from lathed_solid.files.user_settings import Settings, load_settings, save_settings, state_folder, with_recent
from lathed_solid.part import Document, History
from lathed_solid.part.kinds import new_mismatches
from lathed_solid.quantity.formatting import counted
from lathed_solid.record import strangers
from lathed_solid.workbench.build_queue import BuildQueue, Kernel
from lathed_solid.workbench.filed import Consent, Filed
from lathed_solid.workbench.recording import Recording
from lathed_solid.workbench.signal import Signal


class Session:
    """Signals: the document changed; its name, file or state of saving did; settings did; words for the user."""

    def __init__(self, kernel: Kernel | None = None, *, journal_folder: Path | None = None) -> None:
        self.settings: Settings = load_settings()
        self.history = History.start(Document(), saved=True)
        self.filed = Filed()
        self.builds = BuildQueue(kernel)
        #: work stands at this step: later ones are not built; None is the end of the route
        self.stand: int | None = None
        self.document_changed: Signal[Document] = Signal()
        self.state_changed: Signal[()] = Signal()
        self.settings_changed: Signal[Settings] = Signal()
        self.told: Signal[str, bool] = Signal()
        self.builds.told.connect(self.told.emit)
        self.recording = Recording(journal_folder or state_folder() / "journal", self.told)

    # the document ------------------------------------------------------------------------------
    @property
    def path(self) -> Path | None:
        """The document's file; None before the first save."""
        return self.filed.path

    @property
    def document(self) -> Document:
        """The present value."""
        return self.history.document

    @property
    def standing(self) -> Document:
        """The document up to where work stands."""
        d = self.document
        if self.stand is None or d.step(self.stand) is None:
            return d
        return d.model_copy(update={"steps": tuple(s for s in d.steps if s.number <= self.stand)})

    @property
    def reply(self) -> BuildReply | None:
        """The last build of the document; None before its first."""
        return self.builds.reply

    def stand_at(self, number: int | None) -> None:
        """Build up to a step only; None for all of the route."""
        last = self.document.steps[-1].number if self.document.steps else None
        self.stand = None if number == last else number
        self.state_changed.emit()
        self.builds.show(self.standing)

    def preview(self, document: Document) -> None:
        """Show what a document would look like, without taking it over."""
        if document == self.document:
            self.builds.end_preview()
        else:
            self.builds.preview(document)

    def end_preview(self) -> None:
        """Back to the document as it is."""
        self.builds.end_preview()

    # edits -------------------------------------------------------------------------------------
    def commit(self, document: Document, label: str) -> None:
        """One undoable edit."""
        history = self.history.commit(document, label)
        if history is self.history:
            return
        self.history = history
        self.recording.append(label, history)
        self._announce()

    def edit(self, label: str, change: Callable[[Document], Document]) -> bool:
        """Apply ``change``; a refusal is told, and False."""
        before = self.document
        try:
            document = change(before)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        self.commit(document, label)
        for strange in new_mismatches(before, document)[:1]:
            self.told.emit(strange.words, True)
        return True

    def undo(self) -> None:
        """One edit back, as the journal has it too."""
        if self.history.undo_label is not None:
            label = self.history.undo_label
            self._step(self.history.undo(), f"undone: {label}")

    def redo(self) -> None:
        """One edit forth."""
        if self.history.redo_label is not None:
            label = self.history.redo_label
            self._step(self.history.redo(), f"redone: {label}")

    def _step(self, history: History, words: str) -> None:
        self.history = history
        self.recording.append(words, history)
        self._announce()
        self.told.emit(words, False)

    def _announce(self) -> None:
        if self.stand is not None and self.document.step(self.stand) is None:
            self.stand = None  # the step where work stood is gone
        standing = self.standing
        kept = self.builds.keeps(standing)
        if not kept:  # the kernel begins while the panes follow
            self.builds.show(standing)
        self.document_changed.emit(self.document)
        self.state_changed.emit()
        if kept:
            self.builds.show(standing)

    # files -------------------------------------------------------------------------------------
    def open_value(
        self, document: Document, path: Path | None = None, *, saved: bool = True, holds: str | None = None
    ) -> None:
        """Show a document value, with a new history; ``holds``: SHA-256 of its file when it was read."""
        self._adopt(History.start(document, saved=saved), path, holds=holds)

    def recover(self, found: Recovered) -> None:
        """Take over what a killed window left, with its undo history."""
        if found.history is None:
            return
        self._adopt(found.history, found.path, found)
        self.told.emit(found.words, bool(found.damaged))

    def _adopt(
        self, history: History, path: Path | None, taken: Recovered | None = None, *, holds: str | None = None
    ) -> None:
        self.history, self.stand = history, None
        self.filed.lie_at(path, taken.holds if taken is not None else holds)
        self.builds.forget()
        self.recording.adopt(history, self.filed, taken)
        self._announce()

    def open_file(self, path: Path) -> bool:
        """Read and show a file; False (and words) when it cannot be read."""
        holds = content_hash(path)
        try:
            document = read_document(path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        self.show_read(document, path, holds)
        return True

    def show_read(self, document: Document, path: Path, holds: str | None) -> None:
        """Show what was read from a file, which held the bytes of that SHA-256; what is odd about it is told."""
        self.open_value(document, path, holds=holds)
        unknown = list(strangers(document))
        if unknown:
            self.told.emit(
                f"{path.name} says more than this version knows; it is kept: {', '.join(unknown[:3])}", False
            )
        if self.filed.elsewhere:
            self.told.emit(f"{path.name} is open in {self.filed.elsewhere} too", True)
        self.set_settings(with_recent(self.settings, path))

    def save(self, path: Path, thumbnail: bytes | None = None, consent: Consent = Consent.NONE) -> None:
        """Write the document. Raises FileError when it is not written; nothing is lost then."""

        def write(to: Path, /, *, protected: bool, incomplete: bool) -> str:
            return write_document(to, self.document, thumbnail, protected=protected, incomplete=incomplete)

        notes = self.filed.save(path, write, consent)
        if path.suffix.lower() == ".json" and (held := attachments_of(self.document)):
            notes = f"{notes}; " * bool(notes) + (
                f"a bare file cannot hold the {counted(len(held), 'file')} it refers to: save as .lathed to hand it on"
            )
        self.history = self.history.mark_saved()
        self.recording.start(self.history, self.filed)
        self.set_settings(with_recent(self.settings, path))
        self.told.emit(f"saved to {path.name}" + (f"; {notes}" if notes else ""), bool(notes))
        self.state_changed.emit()

    def set_settings(self, settings: Settings) -> None:
        """Remember other settings."""
        self.settings = settings
        save_settings(settings)
        self.settings_changed.emit(settings)

    def close(self) -> None:
        """A clean end: no journal is left, the kernel ends."""
        self.recording.discard()
        self.filed.release()
        self.builds.close()
