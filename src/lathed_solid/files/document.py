"""Part documents on disk: ``.lathed`` (a zip of ``part.json``, pictures and a thumbnail) and bare ``part.json``.

Reading never trusts the file: sizes are capped before anything is unpacked, only members of the archive's
own flat list are read and nothing is extracted to the disk, and what is read is validated as a whole.
"""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
import zipfile
import zlib
from collections.abc import Callable, Iterable
from pathlib import Path, PurePosixPath
from typing import Any, TypeVar

from pydantic import ValidationError

from lathed_solid.files import attachments
from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError, MissingAttachments
from lathed_solid.files.json_text import read_json
from lathed_solid.files.migrate import NewerVersion, migrate
from lathed_solid.part import Document
from lathed_solid.part.edits import plain_error
from lathed_solid.record import READING
from lathed_solid.store import stored

MAX_FILE = 200 << 20
MAX_JSON = 32 << 20
MAX_MEMBERS = 400
#: unpacked attachments of one archive together
MAX_ATTACHED = 192 << 20
MAX_RATIO = 200
MEMBER = "part.json"
#: what an archive is, by the member that it holds
KINDS = {"part.json": "part document", "fit.json": "fit"}
M = TypeVar("M")


def read_document(path: Path) -> Document:
    """The document in ``path``. Raises FileError saying what is wrong with the file."""
    records = records_of(path, MEMBER, "part document")
    if "fit_version" in records:
        raise FileError("this is a fit, not a part", path, hint="open it at the Fit desk, or with lathed-solid fit")
    return valid(path, lambda: Document.model_validate(migrate(records), context=READING), "part document")


def records_of(path: Path, member: str, what: str) -> dict[str, Any]:
    """The JSON object of a bare file, or of that member of an archive, whose attachments are kept. ``what`` the file
    should be, in words. Raises FileError.
    """
    data = _read(path)
    text = _member_json(path, data, member, what) if data[:4] == b"PK\x03\x04" else data
    if len(text) > MAX_JSON:
        raise FileError(f"the document is larger than {MAX_JSON >> 20} MiB", path)
    try:
        records = read_json(text)
    except (ValueError, RecursionError) as exc:
        raise FileError(f"this is not a {what}", path, rule=str(exc).split("\n")[0][:120]) from None
    if not isinstance(records, dict):
        raise FileError(f"this is not a {what}", path, rule="a JSON object is needed")
    return records


def _read(path: Path) -> bytes:
    try:
        if path.is_dir():
            raise FileError("this is a folder", path, hint="choose a .lathed or .json file")
        if path.stat().st_size > MAX_FILE:
            raise FileError(f"the file is larger than {MAX_FILE >> 20} MiB", path)
        data = path.read_bytes()
    except FileError:
        raise
    except FileNotFoundError:
        raise FileError("there is no such file", path, hint="check the name") from None
    except (OSError, ValueError) as exc:  # ValueError: a name with NUL
        raise FileError("the file cannot be read", path, rule=getattr(exc, "strerror", None) or str(exc)) from None
    if not data:
        raise FileError("the file is empty", path)
    return data


def _member_json(path: Path, data: bytes, wanted: str, what: str) -> bytes:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = archive.infolist()
            if len(members) > MAX_MEMBERS:
                raise FileError(f"the archive holds more than {MAX_MEMBERS} members", path)
            for member in members:
                _check_member(path, member)
            if sum(m.file_size for m in members) > MAX_ATTACHED + 2 * MAX_JSON:
                raise FileError(f"the archive unpacks to more than {MAX_ATTACHED >> 20} MiB of attachments", path)
            if wanted not in archive.namelist():
                other = next((f"it holds {n}, so it is a {w}" for n, w in KINDS.items() if n in archive.namelist()), "")
                raise FileError(f"the archive holds no {wanted}, so it is no {what}", path, rule=other)
            for member in members:
                _keep(path, archive, member)
            return archive.read(wanted)
    except FileError:
        raise
    except (
        zipfile.BadZipFile,
        zipfile.LargeZipFile,
        EOFError,
        OSError,
        NotImplementedError,
        RuntimeError,
    ) as exc:
        raise FileError(
            "the archive is damaged or cut short", path, rule=str(exc), hint="an older copy of the file"
        ) from None
    except Exception as exc:  # noqa: BLE001 - zlib raises its own errors on damaged streams
        raise FileError("the archive is damaged", path, rule=str(exc), hint="an older copy of the file") from None


def _keep(path: Path, archive: zipfile.ZipFile, member: zipfile.ZipInfo) -> None:
    """Take an attachment out of the archive; one whose bytes are not what its name says is left."""
    found = attachments.MEMBER.fullmatch(member.filename)
    if found and stored(found[1]) is None:
        data = archive.read(member)
        if hashlib.sha256(data).hexdigest() == found[1]:
            attachments.keep(data, path)


