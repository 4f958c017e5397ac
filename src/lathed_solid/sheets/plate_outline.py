"""The face of a plate as it is drawn: the corners of its outline, the circles and slots in it, and its thickness.

The outlines of a view are cut where they meet and put together to faces; the one that reaches the view's rim is the
plate, what lies within it are its holes. A rim is taken apart into straight lines and arcs: from a vertex on, as many
as lie on one circle are an arc. What the view shows beside that is kept as unexplained, with its place: a step, a
groove, a line that ends in the middle. All lengths in mm on the page, places from the low left of the view.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, TypeVar

import numpy as np

from lathed_solid.sheets.drawn_views import DrawnView
from lathed_solid.sheets.rims import Piece, Place, turn

Array = Any
T = TypeVar("T", "Corner", "Circle", "SlotLoop")
#: ends nearer than this are one; a place is on a line or circle within so much; a shorter line is none
ONE, ON, SHORT = 0.01, 0.06, 0.6
#: chords that make an arc, at least; its radius on the page, at most
CHORDS, WIDEST = 3, 400.0
#: a chord of an arc is no longer than this times its radius, and than this times another
CHORD, ALIKE = 0.55, 1.8
#: a line leans from an axis by less than this, sine
LEVEL = 2e-3
#: a view of more pieces than this is none of a plate
MOST = 6000


@dataclass(frozen=True)
class Corner:
    """Where two straight lines of the outline meet; ``round``: the radius they are joined by, 0 for a sharp one."""

    x: float
    y: float
    round: float = 0.0


@dataclass(frozen=True)
class Circle:
    """A round hole, or one about another."""

    x: float
    y: float
    radius: float


@dataclass(frozen=True)
class SlotLoop:
    """Two half circles, ``long`` between their centres, about a middle."""

    x: float
    y: float
    long: float
    wide: float
    upright: bool

    @property
    def ends(self) -> tuple[Place, Place]:
        """The centres of its half circles, the low or left one first."""
        dx, dy = (0.0, self.long / 2) if self.upright else (self.long / 2, 0.0)
        return (self.x - dx, self.y - dy), (self.x + dx, self.y + dy)


@dataclass(frozen=True)
class Pocket:
    """A closed loop of straight lines and rounded corners within the face."""

    corners: tuple[Corner, ...]


@dataclass(frozen=True)
class PlateFace:
    """A view of a plate's face; ``origin``: its low left corner on the page; ``unexplained``: what else it shows."""

    origin: Place
    width: float
    height: float
    corners: tuple[Corner, ...]
    circles: tuple[Circle, ...] = ()
    slots: tuple[SlotLoop, ...] = ()
    pockets: tuple[Pocket, ...] = ()
    unexplained: tuple[Place, ...] = ()

    @property
    def middles(self) -> list[Place]:
        """Of circles and slots, and where the ends of slots are round about."""
        out = [(c.x, c.y) for c in self.circles]
        for slot in self.slots:
            low, high = slot.ends
            out += [low, (slot.x, slot.y), high]
        return out


def plate_face(view: DrawnView) -> PlateFace | None:
    """The face that a view shows; None for a view whose rim is more than straight lines and rounded corners."""
    import shapely

    runs = [np.asarray(s.points, float) - view.box[:2] for s in view.strokes if len(s.points) > 1]
    if sum(map(len, runs)) > MOST:
        return None
    lines = shapely.unary_union(shapely.set_precision(shapely.multilinestrings([shapely.linestrings(r) for r in runs]),
                                                      ONE))  # fmt: skip
    faces = list(shapely.get_parts(shapely.polygonize([lines])))
    body = shapely.unary_union(faces)
    if body.geom_type != "Polygon" or not faces:
        return None
    rim = body.exterior
    outer = [f for f in faces if f.exterior.intersection(rim).length > 2 * ONE]
    main = max(outer, key=lambda f: f.area)
    corners = _corners(pieces_of(np.array(rim.coords)[:-1]))
    if corners is None:
        return None
    left, low, right, high = body.bounds
    odd = [_middle(f) for f in outer if f is not main]
    circles, slots, pockets, more = _holes([f for f in faces if f not in outer])
    edges = shapely.unary_union([f.boundary for f in faces])
    loose = shapely.get_parts(lines.difference(edges.buffer(2 * ONE)))
    odd += [*more, *((float(p.centroid.x), float(p.centroid.y)) for p in loose if p.length > SHORT)]

    def put(things: Sequence[T]) -> tuple[T, ...]:
        return tuple(replace(t, x=t.x - left, y=t.y - low) for t in things)

    return PlateFace(
        (view.box[0] + left, view.box[1] + low), right - left, high - low, put(corners), put(circles), put(slots),
        tuple(Pocket(put(p.corners)) for p in pockets), tuple((x - left, y - low) for x, y in odd),
    )  # fmt: skip


