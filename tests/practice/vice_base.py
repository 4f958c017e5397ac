"""Vice base, in inches: a hollow-backed jaw, floor and post, a T slot right through, a half-round boss, four ears."""

from __future__ import annotations

import cmath
import math

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from practice.figures import IN, chain, noted, origin, tie

NOTES = ("R1.38", "2.44", "2.00", "4.90", "1.15", "2.85", "3.25", "1.12", "1.10", "1.38", "1.95", "R.70", "Ø.56", ".40",
         "4X R.56", "4X Ø.34", "1.80", ".45 2 PLACES", ".60")  # fmt: skip


def vice_base() -> Document:
    part = noted("Vice base", NOTES, unit="in", material="EN-GJL-250")
    part = ls.extrude(ls.sketch(part, side_view(), "XZ"), 10, "#7", side="both")
    part = ls.extrude(ls.sketch(part, slot(), "YZ"), 30, None, mode="cut")
    post = ls.DatumPlane(plane="YZ", offset="#1 + #4")
    part = ls.extrude(ls.sketch(part, boss(), post), 50, "#5")
    part = ls.extrude(ls.sketch(part, bore(), post), 70, "#5", mode="cut")
    part = ls.extrude(ls.sketch(part, ear()), 90, "#14")
    part = ls.step(part, "mirror", steps=(100,), plane="XZ")
    part = ls.step(part, "plane", names=("YZ",), distance="(#1 + #4 + #5) / 2")
    return ls.step(part, "mirror", steps=(100, 110), plane="120/plane")


def side_view() -> ls.Draft:
    d = ls.Draft()
    o = origin(d)
    r, h, f, long, p, high = (v * IN for v in (1.38, 2.44, 2.0, 4.9, 1.15, 2.85))
    end = r + long + p
    corners = [(0, 0), (end, 0), (end, high), (r + long, high), (r + long, f), (r, f), (r, h + r)]
    foot, far, top, inner, floor, back = ls.shapes.polyline(d, corners)
    left = d.segment((0, h), (0, 0))
    jaw = d.arc(d.point(r, h), d.point(r, h + r), d.point(0, h))
    e = d.entities
    tie(d, back, jaw, left, foot)
    d.add("coincident", o, e[foot].points[0])
    for line in (foot, top, floor):
        d.add("horizontal", line)
    for line in (far, inner, back, left):
        d.add("vertical", line)
    middle = e[jaw].points[0]
    d.add("tangent", left, jaw)
    d.add("vertical", middle, e[back].points[1])
    d.add("radius", jaw, value="#1")
    d.add("across_y", o, middle, value="#2")
    d.add("across_y", o, e[floor].points[0], value="#3")
    for line, value in ((floor, "#4"), (top, "#5"), (far, "#6")):
        d.add("distance", line, value=value)
    return d


def slot() -> ls.Draft:
    """Seen from the end, about the middle."""
    d = ls.Draft()
    o = origin(d)
    a, b, k, m = (v * IN for v in (0.56, 0.69, 1.1, 1.95))
    corners = [(-a, 0.0), (a, 0.0), (a, k), (b, k), (b, m), (-b, m), (-b, k), (-a, k)]
    lines = ls.shapes.polyline(d, corners, closed=True)
    e = d.entities
    for i, line in enumerate(lines):
        d.add("vertical" if i % 2 else "horizontal", line)
    d.add("midpoint", o, lines[0])
    ceiling = d.point(0, m)
    d.add("midpoint", ceiling, lines[4])
    d.add("vertical", o, ceiling)
    d.add("horizontal", e[lines[1]].points[1], e[lines[6]].points[0])
    for line, value in ((lines[0], "#8"), (lines[1], "#9"), (lines[4], "#10")):
        d.add("distance", line, value=value)
    d.add("across_y", o, ceiling, value="#11")
    return d


def _on_post(d: ls.Draft) -> str:
    """A centre on the post's top, above the origin."""
    o, centre = origin(d), d.point(0, 2.85 * IN)
    d.add("vertical", o, centre)
    d.add("across_y", o, centre, value="#6")
    return centre


def boss() -> ls.Draft:
    d = ls.Draft()
    centre, r, z = _on_post(d), 0.7 * IN, 2.85 * IN
    crown, foot = d.arc(centre, d.point(r, z), d.point(-r, z)), d.segment((-r, z), (r, z))
    chain(d, crown, foot)
    d.add("horizontal", foot)
    d.add("on", centre, foot)
    d.add("radius", crown, value="#12")
    return d


def bore() -> ls.Draft:
    d = ls.Draft()
    d.add("diameter", d.circle(_on_post(d), 0.28 * IN), value="#13")
    return d


def ear() -> ls.Draft:
    """Tapering from its base tangent into a round about its hole."""
    d = ls.Draft()
    o = origin(d)
    a, b, centre, to_a, to_b = (z * IN for z in ear_places())

    def at(z: complex) -> str:
        return d.point(z.real, z.imag)

    base, right = d.line(at(a), at(b)), d.line(at(b), at(to_b))
    end, left = d.arc(at(centre), at(to_b), at(to_a)), d.line(at(to_a), at(a))
    chain(d, base, right, end, left)
    e = d.entities
    middle = e[end].points[0]
    for line in (left, right):
        d.add("tangent", line, end)
    d.add("horizontal", base)
    d.add("equal", left, right)
    hole = d.circle(middle, 0.17 * IN)
    d.add("diameter", hole, value="#16")
    d.add("radius", end, value="#15")
    d.add("distance", base, value="#17")
    d.add("across_x", o, e[base].points[0], value="#18")
    d.add("across_y", o, e[base].points[0], value="#7 / 2")
    d.add("distance", base, middle, value="#19")
    return d


def ear_places() -> tuple[complex, ...]:
    """Both ends of the base, the round's centre, and where the sides touch the round, in."""
    side = 3.25 / 2
    a, b, centre = 0.45 + side * 1j, 2.25 + side * 1j, 1.35 + (side + 0.6) * 1j
    reach = abs(centre - a)
    long, lean = math.sqrt(reach**2 - 0.56**2), math.asin(0.56 / reach)
    return (a, b, centre, a + (centre - a) / reach * long * cmath.exp(1j * lean),
            b + (centre - b) / reach * long * cmath.exp(-1j * lean))  # fmt: skip


def volume() -> float:
    """mm3, piece by piece."""
    width = 3.25
    side = 1.38 * 2.44 + math.pi * 1.38**2 / 4 + 4.9 * 2.0 + 1.15 * 2.85
    through = 1.12 * 1.10 + 1.38 * (1.95 - 1.10)
    whole = side * width - through * (1.38 + 4.9 + 1.15)
    whole += 1.15 * (math.pi * 0.7**2 / 2 - math.pi * 0.28**2)
    a, b, centre, to_a, to_b = ear_places()
    corners = [a, b, to_b, centre, to_a]
    flat = sum((p.conjugate() * q).imag for p, q in zip(corners, corners[1:] + corners[:1], strict=True)) / 2
    turn = cmath.phase((to_a - centre) / (to_b - centre)) % (2 * math.pi)
    whole += 4 * 0.4 * (flat + 0.56**2 / 2 * turn - math.pi * 0.17**2)
    return whole * IN**3
