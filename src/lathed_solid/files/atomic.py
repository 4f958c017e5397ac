"""Writing a file so that either the old or the whole new one is there, whatever happens in between."""

from __future__ import annotations

import contextlib
import errno
import os
import tempfile
from pathlib import Path

from lathed_solid.files.errors import FileError

_HINTS = {
    errno.ENOSPC: "free some space, or save to another disk",
    errno.EDQUOT: "free some space, or save to another disk",
    errno.EACCES: "save to a folder you may write to",
    errno.EPERM: "save to a folder you may write to",
    errno.EROFS: "save to a disk that is not read-only",
    errno.ENOENT: "make the folder first",
}


def write_atomic(path: Path, data: bytes) -> None:
    """Write ``data`` to a neighbour of ``path``, flush it to the disk, and rename it into place.

    Raises FileError; the old file is then untouched.
    """
    temporary = ""
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o644
        Path(temporary).chmod(mode)
        Path(temporary).replace(path)
    except OSError as exc:
        if temporary:
            with contextlib.suppress(OSError):
                Path(temporary).unlink()
        hint = _HINTS.get(exc.errno or 0, "save under another name")
        raise FileError("the file cannot be written", path, rule=exc.strerror or str(exc), hint=hint) from None