def is_bare(face: PlateFace) -> bool:
    """Whether it is a rectangle with nothing in it: a plate seen from its side."""
    return (
        len(face.corners) == 4
        and not any(c.round for c in face.corners)
        and not (face.circles or face.slots or face.pockets)
    )


def _middle(face: Any) -> Place:
    p = face.representative_point()
    return float(p.x), float(p.y)


def _holes(faces: Sequence[Any]) -> tuple[list[Circle], list[SlotLoop], list[Pocket], list[Place]]:
    """Faces within the plate as circles, slots and pockets; the places of others."""
    circles: list[Circle] = []
    slots: list[SlotLoop] = []
    pockets: list[Pocket] = []
    odd: list[Place] = []
    for face in faces:
        ring = np.array(face.exterior.coords)[:-1]
        circle = circle_of(ring)
        pieces = [] if circle is not None else pieces_of(ring)
        slot = _slot(pieces)
        corners = None if circle is not None or slot is not None else _corners(pieces)
        if circle is not None:
            circles.append(circle)
        elif slot is not None:
            slots.append(slot)
        elif corners is not None:
            pockets.append(Pocket(tuple(corners)))
        else:
            odd.append(_middle(face))
    return circles, slots, pockets, odd


def circle_of(ring: Array) -> Circle | None:
    """A closed run of places (n, 2) on one circle; None for another."""
    middle = (ring.min(axis=0) + ring.max(axis=0)) / 2
    away = np.linalg.norm(ring - middle, axis=1)
    radius = float(away.mean())
    if len(ring) < 8 or np.ptp(away) > 2 * ON + 0.02 * radius:
        return None
    return Circle(float(middle[0]), float(middle[1]), radius)


def _slot(pieces: list[Piece]) -> SlotLoop | None:
    lines = [p for p in pieces if p.centre is None]
    arcs = [p for p in pieces if p.centre is not None]
    if len(lines) != 2 or len(arcs) != 2 or any(abs(abs(p.sweep) - math.pi) > 0.1 for p in arcs):
        return None
    (x0, y0), (x1, y1) = (p.centre for p in arcs if p.centre is not None)
    long = math.dist((x0, y0), (x1, y1))
    upright = abs(x1 - x0) < LEVEL * long
    if not upright and abs(y1 - y0) > LEVEL * long:
        return None
    return SlotLoop((x0 + x1) / 2, (y0 + y1) / 2, long, arcs[0].radius + arcs[1].radius, upright)


# rims --------------------------------------------------------------------------------------------
def pieces_of(ring: Array) -> list[Piece]:
    """A closed rim (n, 2) as lines and arcs, from the start of its longest line on."""
    chords = np.linalg.norm(np.roll(ring, -1, axis=0) - ring, axis=1)
    ring = np.roll(ring, -int(chords.argmax()), axis=0)
    run = [(float(x), float(y)) for x, y in (*ring, ring[0])]
    out: list[Piece] = []
    at = 0
    while at < len(run) - 1:
        end, centre, radius = _arc_from(run, at)
        if centre is None:
            out.append(Piece(run[at], run[at + 1]))
            at += 1
            continue
        sweep = sum(turn(centre, a, b) for a, b in itertools.pairwise(run[at : end + 1]))
        out.append(Piece(run[at], run[end], centre, radius, sweep))
        at = end
    return list(_joined(out))


