"""What of the frame, the body and the figure lies under the pointer to be held on to, kept ready between moves.

The frame and the edges change with a build, the figure's own middles and quadrants with an edit: each is worked out
once, and looked up by distance.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.sketch.geometry import Shape, Straight
from lathed_solid.sketch.holds import edge_places, edge_shape, held_on_to, parted, places_of
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.outside import AXES, FRAME, TAKEN, of_axis
from lathed_solid.workbench.sketch.view_model import SketchState

#: the axes run so far for the pointer, mm
ENDLESS = 1e5


class Near:
    """Places by name, and the curves that edges and axes are."""

    def __init__(self, edges: Iterable[Edge] = ()) -> None:
        self.edges = tuple(e for e in edges if e.kind in TAKEN)
        found = [p for e in (*FRAME, *self.edges) if e not in AXES for p in edge_places(e)]
        self._names = [n for n, _ in found]
        self._at = np.array([z for _, z in found])
        self.axes: dict[str, Shape] = {e.name: _endless(e) for e in AXES}
        self.shapes = {e.name: s for e in self.edges if (s := edge_shape(e)) is not None}
        self.names = frozenset((*self._names, *self.axes, *self.shapes))
        self._own: tuple[Sketch | None, list[str], np.ndarray] = (None, [], np.zeros(0, complex))

    def places(self, state: SketchState, at: complex, reach: float) -> list[tuple[str, complex]]:
        """Everything within ``reach`` mm of a place: the figure's own middles and quadrants, then places of edges."""
        return [*self._within(*self._of(state), at, reach), *self._within(self._names, self._at, at, reach)]

    def beside(self, sketch: Sketch) -> dict[str, Shape]:
        """Edges that are not in the sketch yet, then the axes, as curves."""
        taken = {e.source for e in sketch.curves if e.source}
        return {**{n: s for n, s in self.shapes.items() if n not in taken}, **self.axes}

    def curves_under(self, sketch: Sketch, at: complex, reach: float) -> list[str]:
        """Edges and axes within ``reach`` mm of a place, near ones first, axes last."""
        found = [
            (name in self.axes, abs(z - at), name)
            for name, s in self.beside(sketch).items()
            if (z := s.near(at, reach)) is not None
        ]
        return [n for _, _, n in sorted(found)]

    def place_of(self, state: SketchState, name: str) -> complex | None:
        """Where a named place lies; None when the name stands for none."""
        for names, at in (self._of(state), (self._names, self._at)):
            if name in names:
                return complex(at[names.index(name)])
        return None

    def shape_of(self, name: str) -> Shape | None:
        """An edge or axis as a curve."""
        return self.shapes.get(name) or self.axes.get(name)

    def _of(self, state: SketchState) -> tuple[list[str], np.ndarray]:
        sketch = state.sketch
        if self._own[0] is not sketch:
            found = [p for c in sketch.curves if not of_axis(c) for p in places_of(state.shape(c.id))]
            self._own = (sketch, [n for n, _ in found], np.array([z for _, z in found], complex))
        return self._own[1], self._own[2]

    @staticmethod
    def _within(names: list[str], at: np.ndarray, place: complex, reach: float) -> list[tuple[str, complex]]:
        if not names:
            return []
        return [(names[i], complex(at[i])) for i in np.flatnonzero(np.abs(at - place) <= reach)]


def _endless(edge: Edge) -> Straight:
    a, b = (complex(*p) for p in edge.points)
    way = (b - a) / abs(b - a) * ENDLESS
    return Straight(edge.name, a - way, a + way)


def is_name_of_thing(name: str, state: SketchState, near: Near) -> bool:
    """Whether a name stands for something of the figure, or something that it can be held on to."""
    what, thing = parted(name)
    return name in state.sketch.by_id or name in near.names or (bool(what) and thing in state.sketch.by_id)


def holding(state: SketchState, names: Iterable[str], edges: Iterable[Edge]) -> tuple[SketchState, tuple[str, ...]]:
    """The state with everything named in its figure, and the entities that the names stand for.

    Names of constraints, and of what is gone, are left out. The state itself when nothing had to be made.
    """
    wanted = [n for n in names if state.sketch.constraint(n) is None]
    try:
        sketch, found = held_on_to(state.sketch, wanted, edges)
    except LathedError:
        wanted = [n for n in wanted if n in state.sketch.by_id]
        sketch, found = state.sketch, {n: n for n in wanted}
    return (state if sketch is state.sketch else state.showing(sketch)), tuple(found[n] for n in wanted)
