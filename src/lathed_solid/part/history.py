"""Undo as a list of document values: an edit appends, undo and redo move along the list."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Generic

from typing_extensions import TypeVar

from lathed_solid.part.document import Document

MAX_ENTRIES = 500
#: a part's document, or another value that is edited alike
V = TypeVar("V", default=Document)


@dataclass(frozen=True)
class Entry(Generic[V]):
    """A document and the words for the edit that led to it."""

    label: str
    document: V


@dataclass(frozen=True)
class History(Generic[V]):
    """Immutable: every method gives a new history. ``saved`` is the entry last written to a file."""

    entries: tuple[Entry[V], ...]
    index: int = 0
    saved: int | None = None

    @classmethod
    def start(cls, document: V, *, saved: bool = False) -> History[V]:
        """A history of one entry; ``saved`` when it is what the file holds."""
        return cls((Entry("Start", document),), 0, 0 if saved else None)

    @property
    def document(self) -> V:
        """The present value."""
        return self.entries[self.index].document

    @property
    def clean(self) -> bool:
        """True when the present document is the one last saved."""
        return self.saved == self.index

    @property
    def undo_label(self) -> str | None:
        """The edit that undo takes back; None at the start."""
        return self.entries[self.index].label if self.index > 0 else None

    @property
    def redo_label(self) -> str | None:
        """The edit that redo makes again; None at the end."""
        return self.entries[self.index + 1].label if self.index + 1 < len(self.entries) else None

    def commit(self, document: V, label: str) -> History[V]:
        """Append an edit; entries after the present one are dropped. An edit without change adds nothing."""
        if document == self.document:
            return self
        kept = (*self.entries[: self.index + 1], Entry(label, document))
        saved = self.saved if self.saved is not None and self.saved <= self.index else None
        over = max(0, len(kept) - MAX_ENTRIES)
        if over:
            kept = kept[over:]
            saved = saved - over if saved is not None and saved >= over else None
        return History(kept, len(kept) - 1, saved)

    def undo(self) -> History[V]:
        """One edit back; at the start nothing changes."""
        return replace(self, index=max(0, self.index - 1))

    def redo(self) -> History[V]:
        """One edit forth; at the end nothing changes."""
        return replace(self, index=min(len(self.entries) - 1, self.index + 1))

    def mark_saved(self) -> History[V]:
        """The present value is what the file holds."""
        return replace(self, saved=self.index)
