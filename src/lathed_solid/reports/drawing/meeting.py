"""What lies over what on a sheet: boxes, segments and boxes, segments and segments; for arranging, and for checking."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

import numpy as np

from lathed_solid.kernel.drawing.figures import Arc, Place
from lathed_solid.reports.drawing.model import Box, Dimension, DrawnSheet, Leader

#: segments that only touch do not cross, as a share of each; parallel ones neither
TOUCHING, PARALLEL = 1e-6, 1e-12
#: chords that stand for an arc
CHORDS = 12
#: witness lines nearer than this are one, mm
SAME = 0.05

Segment = tuple[Place, Place]


def overlap(a: Box, b: Box) -> bool:
    """Whether two boxes lie over each other."""
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def over_boxes(boxes: Any, others: Any) -> Any:
    """How many of ``others`` (m, 4) each of ``boxes`` (n, 4) lies over: (n,)."""
    a, b = boxes[:, None, :], others[None, :, :]
    return ((a[..., 0] < b[..., 2]) & (b[..., 0] < a[..., 2]) & (a[..., 1] < b[..., 3]) & (b[..., 1] < a[..., 3])).sum(
        1
    )


def inside(segments: Any, boxes: Any) -> tuple[Any, Any]:
    """From which to which share of each segment (n, 4) it lies in each box (m, 4): twice (n, m), the first greater
    where it does not. By clipping (Liang, Barsky, ACM Trans. Graph. 3, 1984); along an axis a share is without bounds.
    """
    near, far = 0.0, 1.0
    with np.errstate(divide="ignore", invalid="ignore"):
        for k in (0, 1):
            p, d = segments[:, k, None], segments[:, k + 2, None] - segments[:, k, None]
            each = 1.0 / np.where(np.abs(d) < PARALLEL, 0.0, d)
            a, b = (boxes[None, :, k] - p) * each, (boxes[None, :, k + 2] - p) * each
            near, far = np.maximum(near, np.minimum(a, b)), np.minimum(far, np.maximum(a, b))
    return near, far


def through_boxes(segments: Any, boxes: Any) -> Any:
    """Which segments (n, 4) pass through which boxes (m, 4): (n, m)."""
    near, far = inside(segments, boxes)
    return near < far  # neither where an end lies on a side that the segment runs along: not a number


def crossing(segments: Any, others: Any) -> Any:
    """Which segments (n, 4) cross which others (m, 4), ends that touch not counted: (n, m).

    p + t r = q + u s where t = (q - p) x s / (r x s) and u = (q - p) x r / (r x s).
    """
    p, r = segments[:, :2], segments[:, 2:] - segments[:, :2]
    q, s = others[:, :2], others[:, 2:] - others[:, :2]
    det = _crossed(r, s)
    with np.errstate(divide="ignore", invalid="ignore"):
        each = 1.0 / np.where(np.abs(det) > PARALLEL, det, np.nan)
        t = ((q[:, 0] * s[:, 1] - q[:, 1] * s[:, 0])[None, :] - _crossed(p, s)) * each
        u = ((p[:, 0] * r[:, 1] - p[:, 1] * r[:, 0])[:, None] + _crossed(r, q)) * -each
    half = 0.5 - TOUCHING
    return (np.abs(t - 0.5) < half) & (np.abs(u - 0.5) < half)


def _crossed(a: Any, b: Any) -> Any:
    """a x b of each of (n, 2) and each of (m, 2): (n, m)."""
    return a[:, 0, None] * b[None, :, 1] - a[:, 1, None] * b[None, :, 0]


def segments_of(segments: Iterable[Segment]) -> Any:
    """Segments as an array (n, 4)."""
    return np.array([(*a, *b) for a, b in segments], float).reshape(-1, 4)


def boxes_of(boxes: Iterable[Box]) -> Any:
    """Boxes as an array (n, 4)."""
    return np.array(list(boxes), float).reshape(-1, 4)


def gapped(segment: Segment, boxes: Sequence[Box], room: float = 0.4) -> Iterator[Segment]:
    """The pieces of a segment that do not pass through any box, nor nearer to it than ``room``."""
    wide = boxes_of((b[0] - room, b[1] - room, b[2] + room, b[3] + room) for b in boxes)
    near, far = inside(segments_of([segment]), wide)
    (ax, ay), (bx, by) = segment
    at = 0.0
    for a, b in (*sorted(zip(near[0], far[0], strict=True)), (1.0, 2.0)):
        if a < b and a > at:
            yield (ax + at * (bx - ax), ay + at * (by - ay)), (ax + a * (bx - ax), ay + a * (by - ay))
        at = max(at, float(b)) if a < b else at


def ruled(note: Leader) -> Iterator[Segment]:
    """The lines of a note: its leader's, an angle's arc as chords, and its witness lines."""
    yield from itertools.pairwise(note.runs)
    if note.opening is not None:
        yield from note.opening.chords(CHORDS)
        yield from note.opening.witnesses


def texts_over_texts(sheet: DrawnSheet) -> int:
    """Pairs of dimensions, notes and other lettering that lie over each other."""
    blocks = [[d.words.box] for d in sheet.dimensions] + [[w.box for w in n.words] for n in sheet.leaders]
    blocks += [[w.box] for w in sheet.words] + [[_around(b.ring)] for b in sheet.balloons]
    return sum(any(overlap(a, b) for a in one for b in two) for i, one in enumerate(blocks) for two in blocks[i + 1 :])


def _around(ring: Arc) -> Box:
    (x, y), r = ring.centre, ring.radius
    return x - r, y - r, x + r, y + r


def lines_over_texts(sheet: DrawnSheet) -> int:
    """Dimension lines and leaders that pass through the lettering of another dimension or note."""
    owners = [[d.words.box] for d in sheet.dimensions] + [[w.box for w in n.words] for n in sheet.leaders]
    lines = [[d.line] for d in sheet.dimensions]
    lines += [list(ruled(n)) for n in sheet.leaders]
    total = 0
    for i, own in enumerate(lines):
        others = boxes_of(b for k, found in enumerate(owners) if k != i for b in found)
        total += int(through_boxes(segments_of(own), others).sum())
    return total


def lines_crossed(sheet: DrawnSheet) -> int:
    """Witness lines that cross dimension lines of other dimensions; one that both share crosses neither."""
    total = 0
    for i, d in enumerate(sheet.dimensions):
        for k, other in enumerate(sheet.dimensions):
            if k != i:
                met = crossing(segments_of(_apart(d, other)), segments_of([other.line]))
                total += int(met.sum())
    return total


def _apart(d: Dimension, other: Dimension) -> Iterator[Segment]:
    """Witness lines that are not at the same time the other dimension's own."""
    k = int(d.upright)
    for witness in d.witnesses:
        if d.upright != other.upright or all(abs(witness[0][k] - own) > SAME for own in other.span):
            yield witness
