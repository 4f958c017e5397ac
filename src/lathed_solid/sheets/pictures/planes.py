"""The lettering of a pictorial sheet's picture: it is laid flat, plane by plane, and read as a flat sheet is each time.

In the plane of two axes lettering that lies along one of them, or is slanted as the plane is, stands straight, and
dimension lines run level and upright (``sheets.pictorial``). A number is seen in some planes well, in others slanted or
not at all: what its own line bears out is taken, else what was read best, and what two planes read differently with
nothing to bear either out is doubtful.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from lathed_solid.sheets.pictorial import NAMES, Axes, Plane, axes_of, planes, runs_along
from lathed_solid.sheets.pictures.flat import USUAL
from lathed_solid.sheets.pictures.lettering import tall
from lathed_solid.sheets.strokes import WIDE

Array = Any
Offer = dict[str, Any]
Stroke = tuple[list[tuple[float, float]], float, bool]
#: reads a flat sheet: its offers with how well each was seen, and its strokes (ends in pixels, y down; mm wide; dashed)
Reads = Callable[[Array], tuple[list[Offer], list[Stroke]]]
#: strokes are looked for in a picture of at most so many pixels across; their directions are so exact, degrees
ACROSS, ALONG = 1800, 1.2
#: lettering is looked for in a plane of so many pixels across; it is read where it is so many pixels high, in planes of
#: no more pixels across than this; a plane that is smaller than the picture by this is smoothed first
LOOK, HIGH, MOST_ACROSS, SMALLER = 1600, 26, 3600, 0.75
#: grey is made so much darker where a picture is enlarged
GAIN = 1.8
#: pens of all planes, mm: where one plane's strokes are of one width they are thin, for none is told by it
THIN, THICK = 0.25, 0.5
#: around the view stays so much of the picture, share of its longer side
MARGIN = 0.12
#: what is read without a line of its own is taken from here on
SEEN = 0.85
#: a reading that is worse by more casts no doubt on one
AS_WELL = 0.04
#: two readings are of one place when their middles are no farther apart than this, narrow and wide sides of the first
ONE, HALF = 0.9, 0.45


@dataclass(frozen=True)
class Laid:
    """A picture in a plane: (2, 3) ``matrix`` from its own pixels; ``plane``; the part of it that was laid."""

    plane: Plane
    light: Array
    matrix: Array

    def back(self, points: Array) -> Array:
        """(n, 2) pixels of the picture from those of the plane."""
        return np.linalg.solve(self.matrix[:, :2], (np.asarray(points, float) - self.matrix[:, 2]).T).T


def axes_seen(light: Array) -> tuple[Axes, Array] | None:
    """The axes of a pictorial view, and the (n, 4) strokes along them in pixels; None for flat views."""
    share = min(1.0, ACROSS / max(light.shape))
    small = light if share == 1.0 else cv2.resize(light, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    found = cv2.createLineSegmentDetector().detect(small)[0]
    if found is None:
        return None
    lines = found.reshape(-1, 4) / share
    height, width = light.shape
    mm = USUAL / max(height, width)
    strokes = [([(x0 * mm, (height - y0) * mm), (x1 * mm, (height - y1) * mm)], 0.3, False) for x0, y0, x1, y1 in lines]
    axes = axes_of(strokes, width * mm, height * mm, ALONG)
    if axes is None:
        return None
    turn = np.degrees(np.arctan2(lines[:, 1] - lines[:, 3], lines[:, 2] - lines[:, 0]))
    x, y, _ = axes.degrees
    return axes, lines[runs_along(turn, x, ALONG) | runs_along(turn, y, ALONG)]


def laid(light: Array, along: Array, share: float, which: Sequence[Plane]) -> list[Laid]:
    """The part of a picture where strokes run ``along`` the axes, in planes of them, ``share`` times as large."""
    x0, y0, x1, y1 = about = _about(light, along)
    part = np.full_like(light, 255)
    part[y0:y1, x0:x1] = light[y0:y1, x0:x1]
    way = cv2.INTER_CUBIC
    if share <= SMALLER:
        part, way = cv2.GaussianBlur(part, (0, 0), 0.4 / share), cv2.INTER_AREA
    out = []
    for plane in which:
        matrix, size = _in_plane(about, plane, share)
        flat = cv2.warpAffine(part, matrix, size, flags=way, borderValue=255)
        out.append(Laid(plane, _darker(flat) if share > 1 else flat, matrix))
    return out


def _about(light: Array, along: Array) -> tuple[int, int, int, int]:
    """Left, top, right and low end of the part of a picture where strokes run ``along`` its axes, with a margin."""
    height, width = light.shape
    ends, margin = along.reshape(-1, 2), MARGIN * max(height, width)
    (left, top), (right, low) = ends.min(axis=0) - margin, ends.max(axis=0) + margin
    return max(0, int(left)), max(0, int(top)), min(width, int(right)), min(height, int(low))


def _in_plane(about: tuple[int, int, int, int], plane: Plane, share: float) -> tuple[Array, tuple[int, int]]:
    """The (2, 3) matrix that lays a part of a picture in a plane, ``share`` times as large; columns and rows there."""
    x0, y0, x1, y1 = about
    down = np.diag([1.0, -1.0])  # pixels count downwards
    turn = share * down @ np.linalg.inv(plane.columns) @ down
    there = np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], float) @ turn.T
    shift = -there.min(axis=0)
    columns, rows = np.ceil(there.max(axis=0) + shift).astype(int)
    return np.column_stack([turn, shift]), (int(columns), int(rows))


def _darker(light: Array) -> Array:
    """Thin lines of a small picture are grey when it is enlarged."""
    return np.clip(255 - GAIN * (255.0 - light), 0, 255).astype(np.uint8)


@dataclass(frozen=True)
class SeenInPlanes:
    """The offers with their places in the picture (shares of it), and its strokes in its pixels, y down; ``high``: how
    high lettering is in the picture, in pixels.
    """

    offers: list[Offer]
    strokes: list[Stroke]
    high: float


def in_planes(light: Array, axes: Axes, along: Array, reads: Reads) -> SeenInPlanes:
    """What is read in the planes, where strokes run ``along`` the axes."""
    seen: list[Offer] = []
    drawn: list[Stroke] = []
    which = planes(axes)
    share = min(HIGH / _high(light, along, which[0]), *(MOST_ACROSS / _across(light, along, plane) for plane in which))
    for n, flat in enumerate(laid(light, along, share, which)):
        offers, strokes = reads(flat.light)
        seen += [_placed(o, flat, n, light.shape) for o in offers if _worth(o)]
        # in two planes the same line along an axis that they share is found twice: one is enough
        widest = max((wide for _, wide, _ in strokes), default=0.0)
        # in a picture that is enlarged all lines are of one width
        thin = [share <= 1 and wide < WIDE * widest for _, wide, _ in strokes]
        drawn += [([tuple(p) for p in flat.back(np.array(ends))], THIN if fine or not any(thin) else THICK, dashed)
                  for (ends, _, dashed), fine in zip(strokes, thin, strict=True)
                  if n == 0 or not _shared(ends, n)]  # fmt: skip
    return SeenInPlanes(seen, drawn, HIGH / share)


def _high(light: Array, along: Array, plane: Plane) -> float:
    """How high the lettering is in the picture, in pixels: as it stands, or in a plane, whichever has it lower, for a
    slanted line's box is higher than its letters.
    """
    share = LOOK / max(light.shape)
    as_it_is = tall(cv2.resize(light, None, fx=share, fy=share, interpolation=cv2.INTER_CUBIC)) / share
    share = LOOK / _across(light, along, plane)
    (look,) = laid(light, along, share, [plane])
    return min(as_it_is, tall(look.light) / share)


def _across(light: Array, along: Array, plane: Plane) -> int:
    """Pixels across a plane, as large as the picture."""
    return max(_in_plane(_about(light, along), plane, 1.0)[1])


def _shared(ends: Sequence[tuple[float, float]], n: int) -> bool:
    """Whether a stroke of a later plane runs along an axis that an earlier one has: the upright of the second plane,
    both of the third.
    """
    (x0, y0), (x1, y1) = ends
    return n == 2 or abs(x1 - x0) < abs(y1 - y0)


def _worth(o: Offer) -> bool:
    """Whether a reading may be one; slanted lettering reads as letters and figures that are none."""
    return _borne_out(o) or o["seen"] >= SEEN


def _placed(o: Offer, flat: Laid, n: int, size: tuple[int, ...]) -> Offer:
    """An offer of a plane in the picture that it was laid from."""
    rows, columns = flat.light.shape
    left, top, right, low = (v * s for v, s in zip(o["box"], (columns, rows) * 2, strict=True))
    corners = flat.back(np.array([(left, top), (right, top), (right, low), (left, low)]))
    (x0, y0), (x1, y1) = corners.min(axis=0) / size[::-1], corners.max(axis=0) / size[::-1]
    axis = flat.plane.upright if o["angle"] else flat.plane.level
    told = {**o, "box": [float(x0), float(y0), float(x1), float(y1)],
            "angle": round(flat.plane.axes.degrees[axis]) % 360}  # fmt: skip
    if o.get("span"):
        along, *places = o["span"]
        own = flat.plane.level if along[0] == "x" else flat.plane.upright
        told["span"] = [f"{NAMES[own]}.{n}{along[1:]}", *places]
    return told


def agreed(offers: Sequence[Offer], size: tuple[int, ...]) -> list[Offer]:
    """One offer for each place: the one that its line bears out, else the one that was read best. ``size``: rows and
    columns of the picture.
    """
    out: list[Offer] = []
    places: list[tuple[float, float, float]] = []
    for o in sorted(offers, key=lambda o: (not _borne_out(o), -o["seen"])):
        x, y = (o["box"][0] + o["box"][2]) / 2 * size[1], (o["box"][1] + o["box"][3]) / 2 * size[0]
        near = next((k for k, (a, b, reach) in enumerate(places) if max(abs(a - x), abs(b - y)) <= reach), None)
        if near is None:
            out.append(o)
            wide, high = (o["box"][2] - o["box"][0]) * size[1], (o["box"][3] - o["box"][1]) * size[0]
            places.append((x, y, max(ONE * min(wide, high), HALF * max(wide, high))))
        elif o["text"] != out[near]["text"] and not _borne_out(out[near]) and o["seen"] > out[near]["seen"] - AS_WELL:
            words = f"read as {out[near]['text']} and as {o['text']}"
            out[near] = {**out[near], "put": [*out[near]["put"], words]}
    return _named(out)


def _borne_out(o: Offer) -> bool:
    return bool(o.get("span")) and o["sure"] == "sure"


def _named(offers: Sequence[Offer]) -> list[Offer]:
    """Spans of one axis in several planes count from places of their own: ``x``, ``x2``, ``x3``."""
    names: dict[str, str] = {}
    for o in offers:
        along = (o.get("span") or [""])[0]
        if "." in along and along not in names:
            number = sum(k[0] == along[0] for k in names) + 1
            names[along] = along[0] if number == 1 else f"{along[0]}{number}"
    out = []
    for o in offers:
        told = dict(o)
        if told.get("span") and told["span"][0] in names:
            told["span"] = [names[told["span"][0]], *told["span"][1:]]
        out.append(told)
    return out
