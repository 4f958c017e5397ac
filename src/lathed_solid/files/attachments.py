"""Pictures and imported bodies that documents refer to: kept once, by the SHA-256 of their bytes.

A document names what it refers to and does not hold it, so that undo and the journal stay small. The bytes lie in
the state
folder, and a saved archive carries its own copy under ``attached/``.
"""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.part import Document, SketchStep
from lathed_solid.store import place_of, stored

MAX_PICTURE = 16 << 20
MAX_BODY = 32 << 20
MEMBER = re.compile(r"attached/([0-9a-f]{64})")
PICTURES = (b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff")
STEP_FILE = b"ISO-10303-21"


def keep_picture(data: bytes, path: Path) -> str:
    """Keep a PNG or JPEG; its name. Raises FileError, naming ``path``, for anything else or a full disk."""
    if not data.startswith(PICTURES):
        raise FileError("this is no PNG or JPEG picture", path, hint="export the sheet as one of these")
    return _keep(data, path, "picture", MAX_PICTURE)


def keep_sheet(data: bytes, path: Path) -> str:
    """Keep a PDF, PNG or JPEG sheet; its name. Raises FileError."""
    if not data.startswith(PICTURES) and b"%PDF-" not in data[:1024] and b"SECTION" not in data[:1024]:
        raise FileError("this is no PDF, DXF, PNG or JPEG sheet", path, hint="export the drawing as one of these")
    return _keep(data, path, "sheet", MAX_BODY)


def keep_body(data: bytes, path: Path) -> str:
    """Keep a STEP file; its name. Raises FileError, naming ``path``, for anything else or a full disk."""
    if STEP_FILE not in data[:400]:
        raise FileError("this is no STEP file", path, hint="a file ending in .step or .stp")
    return _keep(data, path, "STEP file", MAX_BODY)


def keep(data: bytes, path: Path) -> str:
    """Keep what came out of an archive, whichever it is. Raises FileError."""
    return keep_body(data, path) if STEP_FILE in data[:400] else keep_sheet(data, path)


def read_for(path: Path, most: int = MAX_BODY) -> bytes:
    """A file to attach. Raises FileError when it cannot be read or is too large."""
    try:
        if path.stat().st_size > most:
            raise FileError(f"the file is larger than {most >> 20} MiB", path, hint="a simpler one")
        return path.read_bytes()
    except FileError:
        raise
    except OSError as exc:
        raise FileError("the file cannot be read", path, rule=exc.strerror or "") from None


def attachments_of(document: Document) -> tuple[str, ...]:
    """Names of all that a document refers to."""
    names = [s.underlay.picture for s in document.steps if isinstance(s, SketchStep) and s.underlay is not None]
    names += [s.body for s in document.steps if s.kind == "imported"]  # type: ignore[attr-defined]
    names += [name for sheet in document.sheets for name in (sheet.file, *sheet.earlier)]
    return tuple(dict.fromkeys(names))


def _keep(data: bytes, path: Path, what: str, most: int) -> str:
    if len(data) > most:
        raise FileError(f"the {what} is larger than {most >> 20} MiB", path, hint="a simpler one")
    name = hashlib.sha256(data).hexdigest()
    if stored(name) is None:
        place = place_of(name)
        try:
            place.parent.mkdir(parents=True, exist_ok=True)
        except OSError as exc:
            raise FileError(f"the {what} cannot be kept", place.parent, rule=exc.strerror or "") from None
        write_atomic(place, data)
    return name
