"""What the sketch pane shows: the solved figure, its state, and the edits that can be made. No widgets here."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.part import Document, SketchStep, driving_value, scope
from lathed_solid.part.edits import changed
from lathed_solid.quantity.formatting import angle, length
from lathed_solid.sketch.complete import FreeCallout
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.examine import Examination, dimension_values, examine, finished
from lathed_solid.sketch.geometry import Shape, shape
from lathed_solid.sketch.measure import measured
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.orient import joined, shared_end
from lathed_solid.sketch.outside import of_axis
from lathed_solid.sketch.regions import Region, regions
from lathed_solid.sketch.solve import solved, vanished
from lathed_solid.sketch.watch import TurnedOver, turned_over
from lathed_solid.workbench.sketch.places import anchor
from lathed_solid.workbench.sketch.relations import standing

#: in larger sketches what is said twice is not looked for while drawing: the window must not wait
THOROUGH_UP_TO = 500


@dataclass
class SketchState:
    """One sketch step of one document, solved and diagnosed; ``problem`` says why there is no figure."""

    document: Document = field(default_factory=Document)
    step: SketchStep | None = None
    seen: Examination | None = None
    problem: str = ""
    #: contradictions are left for ``look_for_fights``, so that the window does not wait for them
    hasty: bool = False
    #: what the values turned over of the figure as it is stored: after a change of the callouts
    turned: tuple[TurnedOver, ...] = ()
    _last: tuple[Sketch, tuple[tuple[str, float], ...]] | None = None
    _shapes: dict[str, Shape] = field(default_factory=dict)
    _regions: tuple[Region, ...] | None = None
    _letters: list[Shape] | None = None

    def load(self, document: Document, step: SketchStep) -> None:
        """Take over a step; solving and diagnosing only when figure or values changed."""
        self.document, self.step, self.problem = document, step, ""
        try:
            values = dimension_values(step.sketch, scope(document))  # type: ignore[arg-type]
            key = (step.sketch, tuple(values.items()))
            if self._last is None or key != self._last or self.seen is None:
                self.seen = examine(
                    step.sketch,
                    values,
                    label=self.label,
                    show=self.show,
                    thorough=len(step.sketch.constraints) <= THOROUGH_UP_TO,
                    fights_too=not self.hasty,
                )
                self._last = key
                self.turned = turned_over(step.sketch, self.seen.sketch) if self.seen.ok else ()
        except LathedError as exc:
            self.problem = exc.message
            self.seen = self._last = None
            self.turned = ()
        self._shapes, self._regions, self._letters = {}, None, None

    @property
    def sketch(self) -> Sketch:
        """The solved figure, or as drawn when there is no solution."""
        if self.seen is not None:
            return self.seen.sketch
        return self.step.sketch if self.step is not None else Sketch()

    def look_for_fights(self) -> Callable[[], Examination] | None:
        """What looks for this figure's contradictions, to be run beside; None when there is nothing to look for."""
        seen = self.seen
        if seen is None or not seen.unfinished:
            return None
        label, show = self.label, self.show
        return lambda: finished(seen, label, show)

    def take_fights(self, found: Examination) -> bool:
        """Take over what was found beside; False when the figure is another one by now."""
        if self.seen is None or not self.seen.unfinished or self.seen.solution is not found.solution:
            return False
        self.seen = found
        return True

    def showing(self, sketch: Sketch) -> SketchState:
        """The same step with another figure, as it is drawn."""
        seen = dataclasses.replace(self.seen, sketch=sketch) if self.seen is not None else None
        step = changed(self.step, sketch=sketch) if seen is None and self.step is not None else self.step
        return SketchState(self.document, step, seen, self.problem)

    @property
    def values(self) -> Mapping[str, float]:
        """Of the dimensions that drive, by name; mm and rad."""
        return self.seen.values if self.seen is not None else {}

    def shape(self, name: str) -> Shape:
        """Geometry of a curve, kept until the figure changes."""
        if name not in self._shapes:
            self._shapes[name] = shape(self.sketch, name)
        return self._shapes[name]

    @property
    def letters(self) -> list[Shape]:
        """Outlines of all lettering, kept until the figure changes."""
        if self._letters is None:
            from lathed_solid.sketch.lettering import outlines
            from lathed_solid.sketch.model import Text

            self._letters = []
            for e in self.sketch.entities:
                if isinstance(e, Text):
                    self._letters += outlines(self.sketch, e)
        return self._letters

    @property
    def regions(self) -> tuple[Region, ...]:
        """What the figure encloses, worked out when first asked for."""
        if self._regions is None:
            self._regions = regions(self.sketch)
        return self._regions

    # words ---------------------------------------------------------------------------------------
    @property
    def headline(self) -> str:
        """The state in a few words."""
        if self.problem:
            return self.problem
        if self.seen is None or not self.sketch.entities:
            return "nothing drawn yet"
        if self.seen.state == "loose":
            return self.seen.messages[0]
        if self.seen.state == "fighting" and not self.seen.unfinished:
            n = len(self.seen.fights)
            return f"fighting: {n} contradiction{'s' if n > 1 else ''}"
        if self.seen.unfinished:
            return "fighting"
        return {"held": "held", "stuck": "no shape found"}[self.seen.state]

    def show(self, value: float, angular: bool) -> str:
        """A value in the sheet's unit."""
        return angle(value) if angular else length(abs(value), self.document.unit)

    def label(self, c: Constraint) -> str:
        """A constraint as the trade would say it: its balloon and value, or its kind."""
        if c.kind in DIMENSIONS:
            return self.dimension_text(c, self.step.sketch if self.step else self.sketch)
        return f"{KINDS[c.kind].words} ({', '.join(c.of)})"

    def dimension_text(self, c: Constraint, on: Sketch | None = None) -> str:
        """The dimension as it stands on the drawing; references in parentheses."""
        figure = on or self.sketch
        known = self.values.get(c.id)
        if known is None:
            try:
                known = scope(self.document)(c.value, KINDS[c.kind].dimension) if c.value and not c.reference else None  # type: ignore[arg-type]
            except LathedError:
                known = None
        value = known if known is not None else measured(figure, c)
        unit = self.document.unit
        text = angle(value) if KINDS[c.kind].dimension == "angle" else length(abs(value), unit)
        head = {"radius": "R", "diameter": "⌀", "across_axis": "⌀"}.get(c.kind, "")
        return f"({head}{text})" if c.reference else f"{head}{text}"

    def balloon(self, c: Constraint) -> str:
        """The callout number of a dimension that one callout drives alone; empty otherwise."""
        text = c.value.strip()
        return text[1:] if text.startswith("#") and text[1:].isdigit() and not c.reference else ""

    def offers(self) -> list[FreeCallout]:
        """The sheet's callouts that no field holds alone yet, to be dimensions of this sketch."""
        document = self.document
        alone = {f.text.strip() for s in document.steps for f in s.fields()}
        return [
            FreeCallout(c.name, c.kind, driving_value(document, c)) for c in document.callouts
            if c.name not in alone and c.measure is None and c.kind in ("length", "diameter", "radius", "angle")
        ]  # fmt: skip

    def label_places(self) -> list[complex]:
        """Where the texts of placed dimensions stand, mm."""
        sketch = self.sketch
        return [anchor(sketch, c) + complex(*c.label) for c in sketch.constraints if c.label is not None]

    # what is where -------------------------------------------------------------------------------
    def nearest_point(self, at: complex, reach: float) -> str | None:
        """The point within ``reach`` mm nearest to a place."""
        points = [p for p in self.sketch.points if not of_axis(p)]
        if not points:
            return None
        xy = np.array([complex(p.x, p.y) for p in points])
        k = int(np.abs(xy - at).argmin())
        return points[k].id if abs(xy[k] - at) <= reach else None

    def near_curves(self, at: complex, reach: float) -> list[tuple[float, str]]:
        """Curves within ``reach`` mm of a place with their distances: drawn before construction, near ones first."""
        found: list[tuple[bool, float, str]] = []
        for c in self.sketch.curves:
            if not of_axis(c) and (z := self.shape(c.id).near(at, reach)) is not None:
                found.append((c.construction, abs(z - at), c.id))
        return [(d, name) for _, d, name in sorted(found)]

    def region_at(self, at: complex) -> Region | None:
        """The smallest region around a place."""
        from lathed_solid.sketch.regions import contains

        around = [r for r in self.regions if contains(r.outer, at) and not any(contains(h, at) for h in r.holes)]
        return min(around, key=lambda r: r.area) if around else None

    def chain(self, start: str) -> list[str]:
        """All curves that hang together with one, end to end."""
        shared = joined(self.sketch)
        found, todo = [start], [start]
        while todo:
            a = todo.pop()
            for c in self.sketch.curves:
                if c.id not in found and shared_end(self.sketch, a, c.id, shared):
                    found.append(c.id)
                    todo.append(c.id)
        return found

    # edits ---------------------------------------------------------------------------------------
    def with_sketch(self, sketch: Sketch) -> SketchStep:
        """The step with another figure, stored as solved when it can be. Raises SketchError for what has no size."""
        assert self.step is not None
        try:
            values = dimension_values(sketch, scope(self.document))  # type: ignore[arg-type]
            sketch = solved(sketch, values) or sketch
        except LathedError:
            pass  # shown as it is drawn, with the reason
        if gone := vanished(sketch):
            raise SketchError(f"{gone} would have no size", rule="a file holds sizes above zero", hint="take it out")
        return changed(self.step, sketch=Sketch(entities=sketch.entities, constraints=sketch.constraints))

    def relations_on(self, picked: tuple[str, ...], most: int = 12) -> list[tuple[str, str]]:
        """What is put on any of these already: the name and the words of the first ``most``."""
        on = standing(self.sketch, picked)[:most]
        return [(k.id, ("inferred: " if k.inferred else "") + self.label(k)) for k in on]
