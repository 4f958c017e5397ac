"""The ink of a straight sheet thinned to chains of pixels, each with the width of its line.

Ink is thinned to lines of one pixel (T. Zhang, C. Suen, Communications of the ACM 27, 1984). Pixels with more than two
neighbours are joints; what lies between joints is a chain. Where two lines cross, thinning leaves two joints a hair
apart: a chain no longer than its line is wide makes one of them. At a joint the two chains that go on most nearly
straight are one, so that a line stays one line where others end on it or cross it, if one pen drew both; hairs that
thinning leaves at rough ink, and in arrowheads, are dropped.

How wide a line is, is how dark its section is in all, rather below the middle one of many along it: so a line of two
and a half pixels is neither two nor three wide, and an arrowhead widens none.
"""

from __future__ import annotations

import itertools
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from scipy.ndimage import map_coordinates

from lathed_solid.quantity.tolerances import ROUNDING

Array = Any
#: more pixels of thinned ink, and more chains, are no drawing: a demo's sheet has 600, grain of
#: 1500 pixels square 30 000
MOST, MOST_CHAINS = 600_000, 20_000
#: a chain with a loose end is a hair when it is shorter than this many widths of its line, or depths of its joint
HAIR, DEEP = 1.3, 1.6
#: chains go on straight when they turn by less, cosine; looked at over so many widths
STRAIGHT, OVER = 0.9, 3.0
#: sections of a line: how many, how far to both sides, how far from its ends, pixels
SECTIONS, REACH, ENDS = 60, 5.0, 5
#: the share of them that are narrower than the line is said to be: arrowheads at its ends are wider
USUALLY = 0.12
#: widths of one pen differ by less than this; those of shorter chains say nothing, pixels
ONE_PEN, TOO_SHORT = 1.4, 12
_ROUND = [(dy, dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1) if (dy, dx) != (0, 0)]


@dataclass(frozen=True)
class Chain:
    """``places`` (n, 2): column and row; the ``width`` of its line; the distance of the ``deepest`` from the paper; all
    in pixels; whether it is closed.
    """

    places: Array
    width: float
    deepest: float
    closed: bool = False


def thinned(marks: Array, light: Array) -> list[Chain]:
    """The chains of the ink ``marks`` (255 where there is ink) of a sheet in even ``light`` (0 to 255). Raises
    ValueError for more than a drawing has.
    """
    from skimage.morphology import skeletonize

    bone = skeletonize(marks > 0)
    rows, columns = np.nonzero(bone)
    if len(rows) > MOST:
        raise _too_many()
    number = np.full((bone.shape[0] + 2, bone.shape[1] + 2), -1, np.int64)
    number[rows + 1, columns + 1] = np.arange(len(rows))
    beside = np.stack([number[rows + 1 + dy, columns + 1 + dx] for dy, dx in _ROUND], axis=1)
    joint = (beside >= 0).sum(axis=1) > 2
    deep = cv2.distanceTransform((marks > 0).astype(np.uint8), cv2.DIST_L2, 5)[rows, columns]
    graph = _Graph(np.column_stack([columns, rows]).astype(float), _dark(marks, light), deep)
    around = [[int(k) for k in row[row >= 0]] for row in beside]
    graph.knots = _groups(np.flatnonzero(joint), around, joint)
    for run, closed in _runs(around, joint):
        if len(graph.chains) >= MOST_CHAINS:
            raise _too_many()
        graph.add(run, closed, around)
    return graph.joined()


def _too_many() -> ValueError:
    return ValueError("the picture has more lines than a drawing has")


def _dark(marks: Array, light: Array) -> Array:
    """How dark each pixel is, 1 for ink, 0 for paper, and for what is far from ink."""
    paper, black = (float(np.median(light[where])) for where in (marks == 0, marks > 0))
    near = cv2.dilate(marks, np.ones((3, 3), np.uint8)) > 0
    dark = np.clip((paper - light.astype(np.float32)) / max(paper - black, 1.0), 0.0, 1.0)
    return np.where(near, dark, 0.0).astype(np.float32)


