"""What a callout's number is of the thing its note describes.

A role is given by the clause that states the number, and never read from display words. ``INTRINSIC`` roles are sizes
of a feature itself: they are measured there directly, whatever expression put them into the model.
"""

from __future__ import annotations

from typing import Literal

Role = Literal[
    "diameter",
    "sphere diameter",
    "hole diameter",
    "hole depth",
    "hole depth to the tip",
    "counterbore diameter",
    "counterbore depth",
    "counterdrill diameter",
    "counterdrill depth",
    "countersink diameter",
    "countersink angle",
    "spotface diameter",
    "spotface depth",
    "bolt circle",
    "major diameter",
    "thread length",
    "drill diameter",
    "drill depth",
    "radius",
    "sphere radius",
    "general radius",
    "length",
    "depth",
    "square",
    "row total",
    "chamfer",
    "general chamfer",
    "angle",
    "taper",
    "groove width",
    "groove diameter",
    "groove depth",
    "groove radius",
    "undercut radius",
    "undercut depth",
    "keyway width",
    "keyway depth",
    "keyway length",
    "centre pilot",
    "centre countersink",
    "knurl pitch",
    "frame",
    "texture",
    "feature",
]

#: sizes of holes and what widens their mouths
OF_HOLES: frozenset[Role] = frozenset(
    {
        "hole diameter", "hole depth", "hole depth to the tip", "counterbore diameter", "counterbore depth",
        "counterdrill diameter", "counterdrill depth", "countersink diameter", "countersink angle", "spotface diameter",
        "spotface depth", "drill diameter", "drill depth", "bolt circle", "centre pilot", "centre countersink",
    }
)  # fmt: skip
#: sizes of threads
OF_THREADS: frozenset[Role] = frozenset({"major diameter", "thread length"})
#: diameters of round things
ROUND: frozenset[Role] = frozenset(
    {
        "diameter", "sphere diameter", "hole diameter", "counterbore diameter", "counterdrill diameter",
        "countersink diameter", "spotface diameter", "drill diameter", "groove diameter", "centre pilot",
        "centre countersink",
    }
)  # fmt: skip
#: radii of round things
RADII: frozenset[Role] = frozenset({"radius", "sphere radius", "general radius", "groove radius", "undercut radius"})
#: depths of holes and their widenings, from the local rim
DEPTHS: frozenset[Role] = frozenset(
    {"hole depth", "hole depth to the tip", "drill depth", "counterbore depth", "counterdrill depth", "spotface depth"}
)
#: sizes of a feature itself: measured on it directly
INTRINSIC: frozenset[Role] = ROUND | RADII | DEPTHS

#: what stands by itself and asks nothing that the solid could show: the texture of a surface, a tolerance of form or
#: place that no size stands before
ASIDE: frozenset[Role] = frozenset({"texture", "frame"})

#: the role of a callout that was made without one, by its kind
PLAIN: dict[str, Role] = {
    "diameter": "diameter",
    "radius": "radius",
    "length": "length",
    "depth": "depth",
    "angle": "angle",
    "chamfer": "chamfer",
    "taper": "taper",
}
