"""Where holes are meant by what lies about the picks, so that nothing stays at the pointer's own coordinates."""

from __future__ import annotations

from typing import Literal

from lathed_solid.part.document import Document
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.steps import FromWalls, OnEdges, SketchPoints
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.units import MM_PER_INCH

Told = FromWalls | OnEdges | SketchPoints
#: distances that are proposed are whole ones of this, mm
EVEN_MM, EVEN_INCH = 1.0, MM_PER_INCH / 20


def proposed_places(document: Document, count: int, picks: Picks) -> Told | None:
    """Where holes are meant by what lies about the picks: points sketched on the face, centres of round edges, or
    distances from two edges, even ones; None where there is nothing to tell them from.
    """
    meant = _meant(count, picks)
    if meant == "points" and picks.sketch is not None:
        return SketchPoints(sketch=picks.sketch)
    if meant == "rims":
        return OnEdges(edges=picks.rims)
    if meant != "walls":
        return None
    ((first, x, reach_x), (second, y, reach_y)) = picks.walls
    even = even_of(document)
    x, y = (max(even, round(abs(v) / even) * even) * (1 if v >= 0 else -1) for v in (x, y))
    nx, ny = (count // 2, 2) if count > 2 and count % 2 == 0 else (count, 1)
    if ny == 1 and reach_y - 2 * y > reach_x - 2 * x:
        nx, ny = 1, nx
    # further ones as far from the other end of the face as the first are from this one
    dx, dy = ((reach - 2 * v) / (n - 1) if n > 1 and reach > 2 * v else 0.0
              for v, n, reach in ((x, nx, reach_x), (y, ny, reach_y)))  # fmt: skip
    spaced = {k: length(v, document.unit) for k, v in (("dx", dx), ("dy", dy)) if v}
    at = {k: length(v, document.unit) for k, v in (("x", x), ("y", y))}
    return FromWalls(first=first, second=second, nx=nx, ny=ny, **at, **spaced)


def even_of(document: Document) -> float:
    """What proposed distances are whole numbers of, mm."""
    return EVEN_MM if document.unit == "mm" else EVEN_INCH


def told_from(count: int, picks: Picks) -> str:
    """In words, what ``proposed_places`` takes."""
    rims = f" at the round edge{'s' if count > 1 else ''}"
    words = {"points": " at the sketched points", "rims": rims, "walls": " from two edges", "": ""}
    return words[_meant(count, picks)]


def _meant(count: int, picks: Picks) -> Literal["points", "rims", "walls", ""]:
    """What the places are told from; empty for nothing."""
    if picks.points_for(count):
        return "points"
    if picks.rims and len(picks.rims) == count:
        return "rims"
    return "walls" if len(picks.walls) == 2 and (count == 1 or len(picks.places) < count) else ""
