"""The hand-over package: one zip with the part, its files, its drawing and sheets, and a manifest with their hashes."""

from __future__ import annotations

import hashlib
import io
import json
import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Protocol, TypeVar

from pydantic import BaseModel

from lathed_solid import __version__
from lathed_solid.engine.protocol import (
    DrawFigures,
    DrawViews,
    Export,
    Exported,
    Figured,
    FindForShop,
    Request,
    ShopFound,
    Viewed,
)
from lathed_solid.files import write_document
from lathed_solid.files.atomic import write_atomic
from lathed_solid.part import Document
from lathed_solid.proof.inspection import document_hash
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.reports.drawing.draw import drawing
from lathed_solid.reports.drawing.files import write_drawing
from lathed_solid.reports.file_names import slug
from lathed_solid.reports.inspection import write_inspection
from lathed_solid.reports.machinist.files import write_machinist
from lathed_solid.reports.machinist.sheet import machinist_sheet
from lathed_solid.reports.status import status_of

A = TypeVar("A", bound=BaseModel)
#: what other programs take
MODELS = (".step", ".stl", ".3mf", ".glb")
#: every file in a package says so: the same part is the same package but for what kernels write of their own
STAMP = (2026, 1, 1, 0, 0, 0)
#: what is told of each file
WHAT = {
    ".lathed": "the part: ledger, route, readings", ".step": "solid, STEP AP242", ".stl": "triangles, STL",
    ".3mf": "triangles with name and material, 3MF", ".glb": "triangles with finish, GLB",
}  # fmt: skip


class Kernel(Protocol):
    """Answers one request with an answer of one kind."""

    def answer(self, request: Request, of: type[A]) -> A:
        """Raises LathedError."""
        ...


def write_package(path: Path, document: Document, kernel: Kernel, spoken: Spoken = as_it_is) -> str:
    """Everything in one zip; what stands on its sheets when the part is not proven, else nothing. Raises LathedError
    when any of it cannot be made: a part that is not complete is not handed over.
    """
    with tempfile.TemporaryDirectory(prefix="lathed-solid-package-") as name:
        folder = Path(name)
        made: list[tuple[Path, str]] = []
        status = ""
        for words, paths, told in _files(folder, document, kernel, spoken):
            made += [(p, words) for p in paths]
            status = told or status
        write_atomic(path, _zipped(made, document, status))
    return status


def _files(
    folder: Path, document: Document, kernel: Kernel, spoken: Spoken
) -> Iterator[tuple[str, tuple[Path, ...], str]]:
    """What is made, one thing after another: words, paths, the part's status where that is known."""
    base = folder / slug(document.name)
    part = base.with_suffix(".lathed")
    write_document(part, document)
    yield WHAT[".lathed"], (part,), ""
    for ending in MODELS:
        path = base.with_suffix(ending)
        kernel.answer(Export(document=document, path=str(path)), Exported)
        yield WHAT[ending], (path,), ""
    viewed = kernel.answer(DrawViews(document=document), Viewed)
    for ending in (".pdf", ".csv"):
        path = base.with_name(f"{base.name}-inspection{ending}")
        write_inspection(path, document, viewed.report, viewed.views, spoken=spoken)
        yield "inspection sheet", (path,), status_of(viewed.report)

    def figures(request: DrawFigures) -> Figured:
        return kernel.answer(request, Figured)

    sheets = drawing(document, figures, spoken=spoken)
    for ending in (".pdf", ".dxf"):
        yield "drawing", write_drawing(base.with_name(f"{base.name}-drawing{ending}"), sheets), ""

    def shop(request: FindForShop) -> ShopFound:
        return kernel.answer(request, ShopFound)

    machinist = machinist_sheet(document, shop)
    for ending in (".pdf", ".csv", ".json"):
        path = base.with_name(f"{base.name}-machinist{ending}")
        write_machinist(path, machinist, spoken)
        yield "machinist's sheet", (path,), ""


def _zipped(made: list[tuple[Path, str]], document: Document, status: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        files = []
        for path, words in made:
            data = path.read_bytes()
            files.append({"name": path.name, "what": words, "bytes": len(data),
                          "sha256": hashlib.sha256(data).hexdigest()})  # fmt: skip
            archive.writestr(zipfile.ZipInfo(path.name, STAMP), data, zipfile.ZIP_DEFLATED)
        told = manifest(document, status, files)
        text = json.dumps(told, ensure_ascii=False, indent=1) + "\n"
        archive.writestr(zipfile.ZipInfo("manifest.json", STAMP), text, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def manifest(document: Document, status: str, files: list[dict[str, Any]]) -> dict[str, Any]:
    """What the package says of itself."""
    return {
        "name": document.name, "material": document.material, "unit": document.unit,
        "document_sha256": document_hash(document), "made_by": f"lathed-solid {__version__}",
        "status": status or "proven", "files": files,
        "caution": "A model is no release for pressure, lifting or life-safety use; local codes and licensed practice "
                   "decide.",
    }  # fmt: skip
