"""What the datums share that later steps refer to: planes, axes, points, and the part datum.

``plane`` makes ``N/plane``, ``axis`` makes ``N/axis``, ``point`` makes ``N/point``. They are worked out on the part as
it stands at that step, so they follow the faces they come from.
"""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.part.steps.base import StepError

Names = tuple[str, ...]


#: how many names each way takes
TAKES = {
    "plane": {"offset": 1, "midway": 2, "angle": 2, "points": 3, "tangent": 1, "square": 2},
    "axis": {"of": 1, "planes": 2, "points": 2},
    "point": {"at": 0, "of": 1, "meet": 2},
}


@dataclass(frozen=True, slots=True)
class ResolvedDatum:
    """``what``: plane, axis, point or zero; ``way`` how; ``names`` from what; ``distance`` mm, ``angle`` rad, ``at``
    mm.
    """

    what: str
    way: str
    names: Names
    distance: float = 0.0
    angle: float = 0.0
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)


def check_names(what: str, way: str, names: Names) -> None:
    """As many names as the way takes. Raises StepError."""
    wanted = TAKES[what][way]
    if len(names) != wanted:
        raise StepError(f"this way takes {wanted} name{'s' if wanted != 1 else ''}, not {len(names)}", where="from",
                        hint="pick faces, edges or corners in the solid")  # fmt: skip
