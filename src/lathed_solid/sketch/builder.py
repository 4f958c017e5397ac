"""Making sketches: a draft collects entities and constraints, then becomes a Sketch.

Ids count up by kind: p1, l1, c1, a1, e1, s1, t1 for entities, k1 for constraints; a draft begun from a sketch goes on
from its highest numbers.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pydantic import ValidationError

from lathed_solid.sketch.constraints import ConstraintKind, check_operands
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Arc, Circle, Constraint, Ellipse, Entity, Line, Point, Sketch, Spline, Text
from lathed_solid.sketch.orient import oriented


class SketchBuilder:
    """Entities and constraints in the making; methods return the id made."""

    def __init__(self, sketch: Sketch | None = None) -> None:
        base = sketch or Sketch()
        self.entities: dict[str, Entity] = {e.id: e for e in base.entities}
        self.constraints: dict[str, Constraint] = {c.id: c for c in base.constraints}
        self._last: dict[str, int] = {}
        for name in (*self.entities, *self.constraints):
            letters = name.rstrip("0123456789")
            self._last[letters] = max(self._last.get(letters, 0), int(name[len(letters) :]))

    def name(self, letter: str) -> str:
        """A fresh id."""
        self._last[letter] = self._last.get(letter, 0) + 1
        return f"{letter}{self._last[letter]}"

    def _make(self, kind: type, letter: str, **fields: Any) -> str:
        try:
            entity = kind(id=self.name(letter), **fields)
        except ValidationError as exc:
            first = exc.errors()[0]
            raise SketchError(f"{kind.__name__.lower()}: {first['msg']}", received=first.get("input")) from None
        self.entities[entity.id] = entity
        return entity.id

    def point(self, x: float, y: float, **more: Any) -> str:
        """At x, y (mm); its name."""
        return self._make(Point, "p", x=x, y=y, **more)

    def line(self, start: str, end: str, **more: Any) -> str:
        """Between two points; its name."""
        return self._make(Line, "l", start=start, end=end, **more)

    def segment(self, a: tuple[float, float], b: tuple[float, float], **more: Any) -> str:
        """A line with two points of its own."""
        return self.line(self.point(*a), self.point(*b), **more)

    def circle(self, centre: str, radius: float, **more: Any) -> str:
        """About a point, radius in mm; its name."""
        return self._make(Circle, "c", centre=centre, radius=radius, **more)

    def arc(self, centre: str, start: str, end: str, **more: Any) -> str:
        """About a centre, counter-clockwise from start to end; its name."""
        return self._make(Arc, "a", centre=centre, start=start, end=end, **more)

    def ellipse(self, centre: str, major: str, minor: float, **more: Any) -> str:
        """About a centre, to an end of its long axis; ``minor``: half its short axis, mm. Its name."""
        return self._make(Ellipse, "e", centre=centre, major=major, minor=minor, **more)

    def spline(self, through: Iterable[str], **more: Any) -> str:
        """A natural cubic through points; its name."""
        return self._make(Spline, "s", through=tuple(through), **more)

    def text(self, at: str, text: str, height: float, **more: Any) -> str:
        """Lettering from a point on, ``height`` mm; its name."""
        return self._make(Text, "t", at=at, text=text, height=height, **more)

    def add(self, kind: ConstraintKind, *of: str, value: str = "", **more: Any) -> str:
        """A constraint; its side is read from the figure. Raises SketchError when it does not fit its operands."""
        missing = [name for name in of if name not in self.entities]
        if missing:
            raise SketchError(f"there is no {missing[0]} in the sketch", where=kind)
        try:
            check_operands(kind, tuple(self.entities[name].kind for name in of))
            made = Constraint(id=self.name("k"), kind=kind, of=of, value=value, **more)
        except ValidationError as exc:
            raise _refused(exc, kind) from None
        except ValueError as exc:
            raise SketchError(str(exc)) from None
        self.constraints[made.id] = oriented(self.figure(), made)
        return made.id

    def figure(self) -> Sketch:
        """What is drawn so far, unchecked: only for reading positions."""
        return Sketch.model_construct(
            entities=tuple(self.entities.values()), constraints=tuple(self.constraints.values())
        )

    def remove(self, *names: str) -> None:
        """Take out entities and constraints, and everything that hangs on them; points nobody uses any more go too."""
        gone = set(names)
        before = {p for n in names if n in self.entities for p in self.entities[n].points}
        while True:
            more = {e.id for e in self.entities.values() if e.id not in gone and gone & set(e.points)}
            if not more:
                break
            before |= {p for n in more for p in self.entities[n].points}
            gone |= more
        used = {p for e in self.entities.values() if e.id not in gone and e.kind != "point" for p in e.points}
        gone |= {p for p in before if p not in used}
        self.entities = {i: e for i, e in self.entities.items() if i not in gone}
        self.constraints = {i: c for i, c in self.constraints.items() if i not in gone and not gone & set(c.of)}

    def done(self) -> Sketch:
        """The sketch. Raises SketchError when it does not hang together."""
        try:
            return Sketch(entities=tuple(self.entities.values()), constraints=tuple(self.constraints.values()))
        except ValidationError as exc:
            raise _refused(exc) from None


def _refused(exc: ValidationError, where: str = "") -> SketchError:
    """The first failure of a validation."""
    return SketchError(str(exc.errors()[0]["msg"]), where=where)
