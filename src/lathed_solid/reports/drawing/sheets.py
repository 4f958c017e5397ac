"""Sheets and scales: which sheet a drawing takes, at which scale, and where its views stand (ISO 5455, 5457, 5456-2).

Views stand in a cross about the front: in third angle what is seen from above stands above, in first angle below. Each
column is as wide as the widest of its views with all its dimensions, about the common axis of projection.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from lathed_solid.kernel.drawing.figures import Place, SideName
from lathed_solid.reports.drawing.meeting import boxes_of, over_boxes, overlap
from lathed_solid.reports.drawing.model import Box

if TYPE_CHECKING:
    from lathed_solid.reports.drawing.views import Arranged

Angle = Literal["first", "third"]
#: width and height, mm, lying; smallest first
METRIC: Mapping[str, tuple[float, float]] = {
    "A4": (297.0, 210.0), "A3": (420.0, 297.0), "A2": (594.0, 420.0), "A1": (841.0, 594.0), "A0": (1189.0, 841.0),
}  # fmt: skip
INCH: Mapping[str, tuple[float, float]] = {
    "A": (279.4, 215.9), "B": (431.8, 279.4), "C": (558.8, 431.8), "D": (863.6, 558.8), "E": (1117.6, 863.6),
}  # fmt: skip
SIZES = {**METRIC, **INCH}
#: enlarging and reducing scales of ISO 5455
SCALES = tuple(s * 10.0**n for n in (1, 0, -1, -2) for s in (5.0, 2.0, 1.0))
#: margins of the frame: left, others, mm; title block; between views; the largest side on paper is at least so wide
LEFT, MARGIN, TITLE, BETWEEN, LEAST = 20.0, 10.0, (170.0, 34.0), 10.0, 60.0
#: between places that are tried for a detail, mm
GRID = 4.0
#: no view's lettering stands nearer to the frame, mm
OFF_FRAME = 3.0
#: the title block takes no more of the frame's width
SHARE = 0.55
#: room above the title block, mm
ABOVE = 8.0
#: column and row of each side in third angle
_THIRD: Mapping[SideName, tuple[int, int]] = {
    "front": (0, 0), "top": (0, 1), "right": (1, 0), "left": (-1, 0), "bottom": (0, -1), "back": (2, 0),
}  # fmt: skip


@dataclass(frozen=True)
class Laid:
    """Where each view's origin lies on the sheet, in the order of the views."""

    origins: tuple[Place, ...]


def frame_of(size: str) -> Box:
    """The frame within a sheet."""
    width, height = SIZES[size]
    return (LEFT, MARGIN, width - MARGIN, height - MARGIN)


def title_box(size: str) -> Box:
    """The title block's room, low at the right."""
    left, low, right, _ = frame_of(size)
    return (right - min(TITLE[0], SHARE * (right - left)), low, right, low + TITLE[1])


def taken_box(size: str, table: float = 0.0) -> Box:
    """The title block with what may stand above it: a ``table`` so many mm high, and a line."""
    left, low, right, high = title_box(size)
    return (left, low, right, high + table + ABOVE)


def laid(views: Sequence[Arranged], size: str, angle: Angle, taken: Sequence[Box]) -> Laid | None:
    """The views on a sheet, off what is ``taken`` of it, details wherever there is room nearest to what they enlarge;
    None where they do not fit.
    """
    sides = [v for v in views if v.detail is None]
    found = _in_cross(sides, size, angle, taken)
    if found is None or len(sides) == len(views):
        return found
    at = dict(zip((v.side.side for v in sides), found.origins, strict=True))
    rooms = [*taken, *(_moved(v.room, at[v.side.side]) for v in sides)]
    origins = list(found.origins)
    for v in views[len(sides) :]:
        place = _loose(v, at[v.side.side], size, rooms)
        if place is None:
            return None
        origins.append(place)
        rooms.append(_moved(v.room, place))
    return Laid(tuple(origins))


def _loose(view: Arranged, parent: Place, size: str, rooms: Sequence[Box]) -> Place | None:
    """A free place for a detail, the nearest to its circle in the ``parent`` view."""
    left, low, right, high = frame_of(size)
    a, b, c, d = view.room
    # its own origin is enlarged with it: what lies in its middle lies in its parent so much nearer to that one's
    middle = ((view.box[0] + view.box[2]) / 2, (view.box[1] + view.box[3]) / 2)
    ring = (parent[0] + middle[0] / view.larger, parent[1] + middle[1] / view.larger)
    xs = np.arange(left + OFF_FRAME - a, right - OFF_FRAME - c, GRID)
    ys = np.arange(low + OFF_FRAME - b, high - OFF_FRAME - d, GRID)
    places = np.array([(x, y) for x in xs for y in ys]).reshape(-1, 2)
    boxes = np.column_stack([places[:, 0] + a, places[:, 1] + b, places[:, 0] + c, places[:, 1] + d])
    free = places[over_boxes(boxes, boxes_of(rooms)) == 0]
    if not len(free):
        return None
    away = np.hypot(free[:, 0] + middle[0] - ring[0], free[:, 1] + middle[1] - ring[1])
    x, y = free[int(away.argmin())]
    return float(x), float(y)


def _in_cross(views: Sequence[Arranged], size: str, angle: Angle, taken: Sequence[Box]) -> Laid | None:
    cells = [_cell(v.side.side, angle) for v in views]
    columns, rows = (_tracks(views, cells, k) for k in (0, 1))
    wide, tall = (sum(t[0] + t[1] for t in tracks.values()) + BETWEEN * (len(tracks) - 1) for tracks in (columns, rows))
    left, low, right, high = frame_of(size)
    left, low, right, high = left + OFF_FRAME, low + OFF_FRAME, right - OFF_FRAME, high - OFF_FRAME
    if wide > right - left or tall > high - low:
        return None
    for share_x, share_y in ((0.5, 0.5), (0.5, 1.0), (0.0, 1.0), (0.0, 0.5), (0.25, 0.75)):
        x0, y0 = left + share_x * (right - left - wide), low + share_y * (high - low - tall)
        xs, ys = _origins(columns, x0), _origins(rows, y0)
        origins = tuple((xs[c], ys[r]) for c, r in cells)
        rooms = [_moved(v.room, o) for v, o in zip(views, origins, strict=True)]
        if not any(overlap(room, t) for room in rooms for t in taken):
            return Laid(origins)
    return None


def _cell(side: SideName, angle: Angle) -> tuple[int, int]:
    column, row = _THIRD[side]
    return (column, row) if angle == "third" or side == "back" else (-column, -row)


def _tracks(views: Sequence[Arranged], cells: Sequence[tuple[int, int]], k: int) -> dict[int, tuple[float, float]]:
    """How far each column (row) reaches before and behind its axis."""
    out: dict[int, tuple[float, float]] = {}
    for v, cell in zip(views, cells, strict=True):
        before, behind = out.get(cell[k], (-1e9, -1e9))
        out[cell[k]] = (max(before, -v.room[k]), max(behind, v.room[k + 2]))
    return dict(sorted(out.items()))


def _origins(tracks: Mapping[int, tuple[float, float]], start: float) -> dict[int, float]:
    out, at = {}, start
    for key, (before, behind) in tracks.items():
        out[key] = at + before
        at += before + behind + BETWEEN
    return out


def _moved(box: Box, by: Place) -> Box:
    return box[0] + by[0], box[1] + by[1], box[2] + by[0], box[3] + by[1]
