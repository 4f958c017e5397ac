"""What the details share that turned parts often have and that are put on a face, ready made: their figures.

Keyway, ring groove, undercut, centre hole, flats, knurl. Cells left empty take the standard's figure for the size of
the face, which is read from the solid.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class ResolvedMachined:
    """mm and rad; None where the standard decides. ``from_face``: the flat face that ``at`` counts from."""

    what: str
    face: str
    from_face: str = ""
    at: float = 0.0
    width: float | None = None
    depth: float | None = None
    length: float | None = None
    diameter: float | None = None
    angle: float = 0.0
    count: int = 1
    form: str = ""
