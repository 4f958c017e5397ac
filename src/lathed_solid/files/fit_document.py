"""Fits on disk: ``.lathed`` archives of ``fit.json`` with what its parts refer to, and bare ``fit.json``.

Parts are kept inside; beside each stands where its file lies, from the fit's own folder where it can be told so. A part
whose file is gone loses nothing; one whose file has changed is told, and taken over only when asked for.
"""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from lathed_solid.files import attachments
from lathed_solid.files.document import read_document, records_of, valid, write_archive, write_text
from lathed_solid.files.errors import FileError
from lathed_solid.files.migrate import NewerVersion, migrate
from lathed_solid.fit.document import SCHEMA, Fit
from lathed_solid.fit.edits import value_hash
from lathed_solid.part import Document
from lathed_solid.record import READING

MEMBER = "fit.json"


@dataclass(frozen=True)
class ChangedPart:
    """A part whose file is not what was read: its ``document`` now, or why it cannot be read."""

    part: str
    path: Path
    document: Document | None
    trouble: str = ""

    @property
    def words(self) -> str:
        """In a line."""
        return f"{self.part}: {self.trouble or 'its file has changed'}"


def read_fit(path: Path) -> Fit:
    """The fit in ``path``. Raises FileError saying what is wrong with the file."""
    records = records_of(path, MEMBER, "fit")
    return valid(path, lambda: fit_of(records), "fit")


def fit_of(records: dict[str, Any]) -> Fit:
    """The fit that the records of a file hold. Raises ValueError."""
    return Fit.model_validate(_migrated(records), context=READING)


def is_fit(path: Path) -> bool:
    """Whether a file is a fit, as far as its beginning tells; False for what cannot be read."""
    try:
        return "fit_version" in records_of(path, MEMBER, "fit")
    except FileError:
        return False


def _migrated(records: dict[str, Any]) -> dict[str, Any]:
    version = records.get("fit_version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise ValueError("it has no fit_version, so it is no fit")
    if version > SCHEMA:
        raise NewerVersion(f"it is of version {version}, this program reads up to {SCHEMA}")
    parts = records.get("parts", [])
    if not isinstance(parts, list):
        raise ValueError("its parts are no list")
    for part in parts:
        if isinstance(part, dict) and isinstance(part.get("document"), dict):
            part["document"] = migrate(part["document"])
    return records


def fit_json(fit: Fit) -> str:
    """The fit as JSON, indented, as ``fit.json`` holds it."""
    return json.dumps(fit.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def write_fit(
    path: Path, fit: Fit, thumbnail: bytes | None = None, *, protected: bool = False, incomplete: bool = False
) -> str:
    """Write ``path`` atomically: a bare fit for ``.json``, else an archive; the SHA-256 of what was written.

    ``protected`` and ``incomplete`` as for ``write_document``. Raises FileError.
    """
    here = path.resolve().parent
    parts = tuple(p.model_copy(update={"path": _relative(p.path, here)}) for p in fit.parts)
    text = fit_json(fit.model_copy(update={"parts": parts})).encode("utf-8")
    if path.suffix.lower() == ".json":
        return write_text(path, text, protected=protected)
    attached = fit_attachments(fit)
    return write_archive(path, MEMBER, text, attached, thumbnail, protected=protected, incomplete=incomplete)


def fit_attachments(fit: Fit) -> tuple[str, ...]:
    """Names of all that its parts refer to."""
    return tuple(dict.fromkeys(name for p in fit.parts for name in attachments.attachments_of(p.document)))


def _relative(path: str, folder: Path) -> str:
    """A part's path from the fit's folder, where it lies beside or beneath it; else as it is."""
    if not path or not Path(path).is_absolute():
        return path
    told = os.path.relpath(path, folder)
    return path if told.startswith(f"..{os.sep}..") else told


def located(path: str, fit_file: Path | None) -> Path:
    """Where a part's file lies: from the fit's own folder when it is told so."""
    found = Path(path)
    return found if found.is_absolute() or fit_file is None else fit_file.resolve().parent / found


def changed_parts(fit: Fit, fit_file: Path | None) -> Iterator[ChangedPart]:
    """Parts whose files are gone, cannot be read, or say something else than was read."""
    for part in fit.parts:
        if not part.path:
            continue
        path = located(part.path, fit_file)
        if not path.exists():
            yield ChangedPart(part.name, path, None, f"its file {path.name} is gone; its value is kept here")
            continue
        try:
            document = read_document(path)
        except FileError as exc:
            yield ChangedPart(part.name, path, None, exc.what)
            continue
        if value_hash(document) != part.sha256:
            yield ChangedPart(part.name, path, document)
