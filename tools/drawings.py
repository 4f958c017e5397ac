"""Draw the demo sheets: ``python tools/drawings.py`` writes PDF and DXF of every demo part, and where their callouts
stand, beside the demo parts. Made up throughout, like the parts.

The pedestal has two revisions. In A, 21 contradicts 3 and 9, and nothing says where the column stands front to back;
B mends both and changes two sizes.
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable

from drawing_sheet import ROOT, Sheet, View

OUT = ROOT / "src" / "lathed_solid" / "demo" / "sheets"


def pedestal(revision: str) -> Sheet:
    a = revision == "A"
    rows = (("material", "EN-GJL-250"), ("general tolerance", ".XX ±.01  .XXX ±.005"), ("scale 1:1", "inch"),
            ("revision", revision))  # fmt: skip
    s = Sheet("Pedestal", "P-02", rows, unit="in")
    # top view
    v, r = s.view(70, 35), 0.5
    v.line((r, 0), (6 - r, 0))
    v.line((r, 4), (6 - r, 4))
    v.line((0, r), (0, 4 - r))
    v.line((6, r), (6, 4 - r))
    for x, y, start in ((r, r, 180), (6 - r, r, 270), (6 - r, 4 - r, 0), (r, 4 - r, 90)):
        v.arc(x, y, r, start, start + 90)
    for x in (0.625, 5.375):
        for y in (0.625, 3.375):
            v.circle(x, y, 0.2655)
            v.circle(x, y, 0.406)
    v.line((2.0, 1.25), (4.0, 1.25), (4.0, 2.75), (2.0, 2.75), (2.0, 1.25))
    for x in (1.1, 4.9):
        v.circle(x, 2, 0.1)
    v.level(0, 6, -0.55, "6.00", 1, ("x", "left end", "right end", True), at=(r, r))
    v.level(0.625, 5.375, -0.25, "4.75" if not a else "4.70", 6, ("x", "left holes", "right holes", True),
            at=(0.625, 0.625))  # fmt: skip
    v.level(1.1, 4.9, 4.45, "3.80", 18, ("x", "left tapped hole", "right tapped hole", True), at=(2, 2))
    v.upright(0, 4, -0.75, "4.00", 2, ("y", "front", "back", True), at=(r, r))
    v.upright(0.625, 3.375, -0.35, "2.75", 7, ("y", "front holes", "back holes", True), at=(0.625, 0.625))
    v.upright(1.25, 2.75, 4.35, "1.50", 8, ("y", "column front", "column back", False), at=(4, 4))
    if not a:
        v.upright(0, 1.25, 4.35, "1.25", 22, ("y", "front", "column front", False), at=(4.35, 4))
    v.note(5.66, 3.66, 6.5, 3.9, "4X ⌀.531 THRU", "⌴ ⌀.812 ↧.31", balloons=(5, 15))
    v.note(5.85, 3.85, 6.5, 4.45, "4X R.50", balloons=(4,))
    v.note(4.97, 2.07, 6.5, 2.4, "2X 1/4-20 UNC-2B ↧.50", "DRILL ↧.62", balloons=(0, 17))
    # front view
    v = s.view(70, 172)
    v.line((1.935, 0), (6, 0), (6, 0.75), (0, 0.75), (0, 0), (1.56, 0))
    v.line((2.0, 0.75), (2.0, 3.0))
    v.line((4.0, 0.75), (4.0, 3.0))
    v.arc(3, 3.0, 1.0, 0, 180)
    v.circle(3, 3.0, 0.625)
    v.line((1.56, 0.0), (1.56, 0.25), (1.935, 0.25), (1.935, 0.0), width=0.35)
    v.axis((3, 2.2), (3, 4.2))
    v.axis((2.2, 3.0), (3.8, 3.0))
    v.upright(0, 0.75, -0.4, ".75", 3, ("z", "underside", "top", False), at=(0, 0))
    v.upright(0.75, 3.0, 1.35, "2.25", 9, ("z", "top", "bore", False), at=(1.35, 2.2))
    v.upright(0, 3.0, -0.9, "3.02" if a else "(3.00)", 21, ("z", "underside", "bore", False), at=(0, 2.2))
    v.level(1.56, 1.935, -0.6, ".375", 12, ("x", "groove left", "groove right", False), at=(0, 0))
    v.level(0, 1.56, -0.35, "1.56", 14, ("x", "left end", "groove left", False), at=(0, 0))
    v.upright(0, 0.25, 2.35, ".25", 13, ("z", "underside", "groove roof", False), at=(1.935, 1.935))
    v.note(3.44, 3.44, 4.9, 3.95, "⌀1.250 +.001/-.000" if not a else "⌀1.250 +.002/-.000", balloons=(11,))
    v.note(3.87, 3.5, 4.9, 3.45, "R1.00", balloons=(10,))
    v.note(4.05, 0.8, 4.9, 1.4, "R.12", balloons=(19,))
    v.note(5.9, 0.75, 6.6, 1.1, ".03 X 45°", balloons=(20,))
    s.text(290, 257, "BREAK SHARP EDGES .01 MAX")
    s.text(290, 265, "FILLETS & ROUNDS R.06 UNLESS STATED")
    return s


def _profile(v: View, stations: list[tuple[float, float, float]]) -> None:
    """The outline of a turned part from (x0, x1, diameter), both halves, with its axis."""
    for x0, x1, d in stations:
        v.line((x0, -d / 2), (x0, d / 2), (x1, d / 2), (x1, -d / 2), (x0, -d / 2))
    v.axis((stations[0][0] - 6, 0), (stations[-1][1] + 6, 0))


def spindle() -> Sheet:
    rows = (("material", "C45"), ("general tolerance", "ISO 2768-m"), ("scale 1:1", "mm"))
    s = Sheet("Winch spindle", "P-01", rows)
    v = s.view(95, 180)
    _profile(v, [(0, 18, 20), (18, 52, 25), (52, 114, 32), (114, 128, 72), (128, 168, 25), (168, 198, 18)])
    v.line((162, -11.95), (162, 11.95))
    v.line((163.3, -11.95), (163.3, 11.95))
    axis = "the axis"
    v.level(0, 18, -22, "18", 2, (axis, "left end", "end of thread", False), at=(-10, -10))
    v.level(0, 52, -32, "52 ±0.1", 4, (axis, "left end", "end of seat", False), at=(-10, -12.5))
    v.level(0, 114, -42, "114 ±0.2", 6, (axis, "left end", "flange left", False), at=(-10, -36))
    v.level(114, 128, -54, "14 ±0.05", 8, (axis, "flange left", "flange right", False), at=(-36, -36))
    v.level(128, 168, -42, "40", 10, (axis, "flange right", "end of worn seat", False), at=(-36, -12.5))
    v.level(168, 198, -42, "30", 12, (axis, "end of worn seat", "right end", False), at=(-9, -9))
    v.level(0, 162, -64, "162 ±0.1", 20, (axis, "left end", "ring groove", False), at=(-10, -12))
    v.level(0, 198, -74, "(198)", 13, (axis, "left end", "right end", False), at=(-10, -9))
    v.note(9, 10, 4, 34, "M20x1.5-6g x 18", balloons=(1,))
    v.note(35, 12.5, 34, 44, "⌀25 h6", balloons=(3,))
    v.note(80, 16, 72, 34, "⌀32", balloons=(5,))
    v.note(121, 36, 136, 46, "⌀72", balloons=(7,))
    v.note(148, 12.5, 152, 34, "⌀25 h6", balloons=(9,))
    v.note(183, 9, 186, 24, "⌀18 h9", balloons=(11,))
    v.note(162.6, 12, 170, 44, "RING GROOVE 1.3 H13 x ⌀23.9", balloons=(19,))
    v.note(0.7, 9.3, -44, 24, "1.5x45°", balloons=(14,))
    v.note(197.5, 8.5, 206, 14, "1x45°", balloons=(15,))
    v.note(114, 26, 80, 56, "4X ⌀6.6 THRU", "⌴ ⌀11 ↧6.8", "ON ⌀52 BC", balloons=(21,))
    v.note(186, -9, 206, -16, "⌀6 H9 THRU", balloons=(25,))
    v.note(2, 0, -46, 6, "⌀8 ↧22", balloons=(27,))
    return s


def ratchet_wheel() -> Sheet:
    rows = (("material", "42CrMo4"), ("general tolerance", "ISO 2768-m"), ("scale 1:1", "mm"))
    s = Sheet("Ratchet wheel", "P-03", rows)
    v = s.view(130, 160)
    teeth, root, tip = 12, 50.0, 60.0
    points = []
    for n in range(teeth + 1):
        a = math.radians(90 + 360 / teeth * n)
        land = math.radians(5)
        points += [(root * math.cos(a), root * math.sin(a)), (tip * math.cos(a), tip * math.sin(a)),
                   (tip * math.cos(a + land), tip * math.sin(a + land))]  # fmt: skip
    v.line(*points[: 3 * teeth + 1])
    gap = math.degrees(math.asin(4 / 12.5))
    v.arc(0, 0, 12.5, 90 + gap, 450 - gap)
    foot = math.sqrt(12.5**2 - 4**2)
    v.line((-4, foot), (-4, 15.8), (4, 15.8), (4, foot))
    v.axis((-66, 0), (66, 0))
    v.axis((0, -66), (0, 66))
    v.level(-4, 4, 24, "8", 4, ("across the key", "key left", "key right", True), at=(15.8, 15.8))
    v.upright(0, 15.8, -34, "15.8 +0.2/-0", 5, ("up", "bore axis", "key floor", False), at=(-12.5, -4))
    v.note(8.8, -8.8, 74, -40, "⌀25 H7", balloons=(3,))
    v.note(0, 60, 30, 78, "12 TEETH EQ SP")
    v = s.view(270, 160)
    v.line((0, -60), (0, 60), (16, 60), (16, -60), (0, -60))
    for y in (-12.5, 12.5):
        v.line((0, y), (16, y))
    v.axis((-6, 0), (22, 0))
    v.level(0, 16, -72, "16", 2, ("the axis", "left face", "right face", False), at=(-60, -60))
    v.upright(-60, 60, 40, "⌀120", 1, at=(16, 16))
    v.note(15.5, 59.5, 34, 74, "1 X 45°", balloons=(6,))
    return s


def gland_nut() -> Sheet:
    rows = (("material", "CuSn8"), ("general tolerance", "ISO 2768-m"), ("scale 2:1", "mm"))
    s = Sheet("Gland nut", "P-04", rows, scale=2.0)
    v = s.view(100, 170)
    _profile(v, [(0, 14, 53.1), (14, 40, 40)])
    for y in (-12.69, 12.69):
        v.line((0, y), (40, y))
    v.level(0, 14, -34, "14", 2, ("the axis", "left face", "flange", False), at=(-26.5, -26.5))
    v.level(14, 40, -34, "26", 4, ("the axis", "flange", "right face", False), at=(-20, -20))
    v.upright(-12.688, 12.688, -12, "⌀25.376", 5, at=(0, 0))
    v.upright(-20, 20, 54, "⌀40", 3, at=(40, 40))
    v.note(30, 20, 34, 36, "M40x1.5-6g x 22")
    v.note(20, 12.69, 4, 40, "M27x1.5-6H THRU")
    v = s.view(300, 170)
    corners = [(46 / math.sqrt(3) * math.cos(math.radians(60 * n)), 46 / math.sqrt(3) * math.sin(math.radians(60 * n)))
               for n in range(7)]  # fmt: skip
    v.line(*corners)
    v.circle(0, 0, 12.69)
    v.axis((-32, 0), (32, 0))
    v.upright(-23, 23, 36, "46", 1, ("across flats", "lower flat", "upper flat", True), at=(13, 13))
    return s


def crank_hub() -> Sheet:
    rows = (("material", "C45"), ("general tolerance", "ISO 2768-m"), ("scale 2:1", "mm"))
    s = Sheet("Crank hub", "P-05", rows, scale=2.0)
    v = s.view(140, 165)
    _profile(v, [(0, 30, 50), (30, 48, 38)])
    v.line((0, 10), (48, 12))
    v.line((0, -10), (48, -12))
    for x in (12.5, 17.5):
        v.line((x, 25), (x, 10.6), width=0.25)
    v.axis((15, 28), (15, 6))
    axis = "the axis"
    v.level(0, 30, -36, "30", 2, (axis, "left face", "step", False), at=(-25, -25))
    v.level(30, 48, -36, "18", 4, (axis, "step", "right face", False), at=(-19, -19))
    v.level(0, 15, 36, "15", 7, (axis, "left face", "grub screw", False), at=(25, 28))
    v.upright(-25, 25, -26, "⌀50", 1, at=(0, 0))
    v.upright(-19, 19, 70, "⌀38", 3, at=(48, 48))
    v.upright(-12, 12, 60, "⌀24", 5, at=(48, 48))
    v.upright(-10, 10, -14, "⌀20", 6, at=(0, 0))
    v.note(29.7, 24.7, 40, 36, "0.8 X 45°", balloons=(8,))
    v.note(30.9, 19.9, 46, 28, "R3", balloons=(9,))
    v.note(15, 20, 30, 46, "M6 ↧20")
    return s


SHEETS: dict[str, Callable[[], Sheet]] = {
    "winch-spindle": spindle,
    "pedestal-a": lambda: pedestal("A"),
    "pedestal": lambda: pedestal("B"),
    "ratchet-wheel": ratchet_wheel,
    "gland-nut": gland_nut,
    "crank-hub": crank_hub,
}


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    for name, draw in SHEETS.items():
        sheet = draw()
        sheet.pdf(OUT / f"{name}.pdf")
        sheet.dxf(OUT / f"{name}.dxf")
        (OUT / f"{name}.json").write_text(json.dumps(sheet.places(), indent=1) + "\n", "utf-8")


if __name__ == "__main__":
    main()
