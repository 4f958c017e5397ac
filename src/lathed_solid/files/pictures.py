"""Pictures that documents refer to: kept once, by the SHA-256 of their bytes.

A document names a picture and does not hold it, so that undo and the journal stay small. The bytes lie in the state
folder, and a saved archive carries its own copy under ``pictures/``.
"""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.files.state import state_folder
from lathed_solid.part import Document, SketchStep

MAX_PICTURE = 16 << 20
MEMBER = re.compile(r"pictures/([0-9a-f]{64})")
MAGIC = (b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff")


def keep_picture(data: bytes, path: Path) -> str:
    """Keep a PNG or JPEG; its name. Raises FileError, naming ``path``, for anything else or a full disk."""
    if not data.startswith(MAGIC):
        raise FileError("this is no PNG or JPEG picture", path, hint="export the sheet as one of these")
    if len(data) > MAX_PICTURE:
        raise FileError(f"the picture is larger than {MAX_PICTURE >> 20} MiB", path, hint="a lower resolution")
    name = hashlib.sha256(data).hexdigest()
    place = _place(name)
    if not place.exists():
        try:
            place.parent.mkdir(parents=True, exist_ok=True)
        except OSError as exc:
            raise FileError("the picture cannot be kept", place.parent, rule=exc.strerror or "") from None
        write_atomic(place, data)
    return name


def picture(name: str) -> bytes | None:
    """The bytes of a kept picture; None when it is not here or is not what its name says."""
    try:
        data = _place(name).read_bytes()
    except OSError:
        return None
    return data if hashlib.sha256(data).hexdigest() == name else None


def pictures_of(document: Document) -> tuple[str, ...]:
    """Names of all pictures that a document refers to."""
    names = [s.underlay.picture for s in document.steps if isinstance(s, SketchStep) and s.underlay is not None]
    return tuple(dict.fromkeys(names))


def _place(name: str) -> Path:
    return state_folder() / "pictures" / name
