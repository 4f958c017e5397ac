"""The store of pictures, sheets and bodies is kept below a size: what nothing refers to goes first, oldest first.

An archive holds its own copies. What only the store holds belongs to documents that are open or wait in a journal, and
to bare files: their names stand in these as 64 hexadecimal digits, and are kept.
"""

from __future__ import annotations

import contextlib
import re
from collections.abc import Iterable
from pathlib import Path

from lathed_solid.store import state_folder

MAX_STORE = 1 << 30
MAX_READ = 64 << 20
_NAME = re.compile(rb"(?<![0-9a-f])[0-9a-f]{64}(?![0-9a-f])")


def named_in(files: Iterable[Path]) -> set[str]:
    """Names of stored bytes that stand in these files; those that cannot be read name none."""
    found: set[str] = set()
    for file in files:
        with contextlib.suppress(OSError):
            if file.stat().st_size <= MAX_READ:
                found |= {name.decode() for name in _NAME.findall(file.read_bytes())}
    return found


def clean_store(used: set[str], most: int = MAX_STORE) -> list[str]:
    """Remove what is not ``used``, the longest unread first, until the store is below ``most`` bytes; the names."""
    stands = []
    with contextlib.suppress(OSError):
        for file in (state_folder() / "store").iterdir():
            with contextlib.suppress(OSError):
                status = file.stat()
                stands.append((max(status.st_atime, status.st_mtime), status.st_size, file))
    total = sum(size for _, size, _ in stands)
    removed = []
    for _, size, file in sorted(stands, key=lambda s: s[0]):
        if total <= most:
            break
        if file.name not in used:
            with contextlib.suppress(OSError):
                file.unlink()
                total -= size
                removed.append(file.name)
    return removed
