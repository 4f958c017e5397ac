"""Hidden lines tidied: what lies on one line or circle is drawn once, and nothing hidden under what is seen.

Each line has a carrier (the direction of the line and its distance from the origin; the centre and radius of an arc)
and covers an interval of it; per carrier the seen intervals are united, and taken out of the hidden ones.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence

from lathed_solid.kernel.drawing.figures import Arc, Curve, Place, Run

#: decimals to which carriers are one, mm and rad
DIGITS = 4
#: shorter than this nothing is drawn, mm
LEAST = 1e-3

Interval = tuple[float, float]
_Carrier = tuple[float, ...]


def tidied(seen: Sequence[Curve], hidden: Sequence[Curve]) -> tuple[tuple[Curve, ...], tuple[Curve, ...]]:
    """What is seen, each piece once; what is hidden, less what lies under it."""
    seen_on, seen_rest = _carried(seen)
    hidden_on, hidden_rest = _carried(hidden)
    shown = {carrier: _united(pieces) for carrier, pieces in seen_on.items()}
    beneath = {carrier: _less(_united(pieces), shown.get(carrier, [])) for carrier, pieces in hidden_on.items()}
    return (*_drawn(shown), *seen_rest), (*_drawn(beneath), *hidden_rest)


def _carried(curves: Iterable[Curve]) -> tuple[dict[_Carrier, list[Interval]], list[Curve]]:
    on: dict[_Carrier, list[Interval]] = defaultdict(list)
    rest: list[Curve] = []
    for curve in curves:
        if isinstance(curve, Arc):
            carrier = (round(curve.centre[0], DIGITS), round(curve.centre[1], DIGITS), round(curve.radius, DIGITS))
            on[carrier] += _within_a_turn(curve)
        elif len(curve.points) == 2:
            found = _line(*curve.points)
            if found is not None:
                on[found[0]].append(found[1])
        else:
            rest.append(curve)
    return on, rest


def _within_a_turn(arc: Arc) -> list[Interval]:
    if arc.whole:
        return [(0.0, 2 * math.pi)]
    start = arc.start % (2 * math.pi)
    end = start + arc.end - arc.start
    return [(start, end)] if end <= 2 * math.pi else [(start, 2 * math.pi), (0.0, end - 2 * math.pi)]


def _line(a: Place, b: Place) -> tuple[_Carrier, Interval] | None:
    length = math.dist(a, b)
    if length < LEAST:
        return None
    angle = math.atan2(b[1] - a[1], b[0] - a[0]) % math.pi
    angle = 0.0 if angle > math.pi - 0.5 * 10**-DIGITS else round(angle, DIGITS)
    c, s = math.cos(angle), math.sin(angle)
    off = round(-s * (a[0] + b[0]) / 2 + c * (a[1] + b[1]) / 2, DIGITS) + 0.0
    along = sorted((c * a[0] + s * a[1], c * b[0] + s * b[1]))
    return (angle, off), (along[0], along[1])


def _united(pieces: Iterable[Interval]) -> list[Interval]:
    out: list[Interval] = []
    for low, high in sorted(pieces):
        if out and low <= out[-1][1] + LEAST:
            out[-1] = (out[-1][0], max(out[-1][1], high))
        else:
            out.append((low, high))
    return out


def _less(pieces: Iterable[Interval], others: Sequence[Interval]) -> list[Interval]:
    out = []
    for low, high in pieces:
        for a, b in others:
            if b <= low + LEAST or a >= high - LEAST:
                continue
            if a > low + LEAST:
                out.append((low, a))
            low = max(low, b)
        if high - low > LEAST:
            out.append((low, high))
    return out


def _drawn(on: dict[_Carrier, list[Interval]]) -> list[Curve]:
    out: list[Curve] = []
    for carrier, pieces in on.items():
        if len(carrier) == 3:
            x, y, radius = carrier
            out += [Arc((x, y), radius, a, b) for a, b in _about_zero(pieces) if (b - a) * radius > LEAST]
        else:
            angle, off = carrier
            c, s = math.cos(angle), math.sin(angle)
            out += [Run(((c * a - s * off, s * a + c * off), (c * b - s * off, s * b + c * off))) for a, b in pieces]
    return out


def _about_zero(pieces: list[Interval]) -> list[Interval]:
    """An arc that was parted at angle zero made one again."""
    if len(pieces) > 1 and pieces[0][0] < LEAST and pieces[-1][1] > 2 * math.pi - LEAST:
        return [*pieces[1:-1], (pieces[-1][0], pieces[0][1] + 2 * math.pi)]
    return pieces
