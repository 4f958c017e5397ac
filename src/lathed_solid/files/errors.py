"""Failures with files."""

from __future__ import annotations

from pathlib import Path

from lathed_solid.errors import LathedError


class FileError(LathedError, OSError):
    """A file that cannot be read or written; ``path`` is the file."""

    def __init__(self, what: str, path: Path, *, rule: str = "", hint: str = "") -> None:
        self.path = path
        super().__init__(what, where=str(path), rule=rule, hint=hint)


class WriteProtected(FileError):
    """The file is marked as not to be written to."""


class ChangedSince(FileError):
    """The file holds something else than when it was read or last written here."""


class MissingAttachments(FileError):
    """Bytes that the document refers to are not here; ``names`` are theirs."""

    def __init__(self, path: Path, names: tuple[str, ...]) -> None:
        self.names = names
        super().__init__(
            f"{len(names)} of its sheets, pictures or bodies {'is' if len(names) == 1 else 'are'} lost", path,
            rule="they would be missing from the saved file", hint="lay them in again, or save without them",
        )  # fmt: skip
