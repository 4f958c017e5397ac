"""Stop bracket: base, a wall whose top is a slope ending in an arc, a flange along the slope, a rib, a tapered slot.

The slot is drawn smaller than the practice sheet has it, as that one does not lie within its flange.
"""

from __future__ import annotations

import cmath
import math

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from practice.figures import chain, noted, origin

NOTES = ("80", "52", "9", "9", "30°", "36", "R12", "9", "55", "10", "44", "38", "Ø20", "20 2 PLACES", "Ø10", "20",
         "2X Ø8.5 THRU ⌵ Ø17 X 82°", "22", "R16", "R6", "FILLETS AND ROUNDS R3")  # fmt: skip
SLOPE = math.radians(30)
#: where the wall would peak, and how far below it the arc R12 begins
PEAK, BACK = 36 + 52 * math.tan(SLOPE), 12 / math.tan(math.radians(30))


def stop_bracket() -> Document:
    part = before_rounds()
    part = ls.step(part, "fillet", radius="#21", pick=ls.EdgePick(edges=("20/l1|20/l2",)))
    part = ls.step(part, "fillet", radius="#22", pick=ls.EdgePick(edges=("20/end|40/end",)))
    rounds = ("60/end|60/l3", "60/l2|60/l3", "60/end|60/l2", "20/end|80/end", "40/end|80/end")
    return ls.step(part, "fillet", radius="#23", pick=ls.EdgePick(edges=rounds))


def before_rounds() -> Document:
    part = noted("Stop bracket", NOTES, material="S235 steel")
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (80, 52))
    d.add("coincident", origin(d), d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value="#2")
    part = ls.extrude(ls.sketch(part, d), 10, "#3")
    part = ls.extrude(ls.sketch(part, wall(), "YZ"), 30, "#4")
    part = ls.extrude(ls.sketch(part, flange(), "YZ"), 50, "#9")
    part = ls.sketch(part, rib(), ls.DatumPlane(plane="XZ", offset="-(#2 - #10 / 2)"))
    part = ls.extrude(part, 70, "#10", side="both")
    part = ls.extrude(ls.sketch(part, slot(), "60/l1"), 90, "#8", side="back", mode="cut")
    places = ls.Table(rows=(("#1 - #20", "#20"), ("#20", "#2 - #20")))
    return ls.hole(part, "20/end", "#17", csk_diameter="#18", csk_angle="#19", places=places)


def wall() -> ls.Draft:
    d = ls.Draft()
    o = origin(d)
    low, high = (52.0, PEAK - BACK), (52 - BACK * math.cos(SLOPE), PEAK - BACK * math.sin(SLOPE))
    foot, right = d.segment((0, 0), (52, 0)), d.segment((52, 0), low)
    round_, slope = d.arc(d.point(40, PEAK - BACK), d.point(*low), d.point(*high)), d.segment(high, (0, 36))
    left = d.segment((0, 36), (0, 0))
    chain(d, foot, right, round_, slope, left)
    d.add("horizontal", foot)
    d.add("vertical", right)
    d.add("vertical", left)
    d.add("tangent", right, round_)
    d.add("tangent", slope, round_)
    d.add("coincident", o, d.entities[foot].points[0])
    for line, value in ((foot, "#2"), (left, "#6")):
        d.add("distance", line, value=value)
    d.add("radius", round_, value="#7")
    d.add("angle", foot, slope, value="180° - #5")
    return d


def flange() -> ls.Draft:
    """In section: along the slope as far as the arc."""
    d = ls.Draft()
    o, n = origin(d), cmath.rect(9, SLOPE + math.pi / 2)
    first, last = 36j, complex(52 - BACK * math.cos(SLOPE), PEAK - BACK * math.sin(SLOPE))
    corners = [first, last, last - n, (36 - 9 / math.cos(SLOPE)) * 1j]
    top, end, under, edge = ls.shapes.polyline(d, [(z.real, z.imag) for z in corners], closed=True)
    e = d.entities
    level = d.segment((0, 0), (20, 0), construction=True)
    d.add("coincident", o, e[level].points[0])
    d.add("horizontal", level)
    d.add("distance", level, value="20")
    d.add("vertical", edge)
    d.add("vertical", o, e[edge].points[0])
    d.add("parallel", top, under)
    d.add("perpendicular", top, end)
    d.add("angle", level, top, value="#5")
    d.add("distance", end, value="#8")
    d.add("across_y", o, e[top].points[0], value="#6")
    d.add("distance", top, value="#2 / cos(#5) - #7 / tan(#5)")
    return d


def rib() -> ls.Draft:
    d = ls.Draft()
    o = origin(d)
    back, foot = ls.shapes.polyline(d, [(47, 9), (9, 44), (9, 9)], closed=True)[1:]
    e = d.entities
    d.add("horizontal", foot)
    d.add("vertical", back)
    d.add("across_x", o, e[foot].points[0], value="#4")
    d.add("across_y", o, e[foot].points[0], value="#3")
    d.add("distance", foot, value="#12")
    d.add("across_y", o, e[back].points[0], value="#11")
    return d


def slot() -> ls.Draft:
    """On the slope: a full round at one end, a smaller one at the other, lines that touch both."""
    d = ls.Draft()
    o = origin(d)
    big, small = complex(35, 38), complex(15, 38)
    up = complex(-5 / 20, math.sqrt(1 - (5 / 20) ** 2))

    def at(z: complex) -> str:
        return d.point(z.real, z.imag)

    wide = d.arc(at(big), at(big + 10 * up.conjugate()), at(big + 10 * up))
    narrow = d.arc(at(small), at(small + 5 * up), at(small + 5 * up.conjugate()))
    above = d.line(at(big + 10 * up), at(small + 5 * up))
    below = d.line(at(small + 5 * up.conjugate()), at(big + 10 * up.conjugate()))
    chain(d, wide, above, narrow, below)
    for line in (above, below):
        d.add("tangent", line, wide)
        d.add("tangent", line, narrow)
    centres = [d.entities[a].points[0] for a in (narrow, wide)]
    d.add("diameter", wide, value="#13")
    d.add("diameter", narrow, value="#15")
    d.add("horizontal", *centres)
    d.add("across_x", *centres, value="#16")
    # the slope's low edge stands 36 sin 30 from the foot of the origin on it
    d.add("across_x", o, centres[1], value="#9 - #14")
    d.add("across_y", o, centres[1], value="#6 * sin(#5) + #14")
    return d


def volume_before_rounds() -> float:
    """mm3, piece by piece."""
    peak = BACK * 12 - 12**2 * math.radians(120) / 2  # what the arc takes off the corner
    side = 52 * (36 + PEAK) / 2 - peak
    whole = 80 * 52 * 9 + 9 * (side - 52 * 9)
    along = 52 / math.cos(SLOPE) - BACK
    whole += (55 - 9) * (along * 9 + 9 * 9 * math.tan(SLOPE) / 2)
    whole += 10 * 38 * 35 / 2
    lean = math.asin(5 / 20)
    tangents = math.sqrt(20**2 - 5**2) * 15
    whole -= 9 * (tangents + 100 * (math.pi / 2 + lean) + 25 * (math.pi / 2 - lean))
    high = (8.5 - 4.25) / math.tan(math.radians(41))
    cone = math.pi * high / 3 * (8.5**2 + 8.5 * 4.25 + 4.25**2)
    return whole - 2 * (cone + math.pi * 4.25**2 * (9 - high))
