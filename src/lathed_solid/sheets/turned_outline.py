"""The outline of a turned part in a drawing: a view that is alike on both sides of a level centre line.

Of such a view the upper envelope is the profile: between two places where any line ends, the outermost line is a
stretch of it, a cylinder where it is level, a cone where it slopes. Stretches that go on in one line are one. Short
slopes and chords of an arc at the end of a cylinder are its broken edge, and no stretch of their own. A line within the
profile that is alike on both sides, drawn as cut or hidden, and that begins at an end face is a bore's. All in mm on
the page, from the view's left end and from the axis.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.sheets.drawn_views import DrawnView, drawn_views
from lathed_solid.sheets.strokes import Linework

Array = Any
#: a centre line reaches over this share of its view; both sides of it agree within so many mm
REACHES, ALIKE = 0.8, 0.3
#: a bore is drawn no nearer to the axis, mm
LEAST_BORE = 0.6
#: places no farther apart are one, mm
SAME = 0.2
#: what is level, and what goes on in one line, mm
LEVEL = 0.05
#: a slope no longer along the axis than this is an edge's, mm; one of 45 degrees may be longer
BREAK, BEVEL = 3.2, 8.0


@dataclass(frozen=True)
class Stretch:
    """A stretch of the profile from ``start`` to ``end``, with its radius at both."""

    start: float
    end: float
    left: float
    right: float

    @property
    def level(self) -> bool:
        """A cylinder."""
        return abs(self.left - self.right) <= LEVEL


@dataclass(frozen=True)
class Broken:
    """An edge of a stretch: its number, at which end, how long along the axis, whether it is an arc."""

    stretch: int
    end: str
    size: float
    round: bool


@dataclass(frozen=True)
class TurnedOutline:
    """A turned profile: where its left end on the axis lies on the page, its stretches, its broken edges; the stretches
    of its bores, from the left.
    """

    origin: tuple[float, float]
    stretches: tuple[Stretch, ...]
    edges: tuple[Broken, ...] = ()
    bores: tuple[Stretch, ...] = ()

    @property
    def stops(self) -> list[float]:
        """The places where stretches meet, from 0 on."""
        return [0.0, *(s.end for s in self.stretches)]


def turned_outline(sheet: Linework) -> TurnedOutline | None:
    """The profile of the turned part that the sheet shows; None where no view is one."""
    for view in drawn_views(sheet):
        axis = _axis(view, sheet)
        if axis is None:
            continue
        segments = _segments(view, axis)
        if not len(segments):
            continue
        low = view.box[0]
        upper, lower = _envelope(segments, low), _envelope(segments * (1, -1, 1, -1), low)
        if _alike(upper, lower):
            stretches, edges = _with_edges(_joined(upper))
            if not stretches:
                return None
            bores = _bores(view, sheet, axis, upper)
            return TurnedOutline((low, axis), tuple(stretches), tuple(edges), tuple(bores))
    return None


def _axis(view: DrawnView, sheet: Linework) -> float | None:
    """The level of the centre line through a view."""
    left, low, right, high = view.box
    for s in sheet.strokes:
        a, b, c, d = s.box
        level = d - b < LEVEL and low < b < high
        if s.dashed and level and min(c, right) - max(a, left) > REACHES * (right - left):
            return (b + d) / 2
    return None


def _segments(view: DrawnView, axis: float) -> Array:
    """All pieces of the outline from left to right, (n, 4), y from the axis; upright ones left out."""
    out = []
    for s in view.strokes:
        for (x0, y0), (x1, y1) in itertools.pairwise(s.points):
            if abs(x1 - x0) > 1e-6 and abs(x1 - x0) > 0.01 * abs(y1 - y0):
                (a, b), (c, d) = sorted(((x0, y0 - axis), (x1, y1 - axis)))
                out.append((a, b, c, d))
    return np.array(out, float).reshape(-1, 4)


def _between(segments: Array, low: float, choose: Callable[[Array], Any]) -> Iterator[Stretch]:
    """Between every two places where a line ends: the line that ``choose`` takes by the heights of those there."""
    stops: list[float] = []
    for x in sorted({round(float(v), 3) for v in segments[:, [0, 2]].ravel()}):
        if not stops or x - stops[-1] > SAME / 2:
            stops.append(x)
    for a, b in itertools.pairwise(stops):
        middle = (a + b) / 2
        over = segments[(segments[:, 0] <= middle) & (middle <= segments[:, 2])]
        if len(over):
            slope = (over[:, 3] - over[:, 1]) / (over[:, 2] - over[:, 0])
            n = int(choose(over[:, 1] + slope * (middle - over[:, 0])))
            left, right = (float(over[n, 1] + slope[n] * (x - over[n, 0])) for x in (a, b))
            yield Stretch(a - low, b - low, left, right)


def _envelope(segments: Array, low: float) -> list[Stretch]:
    """The outermost line between every two places where a line ends."""
    return [s for s in _between(segments, low, np.argmax) if min(s.left, s.right) >= -ALIKE]


def _bores(view: DrawnView, sheet: Linework, axis: float, outer: Sequence[Stretch]) -> list[Stretch]:
    """The innermost lines on both sides of the axis that run from an end face inwards."""
    left, low, right, high = view.box
    hidden = [
        s for s in sheet.strokes
        if s.dashed and left - SAME <= s.box[0] and s.box[2] <= right + SAME and low <= s.box[1] and s.box[3] <= high
    ]  # fmt: skip
    inside = _segments(DrawnView((*view.strokes, *hidden), view.box), axis)
    inside = inside[np.abs(inside[:, [1, 3]]).min(axis=1) > LEAST_BORE]
    upper, lower = (_innermost(inside[inside[:, 1] * sign > 0] * (1, sign, 1, sign), left, outer) for sign in (1, -1))
    both = [s for s in _joined(upper) if any(
        abs(s.start - t.start) < ALIKE and abs(s.end - t.end) < ALIKE and abs(s.left - t.left) < ALIKE
        for t in _joined(lower)
    )]  # fmt: skip
    ends = (0.0, outer[-1].end)
    out = [s for s in both if min(abs(s.start - ends[0]), abs(s.end - ends[1])) < ALIKE]
    while True:  # a step that goes on from one that begins at an end
        more = [s for s in both if s not in out and any(
            min(abs(s.start - t.end), abs(s.end - t.start)) < ALIKE for t in out)]  # fmt: skip
        if not more:
            return sorted(out, key=lambda s: s.start)
        out += more


def _innermost(segments: Array, low: float, outer: Sequence[Stretch]) -> list[Stretch]:
    """The line nearest to the axis between every two places where a line ends, where it lies within the profile."""
    return [
        s for s in _between(segments, low, np.argmin)
        if (s.left + s.right) / 2 < _at(outer, (s.start + s.end) / 2) - ALIKE
    ]  # fmt: skip


def _alike(upper: Sequence[Stretch], lower: Sequence[Stretch]) -> bool:
    """Whether both sides of the axis say the same."""
    if not upper or not lower:
        return False
    ends = (max(upper[0].start, lower[0].start), min(upper[-1].end, lower[-1].end))
    places = np.linspace(ends[0], ends[1], 101)[1:-1]
    off = [abs(_at(upper, u) - _at(lower, u)) > ALIKE for u in places]
    return sum(off) < 0.1 * len(off)


def _at(stretches: Sequence[Stretch], u: float) -> float:
    s = next((s for s in stretches if s.start <= u <= s.end), stretches[-1])
    return s.left + (s.right - s.left) * (u - s.start) / (s.end - s.start)


def _joined(stretches: Sequence[Stretch]) -> list[Stretch]:
    """Stretches that go on in one line, as one."""
    out: list[Stretch] = []
    for s in stretches:
        if out and abs(out[-1].right - s.left) <= LEVEL and abs(_slope(out[-1]) - _slope(s)) < 0.01:
            out[-1] = Stretch(out[-1].start, s.end, out[-1].left, s.right)
        else:
            out.append(s)
    return out


def _slope(s: Stretch) -> float:
    return (s.right - s.left) / (s.end - s.start)


def _short(s: Stretch) -> bool:
    """A slope that is a broken edge, and no cone."""
    long = s.end - s.start
    return not s.level and (long < BREAK or (long < BEVEL and abs(abs(s.right - s.left) / long - 1) < 0.03))


def _with_edges(stretches: Sequence[Stretch]) -> tuple[list[Stretch], list[Broken]]:
    """Cylinders and long cones; short slopes beside a cylinder that they go on from are its edges."""
    runs: list[list[Stretch]] = []
    for s in stretches:
        small = _short(s)
        if (
            runs
            and small
            and not runs[-1][0].level
            and runs[-1][-1].end - runs[-1][0].start < BREAK
            and (abs(runs[-1][-1].right - s.left) <= LEVEL)
        ):
            runs[-1].append(s)
        else:
            runs.append([s])
    out: list[Stretch] = []
    edges: list[Broken] = []
    pending: Broken | None = None
    for n, run in enumerate(runs):
        whole = Stretch(run[0].start, run[-1].end, run[0].left, run[-1].right)
        if _short(whole):
            before = out[-1] if out else None
            after = runs[n + 1][0] if n + 1 < len(runs) else None
            goes_on = before is not None and before.level and abs(before.right - whole.left) <= LEVEL
            goes_in = after is not None and after.level and abs(after.left - whole.right) <= LEVEL
            size = whole.end - whole.start
            if goes_on and before is not None and not (goes_in and after is not None and after.left > before.left):
                out[-1] = Stretch(before.start, whole.end, before.left, before.right)
                edges.append(Broken(len(out) - 1, "right", size, len(run) > 1))
                continue
            if goes_in and after is not None:
                pending = Broken(len(out), "left", size, len(run) > 1)
                runs[n + 1][0] = Stretch(whole.start, after.end, after.left, after.right)
                edges.append(pending)
                continue
        out.append(whole)
    return out, edges


def corner(outline: TurnedOutline, x: float, y: float, within: float) -> tuple[int, str] | None:
    """The end of a stretch that a place on the page points at, (number, end): of two that meet, the larger one's."""
    u, v = x - outline.origin[0], abs(y - outline.origin[1])
    best: tuple[float, int, str] | None = None
    for n, s in enumerate(outline.stretches):
        for end, at, radius in (("left", s.start, s.left), ("right", s.end, s.right)):
            away = math.hypot(at - u, radius - v)
            if away < within and (best is None or away < best[0]):
                best = (away, n, end)
    return None if best is None else (best[1], best[2])
