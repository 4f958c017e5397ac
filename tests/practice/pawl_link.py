"""Pawl link: two bosses, an arm half as thick between a hollow and a full arc, a window in it, bores, a keyway.

The rounds R2 where arm and bosses meet end where arm and boss are tangent.
"""

from __future__ import annotations

import math

from steps.blends import Link, Side

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from practice.figures import arc, area, meeting, noted, origin, towards, turn

NOTES = ("96", "Ø56", "Ø40", "22", "11", "R60", "R120", "7", "4X R6", "Ø28 H7", "8", "31.3", "Ø18 H8", "R2")
#: centres of the bosses, of the hollow arc above (R60) and the full arc below (R120)
A, B = (0.0, 0.0), (96.0, 0.0)
C, D = (55.0, math.sqrt(4719)), (40.0, math.sqrt(6864))


def pawl_link() -> Document:
    part = noted("Pawl link", NOTES, material="EN-GJS-400-15")
    part = ls.sketch(ls.sketch(part, outline()), window())
    part = ls.extrude(part, 10, "#5", side="both", regions=("a1- a2+ c1- c2-",))
    part = ls.extrude(part, 20, None, side="both", mode="cut")
    corners = tuple(f"40/{p}|40/{q}" for p in ("a1", "a2") for q in ("a3", "a4"))
    part = ls.step(part, "fillet", radius="#9", pick=ls.EdgePick(edges=corners))
    part = ls.extrude(part, 10, "#4", side="both", regions=("c1+", "c2+"))
    part = ls.hole(part, "60/end", "#10", places=ls.Table(rows=(("0", "0"),)))
    part = ls.hole(part, "60/end", "#13", places=ls.Table(rows=(("#1", "0"),)))
    part = ls.step(part, "keyway", face="70/h0.wall", from_face="60/end", width="#11", depth="#12 - #10", length=None)
    foot = tuple(f"30/{side}|60/{boss}" for side in ("end", "start") for boss in ("c1", "c2"))
    return ls.step(part, "fillet", radius="#14", pick=ls.EdgePick(edges=foot))


def outline() -> ls.Draft:
    """Both bosses, and the arcs that touch them: each ends on the line of centres."""
    d = ls.Draft()
    o, second = origin(d), d.point(*B)
    d.add("horizontal", o, second)
    d.add("across_x", o, second, value="#1")
    big, small = d.circle(o, 28), d.circle(second, 20)
    d.add("diameter", big, value="#2")
    d.add("diameter", small, value="#3")
    for centre, r, value in ((C, 60, "#6"), (D, 120, "#7")):
        middle = d.point(*centre)
        made = d.arc(middle, d.point(*towards(centre, A, r)), d.point(*towards(centre, B, r)))
        d.add("radius", made, value=value)
        e = d.entities[made]
        for end, boss in ((e.start, big), (e.end, small)):  # type: ignore[union-attr]
            hub = d.entities[boss].centre  # type: ignore[union-attr]
            d.add("on", end, boss)
            if centre is C:
                d.add("on", end, d.line(middle, hub, construction=True))
            else:
                d.add("on", hub, d.line(middle, end, construction=True))
    return d


def window() -> ls.Draft:
    """7 within both arcs and both bosses."""
    d = ls.Draft()
    o, second = origin(d), d.point(*B)
    d.add("horizontal", o, second)
    d.add("across_x", o, second, value="#1")
    above, below = d.point(*C), d.point(*D)
    for centre, one, two in ((above, "#6 + #2 / 2", "#6 + #3 / 2"), (below, "#7 - #2 / 2", "#7 - #3 / 2")):
        d.add("distance", centre, o, value=one)
        d.add("distance", centre, second, value=two)
    tl, tr, bl, br = window_corners()
    upper, lower = d.arc(above, d.point(*tl), d.point(*tr)), d.arc(below, d.point(*bl), d.point(*br))
    left, right = d.arc(o, d.point(*bl), d.point(*tl)), d.arc(second, d.point(*tr), d.point(*br))
    e = d.entities
    ties = ((left, "end", upper, "start"), (upper, "end", right, "start"), (lower, "start", left, "start"),
            (lower, "end", right, "end"))  # fmt: skip
    for one, its, other, others in ties:
        d.add("coincident", getattr(e[one], its), getattr(e[other], others))
    for made, r in ((upper, "#6 + #8"), (lower, "#7 - #8"), (left, "#2 / 2 + #8"), (right, "#3 / 2 + #8")):
        d.add("radius", made, value=r)
    return d


def window_corners() -> tuple[tuple[float, float], ...]:
    """Top left, top right, bottom left, bottom right, before they are rounded."""
    return (meeting(A, 35, C, 67, (30, 10)), meeting(B, 27, C, 67, (72, 5)), meeting(A, 35, D, 113, (20, -28)),
            meeting(B, 27, D, 113, (80, -20)))  # fmt: skip


def volume() -> float:
    """mm3, by Green's theorem along the arcs."""
    bosses = math.pi * (28**2 + 20**2 - 14**2 - 9**2)
    # the keyway, from the bore to its flat bottom 31.3 from the bore's far side
    bore = 2 * (4 / 2 * math.sqrt(14**2 - 16) + 14**2 / 2 * math.asin(4 / 14))
    bosses -= 8 * 17.3 - bore
    hollow = [towards(C, p, 60) for p in (A, B)]
    full = [towards(D, p, 120) for p in (A, B)]
    # round by the bosses' centres, less the sectors of their discs
    arm = area([*arc(C, *hollow), B, *arc(D, full[1], full[0]), A])
    arm -= 28**2 / 2 * turn(A, full[0], hollow[0]) + 20**2 / 2 * turn(B, hollow[1], full[1])
    upper, lower = (Side(kind, r, 28, 20, 96) for kind, r in (("hollow", 60), ("full", 120)))
    rounds = Link(96, 28, 20, 11, 5.5, 2, upper, lower).change("foot")
    assert rounds is not None
    return 22 * bosses + 11 * (arm - window_area()) + rounds


def window_area() -> float:
    """With its corners rounded R6: each round's centre is 6 within both of its arcs."""
    tl, tr, bl, br = window_corners()
    tl, tr = meeting(A, 41, C, 73, tl), meeting(B, 33, C, 73, tr)
    bl, br = meeting(A, 41, D, 107, bl), meeting(B, 33, D, 107, br)
    above = [towards(C, p, 67) for p in (tl, tr)]
    below = [towards(D, p, 113) for p in (br, bl)]
    right, left = [towards(B, p, 27) for p in (tr, br)], [towards(A, p, 35) for p in (bl, tl)]
    return area([
        *arc(C, *above), *arc(tr, above[1], right[0]), *arc(B, *right), *arc(br, right[1], below[0]), *arc(D, *below),
        *arc(bl, below[1], left[0]), *arc(A, *left), *arc(tl, left[1], above[0]),
    ])  # fmt: skip
