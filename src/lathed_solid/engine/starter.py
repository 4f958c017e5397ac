"""Starts workers, by way of one nursery that lives as long as this process does.

A process that has asked to end with its parent ends with the *thread* that started it (prctl(2), PR_SET_PDEATHSIG),
and the threads that do a window's work beside it come and go: the nursery is started by a thread of its own.
"""

from __future__ import annotations

import contextlib
import json
import os
import socket
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from pathlib import Path

from lathed_solid.engine.nursery import LENGTH


class _Nursery:
    """The process, and the socket by which it is asked. Raises OSError where it cannot be started."""

    def __init__(self, errors: int) -> None:
        ours, theirs = socket.socketpair()
        try:
            with theirs:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", "lathed_solid.engine.nursery", str(theirs.fileno())],
                    pass_fds=[theirs.fileno()],
                    stdin=subprocess.DEVNULL,
                    stdout=errors,
                    stderr=errors,
                    env={**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)},
                )
        except OSError:
            ours.close()
            raise
        self._asked = ours

    @property
    def lives(self) -> bool:
        """Whether it can be asked."""
        return self._process.poll() is None

    def ask(self, wish: dict[str, object], pipes: list[int]) -> None:
        """Raises OSError when nobody is there."""
        told = json.dumps(wish).encode()
        socket.send_fds(self._asked, [LENGTH.pack(len(told))], pipes)
        self._asked.sendall(told)

    def close(self) -> None:
        self._process.kill()
        self._process.wait()
        self._asked.close()


class Starter:
    """``Starter.here()`` is that of this process."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._thread = ThreadPoolExecutor(1, "starter")
        self._nursery: _Nursery | None = None
        self._number = 0

    @staticmethod
    @cache
    def here() -> Starter:
        """One for each process."""
        return Starter()

    def prepare(self) -> None:
        """Have the kernel loaded already, beside whatever is done before a worker is asked for. Where no process can be
        started nothing is said: who asks for a worker is told.
        """
        with self._lock, Path(os.devnull).open("ab") as errors, contextlib.suppress(OSError):
            self._living(errors.fileno())

    def bear(self, pipe: int, errors: int) -> int:
        """Have a worker born that serves ``pipe``; the number by which it is ended. One that cannot be born is one that
        is gone: its pipe closes. Raises OSError when no process can be started.
        """
        with self._lock:
            self._number += 1
            wish: dict[str, object] = {"bear": self._number, "environ": dict(os.environ)}
            for _ in range(2):
                try:
                    self._living(errors).ask(wish, [pipe, errors])
                    break
                except ConnectionError:  # it died just now
                    self._close()
            return self._number

    def end(self, number: int) -> None:
        """End a worker; nothing to do where it is gone with its nursery."""
        with self._lock, contextlib.suppress(OSError):
            if self._nursery is not None and self._nursery.lives:
                self._nursery.ask({"end": number}, [])

    def close(self) -> None:
        """End the nursery, and with it all that it has borne."""
        with self._lock:
            self._close()

    def _close(self) -> None:
        if self._nursery is not None:
            self._nursery.close()
            self._nursery = None

    def _living(self, errors: int) -> _Nursery:
        if self._nursery is not None and not self._nursery.lives:
            self._close()
        if self._nursery is None:
            try:
                self._nursery = self._thread.submit(_Nursery, errors).result()
            except RuntimeError as exc:  # this process is ending
                raise OSError(0, str(exc)) from None
        return self._nursery
