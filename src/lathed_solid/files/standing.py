"""How a file stands: what it holds, its other names, and whether another window has it open.

A window that opens a file takes an advisory lock on a small file in the state folder, named by the real path; the
system lets go of it when the process ends, however that happens. Nothing is laid beside the user's own files.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import json
import os
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from lathed_solid.store import state_folder

#: how long a save waits for another window's save of the same file, s
PATIENCE = 5.0


def content_hash(path: Path) -> str | None:
    """SHA-256 of what a file holds; None when it is not there or cannot be read."""
    try:
        with path.open("rb") as data:
            return hashlib.file_digest(data, "sha256").hexdigest()
    except (OSError, ValueError):
        return None


def other_names(path: Path) -> int:
    """How many further names (hard links) a file has."""
    try:
        return max(0, path.stat().st_nlink - 1)
    except (OSError, ValueError):
        return 0


def free_name(path: Path) -> Path:
    """A name beside ``path`` that nothing has: ``spindle (2).lathed``."""
    for k in range(2, 10_000):
        beside = path.with_name(f"{path.stem[:200]} ({k}){path.suffix}")
        if not beside.exists():
            return beside
    return path.with_name(f"{path.stem[:200]} {time.time_ns()}{path.suffix}")


@dataclass
class Hold:
    """A file that this window holds open; ``release`` lets go."""

    path: Path
    _handle: int

    def release(self) -> None:
        """Let go of it."""
        with contextlib.suppress(OSError):
            os.close(self._handle)


def hold(path: Path) -> Hold | str:
    """Hold a file open; else who has it, in words (empty when that cannot be told and need not be)."""
    try:
        handle = _lock_file(path, "open")
    except OSError:
        return ""
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        who = _holder(handle)
        os.close(handle)
        return who
    with contextlib.suppress(OSError):
        os.ftruncate(handle, 0)
        os.pwrite(handle, json.dumps({"pid": os.getpid(), "since": time.time()}).encode(), 0)
    return Hold(path, handle)


@contextlib.contextmanager
def saving(path: Path) -> Iterator[None]:
    """Keep other windows from saving the same file meanwhile; after ``PATIENCE`` it goes on without."""
    handle = None
    with contextlib.suppress(OSError):
        handle = _lock_file(path, "saving")
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                time.sleep(0.02)
    try:
        yield
    finally:
        if handle is not None:
            os.close(handle)


def _lock_file(path: Path, what: str) -> int:
    folder = state_folder() / "locks"
    folder.mkdir(parents=True, exist_ok=True)
    name = hashlib.sha256(os.fsencode(os.path.realpath(path))).hexdigest()[:32]
    return os.open(folder / f"{name}.{what}", os.O_CREAT | os.O_RDWR | os.O_CLOEXEC, 0o600)


def _holder(handle: int) -> str:
    try:
        found = json.loads(os.pread(handle, 4096, 0))
        since = time.strftime("%H:%M", time.localtime(float(found["since"])))
        return f"another window (process {int(found['pid'])}) since {since}"
    except (OSError, ValueError, LookupError, TypeError):
        return "another window"
