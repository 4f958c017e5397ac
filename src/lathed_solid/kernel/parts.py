"""What a route has made so far: bodies, datums, and the material that each step added or took away.

Bodies are known by the number of the step that began them. Material is kept as each step made it, so that a pattern
can repeat it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.names import Body, merged
from lathed_solid.kernel.topology import together

Triple = tuple[float, float, float]
Mode = Literal["add", "cut", "common", "new"]


@dataclass(frozen=True, slots=True)
class Datum:
    """A plane (``direction`` its normal, ``x`` in it), an axis, or a point; mm and unit directions."""

    kind: Literal["plane", "axis", "point"]
    origin: Triple
    direction: Triple = (0.0, 0.0, 1.0)
    x: Triple = (1.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class ThreadData:
    """What a drawn thread says of itself: diameter and pitch in mm, ``length`` None for all along its cylinder."""

    designation: str
    major: float
    pitch: float
    length: float | None = None
    left: bool = False
    starts: int = 1
    thread_class: str = ""


@dataclass(frozen=True)
class Made:
    """Material of one step: added to, cut from, or kept in common with the bodies ``on``."""

    mode: Mode
    tools: tuple[Body, ...] = field(repr=False)
    on: tuple[int, ...] = ()


@dataclass(frozen=True)
class Parts:
    """All of it, after some step. A value: every change makes a new one."""

    bodies: Mapping[int, Body] = field(default_factory=dict)
    datums: Mapping[str, Datum] = field(default_factory=dict)
    made: Mapping[int, tuple[Made, ...]] = field(default_factory=dict)
    #: threads drawn as symbols: name of the cylinder's face -> thread data
    threads: Mapping[str, ThreadData] = field(default_factory=dict)
    #: how those are drawn: by the face that carries them
    marks: Mapping[str, Mark] = field(default_factory=dict)

    @cached_property
    def whole(self) -> Body | None:
        """All bodies as one named shape; None when there are none."""
        found = list(self.bodies.values())
        if len(found) <= 1:
            return found[0] if found else None
        return Body(together(body.shape for body in found), merged(found))

    def with_body(self, number: int, body: Body) -> Parts:
        """With a body more, or another in its place."""
        return replace(self, bodies={**self.bodies, number: body})

    def with_bodies(self, bodies: Mapping[int, Body]) -> Parts:
        """With these bodies and no others."""
        return replace(self, bodies=dict(bodies))

    def with_datum(self, name: str, datum: Datum) -> Parts:
        """With a datum more, by its name."""
        return replace(self, datums={**self.datums, name: datum})

    def with_made(self, number: int, made: Made) -> Parts:
        """With what a step made, kept for its copies."""
        return replace(self, made={**self.made, number: (*self.made.get(number, ()), made)})

    def with_thread(self, face: str, data: ThreadData, mark: Mark | None = None) -> Parts:
        """With a drawn thread on a face, and the symbol that shows it."""
        marks = self.marks if mark is None else {**self.marks, face: mark}
        return replace(self, threads={**self.threads, face: data}, marks=marks)

    def carrying(self, name: str) -> int:
        """The body that has a face of this name. Raises BuildError when none has."""
        for number, body in self.bodies.items():
            if body.find(name):
                return number
        raise gone(self, name)

    def chosen(self, numbers: Sequence[int]) -> dict[int, Body]:
        """Bodies by number, all when none are given. Raises BuildError when one is not there."""
        for n in numbers:
            if n not in self.bodies:
                have = ", ".join(map(str, self.bodies)) or "none"
                raise BuildError(f"there is no body of step {n} here", rule=f"bodies begun so far: {have}")
        return {n: b for n, b in self.bodies.items() if not numbers or n in numbers}


def gone(parts: Parts, name: str, kind: str = "") -> BuildError:
    """The error for a face that is no longer there, with the faces that could be meant."""
    from lathed_solid.kernel.surfaces import one_surface

    body = parts.whole
    same = () if body is None else tuple(
        sorted(a for a, fs in body.by_atom.items() if not kind or one_surface(fs).kind == kind)
    )  # fmt: skip
    return BuildError(f"the face {name} is gone", hint="pick it again", missing=name, candidates=same)
