"""The drawing as witness: its views laid over the model's own projections, line by line.

A view is registered by its box: the model seen along one of six directions, turned in steps of 90 degrees, or aslant
as a pictorial sheet shows it, at one scale for the sheet, laid with its box at the view's left, middle or right, low,
middle or top. The laying that explains most of the drawn linework is taken. A place on a drawn line is explained when a
line of the model, seen or hidden, runs within NEAR of it, or of a straight edge drawn on by ROUNDED: drawings leave out
small rounds and bevels and go on to the sharp corner. A place on a sharp seen edge of the model is drawn when some
stroke of the sheet runs within LOOSE of it. Nothing here knows a number that was typed.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from lathed_solid.sheets.drawn_views import STEP, DrawnView, drawn_views, places, told_by_width
from lathed_solid.sheets.strokes import Linework

Array = Any
Box = tuple[float, float, float, float]
#: mm on the page: a drawn place is explained, a place of the model is drawn
NEAR, LOOSE = 0.3, 1.2
#: pieces shorter than this are not told: mm on the page at scales up to 1, of the part above; and those of a picture,
#: in which what is left of lettering that a line runs through is taken for lines
SHORT, SHORT_TRACED = 2.5, 5.0
#: nor is so small a piece of a picture, mm, that is longer than this times the way about its box: letters' strokes, to
#: and fro
SMALL, DENSE = 3.0, 1.2
#: a straight edge goes on by so much: mm on the page at least, and of the part; if it is itself at least STRAIGHT long
ROUNDED, ROUNDED_PART, STRAIGHT = 2.5, 2.0, 2.0
#: so many gaps alike along one stroke, each no longer than this, mm on the page, are a thread's
AGAIN, CREST = 4, 8.0
#: pieces no farther apart than this are one, mm on the page
JOINED = 4.0
#: of a side that is this much larger than the view most would not be drawn
UNDRAWN = 1.6
#: usual scales, page per part
SCALES = (10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05, 0.02)
#: boxes alike within this share tell a scale
SAME = 0.012
#: a view is taken for one of the model's when this share of it is explained; it agrees from the second on, with no
#: piece that is told
KNOWN, AGREES = 0.6, 0.97
#: a group of lines that is no view speaks against the model from this share of the views' linework on
STRANGE = 0.2
#: places along the model's lines, share of its size
FINE = 1 / 1500


@dataclass(frozen=True)
class Side:
    """The model along one direction: lines (n, 4) in mm, those that are seen and those that are hidden."""

    name: str
    seen: Array
    hidden: Array


@dataclass(frozen=True)
class Piece:
    """Linework that the other has not: the box of it in mm on the page, how long it is, and places along it, (n, 2)."""

    box: Box
    length: float
    places: Array = field(repr=False, compare=False)


@dataclass(frozen=True)
class WitnessView:
    """One view as registered: the side of the model, the page's mm per mm, its linework, what neither explains; mm."""

    box: Box
    side: str
    turn: int
    scale: float
    length: float
    explained: float
    drawn: tuple[Piece, ...]
    model: tuple[Piece, ...]

    @property
    def agrees(self) -> bool:
        """Whether the drawing bears the model out here."""
        return self.explained >= AGREES and not self.drawn


@dataclass(frozen=True)
class Witness:
    """What the sheet says of the model. ``others``: linework that is no view of it."""

    width: float
    height: float
    views: tuple[WitnessView, ...]
    others: tuple[Piece, ...]
    by_width: bool

    @property
    def agrees(self) -> bool:
        """Whether every view that was found bears the model out, there is one, and little else is drawn."""
        drawn = sum(v.length for v in self.views)
        strange = max((p.length for p in self.others), default=0.0)
        return bool(self.views) and all(v.agrees for v in self.views) and strange < STRANGE * drawn

    def as_json(self) -> dict[str, Any]:
        """The stable shape of ``witness --json``; boxes in shares of the page, from its top left."""

        def share(b: Box) -> list[float]:
            w, h = self.width, self.height
            return [round(v, 5) for v in (b[0] / w, 1 - b[3] / h, b[2] / w, 1 - b[1] / h)]

        return {
            "ok": self.agrees,
            "views": [
                {
                    "id": n + 1, "projection": v.side, "turn_deg": v.turn, "scale": round(v.scale, 6),
                    "explained": round(v.explained, 4), "box": share(v.box),
                    "unexplained_drawn": [share(p.box) for p in v.drawn],
                    "unexplained_model": [share(p.box) for p in v.model],
                }
                for n, v in enumerate(self.views)
            ],
            "other_linework": [share(p.box) for p in self.others],
        }  # fmt: skip


@dataclass(frozen=True)
class _Known:
    """A side made ready: places along its lines in mm, about FINE apart, and their box."""

    side: Side
    places: Array
    tree: Any
    low: Array
    high: Array


