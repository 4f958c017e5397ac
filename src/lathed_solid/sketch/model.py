"""The sketch as a value: entities, constraints, dimensions, picked alternatives.

Points own all positions; other entities refer to points by id. A circle owns its radius, an ellipse its
minor half axis; an arc's radius is the distance of its ends from its centre. Arcs run counter-clockwise
from ``start`` to ``end``. Lengths are mm, positions are in the frame of the sketch.
"""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, model_validator

from lathed_solid.record import Record
from lathed_solid.sketch.constraints import DIMENSIONS, ConstraintKind, check_operands

Id = Annotated[str, Field(pattern=r"^[a-z]{1,2}[0-9]{1,6}$")]
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Length = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]


class _Entity(Record):
    id: Id
    construction: bool = False
    #: name of the outside edge or vertex this is projected from; its position is then not the sketch's own
    source: str = Field(default="", max_length=300)


class Point(_Entity):
    """A position."""

    kind: Literal["point"] = "point"
    x: Coordinate
    y: Coordinate

    def at(self, x: float, y: float) -> Point:
        """The same point elsewhere, unvalidated: made by hand, for every point in every frame of a drag."""
        made = object.__new__(Point)
        object.__setattr__(made, "__dict__", {**self.__dict__, "x": x, "y": y})
        for name in ("__pydantic_fields_set__", "__pydantic_extra__", "__pydantic_private__"):
            object.__setattr__(made, name, getattr(self, name))
        return made

    @property
    def points(self) -> tuple[str, ...]:
        return (self.id,)


class Line(_Entity):
    """A straight piece."""

    kind: Literal["line"] = "line"
    start: Id
    end: Id
    #: declared to be what the figure is turned about: only then are diameters meant across it
    centreline: bool = False

    @property
    def points(self) -> tuple[str, ...]:
        return (self.start, self.end)


class Circle(_Entity):
    """A full circle."""

    kind: Literal["circle"] = "circle"
    centre: Id
    radius: Length

    @property
    def points(self) -> tuple[str, ...]:
        return (self.centre,)


class Arc(_Entity):
    """A circular arc, counter-clockwise from start to end."""

    kind: Literal["arc"] = "arc"
    centre: Id
    start: Id
    end: Id

    @property
    def points(self) -> tuple[str, ...]:
        return (self.centre, self.start, self.end)


class Ellipse(_Entity):
    """A full ellipse: ``major`` is an end of its long axis, ``minor`` the other half axis."""

    kind: Literal["ellipse"] = "ellipse"
    centre: Id
    major: Id
    minor: Length

    @property
    def points(self) -> tuple[str, ...]:
        return (self.centre, self.major)


class Spline(_Entity):
    """A smooth curve through its points (cubic, natural ends, chord-length parameters)."""

    kind: Literal["spline"] = "spline"
    through: tuple[Id, ...] = Field(min_length=2, max_length=200)

    @property
    def points(self) -> tuple[str, ...]:
        return self.through


class Text(_Entity):
    """Lettering whose baseline begins at a point, or has it as its middle, and runs along x, or along a line."""

    kind: Literal["text"] = "text"
    at: Id
    text: str = Field(min_length=1, max_length=200)
    height: Length
    along: Id | None = None
    centred: bool = False

    @property
    def points(self) -> tuple[str, ...]:
        return (self.at,)


Entity = Annotated[Point | Line | Circle | Arc | Ellipse | Spline | Text, Field(discriminator="kind")]
Curve = Line | Circle | Arc | Ellipse | Spline


class Constraint(Record):
    """A relation or a dimension.

    ``value``: a dimension's expression. ``reference``: measured, in parentheses, not driving. ``sign``: -1 when the
    expression is to be taken negative here (one callout drives several dimensions). ``side``: which of the discrete
    solutions is meant (-1, +1; 0 where there is only one), set once from the figure when the constraint is made.
    ``supplement``: of an angle, that it lies between the first line and the second's extension, not its direction.
    ``inferred``: offered while drawing and taken. ``label``: where the dimension stands, from the middle of what it
    measures.
    """

    id: Id
    kind: ConstraintKind
    of: tuple[Id, ...] = Field(min_length=1, max_length=4)
    value: str = Field(default="", max_length=400)
    reference: bool = False
    sign: Literal[-1, 1] = 1
    side: Literal[-1, 0, 1] = 0
    supplement: bool = False
    inferred: bool = False
    label: tuple[Coordinate, Coordinate] | None = None


class Sketch(Record):
    """All entities and constraints, in the order they were made."""

    entities: tuple[Entity, ...] = Field(default=(), max_length=20_000)
    constraints: tuple[Constraint, ...] = Field(default=(), max_length=20_000)

    @model_validator(mode="after")
    def _sound(self) -> Sketch:
        ids = [e.id for e in self.entities] + [c.id for c in self.constraints]
        if len(set(ids)) != len(ids):
            double = next(i for i in ids if ids.count(i) > 1)
            raise ValueError(f"the id {double} stands twice")
        kinds = {e.id: e.kind for e in self.entities}
        for e in self.entities:
            wanted = [(p, "point") for p in e.points] if e.kind != "point" else []
            if isinstance(e, Text) and e.along is not None:
                wanted.append((e.along, "line"))
            for name, kind in wanted:
                if kinds.get(name) != kind:
                    raise ValueError(f"{e.id} needs the {kind} {name}, which is not there")
            if len(set(e.points)) != len(e.points):
                raise ValueError(f"{e.id} uses the same point twice")
        for c in self.constraints:
            missing = [name for name in c.of if name not in kinds]
            if missing:
                raise ValueError(f"{c.id} ({c.kind}) needs {missing[0]}, which is not there")
            check_operands(c.kind, tuple(kinds[name] for name in c.of), c.id)
        return self

    @cached_property
    def by_id(self) -> dict[str, Entity]:
        """Entities by name."""
        return {e.id: e for e in self.entities}

    @cached_property
    def points(self) -> tuple[Point, ...]:
        """All points in order."""
        return tuple(e for e in self.entities if isinstance(e, Point))

    @cached_property
    def curves(self) -> tuple[Curve, ...]:
        """All curves in order; lettering is none."""
        return tuple(e for e in self.entities if isinstance(e, Line | Circle | Arc | Ellipse | Spline))

    @cached_property
    def driving(self) -> tuple[Constraint, ...]:
        """Dimensions that say how large the figure is, in order; references only tell it."""
        return tuple(c for c in self.constraints if c.kind in DIMENSIONS and not c.reference)

    @cached_property
    def ends_on(self) -> dict[tuple[str, str], str]:
        """Ends of lines and arcs that are said to lie on another curve: (curve, other) -> the end."""
        on = {c.of[0]: c.of[1] for c in self.constraints if c.kind == "on" and not c.reference}
        if not on:
            return {}
        return {
            (e.id, on[p]): p for e in self.entities if isinstance(e, Line | Arc) for p in (e.start, e.end) if p in on
        }

    def constraint(self, name: str) -> Constraint | None:
        """By its name; None for none."""
        return next((c for c in self.constraints if c.id == name), None)

    def at(self, point: str) -> tuple[float, float]:
        """Position of a point, mm. Raises KeyError."""
        p = self.by_id[point]
        assert isinstance(p, Point)
        return p.x, p.y
