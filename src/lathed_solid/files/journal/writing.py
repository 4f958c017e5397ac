"""Writing the journal: every committed edit is in its file before the next one, so a killed window loses nothing.

A journal is a file of lines (``lines``) in the user's state folder: a head (process, document's file), then values
whole (*bases*) and, for each committed value, what differs from the last base (``changes``), so that an edit of a large
part costs what it changes, and no line depends on any other than its base, which stands there twice. A base follows
when the differences have grown to a good part of it. A clean close removes the file.

An edit is in the file when ``append`` returns, and so survives the end of the process, unless the part is large and
some hundred pieces of it changed: that, and flushing to the disk against a loss of power, is done by a thread right
after.
"""

from __future__ import annotations

import contextlib
import os
import queue
import threading
import time
import uuid
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from lathed_solid.files.errors import FileError
from lathed_solid.files.journal.changes import Change, TooMuch, changed, plain
from lathed_solid.files.journal.lines import line_of
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document, History
from lathed_solid.part.history import Entry

VERSION = 2
ENDING = ".journal"
#: of one that is not whole yet
NEW = ".new"
#: pieces of a value that are written at once; some 2 ms
PIECES = 300
#: bytes of a difference beyond which a base is written instead
MAX_CHANGE = 32 << 10
#: bytes of a base up to which it is written at once; some 10 ms, now and then
SMALL = 128 << 10
#: how long an edit waits for a large one before it to be written, s
PATIENCE = 0.25
#: bytes of a journal after which it is begun anew
MAX_JOURNAL = 64 << 20

Value = Document | Fit
_Job = tuple[str, Value] | None