def _width(dark: Array, run: Array) -> float:
    """How dark sections across a run of places (n, 2) are, rather below the middle; those at its ends do not count."""
    n = len(run)
    at = np.unique(np.linspace(min(ENDS, n // 6), n - 1 - min(ENDS, n // 6), min(n, SECTIONS)).astype(int))
    way = run[np.minimum(at + 3, n - 1)] - run[np.maximum(at - 3, 0)]
    way = way / np.maximum(np.linalg.norm(way, axis=1, keepdims=True), ROUNDING)
    off = np.arange(-REACH, REACH + 0.25, 0.5)
    x, y = (run[at, k, None] + off * across[:, None] for k, across in ((0, -way[:, 1]), (1, way[:, 0])))
    return float(np.quantile(map_coordinates(dark, [y, x], order=1).sum(axis=1) * 0.5, USUALLY))


def _groups(which: Array, around: Sequence[Sequence[int]], joint: Array) -> dict[int, int]:
    """The number of its joint for each pixel of one: pixels that touch are one joint."""
    out: dict[int, int] = {}
    for first in map(int, which):
        if first in out:
            continue
        own = len(out)
        todo = [first]
        out[first] = own
        while todo:
            for k in around[todo.pop()]:
                if joint[k] and k not in out:
                    out[k] = own
                    todo.append(k)
    return out


def _runs(around: Sequence[Sequence[int]], joint: Array) -> Iterable[tuple[list[int], bool]]:
    """The pixels between joints, in order, and whether they close."""
    seen = joint.copy()
    own = [[] if joint[i] else [k for k in near if not joint[k]] for i, near in enumerate(around)]
    ends = [i for i, near in enumerate(own) if not joint[i] and len(near) < 2]
    for start in itertools.chain(ends, range(len(own))):
        if seen[start]:
            continue
        run = [start]
        seen[start] = True
        while (after := next((k for k in own[run[-1]] if not seen[k]), None)) is not None:
            run.append(after)
            seen[after] = True
        yield run, len(run) > 2 and run[0] in own[run[-1]]


class _Graph:
    """Chains between joints, while they are put together."""

    def __init__(self, places: Array, dark: Array, deep: Array) -> None:
        self.places, self.dark, self.deep = places, dark, deep
        self.deepest: dict[int, float] = {}
        self.knots: dict[int, int] = {}
        self.chains: dict[int, list[int]] = {}
        self.closed: dict[int, bool] = {}
        self.width: dict[int, float] = {}
        #: at a joint: (chain, whether its start)
        self.ends: dict[int, set[tuple[int, bool]]] = defaultdict(set)
        self.at: dict[tuple[int, bool], int] = {}
        self._numbers = itertools.count()

    def add(self, run: list[int], closed: bool, around: Sequence[Sequence[int]]) -> None:
        """A run of pixels, with the joints that its ends touch."""
        n = next(self._numbers)
        self.chains[n], self.closed[n], self.width[n] = run, closed, _width(self.dark, self.places[run])
        if closed:
            return
        for start in (True, False):
            near = [k for k in around[run[0 if start else -1]] if k in self.knots]
            found = [self.knots[k] for k in near]
            if len(run) == 1 and not start:  # a lone pixel touches both of its joints
                found = [k for k in found if k != self.at.get((n, True))]
            if found:
                self._hang(n, start, found[0])
                self.deepest[found[0]] = max(self.deep[near])

    def _hang(self, n: int, start: bool, knot: int) -> None:
        self.ends[knot].add((n, start))
        self.at[n, start] = knot

    def _drop(self, n: int) -> None:
        for start in (True, False):
            knot = self.at.pop((n, start), None)
            if knot is not None:
                self.ends[knot].discard((n, start))
        del self.chains[n]

    def joined(self) -> list[Chain]:
        """Hairs dropped, joints a hair apart made one, chains that go on straight made one."""
        for n in list(self.chains):
            self._shorten(n)
        for knot in list(self.ends):
            self._pass(knot)
        return [
            Chain(own := self.places[run], _width(self.dark, own), float(self.deep[run].max()), self.closed[n])
            for n, run in self.chains.items()
            if len(run) > 1
        ]

    def _shorten(self, n: int) -> None:
        """Drop a hair, and a chain that only parts a crossing in two."""
        ends = [self.at.get((n, start)) for start in (True, False)]
        if self.closed[n] or ends == [None, None]:
            return
        run = self.chains[n]
        one, two = ends
        loose = one is None or two is None
        root = self.deepest[one if one is not None else two]  # type: ignore[index]
        # from a joint deep in the ink, as in an arrowhead, a hair reaches to its rim
        if len(run) > max(HAIR * self.width[n], DEEP * root if loose else 0.0):
            return
        if one is not None and two is not None and one != two:
            self._drop(n)
            for end in list(self.ends.pop(two, ())):
                self._hang(*end, one)
        elif len(self.ends[one if one is not None else two]) > 2:  # type: ignore[index]
            self._drop(n)

    def _way(self, n: int, start: bool) -> Array:
        """The direction in which a chain leaves its joint: as it begins, what it bends farther on taken off."""
        run = self.chains[n] if start else self.chains[n][::-1]
        far = min(len(run) - 1, max(2, round(OVER * self.width[n])))
        first, half, end = (self.places[run[k]] for k in (0, far // 2, far))
        way = 4 * (half - first) * (far / max(2 * (far // 2), 1)) - (end - first) if far > 3 else end - first
        return way / max(float(np.linalg.norm(way)), ROUNDING)

    def _pass(self, knot: int) -> None:
        """Join the chains that go on straight through a joint; two that one pen drew alone, however they turn."""
        while len(ends := self.ends.get(knot, set())) > 1:
            pairs = [(float(self._way(*a) @ self._way(*b)), a, b) for a, b in itertools.combinations(sorted(ends), 2)
                     if self._one_pen(a[0], b[0])]  # fmt: skip
            if not pairs:
                return
            turn, a, b = min(pairs)
            if turn > -STRAIGHT and len(pairs) > 1:
                return
            if a[0] != b[0]:
                self._join(a, b, knot)
                continue
            self.closed[a[0]] = True
            for start in (True, False):
                self.ends[knot].discard((a[0], start))
                del self.at[a[0], start]

    def _one_pen(self, a: int, b: int) -> bool:
        """Whether one pen may have drawn both chains."""
        thin, thick = sorted((self.width[a], self.width[b]))
        return min(len(self.chains[a]), len(self.chains[b])) < TOO_SHORT or thick < ONE_PEN * thin

    def _join(self, a: tuple[int, bool], b: tuple[int, bool], knot: int) -> None:
        one = self.chains[a[0]][::-1] if a[1] else self.chains[a[0]]
        two = self.chains[b[0]] if b[1] else self.chains[b[0]][::-1]
        far = [self.at.get((a[0], not a[1])), self.at.get((b[0], not b[1]))]
        self._drop(a[0])
        self._drop(b[0])
        n = next(self._numbers)
        self.chains[n], self.closed[n] = [*one, *two], False
        self.width[n] = (len(one) * self.width[a[0]] + len(two) * self.width[b[0]]) / (len(one) + len(two))
        for start, other in zip((True, False), far, strict=True):
            if other is not None:
                self._hang(n, start, other)
