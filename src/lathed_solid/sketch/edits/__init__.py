"""Edits of a sketch: functions from a sketch to a new one, each one undoable step.

Dimensions stay meaningful: what an edit makes untrue becomes a reference (a dimension) or goes (a relation), and
only among what the edit touched.
"""

from lathed_solid.sketch.edits.copies import circular, grid, mirror, row
from lathed_solid.sketch.edits.corners import chamfer, corners_of, corners_round, fillet, fillets
from lathed_solid.sketch.edits.cut import break_at, corner, extend, trim
from lathed_solid.sketch.edits.dimensions import footings, has_other_side, other_side, refoot
from lathed_solid.sketch.edits.offsets import inset, offset
from lathed_solid.sketch.edits.place import close_gaps, merge_points, move, remove, rotate, scale, set_value

__all__ = [
    "break_at",
    "chamfer",
    "circular",
    "close_gaps",
    "corner",
    "corners_of",
    "corners_round",
    "extend",
    "fillet",
    "fillets",
    "footings",
    "grid",
    "has_other_side",
    "inset",
    "merge_points",
    "mirror",
    "move",
    "offset",
    "other_side",
    "refoot",
    "remove",
    "rotate",
    "row",
    "scale",
    "set_value",
    "trim",
]