class Journal:
    """Appends committed values to its own file. Every method may raise FileError."""

    def __init__(self, folder: Path) -> None:
        self.file = folder / f"{time.strftime('%Y%m%d-%H%M%S')}-{uuid.uuid4().hex[:8]}{ENDING}"
        #: why the thread could not write; None while it can
        self.trouble: FileError | None = None
        self.size = 0
        self._handle: int | None = None
        self._base: Value | None = None
        self._last: Value | None = None
        self._bases, self._base_size = 0, 0
        self._jobs: queue.SimpleQueue[_Job] = queue.SimpleQueue()
        self._pending = 0
        self._unsynced = False
        self._lock = threading.RLock()
        self._thread: threading.Thread | None = None

    # the journal as a whole --------------------------------------------------------------------
    def start(
        self,
        history: History[Document] | History[Fit],
        path: Path | None,
        *,
        holds: str | None = None,
        whole: bool = False,
        instead: str = "",
    ) -> None:
        """Begin anew, beside what is there, which is replaced once the new one is whole: with the present value (at
        opening, and after each save), or with the ``whole`` history. ``holds``: SHA-256 of the document's file as it
        was read or written last. ``instead``: the name of the journal of a killed window that this one takes over.
        """
        self.flush()
        new = self.file.with_suffix(NEW)
        entries = history.entries[: history.index + 1] if whole else history.entries[history.index : history.index + 1]
        head = {"journal": VERSION, "pid": os.getpid(), "started": process_start(os.getpid()), "instead": instead}
        head["holds"] = holds
        head["path"] = str(path) if path else None
        with self._lock:
            try:
                self.file.parent.mkdir(parents=True, exist_ok=True)
                if not self._begin(new, head, entries):  # too long: the present value, and how much lies behind it
                    self._begin(new, {**head, "behind": len(entries) - 1}, entries[-1:])
                assert self._handle is not None
                os.fsync(self._handle)
                new.replace(self.file)
            except OSError as exc:
                self._close()
                with contextlib.suppress(OSError):
                    new.unlink()
                raise self._error(exc) from None

    def _begin(self, new: Path, head: dict[str, Any], entries: Sequence[Entry[Any]]) -> bool:
        """Write a head and values into a new file; False when several of them are too much. Raises OSError."""
        self._close()
        self._handle = os.open(new, os.O_CREAT | os.O_TRUNC | os.O_WRONLY | os.O_CLOEXEC, 0o600)
        self.size, self._base, self._last, self._bases, self.trouble = 0, None, None, 0, None
        self._write(line_of(head))
        for entry in entries:
            if self.size > MAX_JOURNAL // 2:
                return False
            self._record(entry.label, entry.document, at_once=False)
        return True

    def append(self, label: str, value: Value) -> None:
        """Record one committed value."""
        if self._handle is None:
            return
        self.flush(PATIENCE)
        with self._lock:
            self._check()
            if not self._pending:
                try:
                    self._record(label, value, at_once=True)
                    self._unsynced = True
                    self._jobs.put(None)
                    self._run()
                    return
                except TooMuch:
                    pass
                except OSError as exc:
                    raise self._error(exc) from None
            self._pending += 1
            self._jobs.put((label, value))
            self._run()

    def discard(self) -> None:
        """Close and remove the journal (a clean end)."""
        with self._lock:
            while not self._jobs.empty():
                self._jobs.get()
            self._pending = 0
            self._close()
            for file in (self.file, self.file.with_suffix(NEW)):
                with contextlib.suppress(OSError):
                    file.unlink()

    def flush(self, timeout: float = 30.0) -> None:
        """Wait until the thread has written what is left (s)."""
        end = time.monotonic() + timeout
        while self._pending and time.monotonic() < end:
            time.sleep(0.002)

    @property
    def gone(self) -> bool:
        """Whether somebody took the file away, so that what is written into it is seen by no one."""
        if self._handle is None:
            return False
        try:
            return os.fstat(self._handle).st_nlink == 0
        except OSError:
            return True

    # lines -------------------------------------------------------------------------------------
    def _record(self, label: str, value: Value, *, at_once: bool) -> None:
        """Write what differs from the base, or a base. Raises TooMuch when that is more than can be done ``at_once``,
        OSError.

        Many small edits lead away from their base, and get a new one. One that moves everything would get one each
        time, and is written as what differs as long as that is the shorter.
        """
        base = self._base
        if base is None or type(base) is not type(value):
            self._write_base(label, value)
            return
        try:
            line = self._change(label, changed(base, value, pieces=PIECES))
            little = len(line) <= MAX_CHANGE
        except TooMuch:
            little = False
        if not little:
            if at_once and self._base_size > SMALL:
                raise TooMuch
            if not _differs_much(self._last, value):
                self._write_base(label, value)
                return
            line = self._change(label, changed(base, value))
            if len(line) > self._base_size // 2:
                self._write_base(label, value)
                return
        self._write(line)
        self._last = value

    def _change(self, label: str, change: Change | None) -> bytes:
        return line_of({"of": self._bases, "label": label, "change": change or {}})

    def _write_base(self, label: str, value: Value) -> None:
        kind = "fit" if isinstance(value, Fit) else "part"
        line = line_of({"base": self._bases + 1, "kind": kind, "label": label, "value": plain(value)})
        self._write(line + line)
        self._base, self._last, self._bases, self._base_size = value, value, self._bases + 1, len(line)

    def _write(self, line: bytes) -> None:
        assert self._handle is not None
        left = memoryview(line)
        while left:
            left = left[os.write(self._handle, left) :]
        self.size += len(line)

    def _check(self) -> None:
        if self.trouble is not None:
            raise self.trouble
        if self.gone:
            raise FileError("edits cannot be recorded for recovery", self.file, rule="the journal was taken away")

    def _error(self, exc: OSError) -> FileError:
        rule = exc.strerror or str(exc)
        return FileError("edits cannot be recorded for recovery", self.file, rule=rule, hint="save now")

    def _close(self) -> None:
        if self._handle is not None:
            with contextlib.suppress(OSError):
                os.close(self._handle)
            self._handle = None

    # the thread --------------------------------------------------------------------------------
    def _run(self) -> None:
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._work, name="journal", daemon=True)
            self._thread.start()

    def _work(self) -> None:
        """Write what was large, and flush to the disk; ends when there is nothing more for a while."""
        while True:
            try:
                job = self._jobs.get(timeout=5)
            except queue.Empty:
                with self._lock:
                    if self._jobs.empty():
                        self._thread = None
                        return
                continue
            try:
                self._do(job)
            except OSError as exc:
                self.trouble = self._error(exc)

    def _do(self, job: _Job) -> None:
        if job is None:
            handle = self._handle
            if self._unsynced and handle is not None:
                self._unsynced = False
                try:
                    os.fsync(handle)
                except OSError:
                    if handle == self._handle:  # else it was closed while a new journal was begun
                        raise
            return
        try:
            if self._handle is not None:
                self._record(*job, at_once=False)
                os.fsync(self._handle)
        finally:
            self._pending = max(0, self._pending - 1)


def _differs_much(old: Value | None, new: Value) -> bool:
    """Whether one edit changed more than can be written at once."""
    try:
        changed(old, new, pieces=PIECES)
    except TooMuch:
        return True
    return False


def process_start(pid: int) -> str | None:
    """The start time of a process in clock ticks, so that a re-used number is not taken for it."""
    try:
        stat = Path(f"/proc/{pid}/stat").read_text("utf-8", errors="replace")
        return stat.rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return None