def _arc_from(run: list[Place], at: int) -> tuple[int, Place | None, float]:
    """How far the places from ``at`` on lie on one circle; it is laid anew through its ends the farther it goes."""
    found: tuple[int, Place | None, float] = (at, None, 0.0)
    end = at + CHORDS
    while end < len(run):
        centre = _centre(run[at], run[(at + end) // 2], run[end])
        if centre is None:
            break
        radius = math.dist(centre, run[at])
        if radius > WIDEST or any(abs(math.dist(centre, p) - radius) > ON for p in run[at : end + 1]):
            break
        chords = [math.dist(a, b) for a, b in itertools.pairwise(run[at : end + 1])]
        if max(chords) > min(CHORD * radius, ALIKE * min(chords)):
            break
        found = (end, centre, radius)
        end += 1
    return found


def _centre(a: Place, b: Place, c: Place) -> Place | None:
    """Of the circle through three places; None where they lie in a line."""
    (ax, ay), (bx, by), (cx, cy) = a, b, c
    d = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
    if abs(d) < 1e-6:
        return None
    sa, sb, sc = ax * ax + ay * ay, bx * bx + by * by, cx * cx + cy * cy
    return ((sa * (by - cy) + sb * (cy - ay) + sc * (ay - by)) / d,
            (sa * (cx - bx) + sb * (ax - cx) + sc * (bx - ax)) / d)  # fmt: skip


def _joined(pieces: Sequence[Piece]) -> Iterator[Piece]:
    """Lines that go on in one direction are one."""
    kept: Piece | None = None
    for piece in pieces:
        if kept is not None and kept.centre is None and piece.centre is None and _straight_on(kept, piece):
            kept = Piece(kept.a, piece.b)
            continue
        if kept is not None:
            yield kept
        kept = piece
    if kept is not None:
        yield kept


def _straight_on(one: Piece, two: Piece) -> bool:
    (ax, ay), (bx, by), (cx, cy) = one.a, one.b, two.b
    cross = (bx - ax) * (cy - by) - (by - ay) * (cx - bx)
    return abs(cross) <= ON * max(one.length, two.length) and (bx - ax) * (cx - bx) + (by - ay) * (cy - by) > 0


def _corners(pieces: list[Piece]) -> list[Corner] | None:
    """Where the straight lines meet, over their roundings; None for a rim of other curves."""
    out: list[Corner] = []
    n = len(pieces)
    for k, piece in enumerate(pieces):
        following = pieces[(k + 1) % n]
        if piece.centre is not None:
            continue
        if following.centre is None:
            out.append(Corner(*following.a))
            continue
        behind = pieces[(k + 2) % n]
        at = None if behind.centre is not None else _meeting(piece, behind)
        if at is None or abs(following.sweep) > math.radians(175) or not _tangent(piece, following):
            return None
        out.append(Corner(*at, following.radius))
    return out if len(out) >= 3 else None


def _meeting(one: Piece, two: Piece) -> Place | None:
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = one.a, one.b, two.a, two.b
    ux, uy, vx, vy = bx - ax, by - ay, dx - cx, dy - cy
    cross = ux * vy - uy * vx
    if abs(cross) < 1e-9:
        return None
    t = ((cx - ax) * vy - (cy - ay) * vx) / cross
    return ax + t * ux, ay + t * uy


def _tangent(line: Piece, arc: Piece) -> bool:
    assert arc.centre is not None
    (ax, ay), (bx, by) = line.a, line.b
    away = abs((bx - ax) * (arc.centre[1] - ay) - (by - ay) * (arc.centre[0] - ax)) / line.length
    return abs(away - arc.radius) < max(3 * ON, 0.03 * arc.radius)
