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
    #: of the last pick on a flat face, what its place can be told from: two walls with the distance from each and how
    #: far the face reaches from it, mm; round edges whose centres were meant; a sketch on the face, and how many points
    #: it has that are for holes
    walls: tuple[tuple[str, float, float], ...] = ()
    rims: tuple[str, ...] = ()
    sketch: int | None = None
    points: int = 0

    def points_for(self, count: int) -> bool:
        """Whether the sketch on the face has as many points of its own as there are holes."""
        return self.sketch is not None and self.points == count

    def renumbered(self, renumber: Mapping[int, int]) -> Picks:
        """The same picks after steps got new numbers."""
        return replace(
            self,
            face=renamed(self.face, renumber),
            datum=renamed(self.datum, renumber),
            edges=tuple(renamed(e, renumber) for e in self.edges),
            walls=tuple((renamed(w, renumber), away, span) for w, away, span in self.walls),
            rims=tuple(renamed(e, renumber) for e in self.rims),
            sketch=None if self.sketch is None else renumber.get(self.sketch, self.sketch),
        )
