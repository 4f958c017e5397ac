"""What is picked in the solid, as a note can use it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from lathed_solid.part.names import renamed


@dataclass(frozen=True, slots=True)
class Picks:
    """What is picked: a face and whether it is round, where on it (mm in the face's own frame, or from ``datum``
    along a cylinder), and edges.
    """

    face: str = ""
    round: bool = False
    places: tuple[tuple[float, float], ...] = ()
    radial_at: float | None = None
    datum: str = "10/face.left"
    edges: tuple[str, ...] = ()

    def renumbered(self, renumber: Mapping[int, int]) -> Picks:
        """The same picks after steps got new numbers."""
        return replace(
            self,
            face=renamed(self.face, renumber),
            datum=renamed(self.datum, renumber),
            edges=tuple(renamed(e, renumber) for e in self.edges),
        )
