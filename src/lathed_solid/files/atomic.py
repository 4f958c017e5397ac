"""Writing a file so that either the old or the whole new one is there, whatever happens in between."""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import tempfile
from pathlib import Path

from lathed_solid.files.errors import FileError, WriteProtected

_HINTS = {
    errno.ENOSPC: "free some space, or save to another disk",
    errno.EDQUOT: "free some space, or save to another disk",
    errno.EACCES: "save to a folder you may write to",
    errno.EPERM: "save to a folder you may write to",
    errno.EROFS: "save to a disk that is not read-only",
    errno.ENOENT: "make the folder first",
    errno.ENAMETOOLONG: "a shorter name",
    errno.ELOOP: "a name that is no link to itself",
}


def write_atomic(path: Path, data: bytes, *, protected: bool = False) -> str:
    """Write ``data`` to a neighbour of ``path``, flush it to the disk, and rename it into place; the SHA-256 of it.

    A symbolic link is followed: what it leads to is replaced, and it stays. A write-protected file is only replaced
    when ``protected`` is set. Raises FileError; the old file is then untouched.
    """
    temporary = ""
    try:
        target = path.resolve() if path.is_symlink() else path
        if not protected and is_protected(target):
            raise WriteProtected("the file is write-protected", path, hint="save under another name")
        mode = target.stat().st_mode & 0o777 if target.exists() else 0o644
        handle, temporary = tempfile.mkstemp(dir=target.parent, prefix=".lathed-", suffix=".part")
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        Path(temporary).chmod(mode)
        Path(temporary).replace(target)
        temporary = ""
        _flush_folder(target.parent)
    except FileError:
        raise
    except (OSError, RuntimeError, ValueError) as exc:  # RuntimeError: links in a circle; ValueError: a name with NUL
        number = getattr(exc, "errno", None) or (errno.ELOOP if isinstance(exc, RuntimeError) else 0)
        rule = getattr(exc, "strerror", None) or str(exc)
        hint = _HINTS.get(number, "save under another name")
        raise FileError("the file cannot be written", path, rule=rule, hint=hint) from None
    finally:
        if temporary:
            with contextlib.suppress(OSError):
                Path(temporary).unlink()
    return hashlib.sha256(data).hexdigest()


def is_protected(path: Path) -> bool:
    """Whether a file is there whose owner forbade writing to it, or that this user may not write to."""
    try:
        mode = path.stat().st_mode
    except OSError:
        return False
    return not mode & 0o222 or not os.access(path, os.W_OK)


def _flush_folder(folder: Path) -> None:
    """Have the renaming itself on the disk, where the file system can."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
