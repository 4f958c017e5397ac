"""From the station table to the closed half section in the (z, r) plane.

z runs along the axis from the left face, r is the radius. The contour goes up the left face, along the
outside to the right, down the right face and back through the bores or along the axis. Segment names are
what the faces of the solid will be called:

    face.left, face.right          the end faces
    sA, sA>g1                      the surface of station A; its piece after groove g1
    shoulder.A                     the shoulder at the right end of station A
    sA.left, sA.right              the broken corners of station A
    g1.near, g1.bottom, g1.far     a groove, near and far as seen from the left face
    bore.left.1, bore.left.1.floor, bore.left.tip, bore.left.mouth
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from lathed_solid.quantity.cells import Evaluate
from lathed_solid.quantity.message_units import said
from lathed_solid.turned.bores import inner_path
from lathed_solid.turned.checked_cells import Cells
from lathed_solid.turned.contour import EPS, Corner, Segment, Vertex, check_simple, close_contour
from lathed_solid.turned.table import MAX_SIZE_MM, Edge, Groove, Station, TableError, TurnedTable

#: gives the number (mm or rad) of an expression; raises QuantityError


@dataclass(frozen=True, slots=True)
class Stretch:
    """A resolved station: axial range and radii at its ends, in mm."""

    key: str
    number: int
    z0: float
    z1: float
    r0: float
    r1: float


@dataclass(frozen=True, slots=True)
class Cut:
    """A resolved groove: axial range and bottom radius, in mm."""

    key: str
    number: int
    z0: float
    z1: float
    r: float
    station: int


@dataclass(frozen=True, slots=True)
class HalfSection:
    """The closed contour and what it was made of; all in mm."""

    segments: tuple[Segment, ...]
    stretches: tuple[Stretch, ...]
    grooves: tuple[Cut, ...]
    length: float
    #: threads shown on stations: the station's key, the designation, the threaded length in mm (None: all along)
    threads: tuple[tuple[str, str, float | None], ...] = ()

    @property
    def max_radius(self) -> float:
        """Of all segments, mm."""
        return max(max(s.start[1], s.end[1]) for s in self.segments)


def half_section(table: TurnedTable, evaluate: Evaluate) -> HalfSection:
    """The half section of ``table``. Raises TableError naming the station that makes it impossible."""
    cell = Cells(evaluate)
    if not table.stations:
        raise TableError("the table has no stations", hint="add a row: a diameter and a length")
    _check_keys(table)
    stretches = _stretches(table, cell)
    length = stretches[-1].z1
    grooves = _grooves(table, stretches, length, cell)
    inner = inner_path(table.bores, length, cell)
    _check_walls(stretches, grooves, inner)
    vertices = _outer_path(table, stretches, grooves, inner, cell) + inner
    segments = close_contour(vertices)
    check_simple(segments)
    return HalfSection(segments, stretches, grooves, length, _threads(table, cell))


def _threads(table: TurnedTable, cell: Cells) -> tuple[tuple[str, str, float | None], ...]:
    out = []
    for number, s in enumerate(table.stations, 1):
        if s.thread is not None:
            long = None if s.thread.length is None else cell.size(s.thread.length, "thread length", number)
            out.append((s.key, s.thread.designation, long))
    return tuple(out)


def _check_keys(table: TurnedTable) -> None:
    seen: set[str] = set()
    for key in [s.key for s in table.stations] + [g.key for g in table.grooves]:
        if key in seen:
            raise TableError(f"two rows share the key {key}", hint="add the row again")
        seen.add(key)
    if len({b.end for b in table.bores}) != len(table.bores):
        raise TableError("there are two bores from the same end", hint="one bore with several steps")


def _stretches(table: TurnedTable, cell: Cells) -> tuple[Stretch, ...]:
    """Stations with their places; from the datum face outwards, then set on the left face."""
    numbered = list(enumerate(table.stations, 1))
    from_left = table.datum == "left"
    out: list[Stretch] = []
    done = 0.0
    for number, station in numbered if from_left else reversed(numbered):
        far = _far_end(station, number, done, cell)
        r0, r1 = _radii(station, number, far - done, cell)
        out.append(Stretch(station.key, number, done, far, r0, r1))
        done = far
    if done > MAX_SIZE_MM:
        raise TableError("the part is longer than 10 m")
    if from_left:
        return tuple(out)
    return tuple(Stretch(s.key, s.number, done - s.z1, done - s.z0, s.r0, s.r1) for s in reversed(out))


def _far_end(station: Station, number: int, start: float, cell: Cells) -> float:
    if (station.length is None) == (station.to is None):
        raise TableError(
            "give either a length or a distance from the datum face",
            station=number,
            hint="fill in one of the two",
        )
    if station.length is not None:
        return start + cell.size(station.length, "length", number)
    assert station.to is not None
    far = cell.size(station.to, "distance from the datum face", number)
    if far <= start + EPS:
        raise TableError(
            f"its far shoulder at {said(far)} does not lie beyond its near one at {said(start)}",
            station=number,
            rule="the length would be negative",
            hint="check the distance from the datum face",
        )
    return far


def _radii(station: Station, number: int, length: float, cell: Cells) -> tuple[float, float]:
    r = cell.size(station.diameter, "diameter", number) / 2
    taper = station.taper
    if taper is None:
        return r, r
    if taper.kind == "diameter":
        return r, cell.size(taper.value, "end diameter", number) / 2
    if taper.kind == "ratio":
        fall = length / cell.number(taper.value, "taper ratio", number) / 2
    else:
        half = cell.angle(taper.value, "half angle", number)
        if half >= math.pi / 2:
            raise TableError("the half angle of a taper is below 90°", station=number, received=taper.value)
        fall = length * math.tan(half)
    end = r + fall if taper.rises else r - fall
    if end <= EPS:
        raise TableError(
            "the taper runs to a point before its end", station=number, hint="a longer base or a finer taper"
        )
    return r, end


def _grooves(table: TurnedTable, stretches: tuple[Stretch, ...], length: float, cell: Cells) -> tuple[Cut, ...]:
    out: list[Cut] = []
    for number, groove in enumerate(table.grooves, 1):
        name = f"groove {number}"
        at = cell.size(groove.at, f"{name}, place", zero=True)
        width = cell.size(groove.width, f"{name}, width")
        z0, z1 = (at, at + width) if table.datum == "left" else (length - at - width, length - at)
        out.append(_fit_groove(groove, number, z0, z1, cell.size(groove.diameter, f"{name}, diameter") / 2, stretches))
    out.sort(key=lambda c: c.z0)
    for a, b in itertools.pairwise(out):
        if b.z0 < a.z1 - EPS:
            raise TableError(
                f"grooves {a.number} and {b.number} overlap by {said(a.z1 - b.z0)}",
                station=b.station,
                hint="check place and width of both",
            )
    return tuple(out)


def _fit_groove(groove: Groove, number: int, z0: float, z1: float, r: float, stretches: tuple[Stretch, ...]) -> Cut:
    for i, s in enumerate(stretches):
        if not (s.z0 - EPS <= z0 and z1 <= s.z1 + EPS):
            continue
        if abs(s.r0 - s.r1) > EPS:
            raise TableError(f"groove {number} lies on a taper", station=s.number, rule="a groove needs a cylinder")
        if r >= s.r0 - EPS:
            raise TableError(
                f"groove {number} (⌀{said(2 * r)}) is not smaller than its station (⌀{said(2 * s.r0)})",
                station=s.number,
            )
        beside_left = stretches[i - 1].r1 if i else 0.0
        beside_right = stretches[i + 1].r0 if i + 1 < len(stretches) else 0.0
        if (z0 <= s.z0 + EPS and beside_left <= s.r0) or (z1 >= s.z1 - EPS and beside_right <= s.r0):
            raise TableError(
                f"groove {number} opens at the end of the station",
                station=s.number,
                rule="a groove keeps a wall on both sides, or ends at a higher shoulder",
                hint="another place, or a station of its own",
            )
        return Cut(groove.key, number, max(z0, s.z0), min(z1, s.z1), r, s.number)
    raise TableError(
        f"groove {number}, from {said(z0)} to {said(z1)}, does not lie within one station",
        hint="check its place, width and the datum face",
    )


def _corner(edge: Edge | None, name: str, number: int, surface: str, cell: Cells) -> Corner | None:
    if edge is None:
        return None
    size = cell.size(edge.size, edge.kind, number)
    angle = cell.angle(edge.angle, "chamfer angle", number) if edge.kind == "chamfer" else 0.0
    if angle >= math.pi / 2:
        raise TableError("a chamfer angle is below 90° from the axis", station=number, received=edge.angle)
    return Corner(edge.kind, size, angle, name, number, surface)


def _outer_path(
    table: TurnedTable,
    stretches: tuple[Stretch, ...],
    grooves: tuple[Cut, ...],
    inner: list[Vertex],
    cell: Cells,
) -> list[Vertex]:
    """Vertices from the foot of the left face to the head of the right face, the latter leaving downwards."""
    path = [Vertex((0.0, inner[-1].at[1]), "face.left")]
    for i, (s, station) in enumerate(zip(stretches, table.stations, strict=True)):
        previous = stretches[i - 1].r1 if i else None
        following = stretches[i + 1].r0 if i + 1 < len(stretches) else None
        left = _corner(station.left, f"s{s.key}.left", s.number, "after", cell)
        right = _corner(station.right, f"s{s.key}.right", s.number, "before", cell)
        for corner, beside, own, side in ((left, previous, s.r0, "left"), (right, following, s.r1, "right")):
            if corner is not None and beside is not None and abs(beside - own) < EPS:
                raise TableError(f"there is no shoulder at its {side} end to break", station=s.number)
        path.append(Vertex((s.z0, s.r0), f"s{s.key}", left))
        for g in (g for g in grooves if g.station == s.number):
            path += [
                Vertex((g.z0, s.r0), f"{g.key}.near"),
                Vertex((g.z0, g.r), f"{g.key}.bottom"),
                Vertex((g.z1, g.r), f"{g.key}.far"),
                Vertex((g.z1, s.r0), f"s{s.key}>{g.key}"),
            ]
        leaving = "face.right" if following is None else f"shoulder.{s.key}"
        path.append(Vertex((s.z1, s.r1), leaving, right))
    return _merge_walls(path)


def _merge_walls(path: list[Vertex]) -> list[Vertex]:
    """A groove that ends at a higher shoulder has one wall with it: drop the doubled-back piece."""
    out = list(path)
    changed = True
    while changed:
        changed = False
        for i in range(1, len(out) - 1):
            a, b, c = out[i - 1], out[i], out[i + 1]
            vertical = abs(a.at[0] - b.at[0]) < EPS and abs(b.at[0] - c.at[0]) < EPS
            flat = math.dist(a.at, b.at) < EPS or math.dist(b.at, c.at) < EPS
            if vertical and not flat and b.corner is None:
                # keep the shoulder's name: it outlives the groove
                name = next((v.leaving for v in (a, b) if v.leaving.startswith(("shoulder", "face"))), a.leaving)
                out[i - 1] = Vertex(a.at, name, a.corner)
                del out[i]
                changed = True
                break
            if math.dist(b.at, c.at) < EPS and b.corner is None and i + 1 < len(out) - 1:
                del out[i]
                changed = True
                break
    return out


def _check_walls(stretches: tuple[Stretch, ...], grooves: tuple[Cut, ...], inner: list[Vertex]) -> None:
    """The bore must stay inside the outside everywhere; names the station where it breaks through."""
    bored = [(a.at, b.at, a.leaving) for a, b in itertools.pairwise(inner)]
    outside = [((s.z0, s.r0), (s.z1, s.r1), s.number, f"station {s.number}") for s in stretches]
    outside += [((g.z0, g.r), (g.z1, g.r), g.station, f"groove {g.number}") for g in grooves]
    for (za, ra), (zb, rb), name in bored:
        low, high = min(za, zb), max(za, zb)
        for (z0, r0), (z1, r1), number, words in outside:
            a, b = max(low, z0), min(high, z1)
            if a > b + EPS or (a > b - EPS and high - low > EPS):
                continue
            wall = min(
                _line(z0, r0, z1, r1, z) - (_line(za, ra, zb, rb, z) if high - low > EPS else max(ra, rb))
                for z in (a, b)
            )
            if wall <= EPS and max(ra, rb) > EPS:
                raise TableError(
                    f"{_bore_words(name)} breaks through {words}",
                    station=number,
                    rule=f"the wall would be {said(wall)}",
                )


def _line(z0: float, r0: float, z1: float, r1: float, z: float) -> float:
    return r0 if abs(z1 - z0) < EPS else r0 + (r1 - r0) * (z - z0) / (z1 - z0)


def _bore_words(name: str) -> str:
    """``bore.right.1`` -> 'the bore from the right, step 1'."""
    parts = name.split(".")
    text = f"the bore from the {parts[1]}"
    return text + (f", step {parts[2]}" if parts[2].isdigit() else f", {parts[2]}")
