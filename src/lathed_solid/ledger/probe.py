"""How a callout is measured: which named faces of the finished solid, and what about them.

A probe names faces, never parameters, so that the measured value is independent of what drew the shape.
A name ending in ``*`` stands for all instances (``60/h*.wall``: the walls of all holes of step 60).

| kind         | faces               | measured                                                    |
|--------------|---------------------|-------------------------------------------------------------|
| diameter     | cylinders           | twice the radius; of several, the one farthest off          |
| diameter_at  | cone, plane, ...    | the cone's diameter where it meets the plane; where that    |
|              |                     | is not on the solid, at its end beside the next named face  |
| radius       | tori, cylinders     | the minor radius of a torus, else the radius                |
| distance     | two planes          | along the first one's normal                                |
| stretch      | round face, two planes | between the planes; where one is not on the solid, to the |
|              |                     | far end of the round face                                   |
| position     | plane, cylinders    | from the plane to the cylinders' axes                       |
| depth        | entry face, cylinders | from the entry along the axis to the far end of the wall  |
| leg          | cones               | the axial extent                                            |
| cone_angle   | cones               | the half angle, from the axis                               |
| included     | cones               | the whole angle                                             |
| taper        | cones               | n of 1:n, the length over which the diameter changes by one |
| clock        | datum plane, cylinders | the angle of the first radial hole about the plane's normal |
| bolt_circle  | cylinders           | the diameter of the circle through the axes                 |
| axes         | two cylinders       | the distance between their axes                             |
| thread_major | threaded cylinders  | the major diameter of the thread drawn on them              |
| thread_length | threaded cylinders | how much of the drawn thread the cylinder still holds       |
| angle        | two planes          | between them, or its supplement if that is nearer           |
| gap          | any two faces       | the least distance between them: a wall, a clearance        |
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from lathed_solid.record import Record

ProbeKind = Literal[
    "diameter",
    "diameter_at",
    "radius",
    "distance",
    "stretch",
    "position",
    "depth",
    "leg",
    "cone_angle",
    "included",
    "taper",
    "clock",
    "bolt_circle",
    "axes",
    "angle",
    "thread_major",
    "thread_length",
    "gap",
]


class Probe(Record):
    """One way of measuring on named faces; see the table in the module's docstring."""

    kind: ProbeKind
    faces: tuple[str, ...] = Field(min_length=1, max_length=8)
