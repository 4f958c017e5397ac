"""Closed loops as DXF or SVG at full size: for the laser, the water jet, the scriber."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from pathlib import Path
from xml.etree import ElementTree as xml

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.kernel.loop_figures import Loop
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

#: the day that every file says it was made: the same loops are the same file
JULIAN = 2460000.0
NAMESPACE = "http://www.w3.org/2000/svg"
MARGIN = 2.0
ENDINGS = (".dxf", ".svg")


def write_loops(path: Path, loops: Sequence[Loop], unit: LengthUnit, name: str) -> None:
    """Write by the ending of ``path``. Raises FileError."""
    ending = path.suffix.lower()
    if ending not in ENDINGS:
        raise FileError("the ending is not known", path, hint=f"a file name ending in {' or '.join(ENDINGS)}")
    write_atomic(path, loops_dxf(loops, unit) if ending == ".dxf" else loops_svg(loops, name))


def loops_dxf(loops: Sequence[Loop], unit: LengthUnit) -> bytes:
    """Closed polylines with bulges in model space, in the part's unit."""
    import ezdxf

    doc = ezdxf.new("R2010", units=1 if unit == "in" else 4)
    for tag in ("$TDCREATE", "$TDUPDATE"):
        doc.header[tag] = JULIAN
    one = 1 / MM_PER_INCH if unit == "in" else 1.0
    space = doc.modelspace()
    for loop in loops:
        space.add_lwpolyline([(x * one, y * one, bulge) for x, y, bulge in loop.corners], format="xyb", close=True)
    out = io.StringIO()
    doc.write(out)
    return out.getvalue().encode("utf-8")


def loops_svg(loops: Sequence[Loop], name: str) -> bytes:
    """One path of all loops, even and odd, in mm."""
    xs = [x + way * _reach(loop) for loop in loops for x, _, _ in loop.corners for way in (-1, 1)]
    ys = [y + way * _reach(loop) for loop in loops for _, y, _ in loop.corners for way in (-1, 1)]
    left, high = min(xs) - MARGIN, max(ys) + MARGIN
    wide, tall = max(xs) + MARGIN - left, high - (min(ys) - MARGIN)
    xml.register_namespace("", NAMESPACE)
    root = xml.Element(f"{{{NAMESPACE}}}svg", {
        "width": f"{wide:.4f}mm", "height": f"{tall:.4f}mm", "viewBox": f"0 0 {wide:.4f} {tall:.4f}",
    })  # fmt: skip
    xml.SubElement(root, f"{{{NAMESPACE}}}title").text = name
    d = " ".join(_path(loop, left, high) for loop in loops)
    xml.SubElement(root, f"{{{NAMESPACE}}}path", {
        "d": d, "fill": "none", "fill-rule": "evenodd", "stroke": "#000000", "stroke-width": "0.1",
    })  # fmt: skip
    return bytes(xml.tostring(root, encoding="utf-8", xml_declaration=True))


def _reach(loop: Loop) -> float:
    """No circular piece bulges farther beyond its corners than this."""
    both = zip(loop.corners, (*loop.corners[1:], loop.corners[0]), strict=True)
    return max((abs(a[2]) * math.dist(a[:2], b[:2]) / 2 for a, b in both if a[2]), default=0.0)


def _path(loop: Loop, left: float, high: float) -> str:
    out: list[str] = []
    for (ax, ay, bulge), (bx, by, _) in zip(loop.corners, (*loop.corners[1:], loop.corners[0]), strict=True):
        if not out:
            out.append(f"M{ax - left:.6f} {high - ay:.6f}")
        if bulge:
            t = 4 * math.atan(bulge)
            r = abs(math.hypot(bx - ax, by - ay) / 2 / math.sin(t / 2))
            # y runs downwards: what turns left here turns left on the page with the sweep off
            out.append(f"A{r:.6f} {r:.6f} 0 {int(abs(t) > math.pi)} {int(bulge < 0)} {bx - left:.6f} {high - by:.6f}")
        else:
            out.append(f"L{bx - left:.6f} {high - by:.6f}")
    return "".join(out) + "Z"
