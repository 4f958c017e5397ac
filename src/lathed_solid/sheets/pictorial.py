"""Pictorial sheets: one view that shows three sides of a part at once, its sizes lettered along its three axes.

Under a parallel projection each of the three planes of two axes is an affine image of a flat sheet: with A and B the
axes as drawn, a place of the page is p = u A + v B, and in (u, v) dimension lines run level and witness lines upright
as on any other sheet. So a pictorial sheet is followed three times, plane by plane, and a number's own line tells along
which axis it measures.

How much each axis is shortened follows from the directions alone where the eye looks square at the paper (isometric,
dimetric, trimetric): the squares of the three axes, as complex numbers, add up to nought (Gauss's theorem of
axonometry), f_x^2 e^(2i a) + f_y^2 e^(2i b) + f_z^2 e^(2i c) = 0, which fixes the ratios of the f. The longest is 1, so
that lengths are counted to the scale at which that axis is drawn.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations, pairwise, permutations, product
from typing import Any

import numpy as np

from lathed_solid.quantity.units import MM_PER_POINT as MM
from lathed_solid.sheets.dimension_lines import (
    EXACT,
    Candidates,
    Followed,
    Number,
    Pair,
    Slack,
    Stroke,
    candidates,
    settled,
)
from lathed_solid.sheets.strokes import Linework
from lathed_solid.sheets.title_block import inside, tables

Array = Any
Triple = tuple[float, float, float]
#: how a part is looked at: towards the eye, to the right of the paper
Ways = tuple[tuple[Triple, Triple], ...]
#: a stroke shorter than this tells no direction, mm; one longer than this share of the page is its border
SHORT, BORDER = 3.0, 0.6
#: strokes within this of a direction run along it, degrees; axes stand so far from level and from upright
ALONG, STEEP = 0.6, 8.0
#: each slanted axis has so many strokes, and as many as this share of the level ones beside tables
LEAST, SHARE = 6, 1.2
#: weight of a stroke grows up to this length, mm
LONG = 25.0
#: planes are kept apart by so much along their axes, mm of paper: a place in one is none in another
APART = 10_000.0
#: sine of the least angle between two axes as drawn
APART_BY = 0.1
NAMES = ("x", "y", "z")


@dataclass(frozen=True)
class Axes:
    """The axes as drawn: unit directions on the page, y up, and how much each is shortened (the least one is 1).

    ``x`` runs to the right and down, ``y`` to the right and up, ``z`` upwards: the part is seen from its front, its
    right and above.
    """

    degrees: tuple[float, float, float]
    shortened: tuple[float, float, float]

    @property
    def eye(self) -> Triple:
        """From the part towards the eye: what both directions of the paper are square to."""
        right, up = np.column_stack([self.vector(n) for n in range(3)])
        x, y, z = np.cross(right, up)
        return float(x), float(y), float(z)

    @property
    def views(self) -> Ways:
        """The ways in which a part may be seen so, whichever of its axes are those drawn: from it towards the eye, and
        to the right of the paper. They are the 24 turns of a cube; that as drawn comes first.
        """
        right = np.array([self.vector(n)[0] for n in range(3)])
        right /= np.linalg.norm(right)
        eye = np.array(self.eye) / np.linalg.norm(self.eye)
        turns = [
            np.array([[s if j == k else 0.0 for j in range(3)] for k, s in zip(order, signs, strict=True)])
            for order in permutations(range(3)) for signs in product((1.0, -1.0), repeat=3)
        ]  # fmt: skip
        proper = sorted((t for t in turns if np.linalg.det(t) > 0), key=lambda t: (-t[2, 2], -t[0, 0], -t[0, 1]))
        return tuple(
            ((float(e[0]), float(e[1]), float(e[2])), (float(r[0]), float(r[1]), float(r[2])))
            for e, r in ((t @ eye, t @ right) for t in proper)
        )

    def vector(self, n: int) -> Array:
        """An axis as drawn, of a length of 1."""
        turn = math.radians(self.degrees[n])
        return self.shortened[n] * np.array([math.cos(turn), math.sin(turn)])


@dataclass(frozen=True)
class Plane:
    """A plane of two axes, by their numbers: places of the page in (u, v) along them."""

    axes: Axes
    level: int
    upright: int

    @property
    def columns(self) -> Array:
        """(2, 2): p = columns (u, v)."""
        return np.column_stack([self.axes.vector(self.level), self.axes.vector(self.upright)])

    def flat(self, points: Array) -> Array:
        """(n, 2) places of the page in the plane."""
        return np.linalg.solve(self.columns, np.asarray(points, float).T).T

    def page(self, points: Array) -> Array:
        """And back."""
        return (self.columns @ np.asarray(points, float).T).T


def planes(axes: Axes) -> tuple[Plane, ...]:
    """The three planes; upright axes stay upright."""
    return Plane(axes, 0, 2), Plane(axes, 1, 2), Plane(axes, 0, 1)


def axes_of(strokes: Sequence[Stroke], width: float, height: float, exact: float = ALONG) -> Axes | None:
    """The axes that a page's strokes run along, within ``exact`` degrees; None for a page of flat views."""
    found = _directions(strokes, width, height)
    if len(found) < 3 * LEAST:
        return None
    turn, long = found[:, 0], np.minimum(found[:, 1], LONG)
    level = int(runs_along(turn, 0.0, exact).sum())
    peaks = []
    for low, high in ((90 + STEEP, 180 - STEEP), (STEEP, 90 - STEEP)):
        own = turn[(turn > low) & (turn < high)]
        if not len(own):
            return None
        best = max(np.unique(np.round(own, 1)), key=lambda a: float(long[runs_along(turn, a, exact)].sum()))
        mine = runs_along(turn, best, exact)
        if mine.sum() < max(LEAST, SHARE * level):
            return None
        peaks.append(float(np.average(turn[mine], weights=long[mine])))
    if runs_along(turn, 90.0, exact).sum() < LEAST:
        return None
    return _shortened((peaks[0], peaks[1], 90.0))


