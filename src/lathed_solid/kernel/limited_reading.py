"""Reading a foreign file with a bound on memory and without leaving anything behind.

The kernel's readers take a path: the bytes lie in a file without a name (memfd_create(2)), which ends with its last
descriptor, also when the process is killed. While they are read, the address space may grow by so much and no more
(RLIMIT_AS of setrlimit(2)); what asks for more fails by itself, and not the machine.
"""

from __future__ import annotations

import os
import resource
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

#: how much reading may take beyond what the process has, bytes; a STEP file takes some 13 times its size
ROOM = 1 << 30


@contextmanager
def nameless_file(data: bytes) -> Iterator[str]:
    """A path to these bytes, for as long as the block lasts."""
    handle = os.memfd_create("body")
    try:
        left = memoryview(data)
        while left:
            left = left[os.write(handle, left) :]
        yield f"/proc/self/fd/{handle}"
    finally:
        os.close(handle)


@contextmanager
def within_memory(room: int = ROOM) -> Iterator[None]:
    """Let the address space grow by ``room`` bytes at most. What needs more raises MemoryError, or ends the process."""
    soft, hard = resource.getrlimit(resource.RLIMIT_AS)
    pages = int(Path("/proc/self/statm").read_text("ascii").split()[0])
    least = pages * os.sysconf("SC_PAGE_SIZE") + room
    if soft != resource.RLIM_INFINITY:
        least = min(least, soft)
    resource.setrlimit(resource.RLIMIT_AS, (least, hard))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_AS, (soft, hard))
