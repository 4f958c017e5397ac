"""A drawing as a value: strokes, lettering, dimensions and leaders on a sheet, mm of paper from its lower left corner.

Pens by ISO 128-2: wide for what is seen, narrow for all else; dashed for what is hidden, long dashes and dots for axes.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from lathed_solid.kernel.drawing.figures import Arc, Curve, Place, Run

Pen = Literal["seen", "hidden", "axis", "thin", "frame", "hatch"]
#: width and dashes of each pen, mm
PENS: Mapping[Pen, tuple[float, tuple[float, ...]]] = {
    "seen": (0.5, ()), "hidden": (0.25, (2.4, 0.9)), "axis": (0.18, (6.0, 1.2, 0.6, 1.2)), "thin": (0.18, ()),
    "frame": (0.5, ()), "hatch": (0.13, ()),
}  # fmt: skip
#: lettering: height of capitals (ISO 3098) and the room of a line of it, as a share of that
CAPITALS = 2.5
LEADING = 1.9
#: the shipped drawing letters: height of capitals in an em, and how far below the line they reach, of capitals
EM, BELOW = 0.72, 0.35
#: a ring's radius, its room beside a note, the height of its number, mm
RING, PAD, NUMBER = 2.1, 5.6, 1.6
#: length of an arrow; how far witness lines stand off the part, and go beyond the dimension line
ARROW, OFF, PAST = 2.5, 0.8, 1.6

Box = tuple[float, float, float, float]
#: an arrow by its tip and where it comes from
Pointer = tuple[Place, Place]


@dataclass(frozen=True, slots=True)
class Stroke:
    """A line or an arc, by its pen."""

    curve: Curve
    pen: Pen = "seen"


@dataclass(frozen=True, slots=True)
class Words:
    """Lettering whose base line begins at ``at``, going up the sheet where it is ``upright``; ``width`` on paper."""

    text: str
    at: Place
    width: float
    capitals: float = CAPITALS
    upright: bool = False

    @property
    def box(self) -> Box:
        """The room that it takes: left, low, right, high."""
        (x, y), low, high = self.at, BELOW * self.capitals, 1.15 * self.capitals
        if self.upright:
            return (x - high, y, x + low, y + self.width)
        return (x, y - low, x + self.width, y + high)


@dataclass(frozen=True, slots=True)
class Dimension:
    """A length between two places along x, or ``upright`` along y, stating ``balloons`` in a ``view``. ``row``: where
    its line lies across; ``outside``: its arrows point inwards from outside; ``larger``: how many times the sheet's
    scale it is drawn.
    """

    balloons: tuple[int, ...]
    view: str
    start: Place
    end: Place
    row: float
    upright: bool
    words: Words
    outside: bool = False
    larger: float = 1.0

    def placed(self, u: float, v: float) -> Place:
        """Along and across as a place on the sheet."""
        return (v, u) if self.upright else (u, v)

    @property
    def span(self) -> tuple[float, float]:
        """From where to where it runs along, on paper."""
        k = int(self.upright)
        return self.start[k], self.end[k]

    @property
    def line(self) -> tuple[Place, Place]:
        """Its own line, out to its number where that stands beside it."""
        low, high = self.span
        if self.outside:
            low, high = low - 2 * ARROW, high + 2 * ARROW
        left, down, right, up = self.words.box
        a, b = (down, up) if self.upright else (left, right)
        if b > high or a < low:
            low, high = min(low, a), max(high, b)
        return self.placed(low, self.row), self.placed(high, self.row)

    @property
    def pieces(self) -> tuple[tuple[Place, Place], ...]:
        """Its own line as it is drawn: what goes beyond its ends apart from what lies between them."""
        k = int(self.upright)
        stops = sorted({self.line[0][k], *self.span, self.line[1][k]})
        return tuple((self.placed(a, self.row), self.placed(b, self.row)) for a, b in itertools.pairwise(stops))

    @property
    def witnesses(self) -> tuple[tuple[Place, Place], ...]:
        """From the part to beyond the line; none where the place lies on the line itself."""
        out = []
        for p in (self.start, self.end):
            u, v = (p[1], p[0]) if self.upright else p
            way = 1.0 if self.row > v else -1.0
            if abs(self.row - v) > OFF:
                out.append((self.placed(u, v + way * OFF), self.placed(u, self.row + way * PAST)))
        return tuple(out)


@dataclass(frozen=True, slots=True)
class Opening:
    """An angle between arrows: its arc, the witness lines of its legs; ``outside``: its arrows point inwards."""

    arc: Arc
    witnesses: tuple[tuple[Place, Place], ...]
    outside: bool = False

    @property
    def drawn(self) -> Arc:
        """Its line, with what goes beyond its ends."""
        more = 2 * ARROW / self.arc.radius if self.outside else 0.0
        return replace(self.arc, start=self.arc.start - more, end=self.arc.end + more)

    def chords(self, many: int) -> Iterator[tuple[Place, Place]]:
        """Its line as so many chords."""
        arc = self.drawn
        places = [arc.at(arc.start + (arc.end - arc.start) * k / many) for k in range(many + 1)]
        yield from itertools.pairwise(places)


@dataclass(frozen=True, slots=True)
class Leader:
    """A note led to a place. ``tip``: where its arrow ends; the line bends at ``elbow`` and ends at ``shelf``. An angle
    has its ``opening``, and no line of its own unless it was moved by hand.
    """

    balloons: tuple[int, ...]
    view: str
    tip: Place
    elbow: Place
    shelf: Place
    words: tuple[Words, ...]
    opening: Opening | None = None

    @property
    def runs(self) -> tuple[Place, ...]:
        """Its line: tip, elbow, shelf; nothing for an angle that stands where it was put."""
        return () if self.opening is not None and self.elbow == self.tip else (self.tip, self.elbow, self.shelf)


@dataclass(frozen=True)
class DrawnView:
    """A side of the part on the sheet: where its origin lies, and the ``title`` over it (empty: none)."""

    name: str
    origin: Place
    box: Box
    cut: bool = False
    title: str = ""


@dataclass(frozen=True, slots=True)
class Balloon:
    """The number of a note in a ring beside it."""

    ring: Arc
    words: Words


@dataclass(frozen=True)
class LeftOut:
    """A note that is not drawn at a feature, and why."""

    balloons: tuple[int, ...]
    text: str
    why: str


@dataclass(frozen=True)
class DrawnSheet:
    """All of it. ``scale``: paper by part; ``unit`` of the numbers; ``size`` by name."""

    name: str
    size: str
    width: float
    height: float
    scale: float
    unit: str
    views: tuple[DrawnView, ...] = ()
    strokes: tuple[Stroke, ...] = field(default=(), repr=False)
    hatched: tuple[tuple[Place, ...], ...] = field(default=(), repr=False)
    dimensions: tuple[Dimension, ...] = ()
    leaders: tuple[Leader, ...] = ()
    words: tuple[Words, ...] = field(default=(), repr=False)
    pointers: tuple[Pointer, ...] = field(default=(), repr=False)
    balloons: tuple[Balloon, ...] = ()
    left_out: tuple[LeftOut, ...] = ()

    def with_more(self, strokes: Iterable[Stroke], words: Iterable[Words]) -> DrawnSheet:
        """With a frame or a title block about it."""
        return replace(self, strokes=(*self.strokes, *strokes), words=(*self.words, *words))


def shifted(curve: Curve, scale: float, by: Place) -> Curve:
    """A curve of the part on paper."""
    x, y = by
    if isinstance(curve, Arc):
        return replace(curve, centre=(x + scale * curve.centre[0], y + scale * curve.centre[1]),
                       radius=scale * curve.radius)  # fmt: skip
    return Run(tuple((x + scale * a, y + scale * b) for a, b in curve.points))
