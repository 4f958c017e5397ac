"""Tie bolt and nut, and the swivel joint: practice parts that are put together."""

from __future__ import annotations

import math

import numpy as np

from lathed_solid import scripting as ls
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document
from practice.figures import noted

STEEL = "C45 steel"


def tie_bolt() -> Document:
    part = noted("Tie bolt", ("M14x1.5-6g", "70", "34", "21", "8.8", "Ø24", "R2"), material=STEEL)
    head = ls.Station(key="A", diameter="#6", length="#5", left=ls.edge("R #7"))
    part = ls.turned(part, [head, ls.Station(key="B", diameter="#1", length="#2", right=ls.edge("1x45°"))])
    part = ls.step(part, "flats", face="10/sA", from_face="10/shoulder.A", across="#4", length=None, sides=6)
    return ls.step(part, "thread", face="10/sB", start="10/face.right", designation="M14x1.5", length="#3", real=True)


def tie_nut() -> Document:
    part = noted("Tie nut", ("21", "12.8"), material=STEEL)
    across, minor = 21 / math.cos(math.pi / 6), 14 - 2 * 0.541266 * 1.5
    bevel = ls.edge("1.2x60°")
    blank = ls.Station(key="A", diameter=f"{across:.6f}", length="#2", left=bevel, right=bevel)
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter=f"{minor:.6f}"),))
    part = ls.turned(part, [blank], bores=[bore])
    part = ls.step(part, "flats", face="10/sA", from_face="10/face.right", across="#1", length=None, sides=6)
    return ls.step(part, "thread", face="10/bore.right.1", start="10/face.left", designation="M14x1.5", real=True)


def tied(at: str = "18") -> Fit:
    """The nut turned on until its face is so far from the bolt's end; the screwing says how it is turned then."""
    fit = ls.member(ls.new_fit("Tie bolt and nut"), tie_bolt(), "bolt", held=True)
    fit = ls.member(fit, tie_nut(), "nut", placement=(46.0, 0.0, 0.0))
    fit = ls.relate(fit, "screwed", ("nut", "30/ring.helix.crest"), ("bolt", "30/ring.helix.crest"))
    return ls.relate(fit, "gap", ("nut", "10/face.right"), ("bolt", "10/face.right"), flip=True, size=f"-{at}")


#: of the yoke's bore over its plate, which the drawing leaves to be inferred
RISE = 60.0


def yoke() -> Document:
    """Plate, two arms with round ends, a bored hub on the other side of the plate."""
    part = noted("Yoke", ("84", "150", "26", "R36", "2X Ø28 H8", "Ø80", "48", "Ø44"), material=STEEL)
    d = ls.Draft()
    ls.shapes.rectangle(d, (-42.0, -75.0), (42.0, 75.0))
    part = ls.extrude(ls.sketch(part, d), 10, "#3")
    for number, at in ((30, "75"), (50, "-49")):
        arm = ls.Draft()
        c = arm.point(0.0, RISE + 26.0)
        left, right = arm.point(-36.0, RISE + 26.0), arm.point(36.0, RISE + 26.0)
        low_left, low_right = arm.point(-36.0, 20.0), arm.point(36.0, 20.0)
        arm.line(low_left, low_right)
        arm.line(low_right, right)
        arm.arc(c, right, left)
        arm.line(left, low_left)
        arm.add("diameter", arm.circle(c, 14.0), value="#5")
        part = ls.sketch(part, arm, ls.DatumPlane(plane="XZ", offset=at))
        part = ls.extrude(part, number, "26", side="back")
    hub = ls.Draft()
    hub.circle(hub.point(0.0, 0.0), 40.0)
    hub.circle(hub.point(0.0, 0.0), 22.0)
    part = ls.sketch(part, hub)
    return ls.extrude(part, 70, "48", side="back")


def cross_block() -> Document:
    """Two round bars that cross square, 34 apart, both bored."""
    part = noted("Cross block", ("Ø50", "98", "34", "2X Ø28 H8"), material=STEEL)
    for number, plane, z in ((10, "XZ", 0.0), (30, "YZ", 34.0)):
        d = ls.Draft()
        d.circle(d.point(0.0, z), 25.0)
        part = ls.sketch(part, d, ls.DatumPlane(plane=plane))  # type: ignore[arg-type]
        part = ls.extrude(part, number, "#2", side="both", **({"mode": "add"} if number > 10 else {}))
    for number, plane, z in ((50, "XZ", 0.0), (70, "YZ", 34.0)):
        d = ls.Draft()
        d.add("diameter", d.circle(d.point(0.0, z), 14.0), value="#4")
        part = ls.sketch(part, d, ls.DatumPlane(plane=plane))  # type: ignore[arg-type]
        part = ls.extrude(part, number, "120", side="both", mode="cut")
    return part


