"""Sheets read within the process of a test: what a reading process imports took half of the time of every sheet. What a
process itself shows, its limits and a hostile file, is read by running its command.
"""

from __future__ import annotations

import contextlib
import io
import subprocess
from collections.abc import Callable
from pathlib import Path
from types import SimpleNamespace
from typing import Any

from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets import client, line_worker, worker

MAINS: dict[str, Callable[[list[str]], int]] = {
    "lathed_solid.sheets.worker": worker.main, "lathed_solid.sheets.line_worker": line_worker.main,
}  # fmt: skip


def _here(command: list[str], **asked: Any) -> subprocess.CompletedProcess[str]:
    """As ``subprocess.run`` of a reading process."""
    main, path = MAINS.get(command[2]), Path(command[3])
    if main is None or path.suffix.lower() not in (".pdf", ".dxf"):
        return subprocess.run(command, **asked)
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = main(command[3:])
    return subprocess.CompletedProcess(command, code, out.getvalue(), err.getvalue())


def page_with_picture(
    path: Path, out: Path, unit: LengthUnit = "mm", *, page: int = 1, dpi: float = 60
) -> client.SheetPage:
    """A page as the window has it read, with its picture in a folder."""
    picture = out / "p.bmp"
    found = client.page_of(client.answer(client.command(path, page, picture, dpi, unit), path))
    assert picture.read_bytes().startswith(b"BM")
    return found


def read_here() -> None:
    """Have every sheet of lines read here, without limits, which would be those of the tests."""
    client.subprocess = SimpleNamespace(run=_here, TimeoutExpired=subprocess.TimeoutExpired)  # type: ignore[assignment]
    worker.resource = SimpleNamespace(setrlimit=lambda *_: None, RLIMIT_CPU=0, RLIMIT_AS=0)  # type: ignore[assignment]
