"""A journal kept beside a session: what cannot be written is told until it can be, and work goes on."""

from __future__ import annotations

import logging
from pathlib import Path
from typing import Any

from lathed_solid.files import FileError, Journal
from lathed_solid.files.journal import Recovered
from lathed_solid.files.journal.writing import MAX_JOURNAL
from lathed_solid.part import History
from lathed_solid.workbench.filed import Filed
from lathed_solid.workbench.signal import Signal

log = logging.getLogger(__name__)


class Recording:
    """The journal of one session, of parts or of fits.

    Once an edit could not be written, ``trouble`` says why, ``trouble_changed`` tells it, and every later edit and
    ``check`` begin the journal anew with the whole history, until that succeeds.
    """

    def __init__(self, folder: Path, told: Signal[str, bool]) -> None:
        self.folder = folder
        self._journal, self._told = Journal(folder), told
        self._history: History[Any] | None = None
        self._filed: Filed | None = None
        self.trouble = ""
        self.trouble_changed: Signal[str] = Signal()

    def start(self, history: History[Any], filed: Filed) -> None:
        """A new journal that begins with the present value of ``history``."""
        self._history, self._filed = history, filed
        self._begin(whole=False)

    def adopt(self, history: History[Any], filed: Filed, taken: Recovered | None = None) -> None:
        """A new journal of a whole history; ``taken``: what is taken over, whose own is removed once this is whole."""
        self._history, self._filed = history, filed
        if self._begin(whole=True, instead=taken.journal.name if taken is not None else "") and taken is not None:
            taken.journal.unlink(missing_ok=True)

    def append(self, label: str, history: History[Any]) -> None:
        """One value that was committed: the present one of ``history``."""
        self._history = history
        if self.trouble or self._journal.size > MAX_JOURNAL:
            self._begin(whole=True)
            return
        try:
            self._journal.append(label, history.document)
        except FileError as exc:
            self._fail(exc)
            self._begin(whole=True)

    def check(self) -> None:
        """Look whether edits are still written, and try again where they were not; called now and then."""
        if self._history is None:
            return
        if self._journal.trouble is not None and not self.trouble:
            self._fail(self._journal.trouble)
        if self.trouble or self._journal.gone:
            self._begin(whole=True)

    def flush(self) -> None:
        """Wait until all of it is written."""
        self._journal.flush()

    def discard(self) -> None:
        """A clean end: no journal is left."""
        self._history = None
        self._journal.discard()

    def _begin(self, *, whole: bool, instead: str = "") -> bool:
        """Write it anew; whether that succeeded."""
        assert self._history is not None and self._filed is not None
        path, holds = self._filed.path, self._filed.holds
        try:
            self._journal.start(self._history, path, holds=holds, whole=whole, instead=instead)
        except FileError as exc:
            self._fail(exc)
            return False
        if self.trouble:
            self.trouble = ""
            self.trouble_changed.emit("")
            self._told.emit("edits are recorded for recovery again, all of them", False)
        return True

    def _fail(self, exc: FileError) -> None:
        if not self.trouble:
            log.error("journal: %s", exc)
            self._told.emit(exc.message, True)
        self.trouble = f"edits are not recorded: {exc.rule or exc.what}"
        self.trouble_changed.emit(self.trouble)
