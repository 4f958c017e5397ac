"""Edge and taper cells as text: ``1 x 45°``, ``#14 x 45°``, ``R1``, ``R #20``; ``to 18``, ``1:10``, ``half 5.7°``."""

from __future__ import annotations

import re

from pydantic import ValidationError

from lathed_solid.errors import of_length
from lathed_solid.turned.table import Edge, TableError, Taper

MAX_CELL = 400
_SQUARE = ("", "shoulder", "sharp", "-")


def parse_edge(text: str) -> Edge | None:
    """An edge cell; None for an empty cell or 'shoulder'. Raises TableError."""
    text = of_length(text, MAX_CELL, "an edge cell", TableError)
    bare = re.sub(r"^(chamfer|fillet|radius)\s+", "", text.strip(), flags=re.I)
    if bare.lower() in _SQUARE:
        return None
    try:
        if match := re.match(r"^R\s*(.+)$", bare):
            return Edge(kind="radius", size=match[1].strip())
        if match := re.match(r"^C\s*([\d.,#].*)$", bare):
            return Edge(kind="chamfer", size=match[1].strip())
        if match := re.match(r"^(.+?)\s*[xX×]\s*([^xX×]+)$", bare):
            return Edge(kind="chamfer", size=match[1].strip(), angle=match[2].strip())
    except ValidationError as exc:
        raise TableError("this is no size of an edge", rule=str(exc.errors()[0]["msg"])) from None
    raise TableError("an edge is a chamfer or a radius", received=text, hint="1 x 45°, R1, or leave it empty")


def edge_text(edge: Edge | None) -> str:
    """The cell that ``parse_edge`` reads back."""
    if edge is None:
        return ""
    return f"R {edge.size}" if edge.kind == "radius" else f"{edge.size} × {edge.angle}"


def parse_taper(text: str) -> Taper | None:
    """A taper cell; None when empty. ``rises`` at the end turns it round. Raises TableError."""
    bare = of_length(text, MAX_CELL, "a taper cell", TableError).strip()
    if not bare or bare == "-":
        return None
    rises = bare.lower().endswith("rises")
    bare = re.sub(r"\s*(rises|falls)$", "", bare, flags=re.I)
    for pattern, kind in (
        (r"^to\s+(.+)$", "diameter"),
        (r"^1\s*:\s*(.+)$", "ratio"),
        (r"^half\s+(.+)$", "angle"),
    ):
        if match := re.match(pattern, bare, flags=re.I):
            try:
                return Taper(kind=kind, value=match[1].strip(), rises=rises)
            except ValidationError as exc:
                raise TableError("this is no size of a taper", rule=str(exc.errors()[0]["msg"])) from None
    raise TableError("a taper cell is not understood", received=text, hint="to 18, 1:10, half 5.7°, 1:10 rises")


def taper_text(taper: Taper | None) -> str:
    """The cell that ``parse_taper`` reads back."""
    if taper is None:
        return ""
    word = {"diameter": f"to {taper.value}", "ratio": f"1:{taper.value}", "angle": f"half {taper.value}"}[taper.kind]
    return word + (" rises" if taper.rises else "")
