"""The command line within the process of a test, on one worker for all of them: a process and a kernel for every
command took a third of the suite. What a process of its own shows (exit, streams, environment) is run in one by
``alone``.
"""

from __future__ import annotations

import atexit
import contextlib
import io
import os
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from lathed_solid.cli import cli, root
from lathed_solid.engine.client import KernelClient

#: the modules that ask for a worker by this name
ASKING = [m for name, m in sys.modules.items() if name.startswith("lathed_solid.cli") and hasattr(m, "worker")]
_own = root.worker


@dataclass(frozen=True)
class Ran:
    """What a command left."""

    returncode: int
    stdout: str
    stderr: str


class OneWorker:
    """Lends one worker again and again; a second at the same time, or one with a time limit, is a worker of its own."""

    def __init__(self) -> None:
        self._client: KernelClient | None = None
        self._lent = False

    def __call__(self) -> contextlib.AbstractContextManager[KernelClient]:
        """As ``root.worker``."""
        return _own() if self._lent or root.time_limit() is not None else self._lend()

    @contextlib.contextmanager
    def _lend(self) -> Iterator[KernelClient]:
        if self._client is None:
            self._client = KernelClient()
            atexit.register(self._client.close)
        self._lent = True
        try:
            yield self._client
        finally:
            self._lent = False


def lend() -> None:
    """Have every command ask for the one worker."""
    one = OneWorker()
    for module in ASKING:
        module.worker = one  # type: ignore[attr-defined]


def run(*args: str | Path) -> Ran:
    """A command, as ``main`` does it."""
    out, err = io.StringIO(), io.StringIO()
    code = 0
    before = sys.argv
    sys.argv = ["lathed-solid", *map(str, args)]
    try:
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            root.main()
    except SystemExit as exc:
        code = int(exc.code or 0)
    finally:
        sys.argv = before
    return Ran(code, out.getvalue(), err.getvalue())


def alone(*args: str | Path, **env: str) -> subprocess.CompletedProcess[str]:
    """A command in a process of its own, without a screen."""
    clean = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "QT_QPA_PLATFORM")}
    return subprocess.run(
        [sys.executable, "-m", "lathed_solid.cli", *map(str, args)],
        capture_output=True, text=True, timeout=120, check=False, env=clean | env,
    )  # fmt: skip


__all__ = ["Ran", "alone", "cli", "lend", "run"]
