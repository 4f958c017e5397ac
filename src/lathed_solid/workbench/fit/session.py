"""One open fit: history, file, journal, how it stands solved, and what its kernel found.

Every edit is solved before it is committed, so that the members of a committed fit stand where their relations have
them; an edit whose relations fight is committed as it stands, and told. Parts are built when they are needed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from lathed_solid.engine.fit_protocol import FitJudged, JudgeFit
from lathed_solid.errors import LathedError
from lathed_solid.files import FileError, read_document
from lathed_solid.files.fit_document import ChangedPart, changed_parts, read_fit, write_fit
from lathed_solid.files.journal import Recovered
from lathed_solid.files.standing import content_hash
from lathed_solid.fit import edits
from lathed_solid.fit.beside import beside
from lathed_solid.fit.document import Fit
from lathed_solid.fit.features import Features
from lathed_solid.fit.judged import Overlap, PartMass
from lathed_solid.fit.ledger_fits import LedgerFit, ledger_fits
from lathed_solid.fit.placement import Placement
from lathed_solid.fit.solved import Solved, solved
from lathed_solid.part import Document, History
from lathed_solid.proof import Report
from lathed_solid.workbench.build_queue import Kernel
from lathed_solid.workbench.filed import Consent, Filed
from lathed_solid.workbench.fit.queue import FitQueue
from lathed_solid.workbench.recording import Recording
from lathed_solid.workbench.signal import Signal


class FitSession:
    """Signals: the fit or how it stands changed; members were moved without an edit; overlaps came; the state of
    saving did; words for the user.
    """

    def __init__(self, start_kernel: Callable[[], Kernel | None], journal_folder: Path) -> None:
        self.history: History[Fit] = History.start(Fit(), saved=True)
        self.filed = Filed()
        self.queue = FitQueue(start_kernel)
        self.solved: Solved | None = None
        self.overlaps: tuple[Overlap, ...] | None = None
        self.overlap_shapes: tuple[bytes, ...] = ()
        self._looked_at: Fit | None = None
        self.changed: Signal[()] = Signal()
        self.moved: Signal[Mapping[str, Placement]] = Signal()
        self.judged: Signal[()] = Signal()
        self.state_changed: Signal[()] = Signal()
        self.told: Signal[str, bool] = Signal()
        self._fits: tuple[LedgerFit, ...] | None = None
        self.recording = Recording(journal_folder, self.told)
        self._open = False
        self.queue.built.connect(self._built)
        self.queue.judged.connect(self._take_judged)
        self.queue.told.connect(self.told.emit)

    # the fit -----------------------------------------------------------------------------------
    @property
    def path(self) -> Path | None:
        """The fit's file; None before the first save."""
        return self.filed.path

    @property
    def fit(self) -> Fit:
        """The present value."""
        return self.history.document

    @property
    def ready(self) -> bool:
        """Whether every part is built."""
        return not self.queue.lacking(self.fit)

    def features(self) -> dict[str, Features]:
        """What the built parts offer, by part."""
        known = self.queue.parts
        return {p.name: known[p.sha256].features for p in self.fit.parts if p.sha256 in known}

    def reports(self) -> dict[str, Report]:
        """The proofs of the built parts, by part."""
        known = self.queue.parts
        return {p.name: known[p.sha256].report for p in self.fit.parts if p.sha256 in known}

    def masses(self) -> dict[str, PartMass]:
        """Masses of the built parts whose material is known, by part."""
        known = self.queue.parts
        found = {p.name: known[p.sha256].mass for p in self.fit.parts if p.sha256 in known}
        return {n: m for n, m in found.items() if m is not None}

    def failed_parts(self) -> dict[str, str]:
        """Parts that could not be built as a whole, with the reason."""
        known = self.queue.parts
        return {p.name: m for p in self.fit.parts if p.sha256 in known and (m := known[p.sha256].message)}

    @property
    def whole(self) -> Fit:
        """The fit with every copy as a member, where it stands."""
        return self.solved.whole if self.solved is not None else self.fit

    @property
    def fits(self) -> tuple[LedgerFit, ...]:
        """Fits across parts, as it stands now."""
        if self._fits is None and self.solved is not None and self.ready:
            self._fits = ledger_fits(self.solved, self.reports())
        return self._fits or ()

    # edits -------------------------------------------------------------------------------------
    def edit(self, label: str, change: Callable[[Fit], Fit]) -> bool:
        """Apply ``change``, solve, commit; a refusal is told, and False."""
        try:
            fit = change(self.fit)
            found = self._solve(fit)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        self._commit(found.fit if found is not None else fit, label, found)
        if found is not None and found.state == "fighting":
            self.told.emit(found.words, True)
        return True

    def commit(self, fit: Fit, label: str) -> None:
        """One undoable edit of a fit that stands as it is."""
        self._commit(fit, label, self._solve(fit))

    def _commit(self, fit: Fit, label: str, found: Solved | None) -> None:
        history = self.history.commit(fit, label)
        if history is self.history:
            return
        self.history = history
        self.recording.append(label, history)
        self._announce(found)

    def try_out(self, change: Callable[[Fit], Fit]) -> Solved | None:
        """How the fit would stand after a change, shown and not committed; None (and words) for a refusal."""
        try:
            found = self._solve(change(self.fit))
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return None
        if found is not None:
            self.moved.emit(found.placements)
        return found

    def end_trial(self) -> None:
        """Members go back to where they stand."""
        self.moved.emit({m.name: m.placement for m in self.whole.members})

    def undo(self) -> None:
        """One edit back."""
        if self.history.undo_label is not None:
            self._step(self.history.undo(), f"undone: {self.history.undo_label}")

    def redo(self) -> None:
        """One edit forth."""
        if self.history.redo_label is not None:
            self._step(self.history.redo(), f"redone: {self.history.redo_label}")

    def _step(self, history: History[Fit], words: str) -> None:
        self.history = history
        self.recording.append(words, history)
        self._announce(self._solve(self.fit))
        self.told.emit(words, False)

    def _solve(self, fit: Fit) -> Solved | None:
        """How a fit stands; None while parts are still to be built."""
        if self.queue.lacking(fit):
            return None
        known = self.queue.parts
        return solved(fit, {p.name: known[p.sha256].features for p in fit.parts})

    def _announce(self, found: Solved | None) -> None:
        self.solved, self._fits = found, None
        self.overlaps, self.overlap_shapes = None, ()
        self.queue.build(self.fit)
        self.changed.emit()
        self.state_changed.emit()

    def _built(self) -> None:
        """Parts have come: solve again, and keep where that leads without an edit."""
        if self.queue.lacking(self.fit):
            return
        try:
            found = self._solve(self.fit)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        if found is not None and found.state != "fighting":
            entry = self.history.entries[self.history.index]
            entries = list(self.history.entries)
            entries[self.history.index] = type(entry)(entry.label, found.fit)
            self.history = History(tuple(entries), self.history.index, self.history.saved)
        self.solved, self._fits = found, None
        self.changed.emit()
        self.state_changed.emit()

    # judging -----------------------------------------------------------------------------------
    def judge(self) -> None:
        """Have the overlaps found."""
        if self.solved is not None and self.whole.members:
            self.queue.judge(self.whole)

    def _take_judged(self, answer: FitJudged, asked: JudgeFit) -> None:
        if asked.fit != self.whole:  # an edit came meanwhile: what was found is of another fit
            return
        self.overlaps, self.overlap_shapes, self._looked_at = answer.overlaps, answer.shapes(), asked.fit
        self.judged.emit()

    @property
    def looked_at(self) -> bool:
        """Whether the overlaps are those of the fit as it stands."""
        return self.overlaps is not None and self._looked_at == self.whole

    # files -------------------------------------------------------------------------------------
    def begin(self) -> None:
        """The desk is entered: its journal is begun with the first fit."""
        if not self._open:
            self._open = True
            self.recording.start(self.history, self.filed)
            self._announce(self._solve(self.fit))

    def open_value(self, fit: Fit, path: Path | None = None, *, saved: bool = True, holds: str | None = None) -> None:
        """Show a fit, with a new history; ``holds``: SHA-256 of its file when it was read."""
        self._adopt(History.start(fit, saved=saved), path, holds=holds)

    def recover(self, found: Recovered) -> None:
        """Take over what a killed window left."""
        if found.fits is None:
            return
        self._adopt(found.fits, found.path, found)
        self.told.emit(found.words, bool(found.damaged))

    def _adopt(
        self, history: History[Fit], path: Path | None, taken: Recovered | None = None, *, holds: str | None = None
    ) -> None:
        self.history, self._open = history, True
        self.filed.lie_at(path, taken.holds if taken is not None else holds)
        self.recording.adopt(history, self.filed, taken)
        self._announce(self._solve(self.fit))

    def open_file(self, path: Path) -> bool:
        """Read and show a fit; False (and words) when it cannot be read. Changed parts are told."""
        holds = content_hash(path)
        try:
            fit = read_fit(path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        self.open_value(fit, path, holds=holds)
        if self.filed.elsewhere:
            self.told.emit(f"{path.name} is open in {self.filed.elsewhere} too", True)
        changed = self.changed_parts()
        if changed:
            more = f", and {len(changed) - 1} more" if len(changed) > 1 else ""
            self.told.emit(f"{changed[0].words}{more} (what is kept in the fit is shown)", True)
        return True

    def changed_parts(self) -> tuple[ChangedPart, ...]:
        """Parts whose files are gone or say something else now."""
        return tuple(changed_parts(self.fit, self.path))

    def take_over(self, change: ChangedPart) -> None:
        """Have all members of a part follow its changed file."""
        document = change.document
        if document is not None:
            self.edit(f"take over {change.path.name}", lambda f: edits.exchange_part(f, change.part, document))

    def add_file(self, path: Path) -> bool:
        """A member of the part in a file; False (and words) when it cannot be read."""
        try:
            document = read_document(path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False

        return self.add_part(document, path=str(path.resolve()))

    def add_part(self, document: Document, *, path: str = "", standard: str = "") -> bool:
        """A member of a part: the first stands fast, every other beside what stands already."""

        def change(fit: Fit) -> Fit:
            fit, part = edits.with_part(fit, document, path=path, standard=standard)
            first = not fit.members
            return edits.with_member(fit, part, held=first, placement=beside(self.whole, self.features()))

        return self.edit(f"add {standard or document.name}", change)

    def save(self, path: Path, thumbnail: bytes | None = None, consent: Consent = Consent.NONE) -> None:
        """Write the fit. Raises FileError when it is not written; nothing is lost then."""

        def write(to: Path, /, *, protected: bool, incomplete: bool) -> str:
            return write_fit(to, self.fit, thumbnail, protected=protected, incomplete=incomplete)

        notes = self.filed.save(path, write, consent)
        self.history = self.history.mark_saved()
        self.recording.start(self.history, self.filed)
        self.told.emit(f"saved to {path.name}" + (f"; {notes}" if notes else ""), bool(notes))
        self.state_changed.emit()

    def close(self) -> None:
        """A clean end."""
        self.recording.discard()
        self.filed.release()
        self.queue.close()