def views_of(sheet: Linework) -> Ways:
    """The ways in which the part on a sheet may be seen, if it is a pictorial one; none for flat views."""
    strokes: list[Stroke] = [
        ([(float(x), float(y)) for x, y in s.points], s.width, s.dashed) for s in (*sheet.strokes, *sheet.beside)
    ]
    axes = axes_of(strokes, sheet.width, sheet.height)
    return () if axes is None else axes.views


def runs_along(turn: Array, degrees: float, exact: float) -> Array:
    """(n,) of which directions ``turn``, in degrees, run along another, one way or back, within ``exact``."""
    return np.abs((turn - degrees + 90) % 180 - 90) <= exact


def _directions(strokes: Sequence[Stroke], width: float, height: float) -> Array:
    """(degrees from 0 to 180, length) of the straight pieces that are none of a border, a table or a curve."""
    rules = [(min(a[0], b[0]) / MM, min(a[1], b[1]) / MM, max(a[0], b[0]) / MM, max(a[1], b[1]) / MM)
             for points, _, _ in strokes for a, b in pairwise(points)
             if abs(a[0] - b[0]) < 0.1 or abs(a[1] - b[1]) < 0.1]  # fmt: skip
    regions = tables(rules, width / MM, height / MM)
    out = []
    for points, _, _ in strokes:
        if len(points) > 6:
            continue  # the chords of a curve run along no axis
        for (x0, y0), (x1, y1) in pairwise(points):
            length = math.hypot(x1 - x0, y1 - y0)
            if not SHORT <= length <= BORDER * max(width, height):
                continue
            if inside((x0 + x1) / 2 / MM, (y0 + y1) / 2 / MM, regions):
                continue
            out.append((math.degrees(math.atan2(y1 - y0, x1 - x0)) % 180, length))
    return np.array(out, float).reshape(-1, 2)


def axes_along(degrees: Sequence[float]) -> Axes | None:
    """Axes by their directions, as a process told them; None for directions that are none."""
    if len(degrees) != 3 or not all(math.isfinite(d) for d in degrees):
        return None
    return _shortened((degrees[0] + 180, degrees[1], degrees[2]))


