"""Failures with files."""

from __future__ import annotations

from pathlib import Path

from lathed_solid.errors import LathedError


class FileError(LathedError, OSError):
    """A file that cannot be read or written; ``path`` is the file."""

    def __init__(self, what: str, path: Path, *, rule: str = "", hint: str = "") -> None:
        self.path = path
        super().__init__(what, where=str(path), rule=rule, hint=hint)
