"""Journals that wait: what windows that were killed had not saved, and the history of edits in each.

A line that is damaged loses its own edit and no other's, unless both copies of a base are.
A journal is only removed by who takes it over or throws it away; one that cannot be read is left where it is.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from lathed_solid.files.fit_document import fit_of
from lathed_solid.files.journal.changes import applied
from lathed_solid.files.journal.lines import records_in
from lathed_solid.files.journal.writing import ENDING, MAX_JOURNAL, NEW, process_start
from lathed_solid.files.migrate import migrate
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document, History
from lathed_solid.part.history import MAX_ENTRIES
from lathed_solid.quantity.formatting import counted
from lathed_solid.record import READING

log = logging.getLogger(__name__)

#: bytes of JSON of the values that come back with their undo; at least the last one does
MAX_HISTORY = 8 << 20


@dataclass(frozen=True)
class Recovered:
    """What a journal holds: the history of edits and the file it belongs to, if any; of a part, or of a fit."""

    journal: Path
    path: Path | None
    history: History | None
    fits: History[Fit] | None = None
    #: SHA-256 of the file when it was read or written last
    holds: str | None = None
    #: edits that were read, also those that are beyond the undo
    edits: int = 0
    #: lines that were damaged
    damaged: int = 0

    @property
    def words(self) -> str:
        """What came back, in a line."""
        what = counted(self.edits, "unsaved edit")
        if self.damaged:
            return f"{what} recovered; {counted(self.damaged, 'line')} of the journal could not be read"
        return f"{what} recovered: nothing is lost"


@dataclass(frozen=True)
class Waiting:
    """A journal whose process is gone: what it is of, how much is in it, when it was last written (s since 1970)."""

    journal: Path
    path: Path | None
    kind: str
    name: str
    edits: int
    damaged: int
    when: float

    def recovered(self) -> Recovered | None:
        """All that is in it; None when no value in it can be read any more."""
        found = _read(self.journal)
        return None if found is None else found.recovered(self.journal)

    def remove(self) -> None:
        """Throw it away. Raises nothing: one that cannot be removed waits again."""
        with contextlib.suppress(OSError):
            self.journal.unlink()


def waiting(folder: Path) -> list[Waiting]:
    """Journals with edits that were left by processes that are gone, the newest work first.

    One that was taken over into another that is whole is the same work, and removed; so is one without an edit.
    """
    for file in folder.glob(f"*{NEW}"):
        _settle(file)
    found: dict[str, Waiting] = {}
    doubles: set[str] = set()
    for file in folder.glob(f"*{ENDING}"):
        try:
            read = _read(file)
            if read is None or read.alive:
                continue
            doubles.add(str(read.head.get("instead", "")))
            if (w := read.waiting(file)) is not None:
                found[file.name] = w
        except Exception as exc:  # noqa: BLE001 - one bad file must not keep the others from being offered
            log.warning("%s: %s: %s", file, type(exc).__name__, exc)
    for name, w in list(found.items()):
        if name in doubles or not (w.edits or w.damaged):
            w.remove()
            del found[name]
    return sorted(found.values(), key=lambda w: w.when, reverse=True)


def _settle(new: Path) -> None:
    """A journal that a killed window had not finished to begin: what it was to replace is still there."""
    read = _read(new)
    if read is None or not read.alive:
        with contextlib.suppress(OSError):
            new.unlink()


def recoverable(folder: Path) -> Iterator[Recovered]:
    """What all waiting journals hold, the newest work first."""
    for w in waiting(folder):
        found = w.recovered()
        if found is not None:
            yield found


@dataclass(frozen=True)
class _Read:
    """A journal's head, its other records with their lengths, and how many lines are damaged."""

    head: dict[str, Any]
    records: list[tuple[dict[str, Any], int]]
    damaged: int

    @property
    def alive(self) -> bool:
        return _alive(int(self.head["pid"]), self.head.get("started"))

    @property
    def path(self) -> Path | None:
        return Path(self.head["path"]) if self.head.get("path") else None

    @property
    def edits(self) -> int:
        """Edits that it tells of, also those behind its first value."""
        return max(0, int(self.head.get("behind", 0)) + len(self.records) - 1)

    def newest_first(self) -> Iterator[tuple[str, str, Any, int]]:
        """Kind, label, JSON and length of every value that can be told."""
        bases = {r["base"]: (str(r["kind"]), r["value"], size) for r, size in self.records if "base" in r}
        for record, size in reversed(self.records):
            label = str(record.get("label", "edit"))
            with contextlib.suppress(ValueError, LookupError, TypeError, AttributeError):
                if "base" in record:
                    yield str(record["kind"]), label, record["value"], size
                else:
                    kind, base, whole = bases[record["of"]]
                    yield kind, label, applied(base, record["change"]), whole

    def waiting(self, file: Path) -> Waiting | None:
        newest = next(self.newest_first(), None)
        if newest is None:
            return None
        name = str(newest[2].get("name") or "without a name") if isinstance(newest[2], dict) else "without a name"
        return Waiting(file, self.path, newest[0], name, self.edits, self.damaged, file.stat().st_mtime)

    def recovered(self, file: Path) -> Recovered | None:
        kept: list[tuple[str, Document | Fit]] = []
        room = MAX_HISTORY
        for kind, label, value, size in self.newest_first():
            if kept and (room < size or len(kept) >= MAX_ENTRIES):
                break
            room -= size
            with contextlib.suppress(ValueError, RecursionError):
                made = _value(kind, value)
                if not kept or type(made) is type(kept[-1][1]):
                    kept.append((label, made))
        if not kept:
            return None
        kept.reverse()
        history: Any = History.start(kept[0][1], saved=len(kept) == self.edits + 1 and not self.damaged)
        for label, made in kept[1:]:
            history = history.commit(made, label)
        part, fit = (None, history) if isinstance(kept[0][1], Fit) else (history, None)
        return Recovered(file, self.path, part, fit, self.head.get("holds"), self.edits, self.damaged)


def _value(kind: str, value: Any) -> Document | Fit:
    """Raises ValueError."""
    if kind == "fit":
        return fit_of(value)
    return Document.model_validate(migrate(value), context=READING)


def _read(file: Path) -> _Read | None:
    """What a journal holds; None for a file that is none, or cannot be read.

    One whose head is damaged is taken for that of a process that is gone.
    """
    try:
        if file.stat().st_size > 4 * MAX_JOURNAL:
            return None
        lines = list(records_in(file.read_bytes()))
    except OSError:
        return None
    records = [(r, n) for r, n in lines if r is not None]
    head = next((r for r, _ in records if "pid" in r), {"pid": 0})
    bases: set[object] = set()
    values = []
    for record, size in records:
        base = record.get("base")
        if record is not head and (base is None or base not in bases):
            values.append((record, size))
        bases.add(base)
    return _Read(head, values, len(lines) - len(records)) if records else None


def _alive(pid: int, started: str | None) -> bool:
    return process_start(pid) == started and started is not None
