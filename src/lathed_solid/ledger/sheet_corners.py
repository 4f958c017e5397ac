"""The four corners of a photographed sheet, as they are put by hand."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

#: of a photographed sheet, shares of the picture from its top left, clockwise
Corner = tuple[Annotated[float, Field(ge=-0.5, le=1.5)], Annotated[float, Field(ge=-0.5, le=1.5)]]
Corners = tuple[Corner, Corner, Corner, Corner]
#: a sheet takes at least this share of its picture
LEAST_SHEET = 0.02


def inset_corners(share: float) -> Corners:
    """Those of the picture, inset by a share of it."""
    near, far = share, 1 - share
    return (near, near), (far, near), (far, far), (near, far)


def checked_corners(places: Sequence[Corner]) -> Corners:
    """Four places as the corners of a sheet. Raises ValueError where they are none, clockwise from the top left."""
    a, b, c, d = places
    ring = (a, b, c, d)
    turns = [
        (q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0])
        for p, q, r in zip(ring, (b, c, d, a), (c, d, a, b), strict=True)
    ]
    area = sum(p[0] * q[1] - q[0] * p[1] for p, q in zip(ring, (b, c, d, a), strict=True)) / 2
    if not all(math.isfinite(v) for p in ring for v in p) or min(turns) <= 0 or area < LEAST_SHEET:
        raise ValueError("four corners of a sheet, clockwise from its top left, none inside the others")
    return ring