@dataclass(frozen=True)
class _Laid:
    """A side at a scale and turn; ``shift`` moves it onto the page."""

    known: _Known
    turn: int
    scale: float
    shift: Array
    explained: float

    def off(self, page: Array) -> tuple[Array, Array]:
        """How far places of the page are from the model's nearest line, mm on the page; and that line's place there."""
        own = _turned((page - self.shift) / self.scale, -self.turn % 360)
        off, at = self.known.tree.query(own)
        return off * self.scale, _turned(self.known.places[at], self.turn) * self.scale + self.shift


def _ready(side: Side) -> _Known:
    lines = np.vstack([side.seen, side.hidden])
    size = float(np.ptp(lines.reshape(-1, 2), axis=0).max()) if len(lines) else 1.0
    along = places(lines.reshape(-1, 2, 2), max(size * FINE, 1e-3))
    cell = size * FINE / 2  # many edges lie over each other
    cells = np.round((along - along.min(axis=0)) / cell).astype(np.int64)
    kept = np.unique(cells[:, 0] * (1 << 32) + cells[:, 1], return_index=True)[1]
    grid = along[kept]
    return _Known(side, grid, cKDTree(grid), grid.min(axis=0), grid.max(axis=0))


def sides_of(flat: Sequence[Any]) -> list[Side]:
    """Sides from whatever has a name and lines (x, y, x, y) that are seen and hidden: what the kernel tells of them."""
    return [Side(f.name, *(np.array(k, float).reshape(-1, 4) for k in (f.seen, f.hidden))) for f in flat]


def witness(sheet: Linework, sides: Sequence[Side]) -> Witness:
    """Lay every view of the sheet over the model."""
    views, known = drawn_views(sheet), [_ready(s) for s in sides if len(s.seen)]
    if not views or not known:
        return Witness(
            sheet.width, sheet.height, (), tuple(Piece(v.box, v.length, v.places) for v in views), told_by_width(sheet)
        )
    every = cKDTree(places(s.points for s in sheet.strokes))
    found, others = [], []
    scales = _scales(views, known)
    best_scale = None
    for scale in scales:  # one scale for the sheet: that which explains most
        laid = [_best(v, known, scale) for v in views]
        told = sum(v.length * x.explained for v, x in zip(views, laid, strict=True) if x.explained >= KNOWN)
        if best_scale is None or told > best_scale[0] * 1.02:
            best_scale = (told, laid)
    for view, laid_view in zip(views, best_scale[1] if best_scale else [], strict=False):
        if laid_view.explained < KNOWN:
            others.append(Piece(view.box, view.length, view.places))
        else:
            found.append(_judged(view, laid_view, every, traced=sheet.traced))
    return Witness(sheet.width, sheet.height, tuple(found), tuple(others), told_by_width(sheet))


def _turned(points: Array, turn: int) -> Array:
    """Places (n, 2) turned by so many degrees, a multiple of 90."""
    c, s = {0: (1, 0), 90: (0, 1), 180: (-1, 0), 270: (0, -1)}[turn]
    return np.column_stack([c * points[:, 0] - s * points[:, 1], s * points[:, 0] + c * points[:, 1]])


def _box(known: _Known, turn: int) -> tuple[Array, Array]:
    corners = _turned(np.array([known.low, known.high]), turn)
    return corners.min(axis=0), corners.max(axis=0)


def _scales(views: Sequence[DrawnView], known: Sequence[_Known]) -> list[float]:
    """Scales that could be meant: where a view's box is that of a side both ways, and the usual ones near them."""
    out: list[float] = []
    for view, side, turn in itertools.product(views[:6], known, (0, 90)):
        low, high = _box(side, turn)
        size = high - low
        if min(size) <= 0:
            continue
        rx, ry = (view.box[2] - view.box[0]) / size[0], (view.box[3] - view.box[1]) / size[1]
        if abs(rx / ry - 1) < SAME:
            out.append((rx + ry) / 2)
        out += [s for s in SCALES for r in (rx, ry) if abs(s / r - 1) < SAME]
    kept: list[float] = []
    for scale in sorted(out, key=lambda s: (-sum(abs(s / o - 1) < SAME for o in out), s)):
        usual = next((s for s in SCALES if abs(s / scale - 1) < SAME), scale)
        if all(abs(usual / k - 1) > SAME for k in kept):
            kept.append(usual)
    return kept[:6]