def _check_member(path: Path, member: zipfile.ZipInfo) -> None:
    parts = PurePosixPath(member.filename.replace("\\", "/")).parts
    if member.filename.startswith(("/", "\\")) or ".." in parts or ":" in member.filename:
        raise FileError("the archive names a path outside itself", path, rule=repr(member.filename[:80]))
    too_big = member.file_size > MAX_JSON
    too_dense = member.file_size > MAX_RATIO * max(member.compress_size, 1) and member.file_size > (1 << 20)
    if too_big or too_dense:
        raise FileError(
            "a member of the archive is absurdly large when unpacked", path, rule=repr(member.filename[:80])
        )


def valid(path: Path, made: Callable[[], M], what: str) -> M:
    """What ``made`` gives of a file's records; its failures as FileError."""
    try:
        return made()
    except NewerVersion as exc:
        raise FileError("the file is from a newer version", path, rule=str(exc), hint="a newer Lathed Solid") from None
    except ValidationError as exc:
        raise FileError("the document is not valid", path, rule=plain_error(exc).message) from None
    except (ValueError, RecursionError) as exc:
        raise FileError(f"this is not a {what}", path, rule=str(exc)) from None


def document_json(document: Document) -> str:
    """The document as JSON, indented, as ``part.json`` holds it."""
    return json.dumps(document.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def write_document(
    path: Path,
    document: Document,
    thumbnail: bytes | None = None,
    *,
    protected: bool = False,
    incomplete: bool = False,
) -> str:
    """Write ``path`` atomically: a bare document for ``.json``, else an archive; the SHA-256 of what was written.

    ``protected``: also over a write-protected file; ``incomplete``: also without attachments that are lost. Raises
    FileError, of which WriteProtected and MissingAttachments ask for these.
    """
    text = document_json(document).encode("utf-8")
    if path.suffix.lower() == ".json":
        return write_text(path, text, protected=protected)
    attached = attachments.attachments_of(document)
    return write_archive(path, MEMBER, text, attached, thumbnail, protected=protected, incomplete=incomplete)


def write_text(path: Path, text: bytes, *, protected: bool = False) -> str:
    """Write a bare document that can be read again; the SHA-256 of it. Raises FileError."""
    if len(text) > MAX_JSON:
        raise FileError(f"the document is larger than {MAX_JSON >> 20} MiB", path, hint="take some of it out")
    return write_atomic(path, text, protected=protected)


def write_archive(
    path: Path,
    member: str,
    text: bytes,
    attached: Iterable[str],
    thumbnail: bytes | None,
    *,
    protected: bool = False,
    incomplete: bool = False,
) -> str:
    """Write an archive of a document, what it refers to and a thumbnail, atomically; the SHA-256 of it.

    What is not in the store any more is taken from the file that is to be replaced. Raises FileError; what could not
    be read again is not written.
    """
    if len(text) > MAX_JSON:
        raise FileError(f"the document is larger than {MAX_JSON >> 20} MiB", path, hint="take some of it out")
    names = tuple(dict.fromkeys(attached))
    held = {name: data for name in names if (data := stored(name)) is not None}
    lost = [name for name in names if name not in held]
    if lost:
        held |= _from_archive(path, lost)
        lost = [name for name in lost if name not in held]
    if lost and not incomplete:
        raise MissingAttachments(path, tuple(lost))
    if len(names) > MAX_MEMBERS - 2 or sum(map(len, held.values())) > MAX_ATTACHED:
        rule = f"at most {MAX_MEMBERS - 2} of {MAX_ATTACHED >> 20} MiB together"
        raise FileError("its sheets, pictures and bodies are too many or too large for a file", path, rule=rule,
                        hint="take out sheets that are not needed")  # fmt: skip
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(member, text)
        if thumbnail:
            archive.writestr("thumbnail.png", thumbnail)
        for name, data in held.items():
            archive.writestr(f"attached/{name}", data)
    return write_atomic(path, buffer.getvalue(), protected=protected)


def _from_archive(path: Path, names: list[str]) -> dict[str, bytes]:
    """Those of these attachments that the archive at ``path`` holds, whole."""
    found = {}
    broken = (OSError, zipfile.BadZipFile, RuntimeError, NotImplementedError, EOFError, zlib.error)
    with contextlib.suppress(*broken), zipfile.ZipFile(path) as archive:
        for name in names:
            info = archive.NameToInfo.get(f"attached/{name}")
            if info is not None and info.file_size <= MAX_JSON:
                data = archive.read(info)
                if hashlib.sha256(data).hexdigest() == name:
                    found[name] = data
    return found