def _shortened(degrees: tuple[float, float, float]) -> Axes | None:
    """With the lengths of the axes by Gauss's theorem; None for directions that no eye square to the paper sees."""
    if any(abs(math.sin(math.radians(a - b))) < APART_BY for a, b in combinations(degrees, 2)):
        return None
    one, two, three = (np.exp(2j * math.radians(d)) for d in degrees)
    (fx, fy), *_ = np.linalg.lstsq(
        np.array([[one.real, two.real], [one.imag, two.imag]]), -np.array([three.real, three.imag]), rcond=None
    )
    if not (0.05 < fx < 20 and 0.05 < fy < 20):
        return None
    squares = np.array([fx, fy, 1.0])
    lengths = np.sqrt(squares / squares.max())
    # x to the right and down: its direction is the steeper one seen from the other end
    return Axes((degrees[0] - 180, degrees[1], degrees[2]), tuple(float(v) for v in lengths))  # type: ignore[arg-type]


def follow_pictorial(
    strokes: Sequence[Stroke], numbers: Sequence[Number], axes: Axes, slack: Slack = EXACT
) -> tuple[list[Followed | None], float | None]:
    """As ``follow``, along ``x``, ``y`` and ``z``; what lies in one plane shares no place with what lies in another."""
    pairs: Candidates = [[] for _ in numbers]
    names = []
    for n, plane in enumerate(planes(axes)):
        flat = [([tuple(p) for p in plane.flat(np.array(points))], wide, dashed) for points, wide, dashed in strokes]
        names += [NAMES[plane.level], NAMES[plane.upright]]
        own = candidates(flat, [_laid(number, plane, slack.letter) for number in numbers], slack)
        for all_of_it, more in zip(pairs, own, strict=True):
            all_of_it += [_of_plane(p, n) for p in more]
    # a view has one scale: a tenth of it is that of numbers whose points were lost
    return settled(numbers, [sorted(own, key=lambda p: p.cost) for own in pairs], slack, names, several=False)


def _of_plane(pair: Pair, n: int) -> Pair:
    """On the rows of a plane, and apart: a place in one plane is none in another."""
    return replace(pair, axis=pair.axis + 2 * n, start=pair.start + n * APART, end=pair.end + n * APART)


def _laid(number: Number, plane: Plane, least: float) -> Number:
    """A number in a plane, its lettering level there, no lower than ``least`` mm."""
    corners = plane.flat(lettered(number.box, number.angle, least))
    (left, low), (right, high) = corners.min(axis=0), corners.max(axis=0)
    turn = plane.flat(np.array([[math.cos(math.radians(number.angle)), math.sin(math.radians(number.angle))]]))[0]
    return replace(number, box=(left, low, right, high), angle=90 if abs(turn[1]) > abs(turn[0]) else 0)


def lettered(box: tuple[float, float, float, float], degrees: int, least: float = 0.1) -> Array:
    """(4, 2): the corners of lettering that runs at an angle in a level box (left, low, right, high), no lower than
    ``least``: of short lettering in a box that is not exact nothing would be left.
    """
    left, low, right, high = box
    middle = np.array([(left + right) / 2, (low + high) / 2])
    wide, tall = right - left, high - low
    turn = math.radians(degrees)
    c, s = abs(math.cos(turn)), abs(math.sin(turn))
    apart = c * c - s * s
    if abs(apart) > 0.2:  # wide = length c + height s, tall = length s + height c
        length, height = (wide * c - tall * s) / apart, (tall * c - wide * s) / apart
    else:
        length, height = math.hypot(wide, tall), min(wide, tall) / 2
    along = max(length, 0.1) / 2 * np.array([math.cos(turn), math.sin(turn)])
    across = max(height, least) / 2 * np.array([-math.sin(turn), math.cos(turn)])
    return np.array([middle + i * along + k * across for i, k in ((-1, -1), (1, -1), (1, 1), (-1, 1))])