def _best(view: DrawnView, known: Sequence[_Known], scale: float) -> _Laid:
    """The laying at a scale that explains most of a view."""
    best: _Laid | None = None
    some = view.places[:: max(1, len(view.places) // 400)]
    corner, size = np.array(view.box[:2]), np.array(view.box[2:]) - np.array(view.box[:2])
    for side, turn in itertools.product(known, (0, 90, 180, 270)):
        low, high = (scale * e for e in _box(side, turn))
        if max((high - low) / np.maximum(size, 1e-6)) > UNDRAWN:
            continue
        for x, y in itertools.product((0.0, 0.5, 1.0), (0.0, 0.5, 1.0)):
            anchor = np.array((x, y))
            laid = _Laid(side, turn, scale, corner + anchor * (size - (high - low)) - low, 0.0)
            share = float((laid.off(some)[0] < NEAR).mean())
            if best is None or share > best.explained + 1e-6:
                best = replace(laid, explained=share)
    return _Laid(known[0], 0, scale, corner, 0.0) if best is None else _settled(best, view.places)


def _settled(laid: _Laid, drawn: Array) -> _Laid:
    """Moved by the middle of what is off, where that explains more: boxes differ where an end was left out."""
    off, at = laid.off(drawn)
    laid = replace(laid, explained=float((off < NEAR).mean()))
    for _ in range(4):
        near = off < 4 * NEAR
        if not near.any():
            break
        moved = replace(laid, shift=laid.shift + np.median((drawn - at)[near], axis=0))
        off, at = moved.off(drawn)
        share = float((off < NEAR).mean())
        if share <= laid.explained:
            break
        laid = replace(moved, explained=share)
    return laid


def _judged(view: DrawnView, laid: _Laid, every: cKDTree, *, traced: bool) -> WitnessView:
    strange: list[Array] = []
    total = 0
    beyond = cKDTree(_drawn_on(laid))
    for stroke in view.strokes:
        along = places([stroke.points])
        far = laid.off(along)[0] >= NEAR
        far[far] = beyond.query(along[far])[0] >= NEAR
        total += len(far)
        strange += _come_and_go(_pieces(along, far))
    edges = laid.scale * _turned(laid.known.side.seen.reshape(-1, 2), laid.turn) + laid.shift
    along = places(edges.reshape(-1, 2, 2))
    undrawn = [along[every.query(along)[0] >= LOOSE]] if len(along) else []
    missed = sum(map(len, strange))
    drawn, model = (tuple(_joined(pieces, laid.scale, traced=traced)) for pieces in (strange, undrawn))
    side, explained = laid.known.side.name, 1 - missed / max(total, 1)
    return WitnessView(view.box, side, laid.turn, laid.scale, view.length, explained, drawn, model)


def _come_and_go(pieces: list[Array]) -> list[Array]:
    """Without gaps that come again and again along one stroke, alike: the crests of a thread that is cut in the model
    and drawn as its outline.
    """
    lengths = np.array([len(p) for p in pieces])
    if len(pieces) < AGAIN:
        return pieces
    usual = np.median(lengths)
    gaps = (lengths * STEP <= CREST) & (np.abs(lengths - usual) <= max(1.5, 0.4 * usual))
    return [p for p, gap in zip(pieces, gaps, strict=True) if not gap] if gaps.sum() >= AGAIN else pieces


def _drawn_on(laid: _Laid) -> Array:
    """Places on the page beyond the ends of the model's straight edges."""
    side = laid.known.side
    lines = laid.scale * _turned(np.vstack([side.seen, side.hidden]).reshape(-1, 2), laid.turn) + laid.shift
    ends = lines.reshape(-1, 2, 2)
    way = ends[:, 1] - ends[:, 0]
    length = np.linalg.norm(way, axis=1)
    ends, way = ends[length >= STRAIGHT], way[length >= STRAIGHT] / length[length >= STRAIGHT, None]
    steps = np.arange(0.0, max(ROUNDED, ROUNDED_PART * laid.scale), NEAR / 2)[:, None, None]
    out = np.concatenate([ends[:, 1] + steps * way, ends[:, 0] - steps * way]).reshape(-1, 2)
    return out if len(out) else np.full((1, 2), np.inf)


def _pieces(along: Array, far: Array) -> list[Array]:
    """Runs of places that are far from the other."""
    out, run = [], []
    for place, is_far in zip(along, far, strict=True):
        if is_far:
            run.append(place)
        elif run:
            out.append(np.array(run))
            run = []
    return [*out, np.array(run)] if run else out


def _joined(pieces: Sequence[Array], scale: float, *, traced: bool) -> list[Piece]:
    """Pieces that touch as one; short ones are left out, and of a ``traced`` picture what is left of letters."""
    pieces = [p for p in pieces if len(p)]
    if not pieces:
        return []
    points = np.vstack(pieces)
    pairs = cKDTree(points).query_pairs(JOINED, output_type="ndarray")
    graph = coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(points), len(points)))
    count, group = connected_components(graph, directed=False)
    short = (SHORT_TRACED if traced else SHORT) * max(1.0, scale)
    out = []
    for n in range(count):
        own = points[group == n]
        length = STEP * len(own)
        (left, low), (right, high) = own.min(axis=0), own.max(axis=0)
        wide, tall = float(right - left), float(high - low)
        dense = traced and max(wide, tall) < SMALL and length > DENSE * 2 * (wide + tall + 2 * STEP)
        if length >= short and not dense:
            out.append(Piece((float(left), float(low), float(right), float(high)), float(length), own))
    return sorted(out, key=lambda p: -p.length)
