"""Writing STEP (AP242), STL, 3MF and GLB, each to a temporary neighbour first, so that no half file is left."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
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
from lathed_solid.kernel.product_files import (
    add_product,
    name_faces,
    new_products,
    paint,
    parts_of,
    put_material,
    write_step,
)
from lathed_solid.kernel.product_notes import put_frames, put_sizes
from lathed_solid.kernel.topology import children, edges, faces
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
class Piece:
    """A body by its name, with its material's and its finish (#RRGGBB, empty where it is not known)."""

    name: str
    material: str
    finish: str


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
    #: its bodies in their order, where it has several
    pieces: tuple[Piece, ...] = ()

    def bodies(self, shape: Any) -> list[tuple[Piece, Any]]:
        """All of them with their shapes; the whole where it is one."""
        if self.pieces:
            return list(zip(self.pieces, children(shape), strict=True))
        return [(Piece(self.name, self.material, self.finish), shape)]


def pieces_of(document: Document, numbers: Sequence[int], body: Body) -> tuple[Piece, ...]:
    """The bodies that ``numbers`` of steps began and that a whole is put together of; none where it is one."""
    if len(numbers) < 2 or len(children(body.shape)) != len(numbers):
        return ()
    known = ((number, _known(document.material_of(number))) for number in numbers)
    return tuple(Piece(f"{document.name}, body {number}", name, finish) for number, (name, finish, _) in known)


def _known(name: str) -> tuple[str, str, float]:
    """A material's name in the tables, its finish and density (g/mm3); as it is where they do not have it."""
    try:
        found = material(name)
    except StandardError:
        return name, "", 0.0
    return found.name, found.finish_colour, found.density


def described(document: Document, body: Body, rows: Sequence[VerdictRow], numbers: Sequence[int] = ()) -> Described:
    """What a document says of its body, which the steps of ``numbers`` began; ``rows`` of its proof."""
    name, finish, density = _known(document.material)
    return Described(document.name, name, finish, density, tuple(body.labels), noted_sizes(body, rows),
                     noted_frames(body, rows, document.callouts), pieces_of(document, numbers, body))  # fmt: skip


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
    if what.pieces:
        for piece, solid in what.bodies(shape):
            paint(document, parts_of(document, label, [solid])[0], piece.finish)
    if what.density and len({p.material for p in what.pieces}) < 2:
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
    products = [Product(p.name, body, p.finish or PLAIN, ((p.name, np.eye(4)),)) for p, body in what.bodies(shape)]
    return write_glb(products, path, what.name)


def _stl(shape: Any, path: str, what: Described, chord: float) -> bool:
    mesh(shape, chord, TURN)
    return write_stl(shape, path, what.name)


def _3mf(shape: Any, path: str, what: Described, chord: float) -> bool:
    mesh(shape, chord, TURN)
    return write_3mf([(body, p.name, p.material, p.finish or PLAIN) for p, body in what.bodies(shape)], path)


#: by the ending
FORMATS: dict[str, Callable[[Any, str, Described, float], bool]] = {
    ".step": _step, ".stp": _step, ".stl": _stl, ".3mf": _3mf, ".glb": _glb,
}  # fmt: skip
