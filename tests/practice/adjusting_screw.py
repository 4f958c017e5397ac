"""Adjusting screw: a head with a hexagon recess, a plain stretch, a coarse thread cut as a coil from the tip."""

from __future__ import annotations

import itertools
import math

import numpy as np

from lathed_solid import scripting as ls
from lathed_solid.part import Document, scope
from lathed_solid.sketch.model import Sketch
from practice.figures import noted, origin

NOTES = ("Ø11", "3", "45°", "Ø6.8", "13", "45°", "Ø6.2", "52", "60°", "Ø3.8", "3.5", "0.5 x 45°", "Ø4.4 ↧4.2", "Ø5.4",
         "4", "3.6", "3.2", "2.1", "1.3", "2X R0.3 ±0.05")  # fmt: skip
PITCH, TURNS, ROOT, OUTSIDE, CLEAR, CORNER = 3.2, 11, 1.8, 3.1, 3.4, 0.3
#: half the groove's width at its root, and how much it widens with the radius
HALF, SLOPE = 0.5, 0.55 / 1.3
START = 52 - TURNS * PITCH


def adjusting_screw() -> Document:
    part = blank()
    part = ls.sketch(part, groove(part))
    return ls.step(part, "helix", sketch=40, axis="X", mode="cut", pitch="#18", turns=f"{TURNS}")


def blank() -> Document:
    part = noted("Adjusting screw", NOTES, material="C45 steel")

    def cone(angle: str) -> ls.Taper:
        return ls.Taper(kind="angle", value=angle)

    tip = "(#7 - #10) / 2 / tan(#9 / 2)"
    stations = [
        ls.Station(key="A", diameter="#1", length="#2"),
        ls.Station(key="B", diameter="#1", length="(#1 - #4) / 2", taper=cone("#3")),
        ls.Station(key="C", diameter="#4", to="#5"),
        ls.Station(key="D", diameter="#4", length="(#4 - #7) / 2", taper=cone("#6")),
        ls.Station(key="E", diameter="#7", length=f"#8 - #5 - (#4 - #7) / 2 - #11 - {tip}"),
        ls.Station(key="F", diameter="#7", length=tip, taper=cone("#9 / 2")),
        ls.Station(key="G", diameter="#10", length="#11", right=ls.edge("#12 x 45°")),
    ]
    mouth = ls.Edge(kind="chamfer", size="(#15 - #13) / 2", angle="45°")
    recess = ls.Bore(end="left", steps=(ls.BoreStep(diameter="#13", depth="#14"),), mouth=mouth)
    part = ls.turned(part, stations, bores=[recess])
    d = ls.Draft()
    *sides, _outer, flats = ls.shapes.polygon(d, (0, 0), (0, 2.0), 6, across_flats=True)
    d.add("fixed", d.entities[flats].points[0])
    d.add("diameter", flats, value="#16")
    d.add("horizontal", sides[0])
    return ls.extrude(ls.sketch(part, d, "10/face.left"), 20, "#17", side="back", mode="cut")


def groove(part: Document) -> Sketch:
    """One turn's section: a trapezoid with rounded root, open outwards, where the thread begins."""
    d = ls.Draft()
    o, mouth = origin(d), HALF + SLOPE * (CLEAR - ROOT)
    corners = [(START - HALF, ROOT), (START + HALF, ROOT), (START + mouth, CLEAR), (START - mouth, CLEAR)]
    root, right, top, left = ls.shapes.polyline(d, corners, closed=True)
    e = d.entities
    d.add("horizontal", root)
    d.add("horizontal", top)
    d.add("equal", left, right)
    d.add("distance", root, value="1")
    d.add("across_y", o, e[root].points[0], value="#7 / 2 - #20")
    d.add("across_y", o, e[top].points[0], value="#7 / 2 + 0.3")
    d.add("across_x", o, e[root].points[0], value=f"#8 - {TURNS} * #18 - 0.5")
    ends = [d.point(START - 1.05, OUTSIDE), d.point(START + 1.05, OUTSIDE)]
    width = d.line(*ends, construction=True)
    d.add("on", ends[0], left)
    d.add("on", ends[1], right)
    d.add("across_y", o, ends[0], value="#7 / 2")
    d.add("distance", width, value="#19")
    from lathed_solid.sketch.examine import dimension_values

    figure = d.done()
    values = dimension_values(figure, scope(part))
    for a, b in ((root, right), (left, root)):
        figure = ls.sketch_edits.fillet(figure, values, a, b, CORNER, "#21")
    return figure


def blank_volume() -> float:
    """mm3: Pappus for the outside, and the recess layer by layer."""

    def frustum(a: float, b: float, long: float) -> float:
        return math.pi * long / 3 * (a * a + a * b + b * b)

    tip = 1.2 / math.tan(math.radians(30))
    outside = frustum(5.5, 5.5, 3) + frustum(5.5, 3.4, 2.1) + frustum(3.4, 3.4, 13 - 5.1) + frustum(3.4, 3.1, 0.3)
    outside += frustum(3.1, 3.1, 52 - 13.3 - 3.5 - tip) + frustum(3.1, 1.9, tip) + frustum(1.9, 1.9, 3.0)
    outside += frustum(1.9, 1.4, 0.5)
    recess = frustum(2.7, 2.2, 0.5) + math.pi * 2.2**2 * 3.7
    z, w = _gauss(0.0, 0.5, 2.7 - 2 / math.cos(math.pi / 6))
    corners = sum(w * np.array([_beyond(2.7 - x) for x in z])) + 3.1 * _beyond(2.2)
    return float(outside - recess - corners)


def _beyond(r: float) -> float:
    """Area of a hexagon 4 across flats that lies beyond a circle, mm2."""
    half = math.pi / 6
    if r * math.cos(half) >= 2:
        return 0.0
    a = math.acos(2 / r)  # where the flat leaves the circle, from its middle
    return 12 * (2 * 2 * (math.tan(half) - math.tan(a)) / 2 - r * r * (half - a) / 2)


def groove_volume() -> float:
    """What the coil takes away, mm3: V = int dt int r dr |[z - h, z + h] within the material at r|."""
    high = ROOT + CORNER * (1 - math.sin(math.atan(SLOPE)))
    r, w = _gauss(ROOT, OUTSIDE, high, 1.9)
    t = CORNER * math.tan((math.pi / 2 - math.atan(SLOPE)) / 2)
    bend = HALF - t + np.sqrt(np.clip(CORNER**2 - (r - ROOT - CORNER) ** 2, 0, None))
    half = np.where(r < high, bend, HALF + SLOPE * (r - ROOT))
    far = np.where(r < 1.9, 52 - (r - 1.4), 48.5 - (r - 1.9) / math.tan(math.radians(30)))
    turned = np.linspace(0, 2 * math.pi * TURNS, TURNS * 4000 + 1)
    z = (START + PITCH * turned / (2 * math.pi))[:, None]
    inner = (np.clip(np.minimum(z + half, far) - (z - half), 0, None) * r * w).sum(axis=1)
    return float(np.trapezoid(inner, turned))


def _gauss(low: float, high: float, *cuts: float) -> tuple[np.ndarray, np.ndarray]:
    """Places and weights from low to high, with pieces between the cuts."""
    nodes, weights = np.polynomial.legendre.leggauss(40)
    ends = sorted({low, high, *cuts})
    pieces = list(itertools.pairwise(ends))
    return (np.concatenate([(b - a) / 2 * nodes + (a + b) / 2 for a, b in pieces]),
            np.concatenate([(b - a) / 2 * weights for a, b in pieces]))  # fmt: skip
