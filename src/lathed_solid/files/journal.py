"""The journal: every committed edit is on the disk before the next one, so a killed window loses nothing.

A journal is a text file of JSON lines in the user's state folder: a head (process, document path), then one
line for each committed value (label, document), flushed to the disk. A clean close removes it. At start,
journals whose process is gone are offered back; a last line cut short by the kill is ignored.
"""

from __future__ import annotations

import contextlib
import json
import os
import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from lathed_solid.files.errors import FileError
from lathed_solid.files.fit_document import fit_of
from lathed_solid.files.migrate import migrate
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document, History
from lathed_solid.record import READING

MAX_JOURNAL = 256 << 20


@dataclass(frozen=True)
class Recovered:
    """What a journal holds: the history of edits and the file it belongs to, if any; of a part, or of a fit."""

    journal: Path
    path: Path | None
    history: History | None
    fits: History[Fit] | None = None

    @property
    def edits(self) -> int:
        """How many edits are in it."""
        history: History | History[Fit] | None = self.history or self.fits
        return len(history.entries) - 1 if history is not None else 0


class Journal:
    """Appends committed values to its own file. Every method may raise FileError."""

    def __init__(self, folder: Path) -> None:
        self.file = folder / f"{time.strftime('%Y%m%d-%H%M%S')}-{uuid.uuid4().hex[:8]}.journal"
        self._handle: Any = None
        self._sources: set[tuple[str, str]] = set()

    def start(self, history: History | History[Fit], path: Path | None) -> None:
        """Begin anew with the present value (at opening, and after each save)."""
        self.discard()
        try:
            self.file.parent.mkdir(parents=True, exist_ok=True)
            self._handle = self.file.open("w", encoding="utf-8")
        except OSError as exc:
            raise self._error(exc) from None
        self._sources = set()
        self._line({"pid": os.getpid(), "started": _process_start(os.getpid()), "path": str(path) if path else None})
        self.append("Start", history.document)

    def append(self, label: str, document: Document | Fit) -> None:
        """Record one committed value. The parts of a fit are written once each, however often it is edited."""
        if self._handle is None:
            return
        if isinstance(document, Document):
            self._line({"label": label, "document": document.model_dump(mode="json")})
            return
        for source in document.parts:
            if (source.name, source.sha256) not in self._sources:
                self._sources.add((source.name, source.sha256))
                self._line({"source": source.model_dump(mode="json")})
        fit = document.model_dump(mode="json", exclude={"parts"})
        self._line({"label": label, "fit": fit, "parts": [[p.name, p.sha256] for p in document.parts]})

    def _line(self, record: dict[str, Any]) -> None:
        try:
            self._handle.write(json.dumps(record, ensure_ascii=False) + "\n")
            self._handle.flush()
            os.fsync(self._handle.fileno())
        except OSError as exc:
            raise self._error(exc) from None

    def _error(self, exc: OSError) -> FileError:
        return FileError(
            "edits cannot be recorded for recovery",
            self.file,
            rule=exc.strerror or "",
            hint="save the part now",
        )

    def discard(self) -> None:
        """Close and remove the journal (a clean end)."""
        if self._handle is not None:
            with contextlib.suppress(OSError):
                self._handle.close()
            self._handle = None
        with contextlib.suppress(OSError):
            self.file.unlink()


def recoverable(folder: Path) -> Iterator[Recovered]:
    """Journals left by processes that are gone, newest first. Unreadable ones are skipped, not removed."""
    for file in sorted(folder.glob("*.journal"), reverse=True):
        found = _read(file)
        if found is not None:
            yield found


def _read(file: Path) -> Recovered | None:
    try:
        if file.stat().st_size > MAX_JOURNAL:
            return None
        lines = file.read_text("utf-8", errors="replace").splitlines()
        head = json.loads(lines[0])
        if _alive(int(head["pid"]), head.get("started")):
            return None
    except (OSError, ValueError, LookupError, TypeError):
        return None
    history: History | None = None
    fits: History[Fit] | None = None
    sources: dict[tuple[str, str], Any] = {}
    for line in lines[1:]:
        try:
            record = json.loads(line)
            label = str(record.get("label", "Edit"))
            if "source" in record:
                source = record["source"]
                sources[source["name"], source["sha256"]] = source
            elif "fit" in record:
                parts = [sources[name, sha] for name, sha in record["parts"]]
                fit = fit_of({**record["fit"], "parts": parts})
                fits = History.start(fit, saved=True) if fits is None else fits.commit(fit, label)
            else:
                document = Document.model_validate(migrate(record["document"]), context=READING)
                history = History.start(document, saved=True) if history is None else history.commit(document, label)
        except (ValueError, LookupError, TypeError):
            break  # the line that the kill cut short
    if history is None and fits is None:
        return None
    return Recovered(file, Path(head["path"]) if head.get("path") else None, history, fits)


def _alive(pid: int, started: str | None) -> bool:
    return _process_start(pid) == started and started is not None


def _process_start(pid: int) -> str | None:
    """The start time of a process in clock ticks, so that a re-used number is not taken for it."""
    try:
        stat = Path(f"/proc/{pid}/stat").read_text("utf-8", errors="replace")
        return stat.rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return None
