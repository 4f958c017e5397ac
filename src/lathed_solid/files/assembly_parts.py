"""The components of a STEP assembly as a fit: every body becomes a part with an imported body, kept beside it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from lathed_solid.engine.fit_protocol import AssemblyRead
from lathed_solid.files.attachments import keep_body
from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.placement import as_placement
from lathed_solid.part import Document
from lathed_solid.part.edits import changed, next_number, put_step
from lathed_solid.part.steps import KINDS


def fit_of_assembly(found: AssemblyRead) -> Fit:
    """The fit of what was read. Raises FileError where a body cannot be kept, FitError where nothing is in it."""
    path = Path(found.path)
    if not found.components:
        raise FitError("there is no solid in this file", where=path.name)
    fit = edits.changed(Fit(), name=path.stem[:80] or "Imported fit")
    bodies: Sequence[bytes] = found.bodies()
    parts: dict[int, str] = {}
    for it in found.components:
        if it.body not in parts:
            document = _document(found.names[it.body] or it.name, bodies[it.body], path)
            fit, parts[it.body] = edits.with_part(fit, document)
        name = edits.free_name(it.name or parts[it.body], set(fit.by_name))
        fit = edits.with_member(fit, parts[it.body], name, placement=as_placement(it.matrix), finish=it.colour)
    return fit


def _document(name: str, body: bytes, path: Path) -> Document:
    part = changed(Document(), name=(name.strip() or "Imported part")[:120])
    step = KINDS["imported"](number=next_number(part), body=keep_body(body, path), file=path.name[:200])  # type: ignore[call-arg]
    return put_step(part, step)
