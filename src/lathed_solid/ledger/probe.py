"""How a callout is measured: which named faces of the finished solid, and what about them.

A probe names faces, never parameters, so that the measured value is independent of what drew the shape.
A name ending in ``*`` stands for all instances (``60/h*.wall``: the walls of all holes of step 60).

| kind          | faces               | measured                                                    |
|---------------|---------------------|-------------------------------------------------------------|
| diameter      | cylinders, spheres  | twice the radius; of several, the one farthest off          |
| arc_diameter  | cylinders           | the same of a drawn arc, of which less than a turn is left  |
| diameter_at   | cone, plane, ...    | the cone's diameter where it meets the plane; where that    |
|               |                     | is not on the solid, at its end beside the next named face  |
| mouth         | cones               | the diameter at the local rim: a countersink                |
| radius        | tori, cylinders     | the minor radius of a torus, else the radius                |
| distance      | two planes          | along the first one's normal                                |
| stretch       | round face, two planes | between the planes; where one is not on the solid, to the |
|               |                     | far end of the round face, its bevels and rounds taken in   |
| height        | top, foot, sides    | between two flat faces; where one is gone, as far as the sides reach |
| position      | plane, round faces  | from the plane to their axes                                |
| near_side, far_side | plane, round faces | from the plane to their near or far side              |
| coaxial       | two round faces about one axis | how far one lies within the other                 |
| depth         | entry face, cylinders | from the local rim along the axis to the far end of the wall |
| recess        | cylinder, flat      | how deep a flat lies below (in a bore: beyond) a cylinder   |
| slot          | two round or flat ends | over all, along the way between them                     |
| leg           | bevels (A, B)       | along the first face from where both would meet             |
| second_leg    | bevels (A, B)       | the same along the other face                               |
| bevel_angle   | bevels (A, B)       | between the bevel and the first face                        |
| cone_angle    | cones               | the half angle, from the axis                               |
| included      | cones               | the whole angle                                             |
| taper         | cones               | n of 1:n, the length over which the diameter changes by one |
| draft         | plane, flat faces   | how far the faces lean from square to the plane             |
| clock         | datum plane, cylinders | the angle of the first radial hole about the plane's normal |
| bolt_circle   | cylinders           | the circle through the axes, of the place farthest off      |
| place_x, _y   | cylinders           | where the axis stands in the frame of the face it enters    |
| spacing       | copies' prefix      | from originals to their copies ``60/1(...)``, of ``60/*`` from copy to copy:
the shift, or (``about`` turn) the angle |
| axes          | two round faces     | the distance between their axes                             |
| apart         | two round faces     | the same along a direction of a sketch                      |
| ordinate      | a flat or round face, | from a sketch's origin along a direction of the sketch, with its   |
|               | two round faces      | sign; to the middle of their axes                                  |
| thread_major  | threaded cylinders  | the major diameter of the thread drawn on them              |
| thread_length | threaded cylinders  | how much of the drawn thread the cylinder still holds       |
| real_major, real_length | faces of a real thread | from its crest, root and flanks                |
| pitch         | a real thread's, a coil's | from turn to turn                                     |
| coil_radius   | a coil's face       | the radius of the arc that was led along the helix          |
| coil_ordinate | a coil's face       | how far what was led runs off the coil's axis               |
| coil_groove, coil_ridge | two faces of a coil | along its axis across the air, the material between |
| angle         | two planes          | between them, or its supplement if that is nearer           |
| turn          | two planes          | how far a partial turn goes on from the first to the second |
| corner        | two flat faces (a third) | from the origin, or a third face, to where the two would meet |
| corners       | four flat faces     | from where the first two would meet to where the others would |
| gap           | any two faces       | the least distance between them: a wall, a clearance        |
| wall          | flat or round faces | how thick the material is behind them                       |

A name may give another to take when it is gone, ``40/l1 or @30:l1``; ``@30:l1`` is what lies in line l1 of sketch 30.
``about``: an axis of the part, or ``origin`` for the line through its origin along the holes; for circles of holes.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from lathed_solid.record import Record

ProbeKind = Literal[
    "diameter",
    "arc_diameter",
    "diameter_at",
    "mouth",
    "radius",
    "distance",
    "stretch",
    "height",
    "position",
    "near_side",
    "far_side",
    "coaxial",
    "depth",
    "recess",
    "slot",
    "leg",
    "second_leg",
    "bevel_angle",
    "cone_angle",
    "included",
    "taper",
    "draft",
    "clock",
    "bolt_circle",
    "place_x",
    "place_y",
    "spacing",
    "axes",
    "apart",
    "ordinate",
    "corner",
    "corners",
    "angle",
    "turn",
    "thread_major",
    "thread_length",
    "real_major",
    "real_length",
    "pitch",
    "coil_radius",
    "coil_ordinate",
    "coil_groove",
    "coil_ridge",
    "gap",
    "wall",
]


class Probe(Record):
    """One way of measuring on named faces; see the table in the module's docstring."""

    kind: ProbeKind
    faces: tuple[str, ...] = Field(min_length=1, max_length=8)
    about: Literal["", "origin", "turn"] = ""
    #: a sketch in whose plane ``along`` is a direction
    sketch: int = Field(default=0, ge=0, le=99_990)
    along: tuple[float, float] = (0.0, 0.0)
    #: how much of a full round a drawn arc is
    share: float = Field(default=1.0, gt=0.0, le=1.0)
