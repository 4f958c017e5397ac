"""Datum planes, axes and points, and the curves of other sketches, laid into a sketch's plane.

A plane with normal m meets the sketch's plane (normal n) in a line along n x m; an axis is seen as a line, or as a
point when it stands square on the plane. Names: ``30/plane|~datum``, and ``20/l3|~curve`` of the sketch 20's line.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from lathed_solid.kernel.parts import Datum, Parts
from lathed_solid.part.steps import Frame
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, ROUNDING
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Arc, Circle, Line, Sketch

#: datum planes and axes are drawn so far to either side of their origin, mm
HALF = 25.0
MOST = 400


def datums(parts: Parts, frame: Frame) -> Iterator[Edge]:
    """Datums of the route so far, where they show in the plane; names as in ``parts``."""
    for name, datum in list(parts.datums.items())[:MOST]:
        laid = _DATUM[datum.kind](datum, frame)
        if laid is not None:
            yield Edge(f"{name}|~datum", *laid)


Laid = tuple[str, tuple[tuple[float, float], ...]]


def _flat(frame: Frame, place: np.ndarray) -> np.ndarray:
    return np.array([np.dot(place - np.array(frame.origin), axis) for axis in (frame.x, frame.y)])


def _along(frame: Frame, middle: np.ndarray, way: np.ndarray) -> Laid:
    ends = (middle - way * HALF, middle + way * HALF)
    return "line", tuple((float(p[0]) + 0.0, float(p[1]) + 0.0) for p in ends)


def _plane(datum: Datum, frame: Frame) -> Laid | None:
    m = np.array([np.dot(datum.direction, axis) for axis in (frame.x, frame.y)])
    size = float(np.hypot(*m))
    if size < ANGULAR:
        return None
    off = float(np.dot(np.array(datum.origin) - np.array(frame.origin), datum.direction))
    seen = _flat(frame, np.array(datum.origin))
    # the place of the trace nearest to the datum's own origin
    middle = seen + m / size**2 * (off - float(seen @ m))
    return _along(frame, middle, np.array([-m[1], m[0]]) / size)


def _axis(datum: Datum, frame: Frame) -> Laid | None:
    way = np.array([np.dot(datum.direction, axis) for axis in (frame.x, frame.y)])
    size = float(np.hypot(*way))
    return _point(datum, frame) if size < ANGULAR else _along(frame, _flat(frame, np.array(datum.origin)), way / size)


def _point(datum: Datum, frame: Frame) -> Laid:
    x, y = _flat(frame, np.array(datum.origin))
    return "point", ((float(x) + 0.0, float(y) + 0.0),)


_DATUM = {"plane": _plane, "axis": _axis, "point": _point}


def curves(number: int, figure: Sketch, own: Frame, frame: Frame) -> Iterable[Edge]:
    """Lines, circles and arcs of the sketch ``number`` with its frame ``own``, as they are seen in ``frame``.

    Lines that stand square on the plane, and round ones aslant to it, are left out.
    """
    square = float(np.dot(np.cross(own.x, own.y), np.cross(frame.x, frame.y)))
    round_too = abs(abs(square) - 1) < ROUNDING

    def at(point: str) -> tuple[float, float]:
        x, y = figure.at(point)
        p = _flat(frame, np.array(own.origin) + x * np.array(own.x) + y * np.array(own.y))
        return float(p[0]) + 0.0, float(p[1]) + 0.0

    for e in figure.curves[:MOST]:
        name = f"{number}/{e.id}|~curve"
        if e.source:
            continue
        if isinstance(e, Line):
            a, b = at(e.start), at(e.end)
            if np.hypot(a[0] - b[0], a[1] - b[1]) > LINEAR:
                yield Edge(name, "line", (a, b))
        elif isinstance(e, Circle) and round_too:
            yield Edge(name, "circle", (at(e.centre),), e.radius)
        elif isinstance(e, Arc) and round_too:
            ends = (e.start, e.end) if square > 0 else (e.end, e.start)
            yield Edge(name, "arc", (at(e.centre), at(ends[0]), at(ends[1])))
