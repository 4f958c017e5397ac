"""Cover block, hand pulley and roller ring, in inches."""

from __future__ import annotations

import math

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from practice.figures import IN, noted


def hand_pulley() -> Document:
    """Turned: a rim with a groove between two lands, a bore, eight holes on a circle, lands' edges broken."""
    part = noted("Hand pulley", (
        "Ø5.20", "Ø3.30", "1.80", ".90", ".22 2 PLACES", "Ø.70", "8X Ø.45 THRU EQ SP ON Ø2.30 BC", "2X .015 X 45°",
    ), unit="in", material="EN-GJL-250")  # fmt: skip
    slope = "(#3 - #4) / 2 - #5"
    edge = ls.edge("#9 x 45°")
    part = ls.turned(part, [
        ls.Station(key="A", diameter="#1", length="#5", left=edge),
        ls.Station(key="B", diameter="#1", length=slope, taper=ls.Taper(kind="diameter", value="#2")),
        ls.Station(key="C", diameter="#2", length="#4"),
        ls.Station(key="D", diameter="#2", length=slope, taper=ls.Taper(kind="diameter", value="#1", rises=True)),
        ls.Station(key="E", diameter="#1", length="#5", right=edge),
    ], bores=[ls.Bore(end="right", steps=(ls.BoreStep(diameter="#6"),))])  # fmt: skip
    return ls.hole(part, "10/face.left", "#7", places=ls.OnCircle(bolt_circle="#8", count=8))


def hand_pulley_volume() -> float:
    """mm3, Pappus piece by piece."""
    big, small, bore = 2.6 * IN, 1.65 * IN, 0.35 * IN
    slope = 0.23 * IN
    rim = 2 * math.pi * big**2 * 0.22 * IN + 2 * math.pi * slope * (big**2 + big * small + small**2) / 3
    whole = rim + math.pi * small**2 * 0.9 * IN - math.pi * bore**2 * 1.8 * IN
    whole -= 8 * math.pi * (0.225 * IN) ** 2 * 1.8 * IN
    leg = 0.015 * IN
    outer = leg**2 / 2 * 2 * math.pi * (big - leg / 3)
    return whole - 2 * outer


