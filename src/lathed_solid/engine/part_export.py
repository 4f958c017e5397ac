"""A built part written as a file, for the worker and for scripts."""

from __future__ import annotations

from pathlib import Path

from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Built, Engine
from lathed_solid.kernel.exchange import CHORD, EXACT, described, export, in_part_datum
from lathed_solid.part import Document


def export_part(engine: Engine, document: Document, built: Built, path: Path, chord: float = CHORD) -> None:
    """By the ending of ``path``; ``chord``: how far triangles may be off, mm. Raises ExchangeError."""
    body = in_part_datum(built.parts)
    # only exact files say which notes their faces bear out
    rows = prove(engine, document, built).rows if path.suffix.lower() in EXACT else ()
    export(body, path, described(document, body, rows, list(built.parts.bodies)), chord)
