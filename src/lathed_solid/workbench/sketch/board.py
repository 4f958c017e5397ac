"""The drawing board: one sketch under the pointer. What lies where, what is chosen, what is drawn with.

Pointing and keys go to the interaction in hand (``interactions``): picking, drawing with a tool, taking regions,
placing dimensions, trimming, taking edges. The board changes nothing of the sketch itself: it tells what was drawn,
picked or asked for. Places are mm as complex numbers, pointers are pixels.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, field
from typing import Protocol

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.geometry import Shape, Straight
from lathed_solid.sketch.holds import QUADRANTS, edge_shape, parted
from lathed_solid.sketch.infer import Snap, snap
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.outside import of_axis
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.sketch.holding import Near, holding, is_name_of_thing
from lathed_solid.workbench.sketch.paper import Paper
from lathed_solid.workbench.sketch.places import spot
from lathed_solid.workbench.sketch.view_model import SketchState

#: what is nearer to the pointer is meant, pixels
REACH = 9.0
#: over a dimension's text, a curve must be as near as this to be meant, pixels
RIGHT_THERE = 3.0
#: a press that moves less is a click, pixels
STILL = 4.0
#: a sheet is so large where nothing is drawn, mm
EMPTY = 50 + 50j


class Interaction(Protocol):
    """What the pointer and the keys do; ``mode`` names it, ``hint`` says what the next click does."""

    mode: str

    @property
    def hint(self) -> str: ...
    def refresh(self) -> None: ...
    def press(self, at: complex) -> None: ...
    def move(self, at: complex, held: bool) -> None: ...
    def release(self, at: complex, add: bool) -> None: ...
    def double(self, at: complex) -> None: ...
    def cancel(self) -> bool: ...
    def accept(self) -> bool: ...
    def typed(self, text: str) -> bool: ...


@dataclass
class ToolSettings:
    """What a tool draws with beside its clicks: typed sizes by label, and what was asked for when it was begun."""

    texts: dict[str, str] = field(default_factory=dict)
    values: Values = field(default_factory=dict)
    infer: bool = True
    sides: int = 6
    text: str = ""
    #: a line that lettering runs along
    along: str = ""


class DrawingBoard:
    """Signals: to be painted anew; what was drawn or dragged (label, figure); what was picked or asked for; words."""

    def __init__(self, state: SketchState) -> None:
        self.state, self.paper = state, Paper()
        self.chosen: tuple[str, ...] = ()
        self.regions: tuple[str, ...] = ()
        self.settings = ToolSettings()
        self.outline = ()
        #: a dimension that stands and waits for its value
        self.pending: Constraint | None = None
        self.ghost: np.ndarray | None = None
        self.movement: np.ndarray | None = None
        #: the figure while it is being dragged, and what of it moves
        self.dragged: np.ndarray | None = None
        self.moving: frozenset[str] = frozenset()
        self.cursor: complex | None = None
        #: where the pointer was last, also when something stands over the drawing now
        self.last: complex | None = None
        self.hover: str | None = None
        #: where the texts of dimensions stand, (left, top, right, bottom) in pixels, as they were painted last
        self.boxes: dict[str, tuple[float, float, float, float]] = {}
        self.interaction: Interaction | None = None
        self._pressed: dict[str, complex] = {}
        self._held: complex | None = None
        self.changed: Signal[()] = Signal()
        self.drawn: Signal[str, Sketch] = Signal()
        self.picked: Signal[tuple[str, ...]] = Signal()
        self.region_clicked: Signal[str] = Signal()
        self.placed: Signal[Constraint] = Signal()
        self.cut_at: Signal[str, complex] = Signal()
        self.edge_clicked: Signal[str] = Signal()
        self.dimension_opened: Signal[str] = Signal()
        self.value_typed: Signal[str] = Signal()
        self.hinted: Signal[str] = Signal()
        self.let_go: Signal[()] = Signal()
        self.told: Signal[str, bool] = Signal()

    @property
    def outline(self) -> tuple[Edge, ...]:
        """The body beneath, and what else is laid into the plane."""
        return self._outline

    @outline.setter
    def outline(self, edges: tuple[Edge, ...]) -> None:
        """Another body beneath."""
        self._outline, self.near = edges, Near(edges)

    def holding(self) -> tuple[SketchState, tuple[str, ...]]:
        """The state with everything that is picked in its figure, and the entities that are picked."""
        return holding(self.state, self.chosen, self.outline)

    @property
    def mode(self) -> str:
        """The interaction in hand."""
        return self.interaction.mode if self.interaction is not None else "pick"

    def turn_to(self, interaction: Interaction) -> None:
        """Another interaction; typed sizes go with the old one."""
        self.interaction, self.hover, self._held = interaction, None, None
        self.dragged = None
        self.settings.texts, self.settings.values = {}, {}
        self.hinted.emit(interaction.hint)
        self.changed.emit()

    # what is shown -------------------------------------------------------------------------------
    def refresh(self) -> None:
        """The state was loaded anew: what is gone is no longer chosen."""
        said = {c.id for c in self.state.sketch.constraints}
        self.chosen = tuple(n for n in self.chosen if n in said or is_name_of_thing(n, self.state, self.near))
        if self.pending is not None and not set(self.holding()[0].sketch.by_id).issuperset(self.pending.of):
            self.pending = None
        self.dragged = self.ghost = self.movement = None
        if self.interaction is not None:
            self.interaction.refresh()
        self.changed.emit()

    def resize(self, width: int, height: int) -> None:
        """The pane has another size; what was fitted is fitted again."""
        self.paper.size = (width, height)
        self.fit_if_untouched()

    def fit_if_untouched(self) -> None:
        """Fit again, unless there was work on the paper, or it was moved or zoomed by hand."""
        if self.paper.fitted:
            self.fit()

    def fit(self) -> None:
        """Show everything, or a sheet of 100 mm when nothing is drawn."""
        sketch = self.state.sketch
        boxes = [self.state.shape(c.id).box for c in sketch.curves if not of_axis(c)]
        boxes += [s.box for s in self.state.letters]
        boxes += [(z.real, z.imag, z.real, z.imag) for z in self.state.label_places()]
        boxes += [(z.real, z.imag, z.real, z.imag) for edge in self.outline if "|~datum" not in edge.name
                  for z in edge_line(edge)]  # fmt: skip
        if boxes:
            b = np.array(boxes)
            self.paper.fit(complex(*b[:, :2].min(axis=0)), complex(*b[:, 2:].max(axis=0)))
        else:
            self.paper.fit(-EMPTY, EMPTY)
        self.changed.emit()

    def choose(self, names: tuple[str, ...]) -> None:
        """Pick these."""
        self.chosen = names
        self.picked.emit(names)
        self.changed.emit()

    def pressed_at(self, name: str) -> complex:
        """Where a thing was last clicked; its middle when it never was."""
        if name in self._pressed:
            return self._pressed[name]
        curve = self.state.sketch.by_id.get(name)
        place = self.near.place_of(self.state, name)
        if place is not None or curve is None:
            return place or 0j
        return spot(self.state.sketch, name) if curve.kind == "point" else self.state.shape(name).at(0.5)

    def clicked(self, name: str, at: complex) -> None:
        """An entity was clicked at a place."""
        self._pressed[name] = at

    # what lies where -----------------------------------------------------------------------------
    def under(self, at: complex) -> str | None:
        """Point, curve or dimension under a pixel: what is drawn before the texts that stand over it."""
        return next(iter(self.all_under(at)), None)

    def all_under(self, at: complex) -> list[str]:
        """Everything under a pixel, what is meant first in front.

        A point before a curve; a dimension's text before a curve that is not right under the pointer.
        """
        label = self.label_under(at)
        place, reach = self.paper.place(at), self.paper.mm(REACH)
        point = self.state.nearest_point(place, reach * 0.8)
        curves = self.state.near_curves(place, reach)
        right_there = label is None or bool(curves and curves[0][0] <= self.paper.mm(RIGHT_THERE))
        names = [name for _, name in curves]
        order = [point, *names, label] if right_there else [point, label, *names]
        if self.settings.infer:
            # what is drawn is meant first, then corners, edges and axes; a middle or quadrant by a further click
            near, sketch = self.near, self.state.sketch
            places = [n for n, _ in near.places(self.state, place, reach * 0.8)]
            corners = [n for n in places if parted(n)[0] not in ("middle", *QUADRANTS)]
            order += [*corners, *near.curves_under(sketch, place, reach), *(n for n in places if n not in corners)]
        return list(dict.fromkeys(n for n in order if n is not None))

    def label_under(self, at: complex) -> str | None:
        """The dimension whose text stands under a pixel."""
        for name, (left, top, right, bottom) in self.boxes.items():
            if left <= at.real <= right and top <= at.imag <= bottom:
                return name
        return None

    def edge_under(self, at: complex) -> str | None:
        """The body's edge nearest to a pixel."""
        best: tuple[float, str] | None = None
        for edge in self.outline:
            points = [self.paper.pixel(z) for z in edge_line(edge)]
            # a corner lies on its edges: near it, it is meant
            d = abs(at - points[0]) - REACH / 2 if edge.kind == "point" else distance_to(points, at)
            if d <= REACH and (best is None or d < best[0]):
                best = (d, edge.name)
        return best[1] if best else None

    def snap(self, at: complex) -> Snap:
        """What a click at a pixel would be tied to: a point, a middle, a curve, the origin, or nothing."""
        place = self.paper.place(at)
        if not self.settings.infer:
            return Snap(place)
        sketch, reach = self.state.sketch, self.paper.mm(REACH)
        shapes = {c.id: self.state.shape(c.id) for c in sketch.curves if not of_axis(c)}
        places = self.near.places(self.state, place, reach)
        found = snap(sketch, shapes, place, reach, places, self.near.beside(sketch))
        return Snap(0j, "fixed") if found.entity == "origin" else found

    def within(self, a: complex, b: complex) -> tuple[str, ...]:
        """Curves, and points that stand alone, wholly within a window between two places."""
        x0, x1 = sorted((a.real, b.real))
        y0, y1 = sorted((a.imag, b.imag))

        def inside(z: complex) -> bool:
            return x0 <= z.real <= x1 and y0 <= z.imag <= y1

        sketch = self.state.sketch
        curves = [
            c for c in sketch.curves if not of_axis(c) and all(inside(z) for z in curve_line(self.state.shape(c.id)))
        ]
        ends = {p for c in sketch.curves for p in c.points}
        alone = [p for p in sketch.points if p.id not in ends and not of_axis(p) and inside(complex(p.x, p.y))]
        return (*(c.id for c in curves), *(p.id for p in alone))

    # pointer and keys ----------------------------------------------------------------------------
    def press(self, at: complex) -> None:
        """The left button goes down."""
        self.paper.fitted = False  # under the hand, the paper stays where it is until it is asked to fit
        if self.interaction is not None:
            self._held = at
            self.interaction.press(at)

    def move(self, at: complex) -> None:
        """The pointer moves, with the left button or without."""
        self.cursor = self.last = at
        if self.interaction is not None:
            self.interaction.move(at, self._held is not None)
        self.changed.emit()

    def release(self, at: complex, *, add: bool = False) -> None:
        """The left button goes up; ``add`` (Shift) adds to what is picked."""
        held, self._held = self._held, None
        if held is not None and self.interaction is not None:
            self.interaction.release(at, add)
            self.changed.emit()

    def click(self, at: complex, *, add: bool = False) -> None:
        """Down and up at one place."""
        self.move(at)
        self.press(at)
        self.release(at, add=add)

    def double(self, at: complex) -> None:
        """A double click."""
        if self.interaction is not None:
            self.interaction.double(at)

    def leave(self) -> None:
        """The pointer leaves the pane."""
        self.hover = self.cursor = None
        self.changed.emit()

    def cancel(self) -> None:
        """Escape: what is half done, then the tool, then what is picked is let go."""
        if self.interaction is not None and self.interaction.cancel():
            self.hinted.emit(self.interaction.hint)
        elif self.mode != "pick":
            self.let_go.emit()
        else:
            self.choose(())
        self.changed.emit()

    def accept(self) -> bool:
        """Enter; whether it meant something."""
        return self.interaction is not None and self.interaction.accept()

    def typed(self, text: str) -> bool:
        """A character; whether it meant something."""
        return self.interaction is not None and self.interaction.typed(text)


def curve_line(s: Shape) -> list[complex]:
    """A curve as places on it, enough to tell whether it lies in a window."""
    if isinstance(s, Straight):
        return [s.a, s.b]
    return [s.at(t) for t in np.linspace(0, 1, 49).tolist()]


def edge_line(edge: Edge) -> list[complex]:
    """An edge of the body as places on it, mm."""
    s = edge_shape(edge)
    return curve_line(s) if s is not None else [complex(*p) for p in edge.points]


def distance_to(points: list[complex], at: complex) -> float:
    """Least distance of a place from a polyline."""
    best = math.inf
    for a, b in itertools.pairwise(points):
        d = b - a
        t = min(1.0, max(0.0, (d.conjugate() * (at - a)).real / max(abs(d) ** 2, NOTHING)))
        best = min(best, abs(a + d * t - at))
    return best
