"""What a sketch's dimension runs between: the faces, axes, corners and the origin that stand at its ends."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from lathed_solid.part.names import read_edge
from lathed_solid.part.steps import FacePlane, SketchStep
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.model import Arc, Circle, Line, Point, Sketch

SQUARE = 1e-6
NEAR = 1e-6

#: whether a curve made a face of the step
On = Callable[[str], bool]

#: the name of a face and whether it is flat or round; "origin" for the sketch's own
Carrier = tuple[str, str]
ORIGIN: Carrier = ("", "origin")


@dataclass(frozen=True)
class User:
    """A step that a sketch made faces of: its curves' by ``on``, its points' by ``points`` (point -> face).

    ``how``: pushed straight, turned, or led along a helix.
    """

    number: int
    how: Literal["straight", "turned", "coiled"]
    on: On
    points: dict[str, str]
    cuts: bool = False


def carrier_of(base: SketchStep, points: list[str], along: complex, user: User, others: list[User]) -> Carrier | None:
    """What stands at an end of a dimension: of the step's own faces first, then of others', of the body, the origin."""
    sketch = base.sketch
    at = [complex(*sketch.at(p)) for p in points]
    for u in (user, *others):
        found = _made(base, at, along, u)
        if found is not None:
            return found
    taken = _taken(base, at, along)
    if taken is not None:
        return taken
    if len(at) == 1 and abs(at[0]) < NEAR:
        return ORIGIN
    for u in (user, *others):
        found = _corner(base, at, u) or _middle(base, at, u)
        if found is not None:
            return found
    return None


def _middle(base: SketchStep, at: list[complex], user: User) -> Carrier | None:
    """The middle of a line between the centres of two arcs, as that of a slot: both arcs show it."""
    sketch = base.sketch
    for c in sketch.constraints:
        if c.kind != "midpoint" or len(c.of) != 2 or len(at) != 1 or abs(complex(*sketch.at(c.of[0])) - at[0]) > NEAR:
            continue
        ends = sketch.by_id[c.of[1]].points
        arcs = [e.id for p in ends for e in sketch.entities if isinstance(e, Arc) and e.centre == p and user.on(e.id)]
        if len(ends) == len(arcs) == 2:
            return " & ".join(f"{user.number}/{a}" for a in arcs), "middle"
    return None


def _made(base: SketchStep, at: list[complex], along: complex, user: User) -> Carrier | None:
    sketch = base.sketch

    def there(point: str) -> bool:
        return any(abs(z - complex(*sketch.at(point))) < NEAR for z in at)

    about = next(
        (e for e in sketch.entities if isinstance(e, Circle | Arc) and user.on(e.id) and there(e.centre)), None
    )
    for e in sketch.entities:
        if isinstance(e, Line) and user.on(e.id) and square_to(sketch, e, at, along):
            if about is not None and not any(map(there, e.points)):
                continue  # it only runs through the centre that the dimension ends at
            # a face that grew together with another is what lies in the line
            return f"{user.number}/{e.id} or @{base.number}:{e.id}", "flat"
    if about is not None:
        return f"{user.number}/{about.id}", "round"
    for name, wall in user.points.items():
        place = complex(*sketch.at(name))
        if any(abs(z - place) < NEAR for z in at):
            return wall, "round"
    return None


def _corner(base: SketchStep, at: list[complex], user: User) -> Carrier | None:
    """The two lines that meet at an end, neither of them square to the dimension: a clipped corner.

    Where a round was put in, they meet at the point that is kept on both.
    """
    sketch, met = base.sketch, []
    if len(at) != 1:
        return None
    there = {p.id for p in sketch.points if abs(complex(p.x, p.y) - at[0]) < NEAR}
    kept = {k.of[1] for k in sketch.constraints if k.kind == "on" and k.of[0] in there}
    for e in sketch.entities:
        if isinstance(e, Line) and user.on(e.id) and (e.id in kept or not there.isdisjoint(e.points)):
            met.append(f"{user.number}/{e.id} or @{base.number}:{e.id}")
    return (" & ".join(met), "corner") if len(met) == 2 else None


def square_to(sketch: Sketch, line: Line, at: list[complex], along: complex) -> bool:
    """Whether a line stands square to the dimension and runs through its end (past a rounded corner, in its line)."""
    a, b = (complex(*sketch.at(p)) for p in line.points)
    if abs(b - a) < ROUNDING or abs(((b - a).conjugate() * along).real) >= SQUARE * abs(b - a):
        return False
    return any(abs(((b - a).conjugate() * (z - a)).imag) < NEAR * abs(b - a) for z in at)


def _taken(base: SketchStep, at: list[complex], along: complex) -> Carrier | None:
    """The face of the body under a taken edge; its axis under the centre of a taken circle."""
    sketch = base.sketch
    own = base.plane.face if isinstance(base.plane, FacePlane) else ""
    for e in sketch.entities:
        if not e.source or isinstance(e, Point):
            continue
        read = read_edge(e.source)
        if read is None:
            continue
        sides = [sorted(side)[0] for side in read.faces if own not in side] or [sorted(read.faces[0])[0]]
        if isinstance(e, Line) and square_to(sketch, e, at, along):
            return sides[0], "flat"
        if isinstance(e, Circle | Arc) and any(abs(z - complex(*sketch.at(e.centre))) < NEAR for z in at):
            return sides[0], "round"
    return None
