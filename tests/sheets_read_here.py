"""Sheets read within the process of a test: what a reading process imports took half of the time of every sheet. What
a process shows (its limits, a file that is hostile) is read in one, by ``by_a_process``.
"""

from __future__ import annotations

import contextlib
import io
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from types import SimpleNamespace

from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets import client, line_worker, worker
from lathed_solid.sheets.errors import SheetError

MAINS: dict[str, Callable[[list[str]], int]] = {
    "lathed_solid.sheets.worker": worker.main, "lathed_solid.sheets.line_worker": line_worker.main,
}  # fmt: skip
_by_process = client.answer
_limits = worker.resource


def _here(command: list[str], path: Path, seconds: float = 60.0) -> str:
    """As ``client.answer``."""
    main = MAINS.get(command[2]) if command[0] == sys.executable else None
    if main is None or path.suffix.lower() not in (".pdf", ".dxf"):
        return _by_process(command, path, seconds)
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = main(command[3:])
    if code:
        words = (err.getvalue().strip().splitlines() or ["the reader ended"])[-1]
        raise SheetError("the sheet could not be read", rule=words[:200], received=path.name)
    return out.getvalue()


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
    client.answer = _here
    worker.resource = SimpleNamespace(setrlimit=lambda *_: None, RLIMIT_CPU=0, RLIMIT_AS=0)  # type: ignore[assignment]


@contextlib.contextmanager
def by_a_process() -> Iterator[None]:
    """Sheets are read as the product reads them."""
    before, client.answer = client.answer, _by_process
    worker.resource = _limits
    try:
        yield
    finally:
        client.answer = before
        if before is _here:
            read_here()
