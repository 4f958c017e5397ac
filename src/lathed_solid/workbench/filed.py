"""The file of one session: where it lies, what it held when it was last read or written, and who else has it open.

A save that would cost somebody something is refused with an error that says so, until the user has consented to it.
"""

from __future__ import annotations

import enum
from pathlib import Path
from typing import Protocol

from lathed_solid.files.errors import ChangedSince
from lathed_solid.files.standing import Hold, content_hash, hold, other_names, saving
from lathed_solid.quantity.formatting import counted


class Consent(enum.Flag):
    """What the user has agreed to: replacing a file that others changed, or that is write-protected; leaving out
    attachments that are lost.
    """

    NONE = 0
    CHANGED = enum.auto()
    PROTECTED = enum.auto()
    INCOMPLETE = enum.auto()


class Write(Protocol):
    """Writes to a path, also over a protected file, also without what is lost; the SHA-256 of what was written."""

    def __call__(self, path: Path, /, *, protected: bool, incomplete: bool) -> str: ...


class Filed:
    """``path`` is None before the first save; ``elsewhere`` says who else has the file open, if anyone."""

    def __init__(self) -> None:
        self.path: Path | None = None
        self.elsewhere = ""
        #: SHA-256 of what was read or written last; None while that is not known
        self.holds: str | None = None
        self._held: Hold | None = None

    def lie_at(self, path: Path | None, holds: str | None = None) -> None:
        """The session's file is now this one, which holds what was read or written (SHA-256; None: not known)."""
        if path != self.path:
            self.release()
        self.path, self.holds = path, holds
        if path is not None and self._held is None:
            found = hold(path)
            self._held, self.elsewhere = (found, "") if isinstance(found, Hold) else (None, found)

    def save(self, path: Path, write: Write, consent: Consent) -> str:
        """Write to ``path``, which is the session's file from then on; what else is to be told of it.

        Raises FileError, of which ChangedSince, WriteProtected and MissingAttachments can be consented to.
        """
        with saving(path):
            if Consent.CHANGED not in consent and self.changed_since(path):
                raise ChangedSince("the file was changed by somebody else since it was opened here", path)
            others = other_names(path)
            protected, incomplete = Consent.PROTECTED in consent, Consent.INCOMPLETE in consent
            written = write(path, protected=protected, incomplete=incomplete)
        self.lie_at(path, written)
        notes = []
        if others:
            notes.append(f"its {counted(others, 'other name')} (hard links) keep{'s' * (others == 1)} what was there")
        return "; ".join(notes)

    def changed_since(self, path: Path) -> bool:
        """Whether the session's own file holds something else now."""
        if self.path is None or path.absolute() != self.path.absolute() or self.holds is None:
            return False
        now = content_hash(path)
        return now is not None and now != self.holds

    def release(self) -> None:
        """Let go of the file."""
        if self._held is not None:
            self._held.release()
        self._held, self.elsewhere = None, ""
