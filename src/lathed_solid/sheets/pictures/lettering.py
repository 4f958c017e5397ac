"""The lettering of a straight sheet: where it stands, what it says, how sure that is.

Two passes look for lettering, upright and turned by a quarter, for each misses some of what runs along the other
(measured: a turned number in six); what both find is one. Every place is then read from the full picture, level lines
as they stand, upright ones from the right of the sheet and, where that says little, from the left (ISO 129-1, 6.2).
The reader is a network for lines of text that comes with its package (``rapidocr``: a differentiable binarisation
detector, M. Liao et al., AAAI 2020, and a CTC recogniser); what it cannot tell is left to ``misread``.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

Array = Any
#: pixels across in which lettering is looked for
ACROSS = 2400
#: two boxes are one when they share this of the smaller one
SHARED = 0.5
#: a box this much taller than wide runs upwards; one between the two is read both ways
UPRIGHT, NARROW = 2.4, 0.9
#: a reading below this is tried from the left too, and one below the second is none
AGAIN, LEAST = 0.85, 0.45
#: what is read is enlarged to this height, and has this much air across and along, in heights
HEIGHT, AIR, BESIDE = 48, 0.08, 0.3
#: ink is darker; ink no farther apart than this share of a box's narrow side hangs together
INK, HANGS = 150, 0.3
#: no lettering is lower, in pixels
LOWEST = 6.0
#: more places than this are no drawing's lettering
MOST = 1500


Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Seen:
    """A line of lettering: its box (left, top, right, bottom) in pixels, 0 or 90 degrees, how sure, 0 to 1."""

    text: str
    box: tuple[float, float, float, float]
    angle: int
    sure: float


def lettering(light: Array, ends: Sequence[tuple[float, float]] = ()) -> list[Seen]:
    """Every line of lettering on a straight sheet in even light (rows, columns; 0 to 255). ``ends``: where dimension
    lines end on one another, (x, y) in pixels: what stands on both sides of one is no one text.
    """
    reader = _reader()
    boxes = _once(_places(reader, light) + _turned_places(reader, light))[:MOST]
    boxes = [part for b in boxes for part in _apart(light, b, ends)]
    tall = [(b[3] - b[1]) / max(1.0, b[2] - b[0]) for b in boxes]
    level = [b for b, t in zip(boxes, tall, strict=True) if t < UPRIGHT]
    upright = [b for b, t in zip(boxes, tall, strict=True) if t > NARROW]
    found = {b: Seen(t, b, 0, s) for b, (t, s) in zip(level, _read(reader, light, level, None), strict=True)}
    for b, s in zip(upright, _turned(reader, light, upright), strict=True):
        stood = found.get(b)
        if stood is None or not _stands(stood, s):
            found[b] = s
    return [s for s in found.values() if s.text.strip() and s.sure >= LEAST]


def tall(light: Array) -> float:
    """How high the lettering of a picture mostly is, in pixels."""
    sides = sorted(min(b[2] - b[0], b[3] - b[1]) for b in _places(_reader(), light))
    # what is slanted has a higher box than its letters are
    return max(LOWEST, sides[len(sides) // 4]) if sides else HEIGHT


def _apart(light: Array, box: Box, ends: Sequence[tuple[float, float]]) -> list[Box]:
    """A box of several numbers of a chain, cut where their lines end; each part as large as what stands in it."""
    left, top, right, bottom = box
    level = right - left > bottom - top
    tall = min(right - left, bottom - top)
    middle = (top + bottom) / 2 if level else (left + right) / 2
    low, high = (left, right) if level else (top, bottom)
    cuts = sorted(
        u for u, v in (e if level else e[::-1] for e in ends)
        if abs(v - middle) < tall / 2 and low + tall / 2 < u < high - tall / 2
    )  # fmt: skip
    if not cuts:
        return [box]
    stops = [low - tall / 3, *cuts, high + tall / 3]
    parts = [(a + tall / 3, b - tall / 3) for a, b in itertools.pairwise(stops) if b - a > 1.2 * tall]
    cut: list[Box] = [(a, top, b, bottom) if level else (left, a, right, b) for a, b in parts]
    return [t for b in cut if (t := _trimmed(light, b, level=level)) is not None]


def _trimmed(light: Array, box: Box, *, level: bool) -> Box | None:
    """The most ink of a box that hangs together along it: arrowheads and ends of lines are left out."""
    left, top, right, bottom = (round(max(v, 0.0)) for v in box)
    dark = light[top:bottom, left:right] < INK
    along = dark.any(axis=0 if level else 1)
    runs: list[list[int]] = []
    for u in np.flatnonzero(along):
        if runs and u - runs[-1][1] <= HANGS * min(dark.shape):
            runs[-1][1] = int(u)
        else:
            runs.append([int(u), int(u)])
    if not runs:
        return None
    a, b = max(runs, key=lambda r: int((dark[:, r[0] : r[1] + 1] if level else dark[r[0] : r[1] + 1]).sum()))
    across = np.flatnonzero((dark[:, a : b + 1] if level else dark[a : b + 1]).any(axis=1 if level else 0))
    low, high, air = int(across[0]), int(across[-1]), 4
    if level:
        return left + a - air, top + low - air, left + b + air, top + high + air
    return left + low - air, top + a - air, left + high + air, top + b + air


def _stands(level: Seen, turned: Seen) -> bool:
    """Of a box that is read both ways, whether the lettering stands level: only one letter is taller than wide."""
    left, top, right, bottom = level.box
    if len(level.text.strip()) > 1 and bottom - top > right - left:
        return False
    return level.sure >= turned.sure or len(turned.text.strip()) <= 1


def _turned(reader: Any, light: Array, boxes: Sequence[Box]) -> list[Seen]:
    """Lettering that runs upwards: from the right of the sheet, or from the left where that says more."""
    right = _read(reader, light, boxes, cv2.ROTATE_90_CLOCKWISE)
    poor = [i for i, (_, sure) in enumerate(right) if sure < AGAIN]
    left = _read(reader, light, [boxes[i] for i in poor], cv2.ROTATE_90_COUNTERCLOCKWISE)
    for i, other in zip(poor, left, strict=True):
        if other[1] > right[i][1]:
            right[i] = other
    return [Seen(t, b, 90, s) for b, (t, s) in zip(boxes, right, strict=True)]


def _reader() -> Any:
    from rapidocr import RapidOCR

    return RapidOCR(params={"Global.log_level": "critical", "Global.max_side_len": ACROSS})


def _places(reader: Any, light: Array) -> list[Box]:
    """Boxes of lettering, in pixels of the whole picture."""
    found = reader(cv2.cvtColor(light, cv2.COLOR_GRAY2BGR), use_det=True, use_cls=False, use_rec=False).boxes
    if found is None:
        return []
    return [(*map(float, b.min(axis=0)), *map(float, b.max(axis=0))) for b in np.asarray(found, float)]  # type: ignore[misc]


def _turned_places(reader: Any, light: Array) -> list[Box]:
    """The same of the picture turned clockwise, as boxes of the picture itself."""
    height = light.shape[0]
    turned = _places(reader, cv2.rotate(light, cv2.ROTATE_90_CLOCKWISE))
    return [(top, height - right, bottom, height - left) for left, top, right, bottom in turned]


def _once(boxes: Sequence[Box]) -> list[Box]:
    """Boxes that overlap are one: the larger stays."""
    out: list[Box] = []
    for b in sorted(boxes, key=lambda b: -(b[2] - b[0]) * (b[3] - b[1])):
        area = (b[2] - b[0]) * (b[3] - b[1])
        for other in out:
            wide = min(b[2], other[2]) - max(b[0], other[0])
            high = min(b[3], other[3]) - max(b[1], other[1])
            if wide > 0 and high > 0 and wide * high > SHARED * area:
                break
        else:
            out.append(b)
    return out


def _read(reader: Any, light: Array, boxes: Sequence[Box], turn: int | None) -> list[tuple[str, float]]:
    """Text and sureness of every box, turned before it is read."""
    if not boxes:
        return []
    crops = [_crop(light, b, turn) for b in boxes]
    found = reader.recognize_txt(crops)
    return [(str(t), float(s)) for t, s in zip(found.txts, found.scores, strict=True)]


def _crop(light: Array, box: Box, turn: int | None) -> Array:
    left, top, right, bottom = box
    tall = right - left if turn is not None else bottom - top
    across, along = (AIR * tall, BESIDE * tall) if turn is not None else (BESIDE * tall, AIR * tall)
    height, width = light.shape
    x0, x1 = max(0, int(left - across)), min(width, int(right + across) + 1)
    y0, y1 = max(0, int(top - along)), min(height, int(bottom + along) + 1)
    crop = light[y0:y1, x0:x1]
    if turn is not None:
        crop = cv2.rotate(crop, turn)
    share = HEIGHT / max(1, crop.shape[0])
    if share > 1:
        crop = cv2.resize(crop, None, fx=share, fy=share, interpolation=cv2.INTER_CUBIC)
    return cv2.cvtColor(crop, cv2.COLOR_GRAY2BGR)