def pin() -> Document:
    part = noted("Pin", ("Ø46", "9", "Ø28 f7", "168", "Ø5", "10"), material=STEEL)
    part = ls.change_callout(part, 3, drive="middle")
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2"),
                            ls.Station(key="B", diameter="#3", length="#4")])  # fmt: skip
    return ls.hole(part, "10/sB", "#5", places=ls.Radial(at="#6", datum="10/face.right"))


def collar() -> Document:
    part = noted("Collar", ("Ø46", "10", "Ø28 H8", "Ø5"), material=STEEL)
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter="#3"),))
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2")], bores=[bore])
    return ls.hole(part, "10/sA", "#4", places=ls.Radial(at="#2 / 2", datum="10/face.left"))


def _at(x: tuple[float, ...], y: tuple[float, ...], place: tuple[float, ...]) -> np.ndarray:
    out = np.eye(4)
    out[:3, 0], out[:3, 1], out[:3, 2], out[:3, 3] = x, y, np.cross(x, y), place
    return out


#: the height of the first pin over the first yoke's underside, and of the second
FIRST, SECOND = RISE + 26.0, RISE + 26.0 + 34.0


def swivel() -> Fit:
    """Two yokes, the block between them, two pins each with its collar and taper pin; the first yoke stands fast."""
    fit = ls.member(ls.new_fit("Swivel joint"), yoke(), "lower yoke", held=True)
    fit = ls.member(fit, cross_block(), "block", placement=(0.0, 0.0, FIRST))
    fit = ls.member(fit, "Yoke", "upper yoke", placement=_at((0, 1, 0), (1, 0, 0), (0, 0, SECOND + FIRST)))
    fit = ls.relate(fit, "share an axis", ("block", "60/c1"), ("lower yoke", "40/c1"), flip=False)
    fit = ls.relate(fit, "touch", ("block", "20/start"), ("lower yoke", "60/end"), flip=False)
    fit = ls.relate(fit, "share an axis", ("upper yoke", "40/c1"), ("block", "80/c1"), flip=False)
    fit = ls.relate(fit, "touch", ("upper yoke", "60/end"), ("block", "40/end"), flip=False)
    for name, holder, x, y, z in (("first", "lower yoke", (0, 1, 0), (0, 0, 1), FIRST),
                                  ("second", "upper yoke", (1, 0, 0), (0, 1, 0), SECOND)):  # fmt: skip
        away = -84.0 * np.array(x, float) + (0, 0, z)
        fit = ls.member(fit, "Pin" if name == "second" else pin(), f"{name} pin", placement=_at(x, y, away))
        fit = ls.member(fit, "Collar" if name == "second" else collar(), f"{name} collar",
                        placement=_at(x, y, away + 160.0 * np.array(x)))  # fmt: skip
        along = np.cross(x, y)  # of the cross hole
        fit = ls.member(fit, "taper pin 5x50", f"{name} taper pin",
                        placement=_at(tuple(along), x, tuple(away + 167.0 * np.array(x) - 25.0 * along)))  # fmt: skip
        fit = ls.relate(fit, "share an axis", (f"{name} pin", "10/sB"), (holder, "40/c1"), flip=False)
        fit = ls.relate(fit, "touch", (f"{name} pin", "10/shoulder.A"), (holder, "40/end"), flip=False)
        fit = ls.relate(
            fit, "share an axis", (f"{name} collar", "10/bore.right.1"), (f"{name} pin", "10/sB"), flip=False
        )
        fit = ls.relate(
            fit, "share an axis", (f"{name} collar", "20/h0.wall"), (f"{name} pin", "20/h0.wall"), flip=False
        )
        fit = ls.relate(
            fit, "share an axis", ("block", "60/c1" if name == "first" else "80/c1"), (f"{name} pin", "10/sB")
        )
        fit = ls.relate(fit, "share an axis", (f"{name} taper pin", "X axis"), (f"{name} collar", "20/h0.wall"))
        fit = ls.relate(fit, "gap", (f"{name} taper pin", "origin"), (f"{name} pin", "XY plane"), size="-25")
    return fit
