"""The process that has the kernel loaded and bears workers: each is a copy of it, there at once and sharing its memory.

Started as ``python -m lathed_solid.engine.nursery FD``. It is asked through FD, by four bytes of length and that much
JSON: ``{"bear": number, "environ": {...}}``, with two descriptors beside the length, the worker's pipe and its error
log; or ``{"end": number}``. It ends when FD closes, and is told by the system to end when its parent dies; its workers
end with it. Nothing but loading and forking is done here, so that what is copied is as it was loaded.
"""

from __future__ import annotations

import gc
import json
import os
import signal
import socket
import struct
import sys
from contextlib import suppress

from lathed_solid.engine.crew import end_with_parent

#: below the window, so that parallel booleans on all cores do not starve it, but not below all else: beside two busy
#: processes on two cores a start and a build take 15 s so, 242 s at 19, and the window stalls no longer (measured)
NICENESS = 5
LENGTH = struct.Struct("=I")


def main(argv: list[str]) -> int:
    """Bear and end workers until the inherited descriptor ``argv[1]`` closes; in a worker, serve its pipe."""
    _end_with(os.getppid())
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(NICENESS)
    asked = socket.socket(fileno=int(argv[1]))
    sys.setdlopenflags(os.RTLD_LAZY)  # names of the kernel are looked up when they are needed: a twelfth of its loading
    gc.disable()  # nothing of what is loaded can go
    from lathed_solid.engine import worker

    gc.collect()
    gc.freeze()  # what was loaded is not touched again: copies go on sharing it
    gc.enable()
    born: dict[int, int] = {}
    while True:
        header, inherited, _, _ = socket.recv_fds(asked, LENGTH.size, 2)
        if len(header) < LENGTH.size:
            return 0
        wish = json.loads(_all_of(asked, LENGTH.unpack(header)[0]))
        if "end" in wish:
            _end(born.pop(wish["end"], 0))
            continue
        pipe, errors = inherited
        mine = os.getpid()
        pid = _forked()
        if pid == 0:
            asked.close()
            _begin(errors, wish["environ"], mine)
            return worker.main(pipe)
        if pid > 0:
            born[wish["bear"]] = pid
        os.close(pipe)
        os.close(errors)


def _forked() -> int:
    """As ``os.fork``; below zero where there is no room for another process: who asked sees its pipe close."""
    try:
        return os.fork()
    except OSError:
        return -1


def _all_of(asked: socket.socket, size: int) -> bytes:
    found = b""
    while len(found) < size and (more := asked.recv(size - len(found))):
        found += more
    return found


def _begin(errors: int, environ: dict[str, str], parent: int) -> None:
    """In the copy: ends with its parent, has its own error log and the environment of who asked."""
    _end_with(parent)
    os.dup2(errors, 1)
    os.dup2(errors, 2)
    os.close(errors)
    os.environ.clear()
    os.environ.update(environ)


def _end_with(parent: int) -> None:
    """End when the parent dies; now, where it died before that was asked for."""
    end_with_parent()
    if os.getppid() != parent:
        sys.exit(1)


def _end(pid: int) -> None:
    """A worker's end is waited for here alone: its number is nobody else's until then."""
    if pid:
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
        os.waitpid(pid, 0)


if __name__ == "__main__":
    sys.exit(main(sys.argv))
