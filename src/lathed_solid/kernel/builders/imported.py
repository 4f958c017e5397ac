"""Reading a body from a STEP file."""

from __future__ import annotations

from typing import Any

from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.STEPControl import STEPControl_Reader

from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.limited_reading import ROOM, nameless_file, within_memory
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Made, Parts
from lathed_solid.kernel.topology import SOLID, Key, faces, sub_shapes
from lathed_solid.part.steps.imported import ResolvedImport
from lathed_solid.store import stored


def _read(data: bytes) -> Any:
    reader = STEPControl_Reader()
    try:
        with nameless_file(data) as path, within_memory():
            if reader.ReadFile(path) != IFSelect_ReturnStatus.IFSelect_RetDone or not reader.TransferRoots():
                raise BuildError("the imported file cannot be read", hint="export it anew as STEP")
            return reader.OneShape()
    except MemoryError:
        raise BuildError(
            "the imported file needs too much memory", rule=f"at most {ROOM >> 20} MiB", hint="export fewer bodies"
        ) from None


def build_imported(parts: Parts, step: ResolvedImport, number: int) -> Parts:
    """The part with the file's solids as a body, in several pieces where they are several. Raises BuildError."""
    data = stored(step.body)
    if data is None:
        raise BuildError("the imported file is not here", hint="import it again")
    shape = _read(data)
    if not sub_shapes(shape, SOLID):
        raise BuildError("the imported file holds no solid", hint="export bodies, not sheets or wires")
    whole = check_solid(shape)
    names = {Key(f): frozenset([f"{number}/f{k}"]) for k, f in enumerate(faces(whole), 1)}
    body = Body(whole, names)
    if body.size < 0:
        body = Body(whole.Reversed(), names)
    return parts.with_body(number, body).with_made(number, Made("new", (body,)))