def cover_block() -> Document:
    """Milled: clipped corners, six tapped and countersunk holes at ordinates, two pockets, all outer edges broken."""
    part = noted("Cover block", (
        "4.600", "1.800", ".700", ".220", "8X R.10", "6X #10-24 UNC-2B ↧.35 ⌵ Ø.21 X 90°", "1.900", ".300", ".900",
        "1.500", ".380 2 PLACES", ".450", "1.350", "4X R.03", "2.000",
    ), unit="in", material="EN AW-6082")  # fmt: skip
    n = {c.note: c.balloon for c in reversed(part.callouts)}
    thread = n["6X #10-24 UNC-2B ↧.35 ⌵ Ø.21 X 90°"]
    wide, deep, clip = 4.6 * IN, 1.8 * IN, 0.22 * IN
    d = ls.Draft()
    corners = [(clip, 0.0), (wide - clip, 0.0), (wide, clip), (wide, deep - clip), (wide - clip, deep), (clip, deep),
               (0.0, deep - clip), (0.0, clip)]  # fmt: skip
    lines = ls.shapes.polyline(d, corners, closed=True)
    e = d.entities
    origin = d.point(0, 0)
    d.add("fixed", origin)
    for k, kind in ((0, "horizontal"), (2, "vertical"), (4, "horizontal"), (6, "vertical")):
        d.add(kind, lines[k])  # type: ignore[arg-type]
    bottom, right, top, left = (e[lines[k]].points for k in (0, 2, 4, 6))
    c = f"#{n['.220']}"
    d.add("horizontal", origin, bottom[0])
    d.add("vertical", origin, left[0])
    d.add("across_x", origin, bottom[0], value=c)
    d.add("across_y", origin, left[1], value=c)
    d.add("across_x", left[0], right[0], value=f"#{n['4.600']}")
    d.add("across_y", bottom[0], top[0], value=f"#{n['1.800']}")
    d.add("across_x", bottom[1], right[0], value=c)
    d.add("across_y", right[1], top[0], value=c)
    d.add("vertical", bottom[1], top[0])
    d.add("vertical", bottom[0], top[1])
    d.add("horizontal", right[0], left[1])
    d.add("horizontal", right[1], left[0])
    part = ls.extrude(ls.sketch(part, d), 10, f"#{n['.700']}")
    clips = [f"20/l{a}|20/l{b}" for a, b in ((1, 2), (2, 3), (3, 4), (4, 5), (5, 6), (6, 7), (7, 8), (1, 8))]
    part = ls.step(part, "fillet", radius=f"#{n['8X R.10']}", pick=ls.EdgePick(edges=tuple(clips)))
    x, mid, low, middle, high = (f"#{n[t]}" for t in ("1.900", "2.000", ".300", ".900", "1.500"))
    over = f"#{n['4.600']}"
    rows = (
        (x, low),
        (mid, middle),
        (x, high),
        (f"{over} - {x}", low),
        (f"{over} - {mid}", middle),
        (f"{over} - {x}", high),
    )
    threaded, places = f"#{thread + 1}", ls.Table(rows=tuple(rows))
    part = ls.hole(part, "20/end", "", depth=f"{threaded} + .15", thread="#10-24 UNC", thread_depth=threaded,
                   csk_diameter=f"#{thread + 2}", csk_angle=f"#{thread + 3}", places=places)  # fmt: skip
    d = ls.Draft()
    begin, end = 0.45 * IN, 1.35 * IN
    sides = ls.shapes.rectangle(d, (begin, -5.0), (end, deep + 5.0))
    e = d.entities
    origin = d.point(0, 0)
    d.add("fixed", origin)
    d.add("across_x", origin, e[sides[0]].points[0], value=f"#{n['.450']}")
    d.add("across_x", origin, e[sides[0]].points[1], value=f"#{n['1.350']}")
    d.add("across_y", e[sides[0]].points[0], origin, value="0.2")
    d.add("distance", sides[1], value="2.2")
    part = ls.sketch(part, d, "20/end")
    part = ls.extrude(part, 50, f"#{n['.380 2 PLACES']}", side="back", mode="cut")
    part = ls.step(part, "plane", names=("YZ",), distance=f"{over} / 2")
    part = ls.step(part, "mirror", steps=(60,), plane="70/plane")
    floors = [f"{a}60/start{z}|{a}60/{side}{z}" for a, z in (("", ""), ("80/m(", ")")) for side in ("l2", "l4")]
    return ls.step(part, "fillet", radius=f"#{n['4X R.03']}", pick=ls.EdgePick(edges=tuple(floors)))


def roller_ring() -> Document:
    """Turned: recessed faces, an annular groove within, a roller as a body of its own and its seventeen copies."""
    part = noted("Roller ring", (
        "Ø1.70", "Ø1.10", ".56", "2X Ø1.40", ".05 2 PLACES", "Ø1.46", ".44", "Ø.17", "2X .015 X 45°",
    ), unit="in", material="C45 steel")  # fmt: skip
    edge = ls.edge("#9 x 45°")
    recess = ls.BoreStep(diameter="#4", depth="#5")
    part = ls.turned(
        part, [ls.Station(key="A", diameter="#1", length="#3", left=edge, right=edge)],
        bores=[ls.Bore(end="left", steps=(recess,)), ls.Bore(end="right", steps=(recess, ls.BoreStep(diameter="#2")))],
    )  # fmt: skip
    part = ls.step(part, "groove", face="10/bore.right.2", from_face="10/bore.left.1.floor",
                   at="(#3 - 2 * #5 - #7) / 2", width="#7", diameter="#6")  # fmt: skip
    d = ls.Draft()
    circle = d.circle(d.point((1.46 - 0.17) / 2 * IN, 0), 0.085 * IN)
    origin = d.point(0, 0)
    d.add("fixed", origin)
    d.add("horizontal", origin, d.entities[circle].centre)
    d.add("across_x", origin, d.entities[circle].centre, value="(#6 - #8) / 2")
    d.add("diameter", circle, value="#8")
    part = ls.sketch(part, d, ls.DatumPlane(plane="YZ", offset="(#3 - #7) / 2"))
    part = ls.extrude(part, 30, "#7", mode="new")
    for k in range(1, 18):
        part = ls.step(part, "move", body=40, about="X", angle=f"{20 * k}°", as_copy=True)
    return part
