"""Writing STEP (AP242), STL, 3MF and GLB, each to a temporary neighbour first, so that no half file is left."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np
from OCP.gp import gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf
from OCP.ShapeCustom import ShapeCustom
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.mesh_files import Product, write_3mf, write_glb, write_stl
from lathed_solid.kernel.names import Body, moved
from lathed_solid.kernel.noted_sizes import NotedSize, noted_sizes
from lathed_solid.kernel.noted_tolerances import NotedFrames, noted_frames
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.product_files import add_product, name_faces, new_products, parts_of, put_material, write_step
from lathed_solid.kernel.product_notes import put_frames, put_sizes
from lathed_solid.kernel.topology import edges, faces
from lathed_solid.kernel.triangles import bare, mesh
from lathed_solid.part import Document
from lathed_solid.proof import VerdictRow
from lathed_solid.standards import StandardError, material

#: how far the triangles of mesh files may be off, mm, where nobody says otherwise; and rad
CHORD, TURN = 0.02, 0.2
#: a coarser one is none, mm; endings of files that hold no triangles
MOST_CHORD, EXACT = 100.0, (".step", ".stp")
#: the finish of a material that is not known
PLAIN = "#B4BABC"


def in_part_datum(parts: Parts) -> Body:
    """All bodies, moved so that the part datum (where one is set) is the origin of the coordinates."""
    body = parts.whole
    if body is None:
        raise ExchangeError("there is no body")
    zero = parts.datums.get("zero")
    if zero is None:
        return body
    motion = gp_Trsf()
    motion.SetTransformation(gp_Ax3(gp_Pnt(*zero.origin), gp_Dir(*zero.direction), gp_Dir(*zero.x)))
    return moved(body, TopLoc_Location(motion), lambda a: a)


@dataclass(frozen=True, slots=True)
class Described:
    """What a file says of a body besides its shape: its name, its material's, its finish (#RRGGBB)."""

    name: str
    material: str = ""
    finish: str = ""
    #: g/mm3, 0 where it is not known
    density: float = 0.0
    #: of its faces, and the sizes of notes that they have
    faces: tuple[str, ...] = ()
    sizes: tuple[NotedSize, ...] = ()
    frames: NotedFrames = field(default_factory=NotedFrames)


def described(document: Document, body: Body, rows: Sequence[VerdictRow]) -> Described:
    """What a document says of its body; ``rows`` of its proof."""
    told = Described(document.name, document.material, faces=tuple(body.labels), sizes=noted_sizes(body, rows),
                     frames=noted_frames(body, rows, document.callouts))  # fmt: skip
    try:
        found = material(document.material)
    except StandardError:  # one that the tables do not have
        return told
    return replace(told, material=found.name, finish=found.finish_colour, density=found.density)


def export(body: Body, path: Path, what: Described, chord: float = CHORD) -> None:
    """Write ``body`` by the ending of ``path``; ``chord``: how far triangles may be off, mm. Raises ExchangeError."""
    write = FORMATS.get(path.suffix.lower())
    if write is None:
        raise ExchangeError(f"the ending {path.suffix!r} is not known", hint=f"one of {', '.join(FORMATS)}")
    if not 0 < chord <= MOST_CHORD:
        raise ExchangeError("this is no chord error", received=f"{chord:g}", hint="0.02 for 0.02 mm")
    shape = body.shape
    if path.suffix.lower() not in EXACT and chord != CHORD:
        # finer or coarser triangles than are shown are made for the file alone
        shape = bare(shape)
    atomic(path, lambda temporary: write(shape, temporary, what, chord))


def atomic(path: Path, write: Callable[[str], bool]) -> None:
    """Have a file written beside ``path`` and put in its place when it is whole. Raises ExchangeError."""
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=f".{path.stem}-", suffix=path.suffix)
        os.close(handle)
    except OSError as exc:
        raise ExchangeError("the file cannot be written", where=str(path), rule=exc.strerror or "") from None
    try:
        if not write(temporary) or Path(temporary).stat().st_size == 0:
            raise ExchangeError("the file cannot be written", where=str(path), hint="check the space on the disk")
        Path(temporary).chmod(0o644)
        Path(temporary).replace(path)
    except OSError as exc:
        raise ExchangeError("the file cannot be written", where=str(path), rule=exc.strerror or exc.args[0]) from None
    finally:
        with contextlib.suppress(OSError):
            Path(temporary).unlink()


def _step(shape: Any, path: str, what: Described, chord: float) -> bool:
    document = new_products()
    # surfaces with left-handed axes (mirrored ones) are turned on the way out, and would lose what hangs on them
    shape = ShapeCustom.DirectFaces_s(shape)
    label = add_product(document, shape, what.name, what.finish)
    if what.density:
        put_material(document, label, what.material, what.density)
    if what.faces:
        labels = name_faces(document, label, what.faces, faces(shape))
        wanted = sorted({n for size in what.sizes for n in size.edges})
        lines = edges(shape)
        put_sizes(document, what.sizes, labels, dict(zip(wanted, parts_of(document, label, (lines[n] for n in wanted)),
                                                         strict=True)))  # fmt: skip
        put_frames(document, what.frames, labels)
    return write_step(document, path, [size.nominal for size in what.sizes if size.kind == "angle"])


def _glb(shape: Any, path: str, what: Described, chord: float) -> bool:
    mesh(shape, chord, TURN)
    product = Product(what.name, shape, what.finish or PLAIN, ((what.name, np.eye(4)),))
    return write_glb((product,), path, what.name)


def _stl(shape: Any, path: str, what: Described, chord: float) -> bool:
    mesh(shape, chord, TURN)
    return write_stl(shape, path, what.name)


def _3mf(shape: Any, path: str, what: Described, chord: float) -> bool:
    mesh(shape, chord, TURN)
    return write_3mf(shape, path, what.name, what.material, what.finish or PLAIN)


#: by the ending
FORMATS: dict[str, Callable[[Any, str, Described, float], bool]] = {
    ".step": _step, ".stp": _step, ".stl": _stl, ".3mf": _3mf, ".glb": _glb,
}  # fmt: skip
