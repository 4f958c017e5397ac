"""A journal kept beside a session: what cannot be written is told, and work goes on."""

from __future__ import annotations

import logging
from collections.abc import Callable
from pathlib import Path

from lathed_solid.files import FileError, Journal
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document, History
from lathed_solid.workbench.signal import Signal

log = logging.getLogger(__name__)


class Recording:
    """The journal of one session, of parts or of fits; ``told`` takes the words for the user."""

    def __init__(self, folder: Path, told: Signal[str, bool]) -> None:
        self._journal, self._told = Journal(folder), told

    def start(self, history: History[Document] | History[Fit], path: Path | None) -> None:
        """A new journal that begins with the first value of ``history``."""
        self._try(lambda: self._journal.start(history, path))

    def adopt(self, history: History[Document] | History[Fit], path: Path | None) -> None:
        """A new journal of a whole history."""
        self.start(history, path)
        for entry in history.entries[1:]:
            self.append(entry.label, entry.document)

    def append(self, label: str, value: Document | Fit) -> None:
        """One value that was committed."""
        self._try(lambda: self._journal.append(label, value))

    def discard(self) -> None:
        """A clean end: no journal is left."""
        self._journal.discard()

    def _try(self, write: Callable[[], None]) -> None:
        try:
            write()
        except FileError as exc:
            log.error("journal: %s", exc)
            self._told.emit(exc.message, True)
